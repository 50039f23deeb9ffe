"""Houses, nameplates, tables, rooms, and the house rules."""

import re
import uuid

import pytest
from django.core.exceptions import PermissionDenied
from django.urls import reverse

from tests.web.conftest import a_picture, plain, whole_sheet, words
from web.houserules import services as rules
from web.houserules.models import Choices
from web.houses.models import House, System, Table
from web.houses.querysets import initials_of
from web.houses.services import add_table, save_house
from web.visits import changes as visits

BLOWER = "static\tlow\thigh\n0.1\t1000\t1300\n0.5\t900\t1150\n0.8\t800\t1000"


@pytest.fixture
def plate(ours):
    """What the nameplate form posts, with changes."""

    def filled(**changes):
        sound = {
            "name": "upstairs",
            "kind": "air_conditioner",
            "capacity_btuh": "36,000",
            "nominal_tons": "",
            "refrigerant": "R-410A",
            "metering_device": "txv",
            "blower_motor": "psc",
            "unit": "air_handler",
            "model": "Maker Z 36",
            "year": "2015",
            "seer": "14",
            "loop_fluid": "water",
        }
        return sound | changes

    return filled


@pytest.mark.parametrize(
    ("name", "initials"), [("Hollow Lane 14", "hl14"), ("3 Ferry St.", "3fs"), ("  ", ""), ("Élan Way 7b", "éw7")]
)
def test_initials(name, initials):
    assert initials_of(name) == initials


def test_a_house_is_found_in_three_keystrokes(signed_in, ours):
    for name in ("Hollow Lane 14", "Hill Lane 2", "Ferry Street 3"):
        save_house(ours.person, House(name=name, altitude_ft=500, customer="Petra Lindqvale" if "14" in name else ""))

    def found(typed, **more):
        return words(signed_in.get("/houses/", {"q": typed, **more}, headers={"HX-Request": "true"}))

    assert "Hollow Lane 14" in found("hl1") and "Hill Lane" not in found("hl1")
    assert "Hollow Lane 14" in found("lind") and "Ferry" in found("fer") and "No house is found" in found("zzz")
    assert "Hollow Lane 14" in found("petra hollow")
    gone = signed_in.get("/houses/", {"q": "hl1", "go": "1"})
    assert gone.status_code == 302 and str(House.objects.get(initials="hl14").public_id) in gone.url


def test_a_house_is_added_and_what_is_wrong_is_said_beside_its_field(signed_in, ours):
    wrong = signed_in.post("/houses/new/", {"name": "", "altitude_ft": "forty", "climate": "wet"})
    assert (
        "needs an address" in words(wrong)
        and "Type digits" in words(wrong)
        and 'value="forty"' in wrong.content.decode()
    )
    far = words(signed_in.post("/houses/new/", {"name": "Peak 1", "altitude_ft": "62000"}))
    assert "From -300 to 12000 ft; this is 62000" in far
    signed_in.post("/houses/new/", {"name": "Peak Row 1", "altitude_ft": "6,200", "climate": "dry"})
    kept = House.objects.get(name="Peak Row 1")
    assert (kept.shop, kept.altitude_ft, kept.initials) == (ours.shop, 6200.0, "pr1")


def test_a_system_gets_its_tons_from_its_capacity_and_its_defaults_are_said_aloud(signed_in, ours, plate):
    add = reverse("houses:add_system", args=[ours.house.public_id])
    helped = words(signed_in.post(reverse("houses:plate_help"), plate()))
    assert "36,000 BTU/h is 3 tons." in helped and "class mid" in helped and "the usual stand-in" in helped
    assert signed_in.post(add, plate()).status_code == 302
    assert System.objects.get(name="upstairs").nominal_tons == 3.0
    assert "10 °F, the usual stand-in. Ask the maker." in words(
        signed_in.get(reverse("houses:house", args=[ours.house.public_id]))
    )
    for changes, message in (
        ({"capacity_btuh": ""}, "one of them is needed"),
        ({"nominal_tons": "5"}, "3 tons, not 5"),
        ({"year": "3015"}, "has not come yet"),
        ({"seer": "140"}, "From 6 to 30"),
    ):
        assert message in words(signed_in.post(add, plate(**changes)))


@pytest.mark.parametrize(("changes", "message"), [
    ({"refrigerant": "R-22", "year": "2019"}, "R-22 in a machine made in 2019"),
    ({"compressor_rla": "40"}, "rated load for 3 tons"),
])  # fmt: skip
def test_a_plate_that_contradicts_itself_is_asked_about_once_and_then_kept(signed_in, ours, plate, changes, message):
    add = reverse("houses:add_system", args=[ours.house.public_id])
    asked = signed_in.post(add, plate(**changes))
    assert (
        message in words(asked)
        and "Keep it as it is" in words(asked)
        and not System.objects.filter(name="upstairs").exists()
    )
    accepted = asked.context["accepted"]
    assert signed_in.post(add, plate(**changes, accepted=accepted)).status_code == 302
    assert message in words(signed_in.get(reverse("houses:house", args=[ours.house.public_id]))), "it is still said"


def test_an_unknown_metering_device_is_said_and_never_stops_the_work(signed_in, ours, plate):
    add = reverse("houses:add_system", args=[ours.house.public_id])
    assert signed_in.post(add, plate(metering_device="unknown")).status_code == 302
    assert "Metering device unknown: superheat has no target" in words(
        signed_in.get(reverse("houses:house", args=[ours.house.public_id]))
    )


def test_a_house_is_found_by_any_end_of_a_serial_and_by_what_it_is_called_now(signed_in, ours, theirs, plate):
    def found(typed):
        return words(signed_in.get("/houses/", {"q": typed}, headers={"HX-Request": "true"}))

    signed_in.post(reverse("houses:add_system", args=[ours.house.public_id]), plate(serial="W-48213077"))
    assert all("Ours house" in found(typed) for typed in ("3077", "w-48", "ours maker", "MAKER z 36"))
    assert all("No house is found" in found(typed) for typed in ("82139", "theirs", "ours 99"))
    ours.house.name = "Quay Row 5"
    save_house(ours.person, ours.house)
    assert "Quay Row 5" in found("quay") and "Quay Row 5" in found("qr5") and "No house" in found("ours house")


def test_a_twins_plate_and_tables_are_copied_without_its_serials(signed_in, ours, plate, theirs):
    ours.system.model, ours.system.serial, ours.system.seer = "Maker Z 36", "S-1", 16
    ours.system.save()
    add_table(ours.person, ours.system, "blower", BLOWER)
    add = reverse("houses:add_system", args=[ours.house.public_id])
    page = signed_in.get(add, {"like": str(ours.system.public_id)}).content.decode()
    assert 'value="Maker Z 36"' in page and "S-1" not in page and 'value="16"' in page
    signed_in.post(add, plate(like=str(ours.system.public_id)))
    assert System.objects.get(name="upstairs").tables.get().text == BLOWER
    assert "Copied from" not in words(signed_in.get(add, {"like": str(theirs.system.public_id)})), (
        "another shop's plate is not copied"
    )


def test_tons_that_do_not_fit_the_blower_table_are_caught(signed_in, ours, plate):
    add_table(ours.person, ours.system, "blower", BLOWER)
    asked = signed_in.post(
        reverse("houses:system", args=[ours.system.public_id]), plate(capacity_btuh="", nominal_tons="5", tap="turbo")
    )
    assert "5 tons want about 2000 CFM" in words(asked) and "Tap 'turbo' is not in the blower table" in words(asked)


@pytest.mark.parametrize(("text", "message"), [
    ("", "Paste the table first"), ("static, low\n0.1, many\n0.5, 900", "Line 2, cell 2"),
    ("static, low\n0.1, 900\n0.5, 9", "Line 3, cell 2"),
    ("hello", "a header row"),
])  # fmt: skip
def test_a_table_that_cannot_be_understood_says_where(signed_in, ours, text, message):
    address = reverse("houses:tables_of", args=[ours.system.public_id, "blower"])
    page = signed_in.post(address, {"text": text})
    assert message in words(page) and Table.objects.count() == 0
    assert text in page.content.decode(), "what was typed stays"


def test_a_table_is_shown_as_understood_kept_and_the_newest_counts(signed_in, ours):
    of = [ours.system.public_id, "blower"]
    checked = signed_in.post(reverse("houses:check_table", args=of), {"text": BLOWER})
    assert "<svg" in checked.content.decode() and "3 rows, 2 columns" in words(checked) and Table.objects.count() == 0
    for text in (BLOWER, BLOWER, BLOWER.replace("1300", "1320")):
        signed_in.post(reverse("houses:tables_of", args=of), {"text": text, "source": "submittal"})
    assert Table.objects.count() == 2 and "1320" in ours.system.tables.newest()["blower"].text
    assert (
        signed_in.post(reverse("houses:check_table", args=[ours.system.public_id, "moon"]), {"text": "x"}).status_code
        == 404
    )


def test_rooms_become_places_of_the_walk(signed_in, ours):
    form = {"form-TOTAL_FORMS": "3", "form-INITIAL_FORMS": "0"}
    rows = [("west room", "6", "110"), ("west room", "7", ""), ("", "", "")]
    posted = form | {
        f"form-{i}-{key}": value
        for i, row in enumerate(rows)
        for key, value in zip(("name", "diameter_in", "wants_cfm"), row, strict=True)
    }
    posted |= {f"form-{i}-duct": "flex" for i in range(3)}
    address = reverse("houses:rooms", args=[ours.system.public_id])
    assert "Two rooms have the same name" in words(signed_in.post(address, posted))
    signed_in.post(address, posted | {"form-1-name": "hall"})
    assert [room.name for room in ours.system.rooms.all()] == ["west room", "hall"]
    page = plain(whole_sheet(signed_in, ours.visit))
    assert "Register, west room" in page and "West room: the duct carries" in page
    ids = re.findall(r'\sid="([^"]*)"', signed_in.get(ours.visit.get_absolute_url()).content.decode())
    assert len(ids) == len(set(ids)) and not any(" " in found for found in ids), (
        "ids are single words and each is there once"
    )


# -- house rules -------------------------------------------------------------------------------------------------------


def test_a_lead_chooses_a_school_each_choice_is_a_version_and_overtaking_is_caught(signed_in, ours):
    change = {"rule": "split_school", "value": "flat", "seen_version": "0"}
    assert signed_in.post("/house-rules/change/", change).status_code == 403, "a technician does not"
    ours.person.role = "lead"
    ours.person.save()
    said = words(signed_in.post("/house-rules/change/", change, follow=True))
    assert "chosen" in said and "Version 1" in said
    assert "Somebody chose meanwhile" in words(
        signed_in.post("/house-rules/change/", change | {"value": "climate"}, follow=True)
    )
    assert "choose one of" in words(
        signed_in.post("/house-rules/change/", change | {"value": "hunch", "seen_version": "1"}, follow=True)
    )
    assert rules.rules_of(ours.shop).split_school == "flat" and Choices.objects.count() == 1
    page = plain(whole_sheet(signed_in, ours.visit))
    assert "Flat band our house rule" in page


def test_trying_a_rule_shows_what_it_would_change_and_keeps_nothing(
    device, signed_in, ours, django_assert_max_num_queries
):
    device.whole_visit()
    address = reverse("visits:what_if")
    assert "This system does what it should today." in words(signed_in.get(address))
    tried = words(
        signed_in.get(address, {"rule": "split_tolerance_f", "value": "1.5", "visit": str(ours.visit.public_id)})
    )
    assert "Split may differ from expected by" in tried and "± 1.5" in tried and "Temperature split" in tried
    assert "The verdict stays" in words(signed_in.get(address, {"rule": "drier_drop_f", "value": "3.0"}))
    assert "choose one of" in words(signed_in.get(address, {"rule": "split_school", "value": "tarot"}))
    past = reverse("visits:what_if_past")
    assert "None of the last 1" in words(signed_in.get(past, {"rule": "drier_drop_f", "value": "3.0"}))
    device.send(device.item("system", "running_time", "8", "min"))
    moved = words(signed_in.get(past, {"rule": "settle_minutes", "value": "5.0"}))
    assert (
        "1 would read otherwise" in moved and "These readings do not count yet. Gauges: not enough to say. →" in moved
    )
    assert "choose one of" in words(signed_in.get(past, {"rule": "split_school", "value": "tarot"}))
    assert Choices.objects.count() == 0 and ours.round.assessments.count() == 2
    for _ in range(4):
        ours.round = visits.start_visit(ours.person, ours.system).rounds.get()
        device.send(device.item("outdoor", "dry_bulb", "90"))
    with django_assert_max_num_queries(17):  # five visits in as many as one
        assert "Of the last 5, 1" in words(signed_in.get(past, {"rule": "settle_minutes", "value": "5.0"}))


def test_the_help_beside_a_plate_knows_the_systems_own_tables_and_nobody_elses(signed_in, ours, theirs, plate):
    for shop in (ours, theirs):
        add_table(shop.person, shop.system, "blower", BLOWER)
    silent = "No blower table"
    for system, says in (
        ("", True),
        (ours.system.public_id, False),
        (theirs.system.public_id, True),
        ("no number", True),
    ):
        assert (
            silent in words(signed_in.post(f"{reverse('houses:plate_help')}?system={system}", plate(tap="low")))
        ) == says, system


def number_on(page):
    """The number that a page gave its form."""
    return re.search(r'name="number" value="([0-9a-f-]{36})"', page.content.decode())[1]


def test_what_is_sent_twice_is_kept_once_and_another_thing_is_not_lost(signed_in, ours, theirs, plate):
    add = reverse("houses:new")
    house = {"number": number_on(signed_in.get(add)), "name": "Hollow Lane 14", "altitude_ft": "1150"}
    first, again = (signed_in.post(add, house) for _ in range(2))
    assert first.url == again.url and House.objects.filter(name="Hollow Lane 14").count() == 1
    other = signed_in.post(add, house | {"name": "Hollow Lane 16"})
    assert (
        "This page has kept Hollow Lane 14 already." in words(other)
        and 'value="Hollow Lane 16"' in other.content.decode()
    )
    assert signed_in.post(add, house | {"name": "Hollow Lane 16", "number": number_on(other)}).status_code == 302
    assert sorted(House.objects.visible_to(ours.person).values_list("name", flat=True))[:2] == [
        "Hollow Lane 14",
        "Hollow Lane 16",
    ]
    assert "number is taken" in words(signed_in.post(add, house | {"number": str(theirs.house.public_id)}))

    add = reverse("houses:add_system", args=[ours.house.public_id])
    system = plate(number=number_on(signed_in.get(add)))
    assert [signed_in.post(add, system).status_code for _ in range(2)] == [302, 302] and ours.house.systems.count() == 2
    assert "has kept Ours house, upstairs already" in words(signed_in.post(add, system | {"name": "attic"}))

    leave = reverse("visits:open_follow_up", args=[ours.visit.public_id])
    left = {
        "number": number_on(signed_in.get(ours.visit.get_absolute_url())),
        "text": "Look at the drain",
        "blocks": "",
        "due_on": "",
    }
    for text, said in (
        ("Look at the drain", "is kept"),
        ("Look at the drain", "is kept"),
        ("Look at the pan", "kept another follow-up already"),
    ):
        assert said in words(signed_in.post(leave, left | {"text": text}, follow=True))
    assert ours.system.follow_ups.count() == 1


def test_services_refuse_people_of_another_shop(ours, theirs):
    for call in (
        lambda: save_house(theirs.person, ours.house),
        lambda: add_table(theirs.person, ours.system, "blower", BLOWER),
        lambda: visits.start_visit(theirs.person, ours.system),
        lambda: visits.open_follow_up(theirs.person, ours.system, "x"),
        lambda: visits.next_round(theirs.person, ours.visit, 1),
        lambda: rules.change(theirs.person, "split_school", "flat", 0),
    ):
        with pytest.raises(PermissionDenied):
            call()


def test_the_rest_of_a_plate_is_folded_until_something_of_it_is_entered_or_wrong(signed_in, ours, plate):
    new = reverse("houses:add_system", args=[ours.house.public_id])

    def is_open(page):
        return bool(re.search(r"<details open>\s*<summary>The rest of the plates", page.content.decode()))

    assert not is_open(signed_in.get(new))
    assert is_open(signed_in.post(new, plate(year="3015"))), "a field that is wrong is in sight"
    assert (
        signed_in.post(new, plate(indoor_place="closet", model="", year="", blower_motor="unknown")).status_code == 302
    )
    kept = System.objects.get(name="upstairs")
    assert kept.indoor_place == "closet" and not is_open(signed_in.get(reverse("houses:system", args=[kept.public_id])))


def test_an_attics_cautions_stand_for_attics_and_where_nobody_said(signed_in, ours):
    sheet = reverse("visits:sheet", args=[ours.visit.public_id])
    for place, times in (("", 3), ("attic", 3), ("basement", 1)):  # in the attic itself the caution always stands
        System.objects.filter(pk=ours.system.pk).update(indoor_place=place)
        assert signed_in.get(sheet).content.decode().count('data-caution="attic"') == times, place


def test_a_new_house_starts_from_where_the_lead_says_most_of_them_stand(signed_in, ours):
    assert "A new house starts from" not in words(signed_in.get("/shop/"))
    assert signed_in.post("/shop/", {"altitude_ft": "9000"}).status_code == 403
    ours.shop.refresh_from_db()
    assert ours.shop.altitude_ft is None, "the lead's to say"
    ours.person.role = "lead"
    ours.person.save()
    assert "Check the digits" in words(signed_in.post("/shop/", {"altitude_ft": "90000", "climate": "dry"}))
    assert (
        signed_in.post("/shop/", {"altitude_ft": "6200", "climate": "dry", "weather_place": "Upper town"}).status_code
        == 302
    )
    page = signed_in.get(reverse("houses:new")).content.decode()
    assert 'value="6200"' in page and 'value="Upper town"' in page and '<option value="dry" selected>' in page


def test_a_twin_is_offered_once_a_model_newest_first_and_never_from_a_house_of_practice(signed_in, ours):
    practice = save_house(ours.person, House(name="Practice", altitude_ft=0, is_practice=True))
    for house, model in (
        (ours.house, "Maker A 1"),
        (ours.house, "Maker B 2"),
        (ours.house, "Maker A 1"),
        (practice, "X"),
    ):
        System.objects.create(house=house, name="more", nominal_tons=3.0, model=model)
    page = signed_in.get(reverse("houses:add_system", args=[ours.house.public_id])).content.decode()
    assert re.findall(r'name="like" value="[^"]+">([^<]+)<', page) == ["Maker A 1", "Maker B 2"]


def test_a_plates_picture_stands_beside_the_fields_and_comes_by_the_outbox(signed_in, ours, theirs):
    def send(system, **more):
        to = reverse("visits:add_nameplate", args=[system.public_id])
        return signed_in.post(to, {"file": a_picture(), **more}, headers={"accept": "application/json"})

    number = str(uuid.uuid4())
    assert [send(ours.system, id=number).status_code for _ in range(2)] == [200, 200]
    assert send(ours.system, id="none").status_code == 400
    assert send(theirs.system, id=number).status_code == 404
    beside = reverse("visits:plates_of", args=[ours.system.public_id])
    assert signed_in.get(beside).content.decode().count("<img") == 1
    page = signed_in.get(reverse("houses:system", args=[ours.system.public_id])).content.decode()
    assert beside in page and "Picture of the plate" in page
