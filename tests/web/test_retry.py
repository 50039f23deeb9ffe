"""A change that the database broke off is tried again; what is no such thing is not."""

import pytest
from django.db import OperationalError, transaction

from web.shell import retry
from web.shell.retry import DEADLOCK, TRIES, WAITED_TOO_LONG, retried


class Change:
    """A change that the database breaks off so many times, with this number of its own."""

    def __init__(self, times, number):
        self.times, self.number, self.tried = times, number, 0

    def __call__(self):
        self.tried += 1
        if self.tried <= self.times:
            raise OperationalError(self.number, "broken off")
        return "kept"


@pytest.fixture
def pauses(monkeypatch):
    found = []
    monkeypatch.setattr(retry.time, "sleep", found.append)
    return found


@pytest.mark.django_db(transaction=True)
@pytest.mark.parametrize("number", [DEADLOCK, WAITED_TOO_LONG])
def test_what_was_broken_off_is_tried_again_after_a_pause_that_grows(pauses, number):
    change = Change(TRIES - 1, number)
    assert retried(change) == "kept" and change.tried == TRIES
    assert len(pauses) == TRIES - 1 and all(0 < pause < 0.2 for pause in pauses)
    given_up = Change(TRIES, number)
    with pytest.raises(OperationalError):
        retried(given_up)
    assert given_up.tried == TRIES, "never for ever"


@pytest.mark.django_db(transaction=True)
def test_another_fault_or_a_transaction_around_it_is_told_at_once(pauses):
    away = Change(1, 2013)
    with pytest.raises(OperationalError):
        retried(away)
    within = Change(1, DEADLOCK)
    with pytest.raises(OperationalError), transaction.atomic():
        retried(within)
    assert away.tried == within.tried == 1 and pauses == []
