"""What comes due by itself: a filter, by the rise of its drop since it was changed, where that is known, else by
months; a test in each mode, in its season.
"""

from collections.abc import Sequence
from dataclasses import dataclass
from datetime import date, timedelta

from engine.constants import FILTER_DROP_LOOK, FILTER_DROP_USUAL, MANOMETER_FLOOR
from engine.over_time.history import DAYS_A_YEAR
from engine.readings.vocabulary import GROUND_SOURCE
from engine.uncertainty.trend import trend_of
from engine.validity.weather import COOLING, HEATING

BY_DROP, BY_MONTHS, REACHED = "drop", "months", "reached"
MONTHS_A_YEAR = 12.0
# The month in which a mode is usually tested: the weather allows it, and the season's load is still to come. Common
# practice north of the tropics, no single source.
SEASONS = {COOLING: 5, HEATING: 11}
FEWEST_DAYS_AHEAD = timedelta(days=120)  # working figure: what was tested this season is tested in another


@dataclass(frozen=True)
class FilterDue:
    """When a filter is due. days: the day, from where the drops' days count [d]; by: 'drop' (its rise leads there),
    'reached' (it is there already), 'months' (its drop does not tell); now_inwc: its drop when last read, None where it
    was not; limit_inwc: at which it is changed.
    """

    days: float
    by: str
    now_inwc: float | None
    limit_inwc: float


def filter_due(
    changed_days: float, clean_inwc: float | None, drops: Sequence[tuple[float, float]], months: float
) -> FilterDue:
    """When a filter is due.

    changed_days: the day on which it was put in, or last seen clean [d from any one day]; clean_inwc: its drop then
    [in. w.c.], None where it was not read; drops: the days [d] and drops [in. w.c.] read since, oldest first, the clean
    one among them; months: how long it lasts where its drop does not say [months].

    It is changed at twice its clean drop, or the usual one, and not under FILTER_DROP_LOOK: common practice, no single
    source. The rise is a straight line through the drops (Theil-Sen). It is leaned on where it leads there sooner than
    the months, and is more than the manometer leaves open.
    """
    limit = max(2.0 * (FILTER_DROP_USUAL.value if clean_inwc is None else clean_inwc), FILTER_DROP_LOOK.value)
    now = drops[-1][1] if drops else None
    by_months = FilterDue(changed_days + months / MONTHS_A_YEAR * DAYS_A_YEAR, BY_MONTHS, now, limit)
    if now is None:
        return by_months
    if now >= limit:
        return FilterDue(drops[-1][0], REACHED, now, limit)
    years = [days / DAYS_A_YEAR for days, _ in drops]
    values = [drop for _, drop in drops]
    trend = trend_of(years, values, [MANOMETER_FLOOR.value] * len(drops))
    if trend is None or not trend.is_known or trend.slope <= 0.0:
        return by_months
    days = drops[-1][0] + (limit - now) / trend.slope * DAYS_A_YEAR
    return FilterDue(days, BY_DROP, now, limit) if days < by_months.days else by_months


def modes_of(kind: str) -> tuple[str, ...]:
    """The modes in which a machine of a kind is tested."""
    return (COOLING,) if kind == "air_conditioner" else (COOLING, HEATING)


def next_test(kind: str, today: date) -> tuple[str, date]:
    """In which mode a machine is tested next, and about when: the next season of one of its modes that is not this
    one. A ground-source unit is tested in any weather: in the same way, so that both modes are read each year.
    """
    ahead = [
        (day, mode)
        for mode in modes_of(kind)
        for year in (today.year, today.year + 1, today.year + 2)
        if (day := date(year, SEASONS[mode], 15)) >= today + FEWEST_DAYS_AHEAD
    ]
    day, mode = min(ahead)
    return mode, day


def weather_matters(kind: str) -> bool:
    """Whether a machine's test wants some weather: one without an outdoor coil takes any."""
    return kind != GROUND_SOURCE
