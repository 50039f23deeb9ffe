"""A house and its machine over time: start, settle, dry the house, ice up, hunt; faults come and go. Good enough to
teach patience.

Quasi-steady: the machine is solved for the air as it is now, and every place follows that with a time constant of its
own. The house keeps its heat and its moisture. Time goes in steps of STEP_S; whoever asks for values gets what is
there now, true and without noise.
"""

from dataclasses import asdict, dataclass, replace
from math import exp, pi, sin
from typing import Any

from engine.units import c_from_f, f_from_c
from plant.air import CP_DRY, LATENT_0, Air, atmosphere
from plant.duct import NoAirflow
from plant.faults import House, with_faults
from plant.fluid import KPA_PER_PSI, fluid
from plant.machine import Machine, Spec
from plant.places import Run, Weather, run
from plant.sizing import machine
from plant.steady import NotConverged

STEP_S = 5.0
RESOLVE_EVERY_S = 15.0
# Seconds to go 63 % of the way after a change, by place and quantity (memory of field traces: minutes for lines and
# pressures, seconds for amps).
TIME_CONSTANTS_S = {
    ("supply_plenum", "dry_bulb"): 70.0, ("supply_plenum", "rh"): 150.0, ("supply_register", "dry_bulb"): 110.0,
    ("supply_register", "rh"): 180.0,
    ("liquid_line_outdoor", "temperature"): 150.0, ("liquid_line_indoor", "temperature"): 170.0,
    ("suction_line_outdoor", "temperature"): 160.0,
    ("suction_line_indoor", "temperature"): 120.0, ("true_suction", "temperature"): 160.0,
    ("discharge_line", "temperature"): 240.0,
    ("condenser_air_out", "dry_bulb"): 80.0, ("compressor", "current"): 45.0, ("compressor", "power"): 45.0,
    ("gauge_suction", "pressure"): 60.0, ("gauge_liquid", "pressure"): 90.0, ("water_out", "temperature"): 60.0,
}  # fmt: skip
QUICK_S, AIR_S = 3.0, 30.0  # what is not listed: statics, amps of fans at once; air temperatures in half a minute
# A house: m2 of floor a ton, air a m2, heat it holds [kJ/K a m2], heat and moisture it gains [W/(m2 K) to outdoors,
# W/m2, kg/(s m2)], moisture held by walls and furniture against that in the air (order of magnitude, memory)
FLOOR_PER_TON, HEIGHT_M, MASS_KJK_M2, LOSS_W_M2K, GAIN_W_M2, MOISTURE_KGS_M2, BUFFER = (
    55.0,
    2.5,
    45.0,
    1.6,
    14.0,
    3.0e-6,
    8.0,
)
AIR_CHANGES_PER_H = 0.35
COIL_WATER_KG_PER_TON = (
    0.35  # what a coil holds before the first drop leaves: it dries no air it has not wetted itself with
)
LEAST_CHARGE = 0.3  # of what is in it: with less no steady state is found
FROST_FULL_KG_PER_TON = 1.2  # frost that shuts a coil
HUNT_PERIOD_S = 95.0  # a hunting valve's swing, and how much of it [°F per K] shows where
HUNTED = {
    ("suction_line_outdoor", "temperature"): 1.2,
    ("suction_line_indoor", "temperature"): 1.8,
    ("supply_plenum", "dry_bulb"): 0.25,
}

_REMEMBERED = (
    "faults",
    "hunting_k",
    "load",
    "seconds",
    "running",
    "running_s",
    "frost_kg",
    "coil_water_kg",
    "stopped_because",
    "moved_kg",
)


@dataclass
class Live:
    """A house with a machine, running or not. room: the air of the house now. faults: id -> amount (0 to 1). hunting_k:
    how far the valve swings.

    load: what people, sun and cooking give the house, against an ordinary day's. running_s: since it was last switched
    on. moved_kg: refrigerant put in since the first day, less what was taken out.
    """

    spec: Spec
    weather: Weather
    faults: dict[str, float]
    hunting_k: float = 0.0
    load: float = 1.0
    seconds: float = 0.0
    running: bool = False
    running_s: float = 0.0
    frost_kg: float = 0.0
    coil_water_kg: float = 0.0
    stopped_because: str = ""
    moved_kg: float = 0.0

    def __post_init__(self) -> None:
        self._atmosphere = atmosphere(self.weather.altitude_ft)
        self.room = self._atmosphere.of_rh(c_from_f(self.weather.inside_f), self.weather.inside_rh)
        self._solved: Run | None = None
        self._last_unknowns: tuple[float, float, float, float] | None = None
        self._since_solved = RESOLVE_EVERY_S
        self._values = self._at_rest()

    # -- what somebody does --------------------------------------------------------------------------------------------

    def start(self) -> None:
        """Switch it on; on already, it goes on."""
        if self.running:
            return
        self.running_s = 0.0
        self.running, self._since_solved, self.stopped_because = True, RESOLVE_EVERY_S, ""

    def stop(self) -> None:
        """Switch it off; frost melts."""
        self.running, self._solved = False, None

    def set_faults(self, faults: dict[str, float]) -> None:
        """Mend something, or break it: the next steps go towards the new state."""
        self.faults, self._since_solved = dict(faults), RESOLVE_EVERY_S

    def set_moved(self, moved_kg: float) -> None:
        """Refrigerant put in so far, less what was taken out [kg]: the circuit goes towards its new state."""
        if moved_kg != self.moved_kg:
            self.moved_kg, self._since_solved = moved_kg, RESOLVE_EVERY_S

    def set_weather(self, weather: Weather) -> None:
        """Another weather; the house's own air goes on from where it is."""
        self.weather, self._since_solved = weather, RESOLVE_EVERY_S

    # -- put aside and taken up again ----------------------------------------------------------------------------------

    def remembered(self) -> dict[str, Any]:
        """Everything about it as JSON can hold, for `recalled`."""
        kept = {name: getattr(self, name) for name in _REMEMBERED}
        unknowns = self._solved.state.unknowns if self._solved else self._last_unknowns
        return kept | {
            "spec": asdict(self.spec),
            "weather": asdict(self.weather),
            "room": [self.room.t, self.room.w],
            "values": [[*key, value] for key, value in self._values.items()],
            "unknowns": list(unknowns) if unknowns is not None else None,
        }

    @classmethod
    def recalled(cls, memory: dict[str, Any]) -> "Live":
        """The house as it was remembered; KeyError or TypeError when the memory is of another make."""
        live = cls(Spec(**memory["spec"]), Weather(**memory["weather"]), dict(memory["faults"]))
        for name in _REMEMBERED:
            setattr(live, name, memory.get(name, getattr(live, name)))  # a house of an older day knows less
        live.room = Air(*memory["room"])
        live._values = {(place, quantity): value for place, quantity, value in memory["values"]}
        live._last_unknowns = tuple(memory["unknowns"]) if memory["unknowns"] else None
        return live

    # -- time ----------------------------------------------------------------------------------------------------------

    def advance(self, seconds: float) -> None:
        """Let time pass."""
        left = seconds
        while left > 1e-9:
            step = min(STEP_S, left)
            self._step(step)
            left -= step

    def values(self) -> dict[tuple[str, str], float]:
        """What is at every place now, in the engine's units."""
        swing = self.hunting_k * sin(2 * pi * self.seconds / HUNT_PERIOD_S) if self.running else 0.0
        return {key: value + HUNTED.get(key, 0.0) * swing for key, value in self._values.items()}

    def _step(self, dt: float) -> None:
        self.seconds += dt
        self.running_s += dt if self.running else 0.0
        self._since_solved += dt
        if self.running and self._since_solved >= RESOLVE_EVERY_S:
            self._solve()
        target = self._target() if self.running and self._solved else self._at_rest()
        for key, value in target.items():
            tau = TIME_CONSTANTS_S.get(key, AIR_S if key[1] in ("dry_bulb", "rh") else QUICK_S)
            old = self._values.get(key, value)
            self._values[key] = value + (old - value) * exp(-dt / tau)
        self._house(dt)
        self._coil(dt)

    def _solve(self) -> None:
        m, house = self._as_it_is()
        inside = replace(self.weather, inside_f=f_from_c(self.room.t), inside_rh=self._atmosphere.rh_pct(self.room))
        start = self._solved.state.unknowns if self._solved else self._last_unknowns
        try:
            self._solved = run(m, inside, house, start)
        except (NotConverged, NoAirflow) as error:
            self.running, self._solved, self.stopped_because = False, None, str(error)
        self._since_solved = 0.0

    def _as_it_is(self) -> tuple[Machine, House]:
        """The machine with its faults and its frost."""
        m, house = with_faults(machine(self.spec), House(), self.faults)
        m = replace(m, charge_kg=max(m.charge_kg + self.moved_kg, LEAST_CHARGE * m.charge_kg))
        iced = min(self.frost_kg / (FROST_FULL_KG_PER_TON * self.spec.tons), 1.0)
        if iced > 0:
            coil = replace(m.indoor, air_side=m.indoor.air_side * (1 - 0.6 * iced))
            m = replace(m, indoor=coil, ducts=replace(m.ducts, coil_pa=m.ducts.coil_pa * (1 + 60 * iced**2)))
        return m, house

    def _target(self) -> dict[tuple[str, str], float]:
        assert self._solved is not None, "only a running machine has a target"
        target = dict(self._solved.values)
        if not self.weather.heating:
            dry = self._dry_supply()
            target["supply_plenum", "rh"], target["supply_register", "rh"] = (
                dry["supply_plenum"],
                dry["supply_register"],
            )
        return target

    def _dry_supply(self) -> dict[str, float]:
        """Supply humidity while the coil is not wet through: what it has not taken out is still in the air."""
        assert self._solved is not None, "only a running machine has a supply"
        still = self._solved.state.dried_w * (1.0 - self._wetted())
        found = {}
        for place in ("supply_plenum", "supply_register"):
            air = self._atmosphere.of_rh(
                c_from_f(self._solved.values[place, "dry_bulb"]), self._solved.values[place, "rh"]
            )
            found[place] = self._atmosphere.rh_pct(Air(air.t, air.w + still))
        return found

    @property
    def inside_rh(self) -> float:
        """Relative humidity of the house's air now [%]."""
        return self._atmosphere.rh_pct(self.room)

    @property
    def is_wet(self) -> bool:
        """Whether the coil is wet through, so that it dries the air as it will."""
        return self._wetted() > 0.95

    def _wetted(self) -> float:
        return min(self.coil_water_kg / (COIL_WATER_KG_PER_TON * self.spec.tons), 1.0)

    def _at_rest(self) -> dict[tuple[str, str], float]:
        """Where everything goes once it is off: the house's air inside, the weather outside, nothing moving."""
        inside, outside = f_from_c(self.room.t), self.weather.outside_f
        rest = {
            (place, "dry_bulb"): inside
            for place in ("return_grille", "return_unit", "supply_plenum", "supply_register")
        }
        rest |= {
            (place, "rh"): self._atmosphere.rh_pct(self.room)
            for place in ("return_grille", "return_unit", "supply_plenum", "supply_register")
        }
        rest |= {
            ("outdoor", "dry_bulb"): outside,
            ("condenser_air_out", "dry_bulb"): outside,
            ("attic", "dry_bulb"): self.weather.attic_f,
        }
        rest |= {(line, "temperature"): outside for line in ("liquid_line_outdoor", "suction_line_outdoor")}
        rest |= {(line, "temperature"): inside for line in ("liquid_line_indoor", "suction_line_indoor")}
        still = fluid(self.spec.refrigerant).dew_kpa(c_from_f(outside)) / KPA_PER_PSI - self._atmosphere.psia
        rest |= {(gauge, "pressure"): still for gauge in ("gauge_suction", "gauge_liquid")}
        rest |= {
            key: 0.0
            for key in (
                ("compressor", "current"),
                ("compressor", "power"),
                ("filter", "pressure_drop"),
                ("coil", "pressure_drop"),
                ("return_plenum", "static_pressure"),
                ("supply_plenum", "static_pressure"),
                ("blower", "airflow"),
            )
        }
        return rest

    # -- house and coil ------------------------------------------------------------------------------------------------

    def _house(self, dt: float) -> None:
        """Heat and moisture of the house: gained from outdoors, people and things, taken by the coil."""
        floor = FLOOR_PER_TON * self.spec.tons
        outdoor = self._atmosphere.of_rh(c_from_f(self.weather.outside_f), self.weather.outside_rh)
        air_kg = floor * HEIGHT_M * self._atmosphere.density(self.room)
        leaks_kgs = air_kg * AIR_CHANGES_PER_H / 3600.0
        heat_kw = floor * (
            LOSS_W_M2K * (outdoor.t - self.room.t) + self.load * GAIN_W_M2
        ) / 1000.0 + leaks_kgs * CP_DRY * (outdoor.t - self.room.t)
        water_kgs = leaks_kgs * (outdoor.w - self.room.w) + self.load * MOISTURE_KGS_M2 * floor
        if self.running and self._solved:
            s = self._solved.state
            latent = s.air_kgs * s.dried_w * self._wetted()
            heat_kw -= (
                s.coil_kw - s.air_kgs * s.dried_w * LATENT_0 if not self.weather.heating else -s.coil_kw
            ) - s.blower_w / 1000.0
            water_kgs -= latent
        self.room = Air(
            self.room.t + dt * heat_kw / (floor * MASS_KJK_M2), self.room.w + dt * water_kgs / (BUFFER * air_kg)
        )

    def _coil(self, dt: float) -> None:
        """Water and frost on the indoor coil in cooling."""
        if not (self.running and self._solved) or self.weather.heating:
            self.frost_kg = max(0.0, self.frost_kg - dt * 6e-4 * self.spec.tons)
            self.coil_water_kg = max(0.0, self.coil_water_kg - dt * 1e-4 * self.spec.tons)
            return
        s = self._solved.state
        taken = dt * s.air_kgs * s.dried_w
        if s.surface_c < -0.2:
            self.frost_kg += taken
            self._since_solved += RESOLVE_EVERY_S if self.frost_kg and self._since_solved >= STEP_S else 0.0
        else:
            self.frost_kg = max(0.0, self.frost_kg - dt * 6e-4 * self.spec.tons)
            self.coil_water_kg = (
                min(self.coil_water_kg + taken, COIL_WATER_KG_PER_TON * self.spec.tons)
                if taken
                else max(0.0, self.coil_water_kg - dt * 1e-4)
            )
