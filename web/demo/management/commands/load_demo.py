"""Load the demo shop once."""

from django.core.management.base import BaseCommand

from web.demo import loading
from web.settings.base import required


class Command(BaseCommand):
    help = "Load the demo shop; does nothing when it is there already."

    def handle(self, *args, **options):
        if loading.load(required("RUDDY_DEMO_PASSWORD"), required("RUDDY_GATEWAY_TOKEN")):
            self.stdout.write("The demo shop was loaded.")
