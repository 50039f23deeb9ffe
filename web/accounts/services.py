"""Changes a person makes to their own account, and a lead to the shop and the people in it."""

import uuid
from datetime import date, timedelta

from django.core.exceptions import PermissionDenied
from django.db import transaction
from django.utils import timezone

from web.accounts import guard
from web.accounts.access import need
from web.accounts.deeds import changed_fields, note
from web.accounts.models import DoorLink, Session, Shop, User
from web.accounts.rights import LEAD, PEOPLE, ROLES, SHOP
from web.shell.tokens import hash_of, new_token

OPENS_FOR = timedelta(days=7)
FORGOTTEN_OPENS_FOR = timedelta(hours=1)  # a link that anybody who knows a name can have sent


class NotPossible(ValueError):
    """Why a change to the people of a shop cannot be, in words."""


@transaction.atomic
def set_usual_place(actor, shop: Shop) -> None:
    """Where most of the shop's houses are, as the lead has it. Houses that are entered already stay as they are."""
    need(actor, SHOP, shop.pk)
    changed = changed_fields(shop, ("altitude_ft", "climate", "weather_place"))
    shop.save(update_fields=["altitude_ft", "climate", "weather_place"])
    note(actor, "shop", detail=", ".join(changed))


@transaction.atomic
def set_certificate(actor, person: User, certificate: str, until: date | None = None) -> None:
    """The number under which a person may open a circuit, as the lead has seen it, '' for none; and the last day it is
    good for, None where it does not run out.
    """
    need(actor, PEOPLE, person.shop_id)
    person.certificate, person.certificate_until = certificate, until
    person.save(update_fields=["certificate", "certificate_until"])
    note(actor, "certificate", person, certificate + (f", until {until}" if until else ""))


def set_units(actor, temperatures: str, pressures: str) -> None:
    """How this person reads and types temperatures, 'F' or 'C', and types a gauge's pressures. Nothing stored is
    changed by it.
    """
    actor.temperatures, actor.pressures = temperatures, pressures
    actor.save(update_fields=["temperatures", "pressures"])


@transaction.atomic
def make_shop(name: str, time_zone: str, first_name: str, last_name: str) -> tuple[Shop, str]:
    """A new shop, and the token with which its first lead joins. Nobody signs in for it: it is the host's doing."""
    shop = Shop.objects.create(name=name, time_zone=time_zone)
    return shop, _link(DoorLink(shop=shop, role=LEAD, first_name=first_name, last_name=last_name))


@transaction.atomic
def invite(actor, first_name: str, last_name: str, role: str, email: str = "") -> str:
    """The token with which somebody joins the shop. Leads only."""
    need(actor, PEOPLE, actor.shop_id)
    if role not in ROLES:
        raise NotPossible("There is no such role.")
    note(actor, "invited", detail=f"{first_name} {last_name}, {ROLES[role].lower()}")
    names = {"first_name": first_name, "last_name": last_name, "email": email}
    return _link(DoorLink(shop=actor.shop, role=role, made_by=actor, **names))


@transaction.atomic
def let_choose_password(actor, person: User) -> str:
    """The token with which a person chooses a new password. Leads only."""
    need(actor, PEOPLE, person.shop_id)
    if not person.is_active:
        raise NotPossible(f"{person.short_name} has left. Let them in again first.")
    note(actor, "password_link", person)
    return _link(DoorLink(shop=person.shop, person=person, role=person.role, made_by=actor))


@transaction.atomic
def let_choose_forgotten(person: User) -> str:
    """The token of who has forgotten the password, to be sent to the address on record, or given by the host. It opens
    for an hour.
    """
    note(None, "password_link", person, shop=person.shop)
    return _link(DoorLink(shop=person.shop, person=person, role=person.role), FORGOTTEN_OPENS_FOR)


@transaction.atomic
def set_email(actor, email: str) -> None:
    """Where a person's own letters go: the way to a new password."""
    actor.email = email
    actor.save(update_fields=["email"])
    note(actor, "email")


@transaction.atomic
def end_door(actor, link: DoorLink) -> None:
    """A link into the shop opens no more."""
    need(actor, PEOPLE, link.shop_id)
    if DoorLink.objects.filter(pk=link.pk, ended_at__isnull=True).update(ended_at=timezone.now()):
        note(actor, "door_ended")


@transaction.atomic
def come_in(link: DoorLink, username: str, password: str) -> User:
    """Use a link: join the shop under a name, or choose a new password. It opens once. Raises PermissionDenied where
    somebody was faster.
    """
    row = DoorLink.objects.select_for_update().select_related("person").get(pk=link.pk)
    if row.used_at or row.ended_at:
        raise PermissionDenied("that link was used")
    names = {"first_name": row.first_name, "last_name": row.last_name, "email": row.email}
    person = row.person or User(username=username, shop=row.shop, role=row.role, **names)
    person.set_password(password)  # with it, all sessions of the person end
    person.save()
    note(person, "password" if row.person else "joined")
    row.used_at, row.person = timezone.now(), person
    row.save(update_fields=["used_at", "person"])
    return person


@transaction.atomic
def set_role(actor, person: User, role: str) -> None:
    """What a person may do from now on. Leads only; a shop keeps one lead at least."""
    need(actor, PEOPLE, person.shop_id)
    if role not in ROLES:
        raise NotPossible("There is no such role.")
    if role != LEAD:
        _need_another_lead(person)
    was, person.role = person.role, role
    person.save(update_fields=["role"])
    note(actor, "role", person, f"{ROLES.get(was, was).lower()} to {ROLES[role].lower()}")


@transaction.atomic
def end_sessions(actor, person: User, but: str = "", only: uuid.UUID | None = None) -> int:
    """Sign a person out everywhere, or where `only` says: themselves, or a lead for who has lost a phone. but: the key
    of the session that stays. Returns how many ended.
    """
    if actor.pk != person.pk:
        need(actor, PEOPLE, person.shop_id)
    sessions = Session.objects.filter(person=person).exclude(session_key=but)
    ended, _ = (sessions.filter(public_id=only) if only else sessions).delete()
    if ended and not only:
        note(actor, "signed_out", person)
    return ended


@transaction.atomic
def let_go(actor, person: User) -> None:
    """A person has left: they cannot sign in, and are signed out everywhere at once; their work stays. Leads only."""
    need(actor, PEOPLE, person.shop_id)
    _need_another_lead(person)
    person.is_active = False
    person.save(update_fields=["is_active"])
    Session.objects.filter(person=person).delete()
    DoorLink.objects.filter(person=person).live().update(ended_at=timezone.now())
    note(actor, "let_go", person)


@transaction.atomic
def let_in_again(actor, person: User) -> None:
    """A person is back. One who came with another shop's archive has no name to sign in with, and stays out."""
    need(actor, PEOPLE, person.shop_id)
    if not person.has_usable_password():
        raise NotPossible("They came with another shop's record. Invite them.")
    person.is_active = True
    person.save(update_fields=["is_active"])
    note(actor, "let_in", person)


def lift_pause(actor, person: User) -> None:
    """Let a person try again at once who was held up by wrong passwords. Leads only."""
    need(actor, PEOPLE, person.shop_id)
    guard.lift(person)
    note(actor, "pause_lifted", person)


def _need_another_lead(person: User) -> None:
    leads = User.objects.select_for_update().filter(shop=person.shop_id, role=LEAD, is_active=True)
    if person.role == LEAD and not leads.exclude(pk=person.pk).exists():
        raise NotPossible("The shop would have no lead. Make somebody else a lead first.")


def _link(link: DoorLink, opens_for: timedelta = OPENS_FOR) -> str:
    token = new_token()
    link.token_hash, link.expires_at = hash_of(token), timezone.now() + opens_for
    link.save()
    return token
