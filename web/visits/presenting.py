"""The sheet's results as the templates show them: verdict, marks, chart, figures, schools, pocket formulas."""

from web.shell.drawing.palette import SCREEN
from web.shell.drawing.plumb import PlumbMark, beam
from web.shell.drawing.psychrometric import chart_svg
from web.visits import bridge
from web.visits.bridge import METHODS, OBSERVATIONS, PLANES
from web.visits.figures import figure, plain, with_uncertainty
from web.visits.sheet import HUMIDITY_KINDS, PLACES, QUESTIONS, Place, Sheet

SHAPES = {"in range": "round", "borderline": "half", "out of range": "triangle", "can't tell yet": "hollow"}
UNIT_SIGNS = {"CFM/ton": "CFM"}


def results_context(sheet: Sheet) -> dict:
    """What the results side shows: verdict, marks, chart, figures, schools, pocket formulas."""
    result = sheet.assessed.result
    marks = [
        {
            "label": i.label,
            "value": figure(i.measured),
            "unit": UNIT_SIGNS.get(i.measured.unit, i.measured.unit) if i.measured.known else "",
            "own": f"± {plain(i.measured.u95, i.measured.unit)}" if i.measured.u95 else "",
            "expect": with_uncertainty(i.expected) if i.expected.known else "",
            "band": plain(i.tolerance, i.measured.unit) if i.tolerance else "",
            "word": i.word,
            "out": i.state == "out of range",
            "sentence": i.sentence,
        }
        for i in result.indicators
    ]
    plumb = [
        PlumbMark(i.lean, i.measured.u95 / i.tolerance if i.lean is not None else None, SHAPES[i.state])
        for i in result.indicators
    ]
    return {
        "sheet": sheet,
        "verdict": result.verdict,
        "result": result,
        "marks": marks,
        "beam": beam(plumb, SCREEN),
        "chart": chart_svg(sheet.assessed.chart, SCREEN),
        "chart_marks": [m for m in sheet.assessed.chart.marks if m.number],
        "has_region": bool(sheet.assessed.chart.region),
        "figures": _figures(result),
        "notes": [f.note for f in sheet.fields.values()],
        "schools": [
            {
                "label": s.label,
                "target": plain(s.target_f, "°F"),
                "tolerance": plain(s.tolerance_f, "°F") if s.tolerance_f else "",
                "reason": s.reason,
            }
            for s in result.schools
        ],
        "pocket": [
            {
                "formula": row.formula,
                "pocket": plain(row.pocket_btuh, "BTU/h"),
                "exact": plain(row.exact_btuh, "BTU/h"),
                "error": f"{100 * row.error_share:+.0f} %".replace("-", "−"),
            }
            for row in result.pocket
        ],
    }


def page_context(sheet: Sheet) -> dict:
    """What the input side shows, with the results beside it."""
    places = []
    for place in PLACES:
        fields = [sheet.fields[f"{place.id}.{quantity}"] for quantity in place.quantities]
        places.append({"place": place, "fields": fields, "next": _next_name(place)})
    return {
        **results_context(sheet),
        "places": places,
        "visit": sheet.visit,
        "round": sheet.round,
        "humidity_kinds": HUMIDITY_KINDS,
        "methods": METHODS.values(),
        "planes": PLANES,
        "questions": [(name, label, OBSERVATIONS[name]) for name, label in QUESTIONS.items()],
        "guess_cfm": f"{bridge.guess_cfm(sheet.visit.system):.0f}",
    }


def _figures(result) -> list[dict]:
    rows = (
        ("Total capacity", "total_btuh", "expected_total_btuh"),
        ("Sensible", "sensible_btuh", "expected_sensible_btuh"),
        ("Latent", "latent_btuh", ""),
        ("Sensible heat ratio", "sensible_heat_ratio", "expected_sensible_heat_ratio"),
        ("Delivered tons", "tons", ""),
        ("Supply dry bulb", "", "expected_supply_dry_bulb_f"),
        ("Supply humidity", "supply_rh_pct", "expected_supply_rh_pct"),
        ("Gross, with blower heat", "gross_btuh", ""),
        ("Less condensate (heat ledger)", "total_less_condensate_btuh", ""),
        ("Apparatus dew point", "apparatus_dew_point_f", ""),
        ("Bypass factor", "bypass_factor", ""),
        ("Return wet bulb", "return_wet_bulb_f", ""),
        ("Return dew point", "return_dew_point_f", ""),
        ("Supply dew point", "supply_dew_point_f", ""),
    )
    return [_figure_row(result, *row) for row in rows]


def _figure_row(result, label: str, measured: str, expected: str) -> dict:
    found, hoped = (result[measured] if measured else None), (result[expected] if expected else None)
    unit = (found or hoped).unit
    missing = found.missing if found and not found.known else ""
    return {
        "label": label,
        "unit": unit,
        "measured": with_uncertainty(found) if found else "",
        "expected": with_uncertainty(hoped) if hoped and hoped.known else "",
        "missing": missing,
    }


def _next_name(place: Place) -> str:
    index = PLACES.index(place)
    return PLACES[index + 1].tab.lower() if index + 1 < len(PLACES) else "result"
