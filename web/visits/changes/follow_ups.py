"""Opening and closing follow-ups."""

from datetime import date, datetime
from uuid import UUID

from django.utils import timezone

from web.accounts.access import need
from web.accounts.rights import RECORD
from web.houses.access import need_not_erased
from web.shell.once import keep_once
from web.visits.models import BLOCKS, FollowUp


def open_follow_up(
    actor,
    system,
    text: str,
    blocks: str = "",
    due_on: date | None = None,
    at: datetime | None = None,
    number: UUID | None = None,
) -> FollowUp:
    """Leave something to do on a system. blocks: a key of BLOCKS; number: made by the page, so that sending it twice
    keeps one; raises NumberUsed.
    """
    need(actor, RECORD, system.house.shop_id)
    need_not_erased(system.house)
    if blocks not in BLOCKS or not text.strip():
        raise ValueError("a follow-up needs words, and blocks one of the known decisions or none")
    follow_up = FollowUp(
        shop=system.house.shop,
        system=system,
        text=text.strip()[:300],
        blocks=blocks,
        due_on=due_on,
        opened_by=actor,
        opened_at=at or timezone.now(),
    )
    return keep_once(
        FollowUp.objects.visible_to(actor), number, follow_up, ("system_id", "text", "blocks", "due_on"), follow_up.save
    )


def close_follow_up(actor, follow_up: FollowUp, outcome: str) -> FollowUp:
    """Say that it is done and what came of it. Closing it twice keeps the first outcome."""
    need(actor, RECORD, follow_up.system.house.shop_id)
    open_still = FollowUp.objects.filter(pk=follow_up.pk, closed_at__isnull=True)
    open_still.update(closed_by=actor, closed_at=timezone.now(), outcome=outcome.strip()[:300])
    follow_up.refresh_from_db()
    return follow_up
