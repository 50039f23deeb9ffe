"""Customers and systems from a spreadsheet: read as spreadsheets write them, shown before anything is made, undone."""

import pytest
from django.core.files.base import ContentFile
from django.urls import reverse

from tests.web.conftest import words
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.exchange import register, services
from web.exchange.models import RegisterIntake
from web.exchange.register import FileRefused
from web.houses.models import House, PlateVersion, System
from web.visits import changes

PAGE = reverse("exchange:registers")
SHEET = """Street,Customer,Altitude,System,Kind,Tons,Refrigerant,Metering device,Serial,Colour
Quay 1,Ada Low,1150,upstairs,Heat pump,2.5,R-32,TXV,S-1,red
,,,downstairs,,3,R-410A,Orifice,S-2,
Quay 2,Bo High,1160,,,,,,,
"""


@pytest.fixture
def boss(signed_in, ours):
    User.objects.filter(pk=ours.person.pk).update(role=LEAD)
    ours.person.refresh_from_db()
    return signed_in


def rows(ours, text, encoding="utf-8"):
    return register.read(ours.shop, ours.person, text.encode(encoding)).rows


def test_it_is_shown_first_made_on_a_yes_once_and_undone_but_for_what_was_worked_on(boss, ours):
    shown = boss.post(PAGE, {"file": ContentFile(SHEET.encode(), name="all.csv")}, follow=True)
    text = words(shown)
    assert "New: 3 . Here already: 0 . In doubt and left out: 0 ." in text and "mean nothing here: Colour" in text
    assert House.objects.count() == 1, "nothing is made before a yes"
    page = reverse("exchange:register", args=[RegisterIntake.objects.get().public_id])
    for _ in range(2):
        made = boss.post(page, {"did": "make"}, follow=True)
    assert "2 houses and 2 systems were made" in words(made)
    up, down = System.objects.filter(house__name="Quay 1").order_by("-name")
    assert (up.kind, up.nominal_tons, up.refrigerant, up.metering_device, up.serial) == (
        "heat_pump",
        2.5,
        "R-32",
        "txv",
        "S-1",
    )
    assert (down.kind, down.metering_device, down.house.customer) == ("air_conditioner", "fixed_orifice", "Ada Low")
    assert "Quay 2" in words(boss.get("/houses/?q=quay"))
    changes.start_visit(ours.person, up)
    undone = boss.post(page, {"did": "undo"}, follow=True)
    assert "Stays: Quay 1, upstairs: there is work on record." in words(undone)
    assert set(House.objects.values_list("name", flat=True)) == {"Ours house", "Quay 1"}
    assert not System.objects.filter(name="downstairs").exists()
    assert PlateVersion.objects.filter(system=up).count() == 1
    again = boss.post(page, {"did": "make"}, follow=True)
    assert House.objects.count() == 2 and "Undone" in words(again)


@pytest.mark.parametrize(
    ("line", "becomes", "says"),
    [
        ("Ours house,,1150,main,,3,,,", "known", "Ours house, main is here."),
        ("ours  HOUSE.,,1150,,,,,,", "known", "This house is here."),
        ("Ours house,,1150,attic,,3,,,", "new", ""),
        ("Far 1,,1150,main,,3,,,SER 9", "known", "A system with this serial is here"),
        (",,1150,main,,3,,,", "wrong", "No street"),
        ("Far 1,,1150,main,,300,,,", "wrong", "From 0.75 to 10 tons; this is 300"),
        ("Far 1,,90000,main,,3,,,", "wrong", "Altitude"),
        ("Far 1,,1150,main,Toaster,3,,,", "wrong", "Kind"),
        ("Far 1,,1150,main,,,,,", "wrong", "Tons or the rated capacity"),
        ("Far 1,,1150,main,,3,R-999,,", "wrong", "Refrigerant"),
        ("Far 1,,1150,main,,3,,,,,x", "wrong", "more cells than the first line"),
        ("Far 1,,1150", "new", ""),
        ('Far 1,,1150,main,,"2,5",,,', "new", ""),
    ],
)
def test_each_row_says_what_becomes_of_it(ours, line, becomes, says):
    System.objects.filter(pk=ours.system.pk).update(serial="ser 9")
    [row] = rows(ours, f"Street,Customer,Altitude,System,Kind,Tons,Refrigerant,Metering device,Serial\n{line}\n")
    assert row.becomes == becomes and says in " ".join(row.says), row


def test_a_row_twice_in_the_file_is_made_once(ours):
    found = rows(ours, "Street;Altitude;System;Tons\nFar 1;1150;main;3\nFar  1;1150;Main;3\n")
    assert [row.becomes for row in found] == ["new", "known"] and found[1].says == ["The same as line 2."]


@pytest.mark.parametrize("encoding", ["utf-8", "utf-8-sig", "utf-16", "cp1252"])
@pytest.mark.parametrize("separator", [",", ";", "\t"])
def test_the_encodings_and_separators_of_spreadsheets_are_read(ours, encoding, separator):
    lines = (("Street", "Altitude", "Customer"), ("Größe 1", "1150", "Señor Ñu"))
    text = "".join(f"{separator.join(line)}\r\n" for line in lines)
    [row] = rows(ours, text, encoding)
    assert (row.house["name"], row.house["customer"], row.becomes) == ("Größe 1", "Señor Ñu", "new")


def test_other_units_are_ours_where_the_column_says_so(ours):
    """By the definitions: a foot is 0.3048 m, a kg 35.274 oz, a kW 3,412.142 BTU/h; 1 °C between two is 1.8 °F."""
    heads = "Street,Altitude (m),System,Capacity (kW),Factory charge (kg),Target subcooling (°C),Line length (m)"
    [row] = rows(ours, f"{heads}\nFar 1,350.52,main,10.551,2.0,5,9.144\n")
    assert row.becomes == "new" and float(row.house["altitude_ft"]) == pytest.approx(1150, abs=0.1)
    system = register.system_of(House(name="x"), row.system)
    got = (system.nominal_tons, system.factory_charge_oz, system.target_subcooling_f, system.line_length_ft)
    assert got == pytest.approx((3.0, 70.548, 9.0, 30.0), rel=1e-3)


@pytest.mark.parametrize(
    ("content", "refused"),
    [
        (b"", "nothing under the first line"),
        (b"Street\n", "nothing under"),
        (b"Colour\nred\n", "No column is called Street"),
        (b"PK\x03\x04\x00\x00", "This is no CSV"),
        (b"Street,Altitude\n" + b"x,1\n" * 5_001, "At most 5000 rows"),
    ],
)
def test_what_is_no_such_file_is_said_at_it(boss, ours, content, refused):
    with pytest.raises(FileRefused, match=refused):
        register.read(ours.shop, ours.person, content)
    shown = boss.post(PAGE, {"file": ContentFile(content, name="x.csv")})
    assert shown.status_code == 200 and not RegisterIntake.objects.exists()


def test_it_is_the_leads_alone(signed_in, ours, theirs):
    assert signed_in.get(PAGE).status_code == 403
    User.objects.update(role=LEAD)
    theirs.person.refresh_from_db()
    intake = services.read_register(theirs.person, "x.csv", SHEET.encode())
    assert signed_in.get(reverse("exchange:register", args=[intake.public_id])).status_code == 404
