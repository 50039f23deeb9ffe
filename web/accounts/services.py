"""Changes a person makes to their own account, and a lead to the shop."""

from web.accounts.access import need_lead
from web.accounts.models import Shop, User


def set_usual_place(actor, shop: Shop) -> None:
    """Where most of the shop's houses stand, as the lead has it. Houses that are entered already stay as they are."""
    need_lead(actor, shop.pk)
    shop.save(update_fields=["altitude_ft", "climate", "weather_place"])


def set_certificate(actor, person: User, certificate: str) -> None:
    """The number under which a person may open a circuit, as the lead has seen it; '' for none."""
    need_lead(actor, person.shop_id)
    person.certificate = certificate.strip()[:40]
    person.save(update_fields=["certificate"])


def set_units(actor, temperatures: str, pressures: str) -> None:
    """How this person reads and types temperatures, 'F' or 'C', and types a gauge's pressures. Nothing stored is
    changed by it.
    """
    actor.temperatures, actor.pressures = temperatures, pressures
    actor.save(update_fields=["temperatures", "pressures"])
