"""What can be read and where: the words shared by the drawing, the visit bundle and the interface."""

from dataclasses import dataclass

PLACES = {
    "return_unit": "Return at the unit",
    "supply_plenum": "Supply plenum",
    "outdoor": "Outdoor, shade",
    "blower": "Blower",
    "system": "System",
}
# On the way in past the condenser, then inside; supply last, so that what to expect is known before it is measured.
WALKING_ORDER = ("outdoor", "return_unit", "blower", "supply_plenum")
HUMIDITY_QUANTITIES = ("rh", "wet_bulb", "dew_point")


@dataclass(frozen=True)
class Quantity:
    """One quantity: label, kind of unit, the engine's unit, its limits in that unit, and its slot at a place.

    Readings in one slot replace each other: a wet bulb read after a relative humidity at the same place is the
    humidity there.
    """

    id: str
    label: str
    kind: str
    unit: str
    low: float
    high: float
    slot: str


QUANTITIES = {
    q.id: q
    for q in (
        Quantity("dry_bulb", "Dry bulb", "temperature", "degF", -20.0, 130.0, "dry_bulb"),
        Quantity("rh", "Relative humidity", "share", "pct", 0.0, 100.0, "humidity"),
        Quantity("wet_bulb", "Wet bulb", "temperature", "degF", -20.0, 130.0, "humidity"),
        Quantity("dew_point", "Dew point", "temperature", "degF", -20.0, 130.0, "humidity"),
        Quantity("airflow", "Airflow", "airflow", "CFM", 50.0, 5000.0, "airflow"),
        Quantity("power", "Blower power", "power", "W", 10.0, 3000.0, "power"),
        Quantity("running_time", "Minutes running", "time", "min", 0.0, 1440.0, "running_time"),
    )
}

AIR = ("dry_bulb", *HUMIDITY_QUANTITIES)
QUANTITIES_AT = {
    "return_unit": AIR,
    "supply_plenum": AIR,
    "outdoor": ("dry_bulb",),
    "blower": ("airflow", "power"),
    "system": ("running_time",),
}

# Observations: what was seen, in degrees. `coil` is the evaporator as the technician finds it.
OBSERVATIONS = {
    "strip_heat": {"off": "Off", "on": "On", "none": "None fitted"},
    "coil": {"wet": "Wet", "dry": "Dry"},
}

# Where a number in a °F field would be odd but is an everyday °C value for that place in cooling: asked, never converted.
CELSIUS_LOOKALIKES_F = {
    ("return_unit", "dry_bulb"): (10.0, 42.0),
    ("return_unit", "wet_bulb"): (5.0, 30.0),
    ("return_unit", "dew_point"): (0.0, 28.0),
    ("supply_plenum", "dry_bulb"): (2.0, 30.0),
    ("supply_plenum", "wet_bulb"): (2.0, 28.0),
    ("supply_plenum", "dew_point"): (0.0, 26.0),
    ("outdoor", "dry_bulb"): (15.0, 48.0),
}
