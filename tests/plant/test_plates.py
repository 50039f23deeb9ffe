"""What simulated plates and makers' tables say, against a reference library and against how such tables run."""

from itertools import pairwise
from random import Random

import pytest
from CoolProp.CoolProp import PropsSI

from plant.machine import Spec
from plant.plates import GLYCOL_OVER_WATER, rated_heating, water_plate

SPEC = Spec(3.0, "mid", "R-410A", "txv", "psc", "air_handler", "ground_source")


@pytest.mark.parametrize("at_c", [0.5, 5.0, 15.0, 25.0])
def test_a_fifth_of_glycol_carries_less_heat_a_gallon(at_c):
    """CoolProp: propylene glycol at a fifth by mass beside water, volumetric heat capacity."""
    glycol, water = (
        PropsSI("D", "T", at_c + 273.15, "P", 2e5, fluid) * PropsSI("C", "T", at_c + 273.15, "P", 2e5, fluid)
        for fluid in ("INCOMP::MPG[0.2]", "Water")
    )
    assert pytest.approx(glycol / water, abs=0.02) == GLYCOL_OVER_WATER


@pytest.mark.parametrize("heating, way", [(False, -1), (True, 1)])
def test_rejection_falls_and_extraction_rises_with_entering_water(heating, way):
    """Common practice, no single source: so makers' tables run. More flow brings more heat to extract; of what is
    rejected it changes little, as more capacity goes with less work.
    """
    plates = (water_plate(Random(seed), SPEC, heating) for seed in range(20))
    table = next(t for p in plates if (t := p.get("extraction_table" if heating else "heat_table")))["values"]
    for cold, warm in pairwise(table):
        assert all(way * (b - a) > 0 for a, b in zip(cold, warm, strict=True))
    assert all(row == sorted(row) or (not heating and max(row) < 1.01 * min(row)) for row in table)


def test_rated_heating_at_17_is_a_share_of_that_at_47():
    """Published tables: 0.55 to 0.75 of it (from memory)."""
    rated = rated_heating(Spec(3.0, "mid", "R-410A", "txv", "psc", "air_handler", "heat_pump"))
    assert 0.55 <= rated["heating_btuh_17"] / rated["heating_btuh_47"] <= 0.75
