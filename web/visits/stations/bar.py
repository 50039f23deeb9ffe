"""The stations along the top edge, each with what is still open there."""

from web.visits.load.clock import running_now
from web.visits.load.gauges import is_on
from web.visits.load.sheet import Sheet
from web.visits.stations import gauges
from web.visits.stations.stops import is_done, is_wanted

# id -> name on a laptop, name on a phone
STATIONS = {
    "arrive": ("Arrive", "Arrive"), "settle": ("Settle", "Settle"), "read": ("Expect & read", "Read"),
    "air": ("Air", "Air"), "judge": ("Judge", "Judge"), "gauges": ("Gauges", "Gauges"),
    "fix": ("Fix & re-read", "Fix"), "close": ("Close", "Close"),
}  # fmt: skip
ASKED_AT_THE_DOOR = ("visit_kind", "complaint_where")
SHORT_VERDICT = {"attention": "look", "fine": "fine", "withheld": "no verdict"}


def context(sheet: Sheet, finished: bool) -> dict:
    """The stations with their open counts."""
    still = {
        "arrive": _arrive(sheet),
        "settle": _settle(sheet),
        "read": _read(sheet),
        "air": _air(sheet),
        "judge": SHORT_VERDICT.get(sheet.assessed.kind, "open"),
        "gauges": _gauges(sheet),
        "fix": f"round {sheet.round.number}",
        "close": "finished" if finished else "open",
    }
    return {
        "stations": [
            {"id": id_, "name": name, "short": short, "open": still[id_]}
            for id_, (name, short) in STATIONS.items()
            if still[id_]
        ]
    }


def _gauges(sheet: Sheet) -> str:
    """Only there when gauges are warranted, were opened or read: '' else."""
    if not gauges.is_open(sheet):
        return ""
    return "on" if is_on(sheet.material.hook_ups) else "open" if gauges.is_warranted(sheet) else "off"


def _open(count: int) -> str:
    return f"{count} open" if count else "done"


def _arrive(sheet: Sheet) -> str:
    asked = sum(name not in sheet.seen for name in ASKED_AT_THE_DOOR)
    return _open(asked + (not sheet.fields["system.time_available"].typed))


def _settle(sheet: Sheet) -> str:
    """The clock first: nothing counts before it; then what was not looked at."""
    running = running_now(sheet.material)
    if running is None:
        return "no clock"
    left = sheet.material.rules.settle_minutes - running
    if left > 0:
        return f"{int(left) + 1} min"
    return _open(sum(sight.id not in sheet.seen for sight in sheet.asked("condition") if sight.id != "mode"))


def _read(sheet: Sheet) -> str:
    wanted = [stop for stop in sheet.stops if is_wanted(sheet, stop)]
    return _open(sum(not is_done(sheet, stop) for stop in wanted))


def _air(sheet: Sheet) -> str:
    flows = sheet.assessed.airflows
    if flows.assumed:
        return "open"
    if not flows.measured:
        return "a guess"
    return "disagree" if sheet.assessed.airflow_disagreements else "measured"
