"""The demo's weather service: invented, always a summer's day, the same for everybody who asks about the same hour. What
it forecasts has a wet day and a cool one in it.
"""

from datetime import datetime, timedelta
from math import cos, pi
from random import Random
from zoneinfo import ZoneInfo

from django.utils.timezone import localtime, now

from web.houses.weather import Weather

PLACE, RIDGE = "Rivermouth field", "Quarry ridge"
MEAN_F, SWING_F, WARMEST_HOUR, LAPSE_F_PER_FT, STATION_FT = 86.0, 8.0, 16, 0.0036, 1150.0
MEAN_INHG = 29.95
WET_AHEAD, COOL_AHEAD, COOLER_F = timedelta(days=3), timedelta(days=4), 34.0


def at(house, when: datetime) -> Weather:
    """What the station said at the last full hour, or forecasts for it."""
    zone = ZoneInfo(house.shop.time_zone)
    hour = localtime(when, zone).replace(minute=0, second=0, microsecond=0)
    ahead = hour.date() - localtime(now(), zone).date()
    day = Random(hour.date().isoformat())
    air = MEAN_F + SWING_F * cos(2 * pi * (hour.hour - WARMEST_HOUR) / 24) + day.uniform(-3, 3)
    air -= COOLER_F if ahead == COOL_AHEAD else 0.0
    return Weather(
        house.weather_place or PLACE,
        hour,
        air - LAPSE_F_PER_FT * (house.altitude_ft - STATION_FT),
        MEAN_INHG + day.uniform(-0.25, 0.25),
        ahead == WET_AHEAD,
    )
