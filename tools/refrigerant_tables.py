"""Generate the refrigerant tables in engine/data/refrigerants/ from CoolProp. Run: .venv/bin/python
tools/refrigerant_tables.py

CoolProp is kept out of run time: mixtures take up to seconds a call and some points fail. Points that fail are bridged
from their neighbours and listed in the table's header, with the largest interpolation error found between grid points.
"""

import csv
import sys
from pathlib import Path

import CoolProp
import numpy as np
from CoolProp.CoolProp import AbstractState

OUT = Path(__file__).parent.parent / "engine" / "data" / "refrigerants"
PSIA, BTULB, LBFT3 = 6894.757293168, 2326.0, 16.01846337
# R-410A and R-407C as pseudo-pure fluids (their own published equations of state); R-454B as a mixture by mass.
FLUIDS = {
    "R-22": ("R22", None),
    "R-32": ("R32", None),
    "R-134a": ("R134a", None),
    "R-410A": ("R410A", None),
    "R-407C": ("R407C", None),
    "R-454B": ("R32&R1234yf", (0.689, 0.311)),
}
SATURATION_F = np.arange(-40.0, 152.1, 2.0)
DEW_F = np.arange(-40.0, 150.1, 10.0)
SUPERHEAT_F = np.array([0.0, 4, 8, 12, 16, 20, 25, 30, 40, 50, 60, 80, 100, 120, 150])
SATURATION_COLUMNS = (
    "temperature_f",
    "bubble_psia",
    "dew_psia",
    "liquid_enthalpy_btulb",
    "vapor_enthalpy_btulb",
    "liquid_entropy_btulbf",
    "vapor_entropy_btulbf",
    "liquid_density_lbft3",
    "vapor_density_lbft3",
)
VAPOR_COLUMNS = ("dew_f", "superheat_f", "enthalpy_btulb", "entropy_btulbf", "density_lbft3")


def kelvin(t_f):
    return (t_f + 459.67) / 1.8


class Fluid:
    """CoolProp's state of one refrigerant, asked in the trade's units."""

    def __init__(self, names, mass_fractions):
        self.state = AbstractState("HEOS", names)
        if mass_fractions:
            self.state.set_mass_fractions(list(mass_fractions))

    def saturated(self, t_f, quality):
        """(pressure, enthalpy, entropy, density) at t_f with quality 0 (bubble) or 1 (dew)."""
        self.state.update(CoolProp.QT_INPUTS, quality, kelvin(t_f))
        return self._here()

    def vapor(self, t_f, pressure_psia):
        """The same for superheated vapor."""
        self.state.specify_phase(CoolProp.iphase_gas)
        try:
            self.state.update(CoolProp.PT_INPUTS, pressure_psia * PSIA, kelvin(t_f))
            return self._here()
        finally:
            self.state.unspecify_phase()

    def _here(self):
        s = self.state
        return s.p() / PSIA, s.hmass() / BTULB, s.smass() / BTULB / 1.8, s.rhomass() / LBFT3


def or_nothing(ask, width, *arguments):
    try:
        found = ask(*arguments)
        return found if np.all(np.isfinite(found)) else (np.nan,) * width
    except ValueError:
        return (np.nan,) * width


def saturation(fluid):
    """Rows of SATURATION_COLUMNS."""
    rows = []
    for t in SATURATION_F:
        bubble, dew = or_nothing(fluid.saturated, 4, t, 0.0), or_nothing(fluid.saturated, 4, t, 1.0)
        rows.append([t, bubble[0], dew[0], bubble[1], dew[1], bubble[2], dew[2], bubble[3], dew[3]])
    return np.array(rows)


def vapor(fluid, table):
    """Rows of VAPOR_COLUMNS; at superheat 0 the dew state itself."""
    rows = []
    for dew in DEW_F:
        pressure = np.interp(dew, table[:, 0], table[:, 2])
        for superheat in SUPERHEAT_F:
            ask, arguments = (fluid.vapor, (dew + superheat, pressure)) if superheat else (fluid.saturated, (dew, 1.0))
            found = or_nothing(ask, 4, *arguments)
            rows.append([dew, superheat, *found[1:]])
    return np.array(rows)


def bridge(table, along, keys):
    """Fill failed points from their neighbours along one key column (in the logarithm); say which they were."""
    others = [k for k in range(keys) if k != along]
    bridged = []
    for column in range(keys, table.shape[1]):
        bad = ~np.isfinite(table[:, column])
        for row in np.flatnonzero(bad):
            good = ~bad & np.all(table[:, others] == table[row, others], axis=1)
            table[row, column] = np.exp(np.interp(table[row, along], table[good, along], np.log(table[good, column])))
            bridged.append(" / ".join(f"{value:g}" for value in table[row, :keys]))
    return sorted(set(bridged))


def saturation_error_f(fluid, table):
    """Largest error [°F] of temperature from pressure, half way between rows, -20 to 150 °F."""
    worst = 0.0
    for t in np.arange(-19.0, 150.0, 6.0):
        for quality, column in ((0.0, 1), (1.0, 2)):
            p = or_nothing(fluid.saturated, 4, t, quality)[0]
            if np.isfinite(p):
                found = -1 / np.interp(np.log(p), np.log(table[:, column]), -1 / (table[:, 0] + 459.67)) - 459.67
                worst = max(worst, abs(found - t))
    return worst


def vapor_error_btulb(fluid, table, hot):
    """Largest error [BTU/lb] of vapor enthalpy over dew vapor, between grid points;
    points that fail are passed over.
    """
    worst, grid = 0.0, hot[:, 2].reshape(len(DEW_F), len(SUPERHEAT_F))
    for i in range(len(DEW_F) - 1):
        dew = DEW_F[i] + 5.0
        h0, pressure = or_nothing(fluid.saturated, 4, dew, 1.0)[1], np.interp(dew, table[:, 0], table[:, 2])
        for j in range(1, len(SUPERHEAT_F) - 1):
            superheat = 0.5 * (SUPERHEAT_F[j] + SUPERHEAT_F[j + 1])
            h = or_nothing(fluid.vapor, 4, dew + superheat, pressure)[1]
            ours = 0.25 * (grid[i, j] + grid[i, j + 1] + grid[i + 1, j] + grid[i + 1, j + 1]) - 0.5 * (
                grid[i, 0] + grid[i + 1, 0]
            )
            if np.isfinite(h - h0):
                worst = max(worst, abs(ours - (h - h0)))
    return worst


def write(name, kind, columns, table, bridged, error):
    path = OUT / f"{name.lower().replace('-', '')}-{kind}.csv"
    with path.open("w", newline="") as file:
        file.write(
            f"# {name} {kind}. Source: CoolProp {CoolProp.__version__} (HEOS), by tools/refrigerant_tables.py.\n"
        )
        file.write("# Enthalpy and entropy count from its default datum: use differences only.\n")
        file.write(f"# bridged where CoolProp did not converge: {'; '.join(bridged) or 'none'}\n# {error}\n")
        writer = csv.writer(file, lineterminator="\n")
        writer.writerow(columns)
        writer.writerows([[f"{value:.7g}" for value in row] for row in table])
    print(path.name, len(table), "rows;", len(bridged), "bridged;", error)


def main(names):
    OUT.mkdir(parents=True, exist_ok=True)
    for name in names or FLUIDS:
        fluid = Fluid(*FLUIDS[name])
        table = saturation(fluid)
        gone = bridge(table, 0, 1)
        error = f"largest interpolation error of saturation temperature, -20 to 150 °F: {saturation_error_f(fluid, table):.4f} °F"
        write(name, "saturation", SATURATION_COLUMNS, table, gone, error)
        hot = vapor(fluid, table)
        gone = bridge(hot, 1, 2)
        error = f"bilinear in dew point and superheat; largest error of enthalpy over dew vapor: {vapor_error_btulb(fluid, table, hot):.3f} BTU/lb"
        write(name, "vapor", VAPOR_COLUMNS, hot, gone, error)


if __name__ == "__main__":
    main(sys.argv[1:])
