"""Finishing a visit, and what may be done with a finished one."""

from django.contrib import messages
from django.shortcuts import redirect
from django.views.decorators.http import require_POST

from web.shell.once import NumberUsed
from web.visits import changes
from web.visits.access import CLOSE_FORM, visit_for
from web.visits.forms import AfterwardsForm, FinishForm
from web.visits.views import typed


@require_POST
def finish(request, public_id):
    """Finish the visit, or say what is in the way; what was typed comes back with the message."""
    visit, form = visit_for(request.user, public_id), FinishForm(request.POST)
    if not form.is_valid():
        return _refused(request, visit, " ".join(error for errors in form.errors.values() for error in errors))
    return _answered(request, visit, "Finished. It changes only by additions now.", changes.finish_visit, **form.said())


@require_POST
def reopen(request, public_id):
    """Open a finished visit again."""
    visit, form = visit_for(request.user, public_id), AfterwardsForm(request.POST)
    form.is_valid()
    return _answered(request, visit, "Open again.", changes.reopen_visit, why=form.words, number=form.number)


@require_POST
def review(request, public_id):
    """A lead's word on a finished visit; returned, it is open again."""
    visit, form = visit_for(request.user, public_id), AfterwardsForm(request.POST)
    form.is_valid()
    again = request.POST.get("did") == "returned"
    said = "Returned to be done again." if again else "Reviewed."
    return _answered(request, visit, said, changes.review_visit, words=form.words, number=form.number, again=again)


def _answered(request, visit, said: str, change, **given):
    try:
        change(request.user, visit, **given)
    except changes.ClosingRefused as error:
        return _refused(request, visit, str(error))
    except NumberUsed:
        return _refused(request, visit, "This page has kept another step already. Reload it and look again.")
    messages.info(request, said)
    return redirect(f"{visit.get_absolute_url()}#close")


def _refused(request, visit, why: str):
    """The message, and what was typed kept for the page that comes."""
    messages.error(request, why)
    typed.keep(request, visit, CLOSE_FORM)
    return redirect(f"{visit.get_absolute_url()}#close")
