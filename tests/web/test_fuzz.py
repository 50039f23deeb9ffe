"""Anything may be sent to any address: it is answered, never by a server error. Seeded; RUDDY_FUZZ=10000 sends more."""

import json
import os
import random
import re
import uuid

import pytest
from django.core.files.base import ContentFile
from django.db import transaction
from django.urls import reverse
from django.utils import timezone

from tests.web.test_access import pages, patterns, with_role
from web.accounts.rights import LEAD
from web.exchange.models import SCOPES
from web.exchange.services import make_token
from web.probes.services import add_gateway

MANY = int(os.environ.get("RUDDY_FUZZ", "250"))
ODD = [
    "", " ", "0", "-1", "1e309", "nan", "inf", "9" * 400, "1,5", "72.4 °F", "٣٤", "½", "true", "null", "\x00", "\r\n.",
    "‮אבג", "🧊" * 40, "a" * 5_000, "<script>alert(1)</script>", "' OR 1=1 --", "%s%n{0}{{x}}", "../../etc/passwd",
    "2026-13-45", "0000-00-00", "9999-12-31T23:59:59", "10000-01-01", "12:61", "[]", "{}", "=1+1", "\ufeff", "\ud800",
    "-9223372036854775809", "99999999999999999999", "R-410A", "lead", "post", "yes", "on", "F",
]  # fmt: skip
NAMES = ["q", "page", "person", "did", "since", "until", "model", "area", "rule", "value", "system", "mode", "station"]
KINDS = ["reading", "observation", "remark", "action", "hook_up", "charge_step", "leak_search", "closing", "baseline"]


class Chance:
    """What somebody might send, by a seed."""

    def __init__(self, seed, known):
        self.random, self.known = random.Random(seed), known

    def text(self):
        return self.random.choice([*ODD, *self.known, str(uuid.UUID(int=self.random.getrandbits(128)))])

    def sent(self, names):
        """Fields of a form: some left out, some twice, some that nobody asked for."""
        asked = [name for name in (*names, *NAMES[:4]) if self.random.random() < 0.7]
        found = {name: [plain(self.text()) for _ in range(self.random.choice((1, 1, 1, 2)))] for name in asked}
        for name in names:
            if name in ("file", "text", "picture") and self.random.random() < 0.5:
                found[name] = ContentFile(plain(self.text()).encode(), name="x.csv")
        return found

    def json(self, depth=0):
        """Any JSON."""
        if depth < 3 and self.random.random() < 0.4:
            inner = [self.json(depth + 1) for _ in range(self.random.randrange(4))]
            return inner if self.random.random() < 0.5 else {str(n): value for n, value in enumerate(inner)}
        return self.random.choice([None, True, -1, 1e308, 2**70, 0.1, self.text()])

    def changed(self, document):
        """A document as the page sends it, with some of it changed."""
        if isinstance(document, dict):
            kept = {key: self.changed(value) for key, value in document.items() if self.random.random() > 0.05}
            return kept | ({self.text(): self.json()} if self.random.random() < 0.05 else {})
        if isinstance(document, list):
            return [self.changed(one) for one in document]
        return self.json() if self.random.random() < 0.15 else document


def plain(text):
    """As a form can send it: a lone half of a pair is no text."""
    return text.encode("utf-8", "replace").decode()


def answered(send, what):
    """Send something; the database as before. Nothing but a page of ours is the answer."""
    with transaction.atomic():
        answer = send()
        assert answer.status_code < 500, (what, answer.status_code)
        if answer.streaming:
            b"".join(answer.streaming_content)
        transaction.set_rollback(True)


@pytest.fixture
def everything(signed_in, ours):
    """Every address and method, the fields of its page, and the numbers of what is there."""
    with_role(ours.person, LEAD)
    found = [(method, name, address) for method, name, address in pages(ours)]
    bare = [(name, reverse(name)) for name, pattern in patterns() if "<" not in pattern]
    found += [(method, name, address) for name, address in bare for method in ("get", "post")]
    targets = []
    for method, name, address in found:
        page = signed_in.get(address)
        text = "" if page.streaming else page.content.decode("utf-8", "replace")
        targets.append((method, name, address, sorted(set(re.findall(r'\bname="([^"]+)"', text)))))
    return [t for t in targets if t[1] not in ("accounts:sign_out",)]


def test_any_form_and_address(signed_in, ours, everything, monkeypatch):
    known = [str(ours.probe.public_id), str(ours.round.public_id), str(ours.system.public_id), "1", "72"]
    for n in range(MANY):
        chance = Chance(n, known)
        method, name, address, fields = chance.random.choice(everything)
        chance.known = [*known, *fields]
        sent = chance.sent(fields)
        signed_in.force_login(ours.person)
        answered(lambda: getattr(signed_in, method)(address, sent), (n, method, name, sent))  # noqa: B023


def test_any_json(signed_in, ours, device):
    items = [*(device.item("outdoor", "dry_bulb", "90"), device.seen("coil", "wet")), *map(device.entry, KINDS)]
    for n in range(MANY):
        chance = Chance(n, [ours.round.public_id.hex, "outdoor", "dry_bulb"])
        body = {"device": device.id, "clock": timezone.now().isoformat(), "items": chance.random.sample(items, 3)}
        text = json.dumps(chance.changed(body) if n % 5 else chance.json())
        to = reverse("visits:entries")
        answered(lambda: signed_in.post(to, text, content_type="application/json"), (n, text))  # noqa: B023


def test_any_stream_of_a_gateway_and_any_question_of_a_program(client, ours):
    with_role(ours.person, LEAD)
    _, gateways = add_gateway(ours.person, "Van")
    _, programs = make_token(ours.person, "Books", list(SCOPES))
    now = timezone.now().isoformat()
    sample = {"probe": "p1", "channel": "dry_bulb", "sequence": 1, "value": 70.1, "unit": "degF", "taken_at": now}
    body = {"clock": now, "samples": [sample, sample | {"sequence": 2, "battery": 87}]}
    told = {"authorization": f"Bearer {gateways}"}
    sound = client.post(reverse("probes:samples"), body, "application/json", headers=told)
    assert [one["status"] for one in sound.json()["results"]] == ["stored", "stored"]
    for n in range(MANY // 4):
        chance = Chance(n, [])
        text = json.dumps(chance.changed(body) if n % 5 else chance.json())
        answered(
            lambda: client.post(reverse("probes:samples"), text, "application/json", headers=told),  # noqa: B023
            (n, text),
        )
        asked = {name: plain(chance.text()) for name in ("after", "limit", "since", "until", "page", "system")}
        path = chance.random.choice(
            ["houses", "systems", "visits", "due", "refrigerant/2026", f"visits/{ours.visit.public_id}"]
        )
        to = {"authorization": f"Bearer {programs}"}
        answered(lambda: client.get(f"/api/v1/{path}", asked, headers=to), (n, path, asked))  # noqa: B023
