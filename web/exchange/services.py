"""Every change to what leaves the shop."""

from collections.abc import Sequence
from datetime import timedelta

from django.core.files.storage import default_storage
from django.db import transaction
from django.db.models import F, ProtectedError
from django.utils import timezone

from web.accounts.access import need
from web.accounts.deeds import note
from web.accounts.rights import PAPERS, REGISTER, SHOP
from web.background.models import Work
from web.background.services import start
from web.exchange import register
from web.exchange.intake import Taken, records_in, take_in
from web.exchange.models import ApiToken, CustomerLink, RegisterIntake
from web.houses.models import House, PlateVersion, System
from web.houses.services import save_house, save_system
from web.retention.services import remove
from web.shell.tokens import hash_of, new_token
from web.visits.access import finished_moment
from web.visits.models import Visit

LASTS_DAYS = {30: "a month", 90: "three months", 365: "a year"}
USUAL_DAYS = 90
EXPORTS = "exports"  # the store's folder of archives that wait
AT_ONCE = 3_000  # records taken in while somebody waits: some seconds


class LinkRefused(ValueError):
    """Why no link is made, in words for the person."""


@transaction.atomic
def make_link(actor, visit: Visit, days: int = USUAL_DAYS) -> tuple[CustomerLink, str]:
    """A link to the customer's page of a finished visit, and its token: the only time it can be seen. Raises
    LinkRefused.
    """
    need(actor, PAPERS, visit.shop_id)
    if days not in LASTS_DAYS:
        raise LinkRefused("Choose how long the link lasts.")
    if finished_moment(visit) is None:
        raise LinkRefused("Finish the visit first: the customer reads what was closed.")
    token = new_token()
    expires = timezone.now() + timedelta(days=days)
    row = CustomerLink.objects.create(
        shop=visit.shop, visit=visit, token_hash=hash_of(token), made_by=actor, expires_at=expires
    )
    note(actor, "link", visit)
    return row, token


@transaction.atomic
def end_link(actor, link: CustomerLink) -> None:
    """The link opens no more; ending it twice keeps the first moment."""
    need(actor, PAPERS, link.shop_id)
    if CustomerLink.objects.filter(pk=link.pk, ended_at__isnull=True).update(ended_at=timezone.now()):
        note(actor, "link_ended", link.visit)


def count_opened(link: CustomerLink) -> None:
    """Somebody opened the link."""
    CustomerLink.objects.filter(pk=link.pk).update(opened=F("opened") + 1, opened_at=timezone.now())


def read_register(actor, name: str, content: bytes) -> RegisterIntake:
    """Read a spreadsheet of customers and systems; nothing is made of it yet. Leads only. Raises
    register.FileRefused.
    """
    need(actor, REGISTER, actor.shop_id)
    found = register.read(actor.shop, actor, content)
    rows = [row.kept() for row in found.rows]
    return RegisterIntake.objects.create(
        shop=actor.shop, by=actor, file_name=name[:120], rows=rows, left_out=found.left_out
    )


@transaction.atomic
def make_register(actor, intake: RegisterIntake) -> RegisterIntake:
    """Make the new rows of a spreadsheet that was read; saying yes twice makes them once."""
    need(actor, REGISTER, intake.shop_id)
    intake = RegisterIntake.objects.select_for_update().get(pk=intake.pk)
    if intake.made_at:
        return intake
    houses = {house.name.casefold(): house for house in House.objects.visible_to(actor).filter(is_practice=False)}
    for row in intake.rows:
        if row["becomes"] != register.NEW:
            continue
        house = houses.get(row["house"]["name"].casefold())
        if house is None:
            house = save_house(actor, register.house_of(intake.shop, row["house"]))
            houses[house.name.casefold()] = house
            intake.houses.append(house.pk)
        if row["system"]:
            intake.systems.append(save_system(actor, register.system_of(house, row["system"])).pk)
    intake.made_at = timezone.now()
    intake.save()
    note(actor, "register_made", detail=intake.file_name)
    return intake


@transaction.atomic
def undo_register(actor, intake: RegisterIntake) -> RegisterIntake:
    """Take away what was made of a spreadsheet, but what somebody has worked on since: that stays, and is named."""
    need(actor, REGISTER, intake.shop_id)
    intake = RegisterIntake.objects.select_for_update().get(pk=intake.pk)
    if intake.made_at is None or intake.undone_at:
        return intake
    for system in System.objects.filter(pk__in=intake.systems).select_related("house"):
        if not _went(system, f"undoing {intake.file_name}", actor):
            intake.left.append(f"{system}: there is work on record")
    for house in House.objects.filter(pk__in=intake.houses, systems__isnull=True):
        house.delete()
    intake.undone_at = timezone.now()
    intake.save()
    note(actor, "register_undone", detail=intake.file_name)
    return intake


def _went(system: System, why: str, actor) -> bool:
    """Whether a system could be taken away: nothing but its own plates hangs from it."""
    try:
        with transaction.atomic():
            remove(PlateVersion.objects.filter(system=system), why, actor)
            system.delete()
    except ProtectedError:
        return False
    return True


def note_taken_out(actor, house: House, system: System | None = None) -> None:
    """That the whole record of a house or of one of its machines leaves."""
    need(actor, REGISTER, house.shop_id)
    note(actor, "taken_out", system or house)


@transaction.atomic
def make_token(actor, name: str, scopes: Sequence[str]) -> tuple[ApiToken, str]:
    """A token for another program, and its text: the only time it can be seen. Leads only."""
    need(actor, SHOP, actor.shop_id)
    token = new_token()
    row = ApiToken.objects.create(
        shop=actor.shop, name=name.strip()[:60], scopes=sorted(scopes), token_hash=hash_of(token), made_by=actor
    )
    note(actor, "token", detail=row.name)
    return row, token


@transaction.atomic
def revoke_token(actor, token: ApiToken) -> None:
    """The token reads nothing any more."""
    need(actor, SHOP, token.shop_id)
    if ApiToken.objects.filter(pk=token.pk, revoked_at__isnull=True).update(revoked_at=timezone.now()):
        note(actor, "token_revoked", detail=token.name)


def note_used(token: ApiToken) -> None:
    """That a token was used; written once an hour at most."""
    now = timezone.now()
    if token.used_at is None or token.used_at < now - timedelta(hours=1):
        ApiToken.objects.filter(pk=token.pk).update(used_at=now)


def receive_archive(actor, file) -> str:
    """Take an archive in: a small one at once, a large one in the background. Returns what came of it, in words; raises
    IntakeRefused.
    """
    need(actor, SHOP, actor.shop_id)
    if records_in(file) <= AT_ONCE:
        return taken_said(take_in(actor, file))
    with transaction.atomic():
        work = start(actor, "take_in")
        default_storage.save(waits_at(work), file)
    return "The archive is taken in now; it shows below what came of it."


def waits_at(work: Work) -> str:
    """What an archive that waits to be taken in is called in the store."""
    return f"{EXPORTS}/{work.public_id}.in.zip"


def taken_said(taken: Taken) -> str:
    """What came of an archive, in words."""
    return f"{sum(taken.new.values())} records are new, {sum(taken.known.values())} were here."
