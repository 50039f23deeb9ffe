"""Houses, systems, instruments."""

from django.apps import AppConfig


class HousesConfig(AppConfig):
    name = "web.houses"
