from django.db import migrations


def fill(apps, schema_editor):
    """What the last finished visit of each machine left."""
    with schema_editor.connection.cursor() as cursor:
        cursor.execute(
            "UPDATE visits_visit v JOIN ("
            " SELECT x.system_id, MAX(c.id) AS last FROM visits_closing c JOIN visits_visit x ON x.id = c.visit_id"
            " WHERE c.did IN ('finished', 'returned', 'reopened') GROUP BY x.system_id"
            ") newest JOIN visits_closing c ON c.id = newest.last AND c.visit_id = v.id AND c.did = 'finished'"
            " SET v.next_due = c.next_due, v.left_unread = IF(c.no_recheck_why = '', NULL, 1)"
        )


class Migration(migrations.Migration):
    dependencies = [("visits", "0024_what_is_due")]
    operations = [migrations.RunPython(fill, migrations.RunPython.noop)]
