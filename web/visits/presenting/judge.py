"""The Judge station: the row of marks, the charts, the heat ledger, every figure, the schools and the pocket formulas."""

from web.shell.drawing.beams import ledger_svg
from web.shell.drawing.plumb import PlumbMark, beam
from web.shell.drawing.psychrometric import chart_svg
from web.visits import bridge, figures
from web.visits.presenting.stops import SHAPES, mark_words
from web.visits.sheet import Sheet

# section -> its heading; the statics, ducts and rooms stand at the air station
SECTIONS = {
    "follow_up": "Against its baseline", "heating": "Heating", "lines": "Lines", "charge": "With gauges", "electrical": "Electrical", "water": "Water side",
}  # fmt: skip
NAMES = {
    "approach_f": "Approach", "expected_approach_f": "Expected approach", "approach_tolerance_f": "", "expected_liquid_line_f": "",
    "condensing_f": "Condensing",
    "evaporating_f": "Evaporating", "superheat_f": "Superheat", "subcooling_f": "Subcooling", "condensing_over_ambient_f": "Condensing over ambient",
    "compressor_w": "Compressor", "outdoor_fan_w": "Outdoor fan", "total_w": "All together", "eer": "EER", "rise_f": "Rise", "expected_rise_f": "Expected rise",
    "delivered_btuh": "Delivered", "expected_btuh": "Expected", "heating_approach_f": "Liquid line over return",
}  # fmt: skip


def context(sheet: Sheet, palette: dict[str, str]) -> dict:
    """What the station shows."""
    assessed, result = sheet.assessed, sheet.assessed.result
    marks = [mark | {"drawn": beam([mark["plumb"]], palette)} for mark in indicator_marks(sheet)]
    return {
        "marks": marks,
        "chart": chart_svg(assessed.chart, palette, celsius=bridge.scale() == "C"),
        "chart_marks": [m for m in assessed.chart.marks if m.number],
        "has_region": bool(assessed.chart.region),
        "ledger": ledger_svg(assessed.ledger, palette) if assessed.ledger else "",
        "ledger_says": assessed.ledger.says if assessed.ledger else (),
        "figures": [_figure_row(result, *row) for row in FIGURES] if sheet.mode == "cooling" else [],
        "scale": f"°{bridge.scale()}",
        "sections": _sections(sheet),
        "sentences": [i.sentence for i in assessed.indicators if i.sentence],
        "schools": [
            {
                "label": s.label,
                "target": figures.plain(s.target_f, "°F", difference=True),
                "tolerance": figures.spread(s.tolerance_f, "°F") if s.tolerance_f else "",
                "reason": s.reason,
                "ours": s.school == sheet.material.rules.split_school,
            }
            for s in result.schools
        ],
        "pocket": [
            {
                "formula": row.formula,
                "pocket": figures.plain(row.pocket_btuh, "BTU/h"),
                "exact": figures.plain(row.exact_btuh, "BTU/h"),
                "error": f"{100 * row.error_share:+.0f} %".replace("-", "−"),
            }
            for row in result.pocket
        ],
    }


def indicator_marks(sheet: Sheet) -> list[dict]:
    """The row that hangs from one beam: split, airflow, capacity, total static, approach, superheat, as far as they are known."""
    marks = [_indicator(i) for i in sheet.assessed.indicators]
    total = sheet.assessed.total_static
    if total is not None:
        plumb = PlumbMark(total.lean, total.measured.u95 / total.half, SHAPES[total.state])
        marks.insert(min(3, len(marks)), {**mark_words(total, "Total static"), "plumb": plumb, "predicted": False})
    return marks


def _indicator(i) -> dict:
    unit, predicted = i.measured.unit, i.word == "predicted"
    known = i.expected.known
    expect = figures.with_uncertainty(i.expected, difference=True) if known else ""
    return {
        "label": i.label,
        "value": ("≈ " if predicted else "") + figures.figure(i.measured, difference=True),
        "unit": "CFM" if unit == "CFM/ton" else figures.sign(unit),
        "own": f"± {figures.spread(i.measured.u95, unit)}" if i.measured.u95 else "",
        "expect": expect,
        "band": figures.spread(i.tolerance, unit) if i.tolerance else "",
        "source": i.authority,
        "word": "can't tell" if predicted else i.word,
        "out": i.state == "out of range",
        "predicted": predicted,
        "plumb": PlumbMark(i.lean, i.measured.u95 / i.tolerance if i.lean is not None else None, SHAPES[i.state]),
    }


FIGURES = (
    ("Total capacity", "total_btuh", "expected_total_btuh"), ("Sensible", "sensible_btuh", "expected_sensible_btuh"), ("Latent", "latent_btuh", ""),
    ("Sensible heat ratio", "sensible_heat_ratio", "expected_sensible_heat_ratio"), ("Delivered tons", "tons", ""),
    ("Supply dry bulb", "", "expected_supply_dry_bulb_f"), ("Supply humidity", "supply_rh_pct", "expected_supply_rh_pct"),
    ("Gross, with blower heat", "gross_btuh", ""), ("Less condensate (heat ledger)", "total_less_condensate_btuh", ""),
    ("Apparatus dew point", "apparatus_dew_point_f", ""), ("Bypass factor", "bypass_factor", ""), ("Return wet bulb", "return_wet_bulb_f", ""),
    ("Return dew point", "return_dew_point_f", ""), ("Supply dew point", "supply_dew_point_f", ""),
)  # fmt: skip


def _figure_row(result, label: str, measured: str, expected: str) -> dict:
    found, hoped = (result[measured] if measured else None), (result[expected] if expected else None)
    return {
        "label": label,
        "unit": figures.sign((found or hoped).unit),
        "measured": figures.with_uncertainty(found) if found else "",
        "expected": figures.with_uncertainty(hoped) if hoped and hoped.known else "",
        "missing": found.missing if found and not found.known else "",
    }


def _sections(sheet: Sheet) -> list[dict]:
    found = []
    for section in sheet.assessed.whole.sections:
        if section.id not in SECTIONS:
            continue
        rows = [
            {"label": NAMES.get(name, _spoken(name)), "value": _value(name, value)}
            for name, value in section.values.items()
            if NAMES.get(name, name)
        ]
        found.append({"title": SECTIONS[section.id], "rows": rows, "says": [*section.urgent, *section.says]})
    return found


def _spoken(name: str) -> str:
    """'water_flow_gpm' as 'Water flow'."""
    head, _, tail = name.rpartition("_")
    return (head if head and tail in ("f", "btuh", "gpm", "w", "share", "inwc") else name).replace("_", " ").capitalize()


def _value(name: str, value) -> str:
    """An estimate with its unit, or a predicted value in its own words."""
    if not hasattr(value, "known"):
        return str(value)
    return figures.with_uncertainty(value, difference=figures.is_difference(name), unit=True)
