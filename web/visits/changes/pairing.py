"""Holding a probe to a place, and letting it go."""

from django.db import transaction
from django.utils import timezone

from web.accounts.access import need
from web.accounts.rights import WORK
from web.probes.models import Probe
from web.visits.models import Pairing, Visit


@transaction.atomic
def pair(actor, visit: Visit, stop: str, place: str, probe: Probe | None) -> Pairing | None:
    """Hold a probe to a place of a visit; None lets go of what was there. Wherever the probe was before, it is no
    longer.
    """
    need(actor, WORK, visit.shop_id)
    _release(Pairing.objects.filter(visit=visit, stop=stop, place=place))
    if probe is None:
        return None
    need(actor, WORK, probe.gateway.shop_id)
    Probe.objects.select_for_update().get(pk=probe.pk)  # two people who take it at once: one after the other
    _release(Pairing.objects.filter(probe=probe))
    return Pairing.objects.create(visit=visit, stop=stop, place=place, probe=probe, paired_by=actor)


def _release(pairings) -> None:
    pairings.filter(live=True).update(live=None, released_at=timezone.now())
