"""What other programs read. Each list comes in pages, the oldest first, so that a program can go on where it was."""

from datetime import date, datetime
from uuid import UUID

from django.db.models import OuterRef, QuerySet, Subquery
from django.shortcuts import get_object_or_404
from django.utils import timezone
from django.views.decorators.http import conditional_page
from ninja import Field, Path, Router, Schema
from ninja.decorators import decorate_view
from ninja.pagination import LimitOffsetPagination, paginate

from web.exchange.api.door import OfToken, Scoped
from web.history import due, due_kinds, ledger
from web.houses.models import House, System
from web.visits.load.current import read_by_slot
from web.visits.models import VALUELESS, Assessment, Reading, Visit

router = Router(throttle=[OfToken()])
FIRST_YEAR, LAST_YEAR = 2000, 2200


class Pages(LimitOffsetPagination):
    """So many at once, from a place in the list."""

    class Input(Schema):
        limit: int = Field(50, ge=1, le=200)
        offset: int = Field(0, ge=0, le=10_000_000)


class HouseOut(Schema):
    """A house and its customer."""

    id: UUID = Field(alias="public_id")
    name: str
    customer: str
    altitude_ft: float
    climate: str
    weather_place: str


class SystemOut(Schema):
    """A system as its plates have it; null where they are silent."""

    id: UUID = Field(alias="public_id")
    house: UUID = Field(alias="house.public_id")
    name: str
    kind: str
    nominal_tons: float
    refrigerant: str
    metering_device: str
    model: str
    serial: str
    indoor_model: str
    indoor_serial: str
    year: int | None
    seer: float | None
    factory_charge_oz: float | None
    target_subcooling_f: float | None
    compressor_rla: float | None


class VisitOut(Schema):
    """A visit with what was said of it last. ended: finished, returned, reopened, or '' while it was never finished."""

    id: UUID = Field(alias="public_id")
    system: UUID = Field(alias="system.public_id")
    started_at: datetime
    person: str
    ended: str
    next_due: date | None
    next_mode: str
    state: str | None
    headline: str | None

    @staticmethod
    def resolve_person(visit: Visit) -> str:
        return visit.holder.get_full_name()


class ReadingOut(Schema):
    """A reading in the record's unit, and as it was typed. counts: it was not replaced by a later one of its place."""

    id: UUID = Field(alias="uuid")
    round: int = Field(alias="round.number")
    place: str
    quantity: str
    variant: str
    value: float | None
    typed: str
    unit: str
    source: str
    taken_at: datetime
    counts: bool


class DueOut(Schema):
    """Something that is due on a system."""

    system: UUID = Field(alias="system.public_id")
    kind: str
    label: str
    on: date | None
    why: str
    person: str
    blocks: str


class MovedOut(Schema):
    """A line of the refrigerant log, in ounces."""

    at: datetime
    system: UUID | None
    what: str
    refrigerant: str
    oz: float
    person: str
    certificate: str
    cylinder: str
    wrong_refrigerant: bool = Field(alias="wrong")

    @staticmethod
    def resolve_system(line: ledger.Line) -> UUID | None:
        return line.system.public_id if line.system else None


@router.get("/houses", response=list[HouseOut], auth=Scoped("houses"))
@decorate_view(conditional_page)
@paginate(Pages)
def houses(request) -> QuerySet:
    """Every house of the shop."""
    return House.objects.filter(shop=request.auth.shop, is_practice=False).order_by("pk")


@router.get("/systems", response=list[SystemOut], auth=Scoped("houses"))
@decorate_view(conditional_page)
@paginate(Pages)
def systems(request, house: UUID | None = None) -> QuerySet:
    """Every system of the shop, or of a house."""
    rows = System.objects.filter(house__shop=request.auth.shop, house__is_practice=False).select_related("house")
    return (rows.filter(house__public_id=house) if house else rows).order_by("pk")


@router.get("/visits", response=list[VisitOut], auth=Scoped("visits"))
@decorate_view(conditional_page)
@paginate(Pages)
def visits(request, system: UUID | None = None, since: datetime | None = None) -> QuerySet:
    """Every visit of the shop, or of a system, or begun since a moment."""
    rows = _visits(request)
    if system:
        rows = rows.filter(system__public_id=system)
    if since:
        rows = rows.filter(started_at__gte=since if timezone.is_aware(since) else timezone.make_aware(since))
    return rows.order_by("pk")


@router.get("/visits/{id}", response=VisitOut, auth=Scoped("visits"))
@decorate_view(conditional_page)
def visit(request, id: UUID) -> Visit:
    """One visit."""
    return get_object_or_404(_visits(request), public_id=id)


@router.get("/visits/{id}/readings", response=list[ReadingOut], auth=Scoped("visits"))
@decorate_view(conditional_page)
def readings(request, id: UUID) -> list[Reading]:
    """All readings of a visit, replaced ones too, round by round."""
    of = get_object_or_404(_visits(request), public_id=id)
    rows = Reading.objects.filter(round__visit=of).select_related("round").order_by("round__number", "taken_at", "pk")
    by_round: dict[int, list[Reading]] = {}
    for row in rows:
        row.value = None if row.source in VALUELESS else row.value
        by_round.setdefault(row.round_id, []).append(row)
    for of_round in by_round.values():
        counting = {slot.current.pk for slot in read_by_slot(of_round).values()}
        for row in of_round:
            row.counts = row.pk in counting  # type: ignore[attr-defined]  # as the answer has it
    return [row for of_round in by_round.values() for row in of_round]


@router.get("/due", response=list[DueOut], auth=Scoped("due"))
@decorate_view(conditional_page)
@paginate(Pages)
def due_list(request, kind: str = "") -> list[due_kinds.Due]:
    """What is due in the shop, the longest due first."""
    return due.due_of(request.auth.made_by, due.Narrowed(kind=kind))


@router.get("/refrigerant/{year}", response=list[MovedOut], auth=Scoped("refrigerant"))
@decorate_view(conditional_page)
@paginate(Pages)
def refrigerant(request, year: int = Path(ge=FIRST_YEAR, le=LAST_YEAR)) -> list[ledger.Line]:
    """A year of the refrigerant log, the newest first."""
    begins, ends = (timezone.make_aware(datetime(y, 1, 1)) for y in (year, year + 1))
    return list(ledger.log_of(request.auth.shop, begins, ends).lines)


def _visits(request) -> QuerySet:
    last = Assessment.objects.filter(round__visit=OuterRef("pk")).order_by("-id")
    rows = Visit.objects.filter(shop=request.auth.shop, is_practice=False)
    return rows.select_related("system", "started_by", "with_person").annotate(
        state=Subquery(last.values("state")[:1]), headline=Subquery(last.values("headline")[:1])
    )
