"""Say who can sign in to the demo."""

from django.core.management.base import BaseCommand

from web.accounts.rights import ROLES
from web.demo.data import PEOPLE
from web.settings.base import required


class Command(BaseCommand):
    help = "Print the demo's sign-ins."

    def handle(self, *args, **options):
        for username, first, last, role in PEOPLE:
            self.stdout.write(
                f"  {ROLES[role]:<11} {first} {last:<10} name {username:<6} password {required('RUDDY_DEMO_PASSWORD')}"
            )
