"""Makes a shop, and the link by which its first lead comes in."""

from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

from django.core.management.base import BaseCommand, CommandError
from django.urls import reverse

from web.accounts.services import make_shop
from web.shell.address import public_address


class Command(BaseCommand):
    help = "Make a shop. Prints the address at which its first lead chooses a name and a password; it opens once."

    def add_arguments(self, parser):
        parser.add_argument("name", help="what the shop is called")
        parser.add_argument("first_name", help="first name of its lead")
        parser.add_argument("last_name", nargs="?", default="")
        parser.add_argument("--time-zone", default="UTC", help="where it works, such as America/Denver")

    def handle(self, *args, name, first_name, last_name, time_zone, **options):
        try:
            ZoneInfo(time_zone)
        except (ZoneInfoNotFoundError, ValueError) as error:
            raise CommandError(f"There is no time zone '{time_zone}': such as America/Denver.") from error
        if not name.strip() or not first_name.strip():
            raise CommandError("A shop needs a name, and its lead too.")
        _, token = make_shop(name.strip()[:80], time_zone, first_name.strip()[:60], last_name.strip()[:60])
        self.stdout.write(public_address(reverse("accounts:come_in", args=[token])))
