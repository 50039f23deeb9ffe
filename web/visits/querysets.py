"""What of the visits a person may see, and which entries are current."""

from django.db import models

from web.shell.append_only import AppendOnlyQuerySet, KeptQuerySet

OPEN = ("", "returned", "reopened")  # the last closing of a visit that is open; "" for none


class VisitQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The visits of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def listed(self):
        """As lists show them: the newest first; practice is no visit of the shop's."""
        return self.filter(is_practice=False).order_by("-started_at", "-id")

    def open_still(self):
        """Those that are not finished, or were opened again."""
        return self.filter(ended__in=OPEN)


class RoundQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The rounds of visits of the person's shop."""
        return self.filter(visit__shop__isnull=False, visit__shop=user.shop_id)


class EntryQuerySet(AppendOnlyQuerySet):
    def in_order(self):
        """As the devices took them: by corrected device time, then device sequence."""
        return self.order_by("taken_at", "sequence", "id")


class AssessmentQuerySet(AppendOnlyQuerySet):
    def newest_of(self, rounds):
        """What was said last of each round, by its key; one query."""
        newest = self.filter(round__in=rounds).order_by().values("round").annotate(last=models.Max("pk")).values("last")
        return dict(self.filter(pk__in=newest).values_list("round_id", "result"))

    def states_of(self, rounds):
        """By round: the key of what was said of it last, and the verdict's state; one query."""
        newest = self.filter(round__in=rounds).order_by().values("round").annotate(last=models.Max("pk")).values("last")
        rows = self.filter(pk__in=newest).values_list("round_id", "pk", "state")
        return {round_id: (pk, state) for round_id, pk, state in rows}

    def last_of_systems(self, systems):
        """What was said last of every round of machines, in the rounds' order: the system, which machine of it, the
        visit, the round, when it began, the assessment and the verdict's state; one query. Of a round there are few:
        the rest is thinned.
        """
        rows = self.filter(round__visit__system__in=systems).order_by("round__visit_id", "round__number", "pk")
        told = rows.values_list(
            "round_id",
            "round__visit__system_id",
            "round__machine",
            "round__visit_id",
            "round__started_at",
            "pk",
            "state",
        )
        return [(*of[:3], key, *of[3:]) for key, *of in {row[0]: row for row in told}.values()]


class OfShopQuerySet(models.QuerySet):
    def visible_to(self, user):
        """Those of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)


class OfShopKeptQuerySet(AppendOnlyQuerySet):
    def visible_to(self, user):
        """Those of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)


class ClosingQuerySet(AppendOnlyQuerySet):
    def visible_to(self, user):
        """Those of visits of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def deciding(self):
        """Those that open or close a visit, the last first."""
        return self.exclude(did="reviewed").order_by("-id")


class PhotoQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The pictures of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)


class FollowUpQuerySet(models.QuerySet):
    def visible_to(self, user):
        """The follow-ups of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def open(self):
        """Those not done yet, the ones that block a decision first, then by due day."""
        return self.filter(closed_at__isnull=True, system__house__is_practice=False).order_by(
            models.Case(models.When(blocks="", then=1), default=0), "due_on", "opened_at"
        )


class PlannedVisitQuerySet(models.QuerySet):
    def visible_to(self, user):
        """Those of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def to_come(self):
        """Those nobody has done or called off yet."""
        return self.filter(visit__isnull=True, called_off_at__isnull=True)


class BaselineQuerySet(KeptQuerySet):
    def visible_to(self, user):
        """Those of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def in_order(self):
        """The oldest first, each with its round and who sealed it."""
        return self.select_related("round__visit", "sealed_by").order_by("sealed_at", "id")


class OutcomeQuerySet(AppendOnlyQuerySet):
    def visible_to(self, user):
        """Those of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def counting(self):
        """The last of each round."""
        last = self.order_by().values("round").annotate(last=models.Max("pk")).values("last")
        return self.filter(pk__in=last)


class KnownKindsQuerySet(AppendOnlyQuerySet):
    def visible_to(self, user):
        """Those of the person's shop."""
        return self.filter(shop__isnull=False, shop=user.shop_id)

    def newest_of(self, shop):
        """The newest version of each source: its key and number; one query."""
        rows = self.filter(shop=shop).order_by().values_list("source")
        return {source: (pk, number) for source, pk, number in rows.annotate(models.Max("pk"), models.Max("number"))}
