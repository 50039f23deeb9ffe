"""The Air station: every way to the airflow with its weight, the blower's curve and operating point, statics, ducts and rooms."""

from web.shell.drawing.curves import blower_svg
from web.visits import bridge, figures
from web.visits.presenting.stops import mark_words
from web.visits.sheet import Sheet


def context(sheet: Sheet, palette: dict[str, str]) -> dict:
    """What the station shows beside its fields."""
    assessed = sheet.assessed
    weighed, chart = assessed.whole.airflow, assessed.blower
    flow = assessed.result["cfm_per_ton"]
    sections = {name: assessed.section(name) for name in ("airflow", "statics", "ducts", "rooms")}
    return {
        "airflows": [_airflow(estimate, weighed.weights if weighed else {}) for estimate in assessed.airflows],
        "other_ways": [stop for stop in sheet.stops if stop.question == "airflow" and not stop.number],
        "weighed": figures.with_uncertainty(flow) if flow.known else "",
        "weighed_cfm": figures.plain(flow.value * sheet.system.nominal_tons, "CFM") if flow.known else "",
        "disagreements": weighed.disagreements if weighed else (),
        "caveats": _caveats(sections["airflow"], weighed),
        "blower_curve": blower_svg(chart, palette) if chart else "",
        "blower_why": chart.why if chart else "No blower table is entered for this unit.",
        "has_table": chart is not None,
        "tap": sheet.system.tap,
        "total_static": mark_words(assessed.total_static, "Total external static") if assessed.total_static else None,
        "static_shares": _shares(sections["statics"]),
        "static_says": sections["statics"].says if sections["statics"] else [],
        "duct_says": sections["ducts"].says if sections["ducts"] else [],
        "rooms": _rooms(sheet, sections["rooms"]),
        "room_says": sections["rooms"].says if sections["rooms"] else [],
    }


def _caveats(section, weighed) -> list[str]:
    """What is to be read with an airflow, and why one that was begun could not be worked out."""
    known = weighed.disagreements if weighed else ()
    says = [text.rstrip(".") for text in section.says if text not in known] if section else []
    return [f"{text[:1].upper()}{text[1:]}." for text in says]


def _airflow(estimate, weights: dict[str, float]) -> dict:
    method = bridge.METHODS[estimate.method]
    return {
        "label": method.label,
        "cfm": figures.plain(estimate.cfm, "CFM"),
        "u95": figures.plain(estimate.u95_cfm, "CFM"),
        "plane": bridge.PLANES[estimate.plane],
        "weight": f"{100 * weights[estimate.method]:.0f} %" if estimate.method in weights else "not weighed",
        "share": round(100 * weights.get(estimate.method, 0.0)),
        "measured": method.measured,
    }


def _shares(section) -> list[dict]:
    if section is None:
        return []
    return [
        {"label": name.removesuffix("_share").replace("_", " ").capitalize(), "share": f"{100 * value.value:.0f} %"}
        for name, value in section.values.items()
        if name.endswith("_share")
    ]


def _rooms(sheet: Sheet, section) -> list[dict]:
    values = section.values if section else {}
    return [
        {
            "name": room.name,
            "duct": f"{room.diameter_in:g} in. {room.duct}",
            "wants": figures.plain(room.wants_cfm, "CFM") if room.wants_cfm else "",
            "carries": figures.with_uncertainty(values[f"{room.name}: carries"]) if f"{room.name}: carries" in values else "",
            "gain": figures.with_uncertainty(values[f"{room.name}: gain"], difference=True)
            if f"{room.name}: gain" in values
            else "",
        }
        for room in sheet.material.rooms
    ]
