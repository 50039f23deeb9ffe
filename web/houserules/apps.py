"""The shop's choice of schools and tolerances."""

from django.apps import AppConfig


class HouseRulesConfig(AppConfig):
    name = "web.houserules"
    label = "houserules"
