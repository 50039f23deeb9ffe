import uuid

import django.contrib.auth.models
import django.contrib.auth.validators
import django.db.models.deletion
import django.utils.timezone
from django.conf import settings
from django.db import migrations, models


class Migration(migrations.Migration):
    # A fresh database is made in one step; one that has some of these goes on with the rest of them.
    replaces = [
        ("accounts", "0001_initial"),
        ("accounts", "0002_visit_in_order"),
        ("accounts", "0003_usual_place"),
        ("accounts", "0004_weather_place_and_units"),
        ("accounts", "0005_links_into_a_shop"),
        ("accounts", "0006_tallies"),
        ("accounts", "0007_sessions"),
        ("accounts", "0008_deeds"),
        ("accounts", "0009_mail_and_certificates"),
        ("accounts", "0010_keeping_time"),
    ]

    initial = True

    dependencies = [
        ("auth", "0012_alter_user_first_name_max_length"),
    ]

    operations = [
        migrations.CreateModel(
            name="Shop",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("name", models.CharField(max_length=80)),
                ("time_zone", models.CharField(default="UTC", max_length=40)),
                ("altitude_ft", models.FloatField(blank=True, null=True)),
                ("climate", models.CharField(blank=True, default="", max_length=10)),
                ("weather_place", models.CharField(blank=True, default="", max_length=60)),
                ("keeps_years", models.PositiveSmallIntegerField(blank=True, null=True)),
            ],
        ),
        migrations.CreateModel(
            name="Tally",
            fields=[
                ("key", models.CharField(max_length=100, primary_key=True, serialize=False)),
                ("count", models.PositiveIntegerField()),
                ("until", models.DateTimeField(db_index=True)),
            ],
        ),
        migrations.CreateModel(
            name="User",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("password", models.CharField(max_length=128, verbose_name="password")),
                ("last_login", models.DateTimeField(blank=True, null=True, verbose_name="last login")),
                (
                    "is_superuser",
                    models.BooleanField(
                        default=False,
                        help_text="Designates that this user has all permissions without explicitly assigning them.",
                        verbose_name="superuser status",
                    ),
                ),
                (
                    "username",
                    models.CharField(
                        error_messages={"unique": "A user with that username already exists."},
                        help_text="Required. 150 characters or fewer. Letters, digits and @/./+/-/_ only.",
                        max_length=150,
                        unique=True,
                        validators=[django.contrib.auth.validators.UnicodeUsernameValidator()],
                        verbose_name="username",
                    ),
                ),
                ("first_name", models.CharField(blank=True, max_length=150, verbose_name="first name")),
                ("last_name", models.CharField(blank=True, max_length=150, verbose_name="last name")),
                ("email", models.EmailField(blank=True, max_length=254, verbose_name="email address")),
                (
                    "is_staff",
                    models.BooleanField(
                        default=False,
                        help_text="Designates whether the user can log into this admin site.",
                        verbose_name="staff status",
                    ),
                ),
                (
                    "is_active",
                    models.BooleanField(
                        default=True,
                        help_text="Designates whether this user should be treated as active. "
                        "Unselect this instead of deleting accounts.",
                        verbose_name="active",
                    ),
                ),
                ("date_joined", models.DateTimeField(default=django.utils.timezone.now, verbose_name="date joined")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("role", models.CharField(default="technician", max_length=20)),
                ("certificate", models.CharField(blank=True, default="", max_length=40)),
                ("certificate_until", models.DateField(blank=True, null=True)),
                ("temperatures", models.CharField(default="F", max_length=1)),
                ("pressures", models.CharField(default="psi", max_length=4)),
                (
                    "groups",
                    models.ManyToManyField(
                        blank=True,
                        help_text="The groups this user belongs to. "
                        "A user will get all permissions granted to each of their groups.",
                        related_name="user_set",
                        related_query_name="user",
                        to="auth.group",
                        verbose_name="groups",
                    ),
                ),
                (
                    "user_permissions",
                    models.ManyToManyField(
                        blank=True,
                        help_text="Specific permissions for this user.",
                        related_name="user_set",
                        related_query_name="user",
                        to="auth.permission",
                        verbose_name="user permissions",
                    ),
                ),
                (
                    "shop",
                    models.ForeignKey(
                        blank=True,
                        null=True,
                        on_delete=django.db.models.deletion.PROTECT,
                        related_name="people",
                        to="accounts.shop",
                    ),
                ),
            ],
            options={
                "verbose_name": "user",
                "verbose_name_plural": "users",
                "abstract": False,
            },
            managers=[
                ("objects", django.contrib.auth.models.UserManager()),
            ],
        ),
        migrations.CreateModel(
            name="Session",
            fields=[
                (
                    "session_key",
                    models.CharField(max_length=40, primary_key=True, serialize=False, verbose_name="session key"),
                ),
                ("session_data", models.TextField(verbose_name="session data")),
                ("expire_date", models.DateTimeField(db_index=True, verbose_name="expire date")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("device", models.CharField(blank=True, default="", max_length=200)),
                ("address", models.CharField(blank=True, default="", max_length=45)),
                ("begun_at", models.DateTimeField(default=django.utils.timezone.now)),
                ("seen", models.BigIntegerField(default=0)),
                (
                    "person",
                    models.ForeignKey(
                        null=True,
                        on_delete=django.db.models.deletion.CASCADE,
                        related_name="sessions",
                        to=settings.AUTH_USER_MODEL,
                    ),
                ),
            ],
            options={
                "verbose_name": "session",
                "verbose_name_plural": "sessions",
                "abstract": False,
            },
        ),
        migrations.CreateModel(
            name="DoorLink",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("public_id", models.UUIDField(default=uuid.uuid4, editable=False, unique=True)),
                ("role", models.CharField(default="technician", max_length=20)),
                ("first_name", models.CharField(blank=True, default="", max_length=60)),
                ("last_name", models.CharField(blank=True, default="", max_length=60)),
                ("email", models.EmailField(blank=True, default="", max_length=254)),
                ("token_hash", models.CharField(max_length=64, unique=True)),
                ("made_at", models.DateTimeField(default=django.utils.timezone.now)),
                ("expires_at", models.DateTimeField()),
                ("used_at", models.DateTimeField(null=True)),
                ("ended_at", models.DateTimeField(null=True)),
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
                    "person",
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
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
                    ),
                ),
            ],
        ),
        migrations.CreateModel(
            name="Deed",
            fields=[
                ("id", models.BigAutoField(auto_created=True, primary_key=True, serialize=False, verbose_name="ID")),
                ("at", models.DateTimeField(default=django.utils.timezone.now)),
                ("did", models.CharField(max_length=20)),
                ("kind", models.CharField(blank=True, default="", max_length=20)),
                ("of", models.UUIDField(null=True)),
                ("detail", models.CharField(blank=True, default="", max_length=200)),
                (
                    "by",
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
                        on_delete=django.db.models.deletion.PROTECT, related_name="+", to="accounts.shop"
                    ),
                ),
            ],
            options={
                "indexes": [models.Index(fields=["shop", "-id"], name="deed_newest")],
            },
        ),
    ]
