"""What is seen to before a technician leaves, by equipment. Common practice, no single source: plugged holes serve the
next visit, loose caps are the usual leak, small parts get lost.
"""

from dataclasses import dataclass

from engine.readings.vocabulary import GROUND_SOURCE

AIR_SOURCE = ("air_conditioner", "heat_pump")


@dataclass(frozen=True)
class LastLook:
    """One thing to see to: a permanent id and what to call it. kinds: the equipment it is on, () for all."""

    id: str
    label: str
    kinds: tuple[str, ...] = ()


LAST_LOOKS = (
    LastLook("panels_on", "Panels on"),
    LastLook("holes_plugged", "Test holes plugged"),
    LastLook("lines_covered", "Line insulation back"),
    LastLook("caps_tight", "Caps tight with a wrench"),
    LastLook("port_caps", "Water port caps on", (GROUND_SOURCE,)),
    LastLook("condenser_free", "Condenser not left blocked", AIR_SOURCE),
    LastLook("disconnect_back", "Disconnect back, it runs"),
    LastLook("thermostat_back", "Thermostat as it was"),
    LastLook("tools_counted", "Tools counted"),
)
BY_ID = {look.id: look for look in LAST_LOOKS}


def last_looks(kind: str) -> tuple[LastLook, ...]:
    """What is seen to on this kind of equipment, in order."""
    return tuple(look for look in LAST_LOOKS if not look.kinds or kind in look.kinds)
