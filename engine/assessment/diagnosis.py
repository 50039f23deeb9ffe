"""From a round to a judgement: which causes, and how sure. In cooling and heating, air source and ground source."""

from dataclasses import dataclass, replace

from engine.airflow.methods import nominal_guess_cfm
from engine.assessment.assess import assess
from engine.assessment.residuals.cooling import cooling_residuals
from engine.assessment.residuals.heating import heating_residuals
from engine.assessment.residuals.water import water_residuals
from engine.assessment.result import RoundResult
from engine.assessment.whole import LASTING, with_weighed_airflow
from engine.judgement.cause import CHARGE_GROUPS, HEALTHY
from engine.judgement.causes import AIR_SOURCE, EVERY_CAUSE, WATER_SOURCE, Setting, group_of
from engine.judgement.likelihood import Ranked, rank
from engine.judgement.residuals import Residual, against_baseline
from engine.judgement.steadiness import SWINGING
from engine.judgement.validity import Withheld
from engine.readings.round import Reading, Round
from engine.readings.vocabulary import GROUND_SOURCE

# How sure to be before it is said. Refrigerant put in or taken out wrongly does harm, so that charge wants more.
SURE_GROUP, SURE_CHARGE, SURE_CAUSE, SURE_HEALTHY = 0.55, 0.80, 0.65, 0.50
FEWEST = 2  # indicators: on fewer nothing is concluded
WITHHELD, SOUND, FAULT, OPEN = "withheld", "sound", "fault", "open"
# What was said last stays said until it is this much less likely than it had to be, and causes keep their order until they differ by this much:
# a reading that wavers does not make the page waver.
KEPT_FOR = 0.04


@dataclass(frozen=True)
class Shown:
    """What was said of a round last: state, group, and its causes in their order."""

    state: str
    group: str
    causes: tuple[str, ...]


@dataclass(frozen=True)
class Diagnosis:
    """The judgement. state: withheld, sound, fault or open. group: what is wrong as far as it can be told; cause: when it can be told within the group.

    ranked: every cause with its probability; residuals: what they were judged by. withheld: why, when it is.
    """

    state: str
    group: str
    cause: str
    ranked: Ranked
    residuals: tuple[Residual, ...]
    withheld: tuple[Withheld, ...]

    @property
    def probability(self) -> float:
        """Of what is concluded; of the likeliest where nothing is."""
        return next(iter(self.ranked.by_group.values()))


def diagnose(
    round_: Round, air: RoundResult | None = None, baseline: Round | None = None, shown: Shown | None = None
) -> Diagnosis:
    """Judge a round. baseline: a sealed healthy round; shown: what was said of this round last.

    air: the round's air side where it is known already, with its airflow weighed. Raises an EngineError naming a value out of range.
    """
    found, residuals = _residuals(round_, air)
    if baseline is not None:
        then = [r for r in _residuals(baseline)[1] if r.kind.id not in _not_alike(round_, baseline)]
        residuals = against_baseline(residuals, then, _lasting(round_, baseline))
    excluded = ("other_size",) if baseline is not None else ()
    ranked = rank(residuals, _seen(round_), setting_of(round_), excluded)
    withheld = found.withheld
    contradicted = any(f.withholds for f in found.findings)
    if withheld or contradicted:
        return Diagnosis(WITHHELD, "", "", ranked, tuple(residuals), withheld)
    return concluded(ranked, residuals, shown)


def concluded(ranked: Ranked, residuals: list[Residual], shown: Shown | None = None) -> Diagnosis:
    """What follows from the probabilities: sound, a group or a cause, or open. shown: what was said last, which stays while it nearly holds."""
    group, share = next(iter(ranked.by_group.items()))
    if len(residuals) < FEWEST:
        return Diagnosis(OPEN, "", "", ranked, tuple(residuals), ())
    share += KEPT_FOR if shown and shown.state in (SOUND, FAULT) and shown.group == group else 0.0
    if group == HEALTHY:
        return Diagnosis(SOUND if share >= SURE_HEALTHY else OPEN, HEALTHY, "", ranked, tuple(residuals), ())
    if share < (SURE_CHARGE if group in CHARGE_GROUPS else SURE_GROUP):
        return Diagnosis(OPEN, "", "", ranked, tuple(residuals), ())
    parts = {c: p for c, p in ranked.by_cause.items() if group_of(EVERY_CAUSE[c], ranked.kinds) == group}
    cause = next(iter(parts))
    within = parts[cause] / sum(parts.values())
    return Diagnosis(FAULT, group, cause if within >= SURE_CAUSE else "", ranked, tuple(residuals), ())


def _residuals(round_: Round, air: RoundResult | None = None) -> tuple[RoundResult, list[Residual]]:
    """The air side with the airflow measured, or the stated guess from nominal tons where none was, and the residuals on it."""
    round_, _, _ = with_weighed_airflow(round_)
    if round_.reading("blower", "airflow") is None:
        guess = Reading("blower", "airflow", nominal_guess_cfm(round_.equipment.nominal_tons), method="nominal_guess")
        round_, air = replace(round_, readings=(*round_.readings, guess)), None
    air = air or assess(round_)
    if round_.equipment.kind == GROUND_SOURCE:
        return air, water_residuals(round_, air)
    return air, (heating_residuals if round_.mode == "heating" else cooling_residuals)(round_, air)


def setting_of(round_: Round) -> Setting:
    """What decides which causes there are for a round, and their signs."""
    plate = round_.equipment
    source = WATER_SOURCE if plate.kind == GROUND_SOURCE else AIR_SOURCE
    return Setting(plate.metering_device, plate.blower_motor, round_.mode, source)


def _not_alike(now: Round, then: Round) -> tuple[str, ...]:
    """The indicators that cannot be held against this baseline: the coil's drop wet against dry, and most in the other mode."""
    coil = ("coil_drop",) if now.observations.get("coil") != then.observations.get("coil") else ()
    other_mode = ("amps", "grille_to_unit", "unit_to_register", "heat_moved", "closure")
    return coil if now.mode == then.mode else ("coil_drop", *other_mode)


def _lasting(now: Round, then: Round) -> tuple[str, ...]:
    same = [r.reading("blower", "airflow") for r in (now, then)]
    method = ("airflow_method",) if all(same) and same[0].method == same[1].method else ()
    clamps = tuple(f"clamp {i.id}" for i in now.instruments)
    return (*LASTING, *method, *clamps, "airflow_of_sound_systems", "power factor")


def _seen(round_: Round) -> dict[str, str]:
    """What was seen, and what a held probe saw: a suction line that swings."""
    swings = any(r.steady == SWINGING and r.place.startswith("suction_line") for r in round_.readings)
    return {**round_.observations, **({"suction_swings": "yes"} if swings else {})}
