"""`./ruddy assess`: the shipped examples, and errors that name line and field while other lines are answered."""

import io
import json
import subprocess
import sys
from math import isclose
from pathlib import Path

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st
from jsonschema import Draft202012Validator

from engine.diagnosis.actions import ACTIONS
from engine.physics.airflow.methods import METHODS
from engine.readings.observations import OBSERVATIONS
from engine.readings.vocabulary import PLACES, QUANTITIES
from engine.report.bundle import batch
from engine.report.bundle.__main__ import bundles
from engine.report.bundle.batch import answered
from engine.report.bundle.batch import answers as answers_to
from engine.report.bundle.reading import SCHEMA, visit_of
from plant.simulate import bundle

ROOT = Path(__file__).parent.parent.parent
EXAMPLES = ROOT / "docs" / "examples"
GOOD = json.loads((EXAMPLES / "one-visit.json").read_text())


def answers(text):
    return answers_to(bundles(io.StringIO(text)))


def broken(change):
    bundle = json.loads(json.dumps(GOOD))
    change(bundle)
    return json.dumps(bundle)


@pytest.mark.parametrize("example", sorted(EXAMPLES.iterdir()), ids=lambda path: path.name)
def test_shipped_examples_are_answered_as_the_published_result_schema_says(example):
    published = Draft202012Validator(json.loads((ROOT / "docs" / "result.schema.json").read_text()))
    for answer in answers(example.read_text()):
        assert "error" not in answer and answer["rounds"]
        published.validate(json.loads(json.dumps(answer)))


def example(name):
    (answer,) = answers((EXAMPLES / name).read_text())
    return answer["rounds"]


def test_an_air_conditioner_with_its_baseline_lines_statics_and_amps():
    first, after = example("air-conditioner-txv.json")
    assert first["verdict"]["group"] == "low_airflow" and first["airflow"]["weights"] == {"blower_table": 1.0}
    q = first["quantities"]
    assert {q[id_]["authority"] for id_ in ("split", "capacity", "approach", "filter_drop", "airflow")} == {
        "own_baseline"
    }
    assert q["filter_drop"]["word"] == "high" and q["filter_drop"]["measured"]["value"] == 0.52
    assert first["verdict"]["next_step"] == "Look at the filter.", "nobody has looked at it"
    assert "condenser" in first["ledger"]["says"][0]
    assert after["verdict"]["state"] == "sound" and after["not_fit_as_baseline"] == []
    physics = example("one-visit.json")[1]["quantities"]["split"]["off"]["u95"]
    assert after["quantities"]["split"]["off"]["u95"] < physics, "its own baseline is sharper than the curves"


def test_an_orifice_with_gauges_on():
    (round_,) = example("air-conditioner-orifice-gauges.json")
    superheat = round_["quantities"]["superheat"]
    assert (
        superheat["measured"]["u95"] > 1.0
        and not superheat["predicted"]
        and "charging formula" in superheat["sentence"]
    )
    assert round_["quantities"]["suction"]["predicted"] and "≈" in round_["quantities"]["suction"]["sentence"]


def test_a_heat_pump_in_heating_and_a_ground_source_unit():
    (heating,) = example("heat-pump-heating.json")
    assert heating["mode"] == "heating" and heating["verdict"]["state"] == "sound"
    assert heating["quantities"]["capacity"]["expected"]["u95"] > 0 and not heating["split_schools"]
    for change, words in (
        ({"outdoor_coil": "iced"}, "iced"),
        ({"strip_heat": "on"}, "strips are on"),
        ({"panels": "off"}, "panel is off"),
    ):
        voided = json.loads((EXAMPLES / "heat-pump-heating.json").read_text())
        voided["rounds"][0]["observations"].update(change)
        (answer,) = answers(json.dumps(voided))
        assert (
            words in answer["rounds"][0]["verdict"]["says"]
            and answer["rounds"][0]["verdict"]["state"] == "does_not_count"
        )
    (ground,) = example("ground-source.json")
    assert "closes" in " ".join(ground["ledger"]["says"]) and ground["quantities"]["heat_moved"]["state"] == "in range"
    assert "ground-source" in ground["expected"]["expected_total_btuh"]["missing"]


def test_what_is_not_possible_travels_with_its_reason_and_a_bundle_of_the_first_format_is_read_as_before():
    second = json.loads(json.dumps(GOOD)) | {"format": "ruddy-visit/2"}
    second["rounds"][0]["not_possible"] = [
        {"place": "filter", "because": "no_port"},
        {"place": "return_unit", "quantity": "rh", "because": "no_instrument"},
    ]
    given = visit_of(second).rounds[0][1]
    assert [(n.place, n.quantity, n.because) for n in given.not_possible] == [
        ("filter", "", "no_port"),
        ("return_unit", "rh", "no_instrument"),
    ]
    assert (
        not given.can_be_read("filter", "pressure_drop")
        and not given.can_be_read("return_unit", "wet_bulb")
        and given.can_be_read("return_unit", "dry_bulb")
    )
    (asked,) = answers(json.dumps(second))
    assert "filter_drop" not in [step["step"] for step in asked["rounds"][0]["next"]]
    assert visit_of(GOOD).rounds[0][1].not_possible == ()


def test_a_round_knows_what_was_done_at_the_visit_before_it():
    again = {**GOOD["rounds"][0], "actions": ["filter_changed"]}
    rounds = [GOOD["rounds"][0], again, {**again, "actions": ["caps_tightened"]}]
    done = [round_.done for _, round_ in visit_of({**GOOD, "rounds": rounds}).rounds]
    assert done == [(), ("filter_changed",), ("filter_changed", "caps_tightened")]


def test_the_published_schemas_are_the_ones_in_force_and_speak_the_vocabulary():
    for name in ("visit.schema.json", "result.schema.json"):
        assert json.loads((ROOT / "docs" / name).read_text()) == json.loads(SCHEMA.with_name(name).read_text())
    definitions = json.loads(SCHEMA.read_text())["$defs"]
    reading = definitions["reading"]["properties"]
    assert definitions["place"]["anyOf"][0]["enum"] == list(PLACES) and reading["quantity"]["enum"] == list(QUANTITIES)
    assert reading["method"]["enum"] == list(METHODS)
    assert definitions["round"]["properties"]["actions"]["items"]["enum"] == [action.id for action in ACTIONS]
    seen = definitions["round"]["properties"]["observations"]["properties"]
    assert {name: tuple(of["enum"]) for name, of in seen.items()} == {
        name: tuple(of) for name, of in OBSERVATIONS.items()
    }


def test_units_travel_with_values():
    metric = json.loads(json.dumps(GOOD))
    metric["site"]["altitude"] = {"value": 350.52, "unit": "m"}
    for reading in metric["rounds"][0]["readings"]:
        if reading["unit"] == "degF":
            reading.update(value=(reading["value"] - 32) / 1.8, unit="degC")
        if reading["unit"] == "CFM":
            reading.update(value=reading["value"] * 0.47194745, unit="L/s")
    plate = {"rows": [59, 67], "columns": [85, 95], "values": [[9.0, 8.6], [10.5, 10.0]], "unit": "kW"}
    metric["equipment"]["performance_table"] = plate
    assert visit_of(metric).rounds[0][1].equipment.performance_table.values[0][0] == pytest.approx(9.0 * 3412.14, abs=1)
    (_, ours), (_, theirs) = visit_of(GOOD).rounds[0], visit_of(metric).rounds[0]
    assert theirs.altitude_ft == pytest.approx(1150.0)
    assert [r.value for r in theirs.readings] == pytest.approx([r.value for r in ours.readings])


BUNDLES = [json.loads(path.read_text()) for path in sorted(EXAMPLES.glob("*.json"))]


@settings(max_examples=150)
@given(st.sampled_from(BUNDLES), st.data())
def test_any_part_of_a_visit_is_answered_whatever_is_missing_or_odd(bundle, data):
    """Readings left out and values moved at will: an answer or a named error, never a crash, and nothing without a
    reason.
    """
    changed = json.loads(json.dumps(bundle))
    for round_ in changed["rounds"]:
        kept = data.draw(st.lists(st.booleans(), min_size=len(round_["readings"]), max_size=len(round_["readings"])))
        round_["readings"] = [r for r, keep in zip(round_["readings"], kept, strict=True) if keep]
        for reading in round_["readings"]:
            reading["value"] *= data.draw(st.sampled_from([1.0, 1.0, 1.0, 0.5, 0.8, 1.3, -1.0]))
    (answer,) = answers(json.dumps(changed))
    assert "error" in answer or all(r["verdict"]["headline"] and r["verdict"]["next_step"] for r in answer["rounds"])
    for round_ in answer.get("rounds", []):
        assert all("value" in q or q["missing"] for part in ("measured", "expected") for q in round_[part].values())
        assert "NaN" not in json.dumps(round_)


@pytest.mark.parametrize(("change", "field", "words"), [
    (lambda b: b.pop("site"), "(top level)", "'site' is a required property"),
    (lambda b: b["site"]["altitude"].update(unit="furlong"), "site.altitude.unit", "furlong"),
    (lambda b: b["rounds"][0]["readings"][1].update(instrument="x"), "rounds.0.readings.1.instrument", "'x'"),
    (lambda b: b["rounds"][0]["readings"][1].update(place="roof"), "rounds.0.readings.1.place", "roof"),
    (lambda b: b["rounds"][0]["readings"][5].pop("method"), "rounds.0.readings.5", "method"),
    (lambda b: b.update(house_rules={"settle_minutes": 12}), "house_rules", "cannot be 12"),
    (lambda b: b["site"]["altitude"].update(value=30000), "first", "altitude 30000 ft"),
])  # fmt: skip
def test_errors_name_the_field(change, field, words):
    (answer,) = answers(broken(change))
    assert answer["error"]["field"] == field and words in answer["error"]["message"]


def test_an_impossible_reading_is_named_and_left_out_and_the_rest_is_assessed():
    answers_ = [
        answers(broken(lambda b, r=r, v=v: b["rounds"][0]["readings"][r].update(value=v)))[0]
        for r, v in ((1, 400), (2, 152))
    ]
    for answer, words in zip(
        answers_, ("400 °F is left out. It can be", "152 % is left out. It can be 0 % to 100 %"), strict=True
    ):
        found = answer["rounds"][0]
        assert any(words in f["message"] for f in found["findings"]), found["findings"]
        assert "error" not in answer and found["quantities"]["airflow"]["state"] == "out of range"


def same(one, other):
    """The same answer, but for the last digits: sums over many rows are added in another order."""
    if isinstance(one, dict):
        return one.keys() == other.keys() and all(same(one[key], other[key]) for key in one)
    if isinstance(one, list):
        return len(one) == len(other) and all(map(same, one, other))
    return isclose(one, other, rel_tol=1e-4, abs_tol=1e-9) if isinstance(one, float) else one == other


def test_many_over_all_cores_are_answered_in_order_and_as_each_is_alone(monkeypatch):
    monkeypatch.setattr(batch, "CHUNK", 4)
    visits = [bundle(9, row, baseline=row % 3 == 0) for row in range(17)]
    lines = [json.dumps(visit) for visit in visits]
    lines[5], lines[11] = "{}", "{not json}"
    together = [json.loads(text) for chunk in answered(enumerate(lines, start=1), cores=2) for text, _ in chunk]
    alone = [
        json.loads(json.dumps(answer))
        for number, line in enumerate(lines, start=1)
        for answer in answers_to([(number, line)])
    ]
    assert [answer["line"] for answer in together] == list(range(1, 18)) and same(together, alone)


def test_a_line_is_taken_when_it_is_needed():
    """So that what is in memory does not grow with the lines."""
    taken = []
    lines = ((number, taken.append(number) or json.dumps(GOOD)) for number in range(1, 10 * batch.CHUNK))
    chunks = answered(lines, cores=1)
    assert len(next(chunks)) == batch.CHUNK and len(taken) <= 2 * batch.CHUNK


@pytest.mark.parametrize(("text", "lines"), [
    (json.dumps(GOOD, indent=2), [(1, False)]), ("\n\n" + json.dumps(GOOD, indent=1), [(3, False)]), (json.dumps(GOOD, indent=2)[:-5], [(1, True)]),
    ("what is this\n" + "\n".join([json.dumps(GOOD)] * 3), [(1, True), (2, False), (3, False), (4, False)]), ("[" * 100_000, [(1, True)]),
])  # fmt: skip
def test_one_bundle_over_many_lines_or_one_a_line(text, lines):
    starts = [number for number, _ in bundles(io.StringIO(text))]
    assert [(start, "error" in answer) for start, answer in zip(starts, answers(text), strict=True)] == lines


def test_command_answers_the_good_lines_and_exits_non_zero():
    lines = [json.dumps(GOOD), "{not json}", broken(lambda b: b["equipment"].pop("nominal_tons")), json.dumps(GOOD)]
    done = subprocess.run(
        [sys.executable, "-m", "engine.report.bundle", "-"],
        input="\n".join(lines),
        capture_output=True,
        text=True,
        cwd=ROOT,
    )
    found = [json.loads(line) for line in done.stdout.splitlines()]
    assert done.returncode == 1 and [a["line"] for a in found] == [1, 2, 3, 4]
    assert ["error" in a for a in found] == [False, True, True, False]
    assert "equipment" in found[2]["error"]["field"]


@pytest.mark.parametrize(("arguments", "words"), [(["nowhere.json"], "cannot read nowhere.json"), ([], "usage")])
def test_command_says_what_it_cannot_read(arguments, words):
    done = subprocess.run(
        [sys.executable, "-m", "engine.report.bundle", *arguments], capture_output=True, text=True, cwd=ROOT
    )
    assert done.returncode == 2 and words in done.stderr and done.stdout == ""
