"""Which port each hose goes on, in this mode. Common practice, no single source: the charging port well away from the
compressor; in heating the large line outdoors is hot discharge gas. A ground-source unit has its whole circuit, and its
ports, in one cabinet, as a rule between compressor and reversing valve, so that they stay what they are in both modes
(from memory: the unit's own diagram goes before it).
"""

from dataclasses import dataclass

from engine.readings.vocabulary import GROUND_SOURCE

LOW, HIGH = "low", "high"
GAUGE_PLACES = {LOW: "gauge_suction", HIGH: "gauge_liquid"}


@dataclass(frozen=True)
class Port:
    """One port: its side, low or high, what it is called, where it is, and the mistake made there."""

    side: str
    name: str
    where: str
    mistake: str

    @property
    def place(self) -> str:
        """Where its pressure is entered."""
        return GAUGE_PLACES[self.side]


_SMALL_LINE = Port(
    HIGH,
    "Small line",
    "Service port of the small line, at the unit that holds the compressor.",
    "A port of the large line: it is the thin one.",
)
_PORTS = {
    "cooling": (
        Port(LOW, "Large line", "Service port of the large, insulated line, at the unit that holds the compressor.", "A port between compressor and condenser: that is discharge."),
        _SMALL_LINE,
    ),
    "heating": (
        Port(LOW, "True suction", "The third port, between reversing valve and compressor. Never the large line: in heating it is hot discharge gas.", "The low-side hose on the large line: high pressure into the low side of the gauge."),
        _SMALL_LINE,
    ),
}  # fmt: skip
_IN_THE_CABINET = (
    Port(LOW, "Suction line at the compressor", "Inside the cabinet, on the cold, insulated line into the compressor, in cooling and in heating. The unit's own diagram shows it.", "A port between the reversing valve and a coil: in the other mode that line is hot gas."),
    Port(HIGH, "Liquid or discharge line", "Inside the cabinet, where the unit's own diagram has the high side.", "The small ports at the water connections: they are for the water's pressure and temperature."),
)  # fmt: skip


def ports(mode: str, kind: str) -> tuple[Port, ...]:
    """The ports of this mode, the low side first. mode: 'cooling' or 'heating'; kind: of the equipment."""
    return _IN_THE_CABINET if kind == GROUND_SOURCE else _PORTS[mode]


# What is seen to before a hose is connected: id -> what to check. Common practice, no single source.
CHECKS = {
    "refrigerant": "Hoses and gauge hold this refrigerant, and nothing else",
    "zeroed": "Needle at zero in open air",
    "valves_closed": "Gauge valves closed, hoses purged",
    "low_loss": "Low-loss fittings at the ports",
    "dry": "No rain on the open ports",
    "gloves": "Gloves and glasses on",
}
MILDLY_FLAMMABLE_CHECK = {"a2l_tools": "Tools, hoses and scale rated for A2L; no flame or spark, air moving"}


def checks(mildly_flammable: bool) -> dict[str, str]:
    """What is seen to before connecting, by id."""
    return CHECKS | (MILDLY_FLAMMABLE_CHECK if mildly_flammable else {})
