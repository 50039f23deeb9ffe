"""What is kept is kept: by the code, by the database, and with a record of what the one way out took."""

import re
from datetime import timedelta
from pathlib import Path

import pytest
from django.apps import apps
from django.db import IntegrityError, connection, transaction
from django.db.utils import OperationalError
from django.utils import timezone

from web.probes.models import Gateway, Probe, Sample
from web.probes.services import thin
from web.retention.models import Removal
from web.shell.append_only import AppendOnly, AppendOnlyError
from web.visits.models import Pairing, Reading

KEPT = [model for model in apps.get_models() if issubclass(model, AppendOnly)]
WEB = Path(__file__).parents[2] / "web"


def test_what_is_stored_once_is_every_entry_every_verdict_and_every_version():
    names = {model.__name__ for model in KEPT}
    assert names >= {
        "Reading",
        "Observation",
        "Remark",
        "Action",
        "Assessment",
        "Handover",
        "Table",
        "Choices",
        "Removal",
    }


@pytest.mark.parametrize("model", KEPT, ids=lambda model: model.__name__)
def test_every_way_to_change_or_delete_it_is_closed(model, db):
    row, rows = model(pk=1), model.objects.all()
    column = next(f.attname for f in model._meta.fields if not f.primary_key)
    for way in (
        row.save,
        row.delete,
        rows.delete,
        lambda: rows.update(**{column: None}),
        lambda: rows.bulk_update([row], [column]),
        lambda: rows.bulk_create([row], update_conflicts=True, update_fields=[column]),
    ):
        with pytest.raises(AppendOnlyError):
            way()


def test_retention_alone_goes_round_it_and_says_who_what_and_why(ours):
    round_it = [path.relative_to(WEB).parts[0] for path in WEB.rglob("*.py") if "QuerySet.delete(" in path.read_text()]
    assert round_it == ["retention"]
    probe = Probe.objects.create(
        gateway=Gateway.objects.create(shop=ours.shop, name="g", token_hash="h", made_by=ours.person), name="p"
    )
    old = timezone.now() - timedelta(hours=30)
    Sample.objects.bulk_create(
        Sample(probe=probe, channel="dry_bulb", sequence=n, value=70, unit="degF", raw=70, taken_at=old)
        for n in range(3)
    )
    with pytest.raises(AppendOnlyError):
        Sample.objects.all().delete()
    assert thin() == 3 and not Sample.objects.exists()
    removal = Removal.objects.get()
    assert (removal.person, removal.table, removal.rows) == (None, "probes_sample", 3) and "means" in removal.why


@pytest.mark.parametrize(
    "spoil",
    [
        "value = NULL",
        "place = ''",
        "unit = ''",
        "quantity = ''",
        "source = 'not_possible'",
        "source = 'withdrawn'",
        "source = ''",
    ],
)
def test_the_database_itself_refuses_a_reading_that_says_half(device, spoil):
    device.send(device.item("return_unit", "dry_bulb", "76.4"))
    with (
        pytest.raises((IntegrityError, OperationalError), match=r"(?i)constraint"),
        transaction.atomic(),
        connection.cursor() as cursor,
    ):
        cursor.execute(f"UPDATE visits_reading SET {spoil}")
    device.send(device.item("return_unit", "rh", "", "pct", source="not_possible", reason="no_access"))
    assert Reading.objects.count() == 2, "and takes what says all"


def test_a_probe_is_live_at_one_place_and_a_place_has_one_live_probe(ours):
    gateway = Gateway.objects.create(shop=ours.shop, name="g", token_hash="h", made_by=ours.person)
    first, second = (Probe.objects.create(gateway=gateway, name=name) for name in ("a", "b"))
    given = {"visit": ours.visit, "paired_by": ours.person}
    Pairing.objects.create(**given, stop="return_unit", place="return_unit", probe=first)
    for stop, probe in (("attic", first), ("return_unit", second)):
        with pytest.raises(IntegrityError), transaction.atomic():
            Pairing.objects.create(**given, stop=stop, place=stop, probe=probe)
    for _ in range(2):  # released ones are as many as there were
        Pairing.objects.create(**given, stop="attic", place="attic", probe=first, live=None, released_at=timezone.now())


def test_every_check_has_a_name_that_says_the_rule():
    named = [
        c.name for model in apps.get_models() if model.__module__.startswith("web.") for c in model._meta.constraints
    ]
    assert len(named) > 15 and all(re.fullmatch(r"[a-z]+(_[a-z]+){2,}", name) for name in named)
