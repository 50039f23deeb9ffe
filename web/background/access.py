"""Whose background work it is."""

from uuid import UUID

from django.http import Http404
from django.shortcuts import get_object_or_404

from web.background.models import Work


def work_for(user, public_id: UUID) -> Work:
    """Work of the person's shop, for its leads; Http404 for anybody else."""
    if not user.is_lead:
        raise Http404
    return get_object_or_404(Work.objects.visible_to(user), public_id=public_id)
