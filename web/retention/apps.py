"""What may be taken away of the rows that are kept, and the record of it."""

from django.apps import AppConfig


class RetentionConfig(AppConfig):
    name = "web.retention"
