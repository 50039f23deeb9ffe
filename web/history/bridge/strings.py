"""A machine's rounds into the engine's history, and its strings into words and columns."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from itertools import pairwise

from django.utils.timezone import localtime

from engine.assessment import Assessment, assess_many
from engine.diagnosis.cause import GROUPS, JOINT_LABELS
from engine.diagnosis.causes import AIR_SOURCE, HEATING_MODE, WATER_SOURCE, Setting, group_label
from engine.errors import EngineError
from engine.over_time.history import (
    FIX,
    INSTRUMENT,
    PERSON,
    Event,
    Point,
    Step,
    String,
    Visited,
    events_between,
    strings_of,
)
from engine.readings.round import without_gauges
from engine.readings.vocabulary import GROUND_SOURCE
from engine.report.history_words import drift_said, drifts_say, state_said, step_said, tick_said
from engine.report.quantity_words import allowed, is_difference, label
from engine.report.verdict_words import verdict_said
from engine.report.words import FAHRENHEIT
from engine.uncertainty.margin import OUT_OF_RANGE
from engine.uncertainty.share import wilson
from web.history.access import Kept
from web.shell.bridge import words
from web.visits.bridge import vocabulary
from web.visits.bridge.held import assessed
from web.visits.load.for_engine import stored_round
from web.visits.load.held import held_of, table_of_baseline, table_of_round
from web.visits.load.material import Material
from web.visits.stations.stops import SHAPES

FIGURES = ("read_at", "quantity", "unit", "measured", "off", "off_95", "tolerance", "state", "expected_by")
SECONDS_A_DAY = 86_400.0
__all__ = ["FIGURES", "Column", "History", "histories_of", "label_of_group", "moment_of", "wilson"]


@dataclass(frozen=True)
class Column:
    """A string in words: what it is called, its last value, what the anchor expects today, how it stands, and its
    points by the round's key: lean and own 95 % in tolerances, the bob's shape, its value. drift: lean of the trend at
    its first and last point, by the round's key.
    """

    id: str
    label: str
    now: str
    anchor: str
    word: str
    attention: bool
    points: dict[str, tuple[float, float, str, str]]
    drift: tuple[tuple[str, float], tuple[str, float]] | None


@dataclass(frozen=True)
class History:
    """A machine in one mode: its rounds, oldest first, each with its record, and the strings that hang from them."""

    kept: tuple[Kept, ...]
    visited: tuple[Visited, ...]
    strings: tuple[String, ...]

    def columns(self) -> list[Column]:
        """Every string, as it is drawn."""
        return [_column(string, self.visited[-1]) for string in self.strings]

    def says(self) -> str:
        """What the drifts together point at."""
        return drifts_say(self.strings)

    def drifts(self) -> list[str]:
        """Each drift in a sentence."""
        return [drift_said(s, f"{moment_of(s.since.at):%B %Y}", words()) for s in self.strings if s.drift]

    def steps(self) -> list[str]:
        """Each step in a sentence, the newest first."""
        found = [(step.after.at.days, self._step(s, step)) for s in self.strings for step in s.steps]
        return [text for _, text in sorted(found, key=lambda row: -row[0])]

    def _step(self, string: String, step: Step) -> str:
        when = f"{moment_of(step.after.at):%b %-d, %Y}"
        return step_said(string, step, events_between(step, self.visited), when, words())

    def figures(self) -> Iterator[tuple[str, ...]]:
        """Every point of every string, under FIGURES, in the units of the record."""
        for string in self.strings:
            for p in string.points:
                q, when = p.quantity, moment_of(p.at).isoformat()
                numbers = (f"{value:.6g}" for value in (q.measured.value, p.off.value, p.off.u95, p.half))
                yield (when, string.id, q.unit, *numbers, q.state, q.authority)

    def happened(self, visited: Visited) -> list[str]:
        """That a round was sealed, and what happened before it, in a few words each."""
        sealed = next(k.sealed for k in self.kept if _key(k) == visited.key)
        return [*(["baseline"] if sealed else []), *dict.fromkeys(tick_said(event) for event in visited.since)]


def _column(string: String, newest: Visited) -> Column:
    last, trend = string.points[-1], string.trend
    q, difference = last.quantity, is_difference(string.id)
    drift = None
    if trend is not None:
        first = trend.now - trend.slope * (trend.ended - trend.began)
        drift = (string.since.at.key, first / last.half), (last.at.key, trend.now / last.half)
    return Column(
        string.id,
        label(string.id),
        f"{'now' if last.at is newest else 'last'} {words().value(q.measured.value, q.unit, difference)}",
        allowed(q, words()),
        state_said(string),
        bool(drift) or q.state == OUT_OF_RANGE,
        {p.at.key: _drawn(p, difference) for p in string.points},
        drift,
    )


def _drawn(p: Point, difference: bool) -> tuple[float, float, str, str]:
    own = p.off.u95 / p.half
    return p.lean, own, SHAPES[p.quantity.state], words().plain(p.quantity.measured.value, p.quantity.unit, difference)


def histories_of(kept: Sequence[Kept]) -> dict[str, History]:
    """The machine's history by mode, the mode with most rounds first. Rounds that cannot be judged are left out."""
    rounds = [stored_round(k.material) for k in kept]
    anchors = [_anchor(index, kept, rounds) for index in range(len(kept))]
    found = assess_many(rounds, anchors)
    by_mode: dict[str, list[tuple[Kept, Assessment]]] = {}
    for k, round_, one in zip(kept, rounds, found, strict=True):
        if not isinstance(one, EngineError):
            by_mode.setdefault(round_.mode, []).append((k, one))
    most_first = sorted(by_mode.items(), key=lambda item: -len(item[1]))
    return {mode: _history(rows) for mode, rows in most_first}


def drifts_said(kept: Sequence[Kept]) -> str:
    """What of a machine drifts, in both modes, in a sentence or two; '' where nothing does."""
    return " ".join(history.says() for history in histories_of(kept).values() if history.drifts())


def headline_without_gauges(material: Material) -> str:
    """What would be said of a round had no gauges been connected; '' where it cannot be judged."""
    round_ = without_gauges(stored_round(material))
    [found] = assessed([round_], [held_of(material, round_.mode)])
    return "" if isinstance(found, EngineError) else verdict_said(found, FAHRENHEIT).headline


def _history(rows: list[tuple[Kept, Assessment]]) -> History:
    befores: list[Kept | None] = [None, *(k for k, _ in rows)]
    visited = tuple(
        Visited(_key(k), k.round.started_at.timestamp() / SECONDS_A_DAY, found, _since(before, k))
        for (k, found), before in zip(rows, befores, strict=False)
    )
    return History(tuple(k for k, _ in rows), visited, strings_of(visited))


def _anchor(index: int, kept: Sequence[Kept], rounds: Sequence):
    """What a round is held to: the baseline that held for it; for the sealed round, itself; for one before the first
    baseline, that, where nothing made another machine of it in between. Else nothing: the curves.
    """
    here, mode = kept[index], rounds[index].mode
    if any(row.mode == mode for row in here.sealed):
        return table_of_round(here.material)
    if (sealed := here.material.held_to(mode)) is not None:
        own = next((k.material for k in kept if k.round.pk == sealed.round.pk), None)
        return table_of_round(own) if own else table_of_baseline(here.material, sealed)
    for before, later in pairwise(kept[index:]):
        if _ends(before) or later.round.machine != here.round.machine:
            return None
        if any(row.mode == mode for row in later.sealed):
            return table_of_round(later.material)
    return None


def _ends(k: Kept) -> bool:
    known = (vocabulary.ACTIONS.get(action.done) for action in k.actions)
    return any(action is not None and action.ends_baseline for action in known)


def _since(before: Kept | None, now: Kept) -> tuple[Event, ...]:
    """What changed between two rounds: what was done, other instruments, another person."""
    if before is None:
        return ()
    done = [_done(action) for action in before.actions if action.done != vocabulary.NOTHING_DONE]
    done += [f"refrigerant {before.moved}"] if before.moved else []
    had = before.material.instruments_held
    new = [name for kind, name in now.material.instruments_held.items() if had.get(kind, name) != name]
    people = [k.round.visit.holder for k in (before, now)]
    other = [people[1].short_name] if people[0] != people[1] else []
    return (
        *(Event(FIX, text) for text in done),
        *(Event(INSTRUMENT, text) for text in new),
        *(Event(PERSON, text) for text in other),
    )


def _done(action) -> str:
    known = vocabulary.ACTIONS.get(action.done)
    return known.label if known else action.text


def _key(k: Kept) -> str:
    return str(k.round.public_id)


def moment_of(visited: Visited) -> datetime:
    """When a round was read, on the shop's clock."""
    return localtime(datetime.fromtimestamp(visited.days * SECONDS_A_DAY, UTC))


def label_of_group(group: str, mode: str, kind: str) -> str:
    """What a group of faults is called in a mode, on a machine of this kind; one that a later engine does not know, as
    it is.
    """
    if group not in GROUPS | JOINT_LABELS:
        return group
    setting = Setting(mode=mode, source=WATER_SOURCE if kind == GROUND_SOURCE else AIR_SOURCE)
    return f"{group_label(group, setting)}{', in heating' if mode == HEATING_MODE else ''}"
