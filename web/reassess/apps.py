"""The app of re-assessment."""

from django.apps import AppConfig


class ReassessConfig(AppConfig):
    name = "web.reassess"
