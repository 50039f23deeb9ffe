"""One voice, whatever was read: simulated visits with readings dropped and looks added, and rounds of anything that can
be typed.
"""

from dataclasses import replace
from random import Random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from engine.assessment import assess, assess_many, table_of
from engine.errors import EngineError
from engine.physics.airflow.methods import METHODS
from engine.readings.observations import OBSERVATIONS, SIGHTS
from engine.readings.round import Equipment, Instrument, NotPossible, Reading, Round
from engine.readings.vocabulary import KINDS, QUANTITIES, QUANTITIES_AT
from engine.readings.walk import NOT_POSSIBLE
from engine.report.bundle.reading import visit_of
from engine.report.charts.blower import blower_chart
from engine.report.charts.ledger import ledger_chart
from engine.report.charts.psychrometric import chart_of
from engine.report.marks import expected_supply_humidity
from engine.report.words import Words
from plant.simulate import bundle
from tests.engine.invariants import broken

CELSIUS = Words("C")
WHERE = [(place, quantity) for place, quantities in QUANTITIES_AT.items() for quantity in quantities]


@st.composite
def rounds(draw):
    """A round of a few dozen readings anywhere within what can be typed."""
    readings = []
    for place, quantity in draw(st.lists(st.sampled_from(WHERE), max_size=30, unique=True)):
        what = QUANTITIES[quantity]
        method = draw(st.sampled_from(sorted(METHODS))) if quantity == "airflow" else None
        leg = draw(st.sampled_from([None, "1", "2"])) if quantity in ("voltage", "current", "velocity") else None
        value = draw(st.floats(what.low, what.high))
        readings.append(Reading(place, quantity, value, draw(st.sampled_from([None, "probe"])), method=method, leg=leg))
    seen = {
        name: draw(st.sampled_from(sorted(OBSERVATIONS[name])))
        for name in draw(st.lists(st.sampled_from(sorted(OBSERVATIONS)), max_size=6, unique=True))
    }
    plate = Equipment(
        draw(st.floats(1.0, 6.0)),
        draw(st.sampled_from(KINDS)),
        draw(st.sampled_from(["txv", "fixed_orifice", "unknown"])),
        draw(st.sampled_from(["psc", "constant_torque", "constant_airflow", "unknown"])),
        refrigerant=draw(st.sampled_from(["", "R-410A", "R-22"])),
        seer=draw(st.sampled_from([None, 6.0, 14.0, 25.0])),
        unit=draw(st.sampled_from(["air_handler", "furnace_with_cased_coil"])),
    )
    mode = draw(st.sampled_from(["cooling", "cooling", "heating"]))
    places = draw(st.lists(st.sampled_from(sorted(QUANTITIES_AT)), max_size=3, unique=True))
    reasons = tuple(NotPossible(place, draw(st.sampled_from(sorted(NOT_POSSIBLE)))) for place in places)
    return Round(
        plate,
        draw(st.floats(-300, 12000)),
        tuple(readings),
        seen,
        (Instrument("probe"),),
        None,
        mode=mode,
        not_possible=reasons,
    )


@given(rounds())
@settings(max_examples=300, deadline=None)
def test_a_round_of_anything_is_answered_with_one_voice_or_refused_by_name(given_):
    try:
        found = assess(given_)
    except EngineError as error:
        assert str(error)
        return
    assert not broken(found)
    chart_of(found, CELSIUS), blower_chart(found), ledger_chart(found, CELSIUS), expected_supply_humidity(found)
    assert abs(sum(found.diagnosis.ranked.weights) - 1) < 1e-9


def varied(given_, random):
    """A visit as another technician would have taken it: readings left out, looks added, a place that cannot be read, a
    plate less known.
    """
    kept = tuple(r for r in given_.readings if random.random() > random.choice((0.15, 0.35, 0.6)))
    seen = dict(given_.observations)
    for sight in random.sample(SIGHTS, random.choice((2, 5, 9))):
        if (
            sight.id != "mode"
            and given_.mode in sight.modes
            and (not sight.kinds or given_.equipment.kind in sight.kinds)
        ):
            seen[sight.id] = random.choice(list(sight.degrees))
    plate = replace(given_.equipment, seer=random.choice((given_.equipment.seer, None)))
    place = random.choice(
        (
            "coil",
            "filter",
            "blower",
            "return_unit",
            "supply_plenum",
            "liquid_line_outdoor",
            "water_in",
            "outdoor",
            "compressor",
        )
    )
    reasons = (NotPossible(place, "no_port"),) if random.random() < 0.4 else ()
    return replace(given_, readings=kept, observations=seen, equipment=plate, not_possible=reasons)


@pytest.mark.parametrize("batch", range(8))
def test_simulated_visits_as_they_are_and_as_another_would_have_taken_them(batch):
    """All modes and kinds, plates that mislead, baselines: nothing that is said contradicts anything else that is said."""
    names, rounds, baselines = [], [], []
    for row in range(batch * 18, batch * 18 + 18):
        heating = row % 3 == 2
        kind = "ground_source" if row % 7 == 3 else "heat_pump" if heating else "air_conditioner"
        visit = visit_of(bundle(31, row, kind, shifted=row % 5 == 0, baseline=row % 4 == 0, heating=heating))
        baseline, random = table_of(visit.baseline) if visit.baseline else None, Random(row)
        rounds += [visit.rounds[0][1], *(varied(visit.rounds[0][1], random) for _ in range(3))]
        names, baselines = names + [visit.name] * 4, baselines + [baseline] * 4
    found = zip(names, assess_many(rounds, baselines), strict=True)
    assert not [(name, what) for name, assessed in found for what in broken(assessed)]
