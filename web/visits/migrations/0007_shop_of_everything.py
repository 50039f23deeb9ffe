"""Every row says of which shop it is, and a pairing whether it is live. First the columns, still empty."""

import django.db.models.deletion
from django.db import migrations, models


class Migration(migrations.Migration):
    dependencies = [
        ("accounts", "0002_visit_in_order"),
        ("visits", "0006_longer_headline"),
    ]

    operations = [
        migrations.AddField(
            model_name="action",
            name="shop",
            field=models.ForeignKey(
                null=True, editable=False, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="followup",
            name="shop",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="follow_ups", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="observation",
            name="shop",
            field=models.ForeignKey(
                null=True, editable=False, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="pairing",
            name="live",
            field=models.BooleanField(default=None, null=True),
        ),
        migrations.AddField(
            model_name="photo",
            name="shop",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="photos", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="reading",
            name="shop",
            field=models.ForeignKey(
                null=True, editable=False, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="remark",
            name="shop",
            field=models.ForeignKey(
                null=True, editable=False, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
            ),
        ),
        migrations.AddField(
            model_name="visit",
            name="shop",
            field=models.ForeignKey(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="visits", to="accounts.shop"
            ),
        ),
    ]
