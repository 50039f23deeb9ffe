"""The demo shop: invented people, houses and readings. Installed in the demo and in tests only."""

from django.apps import AppConfig


class DemoConfig(AppConfig):
    name = "web.demo"
