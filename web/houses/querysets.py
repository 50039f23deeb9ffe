"""What of the houses a person may see, and how a house is found."""

import re

from django.db import models

from web.shell.append_only import AppendOnlyQuerySet


def split(text: str) -> list[str]:
    """The words of a text, in small letters."""
    return re.findall(r"\w+", text.lower())


def initials_of(name: str) -> str:
    """'hl14' for 'Hollow Lane 14': the first letter of each word, numbers whole."""
    return "".join(word if word.isdigit() else word[:1] for word in split(name))[:20]


class HouseQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The houses of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def real(self):
        """Without the simulated houses people practise on, and those whose customer was erased."""
        return self.filter(is_practice=False, erased_at=None)

    def found_by(self, user, typed: str):
        """Houses of the person's shop where each typed word begins one of those they are found by (street, number,
        initials, customer, model, serial). Names that start so come first.
        """
        typed_words = split(typed)[:6]
        found = self
        for word in typed_words:
            # istartswith: the other compares bytes, and so asks no index.
            with_it = self.model.words.rel.related_model.objects.filter(shop=user.shop_id, word__istartswith=word)
            found = found.filter(pk__in=with_it.values("house"))
        first = models.Case(
            models.When(initials__startswith="".join(typed_words), then=0),
            models.When(name__istartswith=typed.strip(), then=0),
            default=1,
        )
        return found.order_by(first, "name") if typed_words else found


class SystemQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The systems in the houses of the person's shop."""
        return self.filter(house__shop__isnull=False, house__shop=user.shop_id)

    def twins_of(self, system):
        """Other systems of the same model in the same shop."""
        same = (
            self.filter(house__shop=system.house.shop_id, model__iexact=system.model) if system.model else self.none()
        )
        return same.exclude(pk=system.pk).exclude(house__is_practice=True).select_related("house")


class PlateVersionQuerySet(AppendOnlyQuerySet):
    def newest_of(self, systems):
        """By system's key and machine: what its plates say, as last corrected; one query."""
        rows = self.filter(system__in=systems).order_by("id").values_list("system_id", "machine", "plates")
        return {(system, machine): plates for system, machine, plates in rows}


class TableQuerySet(AppendOnlyQuerySet):
    def newest(self):
        """The newest of each kind, by kind; one query."""
        return {table.kind: table for table in self.order_by("id")}

    def newest_of(self, systems):
        """By each system's key: its newest of each kind, by kind; one query."""
        found: dict[int, dict] = {system.pk: {} for system in systems}
        for table in self.filter(system__in=systems).order_by("id"):
            found[table.system_id][table.kind] = table
        return found


class InstrumentQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The instruments of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def in_use(self):
        """Those that are still on a van."""
        return self.filter(retired=False)
