"""The shop's instruments: calibration, and many of them."""

from datetime import date

from tests.web.conftest import words
from web.houses.models import Instrument


def test_an_instrument_overdue_for_calibration_is_said_where_it_is_chosen(signed_in, ours):
    new = {
        "label": "Probe 9",
        "kind": "air_probe",
        "calibrated_on": "2020-02-29",
        "calibration_months": "12",
        "lowest_f": "-4",
        "highest_f": "",
    }
    assert "Both ends of its range" in words(signed_in.post("/houses/instruments/new/", new))
    signed_in.post("/houses/instruments/new/", new | {"highest_f": "140"})
    kept = Instrument.objects.get(label="Probe 9")
    assert kept.overdue and kept.calibration_due == date(2021, 2, 28) and kept.shop == ours.shop
    assert "overdue" in words(signed_in.get("/houses/instruments/"))
    assert "Probe 9 (calibration overdue)" in words(signed_in.get(ours.visit.get_absolute_url()))
    assert "has not come yet" in words(
        signed_in.post("/houses/instruments/new/", new | {"calibrated_on": "2999-01-01"})
    )


def test_many_instruments_come_page_by_page(signed_in, ours):
    Instrument.objects.bulk_create(Instrument(shop=ours.shop, label=f"clamp {n}") for n in range(60))
    first, second = (words(signed_in.get(f"/houses/instruments/?page={page}")) for page in (1, 2))
    assert "page 1 of 2" in first and "page 2 of 2" in second
    assert first.count("clamp ") + second.count("clamp ") == 60
