"""The Close station: what is still to see to, the words that stay, and what became of the visit."""

from django.utils import timezone

from web.shell.trace import or_else
from web.visits.access import Around
from web.visits.bridge import stored, vocabulary
from web.visits.load.sheet import Sheet
from web.visits.models import FINISHED, SEEN_BY
from web.visits.stations.arrive import thaw_left
from web.visits.stations.fix import label_of

NOT_FOUND = ("circuit", "high_side", "short")  # groups of several faults: what was found is one of them


def context(sheet: Sheet, around: Around) -> dict:
    """What the station shows; the words for the shop are proposed from the verdict and what was done."""
    deciding = next((row for row in around.closings if row.did != "reviewed"), None)
    finished = deciding if deciding and deciding.did == FINISHED else None
    groups = stored.groups_in(sheet.assessed.diagnosis.setting)
    return {
        "closings": around.closings,
        "outcomes": [(row, (stored.GROUPS | groups).get(row.was, "")) for row in around.outcomes],
        "told": stored.told(sheet.material.stored),
        "seen_by": SEEN_BY,
        "groups": {id_: label for id_, label in groups.items() if id_ not in NOT_FOUND},
        "finished": finished,
        "arrived_late": around.arrived_late,
        "last_looks": [_look(look, finished) for look in vocabulary.last_looks(sheet.system.kind)],
        "for_shop": _proposed(sheet, around),
        "due": _due(sheet, around),
        "chosen": [p for p in around.photos if finished and str(p.public_id) in finished.pictures],
        "pictures_here": [p for p in around.photos if p.round_id in {row.pk for row in around.rounds}],
        "not_read_again": bool(around.actions or around.charge_moved) and not around.later,
        "thaw_left": thaw_left(sheet, around),
        "holder": sheet.visit.holder,
    }


def _look(look, finished) -> dict:
    """One thing to see to, and why it was left where the visit is finished."""
    return {"id": look.id, "label": look.label, "why": finished.looks.get(look.id, "") if finished else ""}


def _due(sheet: Sheet, around: Around) -> dict:
    """By when and in which mode maintenance is proposed: as this visit said before it was opened again, or an earlier
    one left it where that is still to come; else its next season.
    """
    kind, today = sheet.system.kind, timezone.localdate()
    said = [row for row in around.closings if row.did == FINISHED][:1] + around.history
    mode, on = next(
        ((row.next_mode, row.next_due) for row in said if row.next_due and row.next_due > today),
        vocabulary.next_test(kind, today),
    )
    modes = vocabulary.modes_of(kind)
    return {"on": on, "mode": mode if mode in modes else "", "modes": modes}


def _proposed(sheet: Sheet, around: Around) -> str:
    done = [label_of(row) for _, row in around.earlier_actions] + [label_of(row) for row in around.actions]
    done += [f"refrigerant {text}" for text in (around.charge_moved_before, around.charge_moved) if text]
    found = "" if sheet.broken else or_else("proposed words", lambda: sheet.assessed.verdict.headline, lambda: "")
    return " ".join(part for part in (found, f"Done: {'; '.join(done)}." if done else "Nothing done.") if part)
