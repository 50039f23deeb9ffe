"""The demo's invented shop. No real people, streets, makers or readings."""

SHOP = ("Rivermouth Cooling", "America/Chicago")
PEOPLE = (
    # user name, first, last, role
    ("ines", "Ines", "Parrow", "technician"),
    ("tomas", "Tomas", "Redding", "technician"),
    ("wren", "Wren", "Okafield", "technician"),
    ("odile", "Odile", "Marsh", "lead"),
)
INSTRUMENTS = (
    # label, dry bulb and RH accuracy (95 %), lowest and highest °F
    ("Air probe 1", 0.9, 3.0, -4.0, 140.0),
    ("Air probe 2", 0.9, 3.0, -4.0, 140.0),
    ("Old pocket probe", 1.8, 5.0, 14.0, 122.0),
)
HOUSES = (
    # name, altitude ft, climate, systems: (name, kind, tons, refrigerant, metering, motor, model)
    ("Hollow Lane 14", 1150, "humid", (
        ("upstairs", "air_conditioner", 3.0, "R-410A", "txv", "psc", "Maker A AC36"),
        ("downstairs", "air_conditioner", 2.5, "R-410A", "txv", "constant_torque", "Maker A AC30"),
    )),
    ("Ferry Street 3", 1150, "humid", (("main", "air_conditioner", 2.0, "R-22", "fixed_orifice", "psc", "Maker B 24-10"),)),
    ("Mill Race 8", 1160, "humid", (("main", "heat_pump", 4.0, "R-454B", "txv", "constant_airflow", "Maker C HP48"),)),
    ("Larkspur Pass 2", 6200, "dry", (("main", "air_conditioner", 3.5, "R-410A", "txv", "psc", "Maker B 42-16"),)),
    ("Upper Quarry Road 27", 6230, "dry", (("main", "heat_pump", 2.5, "R-32", "txv", "constant_torque", "Maker C HP30"),)),
)  # fmt: skip

# Visits: house, system, person, minutes ago, then the readings in the order they were typed.
# A reading: place, quantity, typed, and for an airflow its method. An observation: ("seen", what, degree).
VISITS = (
    ("Hollow Lane 14", "upstairs", "ines", 35, (
        ("system", "running_time", "14"),
        ("seen", "strip_heat", "none"), ("seen", "coil", "wet"),
        ("outdoor", "dry_bulb", "90.8"),
        ("return_unit", "dry_bulb", "76.9"), ("return_unit", "dry_bulb", "76.4"), ("return_unit", "rh", "52"),
        ("system", "running_time", "19"),
        ("blower", "airflow", "895", "blower_table"),
        ("supply_plenum", "dry_bulb", "52.1"), ("supply_plenum", "rh", "94"),
    )),
    ("Mill Race 8", "main", "tomas", 130, (
        ("system", "running_time", "25"), ("seen", "strip_heat", "off"), ("seen", "coil", "wet"),
        ("outdoor", "dry_bulb", "88.2"),
        ("return_unit", "dry_bulb", "78.8"), ("return_unit", "rh", "67"),
        ("blower", "airflow", "1610", "flow_device"),
        ("supply_plenum", "dry_bulb", "62.4"), ("supply_plenum", "rh", "94"),
    )),
    ("Larkspur Pass 2", "main", "wren", 300, (
        ("system", "running_time", "22"), ("seen", "strip_heat", "none"), ("seen", "coil", "dry"),
        ("outdoor", "dry_bulb", "86.4"),
        ("return_unit", "dry_bulb", "76.1"), ("return_unit", "wet_bulb", "59.0"),
        ("blower", "airflow", "1400", "nominal_guess"),
        ("supply_plenum", "dry_bulb", "55.3"), ("supply_plenum", "wet_bulb", "50.9"),
    )),
    ("Ferry Street 3", "main", "ines", 1500, (
        ("system", "running_time", "20"), ("seen", "strip_heat", "none"), ("seen", "coil", "wet"),
        ("outdoor", "dry_bulb", "92.5"),
        ("return_unit", "dry_bulb", "79.0"), ("return_unit", "rh", "53"),
        ("blower", "airflow", "790", "flow_device"),
        ("supply_plenum", "dry_bulb", "66.5"), ("supply_plenum", "rh", "76"),
    )),
    ("Hollow Lane 14", "downstairs", "ines", 20, ()),
)  # fmt: skip
