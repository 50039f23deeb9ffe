"""What comes due, by the engine: rows in, days and words out."""

from collections.abc import Iterable, Sequence
from datetime import date, timedelta

from engine.over_time import upkeep
from engine.report import upkeep_words
from engine.validity.weather import withheld_ahead
from web.houserules.bridge import HouseRules
from web.houses.models import System
from web.houses.weather import Weather
from web.shell.bridge import words

modes_of = upkeep.modes_of


def weather_wanted(system: System, mode: str, rules: HouseRules) -> str:
    """The weather a test of the machine wants, in words; '' where any will do."""
    return upkeep_words.weather_wanted(system.kind, mode, rules, words())


def forecast_says(system: System, mode: str, forecast: Weather, rules: HouseRules) -> str:
    """What a forecast withholds of a test of the machine, in words; '' where nothing."""
    withheld = withheld_ahead(system.kind, mode, forecast.outdoor_f, forecast.is_wet, rules)
    return upkeep_words.forecast_says(withheld, forecast.outdoor_f, words())


def forecast_words(forecast: Weather) -> str:
    """A forecast in words: '83 °F, rain'."""
    return f"{words().temperature(forecast.outdoor_f, 0)}{', rain' if forecast.is_wet else ''}"


def filter_due(
    changed_on: date, clean_inwc: float | None, drops: Sequence[tuple[date, float]], rules: HouseRules
) -> tuple[date, str]:
    """When a filter is due, and why. changed_on: or seen clean; clean_inwc: its drop then, None where it was not read;
    drops: days and drops [in. w.c.] read since.
    """
    days = [((day - changed_on).days, drop) for day, drop in drops]
    found = upkeep.filter_due(0.0, clean_inwc, days, rules.filter_months)
    return changed_on + timedelta(days=round(found.days)), upkeep_words.filter_said(found)


def to_bring(system: System, groups: Iterable[str], changes_filter: bool, moves_charge: bool) -> list[str]:
    """What a visit to the machine wants beside the usual kit. groups: of its last verdict."""
    return upkeep_words.to_bring(system.kind, system.refrigerant, groups, changes_filter, moves_charge)
