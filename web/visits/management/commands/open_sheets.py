"""Opens sheets as a person would: what a drill proves of a restored backup."""

from django.conf import settings
from django.core.management.base import BaseCommand, CommandError
from django.test import Client

from web.visits.models import Visit

MOST = 3


class Command(BaseCommand):
    help = "Open the newest sheets of each shop as their holders; fails where one does not come up."

    def handle(self, *args, **options):
        opened = 0
        for shop in Visit.objects.order_by("shop").values_list("shop", flat=True).distinct():
            for visit in (
                Visit.objects.filter(shop=shop).select_related("started_by", "with_person").order_by("-pk")[:MOST]
            ):
                client = Client(raise_request_exception=False, SERVER_NAME=settings.ALLOWED_HOSTS[0])
                client.force_login(visit.holder)
                answer = client.get(visit.get_absolute_url(), secure=True)
                if answer.status_code != 200:
                    raise CommandError(f"The sheet {visit.public_id} answers {answer.status_code}.")
                client.logout()
                opened += 1
        self.stdout.write(f"{opened} sheets opened.")
