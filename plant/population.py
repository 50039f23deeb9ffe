"""Sound machines as they are sold: lines of a maker, each with its own coils, fans and compressors, and single machines
that differ within their line. For measuring what is learnt from a shop's own visits.

How far they differ is chosen (working figures), not measured: a line's condenser moves a tenth more or less air, its
coils are 7 % larger or smaller, its compressor draws 5 % more or less, its TXV is set 1 °F higher or lower; machines of
a line differ by a third of that.
"""

from dataclasses import dataclass, replace
from math import exp, log
from random import Random
from typing import Any

from plant.circuit import FULL_SUPERHEAT
from plant.machine import METERING_DEVICES, Machine, Spec
from plant.plates import rated_amps
from plant.sizing import CLASSES, machine

# Of each part: standard deviation from maker to maker [ln]; superheat: of what a TXV is set to hold.
PARTS = {
    "outdoor_air": 0.10, "outdoor_coil": 0.07, "indoor_coil": 0.06, "displacement": 0.03, "isentropic": 0.05,
    "charge": 0.02, "blower": 0.04, "ducts": 0.15, "line_gain": 0.3, "superheat": 0.1,
}  # fmt: skip
SIZES = (2.0, 2.5, 3.0, 3.5, 4.0)


@dataclass(frozen=True)
class Population:
    """A shop's machines. lines: how many; first: the number of the first, so that another range of lines is another
    population. between, within: how far lines, and machines within a line, differ, over the figures above and a third
    of them. probe_off_f: what the air probe reads too high outdoors. low_on_charge: share of its sound machines that
    have lost a little charge. kind: what they all are.
    """

    name: str
    lines: int = 8
    first: int = 0
    between: float = 1.0
    within: float = 1.0
    probe_off_f: float = 0.0
    low_on_charge: float = 0.0
    kind: str = "air_conditioner"

    def drawn(self, random: Random) -> tuple[Spec, Machine, dict[str, Any]]:
        """A machine of one of the lines: its spec, itself, and what its plate says of its line and model."""
        number = self.first + random.randrange(self.lines)
        line = f"{self.name} {number}"
        of_line = Random(line)
        spec = Spec(
            random.choice(SIZES),
            of_line.choice(list(CLASSES)),
            of_line.choice(("R-22", "R-410A", "R-32", "R-454B")),
            of_line.choice(METERING_DEVICES),
            of_line.choice(("psc", "constant_torque")),
            of_line.choice(("air_handler", "furnace_with_cased_coil")),
            self.kind,
        )
        lasting = {part: self.between * of_line.gauss(0, sd) for part, sd in PARTS.items()}
        own = {part: self.within / 3 * random.gauss(0, sd) for part, sd in PARTS.items()}
        made = _made(machine(spec), {part: exp(lasting[part] + own[part]) for part in PARTS})
        if random.random() < self.low_on_charge:
            made = replace(made, charge_kg=made.charge_kg * random.uniform(0.85, 0.95))
        rated = {"compressor_rla": rated_amps(Random(f"{line} amps"), spec)}
        return spec, made, {"line": line, "model": f"{line} {spec.tons:g}"} | rated


def as_made(m: Machine, random: Random) -> Machine:
    """A machine of any maker, by how makers' parts differ."""
    return _made(m, {part: exp(random.gauss(0, sd)) for part, sd in PARTS.items()})


def _made(m: Machine, by: dict[str, float]) -> Machine:
    """The machine with each part larger or smaller by its factor."""
    compressor = replace(
        m.compressor,
        displacement=m.compressor.displacement * by["displacement"],
        isentropic=m.compressor.isentropic * by["isentropic"],
    )
    speed = by["blower"]
    fan = replace(
        m.fan, free_m3s=m.fan.free_m3s * speed, shut_pa=m.fan.shut_pa * speed**2, holds_m3s=m.fan.holds_m3s * speed
    )
    ducts = replace(m.ducts, supply_pa=m.ducts.supply_pa * by["ducts"], return_pa=m.ducts.return_pa * by["ducts"])
    return replace(
        m,
        compressor=compressor,
        indoor=m.indoor.passing(by["indoor_coil"]),
        outdoor=m.outdoor.passing(by["outdoor_coil"]),
        fan=fan,
        ducts=ducts,
        valve=replace(m.valve, set_off=m.valve.set_off + FULL_SUPERHEAT * log(by["superheat"])),
        outdoor_m3s=m.outdoor_m3s * by["outdoor_air"],
        charge_kg=m.charge_kg * by["charge"],
        line_gain_k=m.line_gain_k * by["line_gain"],
    )
