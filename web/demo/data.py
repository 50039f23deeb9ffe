"""The demo's invented shop: people, instruments, houses, systems, tables, rooms. No real people, streets, makers or
readings.
"""

import re

SHOP = ("Rivermouth Cooling", "America/Chicago")
PEOPLE = (
    # user name, first, last, role
    ("ines", "Ines", "Parrow", "technician"),
    ("tomas", "Tomas", "Redding", "technician"),
    ("wren", "Wren", "Okafield", "technician"),
    ("odile", "Odile", "Marsh", "lead"),
)
CERTIFICATES = {"ines": "RC-1041", "odile": "RC-0007"}  # who may open a circuit
INSTRUMENTS = (
    # label, kind, dry bulb and RH accuracy, line accuracy (95 %), lowest and highest °F, days since its calibration
    ("Air probe 1", "air_probe", 0.9, 3.0, None, -4.0, 140.0, 60),
    ("Air probe 2", "air_probe", 0.9, 3.0, None, -4.0, 140.0, 200),
    ("Old pocket probe", "air_probe", 1.8, 5.0, None, 14.0, 122.0, 800),
    ("Clamp pair, red and blue", "line_clamp", None, None, 1.0, -40.0, 250.0, 60),
    ("Manometer 1", "manometer", None, None, None, None, None, 120),
    ("Amp clamp", "amp_clamp", None, None, None, None, None, 410),
    ("Flow plate", "flow_device", None, None, None, None, None, 90),
    ("Hot wire", "vane", None, None, None, None, None, 90),
    ("Needle gauge and probe", "water_probe", None, None, None, 20.0, 180.0, 300),
)


def line_of(model: str) -> str:
    """The maker's line of a model: 'Maker A AC' of 'Maker A AC36', 'Maker B 10' of 'Maker B 24-10'."""
    return re.sub(r"\d\d(-|$)", "", model, count=1)


# fmt: off
# model -> its plates
PLATES = {
    "Maker A AC36": {
        "kind": "air_conditioner", "nominal_tons": 3.0, "refrigerant": "R-410A", "metering_device": "txv", "blower_motor": "psc", "seer": 14,
        "factory_charge_oz": 118, "target_subcooling_f": 9, "compressor_rla": 14.7, "outdoor_fan_fla": 1.1, "unit": "air_handler",
        "rating_static_inwc": 0.5, "line_length_ft": 35,
    },
    "Maker A AC30": {
        "kind": "air_conditioner", "nominal_tons": 2.5, "refrigerant": "R-410A", "metering_device": "txv", "blower_motor": "constant_torque",
        "seer": 14, "factory_charge_oz": 98, "target_subcooling_f": 9, "compressor_rla": 12.2, "outdoor_fan_fla": 0.9, "unit": "air_handler",
        "rating_static_inwc": 0.5, "line_length_ft": 25,
    },
    "Maker B 24-10": {
        "kind": "air_conditioner", "nominal_tons": 2.0, "refrigerant": "R-22", "metering_device": "fixed_orifice", "blower_motor": "psc", "seer": 10,
        "factory_charge_oz": 86, "compressor_rla": 10.4, "outdoor_fan_fla": 0.8, "unit": "furnace_with_cased_coil", "line_length_ft": 20,
    },
    "Maker B 24-13": {
        "kind": "air_conditioner", "nominal_tons": 2.0, "refrigerant": "R-410A", "metering_device": "fixed_orifice", "blower_motor": "psc",
        "seer": 13, "factory_charge_oz": 74, "compressor_rla": 10.1, "outdoor_fan_fla": 0.8, "unit": "air_handler", "rating_static_inwc": 0.5,
        "line_length_ft": 22,
    },
    "Maker C HP48": {
        "kind": "heat_pump", "nominal_tons": 4.0, "refrigerant": "R-454B", "metering_device": "txv", "blower_motor": "constant_airflow", "seer": 16,
        "factory_charge_oz": 172, "target_subcooling_f": 10, "compressor_rla": 17.8, "outdoor_fan_fla": 1.6, "unit": "air_handler",
        "rating_static_inwc": 0.5, "line_length_ft": 30,
    },
    "Maker C HP24": {
        "kind": "heat_pump", "nominal_tons": 2.0, "refrigerant": "R-32", "metering_device": "txv", "blower_motor": "constant_torque", "seer": 17, "stages": "single",
        "factory_charge_oz": 70, "target_subcooling_f": 8, "compressor_rla": 9.0, "outdoor_fan_fla": 0.8, "unit": "air_handler",
        "rating_static_inwc": 0.5, "line_length_ft": 20,
    },
    "Maker A AC48": {
        "kind": "air_conditioner", "nominal_tons": 4.0, "refrigerant": "R-410A", "metering_device": "txv", "blower_motor": "psc", "seer": 13,
        "factory_charge_oz": 150, "target_subcooling_f": 10, "compressor_rla": 19.9, "outdoor_fan_fla": 1.4, "unit": "furnace_with_cased_coil",
        "rating_static_inwc": 0.6, "line_length_ft": 40,
    },
    "Maker C HP36": {
        "kind": "heat_pump", "nominal_tons": 3.0, "refrigerant": "R-410A", "metering_device": "txv", "blower_motor": "constant_torque", "seer": 16,
        "factory_charge_oz": 140, "target_subcooling_f": 10, "compressor_rla": 14.1, "outdoor_fan_fla": 1.2, "unit": "air_handler",
        "rating_static_inwc": 0.5, "line_length_ft": 30,
    },
    "Maker A AC42": {
        "kind": "air_conditioner", "nominal_tons": 3.5, "refrigerant": "R-410A", "metering_device": "txv", "blower_motor": "psc", "seer": 13,
        "factory_charge_oz": 132, "target_subcooling_f": 10, "compressor_rla": 16.7, "outdoor_fan_fla": 1.2, "unit": "air_handler",
        "rating_static_inwc": 0.5, "line_length_ft": 45,
    },
    "Maker C HP18": {
        "kind": "heat_pump", "nominal_tons": 1.5, "refrigerant": "R-32", "metering_device": "txv", "blower_motor": "constant_torque", "seer": 17, "stages": "two",
        "factory_charge_oz": 58, "compressor_rla": 7.6, "outdoor_fan_fla": 0.6, "unit": "air_handler", "line_length_ft": 35,
    },
    "Maker D GS36": {
        "kind": "ground_source", "nominal_tons": 3.0, "refrigerant": "R-410A", "metering_device": "txv", "blower_motor": "constant_torque",
        "factory_charge_oz": 52, "compressor_rla": 13.5, "unit": "air_handler", "rating_static_inwc": 0.5, "loop_fluid": "propylene_glycol",
        "loop_share_pct": 20,
    },
    "Maker B 42-16": {
        "kind": "air_conditioner", "nominal_tons": 3.5, "refrigerant": "R-410A", "metering_device": "txv", "blower_motor": "psc", "seer": 16,
        "factory_charge_oz": 145, "target_subcooling_f": 10, "compressor_rla": 15.9, "outdoor_fan_fla": 1.3, "unit": "air_handler",
        "rating_static_inwc": 0.5, "line_length_ft": 30,
    },
    "Maker B 24-16": {
        "kind": "air_conditioner", "nominal_tons": 2.0, "refrigerant": "R-410A", "metering_device": "txv", "blower_motor": "psc", "seer": 16,
        "factory_charge_oz": 90, "target_subcooling_f": 10, "compressor_rla": 9.6, "outdoor_fan_fla": 0.8, "unit": "air_handler",
        "rating_static_inwc": 0.5, "line_length_ft": 25,
    },
    "Maker C HP30": {
        "kind": "heat_pump", "nominal_tons": 2.5, "refrigerant": "R-32", "metering_device": "txv", "blower_motor": "constant_torque", "seer": 17, "stages": "single",
        "factory_charge_oz": 92, "target_subcooling_f": 8, "compressor_rla": 11.0, "outdoor_fan_fla": 0.9, "unit": "air_handler",
        "rating_static_inwc": 0.5, "line_length_ft": 30,
    },
}
# Where the indoor unit stands, by what the system is called.
INDOOR_PLACES = {
    "upstairs": "attic", "upper": "attic", "loft": "attic", "lower": "basement", "downstairs": "closet", "annex": "closet", "workshop": "garage",
}  # fmt: skip
# house, altitude ft, climate, customer, access, systems: (name, model, tap, year)
HOUSES = (
    ("Hollow Lane 14", 1150, "humid", "Petra Lindqvale", "Side gate, dog is friendly.", (
        ("upstairs", "Maker A AC36", "medium", 2014),
        ("downstairs", "Maker A AC30", "medium", 2014),
    )),
    ("Ferry Street 3", 1150, "humid", "Odo Brask", "", (
        ("main", "Maker B 24-10", "high", 2004),
    )),
    ("Mill Race 8", 1160, "humid", "Sanne Holtby", "Key at the mill shop.", (
        ("main", "Maker C HP48", "cool", 2025),
    )),
    ("Ropewalk 21", 1150, "humid", "Ansel Dray", "", (
        ("main", "Maker A AC36", "medium", 2015),
        ("workshop", "Maker B 24-13", "medium", 2016),
    )),
    ("Lock Cottage 1", 1145, "humid", "Mirre Oats", "Across the footbridge.", (
        ("main", "Maker C HP24", "cool", 2023),
        ("annex", "Maker C HP24", "cool", 2023),
    )),
    ("Tanner Row 5", 1155, "humid", "Beatrix Coll", "", (
        ("front", "Maker A AC30", "medium", 2013),
        ("back", "Maker B 24-13", "high", 2016),
    )),
    ("Weir Walk 12", 1150, "humid", "Halvard Pym", "Ladder needed for the upper unit.", (
        ("lower", "Maker A AC48", "medium", 2012),
        ("upper", "Maker C HP36", "cool", 2019),
    )),
    ("Saltmeadow 40", 1140, "humid", "Ione Vestry", "", (
        ("main", "Maker C HP36", "cool", 2018),
    )),
    ("Chandler Court 2", 1150, "humid", "Ruben Astley", "Third bell.", (
        ("main", "Maker A AC42", "high", 2011),
        ("loft", "Maker C HP18", "cool", 2024),
    )),
    ("Osier Row 3", 1150, "humid", "Corin Vale", "", (
        ("front", "Maker A AC36", "medium", 2019),
        ("rear", "Maker A AC30", "medium", 2019),
    )),
    ("Withy Lane 6", 1150, "humid", "Nella Strand", "Cellar door, no key needed.", (
        ("main", "Maker A AC30", "medium", 2018),
    )),
    ("Barge House 7", 1142, "humid", "Tilda Marr", "Mechanical room under the stairs.", (
        ("main", "Maker D GS36", "high", 2020),
    )),
    ("Larkspur Pass 2", 6200, "dry", "Emil Quarne", "", (
        ("main", "Maker B 42-16", "medium", 2017),
        ("guest wing", "Maker B 24-16", "medium", 2017),
    )),
    ("Upper Quarry Road 27", 6230, "dry", "Saskia Thorne", "Call from the cattle grid.", (
        ("main", "Maker C HP30", "cool", 2022),
    )),
    ("Cairn Street 9", 6180, "dry", "Jory Fenn", "", (
        ("main", "Maker A AC36", "low", 2016),
        ("studio", "Maker B 24-16", "medium", 2018),
    )),
)
# model -> kind of table -> the table as pasted
TABLES = {
    "Maker A AC36": {
        "blower": """static, low, medium, high
0.1, 1050, 1275, 1440
0.2, 1015, 1235, 1395
0.3, 980, 1185, 1340
0.4, 935, 1135, 1280
0.5, 885, 1075, 1215
0.6, 835, 1015, 1145
0.7, 780, 945, 1065
0.8, 715, 870, 980""",
    },
    "Maker A AC30": {
        "blower": """static, low, medium, high
0.1, 890, 1060, 1150
0.3, 855, 1025, 1110
0.5, 825, 990, 1070
0.7, 795, 955, 1035
0.9, 765, 920, 995""",
    },
    "Maker B 24-13": {
        "blower": """static, low, medium, high
0.1, 700, 850, 960
0.2, 675, 825, 930
0.3, 650, 790, 895
0.4, 625, 755, 855
0.5, 590, 720, 810
0.6, 555, 675, 765
0.7, 520, 630, 710
0.8, 480, 580, 655""",
    },
    "Maker C HP48": {
        "blower": """static, dry, cool, heat
0.1, 1420, 1700, 1840
0.3, 1370, 1640, 1775
0.5, 1325, 1585, 1715
0.7, 1275, 1525, 1650
0.9, 1225, 1470, 1590""",
    },
    "Maker C HP24": {
        "blower": """static, dry, cool, heat
0.1, 710, 850, 920
0.3, 685, 820, 890
0.5, 660, 790, 855
0.7, 640, 765, 825
0.9, 615, 735, 795""",
    },
    "Maker A AC48": {
        "blower": """static, low, medium, high
0.1, 1400, 1700, 1920
0.2, 1355, 1645, 1860
0.3, 1305, 1585, 1790
0.4, 1245, 1515, 1710
0.5, 1185, 1435, 1620
0.6, 1115, 1350, 1525
0.7, 1035, 1260, 1420
0.8, 955, 1160, 1310""",
    },
    "Maker C HP36": {
        "blower": """static, dry, cool, heat
0.1, 1065, 1275, 1380
0.3, 1030, 1230, 1335
0.5, 995, 1190, 1285
0.7, 955, 1145, 1240
0.9, 920, 1100, 1190""",
        "performance": """wet bulb, 85, 95, 105
59, 34300, 32400, 30500
63, 36300, 34200, 32100
67, 38200, 36000, 33800
71, 40400, 38200, 35900""",
    },
    "Maker A AC42": {
        "blower": """static, low, medium, high
0.1, 1225, 1490, 1680
0.2, 1185, 1440, 1625
0.3, 1140, 1385, 1565
0.4, 1090, 1325, 1495
0.5, 1035, 1255, 1420
0.6, 975, 1185, 1335
0.7, 905, 1100, 1245
0.8, 835, 1015, 1145""",
    },
    "Maker D GS36": {
        "blower": """static, low, medium, high
0.1, 1065, 1275, 1380
0.3, 1030, 1230, 1335
0.5, 995, 1190, 1285
0.7, 955, 1145, 1240
0.9, 920, 1100, 1190""",
        "drop": """GPM, 50, 70, 90
5, 1.1, 1.0, 0.9
7, 2.0, 1.9, 1.7
9, 3.2, 3.0, 2.8
11, 4.7, 4.4, 4.1""",
        "heat": """entering, 5, 7, 9, 11
50, 43500, 44200, 44700, 45000
70, 42300, 43000, 43500, 43800
90, 40600, 41400, 41900, 42300""",
    },
    "Maker B 42-16": {
        "blower": """static, low, medium, high
0.1, 1225, 1490, 1680
0.2, 1185, 1440, 1625
0.3, 1140, 1385, 1565
0.4, 1090, 1325, 1495
0.5, 1035, 1255, 1420
0.6, 975, 1185, 1335
0.7, 905, 1100, 1245
0.8, 835, 1015, 1145""",
    },
    "Maker B 24-16": {
        "blower": """static, low, medium, high
0.1, 700, 850, 960
0.2, 675, 825, 930
0.3, 650, 790, 895
0.4, 625, 755, 855
0.5, 590, 720, 810
0.6, 555, 675, 765
0.7, 520, 630, 710
0.8, 480, 580, 655""",
    },
    "Maker C HP30": {
        "blower": """static, dry, cool, heat
0.1, 890, 1060, 1150
0.3, 855, 1025, 1110
0.5, 825, 990, 1070
0.7, 795, 955, 1035
0.9, 765, 920, 995""",
    },
}
# house, system -> rooms: (name, duct diameter in., duct, wants CFM)
ROOMS = {
    ("Hollow Lane 14", "upstairs"): (("study", 5, "metal", 95), ("nursery", 7, "flex", 105), ("bath", 5, "flex", 45), ("stairwell", 8, "metal", 150)),
    ("Tanner Row 5", "front"): (("hall", 8, "flex", 170), ("parlour", 8, "flex", 200)),
}
# label, refrigerant, recovery, empty weight oz, holds oz, who, moves: (what, oz, days ago, why)
CYLINDERS = (
    ("C-11", "R-410A", False, 112.0, 400.0, "ines", (("bought", 140.5, 335, ""), ("corrected", -2.5, 60, "Weighed again: the hose charge was not counted"))),
    ("C-12", "R-32", False, 120.0, 320.0, "tomas", (("bought", 320.0, 200, ""),)),
    ("C-14", "R-454B", False, 118.0, 320.0, "odile", (("bought", 320.0, 470, ""),)),
    ("R-4", "R-22", True, 410.0, 480.0, "tomas", ()),
    ("R-2", "R-410A", True, 432.0, 480.0, "wren", (("corrected", 41.0, 190, "Taken over from the paper log"), ("returned", 30.0, 20, ""))),
)
# house, system, who, days ago, text, blocks, due in days
FOLLOW_UPS = (
    ("Ropewalk 21", "main", "ines", 40, "A valve core leaked and was changed: leak-check again before anything is added.", "charge", -3),
    ("Chandler Court 2", "main", "tomas", 96, "Evaporator and blower wheel to be cleaned, then read again.", "baseline", 4),
    ("Cairn Street 9", "main", "ines", 444, "Owner to decide on the blower speed.", "", None),
    ("Weir Walk 12", "lower", "ines", 112, "Grass grows into the condenser: come back before next summer.", "", 160),
)

# house, system, who, days ahead, hour (None: in an hour and a half from now), minutes, mode, what for
PLANS = (
    ("Withy Lane 6", "main", "ines", 0, None, 60, "cooling", "The coil mats over: look at it and clean it"),
    ("Ropewalk 21", "main", "ines", 1, 9, 60, "cooling", "Leak-check where the core was changed, then read again"),
    ("Lock Cottage 1", "annex", "tomas", 3, 10, 60, "cooling", "Leak search before any more is added"),
    ("Chandler Court 2", "main", "tomas", 4, 13, 90, "cooling", "Evaporator and wheel to be cleaned, then read again"),
    ("Cairn Street 9", "main", "wren", 2, 11, 60, "cooling", "Owner decided: set the blower a tap up"),
)

# Visits whose last round was sealed as the baseline: house, system, minutes ago -> why.
BASELINES = {
    ("Hollow Lane 14", "downstairs", 692640): "Clean, settled and all in range; all the walk read.",
    ("Ropewalk 21", "main", 682560): "First full walk in range since we look after it.",
    ("Tanner Row 5", "front", 676800): "New filter, all in range.",
    ("Chandler Court 2", "main", 669600): "Clean and in range.",
    ("Weir Walk 12", "lower", 666720): "Clean and in range; condenser looked at.",
    ("Hollow Lane 14", "upstairs", 188640): "In range once the filter was changed.",
    ("Osier Row 3", "front", 2249280): "All in range; the whole walk read.",
    ("Osier Row 3", "rear", 2249280): "All in range; the whole walk read.",
    ("Withy Lane 6", "main", 2249280): "New coil a year ago, all in range.",
    ("Barge House 7", "main", 156960): "Water and air agree.",
}

# What was found out of a verdict: house, system, minutes ago -> the round's number, and what was said of it.
OUTCOMES = {
    ("Hollow Lane 14", "upstairs", 188640): (1, {"did": "right", "by": "re_read"}),
    ("Tanner Row 5", "front", 149760): (1, {"did": "right", "by": "re_read"}),
    ("Weir Walk 12", "lower", 161280): (1, {"did": "right", "by": "re_read", "words": "Washed, and the amps fell"}),
    ("Saltmeadow 40", "main", 145440): (1, {"did": "right", "by": "seen", "words": "Return boot off in the attic"}),
    ("Chandler Court 2", "main", 138240): (1, {"did": "right", "by": "seen"}),
    ("Ropewalk 21", "main", 57600): (1, {"did": "right", "by": "part", "words": "Valve core bubbled"}),
    ("Lock Cottage 1", "main", 172800): (
        2, {"did": "wrong", "by": "customer", "was": "supply_duct", "words": "One bedroom stays warm in the afternoon"}
    ),
}

# What the lead did with a system's last finished visit: returned it, or opened it again, whereupon it was finished anew.
AFTER_CLOSING = (
    ("Ferry Street 3", "main", "returned", "No static pressures were read. Read both sides before anything is charged."),
    ("Lock Cottage 1", "annex", "reopened", "The customer asks what the filter size is: it belongs in the report."),
)
# fmt: on

# What a technician leaves the customer in plain words.
FOR_CUSTOMER_CHARGED = (
    "A valve leaked and the system was low on refrigerant. We changed the valve's core and filled it by weight to what "
    "the maker asks for. It cools as it should again; we come back to see that nothing leaks."
)
FOR_CUSTOMER = (
    "We measured air and temperatures in and out. Everything does what it should. Change the filter when the leaves fall.",
    "We looked the system over and measured how much heat it moves. Call us if a room stays warm in the afternoon.",
    "We measured before and after. What we found is written on the sheet beside the unit.",
)
