"""Ducts by constructed mixtures and gains; friction against the Colebrook equation."""

from math import log10, pi, sqrt

import pytest
from hypothesis import given
from hypothesis import strategies as st

from engine.constants import AIR_VISCOSITY, ROUGHNESS_METAL
from engine.errors import EngineError, OutOfRange
from engine.physics.air import moist
from engine.physics.air.state import state
from engine.physics.ducts.leakage import return_leak_share
from engine.physics.ducts.rooms import duct_airflow_cfm, flex_correction, friction_rate_inwc_per_100ft
from tests.engine.checks import record

GRILLE, ATTIC = state(76.0, "rh", 50.0, 1150.0), state(118.0, "rh", 28.0, 1150.0)


def mixed(fraction):
    """Adiabatic mixture of attic air into return air: enthalpy and humidity ratio mix by mass (ASHRAE Fundamentals, ch.
    1).
    """
    w = (1 - fraction) * GRILLE.humidity_ratio + fraction * ATTIC.humidity_ratio
    h = (1 - fraction) * GRILLE.enthalpy_btulb + fraction * ATTIC.enthalpy_btulb
    t = float(moist.dry_bulb_from_enthalpy_f(h, w))
    return state(t, "dew_point", float(moist.dew_point_f(w, GRILLE.pressure_psia)), 1150.0)


@given(st.floats(0.0, 0.4), st.floats(0.0, 8.0))
def test_a_return_leak_is_within_what_its_mixture_leaves_whatever_the_duct_gains_besides(fraction, gained_f):
    leaked = mixed(fraction)
    unit = state(leaked.dry_bulb_f + gained_f, "dew_point", leaked.dew_point_f, 1150.0)
    found = return_leak_share(GRILLE, unit, ATTIC)
    assert abs(found.share - fraction) <= found.u95 + 1e-3 and found.u95 < 0.12


def test_a_leak_is_no_larger_than_dry_bulb_allows_and_a_gain_is_none():
    """Air of an attic 42 °F hotter that is half of the return warms it by 21 °F; a dew point misread warms nothing."""
    damper = state(76.4, "dew_point", GRILLE.dew_point_f + 3.0, 1150.0)
    assert return_leak_share(GRILLE, damper, ATTIC).share < 0.05
    gained = return_leak_share(GRILLE, state(84.0, "dew_point", GRILLE.dew_point_f, 1150.0), ATTIC)
    assert gained.share + gained.u95 < 0.1, "8 °F would be a fifth of the air, and no water came with it"


def test_a_leak_of_like_air_cannot_be_told():
    with pytest.raises(EngineError, match="too like"):
        return_leak_share(GRILLE, GRILLE, state(76.5, "rh", 50.0, 1150.0))


def colebrook_inwc(cfm, diameter_in):
    """Darcy-Weisbach with the Colebrook equation by iteration: an independent way to the same loss."""
    d = diameter_in / 12
    v = cfm / (pi / 4 * d * d)
    re, f = v / 60 * d / AIR_VISCOSITY.value, 0.02
    for _ in range(50):
        f = (-2 * log10(ROUGHNESS_METAL.value / d / 3.7 + 2.51 / (re * sqrt(f)))) ** -2
    return f * 100 / d * 0.075 * (v / 1097) ** 2


def test_friction_against_colebrook():
    """Source: the Colebrook equation (ASHRAE Fundamentals, duct design), iterated here."""
    worst = max(
        abs(friction_rate_inwc_per_100ft(cfm, d) / colebrook_inwc(cfm, d) - 1)
        for d, flows in ((6, (60, 110)), (8, (120, 240)), (12, (400, 700)), (16, (900, 1500)))
        for cfm in flows
    )
    record("duct friction, round metal", "Colebrook, iterated", worst, 0.04, "share")


@given(st.floats(0.03, 0.3), st.floats(4, 18), st.sampled_from(["metal", "flex"]))
def test_airflow_and_friction_are_each_others_inverse(rate, diameter, duct):
    # Its two pieces meet with a step of 0.6 %.
    assert friction_rate_inwc_per_100ft(duct_airflow_cfm(rate, diameter, duct), diameter, duct) == pytest.approx(
        rate, rel=6e-3
    )


def test_rooms():
    """Common practice, no single source: a 6 in. metal run carries about 100 CFM, an 8 in. about 200, at 0.1 in. w.c.
    per 100 ft.
    """
    assert 95 < duct_airflow_cfm(0.1, 6) < 125 and 190 < duct_airflow_cfm(0.1, 8) < 250
    assert duct_airflow_cfm(0.1, 8, "flex", 0.85) < duct_airflow_cfm(0.1, 8, "flex", 1.0) < duct_airflow_cfm(0.1, 8)
    assert flex_correction(8, 1.0) == 1.0 and 1.5 < flex_correction(8, 0.96) < 2.2
    with pytest.raises(OutOfRange, match="diameter"):
        friction_rate_inwc_per_100ft(100.0, 60.0)
