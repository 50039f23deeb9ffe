"""`./ruddy assess`: the shipped examples, and errors that name line and field while other lines are answered."""

import json
import subprocess
import sys
from pathlib import Path

import pytest

from engine.bundle.__main__ import answers
from engine.bundle.reading import SCHEMA, rounds_of

ROOT = Path(__file__).parent.parent.parent
EXAMPLES = ROOT / "docs" / "examples"
GOOD = json.loads((EXAMPLES / "one-visit.json").read_text())


def broken(change):
    bundle = json.loads(json.dumps(GOOD))
    change(bundle)
    return json.dumps(bundle)


@pytest.mark.parametrize("example", sorted(EXAMPLES.iterdir()), ids=lambda path: path.name)
def test_shipped_examples_are_answered(example):
    for answer in answers(example.read_text()):
        assert "error" not in answer and answer["rounds"]
        for round_ in answer["rounds"]:
            assert round_["verdict"]["headline"] and round_["quantities"]["total_btuh"]["u95"] > 0


def test_the_published_schema_is_the_one_in_force():
    assert json.loads((ROOT / "docs" / "visit.schema.json").read_text()) == json.loads(SCHEMA.read_text())


def test_units_travel_with_values():
    metric = json.loads(json.dumps(GOOD))
    metric["site"]["altitude"] = {"value": 350.52, "unit": "m"}
    for reading in metric["rounds"][0]["readings"]:
        if reading["unit"] == "degF":
            reading.update(value=(reading["value"] - 32) / 1.8, unit="degC")
        if reading["unit"] == "CFM":
            reading.update(value=reading["value"] * 0.47194745, unit="L/s")
    (_, ours), (_, theirs) = rounds_of(GOOD)[0], rounds_of(metric)[0]
    assert theirs.altitude_ft == pytest.approx(1150.0)
    assert [r.value for r in theirs.readings] == pytest.approx([r.value for r in ours.readings])


@pytest.mark.parametrize(("change", "field", "words"), [
    (lambda b: b.pop("site"), "(top level)", "'site' is a required property"),
    (lambda b: b["site"]["altitude"].update(unit="furlong"), "site.altitude.unit", "furlong"),
    (lambda b: b["rounds"][0]["readings"][1].update(value=400), "rounds.0.readings.1.value", "130"),
    (lambda b: b["rounds"][0]["readings"][2].update(value=152), "rounds.0.readings.2.value", "0 to 100"),
    (lambda b: b["rounds"][0]["readings"][1].update(instrument="x"), "rounds.0.readings.1.instrument", "'x'"),
    (lambda b: b["rounds"][0]["readings"][1].update(place="roof"), "rounds.0.readings.1.place", "roof"),
    (lambda b: b["rounds"][0]["readings"][5].pop("method"), "rounds.0.readings.5", "method"),
    (lambda b: b.update(house_rules={"settle_minutes": 12}), "house_rules", "cannot be 12"),
    (lambda b: b["site"]["altitude"].update(value=30000), "first", "altitude 30000 ft"),
])  # fmt: skip
def test_errors_name_the_field(change, field, words):
    (answer,) = answers(broken(change))
    assert answer["error"]["field"] == field and words in answer["error"]["message"]


def test_command_answers_the_good_lines_and_exits_non_zero():
    lines = [json.dumps(GOOD), "{not json}", broken(lambda b: b["equipment"].pop("nominal_tons")), json.dumps(GOOD)]
    done = subprocess.run(
        [sys.executable, "-m", "engine.bundle", "-"], input="\n".join(lines), capture_output=True, text=True, cwd=ROOT
    )
    found = [json.loads(line) for line in done.stdout.splitlines()]
    assert done.returncode == 1 and [a["line"] for a in found] == [1, 2, 3, 4]
    assert ["error" in a for a in found] == [False, True, True, False]
    assert "equipment" in found[2]["error"]["field"]


@pytest.mark.parametrize(("arguments", "words"), [(["nowhere.json"], "cannot read nowhere.json"), ([], "usage")])
def test_command_says_what_it_cannot_read(arguments, words):
    done = subprocess.run([sys.executable, "-m", "engine.bundle", *arguments], capture_output=True, text=True, cwd=ROOT)
    assert done.returncode == 2 and words in done.stderr and done.stdout == ""
