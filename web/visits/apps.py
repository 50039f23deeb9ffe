"""The sheet: visits, rounds, readings, observations, assessments."""

from django.apps import AppConfig


class VisitsConfig(AppConfig):
    name = "web.visits"
