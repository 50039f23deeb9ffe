"""Fetching what a person may see; anything else does not exist for them (404, never 403)."""

from dataclasses import dataclass, field
from datetime import date, datetime
from itertools import count

from django.db.models import OuterRef, Subquery
from django.http import Http404
from django.shortcuts import get_object_or_404

from web.accounts.access import colleagues_among, people_of
from web.houses.models import System
from web.houses.weather import Weather, weather_for
from web.probes.models import Gateway, Probe
from web.visits.load.gauges import done_by, moved_words
from web.visits.load.material import Material, standing, with_person
from web.visits.models import (
    FINISHED,
    Action,
    Assessment,
    Closing,
    FollowUp,
    Observation,
    Outcome,
    Photo,
    Reading,
    Round,
    Visit,
)

HISTORY_SHOWN = 6


def visit_for(user, public_id) -> Visit:
    """The visit with its house, system and shop, or Http404."""
    found = (
        Visit.objects.visible_to(user)
        .select_related("system__house__shop", "started_by", "with_person")
        .filter(public_id=public_id)
        .first()
    )
    if found is None:
        raise Http404
    return found


def round_for(user, public_id, number: int | None = None) -> Round:
    """A round of a visit, the last one when no number is given; with visit, system, house and shop, in one query."""
    rounds = _whole(Round.objects.visible_to(user).filter(visit__public_id=public_id))
    found = rounds.filter(number=number).first() if number else rounds.order_by("-number").first()
    if found is None:
        raise Http404
    return found


def rounds_for(user, public_ids) -> dict[str, Round]:
    """Those of the rounds that the person may see, by public id as text; one query."""
    found = _whole(Round.objects.visible_to(user).filter(public_id__in=public_ids))
    return {str(round_.public_id): round_ for round_ in found}


def _whole(rounds):
    return rounds.select_related("visit__system__house__shop", "visit__started_by", "visit__with_person")


def last_rounds_of(visits) -> list[Round]:
    """The last round of each of the visits (seen by the person already), in their order; one query."""
    rows = Round.objects.filter(visit__in=[visit.pk for visit in visits]).select_related("visit__system__house__shop")
    last = {round_.visit_id: round_ for round_ in rows.order_by("number")}
    return [last[visit.pk] for visit in visits]


def finished_moment(visit) -> datetime | None:
    """When a visit was finished; None while it is open."""
    last = Closing.objects.filter(visit=visit).deciding().values_list("did", "at").first()
    return last[1] if last and last[0] == FINISHED else None


def next_due_of(system: System) -> date | None:
    """When the last visit left the system due; None where it is not finished, or did not say."""
    last = Visit.objects.filter(system=system).order_by("-started_at", "-id").first()
    ending = Closing.objects.filter(visit=last).deciding().first() if last else None
    return ending.next_due if ending and ending.did == FINISHED else None


def photo_for(user, public_id) -> Photo:
    """A picture, or Http404."""
    return get_object_or_404(Photo.objects.visible_to(user).select_related("system__house"), public_id=public_id)


def follow_up_for(user, public_id) -> FollowUp:
    """A follow-up, or Http404."""
    return get_object_or_404(FollowUp.objects.visible_to(user).select_related("system__house"), public_id=public_id)


def colleagues_of(user):
    """The other people of the shop."""
    return people_of(user).exclude(pk=user.pk)


FOLLOW_UP_FORM = "follow_up"  # the form of a sheet that may be refused


@dataclass
class Around:
    """What is around a round's sheet: the machine's history, the visit's other rounds, words, actions, pictures,
    colleagues.
    """

    rounds: list
    actions: list
    earlier_actions: list[tuple[int, Action]]
    acknowledged: set[str] = field(default_factory=set)
    remarks: list = field(default_factory=list)
    photos: list = field(default_factory=list)
    history: list = field(default_factory=list)
    twins: list = field(default_factory=list)
    follow_ups: list = field(default_factory=list)
    colleagues: list = field(default_factory=list)
    probes: list = field(default_factory=list)
    pairings: dict = field(default_factory=dict)  # (stop, place) -> the probe held there
    weather: Weather | None = None
    baselines: list = field(default_factory=list)  # of the system, the oldest first
    outcomes: list = field(default_factory=list)  # of the round's verdict, the last first
    closings: list = field(default_factory=list)  # the last first
    typed: dict[str, dict] = field(default_factory=dict)  # form -> what it said when it was refused
    charge_steps: dict[int, list] = field(default_factory=dict)  # the steps that count, by the round's number
    here: int = 0  # the round's number
    arrived_late: int = 0  # entries taken before the visit was finished that came after

    @property
    def later(self) -> bool:
        """Whether the visit has a later round."""
        return self.rounds[-1].number > self.here

    @property
    def charge_moved(self) -> str:
        """Refrigerant moved in this round, in words."""
        return moved_words(self.charge_steps.get(self.here, []))

    @property
    def charge_moved_before(self) -> str:
        """Refrigerant moved in earlier rounds, in words."""
        return moved_words([s for number, steps in self.charge_steps.items() if number < self.here for s in steps])

    @property
    def charge_done(self) -> tuple[str, ...]:
        """The actions that refrigerant moved in earlier rounds comes to, by id."""
        return done_by([s for number, steps in self.charge_steps.items() if number < self.here for s in steps])


def rounds_around(material: Material) -> Around:
    """The visit's rounds, what was done in them and by whom."""
    rounds = material.rounds
    for row in rounds:
        with_person((*row.actions.all(), *row.charge_steps.all()), material.people)
    actions = {row.number: standing(row.actions.all()) for row in rounds}
    here = material.round.number
    earlier = [(number, action) for number, done in actions.items() if number < here for action in done]
    return Around(rounds, actions.get(here, []), earlier, charge_steps=material.steps_by_round, here=here)


def around(user, material: Material) -> Around:
    """All that is around the sheet of a round the person may see."""
    visit, system = material.visit, material.system
    found = rounds_around(material)
    seen = {row.seen for round_ in found.rounds for row in round_.observations.all()}
    found.acknowledged = {name.removeprefix("caution:") for name in seen if name.startswith("caution:")}
    found.remarks = standing(material.round.remarks.select_related("person"))
    found.photos = list(
        Photo.objects.visible_to(user).filter(system=system).select_related("taken_by").order_by("-id")[:24]
    )
    visits = Visit.objects.visible_to(user).filter(system=system).exclude(pk=visit.pk)
    found.history = list(_with_verdicts(visits.listed()).select_related("started_by")[:HISTORY_SHOWN])
    found.twins = list(System.objects.visible_to(user).twins_of(system)[:HISTORY_SHOWN])
    found.follow_ups = list(FollowUp.objects.visible_to(user).filter(system=system).open().select_related("opened_by"))
    found.colleagues = colleagues_among(material.people.values(), user)
    found.probes = list(Probe.objects.filter(gateway__in=holdable(user, system), gateway__revoked_at__isnull=True))
    found.pairings = {(p.stop, p.place): p.probe_id for p in visit.pairings.filter(live=True)} if found.probes else {}
    found.weather = weather_for(system.house)
    found.baselines = material.baselines
    found.outcomes = list(Outcome.objects.filter(round=material.round).select_related("person").order_by("-id"))
    if visit.ended:  # of one that was never finished, nothing was said
        found.closings = list(visit.closings.select_related("person").order_by("-id"))
    if visit.is_finished:
        at = next(row.at for row in found.closings if row.did == FINISHED)
        found.arrived_late = sum(
            model.objects.filter(round__visit=visit, received_at__gt=at, taken_at__lte=at).count()
            for model in (Reading, Observation, Action)
        )
    return found


def holdable(user, system: System):
    """The gateways whose probes the person may hold at a system."""
    return Gateway.objects.visible_to(user).to_hold_in(system.house)


def with_verdicts(visits):
    """Visits with what a list shows, and the headline and kind of each one's newest assessment; one query."""
    return _with_verdicts(visits).select_related("system__house", "started_by", "with_person")


def _with_verdicts(visits):
    last = Assessment.objects.filter(round__visit=OuterRef("pk")).order_by("-id")
    return visits.annotate(headline=Subquery(last.values("headline")[:1]), kind=Subquery(last.values("kind")[:1]))


def newest(visits, most: int):
    """The newest of many visits, with their verdicts. Which they are is asked first, so that no more verdicts are
    looked up than are shown.
    """
    ids = list(visits.listed().values_list("pk", flat=True)[:most])
    return with_verdicts(Visit.objects.filter(pk__in=ids).listed())


def newest_read(user, most: int) -> list[Visit]:
    """The newest visits of the person's shop in which something was read, with what a list shows. Asked a handful at a
    time, so that no more is gone through than it takes.
    """
    visits, at_once = Visit.objects.visible_to(user).listed(), 4 * most
    found: list[int] = []
    for begin in count(0, at_once):
        ids = list(visits.values_list("pk", flat=True)[begin : begin + at_once])
        read = set(Reading.objects.filter(round__visit__in=ids).values_list("round__visit", flat=True).distinct())
        found += [pk for pk in ids if pk in read]
        if len(found) >= most or len(ids) < at_once:
            break
    return list(Visit.objects.filter(pk__in=found[:most]).listed().select_related("system__house__shop"))


def last_instruments(person) -> dict[str, str]:
    """Public id of the instrument this person used last, by its kind."""
    rows = (
        Reading.objects.filter(person=person, instrument__isnull=False, instrument__retired=False)
        .order_by("-id")
        .values_list("instrument__kind", "instrument__public_id")[:60]
    )
    last: dict[str, str] = {}
    for kind, public_id in rows:
        last.setdefault(kind, str(public_id))
    return last
