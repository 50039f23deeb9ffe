"""The first screen."""

from django.apps import AppConfig


class TodayConfig(AppConfig):
    name = "web.today"
