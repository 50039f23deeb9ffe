"""Erasing a customer: what names the house and the people in it, or was written in somebody's own words, goes; the
readings stay, and what was judged of them.
"""

from datetime import datetime, timedelta
from typing import Any

from django.db import transaction
from django.db.models import F, Max, Model, QuerySet
from django.utils import timezone

from web.accounts.access import need
from web.accounts.deeds import note
from web.accounts.models import Shop
from web.accounts.rights import CUSTOMERS
from web.background.kinds import Kind, Step
from web.background.models import Work
from web.exchange.models import CustomerLink, RegisterIntake
from web.exchange.tasks import forget_exports
from web.history.models import VisitSummary
from web.houses.models import House, PlateVersion, Room, Table
from web.houses.querysets import initials_of
from web.houses.search import note_words
from web.kinds.models import LeftOut
from web.retention.services import remove, rewrite
from web.visits.bridge.vocabulary import ROOM
from web.visits.changes import picture_files
from web.visits.changes.entries import reassess
from web.visits.models import (
    Action,
    Assessment,
    Baseline,
    ChargeStep,
    Closing,
    DueMove,
    FollowUp,
    Handover,
    HookUp,
    LeakSearch,
    Outcome,
    Pairing,
    Photo,
    PlanMove,
    PlannedVisit,
    Reading,
    Remark,
    Round,
    Visit,
)

WHY, ERASED = "a customer was erased", "Erased"
ENTRY, OF_VISIT, OF_SYSTEM = "round__visit__system__house", "visit__system__house", "system__house"
SERIALS = ("serial", "indoor_serial")
AT_ONCE = 5  # houses in a step

# What somebody wrote: table, its way to the house, and what it says once the customer is erased. A line that must say
# something, and is no use without its words, is in REMOVED.
WRITTEN: tuple[tuple[type[Model], str, dict[str, Any]], ...] = (
    (Action, ENTRY, {"text": ""}),
    (HookUp, ENTRY, {"why": ""}),
    (ChargeStep, ENTRY, {"why": ""}),
    (LeakSearch, ENTRY, {"where": ""}),
    (Outcome, ENTRY, {"words": ""}),
    (Handover, OF_VISIT, {"note": ""}),
    (
        Closing,
        OF_VISIT,
        {
            "for_customer": "",
            "for_shop": "",
            "no_recheck_why": "",
            "looks": {},
            "pictures": [],
            "next_due": None,
            "next_mode": "",
        },
    ),
    (Baseline, OF_SYSTEM, {"why": ERASED}),
    (FollowUp, OF_SYSTEM, {"text": ERASED, "outcome": ""}),
    (DueMove, OF_SYSTEM, {"why": ERASED}),
    (PlannedVisit, OF_SYSTEM, {"why": ERASED, "called_off_why": ""}),
    (Table, OF_SYSTEM, {"source": ""}),
    (LeftOut, OF_VISIT, {"why": ERASED}),
    (PlanMove, "plan__" + OF_SYSTEM, {"why": ERASED}),
)
REMOVED: tuple[tuple[type[Model], str], ...] = ((Remark, ENTRY), (CustomerLink, OF_VISIT), (Photo, OF_SYSTEM))


class EraseRefused(ValueError):
    """Why a customer cannot be erased now, in words."""


@transaction.atomic
def erase(actor, house: House) -> None:
    """Erase the customer of a house, for good. actor: a lead, or None for the shop's keeping time. Raises EraseRefused
    while a visit there is open.
    """
    if actor is not None:
        need(actor, CUSTOMERS, house.shop_id)
    house = House.objects.select_for_update().select_related("shop").get(pk=house.pk)
    if house.erased_at:
        return
    if Visit.objects.filter(system__house=house).open_still().exists():
        raise EraseRefused("A visit to this house is not finished. Finish it first.")
    now = timezone.now()
    _end_what_is_to_come(house, actor, now)
    photos = list(Photo.objects.filter(system__house=house))
    for model, path, says in WRITTEN:
        rewrite(model._default_manager.filter(**{path: house}), says, WHY, actor)
    ended = Baseline.objects.filter(system__house=house).exclude(ended_why="")
    rewrite(ended, {"ended_why": ERASED}, WHY, actor)
    for model, path in REMOVED:
        remove(model._default_manager.filter(**{path: house}), WHY, actor)
    _forget_rooms(house, actor)
    _forget_spreadsheets(house)
    _forget_the_house(house, actor, now)
    note(actor, "customer_erased", house, "" if actor else "past the keeping time", shop=house.shop)
    transaction.on_commit(lambda: _forget_files(house.shop, photos), robust=True)  # what fails is swept daily


@transaction.atomic
def set_keeping(actor, years: int | None) -> None:
    """How many years after the last visit a customer of the actor's shop is kept; None: until a lead erases them."""
    need(actor, CUSTOMERS, actor.shop_id)
    actor.shop.keeps_years = years
    actor.shop.save(update_fields=["keeps_years"])
    note(actor, "shop", detail=f"customers are kept {years} years" if years else "customers are kept until erased")


def past_keeping(shop: Shop, at: datetime) -> QuerySet[House]:
    """Houses whose last visit is longer ago than the shop keeps its customers, without those of a visit that is open;
    none where it keeps them for good.
    """
    if not shop.keeps_years:
        return House.objects.none()
    last = at.replace(year=at.year - shop.keeps_years, day=min(at.day, 28))
    open_ = Visit.objects.filter(shop=shop).open_still().values("system__house")
    houses = House.objects.filter(shop=shop).real().exclude(pk__in=open_)
    return houses.annotate(visited=Max("systems__visits__started_at")).filter(visited__lt=last).order_by("visited")


def _past_step(work: Work) -> Step:
    """A few of the houses that are past their shop's keeping time."""
    now, gone = timezone.now(), 0
    for shop in Shop.objects.filter(keeps_years__isnull=False):
        for house in past_keeping(shop, now)[:AT_ONCE]:
            erase(None, house)
            gone += 1
        if gone:
            return Step(gone)
    return Step(0, ended=True, says=f"{work.done} customers past their time were erased.")


ERASE_PAST = Kind("Erasing customers past their time", _past_step, timedelta(days=1))


def _end_what_is_to_come(house: House, actor, now: datetime) -> None:
    """Nothing of the house is due any more, and nobody is planned to go there."""
    Visit.objects.filter(system__house=house).update(next_due=None, left_unread=None)
    VisitSummary.objects.filter(visit__system__house=house).update(filter_due=None)
    FollowUp.objects.filter(system__house=house, closed_at=None).update(closed_at=now, closed_by=actor)
    planned = PlannedVisit.objects.filter(system__house=house, visit=None, called_off_at=None)
    planned.update(called_off_at=now, called_off_by=actor, changed_at=now, revision=F("revision") + 1)


def _forget_rooms(house: House, actor) -> None:
    """Rooms are often called after people: each gets a number, in the readings too, and what was judged of them by name
    is judged again.
    """
    for system in house.systems.all():
        readings = Reading.objects.filter(round__visit__system=system, place__startswith=ROOM)
        named = {place.removeprefix(ROOM) for place in readings.values_list("place", flat=True).distinct()}
        names = sorted(named | set(system.rooms.values_list("name", flat=True)))
        rounds = list(
            Round.objects.filter(pk__in=readings.values("round")).select_related("visit__system__house__shop")
        )
        plain = ERASED if any(name.startswith("Room") for name in names) else "Room"
        for number, name in enumerate(names, 1):
            new = f"{plain} {number}"
            rewrite(readings.filter(place=ROOM + name), {"place": ROOM + new}, WHY, actor)
            Room.objects.filter(system=system, name=name).update(name=new)
        Pairing.objects.filter(visit__system=system, place__startswith=ROOM).delete()
        remove(Assessment.objects.filter(round__in=rounds), WHY, actor)
        for round_ in rounds:
            reassess(round_)


def _forget_spreadsheets(house: House) -> None:
    """The rows of spreadsheets that the house came with; all of one that made it under another name."""
    for intake in RegisterIntake.objects.filter(shop=house.shop):
        rows = [row for row in intake.rows if row["house"]["name"].casefold() != house.name.casefold()]
        if len(rows) == len(intake.rows) and house.pk in intake.houses:
            rows = []
        if len(rows) < len(intake.rows):
            intake.rows = rows
            intake.save(update_fields=["rows"])


def _forget_the_house(house: House, actor, now: datetime) -> None:
    for number, system in enumerate(house.systems.order_by("pk"), 1):
        system.name = f"System {number}"  # some are called after who lives there
        for name in SERIALS:
            setattr(system, name, "")
        system.save(update_fields=("name", *SERIALS))
        for version in PlateVersion.objects.filter(system=system):
            plates = version.plates | {name: "" for name in SERIALS if name in version.plates}
            rewrite(PlateVersion.objects.filter(pk=version.pk), {"plates": plates}, WHY, actor)
    house.name, house.customer, house.access_note = f"{ERASED} {str(house.public_id)[:8]}", "", ""
    house.weather_place, house.erased_at = "", now
    house.initials = initials_of(house.name)
    house.save()
    note_words(house)


def _forget_files(shop: Shop, photos: list[Photo]) -> None:
    for photo in photos:
        picture_files.forget(photo)
    forget_exports(shop)
