"""The split before all is read: the band holds what is expected once the rest is read. Against the engine's own
expectation with everything read, not against the world: it says that the two agree, and which way more readings go.
"""

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from tests.engine.rounds import judge, round_

ALONE = {"supply_rh": None, "cfm": None}


def _band(**given_):
    found = judge(round_(**ALONE | given_))[0].table["split"]
    return found.expected.value - found.low, found.expected.value + found.high


@settings(max_examples=25, deadline=None)
@given(st.floats(70, 82), st.floats(36, 64), st.floats(76, 104))
def test_what_is_expected_with_all_read_lies_in_the_band_of_what_was_not(return_f, rh, outdoor_f):
    low, high = _band(return_f=return_f, return_rh=None, outdoor_f=None)
    read = judge(round_(return_f=return_f, return_rh=rh, outdoor_f=outdoor_f, supply_f=return_f - 20, supply_rh=None))
    assert low - 0.1 <= read[0].table["split"].expected.value <= high + 0.1


@pytest.mark.parametrize("more", [{"return_rh": 52.0}, {"outdoor_f": 90.8}, {"cfm": 1200.0}])
def test_each_further_reading_makes_the_band_no_wider(more):
    nothing = {"return_rh": None, "outdoor_f": None}
    low, high = _band(**nothing)
    nearer = _band(**nothing | more)
    assert low - 0.1 <= nearer[0] < nearer[1] <= high + 0.1
    assert nearer[1] - nearer[0] < high - low


def test_damp_air_splits_less_and_hot_weather_less():
    """Common practice, no single source: much of the coil's work goes into drying damp air; less capacity when hot."""
    dry, damp = (_band(return_rh=rh, outdoor_f=None) for rh in (38.0, 62.0))
    mild, hot = (_band(return_rh=None, outdoor_f=outdoor) for outdoor in (78.0, 104.0))
    assert sum(damp) < sum(dry)
    assert sum(hot) < sum(mild)
