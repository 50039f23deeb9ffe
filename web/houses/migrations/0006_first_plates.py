"""The plates of every system as they are, as their first version: who entered them is not known."""

from django.db import migrations

PLATE = (
    "kind", "nominal_tons", "refrigerant", "metering_device", "blower_motor", "model", "serial", "indoor_model", "indoor_serial", "year", "seer",
    "factory_charge_oz", "target_subcooling_f", "compressor_rla", "outdoor_fan_fla", "unit", "rating_static_inwc", "tap", "line_length_ft", "loop_fluid",
    "loop_share_pct",
)


def keep(apps, _editor):
    system, version = apps.get_model("houses", "System"), apps.get_model("houses", "PlateVersion")
    for row in system.objects.filter(plate_versions=None):
        version.objects.create(system=row, machine=1, plates={name: getattr(row, name) for name in PLATE}, why="first")


class Migration(migrations.Migration):
    dependencies = [("houses", "0005_plate_versions")]

    operations = [migrations.RunPython(keep, migrations.RunPython.noop)]
