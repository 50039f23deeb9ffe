"""The Arrive and Settle stations: what is asked at the door, what is known of the machine, and what to look at while it
settles.
"""

from web.visits.access import FOLLOW_UP_FORM, Around
from web.visits.bridge import vocabulary
from web.visits.load.sheet import Sheet
from web.visits.models import BLOCKS, SUBJECTS

GROUPS = {
    "condition": "Before a reading counts",
    "inside": "Look and listen, inside",
    "outside": "Look and listen, outside",
}
PHOTO_OF = {"evaporator_face": "coil", "filter": "filter", "condenser_coil": "coil", "outdoor_coil": "thermal"}


def context(sheet: Sheet, around: Around) -> dict:
    """What both stations show."""
    return {
        "complaint_sights": _sights(sheet, "complaint"),
        "sight_groups": [(label, _sights(sheet, group)) for group, label in GROUPS.items()],
        "tests": _sights(sheet, "tests"),
        "history": around.history,
        "twins": around.twins,
        "follow_ups": around.follow_ups,
        "follow_up_typed": around.typed.get(FOLLOW_UP_FORM, {}),
        "blocking": [f for f in around.follow_ups if f.blocks],
        "blocks": BLOCKS,
        "remarks": around.remarks,
        "photos": around.photos,
        "subjects": SUBJECTS,
        "colleagues": around.colleagues,
        "time_left": sheet.fields["system.time_available"],
        "running": sheet.fields["system.running_time"],
    }


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
        for sight in vocabulary.sights(group, sheet.system.kind, sheet.mode)
    ]
