"""Every visit says how it ended, and whether its house is simulated."""

from django.db import migrations
from django.db.models import OuterRef, Subquery


def fill(apps, _editor):
    visits = apps.get_model("visits", "Visit").objects
    deciding = apps.get_model("visits", "Closing").objects.exclude(did="reviewed").filter(visit=OuterRef("pk"))
    ended = visits.filter(closings__isnull=False, closings__did__in=("finished", "returned", "reopened")).distinct()
    keys = list(ended.values_list("pk", flat=True))
    visits.filter(pk__in=keys).update(ended=Subquery(deciding.order_by("-id").values("did")[:1]))
    visits.filter(system__house__is_practice=True).update(is_practice=True)


class Migration(migrations.Migration):
    dependencies = [("visits", "0014_what_lists_choose_by")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
