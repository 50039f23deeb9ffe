"""The Expected table: what this machine should do with this air today, worked out once for a round from its Measured
table.

The same error sources are carried on through it, so that measured less expected carries their covariance.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import cached_property
from math import isfinite, nan

import numpy as np

from engine.constants import (
    BTUH_PER_TON,
    CAPACITY_MODEL_SPREAD,
    CONDENSING_IN_THIN_AIR,
    CONDENSING_OVER_AMBIENT_SPREAD,
    DRY_COIL_UNDER_LEAVING,
    EVAPORATING_UNDER_APPARATUS,
    EVAPORATOR_DIFFERENCE,
    EVAPORATOR_DIFFERENCE_SPREAD,
    FAN_W_PER_CFM,
    NO_CLASS_WIDER,
    NOMINAL_CFM_PER_TON,
    PUBLISHED_TABLE_SPREAD,
    SENSIBLE_SHARE_AT_RATING,
    WINTER_HUMIDITY_RATIO,
)
from engine.errors import EngineError
from engine.expected import lines, schools
from engine.expected.cooling import Expected as Cooling
from engine.expected.cooling import (
    Machine,
    doubt_beyond,
    expected_cooling,
    out_of_range,
    power_fraction,
    rated_compressor_w,
    too_far,
)
from engine.expected.heating import HEATING_OVER_NOMINAL, ExpectedHeating, RatedHeating, expected_heating
from engine.expected.heating import out_of_range as heating_out_of_range
from engine.expected.split_band import SplitBand, split_band
from engine.physics.air import moist
from engine.physics.air.moist import FREEZING_F
from engine.physics.air.process import apparatus
from engine.physics.capacity.delivered import coil_leaving_f, fan_heat_btuh
from engine.physics.water.exchanger import Grid
from engine.readings.inputs import Setup
from engine.readings.measured import Measured
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.estimate import Estimate, Outside, Predicted, Why, withheld
from engine.uncertainty.propagation import Function, Propagated, carry_on
from engine.units import BTUH_PER_W, Columns, Numbers

_EXPECTED = ("return dry bulb", "return humidity", "outdoor temperature")
_BESIDE = (*_EXPECTED, "supply dry bulb")
# result -> (unit, what it needs)
RESULTS = {
    "expected_total_btuh": ("BTU/h", _EXPECTED),
    "expected_sensible_btuh": ("BTU/h", _EXPECTED),
    "expected_sensible_heat_ratio": ("", _EXPECTED),
    "expected_split_f": ("°F", _EXPECTED),
    "expected_supply_dry_bulb_f": ("°F", _EXPECTED),
    "expected_supply_humidity_ratio": ("lb/lb", _EXPECTED),
    "expected_supply_rh_pct": ("%", _EXPECTED),
    "expected_supply_dew_point_f": ("°F", _EXPECTED),
    "expected_apparatus_dew_point_f": ("°F", _EXPECTED),
    "expected_wet_bulb_used_f": ("°F", _EXPECTED),
    "expected_flow_fraction": ("", _EXPECTED),
    "expected_coil_dry": ("", _EXPECTED),
    "split_minus_expected_f": ("°F", _BESIDE),
    "dew_point_minus_expected_f": ("°F", (*_BESIDE, "supply humidity")),
    "total_minus_expected_btuh": ("BTU/h", (*_BESIDE, "supply humidity")),
}
# Nothing is judged by it, and near saturation it bends: its ± keeps 92.5 to 97 % of a sample of its own all the same
# (100 simulated visits).
SHOWN_ONLY = ("expected_supply_rh_pct",)


def expected_side(setup: Setup) -> Function:
    """The computation for rounds of one setup, from inputs and what engine.readings.air_side made of them."""

    def compute(x: Columns) -> Columns:
        with np.errstate(all="ignore"):
            t_in, w_in, p, fan = x["return_dry_bulb"], x["return_humidity_ratio"], x["pressure"], x["fan_heat_btuh"]
            m = x["mass_flow_lbh"]
            # Without supply humidity the flow at the return plane still serves.
            flow = np.where(np.isnan(m), x["airflow_cfm"] * 60.0 / moist.specific_volume_ft3lb(t_in, w_in, p), m)
            machine = Machine(
                x["nominal_tons"], setup.kind, x["sensible_share"], x["fan_w_per_cfm"], x["capacity_factor"]
            )
            e = _carried_on(machine, (t_in, w_in, x["outdoor"], p, flow, fan, x["return_wet_bulb_f"]))
            off_coil = coil_leaving_f(e.supply_dry_bulb_f, e.supply_humidity_ratio, fan, flow)
            coil = apparatus(t_in, w_in, off_coil, e.supply_humidity_ratio, p)
            dew = moist.dew_point_f(e.supply_humidity_ratio, p)
            dry = off_coil - DRY_COIL_UNDER_LEAVING.value
        return {
            "expected_total_btuh": e.total_btuh,
            "expected_sensible_btuh": e.sensible_btuh,
            "expected_sensible_heat_ratio": e.sensible_heat_ratio,
            "expected_split_f": e.split_f,
            "expected_supply_dry_bulb_f": e.supply_dry_bulb_f,
            "expected_supply_humidity_ratio": e.supply_humidity_ratio,
            "expected_supply_rh_pct": moist.rh_pct(e.supply_dry_bulb_f, e.supply_humidity_ratio, p),
            "expected_supply_dew_point_f": dew,
            "expected_apparatus_dew_point_f": np.where(np.isnan(coil.dew_point_f), dry, coil.dew_point_f),
            "expected_wet_bulb_used_f": e.wet_bulb_used_f,
            "expected_flow_fraction": e.flow_fraction,
            "expected_coil_dry": e.coil_dry.astype(float),
            "split_minus_expected_f": x["split_f"] - e.split_f,
            "dew_point_minus_expected_f": x["supply_dew_point_f"] - dew,
            "total_minus_expected_btuh": x["total_btuh"] - e.total_btuh,
        }

    return compute


def _carried_on(machine: Machine, air: tuple[Numbers, ...]) -> Cooling:
    """Expected cooling of points and rows; in rows that reach beyond the curves, the capacity's error source pushes
    harder. air: as `expected_cooling` takes it.
    """
    e = expected_cooling(machine, *air)
    beyond = doubt_beyond(e.wet_bulb_used_f, air[2], e.flow_fraction)
    rows = np.any(beyond > 0, axis=0)
    if not rows.any():
        return e
    harder = np.hypot(CAPACITY_MODEL_SPREAD.value, beyond) / CAPACITY_MODEL_SPREAD.value
    tons, kind, share, blower, factor = machine
    tons, share, blower, factor = (
        np.asarray(of)[:, rows] for of in (tons, share, blower, 1.0 + (factor - 1.0) * harder)
    )
    again = expected_cooling(Machine(tons, kind, share, blower, factor), *(np.asarray(of)[:, rows] for of in air))
    every = [np.array(values) for values in e]
    for values, anew in zip(every, again, strict=True):
        values[:, rows] = anew
    return Cooling(*every)


# What a residential machine in cooling can evaporate at: a prediction outside is not shown (working figure).
EVAPORATING_RANGE_F = (-20.0, 70.0)
# Dry bulb [°F], humidity ratio [lb/lb], and their 2x2 covariance, 95 % scale.
Region = tuple[float, float, tuple[tuple[float, float], tuple[float, float]]]


@dataclass(frozen=True)
class Expected:
    """What to expect of one round. carried: with the measured results before it.
    split_schools: each school's target.
    """

    measured: Measured
    carried: Propagated
    row: int
    return_air_split_f: float

    def __getitem__(self, name: str) -> Estimate:
        """A result by the names in RESULTS, or why there is none."""
        unit, needs = RESULTS[name]
        value, u95 = float(self.carried.values[name][self.row]), float(self.carried.u95[name][self.row])
        why = self._why_not(needs) or (None if isfinite(value) and isfinite(u95) else Why("cannot_be_computed"))
        return withheld(unit, why) if why else Estimate(value, u95, unit)

    @cached_property
    def results(self) -> dict[str, Estimate]:
        """Every result."""
        return {name: self[name] for name in RESULTS}

    def parts(self, name: str) -> dict[str, float]:
        """What each error source moves a result by, signed, 95 %."""
        return self.carried.pushes(name, self.row)

    def largest(self, name: str) -> str:
        """The error source that matters most to a result, '' when none does."""
        return next(iter(self.carried.shares(name, self.row, most=1)), "")

    def _why_not(self, needs: Sequence[str]) -> Why | None:
        if self.measured.round.equipment.kind == GROUND_SOURCE:
            return Why("no_curves")
        if self.measured.round.mode == "heating":
            return Why("other_mode")
        absent = self.measured.missing_because(needs)
        if absent:
            return absent
        if self.outside:
            return Why("outside", (), self.outside)
        freezes = self.carried.values["expected_apparatus_dew_point_f"][self.row] < FREEZING_F
        return Why("would_freeze") if freezes else None

    @cached_property
    def outside(self) -> tuple[Outside, ...]:
        """What lies so far outside the published curves that nothing is expected by them."""
        return too_far(*self._at)

    @cached_property
    def carried_on(self) -> tuple[Outside, ...]:
        """What lies outside the published curves, where they are carried on with a wider margin."""
        return () if self.outside else out_of_range(*self._at)

    @cached_property
    def _at(self) -> tuple[float, float, float]:
        """Where this round is on the curves: return wet bulb [°F], outdoor air [°F], share of the rated flow."""
        v, row = self.carried.values, self.row
        outdoor = self.measured.round.value("outdoor", "dry_bulb")
        return (
            float(v["expected_wet_bulb_used_f"][row]),
            nan if outdoor is None else outdoor,
            float(v["expected_flow_fraction"][row]),
        )

    @cached_property
    def coil_dry(self) -> bool:
        """Whether the coil is expected to take no moisture."""
        return bool(np.nan_to_num(self.carried.values["expected_coil_dry"][self.row]))

    @cached_property
    def compressor_fraction(self) -> float | None:
        """What a sound compressor draws today over what it draws at its rating, by the curves, in cooling; None where
        they say nothing.
        """
        wet_bulb, flow = self["expected_wet_bulb_used_f"], self["expected_flow_fraction"]
        outdoor = self.measured.round.value("outdoor", "dry_bulb")
        if not (wet_bulb.known and flow.known) or outdoor is None:
            return None
        kind = "air_conditioner" if self.measured.round.equipment.kind == "air_conditioner" else "heat_pump"
        return power_fraction(kind, wet_bulb.value, outdoor, flow.value)

    @cached_property
    def load(self) -> float:
        """The heat a sound unit gives off outdoors today over that at rating, within what the rules are stated for; 1
        where it is not known. On a hot day it takes in less and its compressor adds more, so that it hardly changes.
        """
        total, fraction, plate = self["expected_total_btuh"], self.compressor_fraction, self.measured.round.equipment
        if not total.known or fraction is None:
            return 1.0
        rated = BTUH_PER_TON.value * plate.nominal_tons
        added = BTUH_PER_W * rated_compressor_w(plate.seer, plate.nominal_tons)
        share = (total.value + fraction * added) / (rated + added)
        return min(max(share, lines.LOAD_RANGE[0]), lines.LOAD_RANGE[1])

    @cached_property
    def evaporating(self) -> Predicted | None:
        """Evaporating temperature [°F] in cooling: under the coil's surface where that is known, else the usual under
        the return air.

        None where it cannot be: above the return air, or outside what such a machine runs at.
        """
        surface, returning = (
            self["expected_apparatus_dew_point_f"],
            self.measured.round.value("return_unit", "dry_bulb"),
        )
        if (
            returning is None
            or self.measured.round.mode == "heating"
            or self.measured.round.equipment.kind == GROUND_SOURCE
        ):
            return None
        found = Predicted(
            returning - EVAPORATOR_DIFFERENCE.value, EVAPORATOR_DIFFERENCE_SPREAD.value, "°F", "return_air"
        )
        if surface.known:
            by_class, spread = lines.evaporating_over_usual_f(self.measured.round.equipment.seer)
            u95 = (surface.u95**2 + spread**2) ** 0.5
            found = Predicted(surface.value - EVAPORATING_UNDER_APPARATUS.value + by_class, u95, "°F", "surface")
        return found if EVAPORATING_RANGE_F[0] <= found.value < returning else None

    @cached_property
    def over_ambient(self) -> Predicted:
        """Condensing over ambient [°F] of its class at today's load, in the air of the house's altitude."""
        at_sea = self.over_ambient_at_sea_level
        thinner = self.measured.round.pressure_psia / float(moist.pressure_psia(0.0))
        return replace(at_sea, value=at_sea.value / thinner**CONDENSING_IN_THIN_AIR.value)

    @cached_property
    def over_ambient_at_sea_level(self) -> Predicted:
        """Condensing over ambient [°F] of its class at today's load, as classes are rated; of the usual class, with a
        wider margin, where the plate is silent.
        """
        plate, rules = self.measured.round.equipment, self.measured.round.rules
        efficiency = lines.class_of(plate.seer)
        over, spread = (
            lines.condensing_over_ambient_f(efficiency, self.load, rules),
            CONDENSING_OVER_AMBIENT_SPREAD.value,
        )
        if plate.seer is None:
            return Predicted(over, spread * NO_CLASS_WIDER.value, "°F", "class_unknown")
        return Predicted(over, spread, "°F", efficiency)

    @cached_property
    def schools(self) -> tuple[schools.SplitTarget, ...]:
        """What each school of the temperature split expects; none of them in heating or where there are no curves."""
        round_, split = self.measured.round, self["expected_split_f"]
        if round_.mode == "heating":
            return ()
        return (
            schools.computed(split.value if split.known else None, round_.rules.split_tolerance_f, split.missing),
            schools.flat(),
            schools.climate(round_.climate),
            schools.return_air(self.return_air_split_f),
        )

    @cached_property
    def split_band(self) -> SplitBand | None:
        """Between what the split lies in a sound machine over what is not read yet; None where the split itself is
        expected, or nothing can be.
        """
        return None if self["expected_split_f"].known else split_band(self.measured)

    @cached_property
    def supply_region(self) -> Region | None:
        """The region that the expected supply lies in, or None."""
        t, w = self["expected_supply_dry_bulb_f"], self["expected_supply_humidity_ratio"]
        if not (t.known and w.known):
            return None
        cross = float(self.carried.covariance("expected_supply_dry_bulb_f", "expected_supply_humidity_ratio")[self.row])
        return t.value, w.value, ((t.u95**2, cross), (cross, w.u95**2))

    @cached_property
    def heating(self) -> "HeatingToday | None":
        """What a heat pump should give in heating today; None elsewhere, without its readings,
        or outside the curves.
        """
        return heating_today(self.measured)


def from_published(
    table: Grid, model: str, return_wet_bulb_f: float, outdoor_f: float, unit: str = "BTU/h"
) -> Estimate:
    """The unit's own published table: rows by return wet bulb [°F], columns by outdoor [°F]. Raises outside it or for
    another model.

    The authority that beats the unit's baseline, which beats the published curves of its kind.
    """
    if table.model.strip().upper() != model.strip().upper():
        raise EngineError(f"the table is of {table.model}, the unit is {model}: use the unit's own table")
    value = table.at(return_wet_bulb_f, outdoor_f)
    return Estimate(value, PUBLISHED_TABLE_SPREAD.value * value, unit)


def expect(setup: Setup, table: list[Measured]) -> list[Expected]:
    """The Expected tables of rounds measured together."""
    carried = carry_on(table[0].carried, expected_side(setup), shown=SHOWN_ONLY)
    x = carried.inputs
    machine = Machine(x["nominal_tons"], setup.kind, x["sensible_share"], x["fan_w_per_cfm"])
    by_return_air = schools.return_air_split_f(machine, x["return_dry_bulb"], carried.values["return_wet_bulb_f"])
    return [Expected(m, carried, row, float(np.asarray(by_return_air)[row])) for row, m in enumerate(table)]


@dataclass(frozen=True)
class HeatingToday:
    """Expected heating at the round's airflow (`now`) and at the usual airflow, and how its rise moves with outdoor air
    and airflow.
    """

    now: ExpectedHeating
    usual: ExpectedHeating
    rise_per_outdoor: float  # ln of the rise for each °F outdoors
    rise_per_flow: float  # ln of the rise for each ln of airflow


STEP_F, STEP_LN = 1.0, 0.05


def heating_today(m: Measured) -> HeatingToday | None:
    """Expected heating of an air-source heat pump from its return, outdoor air and airflow; None without them or
    outside the curves.
    """
    round_, plate = m.round, m.round.equipment
    returning, outdoor = round_.value("return_unit", "dry_bulb"), round_.value("outdoor", "dry_bulb")
    if round_.mode != "heating" or plate.kind != "heat_pump" or returning is None or outdoor is None:
        return None

    def at(outdoor_f: float, cfm: float) -> ExpectedHeating:
        fan_w = round_.value("blower", "power") or FAN_W_PER_CFM.value * cfm
        machine = Machine(plate.nominal_tons, "heat_pump", SENSIBLE_SHARE_AT_RATING.value, FAN_W_PER_CFM.value)
        flow = cfm * 60.0 / m.volumes["return"]
        over_nominal = HEATING_OVER_NOMINAL[lines.class_of(plate.seer)]
        rated = RatedHeating(plate.heating_btuh_47, plate.heating_btuh_17, over_nominal)
        return expected_heating(
            machine, rated, returning, WINTER_HUMIDITY_RATIO.value, outdoor_f, flow, fan_heat_btuh(fan_w)
        )

    now, usual_cfm = at(outdoor, m.cfm), NOMINAL_CFM_PER_TON.value * plate.nominal_tons
    if heating_out_of_range(returning, outdoor, float(now.flow_fraction)):
        return None
    rise = np.log(float(now.rise_f))
    per_outdoor = (np.log(float(at(outdoor + STEP_F, m.cfm).rise_f)) - rise) / STEP_F
    per_flow = (np.log(float(at(outdoor, m.cfm * (1 + STEP_LN)).rise_f)) - rise) / np.log(1 + STEP_LN)
    return HeatingToday(now, at(outdoor, usual_cfm), float(per_outdoor), float(per_flow))
