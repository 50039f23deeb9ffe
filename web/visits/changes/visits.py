"""Starting a visit, starting its next round, handing it over."""

import uuid
from datetime import datetime

from django.core.exceptions import PermissionDenied
from django.db import IntegrityError, transaction
from django.utils import timezone

from web.accounts.access import need_shop
from web.visits.models import Handover, Round, Visit


class NumberTaken(ValueError):
    """A page sent a number that is of another visit."""


@transaction.atomic
def start_visit(actor, system, at: datetime | None = None, public_id: uuid.UUID | None = None) -> Visit:
    """Start a visit to a system of the actor's shop, with its first round, now or at a given time.

    public_id: made by the page, so that pressing twice starts one visit.
    """
    need_shop(actor, system.house.shop_id)
    if public_id and (found := Visit.objects.visible_to(actor).filter(public_id=public_id, system=system).first()):
        return found
    now = at or timezone.now()
    try:
        with transaction.atomic():
            visit = Visit.objects.create(
                shop=system.house.shop,
                public_id=public_id or uuid.uuid4(),
                system=system,
                started_by=actor,
                with_person=actor,
                started_at=now,
            )
    except IntegrityError:
        found = Visit.objects.visible_to(actor).filter(public_id=public_id, system=system).first()
        if found is None:
            raise NumberTaken("that number is of another visit") from None
        return found
    Round.objects.create(visit=visit, number=1, started_at=now, machine=system.machine)
    return visit


def next_round(actor, visit: Visit, seen_number: int, at: datetime | None = None) -> Round:
    """Start the round after the one the person looked at; when it is there already, that one. Its clock starts now."""
    need_shop(actor, visit.system.house.shop_id)
    with transaction.atomic():
        last = visit.rounds.order_by("-number").first()
        if last.number > seen_number:
            return last
        try:
            with transaction.atomic():
                number, machine = last.number + 1, visit.system.machine
                return Round.objects.create(visit=visit, number=number, started_at=at or timezone.now(), machine=machine)
        except IntegrityError:
            return visit.rounds.order_by("-number").first()


@transaction.atomic
def hand_over(actor, visit: Visit, colleague, note: str = "") -> Handover | None:
    """Hand a visit to a colleague of the same shop; None when that person has it already."""
    need_shop(actor, visit.system.house.shop_id)
    if colleague.shop_id != actor.shop_id:
        raise PermissionDenied("that person is of another shop")
    if visit.holder == colleague:
        return None
    handed = Handover.objects.create(visit=visit, given_by=actor, given_to=colleague, note=note[:300])
    visit.with_person = colleague
    visit.save(update_fields=["with_person"])
    return handed
