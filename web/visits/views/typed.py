"""What a refused form said, kept for the page that comes, so that nothing is typed twice."""

_KEY = "typed"
_NOT_TYPED = ("csrfmiddlewaretoken", "number")


def keep(request, visit, form: str) -> None:
    """Keep what a refused form of a visit's page said."""
    fields = {name: value for name, value in request.POST.items() if name not in _NOT_TYPED}
    request.session[_KEY] = {"visit": str(visit.public_id), "form": form, "fields": fields}


def take(request, public_id) -> dict[str, dict]:
    """Form -> what it said, of this visit; once."""
    kept = request.session.pop(_KEY, {})
    return {kept["form"]: kept["fields"]} if kept.get("visit") == str(public_id) else {}
