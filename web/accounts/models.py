"""The shop and the people in it."""

import uuid
from datetime import UTC, datetime

from django.conf import settings
from django.contrib.auth.models import AbstractUser
from django.contrib.sessions.base_session import AbstractBaseSession
from django.db import models
from django.utils import timezone
from django.utils.module_loading import import_string

from web.accounts import rights
from web.accounts.querysets import DeedQuerySet, DoorLinkQuerySet, SessionManager
from web.shell.append_only import AppendOnly

CLIMATES = {"": "Not said", "humid": "Humid", "dry": "Dry"}
TEMPERATURES = {"F": "°F", "C": "°C"}
PRESSURES = {"psi": "psig", "kPa": "kPa", "bar": "bar"}


class Shop(models.Model):
    """Everything belongs to a shop, and is seen by its people only."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    name = models.CharField(max_length=80)
    time_zone = models.CharField(max_length=40, default="UTC")
    altitude_ft = models.FloatField(null=True, blank=True)  # where most of its houses are: what a new one starts from
    climate = models.CharField(max_length=10, blank=True, default="")
    weather_place = models.CharField(max_length=60, blank=True, default="")  # asked of the weather service
    # Years after the last visit in which a customer's name, street, remarks and photos are kept; None: until erased.
    keeps_years = models.PositiveSmallIntegerField(null=True, blank=True)

    def __str__(self):
        return self.name


class User(AbstractUser):
    """A person who signs in. Without a shop there is nothing to see."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, null=True, blank=True, on_delete=models.PROTECT, related_name="people")
    role = models.CharField(max_length=20, default=rights.TECHNICIAN)
    certificate = models.CharField(max_length=40, blank=True, default="")  # to open a circuit; set by the lead
    certificate_until = models.DateField(null=True, blank=True)  # the last day it is good for; none: no end known
    temperatures = models.CharField(max_length=1, default="F")  # how this person reads and types them
    pressures = models.CharField(max_length=4, default="psi")  # how this person types a gauge's

    @property
    def short_name(self):
        """First name and initial: 'Ines P.'."""
        return f"{self.first_name} {self.last_name[:1]}.".strip(" .") + ("." if self.last_name else "")

    @property
    def role_label(self):
        return rights.ROLES.get(self.role, self.role)

    @property
    def certificate_ran_out(self):
        return bool(self.certificate and self.certificate_until and self.certificate_until < timezone.localdate())

    @property
    def may(self):
        """What the person's role may do, for templates: `{% if "finish" in user.may %}`."""
        return {right for right in rights.RIGHTS if rights.may(self, right)}


class Session(AbstractBaseSession):
    """Somebody signed in on a device: whose, on what, from where, and when it was last used."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    person = models.ForeignKey(User, null=True, on_delete=models.CASCADE, related_name="sessions")
    device = models.CharField(max_length=200, blank=True, default="")  # what the browser says of itself
    address = models.CharField(max_length=45, blank=True, default="")
    begun_at = models.DateTimeField(default=timezone.now)
    seen = models.BigIntegerField(default=0)  # seconds since 1970, to some minutes

    objects = SessionManager()

    @classmethod
    def get_session_store_class(cls):
        return import_string(f"{settings.SESSION_ENGINE}.SessionStore")

    @property
    def seen_at(self):
        return datetime.fromtimestamp(self.seen, UTC) if self.seen else self.begun_at

    @property
    def kind(self):
        return "Phone or tablet" if "Mobile" in self.device or "Android" in self.device else "Computer"


class DoorLink(models.Model):
    """A secret address at which somebody joins a shop under a name that is given (person: None), or a person chooses a
    new password. It opens once, until it expires or is ended. Of the address only its hash is kept.
    """

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+")
    person = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    role = models.CharField(max_length=20, default=rights.TECHNICIAN)
    first_name = models.CharField(max_length=60, blank=True, default="")
    last_name = models.CharField(max_length=60, blank=True, default="")
    email = models.EmailField(blank=True, default="")  # where it was sent to, and the person's from then on
    token_hash = models.CharField(max_length=64, unique=True)
    made_by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    made_at = models.DateTimeField(default=timezone.now)
    expires_at = models.DateTimeField()
    used_at = models.DateTimeField(null=True)
    ended_at = models.DateTimeField(null=True)

    objects = DoorLinkQuerySet.as_manager()

    @property
    def role_label(self):
        return rights.ROLES.get(self.role, self.role)


class Deed(AppendOnly):
    """Something somebody did: see web.accounts.deeds. of: the public id of what it was done to, kind: its table."""

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+")
    by = models.ForeignKey(User, null=True, on_delete=models.PROTECT, related_name="+")
    at = models.DateTimeField(default=timezone.now)
    did = models.CharField(max_length=20)
    kind = models.CharField(max_length=20, blank=True, default="")
    of = models.UUIDField(null=True)
    detail = models.CharField(max_length=200, blank=True, default="")

    objects = DeedQuerySet.as_manager()

    class Meta:
        indexes = (models.Index(fields=("shop", "-id"), name="deed_newest"),)


class Tally(models.Model):
    """How often something was tried since a stretch of time began: see web.accounts.limits."""

    key = models.CharField(max_length=100, primary_key=True)
    count = models.PositiveIntegerField()
    until = models.DateTimeField(db_index=True)
