"""The Arrive and Settle stations: what is asked at the door, what is known of the machine, and what to look at while it
settles.
"""

from web.shell.trace import or_else
from web.visits.access import FOLLOW_UP_FORM, Around
from web.visits.bridge import results
from web.visits.load.sheet import Sheet
from web.visits.models import BLOCKS, SUBJECTS

GROUPS = {
    "condition": "Before a reading counts",
    "inside": "Look and listen, inside",
    "outside": "Look and listen, outside",
}
# What every visit asks and looks at first; the rest is folded, but for the first visit to a machine.
FIRST_ASKED = ("visit_kind", "complaint_where")
FIRST_LOOKS = ("filter", "evaporator_face", "ice", "strainer", "condenser_coil", "outdoor_coil", "outdoor_fan_blade")
WHOLE_LOOK = ("commissioning", "first")
PHOTO_OF = {"evaporator_face": "coil", "filter": "filter", "condenser_coil": "coil", "outdoor_coil": "thermal"}


def context(sheet: Sheet, around: Around) -> dict:
    """What both stations show."""
    asked = _sights(sheet, "complaint")
    return {
        "asked_first": [item for item in asked if item["sight"].id in FIRST_ASKED],
        "asked_more": [item for item in asked if item["sight"].id not in FIRST_ASKED],
        "more_was_said": any(item["seen"] for item in asked if item["sight"].id not in FIRST_ASKED),
        "sight_groups": [_group(label, _sights(sheet, group)) for group, label in GROUPS.items()],
        "whole_look": sheet.seen.get("visit_kind", "") in WHOLE_LOOK,
        "tests": _sights(sheet, "tests"),
        "after_thaw": _sights(sheet, "thawed") if _was_thawed(sheet, around) else [],
        "history": around.history,
        "twins": around.twins,
        "follow_ups": around.follow_ups,
        "follow_up_typed": around.typed.get(FOLLOW_UP_FORM, {}) or _after_a_thaw(sheet, around),
        "blocking": [f for f in around.follow_ups if f.blocks],
        "blocks": BLOCKS,
        "remarks": around.remarks,
        "photos": around.photos,
        "subjects": SUBJECTS,
        "colleagues": around.colleagues,
        "time_left": sheet.fields["system.time_available"],
        "running": sheet.fields["system.running_time"],
    }


def _was_thawed(sheet: Sheet, around: Around) -> bool:
    """Whether a thaw was done before this round, or it was said to be one."""
    return "restart" in sheet.seen or any(row.done == "thawed" for _, row in around.earlier_actions)


def thaw_left(sheet: Sheet, around: Around) -> str:
    """What to leave for the next visit after a thaw that is not read again; '' where it is left already."""
    if sheet.broken or around.later:
        return ""
    text = or_else("what a thaw leaves", lambda: results.thaw_left(sheet.assessed), str)
    return "" if any(f.text == text for f in around.follow_ups) else text


def _after_a_thaw(sheet: Sheet, around: Around) -> dict:
    text = thaw_left(sheet, around)
    return {"text": text, "blocks": "charge"} if text else {}


def _group(label: str, items: list[dict]) -> dict:
    """Things to look at: the first, and the rest with how many of it were looked at. What decides whether a reading
    counts is never folded.
    """
    folds = label != GROUPS["condition"]
    first = [item for item in items if not folds or item["sight"].id in FIRST_LOOKS]
    rest = [item for item in items if item not in first]
    named = ", ".join(item["label"].lower() for item in rest)
    return {"label": label, "first": first, "rest": rest, "named": named, "seen": sum(bool(i["seen"]) for i in rest)}


def _sights(sheet: Sheet, group: str) -> list[dict]:
    return [
        {
            "sight": sight,
            "label": sight.label_in(sheet.mode),
            "seen": sheet.seen.get(sight.id, ""),
            "entry": sheet.seen_ids.get(sight.id, ""),
            "carried": sight.id in sheet.material.carried.seen and sight.id not in sheet.seen_ids,
            "photo": PHOTO_OF.get(sight.id, ""),
        }
        for sight in sheet.asked(group)
    ]
