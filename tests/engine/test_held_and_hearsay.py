"""What a reading is worth by how it came: by a weather service, held while still moving, held of a swing."""

from dataclasses import replace

import psychrolib
import pytest

from engine.assessment import assess
from engine.readings.round import WEATHER_SERVICE, Reading
from engine.report.finding_words import said
from engine.report.words import FAHRENHEIT
from engine.validity.conditions import failed_conditions
from tests.engine.rounds import round_

psychrolib.SetUnitSystem(psychrolib.IP)


def held(found, **how):
    """The same round with its air pair and outdoor air as given."""
    return replace(found, readings=tuple(replace(r, **how) if r.quantity == "dry_bulb" else r for r in found.readings))


@pytest.mark.parametrize("altitude", [-200.0, 0.0, 1150.0, 6200.0])
@pytest.mark.parametrize("at_sea_level", [29.2, 29.921, 30.6])
def test_air_pressure_by_the_service_is_the_pressure_at_the_house(altitude, at_sea_level):
    """PsychroLib's station pressure from sea-level pressure (its equation of the US Standard Atmosphere), within 0.1 %
    and what 15 °F of air is.
    """
    there = round_(altitude_ft=altitude)
    there = replace(there, readings=(*there.readings, Reading("outdoor", "sea_level_pressure", at_sea_level)))
    standard_air = 59.0 - 0.00356616 * altitude
    assert there.pressure_psia == pytest.approx(
        psychrolib.GetStationPressure(at_sea_level * 0.491154, altitude, standard_air), rel=1.5e-3
    )


def test_the_services_outdoor_air_is_known_the_less_and_its_pressure_the_better():
    read, pressed = round_(), Reading("outdoor", "sea_level_pressure", 29.92)
    told = replace(
        read, readings=tuple(replace(r, source=WEATHER_SERVICE) if r.place == "outdoor" else r for r in read.readings)
    )
    here, there = assess(read), assess(told)
    off = "total_minus_expected_btuh"
    wider = (there.table.expected[off].u95 ** 2 - here.table.expected[off].u95 ** 2) ** 0.5
    assert 300 < wider < 1000, "3.9 °F more doubt outdoors, at about a third of a percent of three tons a degree"
    assert there.measured["total_btuh"].u95 == pytest.approx(here.measured["total_btuh"].u95), (
        "what was measured inside does not rest on it"
    )
    known = assess(replace(read, readings=(*read.readings, pressed)))
    assert known.measured["total_btuh"].u95 < here.measured["total_btuh"].u95


@pytest.mark.parametrize(
    ("minutes", "steady", "withheld"),
    [
        (4.0, "settled", False), (None, "settled", False), (4.0, "swinging", False), (4.0, "", True), (40.0, "not yet", True), (40.0, "", False),
    ],
)  # fmt: skip
def test_a_pair_seen_to_stand_still_beats_the_clock_and_one_seen_moving_too(minutes, steady, withheld):
    assert (
        any(
            f.id in ("not_settled", "running_not_entered", "still_moving")
            for f in failed_conditions(held(round_(minutes=minutes), steady=steady))
        )
        == withheld
    )


def test_a_line_read_by_hand_beside_a_watched_pair_still_wants_the_clock():
    watched = held(round_(minutes=4.0), steady="settled")
    by_hand = replace(watched, readings=(*watched.readings, Reading("liquid_line_outdoor", "temperature", 98.0)))
    assert [f.id for f in failed_conditions(by_hand)] == ["not_settled"]


def test_a_swing_widens_its_reading_and_is_said():
    still, found = round_(), round_()
    swung = tuple(replace(r, steady="swinging", swing=4.0) if r.place == "supply_plenum" else r for r in found.readings)
    swinging = replace(found, readings=swung)
    assert assess(swinging).measured["split_f"].u95 > assess(still).measured["split_f"].u95
    says = [said(f, FAHRENHEIT).message for f in assess(swinging).findings if f.id == "swings"]
    assert says[0].startswith("Supply plenum swings by 4.0 °F")


@pytest.mark.parametrize("altitude", [-300.0, 0.0, 20.0])
def test_a_high_barometer_by_the_sea_is_worked_out(altitude):
    """30.4 in. Hg at sea level is fair weather in winter: the pressure is a value of its own, no altitude under the
    sea.
    """
    read = replace(
        round_(altitude_ft=altitude), readings=(*round_().readings, Reading("outdoor", "sea_level_pressure", 30.4))
    )
    assert assess(read).measured["total_btuh"].known and read.pressure_psia > 14.696
