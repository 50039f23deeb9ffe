"""Airflow from the pressure drop across filter or coil against its baseline: flow goes with a root of the drop."""

from dataclasses import dataclass
from math import hypot, log

from engine.constants import (
    COIL_DROP_EXPONENT,
    DROP_EXPONENT_SPREAD,
    FILTER_DROP_EXPONENT,
    MANOMETER_FLOOR,
    MANOMETER_SHARE,
)
from engine.errors import EngineError
from engine.physics.airflow.methods import AirflowEstimate

EXPONENTS = {"coil": COIL_DROP_EXPONENT, "filter": FILTER_DROP_EXPONENT}


@dataclass(frozen=True)
class DropBaseline:
    """What the part dropped when it was known to be clean: drop [in. w.c.], airflow [CFM] and its 95 % [CFM], density
    volume [ft3/lb].
    """

    drop_inwc: float
    cfm: float
    u95_cfm: float
    specific_volume_ft3lb: float
    wet: bool


def drop_ratio(
    part: str, drop_inwc: float, baseline: DropBaseline, specific_volume_ft3lb: float, wet: bool
) -> AirflowEstimate:
    """Airflow [CFM] from a part's pressure drop against its baseline.

    part: 'coil' or 'filter'. drop_inwc: now [in. w.c., over 0]. specific_volume_ft3lb: of the air through it now
    [ft3/lb dry air]. wet: whether the coil is wet now.
    Equation: CFM = baseline CFM x (drop / baseline drop, at one density)^(1/n), n of 1.8 for a wet coil and 1.3 to 1.5
    for a pleated filter [1]. Only while the part is as clean as at baseline: dirt raises the drop and would read as
    more air. A coil is compared wet with wet and dry with dry.

    [1] Power law of drop with flow: ASHRAE Handbook - Fundamentals, "Duct Design"; the exponents MEM.
    """
    if part not in EXPONENTS:
        raise EngineError(f"'{part}' has no drop exponent; known are {', '.join(EXPONENTS)}")
    if not (drop_inwc > 0 and baseline.drop_inwc > 0):
        raise EngineError("a pressure drop is above zero: drop the sign")
    if part == "coil" and wet != baseline.wet:
        raise EngineError(
            "a coil drop is compared wet with wet, dry with dry; the baseline was " + ("wet" if baseline.wet else "dry")
        )
    n = EXPONENTS[part].value
    ratio = drop_inwc * specific_volume_ft3lb / (baseline.drop_inwc * baseline.specific_volume_ft3lb)
    cfm = baseline.cfm * ratio ** (1.0 / n)
    reading = (
        hypot(manometer_u95_inwc(drop_inwc) / drop_inwc, manometer_u95_inwc(baseline.drop_inwc) / baseline.drop_inwc)
        / n
    )
    exponent = DROP_EXPONENT_SPREAD.value / n**2 * abs(log(ratio))
    share = hypot(baseline.u95_cfm / baseline.cfm, reading, exponent)
    return AirflowEstimate(f"drop_ratio_{part}", cfm, share * cfm, "return", ((f"while_clean_{part}", ()),))


def manometer_u95_inwc(reading_inwc: float) -> float:
    """95 % uncertainty [in. w.c.] of a static or drop: 1 % + 0.005 in. w.c. (MEM)."""
    return MANOMETER_SHARE.value * abs(reading_inwc) + MANOMETER_FLOOR.value
