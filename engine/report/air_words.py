"""The airflow, the split schools, the pocket formulas and the weather's choice of mode in words."""

from dataclasses import dataclass

from engine.errors import EngineError
from engine.expected import schools
from engine.expected.heating import COOLING, HEATING, mode_by_weather
from engine.houserules.rules import HouseRules
from engine.physics.airflow.methods import METHODS
from engine.readings.airflows import Airflows
from engine.readings.measured import Measured
from engine.report.why_words import why
from engine.report.words import Words, capital, listed, lower_first, share

_CAVEATS = {
    "plane_not_said": "The traverse does not say which air it was taken in: taken as return air, with a wider margin.",
    "outside_table": "{0:.2f} in. w.c. is outside the blower table ({1:g} to {2:g}): extended from its end.",
    "constant_airflow": "A constant-airflow motor holds its airflow: watts and statics show a loading filter or coil, the table does not.",
    "dry_coil_table": "The table is for a dry coil: take the wet coil's extra drop off the static first.",
    "dirty_wheel": "A dirty wheel moves less than its table.",
    "clock_the_meter": "Gas input from the plate: clock the meter to be sure.",
    "out_of_sight": "Probe out of sight of the strips or the exchanger.",
    "few_points": "Only {0:.0f} points: take {1:.0f} or more.",
    "free_area": "The free-area factor of a grille is the maker's; a guess moves the airflow by as much.",
    "while_clean_filter": "Holds only while the filter is as clean as at baseline: dirt reads as more air.",
    "while_clean_coil": "Holds only while the coil is as clean as at baseline: dirt reads as more air.",
}


def airflow_notes(found: Airflows, words: Words) -> tuple[str, ...]:
    """What is to be read with the airflow: caveats, ways that failed, ways that disagree."""
    notes = [caveat_said(*caveat) for estimate in found.estimates for caveat in estimate.caveats]
    notes += [f"{METHODS[method].label}: {_failed(reason)}." for method, reason in found.failed]
    return tuple(dict.fromkeys((*notes, *disagreements(found))))


def disagreements(found: Airflows) -> tuple[str, ...]:
    """Which ways to the airflow differ by more than their margins."""
    apart = found.weighed.disagreements if found.weighed else ()
    return tuple(
        f"{METHODS[first].label} and {lower_first(METHODS[second].label)} differ by {share(abs(by))}, more than their margins: one of them is wrong."
        for first, second, by in apart
    )


def caveat_said(id_: str, numbers: tuple[float, ...]) -> str:
    """A caveat of an airflow."""
    return _CAVEATS[id_].format(*numbers)


def _failed(reason: EngineError | str) -> str:
    return "its result is not possible" if reason == "cannot_be" else str(reason)


EXTERNAL = {
    "air_handler": "Return side before the blower cabinet, supply side after it: the coil is inside and does not count.",
    "furnace_with_cased_coil": "Between filter and furnace on the return side, between furnace and coil on the supply side: the cased coil, "
    "and often the filter rack, are outside and count.",
}

SCHOOLS = {
    schools.COMPUTED: (
        "Computed for today",
        "This air, this airflow, this weather, this altitude, with the blower's heat.",
    ),
    schools.FLAT: (
        "Flat band",
        "{0} to {1} is good, {2} to {3} borderline, {4} and under wants service. Common practice.",
    ),
    schools.CLIMATE: ("By climate", "About {5} in a dry climate, {6} to {7} in a humid one. Common practice."),
    schools.RETURN_AIR: (
        "Adjusted for return air",
        "This return air at 400 CFM/ton, {8} outdoors, sea level; within {9}. Common practice.",
    ),
}


def school_said(target: schools.SplitTarget, words: Words) -> tuple[str, str]:
    """A school of the split: what to call it, and its reason."""
    label, reason = SCHOOLS[target.school]
    if target.why is not None:
        return label, f"{capital(why(target.why, words))}."
    figures = [words.difference(f, 0) for f in (18.0, 21.0, 16.0, 17.0, 15.0, 20.0, 17.0, 18.0)]
    return label, reason.format(*figures, words.temperature(95.0, 0), words.difference(3.0, 0))


def mode_said(outdoor_f: float, heat_pump: bool, rules: HouseRules, words: Words) -> tuple[str, str]:
    """The mode the weather asks for (cooling where it asks for neither), and why in a sentence."""
    mode, outdoors = mode_by_weather(outdoor_f, heat_pump, rules), words.temperature(outdoor_f, 0)
    if mode == COOLING:
        return COOLING, f"{outdoors}: warm enough to test cooling."
    if mode == HEATING:
        return HEATING, f"{outdoors}: a heat pump is tested in heating."
    needs = [f"{words.temperature(rules.least_outdoor_f, 0)} and up"]
    needs += [f"below {words.temperature(rules.most_outdoor_heating_f, 0)}"] if heat_pump else []
    return (
        COOLING,
        f"{outdoors}: no charge verdict. Take the air side and the statics, and come back at {listed(needs, 'or')}.",
    )


# -- the pocket formulas: they hold for standard air only, and how far off they are here is shown ---------------------------------

FORMULAS = (
    ("1.08 × CFM × ΔT", "pocket_sensible_btuh", "sensible_btuh"),
    ("4.5 × CFM × Δh", "pocket_total_btuh", "total_btuh"),
    ("0.68 × CFM × Δgrains", "pocket_latent_btuh", "latent_btuh"),
)


@dataclass(frozen=True)
class PocketRow:
    """A pocket formula beside the exact result [BTU/h]."""

    formula: str
    pocket_btuh: float
    exact_btuh: float

    @property
    def error_share(self) -> float:
        """(pocket - exact) / exact."""
        return self.pocket_btuh / self.exact_btuh - 1.0


def pocket_rows(m: Measured) -> tuple[PocketRow, ...]:
    """The rows that can be given: in cooling, with a measured or stated airflow."""
    if m.round.mode != "cooling" or m.airflows.assumed:
        return ()
    return tuple(
        PocketRow(f, m[quick].value, m[exact].value)
        for f, quick, exact in FORMULAS
        if m[quick].known and m[exact].known and m[exact].value
    )
