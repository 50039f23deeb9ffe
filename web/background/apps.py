"""The app of background work."""

from django.apps import AppConfig


class BackgroundConfig(AppConfig):
    name = "web.background"
