"""What can be wrong, each as a change to the machine or the house around it, by an amount from 0 (sound) to 1 (about as
bad as it runs).

Severity is stated by what it costs: slight about 5 %, moderate 12 %, severe 25 % of the capacity at 95 °F; where a
fault hardly costs capacity, and for probes, by its amount.
"""

from collections.abc import Callable
from dataclasses import dataclass, field, replace

from plant.air import Air
from plant.machine import Machine
from plant.steady import NotConverged


@dataclass(frozen=True)
class House:
    """The house around a machine: shares of air; attic air. probes: place -> °F that its probe or clamp reads wrong.

    return_gain, supply_gain: how far along towards the attic's temperature the air gets in each duct, so that a duct
    warms in summer and cools in winter.
    """

    return_leak: float = 0.0  # share of the air at the unit that comes from the attic
    return_gain: float = 0.025
    supply_gain: float = 0.019
    reheat_k: float = 0.0  # added between plenum and register
    attic: Air = field(default_factory=lambda: Air(45.0, 0.014))
    probes: dict[str, float] = field(default_factory=dict)


Change = Callable[[Machine, House, float], tuple[Machine, House]]


@dataclass(frozen=True)
class Fault:
    """One fault: permanent id, label, its change, and whether it costs capacity enough to be stated by that.

    at_cooling: stated by the capacity in cooling in every mode, because in heating it trips the machine before it costs
    so much.
    """

    id: str
    label: str
    change: Change
    by_capacity: bool = True
    at_cooling: bool = False


def _ducts(**factors: float) -> Change:
    def change(m: Machine, h: House, a: float) -> tuple[Machine, House]:
        return replace(
            m,
            ducts=replace(
                m.ducts, **{name: getattr(m.ducts, name) * (1 + factor * a) for name, factor in factors.items()}
            ),
        ), h

    return change


def _dirty_evaporator(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    coil = replace(m.indoor, air_side=m.indoor.air_side * (1 - 0.7 * a))
    return replace(m, indoor=coil, ducts=replace(m.ducts, coil_pa=m.ducts.coil_pa * (1 + 25 * a))), h


def _tap(down: float) -> Change:
    def change(m: Machine, h: House, a: float) -> tuple[Machine, House]:
        speed = 1 - down * a
        fan = replace(
            m.fan, free_m3s=m.fan.free_m3s * speed, shut_pa=m.fan.shut_pa * speed**2, holds_m3s=m.fan.holds_m3s * speed
        )
        return replace(m, fan=fan), h

    return change


def _dirty_wheel(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    return replace(
        m, fan=replace(m.fan, shut_pa=m.fan.shut_pa * (1 - 0.9 * a), free_m3s=m.fan.free_m3s * (1 - 0.6 * a))
    ), h


def _charge(share: float) -> Change:
    return lambda m, h, a: (replace(m, charge_kg=m.charge_kg * (1 + share * a)), h)


def _restriction(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    return replace(m, restriction_kpa=1900.0 * a), h


def _starving(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    if m.valve.kind == "fixed_orifice":
        return replace(m, valve=replace(m.valve, area=m.valve.area * (1 - 0.7 * a))), h
    return replace(m, valve=replace(m.valve, widest=1.0 - 0.75 * a)), h


def _overfeeding(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    if m.valve.kind == "fixed_orifice":
        return replace(m, valve=replace(m.valve, area=m.valve.area * (1 + 0.35 * a))), h
    return replace(m, valve=replace(m.valve, set_off=m.valve.set_off - 5.2 * a)), h


def _dirty_condenser(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    coil = replace(m.outdoor, air_side=m.outdoor.air_side * (1 - 0.7 * a))
    return replace(m, outdoor=coil, outdoor_m3s=m.outdoor_m3s * (1 - 0.75 * a)), h


def _weak_fan(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    return replace(m, outdoor_m3s=m.outdoor_m3s * (1 - 0.85 * a)), h


def _non_condensables(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    return replace(m, non_condensable_kpa=600.0 * a), h


def _weak_compressor(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    c = m.compressor
    return replace(
        m, compressor=replace(c, volumetric=c.volumetric * (1 - 0.5 * a), isentropic=c.isentropic * (1 - 0.35 * a))
    ), h


def _strips(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    return replace(m, strips_kw=5.0 * a), h


def _house(**changes: float) -> Change:
    return lambda m, h, a: (m, replace(h, **{name: getattr(h, name) + amount * a for name, amount in changes.items()}))


def _probe(place: str, most_f: float) -> Change:
    return lambda m, h, a: (m, replace(h, probes={**h.probes, place: h.probes.get(place, 0.0) + most_f * a}))


def _low_water(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    return replace(m, water_ls=m.water_ls * (1 - 0.7 * a)), h


def _fouled_exchanger(m: Machine, h: House, a: float) -> tuple[Machine, House]:
    """Scale insulates, and narrows the passage."""
    coil = replace(m.outdoor, air_side=m.outdoor.air_side * (1 - 0.85 * a))
    return replace(m, outdoor=coil, water_psi=m.water_psi * (1 + 1.0 * a)), h


FAULTS = {
    fault.id: fault
    for fault in (
        Fault("blocked_filter", "Filter loaded or blocked", _ducts(filter_pa=150.0), at_cooling=True),
        Fault("dirty_evaporator", "Evaporator dirty", _dirty_evaporator, at_cooling=True),
        Fault("tight_ducts", "Ducts tight, registers closed", _ducts(supply_pa=60.0, return_pa=20.0), at_cooling=True),
        Fault("low_tap", "Blower tap low", _tap(0.78), at_cooling=True),
        Fault("dirty_wheel", "Blower wheel dirty", _dirty_wheel, at_cooling=True),
        Fault("high_airflow", "Airflow high", _tap(-0.45), by_capacity=False),
        Fault("undercharge", "Undercharge", _charge(-0.55)),
        Fault("overcharge", "Overcharge", _charge(0.45), by_capacity=False),
        Fault("restriction", "Liquid line restricted", _restriction),
        Fault("starving_valve", "Metering device starving", _starving),
        Fault("overfeeding", "Metering device overfeeding", _overfeeding, by_capacity=False),
        Fault("dirty_condenser", "Condenser dirty", _dirty_condenser),
        Fault("weak_condenser_fan", "Condenser fan weak, or the wrong blade", _weak_fan),
        Fault("non_condensables", "Non-condensables", _non_condensables, by_capacity=False),
        Fault("weak_compressor", "Compressor weak", _weak_compressor),
        Fault("return_leak", "Return leak from the attic", _house(return_leak=0.35), by_capacity=False),
        Fault("supply_gain", "Hot supply duct run", _house(supply_gain=0.19), by_capacity=False),
        Fault("reheat", "Reheat downstream", _house(reheat_k=8.0), by_capacity=False),
        Fault("strips_on", "Heat on inside the unit", _strips, by_capacity=False),
        Fault("sun_on_outdoor_probe", "Sun on the outdoor probe", _probe("outdoor", 20.0), by_capacity=False),
        Fault("loose_liquid_clamp", "Liquid line clamp loose", _probe("liquid_line_outdoor", -10.0), by_capacity=False),
        Fault(
            "loose_suction_clamp", "Suction line clamp loose", _probe("suction_line_outdoor", 12.0), by_capacity=False
        ),
        Fault("low_water_flow", "Water flow low", _low_water, by_capacity=False),
        Fault("fouled_exchanger", "Water coil fouled", _fouled_exchanger),
    )
}
_OF_WATER = ("low_water_flow", "fouled_exchanger")
_OF_OUTDOOR_AIR = (
    "dirty_condenser", "weak_condenser_fan", "sun_on_outdoor_probe", "loose_liquid_clamp", "loose_suction_clamp",
)  # fmt: skip
# What does not come up in heating: these clamps have other places then.
COOLING_ONLY = ("loose_liquid_clamp", "loose_suction_clamp")


def faults_on(kind: str, heating: bool) -> tuple[str, ...]:
    """The faults that a machine of this kind can have in this mode."""
    not_there = _OF_OUTDOOR_AIR if kind == "ground_source" else _OF_WATER
    return tuple(f for f in FAULTS if f not in not_there and not (heating and f in COOLING_ONLY))


SEVERITIES = {"slight": 0.05, "moderate": 0.12, "severe": 0.25}  # of the capacity at 95 °F
AMOUNTS = {"slight": 0.25, "moderate": 0.55, "severe": 1.0}  # of a fault that is not stated by capacity


def with_faults(m: Machine, h: House, amounts: dict[str, float]) -> tuple[Machine, House]:
    """A machine and its house with several faults at once, each by its amount."""
    for name, amount in amounts.items():
        m, h = FAULTS[name].change(m, h, amount)
    return m, h


def amount_of(fault_id: str, severity: str, capacity_of: Callable[[float], float]) -> float:
    """How much of a fault makes it slight, moderate or severe. capacity_of: the capacity at 95 °F with so much of it;
    the sound one's is capacity_of(0).

    Where even the whole fault costs less than that, the whole fault.
    """
    fault = FAULTS[fault_id]
    if not fault.by_capacity:
        return AMOUNTS[severity]
    sound, low, high = capacity_of(0.0), 0.0, 1.0

    def loss(amount: float) -> float:
        try:
            return 1.0 - capacity_of(amount) / sound
        except NotConverged:
            return 1.0  # further than it runs

    for _ in range(10):
        middle = (low + high) / 2
        low, high = (middle, high) if loss(middle) < SEVERITIES[severity] else (low, middle)
    return 1.0 if high == 1.0 and loss(1.0) <= SEVERITIES[severity] else low  # the whole of it seldom runs: asked last
