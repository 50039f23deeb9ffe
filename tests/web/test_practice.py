"""A simulated house on its own sheet: probes at every place, time that passes while it is looked at, faults that show,
and nothing of it elsewhere.
"""

from datetime import timedelta

import pytest
from django.core.cache import cache
from django.urls import reverse
from django.utils import timezone

from plant.faults import FAULTS, faults_on
from tests.web.conftest import words
from web.practice import bridge, services
from web.practice.models import Practice
from web.probes.models import Newest, Probe
from web.probes.services import add_gateway
from web.visits.models import Reading

MACHINE = {
    "kind": "air_conditioner", "tons": "3", "efficiency": "mid", "refrigerant": "R-410A", "metering_device": "txv",
    "blower_motor": "psc",
    "unit": "air_handler", "mode": "cooling",
}  # fmt: skip
TURNED = {"running": "on", "outside_f": "91", "outside_rh": "45", "load": "1", "hunting": "0"}


@pytest.fixture
def practice(signed_in):
    cache.clear()
    response = signed_in.post("/practice/", MACHINE)
    assert response.status_code == 302
    return Practice.objects.get()


def ask(client, practice, name, data=None):
    cache.clear()
    return client.post(reverse(f"practice:{name}", args=[practice.visit.public_id]), data or {})


def live(client, practice):
    pairings = client.get(reverse("visits:live", args=[practice.visit.public_id])).json()["pairings"]
    return {(p["place"], c["channel"]): c for p in pairings for c in p["channels"]}


def test_a_house_is_begun_with_a_probe_at_every_place_and_its_panel_on_the_sheet(practice, signed_in):
    page = signed_in.get(practice.visit.get_absolute_url())
    assert reverse("practice:panel", args=[practice.visit.public_id]) in page.content.decode()
    panel = words(signed_in.get(reverse("practice:panel", args=[practice.visit.public_id])))
    assert "nothing here is a real machine" in panel and "Running 20 min." in panel
    assert all(
        fault.label in panel for fault in (FAULTS[id_] for id_ in faults_on("air_conditioner", heating=False))
    ), "every fault can be turned"
    held = {p.place for p in practice.visit.pairings.all()}
    assert {"return_unit", "supply_plenum", "liquid_line_outdoor", "compressor", "filter", "blower"} <= held
    assert practice.visit.system.nominal_tons == 3.0 and practice.visit.system.compressor_rla > 5


def test_time_passes_while_it_is_looked_at_and_not_otherwise(practice, signed_in, django_assert_max_num_queries):
    ask(signed_in, practice, "turn", TURNED)
    Practice.objects.update(advanced_at=timezone.now() - timedelta(seconds=15))
    cache.clear()
    with django_assert_max_num_queries(24):
        answer = signed_in.post(reverse("practice:look", args=[practice.visit.public_id]))
    assert "Running 20 min" in words(answer) and "The coil is wet" in words(answer)
    practice.refresh_from_db()
    assert 1214 < practice.memory["running_s"] < 1240
    Practice.objects.update(advanced_at=timezone.now() - timedelta(hours=3))
    ask(signed_in, practice, "look")
    practice.refresh_from_db()
    assert practice.memory["running_s"] < 1270, "no time passed while nobody looked"
    said = live(signed_in, practice)
    assert said["supply_plenum", "dry_bulb"]["age"] < 5 and ("blower", "airflow") in said


def test_what_is_turned_shows_at_the_places_and_a_hold_is_a_reading(practice, signed_in, ours):
    ask(signed_in, practice, "turn", TURNED)
    assert "Running 40 min" in words(ask(signed_in, practice, "forward", {"minutes": "20"}))
    sound = live(signed_in, practice)
    assert (
        sound["supply_plenum", "dry_bulb"]["state"] == "settled"
        and len(sound["supply_plenum", "dry_bulb"]["trace"]) > 36
    )
    ask(signed_in, practice, "turn", TURNED | {"fault.undercharge": "60"})
    ask(signed_in, practice, "forward", {"minutes": "20"})
    short = live(signed_in, practice)

    def moved(place, channel):
        return float(short[place, channel]["text"]) - float(sound[place, channel]["text"])

    assert (
        moved("supply_plenum", "dry_bulb") > 1.5
        and moved("suction_line_outdoor", "temperature") > 5 > -5 > -moved("liquid_line_outdoor", "temperature") - 8
    )
    clock = Reading.objects.filter(round__visit=practice.visit, quantity="running_time").latest("id")
    assert 59 <= clock.value <= 61, "the visit's clock goes on with the house's"


def test_a_wrong_turn_is_refused_and_a_machine_that_cannot_be_is_said(practice, signed_in):
    assert ask(signed_in, practice, "turn", TURNED | {"outside_f": "400"}).status_code == 400
    assert ask(signed_in, practice, "forward", {"minutes": "600"}).status_code == 400
    wrong = words(signed_in.post("/practice/", MACHINE | {"mode": "heating"}))
    assert "An air conditioner does not heat" in wrong and Practice.objects.count() == 1


@pytest.mark.parametrize(
    ("kind", "mode"), [("heat_pump", "heating"), ("ground_source", "cooling"), ("ground_source", "heating")]
)
def test_every_kind_of_machine_can_be_practised_on(signed_in, kind, mode):
    signed_in.post("/practice/", MACHINE | {"kind": kind, "mode": mode})
    practice = Practice.objects.get()
    ask(signed_in, practice, "turn", TURNED | {"outside_f": "40"} if mode == "heating" else TURNED)
    assert "Running 40 min" in words(ask(signed_in, practice, "forward", {"minutes": "20"}))
    place = ("true_suction", "temperature") if kind == "heat_pump" else ("water_out", "temperature")
    assert place in live(signed_in, practice)
    assert signed_in.get(practice.visit.get_absolute_url()).status_code == 200


def test_practice_stays_out_of_the_shops_work_and_of_other_shops_sight(practice, signed_in, ours, theirs, client):
    for address in ("/", "/houses/", "/houses/?q=practice", "/probes/"):
        page = words(signed_in.get(address))
        assert "Practice, 3 ton" not in page and "Simulated, " not in page, address
    probe = Probe.objects.filter(gateway=practice.gateway).first()
    gateway, _ = add_gateway(ours.person, "Van 1")
    Probe.objects.create(gateway=gateway, name="van-probe")
    assert "van-probe" in signed_in.get(ours.visit.get_absolute_url()).content.decode()
    assert "van-probe" not in signed_in.get(practice.visit.get_absolute_url()).content.decode()
    assert probe.name not in [p.name for p in Probe.objects.filter(gateway=gateway)]
    stolen = {"stop": "return_unit", "place": "return_unit", "probe": str(probe.public_id)}
    assert signed_in.post(reverse("visits:pair", args=[ours.visit.public_id]), stolen).status_code == 404
    client.force_login(theirs.person)
    for name in ("look", "turn", "forward"):
        assert ask(client, practice, name, TURNED).status_code == 404
    assert client.get(reverse("practice:panel", args=[practice.visit.public_id])).status_code == 404
    assert client.get(reverse("practice:panel", args=[ours.visit.public_id])).status_code == 404


def test_a_house_taken_up_again_goes_on_as_it_was(practice, signed_in):
    ask(signed_in, practice, "turn", TURNED | {"fault.blocked_filter": "40", "hunting": "1"})
    ask(signed_in, practice, "forward", {"minutes": "5"})
    practice.refresh_from_db()
    one, other = bridge.Live.recalled(practice.memory), bridge.Live.recalled(practice.memory)
    one.advance(120.0)
    other.advance(60.0)
    again = bridge.Live.recalled(other.remembered())
    again.advance(60.0)
    assert again.values() == pytest.approx(one.values(), abs=0.02)
    assert services.practices_of(practice.begun_by).get() == practice and Newest.objects.exists()


def test_a_house_in_winter_is_tested_in_heating_from_the_first_look(signed_in):
    cache.clear()
    signed_in.post("/practice/", MACHINE | {"kind": "heat_pump", "mode": "heating"})
    practice = Practice.objects.get()
    page = words(signed_in.get(practice.visit.get_absolute_url()))
    assert "Tested in heating." in page and "True suction" in page and "Air leaving the condenser" not in page
