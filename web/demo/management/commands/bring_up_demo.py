"""Tables and data of the demo, in one process: to start another takes seconds."""

from django.core.management import call_command
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    help = "Bring the tables up to the code and load the demo shop."

    def handle(self, *args, **options):
        call_command("migrate_once")
        call_command("load_demo", stdout=self.stdout)
