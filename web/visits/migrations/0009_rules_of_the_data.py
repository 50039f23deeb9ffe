"""What must hold of every row, held by the database too: numbers unique in their shop, a value where the source has one, one live pairing a probe."""

import uuid

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("probes", "0002_simulated_houses"),
        ("visits", "0008_fill_shop_of_everything"),
    ]

    operations = [
        migrations.AlterField(
            model_name="action",
            name="shop",
            field=models.ForeignKey(
                editable=False, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AlterField(
            model_name="followup",
            name="shop",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="follow_ups", to="accounts.shop"),
        ),
        migrations.AlterField(
            model_name="observation",
            name="shop",
            field=models.ForeignKey(
                editable=False, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AlterField(
            model_name="pairing",
            name="live",
            field=models.BooleanField(default=True, null=True),
        ),
        migrations.AlterField(
            model_name="photo",
            name="shop",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="photos", to="accounts.shop"),
        ),
        migrations.AlterField(
            model_name="reading",
            name="shop",
            field=models.ForeignKey(
                editable=False, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AlterField(
            model_name="remark",
            name="shop",
            field=models.ForeignKey(
                editable=False, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AlterField(
            model_name="visit",
            name="shop",
            field=models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="visits", to="accounts.shop"),
        ),
        migrations.RemoveIndex(
            model_name="followup",
            name="visits_foll_closed__19c835_idx",
        ),
        migrations.RemoveIndex(
            model_name="pairing",
            name="visits_pair_visit_i_4333db_idx",
        ),
        migrations.RemoveIndex(
            model_name="pairing",
            name="visits_pair_probe_i_ae245a_idx",
        ),
        migrations.RemoveIndex(
            model_name="visit",
            name="visits_visi_started_25be03_idx",
        ),
        migrations.AlterField(
            model_name="action",
            name="uuid",
            field=models.UUIDField(editable=False),
        ),
        migrations.AlterField(
            model_name="followup",
            name="public_id",
            field=models.UUIDField(default=uuid.uuid4, editable=False),
        ),
        migrations.AlterField(
            model_name="observation",
            name="uuid",
            field=models.UUIDField(editable=False),
        ),
        migrations.AlterField(
            model_name="photo",
            name="public_id",
            field=models.UUIDField(editable=False),
        ),
        migrations.AlterField(
            model_name="reading",
            name="uuid",
            field=models.UUIDField(editable=False),
        ),
        migrations.AlterField(
            model_name="remark",
            name="uuid",
            field=models.UUIDField(editable=False),
        ),
        migrations.AlterField(
            model_name="visit",
            name="public_id",
            field=models.UUIDField(default=uuid.uuid4, editable=False),
        ),
        migrations.AddIndex(
            model_name="followup",
            index=models.Index(fields=["shop", "closed_at", "due_on"], name="visits_foll_shop_id_56cca5_idx"),
        ),
        migrations.AddIndex(
            model_name="visit",
            index=models.Index(fields=["shop", "-started_at"], name="visits_visi_shop_id_0da08c_idx"),
        ),
        migrations.AddConstraint(
            model_name="action",
            constraint=models.UniqueConstraint(fields=("shop", "uuid"), name="one_action_per_number"),
        ),
        migrations.AddConstraint(
            model_name="action",
            constraint=models.CheckConstraint(
                condition=models.Q(("done", ""), _connector="OR", _negated=True), name="action_names_what_was_done"
            ),
        ),
        migrations.AddConstraint(
            model_name="followup",
            constraint=models.UniqueConstraint(fields=("shop", "public_id"), name="one_follow_up_per_number"),
        ),
        migrations.AddConstraint(
            model_name="followup",
            constraint=models.CheckConstraint(
                condition=models.Q(("text", ""), _connector="OR", _negated=True), name="follow_up_says_something"
            ),
        ),
        migrations.AddConstraint(
            model_name="observation",
            constraint=models.UniqueConstraint(fields=("shop", "uuid"), name="one_observation_per_number"),
        ),
        migrations.AddConstraint(
            model_name="observation",
            constraint=models.CheckConstraint(
                condition=models.Q(("seen", ""), ("degree", ""), _connector="OR", _negated=True),
                name="observation_names_everything",
            ),
        ),
        migrations.AddConstraint(
            model_name="pairing",
            constraint=models.UniqueConstraint(fields=("probe", "live"), name="one_live_pairing_per_probe"),
        ),
        migrations.AddConstraint(
            model_name="pairing",
            constraint=models.UniqueConstraint(fields=("visit", "stop", "place", "live"), name="one_live_probe_per_place"),
        ),
        migrations.AddConstraint(
            model_name="pairing",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    models.Q(("live", True), ("released_at__isnull", True)),
                    models.Q(("live__isnull", True), ("released_at__isnull", False)),
                    _connector="OR",
                ),
                name="pairing_is_live_or_released",
            ),
        ),
        migrations.AddConstraint(
            model_name="photo",
            constraint=models.UniqueConstraint(fields=("shop", "public_id"), name="one_photo_per_number"),
        ),
        migrations.AddConstraint(
            model_name="reading",
            constraint=models.UniqueConstraint(fields=("shop", "uuid"), name="one_reading_per_number"),
        ),
        migrations.AddConstraint(
            model_name="reading",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    ("place", ""), ("quantity", ""), ("slot", ""), ("unit", ""), ("source", ""), _connector="OR", _negated=True
                ),
                name="reading_names_everything",
            ),
        ),
        migrations.AddConstraint(
            model_name="reading",
            constraint=models.CheckConstraint(
                condition=models.Q(
                    models.Q(("source__in", ("not_possible", "withdrawn")), ("value__isnull", True)),
                    models.Q(("value__isnull", False), models.Q(("source__in", ("not_possible", "withdrawn")), _negated=True)),
                    _connector="OR",
                ),
                name="reading_has_a_value_where_its_source_has",
            ),
        ),
        migrations.AddConstraint(
            model_name="remark",
            constraint=models.UniqueConstraint(fields=("shop", "uuid"), name="one_remark_per_number"),
        ),
        migrations.AddConstraint(
            model_name="remark",
            constraint=models.CheckConstraint(
                condition=models.Q(("about", ""), ("text", ""), _connector="OR", _negated=True), name="remark_says_something"
            ),
        ),
        migrations.AddConstraint(
            model_name="visit",
            constraint=models.UniqueConstraint(fields=("shop", "public_id"), name="one_visit_per_number"),
        ),
    ]
