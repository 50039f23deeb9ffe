"""The heat ledger of a round: heat from the house air + electrical heat = heat given out. Closed where the rejected
side is known, else the condenser airflow that the readings imply, and whether that is possible. Cooling.
"""

from dataclasses import dataclass
from math import hypot

from engine.constants import (
    CONDENSER_CFM_PER_TON_HIGH,
    CONDENSER_CFM_PER_TON_LOW,
    CONDENSER_FLOW_ACCURACY,
    CONDENSER_RISE_ACCURACY,
    ELECTRICAL_ACCURACY,
    WATER_PROBE_PAIR_ACCURACY,
)
from engine.errors import EngineError
from engine.physics.capacity.ledger import (
    Entry,
    Ledger,
    Side,
    air_side_rejection_btuh,
    close_ledger,
    implied_condenser_cfm,
)
from engine.readings.measured import Measured, Water
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate
from engine.uncertainty.margin import (
    BORDERLINE,
    IN_RANGE,
    OUT_OF_RANGE,
    SURE_CONTRADICTION,
    below_probability,
    state_of,
)
from engine.units import BTUH_PER_W


@dataclass(frozen=True)
class HeatLedger:
    """Sensible, latent and electrical heat taken in [BTU/h], with the 95 % of their sum.

    closed: the balance, where the rejected side is known; given: that side. implied_cfm: of the condenser, where it is
    not, with the band that can be [CFM] and what that makes of the given side [BTU/h]. state: of the gap, or of the
    implied airflow; open: it cannot be, a reading is wrong.
    """

    sensible_btuh: float
    latent_btuh: float
    electrical_btuh: float
    taken: Estimate
    closed: Ledger | None = None
    given: Estimate | None = None
    implied_cfm: Estimate | None = None
    band_cfm: tuple[float, float] | None = None
    state: str = ""

    @property
    def open(self) -> bool:
        """Whether the readings cannot all be true."""
        return self.state == OUT_OF_RANGE

    @property
    def given_band_btuh(self) -> tuple[float, float] | None:
        """Least and most heat that the condenser's air can carry at the rise that was read."""
        if self.implied_cfm is None or self.band_cfm is None:
            return None
        per_cfm = self.taken.value / self.implied_cfm.value
        return self.band_cfm[0] * per_cfm, self.band_cfm[1] * per_cfm


def heat_ledger(m: Measured) -> HeatLedger | None:
    """The ledger, or None until the air side and the electrical heat are known."""
    cooling, watts = m["total_less_condensate_btuh"], m.electrical_w
    if m.round.mode != "cooling" or m.airflows.assumed or watts is None or not cooling.known:
        return None
    ground = m.round.equipment.kind == GROUND_SOURCE
    fan = m.loads.get("outdoor_fan")
    fan_w = 0.0 if ground or fan is None else fan.watts
    electrical, u95 = (watts + fan_w) * BTUH_PER_W, ELECTRICAL_ACCURACY.value * (watts + fan_w) * BTUH_PER_W
    sensible = m["sensible_btuh"].value
    base = HeatLedger(
        sensible,
        cooling.value - sensible,
        electrical,
        Estimate(cooling.value + electrical, hypot(cooling.u95, u95), "BTU/h"),
    )
    entries = [
        Entry("air_side_capacity", cooling.value, cooling.u95, "BTU/h"),
        Entry("electrical_power", watts, m.electrical_u95_w, "W"),
    ]
    return (_by_water if ground else _by_condenser)(m, base, entries, fan_w)


def _closed(base: HeatLedger, entries: list[Entry], fan_w: float, given: Side) -> HeatLedger:
    closed = close_ledger(
        entries, lambda v: v["air_side_capacity"], lambda v: (v["electrical_power"] + fan_w) * BTUH_PER_W, given
    )
    own = [e for e in entries if e.name not in ("air_side_capacity", "electrical_power")]
    spread = hypot(*(e.u95 / e.value for e in own)) * abs(closed.given_btuh)
    short = below_probability(0.0, closed.gap_btuh, closed.u95_btuh)
    cannot_be = max(short, 1.0 - short) >= SURE_CONTRADICTION
    return HeatLedger(
        base.sensible_btuh,
        base.latent_btuh,
        base.electrical_btuh,
        base.taken,
        closed,
        Estimate(closed.given_btuh, spread, "BTU/h"),
        state=IN_RANGE if closed.closes else OUT_OF_RANGE if cannot_be else BORDERLINE,
    )


def _by_water(m: Measured, base: HeatLedger, entries: list[Entry], fan_w: float) -> HeatLedger:
    water = m.water
    if not isinstance(water, Water):
        return base
    factor = water.heat.value / (water.flow.value * water.difference_f)
    entries += [
        Entry("water_flow", water.flow.value, water.flow.u95, "GPM"),
        Entry("water_difference", water.difference_f, WATER_PROBE_PAIR_ACCURACY.value, "°F"),
    ]
    return _closed(base, entries, fan_w, lambda v: v["water_flow"] * factor * v["water_difference"])


def _by_condenser(m: Measured, base: HeatLedger, entries: list[Entry], fan_w: float) -> HeatLedger:
    entering, leaving = m.round.value("outdoor", "dry_bulb"), m.round.value("condenser_air_out", "dry_bulb")
    if entering is None or leaving is None:
        return base
    rise, known = leaving - entering, m.round.value("condenser_air", "airflow")
    try:
        if known is not None and rise > 0:
            per = air_side_rejection_btuh(1.0, entering, leaving, m.round.pressure_psia) / rise
            entries += [
                Entry("condenser_airflow", known, CONDENSER_FLOW_ACCURACY.value * known, "CFM"),
                Entry("condenser_rise", rise, CONDENSER_RISE_ACCURACY.value, "°F"),
            ]
            return _closed(base, entries, fan_w, lambda v: v["condenser_airflow"] * per * v["condenser_rise"])
        cfm = implied_condenser_cfm(base.taken.value, entering, leaving, m.round.pressure_psia)
    except EngineError:
        return base
    if not cfm > 0:
        return base
    u95 = cfm * hypot(base.taken.u95 / base.taken.value, CONDENSER_RISE_ACCURACY.value / rise)
    tons = m.round.equipment.nominal_tons
    band = (CONDENSER_CFM_PER_TON_LOW.value * tons, CONDENSER_CFM_PER_TON_HIGH.value * tons)
    return HeatLedger(
        base.sensible_btuh,
        base.latent_btuh,
        base.electrical_btuh,
        base.taken,
        implied_cfm=Estimate(cfm, u95, "CFM"),
        band_cfm=band,
        state=state_of(cfm, u95, *band),
    )
