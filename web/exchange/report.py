"""The report of a visit: what was asked, found, done and advised, from the sheet, words and drawings of the screen."""

from dataclasses import dataclass

from django.utils import timezone

from web.exchange import paper
from web.houses.models import Instrument
from web.shell.bridge import words
from web.shell.drawing.palette import PRINT
from web.shell.drawing.plumb import beam
from web.shell.drawing.psychrometric import chart_svg
from web.shell.trace import or_else
from web.visits.access import Around, around, last_instruments
from web.visits.bridge import vocabulary
from web.visits.bridge.results import authority_of, label_of
from web.visits.changes.picture_files import name_of
from web.visits.load.filling import stored_sheet
from web.visits.load.material import material_of, standing
from web.visits.load.sheet import Sheet
from web.visits.models import FINISHED, ON, Reading, Remark, Round
from web.visits.stations import drawing, fix, judge, verdict

TEMPLATE = "exchange/report.html"
MARKS_ABREAST = 8
PAGES = 2
EVIDENCE, NOT_SEEN, PICTURES, CHANGES, COMPARED, FOLLOW_UPS = 3, 4, 4, 5, 8, 5  # of each at most


@dataclass(frozen=True)
class Report:
    """What the template shows, and what the pictures that it asks for are called in the store."""

    context: dict
    pictures: dict[str, str]


def report_of(user, round_: Round) -> Report:
    """The report of a visit by its last round. A part that cannot be made is left out and named."""
    material = material_of(round_)
    sheet = stored_sheet(material, user, last_instruments(user))
    beside = around(user, material)
    ending = next((row for row in beside.closings if row.did == FINISHED), None) if material.visit.is_finished else None
    chosen = [p for p in beside.photos if ending and str(p.public_id) in ending.pictures][:PICTURES]
    parts = {
        "found": lambda: _found(sheet),
        "marks": lambda: _marks(sheet),
        "expected_by": lambda: _expected_by(sheet),
        "compared": lambda: _compared(sheet, beside),
        "drawn": lambda: drawing.one(sheet, PRINT, narrow=False)["drawing"],
        "chart": lambda: _chart(sheet),
    }
    made = (
        {} if sheet.broken else {name: or_else(f"report: {name}", part, lambda: None) for name, part in parts.items()}
    )
    context = {
        **made,
        "visit": material.visit,
        "system": material.system,
        "round": round_,
        "sheet": sheet,
        "draft": ending is None,
        "ending": ending,
        "made_at": timezone.now(),
        "broken": sheet.broken,
        "asked": _asked(sheet),
        "done": _done(beside, material.hook_ups),
        "follow_ups": beside.follow_ups[:FOLLOW_UPS],
        "instruments": _instruments(material.visit),
        "pictures": chosen,
        "cautions": vocabulary.machine_cautions(material.system.refrigerant, sheet.seen),
        "prevail": vocabulary.PREVAIL,
        "rules": material.rules.version,
        "engine": material.stored.get("engine", "") if material.stored else "",
    }
    return Report(context, {str(p.public_id): name_of(p, "small") for p in chosen})


def _found(sheet: Sheet) -> dict:
    """The verdict with its first cause's evidence, and what these readings cannot see."""
    said = verdict.context(sheet)
    first = said["causes"][0] if said["causes"] else None
    to_read = said["verdict_kind"] == "fine" and said["leads"]  # of a sound machine what is left to read is no advice
    return {
        "verdict": said["verdict"],
        "advised": "" if to_read else said["verdict"].next_step,
        "split_line": said["split_line"],
        "gauges": said["gauges"],
        "gauges_say": said["gauges_say"],
        "by_gauge": said["by_gauge"],
        "causes": said["causes"][:EVIDENCE],
        "speaks_for": first["said"].speaks_for[:EVIDENCE] if first else (),
        "speaks_against": first["said"].speaks_against[:EVIDENCE] if first else (),
        "not_seen": said["not_seen"][:NOT_SEEN],
        "steps": said["next_steps"][:EVIDENCE],
    }


def _marks(sheet: Sheet) -> list[dict]:
    """Rows of marks under a beam each."""
    marks = judge.row_of_marks(sheet)
    rows = [marks[n : n + MARKS_ABREAST] for n in range(0, len(marks), MARKS_ABREAST)]
    return [{"beam": beam([mark["plumb"] for mark in row], PRINT), "marks": row} for row in rows]


def _expected_by(sheet: Sheet) -> list[tuple[str, str]]:
    """Where expected values come from, and of which quantities: one line for each source."""
    found: dict[str, list[str]] = {}
    for q in sheet.assessed.row:
        if source := authority_of(q):
            found.setdefault(source, []).append(label_of(q).lower())
    return [(source, ", ".join(labels)) for source, labels in found.items()]


def _compared(sheet: Sheet, beside: Around) -> dict:
    found = fix.context(sheet, beside)
    return {
        "rows": found["compared"][:COMPARED],
        "columns": found["columns"],
        "verdicts": found["verdicts"],
        "changes": found["changes"][:CHANGES],
    }


def _chart(sheet: Sheet) -> dict:
    chart = sheet.assessed.chart
    return {
        "drawn": chart_svg(chart, PRINT, celsius=words().scale == "C"),
        "marks": [mark for mark in chart.marks if mark.number],
        "region": bool(chart.region),
    }


def _asked(sheet: Sheet) -> list[str]:
    """The complaint as it was said, and what was ticked of it."""
    ticked = []
    for id_, sight in vocabulary.SIGHTS.items():
        degree = sheet.seen.get(id_, "")
        if sight.group == "complaint" and degree in sight.degrees:
            ticked.append(f"{sight.label}: {sight.degrees[degree].lower()}.")
    remarks = standing(Remark.objects.filter(round__visit=sheet.visit, about="complaint"))
    return [f"“{row.text}”" for row in remarks] + ticked


def _done(beside: Around, hook_ups) -> list[str]:
    """All that was done at the visit, in order."""
    earlier = [fix.label_of(row) for _, row in beside.earlier_actions]
    gauges = ["Gauges were connected"] if any(row.did == ON for row in hook_ups) else []
    moved = [f"Refrigerant: {text}" for text in (beside.charge_moved_before, beside.charge_moved) if text]
    return [*gauges, *earlier, *(fix.label_of(row) for row in beside.actions), *moved]


def _instruments(visit) -> list[Instrument]:
    """What the visit was read with."""
    used = Reading.objects.filter(round__visit=visit, instrument__isnull=False).values("instrument")
    return list(Instrument.objects.filter(pk__in=used).order_by("label"))


def pdf_of(user, round_: Round, asked: str = "") -> bytes:
    """The report of a visit as PDF, on the paper asked for or the one usual in the shop."""
    made = report_of(user, round_)
    size = paper.paper_of(round_.visit.shop, asked)
    return paper.pdf(TEMPLATE, made.context, size, made.pictures, most=PAGES)
