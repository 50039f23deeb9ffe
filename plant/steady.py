"""The steady state of a machine in a house and weather: four unknowns - evaporating, condensing, superheat, subcooling
- and four balances.

Compressor and valve pass the same flow; each coil gives and takes what the refrigerant does; the charge is where it has
to be. Newton's method with a numeric Jacobian and bounded steps. A point that does not close raises NotConverged: never
a plausible wrong number.
"""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any

import numpy as np

from engine.errors import EngineError
from plant.air import CP_DRY, Air, atmosphere
from plant.circuit import (
    WET_SPAN,
    Coil,
    Condensed,
    Evaporated,
    compress,
    condense,
    evaporate,
    evaporate_in_water,
    valve_flow,
)
from plant.duct import airflow, blower_watts
from plant.fluid import OutOfTables, fluid
from plant.machine import CP_WATER, Machine, charge, cp_liquid, cp_vapor

TOLERANCE, MOST_STEPS = 1e-7, 60
DAMPINGS = (1.0, 0.5, 0.25, 0.1, 0.03)
# Of what was open before a step, what is still open after a good one and after one that creeps; steps that may creep in
# a row (working figures: no state that was found is lost).
GOOD, CREEPS, MOST_CREEPING = 0.5, 0.8, 4
Balances = Callable[[np.ndarray], np.ndarray]
LONGEST_STEP = np.array([4.0, 5.0, 4.0, 4.0])  # K
STARTS = (
    (7.0, 46.0, 5.6, 5.6),
    (2.0, 40.0, 8.0, 1.0),
    (10.0, 52.0, 3.0, 9.0),
    (-3.0, 36.0, 14.0, -2.0),
    (-12.0, 38.0, 6.0, 8.0),
    (5.0, 58.0, 4.0, 14.0),
    (0.0, 34.0, 6.0, 8.0),  # what heats in the cold condenses low: a higher start leaves the tables of hot refrigerants
    (0.0, 28.0, 1.0, 1.0),
)


class NotConverged(EngineError):
    """No steady state was found."""


@dataclass(frozen=True)
class Conditions:
    """What a machine meets: the air entering the indoor unit, the air outdoors, altitude [ft], whether it heats; water
    entering [°C] for a loop; share of the outdoor coil's air that frost keeps out.
    """

    indoor: Air
    outdoor: Air
    altitude_ft: float = 0.0
    heating: bool = False
    water_c: float = 15.0
    frost: float = 0.0


@dataclass(frozen=True)
class State:
    """A steady state, SI. Temperatures °C; superheat at the coil, subcooling K (below 0: two-phase there); flows kg/s
    and m3/s; heat and power kW.

    unknowns: evaporating and condensing dew temperature, superheat, subcooling. leaving: air off the indoor coil,
    before the blower's heat.
    """

    unknowns: tuple[float, float, float, float]
    flow_kgs: float
    compressor_kw: float
    discharge_c: float
    liquid_c: float
    suction_c: float
    coil_outlet_c: float
    airflow_m3s: float
    air_kgs: float
    blower_w: float
    leaving: Air
    coil_kw: float
    rejected_kw: float
    outdoor_leaving_c: float
    statics_pa: dict[str, float]
    residual: float
    surface_c: float
    valve_liquid_c: float  # the liquid line just before the metering device
    dried_w: float  # humidity ratio that the indoor coil takes out of the air [kg/kg]


class Point:
    """One machine at one set of conditions: its balances, and the state at a solution."""

    def __init__(self, m: Machine, c: Conditions):
        m = m.heating(c.frost) if c.heating else m
        self.m, self.c, self.f = m, c, fluid(m.spec.refrigerant)
        self.atmosphere = atmosphere(c.altitude_ft)
        density = self.atmosphere.density(c.indoor)
        self.m3s = airflow(m.fan, m.ducts, density)
        self.air_kgs = self.m3s * density
        self.density = density
        self.indoor_coil = self._thinned(m.indoor, self.m3s / m.ducts.design_m3s, density / 1.2)
        outdoor_density = self.atmosphere.density(c.outdoor)
        self.outdoor_kgs = m.outdoor_m3s * outdoor_density
        self.outdoor_coil = m.outdoor

    @staticmethod
    def _thinned(coil: Coil, flow_ratio: float, density_ratio: float) -> Coil:
        """Air-side heat transfer goes with about the 0.6 power of mass velocity (memory of published coil
        correlations).
        """
        factor = (flow_ratio * density_ratio) ** 0.6
        return type(coil)(coil.air_side * factor, coil.refrigerant_side, coil.volume)

    def work(self, x: np.ndarray) -> dict[str, Any]:
        """Everything that follows from the four unknowns."""
        te, tc, superheat, subcooling = (float(v) for v in x)
        f, m, c = self.f, self.m, self.c
        kpa = f.dew_kpa(tc) + m.non_condensable_kpa
        bubble = f.bubble_c(f.dew_kpa(tc))
        liquid = bubble - max(subcooling, 0.0)
        latent_c = f.h_vapor(tc) - f.h_liquid(bubble)
        h_liquid = f.h_liquid(liquid) + max(-subcooling, 0.0) / WET_SPAN * latent_c
        latent_e = f.h_vapor(te) - f.h_liquid(te)
        h_out = f.h(te, superheat) if superheat >= 0 else f.h_vapor(te) + superheat / WET_SPAN * latent_e
        suction = self._after_line(te, h_out + m.line_gain_k * cp_vapor(f, te), latent_e)
        head = f.dew_c(kpa)
        drawn = self._throttled(te, suction, latent_e)
        kgs, power, h_discharge = compress(f, m.compressor, te - m.suction_drop_k, drawn, head)
        discharge = tc + f.superheat_of_h(tc, h_discharge) if h_discharge > f.h_vapor(tc) else tc
        at_valve = max(kpa - m.restriction_kpa, f.bubble_kpa(te) * 1.02)
        quality, valve_liquid = self._flashed(at_valve, liquid, h_liquid)
        through = valve_flow(f, m.valve, at_valve, valve_liquid, quality, superheat)
        cp_v, cp_l = cp_vapor(f, te), cp_liquid(f, liquid)
        evaporated, condensed = self._coils(te, (tc, bubble), superheat, subcooling, discharge, kgs, cp_v, cp_l)
        taken = kgs * (min(h_out, f.h_vapor(te)) - h_liquid)
        given = (
            kgs * (f.h_vapor(tc) - max(h_liquid, f.h_liquid(bubble)))
            if discharge > tc
            else kgs * (h_discharge - max(h_liquid, f.h_liquid(bubble)))
        )
        coils = (self.outdoor_coil, self.indoor_coil) if c.heating else (self.indoor_coil, self.outdoor_coil)
        held = charge(m, te, tc, superheat, subcooling, condensed.shares, evaporated.wet_share, *coils)
        held += m.accumulated_kg(suction)
        size = m.spec.tons * 3.517
        return {
            "residuals": np.array(
                [
                    (through - kgs) / (size / 160.0),
                    (evaporated.two_phase_kw - taken) / size,
                    (condensed.two_phase_kw - given) / size,
                    3.0 * (held - m.charge_kg) / m.charge_kg,
                ]
            ),
            "kgs": kgs,
            "power": power,
            "discharge": discharge,
            "liquid": liquid,
            "valve_liquid": valve_liquid,
            "h_liquid": h_liquid,
            "h_out": h_out,
            "evaporated": evaporated,
            "condensed": condensed,
            "suction": te + max(suction, 0.0),
            "coil_outlet": te + max(superheat, 0.0),
            "h_discharge": h_discharge,
            "through": through,
            "held": held,
        }

    def _after_line(self, te: float, h: float, latent: float) -> float:
        """Superheat at the compressor [K]; below 0 the suction is still wet."""
        dry = self.f.h(te, 0.0)  # of the same table as the superheat, so that dry and wet meet without a step
        return self.f.superheat_of_h(te, h) if h >= dry else WET_SPAN * (h - dry) / latent

    def _throttled(self, te: float, suction: float, latent: float) -> float:
        """Superheat [K] behind what takes some of the suction pressure: dry vapor keeps its temperature over a lower
        dew point; of wet vapor the same heat boils some off.
        """
        drop = self.m.suction_drop_k
        boils_off = WET_SPAN * drop * cp_vapor(self.f, te) / latent
        if suction >= 0 or not drop:
            return suction + drop
        return drop * (1.0 + suction / boils_off) if suction > -boils_off else suction + boils_off

    def _flashed(self, kpa: float, liquid: float, h_liquid: float) -> tuple[float, float]:
        """Quality and temperature of what reaches the valve at its pressure."""
        f = self.f
        boils = f.bubble_c(kpa)
        h_boils, h_leaves = f.h_liquid(boils), f.h_liquid(liquid)
        if liquid < boils and h_liquid < h_boils:
            # Beside gas that does not condense, liquid that leaves boiling need not boil here yet.
            return 0.0, liquid + max(h_liquid - h_leaves, 0.0) / (h_boils - h_leaves) * (boils - liquid)
        return max(0.0, (h_liquid - h_boils) / (f.h_vapor(boils) - h_boils)), boils

    def _coils(
        self,
        te: float,
        condensing: tuple[float, float],
        superheat: float,
        subcooling: float,
        discharge: float,
        kgs: float,
        cp_v: float,
        cp_l: float,
    ) -> tuple[Evaporated, Condensed]:
        c, m = self.c, self.m
        cp_hot = cp_vapor(self.f, condensing[0])  # dew and bubble point
        if c.heating:
            evaporated = (
                evaporate_in_water(self.outdoor_coil, m.water_ls * CP_WATER, c.water_c, te, superheat, kgs, cp_v)
                if m.water_ls
                else evaporate(
                    self.outdoor_coil, self.atmosphere, c.outdoor, self.outdoor_kgs, te, superheat, kgs, cp_v
                )
            )
            stream = self.air_kgs * c.indoor.cp
            return evaporated, condense(
                self.indoor_coil, stream, c.indoor.t, *condensing, discharge, subcooling, kgs, (cp_hot, cp_l)
            )
        evaporated = evaporate(self.indoor_coil, self.atmosphere, c.indoor, self.air_kgs, te, superheat, kgs, cp_v)
        stream = m.water_ls * CP_WATER if m.water_ls else self.outdoor_kgs * CP_DRY
        entering = self.source_c
        return evaporated, condense(
            self.outdoor_coil, stream, entering, *condensing, discharge, subcooling, kgs, (cp_hot, cp_l)
        )

    @property
    def source_c(self) -> float:
        """What the outdoor coil meets [°C]: the loop's water, else the air."""
        return self.c.water_c if self.m.water_ls else self.c.outdoor.t

    def possible(self, x: np.ndarray) -> bool:
        """Whether heat flows from warm to cold there: balances can also close where it does not."""
        evaporated = self.work(x)["evaporated"]
        meets = self.source_c if self.c.heating else self.c.indoor.t
        return bool(x[0] < meets and 0.0 < evaporated.wet_share <= 1.0)

    def state(self, x: np.ndarray) -> State:
        """The state at a solution."""
        w, m, c = self.work(x), self.m, self.c
        taken = w["kgs"] * (w["h_out"] - w["h_liquid"])
        rejected = w["kgs"] * (w["h_discharge"] - w["h_liquid"])
        if c.heating:
            leaving, coil_kw = c.indoor.warmed(rejected / (self.air_kgs * c.indoor.cp)), rejected
            outdoor_leaving = w["evaporated"].leaving.t
        else:
            leaving, coil_kw = w["evaporated"].leaving, taken
            stream = m.water_ls * CP_WATER if m.water_ls else self.outdoor_kgs * CP_DRY
            outdoor_leaving = self.source_c + (rejected + (0.0 if m.water_ls else m.outdoor_fan_kw)) / stream
        return State(
            (float(x[0]), float(x[1]), float(x[2]), float(x[3])),
            w["kgs"],
            w["power"],
            w["discharge"],
            w["liquid"],
            w["suction"],
            w["coil_outlet"],
            self.m3s,
            self.air_kgs,
            blower_watts(m.fan, m.ducts, self.m3s, self.density),
            leaving,
            coil_kw,
            rejected,
            outdoor_leaving,
            m.ducts.drops(self.m3s, self.density),
            float(np.abs(w["residuals"]).max()),
            w["evaporated"].surface,
            w["valve_liquid"],
            max(c.indoor.w - leaving.w, 0.0),
        )


def solve(m: Machine, c: Conditions, start: tuple[float, float, float, float] | None = None) -> State:
    """The steady state; start: where to begin, such as the solution of a nearby point. Raises NotConverged."""
    point = Point(m, c)
    warm = [start] if start else []
    shifted = [
        (te + (point.source_c - 10 if c.heating else 0), tc + (0 if c.heating else point.source_c - 35), sh, sc)
        for te, tc, sh, sc in STARTS
    ]
    for guess in [*warm, *shifted]:
        found = newton(lambda x: point.work(x)["residuals"], np.array(guess))
        if found is not None and point.possible(found):
            return point.state(found)
    raise NotConverged(f"no steady state found at {c.indoor.t:.1f} °C inside, {c.outdoor.t:.1f} °C outside")


def newton(balances: Balances, x: np.ndarray) -> np.ndarray | None:
    """Where balances (n,) of n temperatures [K or °C] close, by damped steps from x; None where it does not get there.

    The slopes are worked out by nudging each temperature, and corrected by what each good step came to (C. G. Broyden,
    "A class of methods for solving nonlinear simultaneous equations", Mathematics of Computation 19, 1965). Where a
    step brings little they are worked out anew; several such steps in a row creep towards no solution.
    """
    try:
        r = balances(x)
    except OutOfTables:
        return None
    slopes, creeping = None, 0
    for _ in range(MOST_STEPS):
        if np.abs(r).max() < TOLERANCE:
            return x
        anew = slopes is None
        try:
            slopes = _slopes(balances, x, r) if slopes is None else slopes
            step = np.linalg.solve(slopes, -r)
        except (OutOfTables, np.linalg.LinAlgError):
            step = None
        taken = None if step is None else _damped(balances, x, r, step, DAMPINGS if anew else DAMPINGS[:1])
        if taken is None:
            if anew:
                return None
            slopes = None
            continue
        moved, now = taken
        left = float(np.linalg.norm(now) / np.linalg.norm(r))
        creeping = creeping + 1 if left > CREEPS else 0
        if creeping > MOST_CREEPING:
            return None
        slopes = slopes + np.outer(now - r - slopes @ moved, moved) / (moved @ moved) if left < GOOD else None
        x, r = x + moved, now
    return None


def _slopes(balances: Balances, x: np.ndarray, r: np.ndarray) -> np.ndarray:
    """How the balances (n,), r at x, change with each temperature: (n, n)."""
    found = np.empty((len(x), len(x)))
    for i in range(len(x)):
        nudged = x.copy()
        nudged[i] += 1e-4
        found[:, i] = (balances(nudged) - r) / 1e-4
    return found


def _damped(
    balances: Balances, x: np.ndarray, r: np.ndarray, step: np.ndarray, parts: tuple[float, ...]
) -> tuple[np.ndarray, np.ndarray] | None:
    """The first of these parts of a step, none longer than is sensible, that brings the balances nearer to closing; and
    what they are there.
    """
    step = step * min(1.0, float((LONGEST_STEP[: len(x)] / np.maximum(np.abs(step), 1e-12)).min()))
    for part in parts:
        try:
            tried = balances(x + part * step)
        except OutOfTables:
            continue
        if np.linalg.norm(tried) < np.linalg.norm(r):
            return part * step, tried
    return None
