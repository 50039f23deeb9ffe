"""The weather service's word for a house: a stand-in for a reading, and marked as one wherever it is used; and its
forecast for a visit to come.

Which service is asked is the setting WEATHER_SERVICE: the path of a function (house, when) -> Weather or None; '' for
none. For a moment to come it answers what is forecast for that hour.
"""

from dataclasses import dataclass
from datetime import datetime, timedelta
from functools import partial

from django.conf import settings
from django.utils import timezone
from django.utils.module_loading import import_string

from web.shell.trace import or_else

FORECAST_FOR = timedelta(days=7)  # farther ahead no forecast is worth planning by


@dataclass(frozen=True)
class Weather:
    """What a station said or forecasts: its name, the hour it speaks of, outdoor air [°F], air pressure at sea level
    [in. Hg]; is_wet: rain or snow in that hour.
    """

    station: str
    observed_at: datetime
    outdoor_f: float
    sea_level_inhg: float
    is_wet: bool = False

    def value_of(self, quantity: str) -> float | None:
        """Its figure for a quantity of the outdoor stop, rounded as the service states it."""
        return {"dry_bulb": round(self.outdoor_f), "sea_level_pressure": round(self.sea_level_inhg, 2)}.get(quantity)


def weather_for(house, when: datetime | None = None) -> Weather | None:
    """The service's word for a house's place at a time (now unless given); None where no service is set up, or for a
    house of practice.
    """
    if not settings.WEATHER_SERVICE or house.is_practice:
        return None
    ask = partial(import_string(settings.WEATHER_SERVICE), house, when or timezone.now())
    return or_else("weather service", ask, lambda: None)  # a sheet is worth having without it


def forecast_for(house, when: datetime) -> Weather | None:
    """What is forecast for a house's place at an hour to come; None where nobody can say."""
    now = timezone.now()
    return weather_for(house, when) if now <= when <= now + FORECAST_FOR else None
