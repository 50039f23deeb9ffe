"""Makes a way back in for who has nobody to ask: a shop's only lead."""

from django.core.management.base import BaseCommand, CommandError
from django.urls import reverse

from web.accounts import second
from web.accounts.models import User
from web.accounts.services import let_choose_forgotten
from web.shell.address import public_address


class Command(BaseCommand):
    help = "Print an address at which a person chooses a new password. It opens once, for an hour."

    def add_arguments(self, parser):
        parser.add_argument("name", help="the name the person signs in with")
        parser.add_argument("--without-code", action="store_true", help="ask for no code of an app any more")

    def handle(self, *args, name, without_code, **options):
        person = User.objects.filter(username__iexact=name, is_active=True, shop__isnull=False).first()
        if person is None:
            raise CommandError(f"Nobody signs in as '{name}'.")
        if without_code:
            second.forget(person)
        self.stdout.write(public_address(reverse("accounts:come_in", args=[let_choose_forgotten(person)])))
