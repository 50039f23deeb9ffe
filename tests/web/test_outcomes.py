"""Was it right? What is kept of a verdict's outcome, and what a lead sees of all of them."""

import uuid

import pytest

from tests.web.conftest import words
from web.accounts.models import User
from web.accounts.rights import LEAD
from web.history.outcomes import named
from web.visits.models import Outcome

PAGE = "/history/was-it-right/"


@pytest.fixture
def told(device):
    """A sound verdict on record."""
    device.whole_visit()
    return device


def say(device, did, number="", **says):
    item = device.entry("outcome", says={"did": did, **says}, **({"id": number} if number else {}))
    [answer] = device.send(item)
    return answer["status"], answer["message"]


def test_what_was_said_is_kept_with_it_and_twice_is_once(told, ours):
    number = str(uuid.uuid4())
    assert [say(told, "right", number, by="gauges")[0] for _ in range(2)] == ["stored"] * 2
    row = Outcome.objects.get()
    assert (row.right, row.by, row.said_group, row.said_state) == (True, "gauges", "healthy", "sound")
    assert row.said_headline == "This system does what it should today." and 0.5 < row.said_probability <= 1.0


@pytest.mark.parametrize(("did", "says", "refused"), [
    ("right", {}, "how that was seen"), ("maybe", {"by": "gauges"}, "whether the verdict was right"),
    ("wrong", {"by": "part"}, "Say what it was"), ("wrong", {"by": "part", "was": "healthy"}, "then it was right"),
])  # fmt: skip
def test_what_cannot_be_is_refused_with_why(told, did, says, refused):
    status, message = say(told, did, **says)
    assert status == "refused" and refused in message and not Outcome.objects.exists()


def test_nothing_told_is_neither_right_nor_wrong(device):
    device.send(device.item("return_unit", "dry_bulb", "76.4"))
    assert "Nothing was told" in say(device, "right", by="seen")[1]


def test_the_lead_sees_the_last_word_of_each_round_with_what_the_count_leaves_open(told, ours, signed_in):
    say(told, "right", by="re_read")
    say(told, "wrong", by="part", was="charge_low", words="An ounce or two short")
    page = words(told.client.get(ours.visit.get_absolute_url()))
    assert "was wrong: low on charge. The part was found faulty: An ounce or two short." in page
    assert told.client.get(PAGE).status_code == 403, "for leads"
    lead = User.objects.create_user("lead", password="quite-long-enough", role=LEAD, shop=ours.shop)
    told.client.force_login(lead)
    seen = words(told.client.get(PAGE))
    assert "0 of 1, 0 to 79 %" in seen and "Nothing wrong that shows" in seen


def test_another_shop_sees_nothing_of_it(told, theirs):
    say(told, "right", by="gauges")
    User.objects.filter(pk=theirs.person.pk).update(role=LEAD)
    told.client.force_login(User.objects.get(pk=theirs.person.pk))
    assert "Nothing is recorded yet" in words(told.client.get(PAGE))
    assert "not open to you" in say(told, "right", by="gauges")[1]


@pytest.mark.parametrize(
    ("mode", "label"),
    [
        (None, "The condenser cannot give its heat off"),
        ("cooling", "The condenser cannot give its heat off"),
        ("heating", "The indoor coil cannot give its heat off, in heating"),
    ],
)
def test_what_was_found_is_called_what_it_is_called_in_its_mode(told, mode, label):
    assert say(told, "wrong", by="part", was="condenser")[0] == "stored"
    row = Outcome.objects.select_related("round__visit__system").get()
    assert row.said_mode == "cooling"
    row.said_mode = mode
    assert named(row, row.was) == label
