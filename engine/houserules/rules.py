"""The house rules in force, each with its alternatives and its reason.

A rule is one entry of RULES; `HouseRules` holds a shop's choices. Adding a rule: one entry, one field, one test row.
"""

from dataclasses import dataclass, fields
from typing import Any

from engine.errors import EngineError

VERSION = "4"
# The order of the places. The outdoor air comes before the supply air, because the expected split needs it.
OUTDOOR_AIR_FIRST, INSIDE_FIRST, OUTSIDE_FIRST = "outdoor_air_first", "inside_first", "outside_first"
WALK_ORDERS = (OUTDOOR_AIR_FIRST, INSIDE_FIRST, OUTSIDE_FIRST)
SEARCH_NOW, SECOND_ADDITION, WATCH = "search_now", "second_addition", "watch"
LEAK_SEARCHES = (SEARCH_NOW, SECOND_ADDITION, WATCH)
# Where what is known of a kind comes from (engine.kinds); whoever calls the engine brings it.
OWN_VISITS, A_FILE, NOWHERE = "own_visits", "a_file", "nowhere"
KINDS_FROM = (OWN_VISITS, A_FILE, NOWHERE)


@dataclass(frozen=True)
class Rule:
    """One choice: its field in HouseRules, what to call it, its unit, what may be chosen, and why one would."""

    id: str
    title: str
    unit: str
    default: object
    alternatives: tuple[Any, ...]
    reason: str


# One entry a line or two: a table.
# fmt: off
RULES = (
    Rule("split_school", "Expected temperature split", "", "computed", ("computed", "flat", "climate", "return_air"),
         "A flat band condemns a healthy unit drying a humid house and passes one a third short in dry, high air."),
    Rule("gauge_school", "When a check without gauges fails", "", "air_first", ("air_first", "at_once"),
         "Clean and prove the air first: most failures end there. Some connect at once. Common practice."),
    Rule("settle_minutes", "Running before a reading counts", "min", 15.0, (5.0, 10.0, 15.0),
         "10 to 15 minutes after start and after every change; some settle for 5. Common practice."),
    Rule("walk_order", "Order of the places", "", OUTDOOR_AIR_FIRST, WALK_ORDERS,
         "The expected split needs the outdoor air: read it on the way in. Some read the whole inside first, some the outside. Common practice."),
    Rule("least_outdoor_f", "Cooling is judged from this outdoor temperature up", "°F", 65.0, (60.0, 65.0),
         "Below it the head is low and a good system looks wrong. Common practice."),
    Rule("split_tolerance_f", "Split may differ from expected by", "°F", 3.0, (1.5, 2.0, 3.0),
         "3 °F in the adjusted-split practice; tighter suits a system with its own baseline. Common practice."),
    Rule("capacity_tolerance_share", "Capacity may differ from expected by", "share", 0.10, (0.05, 0.10, 0.15),
         "Within 10 %. Common practice."),
    Rule("airflow_low_cfm_per_ton", "Airflow is low below", "CFM/ton", 350.0, (325.0, 350.0),
         "350 to 450 CFM per nominal ton is normal. Common practice."),
    Rule("airflow_high_cfm_per_ton", "Airflow is high above", "CFM/ton", 450.0, (450.0, 475.0),
         "350 to 450 CFM per nominal ton is normal. Common practice."),
    Rule("airflow_seriously_low_cfm_per_ton", "Airflow is seriously low below", "CFM/ton", 300.0, (275.0, 300.0),
         "Under it a coil ices. Common practice."),
    Rule("most_outdoor_heating_f", "A heat pump is judged in heating below", "°F", 50.0, (45.0, 50.0, 55.0),
         "Between this and the cooling limit neither mode is loaded enough. Common practice."),
    Rule("approach_tolerance_f", "Approach may differ from expected by", "°F", 4.0, (3.0, 4.0, 5.0),
         "Class figures are 5 °F apart. Common practice."),
    Rule("subcooling_tolerance_f", "Subcooling may differ from target by", "°F", 3.0, (2.0, 3.0),
         "ANSI/ACCA 5 QI and California Title 24 RA3.2 (from memory)."),
    Rule("orifice_superheat_tolerance_f", "Orifice superheat may differ from target by", "°F", 5.0, (3.0, 5.0),
         "5 in the standards (from memory); some hold to 3."),
    Rule("drier_drop_f", "A drier may drop", "°F", 1.0, (1.0, 3.0),
         "1 °F; some allow 3. Common practice."),
    Rule("amps_tolerance_share", "Amps may differ from baseline by", "share", 0.10, (0.05, 0.10),
         "5 to 10 %. Common practice."),
    Rule("water_factor", "Heat per GPM and °F of loop fluid", "", "fluid", ("fluid", "pocket"),
         "From the fluid's density and specific heat, or 500 and 485. Common practice."),
    Rule("follow_up_split_f", "Split may differ from baseline by", "°F", 1.5, (1.0, 1.5, 2.0),
         "Corrected for weather. Common practice."),
    Rule("follow_up_line_f", "Line temperatures may differ from baseline by", "°F", 2.5, (2.0, 2.5, 3.0),
         "2 to 3. Common practice."),
    Rule("follow_up_static_inwc", "Statics may differ from baseline by", "in. w.c.", 0.03, (0.03, 0.05),
         "Or by the share below. Common practice."),
    Rule("follow_up_static_share", "Statics may differ from baseline by", "share", 0.1, (0.05, 0.1),
         "Common practice."),
    Rule("follow_up_capacity_share", "Capacity, airflow may differ from baseline by", "share", 0.1, (0.05, 0.1),
         "A bare 5 % circulates. Common practice."),
    Rule("rejection_tolerance_share", "Heat of rejection may differ from the published by", "share", 0.1, (0.05, 0.1, 0.15),
         "Within 10 %. Common practice."),
    Rule("over_ambient_old_f", "Condensing over ambient, old equipment", "°F", 30.0, (25.0, 30.0, 35.0),
         "About 30. Common practice."),
    Rule("over_ambient_low_f", "Condensing over ambient, low efficiency", "°F", 25.0, (20.0, 25.0, 30.0),
         "About 25. Common practice."),
    Rule("over_ambient_mid_f", "Condensing over ambient, mid efficiency", "°F", 20.0, (15.0, 20.0, 25.0),
         "About 20. Common practice."),
    Rule("over_ambient_high_f", "Condensing over ambient, high efficiency", "°F", 15.0, (10.0, 15.0, 20.0),
         "About 15. Common practice."),
    Rule("leak_search", "A leak is searched for", "", SECOND_ADDITION, LEAK_SEARCHES,
         "Some search before anything is added; most seal the caps, add and look at the next visit, but search before a second addition; some only watch. Common practice."),
    Rule("filter_months", "A filter lasts, where its drop does not say when", "months", 12.0, (3.0, 6.0, 12.0),
         "Thin filters a season or less, deep ones up to a year. Where its drop was read as it rose, that decides. Common practice."),
    Rule("kinds_from", "What sound machines of a kind do is known from", "", OWN_VISITS, KINDS_FROM,
         "Machines of one line differ less than machines at large. Only visits count that were sound and confirmed: by gauges, by what came of them, or as a baseline."),
)
# fmt: on


@dataclass(frozen=True)
class HouseRules:
    """One shop's choices. Units as in RULES."""

    split_school: str = "computed"
    gauge_school: str = "air_first"
    settle_minutes: float = 15.0
    walk_order: str = OUTDOOR_AIR_FIRST
    least_outdoor_f: float = 65.0
    split_tolerance_f: float = 3.0
    capacity_tolerance_share: float = 0.10
    airflow_low_cfm_per_ton: float = 350.0
    airflow_high_cfm_per_ton: float = 450.0
    airflow_seriously_low_cfm_per_ton: float = 300.0
    most_outdoor_heating_f: float = 50.0
    approach_tolerance_f: float = 4.0
    subcooling_tolerance_f: float = 3.0
    orifice_superheat_tolerance_f: float = 5.0
    drier_drop_f: float = 1.0
    amps_tolerance_share: float = 0.10
    water_factor: str = "fluid"
    follow_up_split_f: float = 1.5
    follow_up_line_f: float = 2.5
    follow_up_static_inwc: float = 0.03
    follow_up_static_share: float = 0.1
    follow_up_capacity_share: float = 0.1
    rejection_tolerance_share: float = 0.1
    over_ambient_old_f: float = 30.0
    over_ambient_low_f: float = 25.0
    over_ambient_mid_f: float = 20.0
    over_ambient_high_f: float = 15.0
    leak_search: str = SECOND_ADDITION
    filter_months: float = 12.0
    kinds_from: str = OWN_VISITS
    version: str = VERSION


DEFAULT = HouseRules()


def choose(choices: dict[str, Any], version: str = VERSION) -> HouseRules:
    """House rules with these choices and the defaults for the rest; an unknown rule or choice is an error naming it."""
    known = {rule.id: rule for rule in RULES}
    for name, value in choices.items():
        if name not in known:
            raise EngineError(f"house rule '{name}' is unknown; known are {', '.join(known)}")
        if value not in known[name].alternatives:
            raise EngineError(f"house rule '{name}' cannot be {value!r}; choose from {known[name].alternatives}")
    return HouseRules(**choices, version=version)


def field_names() -> set[str]:
    """The rules HouseRules holds (a test compares them with RULES)."""
    return {field.name for field in fields(HouseRules)} - {"version"}
