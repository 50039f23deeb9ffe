"""Static pressures: what is external for this unit, against rating and baseline, and the shares of filter and coil."""

from dataclasses import dataclass, field
from math import hypot

from engine.airflow.drop_ratio import manometer_u95_inwc
from engine.constants import (
    COIL_DROP_LOOK,
    FILTER_DROP_LOOK,
    STANDARD_AIR_VOLUME,
    STATIC_HIGH,
    STATIC_RATING_LIMIT,
)
from engine.errors import EngineError, OutOfRange
from engine.houserules.rules import DEFAULT, HouseRules

# What lies outside the unit's own rating: on an air handler the coil is inside; with a furnace the cased coil is outside.
EXTERNAL = {
    "air_handler": "Return side before the blower cabinet, supply side after it: the coil is inside and does not count.",
    "furnace_with_cased_coil": "Between filter and furnace on the return side, between furnace and coil on the supply side: "
    "the cased coil, and often the filter rack, are outside and count.",
}
STATIC_RANGE_INWC = (0.0, 3.0)


@dataclass(frozen=True)
class Statics:
    """Readings [in. w.c.], signs dropped: on the return side and supply side of the unit, across filter and coil (None: not read)."""

    return_inwc: float
    supply_inwc: float
    filter_drop_inwc: float | None = None
    coil_drop_inwc: float | None = None
    coil_wet: bool = True

    @property
    def total_inwc(self) -> float:
        """Total external static [in. w.c.] as read: return + supply, signs dropped."""
        return abs(self.return_inwc) + abs(self.supply_inwc)

    @property
    def total_u95_inwc(self) -> float:
        """95 % of that total: the manometer's, at both ends."""
        return hypot(manometer_u95_inwc(self.return_inwc), manometer_u95_inwc(self.supply_inwc))


@dataclass(frozen=True)
class StaticsResult:
    """Total external static [in. w.c.] as read and at standard density, its 95 %, shares of the total, findings as sentences."""

    total_inwc: float
    total_standard_inwc: float
    u95_inwc: float
    shares: dict[str, float]
    what_is_external: str
    findings: tuple[str, ...] = field(default_factory=tuple)


def assess_statics(
    statics: Statics,
    unit: str,
    specific_volume_ft3lb: float,
    rating_inwc: float = STATIC_RATING_LIMIT.value,
    baseline: Statics | None = None,
    rules: HouseRules = DEFAULT,
) -> StaticsResult:
    """Total external static = return + supply, signs dropped; scaled to standard density by the air's volume [ft3/lb].

    unit: a key of EXTERNAL. rating_inwc: the plate's maximum, else 0.5. Against a baseline (at the same density): the house rules' follow-up tolerances.
    Limits: common practice, no single source; the baseline beats all of them.
    """
    if unit not in EXTERNAL:
        raise EngineError(f"unit '{unit}' is unknown; known are {', '.join(EXTERNAL)}")
    for name, value in vars(statics).items():
        if isinstance(value, float) and not STATIC_RANGE_INWC[0] <= abs(value) <= STATIC_RANGE_INWC[1]:
            raise OutOfRange(name.replace("_inwc", "").replace("_", " "), value, "in. w.c.", *STATIC_RANGE_INWC)
    total, u95 = statics.total_inwc, statics.total_u95_inwc
    scale = specific_volume_ft3lb / STANDARD_AIR_VOLUME.value
    drops = {"filter": statics.filter_drop_inwc, "coil": statics.coil_drop_inwc}
    outside = {"filter", "coil"} if unit == "furnace_with_cased_coil" else {"filter"}
    shares = {name: drop / total for name, drop in drops.items() if drop is not None and name in outside and total > 0}
    findings = _against_limits(total * scale, rating_inwc, drops, statics.coil_wet)
    if baseline:
        findings += _against_baseline(statics, baseline, rules)
    return StaticsResult(total, total * scale, u95, shares, EXTERNAL[unit], tuple(findings))


def _against_limits(total_standard: float, rating: float, drops: dict[str, float | None], wet: bool) -> list[str]:
    found = []
    if total_standard > rating:
        grade = "high" if total_standard >= STATIC_HIGH.value else "over the rating"
        found.append(
            f"Total external static {total_standard:.2f} in. w.c. at standard density is {grade}: the rating limit is {rating:.2f}."
        )
    if drops["filter"] is not None and drops["filter"] > FILTER_DROP_LOOK.value:
        found.append(
            f"The filter drops {drops['filter']:.2f} in. w.c.: over about {FILTER_DROP_LOOK.value:.2f} it deserves a look."
        )
    if drops["coil"] is not None and wet and drops["coil"] > COIL_DROP_LOOK.value:
        found.append(
            f"The wet coil drops {drops['coil']:.2f} in. w.c.: over about {COIL_DROP_LOOK.value:.2f} it deserves a look."
        )
    return found


def _against_baseline(now: Statics, then: Statics, rules: HouseRules) -> list[str]:
    found = []
    pairs = [
        ("Return static", now.return_inwc, then.return_inwc),
        ("Supply static", now.supply_inwc, then.supply_inwc),
        ("Filter drop", now.filter_drop_inwc, then.filter_drop_inwc),
    ]
    if now.coil_wet == then.coil_wet:
        pairs.append(("Coil drop", now.coil_drop_inwc, then.coil_drop_inwc))
    for name, value, was in pairs:
        if value is None or was is None:
            continue
        value, was = abs(value), abs(was)
        if abs(value - was) > max(rules.follow_up_static_inwc, rules.follow_up_static_share * was):
            found.append(f"{name} {value:.2f} in. w.c. was {was:.2f} at baseline.")
    return found
