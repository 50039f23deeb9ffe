"""A customer is erased: nothing that names them, or that somebody wrote, is left anywhere; the readings stay."""

import io
import uuid
from datetime import timedelta

import pytest
from django.apps import apps
from django.core.exceptions import PermissionDenied
from django.core.files.base import ContentFile
from django.core.files.storage import default_storage
from django.db import connection
from django.db.models import CharField, JSONField, TextField
from django.urls import reverse
from django.utils import timezone

from tests.web.conftest import a_picture, words
from tests.web.test_access import with_role
from tests.web.test_baseline import fit, seal
from tests.web.test_due import finish
from web.accounts.models import Deed
from web.accounts.rights import LEAD
from web.background.models import Work
from web.exchange import erasing, services
from web.exchange.intake import IntakeRefused, take_in
from web.exchange.models import CustomerLink, RegisterIntake
from web.exchange.tasks import name_of
from web.history import due
from web.houses.models import House, HouseWord, Room
from web.houses.services import add_table, save_house, set_rooms
from web.kinds.models import LeftOut
from web.retention.models import Removal
from web.visits import changes, models
from web.visits.changes.picture_files import name_of as photo_name

MARK = "Zzyx"
# Columns of the house's record in which nobody writes: codes, and the engine's own sentences.
NOT_WRITTEN = {
    "Assessment.headline", "Outcome.said_headline", "VisitSummary.headline", "VisitSummary.drifts",
    "VisitSummary.without_gauges", "VisitSummary.filter_why", "Rejudged.says", "Rejudged.was_says",
    "Table.text",
}  # fmt: skip


def of_a_house():
    """Every table that belongs to a house, with its way there."""
    ways = {House: ""}
    for _ in range(6):
        for model in apps.get_models():
            for field in model._meta.fields:
                if field.related_model in ways and model not in ways:
                    ways[model] = "__".join(filter(None, (field.name, ways[field.related_model])))
    return ways


def written():
    """Tables and columns of the house's record that are long enough to write in."""
    for model, way in of_a_house().items():
        for field in model._meta.concrete_fields:
            long_enough = isinstance(field, CharField) and field.max_length >= 80
            is_text = (long_enough or isinstance(field, TextField)) and not isinstance(field, JSONField)
            if is_text and f"{model.__name__}.{field.name}" not in NOT_WRITTEN:
                yield model, way, field


def live_in(ours, device):
    """Something in every table of a visit; the picture."""
    set_rooms(ours.person, ours.system, [{"name": f"{MARK}'s room", "diameter_in": 7.0, "duct": "flex"}])
    assert seal(fit(device)) == ("stored", "")
    device.send(device.item(f"room:{MARK}'s room", "dry_bulb", "58"))
    entry = {"round": ours.round, "person": ours.person, "device": uuid.uuid4(), "taken_at": timezone.now()}
    for n, row in enumerate((
        models.Remark(about="complaint", text="Warm"), models.Action(done="filter_changed", text="Hers"),
        models.HookUp(did="opened", why="She asks"), models.LeakSearch(found="not_searched", where="Her wall"),
        models.ChargeStep(number=1, way=models.ADDED, before_oz=160, after_oz=150, tare_oz=99, capacity_oz=300,
                          cylinder="A", why="She asks"),
    )):  # fmt: skip
        for name, value in (entry | {"uuid": uuid.uuid4(), "sequence": 900 + n}).items():
            setattr(row, name, value)
        row.save()
    of_shop = {"shop": ours.shop, "person": ours.person}
    models.Outcome.objects.create(
        **of_shop, round=ours.round, right=True, by="seen", words="Hers", said_probability=0.9
    )
    models.DueMove.objects.create(
        **of_shop, system=ours.system, kind="filter", ref=str(ours.visit.public_id), until="2030-01-01", why="Away"
    )
    models.Handover.objects.create(visit=ours.visit, given_by=ours.person, given_to=ours.person, note="Her key")
    plan = changes.plan_visit(ours.person, ours.system, ours.person, timezone.now() + timedelta(days=3), 60, "She asks")
    changes.move_plan(ours.person, plan, ours.person, plan.starts_at + timedelta(days=1), 60, "Away")
    changes.open_follow_up(ours.person, ours.system, "Ring her")
    add_table(ours.person, ours.system, "blower", "static, low\n0.1, 1000\n0.5, 900", "Her binder")
    LeftOut.objects.create(shop=ours.shop, visit=ours.visit, why="Her dog", by=ours.person)
    photo = changes.add_photo(ours.person, uuid.uuid4(), ours.system, ours.round, "coil", a_picture())
    finish(
        ours,
        ours.visit,
        for_customer="Dear her",
        for_shop="Her dog",
        next_due=timezone.localdate(),
        no_recheck_why="She left",
    )
    services.make_link(ours.person, ours.visit)
    ours.house.customer, ours.house.access_note, ours.system.serial = MARK, MARK, MARK
    save_house(ours.person, ours.house)
    changed = ours.system
    changed.serial, changed.name = f"{MARK}1", f"{MARK}'s unit"
    changed.save()
    RegisterIntake.objects.create(shop=ours.shop, by=ours.person, rows=[{"house": {"name": "Ours house", "x": MARK}}])
    return photo


@pytest.fixture
def lived_in(signed_in, ours, device):
    """A house with something in every table of a visit, each word of it marked; its picture."""
    photo = live_in(ours, device)
    mark(MARK, ((model, field) for model, _, field in written()))
    House.objects.filter(pk=ours.house.pk).update(name="Ours house")
    with_role(ours.person, LEAD)
    return photo


def mark(with_what, columns):
    """Write something in front of all that stands in columns."""
    with connection.cursor() as cursor:
        for model, field in columns:
            table, column, most = model._meta.db_table, field.column, field.max_length or 999
            changed = f"UPDATE `{table}` SET `{column}` = LEFT(CONCAT(%s, `{column}`), {most}) WHERE `{column}` <> ''"
            cursor.execute(changed, [f"{with_what} "])


def stored():
    """All that is stored, by table and column."""
    for model in apps.get_models():
        for row in model._default_manager.values():
            for column, value in row.items():
                yield f"{model.__name__}.{column}", str(value)


def test_nothing_that_names_or_was_written_is_left_anywhere(
    wherever, lived_in, ours, django_capture_on_commit_callbacks
):
    for model, way, _ in written():
        of_house = {way: ours.house} if way else {"pk": ours.house.pk}
        assert model._default_manager.filter(**of_house).exists(), f"the house has no {model.__name__} to erase"
    before = set(models.Reading.objects.values_list("pk", "value")), models.Assessment.objects.count()
    work = Work.objects.create(shop=ours.shop, kind="export")
    default_storage.save(name_of(work), ContentFile(b"of before"))
    with django_capture_on_commit_callbacks(execute=True):
        erasing.erase(ours.person, ours.house)
    left = {where for where, said in stored() if MARK in said or "Ours house" in said}
    assert left == set()
    assert not default_storage.exists(photo_name(lived_in, "full")) and not default_storage.exists(name_of(work))
    assert set(models.Reading.objects.values_list("pk", "value")) == before[0], "readings stay"
    assert models.Reading.objects.filter(place="room:Room 1").count() == 1
    assert Room.objects.get().name == "Room 1" and models.Assessment.objects.exists()
    assert not CustomerLink.objects.exists() and due.due_of(ours.person) == []
    assert Deed.objects.get(did="customer_erased").of == ours.house.public_id
    assert set(Removal.objects.values_list("why", flat=True)) == {erasing.WHY}
    count = Removal.objects.count()
    erasing.erase(ours.person, House.objects.get(pk=ours.house.pk))
    assert Removal.objects.count() == count, "twice is once"


def test_the_page_asks_once_more_and_what_was_erased_is_closed(signed_in, lived_in, ours, theirs):
    address, house = (
        reverse("exchange:erase", args=[ours.house.public_id]),
        reverse("houses:house", args=[ours.house.public_id]),
    )
    assert "Erase the customer" in words(signed_in.get(house)) and "1 photo" in words(signed_in.get(address))
    assert "Tick the box" in words(signed_in.post(address))
    assert signed_in.get(reverse("exchange:erase", args=[theirs.house.public_id])).status_code == 404
    assert "kept without name" in words(signed_in.post(address, {"sure": "yes"}, follow=True))
    assert "was erased on" in words(signed_in.get(house)) and "Start a visit" not in words(signed_in.get(house))
    assert "Erased" not in words(signed_in.get("/houses/"))
    machine = words(signed_in.get(reverse("visits:of_system", args=[ours.system.public_id])))
    assert not any(said in machine for said in ("Plan a visit", "Next due", "Photo of a nameplate"))
    assert "This system does what it should" in words(signed_in.get(ours.visit.get_absolute_url()))
    ours.system.refresh_from_db()
    ours.visit.refresh_from_db()
    for again in (
        lambda: changes.start_visit(ours.person, ours.system),
        lambda: changes.reopen_visit(ours.person, ours.visit, "why not"),
        lambda: save_house(ours.person, ours.system.house),
        lambda: changes.open_follow_up(ours.person, ours.system, "Ring her"),
        lambda: set_rooms(ours.person, ours.system, []),
    ):
        with pytest.raises(PermissionDenied):
            again()


def test_an_open_visit_is_finished_first_and_an_archive_of_before_does_not_bring_them_back(signed_in, ours, theirs):
    with_role(ours.person, LEAD)
    address = reverse("exchange:erase", args=[ours.house.public_id])
    assert "not finished" in words(signed_in.post(address, {"sure": "yes"}))
    archive = signed_in.get(reverse("exchange:house_archive", args=[ours.house.public_id])).getvalue()
    finish(ours, ours.visit)
    erasing.erase(ours.person, ours.house)
    with pytest.raises(IntakeRefused, match="was erased here since"):
        take_in(ours.person, io.BytesIO(archive))
    with pytest.raises(PermissionDenied):
        erasing.erase(ours.person, theirs.house)


def test_an_archive_of_before_is_not_given_out_while_the_store_does_not_forget_it(wherever, signed_in, ours):
    with_role(ours.person, LEAD)
    finish(ours, ours.visit)
    work = Work.objects.create(shop=ours.shop, kind="export", state="finished")
    default_storage.save(name_of(work), ContentFile(b"of before"))
    address = reverse("exchange:shop_archive", args=[work.public_id])
    assert signed_in.get(address).getvalue() == b"of before"
    erasing.erase(ours.person, ours.house)  # its files go after the commit, which never comes here
    assert default_storage.exists(name_of(work)) and signed_in.get(address).status_code == 404
    assert "Fetch it" not in words(signed_in.get(reverse("exchange:archives")))


def test_customers_past_the_shops_keeping_time_are_erased_by_themselves(signed_in, ours, theirs):
    with_role(ours.person, LEAD)
    page = reverse("exchange:stored")
    assert "until a lead erases them" in words(signed_in.get(page))
    assert "greater than or equal to 1" in words(signed_in.post(page, {"keeps_years": "0"}))
    for shop in (ours, theirs):
        finish(shop, shop.visit)
        models.Visit.objects.filter(pk=shop.visit.pk).update(started_at=timezone.now() - timedelta(days=3 * 366))
    signed_in.post(page, {"keeps_years": "3"})
    assert "1 house past it" in words(signed_in.get(page))
    kept = save_house(ours.person, House(name="Newer", altitude_ft=10))
    work = Work(kind="erase_past")
    steps = [erasing.ERASE_PAST.step(work), erasing.ERASE_PAST.step(work)]
    assert [step.done for step in steps] == [1, 0] and steps[-1].ended
    erased = House.objects.exclude(erased_at=None)
    assert [house.pk for house in erased] == [ours.house.pk], "not another shop's, which keeps them, nor the newer one"
    assert HouseWord.objects.filter(house=kept).exists() and Deed.objects.get(did="customer_erased").by is None
