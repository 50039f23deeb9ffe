"""The time on site: settled or not by the clock, and whether what is left allows to settle and read again."""

from dataclasses import dataclass

from engine.constants import REREAD_MINUTES
from engine.houserules.rules import DEFAULT, HouseRules


@dataclass(frozen=True)
class Timing:
    """settle_left_min: minutes until it counts as settled, None when the clock does not run. says: about time, in
    order; hurry: it no longer fits.
    """

    settle_left_min: float | None
    says: tuple[str, ...]
    hurry: bool


def timing(
    running_min: float | None, left_on_site_min: float | None, rules: HouseRules = DEFAULT, thaw_min: float = 0.0
) -> Timing:
    """What the clocks say. running_min: since the start or the last change; left_on_site_min: until one must go; None
    when not known. thaw_min: what a thaw takes, 0 for no ice.
    """
    settle_left = None if running_min is None else max(0.0, rules.settle_minutes - running_min)
    says = []
    if settle_left is None:
        says.append("The clock does not run yet: start it when the system starts.")
    elif settle_left > 0:
        says.append(f"Settling: {running_min:.0f} of {rules.settle_minutes:.0f} minutes. Look and listen meanwhile.")
    else:
        says.append(f"Settled by the clock: {running_min:.0f} minutes.")
    hurry = False
    if left_on_site_min is not None:
        needed = REREAD_MINUTES.value + (settle_left or 0.0)
        after_a_fix = rules.settle_minutes + REREAD_MINUTES.value
        if thaw_min and left_on_site_min < thaw_min + after_a_fix:
            says.append(
                f"The thaw takes about {thaw_min:.0f} minutes and {max(left_on_site_min, 0):.0f} are left: it outlasts "
                "the visit. Leave it thawing, blower on, and a follow-up under Arrive."
            )
            hurry = True
        elif left_on_site_min < needed:
            says.append(
                f"{max(left_on_site_min, 0):.0f} minutes left: too few to settle and read. Say so, and propose a return."
            )
            hurry = True
        elif left_on_site_min < after_a_fix:
            says.append(
                f"{left_on_site_min:.0f} minutes left: no longer enough to fix, settle {rules.settle_minutes:.0f} and read again."
            )
            hurry = True
        else:
            says.append(
                f"{left_on_site_min:.0f} minutes left: a fix can start until {left_on_site_min - after_a_fix:.0f} minutes from now."
            )
    return Timing(settle_left, tuple(says), hurry)
