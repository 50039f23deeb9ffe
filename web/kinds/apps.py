"""The app of what is known of kinds."""

from django.apps import AppConfig


class KindsConfig(AppConfig):
    name = "web.kinds"
