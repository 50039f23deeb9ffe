"""The numbers of the air side: from readings to states, capacity, coil, expected values and the differences.

One function from a dict of input arrays to a dict of result arrays, so that error sources can be carried through it as
one more axis. Inputs and results, with units, are named in INPUTS and RESULTS. NaN in -> NaN in what hangs on it.
"""

from collections.abc import Callable

import numpy as np

from engine.air import moist
from engine.air.process import apparatus
from engine.air.state import humidity_ratio
from engine.airflow.methods import dry_air_flow_lbh
from engine.assessment.inputs import Setup
from engine.capacity.delivered import coil_leaving_f, delivered, pocket, tons
from engine.constants import DRY_COIL_UNDER_LEAVING
from engine.expected.cooling import Machine, expected_cooling, fan_heat_btuh

# result -> (unit, what it needs); the needs word the reason when there is no value
_AIR_IN = ("return dry bulb", "return humidity")
_AIR = (*_AIR_IN, "supply dry bulb", "supply humidity")
_FLOW = (*_AIR, "airflow")
_EXPECTED = (*_AIR_IN, "outdoor temperature", "airflow")
RESULTS = {
    "split_f": ("°F", ("return dry bulb", "supply dry bulb")),
    "return_humidity_ratio": ("lb/lb", _AIR_IN),
    "return_rh_pct": ("%", _AIR_IN),
    "return_wet_bulb_f": ("°F", _AIR_IN),
    "return_dew_point_f": ("°F", _AIR_IN),
    "return_enthalpy_btulb": ("BTU/lb", _AIR_IN),
    "supply_humidity_ratio": ("lb/lb", ("supply dry bulb", "supply humidity")),
    "supply_rh_pct": ("%", ("supply dry bulb", "supply humidity")),
    "supply_wet_bulb_f": ("°F", ("supply dry bulb", "supply humidity")),
    "supply_dew_point_f": ("°F", ("supply dry bulb", "supply humidity")),
    "supply_enthalpy_btulb": ("BTU/lb", ("supply dry bulb", "supply humidity")),
    "moisture_removed_lblb": ("lb/lb", _AIR),
    "mass_flow_lbh": ("lb/h", _FLOW),
    "cfm_per_ton": ("CFM/ton", ("airflow",)),
    "total_btuh": ("BTU/h", _FLOW),
    "sensible_btuh": ("BTU/h", _FLOW),
    "latent_btuh": ("BTU/h", _FLOW),
    "sensible_heat_ratio": ("", _AIR),
    "condensate_btuh": ("BTU/h", _FLOW),
    "total_less_condensate_btuh": ("BTU/h", _FLOW),
    "fan_heat_btuh": ("BTU/h", ("airflow or blower power",)),
    "gross_btuh": ("BTU/h", _FLOW),
    "tons": ("tons", _FLOW),
    "coil_leaving_f": ("°F", _FLOW),
    "apparatus_dew_point_f": ("°F", _FLOW),
    "bypass_factor": ("", _FLOW),
    "pocket_sensible_btuh": ("BTU/h", _FLOW),
    "pocket_total_btuh": ("BTU/h", _FLOW),
    "pocket_latent_btuh": ("BTU/h", _FLOW),
    "expected_total_btuh": ("BTU/h", _EXPECTED),
    "expected_sensible_btuh": ("BTU/h", _EXPECTED),
    "expected_sensible_heat_ratio": ("", _EXPECTED),
    "expected_split_f": ("°F", _EXPECTED),
    "expected_supply_dry_bulb_f": ("°F", _EXPECTED),
    "expected_supply_humidity_ratio": ("lb/lb", _EXPECTED),
    "expected_supply_rh_pct": ("%", _EXPECTED),
    "expected_apparatus_dew_point_f": ("°F", _EXPECTED),
    "expected_wet_bulb_used_f": ("°F", _EXPECTED),
    "expected_flow_fraction": ("", _EXPECTED),
    "expected_coil_dry": ("", _EXPECTED),
    "split_minus_expected_f": ("°F", (*_EXPECTED, "supply dry bulb")),
    "supply_minus_expected_f": ("°F", (*_EXPECTED, "supply dry bulb")),
    "total_minus_expected_btuh": ("BTU/h", (*_FLOW, "outdoor temperature")),
}


def air_side(setup: Setup) -> Callable[[dict[str, np.ndarray]], dict[str, np.ndarray]]:
    """The computation for rounds of one setup."""

    def compute(x: dict[str, np.ndarray]) -> dict[str, np.ndarray]:
        with np.errstate(all="ignore"):
            p, t_in, t_out = x["pressure"], x["return_dry_bulb"], x["supply_dry_bulb"]
            w_in = _humidity(t_in, setup.return_humidity, x["return_humidity"], p)
            w_out = _humidity(t_out, setup.supply_humidity, x["supply_humidity"], p)
            volume_in = moist.specific_volume_ft3lb(t_in, w_in, p)
            volume_out = moist.specific_volume_ft3lb(t_out, w_out, p)
            m = dry_air_flow_lbh(x["airflow_cfm"], setup.plane, volume_in, volume_out)
            fan_w = x["fan_w"] if setup.fan_measured else x["fan_w_per_cfm"] * x["airflow_cfm"]
            fan = fan_heat_btuh(fan_w)
            states = _states(t_in, w_in, t_out, w_out, p)
            return {
                **states,
                **_delivered(x, t_in, w_in, t_out, w_out, p, m, fan),
                **_expected(setup, x, t_in, w_in, t_out, w_out, p, m, fan, states["return_wet_bulb_f"]),
            }

    return compute


def _humidity(t_f, quantity, value, p):
    """Humidity ratio, no higher than saturation: a probe at 98 % +- 3 % stands for air that is at most saturated."""
    return np.minimum(humidity_ratio(t_f, quantity, value, p), moist.saturation_humidity_ratio(t_f, p))


def _states(t_in, w_in, t_out, w_out, p):
    dew_in, dew_out = moist.dew_point_f(w_in, p), moist.dew_point_f(w_out, p)
    return {
        "split_f": t_in - t_out,
        "return_humidity_ratio": w_in,
        "return_rh_pct": moist.rh_pct(t_in, w_in, p),
        "return_wet_bulb_f": moist.wet_bulb_f(t_in, w_in, p, dew_in),
        "return_dew_point_f": dew_in,
        "return_enthalpy_btulb": moist.enthalpy_btulb(t_in, w_in),
        "supply_humidity_ratio": w_out,
        "supply_rh_pct": moist.rh_pct(t_out, w_out, p),
        "supply_wet_bulb_f": moist.wet_bulb_f(t_out, w_out, p, dew_out),
        "supply_dew_point_f": dew_out,
        "supply_enthalpy_btulb": moist.enthalpy_btulb(t_out, w_out),
        "moisture_removed_lblb": w_in - w_out,
    }


def _delivered(x, t_in, w_in, t_out, w_out, p, m, fan):
    """Measured past the blower, so what the plenum shows is net; the coil did that and the blower's heat."""
    net = delivered(m, t_in, w_in, t_out, w_out)
    off_coil = coil_leaving_f(t_out, w_out, fan, m)
    coil = apparatus(t_in, w_in, off_coil, w_out, p)
    quick = pocket(x["airflow_cfm"], t_in, w_in, t_out, w_out)
    return {
        "mass_flow_lbh": m,
        "cfm_per_ton": x["airflow_cfm"] / x["nominal_tons"],
        "total_btuh": net.total_btuh,
        "sensible_btuh": net.sensible_btuh,
        "latent_btuh": net.latent_btuh,
        "sensible_heat_ratio": net.sensible_heat_ratio,
        "condensate_btuh": net.condensate_btuh,
        "total_less_condensate_btuh": net.total_less_condensate_btuh,
        "fan_heat_btuh": fan,
        "gross_btuh": net.total_btuh + fan,
        "tons": tons(net.total_btuh),
        "coil_leaving_f": off_coil,
        "apparatus_dew_point_f": coil.dew_point_f,
        "bypass_factor": coil.bypass_factor,
        "apparatus_missing": coil.missing.astype(float),
        "pocket_sensible_btuh": quick.sensible_btuh,
        "pocket_total_btuh": quick.total_btuh,
        "pocket_latent_btuh": quick.latent_btuh,
    }


def _expected(setup, x, t_in, w_in, t_out, w_out, p, m, fan, wet_bulb):
    """Expected with the same air and airflow. Without supply humidity the flow at the return plane still serves."""
    flow = np.where(np.isnan(m), x["airflow_cfm"] * 60.0 / moist.specific_volume_ft3lb(t_in, w_in, p), m)
    machine = Machine(x["nominal_tons"], setup.kind, x["sensible_share"], x["fan_w_per_cfm"], x["capacity_factor"])
    e = expected_cooling(machine, t_in, w_in, x["outdoor"], p, flow, fan, wet_bulb)
    off_coil = coil_leaving_f(e.supply_dry_bulb_f, e.supply_humidity_ratio, fan, m)
    coil = apparatus(t_in, w_in, off_coil, e.supply_humidity_ratio, p)
    measured_total = m * (moist.enthalpy_btulb(t_in, w_in) - moist.enthalpy_btulb(t_out, w_out))
    return {
        "expected_total_btuh": e.total_btuh,
        "expected_sensible_btuh": e.sensible_btuh,
        "expected_sensible_heat_ratio": e.sensible_heat_ratio,
        "expected_split_f": e.split_f,
        "expected_supply_dry_bulb_f": e.supply_dry_bulb_f,
        "expected_supply_humidity_ratio": e.supply_humidity_ratio,
        "expected_supply_rh_pct": moist.rh_pct(e.supply_dry_bulb_f, e.supply_humidity_ratio, p),
        "expected_apparatus_dew_point_f": np.where(
            np.isnan(coil.dew_point_f), off_coil - DRY_COIL_UNDER_LEAVING.value, coil.dew_point_f
        ),
        "expected_wet_bulb_used_f": e.wet_bulb_used_f,
        "expected_flow_fraction": e.flow_fraction,
        "expected_coil_dry": e.coil_dry.astype(float),
        "split_minus_expected_f": (t_in - t_out) - e.split_f,
        "supply_minus_expected_f": t_out - e.supply_dry_bulb_f,
        "total_minus_expected_btuh": measured_total - e.total_btuh,
    }
