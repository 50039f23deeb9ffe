"""What can be read and where: the words shared by the drawing, the visit bundle and the interface."""

from dataclasses import dataclass

PLACES = {
    "return_grille": "Return grille",
    "return_unit": "Return at the unit",
    "return_plenum": "Return plenum",
    "filter": "Filter",
    "coil": "Coil",
    "supply_plenum": "Supply plenum",
    "supply_register": "Supply register",
    "attic": "Attic",
    "outdoor": "Outdoor, shade",
    "condenser_air_out": "Condenser air, leaving",
    "condenser_air": "Condenser air, flow",
    "liquid_line_outdoor": "Liquid line outdoors",
    "liquid_line_indoor": "Liquid line indoors",
    "drier_in": "Drier, in",
    "drier_out": "Drier, out",
    "suction_line_outdoor": "Suction line outdoors",
    "suction_line_indoor": "Suction line at the coil",
    "true_suction": "Suction at the compressor",
    "discharge_line": "Discharge line",
    "gauge_suction": "Gauge, suction",
    "gauge_liquid": "Gauge, liquid",
    "compressor": "Compressor",
    "outdoor_fan": "Outdoor fan",
    "blower": "Blower",
    "water_in": "Loop water, entering",
    "water_out": "Loop water, leaving",
    "water_loop": "Loop water, flow",
    "traverse": "Traverse",
    "strips": "Strip heat, for the airflow",
    "furnace": "Gas heat, for the airflow",
    "system": "System",
}
ROOM = "room:"  # a room's place is this and its name
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
        Quantity("temperature", "Temperature", "temperature", "degF", -40.0, 300.0, "temperature"),
        Quantity("static_pressure", "Static pressure", "air_pressure", "inwc", -3.0, 3.0, "static_pressure"),
        Quantity("pressure_drop", "Pressure drop", "air_pressure", "inwc", -3.0, 3.0, "pressure_drop"),
        Quantity("sea_level_pressure", "Sea-level pressure", "barometer", "inHg", 27.0, 32.0, "sea_level_pressure"),
        Quantity("water_drop", "Water pressure drop", "pressure", "psi", 0.0, 50.0, "water_drop"),
        Quantity("pressure", "Gauge pressure", "pressure", "psi", -14.0, 700.0, "pressure"),
        Quantity("voltage", "Volts, leg to ground", "voltage", "V", 80.0, 300.0, "voltage"),
        Quantity("current", "Amps", "current", "A", 0.0, 80.0, "current"),
        Quantity("power_factor", "Power factor", "ratio", "ratio", 0.3, 1.0, "power_factor"),
        Quantity("flow", "Water flow", "water_flow", "GPM", 0.5, 40.0, "flow"),
        Quantity("running_time", "Minutes running", "time", "min", 0.0, 1440.0, "running_time"),
        Quantity("time_available", "Minutes on site from now", "time", "min", 0.0, 720.0, "time_available"),
        Quantity("velocity", "Velocity", "velocity", "fpm", 50.0, 3000.0, "velocity"),
        Quantity("gross_area", "Gross area", "area", "in2", 8.0, 2800.0, "gross_area"),
        Quantity("free_area", "Free area", "share", "pct", 30.0, 100.0, "free_area"),
        Quantity(
            "temperature_rise",
            "Rise through the heat",
            "temperature_difference",
            "degF_diff",
            5.0,
            120.0,
            "temperature_rise",
        ),
        Quantity("gas_input", "Gas input", "heat", "BTU/h", 20000.0, 200000.0, "gas_input"),
        Quantity("efficiency", "Efficiency", "share", "pct", 50.0, 99.0, "efficiency"),
    )
}

AIR = ("dry_bulb", *HUMIDITY_QUANTITIES)
LINES = (
    "liquid_line_outdoor", "liquid_line_indoor", "drier_in", "drier_out", "suction_line_outdoor", "suction_line_indoor",
    "true_suction", "discharge_line",
)  # fmt: skip
ELECTRICAL = ("voltage", "current", "power", "power_factor")
QUANTITIES_AT = {
    "return_unit": AIR,
    "supply_plenum": (*AIR, "static_pressure"),
    "return_grille": AIR,
    "supply_register": AIR,
    "attic": AIR,
    "outdoor": ("dry_bulb", "sea_level_pressure"),
    "condenser_air_out": ("dry_bulb",),
    "condenser_air": ("airflow",),
    "blower": ("airflow", "power", "voltage", "current", "power_factor"),
    "return_plenum": ("static_pressure",),
    "filter": ("pressure_drop",),
    "coil": ("pressure_drop",),
    **{place: ("temperature",) for place in LINES},
    "gauge_suction": ("pressure",),
    "gauge_liquid": ("pressure",),
    "compressor": ELECTRICAL,
    "outdoor_fan": ELECTRICAL,
    "water_in": ("temperature", "pressure"),
    "water_out": ("temperature", "pressure"),
    "water_loop": ("flow", "water_drop"),
    "traverse": ("velocity", "gross_area", "free_area"),
    "strips": ("voltage", "current", "temperature_rise"),
    "furnace": ("gas_input", "efficiency", "temperature_rise"),
    "system": ("running_time", "time_available"),
}


def quantities_at(place: str) -> tuple[str, ...]:
    """What is read at a place, a room's register among them; nothing at a place that is not known."""
    if place.startswith(ROOM) and len(place) > len(ROOM):
        return ("dry_bulb",)
    return QUANTITIES_AT.get(place, ())


# Where a machine or a house goes beyond its quantity's usual limits (working figures): air off a condenser on the
# hottest days, under a roof, and what the compressor of a large unit draws.
LIMITS_AT = {
    ("condenser_air_out", "dry_bulb"): (-20.0, 170.0), ("attic", "dry_bulb"): (-20.0, 170.0),
    ("compressor", "power"): (10.0, 15000.0),
}  # fmt: skip


def limits_at(place: str, quantity: str) -> tuple[float, float]:
    """What a quantity can be at a place, low and high, in the engine's unit."""
    what = QUANTITIES[quantity]
    return LIMITS_AT.get((place, quantity), (what.low, what.high))


def place_name(place: str) -> str:
    """The place in words."""
    return f"Register, {place.removeprefix(ROOM)}" if place.startswith(ROOM) else PLACES[place]


GROUND_SOURCE = "ground_source"
AIR_HANDLER, FURNACE = "air_handler", "furnace_with_cased_coil"  # the indoor unit
TWO_STAGE, VARIABLE_SPEED = "two", "variable"  # compressors that can run at part of their capacity
KINDS = ("air_conditioner", "heat_pump", GROUND_SOURCE)
# Where a number in a °F field would be odd but is an everyday °C value for that place in cooling: asked, never
# converted.
CELSIUS_LOOKALIKES_F = {
    ("return_unit", "dry_bulb"): (10.0, 42.0),
    ("return_unit", "wet_bulb"): (5.0, 30.0),
    ("return_unit", "dew_point"): (0.0, 28.0),
    ("supply_plenum", "dry_bulb"): (2.0, 30.0),
    ("supply_plenum", "wet_bulb"): (2.0, 28.0),
    ("supply_plenum", "dew_point"): (0.0, 26.0),
    ("outdoor", "dry_bulb"): (15.0, 48.0),
}
