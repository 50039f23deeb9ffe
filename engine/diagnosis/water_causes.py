"""Every cause the readings of a ground-source unit can speak for or against, in either mode, and what it does to each
indicator.

Its lines are inside the cabinet and not read: the water side says how much heat is moved, the air side how much
arrives, the draw against which head it is pumped. By level, a cause that costs capacity costs about 5, 12, 25 and 50 %
of it. Way off: water flow, then airflow, then gauges (common practice, no single source).

- At half the water flow the water's difference doubles but for what the colder or hotter coil costs: the heat moved
  falls by some 5 %. What is expected already goes by the flow that was read.
- Cooling: what keeps heat from the water raises condensing. Capacity falls by some 0.5 % for each °F of it, the draw
  rises by 1.2 %: 12 % less capacity is 24 °F and 27 % more draw, and the heat of rejection, four fifths capacity and
  one fifth draw, falls by 4 % only. Half the water flow raises condensing by some 10 °F. Overcharge, and gas that does
  not condense, look the same without pressures. A circuit that is weak pumps less against more lift, the water holds
  condensing nearly where it was: the draw comes down by some two fifths of the heat.
- With less water a condenser runs hotter: what the compressor draws more is rejected too, so that the rejection falls by
  less than the table's. In heating more liquid in the indoor coil leaves it colder, and takes in some more outside.
- Heating: what keeps the water's heat from the refrigerant lowers evaporating, and a circuit that is weak does too:
  less vapor is pumped, and the draw falls for both. Without pressures they are one group.
- Less air takes capacity with it, little at first: a coil that freezes its own air out gives a fifth less at two fifths
  of the airflow. In heating the indoor coil condenses hotter instead: the draw rises.
- A flow that is inferred from the water coil's drop reads high on a fouled coil: half more drop is a quarter more flow
  by the table. A plugged strainer before it reads as low as it is.
- Heat moved by the water + electrical heat = heat in the air, the signs by mode: what does not close is a wrong reading
  or a wrong airflow.
"""

from collections.abc import Mapping
from dataclasses import replace

from engine.diagnosis.cause import (
    BY_DROP,
    FLOW,
    HEALTHY,
    HINDERED,
    HINDERED_FILTER,
    HINDERED_RETURN,
    Cause,
    Levels,
    of_another_size,
)
from engine.diagnosis.cooling_causes import COOLING
from engine.diagnosis.heating_causes import HEATING

_COOLING = {cause.id: cause for cause in COOLING}
# How common: as in air source the metering device, a restriction and the compressor; charge half as often, because the
# circuit was filled and closed by its maker and has no line set.
CIRCUIT_SHORT = (
    sum(_COOLING[c].prior for c in ("starving_valve", "restriction", "weak_compressor"))
    + 0.5 * _COOLING["undercharge"].prior
)
HIGH_SIDE = _COOLING["non_condensables"].prior + 0.5 * _COOLING["overcharge"].prior
LESS = (-0.05, -0.12, -0.25, -0.5)
READS_HIGH = (0.05, 0.12, 0.2, 0.3)  # ln of the flow, by level of what narrows the water coil
# ln of the compressor's watts
EASIER, HARDER, DRAWS_LESS = (-0.01, -0.02, -0.04, -0.07), (0.04, 0.1, 0.2, 0.4), (-0.02, -0.05, -0.1, -0.22)


def _causes(
    known: Mapping[str, Cause],
    with_less_air: tuple[Levels, Levels],
    with_less_water: tuple[Levels, Levels],
    high_side: Levels,
    fouled: tuple[Levels, Levels],
    gain: float,
) -> tuple[Cause, ...]:
    """The causes of one mode. known: air source's in this mode, whose names and reasons are the same. with_less_air,
    fouled: what less air, by FLOW's steps, and a fouled water coil do to the heat moved [share] and to the draw [ln];
    with_less_water: the same of less water, beside what is expected at that flow; high_side: what more head does to the
    heat moved; gain: 1 where ducts warm the air, -1 where they cool it.
    """
    moves, draws = fouled
    # By the table half more drop reads as a quarter more flow, and so much more heat with it.
    by_drop = {
        "heat_moved": tuple(m + r for m, r in zip(moves, READS_HIGH, strict=True)),
        "water_flow": READS_HIGH,
        "closure": tuple(gain * r for r in READS_HIGH),
    }

    def as_known(id_: str, signs: Mapping[str, Levels]) -> Cause:
        return replace(known[id_], signs=signs, by={})

    air: dict[str, Levels] = {"airflow": FLOW, "heat_moved": with_less_air[0], "amps": with_less_air[1]}
    # fmt: off
    return (
        Cause(HEALTHY, "Nothing wrong that shows", HEALTHY, 28.0),
        as_known("blocked_filter", air | {"filter_drop": HINDERED_FILTER}), as_known("dirty_evaporator", air | {"coil_drop": HINDERED}),
        as_known("tight_ducts", air | {"supply_drop": HINDERED, "return_drop": HINDERED_RETURN}), as_known("low_blower", air | {"filter_drop": (0.0,) * 4}),
        as_known("high_airflow", {"airflow": (0.15, 0.25, 0.4)}),
        Cause("low_water_flow", "Water flow low", "water_flow", 4.0, {"water_flow": (-0.3, -0.6, -1.0), "heat_moved": with_less_water[0], "amps": with_less_water[1]},
              why="less water takes or brings the heat: strainer, air in the loop, pump or valve"),
        Cause("fouled_exchanger", "Water coil fouled", "exchanger", 2.0, {"heat_moved": moves, "amps": draws, "water_flow": (-0.03, -0.07, -0.1, -0.15)}, {BY_DROP: by_drop}, why="the water passes, its heat does not"),
        Cause("circuit_short", "Refrigerant circuit weak", "circuit", CIRCUIT_SHORT, {"heat_moved": LESS, "amps": DRAWS_LESS},
              why="charge, metering device or compressor: the water side cannot tell which"),
        Cause("high_side", "High side too high: overcharge, or gas that does not condense", "high_side", HIGH_SIDE, {"amps": (0.06, 0.15, 0.3), "heat_moved": high_side},
              why="it draws more against the same water and moves no more heat"),
        Cause("heat_on", "Strip heat on", "heat_on", 1.0, {"closure": (0.15, 0.35, 0.7)}, why="heat goes into the air that the water and the electricity do not account for"),
        as_known("return_leak", {"grille_to_unit": tuple(gain * x for x in (2.5, 5.5, 9.0))}),
        as_known("return_gain", {"grille_to_unit": tuple(gain * x for x in (2.5, 5.5, 9.0))}),
        as_known("supply_gain", {"unit_to_register": tuple(gain * x for x in (2.0, 4.0, 6.5))}),
        Cause("other_size", "The plate is another machine's", "plate", 2.0,
              of_another_size(airflow=1.0, heat_moved=0.9, water_flow=1.0, amps=1.0),
              why="airflow, water flow and heat are all off by the same share, as if the machine were of another size"),
        Cause("water_probe", "A water probe is wrong", "probe", 1.5, probe=("water_pair", (-3.0, -1.5, 1.5, 3.0)), why="the water's difference is off, the air's is not"),
        _COOLING["supply_probe"], _COOLING["return_probe"],
    )
    # fmt: on


WATER_COOLING = _causes(
    _COOLING,
    ((-0.02, -0.05, -0.11, -0.2), EASIER),
    ((0.01, 0.03, 0.07), (0.04, 0.1, 0.2)),
    (0.0, -0.01, -0.03),
    ((-0.02, -0.04, -0.09, -0.2), (0.1, 0.27, 0.55, 0.9)),
    1.0,
)
# Attics and crawl spaces are cold in winter.
WATER_HEATING = _causes(
    {cause.id: cause for cause in HEATING},
    ((-0.01, -0.02, -0.05, -0.1), HARDER),
    ((0.0, 0.0, 0.0), (-0.01, -0.03, -0.07)),
    (0.01, 0.02, 0.03),
    (LESS, DRAWS_LESS),
    -1.0,
)
WATER_TOGETHER = (
    ("blocked_filter", "low_water_flow"),
    ("low_blower", "circuit_short"),
    ("low_water_flow", "circuit_short"),
)
