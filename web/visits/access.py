"""Fetching what a person may see; anything else does not exist for them (404, never 403)."""

from django.http import Http404

from web.visits.models import Reading, Round, Visit


def visit_for(user, public_id) -> Visit:
    """The visit with its house, system and shop, or Http404."""
    found = Visit.objects.visible_to(user).select_related("system__house__shop", "started_by").filter(public_id=public_id).first()
    if found is None:
        raise Http404
    return found


def rounds_for(user, public_ids) -> dict[str, Round]:
    """Those of the rounds that the person may see, by public id as text; one query."""
    found = Round.objects.visible_to(user).select_related("visit__system__house__shop").filter(public_id__in=public_ids)
    return {str(round_.public_id): round_ for round_ in found}


def last_instrument(person) -> str:
    """Public id of the probe this person read with last, '' when none."""
    row = Reading.objects.filter(person=person, instrument__isnull=False).order_by("-id").select_related("instrument").first()
    return str(row.instrument.public_id) if row else ""
