"""What to read or look at next: the expected gain in certainty for each minute of work, and what each outcome would mean.

The gain is the fall of the entropy of the causes that is expected from a step (Lindley 1956, information provided by an experiment), over the
outcomes that the causes themselves predict. Minutes are working figures; gauges cost the hook-up, what it may lose and what it may let in.
"""

from dataclasses import dataclass
from functools import cache

import numpy as np

from engine.judgement.cause import GROUPS, TXV
from engine.judgement.causes import AIR_SOURCE, COOLING_MODE, HEATING_MODE, WATER_SOURCE, Setting
from engine.judgement.likelihood import WIDENING, Ranked, hypotheses_for
from engine.judgement.looks import RATIOS, degrees_of, log_ratios
from engine.judgement.residuals import KINDS
from engine.readings.observations import BY_ID as SIGHTS
from engine.readings.vocabulary import GROUND_SOURCE
from engine.readings.walk import BY_ID as BY_STOP
from engine.readings.walk import INSIDE, OUTSIDE
from engine.uncertainty.propagation import K

LEAST_GAIN = 0.02  # bits: less is not worth a walk
CROSSING_MINUTES = 2.0  # from inside to outside or back, with the instruments (working figure)
RARE = 0.1  # how often a look shows something, where nothing is known


@dataclass(frozen=True)
class Step:
    """A reading or a look. gives: the indicators it adds, or the look's id; stop: where on the walk. mode, source, device: only then; '' for always."""

    id: str
    label: str
    minutes: float
    gives: tuple[str, ...] = ()
    look: str = ""
    stop: str = ""
    mode: str = ""
    source: str = ""
    device: str = ""

    @property
    def side(self) -> str:
        """Inside or outside; '' for what can be done anywhere."""
        if self.stop:
            return BY_STOP[self.stop].side
        group = SIGHTS[self.look].group if self.look else OUTSIDE  # gauges go on outdoors
        return group if group in (INSIDE, OUTSIDE) else ""

    def can_be(self, setting: Setting) -> bool:
        """Whether it can be taken in this setting."""
        if self.look and not _seen_there(self.look, setting):
            return False
        if self.device and setting.device not in (self.device, "unknown"):
            return False
        return self.mode in ("", setting.mode) and self.source in ("", setting.source)


def _seen_there(look: str, setting: Setting) -> bool:
    sight = SIGHTS[look]
    return setting.mode in sight.modes and not (
        setting.source == WATER_SOURCE and sight.kinds and GROUND_SOURCE not in sight.kinds
    )


@dataclass(frozen=True)
class Advice:
    """A step with its expected gain [bits], what its outcomes would mean, and its minutes from where the technician stands."""

    step: Step
    gain: float
    means: tuple[str, ...]
    minutes: float

    @property
    def per_minute(self) -> float:
        """The gain for each minute."""
        return self.gain / self.minutes


COOLING_AIR, HEATING_AIR = (COOLING_MODE, AIR_SOURCE), (HEATING_MODE, AIR_SOURCE)
READINGS = (
    Step("airflow", "Measure the airflow", 6.0, ("airflow",), stop="blower"),
    Step("filter_drop", "Read the filter drop", 2.0, ("filter_drop",), stop="filter"),
    Step("coil_drop", "Read the coil drop", 3.0, ("coil_drop",), stop="coil"),
    Step("statics", "Read both statics", 4.0, ("supply_drop",), stop="statics"),
    Step("liquid_line", "Read the liquid line outdoors", 2.0, ("approach",), "", "liquid_line_outdoor", *COOLING_AIR),
    Step(
        "liquid_line_indoor",
        "Read the liquid line at the metering device",
        2.0,
        ("liquid_drop",),
        "",
        "liquid_line_indoor",
        *COOLING_AIR,
    ),
    Step("suction_at_coil", "Read the suction line at the coil", 2.0, ("suction",), "", "suction_line_indoor", *COOLING_AIR),
    Step("suction_outdoor", "Read the suction line outdoors", 2.0, ("suction_rise",), "", "suction_line_outdoor", *COOLING_AIR),
    Step("condenser_air", "Read the air leaving the condenser", 1.5, ("condenser_rise",), "", "condenser_air_out", *COOLING_AIR),
    Step(
        "liquid_heating",
        "Read the liquid line at the indoor coil",
        2.0,
        ("heat_approach",),
        "",
        "liquid_line_indoor",
        *HEATING_AIR,
    ),
    Step("true_suction", "Read the suction at the compressor", 4.0, ("true_suction",), "", "true_suction", *HEATING_AIR),
    Step(
        "loop", "Read the loop water, both ends and the flow", 8.0, ("heat_moved", "water_flow"), stop="loop", source=WATER_SOURCE
    ),
    Step("amps", "Read the compressor's amps and volts", 3.0, ("amps",), stop="compressor", source=AIR_SOURCE),
    Step("grille", "Read the return grille", 1.5, ("grille_to_unit",), stop="return_grille"),
    Step("register", "Read a supply register", 2.0, ("unit_to_register",), stop="supply_register"),
    Step("pressures", "Connect gauges", 40.0, ("superheat", "subcooling")),
)
LOOKS = tuple(
    Step(what, f"Look: {SIGHTS[what].label.lower()}", minutes, look=what)
    for what, minutes in (
        ("filter", 1.5), ("evaporator_face", 6.0), ("blower_wheel", 6.0), ("blower_speed", 4.0), ("registers", 3.0), ("ducts", 8.0), ("condenser_coil", 1.5),
        ("outdoor_coil", 1.5), ("outdoor_fan_blade", 2.0), ("liquid_line_noise", 1.0), ("service_valves", 2.0), ("oil_stains", 3.0),
    )
)  # fmt: skip


# Tests that settle a suspicion, beside readings and looks.
TESTS = (
    Step(
        "valve_bulb",
        "Test: warm the TXV's bulb and watch the suction line",
        8.0,
        look="valve_bulb",
        stop="suction_line_indoor",
        device=TXV,
    ),
    Step("probes_together", "Test: probes and clamps side by side", 5.0, look="probes_together"),
    Step("outdoor_shaded", "Test: shade the outdoor probe and read again", 3.0, look="outdoor_shaded", stop="outdoor"),
    Step("house_loaded", "Test: load the house and read again", 25.0, look="house_loaded", stop="return_unit"),
)


def next_steps(ranked: Ranked, have: tuple[str, ...], seen: dict[str, str], standing: str = "") -> list[Advice]:
    """Every step not taken yet that is worth it, best for each minute first.

    have: the indicators there are; seen: what was looked at; standing: 'inside' or 'outside', where the technician is, '' where that is not known.
    """
    found, setting = [], ranked.hypotheses.setting
    for step in READINGS:
        missing = tuple(kind for kind in step.gives if kind not in have)
        if missing and step.can_be(setting):
            found.append(_reading(step, missing, ranked, standing))
    found += [_look(step, ranked, standing) for step in (*LOOKS, *TESTS) if step.look not in seen and step.can_be(setting)]
    return sorted((a for a in found if a.gain >= LEAST_GAIN), key=lambda a: (-a.per_minute, a.step.id))


def _reading(step: Step, kinds: tuple[str, ...], ranked: Ranked, standing: str) -> Advice:
    """The gain of reading these indicators, taken as independent; each outcome weighed by how likely the hypotheses make it."""
    of, gain, means = hypotheses_for(kinds, ranked.hypotheses.setting), 0.0, ()
    for i, kind in enumerate(kinds):
        spread = WIDENING * np.sqrt((KINDS[kind].scatter / K) ** 2 + of.squares[:, i])
        low, high = (of.shifts[:, i] + side * 3 * spread for side in (-1, 1))
        values = np.linspace(low.min(), high.max(), 61)
        density = np.exp(-0.5 * ((values[:, None] - of.shifts[None, :, i]) / spread) ** 2) / spread
        joint = density * ranked.weights[None, :]
        gain += _gain(joint, of.members, ranked)
        means = means or _meanings(joint, values, KINDS[kind].scatter, of.grouped)
    return Advice(step, min(gain, _entropy(ranked.weights @ of.members)), means, _minutes(step, standing))


def _look(step: Step, ranked: Ranked, standing: str) -> Advice:
    degrees = degrees_of(step.look)
    joint = _look_given(step.look, ranked.hypotheses.causes) * ranked.weights[None, :]
    grouped = ranked.hypotheses.grouped
    means = _merged(
        [(SIGHTS[step.look].degrees[degree], _likeliest(row, grouped)) for degree, row in zip(degrees, joint, strict=True)]
    )
    return Advice(step, _gain(joint, ranked.hypotheses.members, ranked), means, _minutes(step, standing))


def _minutes(step: Step, standing: str) -> float:
    return step.minutes + (CROSSING_MINUTES if standing and step.side not in ("", standing) else 0.0)


@cache
def _look_given(look: str, of: tuple[tuple[str, ...], ...]) -> np.ndarray:
    """How likely each degree of a look is under each hypothesis, shape (degrees, hypotheses). of: the causes of each hypothesis."""
    degrees = degrees_of(look)
    chance = np.array([_chances(look, degree, degrees) for degree in degrees])
    causes = tuple(dict.fromkeys(c for row in of for c in row))
    members = np.array([[float(c in row) for c in causes] for row in of])
    ratios = np.exp([log_ratios({look: degree}, causes, members) for degree in degrees])
    given = chance[:, None] * ratios
    return given / given.sum(axis=0)


def _merged(means: list[tuple[str, str]]) -> tuple[str, ...]:
    """Outcomes that mean the same said together; nothing where every outcome means the same."""
    by_meaning: dict[str, list[str]] = {}
    for outcome, meaning in means:
        by_meaning.setdefault(meaning, []).append(outcome)
    if len(by_meaning) < 2:
        return ()
    return tuple(f"{' or '.join(outcomes).capitalize()}: {meaning}" for meaning, outcomes in by_meaning.items())


def _chances(look: str, degree: str, degrees: list[str]) -> float:
    """How often a degree is seen where nothing is known: what points at a cause is rare, the rest shares what is left."""
    rare = [d for d in degrees if max(RATIOS[look, d].values()) > 1.0]
    return RARE if degree in rare else max(1.0 - RARE * len(rare), RARE) / max(len(degrees) - len(rare), 1)


def _gain(joint: np.ndarray, members: np.ndarray, ranked: Ranked) -> float:
    """Bits: entropy of the causes now, less that expected after an outcome. joint (outcomes, hypotheses), in any scale."""
    total = joint.sum()
    outcome = joint.sum(axis=1)
    after = (joint / np.maximum(outcome[:, None], 1e-300)) @ members
    return _entropy(ranked.weights @ members) - float((outcome / total * _entropies(after)).sum())


def _entropies(p: np.ndarray) -> np.ndarray:
    p = p / np.maximum(p.sum(axis=-1, keepdims=True), 1e-300)
    return -(p * np.log2(np.maximum(p, 1e-300))).sum(axis=-1)


def _entropy(p: np.ndarray) -> float:
    return float(_entropies(p[None, :])[0])


def _meanings(joint: np.ndarray, values: np.ndarray, scatter: float, grouped: np.ndarray) -> tuple[str, ...]:
    """What a reading above, as or below expected would mean."""
    bands = (
        ("above", values > 0.75 * scatter),
        ("as expected", np.abs(values) <= 0.5 * scatter),
        ("below", values < -0.75 * scatter),
    )
    return _merged([(words.capitalize(), _likeliest(joint[band].sum(axis=0), grouped)) for words, band in bands if band.any()])


def _likeliest(row: np.ndarray, grouped: np.ndarray) -> str:
    by_group = row @ grouped
    return list(GROUPS.values())[int(by_group.argmax())].lower()
