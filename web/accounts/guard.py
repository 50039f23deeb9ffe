"""Guessing at the door. Wrong passwords are counted for a name, for the address they come from and over all; and apart
from that for each device on which that person has signed in before, so that no stranger can shut anybody out.
"""

import secrets
from collections.abc import Iterable
from datetime import datetime, timedelta

from django.conf import settings
from django.core import signing

from web.accounts.deeds import note
from web.accounts.limits import Limit
from web.accounts.models import User
from web.shell.address import client_address

QUARTER = timedelta(minutes=15)
# Working figures: nobody types five wrong passwords by mistake, nor does a shop twenty.
OF_KNOWN_DEVICE = Limit("wrong-password-known-device", 10, QUARTER)
OF_NAME = Limit("wrong-password-name", 5, QUARTER)
OF_ADDRESS = Limit("wrong-password-address", 20, QUARTER)
OF_ALL = Limit("wrong-password-all", 500, QUARTER)
WRONG_TOKENS = Limit("wrong-token", 30, timedelta(minutes=5))  # of an address: gateways, programs and secret links

FORGOTTEN_NAME = Limit("forgotten-name", 3, timedelta(hours=1))
FORGOTTEN_ADDRESS = Limit("forgotten-address", 10, timedelta(hours=1))

COOKIE, COOKIE_LASTS = "known-here", timedelta(days=400)
MOST_PEOPLE = 8  # that a device is known to


def paused_until(request, name: str) -> datetime | None:
    """Until when nobody is let in under a name from where a request comes; None where they may try."""
    if device := _device_of(request, name):
        return OF_KNOWN_DEVICE.spent_until(device)
    spent = [limit.spent_until(of) for limit, of in _strangers(request, name)]
    return max((until for until in spent if until), default=None)


def note_wrong(request, name: str) -> None:
    """A wrong password."""
    if device := _device_of(request, name):
        OF_KNOWN_DEVICE.count(device)
        return
    for limit, of in _strangers(request, name):
        limit.count(of)
    if OF_NAME.is_just_spent(_plain(name)) and (person := User.objects.filter(username__iexact=_plain(name)).first()):
        note(None, "held_up", person, shop=person.shop)


def may_ask_for_letter(request, name: str) -> bool:
    """Whether one more letter may go to who has forgotten a password; it is counted. Too many look like any other."""
    spent = [FORGOTTEN_NAME.count(_plain(name)), FORGOTTEN_ADDRESS.count(client_address(request))]
    return not any(spent)


def paused_names(people: Iterable[User]) -> dict[User, datetime]:
    """Who of them cannot sign in on a device that is new to them, and until when; one query."""
    names = {_plain(person.username): person for person in people}
    return {names[name]: until for name, until in OF_NAME.spent_among(names).items()}


def lift(person: User) -> None:
    """Let a person try again at once, wherever they are."""
    OF_NAME.lift(_plain(person.username))


def remember(request, answer, person: User) -> None:
    """From now on this device is one of the person's."""
    device, people = _known_here(request) or (secrets.token_hex(8), [])
    people = [str(person.public_id), *(one for one in people if one != str(person.public_id))][:MOST_PEOPLE]
    answer.set_cookie(
        COOKIE,
        signing.dumps([device, people], salt=COOKIE),
        max_age=COOKIE_LASTS,
        httponly=True,
        samesite="Lax",
        secure=settings.SESSION_COOKIE_SECURE,
    )


def wrong_token(request) -> datetime | None:
    """A token that opens nothing, or a secret address that leads nowhere; until when there were too many of them from
    there.
    """
    return WRONG_TOKENS.count(client_address(request))


def _strangers(request, name: str) -> list[tuple[Limit, str]]:
    return [(OF_NAME, _plain(name)), (OF_ADDRESS, client_address(request)), (OF_ALL, "")]


def _device_of(request, name: str) -> str:
    """What tells this device and this person from all others; '' where they have not met."""
    known = _known_here(request)
    if known is None:
        return ""
    person = User.objects.filter(username__iexact=_plain(name)).values_list("public_id", flat=True).first()
    return f"{known[0]}:{person}" if str(person) in known[1] else ""


def _known_here(request) -> tuple[str, list[str]] | None:
    try:
        device, people = signing.loads(request.COOKIES.get(COOKIE, ""), salt=COOKIE, max_age=COOKIE_LASTS)
    except signing.BadSignature:
        return None
    return device, people


def _plain(name: str) -> str:
    return name.strip().casefold()
