import uuid

import django.db.models.deletion
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    # A fresh database is made in one step; one that has some of these goes on with the rest of them.
    replaces = [("exchange", "0001_customer_links"), ("exchange", "0002_registers"), ("exchange", "0003_tokens")]

    initial = True

    dependencies = [
        ("accounts", "0001_initial"),
        ("accounts", "__first__"),
        ("visits", "0001_initial"),
    ]

    operations = [
        migrations.CreateModel(
            name="ApiToken",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("name", models.CharField(max_length=60)),
                ("scopes", models.JSONField()),
                ("token_hash", models.CharField(max_length=64, unique=True)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("used_at", models.DateTimeField(null=True)),
                ("revoked_at", models.DateTimeField(null=True)),
                (
                    "made_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
                    ),
                ),
            ],
        ),
        migrations.CreateModel(
            name="CustomerLink",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("token_hash", models.CharField(max_length=64, unique=True)),
                ("made_at", models.DateTimeField(auto_now_add=True)),
                ("expires_at", models.DateTimeField()),
                ("ended_at", models.DateTimeField(null=True)),
                ("opened", models.PositiveIntegerField(default=0)),
                ("opened_at", models.DateTimeField(null=True)),
                (
                    "made_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
                    ),
                ),
                (
                    "visit",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="customer_links", to="visits.visit"
                    ),
                ),
            ],
        ),
        migrations.CreateModel(
            name="RegisterIntake",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("read_at", models.DateTimeField(auto_now_add=True)),
                ("file_name", models.CharField(max_length=120)),
                ("rows", models.JSONField()),
                ("left_out", models.JSONField(default=list)),
                ("made_at", models.DateTimeField(null=True)),
                ("houses", models.JSONField(default=list)),
                ("systems", models.JSONField(default=list)),
                ("undone_at", models.DateTimeField(null=True)),
                ("left", models.JSONField(default=list)),
                (
                    "by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
                    ),
                ),
            ],
        ),
    ]
