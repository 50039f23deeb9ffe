"""Keeping versions of what is known, and saying which visits teach nothing."""

from django.db import IntegrityError, transaction

from web.accounts.access import need
from web.accounts.models import User
from web.accounts.rights import RULES
from web.background import services as background
from web.background.models import Work
from web.houserules.bridge import A_FILE
from web.kinds import bridge
from web.kinds.models import LeftOut
from web.visits.models import KnownKinds, Visit

KIND = "learn_kinds"
LARGEST_FILE = 4_000_000  # bytes: some thousands of models


class Refused(ValueError):
    """Why something is not kept, in words for the person."""


def learn_now(actor) -> Work:
    """Learn from the shop's confirmed sound visits without waiting for the night."""
    return background.start(actor, KIND)


@transaction.atomic
def keep_version(shop, source: str, document: str, machines: int, actor=None, says: str = "") -> KnownKinds | None:
    """Keep what is known as a new version; None where the newest of that source says the same. Raises IntegrityError
    where another was kept at the same moment.
    """
    last = KnownKinds.objects.filter(shop=shop, source=source).order_by("-number").first()
    if last is not None and last.document == document:
        return None
    newest = KnownKinds.objects.filter(shop=shop).order_by("-number").values_list("number", flat=True).first()
    return KnownKinds.objects.create(
        shop=shop,
        number=(newest or 0) + 1,
        source=source,
        made_by=actor,
        machines=machines,
        engine_version=bridge.VERSION,
        document=document,
        says=says[:300],
    )


def take_in(actor, raw: bytes, says: str) -> KnownKinds | None:
    """Take in a kind file of another shop; None where it is the one that was taken in last. Raises Refused for what is
    no such file.
    """
    need(actor, RULES, actor.shop_id)
    try:
        document = raw.decode("utf-8")
        machines = bridge.machines_in(document)
        bridge.groups_in(document)
    except UnicodeDecodeError as error:
        raise Refused("This is no kind file: it is no text. Take the file that another shop exported here.") from error
    except bridge.NoKindFile as error:
        raise Refused(f"{str(error).capitalize()}. Take the file that another shop exported here.") from error
    try:
        return keep_version(actor.shop, A_FILE, document, machines, actor, says)
    except IntegrityError as error:
        raise Refused("Another version was kept at the same moment: try again.") from error


def leave_out(actor, why: str, visit: Visit | None = None, person: User | None = None) -> LeftOut:
    """Say that a visit, or a person's visits, teach nothing. Raises Refused without a reason."""
    return _say(actor, why, visit, person, back=False)


def take_back(actor, row: LeftOut) -> LeftOut:
    """Let what was left out teach again."""
    return _say(actor, "Teaches again", row.visit, row.person, back=True)


def _say(actor, why: str, visit: Visit | None, person: User | None, back: bool) -> LeftOut:
    need(actor, RULES, actor.shop_id)
    if (visit is None) == (person is None) or actor.shop_id not in (getattr(visit or person, "shop_id", None),):
        raise Refused("Say which visit, or which person.")
    if not why.strip():
        raise Refused("Say why.")
    return LeftOut.objects.create(
        shop=actor.shop, visit=visit, person=person, why=why.strip()[:200], by=actor, back=back
    )
