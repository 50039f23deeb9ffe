"""The customer's page: plain words from what was closed, by a link that is random, counted, ended, and opens nothing
else.
"""

import re
from datetime import timedelta

import pytest
from django.urls import reverse
from django.utils import timezone
from hypothesis import given
from hypothesis import strategies as st

from engine.diagnosis.actions import ACTIONS
from engine.diagnosis.causes import EVERY_CAUSE, Setting, causes_in
from engine.diagnosis.verdict import STATES
from engine.report import customer_words
from engine.report.customer_words import DONE, LEAK, WATCH, WRONG, WRONG_IN_HEATING, Round, told_to_customer
from tests.web.conftest import words
from tests.web.test_due import finish
from tests.web.test_report import mended  # noqa: F401
from web.exchange import services
from web.exchange.models import CustomerLink
from web.visits import changes

TRADE = re.compile(
    r"evaporat|condens|subcool|superheat|approach|static|plenum|TXV|orifice|split\b|charge|psi|CFM|BTU|delta|blower|"
    r"metering|suction|discharge|latent|sensible|amps?\b|%RH|wet bulb|fail|danger|must\b|replace|recommend|\$", re.I
)  # fmt: skip
TOLD = (
    "The air filter was clogged", "We put in a new air filter.", "A new filter is in.", "It cools as it should",
    "Look at the filter each month", "Ours house, main", "Ana Test",
)  # fmt: skip
PROBES = ("probe", "healthy")


def link_of(ours, days=90):
    row, token = services.make_link(ours.person, ours.visit, days)
    return row, reverse("exchange:customer", args=[token])


def test_every_cause_and_every_action_has_plain_words():
    unsaid = {id_ for id_, c in EVERY_CAUSE.items() if id_ not in WRONG and c.group not in (*WRONG, *PROBES)}
    assert unsaid <= {"circuit_short", "high_side", "non_condensables"}, "those are said as one more look"
    assert {action.id for action in ACTIONS} <= DONE.keys() | {"nothing_done"}
    said = [
        *WRONG.values(),
        *WRONG_IN_HEATING.values(),
        *DONE.values(),
        *WATCH.values(),
        *LEAK.values(),
        customer_words.NOT_SURE,
    ]
    assert [text for text in said if TRADE.search(text)] == []


@pytest.mark.parametrize("source", ["air", "water"])
def test_of_a_visit_in_heating_nothing_is_told_of_cooling(source):
    for cause in causes_in(Setting(mode="heating", source=source)).values():
        told = told_to_customer([Round("cause", cause.group, cause.id)], [], heating=True)
        assert not re.search(r"cooled (air|up)|cooling|hot air|dried", told.wrong), (cause.id, told.wrong)


ROUNDS = st.builds(
    Round, st.sampled_from(STATES), st.sampled_from([*WRONG, *PROBES, ""]), st.sampled_from([*EVERY_CAUSE, ""]),
    st.one_of(st.none(), st.floats(0.2, 1.3)),
)  # fmt: skip


@given(
    st.lists(ROUNDS, max_size=4),
    st.lists(st.sampled_from([a.id for a in ACTIONS])),
    st.booleans(),
    st.sampled_from(("", *LEAK)),
)
def test_whatever_happened_is_told_without_trade_words_and_agrees_with_the_verdict(rounds, done, heating, leak):
    told = told_to_customer(rounds, done, heating, leak)
    text = " ".join((told.wrong, told.done, told.now, told.watch))
    assert told.done and told.now and not TRADE.search(text), text
    assert all(sentence[0].isupper() for sentence in re.split(r"(?<=\.) ", text.strip()) if sentence)
    if rounds and rounds[-1].state == "sound":
        assert "as it should" in told.now
    if rounds and rounds[0].state == "sound":
        assert told.wrong == "Nothing was wrong."
    if rounds and rounds[0].group == "probe" and rounds[0].state != "sound":
        assert told.wrong == "", "that was of our instruments"
    if told.before is not None:
        assert 0 <= told.before <= 100 and 0 <= told.after <= 100 and told.before % 5 == told.after % 5 == 0


def test_a_visit_is_told_from_what_was_closed(client, ours, mended):  # noqa: F811
    row, address = link_of(ours)
    client.logout()
    answer = client.get(address)
    text = words(answer)
    for said in TOLD:
        assert said in text, said
    assert "Before" in text and re.search(r"Now\s+\d+ %", text)
    assert "noindex" in answer["X-Robots-Tag"] and "no-store" in answer["Cache-Control"]
    assert answer["Referrer-Policy"] == "no-referrer" and "noindex" in answer.content.decode()
    leads_to = re.findall(r'(?:href|src|action)="([^"]*)"', answer.content.decode())
    assert leads_to and all(address.startswith("/static/") for address in leads_to), "nothing else is reached from it"
    client.get(address)
    row.refresh_from_db()
    assert row.opened == 2 and row.opened_at


def test_a_link_is_made_of_a_finished_visit_shown_once_and_ended(client, signed_in, ours, device):
    page = reverse("exchange:links", args=[ours.visit.public_id])
    assert "Finish the visit first" in words(signed_in.post(page, {"days": "90"}))
    finish(ours, ours.visit)
    assert "Choose how long" in words(signed_in.post(page, {"days": "9999"}))
    shown = signed_in.post(page, {"days": "30"})
    address = shown.context["address"]
    row = CustomerLink.objects.get()
    assert address.startswith("http://testserver/exchange/c/") and row.token_hash not in address
    assert address not in signed_in.get(page).content.decode() and "opened 0 times" in words(signed_in.get(page))
    assert (row.expires_at - timezone.now()).days == 29
    path = address.removeprefix("http://testserver")
    assert client.get(path).status_code == 200
    signed_in.post(reverse("exchange:end_link", args=[row.public_id]))
    gone = client.get(path)
    assert gone.status_code == 404 and "does not open any more" in words(gone)


def test_it_expires_and_a_visit_that_is_opened_again_says_so(client, ours, mended):  # noqa: F811
    row, address = link_of(ours)
    changes.reopen_visit(ours.person, ours.visit, "One more look")
    assert "being looked at again" in words(client.get(address))
    CustomerLink.objects.update(expires_at=timezone.now() - timedelta(seconds=1))
    assert client.get(address).status_code == 404
    row.refresh_from_db()
    assert row.opened == 1


@pytest.mark.parametrize("guess", ["x", "0" * 43, "../visits", "%00"])
def test_a_guessed_address_opens_nothing(client, ours, guess):
    assert client.get(f"/exchange/c/{guess}/").status_code == 404
