"""The app of a machine's years."""

from django.apps import AppConfig


class HistoryConfig(AppConfig):
    name = "web.history"
