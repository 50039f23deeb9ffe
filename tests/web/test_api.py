"""The interface for other programs: what its document promises, for its shop alone, as far as a token's scopes go."""

import json

import pytest
import schemathesis
from django.urls import reverse
from hypothesis import HealthCheck, given, settings

from tests.web.conftest import words
from tests.web.test_due import finish
from web.accounts.models import Tally, User
from web.accounts.rights import LEAD
from web.exchange import services
from web.exchange.api import api
from web.exchange.models import SCOPES, ApiToken
from web.visits import changes

API, PAGE = "/api/v1", reverse("exchange:tokens")
LISTS = {"houses": "houses", "systems": "houses", "visits": "visits", "due": "due", "refrigerant/2026": "refrigerant"}


def lead(shop):
    User.objects.filter(pk=shop.person.pk).update(role=LEAD)
    shop.person.refresh_from_db()
    return shop.person


def token_of(shop, *scopes):
    return services.make_token(lead(shop), "A program", scopes or list(SCOPES))[1]


def ask(client, token, path, **asked):
    return client.get(f"{API}/{path}", asked, headers={"Authorization": f"Bearer {token}"})


@pytest.fixture
def document(client, db):
    return client.get(f"{API}/openapi.json").json()


def test_it_answers_as_its_document_says_whatever_it_is_asked(live_server, ours, device):
    """Requests made from the document, right and wrong ones, to a live server; each answer is checked against it."""
    device.whole_visit()
    finish(ours, ours.visit)
    promised = schemathesis.openapi.from_url(f"{live_server.url}{API}/openapi.json").include(path_regex="^/api/")
    headers = {"Authorization": f"Bearer {token_of(ours)}"}
    asked = [found.ok() for found in promised.get_all_operations()]
    assert len(asked) == len(LISTS) + 2

    def answers(case):
        Tally.objects.all().delete()
        case.call_and_validate(headers=headers)

    for operation in asked:
        tried = settings(max_examples=20, deadline=None, derandomize=True, suppress_health_check=list(HealthCheck))
        tried(given(case=operation.as_strategy())(answers))()


def test_each_list_says_what_is_here_in_pages_and_only_of_the_shop(client, ours, theirs, device):
    device.whole_visit()
    finish(ours, ours.visit)
    token = token_of(ours)
    told = {path: ask(client, token, path).json() for path in LISTS}
    assert [row["name"] for row in told["houses"]["items"]] == ["Ours house"]
    assert told["systems"]["items"][0]["house"] == str(ours.house.public_id)
    [visit] = told["visits"]["items"]
    assert (visit["headline"], visit["person"], visit["ended"]) == (
        "This system does what it should today.", "Ana Test", "finished")  # fmt: skip
    read = ask(client, token, f"visits/{visit['id']}/readings").json()
    assert {(row["place"], row["value"]) for row in read if row["place"] == "outdoor" and row["counts"]} == {
        ("outdoor", 90.8)
    }
    assert "Theirs" not in json.dumps(told)
    assert ask(client, token, f"visits/{theirs.visit.public_id}").status_code == 404
    for _ in range(3):
        changes.start_visit(ours.person, ours.system)
    page = ask(client, token, "visits", limit=2, offset=2).json()
    assert page["count"] == 4 and len(page["items"]) == 2


def test_a_token_reads_as_far_as_its_scopes_go_until_it_is_revoked(client, ours):
    for scope in SCOPES:
        token = token_of(ours, scope)
        for path, needs in LISTS.items():
            assert ask(client, token, path).status_code == (200 if needs == scope else 401), (scope, path)
    row = ApiToken.objects.get(token_hash=services.hash_of(token))
    assert row.used_at
    services.revoke_token(ours.person, row)
    assert ask(client, token, "refrigerant/2026").status_code == 401
    assert client.get(f"{API}/houses").status_code == ask(client, "x", "houses").status_code == 401
    assert client.post(f"{API}/houses", headers={"Authorization": f"Bearer {token}"}).status_code == 405


def test_what_has_not_changed_is_not_sent_again_and_too_many_requests_are_told(client, ours, monkeypatch):
    token = token_of(ours)
    first = ask(client, token, "houses")
    again = client.get(f"{API}/houses", headers={"Authorization": f"Bearer {token}", "If-None-Match": first["ETag"]})
    assert again.status_code == 304 and not again.content
    answers = [ask(client, token, "houses").status_code for _ in range(245)]
    assert answers[0] == 200 and answers[-1] == 429


def test_the_document_has_every_list_and_the_gateways_way_in(document):
    paths = set(document["paths"])
    assert {f"{API}/{path}" for path in ("houses", "systems", "visits", "visits/{id}", "due")} <= paths
    assert "/probes/samples/" in paths and document["info"]["title"] == "Ruddy Draft"
    assert api.get_openapi_schema()["paths"].keys() == document["paths"].keys()


def test_a_token_of_who_has_left_is_pointed_out(signed_in, ours):
    lead(ours)
    gone = User.objects.create_user("gone", first_name="Gil", shop=ours.shop, role=LEAD)
    services.make_token(gone, "Books", ["houses"])
    User.objects.filter(pk=gone.pk).update(is_active=False)
    assert "who has left and may know it" in words(signed_in.get(reverse("exchange:tokens")))


def test_tokens_are_the_leads_and_shown_once(signed_in, ours, theirs):
    assert signed_in.get(PAGE).status_code == 403
    lead(ours)
    assert "Choose what it may read." in words(signed_in.post(PAGE, {"name": "Books"}))
    made = signed_in.post(PAGE, {"name": "Books", "scopes": ["visits"]})
    token = made.context["token"]
    assert token in made.content.decode() and token not in signed_in.get(PAGE).content.decode()
    row = ApiToken.objects.get()
    signed_in.force_login(lead(theirs))
    assert signed_in.post(reverse("exchange:revoke_token", args=[row.public_id])).status_code == 404
    assert "Books" not in words(signed_in.get(PAGE))
