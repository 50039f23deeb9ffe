"""Uncertainty: cancellation, covariance, first order against the sample, kinks. Stated and printed values are 95 %."""

import numpy as np
import psychrolib
import pytest

from engine.assessment import assess, assess_many
from engine.errors import EngineError
from engine.expected.today import RESULTS as EXPECTED
from engine.expected.today import expected_side
from engine.readings.air_side import RESULTS as MEASURED
from engine.readings.air_side import air_side
from engine.readings.inputs import as_sources, numbers_of, pushes_of, setup_of
from engine.uncertainty.propagation import carry_on, propagate
from engine.uncertainty.sources import Source
from tests.engine.checks import record
from tests.engine.rounds import round_

psychrolib.SetUnitSystem(psychrolib.IP)
WATCHED = (
    "split_f",
    "total_btuh",
    "sensible_btuh",
    "sensible_heat_ratio",
    "expected_split_f",
    "expected_total_btuh",
    "split_minus_expected_f",
    "total_minus_expected_btuh",
    "supply_dew_point_f",
)


def carried(round_to_carry, sample):
    setup, numbers = setup_of(round_to_carry), numbers_of(round_to_carry)
    sources = as_sources([pushes_of(round_to_carry, setup, numbers)])
    inputs = {name: np.array([value], float) for name, value in numbers.items()}
    return carry_on(propagate(air_side(setup), inputs, sources, sample), expected_side(setup), sample)


def measured(given):
    return assess(given).measured


def test_first_order_and_sample_agree_in_the_interior(monkeypatch):
    monkeypatch.setattr("engine.uncertainty.propagation.SAMPLE", 20000)
    interior = round_(supply_rh=80.0, supply_f=58.0)
    straight, sampled = carried(interior, False), carried(interior, True)
    assert not carried(interior, None).sampled[0]
    for name in WATCHED:
        off = abs(straight.u95[name][0] / sampled.u95[name][0] - 1)
        record(f"95 % uncertainty of {name}, first order", "seeded sample of 20,000", off, 0.05, "share")
    first = straight.covariance("total_btuh", "expected_total_btuh")[0]
    second = sampled.covariance("total_btuh", "expected_total_btuh")[0]
    scale = straight.u95["total_btuh"][0] * straight.u95["expected_total_btuh"][0]
    assert first / scale == pytest.approx(second / scale, abs=0.03)


def test_near_saturation_the_sample_takes_over_and_stays_below_saturation():
    wet = carried(round_(supply_rh=99.5), None)
    assert wet.sampled[0]
    off = np.abs(wet.drawn["supply_rh_pct"][:, 0] - wet.values["supply_rh_pct"][0])
    assert np.mean(off <= wet.u95["supply_rh_pct"][0]) == pytest.approx(0.95, abs=0.01), (
        "what is printed as 95 % covers 95 %"
    )
    assert wet.drawn["supply_rh_pct"].max() <= 100.0 + 1e-9
    assert wet.u95["total_btuh"][0] == carried(round_(supply_rh=99.5), None).u95["total_btuh"][0], (
        "seeded: the same twice"
    )


def test_one_probe_at_both_ends_cancels_its_offset_in_the_split():
    """By hand: repeatability 0.3 °F at each end remains (0.42); two probes of 0.9 °F give 1.27."""
    assert measured(round_())["split_f"].u95 == pytest.approx((0.3**2 + 0.3**2) ** 0.5, abs=1e-6)
    assert measured(round_(supply_probe="other"))["split_f"].u95 == pytest.approx((0.9**2 + 0.9**2) ** 0.5, abs=1e-6)
    unnamed = assess(round_(supply_probe=None))
    assert unnamed.measured["split_f"].u95 == pytest.approx(1.2728, abs=1e-4), "nothing cancels by assumption"
    assert "pair_not_one_probe" in {finding.id for finding in unnamed.findings}


def test_airflow_is_a_term_of_its_own_and_results_share_it():
    guess, known = assess(round_(method="nominal_guess", supply_rh=80.0)), assess(round_(supply_rh=80.0))
    assert known.measured["cfm_per_ton"].u95 == pytest.approx(0.07 * 400) and guess.measured[
        "cfm_per_ton"
    ].u95 == pytest.approx(0.20 * 400)
    assert guess.measured["total_btuh"].u95 > 1.7 * known.measured["total_btuh"].u95
    shares, straight = guess.measured.carried.shares("total_btuh"), carried(round_(method="nominal_guess"), False)
    assert next(iter(shares)) == "airflow_method" and sum(shares.values()) == pytest.approx(1.0)
    together = straight.covariance("total_btuh", "expected_total_btuh")[0]
    apart = straight.u95["total_btuh"][0] ** 2 + straight.u95["expected_total_btuh"][0] ** 2
    off = straight.u95["total_minus_expected_btuh"][0]
    assert together > 0 and off**2 == pytest.approx(apart - 2 * together, rel=1e-6), (
        "a difference carries the covariance"
    )


@pytest.mark.parametrize("altitude", [0.0, 6200.0])
def test_a_whole_assessment_by_an_independent_calculation(altitude):
    """Properties from PsychroLib at the house's altitude, arithmetic written out; differences are differences."""
    p = psychrolib.GetStandardAtmPressure(altitude)
    w1, *_, h1, v1, _ = psychrolib.CalcPsychrometricsFromRelHum(76.4, 0.52, p)
    w2, *_, h2, _, _ = psychrolib.CalcPsychrometricsFromRelHum(55.2, 0.80, p)
    found = assess(round_(altitude_ft=altitude, supply_rh=80.0, fan_w=450.0))
    result, e = found.measured, found.table.expected
    assert result["total_btuh"].value == pytest.approx(1200 * 60 / v1 * (h1 - h2), rel=1e-5)
    assert result["gross_btuh"].value == pytest.approx(1200 * 60 / v1 * (h1 - h2) + 450 * 3.412142, rel=1e-5)
    assert result["moisture_removed_lblb"].value == pytest.approx(w1 - w2, rel=1e-5)
    for off, measured, expected in (
        ("split_minus_expected_f", "split_f", "expected_split_f"),
        ("total_minus_expected_btuh", "total_btuh", "expected_total_btuh"),
    ):
        assert e[off].value == pytest.approx(result[measured].value - e[expected].value, abs=1e-9)


def test_every_result_has_an_uncertainty_or_a_reason():
    for given in (round_(), round_(supply_rh=None), round_(cfm=None), round_(outdoor_f=None), round_(return_f=None)):
        found = assess(given)
        results = {n: found.measured[n] for n in MEASURED} | {n: found.table.expected[n] for n in EXPECTED}
        for name, result in results.items():
            assert result.known == (result.missing is None), name
            if result.known:
                assert result.u95 >= 0, name
            else:
                with pytest.raises(LookupError):
                    _ = result.value


def test_a_sum_of_known_errors():
    """By hand: y = 3a + b^2 at b = 2 with 95 % pushes 1 and 0.1 shared or apart; shared they add, apart in quadrature."""
    inputs = {"a": np.array([1.0]), "b": np.array([2.0])}

    def y(x):
        return {"y": 3 * x["a"] + x["b"] ** 2}

    apart = propagate(y, inputs, [Source("a", "", (("a", 1.0),)), Source("b", "", (("b", 0.1),))], sample=False)
    shared = propagate(y, inputs, [Source("ab", "", (("a", 1.0), ("b", 0.1)))], sample=False)
    assert apart.u95["y"][0] == pytest.approx((3.0**2 + 0.4**2) ** 0.5) and shared.u95["y"][0] == pytest.approx(3.4)


def test_a_batch_answers_as_single_calls_do_and_one_bad_row_stops_no_other():
    mixed = [
        round_(),
        round_(altitude_ft=20000.0),
        round_(supply_f=60.0, method="blower_table"),
        round_(humidity="wet_bulb", return_rh=63.0, supply_rh=53.0),
        round_(kind="heat_pump", nominal_tons=2.0, cfm=800.0),
    ]
    together = assess_many(mixed)
    assert isinstance(together[1], EngineError) and "altitude 20000 ft" in str(together[1])
    for index in (0, 2, 3, 4):
        alone = assess(mixed[index])
        assert together[index].verdict == alone.verdict
        for name in MEASURED:
            estimate, same = alone.measured[name], together[index].measured[name]
            assert same.known == estimate.known
            if estimate.known:
                assert same.value == pytest.approx(estimate.value, rel=1e-12, abs=1e-12)
                assert same.u95 == pytest.approx(estimate.u95, rel=1e-9, abs=1e-9)
