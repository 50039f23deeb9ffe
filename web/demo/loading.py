"""Putting the demo's data in place, through the same services as everything else. Running it again changes nothing."""

import io
import uuid
from datetime import timedelta
from zoneinfo import ZoneInfo

from django.core.files.base import ContentFile
from django.db import transaction
from django.db.models import F, QuerySet
from django.utils import timezone
from PIL import Image, ImageDraw

from web.accounts import services as accounts
from web.accounts.models import Shop, User
from web.demo import charges, data, years
from web.demo.visits import VISITS
from web.demo.weather import PLACE, RIDGE
from web.history.services import add_cylinder, move
from web.history.summaries import summarise, to_summarise
from web.houses import services as houses
from web.houses.models import House, Instrument, System
from web.kinds.services import learn_now
from web.probes.services import add_gateway
from web.visits import changes
from web.visits.bridge import vocabulary
from web.visits.forms import EntryItem
from web.visits.load.gauges import steps_by_round
from web.visits.models import FINISHED, RETURNED, Action, Observation, Reading

DEVICE = uuid.uuid5(uuid.NAMESPACE_URL, "urn:ruddy-draft:demo-device")
UNITS = {
    "dry_bulb": "degF", "wet_bulb": "degF", "dew_point": "degF", "temperature": "degF", "rh": "pct", "airflow": "CFM", "power": "W", "running_time": "min",
    "static_pressure": "inwc", "pressure_drop": "inwc", "water_drop": "psi", "pressure": "psi", "voltage": "V", "current": "A",
}  # fmt: skip
INSTRUMENT_OF = {
    "dry_bulb": "air_probe",
    "rh": "air_probe",
    "temperature": "line_clamp",
    "static_pressure": "manometer",
    "pressure_drop": "manometer",
}
OPEN_STILL_MINUTES = 20 * 60  # visits begun later are under way, or were left open yesterday
BETWEEN_READINGS, BEFORE_A_ROUND = timedelta(seconds=40), timedelta(minutes=18)


@transaction.atomic
def load(password: str, gateway_token: str) -> bool:
    """Load the demo shop; False when it is there already. gateway_token: of the simulated gateway."""
    name, zone = data.SHOP
    if Shop.objects.filter(name=name).exists():
        return False
    shop = Shop.objects.create(name=name, time_zone=zone, altitude_ft=1150, climate="humid", weather_place=PLACE)
    for username, first, last, role in data.PEOPLE:
        User.objects.create_user(username, password=password, first_name=first, last_name=last, role=role, shop=shop)
    people = {person.username: person for person in shop.people.all()}
    lead = people["odile"]
    for username, number in data.CERTIFICATES.items():
        accounts.set_certificate(lead, people[username], number)
    _load_instruments(lead)
    systems = _load_houses(lead)
    loader = _Visits(shop, people, systems)
    for visit in sorted(
        (*VISITS, *years.VISITS, *charges.VISITS), key=lambda row: -row[3]
    ):  # oldest first, as they happened
        loader.load(*visit)
    for house, system, did, words in data.AFTER_CLOSING:
        visit = systems[house, system].visits.filter(ended=FINISHED).latest("started_at")
        if did == RETURNED:
            changes.review_visit(lead, visit, words, again=True)
        else:
            changes.reopen_visit(lead, visit, words)
            loader.finish(lead, visit, timezone.now())
    for house, system, who, ago, text, blocks, due in data.FOLLOW_UPS:
        due_on = None if due is None else timezone.localdate() + timedelta(days=due)
        changes.open_follow_up(
            people[who], systems[house, system], text, blocks, due_on, timezone.now() - timedelta(days=ago)
        )
    add_gateway(lead, "Van 1", gateway_token)
    _load_pictures(people["ines"], systems["Hollow Lane 14", "upstairs"])
    _load_cylinders(people)
    _load_plans(lead, people, systems)
    learn_now(lead)
    while steps := to_summarise(200):
        summarise(*steps)
    return True


def _load_instruments(lead) -> None:
    for label, kind, dry_bulb, rh, line, lowest, highest, calibrated in data.INSTRUMENTS:
        houses.save_instrument(
            lead,
            Instrument(
                label=label,
                kind=kind,
                dry_bulb_accuracy_f=dry_bulb,
                rh_accuracy_pct=rh,
                line_accuracy_f=line,
                lowest_f=lowest,
                highest_f=highest,
                calibrated_on=timezone.localdate() - timedelta(days=calibrated),
            ),
        )


def _load_houses(lead) -> dict[tuple[str, str], System]:
    found = {}
    for name, altitude, climate, customer, access, systems in data.HOUSES:
        place = {"altitude_ft": altitude, "climate": climate, "weather_place": PLACE if altitude < 5000 else RIDGE}
        house = houses.save_house(lead, House(name=name, **place, customer=customer, access_note=access))
        for system_name, model, tap, year in systems:
            plate = data.PLATES[model] | {"indoor_place": data.INDOOR_PLACES.get(system_name, "")}
            system = houses.save_system(
                lead,
                System(
                    house=house, name=system_name, model=model, line=data.line_of(model), tap=tap, year=year, **plate
                ),
            )
            for kind, text in data.TABLES.get(model, {}).items():
                houses.add_table(lead, system, kind, text, "Invented for the demo")
            rooms = data.ROOMS.get((name, system_name), ())
            houses.set_rooms(
                lead,
                system,
                [dict(zip(("name", "diameter_in", "duct", "wants_cfm"), room, strict=True)) for room in rooms],
            )
            found[name, system_name] = system
    return found


def _arrived_when_taken(visit) -> None:
    """The demo's entries of long ago are loaded today: none of them came late."""
    for model in (Reading, Observation, Action):
        QuerySet(model).filter(round__visit=visit).update(received_at=F("taken_at"))


class _Visits:
    """Loads visits one after another, entry by entry, as one device would have sent them."""

    def __init__(self, shop, people: dict, systems: dict):
        self.people, self.systems, self.sequence = people, systems, 0
        self.instruments: dict[str, str] = {}
        for row in shop.instruments.all():
            self.instruments.setdefault(row.kind, str(row.public_id))

    def load(self, house: str, system: str, username: str, minutes_ago: int, rounds: tuple, said: tuple) -> None:
        """One visit with its rounds; said: (about, text) or nothing."""
        person, started = self.people[username], timezone.now() - timedelta(minutes=minutes_ago)
        visit = changes.start_visit(person, self.systems[house, system], at=started)
        round_, at = visit.rounds.get(), started
        for number, (seen, readings, actions) in enumerate(rounds, start=1):
            if number > 1:
                round_ = changes.next_round(person, visit, number - 1, at=at)
                at += BEFORE_A_ROUND if readings else timedelta(0)
            items = self._items(round_, at, seen, readings, actions)
            if number == 1 and said:
                items.append(self._item(round_, at, "remark", about=said[0], text=said[1]))
            changes.store_entries(person, items, timezone.now())
            at += BETWEEN_READINGS * (len(items) + 1)
        if minutes_ago > OPEN_STILL_MINUTES:
            self.finish(person, visit, at + BEFORE_A_ROUND)
        if why := data.BASELINES.get((house, system, minutes_ago)):
            changes.seal(person, visit.rounds.latest("number"), why, at=at + BEFORE_A_ROUND)
        if found := data.OUTCOMES.get((house, system, minutes_ago)):
            number, says = found
            changes.keep_outcome(person, visit.rounds.get(number=number), says, uuid.uuid4())

    def finish(self, person, visit, at) -> None:
        """As visits end; one in ten was not read again after the fix, and a lead has looked at every other."""
        number = visit.pk % 10
        looks = {look.id: "" for look in vocabulary.last_looks(visit.system.kind)}
        why = "Customer had to leave." if changes.fixed_and_not_read(visit) else ""
        if number == 3:
            looks["holes_plugged"] = "No plugs in the van; taped."
        _arrived_when_taken(visit)
        told = data.FOR_CUSTOMER_CHARGED if steps_by_round(visit) else data.FOR_CUSTOMER[number % 3]
        mode, due = vocabulary.next_test(visit.system.kind, at.date())
        changes.finish_visit(person, visit, looks, told, "", why, due, mode, at=at)
        if number % 2 == 0:
            changes.review_visit(self.people["odile"], visit, "Seen.")

    def _items(self, round_, at, seen: str, readings: str, actions: tuple) -> list[EntryItem]:
        items = []
        for pair in seen.split():
            name, degree = pair.split("=")
            items.append(self._item(round_, at, "observation", seen=name, degree=degree))
        for pair in readings.split():
            where, typed = pair.split("=")
            where, _, variant = where.partition("@")
            place, _, quantity = where.rpartition(".")
            at += BETWEEN_READINGS
            items.append(
                self._item(
                    round_,
                    at,
                    "reading",
                    place=place,
                    quantity=quantity,
                    variant=variant,
                    typed=typed,
                    unit=UNITS[quantity],
                    confirmed=True,
                    source="estimate" if variant == "nominal_guess" else "typed",
                    instrument=self.instruments.get(INSTRUMENT_OF.get(quantity, ""), ""),
                )
            )
        for action in actions:
            done, _, to = action.partition(":")
            if done in ("hook_up", "charge_step", "leak_search"):  # 'hook_up:did=on port.low=on', '_' for a space
                says = {name: value.replace("_", " ") for name, value in (pair.split("=") for pair in to.split())}
                items.append(self._item(round_, at, done, says=says))
            else:
                items.append(self._item(round_, at, "action", done=done, text=to))
        return items

    def _item(self, round_, at, kind: str, **what) -> EntryItem:
        self.sequence += 1
        return EntryItem(
            id=str(uuid.uuid4()),
            kind=kind,
            round=str(round_.public_id),
            device=DEVICE,
            sequence=self.sequence,
            taken_at=at,
            **what,
        )


def _load_plans(lead, people: dict, systems: dict[tuple[str, str], System]) -> None:
    with timezone.override(ZoneInfo(lead.shop.time_zone)):
        now = timezone.localtime()
        for house, system, who, days, hour, minutes, mode, why in data.PLANS:
            day = now + timedelta(days=days)
            starts = now + timedelta(minutes=90) if hour is None else day.replace(hour=hour)
            starts = starts.replace(minute=0 if hour else starts.minute // 15 * 15, second=0, microsecond=0)
            changes.plan_visit(lead, systems[house, system], people[who], starts, minutes, why, mode)


def _load_cylinders(people) -> None:
    for label, refrigerant, recovery, tare, holds, who, moves in data.CYLINDERS:
        row = add_cylinder(people[who], label, refrigerant, recovery, tare, holds)
        for did, oz, ago, why in moves:
            move(people[who], row, did, oz, why, timezone.localdate() - timedelta(days=ago))


def _load_pictures(person, system: System) -> None:
    """Drawn stand-ins for photographs: a nameplate and a filter."""
    round_ = system.visits.order_by("-started_at").first().rounds.first()
    for subject, words in (
        ("nameplate", "MAKER A\nAC36\n36 000 BTU/h\nR-410A  118 oz\nRLA 14.7"),
        ("filter", "filter, grey with dust"),
    ):
        picture = Image.new("RGB", (960, 720), "#b9b2a4")
        pen = ImageDraw.Draw(picture)
        pen.rectangle((120, 90, 840, 630), fill="#d9d4c8", outline="#4a4238", width=6)
        pen.multiline_text((170, 150), words, fill="#1d1a17", font_size=64, spacing=18)
        file = io.BytesIO()
        picture.save(file, "JPEG", quality=80)
        changes.add_photo(
            person, uuid.uuid4(), system, round_, subject, ContentFile(file.getvalue(), name=f"{subject}.jpg")
        )
