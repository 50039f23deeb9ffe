"""Generate engine/data/loop-fluids.csv from CoolProp's incompressible fluids. Run: .venv/bin/python
tools/loop_fluid_table.py
"""

from pathlib import Path

import CoolProp
from CoolProp.CoolProp import PropsSI

OUT = Path(__file__).parent.parent / "engine" / "data" / "loop-fluids.csv"
FLUIDS = {"propylene_glycol": "MPG", "methanol": "MMA"}
LBFT3, BTULBF = 16.01846337, 4186.8


def main():
    lines = [
        f"# Loop fluids. Source: CoolProp {CoolProp.__version__}: water (IAPWS-95), MPG and MMA (incompressible, after Melinder 2010),",
        "# at 2 bar, by tools/loop_fluid_table.py. Share of antifreeze by mass.",
        "fluid,share_by_mass,temperature_f,density_lbft3,specific_heat_btulbf",
    ]
    for t in range(35, 116, 10):
        kelvin = (t + 459.67) / 1.8
        d, c = (PropsSI(what, "T", kelvin, "P", 2e5, "Water") for what in ("D", "C"))
        lines.append(f"water,0,{t},{d / LBFT3:.4f},{c / BTULBF:.5f}")
    for name, code in FLUIDS.items():
        for share in (0.1, 0.15, 0.2, 0.25, 0.3, 0.35, 0.4):
            for t in range(30, 101, 10):
                fluid = f"INCOMP::{code}[{share}]"
                d, c = (PropsSI(what, "T", (t + 459.67) / 1.8, "P", 2e5, fluid) for what in ("D", "C"))
                lines.append(f"{name},{share},{t},{d / LBFT3:.4f},{c / BTULBF:.5f}")
    OUT.write_text("\n".join(lines) + "\n")


if __name__ == "__main__":
    main()
