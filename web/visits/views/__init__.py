"""The sheet's pages, its one way in, and the changes around it. One file per kind of page."""

from web.visits.views.around import close_follow_up, hand_over, next_round, open_follow_up, start
from web.visits.views.entries import current, entries
from web.visits.views.live import live, pair
from web.visits.views.of_system import of_system
from web.visits.views.photos import add_nameplate, add_photo, photo, plates_of
from web.visits.views.sheet import preview, sheet
from web.visits.views.what_if import what_if, what_if_past

__all__ = [
    "add_nameplate", "add_photo", "close_follow_up", "current", "entries", "hand_over", "live", "next_round",
    "of_system", "open_follow_up", "pair", "photo", "plates_of", "preview", "sheet", "start", "what_if",
    "what_if_past",
]  # fmt: skip
