"""Whatever can be typed is answered or named: random rounds of values within the vocabulary's limits, through everything a sheet shows."""

from hypothesis import given, settings
from hypothesis import strategies as st

from engine.airflow.methods import METHODS
from engine.assessment import actions
from engine.assessment.airflows import airflows
from engine.assessment.at_hand import questions_at_hand
from engine.assessment.at_places import air_states, expected_supply_humidity, indicators_of, place_marks, total_static_mark
from engine.assessment.diagnosis import diagnose
from engine.assessment.judged import judged, verdict_by
from engine.assessment.whole import assess_whole
from engine.bundle.answer import whole_answer_of
from engine.charts.blower import blower_chart
from engine.charts.ledger import ledger_chart
from engine.charts.psychrometric import chart_of
from engine.errors import EngineError
from engine.readings.observations import OBSERVATIONS
from engine.readings.round import Equipment, Instrument, Reading, Round, at_air_pressure
from engine.readings.vocabulary import KINDS, QUANTITIES, QUANTITIES_AT

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
        draw(st.floats(1.0, 6.0)), draw(st.sampled_from(KINDS)), draw(st.sampled_from(["txv", "fixed_orifice", "unknown"])),
        draw(st.sampled_from(["psc", "constant_torque", "constant_airflow", "unknown"])), refrigerant=draw(st.sampled_from(["", "R-410A", "R-22"])),
        seer=draw(st.sampled_from([None, 6.0, 14.0, 25.0])), unit=draw(st.sampled_from(["air_handler", "furnace_with_cased_coil"])),
    )  # fmt: skip
    mode = draw(st.sampled_from(["cooling", "cooling", "heating"]))
    return at_air_pressure(
        Round(plate, draw(st.floats(-300, 12000)), tuple(readings), seen, (Instrument("probe"),), None, mode=mode)
    )


@given(rounds())
@settings(max_examples=120, deadline=None)
def test_a_round_of_anything_is_answered_or_refused_by_name(found):
    try:
        whole = assess_whole(found)
    except EngineError as error:
        assert str(error)
        return
    for part in (place_marks, indicators_of, total_static_mark, expected_supply_humidity, questions_at_hand):
        part(found, whole)
    (
        air_states(found),
        airflows(found),
        chart_of(found, whole.air),
        blower_chart(found, 1200.0),
        ledger_chart(whole),
        actions.by_fit(found, whole),
    )
    d = diagnose(found, whole.air)
    words = judged(found, whole.air, d)
    answer = whole_answer_of(whole, [], words)
    assert answer["verdict"]["headline"]
    assert abs(sum(d.ranked.weights) - 1) < 1e-9 and verdict_by(words, whole.verdict).next_step and words.not_seen is not None
