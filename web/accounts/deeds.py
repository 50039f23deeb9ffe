"""Who did what and when, of what leaves no row of its own: each change that a person makes notes itself here."""

from web.accounts.models import Deed

DEEDS = {
    "signed_in": "Signed in",
    "held_up": "Sign-in was paused: too many wrong passwords",
    "pause_lifted": "Lifted the pause of",
    "password": "Chose a new password",
    "email": "Changed their mail address",
    "code_on": "Switched the second factor on",
    "code_off": "Switched the second factor off",
    "new_codes": "Made new recovery codes",
    "signed_out": "Signed out everywhere",
    "invited": "Asked somebody in",
    "password_link": "Made a link to a new password for",
    "door_ended": "Ended a link into the shop",
    "joined": "Joined the shop",
    "role": "Changed the role of",
    "let_go": "Let go",
    "let_in": "Let in again",
    "certificate": "Changed the certificate of",
    "shop": "Changed the shop's settings",
    "house_new": "Entered the house",
    "house": "Corrected the house",
    "rooms": "Changed the rooms of",
    "instrument_new": "Entered the instrument",
    "instrument": "Changed the instrument",
    "retired": "Retired the instrument",
    "gateway": "Added the gateway",
    "gateway_revoked": "Revoked the gateway",
    "feed": "Made a calendar address",
    "feed_ended": "Ended a calendar address",
    "link": "Made a link to the customer's page of",
    "link_ended": "Ended a link to the customer's page of",
    "token": "Made a token for",
    "token_revoked": "Revoked the token of",
    "register_made": "Made houses and systems of a spreadsheet",
    "register_undone": "Undid a spreadsheet",
    "taken_in": "Took in an archive",
    "taken_out": "Took out the record of",
    "customer_erased": "Erased a customer",
    "work": "Started background work",
    "work_stopped": "Stopped background work",
}


def note(actor, did: str, about=None, detail: str = "", shop=None) -> None:
    """Note that somebody did something; within the transaction that does it.

    actor: None for nobody of the shop's (shop says whose it is). about: a row with a public id that it was done to; its
    name is looked up when it is shown, so that an erased one is not kept here. detail: nothing of a customer.
    """
    shop = shop or actor.shop
    if shop is None:  # the host's own people
        return
    kind, public_id = (about._meta.model_name, about.public_id) if about is not None else ("", None)
    Deed.objects.create(shop=shop, by=actor, did=did, kind=kind, of=public_id, detail=detail[:200])


def changed_fields(row, fields) -> list[str]:
    """Which of a row's fields say something else than what is stored, in words; none of a new one."""
    stored = type(row).objects.filter(pk=row.pk).values(*fields).first()
    names = [name for name in fields if stored and stored[name] != getattr(row, name)]
    return [str(row._meta.get_field(name).verbose_name) for name in names]
