"""Every airflow a round's readings give, each by its own method: read off a device, from statics and table, from a traverse, from a known heat."""

from engine.airflow.blower_table import blower_airflow
from engine.airflow.estimate import AirflowEstimate
from engine.airflow.methods import METHODS
from engine.airflow.temperature_rise import electric_heat_rise, gas_heat_rise
from engine.airflow.traverse import traverse
from engine.assessment.sections import statics_of, volumes
from engine.constants import HOUSE_AIR_HUMIDITY_RATIO, HOUSE_AIR_TEMPERATURE
from engine.errors import EngineError
from engine.readings.round import Round
from engine.readings.vocabulary import QUANTITIES

IN2_PER_FT2 = 144.0


def airflows(round_: Round) -> tuple[list[AirflowEstimate], list[str]]:
    """The airflows found, and why one that was begun could not be worked out."""
    found = [
        AirflowEstimate(r.method or "nominal_guess", r.value, METHODS[r.method or "nominal_guess"].accuracy * r.value,
                        r.plane or METHODS[r.method or "nominal_guess"].plane)
        for r in round_.readings if r.place == "blower" and r.quantity == "airflow"
    ]  # fmt: skip
    given, caveats = {estimate.method for estimate in found}, []
    for method, work_out in _WORKED_OUT.items():
        if method in given:
            continue
        try:
            estimate = work_out(round_)
        except EngineError as error:
            caveats.append(f"{METHODS[method].label}: {error}.")
        else:
            found += [estimate] if estimate else []
    limits, volume = QUANTITIES["airflow"], volumes(round_)
    usable = [e for e in found if e.u95_cfm > 0 and limits.low <= e.cfm * volume["return"] / volume[e.plane] <= limits.high]
    caveats += [f"{METHODS[e.method].label}: {e.cfm:.0f} CFM cannot be; read it again." for e in found if e not in usable]
    found = usable
    return found, caveats + [caveat for estimate in found for caveat in estimate.caveats]


def _from_table(round_: Round) -> AirflowEstimate | None:
    read, plate = statics_of(round_), round_.equipment
    if not (read and plate.blower_table and plate.tap):
        return None
    total = read.total_inwc
    return blower_airflow(plate.blower_table, plate.tap, total, volumes(round_)["supply"])


def _from_traverse(round_: Round) -> AirflowEstimate | None:
    points, area = list(round_.by_leg("traverse", "velocity").values()), round_.value("traverse", "gross_area")
    free = round_.value("traverse", "free_area")
    if not points or area is None:
        return None
    return traverse(points, area / IN2_PER_FT2, 1.0 if free is None else free / 100.0)


def _from_strips(round_: Round) -> AirflowEstimate | None:
    volts, amps, rise = (round_.value("strips", quantity) for quantity in ("voltage", "current", "temperature_rise"))
    if None in (volts, amps, rise):
        return None
    return electric_heat_rise(volts * amps, round_.value("blower", "power") or 0.0, rise, *_house_air(round_))


def _from_gas(round_: Round) -> AirflowEstimate | None:
    btuh, efficiency, rise = (round_.value("furnace", quantity) for quantity in ("gas_input", "efficiency", "temperature_rise"))
    if None in (btuh, efficiency, rise):
        return None
    return gas_heat_rise(btuh, efficiency / 100.0, round_.value("blower", "power") or 0.0, rise, *_house_air(round_))


def _house_air(round_: Round) -> tuple[float, float, float]:
    """Return dry bulb [°F], humidity ratio [lb/lb] and altitude [ft]: a rise is hardly moved by the house's humidity."""
    return (
        round_.value("return_unit", "dry_bulb") or HOUSE_AIR_TEMPERATURE.value,
        HOUSE_AIR_HUMIDITY_RATIO.value,
        round_.altitude_ft,
    )


_WORKED_OUT = {
    "blower_table": _from_table,
    "traverse": _from_traverse,
    "temperature_rise_electric": _from_strips,
    "temperature_rise_gas": _from_gas,
}
