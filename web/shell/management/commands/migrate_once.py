"""Brings the tables up to the code, under a lock."""

from django.core.management import call_command
from django.core.management.base import BaseCommand, CommandError

from web.shell import upgrading


class Command(BaseCommand):
    help = "Bring the tables up to the code; one machine does it while others wait. Refuses tables that are newer."

    def handle(self, *args, **options):
        try:
            upgrading.need_known()
        except upgrading.CodeIsOlder as error:
            raise CommandError(
                f"The tables are of a newer version ({error}). Start that version, or restore the backup of before."
            ) from error
        upgrading.once(self._migrate)

    def _migrate(self) -> None:
        """Only where there is something to do: to look through all steps for nothing takes a start a second."""
        if upgrading.steps_to_do():
            call_command("migrate", verbosity=0)
