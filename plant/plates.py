"""What the nameplate and the maker's tables of a simulated machine say."""

from dataclasses import replace
from functools import cache
from random import Random
from typing import Any

from plant.circuit import SHELL_LOSS
from plant.faults import House
from plant.machine import Spec
from plant.places import BTUH_PER_KW, GPM_PER_LS, POWER_FACTOR, VOLTS_TO_GROUND, Weather, run
from plant.sizing import RATED_WATER_F, machine

SEER = {"old": 9.0, "low": 11.5, "mid": 14.0, "high": 17.0}  # a plate of that class
WATER_EER = {"old": 13.0, "low": 14.5, "mid": 17.0, "high": 20.0}  # a ground-source plate of that class
# Glycol at a fifth by mass carries less heat a gallon than the plant's water (485 for 500: common practice).
GLYCOL_OVER_WATER = 0.97
DRAWN_OF_RATED = (0.58, 0.88)  # of the rated-load amps, at the rating point, from maker to maker
# Of a ground-source unit's own tables: entering water [°F] in cooling and in heating, water flow [GPM a ton].
TABLE_WATER_F, TABLE_GPM_PER_TON = {False: (50.0, 70.0, 90.0), True: (30.0, 45.0, 60.0)}, (2.0, 3.0, 4.0)


def plate_of(random: Random, spec: Spec, shifted: bool) -> dict[str, Any]:
    """The plate of a machine; shifted: every other one names another size or no metering device."""
    plate = {
        "kind": spec.kind,
        "nominal_tons": spec.tons,
        "metering_device": spec.metering_device,
        "blower_motor": spec.blower_motor,
        "refrigerant": spec.refrigerant,
        "seer": SEER[spec.efficiency],
        "unit": spec.unit,
        "target_subcooling_f": 10.0,
    }
    if shifted:
        mistaken = random.choice(("size", "metering", "nothing", "nothing"))
        if mistaken == "size":
            plate["nominal_tons"] = min(max(spec.tons + random.choice((-0.5, 0.5)), 1.5), 5.0)
        if mistaken == "metering":
            plate["metering_device"] = "unknown"
    return plate


def rated_amps(random: Random, spec: Spec) -> float:
    """The compressor's rated-load amps on the plate of this model: what it draws at the rating point over the share of
    them that its maker leaves it to draw there (memory: 0.58 to 0.88).
    """
    return round(float(_rated_draw_a(spec)) / random.uniform(*DRAWN_OF_RATED), 1)


@cache
def _rated_draw_a(spec: Spec) -> float:
    rated = run(machine(spec), Weather(80.0, 51.1, 95.0, water_f=RATED_WATER_F), House(return_gain=0.0))
    return 1000.0 * rated.state.compressor_kw / (2 * VOLTS_TO_GROUND * POWER_FACTOR)


def rated_heating(spec: Spec) -> dict[str, Any]:
    """What the maker's sheet says of heating: at 47 and 17 °F, to the hundred."""
    rated = {}
    for outside_f in (47.0, 17.0):
        weather = Weather(70.0, 40.0, outside_f, 73.0, outside_f, heating=True)
        rated[f"heating_btuh_{outside_f:g}"] = float(round(run(machine(spec), weather).net_btuh, -2))
    return rated


def water_plate(random: Random, spec: Spec, heating: bool) -> dict[str, Any]:
    """A ground-source plate: its EER; of three, two with the unit's own table; of two, one whose flow is read as a drop
    against its table.
    """
    found: dict[str, Any] = {"model": f"GS {spec.tons:g} {spec.efficiency}", "seer": WATER_EER[spec.efficiency]}
    found |= {"loop": "closed", "loop_fluid": "propylene_glycol", "loop_share": 0.2}
    if random.random() < 2 / 3:
        found["extraction_table" if heating else "heat_table"] = _heat_table(spec, heating)
    if random.random() < 1 / 2:
        found["drop_table"] = _drop_table(spec)
    return found


def _heat_table(spec: Spec, heating: bool) -> dict[str, Any]:
    """What the maker prints: the sound machine's rejection or extraction at its rating's air."""
    m, rows = machine(spec), TABLE_WATER_F[heating]
    gpm = [round(per_ton * spec.tons, 1) for per_ton in TABLE_GPM_PER_TON]
    air = Weather(70.0, 40.0, 47.0, heating=True) if heating else Weather(80.0, 51.1, 95.0)
    values = []
    for entering in rows:
        row = []
        for flow in gpm:
            state = run(
                replace(m, water_ls=flow * GLYCOL_OVER_WATER / GPM_PER_LS), replace(air, water_f=entering)
            ).state
            moved = state.rejected_kw - state.compressor_kw * (1.0 - SHELL_LOSS) if heating else state.rejected_kw
            row.append(float(round(moved * BTUH_PER_KW, -2)))
        values.append(row)
    return {"rows": list(rows), "columns": gpm, "values": values}


def _drop_table(spec: Spec) -> dict[str, Any]:
    """What the maker prints of the water coil's drop."""
    m, columns = machine(spec), (30.0, 60.0, 90.0)
    design = m.water_psi_ls * GPM_PER_LS / GLYCOL_OVER_WATER
    flows = [round(share * design, 1) for share in (0.15, 0.4, 0.7, 1.0, 1.5)]
    psi = [m.water_psi * (gpm / design) ** 1.8 for gpm in flows]
    return {"rows": flows, "columns": list(columns), "values": [[round(drop, 2)] * len(columns) for drop in psi]}
