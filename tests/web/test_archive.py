"""Open data: what goes out comes in again the same; twice changes nothing; what is bad is refused whole."""

import csv
import io
import json
import zipfile
from datetime import timedelta

import pytest
from django.core.exceptions import PermissionDenied
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import connection
from django.urls import reverse

from engine.report.bundle.batch import answers
from engine.report.bundle.reading import visit_of
from tests.web.conftest import a_picture, words
from tests.web.test_baseline import fit, seal
from tests.web.test_due import finish
from tests.web.test_report import number
from web.accounts.models import Deed, User
from web.accounts.rights import LEAD, OFFICE, TECHNICIAN
from web.background.models import Work
from web.background.steps import run_step
from web.exchange import intake
from web.exchange.archive import MANIFEST, RECORDS, line_of
from web.exchange.intake import IntakeRefused, take_in
from web.exchange.records import RECORDS as KINDS
from web.exchange.records import TYPE
from web.exchange.tasks import EXPORT, TIDY_EXPORTS, name_of
from web.houses.models import House, Instrument, System
from web.houses.services import add_table, save_system, set_rooms
from web.shell.store import every
from web.visits import changes
from web.visits.models import Assessment, Baseline, Photo, Reading, Round, Visit

PAGE = reverse("exchange:archives")


def members(content):
    """What is in an archive, by name."""
    with zipfile.ZipFile(io.BytesIO(content)) as packed:
        assert packed.testzip() is None
        return {name: packed.read(name) for name in packed.namelist()}


def packed(files):
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as archive:
        for name, content in files.items():
            archive.writestr(name, content)
    out.seek(0)
    return out


def records(content):
    return [json.loads(line) for line in members(content)[RECORDS].splitlines()]


def table(files, name):
    return list(csv.DictReader(io.StringIO(files[name].decode("utf-8-sig"))))


@pytest.fixture
def whole(signed_in, ours, device):
    """The archive of a house with a bit of everything."""
    assert seal(fit(device)) == ("stored", "")
    device.send(
        device.entry("remark", about="complaint", text="Warm, since \u2028Monday"),
        device.entry("action", done="filter_changed"),
    )
    ours.round = changes.next_round(ours.person, ours.visit, 1)
    device.whole_visit()
    finish(ours, ours.visit)
    ours.system.serial = "X 1"
    save_system(ours.person, ours.system)
    add_table(ours.person, ours.system, "blower", "static, low\n0.1, 1000\n0.5, 900", "Invented")
    set_rooms(ours.person, ours.system, [{"name": "=hall", "diameter_in": 7.0, "duct": "flex", "wants_cfm": None}])
    changes.add_photo(ours.person, number(3), ours.system, ours.round, "coil", a_picture(size=(300, 200)))
    changes.open_follow_up(ours.person, ours.system, "-come back", "charge")
    again = changes.start_visit(ours.person, ours.system)
    changes.hand_over(ours.person, again, User.objects.create_user("di", first_name="Di", shop=ours.shop), "For you")
    User.objects.filter(pk=ours.person.pk).update(role=OFFICE)
    archive = signed_in.get(reverse("exchange:house_archive", args=[ours.house.public_id])).getvalue()
    User.objects.filter(pk=ours.person.pk).update(role=TECHNICIAN)
    return archive


@pytest.fixture
def elsewhere(whole, theirs):
    """Another installation: a shop that has nothing of it, and its lead."""
    with connection.cursor() as cursor:
        cursor.execute("SET FOREIGN_KEY_CHECKS = 0")
        for kind in KINDS:
            if kind.model is not User:
                cursor.execute(f"DELETE FROM {kind.model._meta.db_table}")
        cursor.execute("DELETE FROM accounts_user WHERE shop_id <> %s", [theirs.shop.pk])
        cursor.execute("SET FOREIGN_KEY_CHECKS = 1")
    User.objects.filter(pk=theirs.person.pk).update(role=LEAD)
    return User.objects.get(pk=theirs.person.pk)


def test_out_and_in_and_out_again_is_the_same_but_for_the_day(client, whole, elsewhere):
    taken = take_in(elsewhere, io.BytesIO(whole))
    kinds = {kind.kind for kind in KINDS} - {"hook_up", "charge_step", "leak_search", "outcome"}
    assert taken.new.keys() == kinds and not taken.known
    assert Deed.objects.get(did="taken_in").by == elsewhere
    client.force_login(elsewhere)
    again = client.get(reverse("exchange:house_archive", args=[House.objects.get().public_id])).getvalue()
    before, after = members(whole), members(again)
    manifests = [json.loads(files.pop(MANIFEST)) for files in (before, after)]
    assert before.keys() == after.keys()
    for name in before:
        assert before[name] == after[name], name
    for manifest in manifests:
        assert manifest.pop("made_at") and manifest.pop("shop")
    assert manifests[0] == manifests[1]


def test_twice_changes_nothing_and_what_came_is_judged_and_found_like_the_shops_own(client, whole, elsewhere):
    take_in(elsewhere, io.BytesIO(whole))
    counts = Reading.objects.count(), Visit.objects.count(), Photo.objects.count(), Baseline.objects.count()
    taken = take_in(elsewhere, io.BytesIO(whole))
    assert not taken.new and sum(taken.known.values()) == len(records(whole))
    assert counts == (Reading.objects.count(), Visit.objects.count(), Photo.objects.count(), Baseline.objects.count())
    client.force_login(elsewhere)
    assert "Ours house" in words(client.get("/houses/?q=ours"))
    sheet = words(client.get(Visit.objects.earliest("started_at").get_absolute_url()))
    assert "This system does what it should today." in sheet and "Ana T." in sheet
    person = User.objects.get(first_name="Ana")
    assert person.shop == elsewhere.shop and not person.is_active and not person.has_usable_password()
    assert Instrument.objects.get(label="Ours probe").retired


def test_the_tables_open_in_a_spreadsheet_without_a_formula_and_each_column_is_explained(whole):
    files = members(whole)
    explained = {
        (row["file"], row["column"]) for row in csv.DictReader(io.StringIO(files["dictionary.csv"].decode("utf-8-sig")))
    }
    for name in ("readings.csv", "visits.csv", "refrigerant.csv"):
        text = files[name].decode("utf-8-sig")
        rows = list(csv.reader(io.StringIO(text)))
        assert {(name, column) for column in rows[0]} <= explained
        assert not [cell for row in rows for cell in row if cell[:1] in "=@+" and cell[:1]]
    read = [row for row in table(files, "readings.csv") if row["counts"]]
    assert {row["value"] for row in read if row["place"] == "outdoor"} == {"90.8"}


def spoilt(content, **changed):
    """The archive with some of its members replaced; 'records' by a function of its lines."""
    files = members(content)
    if (edit := changed.pop("records", None)) is not None:
        lines = [json.loads(line) for line in files[RECORDS].splitlines()]
        files[RECORDS] = b"".join(line if isinstance(line, bytes) else line_of(line) for line in edit(lines))
    return packed(files | changed)


def put(kind, **values):
    """Change the first record of a kind."""

    def edit(lines):
        next(line for line in lines if line[TYPE] == kind).update(values)
        return lines

    return edit  # fmt: skip


@pytest.mark.parametrize(("edit", "refused"), [
    (lambda lines: [*lines, b"{"], "is no record"), (lambda lines: [*lines, b"[1]\n"], "is no record"),
    (lambda lines: [*lines, {TYPE: "invoice"}], "there is no record 'invoice'"),
    (lambda lines: [*lines, b'{"record":"house","altitude_ft":NaN}\n'], "is no record"),
    (put("reading", value="warm"), "value"), (put("reading", place="x" * 200), "more than 60 letters"),
    (put("reading", taken_at="2199-01-01T00:00:00+00:00"), "still to come"), (put("reading", taken_at=None), "missing"),
    (put("reading", round="00000000-0000-0000-0000-000000000000"), "neither in the archive nor here"),
    (put("reading", value=None), "contradicts"), (put("reading", sequence=True), "not what it should be"),
    (put("system", house="no-number"), "neither in the archive nor here"), (put("visit", started_at=[]), "not what it"),
])  # fmt: skip
def test_a_bad_line_refuses_the_whole_with_its_number(whole, elsewhere, edit, refused):
    with pytest.raises(IntakeRefused, match=r"^Line \d+") as error:
        take_in(elsewhere, spoilt(whole, records=edit))
    assert refused in str(error.value)
    assert not House.objects.exists() and not Reading.objects.exists()


def test_what_is_no_archive_a_bomb_and_another_version_are_refused(whole, elsewhere, monkeypatch):
    manifest = json.loads(members(whole)[MANIFEST])
    newer = json.dumps(manifest | {"version": 2}).encode()
    for file, said in (
        (io.BytesIO(b"PK no zip"), "no archive"), (packed({"a.txt": b""}), "not of Ruddy Draft"),
        (spoilt(whole, **{MANIFEST: newer}), "version 2"), (spoilt(whole, **{MANIFEST: b"{}"}), "cannot be read"),
        (io.BytesIO(whole[: len(whole) // 2]), "no archive"),
    ):  # fmt: skip
        with pytest.raises(IntakeRefused, match=said):
            take_in(elsewhere, file)
    monkeypatch.setattr(intake, "MOST_BYTES", 1000)
    with pytest.raises(IntakeRefused, match="larger than is taken in"):
        take_in(elsewhere, io.BytesIO(whole))
    assert not House.objects.exists()


def test_a_kept_row_that_says_something_else_is_refused_and_nothing_of_another_shop_is_touched(
    signed_in, ours, theirs, whole
):
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    ours.person.refresh_from_db()
    with pytest.raises(IntakeRefused, match="is here already and says something else"):
        take_in(ours.person, spoilt(whole, records=put("reading", typed="99")))
    stolen = next(record for record in records(whole) if record[TYPE] == "visit")
    stolen |= {"public_id": str(number(8)), "system": str(theirs.system.public_id)}
    with pytest.raises(IntakeRefused, match="neither in the archive nor here"):
        take_in(ours.person, spoilt(whole, records=lambda lines: [*lines, stolen]))
    User.objects.filter(pk=theirs.person.pk).update(role=LEAD)
    theirs.person.refresh_from_db()
    with pytest.raises(IntakeRefused, match="is another shop's here"):
        take_in(theirs.person, io.BytesIO(whole))
    assert (
        System.objects.filter(house__shop=theirs.shop).count() == 1
        and Round.objects.filter(visit__shop=theirs.shop).count() == 1
    )


def test_the_page_is_the_leads_and_says_beside_the_file_what_is_wrong(signed_in, ours, whole):
    assert signed_in.get(PAGE).status_code == 403
    with pytest.raises(PermissionDenied):
        take_in(ours.person, io.BytesIO(whole))
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    assert "Choose an archive first." in words(signed_in.post(PAGE))
    bad = signed_in.post(PAGE, {"file": ContentFile(b"hello", name="x.zip")})
    assert "This file is no archive" in words(bad) and "Nothing was taken in." in words(bad)
    good = signed_in.post(PAGE, {"file": ContentFile(whole, name="x.zip")}, follow=True)
    assert "0 records are new" in words(good)


def test_the_archive_of_the_shop_is_made_in_steps_and_is_the_same_when_a_step_is_done_again(
    wherever, signed_in, ours, whole, monkeypatch, django_capture_on_commit_callbacks
):
    """A worker killed in the middle: the step is done again, and nothing is twice in it."""
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    ours.person.refresh_from_db()
    signed_in.post(reverse("exchange:start_archive"))
    work = Work.objects.get(kind="export")
    address = reverse("exchange:shop_archive", args=[work.public_id])
    assert signed_in.get(address).status_code == 404, "not before it is packed"
    EXPORT.step(work)
    with django_capture_on_commit_callbacks(execute=True):
        assert run_step(work.pk) and not run_step(work.pk)
    assert list(every("exports")) == [name_of(work)], "what was written on the way is gone"
    made = b"".join(signed_in.get(address).streaming_content)
    assert members(made)[RECORDS] == members(whole)[RECORDS]
    assert {name for name in members(made) if name.endswith(".csv")} == {
        name for name in members(whole) if name.endswith(".csv")
    }
    page = words(signed_in.get(PAGE))
    assert "Fetch it" in page and "1 system, " in page
    assert TIDY_EXPORTS.step(work).done == 0
    with monkeypatch.context() as later:
        later.setattr("web.exchange.tasks.KEPT_FOR", timedelta(0))
        assert TIDY_EXPORTS.step(work).done == 1 and not default_storage.exists(name_of(work))
    assert "Fetch it" not in words(signed_in.get(PAGE))


def test_a_visit_as_a_bundle_is_assessed_by_the_command_line_as_on_the_sheet(signed_in, ours, whole):
    bundle = signed_in.get(reverse("exchange:bundle", args=[ours.visit.public_id])).json()
    visit = visit_of(bundle)
    assert [name for name, _ in visit.rounds] == ["round 1", "round 2"] and visit.baseline is not None
    assert visit.rounds[1][1].done == ("filter_changed",)
    [answer] = answers([(1, json.dumps(bundle))])
    assert (
        answer["rounds"][-1]["verdict"]["headline"]
        == Assessment.objects.filter(round__visit=ours.visit).latest("pk").headline
    )


def test_a_large_archive_is_taken_in_in_the_background_and_says_what_came_of_it(client, whole, elsewhere, monkeypatch):
    monkeypatch.setattr("web.exchange.services.AT_ONCE", 10)
    client.force_login(elsewhere)
    client.post(PAGE, {"file": ContentFile(whole, name="x.zip")})
    assert not House.objects.exists(), "not while somebody waits"
    assert not run_step(Work.objects.get(kind="take_in").pk)
    assert House.objects.count() == 1 and "records are new, 0 were here" in words(client.get(PAGE))
    spoilt_one = spoilt(whole, records=put("reading", typed="99")).read()
    client.post(PAGE, {"file": ContentFile(spoilt_one, name="x.zip")})
    run_step(Work.objects.filter(kind="take_in").latest("pk").pk)
    assert "Nothing was taken in. Line " in words(client.get(PAGE))
