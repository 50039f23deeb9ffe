"""Whose background work it is."""

from uuid import UUID

from django.shortcuts import get_object_or_404

from web.background.models import Work


def work_for(user, public_id: UUID) -> Work:
    """Work of the person's shop; Http404 for anybody else."""
    return get_object_or_404(Work.objects.visible_to(user), public_id=public_id)
