"""What a result without gauges cannot show, whatever it says: stated with every result. Common practice, no single source."""

from collections.abc import Callable, Collection
from dataclasses import dataclass

from engine.judgement.cause import CONSTANT_AIRFLOW, ORIFICE
from engine.judgement.causes import AIR_SOURCE, COOLING_MODE, HEATING_MODE, WATER_SOURCE, Setting


@dataclass(frozen=True)
class BlindSpot:
    """One: permanent id, where it applies (setting, indicators there are), what is said of it."""

    id: str
    applies: Callable[[Setting, Collection[str]], bool]
    says: str


def _cools(setting: Setting) -> bool:
    return (setting.source, setting.mode) == (AIR_SOURCE, COOLING_MODE)


def _heats(setting: Setting) -> bool:
    return (setting.source, setting.mode) == (AIR_SOURCE, HEATING_MODE)


BLIND_SPOTS = (
    BlindSpot("no_lines", lambda s, have: _cools(s) and "approach" not in have, "Charge and condenser hardly show without the liquid line and the outdoor air."),
    BlindSpot("slight_loss", lambda s, have: _cools(s) and s.device != ORIFICE and "approach" in have,
              "A TXV hides a slight loss of charge, and a slight overcharge hides in the spread of sound units."),
    BlindSpot("overcharge", lambda s, have: _cools(s) and (s.device == ORIFICE or "approach" not in have), "Overcharge hardly shows on the air side."),
    BlindSpot("heating_spread", lambda s, have: _heats(s),
              "Sound heat pumps differ so much in heating that a slight or moderate loss of charge hides among them until there is a baseline."),
    BlindSpot("circuit_by_water", lambda s, have: s.source == WATER_SOURCE, "Charge, metering device and compressor look alike from the water side."),
    BlindSpot("no_water", lambda s, have: s.source == WATER_SOURCE and "heat_moved" not in have, "Without the loop's water nothing is known of the heat it moves."),
    BlindSpot("guessed_airflow", lambda s, have: "airflow" not in have and s.mode == COOLING_MODE, "The airflow is a guess: low airflow and a cold coil look alike."),
    BlindSpot("guessed_airflow_heating", lambda s, have: "airflow" not in have and s.mode == HEATING_MODE, "The airflow is a guess: the rise hangs on it."),
    BlindSpot("constant_airflow", lambda s, have: s.motor == CONSTANT_AIRFLOW, "A constant-airflow motor hides a loading filter or coil: read watts and statics."),
    BlindSpot("predicted", lambda s, have: s.source == AIR_SOURCE, "A pressure predicted from temperatures is none: it can look normal on a broken system."),
)  # fmt: skip


def blind_spots(setting: Setting, have: Collection[str]) -> tuple[str, ...]:
    """What cannot be seen in a setting with these indicators, in order."""
    return tuple(spot.says for spot in BLIND_SPOTS if spot.applies(setting, have))
