"""What is at every place of the walk: the plant's door, where SI becomes the trade's units. True values first;
noise is put on by whoever reads.
"""

from dataclasses import dataclass, replace
from functools import lru_cache

from engine.units import c_from_f, f_from_c
from plant.air import Air, Atmosphere, atmosphere
from plant.duct import M3S_PER_CFM, PA_PER_INWC
from plant.faults import FAULTS, House, amount_of, with_faults
from plant.fluid import KPA_PER_PSI, fluid
from plant.machine import Machine, Spec
from plant.sizing import RATED_HEATING_WATER_F, RATED_WATER_F, machine
from plant.steady import Conditions, State, solve

BTUH_PER_KW, VOLTS_TO_GROUND, POWER_FACTOR = 3412.142, 120.0, 0.95
GPM_PER_LS = 15.850323


@dataclass(frozen=True)
class Weather:
    """A house's air and the weather, as people say them: °F, %RH, ft. frost: share of the outdoor coil's air that it
    keeps out in heating.
    """

    inside_f: float = 78.0
    inside_rh: float = 50.0
    outside_f: float = 95.0
    outside_rh: float = 40.0
    attic_f: float = 115.0
    altitude_ft: float = 0.0
    heating: bool = False
    water_f: float = 60.0
    frost: float = 0.0


@dataclass(frozen=True)
class Run:
    """A machine at work: its state, the true values by (place, quantity) in the engine's units, and what it delivers
    [BTU/h net], [CFM], [W].
    """

    state: State
    values: dict[tuple[str, str], float]
    net_btuh: float
    cfm: float
    watts: float
    superheat_f: float
    subcooling_f: float
    evaporating_f: float
    condensing_f: float


ORDINARY_HOUSE = House()


def run(
    m: Machine,
    weather: Weather,
    house: House = ORDINARY_HOUSE,
    start: tuple[float, float, float, float] | None = None,
) -> Run:
    """A machine in a house and weather, settled. Raises NotConverged or another EngineError."""
    at = atmosphere(weather.altitude_ft)
    room, outdoor = (
        at.of_rh(c_from_f(weather.inside_f), weather.inside_rh),
        at.of_rh(c_from_f(weather.outside_f), weather.outside_rh),
    )
    attic = Air(c_from_f(weather.attic_f), outdoor.w)
    mixed = room.mixed(attic, house.return_leak)
    entering = mixed.warmed(house.return_gain * (attic.t - mixed.t))
    met = Conditions(entering, outdoor, weather.altitude_ft, weather.heating, c_from_f(weather.water_f), weather.frost)
    state = solve(m, met, start)
    heat_kw = state.blower_w / 1000.0 + m.strips_kw
    plenum = state.leaving.warmed(heat_kw / (state.air_kgs * state.leaving.cp))
    register = plenum.warmed(house.supply_gain * (attic.t - plenum.t) + house.reheat_k)
    values = _air_values(
        at,
        {
            "return_grille": room,
            "return_unit": entering,
            "supply_plenum": plenum,
            "supply_register": register,
            "attic": attic,
        },
    )
    values |= _other_values(at, m, state, weather, outdoor)
    for place, wrong_f in house.probes.items():
        for key in [k for k in values if k[0] == place and k[1] in ("dry_bulb", "temperature")]:
            values[key] += wrong_f
    sign = -1.0 if weather.heating else 1.0
    te, tc, superheat, subcooling = state.unknowns
    return Run(
        state,
        values,
        (state.coil_kw - sign * state.blower_w / 1000.0) * BTUH_PER_KW,
        state.airflow_m3s / M3S_PER_CFM,
        1000.0 * (state.compressor_kw + m.outdoor_fan_kw + m.strips_kw) + state.blower_w,
        1.8 * superheat,
        1.8 * subcooling,
        f_from_c(te),
        f_from_c(tc),
    )


def _air_values(at: Atmosphere, places: dict[str, Air]) -> dict[tuple[str, str], float]:
    found = {}
    for place, air in places.items():
        found[place, "dry_bulb"], found[place, "rh"] = f_from_c(air.t), at.rh_pct(air)
    return found


def _other_values(at: Atmosphere, m: Machine, s: State, weather: Weather, outdoor: Air) -> dict[tuple[str, str], float]:
    f, (te, tc, _, _) = fluid(m.spec.refrigerant), s.unknowns
    amps = 1000.0 * s.compressor_kw / (2 * VOLTS_TO_GROUND * POWER_FACTOR)
    drops = {name: pa / PA_PER_INWC for name, pa in s.statics_pa.items()}
    coil_is_external = m.spec.unit == "furnace_with_cased_coil"
    found = {
        ("outdoor", "dry_bulb"): f_from_c(outdoor.t),
        ("return_plenum", "static_pressure"): -(drops["return"] + drops["filter"]),
        ("supply_plenum", "static_pressure"): drops["supply"] + (drops["coil"] if coil_is_external else 0.0),
        ("filter", "pressure_drop"): drops["filter"],
        ("coil", "pressure_drop"): drops["coil"],
        ("blower", "power"): s.blower_w,
        ("blower", "airflow"): s.airflow_m3s / M3S_PER_CFM,
        ("compressor", "voltage"): VOLTS_TO_GROUND,
        ("compressor", "current"): amps,
        ("compressor", "power_factor"): POWER_FACTOR,
        ("compressor", "power"): 1000.0 * s.compressor_kw,
        ("gauge_suction", "pressure"): f.dew_kpa(te) / KPA_PER_PSI - at.psia,
        ("gauge_liquid", "pressure"): (f.dew_kpa(tc) + m.non_condensable_kpa) / KPA_PER_PSI - at.psia,
        ("discharge_line", "temperature"): f_from_c(s.discharge_c),
    }
    # Along the liquid line, from the coil that condenses to the metering device.
    before, after = (f_from_c(s.liquid_c), f_from_c(s.valve_liquid_c))
    if m.restricted_outdoors and not weather.heating:
        before = after
        found["gauge_liquid", "pressure"] -= m.restriction_kpa / KPA_PER_PSI
    indoors = {("liquid_line_indoor", "temperature"): before if weather.heating else after}
    if not weather.heating:
        indoors["suction_line_indoor", "temperature"] = f_from_c(s.coil_outlet_c)
    if m.water_ls:
        return found | indoors | _water_values(m, s, weather)
    found |= indoors
    found["outdoor_fan", "power"] = 1000.0 * m.outdoor_fan_kw
    if weather.heating:
        return found | {
            ("liquid_line_outdoor", "temperature"): after,
            ("true_suction", "temperature"): f_from_c(s.suction_c),
        }
    return found | {
        ("liquid_line_outdoor", "temperature"): before,
        ("suction_line_outdoor", "temperature"): f_from_c(s.suction_c),
        ("condenser_air_out", "dry_bulb"): f_from_c(s.outdoor_leaving_c),
    }


def _water_values(m: Machine, s: State, weather: Weather) -> dict[tuple[str, str], float]:
    """The loop: it takes the heat of rejection, or gives the heat of extraction. The drop goes with about the 1.8 power
    of the flow (turbulent flow, memory).
    """
    return {
        ("water_in", "temperature"): weather.water_f,
        ("water_out", "temperature"): f_from_c(s.outdoor_leaving_c),
        ("water_loop", "flow"): m.water_ls * GPM_PER_LS,
        ("water_loop", "water_drop"): m.water_psi * (m.water_ls / m.water_psi_ls) ** 1.8,
    }


@lru_cache(maxsize=512)
def severe_amount(spec: Spec, fault_id: str, severity: str, heating: bool = False) -> float:
    """How much of a fault is slight, moderate or severe on this machine: by its capacity at 95 °F with 80/67 °F inside,
    or at 47 °F with 70 °F.
    """
    sound = machine(spec)
    nearby: dict[float, tuple[float, float, float, float]] = {}  # solutions by amount: where the next begins
    heats = heating and not FAULTS[fault_id].at_cooling
    rated = (
        Weather(70.0, 40.0, 47.0, 73.0, 47.0, heating=True, water_f=RATED_HEATING_WATER_F)
        if heats
        else Weather(80.0, 51.1, 95.0, water_f=RATED_WATER_F)
    )

    def capacity(amount: float) -> float:
        changed, house = with_faults(sound, House(return_gain=0.0), {fault_id: amount})
        start = nearby.get(min(nearby, key=lambda tried: abs(tried - amount), default=0.0))
        found = run(changed, rated, replace(house, return_leak=0.0), start)
        nearby[amount] = found.state.unknowns
        return found.net_btuh

    return amount_of(fault_id, severity, capacity)


def faulty(spec: Spec, faults: dict[str, str], weather: Weather) -> Run:
    """A machine of a spec with faults by severity ({'undercharge': 'moderate'}), settled in the weather."""
    unknown = set(faults) - set(FAULTS)
    if unknown:
        raise KeyError(f"no such fault: {', '.join(sorted(unknown))}")
    changed, house = with_faults(
        machine(spec),
        House(),
        {name: severe_amount(spec, name, severity, weather.heating) for name, severity in faults.items()},
    )
    return run(changed, weather, house)
