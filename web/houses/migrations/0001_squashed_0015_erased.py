import uuid

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    # A fresh database is made in one step; one that has some of these goes on with the rest of them.
    replaces = [
        ("houses", "0001_initial"),
        ("houses", "0002_visit_in_order"),
        ("houses", "0003_initials"),
        ("houses", "0004_weather_and_practice"),
        ("houses", "0005_plate_versions"),
        ("houses", "0006_first_plates"),
        ("houses", "0007_water_and_heating_plates"),
        ("houses", "0008_indoor_place"),
        ("houses", "0009_weather_place"),
        ("houses", "0010_words_to_find_by"),
        ("houses", "0011_fill_words_to_find_by"),
        ("houses", "0012_maker_line"),
        ("houses", "0013_moments_that_can_be_taken_in"),
        ("houses", "0014_what_the_lead_chooses_by"),
        ("houses", "0015_erased"),
    ]

    initial = True

    dependencies = [
        ("accounts", "0001_initial"),
        ("accounts", "__first__"),
    ]

    operations = [
        migrations.CreateModel(
            name="House",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("name", models.CharField(max_length=80)),
                ("altitude_ft", models.FloatField()),
                ("climate", models.CharField(blank=True, default="", max_length=10)),
                ("weather_place", models.CharField(blank=True, default="", max_length=60)),
                ("customer", models.CharField(blank=True, default="", max_length=80)),
                ("access_note", models.CharField(blank=True, default="", max_length=200)),
                ("is_practice", models.BooleanField(default=False, editable=False)),
                ("erased_at", models.DateTimeField(editable=False, null=True)),
                ("initials", models.CharField(default="", editable=False, max_length=20)),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="houses", to="accounts.shop"
                    ),
                ),
            ],
            options={
                "ordering": ["name"],
                "indexes": [
                    models.Index(fields=["shop", "is_practice", "name"], name="houses_hous_shop_id_0241a1_idx"),
                    models.Index(
                        fields=["shop", "is_practice", "weather_place"], name="houses_hous_shop_id_c8f917_idx"
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="HouseWord",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("word", models.CharField(max_length=40)),
                (
                    "house",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.CASCADE, related_name="words", to="houses.house"
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["shop", "word"], name="houses_hous_shop_id_e06f54_idx")],
                "constraints": [models.UniqueConstraint(fields=("house", "word"), name="one_word_per_house")],
            },
        ),
        migrations.CreateModel(
            name="Instrument",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("label", models.CharField(max_length=40)),
                ("kind", models.CharField(default="air_probe", max_length=20)),
                ("dry_bulb_accuracy_f", models.FloatField(blank=True, null=True)),
                ("rh_accuracy_pct", models.FloatField(blank=True, null=True)),
                ("line_accuracy_f", models.FloatField(blank=True, null=True)),
                ("lowest_f", models.FloatField(blank=True, null=True)),
                ("highest_f", models.FloatField(blank=True, null=True)),
                ("calibrated_on", models.DateField(blank=True, null=True)),
                ("calibration_months", models.PositiveSmallIntegerField(default=12)),
                ("retired", models.BooleanField(default=False)),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="instruments", to="accounts.shop"
                    ),
                ),
            ],
            options={
                "ordering": ["label"],
            },
        ),
        migrations.CreateModel(
            name="System",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("name", models.CharField(max_length=40)),
                ("kind", models.CharField(default="air_conditioner", max_length=20)),
                ("nominal_tons", models.FloatField()),
                ("refrigerant", models.CharField(blank=True, default="", max_length=10)),
                ("metering_device", models.CharField(default="unknown", max_length=20)),
                ("blower_motor", models.CharField(default="unknown", max_length=20)),
                ("line", models.CharField(blank=True, default="", max_length=60)),
                ("model", models.CharField(blank=True, default="", max_length=60)),
                ("serial", models.CharField(blank=True, default="", max_length=40)),
                ("indoor_model", models.CharField(blank=True, default="", max_length=60)),
                ("indoor_serial", models.CharField(blank=True, default="", max_length=40)),
                ("year", models.PositiveSmallIntegerField(blank=True, null=True)),
                ("seer", models.FloatField(blank=True, null=True)),
                ("factory_charge_oz", models.FloatField(blank=True, null=True)),
                ("target_subcooling_f", models.FloatField(blank=True, null=True)),
                ("compressor_rla", models.FloatField(blank=True, null=True)),
                ("outdoor_fan_fla", models.FloatField(blank=True, null=True)),
                ("unit", models.CharField(default="air_handler", max_length=30)),
                ("indoor_place", models.CharField(blank=True, default="", max_length=20)),
                ("rating_static_inwc", models.FloatField(blank=True, null=True)),
                ("tap", models.CharField(blank=True, default="", max_length=20)),
                ("line_length_ft", models.FloatField(blank=True, null=True)),
                ("loop_fluid", models.CharField(blank=True, default="water", max_length=20)),
                ("loop_share_pct", models.FloatField(blank=True, null=True)),
                ("loop", models.CharField(blank=True, default="", max_length=10)),
                ("design_gpm", models.FloatField(blank=True, null=True)),
                ("heating_btuh_47", models.FloatField(blank=True, null=True)),
                ("heating_btuh_17", models.FloatField(blank=True, null=True)),
                ("machine", models.PositiveSmallIntegerField(default=1, editable=False)),
                (
                    "house",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="systems", to="houses.house"
                    ),
                ),
            ],
            options={
                "ordering": ["name"],
                "indexes": [models.Index(fields=["model"], name="houses_syst_model_319b9d_idx")],
            },
        ),
        migrations.CreateModel(
            name="Room",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("name", models.CharField(max_length=40)),
                ("diameter_in", models.FloatField()),
                ("duct", models.CharField(default="flex", max_length=10)),
                ("wants_cfm", models.FloatField(blank=True, null=True)),
                (
                    "system",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="rooms", to="houses.system"
                    ),
                ),
            ],
            options={
                "ordering": ["id"],
                "constraints": [models.UniqueConstraint(fields=("system", "name"), name="one_room_per_name")],
            },
        ),
        migrations.CreateModel(
            name="PlateVersion",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("machine", models.PositiveSmallIntegerField()),
                ("plates", models.JSONField()),
                ("why", models.CharField(max_length=20)),
                ("entered_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                (
                    "entered_by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "system",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="plate_versions", to="houses.system"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["system", "machine", "-id"], name="houses_plat_system__c3ffdf_idx")],
            },
        ),
        migrations.CreateModel(
            name="Table",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("kind", models.CharField(max_length=20)),
                ("text", models.TextField(max_length=8000)),
                ("source", models.CharField(blank=True, default="", max_length=120)),
                ("entered_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                (
                    "entered_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "system",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="tables", to="houses.system"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["system", "kind", "-id"], name="houses_tabl_system__8070ca_idx")],
            },
        ),
    ]
