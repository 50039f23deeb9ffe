"""Every airflow a round's readings give, each by its own method, and the one they come to together.

Read off a device, from statics and table, from a traverse, from a known heat. Where none was read or stated, 400 CFM
per ton is assumed, and everything that rests on it says so.
"""

from dataclasses import dataclass, replace
from functools import cache
from math import hypot

from engine.constants import (
    HOUSE_AIR_HUMIDITY_RATIO,
    HOUSE_AIR_TEMPERATURE,
    PLANE_NOT_SAID,
    STANDARD_AIR_VOLUME,
    SUPPLY_AIR_HUMIDITY_RATIO,
    SUPPLY_AIR_TEMPERATURE,
)
from engine.errors import EngineError
from engine.physics.air import moist
from engine.physics.airflow.blower_table import blower_airflow
from engine.physics.airflow.methods import ASK_THE_PLANE, GUESS, METHODS, AirflowEstimate, nominal_guess_cfm
from engine.physics.airflow.statics import Statics
from engine.physics.airflow.temperature_rise import electric_heat_rise, gas_heat_rise
from engine.physics.airflow.traverse import traverse
from engine.physics.airflow.weighting import Weighted, weigh
from engine.readings.round import Reading, Round
from engine.readings.vocabulary import QUANTITIES

IN2_PER_FT2 = 144.0


Failed = tuple[str, EngineError | str]  # a way that was begun, and why it came to nothing


@dataclass(frozen=True)
class Airflows:
    """All ways to the airflow. weighed: None for none. failed: of the ways that were begun. assumed: nobody measured or
    stated one.
    """

    estimates: tuple[AirflowEstimate, ...]
    weighed: Weighted | None
    failed: tuple[Failed, ...]
    assumed: bool = False
    measured: bool = False


def statics_of(round_: Round) -> Statics | None:
    """The statics read in a round, or None when a side is missing."""
    returning, supply = (round_.value(f"{side}_plenum", "static_pressure") for side in ("return", "supply"))
    if returning is None or supply is None:
        return None
    return Statics(returning, supply, round_.value("filter", "pressure_drop"), round_.value("coil", "pressure_drop"))


def volumes(round_: Round) -> dict[str, float]:
    """Specific volume [ft3/lb] by plane, from the air as read; the usual house and supply air stand in where it was
    not.
    """
    warm = round_.value("return_unit", "dry_bulb")
    cold = round_.value("supply_plenum", "dry_bulb")
    return _volumes(
        round_.pressure_psia,
        HOUSE_AIR_TEMPERATURE.value if warm is None else warm,
        SUPPLY_AIR_TEMPERATURE.value if cold is None else cold,
    )


@cache
def _volumes(p: float, warm_f: float, cold_f: float) -> dict[str, float]:
    return {
        "return": float(moist.specific_volume_ft3lb(warm_f, HOUSE_AIR_HUMIDITY_RATIO.value, p)),
        "supply": float(moist.specific_volume_ft3lb(cold_f, SUPPLY_AIR_HUMIDITY_RATIO.value, p)),
        "standard": STANDARD_AIR_VOLUME.value,
    }


def with_one_airflow(round_: Round) -> tuple[Round, Airflows]:
    """The round with one airflow - weighed as mass flows where several were found, else as read - and how it came
    about.
    """
    estimates, failed = _every_way(round_)
    rest = tuple(r for r in round_.readings if (r.place, r.quantity) != ("blower", "airflow"))
    if not estimates:
        guess = Reading(
            "blower", "airflow", nominal_guess_cfm(round_.equipment.nominal_tons), method=GUESS, plane="return"
        )
        return replace(round_, readings=(*rest, guess)), Airflows((), None, failed, assumed=True)
    volume = volumes(round_)
    weighed = weigh(estimates, volume)
    found = Airflows(tuple(estimates), weighed, failed, measured=any(e.measured for e in estimates))
    if len(estimates) == 1:
        only = estimates[0]
        one = Reading("blower", "airflow", only.cfm, method=only.method, plane=only.plane, u95=only.u95_cfm)
        return replace(round_, readings=(*rest, one)), found
    best = max(weighed.weights, key=lambda method: weighed.weights[method])
    cfm, u95 = (lbh * volume["return"] / 60.0 for lbh in (weighed.mass_flow_lbh, weighed.u95_lbh))
    one = Reading("blower", "airflow", cfm, method=best, plane="return", u95=u95)
    return replace(round_, readings=(*rest, one)), found


def _every_way(round_: Round) -> tuple[list[AirflowEstimate], tuple[Failed, ...]]:
    found = [_as_read(r) for r in round_.readings if r.place == "blower" and r.quantity == "airflow"]
    given = {estimate.method for estimate in found}
    failed: list[Failed] = []
    for method, work_out in _WORKED_OUT.items():
        if method in given:
            continue
        try:
            estimate = work_out(round_)
        except EngineError as error:
            failed.append((method, error))
        else:
            found += [estimate] if estimate else []
    limits, volume = QUANTITIES["airflow"], volumes(round_)
    usable = [
        e for e in found if e.u95_cfm > 0 and limits.low <= e.cfm * volume["return"] / volume[e.plane] <= limits.high
    ]
    failed += [(e.method, "cannot_be") for e in found if e not in usable]
    return usable, tuple(failed)


def _as_read(reading: Reading) -> AirflowEstimate:
    method = METHODS[reading.method or GUESS]
    u95 = method.accuracy * reading.value if reading.u95 is None else reading.u95
    return _at_plane(AirflowEstimate(method.id, reading.value, u95, reading.plane or method.plane), reading.plane)


def _at_plane(found: AirflowEstimate, plane: str | None) -> AirflowEstimate:
    """A traverse whose plane nobody said is taken as return air, with a wider margin by what the planes differ by, and
    says so.
    """
    if plane or found.method not in ASK_THE_PLANE:
        return replace(found, plane=plane or found.plane)
    u95 = hypot(found.u95_cfm, PLANE_NOT_SAID.value * found.cfm)
    return replace(found, plane="return", u95_cfm=u95, caveats=(*found.caveats, ("plane_not_said", ())))


def _from_table(round_: Round) -> AirflowEstimate | None:
    read, plate = statics_of(round_), round_.equipment
    if not (read and plate.blower_table and plate.tap):
        return None
    return blower_airflow(plate.blower_table, plate.tap, read.total_inwc, volumes(round_)["supply"])


def _from_traverse(round_: Round) -> AirflowEstimate | None:
    points, area = list(round_.by_leg("traverse", "velocity").values()), round_.reading("traverse", "gross_area")
    free = round_.value("traverse", "free_area")
    if not points or area is None:
        return None
    found = traverse(points, area.value / IN2_PER_FT2, 1.0 if free is None else free / 100.0)
    return _at_plane(found, area.plane)


def _from_strips(round_: Round) -> AirflowEstimate | None:
    volts, amps, rise = (round_.value("strips", quantity) for quantity in ("voltage", "current", "temperature_rise"))
    if volts is None or amps is None or rise is None:
        return None
    return electric_heat_rise(volts * amps, round_.value("blower", "power") or 0.0, rise, *_house_air(round_))


def _from_gas(round_: Round) -> AirflowEstimate | None:
    btuh, efficiency, rise = (
        round_.value("furnace", quantity) for quantity in ("gas_input", "efficiency", "temperature_rise")
    )
    if btuh is None or efficiency is None or rise is None:
        return None
    return gas_heat_rise(
        btuh, efficiency / 100.0, round_.value("blower", "power") or 0.0, rise, *_house_air(round_), round_.altitude_ft
    )


def _house_air(round_: Round) -> tuple[float, float, float]:
    """Return dry bulb [°F], humidity ratio [lb/lb] and air pressure [psia]: a rise is hardly moved by the house's
    humidity.
    """
    warm = round_.value("return_unit", "dry_bulb")
    return HOUSE_AIR_TEMPERATURE.value if warm is None else warm, HOUSE_AIR_HUMIDITY_RATIO.value, round_.pressure_psia


_WORKED_OUT = {
    "blower_table": _from_table,
    "traverse": _from_traverse,
    "temperature_rise_electric": _from_strips,
    "temperature_rise_gas": _from_gas,
}
