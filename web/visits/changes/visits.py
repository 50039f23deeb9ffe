"""Starting a visit, starting its next round, handing it over."""

import uuid
from datetime import datetime

from django.core.exceptions import PermissionDenied
from django.db import IntegrityError, transaction
from django.utils import timezone

from web.accounts.access import need
from web.accounts.rights import WORK
from web.houses.access import need_not_erased
from web.shell.once import keep_once
from web.visits.changes.plans import do_planned
from web.visits.models import Handover, Round, Visit


def start_visit(actor, system, at: datetime | None = None, public_id: uuid.UUID | None = None) -> Visit:
    """Start a visit to a system of the actor's shop, with its first round, now or at a given time.

    public_id: made by the page, so that pressing twice starts one visit; raises NumberUsed where it is of another
    system's.
    """
    need(actor, WORK, system.house.shop_id)
    need_not_erased(system.house)
    now = at or timezone.now()
    visit = Visit(shop=system.house.shop, system=system, started_by=actor, with_person=actor, started_at=now)
    visit.is_practice = system.house.is_practice

    def save():
        visit.save()
        Round.objects.create(visit=visit, number=1, started_at=now, machine=system.machine)
        do_planned(visit)

    with transaction.atomic():
        return keep_once(Visit.objects.visible_to(actor), public_id, visit, ("system_id",), save)


def next_round(actor, visit: Visit, seen_number: int, at: datetime | None = None) -> Round:
    """Start the round after the one the person looked at; when it is there already, that one. Its clock starts now."""
    need(actor, WORK, visit.system.house.shop_id)
    with transaction.atomic():
        last = visit.rounds.latest("number")
        if last.number > seen_number:
            return last
        try:
            with transaction.atomic():
                number, machine = last.number + 1, visit.system.machine
                return Round.objects.create(
                    visit=visit, number=number, started_at=at or timezone.now(), machine=machine
                )
        except IntegrityError:
            return visit.rounds.latest("number")


@transaction.atomic
def hand_over(actor, visit: Visit, colleague, note: str = "") -> Handover | None:
    """Hand a visit to a colleague of the same shop; None when that person has it already."""
    need(actor, WORK, visit.system.house.shop_id)
    if colleague.shop_id != actor.shop_id:
        raise PermissionDenied("that person is of another shop")
    if visit.holder == colleague:
        return None
    handed = Handover.objects.create(visit=visit, given_by=actor, given_to=colleague, note=note[:300])
    visit.with_person = colleague
    visit.save(update_fields=["with_person"])
    return handed
