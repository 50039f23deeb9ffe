"""What of the houses a person may see, and how a house is found."""

import re

from django.db import models
from django.db.models import Q

from web.shell.append_only import AppendOnlyQuerySet


def initials_of(name: str) -> str:
    """'hl14' for 'Hollow Lane 14': the first letter of each word, numbers whole."""
    return "".join(word if word.isdigit() else word[:1] for word in re.findall(r"\w+", name.lower()))[:20]


class HouseQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The houses of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def real(self):
        """Without the simulated houses people practise on."""
        return self.filter(is_practice=False)

    def found_by(self, typed: str):
        """Houses whose name, customer, initials or a system's model hold what was typed; every word must be found.
        Names that start so come first.
        """
        words = typed.lower().split()[:6]
        found = self
        for word in words:
            found = found.filter(
                Q(name__icontains=word)
                | Q(customer__icontains=word)
                | Q(initials__startswith=word)
                | Q(systems__model__icontains=word)
            )
        first = models.Case(
            models.When(initials__startswith="".join(words), then=0),
            models.When(name__istartswith=typed.strip(), then=0),
            default=1,
        )
        return found.distinct().order_by(first, "name") if words else found


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
        found = {system.pk: {} for system in systems}
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
