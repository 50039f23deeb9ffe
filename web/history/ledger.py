"""The refrigerant log: what went into machines, came out or was lost, and what came into cylinders, row by row and in
sums. It is read from the rows of the visits; nothing is kept twice.
"""

from collections import defaultdict
from collections.abc import Iterable, Sequence
from dataclasses import dataclass, field
from datetime import datetime

from django.urls import reverse
from django.utils import timezone

from web.houses.models import System
from web.visits.bridge.charging import FULL_SHARE, leak_rate_share, weight
from web.visits.load.gauges import is_wrong, standing_of_rounds
from web.visits.models import ADDED, OFF, RECOVERED, ChargeStep, Cylinder, CylinderMove, HookUp, LeakSearch

IN, OUT, LOST, STORE = "added", "recovered", "lost", "cylinder"
WAYS = {IN: "Added", OUT: "Recovered", LOST: "Lost from the hoses"}
SUMS = ("Added", "Recovered", "Lost from hoses", "Cylinders bought, filled, returned")
COLUMNS = (
    "at", "house", "system", "person", "certificate", "what", "refrigerant", "oz", "cylinder", "scale_before_oz",
    "scale_after_oz", "tare_oz", "reason", "leak", "wrong_refrigerant",
)  # fmt: skip


@dataclass(frozen=True)
class Line:
    """One line of the log. oz: how much, always over 0; sign: +1 where the shop's stock grew by it, -1 where it fell;
    wrong: another refrigerant than the plate's.
    """

    at: datetime
    what: str
    refrigerant: str
    oz: float
    sign: int
    person: str
    way: str
    certificate: str = ""
    system: System | None = None
    href: str = ""
    cylinder: str = ""
    reason: str = ""
    leak: str = ""
    wrong: bool = False
    person_id: str = ""  # public
    scale: tuple[float | None, float | None, float | None] = (None, None, None)

    @property
    def weight(self) -> str:
        """How much, as the person reads it."""
        return weight(self.oz)

    def figures(self) -> tuple:
        """Under COLUMNS, in ounces."""
        numbers = ("" if value is None else f"{value:.2f}" for value in self.scale)
        house, system = (self.system.house.name, self.system.name) if self.system else ("", "")
        when = timezone.localtime(self.at).isoformat(timespec="minutes")
        return (
            when, house, system, self.person, self.certificate, self.what, self.refrigerant, f"{self.oz:.2f}",
            self.cylinder, *numbers, self.reason, self.leak, "yes" if self.wrong else "",
        )  # fmt: skip


@dataclass
class Sum:
    """Of one refrigerant [oz]: what went in, came out and was lost at machines; by how much cylinders grew beside."""

    refrigerant: str
    added: float = 0.0
    recovered: float = 0.0
    lost: float = 0.0
    stored: float = 0.0

    def cells(self) -> list[str]:
        """Each in words, under SUMS."""
        stored = f"{'−' if self.stored < 0 else ''}{weight(abs(self.stored))}" if self.stored else "–"
        return [*(weight(oz) if oz else "–" for oz in (self.added, self.recovered, self.lost)), stored]


@dataclass(frozen=True)
class Log:
    """The log of some time, the newest first, with its sums by refrigerant."""

    lines: Sequence[Line]
    sums: Sequence[Sum] = field(default_factory=tuple)


def log_of(shop, since: datetime, until: datetime, system: System | None = None) -> Log:
    """The log of a shop, or of one machine, between two moments; in a handful of queries."""
    within = {"round__visit__shop": shop, "taken_at__gte": since, "taken_at__lt": until}
    within |= {"round__visit__system": system} if system else {"round__visit__is_practice": False}
    of = ("person", "round__visit__system__house")
    steps = standing_of_rounds(ChargeStep.objects.filter(**within).select_related(*of).in_order())
    lost = HookUp.objects.filter(**within, did=OFF, lost_oz__gt=0).select_related(*of)
    leaks = {row.round.visit_id: row for row in LeakSearch.objects.filter(**within).in_order().select_related("round")}
    certificates = _certificates(within)
    lines = [_of_step(step, leaks, certificates) for step in steps] + [_of_loss(row) for row in lost]
    if system is None:
        moves = CylinderMove.objects.filter(shop=shop, at__gte=since, at__lt=until)
        lines += [_of_move(row) for row in moves.select_related("cylinder", "person")]
    lines.sort(key=lambda line: line.at, reverse=True)
    return Log(lines, sums_of(lines))


def _certificates(within: dict) -> dict[tuple[int, int], str]:
    """By visit and person: the certificate under which gauges were connected."""
    rows = HookUp.objects.filter(**within).exclude(certificate="")
    return {(visit, person): of for visit, person, of in rows.values_list("round__visit", "person", "certificate")}


def _of_step(step: ChargeStep, leaks: dict[int, LeakSearch], certificates: dict[tuple[int, int], str]) -> Line:
    visit, leak = step.round.visit, leaks.get(step.round.visit_id)
    way = IN if step.way == ADDED else OUT
    return Line(
        step.taken_at,
        WAYS[way],
        step.refrigerant or visit.system.refrigerant or "not known",
        step.oz,
        1 if way == OUT else -1,
        step.person.short_name,
        way,
        certificates.get((visit.pk, step.person_id), ""),
        visit.system,
        f"{reverse('visits:round', args=[visit.public_id, step.round.number])}#gauges",
        step.cylinder,
        step.why,
        leak.label if leak else ("No leak search on record" if way == IN else ""),
        is_wrong(step, visit.system.refrigerant),
        str(step.person.public_id),
        (step.before_oz, step.after_oz, step.tare_oz),
    )


def _of_loss(row: HookUp) -> Line:
    visit = row.round.visit
    href = f"{reverse('visits:round', args=[visit.public_id, row.round.number])}#gauges"
    refrigerant = visit.system.refrigerant or "not known"
    return Line(
        row.taken_at, WAYS[LOST], refrigerant, row.lost_oz or 0.0, 0, row.person.short_name, LOST, row.certificate,
        visit.system, href, person_id=str(row.person.public_id),
    )  # fmt: skip


def _of_move(row: CylinderMove) -> Line:
    sign = 1 if row.oz >= 0 else -1
    return Line(
        row.at, row.label, row.cylinder.refrigerant, abs(row.oz), sign, row.person.short_name, STORE,
        cylinder=row.cylinder.label, reason=row.why,
    )  # fmt: skip


def sums_of(lines: Iterable[Line]) -> list[Sum]:
    """By refrigerant: what these lines come to."""
    found: dict[str, Sum] = {}
    for line in lines:
        of = found.setdefault(line.refrigerant, Sum(line.refrigerant))
        if line.way == STORE:
            of.stored += line.sign * line.oz
        else:
            setattr(of, line.way, getattr(of, line.way) + line.oz)
    return sorted(found.values(), key=lambda of: of.refrigerant)


@dataclass(frozen=True)
class Held:
    """A cylinder and what is in it by the log [oz]."""

    cylinder: Cylinder
    oz: float

    @property
    def percent(self) -> int | None:
        """How full it is [%]; None where nobody knows what it holds."""
        return round(100 * self.oz / self.cylinder.holds_oz) if self.cylinder.holds_oz else None

    @property
    def too_full(self) -> bool:
        """Whether a recovery cylinder is fuller than it may be."""
        return self.cylinder.is_recovery and (self.percent or 0) > 100 * FULL_SHARE.value

    @property
    def weight(self) -> str:
        """What is in it, in words."""
        return weight(max(self.oz, 0.0)) if self.oz > -0.5 else f"{weight(-self.oz)} more went out than came in"


def cylinders_of(shop) -> list[Held]:
    """The shop's cylinders with what is in them by the log."""
    rows = Cylinder.objects.filter(shop=shop).order_by("label")
    oz: dict[str, float] = defaultdict(float)
    for label, amount in CylinderMove.objects.filter(shop=shop).values_list("cylinder__label", "oz"):
        oz[label.lower()] += amount
    steps = ChargeStep.objects.filter(round__visit__shop=shop, round__visit__is_practice=False)
    told = steps.only("round", "number", "way", "before_oz", "after_oz", "cylinder")
    for step in standing_of_rounds(told.in_order()):
        oz[step.cylinder.lower()] += step.oz if step.way == RECOVERED else -step.oz
    return [Held(row, oz[row.label.lower()]) for row in rows]


def lines_of(cylinder: Cylinder) -> list[Line]:
    """All that came into a cylinder or left it, the newest first."""
    of = ("person", "round__visit__system__house")
    steps = ChargeStep.objects.filter(round__visit__shop=cylinder.shop_id, cylinder__iexact=cylinder.label)
    numbers = steps.values_list("round_id", flat=True)
    rows = ChargeStep.objects.filter(round__in=numbers, round__visit__is_practice=False).select_related(*of).in_order()
    own = [step for step in standing_of_rounds(rows) if step.cylinder.lower() == cylinder.label.lower()]
    lines = [_of_step(step, {}, {}) for step in own]
    lines += [_of_move(row) for row in cylinder.moves.select_related("cylinder", "person")]
    return sorted(lines, key=lambda line: line.at, reverse=True)


def leak_rate_of(system: System, lines: Sequence[Line]) -> str:
    """How fast a machine loses refrigerant, in a sentence with its formula; '' where nothing tells. lines: of the
    machine, the newest first.
    """
    added = [line for line in lines if line.way == IN]
    days_of = sorted({timezone.localtime(line.at).date() for line in added}, reverse=True)
    if len(days_of) < 2 or not system.factory_charge_oz:
        return ""
    last, before = days_of[:2]
    oz = sum(line.oz for line in added if timezone.localtime(line.at).date() == last)
    days = (last - before).days
    share = leak_rate_share(oz, system.factory_charge_oz, days)
    return (
        f"About {100 * share:.0f} % of its charge a year: {weight(oz)} went in on {last:%b %-d, %Y}, {days} days after "
        f"the addition before, taking it as full after each. Added / charge x 365 / days, by the plate's charge of "
        f"{weight(system.factory_charge_oz)} without the line set. It claims no legal threshold."
    )
