"""How often something may be tried: counted in the database, so that all processes and machines count together."""

from collections.abc import Iterable
from dataclasses import dataclass
from datetime import datetime, timedelta

from django.db import IntegrityError, transaction
from django.db.models import F
from django.utils import timezone

from web.accounts.models import Tally
from web.shell.retry import retried
from web.shell.tokens import hash_of


@dataclass(frozen=True)
class Limit:
    """At most so many in a stretch of time, which begins with the first.

    id: permanent. most: how many may be. within: the stretch.
    """

    id: str
    most: int
    within: timedelta

    def count(self, of: object = "") -> datetime | None:
        """One more of somebody or something; until when it is too many, None while it is not."""
        return retried(lambda: self._counted(of))  # many count in the same row

    def _counted(self, of: object) -> datetime | None:
        now, key = timezone.now(), self._key(of)
        mine = Tally.objects.filter(key=key)
        if not mine.filter(until__gt=now).update(count=F("count") + 1):
            mine.filter(until__lte=now).delete()
            try:
                with transaction.atomic():
                    Tally.objects.create(key=key, count=1, until=now + self.within)
            except IntegrityError:  # another process began the stretch
                mine.update(count=F("count") + 1)
        return self._until(mine, self.most + 1)

    def spent_until(self, of: object = "") -> datetime | None:
        """Until when nothing more may be tried; None while it may."""
        return self._until(Tally.objects.filter(key=self._key(of)), self.most)

    def is_just_spent(self, of: object = "") -> bool:
        """Whether the last one counted was the last that may be."""
        return Tally.objects.filter(key=self._key(of), count=self.most).exists()

    def spent_among(self, ofs: Iterable[str]) -> dict[str, datetime]:
        """Which of them may not try now, and until when; one query."""
        keys = {self._key(of): of for of in ofs}
        spent = Tally.objects.filter(key__in=keys, until__gt=timezone.now(), count__gte=self.most)
        return {keys[key]: until for key, until in spent.values_list("key", "until")}

    def lift(self, of: object = "") -> None:
        """Begin anew."""
        Tally.objects.filter(key=self._key(of)).delete()

    def _until(self, mine, count: int) -> datetime | None:
        return mine.filter(until__gt=timezone.now(), count__gte=count).values_list("until", flat=True).first()

    def _key(self, of: object) -> str:
        return f"{self.id}:{hash_of(str(of))}"  # what a stranger typed is not kept


def seconds_to(moment: datetime) -> int:
    """Whole seconds until then, at least one: for Retry-After."""
    return max(1, int((moment - timezone.now()).total_seconds()) + 1)
