"""What a wrong probe makes of each quantity: the slope that the judgement goes by is what reading it otherwise does."""

from collections import defaultdict
from dataclasses import replace
from statistics import median

import pytest

from engine.assessment import table_of
from engine.diagnosis.causes import causes_in, setting_of
from engine.errors import EngineError
from engine.report.bundle.reading import visit_of
from plant.simulate import bundle

AIR = {
    "outdoor": ("outdoor", "dry_bulb"),
    "return": ("return_unit", "dry_bulb"),
    "supply": ("supply_plenum", "dry_bulb"),
}
COLDER_F, WRONG_BY_F = -4.0, 5.0
SEED, VISITS = 77, 14


def residuals_of(round_):
    return {q.residual.kind.id: q.residual for q in table_of(round_).quantities.values() if q.residual}


def read_colder(round_, place, quantity):
    rows = [
        replace(r, value=r.value + COLDER_F) if (r.place, r.quantity) == (place, quantity) else r
        for r in round_.readings
    ]
    return replace(round_, readings=tuple(rows))


def sound_rounds(kind, heating):
    for row in range(VISITS):
        try:
            found = bundle(SEED, row, kind, faults=[], heating=heating, gauges=True, discharge=kind != "ground_source")
        except EngineError:
            continue
        yield visit_of(found).rounds[0][1]


@pytest.mark.parametrize("kind", ["heat_pump", "ground_source"])
@pytest.mark.parametrize("heating", [False, True], ids=["cooling", "heating"])
def test_a_slope_is_what_reading_otherwise_makes_of_the_quantity(kind, heating):
    """On simulated sound visits, every probe that may be wrong read 4 °F colder and the round worked out again. In the
    middle of the visits slope and difference leave less than a third of the quantity's own doubt between them, for a
    probe 5 °F off: a bound is ours, and an orifice's target or a bend in a curve may lie within the 4 °F.
    """
    apart, doubt = defaultdict(list), defaultdict(list)
    for round_ in sound_rounds(kind, heating):
        device, was = round_.equipment.metering_device, residuals_of(round_)
        for reading in {c.probe[0] for c in causes_in(setting_of(round_)).values() if c.probe}:
            place, quantity = AIR.get(reading, (reading, "temperature"))
            if round_.value(place, quantity) is None:
                continue
            now = residuals_of(read_colder(round_, place, quantity))
            for id_ in was.keys() & now.keys():
                by = (now[id_].value - was[id_].value) / COLDER_F
                apart[device, id_, reading].append(WRONG_BY_F * (by - was[id_].slopes.get(reading, 0.0)))
                doubt[device, id_, reading].append(2.0 * was[id_].own_variance ** 0.5)
    assert {reading for *_, reading in apart} >= {"supply", "return"}
    off = {key: median(apart[key]) for key in apart if abs(median(apart[key])) > median(doubt[key]) / 3.0}
    assert off == {}
