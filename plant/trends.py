"""Each fault's trends as the plant's physics has them, beside the signs that circulate in the trade; written to
docs/plant-trends.md.

Run: .venv/bin/python -m plant.trends. The plant is never bent to the table: where they differ, the reason is given from
the balances.
"""

from dataclasses import dataclass
from pathlib import Path

from plant.air import atmosphere
from plant.fluid import KPA_PER_PSI, fluid
from plant.machine import Spec
from plant.places import Run, Weather, faulty, severe_amount

Signs = dict[str, dict[str, tuple[str, ...]]]
PAGE = Path(__file__).parent.parent / "docs" / "plant-trends.md"
# °F, and a share of amps.
HARDLY = {
    "split": 1.0, "superheat": 2.5, "subcooling": 2.0, "condensing": 2.0, "approach": 1.5, "amps": 0.035,
    "rise": 1.0, "suction": 1.5,
}  # fmt: skip
# By metering device: fault -> the signs that circulate, per quantity in order: '+', '-', '0', several where either is
# said. Common practice, no single source.
IN_COOLING: Signs = {
    "txv": {
        "blocked_filter": ("+", "0", "0", "-", "0-", "0-"), "dirty_evaporator": ("+", "0", "0", "-", "0-", "0-"),
        "low_tap": ("+", "0", "0", "-", "0-", "0-"),
        "high_airflow": ("-", "0+", "0", "0", "0", "0"), "undercharge": ("0-", "0+", "-", "-", "+", "0-"),
        "overcharge": ("0", "0", "+", "+", "-", "+"),
        "restriction": ("-", "+", "0+", "-", "-", "-"), "starving_valve": ("-", "+", "0+", "-", "-", "-"),
        "dirty_condenser": ("0-", "0", "0+", "+", "+", "+"),
        "weak_condenser_fan": ("0-", "0", "0+", "+", "+", "+"), "non_condensables": ("0-", "0-", "+", "+", "+", "+"),
        "weak_compressor": ("-", "0", "-", "-", "0", "-"), "overfeeding": ("0", "-", "0", "0", "0", "0"),
        "return_leak": ("0+", "0+", "0", "0", "0", "0"),
        "supply_gain": ("0", "0", "0", "0", "0", "0"), "reheat": ("0", "0", "0", "0", "0", "0"),
        "strips_on": ("-", "0", "0", "0", "0", "0"),
    },
    "fixed_orifice": {
        "blocked_filter": ("+", "-", "0", "-", "0-", "0-"), "undercharge": ("-", "+", "-", "-", "+", "-"),
        "overcharge": ("0", "-", "+", "+", "-", "0"),
        "restriction": ("-", "+", "0+", "-", "-", "-"), "dirty_condenser": ("0-", "-", "0+", "+", "+", "+"),
        "weak_compressor": ("-", "-", "-", "-", "0", "-"), "overfeeding": ("0", "-", "0", "0", "0", "0"),
    },
}  # fmt: skip
IN_HEATING: Signs = {
    "txv": {
        "blocked_filter": ("+", "0", "+", "+"), "undercharge": ("0-", "0+", "+", "-"), "overcharge": ("0", "0", "-", "+"),
        "restriction": ("-", "+", "-", "0-"), "dirty_condenser": ("-", "-", "0", "-"), "weak_compressor": ("-", "0+", "-", "-"),
        "strips_on": ("+", "0", "0", "0"),
    },
    "fixed_orifice": {
        "blocked_filter": ("+", "0", "+", "+"), "undercharge": ("-", "+", "0", "-"), "overcharge": ("0", "0-", "0", "0"),
        "restriction": ("-", "+", "-", "0-"), "dirty_condenser": ("-", "-", "0", "-"), "weak_compressor": ("-", "0+", "-", "-"),
        "strips_on": ("+", "0", "0", "0"),
    },
}  # fmt: skip
# Where the plant differs, and why by its balances.
REASONS_IN_COOLING = {
    (
        "txv",
        "restriction",
        "amps",
    ): "less flow at a lower suction against nearly the same head: the power falls, by less than the margin.",
    ("txv", "starving_valve", "amps"): "as for a restricted line.",
    (
        "txv",
        "non_condensables",
        "approach",
    ): "the gas raises the head by its own pressure and leaves the liquid as cool as before. That it also covers "
    "surface, which would warm the liquid, is left out of this plant.",
    (
        "txv",
        "weak_compressor",
        "subcooling",
    ): "less flow needs less condensing surface; what is left over makes up most of the subcooling lost.",
    (
        "txv",
        "overfeeding",
        "approach",
    ): "what more liquid the evaporator holds is missing in the condenser: a little less subcooling, a warmer line.",
    (
        "txv",
        "return_leak",
        "approach",
    ): "warmer air at the coil is more load: the condenser gives off more and condenses higher over the outdoor air.",
    (
        "fixed_orifice",
        "blocked_filter",
        "condensing",
    ): "a fixed orifice keeps feeding: the flow, and with it the heat to give off, hardly falls.",
    ("fixed_orifice", "undercharge", "amps"): "as for a restricted line: the power falls, by less than the margin.",
    (
        "fixed_orifice",
        "overcharge",
        "split",
    ): "more liquid comes through than the coil can boil: the compressor draws it wet, the evaporating temperature "
    "rises and the coil does a little less.",
    (
        "fixed_orifice",
        "weak_compressor",
        "split",
    ): "the coil floods, and a flooded coil works over its whole length: the split falls by less than the margin.",
    ("fixed_orifice", "overfeeding", "amps"): "as with an overcharge: the wet suction is dense.",
    ("fixed_orifice", "overcharge", "amps"): "the flooded suction is dense: more flow and more power.",
    ("fixed_orifice", "restriction", "amps"): "as with a TXV.",
    (
        "fixed_orifice",
        "weak_compressor",
        "condensing",
    ): "the orifice floods and holds the flow up, so that the head falls by less than the margin.",
    (
        "fixed_orifice",
        "weak_compressor",
        "approach",
    ): "the flooding evaporator holds liquid that is missing in the condenser: less subcooling to take off.",
    ("fixed_orifice", "overfeeding", "subcooling"): "what the evaporator floods with is missing in the condenser.",
    ("fixed_orifice", "overfeeding", "approach"): "less subcooling leaves the liquid warmer.",
}


REASONS_IN_HEATING = {
    ("txv", "overcharge", "rise"): "liquid that leaves the indoor coil colder has given more of its heat to the air.",
    (
        "txv",
        "dirty_condenser",
        "approach",
    ): "less heat comes in, so the indoor coil condenses lower, and its liquid comes down with it.",
    (
        "fixed_orifice",
        "undercharge",
        "approach",
    ): "once the accumulator is empty, the subcooling goes, little as there is in this weather.",
    (
        "fixed_orifice",
        "dirty_condenser",
        "approach",
    ): "less flow needs less subcooling before the piston: the rest waits in the accumulator.",
    ("fixed_orifice", "weak_compressor", "approach"): "as with a dirty outdoor coil: the piston needs less subcooling.",
}


@dataclass(frozen=True)
class Mode:
    """One mode: what is compared, in which weather, the trade's signs, and why the plant differs where it does."""

    name: str
    kind: str
    quantities: tuple[str, ...]
    weather: Weather
    trade: Signs
    reasons: dict[tuple[str, str, str], str]

    def spec(self, device: str) -> Spec:
        """The three-ton mid-class R-410A machine that the faults are put into."""
        return Spec(metering_device=device, kind=self.kind)


COOLING = Mode(
    "cooling",
    "air_conditioner",
    ("split", "superheat", "subcooling", "condensing", "approach", "amps"),
    Weather(78.0, 50.0, 95.0),
    IN_COOLING,
    REASONS_IN_COOLING,
)
HEATING = Mode(
    "heating",
    "heat_pump",
    ("rise", "suction", "approach", "amps"),
    Weather(70.0, 40.0, 35.0, 75.0, 35.0, heating=True),
    IN_HEATING,
    REASONS_IN_HEATING,
)
MODES = (COOLING, HEATING)


@dataclass(frozen=True)
class Trend:
    """One fault on one machine: the change of each quantity, its sign, and the trade's."""

    device: str
    fault: str
    changes: dict[str, float]
    trade: dict[str, str]

    def sign(self, quantity: str) -> str:
        """'+', '-' or '0' by what hardly moves."""
        change, hardly = self.changes[quantity], HARDLY[quantity]
        return "0" if abs(change) <= hardly else "+" if change > 0 else "-"

    def differs(self) -> list[str]:
        """The quantities whose sign is not among the trade's."""
        return [q for q in self.changes if self.sign(q) not in self.trade[q]]


def trends(mode: Mode = COOLING, severity: str = "moderate") -> list[Trend]:
    """Every fault of the trade's table on a three-ton mid-class R-410A machine."""
    found = []
    for device, table in mode.trade.items():
        spec = mode.spec(device)
        sound = seen(faulty(spec, {}, mode.weather), spec)
        for fault, signs in table.items():
            now = seen(faulty(spec, {fault: severity}, mode.weather), spec)
            changes = {q: now[q] - sound[q] for q in mode.quantities} | {"amps": now["amps"] / sound["amps"] - 1.0}
            found.append(Trend(device, fault, changes, dict(zip(mode.quantities, signs, strict=True))))
    return found


def seen(run: Run, spec: Spec) -> dict[str, float]:
    """What gauges and thermometers show of a run: subcooling and condensing by the gauge, non-condensables and all. The
    liquid line is held to the outdoor air in cooling, to the return in heating.
    """
    f, v = fluid(spec.refrigerant), run.values
    head = (v["gauge_liquid", "pressure"] + atmosphere(0.0).psia) * KPA_PER_PSI
    rise = v["supply_plenum", "dry_bulb"] - v["return_unit", "dry_bulb"]
    heats = ("true_suction", "temperature") in v
    liquid = v["liquid_line_indoor" if heats else "liquid_line_outdoor", "temperature"]
    found = {
        "superheat": run.superheat_f,
        "subcooling": 1.8 * f.bubble_c(head) + 32.0 - liquid,
        "condensing": 1.8 * f.dew_c(head) + 32.0,
        "approach": liquid - v["return_unit" if heats else "outdoor", "dry_bulb"],
        "amps": v["compressor", "current"],
    }
    return found | ({"rise": rise, "suction": v["true_suction", "temperature"]} if heats else {"split": -rise})


def page(rows: dict[str, list[Trend]]) -> str:
    """The comparison as a page. rows: the trends of each mode, by its name."""
    lines = [
        "# Trends: the plant beside the trade",
        "",
        "A three-ton mid-class R-410A machine; each fault moderate. Changes against the sound machine in °F (amps in %); in "
        "brackets the signs that circulate in the trade (common practice, no single source). **Bold** where they differ. "
        "Hardly moves: " + ", ".join(f"{q} {h:g}" for q, h in HARDLY.items()) + ".",
    ]
    for mode in MODES:
        lines += _section(mode, rows[mode.name])
    return "\n".join(lines) + "\n"


def _section(mode: Mode, rows: list[Trend]) -> list[str]:
    agreed = sum(len(mode.quantities) - len(row.differs()) for row in rows)
    w = mode.weather
    lines = [
        "",
        f"## In {mode.name}: {w.inside_f:.0f} °F and {w.inside_rh:.0f} % inside, {w.outside_f:.0f} °F outside",
        "",
        f"{agreed} of {len(rows) * len(mode.quantities)} signs agree.",
        "",
        "| device | fault | amount | " + " | ".join(mode.quantities) + " |",
        "|---|---|---|" + "---|" * len(mode.quantities),
    ]
    for row in rows:
        amount = severe_amount(mode.spec(row.device), row.fault, "moderate", mode.weather.heating)
        cells = " | ".join(_cell(row, q) for q in mode.quantities)
        lines.append(f"| {row.device} | {row.fault} | {amount:.2f} | {cells} |")
    lines += ["", "Where they differ:", ""]
    for row in rows:
        lines += [
            f"- {row.device}, {row.fault}, {q}: {mode.reasons.get((row.device, row.fault, q), 'NOT EXPLAINED')}"
            for q in row.differs()
        ]
    return lines


def _cell(row: Trend, quantity: str) -> str:
    change = row.changes[quantity]
    number = f"{100 * change:+.0f} %" if quantity == "amps" else f"{change:+.1f}"
    text = f"{number} [{row.trade[quantity]}]".replace("-", "−")
    return f"**{text}**" if quantity in row.differs() else text


if __name__ == "__main__":
    PAGE.write_text(page({mode.name: trends(mode) for mode in MODES}))
