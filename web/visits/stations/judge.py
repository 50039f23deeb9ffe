"""The Judge station: the row of marks, the charts, the heat ledger, every figure,
the schools and the pocket formulas.
"""

from web.shell.bridge import words
from web.shell.drawing.beams import ledger_svg
from web.shell.drawing.plumb import PlumbMark, beam
from web.shell.drawing.psychrometric import chart_svg
from web.visits import figures
from web.visits.bridge.results import allowed, is_difference, label_of
from web.visits.load.sheet import Sheet
from web.visits.stations.stops import SHAPES


def context(sheet: Sheet, palette: dict[str, str]) -> dict:
    """What the station shows."""
    assessed = sheet.assessed
    marks = [mark | {"drawn": beam([mark["plumb"]], palette)} for mark in row_of_marks(sheet)]
    return {
        "marks": marks,
        "is_contradicted": assessed.is_contradicted,
        "chart": chart_svg(assessed.chart, palette, celsius=words().scale == "C"),
        "chart_marks": [m for m in assessed.chart.marks if m.number],
        "has_region": bool(assessed.chart.region),
        "ledger": ledger_svg(assessed.ledger, palette) if assessed.ledger else "",
        "ledger_says": assessed.ledger.says if assessed.ledger else (),
        "figures": [_figure_row(assessed, *row) for row in FIGURES] if sheet.mode == "cooling" else [],
        "scale": f"°{words().scale}",
        "headings": assessed.headings(),
        "coil_expected_dry": assessed.coil_expected_dry,
        "outside_curves": assessed.outside_curves,
        "sampled": assessed.sampled,
        "schools": [_school(sheet, *said) for said in assessed.schools()],
        "pocket": [
            {
                "formula": row.formula,
                "pocket": figures.plain(row.pocket_btuh, "BTU/h"),
                "exact": figures.plain(row.exact_btuh, "BTU/h"),
                "error": f"{100 * row.error_share:+.0f} %".replace("-", "−"),
            }
            for row in assessed.pocket()
        ],
    }


def _school(sheet: Sheet, school, label: str, reason: str) -> dict:
    return {
        "label": label,
        "target": figures.plain(school.target_f, "°F", difference=True),
        "tolerance": figures.spread(school.tolerance_f, "°F") if school.tolerance_f else "",
        "reason": reason,
        "ours": school.school == sheet.material.rules.split_school,
    }


def row_of_marks(sheet: Sheet) -> list[dict]:
    """The row that hangs from one beam, as far as its quantities are known."""
    return [mark_of(q) for q in sheet.assessed.row]


def mark_of(q) -> dict:
    """A quantity as a mark of the row: value, what is expected, word, and its drawing."""
    unit, difference = q.unit, is_difference(q)
    over = q.high if q.off.known and q.off.value > 0 else q.low
    half = q.limit / 2 if q.limit is not None else over or q.high or q.low
    own = q.measured if q.limit is not None else q.off
    return {
        "label": label_of(q),
        "value": figures.figure(q.measured, difference),
        "unit": figures.sign(unit),
        "own": f"± {figures.spread(q.measured.u95, unit)}" if q.measured.known and q.measured.u95 else "",
        "expect": allowed(q),
        "source": q.authority,
        "word": q.word,
        "out": q.state == "out of range",
        "predicted": q.predicted,
        "plumb": PlumbMark(q.lean, own.u95 / half if q.lean is not None and own.known else None, SHAPES[q.state]),
    }


FIGURES = (
    ("Total capacity", "total_btuh", "expected_total_btuh"), ("Sensible", "sensible_btuh", "expected_sensible_btuh"),
    ("Latent", "latent_btuh", ""),
    ("Sensible heat ratio", "sensible_heat_ratio", "expected_sensible_heat_ratio"), ("Delivered", "tons", ""),
    ("Supply dry bulb", "", "expected_supply_dry_bulb_f"),
    ("Supply humidity", "supply_rh_pct", "expected_supply_rh_pct"),
    ("Gross, with blower heat", "gross_btuh", ""), ("Less condensate (heat ledger)", "total_less_condensate_btuh", ""),
    ("Apparatus dew point", "apparatus_dew_point_f", ""), ("Bypass factor", "bypass_factor", ""),
    ("Return wet bulb", "return_wet_bulb_f", ""),
    ("Return dew point", "return_dew_point_f", ""), ("Supply dew point", "supply_dew_point_f", ""),
)  # fmt: skip


def _figure_row(assessed, label: str, measured: str, expected: str) -> dict:
    found, hoped = assessed.measured(measured) if measured else None, assessed.expected(expected) if expected else None
    return {
        "label": label,
        "unit": figures.sign((found or hoped).unit),
        "measured": figures.with_uncertainty(found) if found else "",
        "expected": figures.with_uncertainty(hoped) if hoped and hoped.known else "",
        "missing": assessed.why(found) if found and not found.known else "",
    }
