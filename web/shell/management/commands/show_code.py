"""Shows an address as a code in the terminal, for a phone's camera."""

from io import StringIO

import segno
from django.core.management.base import BaseCommand


class Command(BaseCommand):
    help = "Show an address as a QR code."

    def add_arguments(self, parser):
        parser.add_argument("address")

    def handle(self, *args, address, **options):
        drawn = StringIO()
        segno.make(address, error="m", micro=False).terminal(out=drawn, compact=True)
        self.stdout.write(drawn.getvalue())
