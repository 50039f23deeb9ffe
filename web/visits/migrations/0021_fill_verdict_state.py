from django.db import migrations


def fill(apps, schema_editor):
    """The state of every stored verdict; '' where the engine of that day answered in another form."""
    with schema_editor.connection.cursor() as cursor:
        cursor.execute(
            "UPDATE visits_assessment SET state = COALESCE(JSON_UNQUOTE(JSON_EXTRACT(result, '$.verdict.state')), '') "
            "WHERE state = ''"
        )


class Migration(migrations.Migration):
    dependencies = [("visits", "0020_verdict_state")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
