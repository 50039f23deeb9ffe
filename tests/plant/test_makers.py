"""Machines differ as makers' do, and so do their plates."""

from random import Random

import numpy as np
import pytest

from plant.machine import Spec
from plant.places import run
from plant.plates import rated_amps
from plant.population import PARTS, Population, as_made
from plant.sizing import machine
from tests.plant.test_plant import QUIET, RATED


def test_makers_machines_differ_and_their_plates_rated_amps_are_never_drawn_at_the_rating():
    spec = Spec()
    drawn = run(machine(spec), RATED, QUIET).state.compressor_kw * 1000.0 / (240.0 * 0.95)
    shares = [drawn / rated_amps(Random(n), spec) for n in range(60)]
    assert 0.57 < min(shares) < 0.65 and 0.80 < max(shares) < 0.89
    made = [as_made(machine(spec), Random(n)) for n in range(200)]
    for part in ("outdoor_m3s", "charge_kg"):
        ratios = [getattr(m, part) / getattr(machine(spec), part) for m in made]
        name = {"outdoor_m3s": "outdoor_air", "charge_kg": "charge"}[part]
        assert np.std(np.log(ratios)) == pytest.approx(PARTS[name], rel=0.15)


def test_machines_of_a_line_are_alike_and_lines_are_not():
    """A line has one class, refrigerant, metering device and rated amps for a size; its machines differ by a third of
    what lines do, or as a population says.
    """
    shop = Population("Lines", lines=6)
    drawn = [shop.drawn(Random(n)) for n in range(240)]
    by_line = {}
    for spec, made, plate in drawn:
        by_line.setdefault(plate["line"], []).append((spec, made, plate))
    assert len(by_line) == 6
    within = []
    for machines in by_line.values():
        assert len({(s.efficiency, s.refrigerant, s.metering_device, s.unit) for s, *_ in machines}) == 1
        rated = {(s.tons, plate["compressor_rla"]) for s, _, plate in machines}
        assert len(rated) == len({tons for tons, _ in rated}), "the plate of a model says the same on each"
        within.append([np.log(m.outdoor_m3s / machine(s).outdoor_m3s) for s, m, _ in machines])
    assert np.mean([np.std(ratios) for ratios in within]) == pytest.approx(PARTS["outdoor_air"] / 3, rel=0.25)
    assert np.std([np.mean(ratios) for ratios in within]) > 1.5 * PARTS["outdoor_air"] / 3


@pytest.mark.parametrize("kind", ["air_conditioner", "heat_pump", "ground_source"])
def test_a_population_is_all_of_its_kind_and_some_may_have_lost_charge(kind):
    sound, low = (Population("Kind", kind=kind, low_on_charge=share) for share in (0.0, 1.0))
    for n in range(12):
        (spec, made, _), (_, lost, _) = sound.drawn(Random(n)), low.drawn(Random(n))
        assert spec.kind == kind and 0.84 < lost.charge_kg / made.charge_kg < 0.96
