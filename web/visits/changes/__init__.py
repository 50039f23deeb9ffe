"""Every change to a visit: who may, in a transaction, once. One file per kind of change."""

from web.visits.changes.baselines import BaselineRefused, seal
from web.visits.changes.closing import ClosingRefused, finish_visit, fixed_and_not_read, reopen_visit, review_visit
from web.visits.changes.entries import ItemAnswer, OwnClockWrong, note_mode, note_running_time, reassess, store_entries
from web.visits.changes.follow_ups import close_follow_up, open_follow_up
from web.visits.changes.outcomes import keep_outcome
from web.visits.changes.pairing import pair
from web.visits.changes.photos import PhotoRefused, add_photo
from web.visits.changes.plans import PlanRefused, call_off, move_plan, plan_visit
from web.visits.changes.visits import hand_over, next_round, start_visit

__all__ = [
    "BaselineRefused",
    "ClosingRefused",
    "ItemAnswer",
    "OwnClockWrong",
    "PhotoRefused",
    "PlanRefused",
    "add_photo",
    "call_off",
    "close_follow_up",
    "finish_visit",
    "fixed_and_not_read",
    "hand_over",
    "keep_outcome",
    "move_plan",
    "next_round",
    "note_mode",
    "note_running_time",
    "open_follow_up",
    "pair",
    "plan_visit",
    "reassess",
    "reopen_visit",
    "review_visit",
    "seal",
    "start_visit",
    "store_entries",
]
