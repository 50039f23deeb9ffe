"""Machines differ as makers' do, and so do their plates."""

from random import Random

import numpy as np
import pytest

from plant.machine import Spec
from plant.places import run
from plant.plates import rated_amps
from plant.population import PARTS, as_made
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
