"""The ways to find the airflow, best evidence first, with their 95 % accuracy and the density they are stated at; and
one airflow so found.
"""

from dataclasses import dataclass

from engine.constants import NOMINAL_CFM_PER_TON, STANDARD_AIR_VOLUME
from engine.units import Numbers

GUESS = "nominal_guess"
PLANES = {"return": "return air", "supply": "supply air", "standard": "standard air"}


@dataclass(frozen=True)
class AirflowMethod:
    """One way to an airflow. `accuracy` is a share of the reading, 95 %. `measured` is False for a stated guess."""

    id: str
    label: str
    accuracy: float
    plane: str
    measured: bool
    source: str


METHODS: dict[str, AirflowMethod] = {
    method.id: method
    for method in (
        AirflowMethod("flow_device", "Calibrated flow device", 0.07, "return", True, "MEM: metering plates, about 7 %"),
        AirflowMethod("blower_table", "Static and blower table", 0.10, "supply", True, "MEM, at the actual tap; a fan moves its volume at the blower's density"),
        AirflowMethod("traverse", "Vane or hot-wire traverse", 0.06, "supply", True, "MEM: instrument 3 % with method 5 %"),
        AirflowMethod("temperature_rise_electric", "Temperature rise, electric heat", 0.08, "return", True, "5 % power, 1.3 °F on a rise near 20 °F"),
        AirflowMethod("temperature_rise_gas", "Temperature rise, gas heat", 0.10, "return", True, "8 % input and efficiency, 1.3 °F on the rise"),
        AirflowMethod("drop_ratio_coil", "Coil drop against baseline", 0.12, "return", True, "exponent and baseline flow, see drop_ratio"),
        AirflowMethod("drop_ratio_filter", "Filter drop against baseline", 0.12, "return", True, "exponent and baseline flow, see drop_ratio"),
        AirflowMethod("nominal_guess", "Guess from nominal tons", 0.20, "return", False, "MEM: 400 CFM/ton, about 20 %"),
    )
}  # fmt: skip


# Ways whose plane the person has to say: a traverse is taken at the grille or in the supply.
ASK_THE_PLANE = ("traverse",)
Caveat = tuple[str, tuple[float, ...]]  # an id of engine.report.air_words and its numbers


@dataclass(frozen=True)
class AirflowEstimate:
    """One airflow found one way: cfm at the density of `plane` ('return', 'supply', 'standard'); u95 in CFM; caveats to
    be read with it.
    """

    method: str
    cfm: float
    u95_cfm: float
    plane: str
    caveats: tuple[Caveat, ...] = ()

    @property
    def measured(self) -> bool:
        """Whether it was measured rather than guessed."""
        return METHODS[self.method].measured


def nominal_guess_cfm(nominal_tons: float) -> float:
    """The guess [CFM] when nothing was measured: 400 CFM per nominal ton (common practice). A guess, and named so."""
    return NOMINAL_CFM_PER_TON.value * nominal_tons


def dry_air_flow_lbh(cfm: Numbers, plane: str, return_volume: Numbers, supply_volume: Numbers) -> Numbers:
    """Dry-air mass flow [lb/h] from the airflow at the plane where it was measured.

    cfm: [CFM]. plane: 'return', 'supply' or 'standard'. return_volume, supply_volume: specific volume there [ft3/lb dry
    air]; standard air is 0.075 lb/ft3. Arrays of one shape or floats, unchecked.
    Equation: m = 60 CFM / v: conservation of mass [1].

    [1] ASHRAE Handbook - Fundamentals (2017), chapter 1, specific volume per pound of dry air.
    """
    volume = {"return": return_volume, "supply": supply_volume, "standard": STANDARD_AIR_VOLUME.value}[plane]
    return cfm * 60.0 / volume
