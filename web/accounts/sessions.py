"""Sessions in the database that know whose they are, so that they can be shown and ended."""

from typing import cast

from django.contrib.auth import SESSION_KEY
from django.contrib.sessions.backends.db import SessionStore as DatabaseStore

from web.accounts.models import Session

DEVICE, ADDRESS, SEEN = "device", "address", "seen"


class SessionStore(DatabaseStore):
    """Django's own, with the person, the device and when it was last used beside its data."""

    @classmethod
    def get_model_class(cls):
        return Session

    def create_model_instance(self, data):
        row = cast(Session, super().create_model_instance(data))
        row.person_id = int(data[SESSION_KEY]) if SESSION_KEY in data else None
        row.device, row.address, row.seen = data.get(DEVICE, ""), data.get(ADDRESS, ""), data.get(SEEN, 0)
        return row
