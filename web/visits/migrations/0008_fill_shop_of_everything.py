"""Every row's shop is that of its house; a pairing is live until it was released; a valueless reading without a unit gets a dash."""

from pathlib import Path

from django.conf import settings
from django.db import migrations
from django.db.models import F, OuterRef, Subquery

OF_ROUNDS = ("Reading", "Observation", "Remark", "Action")


def fill(apps, _editor):
    model = lambda name: apps.get_model("visits", name)  # noqa: E731
    of_system = Subquery(apps.get_model("houses", "System").objects.filter(pk=OuterRef("system")).values("house__shop")[:1])
    for name in ("Visit", "Photo", "FollowUp"):
        model(name).objects.filter(shop=None).update(shop=of_system)
    of_round = Subquery(model("Round").objects.filter(pk=OuterRef("round")).values("visit__shop")[:1])
    for name in OF_ROUNDS:
        model(name).objects.filter(shop=None).update(shop=of_round)
    model("Reading").objects.filter(unit="").update(unit="-")
    live_once(model("Pairing"))
    for photo in model("Photo").objects.all():
        move(photo)


def live_once(pairings):
    """The newest pairing of a probe, and of a place, is live; an older one that was never released ends when the newer began."""
    probes, places = {}, {}
    for row in pairings.objects.filter(released_at=None).order_by("-paired_at", "-pk"):
        place = (row.visit_id, row.stop, row.place)
        newer = probes.get(row.probe_id) or places.get(place)
        if newer:
            pairings.objects.filter(pk=row.pk).update(released_at=newer)
        else:
            pairings.objects.filter(pk=row.pk).update(live=True)
            probes[row.probe_id] = places[place] = row.paired_at
    pairings.objects.filter(released_at=None, live=None).update(released_at=F("paired_at"))


def move(photo):
    """A picture's files lie under their shop: its number is unique in that only."""
    pictures = Path(settings.MEDIA_ROOT) / "photos"
    for size in ("full", "small"):
        old, new = pictures / f"{photo.public_id}-{size}.jpg", pictures / str(photo.shop_id) / f"{photo.public_id}-{size}.jpg"
        if old.exists():
            new.parent.mkdir(parents=True, exist_ok=True)
            old.rename(new)


class Migration(migrations.Migration):
    dependencies = [
        ("houses", "0004_weather_and_practice"),
        ("visits", "0007_shop_of_everything"),
    ]

    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
