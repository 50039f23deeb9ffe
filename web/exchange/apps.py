"""The exchange app."""

from django.apps import AppConfig


class ExchangeConfig(AppConfig):
    name = "web.exchange"
