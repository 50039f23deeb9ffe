"""The plant as practice needs it: the only file here that meets it (or the engine)."""

from dataclasses import asdict, dataclass
from functools import cache
from random import Random

from engine.readings.walk import walk
from engine.units import OZ_PER_KG, f_from_c
from plant import gateway as radio
from plant.faults import FAULTS, faults_on
from plant.live import Live
from plant.machine import KINDS, METERING_DEVICES, Spec
from plant.places import Weather, run
from plant.plates import SEER
from plant.sizing import CLASSES, machine
from web.shell.bridge import words

TONS = (1.5, 2.0, 2.5, 3.0, 3.5, 4.0, 5.0)
REFRIGERANTS = ("R-22", "R-410A", "R-32", "R-454B")
BLOWER_MOTORS = ("psc", "constant_torque", "constant_airflow")
UNITS = ("air_handler", "furnace_with_cased_coil")
MOST_HUNTING_K = 4.0
# what the air and the attic are before anybody turns anything
ORDINARY = Weather(inside_f=78.0, inside_rh=55.0, outside_f=91.0, outside_rh=45.0, attic_f=112.0, altitude_ft=1150.0)
HEATING = Weather(
    inside_f=70.0, inside_rh=40.0, outside_f=38.0, outside_rh=60.0, attic_f=45.0, altitude_ft=1150.0, heating=True,
    water_f=42.0,
)  # fmt: skip
ATTIC_OVER_OUTDOORS_F = 21.0
RATING = Weather(80.0, 51.1, 95.0)
RLA_OVER_RATED_AMPS = 1.3  # a plate's amps over those at the rating point (order of magnitude, memory)
AIRFLOW_NOISE, AIRFLOW_OFFSET = 0.01, 0.02  # of a flow device, shares
SPOKEN = ("dry_bulb", "rh", "temperature", "static_pressure", "pressure_drop", "current", "airflow", "flow", "pressure")
UNITS_OF = radio.UNITS | {"pressure_drop": "inwc", "airflow": "CFM", "flow": "GPM"}
__all__ = ["CLASSES", "FAULTS", "KINDS", "METERING_DEVICES", "Live", "Spec"]


@dataclass(frozen=True)
class Held:
    """A probe of the simulated house: the stop and place it is held to, and the quantities it says."""

    stop: str
    place: str
    quantities: tuple[str, ...]

    @property
    def name(self) -> str:
        """What its gateway calls it."""
        return self.place if self.stop == self.place else f"{self.stop}: {self.place}"[:40]


def new_house(spec: Spec, heating: bool) -> dict:
    """A house with a machine that is off, as memory."""
    return Live(spec, HEATING if heating else ORDINARY, {}).remembered()


def plate_of(spec: Spec) -> dict:
    """What such a machine's nameplate says, by the fields of a system."""
    found = {
        "kind": spec.kind,
        "nominal_tons": spec.tons,
        "metering_device": spec.metering_device,
        "blower_motor": spec.blower_motor,
        "refrigerant": spec.refrigerant,
        "unit": spec.unit,
        "seer": SEER[spec.efficiency],
        "rating_static_inwc": 0.5,
    }
    if spec.metering_device == "txv":
        found["target_subcooling_f"] = 10.0
    amps = run(machine(spec), RATING).values["compressor", "current"]
    return found | {"compressor_rla": round(RLA_OVER_RATED_AMPS * amps, 1)}


@cache
def probes_of(kind: str, furnace: bool) -> tuple[Held, ...]:
    """A probe for every place of the walk that the plant can say something about, in either mode."""
    live = Live(Spec(kind=kind), ORDINARY, {})
    live.start()
    live.advance(10.0)
    said = set(live.values())
    if kind == "heat_pump":
        said |= {("true_suction", "temperature")}
    stops = {stop.id: stop for mode in ("cooling", "heating") for stop in walk(kind, mode, furnace)}
    found = []
    for stop in stops.values():
        for place in dict.fromkeys(slot.place for slot in stop.slots):
            here = tuple(
                dict.fromkeys(
                    s.quantity
                    for s in stop.slots
                    if s.place == place and (place, s.quantity) in said and s.quantity in SPOKEN
                )
            )
            if here:
                found.append(Held(stop.id, place, here))
    return tuple(found)


def said_by(live: Live, held: tuple[Held, ...], seed: str, sequence: int) -> list[tuple[str, str, float, str]]:
    """What the probes say of the house now: (probe, channel, value, unit), each with its own offset and noise, which
    follow from the seed.
    """
    values, found = live.values(), []
    for probe in held:
        for quantity in probe.quantities:
            true = values.get((probe.place, quantity))
            if true is not None:
                found.append(
                    (
                        probe.name,
                        quantity,
                        _read(true, quantity, f"{seed}:{probe.name}:{quantity}", sequence),
                        UNITS_OF[quantity],
                    )
                )
    return found


def _read(true: float, quantity: str, seed: str, sequence: int) -> float:
    lasting, fleeting = Random(seed).gauss(0, 1), Random(f"{seed}:{sequence}").gauss(0, 1)
    if quantity in ("airflow", "flow"):
        return max(true * (1 + AIRFLOW_OFFSET * lasting + AIRFLOW_NOISE * fleeting), 0.0)
    as_air = "static_pressure" if quantity == "pressure_drop" else quantity
    read = true + radio.OFFSET[as_air] * lasting + radio.NOISE[as_air] * fleeting
    if quantity == "rh":
        return min(max(read, 0.0), 100.0)
    return max(read, 0.0) if quantity == "current" else read


def is_pressure(quantity: str) -> bool:
    """Whether it is read by a gauge: nobody hears it before one is connected."""
    return quantity == "pressure"


def set_moved(live: Live, ounces: float) -> None:
    """Refrigerant added so far, less what was recovered [oz]."""
    live.set_moved(ounces / OZ_PER_KG)


def turned(
    live: Live, outside_f: float, outside_rh: float, load: float, faults: dict[str, float], hunting: float
) -> None:
    """Turn the weather, the load and the faults; the house goes on from where it is."""
    weather = asdict(live.weather) | {
        "outside_f": outside_f,
        "outside_rh": outside_rh,
        "attic_f": outside_f + ATTIC_OVER_OUTDOORS_F,
    }
    if live.weather.heating:
        weather["attic_f"] = outside_f + 5.0
    live.set_weather(Weather(**weather))
    live.load, live.hunting_k = load, hunting * MOST_HUNTING_K
    live.set_faults({name: amount for name, amount in faults.items() if amount > 0})


def fits(fault_id: str, live: Live) -> bool:
    """Whether a fault can be turned on this machine in this mode."""
    return fault_id in faults_on(live.spec.kind, live.weather.heating)


def inside(live: Live) -> dict:
    """How the house is: its air in words, its humidity, whether the coil is wet or iced."""
    return {
        "air": words().temperature(f_from_c(live.room.t)),
        "rh": live.inside_rh,
        "frosted": live.frost_kg > 0.02,
        "wet": live.is_wet,
    }
