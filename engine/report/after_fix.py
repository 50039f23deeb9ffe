"""What a fix has changed between two rounds, in words."""

from engine.assessment import Assessment
from engine.diagnosis.after_fix import HELD, TOWARDS, Change, came_right, changes
from engine.report.quantity_words import expected, label, measured
from engine.report.words import Words, ended


def after_fix(before: Assessment, after: Assessment, done: tuple[str, ...], words: Words) -> list[str]:
    """The changes in sentences. done: ids of the actions in between."""
    found = [
        text
        for change in changes(before.diagnosis, after.diagnosis, done)
        for text in _said(change, before, after, words)
    ]
    return [*found, "Nothing out of line any more."] if came_right(before.diagnosis, after.diagnosis) else found


def _said(change: Change, before: Assessment, after: Assessment, words: Words) -> list[str]:
    was, now = (a.table[change.quantity] for a in (before, after))
    if not change.meant and abs(now.measured.value - was.measured.value) <= max(now.measured.u95, was.measured.u95):
        return []  # within what the readings leave open, and nothing was done to move it
    first, second = (measured(q, words) for q in (was, now))
    name = label(change.quantity)
    if change.way == HELD:
        return [f"{name} did not move ({second}): what was done does not reach what is wrong there."]
    if first == second:
        given = (expected(q, words) for q in (was, now))
        return [f"{name} did not move ({second}), but what is expected of it did: from {' to '.join(given)}."]
    towards = change.way == TOWARDS
    end = (", as it should" if change.meant else "") if towards else ": look again"
    moved = f"{name} moved {'towards' if towards else 'away from'} what is expected, from {first} to {second}{end}"
    found = [ended(moved)]
    return [*found, f"{name} is better than possible: doubt the readings."] if change.beyond else found
