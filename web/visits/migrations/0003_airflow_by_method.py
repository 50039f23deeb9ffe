"""Airflows from before each way had its own slot."""

from django.db import migrations
from django.db.models import F, Value
from django.db.models.functions import Concat


def fill(apps, schema_editor):
    readings = apps.get_model("visits", "Reading").objects.filter(place="blower", quantity="airflow", variant="")
    readings.update(variant=F("method"), slot=Concat(Value("airflow@"), F("method")))


class Migration(migrations.Migration):
    dependencies = [("visits", "0002_visit_in_order")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
