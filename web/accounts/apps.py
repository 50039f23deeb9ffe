"""People, their shop, their role."""

from django.apps import AppConfig


class AccountsConfig(AppConfig):
    name = "web.accounts"
