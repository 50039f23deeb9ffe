"""Changes to the record beside the visits: cylinders, what comes into them or leaves them, and what is due moved."""

import uuid
from datetime import date, datetime, time

from django.db import IntegrityError, transaction
from django.utils import timezone

from web.accounts.access import need
from web.accounts.deeds import note
from web.accounts.rights import PLAN, READ, SHOP, STOCK
from web.history.due_kinds import Due
from web.history.models import CalendarFeed
from web.shell.once import keep_once
from web.shell.tokens import hash_of, new_token
from web.visits.models import CORRECTED, RETURNED_TO_SUPPLIER, Cylinder, CylinderMove, DueMove


class Refused(ValueError):
    """Why something is not kept, in words for the person. field: which field of its form it is about, None for all."""

    def __init__(self, said: str, field: str | None = None):
        super().__init__(said)
        self.field = field


def add_cylinder(
    actor,
    label: str,
    refrigerant: str,
    is_recovery: bool = False,
    tare_oz: float | None = None,
    holds_oz: float | None = None,
    number: uuid.UUID | None = None,
) -> Cylinder:
    """Add a cylinder by its label. Raises Refused, NumberUsed."""
    need(actor, STOCK, actor.shop_id)
    if is_recovery and not (tare_oz and holds_oz):
        raise Refused(
            "A recovery cylinder needs its empty weight and what it holds: both are stamped on it.", "tare_oz"
        )
    row = Cylinder(
        shop=actor.shop, label=label.strip(), refrigerant=refrigerant, is_recovery=is_recovery, tare_oz=tare_oz,
        holds_oz=holds_oz, added_by=actor,
    )  # fmt: skip
    try:
        with transaction.atomic():
            return keep_once(Cylinder.objects.visible_to(actor), number, row, ("label", "refrigerant"), row.save)
    except IntegrityError as error:
        raise Refused(f"There is a cylinder '{row.label}' already: labels tell them apart.", "label") from error


def move(
    actor,
    cylinder: Cylinder,
    did: str,
    oz: float,
    why: str = "",
    on: date | None = None,
    number: uuid.UUID | None = None,
    held_oz: float = 0.0,
) -> CylinderMove:
    """Keep what came into a cylinder or left it [oz, over 0; a correction may be under]. held_oz: what is in it by the
    log. Raises Refused, NumberUsed.
    """
    need(actor, STOCK, cylinder.shop_id)
    if on and on > timezone.localdate():
        raise Refused("That day has not come yet.", "on")
    if did == CORRECTED and not why.strip():
        raise Refused("Say why it is corrected.", "why")
    signed = -abs(oz) if did == RETURNED_TO_SUPPLIER else oz
    if cylinder.holds_oz and held_oz + signed > cylinder.holds_oz:
        raise Refused("That is more than the cylinder holds: check the weight, or what it holds.", "oz")
    at = timezone.make_aware(datetime.combine(on, time(12))) if on and on < timezone.localdate() else timezone.now()
    row = CylinderMove(
        shop=cylinder.shop, cylinder=cylinder, did=did, oz=signed, why=why.strip()[:200], person=actor, at=at
    )
    return keep_once(CylinderMove.objects.visible_to(actor), number, row, ("cylinder_id", "did", "oz"), row.save)


def move_due(actor, due: Due, until: date, why: str, number: uuid.UUID | None = None) -> DueMove:
    """Move something that is due to another day, with a reason. Raises Refused, NumberUsed."""
    need(actor, PLAN, due.system.house.shop_id)
    if until <= timezone.localdate():
        raise Refused("Move it to a day that is still to come.", "until")
    if not why.strip():
        raise Refused("Say why it is moved.", "why")
    row = DueMove(
        shop=actor.shop, system=due.system, kind=due.kind, ref=due.ref, until=until, why=why.strip()[:200], person=actor
    )
    return keep_once(DueMove.objects.visible_to(actor), number, row, ("kind", "ref", "until"), row.save)


@transaction.atomic
def make_feed(actor, of_shop: bool = False) -> tuple[CalendarFeed, str]:
    """A new address of the actor's own calendar, or by a lead of the shop's, and its token: the only time it can be
    seen. One that was made before ends.
    """
    need(actor, READ, actor.shop_id)
    if of_shop:
        need(actor, SHOP, actor.shop_id)
    person, token = None if of_shop else actor, new_token()
    _feeds(actor, person).update(ended_at=timezone.now())
    row = CalendarFeed.objects.create(shop=actor.shop, person=person, token_hash=hash_of(token), made_by=actor)
    note(actor, "feed", detail="of the shop" if of_shop else "of their own")
    return row, token


@transaction.atomic
def end_feed(actor, of_shop: bool = False) -> None:
    """The address of the actor's own calendar, or by a lead of the shop's, shows nothing any more."""
    need(actor, READ, actor.shop_id)
    if of_shop:
        need(actor, SHOP, actor.shop_id)
    if _feeds(actor, None if of_shop else actor).update(ended_at=timezone.now()):
        note(actor, "feed_ended", detail="of the shop" if of_shop else "of their own")


def _feeds(actor, person):
    return CalendarFeed.objects.visible_to(actor).filter(person=person, ended_at__isnull=True)
