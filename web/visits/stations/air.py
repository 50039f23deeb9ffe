"""The Air station: every way to the airflow with its weight, the blower's curve and operating point, statics, ducts and
rooms.
"""

from web.shell.drawing.curves import blower_svg
from web.visits import figures
from web.visits.bridge import vocabulary
from web.visits.load.for_engine import tap_of
from web.visits.load.sheet import Sheet
from web.visits.stations.stops import mark_words


def context(sheet: Sheet, palette: dict[str, str]) -> dict:
    """What the station shows beside its fields."""
    assessed = sheet.assessed
    flows, chart = assessed.airflows, assessed.blower
    weights = flows.weighed.weights if flows.weighed else {}
    flow, rooms = assessed.measured("cfm_per_ton"), [room.name for room in sheet.material.rooms]
    return {
        "airflows": [_airflow(estimate, weights) for estimate in flows.estimates],
        "other_ways": [stop for stop in sheet.stops if stop.question == "airflow" and not stop.number],
        "weighed": figures.with_uncertainty(flow) if weights else "",
        "weighed_cfm": figures.plain(flow.value * sheet.system.nominal_tons, "CFM") if weights else "",
        "disagreements": assessed.airflow_disagreements,
        "caveats": [text for text in assessed.airflow_notes if text not in assessed.airflow_disagreements],
        "blower_curve": blower_svg(chart, palette) if chart else "",
        "blower_why": chart.why if chart else "No blower table is entered for this unit.",
        "has_table": chart is not None,
        "tap": tap_of(sheet.material, sheet.seen),
        "total_static": mark_words(assessed.total_static, "Total external static") if assessed.total_static else None,
        "static_shares": [
            {"label": part.capitalize(), "share": f"{100 * share:.0f} %"}
            for part, share in assessed.static_shares().items()
        ],
        "static_says": assessed.static_says(),
        "duct_says": assessed.duct_says(),
        "rooms": [_room(sheet, room) for room in sheet.material.rooms],
        "room_says": assessed.room_says(rooms),
    }


def _airflow(estimate, weights: dict[str, float]) -> dict:
    method = vocabulary.METHODS[estimate.method]
    return {
        "label": method.label,
        "cfm": figures.plain(estimate.cfm, "CFM"),
        "u95": figures.plain(estimate.u95_cfm, "CFM"),
        "plane": vocabulary.PLANES[estimate.plane],
        "weight": f"{100 * weights[estimate.method]:.0f} %" if estimate.method in weights else "not weighed",
        "share": round(100 * weights.get(estimate.method, 0.0)),
        "measured": method.measured,
    }


def _room(sheet: Sheet, room) -> dict:
    carries, gain = sheet.assessed.room(room.name)
    return {
        "name": room.name,
        "duct": f"{room.diameter_in:g} in. {room.duct}",
        "wants": figures.plain(room.wants_cfm, "CFM") if room.wants_cfm else "",
        "carries": figures.with_uncertainty(carries.measured) if carries else "",
        "gain": figures.with_uncertainty(gain.measured, difference=True) if gain and gain.measured.known else "",
    }
