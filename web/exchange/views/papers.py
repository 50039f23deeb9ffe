"""What is printed: the report of a visit, the sheet in the panel."""

from django.http import HttpResponse
from django.views.decorators.http import require_GET

from web.exchange import panel, paper, report
from web.houserules.services import rules_of
from web.houses.access import system_for
from web.visits.access import round_for


@require_GET
def visit_report(request, public_id):
    """The report of a visit as PDF; a draft while the visit is open."""
    round_ = round_for(request.user, public_id)
    return _pdf(report.pdf_of(request.user, round_, request.GET.get("paper", "")), f"visit-{public_id}")


@require_GET
def panel_sheet(request, public_id):
    """The sheet inside the access panel as PDF, twice on one paper with a line to cut."""
    system = system_for(request.user, public_id)
    settle = f"{rules_of(request.user.shop).settle_minutes:g}"
    context = panel.panel_context(request.user, system) | {"halves": range(2), "settle": settle}
    size = paper.paper_of(request.user.shop, request.GET.get("paper", ""))
    return _pdf(paper.pdf(panel.TEMPLATE, context, size), f"panel-{public_id}")


def _pdf(content: bytes, name: str) -> HttpResponse:
    answer = HttpResponse(content, content_type="application/pdf")
    answer["Content-Disposition"], answer["Cache-Control"] = f'inline; filename="{name}.pdf"', "private, no-store"
    return answer
