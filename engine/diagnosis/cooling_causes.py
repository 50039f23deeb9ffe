"""Every cause the readings can speak for or against in cooling, air source, and what it does to each indicator.

By level, a cause that costs capacity costs about 5, 12, 25 and 50 % of it, and where the machine can stop cooling
altogether 85 %; low airflow is given in steps of the airflow
itself, because it costs little capacity. How the numbers come about, each from an energy balance:

- Where the machine does less at the same airflow, the coil is warmer: for 12 % of the total the enthalpy of saturated
  air at the coil rises by 1.2 BTU/lb, the coil by 2.2 °F, and the sensible part falls by two thirds of the total's
  share. So split = 0.66 of capacity.
- Where the evaporator starves, one part of the face passes its air hardly cooled and the other stays as cold or colder
  and dries on: the sensible part falls by more than the total. So split = 1.2 of capacity.
- Condensing over ambient goes with the heat given off: 20 °F in the middle class, so 12 % less heat is 2.4 °F less. The
  liquid line follows by approach = condensing over ambient - subcooling: a charge that has lost its 10 °F of subcooling
  is some 7 to 9 °F higher over outdoors, and comes back down as less and less heat is given off. A TXV feeds on
  through the first two stages: half the subcooling gone, then all of it, with the split still good. Liquid that is not
  subcooled brings its heat into the evaporator: 10 °F of it, at 0.44 BTU/lb for each, take 6 % of some 72 BTU/lb.
- A weak compressor gives off less heat and, with a TXV, holds about the subcooling: condensing comes down by the heat,
  and the liquid line most of the way. Behind an orifice the evaporator floods, and what is in it is missing in the
  condenser.
- Less air is in what is expected at it: coil, suction and evaporating are held to what this airflow makes of them, so
  that only a guessed airflow moves them. Behind a TXV they stay there; an orifice feeds on at less load and floods. A
  little is left for what the curves make of much less air, and for a dirty coil, which passes less heat besides.
- A fixed orifice feeds by the pressure across it. What raises the head without taking liquid away (gas that will not
  condense), or raises the suction, floods the evaporator; the liquid that floods it is missing in the condenser, so the
  liquid line is warmer.
- A starved evaporator lets its vapor warm towards the return air, which is some 25 °F above the usual suction line: a
  TXV opens first and holds.
- A restriction cools its liquid only once it boils: before an orifice it need take no more than the subcooling is worth
  (10 °F of it are some 45 psi of R-410A) to starve it, and the line shows no drop. A TXV opens for that; what starves
  it beyond takes the pressure of 10 °F and more.
- A spot inside the outdoor unit (a hidden drier, a valve that is not open) lies before clamp and port: the line is as
  cold as what boils behind the spot, which may be colder than outdoors, and has no subcooling left; no other cause of
  the machine can bring the line there.
- Flash gas drops a liquid line by a degree or two: 30 ft of 3/8 in. take 6 to 8 psi of two phases at the flow that is
  left (MEM), and R-410A gives a degree for 5 psi. More than 3 °F is a restriction (common practice).
- A suction line that still holds liquid does not warm on its way: the usual rise is missing.
- A bare suction line: 50 ft of 7/8 in. have 11.5 ft2, which take up some 2 BTU/h for each ft2 and °F from air 45 °F
  warmer (free convection, MEM), 1,000 BTU/h; 480 lb/h of vapor (3 tons) warm by 10 °F of it. Shorter, longer, hotter: by level.
- A machine that hardly cools: of the sensible part no more is left than of the total, the vapor leaves the coil nearly
  at the return air, the condenser gives off what is left and the compressor's own heat (a fifth of the usual), so that
  liquid and condenser air come near outdoors, and a motor that pumps next to nothing still draws some 40 %; that
  much work on 15 % of the vapor heats it by 2.7 times the usual 110 °F, less what the shell loses. An empty
  circuit and a compressor that does not pump read alike from outside; the suction pressure tells them.
- Strips of 5 to 15 kW give a half of what a three-ton coil takes up to one and a half times as much: the air may
  leave warmer than it came.
- By gauge: superheat at the outdoor unit = suction line at the coil + its rise - evaporating, condensing over outdoor
  air = approach + subcooling, so that those two follow from the signs of the others (engine.diagnosis.cause).
- A coil that is not fed evaporates lower: the compressor pulls it down until its vapor is as much thinner as less comes,
  2 % for each °F.
- A condenser that is short of air runs hotter, by 0.5 % of the capacity and 1.2 % of the draw for each °F; the liquid
  that its end holds is then cooled by a larger difference, and subcooling rises a little.
- Gas that will not condense adds its own pressure to the gauge and little to the temperature of the liquid: 30 psi of
  it read as 6 °F on R-410A, where saturation rises by some 5 psi for each °F, and all of that as subcooling.
- A coil fed too much evaporates warmer; the suction is denser by 2 % for each °F, and the compressor draws more.
- Compressor watts go with flow and head. Condenser air rise goes with the heat over the airflow.
- A weak compressor puts more work into each pound: its draw over its capacity, 6 % more where it has lost 12 %, of some
  110 °F that a sound one adds. Behind an orifice it floods besides, as all that floods cools the discharge.

Signs of direction: engine physics and common practice, no single source. Sizes are good to about a third, and are used
so.
"""

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
from engine.readings.round import CONSTANT_AIRFLOW, ORIFICE

LESS = (-0.05, -0.12, -0.25, -0.5, -0.85)  # capacity, by level
SPLIT = (-0.033, -0.08, -0.165, -0.33, -0.8)  # 0.66 of it
SPLIT_STARVED = (-0.06, -0.145, -0.3, -0.6, -0.85)  # 1.2 of it
COLDER, LIGHTER, EASIER = (-0.5, -1.0, -2.0, -3.0), (0.0, -0.5, -1.5, -4.0), (-0.01, -0.02, -0.04, -0.07)
UNFED = (-2.0, -5.5, -11.5, -20.0, -35.0)  # evaporating temperature of a coil that is not fed
STARVED_TXV, STARVED_ORIFICE = (5.0, 12.0, 18.0, 22.0, 24.0), (7.0, 15.0, 21.0, 24.0, 25.0)  # suction line at the coil
GIVES_LESS, DRAWS_LESS = (-0.05, -0.12, -0.25, -0.5, -1.6), (-0.02, -0.05, -0.1, -0.18, -0.9)
# A condenser that cannot give its heat off, by how much higher it condenses.
HOTTER, HARDER = (5.0, 12.0, 22.0, 38.0), (0.06, 0.14, 0.26, 0.45)
LESS_BY_HEAD, SPLIT_BY_HEAD = (-0.025, -0.06, -0.11, -0.19), (-0.017, -0.04, -0.073, -0.125)


def _air(**part: Levels) -> dict[str, Levels]:
    return {
        "airflow": FLOW, "suction": COLDER, "evaporating": COLDER, "approach": LIGHTER, "amps": EASIER,
        "condenser_rise": (0.0, 0.0, -0.05, -0.2), **part,
    }  # fmt: skip


def _starved(approach: Levels, drop: Levels, subcooling: Levels) -> dict[str, Levels]:
    return {
        "capacity": LESS,
        "split": SPLIT_STARVED,
        "suction": STARVED_TXV,
        "suction_rise": (1.0, 2.0, 3.0, 3.0, 3.0),
        "evaporating": UNFED,
        "approach": approach,
        "subcooling": subcooling,
        "liquid_drop": drop,
        "amps": DRAWS_LESS,
        "condenser_rise": GIVES_LESS,
    }


# What more air alone would give is in what is expected at it; drops look small.
_SIZE = of_another_size(
    airflow=1.0, capacity=0.75, split=0.55, amps=1.0, filter_drop=-1.4, coil_drop=-1.8, return_drop=-1.9, supply_drop=-1.9
)  # fmt: skip
# An orifice feeds on at less load: superheat goes.
_FEEDS_ON: dict[str, Levels] = {
    "evaporating": (0.5, 1.0, 2.0, 3.0), "suction": (-2.0, -4.0, -5.0, -6.0), "suction_rise": (-1.0, -2.0, -3.0, -3.0),
    "approach": (0.0, 0.5, 0.5, 0.0), "amps": (0.0, 0.0, 0.0, 0.03), "hot_gas": (-3.0, -9.0, -18.0, -30.0),
}  # fmt: skip
_HOLDS: dict[str, dict[str, Levels]] = {
    ORIFICE: _FEEDS_ON,
    CONSTANT_AIRFLOW: {
        "airflow": HELD,
        "suction": tuple(h * 5 for h in HELD),
        "suction_rise": tuple(h * 3 for h in HELD),
        "evaporating": (0.0,) * len(HELD),
        "condenser_rise": (0.0,) * len(HELD),
        "approach": tuple(h * 3 for h in HELD),
    },
}
# What is not in the evaporator is in the condenser; how much of it shows as subcooling depends on the two coils.
_BACKS_UP = (1.0, 2.5, 3.0, 2.0, 0.0)
_BACKED_UP = (-3.0, -6.0, -9.0, -11.0, -9.0)  # approach
_DROPS_TXV, _DROPS_ORIFICE = (4.0, 10.0, 16.0, 22.0, 25.0), (0.0, 1.0, 7.0, 15.0, 20.0)
_FLAT, _BOILS = (0.0, 0.0, 0.0, 0.0, 0.0), (-6.0, -10.0, -10.0, -10.0, -10.0)


def _colder(drop: Levels) -> Levels:
    """Approach behind a spot in which the liquid that backed up before it drops by so much."""
    return tuple(backed_up - dropped for backed_up, dropped in zip(_BACKED_UP, drop, strict=True))


_HEAD: dict[str, Levels] = {
    "capacity": LESS_BY_HEAD, "split": SPLIT_BY_HEAD, "approach": HOTTER, "amps": HARDER,
    "suction": (0.5, 1.0, 2.0, 4.0), "evaporating": (0.5, 1.0, 2.0, 4.0), "subcooling": (0.5, 1.5, 3.0, 5.0),
}  # fmt: skip
_HEAD_BEFORE_ORIFICE: dict[str, dict[str, Levels]] = {ORIFICE: {
    "suction": (-2.0, -3.0, -3.0, -3.0), "suction_rise": (-0.5, -1.0, -1.5, -2.0), "evaporating": (1.5, 2.5, 3.5, 5.0),
    "subcooling": (0.0, 0.0, -1.0, -2.0), "hot_gas": (-2.0, -5.0, -8.0, -12.0),
}}  # fmt: skip
# fmt: off
COOLING = (
    Cause(HEALTHY, "Nothing wrong that shows", HEALTHY, 28.0),
    Cause("blocked_filter", "Filter loaded or blocked", "low_airflow", 6.0, _air(filter_drop=HINDERED_FILTER), _HOLDS,
          why="the filter takes more static than its airflow explains", why_by={CONSTANT_AIRFLOW: "the motor holds its airflow as long as it can, and the filter takes static and watts for it"}),
    Cause("dirty_evaporator", "Evaporator dirty or covered", "low_airflow", 5.0, _air(coil_drop=HINDERED, split=(0.0, -0.02, -0.05, -0.12), capacity=(0.0, -0.02, -0.06, -0.15)), _HOLDS,
          why="the coil takes more static than its airflow explains", why_by={CONSTANT_AIRFLOW: "the motor holds its airflow as long as it can, and the coil takes static and watts for it"}),
    Cause("tight_ducts", "Ducts tight or registers closed", "low_airflow", 6.0, _air(supply_drop=HINDERED, return_drop=HINDERED_RETURN), _HOLDS,
          why="the ducts take more static than their airflow explains", why_by={CONSTANT_AIRFLOW: "the motor holds its airflow as long as it can, and the ducts take static and watts for it"}),
    Cause("low_blower", "Blower slow (tap, wheel or wiring)", "low_airflow", 5.0, _air(filter_drop=(0.0,) * 4), {ORIFICE: _FEEDS_ON},
          why="less air moves, and nothing on its way takes more static for it"),
    Cause("high_airflow", "Airflow high", "high_airflow", 2.0, {"airflow": (0.15, 0.25, 0.4)}, {ORIFICE: {"suction": (1.0, 1.5, 2.0)}},
          why="more air than the coil can dry"),
    Cause("undercharge", "Low on charge", "charge_low", 7.5,
          {"capacity": (-0.03, -0.06, -0.12, -0.25, -0.5, -0.85), "split": (-0.02, -0.04, -0.11, -0.27, -0.6, -0.85), "suction": (0.5, 1.5, 7.0, 16.0, 22.0, 24.0),
           "suction_rise": (0.0, 0.5, 1.0, 2.0, 3.0, 3.0), "evaporating": (0.0, 0.0, -2.0, -7.0, -15.0, -35.0), "approach": (4.5, 8.5, 7.5, 5.0, 0.0, -7.0),
           "subcooling": (-5.0, -9.5, -10.0, -10.0, -10.0, -10.0), "liquid_drop": (0.0, 0.0, 0.5, 1.0, 1.5, 1.5), "amps": (-0.01, -0.02, -0.05, -0.1, -0.2, -0.9),
           "condenser_rise": (-0.03, -0.06, -0.12, -0.25, -0.5, -1.6)},
          {ORIFICE: {"split": (-0.03, -0.06, -0.145, -0.3, -0.6, -0.85), "suction": (4.0, 7.0, 13.0, 20.0, 24.0, 25.0),
                     "suction_rise": (0.5, 1.0, 2.0, 3.0, 3.0, 3.0), "evaporating": (-1.0, -2.0, -4.0, -10.0, -18.0, -35.0), "approach": (2.0, 4.5, 6.5, 4.0, -1.0, -7.0),
                     "subcooling": (-3.0, -6.0, -9.0, -10.0, -10.0, -10.0)}},
          why="subcooling goes first, so the liquid line rises over outdoors; then the evaporator starves", why_by={ORIFICE: "the orifice passes less, so the evaporator starves and superheat goes up; the condenser has less liquid to subcool"}),
    Cause("overcharge", "Overcharged", "charge_high", 3.0,
          {"approach": (-4.0, -6.5, -8.5, -12.0), "amps": (0.03, 0.06, 0.1, 0.18), "capacity": (0.02, 0.03, 0.04, 0.04), "split": (0.013, 0.02, 0.027, 0.027), "subcooling": (6.0, 10.0, 16.0, 28.0)},
          {ORIFICE: {"approach": (-2.5, -4.5, -6.5, -9.0), "amps": (0.02, 0.05, 0.1, 0.2), "suction": (-4.0, -6.0, -7.0, -7.0), "suction_rise": (-1.0, -2.5, -3.0, -3.0), "evaporating": (0.5, 1.0, 1.5, 2.0),
                     "subcooling": (4.0, 7.0, 11.0, 17.0), "hot_gas": (-3.0, -9.0, -14.0, -20.0), "capacity": (0.01, 0.02, 0.02, 0.02), "split": (0.015, 0.03, 0.03, 0.03)}},
          why="more liquid collects in the condenser: the line comes nearer to outdoors, the head and the amps go up"),
    Cause("restriction", "Liquid line restricted", "starved", 1.0, _starved(_BACKED_UP, _DROPS_TXV, _BACKS_UP), {ORIFICE: {"suction": STARVED_ORIFICE, "liquid_drop": _DROPS_ORIFICE}},
          why="liquid backs up before the spot and cools towards outdoors; the line drops across it; the evaporator starves"),
    Cause("restriction_outdoors", "Liquid line restricted inside the outdoor unit", "starved", 0.5, _starved(_colder(_DROPS_TXV), _FLAT, _BOILS),
          {ORIFICE: {"suction": STARVED_ORIFICE, "approach": _colder(_DROPS_ORIFICE)}}, passes=("approach",),
          why="liquid boils behind a spot before the clamp (a hidden drier, a valve that is not open), so the line is colder than the outdoor air; the evaporator starves"),
    Cause("starving_valve", "Metering device starving", "starved", 2.0, _starved(_BACKED_UP, _FLAT, _BACKS_UP), {ORIFICE: {"suction": STARVED_ORIFICE}},
          why="liquid backs up and cools towards outdoors, with no drop along the line; the evaporator starves"),
    Cause("overfeeding", "Metering device overfeeding", "overfed", 1.5,
          {"suction": (-2.5, -5.0, -8.0), "suction_rise": (0.0, -0.5, -2.0), "evaporating": (0.5, 1.0, 2.0), "approach": (0.5, 1.5, 2.5), "subcooling": (-0.5, -1.5, -2.5), "capacity": (0.0, -0.01, -0.03), "split": (0.0, -0.007, -0.02)},
          {ORIFICE: {"suction": (-3.0, -5.0, -7.0), "suction_rise": (-1.5, -3.0, -3.0), "approach": (2.0, 5.0, 8.0), "subcooling": (-2.0, -5.0, -8.0), "amps": (0.02, 0.05, 0.09), "hot_gas": (-3.0, -10.0, -20.0)}},
          why="the suction line comes down to the evaporating temperature", why_by={ORIFICE: "the suction line comes down to the evaporating temperature, and what floods the evaporator is missing in the condenser"}),
    Cause("dirty_condenser", "Condenser dirty", "condenser", 6.0,
          _HEAD | {"condenser_rise": (0.3, 0.6, 0.9, 1.3)}, _HEAD_BEFORE_ORIFICE,
          why="less air takes the heat: it leaves hotter, the liquid line and the amps go up"),
    Cause("weak_condenser_fan", "Condenser fan weak (or the wrong blade)", "condenser", 2.0,
          _HEAD | {"condenser_rise": (0.35, 0.75, 1.2, 1.7)}, _HEAD_BEFORE_ORIFICE,
          why="less air takes the heat: it leaves hotter, the liquid line and the amps go up"),
    Cause("non_condensables", "Non-condensables", "condenser", 0.8,
          {"approach": (0.5, 1.0, 2.0), "subcooling": (5.0, 10.0, 18.0), "amps": (0.06, 0.15, 0.3), "capacity": (-0.01, -0.02, -0.05), "split": (-0.007, -0.013, -0.033)},
          {ORIFICE: {"suction": (-3.0, -6.0, -9.0), "suction_rise": (-1.0, -2.0, -3.0), "evaporating": (0.5, 1.0, 2.0), "approach": (2.0, 5.0, 8.0), "subcooling": (2.5, 7.0, 13.0), "hot_gas": (-10.0, -22.0, -38.0)}},
          why="gas that will not condense adds its own pressure: amps up with the condenser's air as it should be"),
    Cause("weak_compressor", "Compressor weak", "compressor", 1.5,
          {"capacity": LESS, "split": SPLIT, "suction": (1.5, 3.0, 6.0, 12.0, 24.0), "evaporating": (1.5, 3.0, 6.0, 12.0, 25.0), "approach": (-0.7, -1.7, -3.5, -7.0, -7.0), "amps": (-0.03, -0.07, -0.14, -0.25, -0.9), "condenser_rise": GIVES_LESS,
           "subcooling": (-0.3, -0.7, -1.5, -3.0, -6.0), "hot_gas": (2.0, 6.0, 16.0, 50.0, 120.0)},
          {ORIFICE: {"suction": (-1.0, -1.0, -1.0, 0.0, 20.0), "suction_rise": (-1.0, -2.0, -3.0, -3.0, -3.0), "approach": (0.5, 1.5, 3.0, 3.0, -5.0), "subcooling": (-1.5, -4.0, -7.0, -10.0, -10.0), "hot_gas": (0.0, -5.0, -12.0, -14.0, -14.0)}},
          why="it pumps less: suction warmer, less heat, less draw, and a liquid line that comes nearer to outdoors", why_by={ORIFICE: "it pumps less: less heat and less draw, while the orifice feeds on and floods the evaporator"}),
    Cause("return_leak", "Return leak from a hot space", "return_duct", 1.8, {"grille_to_unit": (2.5, 5.5, 9.0)},
          why="air of another space is drawn in on the way to the unit"),
    Cause("return_gain", "Hot return duct run", "return_duct", 1.2, {"grille_to_unit": (2.5, 5.5, 9.0)},
          why="the return air warms on its way to the unit and keeps its dew point"),
    Cause("supply_gain", "Hot supply duct run", "supply_duct", 3.0, {"unit_to_register": (2.0, 4.0, 6.5)},
          why="the air warms on its way to the register"),
    Cause("reheat", "Something reheats the supply air", "supply_duct", 0.5, {"unit_to_register": (4.0, 8.0, 14.0)},
          why="the air warms on its way to the register by more than a duct does"),
    Cause("bare_suction_line", "Bare suction line", "suction_line", 1.2, {"suction_rise": (4.5, 8.5, 14.0)},
          why="the vapor warms on its way to the compressor by more than an insulated line lets it"),
    Cause("heat_on", "Heat on inside the unit", "heat_on", 1.0, {"split": (-0.15, -0.35, -0.65, -1.2, -2.2), "capacity": (-0.11, -0.26, -0.48, -0.9, -1.65)}, passes=("split", "capacity"),
          why="the coil does its part, and the plenum is warmer than that: heat is added on the way to it"),
    Cause("other_size", "The plate is another machine's", "plate", 2.0, _SIZE,
          why="airflow, capacity and draw are all off by the same share, as if the machine were of another size"),
    Cause("outdoor_probe", "Outdoor probe in the sun", "probe", 1.5, probe=("outdoor", (5.0, 11.0, 20.0)),
          why="everything that rests on the outdoor air is off in the same direction"),
    Cause("liquid_clamp", "Liquid line clamp loose or in the wrong place", "probe", 1.5, probe=("liquid_line_outdoor", (-10.0, -5.5, -2.5, 4.0)),
          why="only what rests on the liquid line's clamp is off"),
    Cause("suction_clamp", "Suction line clamp loose or in the wrong place", "probe", 1.5, probe=("suction_line_outdoor", (3.0, 6.5, 12.0)),
          why="only what rests on the suction line's clamp is off"),
    Cause("discharge_clamp", "Discharge line clamp loose or in the wrong place", "probe", 1.0, probe=("discharge_line", (-40.0, -20.0, -10.0)),
          why="only the discharge line's clamp is off: open to the air it reads too cold"),
    Cause("supply_probe", "Supply probe wrong", "probe", 1.0, probe=("supply", (-6.0, -3.0, 3.0, 6.0)),
          why="only what rests on the supply probe is off"),
    Cause("return_probe", "Return probe wrong", "probe", 0.6, probe=("return", (-6.0, -3.0, 3.0, 6.0)),
          why="only what rests on the return probe is off"),
)
# fmt: on
# Two at once that travel together (field accounts, common practice): their signs add.
COOLING_TOGETHER = (
    ("dirty_evaporator", "overcharge"),
    ("blocked_filter", "undercharge"),
    ("low_blower", "overcharge"),
    ("low_blower", "undercharge"),
    ("blocked_filter", "dirty_condenser"),
    ("dirty_evaporator", "dirty_condenser"),
    ("dirty_condenser", "undercharge"),
    ("tight_ducts", "undercharge"),
    ("tight_ducts", "dirty_condenser"),
    ("blocked_filter", "starving_valve"),
    ("return_leak", "undercharge"),
    ("return_leak", "tight_ducts"),
)  # fmt: skip
