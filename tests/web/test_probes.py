"""The gateway's one way in: token, per-sample answers, idempotence, clock, limits; and who sees what it heard."""

import json
from datetime import timedelta
from math import sin

import pytest
from django.urls import reverse
from django.utils import timezone

from plant.gateway import FLAT_PROBE, PROBES, Radio, main
from plant.live import Live
from plant.machine import Spec
from plant.places import Weather
from tests.web.conftest import words
from web.accounts.limits import Limit
from web.accounts.models import Tally, User
from web.accounts.rights import LEAD
from web.houses.weather import weather_for
from web.probes import services
from web.probes.models import Gateway, Mean, Newest, Probe, Sample
from web.visits.changes import start_visit
from web.visits.models import Reading

ADDRESS = "/probes/samples/"


class Van:
    """A gateway sending to us."""

    def __init__(self, client, token):
        self.client, self.token, self.sequence = client, token, 0

    def sample(self, value=76.4, **more):
        self.sequence += 1
        now = timezone.now().isoformat()
        return {
            "probe": "air-1",
            "channel": "dry_bulb",
            "value": value,
            "unit": "degF",
            "taken_at": now,
            "sequence": self.sequence,
        } | more

    def post(self, *samples, clock=None, token=None):
        body = json.dumps({"clock": (clock or timezone.now()).isoformat(), "samples": list(samples)})
        return self.client.post(
            ADDRESS, body, content_type="application/json", headers={"authorization": f"Bearer {token or self.token}"}
        )

    def send(self, *samples, **more):
        response = self.post(*samples, **more)
        assert response.status_code == 200, response.content
        return response.json()["results"]


@pytest.fixture
def van(client, ours):
    return Van(client, services.add_gateway(ours.person, "Van 1")[1])


def test_samples_are_stored_in_the_engines_unit_as_they_came_and_once(van, ours):
    first, second = van.sample(24.0, unit="degC", battery=80, signal=-70), van.sample(52.0, channel="rh", unit="pct")
    assert [a["status"] for a in van.send(first, second)] == ["stored", "stored"]
    assert [a["status"] for a in van.send(first, second, van.sample())] == ["duplicate", "duplicate", "stored"]
    assert van.send(first, first)[1]["status"] == "duplicate"
    row = Sample.objects.get(sequence=1)
    assert (row.raw, row.unit, row.value) == (24.0, "degC", pytest.approx(75.2))
    probe = Probe.objects.get()
    assert (probe.name, probe.battery_pct, probe.signal_dbm) == (
        "air-1",
        80.0,
        -70.0,
    ) and probe.gateway.shop == ours.shop


@pytest.mark.parametrize(("wrong", "message"), [
    ({"channel": "mood"}, "no channel"), ({"value": "warm"}, "must be a number"),
    ({"value": 400.0}, "Dry bulb is from"), ({"unit": "furlong"}, "furlong"),
    ({"sequence": -1}, "whole number"), ({"sequence": True}, "whole number"), ({"taken_at": "soon"}, "ISO 8601"),
    ({"probe": ""}, "probe must be text"),
    ({"battery": 900}, "battery must be from"), ({"taken_at": "2020-01-01T00:00:00Z"}, "more than a day old"),
    ({"value": float("nan")}, "no number"),
])  # fmt: skip
def test_what_is_wrong_with_a_sample_is_said_and_the_others_are_stored(van, wrong, message):
    answers = van.send(van.sample(), van.sample(**wrong), van.sample())
    assert [a["status"] for a in answers] == ["stored", "refused", "stored"] and message in answers[1]["message"]
    assert Sample.objects.count() == 2


def test_a_clock_that_is_off_is_measured_and_its_times_corrected(van):
    slow = timezone.now() - timedelta(hours=3)
    van.send(van.sample(taken_at=(slow - timedelta(seconds=5)).isoformat()), clock=slow)
    assert timezone.now() - Sample.objects.get().taken_at == pytest.approx(
        timedelta(seconds=5), abs=timedelta(seconds=2)
    )
    assert Gateway.objects.get().clock_offset_ms == pytest.approx(3 * 3_600_000, abs=2000)


def test_a_late_sample_never_takes_the_place_of_a_newer_one(van):
    early, late = van.sample(70.0), van.sample(76.4)
    early["taken_at"] = (timezone.now() - timedelta(seconds=90)).isoformat()
    van.send(late)
    van.send(early)
    assert Newest.objects.get().value == 76.4 and Sample.objects.count() == 2


def test_only_a_known_token_that_was_not_taken_back_is_heard(van, signed_in, ours, theirs):
    assert van.post(van.sample(), token="guess").status_code == 401
    assert signed_in.post(ADDRESS, "{}", content_type="application/json").status_code == 401, "a session is no token"
    gateway = Gateway.objects.get()
    assert van.token not in gateway.token_hash
    revoke = reverse("probes:revoke", args=[gateway.public_id])
    assert signed_in.post(revoke).status_code == 403, "the lead's"
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    signed_in.post(revoke)
    assert van.post(van.sample()).status_code == 401 and Sample.objects.count() == 0


def test_limits(van, monkeypatch):
    assert van.post(*[van.sample()] * 501).status_code == 400
    assert van.client.post(
        ADDRESS, "x" * 300_000, content_type="application/json", headers={"authorization": f"Bearer {van.token}"}
    ).status_code in (400, 413)
    assert [a["status"] for a in van.send(*[van.sample(probe=f"p{n}") for n in range(42)])].count("refused") == 2
    monkeypatch.setattr(services, "BATCHES", Limit("few", 1, timedelta(seconds=10)))
    assert [van.post(van.sample()).status_code for _ in range(3)].count(429) >= 1
    assert van.post(van.sample()).headers.get("Retry-After") in ("9", "10", "11")


def test_a_batch_takes_a_handful_of_queries_however_many_samples(van, django_assert_max_num_queries):
    van.send(*[van.sample(probe=f"p{n}") for n in range(20)])
    with django_assert_max_num_queries(14):
        van.send(*[van.sample(probe=f"p{n % 20}") for n in range(400)])


def test_people_of_the_shop_see_what_is_heard_and_nobody_else(
    van, signed_in, ours, theirs, django_assert_max_num_queries
):
    van.send(van.sample(battery=4), van.sample(0.41, channel="static_pressure", unit="inwc", probe="mano"))
    page = words(signed_in.get("/probes/"))
    assert "Van 1" in page and "76.4 °F dry bulb, 0 s ago" in page and "nearly flat" in page and "0.41 in. w.c." in page
    with django_assert_max_num_queries(4):
        signed_in.get("/probes/heard/")
    added = signed_in.post("/probes/", {"name": "Van 2"})
    assert "Token:" in words(added) and "Token:" not in words(signed_in.get("/probes/"))
    assert "Call it something" in words(signed_in.post("/probes/", {"name": ""}))
    User.objects.filter(pk=theirs.person.pk).update(role=LEAD)
    signed_in.force_login(theirs.person)
    assert "Van 1" not in words(signed_in.get("/probes/"))
    assert (
        signed_in.post(reverse("probes:revoke", args=[Gateway.objects.get(name="Van 1").public_id])).status_code == 404
    )


def test_after_a_day_samples_become_ten_second_means_in_steps(van):
    van.send(*[van.sample(float(70 + n)) for n in range(4)])
    start = timezone.now().replace(second=0, microsecond=0) - timedelta(hours=25)
    for n, row in enumerate(Sample.objects.order_by("sequence")):
        Sample.objects.filter(pk=row.pk).update(taken_at=start + timedelta(seconds=4 * n))
    van.send(van.sample(99.0))
    assert [services.thin(most=3), services.thin(most=3), services.thin(most=3)] == [3, 1, 0]
    assert [(mean.value, mean.count) for mean in Mean.objects.order_by("starts_at")] == [(71.0, 3), (73.0, 1)]
    assert Sample.objects.get().value == 99.0


def test_the_simulated_gateway_speaks_the_same_interface_with_all_that_goes_wrong(van, capsys, monkeypatch):
    live = Live(Spec(), Weather(), {})
    live.start()
    radio, sent, answers = Radio(live, seed=3), 0, []
    for _ in range(150):
        live.advance(1.0)
        Tally.objects.all().delete()
        for batch in radio.on_its_way(radio.second(timezone.now())):
            sent += 1
            answers += van.send(*batch) if batch else []
    statuses = [a["status"] for a in answers]
    assert set(statuses) == {"stored", "duplicate"}, [a for a in answers if a["status"] == "refused"][:3]
    assert set(Probe.objects.values_list("name", flat=True)) == set(PROBES)
    counts = [Sample.objects.filter(probe__name=name, channel=PROBES[name][0][0]).count() for name in PROBES]
    assert max(counts) > 120 and min(counts) < 149, "drop-outs"
    assert radio.battery_pct(FLAT_PROBE) < 16.0
    monkeypatch.delenv("RUDDY_GATEWAY_TOKEN", raising=False)
    assert main(["--url", "http://127.0.0.1:9/"]) == 2 and "not set" in capsys.readouterr().err


# -- on a sheet --------------------------------------------------------------------------------------------------------


@pytest.fixture
def held(van, signed_in, ours):
    """A probe held to the return at the unit, with half a minute of samples."""
    now = timezone.now()
    van.send(*[van.sample(76.3 + 0.01 * n, taken_at=(now - timedelta(seconds=30 - n)).isoformat()) for n in range(30)])
    probe = Probe.objects.get()
    pairing = {"stop": "return_unit", "place": "return_unit", "probe": str(probe.public_id)}
    assert signed_in.post(reverse("visits:pair", args=[ours.visit.public_id]), pairing).json() == {"paired": True}
    return probe


def live(client, visit):
    return client.get(reverse("visits:live", args=[visit.public_id])).json()["pairings"]


def test_a_held_probe_says_its_value_age_trace_and_whether_it_is_steady(
    held, van, signed_in, ours, django_assert_max_num_queries
):
    (pairing,) = live(signed_in, ours.visit)
    (channel,) = pairing["channels"]
    assert (pairing["name"], channel["text"], channel["unit"], channel["state"]) == (
        "air-1",
        "76.6",
        "degF",
        "too short",
    )
    assert channel["age"] < 5 and 3 <= len(channel["trace"]) <= 4
    with django_assert_max_num_queries(4):  # session and person, pairings, newest
        live(signed_in, ours.visit)
    start = timezone.now() - timedelta(minutes=7)
    steady = [
        van.sample(70.0, probe="calm", taken_at=(start + timedelta(seconds=s)).isoformat()) for s in range(0, 420, 5)
    ]
    van.send(*steady)
    calm = Probe.objects.get(name="calm")
    signed_in.post(
        reverse("visits:pair", args=[ours.visit.public_id]),
        {"stop": "attic", "place": "attic", "probe": str(calm.public_id)},
    )
    assert [c["state"] for p in live(signed_in, ours.visit) if p["name"] == "calm" for c in p["channels"]] == [
        "settled"
    ]


def test_a_hold_is_a_reading_from_the_probe_and_its_samples_stay(held, device, ours):
    item = device.item("return_unit", "dry_bulb", "76.6", source="probe", probe=str(held.public_id))
    assert device.send(item, item)[0]["status"] == "stored"
    row = Reading.objects.get()
    assert (row.source, row.probe, row.value) == ("probe", held, 76.6)
    Sample.objects.update(taken_at=timezone.now() - timedelta(hours=30))
    services.thin()
    assert 20 < Sample.objects.filter(held=True).count() == Sample.objects.count()


@pytest.mark.parametrize("wrong", [{"value": "71.0"}, {"probe": "no-probe"}, {"place": "supply_plenum"}, {"probe": ""}])
def test_what_the_probe_did_not_show_there_is_not_taken_for_its_reading(held, device, wrong):
    item = device.item("return_unit", "dry_bulb", "76.6", source="probe", probe=str(held.public_id)) | wrong
    answer = device.send(item)[0]
    assert answer["status"] == "refused" and "did not show" in answer["message"] and not Reading.objects.exists()


def test_a_probe_shows_on_one_sheet_only_and_another_shops_probe_on_none(held, signed_in, ours, theirs):
    second = start_visit(ours.person, ours.system)
    pairing = {"stop": "supply_plenum", "place": "supply_plenum", "probe": str(held.public_id)}
    signed_in.post(reverse("visits:pair", args=[second.public_id]), pairing)
    assert live(signed_in, ours.visit) == [] and live(signed_in, second)[0]["name"] == "air-1"
    signed_in.post(reverse("visits:pair", args=[second.public_id]), pairing | {"probe": ""})
    assert live(signed_in, second) == []
    gateway, _ = services.add_gateway(theirs.person, "Their van")
    stranger = Probe.objects.create(gateway=gateway, name="x")
    assert (
        signed_in.post(
            reverse("visits:pair", args=[second.public_id]), pairing | {"probe": str(stranger.public_id)}
        ).status_code
        == 404
    )
    assert signed_in.post(reverse("visits:pair", args=[second.public_id]), {"probe": "junk"}).status_code == 400


# -- how steady a held reading was, and the weather service ------------------------------------------------------------


@pytest.mark.parametrize(
    ("shape", "steady", "held_value"),
    [
        (lambda s: 70.0, "settled", "70.0"),
        (lambda s: 70.0 + 3.0 * sin(s / 15.0), "swinging", "70.0"),
        (lambda s: 60.0 + s / 42.0, "not yet", "70.0"),
    ],
)
def test_a_held_reading_keeps_how_it_stood_and_of_a_swing_the_mean(
    van, device, signed_in, ours, shape, steady, held_value
):
    start = timezone.now() - timedelta(seconds=420)
    van.send(
        *[van.sample(round(shape(s), 3), taken_at=(start + timedelta(seconds=s)).isoformat()) for s in range(0, 421, 4)]
    )
    probe = Probe.objects.get()
    signed_in.post(
        reverse("visits:pair", args=[ours.visit.public_id]),
        {"stop": "return_unit", "place": "return_unit", "probe": str(probe.public_id)},
    )
    (channel,) = live(signed_in, ours.visit)[0]["channels"]
    assert channel["state"] == steady and abs(float(channel["hold"]) - float(held_value)) < 0.6
    item = device.item("return_unit", "dry_bulb", channel["hold"], source="probe", probe=str(probe.public_id))
    assert device.send(item)[0]["status"] == "stored"
    row = Reading.objects.get()
    assert row.steady == steady and (3.0 < row.swing < 6.5) == (steady == "swinging")
    kept = Sample.objects.filter(held=True).count()
    assert kept > 95 if steady == "swinging" else kept in (10, 11), "of a swing all that was watched, else 40 seconds"


def test_the_weather_services_word_is_offered_taken_as_that_and_not_made_up(device, signed_in, ours, weather):
    page = words(signed_in.get(ours.visit.get_absolute_url()))
    assert "Weather service, Rivermouth field" in page and "A stand-in: within 4.0 °" in page
    said = weather_for(ours.house)
    air, pressure = (str(said.value_of(quantity)) for quantity in ("dry_bulb", "sea_level_pressure"))
    taken = [
        device.item("outdoor", "dry_bulb", air, source="weather", instrument=""),
        device.item("outdoor", "sea_level_pressure", pressure, "inHg", source="weather"),
        device.item("outdoor", "dry_bulb", str(float(air) + 3), source="weather", instrument=""),
        device.item("return_unit", "dry_bulb", air, source="weather", instrument=""),
    ]
    assert [a["status"] for a in device.send(*taken)] == ["stored", "stored", "refused", "refused"]
    page = words(signed_in.get(ours.visit.get_absolute_url()))
    assert page.count("By the weather service") == 2
    ours.house.is_practice = True
    assert weather_for(ours.house) is None


def test_a_probes_name_that_no_table_could_hold_is_refused_and_the_rest_is_kept(van):
    answers = van.send(van.sample(probe="\ud83d"), van.sample(probe="\u200b"), van.sample())
    assert [answer["status"] for answer in answers][:2] == ["refused"] * 2 and answers[2]["status"] == "stored"
