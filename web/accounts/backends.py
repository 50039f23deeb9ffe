"""Who is signed in, with the shop that every page asks for."""

from django.contrib.auth.backends import ModelBackend

from web.accounts.models import User


class PersonBackend(ModelBackend):
    """Django's own, with the person's shop in the same query."""

    def get_user(self, user_id):
        person = User.objects.select_related("shop").filter(pk=user_id).first()
        return person if person and self.user_can_authenticate(person) else None
