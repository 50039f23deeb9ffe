"""What is learnt of sound machines: against the exact answer, in its bounds, from whom, and where it may not be trusted."""

import json
from dataclasses import replace
from io import StringIO

import numpy as np
import pytest

from engine.assessment import assess, table_of, tables_of
from engine.errors import EngineError
from engine.kinds import learning
from engine.kinds.features import LEVELS, place_of
from engine.kinds.kind import ENOUGH, FEWEST, MOST_MOVED, WIDEST, Kind, held_to_kind
from engine.kinds.learning import learn, lesson_of
from engine.kinds.summary import known_groups
from engine.report.bundle import __main__ as assess_command
from engine.report.bundle import learn as learn_command
from engine.report.bundle.kind_file import kind_of, kind_text
from engine.report.bundle.learn import suspicion_said
from engine.report.bundle.reading import visit_of
from engine.report.quantity_words import sentence
from engine.report.words import FAHRENHEIT
from engine.uncertainty.propagation import K
from plant.population import Population
from plant.simulate import bundle

pytestmark = pytest.mark.xdist_group("kinds")  # the shop is drawn once
SHOP = Population("Mill", lines=3, within=0.4)
MACHINES = 48


@pytest.fixture(scope="module")
def bundles():
    return [bundle(41, row, faults=[], population=SHOP) for row in range(MACHINES)]


@pytest.fixture(scope="module")
def rounds(bundles):
    return [visit_of(one).rounds[0][1] for one in bundles]


def taught(rounds, confirmed=True):
    return [lesson_of(table, str(n), confirmed) for n, table in enumerate(tables_of(rounds))]


@pytest.fixture(scope="module")
def kind(rounds):
    return learn(taught(rounds))


def test_nothing_known_changes_nothing(rounds):
    plain, with_none = assess(rounds[0]), assess(rounds[0], kind=Kind({}))
    assert with_none.quantities == plain.quantities and with_none.verdict == plain.verdict
    few = learn(taught(rounds[: round(ENOUGH) - 1]))
    assert assess(rounds[-1], kind=few).quantities == assess(rounds[-1]).quantities


def test_the_means_are_those_of_the_joint_normal_posterior(rounds):
    """Solved at once: features and every group as columns of one linear model with normal priors, given the variances
    that the alternation ended with. (Bayes' rule for linear models, any text; independent of the alternation.)
    """
    visits = taught(rounds)
    rows = [(v.place, v) for v in visits if "approach" in v.told]
    of = next(s for s in sorted({p.setting for p, _ in rows}))
    rows = [(p, v) for p, v in rows if p.setting == of]
    learnt = learn(visits).settings[of].learnt["approach"]
    groups = [(level, name) for level in LEVELS for name in sorted({p.groups[level] for p, _ in rows})]
    x = np.array([[*p.features, *(float(p.groups[level] == name) for level, name in groups)] for p, _ in rows])
    told = [v.told["approach"] for _, v in rows]
    value = np.array([t.value for t in told])
    instruments = np.array([t.instruments for t in told])
    allowed = float(np.mean([t.allowed for t in told]))
    shares = [learning.SHARE_ALL, *[learning.SHARE_FEATURE] * 3]
    prior = np.array([share * allowed for share in shares] + [learnt.unseen[level] for level, _ in groups])
    precision = 1.0 / ((learnt.spread / K) ** 2 + instruments)
    exact = np.linalg.solve(x.T @ (x * precision[:, None]) + np.diag(1.0 / prior), x.T @ (precision * value))
    found = [*learnt.coefficients, *(learnt.groups[level][name].offset for level, name in groups)]
    assert found == pytest.approx(exact.tolist(), abs=0.12), "°F; the variances move a little in the last step"


def test_more_machines_move_more_and_narrow_more(rounds):
    met, widths = rounds[-1], []
    for n in (10, 20, MACHINES - 1):
        kind = learn(taught(rounds[:n]))
        residuals = [q.residual for q in assess(met, kind=kind).quantities.values() if q.residual]
        widths.append(sum(r.allowed_u95 / r.kind.scatter for r in residuals))
    alone = sum(
        q.residual.allowed_u95 / q.residual.kind.scatter for q in table_of(met).quantities.values() if q.residual
    )
    assert widths == sorted(widths, reverse=True) and widths[-1] < 0.8 * alone


def test_what_is_learnt_stays_within_what_the_engine_holds_possible(rounds, kind):
    for round_ in rounds:
        plain = table_of(round_)
        held = held_to_kind(plain, kind)
        for id_, q in plain.quantities.items():
            if q.residual is None:
                continue
            was, now = q.residual, held[id_].residual
            assert abs(now.value - was.value) <= MOST_MOVED * was.allowed_u95 + 1e-9, id_
            assert now.sound_u95 <= WIDEST * was.allowed_u95 + 1e-6, id_


def test_a_machine_counts_once_by_its_first_confirmed_visit(rounds):
    """Its own drift teaches nothing."""
    visits = taught(rounds, confirmed=False)
    again = [replace(v, system="0") for v in visits[1:20]]
    assert kind_text(learn([*visits, *again])) == kind_text(learn(visits))
    better = replace(visits[5], system="0", confirmed=True)
    assert learn([*visits, better]).confirmed == 1 and learn([*visits, better]).machines == len(visits)


def test_a_baseline_speaks_before_the_kind(rounds, kind):
    own = table_of(rounds[0])
    alone, both = assess(rounds[0], own), assess(rounds[0], own, kind=kind)
    for id_, q in alone.quantities.items():
        if q.residual and q.residual.at_baseline is not None:
            assert both.quantities[id_] == q, id_


def test_an_airflow_is_held_to_the_shops_limits_whatever_its_machines_do(rounds, kind):
    """350 to 450 CFM per ton is normal: common practice, no single source."""
    alone, both = assess(rounds[0]), assess(rounds[0], kind=kind)
    assert both.quantities["airflow"] == alone.quantities["airflow"]
    assert not any("airflow" in of.learnt for of in kind.settings.values()), "so that no page says it is known"
    assert both.quantities["split"].residual != alone.quantities["split"].residual


def as_if_low(round_, off_f):
    """The liquid line of a machine that has lost its subcooling: warmer by so much."""
    lines = ("liquid_line_outdoor", "liquid_line_indoor")
    moved = (replace(r, value=r.value + off_f) if r.place in lines else r for r in round_.readings)
    return replace(round_, readings=tuple(moved))


def test_a_line_that_stands_as_if_low_on_charge_is_said_and_not_believed(rounds):
    low = [as_if_low(round_, 9.0) for round_ in rounds]
    kind = learn(taught(low, confirmed=False))
    said = [s for of in kind.settings.values() for s in of.suspicions if s.cause == "undercharge"]
    assert said and all("approach" in s.quantities for s in said)
    assert "read as if: low on charge (approach" in suspicion_said(said[0])
    setting = next(name for name, of in kind.settings.items() if any(s in of.suspicions for s in said))
    met = next(r for r in low if place_of(table_of(r)).setting == setting)
    assert assess(met, kind=kind).quantities["approach"] == assess(met).quantities["approach"]
    trusted = learn(taught(low, confirmed=True))
    assert not any(of.suspicions for of in trusted.settings.values()), "confirmed by gauges it is their design"


@pytest.mark.parametrize("fault", ["undercharge", "restriction", "dirty_condenser"])
def test_severe_faults_are_not_called_sound_for_what_was_learnt(kind, fault):
    for row in range(6):
        met = visit_of(bundle(90, row, faults=[fault], severity="severe", population=SHOP)).rounds[0][1]
        assert assess(met, kind=kind).verdict.state != "sound", row


def test_the_evidence_says_how_many_of_what(rounds, kind):
    found = assess(rounds[0], kind=kind)
    text = sentence(found.quantities["approach"], FAHRENHEIT, found.table)
    assert "sound ones of this" in text and "±" in text.split("sound ones")[1]


def test_the_file_says_the_same_and_a_wrong_one_is_refused(rounds, kind):
    read = kind_of(kind_text(kind))
    assert kind_text(read) == kind_text(kind) and read.machines == MACHINES
    one, other = (assess(rounds[3], kind=k).diagnosis.ranked.by_group for k in (kind, read))
    assert one == pytest.approx(other, abs=1e-4)
    for text in (
        "",
        "[" * 100_000,
        "[]",
        "{}",
        kind_text(kind).replace("ruddy-kind/1", "ruddy-kind/0"),
        '{"format": "ruddy-kind/1"}',
    ):
        with pytest.raises(EngineError, match="kind file"):
            kind_of(text)


def test_learn_and_assess_from_the_command_line(bundles, tmp_path, capsys, monkeypatch):
    marked = [one | {"sound": row % 4 != 0, "confirmed": row % 2 == 0} for row, one in enumerate(bundles[:16])]
    visits, kind = tmp_path / "visits.jsonl", tmp_path / "kind.json"
    visits.write_text("\n".join([*map(json.dumps, marked), '{"broken"']))
    assert learn_command.main([str(visits)]) == 0
    out, told = capsys.readouterr()
    assert told.startswith("ruddy: 12 sound machines, 4 of them confirmed; 5 lines left out")
    kind.write_text(out)
    assert assess_command.main(["--kind", str(kind), str(visits)]) == 1, "the broken line"
    answers = [json.loads(line) for line in capsys.readouterr().out.splitlines()]
    assert len(answers) == 17 and "rounds" in answers[0]
    monkeypatch.setattr("sys.stdin", StringIO(json.dumps(bundles[0])))
    assert learn_command.main(["-"]) == 1 and "marked sound" in capsys.readouterr().err
    assert assess_command.main(["--kind", str(visits), str(visits)]) == 2 and "kind file" in capsys.readouterr().err
    assert learn_command.main([]) == 2 and learn_command.main([str(tmp_path / "nothing")]) == 2


def test_what_is_known_of_each_group_is_what_its_machines_are_held_to(rounds, kind):
    found = known_groups(kind)
    lines = [group for group in found if group.level == "line"]
    assert {group.name for group in lines} == {f"Mill {n}" for n in range(3)} and all(g.narrower > 0.2 for g in lines)
    assert all(g.machines >= FEWEST for g in found) and not any(group.suspected for group in found)
    assert known_groups(Kind({})) == []
    narrower = {group.level: [] for group in found}
    for group in found:
        narrower[group.level].append(group.narrower)
    assert np.mean(narrower["line"]) > np.mean(narrower["all"]), "a line is known better than machines at large"


@pytest.mark.parametrize("spoil", [
    lambda of, q: q.update(coefficients=[1.0]), lambda of, q: q.update(covariance=[[1.0]]), lambda of, q: q.update(spread_u95=-1.0),
    lambda of, q: q.update(spread_u95=float("nan")), lambda of, q: q.update(unseen_variance={}), lambda of, q: of["order"].pop(),
    lambda of, q: of.update(correlation=[[2.0] * len(of["order"])] * len(of["order"])), lambda of, q: q.update(count="many"),
])  # fmt: skip
def test_a_file_whose_numbers_cannot_be_is_refused_whole(kind, spoil):
    raw = json.loads(kind_text(kind))
    of = next(iter(raw["settings"].values()))
    spoil(of, next(iter(of["quantities"].values())))
    with pytest.raises(EngineError, match="no kind file"):
        kind_of(json.dumps(raw))


def test_lessons_can_be_kept_and_teach_the_same(rounds):
    lessons = taught(rounds[:20])
    kept = [learning.read(json.loads(json.dumps(learning.written(lesson)))) for lesson in lessons]
    assert kind_text(learn(kept)) == kind_text(learn(lessons))
