"""Today: the shop's visits, latest first, each with its last verdict."""

from django.db.models import OuterRef, Subquery
from django.shortcuts import render

from web.visits.models import Assessment, Visit

SHOWN = 30


def today(request):
    """Visits with the headline of their newest assessment, in one query."""
    newest = Assessment.objects.filter(round__visit=OuterRef("pk")).order_by("-id")
    visits = (
        Visit.objects.visible_to(request.user)
        .for_list()
        .annotate(headline=Subquery(newest.values("headline")[:1]), kind=Subquery(newest.values("kind")[:1]))
    )
    return render(request, "today/today.html", {"visits": visits[:SHOWN], "here": "today"})
