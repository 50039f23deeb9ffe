"""Turn samples older than a day into ten-second means."""

from django.core.management.base import BaseCommand

from web.probes.services import thin


class Command(BaseCommand):
    help = (
        "Turn samples older than a day into ten-second means; run it every hour or so. "
        "Small steps: it can be stopped and run again."
    )

    def handle(self, *args, **options):
        total = 0
        while went := thin():
            total += went
            self.stdout.write(f"{total} samples thinned")
