"""The Fix & re-read station: what was done, what the findings ask for, and the rounds side by side."""

from dataclasses import replace

from web.visits import figures
from web.visits.access import Around
from web.visits.bridge import results, vocabulary
from web.visits.load.for_engine import stored_round, tap_of
from web.visits.load.held import held_of
from web.visits.load.material import carried_into, entries_of
from web.visits.load.sheet import Sheet
from web.visits.stations.judge import row_of_marks

MOST_COLUMNS = 3  # the first round, the one before, and this one


def record(sheet: Sheet, around: Around) -> dict:
    """What was done: it needs no assessment."""
    was = tap_of(sheet.material, sheet.seen)
    return {
        "done": [
            {"action": row, "label": label_of(row, was), "more": row.text if row.text not in label_of(row) else ""}
            for row in around.actions
        ],
        "was_done": _done_before(around),
        "charge_moved": around.charge_moved,
        "all_rounds": around.rounds,
    }


def every_action(kind: str) -> dict:
    """All that can be done to a machine of a kind, where the assessment does not say what is asked for."""
    return {"other_actions": [_action(action, ()) for action in vocabulary.ACTIONS.values() if action.is_of(kind)]}


def fitting(sheet: Sheet) -> dict:
    """The actions that the findings ask for, and the others."""
    asked, others = results.fitting_actions(sheet.assessed)
    return {
        "fitting": [_action(action, sheet.material.taps) for action in asked],
        "other_actions": [_action(action, sheet.material.taps) for action in others],
    }


def context(sheet: Sheet, around: Around) -> dict:
    """The rounds side by side."""
    earlier = _earlier(sheet, around)
    return {
        "compared": _compared(sheet, earlier) if earlier else [],
        "verdicts": [found.verdict.headline for *_, found in earlier] + [sheet.assessed.verdict.headline],
        "columns": [number for number, *_ in earlier] + [sheet.round.number] if earlier else [],
        "changes": results.changes(earlier[-1][3], sheet.assessed, _done_ids(around)) if earlier else [],
        "disagreements": results.disagreements_of(earlier[-1][3], sheet.assessed) if earlier else [],
    }


def _action(action, taps: tuple[str, ...]) -> dict:
    """An action as its button, or as one for each tap the blower can be set to."""
    return {
        "id": action.id,
        "label": action.label,
        "cautions": [vocabulary.CAUTIONS[id_].text for id_ in action.cautions],
        "to": taps if action.id == vocabulary.SPEED_SET else (),
    }


def label_of(row, was: str = "") -> str:
    """What was done, in words. was: the blower's tap before it, where that is known."""
    known = vocabulary.ACTIONS.get(row.done)
    if known is None:
        return row.text
    if row.done != vocabulary.SPEED_SET or not row.text:
        return known.label
    return f"{known.label}: {f'from {was} to ' if was and was != row.text else ''}{row.text}"


def _done_ids(around: Around) -> tuple[str, ...]:
    """What was done before this round, by id; moving refrigerant among it."""
    return (*(row.done for _, row in around.earlier_actions), *around.charge_done)


def _done_before(around: Around) -> list[str]:
    moved = [f"refrigerant {text}" for text in (around.charge_moved_before,) if text]
    return [f"Round {number}: {label_of(row)}" for number, row in around.earlier_actions] + moved


def _earlier(sheet: Sheet, around: Around) -> list[tuple]:
    """(number, round for the engine, its marks, its assessment) of the first round and the one before this."""
    before = [r for r in around.rounds if r.number < sheet.round.number]
    chosen = [before[0], before[-1]] if len(before) > 1 else before
    shown = chosen[-(MOST_COLUMNS - 1) :]
    entries = entries_of(shown, sheet.material.instruments, sheet.material.people)
    found = []
    for row in shown:
        row.visit = sheet.visit
        carried = carried_into(row, around.rounds)
        material = replace(sheet.material, round=row, entries=entries[row.pk], carried=carried)
        round_ = stored_round(material)
        assessed = results.assessed(round_, held=held_of(material, round_.mode))
        found.append((row.number, round_, row_of_marks(replace(sheet, material=material, assessed=assessed)), assessed))
    return found


def _compared(sheet: Sheet, earlier: list[tuple]) -> list[dict]:
    """One row a mark, one cell a round; a mark that a round did not give is a dash."""
    columns = [marks for _, _, marks, _ in earlier] + [row_of_marks(sheet)]
    labels = list(dict.fromkeys(mark["label"] for marks in columns for mark in marks))
    by_label = [{mark["label"]: mark for mark in marks} for marks in columns]
    return [{"label": label, "cells": [_cell(marks.get(label)) for marks in by_label]} for label in labels]


def _cell(mark: dict | None) -> dict:
    if mark is None or mark["value"] in ("", figures.BLANK):
        return {"value": figures.BLANK, "unit": "", "word": "", "out": False, "predicted": False}
    return {key: mark[key] for key in ("value", "unit", "word", "out", "predicted")}
