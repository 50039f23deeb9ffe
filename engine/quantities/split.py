"""Temperature split at the unit: return less supply dry bulb, against what this machine should give with this air and
airflow.
"""

from engine.constants import AIRFLOW_SPREAD_SOUND, ROUNDED_READINGS
from engine.expected.schools import COMPUTED
from engine.expected.split_band import SplitBand
from engine.expected.today import Expected
from engine.quantities.quantity import At, Quantity, compared
from engine.quantities.residual import SHARE
from engine.readings.measured import Measured
from engine.uncertainty.estimate import Estimate

NO_COOLING = -1.0  # as a share of what is expected: no cause of the circuit warms the air


def split(m: Measured, e: Expected) -> Quantity | None:
    """The split [°F] against the shop's school; the diagnosis always goes by the computed one. Cooling."""
    school = next((s for s in e.schools if s.school == m.round.rules.split_school), None)
    if school is None:
        return None
    measured, computed = m["split_f"], e["expected_split_f"]
    expected, authority = computed, "published_curves"
    off: Estimate | None = e["split_minus_expected_f"]
    if school.school == COMPUTED and e.split_band is not None:
        return _within(m, e.split_band)
    if school.school != COMPUTED:
        expected = Estimate(school.target_f, 0.0 if school.why is None else None, "°F", school.why)
        off, authority = None, f"school_{school.school}"
    tolerance = (school.tolerance_f, school.tolerance_f)
    off = off if off is not None and off.known else None
    pushes: dict[str, float] = {}
    residual = None
    if computed.known and computed.value > 0 and measured.known:
        pushes, slopes = carried(m, e, "split_minus_expected_f", computed.value)
        # How far one sound unit scatters from visit to visit: the follow-up's own tolerance.
        repeat = m.round.rules.follow_up_split_f / computed.value
        residual = {
            "model_u95": ROUNDED_READINGS.value,
            "repeat_u95": repeat,
            "slopes": slopes,
            "lowest": NO_COOLING,
            "against": computed.value,
        }
    own = {s: p for s, p in m.parts("split_f").items()} if school.school != COMPUTED else pushes
    if school.school != COMPUTED and off is None and measured.known and expected.known:
        off = Estimate(measured.value - expected.value, measured.u95, "°F")
    return compared(
        "split",
        "°F",
        measured,
        expected,
        tolerance,
        form=SHARE,
        pushes=pushes or own,
        off=off,
        authority=authority,
        residual=residual,
        at=_at(m),
        assumed_airflow=m.airflows.assumed,
        decided_by=e.largest("split_minus_expected_f"),
    )


def _within(m: Measured, band: SplitBand) -> Quantity:
    """The split against the band it lies in over what is not read yet: seen, not weighed."""
    middle = (band.low_f + band.high_f) / 2
    half = (band.high_f - band.low_f) / 2
    return compared(
        "split",
        "°F",
        m["split_f"],
        Estimate(middle, 0.0, "°F"),
        (half, half),
        form=SHARE,
        pushes={s: p / middle for s, p in m.parts("split_f").items()},
        authority="over_what_is_not_read",
        at=_at(m),
        assumed_airflow=m.airflows.assumed,
    )


def _at(m: Measured) -> At | None:
    """The supply dry bulb is the return's less the split."""
    returning, supply = m.round.value("return_unit", "dry_bulb"), m.on("supply")
    if returning is None:
        return None
    return At("supply_plenum", "dry_bulb", returning, -1.0, sum(p * p for p in supply.values()) ** 0.5)


def carried(m: Measured, e: Expected, name: str, scale: float) -> tuple[dict[str, float], dict[str, float]]:
    """Pushes and slopes of a difference of the air side, in shares of `scale`: what a wrong probe, or a guessed
    airflow, makes of it.

    Where the airflow is a guess its error is no instrument's: the diagnosis moves it as low or high airflow would,
    about what sound systems have.
    """
    pushes = {s: p / scale for s, p in e.parts(name).items()}
    slopes = m.slopes(pushes)
    if not m.airflows.measured:
        slopes["airflow"] = pushes.pop("airflow_method", 0.0) / m.airflow_share_u95
        pushes["airflow_of_sound_systems"] = slopes["airflow"] * AIRFLOW_SPREAD_SOUND.value
    return pushes, slopes
