"""Who is signed in, with the shop that every page asks for; and nobody by guessing."""

from django.contrib.auth.backends import ModelBackend
from django.core.exceptions import PermissionDenied

from web.accounts import guard
from web.accounts.models import User


class PersonBackend(ModelBackend):
    """Django's own, with the person's shop in the same query, and the guard before it."""

    def authenticate(self, request, username=None, password=None, **more):
        """The person with this name and password; while guessing is paused nobody, whatever the password."""
        if request is None or username is None:  # not by the door: a command of the host's
            return super().authenticate(request, username, password, **more)
        if guard.paused_until(request, username):
            raise PermissionDenied
        person = super().authenticate(request, username, password, **more)
        if person is None:
            guard.note_wrong(request, username)
        return person

    def get_user(self, user_id):
        person = User.objects.select_related("shop").filter(pk=user_id).first()
        return person if person and self.user_can_authenticate(person) else None
