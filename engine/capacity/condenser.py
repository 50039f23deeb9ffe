"""What the condenser's air says: heat rejected where its airflow is known, a relative sign where it is not."""

from engine.air import moist
from engine.air.moist import pressure_psia
from engine.errors import OutOfRange

RISE_RANGE_F = (-5.0, 60.0)


def air_side_rejection_btuh(
    condenser_cfm: float, entering_f: float, leaving_f: float, altitude_ft: float, humidity_ratio: float = 0.010
) -> float:
    """Heat given to the outdoor air [BTU/h]: m cp (leaving - entering), the fan's heat included, CFM of leaving air.

    condenser_cfm: hardly ever known. Temperatures [°F], altitude [ft]; humidity ratio [lb/lb] matters little.
    """
    rise = leaving_f - entering_f
    if not RISE_RANGE_F[0] <= rise <= RISE_RANGE_F[1]:
        raise OutOfRange("condenser air rise", rise, "°F", *RISE_RANGE_F)
    return condenser_cfm * _per_cfm(leaving_f, altitude_ft, humidity_ratio) * rise


def implied_condenser_cfm(
    rejected_btuh: float, entering_f: float, leaving_f: float, altitude_ft: float, humidity_ratio: float = 0.010
) -> float:
    """The condenser airflow [CFM of leaving air] that this heat [BTU/h] and this rise [°F] imply."""
    rise = leaving_f - entering_f
    if not 1.0 <= rise <= RISE_RANGE_F[1]:
        raise OutOfRange("condenser air rise", rise, "°F", 1.0, RISE_RANGE_F[1])
    return rejected_btuh / (_per_cfm(leaving_f, altitude_ft, humidity_ratio) * rise)


def _per_cfm(leaving_f: float, altitude_ft: float, w: float) -> float:
    """BTU/h per CFM and °F: 60 cp / v of the leaving air ('1.08' where the air is standard)."""
    volume = float(moist.specific_volume_ft3lb(leaving_f, w, pressure_psia(altitude_ft)))
    return 60.0 * float(moist.specific_heat_btulbf(w)) / volume
