"""Every cause the readings can speak for or against in heating, air source, and what it does to each indicator.

By level, a cause that costs capacity costs about 5, 12, 25 and 50 % of it. How the numbers come about, each from an
energy balance:

- All heat shows in the air: at the same airflow the rise falls by the share of capacity that is lost.
- The indoor coil condenses at return air + rise / (the coil's effectiveness, about 0.8). Less airflow raises the rise
  by nearly as much as the airflow falls, and condensing with it; less heat lowers both. The liquid line is held to
  condensing by the rise *as measured*, so that neither shows there: what is left is what subcooling does.
- A charge that has lost its 17 °F of subcooling comes that much nearer to condensing, all of it while the outdoor coil
  is still fed, and stays there; liquid that backs up cools towards the return air.
- A dirty indoor coil passes less heat to the air that does come: condensing rises over what the rise says.
- The indoor coil is the smaller of the two: what is too much fills it sooner than it fills the condenser in cooling,
  and raises the head by more.
- Capacity goes with the density of the suction vapor, about 2 % for each °F of evaporating: an outdoor coil that takes
  in 12 % less heat evaporates some 6 °F colder.
- A starved outdoor coil evaporates lower, and its vapor warms towards the outdoor air, which is some 15 °F above
  evaporating: the suction line comes up by a few degrees at most, superheat by much more. A TXV opens first and holds.
- Strips after the coil add to the rise and not to condensing: the liquid line seems too cold for it.
- Liquid that is 16 °F colder carries some 7 % more heat in: 16 x 0.4 BTU/lb°F over some 90 BTU/lb.
- A fixed piston feeds more than the compressor pumps in the cold. What is left over waits in the accumulator, which
  lets it by in drops: the suction is saturated there, and subcooling is what makes the piston pass the flow.
- A charge too large or a little too small is then only more or less in the accumulator: neither the rise, the lines nor
  the draw move. The fuller it is, the more liquid it lets by, which cools the discharge. What is lost beyond its stock
  starves the outdoor coil at once, with the indoor coil about where it was.
- A TXV that hangs open feeds the accumulator, until the liquid before it is so warm that it passes no more than is
  pumped: the superheat goes first, then as much of the subcooling as that takes.
- What narrows the way to the outdoor coil sends all that was in the accumulator back into the indoor coil, and the
  suction comes up from saturation. The compressor takes no wet vapor in, so the heat falls less than with a TXV.
- What lets the compressor pump less, a worn one or a cold outdoor coil, needs less subcooling before the piston; and so
  does a higher head: 10 °F more condensing is some 15 % more pressure, and half of that more flow.
- A worn compressor puts more work into each pound and so heats the discharge. A third of the heat is its own work:
  with a heat of 0.78 and a draw of 0.85 the flow is (0.78 - 0.85 / 3) / (2 / 3) = 0.74, the work in each pound 1.14
  times some 31 BTU/lb, the vapor 4.4 / 0.26 = 17 °F hotter. The outdoor coil takes in as much less as flows, and
  evaporates that share of some 14 °F nearer to the air.
- Compressor watts go with flow and head: about 1 % for each °F of condensing.

Signs of direction: engine physics and common practice, no single source. Sizes are good to about a third, and are used
so.
"""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from engine.diagnosis.cause import (
    FLOW,
    HEALTHY,
    HELD,
    HINDERED,
    HINDERED_FILTER,
    HINDERED_RETURN,
    Cause,
    Levels,
    of_another_size,
)
from engine.diagnosis.cooling_causes import COOLING
from engine.readings.round import CONSTANT_AIRFLOW, ORIFICE

_COOLING = {cause.id: cause for cause in COOLING}
RISE = (-0.05, -0.12, -0.25, -0.5)  # capacity, by level
BEYOND_CURVE = (0.0, 0.0, 0.03, 0.1)  # ln of watts over what the curve has for that airflow, by FLOW's steps
STARVED, UNFED = (1.0, 3.0, 6.0, 9.0), (-2.5, -6.0, -13.0, -28.0)  # suction at the compressor, evaporating
FLOODED = (-3.0, -6.0, -8.0, -8.5)


def _air(**part: Levels) -> dict[str, Levels]:
    return {"airflow": FLOW, "amps": BEYOND_CURVE, **part}


def _as(
    id_: str,
    signs: Mapping[str, Levels],
    by: Mapping[str, Mapping[str, Levels]] | None = None,
    why: str = "",
    **changed: Any,
) -> Cause:
    """A cause known from cooling with its signs in heating."""
    known = _COOLING[id_]
    changed.setdefault("why_by", {} if why else known.why_by)
    return replace(known, signs=signs, by=by or {}, why=why or known.why, **changed)


# As in cooling, but all capacity shows in the rise.
_SIZE = of_another_size(
    airflow=1.0, rise=0.8, amps=1.0, filter_drop=-1.4, coil_drop=-1.8, return_drop=-1.9, supply_drop=-1.9
)
# Less air is more head: a piston passes the flow with less before it, and what it leaves waits in the accumulator.
_LESS_AIR = {
    ORIFICE: {"heat_approach": (3.0, 6.0, 10.0, 13.0), "subcooling": (-3.0, -7.0, -12.0, -15.0)},
    CONSTANT_AIRFLOW: {
        "airflow": HELD,
        "amps": (0.0, 0.0, 0.0, 0.02),
        "heat_approach": (0.0, 0.5, 2.0, 5.0),
        "subcooling": (0.0, -0.5, -2.0, -5.0),
    },
}
_BACKS_UP = {
    "rise": RISE, "true_suction": STARVED, "evaporating": UNFED, "heat_approach": (-3.0, -6.0, -9.0, -9.0), "amps": (-0.02, -0.06, -0.12, -0.22),
    "subcooling": (3.0, 6.0, 9.0, 9.0),
}  # fmt: skip
# What waits in the accumulator comes back into the indoor coil, and superheat with it.
_BACKS_UP_BEFORE_PISTON: dict[str, dict[str, Levels]] = {ORIFICE: {
    "rise": (0.0, -0.04, -0.14, -0.36), "evaporating": (-1.0, -4.0, -10.0, -24.0), "true_suction": (3.0, 7.0, 11.0, 14.0), "heat_approach": (-6.0, -12.0, -16.0, -18.0), "subcooling": (6.0, 12.0, 16.0, 18.0),
}}  # fmt: skip
# fmt: off
HEATING = (
    Cause(HEALTHY, "Nothing wrong that shows", HEALTHY, 28.0),
    _as("blocked_filter", _air(filter_drop=HINDERED_FILTER), _LESS_AIR),
    _as("dirty_evaporator", _air(coil_drop=HINDERED, rise=(0.0, -0.01, -0.03, -0.05), heat_approach=(0.0, 1.0, 3.0, 8.0)),
        {**_LESS_AIR, ORIFICE: _LESS_AIR[ORIFICE] | {"heat_approach": (3.0, 8.0, 14.0, 22.0)}}, label="Indoor coil dirty or covered"),
    _as("tight_ducts", _air(supply_drop=HINDERED, return_drop=HINDERED_RETURN), _LESS_AIR),
    _as("low_blower", _air(filter_drop=(0.0,) * 4), {ORIFICE: _LESS_AIR[ORIFICE]}),
    _as("high_airflow", {"airflow": (0.15, 0.25, 0.4), "amps": (-0.02, -0.04, -0.06)}, why="more air than the coil needs: it comes out cool"),
    _as("undercharge", {"rise": (-0.01, -0.03, -0.1, -0.22, -0.45), "true_suction": (0.0, 0.5, 2.0, 5.0, 9.0), "evaporating": (0.0, -0.5, -3.0, -7.0, -13.0),
                          "heat_approach": (6.0, 12.0, 16.0, 17.0, 17.0), "amps": (-0.02, -0.04, -0.08, -0.14, -0.25), "subcooling": (-6.0, -12.0, -16.0, -17.0, -17.0)},
        {ORIFICE: {"rise": (-0.01, -0.04, -0.12, -0.25, -0.45), "true_suction": (1.0, 4.0, 8.0, 11.0, 14.0), "evaporating": (0.0, -1.0, -4.0, -8.0, -14.0),
                   "heat_approach": (1.0, 3.0, 5.0, 8.0, 12.0), "subcooling": (-1.0, -3.0, -5.0, -8.0, -12.0)}},
        why="subcooling goes first, so the liquid line comes up towards condensing; then the outdoor coil starves",
        why_by={ORIFICE: "what waited in the accumulator goes first; then the outdoor coil starves: warmer suction, less heat, less draw"}),
    _as("overcharge", {"rise": (0.02, 0.04, 0.055), "heat_approach": (-5.0, -10.0, -16.0), "amps": (0.04, 0.11, 0.26), "subcooling": (9.0, 21.0, 42.0)},
        {ORIFICE: {"rise": (0.01, 0.02, 0.03), "heat_approach": (-1.0, -3.0, -5.0), "amps": (0.01, 0.03, 0.06), "subcooling": (2.0, 4.0, 8.0), "true_suction": (-1.0, -3.0, -6.0), "hot_gas": (-3.0, -8.0, -20.0)}},
        why="more liquid collects in the indoor coil: the line comes nearer to the return air, the head and the draw go up",
        why_by={ORIFICE: "what is too much waits in the accumulator; when that is full, liquid reaches the compressor"}),
    _as("restriction", _BACKS_UP, _BACKS_UP_BEFORE_PISTON, why="liquid backs up in the indoor coil and cools towards the return air; the outdoor coil starves"),
    _as("starving_valve", _BACKS_UP, _BACKS_UP_BEFORE_PISTON, why="liquid backs up in the indoor coil and cools towards the return air; the outdoor coil starves"),
    _as("overfeeding", {"true_suction": FLOODED, "evaporating": (0.5, 1.0, 1.5, 1.0), "heat_approach": (1.0, 2.0, 4.0, 12.0), "subcooling": (-1.0, -2.0, -4.0, -12.0)},
        {ORIFICE: {"true_suction": (-1.0, -3.0, -5.0, -6.0), "evaporating": (0.5, 1.0, 2.0, 2.5), "heat_approach": (1.0, 3.0, 5.0, 7.0), "subcooling": (-1.5, -4.0, -7.0, -9.0), "rise": (-0.01, -0.03, -0.05, -0.07), "hot_gas": (-2.0, -4.0, -8.0, -11.0)}},
        why="the suction comes down to the evaporating temperature"),
    Cause("outdoor_coil", "Outdoor coil iced or dirty (or its fan weak)", "outdoor_coil", 8.0,
          {"rise": RISE, "true_suction": (-3.0, -7.0, -13.0, -24.0), "evaporating": (-3.0, -7.0, -13.0, -24.0), "heat_approach": (-1.0, -2.0, -3.0, -4.0),
           "subcooling": (1.0, 2.0, 3.0, 4.0), "amps": (-0.01, -0.03, -0.06, -0.12)},
          {ORIFICE: {"true_suction": (-4.0, -9.0, -16.0, -26.0), "heat_approach": (2.0, 5.0, 6.0, 6.0), "subcooling": (-2.0, -6.0, -7.0, -8.0)}},
          why="it takes in less heat, so it evaporates colder and the compressor pumps thinner vapor"),
    _as("non_condensables", {"heat_approach": (1.0, 2.0, 3.0), "amps": (0.06, 0.15, 0.3), "rise": (0.0, -0.01, -0.03), "subcooling": (5.0, 13.0, 25.0)},
        {ORIFICE: {"true_suction": (-1.0, -3.0, -5.0), "heat_approach": (1.0, 3.0, 5.0), "rise": (-0.01, -0.03, -0.06), "subcooling": (4.0, 9.0, 18.0)}}, why="gas that will not condense adds its own pressure: the draw goes up with the airflow as it should be"),
    _as("weak_compressor", {"rise": RISE, "true_suction": (0.8, 1.6, 3.0, 5.5), "evaporating": (1.0, 2.0, 3.5, 6.5), "heat_approach": (0.0, 0.5, 1.0, 2.0), "amps": (-0.03, -0.08, -0.16, -0.32),
           "subcooling": (0.0, -0.5, -1.0, -2.0), "hot_gas": (4.0, 8.0, 18.0, 40.0)},
        {ORIFICE: {"true_suction": (0.5, 1.0, 2.0, 3.0), "evaporating": (0.5, 1.0, 2.0, 3.0), "heat_approach": (2.0, 5.0, 6.0, 6.0), "subcooling": (-2.0, -6.0, -7.0, -8.0)}},
        why="it pumps less: suction warmer, less heat, less draw"),
    _as("heat_on", {"rise": (0.15, 0.4, 0.8), "heat_approach": (-5.0, -14.0, -28.0)}, why="the air rises by more than the heat pump gives: the strips add to it", label="Strip heat on"),
    _as("return_leak", {"grille_to_unit": (-2.5, -5.5, -9.0)}, label="Return leak from a cold space"),
    _as("return_gain", {"grille_to_unit": (-2.5, -5.5, -9.0)}, why="the return air cools on its way to the unit and keeps its dew point", label="Return duct run in the cold"),
    _as("supply_gain", {"unit_to_register": (-2.0, -4.0, -6.5)}, why="the air cools on its way to the register", label="Supply duct run in the cold"),
    _as("other_size", _SIZE),
    # the house's own air passes for outdoors too (working figure)
    replace(_COOLING["outdoor_probe"], probe=("outdoor", (5.0, 11.0, 20.0, 33.0)), why="everything that rests on the outdoor air is off in the same direction"),
    replace(_COOLING["liquid_clamp"], probe=("liquid_line_indoor", (-10.0, -5.5, 5.0))),
    replace(_COOLING["suction_clamp"], probe=("true_suction", (3.0, 6.5, 12.0))),
    _COOLING["discharge_clamp"], _COOLING["supply_probe"], _COOLING["return_probe"],
)
# Two at once that travel together (field accounts, common practice): their signs add.
HEATING_TOGETHER = (
    ("dirty_evaporator", "overcharge"), ("blocked_filter", "undercharge"), ("low_blower", "overcharge"), ("low_blower", "undercharge"),
    ("blocked_filter", "outdoor_coil"), ("dirty_evaporator", "outdoor_coil"), ("outdoor_coil", "undercharge"), ("tight_ducts", "undercharge"),
    ("return_leak", "tight_ducts"),
)  # fmt: skip
# fmt: on
