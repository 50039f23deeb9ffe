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


# One entry a line or two: a table.
# fmt: off
# -- what the instruments do: 95 % (k = 2) ------------------------------------------------------------------------------
DRY_BULB_ACCURACY = Constant("air dry bulb accuracy", 0.9, "°F", "MEM: typical data sheets of digital air probes")
RH_ACCURACY = Constant("relative humidity accuracy", 3.0, "%RH", "MEM: typical data sheets of capacitive sensors")
WET_BULB_ACCURACY = Constant("wet bulb accuracy", 1.0, "°F", "MEM: a wetted wick well ventilated; CP")
DEW_POINT_ACCURACY = Constant("dew point accuracy", 1.5, "°F", "what 3 %RH amounts to near 75 °F, 50 %RH (slope of the saturation curve)")
DRY_BULB_REPEATABILITY = Constant("air dry bulb repeatability", 0.3, "°F", "working figure: a third of the stated accuracy; the rest is offset")
HUMIDITY_REPEATABILITY_SHARE = Constant("humidity repeatability", 1 / 3, "of accuracy", "working figure, as for dry bulb")
SWING_MEAN_SHARE = Constant("mean of a swinging reading, against its range", 0.125, "share, 95 %", "working figure: about one whole swing in the window it was watched")
STANDARD_SEA_LEVEL = Constant("standard atmosphere at sea level", 29.921, "in. Hg", "US Standard Atmosphere 1976: 101.325 kPa")
WEATHER_SERVICE_ACCURACY = Constant("outdoor air by a weather service, against the air at the condenser", 4.0, "°F", "MEM and CP: another place, another hour; sun and roof heat at the house")
WEATHER_PRESSURE_ACCURACY = Constant("air pressure by a weather service", 0.03, "psi", "MEM: 0.06 in. Hg for distance and hour")
STATION_PRESSURE_SPREAD = Constant("station pressure about the standard atmosphere", 0.15, "psi", "MEM: weather moves it by about 0.3 in. Hg")

# -- airflow ------------------------------------------------------------------------------------------------------------
NOMINAL_CFM_PER_TON = Constant("nominal airflow", 400.0, "CFM/ton", "CP")
STANDARD_AIR_VOLUME = Constant("specific volume of standard air", 13.33, "ft3/lb", "0.075 lb/ft3, ASHRAE Handbook - Fundamentals 2017, ch. 1 (MEM)")

# -- capacity -----------------------------------------------------------------------------------------------------------
BTUH_PER_TON = Constant("ton of refrigeration", 12000.0, "BTU/h", "definition")
FAN_W_PER_CFM = Constant("blower power where it is not known", 0.365, "W/CFM", "ANSI/AHRI 210/240 default for coils tested without a fan: 365 W per 1,000 CFM (MEM)")
FAN_POWER_SPREAD = Constant("spread of blower power about that default", 0.30, "share, 95 %", "working figure: PSC to variable-speed motors")
MEASURED_FAN_POWER_ACCURACY = Constant("measured blower power", 0.05, "share, 95 %", "clamp amps 2 % and an assumed power factor (MEM)")
CONDENSATE_CP = Constant("specific heat of condensate", 1.0, "BTU/lb°F", "water near 50 °F, handbook value rounded")
SENSIBLE_SHARE_AT_RATING = Constant("sensible share at the rating point", 0.75, "share", "CP: not on the plate; spread below")
SENSIBLE_SHARE_SPREAD = Constant("spread of that share", 0.04, "share, 95 %", "CP")
CAPACITY_MODEL_SPREAD = Constant("spread of a sound unit about nominal tons and the published curve", 0.08, "share, 95 %", "working figure: rating tolerance 5 % (ANSI/AHRI 210/240, MEM) and rounding to nominal tons")
CARRIED_ON_WET_BULB = Constant("how far the curves are carried on beyond their wet bulbs", 8.0, "°F", "working figure: about half their own range")
CARRIED_ON_OUTDOOR = Constant("how far the curves are carried on beyond their outdoor air", 15.0, "°F", "working figure: a third of their own range")
CARRIED_ON_FLOW = Constant("how far the curves are carried on beyond their airflow", 10.0, "% of rated", "working figure: at less a coil is near freezing")
CARRIED_ON_PER_WET_BULB = Constant("doubt of the capacity for each °F of wet bulb beyond the curves", 0.015, "share/°F, 95 %", "capacity goes with some 1.5 % for each °F there: the trend may be off by itself")
CARRIED_ON_PER_OUTDOOR = Constant("doubt of the capacity for each °F outdoors beyond the curves", 0.006, "share/°F, 95 %", "capacity goes with some 0.6 % for each °F there: the trend may be off by itself")
CARRIED_ON_PER_FLOW = Constant("doubt of the capacity for each % of rated airflow beyond the curves", 0.006, "share/%, 95 %", "capacity goes with some 0.6 % for each % of low airflow: the trend may be off by itself")

# -- pocket formulas (standard air) -------------------------------------------------------------------------------------
POCKET_SENSIBLE = Constant("sensible = 1.08 CFM dT", 1.08, "BTU/h per CFM°F", "CP: 60 x 0.24 / 13.33")
POCKET_TOTAL = Constant("total = 4.5 CFM dh", 4.5, "BTU/h per CFM BTU/lb", "CP: 60 / 13.33")
POCKET_LATENT = Constant("latent = 0.68 CFM dgrains", 0.68, "BTU/h per CFM grain/lb", "CP")
GRAINS_PER_LB = Constant("grains in a pound", 7000.0, "grain/lb", "definition")

# -- the rating point ---------------------------------------------------------------------------------------------------
RATING_RETURN_DRY_BULB = Constant("rating point, return dry bulb", 80.0, "°F", "ANSI/AHRI 210/240, cooling A test (MEM)")
RATING_RETURN_WET_BULB = Constant("rating point, return wet bulb", 67.0, "°F", "ANSI/AHRI 210/240, cooling A test (MEM)")
RATING_OUTDOOR = Constant("rating point, outdoor dry bulb", 95.0, "°F", "ANSI/AHRI 210/240, cooling A test (MEM)")

# -- charge and lines ---------------------------------------------------------------------------------------------------
DEFAULT_TARGET_SUBCOOLING = Constant("target subcooling where the plate is silent", 10.0, "°F", "CP: the usual stand-in; ask the maker")
TXV_TOTAL_SUPERHEAT_LOW = Constant("least superheat at the outdoor unit, TXV", 8.0, "°F", "CP")
TXV_TOTAL_SUPERHEAT_HIGH = Constant("most superheat at the outdoor unit, TXV", 17.0, "°F", "CP")
APPROACH_LIMIT_UNKNOWN_CLASS = Constant("bare limit on the approach, modern equipment of unknown class", 15.0, "°F", "CP")
EVAPORATOR_DIFFERENCE = Constant("return dry bulb less evaporating", 35.0, "°F", "CP and MEM: at 400 CFM/ton and 50 %RH; larger under high load")
EVAPORATOR_DIFFERENCE_SPREAD = Constant("spread of that difference", 7.0, "°F, 95 %", "working figure: airflow and humidity of ordinary houses")
CONDENSING_OVER_AMBIENT_SPREAD = Constant("spread of condensing over ambient within a class", 5.0, "°F, 95 %", "working figure: half the step between classes, and load")
ICING_EVAPORATING = Constant("evaporating temperature below which the coil ices", 32.0, "°F", "freezing point of water")
COMPRESSOR_INLET_LIMIT = Constant("suction line into the compressor, once settled", 65.0, "°F", "CP: it overheats above; not while a humid house is drawn down")
LIQUID_LINE_DROP_LIMIT = Constant("drop along the liquid line", 3.0, "°F", "CP: more is a restriction")
STANDS_STILL = Constant("compressor's amps under which it does not run", 0.1, "of a sound one's", "working figure: a motor that pumps nothing still draws a third and more, an inverter at its least some 15 %")
NO_HEAT = Constant("split, rise or condenser air rise under which no heat is moved", 2.0, "°F", "working figure: the instruments' accuracy and what a fan alone gives")
LINE_CLAMP_ACCURACY = Constant("pipe clamp, matched pair", 1.0, "°F", "MEM")

LINE_CLAMP_REPEATABILITY_SHARE = Constant("pipe clamp repeatability", 1 / 3, "of accuracy", "working figure, as for dry bulb")

# -- airflow by other means ---------------------------------------------------------------------------------------------
TRAVERSE_INSTRUMENT_ACCURACY = Constant("rotating vane", 0.03, "share, 95 %", "MEM")
TRAVERSE_METHOD_ACCURACY = Constant("traverse as a method", 0.05, "share, 95 %", "MEM")
RISE_ACCURACY = Constant("temperature rise across a heater", 1.3, "°F, 95 %", "two probes of 0.9 °F in quadrature")
FURNACE_EFFICIENCY_SPREAD = Constant("gas input times efficiency from the plate", 0.08, "share, 95 %", "working figure: input and efficiency each 5 %")
GAS_DERATE_ABOVE_FT = Constant("altitude from which gas input is derated", 2000.0, "ft", "CP (MEM)")
GAS_DERATE_PER_1000_FT = Constant("gas input lost per 1,000 ft above that", 0.04, "share", "CP (MEM)")
COIL_DROP_EXPONENT = Constant("wet coil drop goes with flow to the power", 1.8, "", "MEM")
FILTER_DROP_EXPONENT = Constant("pleated filter drop goes with flow to the power", 1.4, "", "MEM: 1.3 to 1.5")
DROP_EXPONENT_SPREAD = Constant("spread of those exponents", 0.15, "95 %", "working figure: half the range of the filter's, and some")
MANOMETER_SHARE = Constant("manometer, share of reading", 0.01, "share, 95 %", "MEM")
MANOMETER_FLOOR = Constant("manometer, floor", 0.005, "in. w.c., 95 %", "MEM")
STATIC_RATING_LIMIT = Constant("usual rating limit of total external static", 0.5, "in. w.c.", "CP, MEM")
STATIC_HIGH = Constant("total external static that is common and high", 0.7, "in. w.c.", "CP, MEM: 0.7 to 0.8")

# -- electrical, condenser, ledger --------------------------------------------------------------------------------------
CLAMP_AMPS_ACCURACY = Constant("clamp amps", 0.02, "share, 95 %", "MEM")
VOLTS_ACCURACY = Constant("volts", 0.01, "share, 95 %", "MEM")
COMPRESSOR_POWER_FACTOR = Constant("power factor of a running compressor where it is not measured", 0.95, "", "MEM: 0.9 to 0.98 with a run capacitor")
POWER_FACTOR_SPREAD = Constant("spread of that power factor", 0.05, "share, 95 %", "MEM")
BLOWER_POWER_FACTOR = Constant("power factor of a running blower where it is not measured", 0.80, "", "MEM: 0.9 and more with a run capacitor, 0.6 to 0.7 with an electronic motor")
BLOWER_POWER_FACTOR_SPREAD = Constant("spread of that power factor", 0.25, "share, 95 %", "MEM")
POWER_FACTOR_ACCURACY = Constant("measured power factor", 0.02, "share, 95 %", "MEM: a clamp meter's")
CONDENSER_CFM_PER_TON_LOW = Constant("least plausible condenser airflow", 500.0, "CFM/ton", "CP (MEM): small old units")
CONDENSER_CFM_PER_TON_HIGH = Constant("most plausible condenser airflow", 1300.0, "CFM/ton", "CP (MEM): large high-efficiency units")

CONDENSER_FLOW_ACCURACY = Constant("measured condenser airflow", 0.07, "share, 95 %", "as a flow device indoors (MEM)")

# -- ducts and rooms ----------------------------------------------------------------------------------------------------
MATCHED_PAIR_ACCURACY = Constant("difference of two air readings with one probe", 0.5, "°F, 95 %", "repeatability of 0.3 °F at each end, rounded up")
RETURN_DEW_POINT_LIMIT = Constant("what dew point may differ by between grille and unit without a leak", 1.0, "°F", "working figure: a sealed duct changes no dew point; mixing in the room does a little")
RETURN_LEAK_LOOK = Constant("share of return air from elsewhere that deserves a look", 10.0, "%", "working figure: a tenth")
HOUSE_AIR_TEMPERATURE = Constant("house air where it was not read", 75.0, "°F", "working figure: a rise changes little with it")
HOUSE_AIR_HUMIDITY_RATIO = Constant("house air's humidity where it was not read", 0.008, "lb/lb", "working figure: 75 °F near 43 %RH; moves a rise by under 0.5 %")
SUPPLY_AIR_TEMPERATURE = Constant("supply air where it was not read", 55.0, "°F", "working figure: moves a volume by 0.2 % for each °F")
SUPPLY_AIR_HUMIDITY_RATIO = Constant("supply air's humidity where it was not read", 0.008, "lb/lb", "working figure: moves a volume by under 0.3 %")
PLANE_NOT_SAID = Constant("airflow whose plane was not said", 0.04, "share, 95 %", "return air at 75 °F over supply air at 55 °F: their volumes differ by 4 %")
HUMID_HOUSE_DEW_POINT = Constant("return dew point from which a house is called damp", 60.0, "°F", "working figure: 75 °F at 60 %RH")
FRICTION_RATE_USUAL = Constant("friction rate branch ducts are sized for", 0.08, "in. w.c. per 100 ft", "CP: 0.05 to 0.10")
AIR_DENSITY_STANDARD = Constant("density of standard air", 0.075, "lb/ft3", "ASHRAE Handbook - Fundamentals, duct design (MEM)")
AIR_VISCOSITY = Constant("kinematic viscosity of standard air", 1.63e-4, "ft2/s", "ASHRAE Handbook - Fundamentals (MEM)")
INWC_PER_VELOCITY_PRESSURE = Constant("velocity pressure = density x (V / 1097)^2", 1097.0, "ft/min", "definition, standard gravity")
ROUGHNESS_METAL = Constant("absolute roughness, galvanized round duct", 0.0003, "ft", "ASHRAE Handbook - Fundamentals, duct design (MEM)")
ROUGHNESS_FLEX = Constant("absolute roughness, flexible duct pulled tight", 0.003, "ft", "ASHRAE Handbook - Fundamentals, duct design (MEM): 'medium rough to rough'")

# -- water side ---------------------------------------------------------------------------------------------------------
NEEDLE_GAUGE_ACCURACY = Constant("one needle gauge moved from port to port", 0.2, "psi, 95 %", "MEM: a digital gauge; its offset cancels")
WATER_PROBE_PAIR_ACCURACY = Constant("water temperature difference with one probe", 0.3, "°F, 95 %", "MEM")

# -- expected values by authority, follow-up ----------------------------------------------------------------------------
PUBLISHED_TABLE_SPREAD = Constant("spread of a sound unit about its maker's table", 0.05, "share, 95 %", "rating tolerance, ANSI/AHRI 210/240 (MEM)")
MODEL_SLOPE_SPREAD = Constant("share of the model's own change that its slope may be off", 0.25, "share, 95 %", "working figure")

# -- what is usual in sound systems, for the judgement ------------------------------------------------------------------
AIRFLOW_SPREAD_SOUND = Constant("airflow of sound systems about 400 CFM/ton", 0.125, "share, 95 %", "CP: 350 to 450 is normal")
FILTER_DROP_LOOK = Constant("filter drop that deserves a look", 0.10, "in. w.c.", "CP, MEM")
FILTER_DROP_USUAL = Constant("filter drop at 400 CFM/ton", 0.08, "in. w.c.", "CP, MEM: over 0.10 deserves a look")
COIL_DROP_USUAL = Constant("wet coil drop at 400 CFM/ton", 0.22, "in. w.c.", "CP, MEM: over 0.30 deserves a look")
COIL_DROP_DRY = Constant("a dry coil's drop over the wet one's at the same airflow", 0.75, "share", "MEM: 0.7 to 0.85 in makers' tables of cased coils")
RETURN_DUCT_DROP_USUAL = Constant("return duct and grille at 400 CFM/ton", 0.10, "in. w.c.", "CP: what 0.5 in. w.c. leaves beside filter and supply")
SUPPLY_DUCT_DROP_USUAL = Constant("supply duct and registers at 400 CFM/ton", 0.20, "in. w.c.", "CP: as for the return")
USUAL_DROP_SPREAD = Constant("spread of those drops", 0.7, "ln, 95 %", "working figure: half to twice")
DUCT_DROP_EXPONENT = Constant("duct drop goes with flow to the power", 1.9, "", "turbulent flow in ducts: between 1.8 and 2 (MEM)")
ROUNDED_READINGS = Constant("what rounding of readings leaves in a share", 0.02, "share, 95 %", "working figure: a tenth of a degree and a percent of humidity")
AIRFLOW_REPEAT = Constant("airflow of one sound system from visit to visit", 0.07, "ln, 95 %", "working figure: filter between changes")
SUCTION_RISE_SPREAD = Constant("spread of the rise along a sound suction line", 4.0, "°F, 95 %", "15 to 60 ft in 3/8 to 3/4 in. of foam warm by 0.3 to 5 °F (conduction), and some joints are bare; 8 deserves a look")
SUCTION_RISE_REPEAT = Constant("that rise from visit to visit", 2.0, "°F, 95 %", "working figure")
ORIFICE_TARGET_PER_WET_BULB_F = Constant("target superheat of the charging formula with return wet bulb", 1.5, "°F/°F", "the formula's own slope: 3/2")
ORIFICE_TARGET_PER_OUTDOOR_F = Constant("and with outdoor air", 0.5, "°F/°F", "the formula's own slope: 1/2")
SUPPLY_DEW_POINT_SPREAD = Constant("supply dew point of sound units about that of the expected supply", 3.0, "°F, 95 %", "working figure: 0.04 of sensible share is about 2 °F of dew point near 55 °F, and a bypass factor's spread adds")
ORIFICE_TARGET_SPREAD = Constant("sound machines about a target superheat of the charging formula, beside the ±5 °F", 0.35, "share of it, 95 %", "working figure: the formula is of one class of machine, and a high target is furthest from where it was made (CP)")
ORIFICE_APPROACH_PER_F = Constant("what a fixed orifice adds to the spread of the approach by each °F from the rating's 95 °F", 0.2, "°F/°F, 95 %", "working figure: it feeds by the head, so that subcooling rises on a cool day and falls on a hot one (flow goes with the root of the pressure across it)")
ORIFICE_REPEAT = Constant("what a fixed orifice adds to how its lines scatter from visit to visit", 4.5, "°F, 95 %", "CP: superheat and subcooling go with weather and load behind a fixed orifice, by the charging formula within ±5 °F at best")
USUAL_DROP_REPEAT = Constant("a part's drop at one airflow from visit to visit", 0.15, "ln, 95 %", "CP: statics within 10 % of the baseline, and the airflow's own error")
LIQUID_DROP_USUAL = Constant("drop along a sound liquid line", 0.5, "°F", "working figure: CP calls more than 3 a restriction; a bare line loses a little")
LIQUID_DROP_SPREAD = Constant("spread of that drop", 1.8, "°F, 95 %", "working figure: hot attic or cool basement on the way")
LIQUID_DROP_REPEAT = Constant("that drop from visit to visit", 1.0, "°F, 95 %", "working figure")
CONDENSING_IN_THIN_AIR = Constant("condensing over outdoor air as the air thins", 0.5, "power of sea level's air pressure over the house's", "energy balance: a fan moves the same volume, so less air, and a coil of the same UA then warms it further; 0.58 for an effectiveness of 0.75 and a steady UA, less as the film thins with the air")
CONDENSER_EFFECTIVENESS = Constant("how far a condenser's air warms from outdoors towards condensing", 0.75, "share", "1 - exp(-NTU) of a coil in which refrigerant condenses; transfer units of 1 to 2 (working figure), which makes 700 CFM a ton of 30 °F over ambient and 970 of 20 °F")
CONDENSER_EFFECTIVENESS_SPREAD = Constant("spread of that", 0.16, "ln, 95 %", "working figure: NTU 1 to 2 is 0.63 to 0.86")
CONDENSING_BY_AIRFLOW = Constant("of how sound condensers of a class differ in condensing, what comes of their airflow", 0.5, "share", "working figure: airflow or coil, as often one as the other")
CONDENSER_RISE_REPEAT = Constant("condenser air rise of one sound unit from visit to visit", 0.15, "ln, 95 %", "working figure: leaving air is uneven")
LEG_VOLTS = Constant("volts of a leg to ground where they were not read", 120.0, "V", "split-phase supply, 120/240 V (CP)")
NO_TARGET_SUPERHEAT = Constant("superheat behind a fixed orifice in weather with no target", 5.0, "°F", "CP: no target below about 5 °F, so it is about there or under")
NO_VOLTS_SPREAD = Constant("watts from amps where volts were not read", 0.08, "share, 95 %", "power factor 5 % and supply voltage 5 %, in quadrature, rounded up (MEM)")
WATTS_PER_OUTDOOR_F = Constant("compressor watts with outdoor air", 0.012, "share per °F", "MEM: some 12 % for 10 °F, as the published curves have it near rating")
RETURN_GAIN_USUAL = Constant("gain from grille to unit", 0.8, "°F", "working figure: a sound return")
RETURN_GAIN_SPREAD = Constant("spread of that gain", 2.0, "°F, 95 %", "working figure")
SUPPLY_GAIN_USUAL = Constant("gain from plenum to register", 1.3, "°F", "working figure: CP allows 3 to 4")
SUPPLY_GAIN_SPREAD = Constant("spread of that gain", 2.5, "°F, 95 %", "so that CP's 3 to 4 °F is its upper end")
DRY_COIL_UNDER_LEAVING = Constant("surface of a dry coil under the air leaving it", 4.0, "°F", "working figure: bypass factor near 0.15 and a split near 20 °F")
EVAPORATING_UNDER_APPARATUS = Constant("evaporating below the apparatus dew point", 10.5, "°F", "so that the rating point, whose apparatus dew point is 55.6 °F, gives return less 35 °F, as EVAPORATOR_DIFFERENCE has it")
COMPRESSOR_EFFICIENCY = Constant("isentropic efficiency of a sound compressor, over all of its input", 0.70, "share", "MEM: scrolls and reciprocating compressors of this size reach 0.65 to 0.75 near their rating")
COMPRESSOR_EFFICIENCY_SPREAD = Constant("spread of that efficiency", 0.07, "share, 95 %", "MEM: as above, and what weather moves it")
COMPRESSOR_SHELL_LOSS = Constant("share of a compressor's input that leaves by its shell", 0.05, "share", "MEM: a few percent outdoors")
DISCHARGE_LOSS = Constant("what a clamp near the compressor reads under the vapor that leaves it", 4.0, "°F", "working figure: contact and the line's own loss on a hot line")
DISCHARGE_LOSS_SPREAD = Constant("spread of that", 6.0, "°F, 95 %", "working figure: how near and how well it is clamped and covered")
DISCHARGE_REPEAT = Constant("the same sound unit's discharge line from visit to visit, corrected for weather", 8.0, "°F, 95 %", "working figure: the clamp's place, and superheat within ±5 °F")
DISCHARGE_LIMIT = Constant("discharge line at which the oil begins to break down", 225.0, "°F", "CP, MEM: measured on the line near the compressor; the valves are some 50 °F hotter")
EVAPORATING_SPREAD = Constant("spread of the evaporating temperature of sound units within a class", 3.5, "°F, 95 %", "working figure: two thirds of the 6 °F that the classes span")
EVAPORATING_SPREAD_OF_ANY = Constant("that spread where the plate names no class", 5.5, "°F, 95 %", "working figure: the span of the classes as well")
TXV_SUPERHEAT_AT_COIL = Constant("superheat a TXV holds at the coil", 10.0, "°F", "CP: 8 to 12 at the coil")
TXV_SUPERHEAT_SPREAD = Constant("spread of that superheat", 3.0, "°F, 95 %", "working figure: half as much again as the 8 to 12 °F")
SUPERHEAT_SPREAD = Constant("spread of that superheat", 5.0, "°F, 95 %", "ANSI/ACCA 5 QI: ±5 °F (MEM)")
STAND_IN_SUBCOOLING_SPREAD = Constant("spread of subcooling about the stand-in target", 6.0, "°F, 95 %", "CP: subcooling that no plate names, and behind a fixed orifice, stands between some 5 and 15 °F")
SUBCOOLING_SPREAD = Constant("spread of subcooling about its target", 3.0, "°F, 95 %", "ANSI/ACCA 5 QI: ±3 °F (MEM)")
SUCTION_RISE_USUAL = Constant("rise along an insulated suction line", 3.0, "°F", "CP: a few degrees")
EER_BY_SEER, EER_BY_SEER_SQUARED = (
    Constant("EER at the rating point: this times the seasonal rating", 1.12, "", "Building America house simulation protocols, EER = 1.12 SEER - 0.02 SEER2 (MEM)"),
    Constant("less this times its square", 0.02, "", "as above"),
)
WINTER_HUMIDITY_RATIO = Constant("house air's humidity in heating", 0.006, "lb/lb", "working figure: it moves the air's specific heat by a third of a percent at most")
NO_CLASS_WIDER = Constant("spread of condensing over ambient where the plate names no class", 2.0, "times", "CP: the classes are 5 °F apart, four of them")
USUAL_SEER = Constant("seasonal rating where the plate is silent", 13.0, "", "CP: the commonest in service")
OUTDOOR_FAN_W_PER_TON = Constant("outdoor fan", 80.0, "W/ton", "MEM: 60 to 100")
COMPRESSOR_WATTS_SPREAD = Constant("spread of compressor watts of sound units of one rating", 0.35, "ln, 95 %", "working figure: rating classes are coarse")
DRAWN_OF_RATED_AMPS = Constant("amps drawn at the rating point over the plate's rated-load amps", 0.72, "", "CP: sound compressors draw 60 to 85 % of them on a hot day; rated-load amps are the most they may draw without tripping, divided by 1.4 to 1.56 (UL, MEM)")
DRAWN_OF_RATED_AMPS_SPREAD = Constant("spread of that share", 0.28, "ln, 95 %", "working figure: 0.54 to 0.95, from maker to maker")
PLATE_VOLTS = Constant("volts that rated-load amps are stated for", 230.0, "V", "CP: single-phase plates of 208/230 V")
DRAW_PER_CONDENSING_F = Constant("compressor watts for each °F that it condenses higher", 0.012, "ln/°F", "as in engine.diagnosis.water_causes: the head over the suction, at a steady flow")

NO_RATING_WIDER = Constant("that spread where the plate names no rating", 1.6, "times", "working figure")

SHADE_MINUTES = Constant("an outdoor probe moved into the shade, until it is steady", 3.0, "min", "CP: 2 to 3 minutes in the stream")
DRY_COIL_MINUTES = Constant("a washed condenser until it is dry", 20.0, "min", "working figure: fan running, a warm day")
THAW_MINUTES = Constant("a coil iced through until it is clear", 60.0, "min", "working figure: compressor off, blower on, 30 to 90 minutes")
THAW_LINE_MINUTES = Constant("a frosted suction line until it is clear", 30.0, "min", "working figure: compressor off, blower on")
DEFROST_MINUTES = Constant("a defrost, and running on until it is steady", 20.0, "min", "working figure: defrost under 10 minutes, then 10 more")

# -- time on site ------------------------------------------------------------------------------------------------------
REREAD_MINUTES = Constant("walking the places a second time", 8.0, "min", "working figure: inside and outside walk at under a minute a place")

# -- gauges -------------------------------------------------------------------------------------------------------------
GAUGE_SHARE = Constant("digital refrigerant gauge, share of reading", 0.01, "share, 95 %", "MEM")
GAUGE_FLOOR = Constant("digital refrigerant gauge, floor", 0.5, "psi, 95 %", "MEM")
DUCT_CARRY_SPREAD = Constant("airflow a duct carries by its size and friction rate", 0.15, "share, 95 %", "working figure: fittings, roughness, hanging")
# -- sections: what their readings are worth ----------------------------------------------------------------------------
ELECTRICAL_ACCURACY = Constant("all electrical heat of a unit", 0.06, "share, 95 %", "clamp amps 2 %, volts 1 % and an assumed power factor 5 %, in quadrature (MEM)")
WATER_FLOW_ACCURACY = Constant("water flow from a meter or an exchanger table", 0.05, "share, 95 %", "working figure")
IN_RANGE_OF_SPREAD = Constant("what is in range where only the scatter of sound machines says so", 1.31, "of their 95 %", "the normal distribution: 2.576 over 1.960")
HEATING_RATED_SPREAD = Constant("rated heating of sound heat pumps over nominal tons", 0.15, "share, 95 %", "working figure: rated heating at 47 °F is 0.9 to 1.15 of rated cooling (MEM); the plate names the cooling")
HEATING_WEATHER_SPREAD = Constant("share of what the heating curve moves from its rating point that sound heat pumps differ by", 0.35, "share, 95 %", "working figure: 17 °F over 47 °F is 0.55 to 0.75 in published tables (MEM); frost is not modelled")
HEATING_PLATE_SPREAD = Constant("heating of sound heat pumps about their own rated heating", 0.06, "share, 95 %", "rating tolerance 5 % (ANSI/AHRI 210/240, MEM) and rounding")
HEATING_TWO_POINTS_SPREAD = Constant("share of what the heating curve moves that they differ by where both ratings are named", 0.15, "share, 95 %", "working figure: frost and the shape between two points")
HEATING_COIL_NTU = Constant("transfer units of an indoor coil that condenses, at 400 CFM/ton", 2.0, "", "condensing some 30 °F over return at 47 °F outdoors, with 26 °F through the coil: 1 - exp(-2) = 0.865; the hot gas end is in it")
HEATING_COIL_SPREAD = Constant("condensing over return air for a rise, one sound indoor coil beside another", 0.12, "share, 95 %", "working figure: transfer units of 1.5 to 3 are an effectiveness of 0.78 to 0.95")
HEATING_SUBCOOLING = Constant("subcooling of a sound heat pump in heating", 17.0, "°F", "working figure: with it the liquid line stands in the band of 3 to 17 °F that circulates (CP) in ordinary heating weather")
HEATING_SUBCOOLING_SPREAD = Constant("spread of that subcooling", 8.0, "°F, 95 %", "working figure: the band that circulates is 14 °F wide (CP), and most of it is charge and compensators")
HEATING_RATING_OUTDOOR = Constant("outdoor air of the heating rating, for which a heat pump's heating device is sized", 47.0, "°F", "ANSI/AHRI 210/240 (MEM)")
PISTON_SUPERHEAT = Constant("superheat at the compressor in heating behind a fixed piston, in the weather it is right for", 8.0, "°F", "CP: 5 to 12")
HEATING_EVAPORATING_SPREAD = Constant("spread of evaporating in heating within a class", 3.5, "°F, 95 %", "working figure: coils of any class boil 12 to 20 °F under the air, which is 4 about the middle; the class explains 2.5 of it, and frost adds 1.5")
SUPERHEAT_IN_HEATING_SPREAD = Constant("spread of superheat at the compressor in heating", 3.5, "°F, 95 %", "CP: 5 to 12")
MOST_SUPERHEAT_IN_HEATING = Constant("the most superheat of a sound heat pump in heating", 15.0, "°F", "vapor gets no warmer than the air over the coil, which boils 12 to 20 °F under it (working figure)")
TXV_SUPERHEAT_PER_F = Constant("superheat behind a TXV in heating with the outdoor air", 0.1, "°F/°F", "a TXV opens with its superheat beyond the static one (some two fifths of it), and what it feeds falls by 1.5 to 2 % for each °F (vapor's density): three fifths of 10 °F times that")
BULB_BEFORE_REVERSING_VALVE = Constant("how often a TXV's bulb sits before the reversing valve, so that what this takes off the dew point is superheat at the compressor", 0.5, "share", "working figure: built both ways")
PISTON_RIGHT_AT_SPREAD = Constant("spread of the outdoor air at which a fixed heating piston gives its superheat, about the rating's", 8.0, "°F, 95 %", "working figure")
PISTON_SUPERHEAT_PER_F = Constant("superheat behind a fixed piston with the air that feeds the evaporator", 1.2, "°F/°F", "between 1, as the suction thins by 2 % for each °F, and the charging formula's 1.5 for each °F of return wet bulb (CP)")
PISTON_SUBCOOLING_PER_F = Constant("subcooling before a fixed heating piston with outdoor air under that, down to none", 1.0, "°F/°F", "working figure: the compressor pumps some 1.7 % less for each °F of outdoor air; the falling head takes a third of that, and each °F of subcooling some 1 % of what a choked piston passes")
BLED_COOLS = Constant("what liquid that an accumulator lets by takes off the discharge, where it holds some", 8.0, "°F", "working figure: a hole for the oil lets 2 to 3 % of the flow by, and each percent takes some 3 °F")
BLED_COOLS_SPREAD = Constant("spread of that", 8.0, "°F, 95 %", "working figure: from none to twice as much")
READS_WARM_BY = Constant("how far an outdoor probe that is wrong may read warm, over which what goes with it is taken in heating", 10.0, "°F", "working figure: sun or the unit's own air, 5 to 20 °F; a piston's lines bend within it")
REVERSING_VALVE_GAIN = Constant("what the reversing valve may warm the suction by", 3.0, "°F", "MEM: allow 3 °F; else no suction is warmer than the outdoor air that feeds the coil")
REVERSING_VALVE_DROP = Constant("what the reversing valve takes off the suction's dew point in heating", 2.0, "°F", "MEM: sized for 2 to 3 psi of suction drop; 1 psi is 0.6 °F of the dew point of R-410A at 20 °F and 0.9 °F of that of R-22 (tables of engine/data)")
REVERSING_VALVE_DROP_SPREAD = Constant("spread of that", 1.5, "°F, 95 %", "working figure: valves are made in few sizes, and R-22's dew point moves more")
SUCTION_UNDER_AIR = Constant("suction at the compressor so far under the outdoor air, where that is too warm for a heating test", 25.0, "°F", "working figure: coils evaporate 12 to 20 °F under the air, and superheat takes some of that back; a coil in air over 50 °F does not ice")
TRUE_SUCTION_REPEAT = Constant("the same unit's true suction from visit to visit, corrected for weather", 3.0, "°F, 95 %", "CP: lines are followed within 2 to 3 °F")
ORIFICE_SPREAD_IN_HEATING = Constant("what a fixed heating piston adds to how its lines scatter from visit to visit", 6.0, "°F, 95 %", "working figure: it is right at one outdoor temperature and fills the accumulator below it")
ERROR_BETWEEN_ROUNDS = Constant("how much of a reading's error is new in the next round with the same instrument", 0.5, "share", "working figure: the offset stays, the repeatability and the place of the probe do not")
DUCT_PAIR_REPEAT = Constant("what a duct gains or loses from visit to visit", 1.3, "°F, 95 %", "working figure: the space it runs through changes by tens of °F")
HEATING_RISE_PER_F = Constant("rise with outdoor air, one sound heat pump beside another", 0.004, "share/°F, 95 %", "working figure: 17 °F over 47 °F is 0.55 to 0.75 in published tables (MEM), half of that over 30 °F")
HEATING_APPROACH_PER_F = Constant("liquid over return with outdoor air, likewise", 0.2, "°F/°F, 95 %", "working figure: subcooling moves by some 6 °F over 30 °F, by the compensator")
TRUE_SUCTION_PER_F = Constant("true suction with outdoor air, likewise", 0.12, "°F/°F, 95 %", "working figure: superheat moves by 3 to 4 °F over 30 °F")
HEATING_WATTS_AT_47_SPREAD = Constant("spread of the compressor's watts in heating at 70 and 47 °F over those in cooling at its rating", 0.08, "ln, 95 %", "working figure: between makers' tables 0.83 to 0.97 (MEM)")
HEATING_WATTS_PER_F = Constant("draw with outdoor air, likewise", 0.006, "ln/°F, 95 %", "working figure: compressors differ in how their draw falls with the suction")
ORIFICE_WEATHER_WIDER = Constant("its lines likewise with a fixed heating piston", 3.0, "times", "working figure: it starves above and floods below the weather it is right for")
WATER_GPM_PER_TON = Constant("usual water flow of a closed loop", 3.0, "GPM/ton", "CP: 2.5 to 3")
WATER_FLOW_SPREAD = Constant("water flow of sound units about the usual", 0.35, "ln, 95 %", "CP: 2.25 to 3.5 GPM/ton")
OPEN_WELL_GPM_PER_TON = Constant("usual water flow of an open well", 1.5, "GPM/ton", "CP: an open well runs at about half a closed loop's flow")
LOOP_UNKNOWN_FLOW_SPREAD = Constant("water flow where the kind of loop is not known", 0.45, "ln, 95 %", "CP: from an open well's 1.5 to a closed loop's 3.5 GPM/ton")
DESIGN_FLOW_SPREAD = Constant("water flow of sound units about the plate's design flow", 0.15, "ln, 95 %", "working figure: pumps come in steps")
RATED_WATER_COOLING, RATED_WATER_HEATING = (
    Constant("entering water at the cooling rating of a ground loop", 77.0, "°F", "ISO 13256-1 (MEM)"),
    Constant("entering water at the heating rating of a ground loop", 32.0, "°F", "ISO 13256-1 (MEM)"),
)
REJECTED_PER_WATER_F = Constant("heat of rejection with entering water", -0.003, "ln/°F", "MEM: makers' tables fall by some 0.3 % for each °F")
EXTRACTED_PER_WATER_F = Constant("heat of extraction with entering water", 0.015, "ln/°F", "suction density goes with some 2 % for each °F of evaporating, which follows the water by about three quarters")
EXTRACTION_RISES_BY = Constant("what a table of extraction rises by at least, and one of rejection less", 0.003, "share/°F", "rejection falls by some 0.3 % for each °F (MEM) and through an orifice may rise by 0.2 %; extraction rises by 1 to 1.5 %, through an orifice by half of that (working figures)")
HEAT_MOVED_PER_WATER_F = Constant("how far either may be off for each °F from the rating's entering water", 0.004, "ln/°F, 95 %", "working figure: a third of extraction's own")
ANTIFREEZE_UNKNOWN = Constant("heat a gallon of unknown antifreeze carries about the pocket 485", 0.04, "share, 95 %", "working figure: 10 to 30 % of glycol or methanol")
HEAT_MOVED_PER_FLOW = Constant("heat moved with water flow", 0.08, "ln/ln", "energy balance: at half the flow the water's difference doubles, and the coil's few °F cost some 5 %")
TABLE_CARRIED_ON_DOUBT = Constant("what a table's trend carried on beyond its edge may be off by", 0.5, "of what it adds, 95 %", "working figure")
WATER_WATTS_SPREAD = Constant("compressor watts of sound ground-source units of one rating", 0.25, "ln, 95 %", "working figure: the rating counts blower and pump in its own way")
COOLING_WATTS_PER_WATER_F = Constant("compressor watts in cooling with entering water", 0.013, "ln/°F", "condensing follows the water; watts go with some 1.2 % for each °F of condensing (as for outdoor air)")
HEATING_WATTS_PER_WATER_F = Constant("compressor watts in heating with entering water", 0.005, "ln/°F", "MEM: makers' tables rise by some 10 % for 20 °F")
WATTS_PER_WATER_F_DOUBT = Constant("how far either may be off for each °F from the rating's entering water", 0.005, "ln/°F, 95 %", "working figure: two fifths of cooling's")
USUAL_WATER_EER = Constant("EER of a ground-source unit whose plate is silent", 16.0, "", "MEM: 13 to 20 in service")
WATER_FLOW_REPEAT = Constant("the same unit's water flow from visit to visit, the pump unchanged", 0.05, "ln, 95 %", "working figure: strainer between cleanings")
HEAT_MOVED_REPEAT = Constant("the same unit's heat moved from visit to visit", 0.06, "share, 95 %", "working figure: entering water is followed by the table, or not")
EXTRACTED_SPREAD = Constant("heat of extraction where no table of the unit is at hand", 0.16, "share, 95 %", "working figure: as rejection, and the plate names no efficiency in heating")
REJECTED_SPREAD = Constant("heat of rejection where no table of the unit is at hand", 0.13, "share, 95 %", "working figure: tons are rounded to the half (8 % at 3), 5 % of rating tolerance, and as much that the curve for water and flow leaves out; the EER is followed")
HEAT_MOVED_TABLE_SPREAD = Constant("sound units about their own published table", 0.10, "share, 95 %", "CP: within ±10 %")
EXTRACTED_SHARE = Constant("heat of extraction over nominal tons at the heating rating, without a table", 0.6, "share", "working figure: heating of some 0.8 of nominal tons at 32 °F water, at a COP near 3.5")
CLOSURE_SPREAD = Constant("heat in the air over what water and electricity give", 0.06, "share, 95 %", "working figure: cabinet losses and the pump")
AIR_PAIR_DIFFERENCE = Constant("difference of two air readings with one probe", 0.42, "°F, 95 %", "repeatability of 0.3 °F at each end, in quadrature")
CONDENSER_RISE_ACCURACY = Constant("condenser air rise", 0.6, "°F, 95 %", "one probe at both ends; leaving air is uneven (working figure)")
# fmt: on
