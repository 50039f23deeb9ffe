"""A visit as the bundle that the command line assesses and any other program reads."""

from engine.report.bundle.writing import bundle_of
from web.visits.load.held import stored_rounds
from web.visits.load.material import materials_of
from web.visits.models import Visit


def bundle_of_visit(visit: Visit) -> dict:
    """The bundle of a visit, with the round it is held to where there is one."""
    rounds = list(visit.rounds.select_related("visit__system__house__shop").order_by("number"))
    materials = materials_of(rounds)
    found, _ = stored_rounds(materials)
    sealed = materials[-1].held_to(found[-1].mode)
    baseline = stored_rounds(materials_of([sealed.round]))[0][0] if sealed else None
    name = f"{visit.system}, {visit.started_at:%Y-%m-%d}"
    return bundle_of(name, str(visit.system.public_id), found, baseline)
