"""Every change to a visit: who may, in a transaction, once. One file per kind of change."""

from web.visits.services.entries import ItemAnswer, note_mode, note_running_time, reassess, store_entries
from web.visits.services.follow_ups import close_follow_up, open_follow_up
from web.visits.services.pairing import pair
from web.visits.services.photos import PhotoRefused, add_photo
from web.visits.services.visits import hand_over, next_round, start_visit

__all__ = [
    "ItemAnswer",
    "PhotoRefused",
    "add_photo",
    "close_follow_up",
    "hand_over",
    "next_round",
    "note_mode",
    "note_running_time",
    "open_follow_up",
    "pair",
    "reassess",
    "start_visit",
    "store_entries",
]
