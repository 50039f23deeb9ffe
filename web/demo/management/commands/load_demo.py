"""Load the demo shop once, into tables as this code has them."""

from django.core.management import call_command
from django.core.management.base import BaseCommand

from web.demo import loading
from web.settings.base import required


class Command(BaseCommand):
    help = "Bring the tables up to the code and load the demo shop; does nothing when it is there already."

    def handle(self, *args, **options):
        call_command("migrate_once")
        if loading.load(required("RUDDY_DEMO_PASSWORD"), required("RUDDY_GATEWAY_TOKEN")):
            self.stdout.write("The demo shop was loaded.")
