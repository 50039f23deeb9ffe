"""A house, the systems in it, and the shop's instruments. Choices are plain text, checked in code."""

import uuid

from django.db import models

from web.accounts.models import Shop
from web.houses.querysets import HouseQuerySet, InstrumentQuerySet, SystemQuerySet

KINDS = {"air_conditioner": "Air conditioner", "heat_pump": "Heat pump"}
METERING_DEVICES = {"txv": "TXV", "fixed_orifice": "Orifice", "unknown": "Metering unknown"}
BLOWER_MOTORS = {
    "psc": "PSC blower",
    "constant_torque": "constant-torque blower",
    "constant_airflow": "constant-airflow blower",
    "unknown": "blower motor unknown",
}


class House(models.Model):
    """A house: where it stands decides air pressure."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="houses")
    name = models.CharField(max_length=80)
    altitude_ft = models.FloatField()
    climate = models.CharField(max_length=10, blank=True, default="")

    objects = HouseQuerySet.as_manager()

    class Meta:
        ordering = ["name"]
        indexes = [models.Index(fields=["shop", "name"])]

    def __str__(self):
        return self.name


class System(models.Model):
    """One split system as its nameplate has it."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    house = models.ForeignKey(House, on_delete=models.PROTECT, related_name="systems")
    name = models.CharField(max_length=40)
    kind = models.CharField(max_length=20, default="air_conditioner")
    nominal_tons = models.FloatField()
    refrigerant = models.CharField(max_length=10, blank=True, default="")
    metering_device = models.CharField(max_length=20, default="unknown")
    blower_motor = models.CharField(max_length=20, default="unknown")
    model = models.CharField(max_length=60, blank=True, default="")

    objects = SystemQuerySet.as_manager()

    class Meta:
        ordering = ["name"]

    def __str__(self):
        return f"{self.house}, {self.name}"

    @property
    def plate(self):
        """The nameplate in a line: '3 ton, R-410A, TXV'."""
        parts = [f"{self.nominal_tons:g} ton", self.refrigerant, METERING_DEVICES.get(self.metering_device, "")]
        return ", ".join(part for part in parts if part)

    @property
    def kind_label(self):
        return KINDS.get(self.kind, self.kind)

    @property
    def motor_label(self):
        return BLOWER_MOTORS.get(self.blower_motor, self.blower_motor)


class Instrument(models.Model):
    """An air probe: accuracies are 95 %."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="instruments")
    label = models.CharField(max_length=40)
    dry_bulb_accuracy_f = models.FloatField()
    rh_accuracy_pct = models.FloatField()
    lowest_f = models.FloatField()
    highest_f = models.FloatField()

    objects = InstrumentQuerySet.as_manager()

    class Meta:
        ordering = ["label"]

    def __str__(self):
        return self.label
