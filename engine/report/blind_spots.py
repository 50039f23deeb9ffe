"""What a result without gauges cannot show, whatever it says: stated with every result. Common practice, no single
source.
"""

from collections.abc import Callable
from dataclasses import dataclass

from engine.assessment import Assessment
from engine.readings.round import CONSTANT_AIRFLOW, ORIFICE
from engine.readings.vocabulary import GROUND_SOURCE


@dataclass(frozen=True)
class BlindSpot:
    """One: permanent id, where it applies, what is said of it."""

    id: str
    applies: Callable[[Assessment], bool]
    says: str


def _ground(found: Assessment) -> bool:
    return found.round.equipment.kind == GROUND_SOURCE


def _cools(found: Assessment) -> bool:
    return found.round.mode == "cooling" and not _ground(found)


def _heats(found: Assessment) -> bool:
    return found.round.mode == "heating" and not _ground(found)


def _has(found: Assessment, id_: str) -> bool:
    q = found.table.get(id_)
    return q is not None and q.measured.known


def _orifice(found: Assessment) -> bool:
    return found.round.equipment.metering_device == ORIFICE


def _guess(found: Assessment) -> bool:
    """A guess somebody stated; where nobody did, it is said that none was measured."""
    return not found.measured.airflows.measured and not found.measured.airflows.assumed


def _assumed(found: Assessment) -> bool:
    return found.measured.airflows.assumed and any(
        q.assumed_airflow and q.measured.known for q in found.quantities.values()
    )


BLIND_SPOTS = (
    BlindSpot("no_lines", lambda f: _cools(f) and not _has(f, "approach"), "Charge and condenser hardly show without the liquid line and the outdoor air."),
    BlindSpot("slight_loss", lambda f: _cools(f) and not _orifice(f) and _has(f, "approach"),
              "A TXV hides a slight loss of charge. A slight overcharge hides in the spread of sound units."),
    BlindSpot("overcharge", lambda f: _cools(f) and (_orifice(f) or not _has(f, "approach")), "Overcharge hardly shows on the air side."),
    BlindSpot("heating_spread", _heats, "Sound heat pumps differ so much in heating that a slight or moderate loss of charge hides among them until there is a baseline."),
    BlindSpot("circuit_by_water", _ground, "Charge, metering device and compressor look alike from the water side."),
    BlindSpot("no_water", lambda f: _ground(f) and not _has(f, "heat_moved"), "Without the loop's water nothing is known of the heat it moves."),
    BlindSpot("guessed_airflow", lambda f: _guess(f) and _cools(f), "The airflow is a guess: low airflow and a cold coil look alike."),
    BlindSpot("guessed_airflow_heating", lambda f: _guess(f) and _heats(f), "The airflow is a guess: the rise depends on it."),
    BlindSpot("no_airflow", _assumed, "No airflow was measured or stated: 400 CFM per ton is assumed where it is needed."),
    BlindSpot("constant_airflow", lambda f: f.round.equipment.blower_motor == CONSTANT_AIRFLOW, "A constant-airflow motor hides a loading filter or coil: read watts and statics."),
    BlindSpot("predicted", lambda f: not _ground(f), "A predicted pressure is not a measured one: it can look normal on a broken system."),
)  # fmt: skip


def blind_spots(found: Assessment) -> tuple[str, ...]:
    """What cannot be seen in this round, in order."""
    return tuple(spot.says for spot in BLIND_SPOTS if spot.applies(found))
