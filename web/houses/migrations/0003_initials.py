"""Houses from before they could be found by their initials."""

from django.db import migrations

from web.houses.querysets import initials_of


def fill(apps, schema_editor):
    for house in apps.get_model("houses", "House").objects.filter(initials=""):
        house.initials = initials_of(house.name)
        house.save(update_fields=["initials"])


class Migration(migrations.Migration):
    dependencies = [("houses", "0002_visit_in_order")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
