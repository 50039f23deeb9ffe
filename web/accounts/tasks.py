"""What the queue does for the door: a letter takes as long whoever asked for it."""

from django.db.models import Q
from django.urls import reverse
from django_tasks import task

from web.accounts import letters
from web.accounts.models import User
from web.accounts.services import let_choose_forgotten
from web.shell.address import public_address

MOST = 5  # people who share a mail address


@task()
def send_forgotten(name: str) -> None:
    """Send a way to a new password to who signs in under a name, or has that mail address; to nobody else."""
    named = Q(username__iexact=name) | Q(email__iexact=name)
    people = User.objects.filter(named, is_active=True, shop__isnull=False).exclude(email="")
    for person in people.select_related("shop")[:MOST]:
        if person.has_usable_password():
            address = public_address(reverse("accounts:come_in", args=[let_choose_forgotten(person)]))
            letters.send(person.email, "password", person.shop, address, "an hour")
