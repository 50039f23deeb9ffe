"""The bottom of the web: base template, components, error pages, checks."""

from django.apps import AppConfig


class ShellConfig(AppConfig):
    name = "web.shell"

    def ready(self):
        from web.shell import checks  # noqa: F401, PLC0415 - registers itself, Django's own way
