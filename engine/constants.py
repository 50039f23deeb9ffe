"""Every constant and rule of thumb of the job: name, value, unit, source. One place each.

Marks in the sources: CP = common practice in the trade, no single source; MEM = from memory, held loosely and never
leaned on by a test without a second witness.
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class Constant:
    """A number of the job with its unit and where it comes from."""

    name: str
    value: float
    unit: str
    source: str

    def __float__(self) -> float:
        return self.value


# -- what the instruments do: 95 % (k = 2) ------------------------------------------------------------------------------
DRY_BULB_ACCURACY = Constant("air dry bulb accuracy", 0.9, "°F", "MEM: typical data sheets of digital air probes")
RH_ACCURACY = Constant("relative humidity accuracy", 3.0, "%RH", "MEM: typical data sheets of capacitive sensors")
WET_BULB_ACCURACY = Constant("wet bulb accuracy", 1.0, "°F", "MEM: a wetted wick well ventilated; CP")
DEW_POINT_ACCURACY = Constant(
    "dew point accuracy", 1.5, "°F", "what 3 %RH amounts to near 75 °F, 50 %RH (slope of the saturation curve)"
)
DRY_BULB_REPEATABILITY = Constant(
    "air dry bulb repeatability", 0.3, "°F", "working figure: a third of the stated accuracy; the rest is offset"
)
HUMIDITY_REPEATABILITY_SHARE = Constant("humidity repeatability", 1 / 3, "of accuracy", "working figure, as for dry bulb")
STATION_PRESSURE_SPREAD = Constant(
    "station pressure about the standard atmosphere", 0.15, "psi", "MEM: weather moves it by about 0.3 in. Hg"
)

# -- airflow ------------------------------------------------------------------------------------------------------------
NOMINAL_CFM_PER_TON = Constant("nominal airflow", 400.0, "CFM/ton", "CP")
STANDARD_AIR_VOLUME = Constant(
    "specific volume of standard air", 13.33, "ft3/lb", "0.075 lb/ft3, ASHRAE Handbook - Fundamentals 2017, ch. 1 (MEM)"
)

# -- capacity -----------------------------------------------------------------------------------------------------------
BTUH_PER_TON = Constant("ton of refrigeration", 12000.0, "BTU/h", "definition")
FAN_W_PER_CFM = Constant(
    "blower power where it is not known",
    0.365,
    "W/CFM",
    "ANSI/AHRI 210/240 default for coils tested without a fan: 365 W per 1,000 CFM (MEM)",
)
FAN_POWER_SPREAD = Constant(
    "spread of blower power about that default", 0.30, "share, 95 %", "working figure: PSC to variable-speed motors"
)
MEASURED_FAN_POWER_ACCURACY = Constant(
    "measured blower power", 0.05, "share, 95 %", "clamp amps 2 % and an assumed power factor (MEM)"
)
CONDENSATE_CP = Constant("specific heat of condensate", 1.0, "BTU/lb°F", "water near 50 °F, handbook value rounded")
SENSIBLE_SHARE_AT_RATING = Constant("sensible share at the rating point", 0.75, "share", "CP: not on the plate; spread below")
SENSIBLE_SHARE_SPREAD = Constant("spread of that share", 0.04, "share, 95 %", "CP")
CAPACITY_MODEL_SPREAD = Constant(
    "spread of a sound unit about nominal tons and the published curve", 0.08, "share, 95 %",
    "working figure: rating tolerance 5 % (ANSI/AHRI 210/240, MEM) and rounding to nominal tons",
)  # fmt: skip

# -- pocket formulas (standard air) -------------------------------------------------------------------------------------
POCKET_SENSIBLE = Constant("sensible = 1.08 CFM dT", 1.08, "BTU/h per CFM°F", "CP: 60 x 0.24 / 13.33")
POCKET_TOTAL = Constant("total = 4.5 CFM dh", 4.5, "BTU/h per CFM BTU/lb", "CP: 60 / 13.33")
POCKET_LATENT = Constant("latent = 0.68 CFM dgrains", 0.68, "BTU/h per CFM grain/lb", "CP")
GRAINS_PER_LB = Constant("grains in a pound", 7000.0, "grain/lb", "definition")

# -- the rating point ---------------------------------------------------------------------------------------------------
RATING_RETURN_DRY_BULB = Constant("rating point, return dry bulb", 80.0, "°F", "ANSI/AHRI 210/240, cooling A test (MEM)")
RATING_RETURN_WET_BULB = Constant("rating point, return wet bulb", 67.0, "°F", "ANSI/AHRI 210/240, cooling A test (MEM)")
RATING_OUTDOOR = Constant("rating point, outdoor dry bulb", 95.0, "°F", "ANSI/AHRI 210/240, cooling A test (MEM)")
