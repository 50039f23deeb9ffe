"""A machine over the years: strings under one beam, what drifts, the same as a table and as CSV."""

import csv
from datetime import UTC, datetime

from django.core.paginator import Paginator
from django.http import HttpResponse
from django.shortcuts import render
from django.urls import reverse
from django.utils import timezone
from django.views.decorators.http import require_GET

from web.history import ledger
from web.history.access import kept_of
from web.history.bridge.strings import FIGURES, Column, History, histories_of, moment_of
from web.history.outcomes import by_certainty, by_group, named, outcomes_of
from web.houses.access import system_for
from web.shell.drawing.palette import SCREEN
from web.shell.drawing.strings import ABREAST, Hanging, Row, strings
from web.shell.forms import read_uuid

OUTCOMES_SHOWN = 40
MODES = {"cooling": "in cooling", "heating": "in heating"}


@require_GET
def system(request, public_id):
    """The history of one machine, in the mode asked for, else in the one with most rounds."""
    machine = system_for(request.user, public_id)
    kept, older = kept_of(request.user, machine)
    histories = histories_of(kept)
    mode = request.GET.get("mode")
    mode = mode if mode in histories else next(iter(histories), "")
    context = {
        "system": machine,
        "mode": mode,
        "modes": {m: MODES[m] for m in histories},
        "older": older,
        "here": "houses",
    }
    if mode:
        context |= _shown(histories[mode])
    log = ledger.log_of(request.user.shop, datetime.min.replace(tzinfo=UTC), timezone.now(), machine)
    context |= {"lines": log.lines, "leak_rate": ledger.leak_rate_of(machine, log.lines)}
    return render(request, "history/system.html", context)


@require_GET
def right(request):
    """How often the shop's verdicts were right, for its leads."""
    rows = outcomes_of(request.user)
    context = {
        "groups": by_group(rows),
        "bands": by_certainty(rows),
        "outcomes": Paginator([(row, row.was and named(row, row.was)) for row in rows], OUTCOMES_SHOWN).get_page(
            request.GET.get("page")
        ),
        "here": "shop",
    }
    return render(request, "history/right.html", context)


@require_GET
def said(request, public_id):
    """A fragment: what of the machine drifts, where something does, and the way to its history. but: the number of the
    visit one is at, which is left out.
    """
    machine = system_for(request.user, public_id)
    histories = histories_of(kept_of(request.user, machine, read_uuid(request.GET.get("but", "")))[0])
    drifting = [(history.says(), history.drifts()) for history in histories.values() if history.drifts()]
    return render(request, "history/_said.html", {"system": machine, "drifting": drifting})


@require_GET
def as_csv(request, public_id):
    """Every point of every string, in the units of the record."""
    machine = system_for(request.user, public_id)
    answer = HttpResponse(content_type="text/csv; charset=utf-8")
    answer["Content-Disposition"] = f'attachment; filename="history-{machine.public_id}.csv"'
    write = csv.writer(answer)
    write.writerow(("mode", *FIGURES))
    for mode, history in histories_of(kept_of(request.user, machine)[0]).items():
        write.writerows((mode, *row) for row in history.figures())
    return answer


def _shown(history: History) -> dict:
    columns = history.columns()
    rows = [_row(history, n) for n in range(len(history.visited))]
    hanging = [_hanging(history, column) for column in columns]
    return {
        "beams": [
            strings(
                rows, hanging[n : n + ABREAST], SCREEN, "Strings of the machine's quantities, the newest round last"
            )
            for n in range(0, len(hanging), ABREAST)
        ],
        "narrow": [strings(rows, [one], SCREEN, one.label, narrow=True) for one in hanging],
        "says": history.says() if columns else "",
        "drifts": history.drifts(),
        "steps": history.steps(),
        "columns": columns,
        "rows": [
            (row, [column.points.get(v.key) for column in columns])
            for row, v in zip(rows, history.visited, strict=True)
        ],
    }


def _row(history: History, number: int) -> Row:
    visited, kept = history.visited[number], history.kept[number].round
    href = reverse("visits:round", args=[kept.visit.public_id, kept.number])
    return Row(f"{moment_of(visited):%b %-d, %Y}", "; ".join(history.happened(visited)), f"{href}#judge", visited.days)


def _hanging(history: History, column: Column) -> Hanging:
    number = {v.key: n for n, v in enumerate(history.visited)}
    drift = None
    if column.drift:
        (first, lean), (last, to_lean) = column.drift
        drift = (number[first], lean), (number[last], to_lean)
    points = {number[key]: point for key, point in column.points.items()}
    return Hanging(column.label, column.now, column.anchor, column.word, column.attention, points, drift)
