"""How the pages' time grows with the shop: server time for each page at several sizes of one shop among ten, with the
sign-in page as the reference of the same run, and what of their queries goes through whole tables.

Run: .venv/bin/python -m launch with-test-database -- .venv/bin/python -m benchmarks.fleet [systems ...]

Each system has ten visits over three years, each visit one round of fifteen readings with its stored verdict; the rows
are copies of one real visit, made in the database. Nine other shops share a tenth as many. Default sizes: 200, 2000.
"""

import os
import sys
import tempfile
import time
from statistics import median

import django

os.environ["DJANGO_SETTINGS_MODULE"] = "web.settings.demo"
os.environ["RUDDY_STATE"] = tempfile.mkdtemp()
os.environ["RUDDY_DEMO_PASSWORD"] = os.environ["RUDDY_GATEWAY_TOKEN"] = "for-this-run-only"
django.setup()

from django.core.management import call_command  # noqa: E402
from django.db import connection  # noqa: E402
from django.test import Client  # noqa: E402
from django.test.runner import DiscoverRunner  # noqa: E402
from django.test.utils import CaptureQueriesContext  # noqa: E402

from web.accounts.models import Shop, User  # noqa: E402
from web.accounts.rights import LEAD  # noqa: E402
from web.background import services as background  # noqa: E402
from web.background.steps import run_step  # noqa: E402
from web.houses.models import House, HouseWord, System  # noqa: E402
from web.houses.search import words_of  # noqa: E402
from web.reassess import services as reassess  # noqa: E402
from web.reassess.tasks import AT_ONCE  # noqa: E402
from web.visits.models import Visit  # noqa: E402

VISITS, TIMES, OTHER_SHOPS = 10, 7, 9
STREETS = ("Hollow", "Ferry", "Quay", "Mill", "Orchard", "Ropewalk", "Kiln", "Tanner", "Weir", "Chapel")
WAYS = ("Lane", "Street", "Row", "Hill", "Road")
WHOLE_TABLE_ROWS = 5_000  # an EXPLAIN of more rows, without an index, is named


def main(sizes: list[int]) -> None:
    """Grow the shop from size to size and print each page's time."""
    runner = DiscoverRunner(verbosity=0, interactive=False)
    databases = runner.setup_databases()
    os.environ["RUDDY_DB_NAME"] = str(connection.settings_dict["NAME"])  # for the processes that judge again
    try:
        call_command("load_demo", verbosity=0)
        call_command("collectstatic", interactive=False, verbosity=0)
        like = Visit.objects.filter(system__house__name="Hollow Lane 14", system__name="upstairs").latest("started_at")
        shops = [_shop(number) for number in range(1 + OTHER_SHOPS)]
        times: dict[str, list[float]] = {}
        for size in sizes:
            began = time.perf_counter()
            _grow(shops[0], like, size)
            for shop in shops[1:]:
                _grow(shop, like, size // (10 * OTHER_SHOPS) + 1)
            with connection.cursor() as cursor:
                cursor.execute(
                    "ANALYZE TABLE visits_visit, visits_round, visits_reading, visits_assessment, visits_plannedvisit, history_visitsummary, houses_house, houses_houseword, houses_system"
                )
            visits = Visit.objects.filter(shop=shops[0]).count()
            print(f"{size} systems, {visits} visits made in {time.perf_counter() - began:.0f} s", file=sys.stderr)
            for name, ms in _measured(shops[0]).items():
                times.setdefault(name, []).append(ms)
        _print(sizes, times)
        _print_background(shops[0])
        _print_scans(shops[0])
    finally:
        runner.teardown_databases(databases)


def _shop(number: int) -> Shop:
    shop = Shop.objects.create(name=f"Shop {number}", time_zone="America/Denver")
    User.objects.create_user(f"lead{number}", first_name="Lea", last_name="Dorn", shop=shop, role=LEAD)
    return shop


def _grow(shop: Shop, like: Visit, size: int) -> None:
    """More systems, until the shop has so many, each in a house of its own, with their visits."""
    have = House.objects.filter(shop=shop).count()
    houses = [
        House(shop=shop, name=f"{STREETS[n % 10]} {WAYS[n // 10 % 5]} {n}", altitude_ft=900, customer=f"Customer {n}")
        for n in range(have, size)
    ]
    House.objects.bulk_create(houses, batch_size=2000)
    systems = [
        System(
            house=house, name="main", nominal_tons=3.0, metering_device="txv", refrigerant="R-410A", seer=14,
            model=f"Maker Z {n % 7}", serial=f"W{n:08d}",
        )
        for n, house in enumerate(houses, start=have)
    ]  # fmt: skip
    System.objects.bulk_create(systems, batch_size=2000)
    words = [
        HouseWord(shop=shop, house=system.house, word=word)
        for system in systems
        for word in words_of(system.house, [system])
    ]
    HouseWord.objects.bulk_create(words, batch_size=5000)
    if systems:
        _visits(shop, like, systems[0].pk)


def _visits(shop: Shop, like: Visit, first_system: int) -> None:
    """Visits to the systems from this one on, as copies of one visit's first round."""
    round_, person = like.rounds.get(number=1), User.objects.get(shop=shop, role=LEAD)
    told = round_.assessments.order_by("-id").first()
    of_new = "FROM visits_visit v JOIN visits_round r ON r.visit_id = v.id WHERE v.shop_id = %s AND v.system_id >= %s"
    copied = "person_id, device, sequence, taken_at, clock_offset_ms, received_at, supersedes, shop_id, uuid, round_id"
    with connection.cursor() as cursor:
        cursor.execute(
            "INSERT INTO visits_visit (shop_id, public_id, system_id, started_by_id, with_person_id, started_at, ended,"
            " is_practice, next_mode, next_due) SELECT %s, UUID(), s.id, %s, %s, NOW(6) - INTERVAL (n.seq * 110 + s.id %% 100) DAY,"
            f" 'finished', 0, 'cooling', IF(n.seq = 1, CURDATE() + INTERVAL (s.id %% 365 - 120) DAY, NULL) FROM houses_system s JOIN houses_house h ON h.id = s.house_id JOIN seq_1_to_{VISITS} n"
            " WHERE h.shop_id = %s AND s.id >= %s",
            [shop.pk, person.pk, person.pk, shop.pk, first_system],
        )
        cursor.execute(
            "INSERT INTO visits_round (public_id, visit_id, number, started_at, machine) SELECT UUID(), v.id, 1,"
            " v.started_at, 1 FROM visits_visit v WHERE v.shop_id = %s AND v.system_id >= %s",
            [shop.pk, first_system],
        )
        for table in ("visits_reading", "visits_observation"):
            own = _own_columns(cursor, table, copied)
            cursor.execute(
                f"INSERT INTO {table} ({copied}, {own}) SELECT {person.pk}, t.device, t.sequence, v.started_at,"
                f" 0, v.started_at, NULL, v.shop_id, UUID(), r.id, {', '.join(f't.{name}' for name in own.split(', '))}"
                f" FROM visits_visit v JOIN visits_round r ON r.visit_id = v.id"
                f" JOIN {table} t ON t.round_id = {round_.pk} WHERE v.shop_id = %s AND v.system_id >= %s",
                [shop.pk, first_system],
            )
        cursor.execute(
            "INSERT INTO visits_closing (shop_id, public_id, visit_id, round_id, did, person_id, at, for_customer, for_shop,"
            " looks, no_recheck_why, next_mode, next_due, pictures) SELECT %s, UUID(), v.id, r.id, 'finished', %s, v.started_at, '',"
            f" '', '{{}}', '', 'cooling', DATE(v.started_at + INTERVAL 1 YEAR), '[]' {of_new}",
            [shop.pk, person.pk, shop.pk, first_system],
        )
        cursor.execute(
            "INSERT INTO visits_assessment (round_id, created_at, engine_version, rules_version, kind, state, headline,"
            f" entries, result) SELECT r.id, v.started_at, %s, %s, %s, %s, %s, '[]', t.result {of_new.replace(' WHERE', f' JOIN visits_assessment t ON t.id = {told.pk} WHERE')}",
            [told.engine_version, told.rules_version, told.kind, told.state, told.headline, shop.pk, first_system],
        )
        cursor.execute(
            "INSERT INTO history_visitsummary (visit_id, shop_id, system_id, person_id, closing_id, machine, finished, started_at, is_last, state,"
            " `group`, headline, fixed, hooked, without_gauges, calls_back, drifts, filter_due, filter_why)"
            " SELECT v.id, v.shop_id, v.system_id, v.with_person_id, c.id, 1, 1, v.started_at, IF(v.next_due IS NULL, NULL, 1), %s, '', %s,"
            " v.id %% 3 = 0, v.id %% 20 = 0, IF(v.id %% 60 = 0, 'Low on charge.', ''), v.id %% 50 = 0, IF(v.system_id %% 9 = 0, 'The filter is loading.', ''),"
            " IF(v.next_due IS NULL OR v.system_id %% 4, NULL, v.next_due - INTERVAL 60 DAY), ''"
            " FROM visits_visit v JOIN visits_closing c ON c.visit_id = v.id WHERE v.shop_id = %s AND v.system_id >= %s",
            [told.state, told.headline, shop.pk, first_system],
        )
        cursor.execute(
            "INSERT INTO visits_plannedvisit (shop_id, public_id, system_id, person_id, starts_at, minutes, mode, why, made_by_id, changed_at,"
            " revision, called_off_why) SELECT %s, UUID(), s.id, %s, NOW(6) + INTERVAL s.id DIV 20 %% 40 DAY, 60, 'cooling', 'Maintenance', %s, NOW(6), 0, ''"
            " FROM houses_system s JOIN houses_house h ON h.id = s.house_id WHERE h.shop_id = %s AND s.id >= %s AND s.id %% 20 = 0",
            [shop.pk, person.pk, person.pk, shop.pk, first_system],
        )


def _own_columns(cursor, table: str, shared: str) -> str:
    """The columns of a table of entries beside those that every entry has."""
    cursor.execute(f"SHOW COLUMNS FROM {table}")
    known = {"id", *shared.split(", "), "instrument_id", "probe_id"}
    return ", ".join(f"`{name}`" for name, *_ in cursor.fetchall() if name not in known)


def _pages(shop: Shop) -> dict[str, str]:
    visit = Visit.objects.filter(shop=shop).latest("started_at", "pk")
    of = visit.system
    return {
        "sign-in (reference)": "/sign-in/", "today": "/", "houses": "/houses/", "found by street": "/houses/?q=ferry+row",
        "found by serial": "/houses/?q=0007", "a house": f"/houses/{of.house.public_id}/",
        "visits of a system": f"/visits/of/{of.public_id}/", "instruments": "/houses/instruments/",
        "house rules": "/house-rules/", "what if": "/visits/what-if/",
        "a rule on the last ten": "/visits/what-if/past/?rule=settle_minutes&value=10.0",
        "judging again": "/judging-again/", "background work": "/background/", "sheet": visit.get_absolute_url(),
        "over the years": f"/history/{of.public_id}/", "were verdicts right": "/history/was-it-right/",
        "due": "/history/due/", "the lead's page": "/history/lead/", "a list of it": "/history/lead/visits/?what=finished&days=365", "refrigerant": "/history/refrigerant/", "what sound machines do": "/known-kinds/",
    }  # fmt: skip


def _client(shop: Shop) -> Client:
    client = Client(HTTP_HOST="localhost")
    client.force_login(User.objects.get(shop=shop, role=LEAD), "web.accounts.backends.PersonBackend")
    return client


def _measured(shop: Shop) -> dict[str, float]:
    """Server time of each page [ms], the median of several."""
    client, found = _client(shop), {}
    for name, address in _pages(shop).items():
        taken = []
        for _ in range(TIMES):
            began = time.perf_counter()
            response = client.get(address)
            taken.append(1000 * (time.perf_counter() - began))
            if response.status_code not in (200, 302):
                raise SystemExit(f"{address} answered {response.status_code}")
        found[name] = median(taken)
    return found


def _print(sizes: list[int], times: dict[str, list[float]]) -> None:
    reference = times["sign-in (reference)"]
    print("ms of server time, median of", TIMES, "(times the reference)")
    print(f"{'systems':28}" + "".join(f"{size:>20}" for size in sizes))
    for name, taken in times.items():
        cells = (f"{ms:8.1f} ({ms / ref:5.1f} x)" for ms, ref in zip(taken, reference, strict=True))
        print(f"{name:28}" + "".join(f"{cell:>20}" for cell in cells))


def _print_background(shop: Shop) -> None:
    """How long judging again takes for each round, its reading and keeping included, and what thinning leaves."""
    lead = User.objects.get(shop=shop, role=LEAD)
    for name, wants in (("today's engine", {}), ("a rule tried", {"rule": "settle_minutes", "value": "10.0"})):
        work = reassess.start(lead, **wants)
        run_step(work.pk)  # the first also counts them all, and starts the processes
        began, steps = time.perf_counter(), 5
        for _ in range(steps):
            run_step(work.pk)
        each = 1000 * (time.perf_counter() - began) / (steps * AT_ONCE)
        print(f"judging again, {name}: {each:.1f} ms a round, 100,000 in {100 * each / 60:.1f} min on all cores")
        background.stop(lead, work)
    with connection.cursor() as cursor:
        cursor.execute("SELECT AVG(LENGTH(result)) FROM visits_assessment")
        (whole,) = cursor.fetchone()
        cursor.execute(
            "SELECT AVG(LENGTH(probabilities) + LENGTH(quantities) + LENGTH(says) + LENGTH(was_says)) FROM reassess_rejudged"
        )
        (narrow,) = cursor.fetchone()
    print(f"an assessment as stored: {whole / 1000:.1f} kB; a round judged again: {float(narrow) + 120:.0f} B")


def _print_scans(shop: Shop) -> None:
    """Queries that go through a whole table or index, by EXPLAIN."""
    client = _client(shop)
    print("Queries that read thousands of rows without an index to choose them:")
    for name, address in _pages(shop).items():
        with CaptureQueriesContext(connection) as captured:
            client.get(address)
        for query in captured.captured_queries:
            if not query["sql"].startswith("SELECT"):
                continue
            with connection.cursor() as cursor:
                cursor.execute("EXPLAIN " + query["sql"].replace("%", "%%"), [])
                for row in cursor.fetchall():
                    kind, rows = row[3], int(str(row[8] or 0).split()[0])
                    if kind in ("ALL", "index") and rows > WHOLE_TABLE_ROWS:
                        print(f"  {name}: {row[2]}, {kind}, {rows} rows: {query['sql'][:160]}")


if __name__ == "__main__":
    main([int(size) for size in sys.argv[1:]] or [200, 2000])
