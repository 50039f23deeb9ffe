"""The end of a visit: finishing it, and what a lead or its holder may do with a finished one. Nothing is deleted:
each step is a row of its own.
"""

import uuid
from collections.abc import Sequence
from datetime import date, datetime, timedelta
from itertools import chain

from django.db import transaction
from django.utils import timezone

from web.accounts.access import need
from web.accounts.rights import FINISH, OVERSEE, READ, may, roles_in_words
from web.houses.access import need_not_erased
from web.shell.forms import read_uuid
from web.shell.once import keep_once
from web.visits.access import finished_moment
from web.visits.bridge import vocabulary
from web.visits.changes.refrigerant import follow_unsearched
from web.visits.forms import FinishForm
from web.visits.load.gauges import steps_by_round
from web.visits.models import FINISHED, REOPENED, RETURNED, REVIEWED, Closing, Photo, Visit

REOPENED_BY_HOLDER_WITHIN = timedelta(days=1)


class ClosingRefused(ValueError):
    """Why a step is not taken, in words for the person."""


def left_to_see_to(visit: Visit, looks: dict[str, str]) -> list[str]:
    """What of the last looks nobody answered, by label. looks: id -> '' where done, else why not."""
    return [look.label for look in vocabulary.last_looks(visit.system.kind) if look.id not in looks]


def fixed_and_not_read(visit: Visit) -> bool:
    """Whether something was done after the last round that nobody has read again."""
    last = visit.rounds.order_by("-number").first()
    return last.actions.exclude(done=vocabulary.NOTHING_DONE).exists() or last.number in steps_by_round(visit)


def take_closing(actor, visit: Visit, says: dict[str, str], number: uuid.UUID, at: datetime) -> Closing:
    """The step that an entry of the kind *closing* says: 'did', and the fields of its form.

    at: when it was done, by the device's clock. Raises ClosingRefused, NumberUsed.
    """
    did, words = says.get("did", ""), says.get("words", "")
    if did == FINISHED:
        form = FinishForm(says)
        if not form.is_valid():
            raise ClosingRefused(" ".join(str(said) for said in chain(*form.errors.values())))
        return finish_visit(actor, visit, **form.said(), number=number, at=at)
    if did == REOPENED:
        return reopen_visit(actor, visit, words, number)
    if did in (REVIEWED, RETURNED):
        return review_visit(actor, visit, words, number, again=did == RETURNED)
    raise ClosingRefused("A visit is finished, reviewed, returned or reopened.")


@transaction.atomic
def finish_visit(
    actor,
    visit: Visit,
    looks: dict[str, str],
    for_customer: str = "",
    for_shop: str = "",
    no_recheck_why: str = "",
    next_due: date | None = None,
    next_mode: str = "",
    pictures: Sequence[str] = (),
    number: uuid.UUID | None = None,
    at: datetime | None = None,
) -> Closing:
    """Finish an open visit, signed by who has it in hand, or by a lead; raises ClosingRefused, NumberUsed.

    pictures: ids of those chosen for the report; what is no picture of this system is left out.
    """
    need(actor, READ, visit.shop_id)
    _hold(visit)
    if _kept(actor, number) is None:
        if finished_moment(visit):
            raise ClosingRefused("This visit is finished already.")
        if not may(actor, FINISH):
            raise ClosingRefused(f"Hand the visit to a {roles_in_words(FINISH)}, who finishes it.")
        if actor != visit.holder and not may(actor, OVERSEE):
            raise ClosingRefused(f"{visit.holder.short_name} has this visit in hand: take it over first.")
        if left := left_to_see_to(visit, looks):
            raise ClosingRefused(f"Still to see to, or to say why not: {', '.join(left).lower()}.")
        if fixed_and_not_read(visit) and not no_recheck_why.strip():
            raise ClosingRefused("Something was done and not read again. Read it again, or say why not.")
    known = {
        look.id: looks[look.id].strip()[:200] for look in vocabulary.last_looks(visit.system.kind) if look.id in looks
    }
    follow_unsearched(actor, visit, at)
    return _step(
        actor, visit, FINISHED, number, at, for_customer=for_customer.strip(), for_shop=for_shop.strip(), looks=known,
        no_recheck_why=no_recheck_why.strip()[:200], next_due=next_due,
        next_mode=next_mode if next_due else "", pictures=_pictures(actor, visit, pictures),
    )  # fmt: skip


@transaction.atomic
def reopen_visit(actor, visit: Visit, why: str, number: uuid.UUID | None = None) -> Closing:
    """Open a finished visit again: by who has it in hand within a day, later by a lead."""
    need(actor, READ, visit.shop_id)
    need_not_erased(visit.system.house)
    _hold(visit)
    if _kept(actor, number) is None:
        at = _need_finished(visit)
        mine = actor == visit.holder and timezone.now() - at <= REOPENED_BY_HOLDER_WITHIN
        if not ((mine and may(actor, FINISH)) or may(actor, OVERSEE)):
            raise ClosingRefused("Only a lead may reopen this visit now.")
    return _step(actor, visit, REOPENED, number, for_shop=_need_words(why, "why it is opened again"))


@transaction.atomic
def review_visit(actor, visit: Visit, words: str, number: uuid.UUID | None = None, again: bool = False) -> Closing:
    """A lead's word on a finished visit; again: it goes back to be done again."""
    need(actor, READ, visit.shop_id)
    _hold(visit)
    if _kept(actor, number) is None:
        _need_finished(visit)
        if not may(actor, OVERSEE):
            raise ClosingRefused("A lead reviews visits.")
    said = _need_words(words, "what is to be done again") if again else words.strip()
    return _step(actor, visit, RETURNED if again else REVIEWED, number, for_shop=said)


def _pictures(actor, visit: Visit, chosen: Sequence[str]) -> list[str]:
    found = Photo.objects.visible_to(actor).filter(system=visit.system_id, public_id__in=filter(read_uuid, chosen))
    return [str(id_) for id_ in found.order_by("id").values_list("public_id", flat=True)]


def _hold(visit: Visit) -> None:
    """Keep others out until this step is taken: of two who finish at once, the second is told."""
    Visit.objects.select_for_update().get(pk=visit.pk)


def _kept(actor, number: uuid.UUID | None) -> Closing | None:
    """What this number has kept already: a step taken twice is not asked for again."""
    return Closing.objects.visible_to(actor).filter(public_id=number).first() if number else None


def _need_finished(visit: Visit) -> datetime:
    at = finished_moment(visit)
    if at is None:
        raise ClosingRefused("This visit is open.")
    return at


def _need_words(words: str, what: str) -> str:
    if not words.strip():
        raise ClosingRefused(f"Say {what}.")
    return words.strip()


def _step(actor, visit: Visit, did: str, number: uuid.UUID | None, at: datetime | None = None, **says) -> Closing:
    for name in ("for_customer", "for_shop"):
        says[name] = says.get(name, "")[:1000]
    row = Closing(
        shop=visit.shop,
        visit=visit,
        round=visit.rounds.order_by("-number").first(),
        did=did,
        person=actor,
        at=at or timezone.now(),
        **says,
    )

    def save():
        row.save()
        if did == FINISHED:  # what an earlier visit left is done by this one
            Visit.objects.filter(system=visit.system_id).exclude(pk=visit.pk).update(
                next_due=None, next_mode="", left_unread=None
            )
            unread = True if row.no_recheck_why else None
            Visit.objects.filter(pk=visit.pk).update(
                ended=did, next_due=row.next_due, next_mode=row.next_mode, left_unread=unread
            )
        elif did != REVIEWED:
            Visit.objects.filter(pk=visit.pk).update(ended=did, next_due=None, next_mode="", left_unread=None)

    return keep_once(Closing.objects.visible_to(actor), number, row, ("visit_id", "did"), save)
