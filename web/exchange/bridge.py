"""The engine's numbers for the sheet in the panel, in the scale of who prints it."""

from engine import VERSION as ENGINE
from engine.report.panel import LiquidScale, Panel, SplitCurves, panel_of
from web.shell.bridge import words
from web.shell.drawing.nomogram import Worked, nomogram, scale
from web.shell.drawing.palette import PRINT

__all__ = ["ENGINE", "Panel", "panel_of"]
BY = {"own_baseline": "by its baseline", "own_table": "by its own table", "published_curves": "by the published curves"}
WHY_NOT = {
    "airflow": "Nothing is drawn here yet: the airflow was never measured. Measure it, seal the round, print again.",
    "heating": "Nothing is drawn for heating: it is drawn from a round read in cooling.",
    "ground_source": "Nothing is drawn: this machine works against its loop. Its water is at the right.",
}
WORKED_WET_BULB_F = 65.0
# Label, place, quantity; the unit is the quantity's.
AS_LEFT = (
    ("Return static", "return_plenum", "static_pressure"),
    ("Supply static", "supply_plenum", "static_pressure"),
    ("Filter drop", "filter", "pressure_drop"),
    ("Coil drop", "coil", "pressure_drop"),
    ("Blower", "blower", "current"),
    ("Compressor", "compressor", "current"),
    ("Outdoor fan", "outdoor_fan", "current"),
    ("Suction outside", "suction_line_outdoor", "temperature"),
    ("Liquid outside", "liquid_line_outdoor", "temperature"),
    ("Outdoor air then", "outdoor", "dry_bulb"),
    ("Return air then", "return_unit", "dry_bulb"),
    ("Water in", "water_in", "temperature"),
    ("Water out", "water_out", "temperature"),
)
UNITS = {"static_pressure": "in. w.c.", "pressure_drop": "in. w.c.", "current": "A"}


def by_what(authority: str) -> str:
    """Where expected values come from, in words."""
    return BY.get(authority, "by its plate")


def split_drawn(split: SplitCurves):
    """The curves of the split, with one outdoor line worked as an example."""
    sign, middle = f"°{words().scale}", list(split.curves)[len(split.curves) // 2]
    curves = {
        f"{_shown(out):.0f}": [(_shown(wb), words().difference_in_scale(s)) for wb, s in points]
        for out, points in split.curves.items()
    }
    at = split.split_f(split.return_f, WORKED_WET_BULB_F, middle)
    wet_bulb, outdoor, found = _shown(WORKED_WET_BULB_F), f"{_shown(middle):.0f}", words().difference_in_scale(at)
    worked = Worked(wet_bulb, found, f"{wet_bulb:.0f} wet bulb, {outdoor} outdoors: {found:.1f}")
    names = (f"return wet bulb, {sign}", f"split, {sign}", f"outdoors, {sign}")
    return nomogram(curves, names, worked, PRINT, "Temperature split by return wet bulb and outdoor air")


def liquid_drawn(liquid: LiquidScale):
    """The scale of the liquid line."""
    rows = [(f"{_shown(out):.0f}", [f"{_shown(line):.0f}" for line in lines]) for out, lines in liquid.rows]
    heads = [f"wb {_shown(wb):.0f}" for wb in liquid.wet_bulbs_f]
    return scale(
        rows,
        heads,
        ("outdoors", "liquid line at return wet bulb"),
        PRINT,
        "Liquid line by outdoor air and return wet bulb",
    )


def as_left(round_) -> list[tuple[str, str]]:
    """What the round was read at, in words; amps beside the plate's."""
    plate = {"compressor": round_.equipment.compressor_rla, "outdoor_fan": round_.equipment.outdoor_fan_fla}
    found = []
    for label, place, quantity in AS_LEFT:
        unit = UNITS.get(quantity, "°F")
        legs = round_.by_leg(place, quantity)
        value = max(legs.values(), default=None) if quantity == "current" else round_.value(place, quantity)
        if value is not None:
            of = f" of {plate[place]:g}" if plate.get(place) else ""
            found.append((label, f"{words().plain(value, unit)}{of} {words().sign(unit)}"))
    return found


def airflow_said(table) -> str:
    """'1,150 CFM (383 per ton)'; '' where nobody measured or stated it."""
    flow = table.measured.airflows
    if flow.assumed or flow.weighed is None:
        return ""
    per_ton = table["airflow"].measured.value
    return f"{per_ton * table.measured.round.equipment.nominal_tons:,.0f} CFM ({per_ton:.0f} per ton)"


def tolerance_said(value_f: float) -> str:
    """A tolerance [°F] in the person's scale."""
    return words().spread(value_f, "°F")


def correction_said(split: SplitCurves) -> str:
    """What is added for a return dry bulb other than the curves'."""
    at = f"{_shown(split.return_f):.0f} °{words().scale}"
    return (
        f"At {at} return dry bulb. Add {split.per_degree:.2f} for each degree it is over, take it off for each under."
    )


def _shown(value_f: float) -> float:
    return words().in_scale(value_f)
