"""Every cause the readings of a ground-source unit can speak for or against, in either mode, and what it does to each
indicator.

Its lines are inside the cabinet and not read: the water side says how much heat is moved, the air side how much
arrives. By level, a cause that costs capacity costs about 5, 12, 25 and 50 % of it. Way off: water flow, then airflow,
then gauges (common practice, no single source).

- At half the water flow the water's difference doubles but for what the colder or hotter coil costs: the heat moved
  falls by some 5 %.
- Heat moved by the water + electrical heat = heat in the air, the signs by mode: what does not close is a wrong reading
  or a wrong airflow.
"""

from dataclasses import replace

from engine.diagnosis.cause import FLOW, HEALTHY, HINDERED, Cause, Levels, of_another_size
from engine.diagnosis.cooling_causes import COOLING

_COOLING = {cause.id: cause for cause in COOLING}
LESS = (-0.05, -0.12, -0.25, -0.5)
WITH_LESS_AIR = (-0.01, -0.03, -0.07, -0.15)  # of the heat moved, by FLOW's steps


def _air(**part: Levels) -> dict[str, Levels]:
    return {"airflow": FLOW, "heat_moved": WITH_LESS_AIR, **part}


def _as(id_: str, signs: dict[str, Levels]) -> Cause:
    return replace(_COOLING[id_], signs=signs, by={})


# fmt: off
WATER_COOLING = (
    Cause(HEALTHY, "Nothing wrong that shows", HEALTHY, 28.0),
    _as("blocked_filter", _air(filter_drop=HINDERED)), _as("dirty_evaporator", _air(coil_drop=HINDERED)),
    _as("tight_ducts", _air(supply_drop=HINDERED, return_drop=(0.2, 0.4, 0.6, 0.9))), _as("low_blower", _air(filter_drop=(0.0,) * 4)),
    _as("high_airflow", {"airflow": (0.15, 0.25, 0.4)}),
    Cause("low_water_flow", "Water flow low", "water_flow", 4.0, {"water_flow": (-0.3, -0.6, -1.0), "heat_moved": (-0.02, -0.05, -0.1)},
          why="less water takes or brings the heat: strainer, air in the loop, pump or valve"),
    Cause("fouled_exchanger", "Water coil fouled", "exchanger", 2.0, {"heat_moved": LESS, "water_flow": (-0.03, -0.07, -0.15, -0.25)},
          why="the water passes, its heat does not"),
    Cause("circuit_short", "Refrigerant circuit short", "circuit", 5.0, {"heat_moved": LESS},
          why="charge, metering device or compressor: these readings cannot tell which"),
    Cause("heat_on", "Strip heat on", "heat_on", 1.0, {"closure": (0.15, 0.35, 0.7)}, why="the air carries more heat than the water and the electricity account for"),
    _as("return_leak", {"grille_to_unit": (2.5, 5.5, 9.0)}), _as("supply_gain", {"unit_to_register": (2.0, 4.0, 6.5)}),
    Cause("other_size", "The plate is another machine's", "plate", 2.0,
          of_another_size(airflow=1.0, heat_moved=0.9, water_flow=1.0),
          why="airflow, water flow and heat are all off by the same share, as if the machine were of another size"),
    Cause("water_probe", "A water probe is wrong", "probe", 1.5, probe=("water_pair", (-3.0, -1.5, 1.5, 3.0)), why="the water's difference is off, the air's is not"),
    _COOLING["supply_probe"], _COOLING["return_probe"],
)
# fmt: on
# Attics and crawl spaces in winter.
_COLD: dict[str, dict[str, Levels]] = {
    "return_leak": {"grille_to_unit": (-2.5, -5.5, -9.0)},
    "supply_gain": {"unit_to_register": (-2.0, -4.0, -6.5)},
}
WATER_HEATING = tuple(replace(cause, signs=_COLD[cause.id]) if cause.id in _COLD else cause for cause in WATER_COOLING)
WATER_TOGETHER = (("blocked_filter", "low_water_flow"), ("low_blower", "circuit_short"))
