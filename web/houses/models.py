"""A house, the systems in it, and the shop's instruments. Choices are plain text, checked in code."""

import uuid
from copy import copy

from django.conf import settings
from django.db import models
from django.utils import timezone

from web.accounts.models import Shop
from web.houses.querysets import HouseQuerySet, InstrumentQuerySet, PlateVersionQuerySet, SystemQuerySet, TableQuerySet
from web.shell.append_only import AppendOnly

KINDS = {"air_conditioner": "Air conditioner", "heat_pump": "Heat pump", "ground_source": "Ground source"}
METERING_DEVICES = {"txv": "TXV", "fixed_orifice": "Orifice", "unknown": "Metering unknown"}
BLOWER_MOTORS = {
    "psc": "PSC blower",
    "constant_torque": "constant-torque blower",
    "constant_airflow": "constant-airflow blower",
    "unknown": "blower motor unknown",
}


UNITS = {"air_handler": "Air handler", "furnace_with_cased_coil": "Furnace with cased coil"}
# Where the indoor unit is: the cautions of an attic are shown for attics, and where nobody said.
ATTIC = "attic"
INDOOR_PLACES = {
    "": "Not said", ATTIC: "Attic", "closet": "Closet", "basement": "Basement", "garage": "Garage",
    "crawl_space": "Crawl space",
}  # fmt: skip
STAGES = {"": "Not known", "single": "Single-stage", "two": "Two-stage", "variable": "Variable speed"}
STAGED = ("two", "variable")
LOOPS = {"": "Not known", "closed": "Closed loop", "open_well": "Open well"}
LOOP_FLUIDS = {"water": "Water", "propylene_glycol": "Propylene glycol", "methanol": "Methanol"}
REFRIGERANTS = ("R-410A", "R-32", "R-454B", "R-22", "R-407C", "R-134a")
# What of a system its plates say: what a round is judged by.
PLATE = (
    "kind", "nominal_tons", "refrigerant", "metering_device", "blower_motor", "line", "model", "serial", "indoor_model",
    "indoor_serial", "year", "seer",
    "factory_charge_oz", "target_subcooling_f", "compressor_rla", "outdoor_fan_fla", "unit", "stages",
    "rating_static_inwc", "tap", "line_length_ft", "loop_fluid",
    "loop_share_pct", "loop", "design_gpm", "heating_btuh_47", "heating_btuh_17",
)  # fmt: skip
FIRST, CORRECTED, CHANGED = "first", "corrected", "changed"
INSTRUMENT_KINDS = {
    "air_probe": "Air probe", "line_clamp": "Pipe clamp", "manometer": "Manometer", "amp_clamp": "Amp clamp",
    "flow_device": "Flow device",
    "vane": "Vane or hot wire", "water_probe": "Water probe and needle gauge",
}  # fmt: skip


class House(models.Model):
    """A house: its altitude decides air pressure."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="houses")
    name = models.CharField(max_length=80)
    altitude_ft = models.FloatField()
    climate = models.CharField(max_length=10, blank=True, default="")
    weather_place = models.CharField(max_length=60, blank=True, default="")  # asked of the weather service
    customer = models.CharField(max_length=80, blank=True, default="")
    access_note = models.CharField(max_length=200, blank=True, default="")
    # Simulated: kept out of every list of the shop's work.
    is_practice = models.BooleanField(default=False, editable=False)
    erased_at = models.DateTimeField(null=True, editable=False)  # when its customer was: see web.exchange.erasing
    initials = models.CharField(max_length=20, default="", editable=False)  # "Hollow Lane 14" is found by "hl14" too

    objects = HouseQuerySet.as_manager()

    class Meta:
        ordering = ["name"]
        indexes = [
            models.Index(fields=["shop", "is_practice", "name"]),
            models.Index(fields=["shop", "is_practice", "weather_place"]),
        ]

    def __str__(self):
        return self.name


class HouseWord(models.Model):
    """A word by which a house is found: see `web.houses.search`."""

    LONGEST = 40

    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="+")
    house = models.ForeignKey(House, on_delete=models.CASCADE, related_name="words")
    word = models.CharField(max_length=LONGEST)

    class Meta:
        constraints = [models.UniqueConstraint(fields=["house", "word"], name="one_word_per_house")]
        indexes = [models.Index(fields=["shop", "word"])]


class System(models.Model):
    """One system as its nameplates have it. Numbers that are not on the plate stay empty: what is taken instead is said
    aloud.
    """

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    house = models.ForeignKey(House, on_delete=models.PROTECT, related_name="systems")
    name = models.CharField(max_length=40)
    kind = models.CharField(max_length=20, default="air_conditioner")
    nominal_tons = models.FloatField()
    refrigerant = models.CharField(max_length=10, blank=True, default="")
    metering_device = models.CharField(max_length=20, default="unknown")
    blower_motor = models.CharField(max_length=20, default="unknown")
    line = models.CharField(max_length=60, blank=True, default="")  # of models that differ by size: learnt together
    model = models.CharField(max_length=60, blank=True, default="")  # the outdoor half's
    serial = models.CharField(max_length=40, blank=True, default="")
    indoor_model = models.CharField(max_length=60, blank=True, default="")
    indoor_serial = models.CharField(max_length=40, blank=True, default="")
    year = models.PositiveSmallIntegerField(null=True, blank=True)
    seer = models.FloatField(null=True, blank=True)
    factory_charge_oz = models.FloatField(null=True, blank=True)
    target_subcooling_f = models.FloatField(null=True, blank=True)
    compressor_rla = models.FloatField(null=True, blank=True)
    outdoor_fan_fla = models.FloatField(null=True, blank=True)
    unit = models.CharField(max_length=30, default="air_handler")
    stages = models.CharField(max_length=10, blank=True, default="")
    indoor_place = models.CharField(max_length=20, blank=True, default="")
    rating_static_inwc = models.FloatField(null=True, blank=True)
    tap = models.CharField(max_length=20, blank=True, default="")
    line_length_ft = models.FloatField(null=True, blank=True)
    loop_fluid = models.CharField(max_length=20, blank=True, default="water")
    loop_share_pct = models.FloatField(null=True, blank=True)
    loop = models.CharField(max_length=10, blank=True, default="")
    design_gpm = models.FloatField(null=True, blank=True)
    heating_btuh_47 = models.FloatField(null=True, blank=True)
    heating_btuh_17 = models.FloatField(null=True, blank=True)
    # Counts up each time the machine itself was changed.
    machine = models.PositiveSmallIntegerField(default=1, editable=False)

    objects = SystemQuerySet.as_manager()

    class Meta:
        ordering = ["name"]
        indexes = [models.Index(fields=["model"])]

    def __str__(self):
        return f"{self.house}, {self.name}"

    @property
    def plates(self):
        """What its plates say, by column."""
        return {name: getattr(self, name) for name in PLATE}

    def with_plates(self, plates: dict):
        """This system as its plates said then: to judge by, never to be saved."""
        then = copy(self)
        for name in PLATE:
            setattr(then, name, plates.get(name, getattr(self, name)))
        return then

    @property
    def may_be_in_attic(self):
        """Whether the indoor unit is in an attic, or nobody said that it does not."""
        return self.indoor_place in ("", ATTIC)

    @property
    def is_staged(self):
        """Whether it can run at part of its capacity, where nothing is expected of it."""
        return self.stages in STAGED

    @property
    def plate(self):
        """The nameplate in a line: '3 ton, R-410A, TXV'."""
        parts = [f"{self.nominal_tons:g} ton", self.refrigerant, METERING_DEVICES.get(self.metering_device, "")]
        parts += [STAGES[self.stages].lower()] if self.is_staged else []
        return ", ".join(part for part in parts if part)

    @property
    def kind_label(self):
        return KINDS.get(self.kind, self.kind)

    @property
    def motor_label(self):
        return BLOWER_MOTORS.get(self.blower_motor, self.blower_motor)


class PlateVersion(AppendOnly):
    """What a system's plates said from then on. A correction is of the same machine, and holds for what was read of it
    before; a change makes another.
    """

    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="plate_versions")
    machine = models.PositiveSmallIntegerField()
    plates = models.JSONField()
    why = models.CharField(max_length=20)
    entered_by = models.ForeignKey(settings.AUTH_USER_MODEL, null=True, on_delete=models.PROTECT, related_name="+")
    entered_at = models.DateTimeField(default=timezone.now, editable=False)

    objects = PlateVersionQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["system", "machine", "-id"])]


class Table(AppendOnly):
    """A maker's table of a system, as it was typed or pasted.
    A better one is a new row; the newest of a kind counts.
    """

    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="tables")
    kind = models.CharField(max_length=20)
    text = models.TextField(max_length=8000)
    source = models.CharField(max_length=120, blank=True, default="")
    entered_by = models.ForeignKey(settings.AUTH_USER_MODEL, on_delete=models.PROTECT, related_name="+")
    entered_at = models.DateTimeField(default=timezone.now, editable=False)

    objects = TableQuerySet.as_manager()

    class Meta:
        indexes = [models.Index(fields=["system", "kind", "-id"])]


class Room(models.Model):
    """A room's supply duct."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    system = models.ForeignKey(System, on_delete=models.PROTECT, related_name="rooms")
    name = models.CharField(max_length=40)
    diameter_in = models.FloatField()
    duct = models.CharField(max_length=10, default="flex")
    wants_cfm = models.FloatField(null=True, blank=True)

    class Meta:
        ordering = ["id"]
        constraints = [models.UniqueConstraint(fields=["system", "name"], name="one_room_per_name")]

    def __str__(self):
        return self.name


class Instrument(models.Model):
    """An instrument of the shop: accuracies are 95 %; the ones that do not apply to its kind are empty."""

    public_id = models.UUIDField(default=uuid.uuid4, unique=True, editable=False)
    shop = models.ForeignKey(Shop, on_delete=models.PROTECT, related_name="instruments")
    label = models.CharField(max_length=40)
    kind = models.CharField(max_length=20, default="air_probe")
    dry_bulb_accuracy_f = models.FloatField(null=True, blank=True)
    rh_accuracy_pct = models.FloatField(null=True, blank=True)
    line_accuracy_f = models.FloatField(null=True, blank=True)
    lowest_f = models.FloatField(null=True, blank=True)
    highest_f = models.FloatField(null=True, blank=True)
    calibrated_on = models.DateField(null=True, blank=True)
    calibration_months = models.PositiveSmallIntegerField(default=12)
    retired = models.BooleanField(default=False)

    objects = InstrumentQuerySet.as_manager()

    class Meta:
        ordering = ["label"]

    def __str__(self):
        return self.label

    @property
    def kind_label(self):
        return INSTRUMENT_KINDS.get(self.kind, self.kind)

    @property
    def calibration_due(self):
        """The day its calibration runs out, or None when it was never entered."""
        if self.calibrated_on is None:
            return None
        months = self.calibrated_on.month - 1 + self.calibration_months
        day = min(self.calibrated_on.day, 28)
        return self.calibrated_on.replace(year=self.calibrated_on.year + months // 12, month=months % 12 + 1, day=day)

    @property
    def overdue(self):
        """Whether its calibration has run out, or was never entered."""
        return self.calibration_due is None or self.calibration_due < timezone.localdate()
