"""A second factor at sign-in, for who wants one: a code from an app on the phone (RFC 6238, by django-otp), or one of
ten recovery codes, each good once.
"""

from collections.abc import Iterable

from django.db import transaction
from django_otp import verify_token
from django_otp.plugins.otp_static.models import StaticDevice, StaticToken
from django_otp.plugins.otp_totp.models import TOTPDevice

from web.accounts.access import need
from web.accounts.deeds import note
from web.accounts.models import User
from web.accounts.rights import PEOPLE

RECOVERY_CODES = 10


def is_on(person: User) -> bool:
    """Whether a person is asked for a code."""
    return TOTPDevice.objects.filter(user=person, confirmed=True).exists()


def who_has_it(people: Iterable[User]) -> set[int]:
    """The keys of those who are asked for a code; one query."""
    return set(TOTPDevice.objects.filter(user__in=people, confirmed=True).values_list("user", flat=True))


def codes_left(person: User) -> int:
    """How many recovery codes are not used yet."""
    return StaticToken.objects.filter(device__user=person).count()


def begin(actor) -> TOTPDevice:
    """The secret that the app is to read; nothing is asked for until it was confirmed."""
    return TOTPDevice.objects.get_or_create(user=actor, confirmed=False, defaults={"name": actor.username[:60]})[0]


@transaction.atomic
def confirm(actor, code: str) -> list[str]:
    """Switch it on, once the app shows the right code. Returns the recovery codes, which are shown once; none where the
    code does not fit.
    """
    device = TOTPDevice.objects.select_for_update().filter(user=actor, confirmed=False).first()
    if device is None or not device.verify_token(_plain(code)):
        return []
    TOTPDevice.objects.filter(user=actor, confirmed=True).delete()
    device.confirmed = True
    device.save()
    note(actor, "code_on")
    return _new_codes(actor)


@transaction.atomic
def new_codes(actor) -> list[str]:
    """New recovery codes; the old ones open nothing any more."""
    note(actor, "new_codes")
    return _new_codes(actor)


def _new_codes(actor) -> list[str]:
    StaticDevice.objects.filter(user=actor).delete()
    device = StaticDevice.objects.create(user=actor, name="recovery")
    codes = [StaticToken.random_token() + StaticToken.random_token() for _ in range(RECOVERY_CODES)]
    StaticToken.objects.bulk_create(StaticToken(device=device, token=code) for code in codes)
    return codes


def fits(person: User, code: str) -> bool:
    """Whether a code is one of the person's now; it is used up by it. After a wrong one nothing fits for some seconds,
    longer each time.
    """
    typed = _plain(code)
    kind = TOTPDevice if typed.isdecimal() else StaticDevice
    device = kind.objects.filter(user=person, confirmed=True).first()
    return device is not None and verify_token(person, device.persistent_id, typed) is not None


@transaction.atomic
def switch_off(actor, person: User) -> None:
    """Ask for no code any more: for oneself, or by a lead for who has lost the phone and the codes."""
    if actor.pk != person.pk:
        need(actor, PEOPLE, person.shop_id)
    if is_on(person):
        note(actor, "code_off", person)
    forget(person)


@transaction.atomic
def forget(person: User) -> None:
    """No device and no recovery code of a person is known any more."""
    TOTPDevice.objects.filter(user=person).delete()
    StaticDevice.objects.filter(user=person).delete()


def _plain(code: str) -> str:
    """As typed, without the spaces that apps show."""
    return "".join(code.split()).lower()[:32]
