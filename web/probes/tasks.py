"""Background work on samples."""

from datetime import timedelta

from web.background.kinds import Kind, Step
from web.background.models import Work
from web.probes.services import thin

AT_ONCE = 2_000


def _thin(work: Work) -> Step:
    went = thin(most=AT_ONCE)
    return Step(went, ended=went < AT_ONCE, says=_said(work.done + went))


def _said(went: int) -> str:
    return f"{went} samples became ten-second means." if went else "No sample is old enough."


THIN_SAMPLES = Kind("Thinning old samples", _thin, timedelta(hours=1))
