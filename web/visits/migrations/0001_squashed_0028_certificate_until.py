import uuid

import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    # A fresh database is made in one step; one that has some of these goes on with the rest of them.
    replaces = [
        ("visits", "0001_initial"),
        ("visits", "0002_visit_in_order"),
        ("visits", "0003_airflow_by_method"),
        ("visits", "0004_probes_held"),
        ("visits", "0005_weather_and_practice"),
        ("visits", "0006_longer_headline"),
        ("visits", "0007_shop_of_everything"),
        ("visits", "0008_fill_shop_of_everything"),
        ("visits", "0009_rules_of_the_data"),
        ("visits", "0010_machine_of_the_round"),
        ("visits", "0011_closing"),
        ("visits", "0012_pictures_for_the_report"),
        ("visits", "0013_gauges"),
        ("visits", "0014_what_lists_choose_by"),
        ("visits", "0015_fill_what_lists_choose_by"),
        ("visits", "0016_lists_in_the_order_of_an_index"),
        ("visits", "0017_baselines"),
        ("visits", "0018_outcomes"),
        ("visits", "0019_known_kinds"),
        ("visits", "0020_verdict_state"),
        ("visits", "0021_fill_verdict_state"),
        ("visits", "0022_refrigerant"),
        ("visits", "0023_due_moves"),
        ("visits", "0024_what_is_due"),
        ("visits", "0025_fill_what_is_due"),
        ("visits", "0026_planned_visits"),
        ("visits", "0027_moments_that_can_be_taken_in"),
        ("visits", "0028_certificate_until"),
    ]

    initial = True

    dependencies = [
        ("accounts", "0001_initial"),
        ("accounts", "__first__"),
        ("houses", "0001_initial"),
        ("probes", "0001_initial"),
    ]

    operations = [
        migrations.CreateModel(
            name="Round",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("number", models.PositiveSmallIntegerField()),
                ("started_at", models.DateTimeField()),
                ("machine", models.PositiveSmallIntegerField(default=1)),
            ],
        ),
        migrations.CreateModel(
            name="Action",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("uuid", models.UUIDField(editable=False)),
                ("device", models.UUIDField()),
                ("sequence", models.PositiveBigIntegerField()),
                ("taken_at", models.DateTimeField()),
                ("clock_offset_ms", models.BigIntegerField(default=0)),
                ("received_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("supersedes", models.UUIDField(null=True)),
                ("done", models.CharField(max_length=30)),
                ("text", models.CharField(blank=True, default="", max_length=300)),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="actions", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["round", "done"], name="visits_acti_round_i_3f7f83_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "uuid"), name="one_action_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(("done", ""), _connector="OR", _negated=True),
                        name="action_names_what_was_done",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="Cylinder",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False)),
                ("label", models.CharField(max_length=40)),
                ("refrigerant", models.CharField(max_length=10)),
                ("is_recovery", models.BooleanField(default=False)),
                ("tare_oz", models.FloatField(null=True)),
                ("holds_oz", models.FloatField(null=True)),
                ("added_at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "added_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="cylinders",
                        to="accounts.shop",
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "public_id"), name="one_cylinder_per_number"),
                    models.UniqueConstraint(fields=("shop", "label"), name="one_cylinder_per_label"),
                    models.CheckConstraint(
                        condition=models.Q(("label", ""), ("refrigerant", ""), _connector="OR", _negated=True),
                        name="cylinder_has_label_and_refrigerant",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="CylinderMove",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False)),
                ("did", models.CharField(max_length=10)),
                ("oz", models.FloatField()),
                ("why", models.CharField(blank=True, default="", max_length=200)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "cylinder",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="moves", to="visits.cylinder"
                    ),
                ),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
            ],
            options={
                "indexes": [
                    models.Index(fields=["cylinder", "-id"], name="visits_cyli_cylinde_0e68a0_idx"),
                    models.Index(fields=["shop", "-at"], name="visits_cyli_shop_id_24752c_idx"),
                ],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "public_id"), name="one_cylinder_move_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(("did__in", ["bought", "filled", "returned", "corrected"])),
                        name="cylinder_move_is_a_known_one",
                    ),
                    models.CheckConstraint(
                        condition=models.Q(
                            models.Q(("did", "corrected"), _negated=True),
                            models.Q(("why", ""), _negated=True),
                            _connector="OR",
                        ),
                        name="cylinder_correction_says_why",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="DueMove",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False)),
                ("kind", models.CharField(max_length=20)),
                ("ref", models.CharField(max_length=40)),
                ("until", models.DateField()),
                ("why", models.CharField(max_length=200)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "system",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to="houses.system"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["shop", "kind", "ref"], name="visits_duem_shop_id_e7eaee_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "public_id"), name="one_due_move_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(("kind", ""), ("ref", ""), ("why", ""), _connector="OR", _negated=True),
                        name="due_move_says_what_and_why",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="FollowUp",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False)),
                ("text", models.CharField(max_length=300)),
                ("blocks", models.CharField(blank=True, default="", max_length=20)),
                ("due_on", models.DateField(blank=True, null=True)),
                ("opened_at", models.DateTimeField(default=django.utils.timezone.now)),
                ("closed_at", models.DateTimeField(null=True)),
                ("outcome", models.CharField(blank=True, default="", max_length=300)),
                (
                    "closed_by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "opened_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="follow_ups", to="accounts.shop"
                    ),
                ),
                (
                    "system",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="follow_ups", to="houses.system"
                    ),
                ),
            ],
            options={
                "indexes": [
                    models.Index(fields=["system", "closed_at"], name="visits_foll_system__fb0397_idx"),
                    models.Index(fields=["shop", "closed_at", "due_on"], name="visits_foll_shop_id_56cca5_idx"),
                ],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "public_id"), name="one_follow_up_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(("text", ""), _connector="OR", _negated=True),
                        name="follow_up_says_something",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="KnownKinds",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("number", models.PositiveIntegerField()),
                ("source", models.CharField(max_length=20)),
                ("made_at", models.DateTimeField(default=django.utils.timezone.now)),
                ("machines", models.PositiveIntegerField()),
                ("engine_version", models.CharField(max_length=20)),
                ("document", models.TextField()),
                ("says", models.CharField(blank=True, default="", max_length=300)),
                (
                    "made_by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["shop", "source", "-number"], name="visits_know_shop_id_f1c54c_idx")],
                "constraints": [models.UniqueConstraint(fields=("shop", "number"), name="one_known_kinds_per_number")],
            },
        ),
        migrations.CreateModel(
            name="PlannedVisit",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False)),
                ("starts_at", models.DateTimeField()),
                ("minutes", models.PositiveSmallIntegerField(default=60)),
                ("mode", models.CharField(blank=True, default="", max_length=10)),
                ("why", models.CharField(max_length=200)),
                ("changed_at", models.DateTimeField(default=django.utils.timezone.now)),
                ("revision", models.PositiveIntegerField(default=0)),
                ("called_off_at", models.DateTimeField(null=True)),
                ("called_off_why", models.CharField(blank=True, default="", max_length=200)),
                (
                    "called_off_by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "made_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="planned", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "system",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="planned", to="houses.system"
                    ),
                ),
            ],
            options={
                "indexes": [
                    models.Index(fields=["shop", "starts_at"], name="visits_plan_shop_id_5fbd9b_idx"),
                    models.Index(fields=["person", "starts_at"], name="visits_plan_person__1adbc0_idx"),
                ],
            },
        ),
        migrations.CreateModel(
            name="PlanMove",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("was_at", models.DateTimeField()),
                ("why", models.CharField(max_length=200)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                (
                    "by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "was_with",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "plan",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="moves", to="visits.plannedvisit"
                    ),
                ),
            ],
            options={
                "abstract": False,
            },
        ),
        migrations.CreateModel(
            name="Remark",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("uuid", models.UUIDField(editable=False)),
                ("device", models.UUIDField()),
                ("sequence", models.PositiveBigIntegerField()),
                ("taken_at", models.DateTimeField()),
                ("clock_offset_ms", models.BigIntegerField(default=0)),
                ("received_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("supersedes", models.UUIDField(null=True)),
                ("about", models.CharField(max_length=20)),
                ("text", models.CharField(max_length=600)),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="remarks", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["round", "about"], name="visits_rema_round_i_098f5b_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "uuid"), name="one_remark_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(("about", ""), ("text", ""), _connector="OR", _negated=True),
                        name="remark_says_something",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="Reading",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("uuid", models.UUIDField(editable=False)),
                ("device", models.UUIDField()),
                ("sequence", models.PositiveBigIntegerField()),
                ("taken_at", models.DateTimeField()),
                ("clock_offset_ms", models.BigIntegerField(default=0)),
                ("received_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("supersedes", models.UUIDField(null=True)),
                ("place", models.CharField(max_length=60)),
                ("quantity", models.CharField(max_length=20)),
                ("variant", models.CharField(blank=True, default="", max_length=30)),
                ("slot", models.CharField(max_length=50)),
                ("typed", models.CharField(max_length=20)),
                ("unit", models.CharField(max_length=12)),
                ("value", models.FloatField(null=True)),
                ("reason", models.CharField(blank=True, default="", max_length=20)),
                ("source", models.CharField(max_length=20)),
                ("method", models.CharField(blank=True, default="", max_length=30)),
                ("plane", models.CharField(blank=True, default="", max_length=10)),
                ("steady", models.CharField(blank=True, default="", max_length=10)),
                ("swing", models.FloatField(default=0.0)),
                (
                    "instrument",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="houses.instrument"
                    ),
                ),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "probe",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="probes.probe"
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="readings", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["round", "place", "slot"], name="visits_read_round_i_893142_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "uuid"), name="one_reading_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(
                            ("place", ""),
                            ("quantity", ""),
                            ("slot", ""),
                            ("unit", ""),
                            ("source", ""),
                            _connector="OR",
                            _negated=True,
                        ),
                        name="reading_names_everything",
                    ),
                    models.CheckConstraint(
                        condition=models.Q(
                            models.Q(("source__in", ("not_possible", "withdrawn")), ("value__isnull", True)),
                            models.Q(
                                ("value__isnull", False),
                                models.Q(("source__in", ("not_possible", "withdrawn")), _negated=True),
                            ),
                            _connector="OR",
                        ),
                        name="reading_has_a_value_where_its_source_has",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="Photo",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(editable=False)),
                ("subject", models.CharField(max_length=20)),
                ("received_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("width", models.PositiveIntegerField()),
                ("height", models.PositiveIntegerField()),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="photos", to="accounts.shop"
                    ),
                ),
                (
                    "system",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="photos", to="houses.system"
                    ),
                ),
                (
                    "taken_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="photos", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["system", "-id"], name="visits_phot_system__dcf79a_idx")],
                "constraints": [models.UniqueConstraint(fields=("shop", "public_id"), name="one_photo_per_number")],
            },
        ),
        migrations.CreateModel(
            name="Outcome",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                ("right", models.BooleanField()),
                ("by", models.CharField(max_length=10)),
                ("was", models.CharField(blank=True, default="", max_length=30)),
                ("words", models.CharField(blank=True, default="", max_length=300)),
                ("engine_version", models.CharField(max_length=20)),
                ("said_state", models.CharField(max_length=20)),
                ("said_group", models.CharField(max_length=30)),
                ("said_headline", models.CharField(max_length=200)),
                ("said_probability", models.FloatField()),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="outcomes", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["shop", "-id"], name="visits_outc_shop_id_a02b8c_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "public_id"), name="one_outcome_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(("by__in", ["part", "gauges", "re_read", "seen", "customer"])),
                        name="outcome_was_seen_somehow",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="Observation",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("uuid", models.UUIDField(editable=False)),
                ("device", models.UUIDField()),
                ("sequence", models.PositiveBigIntegerField()),
                ("taken_at", models.DateTimeField()),
                ("clock_offset_ms", models.BigIntegerField(default=0)),
                ("received_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("supersedes", models.UUIDField(null=True)),
                ("seen", models.CharField(max_length=40)),
                ("degree", models.CharField(max_length=20)),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="observations", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["round", "seen"], name="visits_obse_round_i_3ff6be_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "uuid"), name="one_observation_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(("seen", ""), ("degree", ""), _connector="OR", _negated=True),
                        name="observation_names_everything",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="LeakSearch",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("uuid", models.UUIDField(editable=False)),
                ("device", models.UUIDField()),
                ("sequence", models.PositiveBigIntegerField()),
                ("taken_at", models.DateTimeField()),
                ("clock_offset_ms", models.BigIntegerField(default=0)),
                ("received_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("supersedes", models.UUIDField(null=True)),
                ("found", models.CharField(max_length=15)),
                ("where", models.CharField(blank=True, default="", max_length=200)),
                ("repaired", models.BooleanField(default=False)),
                ("tested", models.CharField(blank=True, default="", max_length=15)),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="leak_searches", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["round", "id"], name="visits_leak_round_i_1ba234_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "uuid"), name="one_leak_search_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(
                            ("found__in", ["found", "none", "not_searched"]),
                            ("tested__in", ["", "nitrogen", "vacuum", "soap", "electronic"]),
                        ),
                        name="leak_search_is_a_known_outcome",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="HookUp",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("uuid", models.UUIDField(editable=False)),
                ("device", models.UUIDField()),
                ("sequence", models.PositiveBigIntegerField()),
                ("taken_at", models.DateTimeField()),
                ("clock_offset_ms", models.BigIntegerField(default=0)),
                ("received_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("supersedes", models.UUIDField(null=True)),
                ("did", models.CharField(max_length=10)),
                ("why", models.CharField(blank=True, default="", max_length=300)),
                ("certificate", models.CharField(blank=True, default="", max_length=40)),
                ("certificate_until", models.DateField(null=True)),
                ("ports", models.CharField(blank=True, default="", max_length=20)),
                ("checks", models.JSONField(default=list)),
                ("hose_returned", models.BooleanField(null=True)),
                ("lost_oz", models.FloatField(null=True)),
                ("caps_on", models.BooleanField(null=True)),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="hook_ups", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["round", "id"], name="visits_hook_round_i_a45bba_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "uuid"), name="one_hook_up_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(("did__in", ["opened", "on", "off"])), name="hook_up_is_a_known_step"
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="ChargeStep",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("uuid", models.UUIDField(editable=False)),
                ("device", models.UUIDField()),
                ("sequence", models.PositiveBigIntegerField()),
                ("taken_at", models.DateTimeField()),
                ("clock_offset_ms", models.BigIntegerField(default=0)),
                ("received_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("supersedes", models.UUIDField(null=True)),
                ("number", models.PositiveSmallIntegerField()),
                ("way", models.CharField(max_length=10)),
                ("before_oz", models.FloatField(null=True)),
                ("after_oz", models.FloatField(null=True)),
                ("cylinder", models.CharField(blank=True, default="", max_length=40)),
                ("why", models.CharField(blank=True, default="", max_length=300)),
                ("refrigerant", models.CharField(blank=True, default="", max_length=10)),
                ("tare_oz", models.FloatField(null=True)),
                ("capacity_oz", models.FloatField(null=True)),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="charge_steps", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["round", "number"], name="visits_char_round_i_729cca_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "uuid"), name="one_charge_step_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(
                            models.Q(("after_oz__isnull", True), ("before_oz__isnull", True), ("way", "withdrawn")),
                            models.Q(
                                ("after_oz__isnull", False),
                                ("before_oz__isnull", False),
                                ("way__in", ["add", "recover"]),
                            ),
                            _connector="OR",
                        ),
                        name="charge_step_has_weights_unless_taken_back",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="Baseline",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False)),
                ("mode", models.CharField(max_length=10)),
                ("sealed_at", models.DateTimeField(default=django.utils.timezone.now)),
                ("why", models.CharField(max_length=300)),
                ("lacks", models.JSONField(default=list)),
                ("live", models.BooleanField(default=True, null=True)),
                ("ended_at", models.DateTimeField(null=True)),
                ("ended_why", models.CharField(blank=True, default="", max_length=300)),
                ("was_wrong", models.BooleanField(default=False)),
                (
                    "ended_by",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
                (
                    "ended_by_action",
                    models.ForeignKey(
                        null=True, on_delete=django.db.models.deletion.PROTECT, related_name="+", to="visits.action"
                    ),
                ),
                (
                    "sealed_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "system",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="baselines", to="houses.system"
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="baselines", to="visits.round"
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "public_id"), name="one_baseline_per_number"),
                    models.UniqueConstraint(fields=("system", "mode", "live"), name="one_live_baseline_per_mode"),
                    models.CheckConstraint(
                        condition=models.Q(("mode", ""), ("why", ""), _connector="OR", _negated=True),
                        name="baseline_says_mode_and_why",
                    ),
                    models.CheckConstraint(
                        condition=models.Q(
                            models.Q(("ended_at__isnull", True), ("live", True)),
                            models.Q(("ended_at__isnull", False), ("live__isnull", True)),
                            _connector="OR",
                        ),
                        name="baseline_is_live_or_ended",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="Assessment",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("created_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("engine_version", models.CharField(max_length=20)),
                ("rules_version", models.CharField(max_length=20)),
                ("known_kinds", models.PositiveIntegerField(null=True)),
                ("kind", models.CharField(max_length=20)),
                ("state", models.CharField(default="", max_length=20)),
                ("headline", models.CharField(max_length=200)),
                ("entries", models.JSONField()),
                ("result", models.JSONField()),
                (
                    "round",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="assessments", to="visits.round"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["round", "-id"], name="visits_asse_round_i_1c8485_idx")],
            },
        ),
        migrations.CreateModel(
            name="Visit",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False)),
                ("started_at", models.DateTimeField()),
                ("ended", models.CharField(blank=True, default="", max_length=10)),
                ("is_practice", models.BooleanField(default=False)),
                ("next_due", models.DateField(null=True)),
                ("next_mode", models.CharField(blank=True, default="", max_length=10)),
                ("left_unread", models.BooleanField(null=True)),
                (
                    "shop",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="visits", to="accounts.shop"
                    ),
                ),
                (
                    "started_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="visits", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "system",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="visits", to="houses.system"
                    ),
                ),
                (
                    "with_person",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="holding",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
            options={
                "indexes": [
                    models.Index(fields=["system", "-started_at"], name="visits_visi_system__6fd732_idx"),
                    models.Index(
                        fields=["shop", "is_practice", "-started_at", "-id"], name="visits_visi_shop_id_50a693_idx"
                    ),
                    models.Index(
                        fields=["shop", "is_practice", "ended", "-started_at", "-id"],
                        name="visits_visi_shop_id_08bb11_idx",
                    ),
                    models.Index(fields=["shop", "next_due"], name="visits_visi_shop_id_d09420_idx"),
                    models.Index(fields=["shop", "left_unread"], name="visits_visi_shop_id_c854ff_idx"),
                ],
                "constraints": [models.UniqueConstraint(fields=("shop", "public_id"), name="one_visit_per_number")],
            },
        ),
        migrations.AddField(
            model_name="round",
            name="visit",
            field=models.ForeignKey(
                on_delete=django.db.models.deletion.PROTECT, related_name="rounds", to="visits.visit"
            ),
        ),
        migrations.AddField(
            model_name="plannedvisit",
            name="visit",
            field=models.OneToOneField(
                null=True, on_delete=django.db.models.deletion.PROTECT, related_name="plan", to="visits.visit"
            ),
        ),
        migrations.CreateModel(
            name="Pairing",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("stop", models.CharField(max_length=60)),
                ("place", models.CharField(max_length=60)),
                ("paired_at", models.DateTimeField(auto_now_add=True)),
                ("live", models.BooleanField(default=True, null=True)),
                ("released_at", models.DateTimeField(null=True)),
                (
                    "paired_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "probe",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="pairings", to="probes.probe"
                    ),
                ),
                (
                    "visit",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="pairings", to="visits.visit"
                    ),
                ),
            ],
            options={
                "constraints": [
                    models.UniqueConstraint(fields=("probe", "live"), name="one_live_pairing_per_probe"),
                    models.UniqueConstraint(fields=("visit", "stop", "place", "live"), name="one_live_probe_per_place"),
                    models.CheckConstraint(
                        condition=models.Q(
                            models.Q(("live", True), ("released_at__isnull", True)),
                            models.Q(("live__isnull", True), ("released_at__isnull", False)),
                            _connector="OR",
                        ),
                        name="pairing_is_live_or_released",
                    ),
                ],
            },
        ),
        migrations.CreateModel(
            name="Handover",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("given_at", models.DateTimeField(default=django.utils.timezone.now, editable=False)),
                ("note", models.CharField(blank=True, default="", max_length=300)),
                (
                    "given_by",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "given_to",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "visit",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="handovers", to="visits.visit"
                    ),
                ),
            ],
            options={
                "abstract": False,
            },
        ),
        migrations.CreateModel(
            name="Closing",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False)),
                ("did", models.CharField(max_length=10)),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                ("for_customer", models.CharField(blank=True, default="", max_length=1000)),
                ("for_shop", models.CharField(blank=True, default="", max_length=1000)),
                ("looks", models.JSONField(default=dict)),
                ("no_recheck_why", models.CharField(blank=True, default="", max_length=200)),
                ("next_due", models.DateField(blank=True, null=True)),
                ("next_mode", models.CharField(blank=True, default="", max_length=10)),
                ("pictures", models.JSONField(default=list)),
                (
                    "person",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to=settings.AUTH_USER_MODEL
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        editable=False,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="+",
                        to="accounts.shop",
                    ),
                ),
                (
                    "round",
                    models.ForeignKey(on_delete=django.db.models.deletion.PROTECT, related_name="+", to="visits.round"),
                ),
                (
                    "visit",
                    models.ForeignKey(
                        on_delete=django.db.models.deletion.PROTECT, related_name="closings", to="visits.visit"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["visit", "-id"], name="visits_clos_visit_i_c5fd8c_idx")],
                "constraints": [
                    models.UniqueConstraint(fields=("shop", "public_id"), name="one_closing_per_number"),
                    models.CheckConstraint(
                        condition=models.Q(("did__in", ["finished", "reviewed", "returned", "reopened"])),
                        name="closing_is_a_known_step",
                    ),
                ],
            },
        ),
        migrations.AddConstraint(
            model_name="round",
            constraint=models.UniqueConstraint(fields=("visit", "number"), name="one_round_per_number"),
        ),
        migrations.AddConstraint(
            model_name="plannedvisit",
            constraint=models.UniqueConstraint(fields=("shop", "public_id"), name="one_planned_visit_per_number"),
        ),
        migrations.AddConstraint(
            model_name="plannedvisit",
            constraint=models.CheckConstraint(
                condition=models.Q(("why", ""), _connector="OR", _negated=True), name="planned_visit_says_why"
            ),
        ),
        migrations.AddConstraint(
            model_name="plannedvisit",
            constraint=models.CheckConstraint(condition=models.Q(("minutes__gt", 0)), name="planned_visit_takes_time"),
        ),
    ]
