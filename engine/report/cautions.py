"""The cautions, each shown where it applies, at the moment it matters. They defer to the maker, local codes and
licensed practice.
"""

from dataclasses import dataclass


@dataclass(frozen=True)
class Caution:
    """One caution: a permanent id and its text, short enough to be read with gloves on."""

    id: str
    text: str


# fmt: off
CAUTIONS = (
    Caution("disconnect", "Before a panel comes off: pull the disconnect and verify it dead."),
    Caution("capacitor", "Capacitors hold charge after the power is off: discharge and verify."),
    Caution("rotating", "Fans turn and may start by themselves: hands, sleeves and probes out of the blades."),
    Caution("hot_line", "The discharge line burns skin: gloves on."),
    Caution("drilling", "Before drilling: know what is behind. Coil, tubing, wiring, insulation."),
    Caution("attic", "Attic: only the joists carry you, and in summer the heat is dangerous. Take water, say where you are."),
    Caution("ladder", "Ladder: footed and tied, three points of contact."),
    Caution("washing", "Washing an outdoor coil: power off, gently, inside out. No test until it is dry again."),
    Caution("blocked_condenser", "A blocked condenser drives the head up: do not leave it blocked longer than it takes to read."),
    Caution("gas", "Gas heat: combustion safety first. Smell of gas: out, and call from outside."),
    Caution("refrigerant", "Refrigerant freezes skin and eyes. Opening a circuit is for certified people under the law where you are."),
    Caution("mildly_flammable", "Mildly flammable refrigerant (A2L): its own tools and rules, no flame, air moving."),
    Caution("thaw", "Iced: compressor off, thaw fully before anything else is judged."),
)
# fmt: on
BY_ID = {caution.id: caution for caution in CAUTIONS}
MILDLY_FLAMMABLE = ("R-32", "R-454B")
PREVAIL = "Manufacturer's data, local codes and licensed practice prevail."


def for_equipment(refrigerant: str, seen: dict[str, str]) -> tuple[Caution, ...]:
    """The cautions that the machine itself and what was seen on it call for, wherever one is."""
    found = []
    if refrigerant in MILDLY_FLAMMABLE:
        found.append(BY_ID["mildly_flammable"])
    if seen.get("ice") not in (None, "none") or seen.get("iced") == "yes":
        found.append(BY_ID["thaw"])
    return tuple(found)
