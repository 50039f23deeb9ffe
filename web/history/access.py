"""What is kept of a machine over its visits, the oldest first."""

from collections.abc import Sequence
from dataclasses import dataclass, field
from uuid import UUID

from web.houses.models import System
from web.visits.load.gauges import moved_words, standing_steps
from web.visits.load.material import Material, materials_of, standing
from web.visits.models import Action, Baseline, ChargeStep, Round

MOST_ROUNDS = 60  # the newest, on one page


@dataclass
class Kept:
    """One round of the machine: what it rests on, what was done after it, refrigerant moved after it in words, and the
    baselines it was sealed as.
    """

    material: Material
    actions: list[Action] = field(default_factory=list)
    moved: str = ""
    sealed: list[Baseline] = field(default_factory=list)

    @property
    def round(self) -> Round:
        """The round itself."""
        return self.material.round


def kept_of(user, system: System, but: UUID | None = None) -> tuple[list[Kept], bool]:
    """The newest rounds of a system the person may see, the oldest first, in a handful of queries; and whether there
    are older ones. but: the number of a visit to leave out.
    """
    return _kept(Round.objects.visible_to(user).filter(visit__system=system).exclude(visit__public_id=but))


def kept_of_system(system: System) -> list[Kept]:
    """The same for work that nobody asked for: the newest rounds of a system, the oldest first."""
    return _kept(Round.objects.filter(visit__system=system))[0]


def _kept(of_system) -> tuple[list[Kept], bool]:
    newest = of_system.select_related("visit__system__house__shop", "visit__started_by", "visit__with_person").order_by(
        "-visit__started_at", "-visit_id", "-number"
    )[: MOST_ROUNDS + 1]
    rounds = list(newest)[:MOST_ROUNDS][::-1]
    done, steps, sealed = _by_round(Action, rounds), _by_round(ChargeStep, rounds), _by_round(Baseline, rounds)
    found = [
        Kept(
            material,
            standing(done.get(material.round.pk, [])),
            moved_words(standing_steps(steps.get(material.round.pk, []))),
            [row for row in sealed.get(material.round.pk, []) if not row.was_wrong],
        )
        for material in materials_of(rounds, with_people=False)
    ]
    return found, len(newest) > MOST_ROUNDS


def _by_round(model, rounds: Sequence[Round]) -> dict[int, list]:
    found: dict[int, list] = {}
    for row in model.objects.filter(round__in=rounds).in_order():
        found.setdefault(row.round_id, []).append(row)
    return found
