"""The numbers of the air side as measured: from readings to states, capacity and the coil.

One function from a dict of input arrays to a dict of result arrays, so that error sources can be carried through it as
one more axis. Results, with units, are named in RESULTS. NaN in -> NaN in what rests on it.
"""

import numpy as np

from engine.physics.air import moist
from engine.physics.air.process import apparatus
from engine.physics.air.state import humidity_ratio
from engine.physics.airflow.methods import dry_air_flow_lbh
from engine.physics.capacity.delivered import coil_leaving_f, delivered, fan_heat_btuh, pocket, tons
from engine.readings.inputs import Setup
from engine.uncertainty.propagation import Function
from engine.units import Columns, Numbers

# result -> (unit, what it needs); the needs word the reason when there is no value
_AIR_IN = ("return dry bulb", "return humidity")
_AIR = (*_AIR_IN, "supply dry bulb", "supply humidity")
_FLOW = (*_AIR, "airflow")
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
}


def air_side(setup: Setup) -> Function:
    """The computation for rounds of one setup."""

    def compute(x: Columns) -> Columns:
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
            return {**states, "fan_heat_btuh": fan, **_delivered(x, t_in, w_in, t_out, w_out, p, m, fan)}

    return compute


def _humidity(t_f: Numbers, quantity: str, value: Numbers, p: Numbers) -> Numbers:
    """Humidity ratio, no higher than saturation: a probe at 98 % +- 3 % means air that is at most saturated."""
    return np.minimum(humidity_ratio(t_f, quantity, value, p), moist.saturation_humidity_ratio(t_f, p))


def _states(t_in: Numbers, w_in: Numbers, t_out: Numbers, w_out: Numbers, p: Numbers) -> Columns:
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


def _delivered(
    x: Columns, t_in: Numbers, w_in: Numbers, t_out: Numbers, w_out: Numbers, p: Numbers, m: Numbers, fan: Numbers
) -> Columns:
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
        "gross_btuh": net.total_btuh + fan,
        "tons": tons(net.total_btuh),
        "coil_leaving_f": off_coil,
        "apparatus_dew_point_f": coil.dew_point_f,
        "bypass_factor": coil.bypass_factor,
        "apparatus_missing": np.asarray(coil.missing, float),
        "pocket_sensible_btuh": quick.sensible_btuh,
        "pocket_total_btuh": quick.total_btuh,
        "pocket_latent_btuh": quick.latent_btuh,
    }
