"""The demo's invented visits: two seasons of them, and today's. Readings are made up, in the order they were taken."""

# One visit: house, system, who, minutes ago, rounds (seen, readings, what was done after it), something said in words
# or nothing.
# fmt: off
VISITS = (
    ("Hollow Lane 14", "upstairs", "ines", 694080, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on visit_kind=first",
         "system.running_time=18 return_unit.dry_bulb=76.1 return_unit.rh=51 supply_plenum.dry_bulb=55.7 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.11 supply_plenum.static_pressure=0.14 filter.pressure_drop=0.07 coil.pressure_drop=0.21 "
         "outdoor.dry_bulb=88.4 liquid_line_outdoor.temperature=97.8 suction_line_outdoor.temperature=54.8 "
         "condenser_air_out.dry_bulb=104.6 compressor.voltage@1=118 compressor.current@1=9.4 compressor.voltage@2=119 "
         "compressor.current@2=9.4",
         ()),
    ), ()),
    ("Hollow Lane 14", "upstairs", "ines", 188640, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=loaded condenser_coil=dry "
         "caps=on",
         "system.running_time=18 return_unit.dry_bulb=76.8 return_unit.rh=53 supply_plenum.dry_bulb=55.6 supply_plenum.rh=91 "
         "return_plenum.static_pressure=-0.33 supply_plenum.static_pressure=0.12 filter.pressure_drop=0.30 coil.pressure_drop=0.18 "
         "outdoor.dry_bulb=91.2 liquid_line_outdoor.temperature=100.3 suction_line_outdoor.temperature=53.1 compressor.voltage@1=120 "
         "compressor.current@1=9.8 compressor.voltage@2=120 compressor.current@2=9.8",
         ("filter_changed",)),
        ("filter=clean",
         "system.running_time=16 return_unit.dry_bulb=76.4 return_unit.rh=52 supply_plenum.dry_bulb=56.4 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.12 supply_plenum.static_pressure=0.15 filter.pressure_drop=0.07 coil.pressure_drop=0.21 "
         "outdoor.dry_bulb=91.6 liquid_line_outdoor.temperature=100.8 suction_line_outdoor.temperature=54.6 compressor.voltage@1=119 "
         "compressor.current@1=9.7 compressor.voltage@2=119 compressor.current@2=9.9",
         ()),
    ), ()),
    ("Hollow Lane 14", "downstairs", "tomas", 692640, (
        ("visit_kind=maintenance complaint_where=none strip_heat=off coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=75.4 return_unit.rh=50 supply_plenum.dry_bulb=54.9 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.17 supply_plenum.static_pressure=0.20 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=88.0 liquid_line_outdoor.temperature=97.3 suction_line_outdoor.temperature=55.0 compressor.voltage@1=119 "
         "compressor.current@1=8.1 compressor.voltage@2=118 compressor.current@2=8.1",
         ()),
    ), ()),
    ("Hollow Lane 14", "downstairs", "ines", 188640, (
        ("visit_kind=maintenance complaint_where=none strip_heat=off coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=75.9 return_unit.rh=52 supply_plenum.dry_bulb=56.1 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.17 supply_plenum.static_pressure=0.21 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=92.0 liquid_line_outdoor.temperature=101.6 suction_line_outdoor.temperature=54.1 compressor.voltage@1=118 "
         "compressor.current@1=8.3 compressor.voltage@2=119 compressor.current@2=8.4",
         ()),
    ), ()),
    ("Tanner Row 5", "front", "tomas", 676800, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=75.5 return_unit.rh=52 supply_plenum.dry_bulb=55.6 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.18 supply_plenum.static_pressure=0.22 filter.pressure_drop=0.06 coil.pressure_drop=0.19 "
         "outdoor.dry_bulb=86.2 liquid_line_outdoor.temperature=95.3 suction_line_outdoor.temperature=54.6 compressor.voltage@1=120 "
         "compressor.current@1=8.0 compressor.voltage@2=119 compressor.current@2=7.9",
         ()),
    ), ()),
    ("Tanner Row 5", "front", "tomas", 417600, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=loaded condenser_coil=dry",
         "system.running_time=18 return_unit.dry_bulb=75.1 return_unit.rh=50 supply_plenum.dry_bulb=53.0 supply_plenum.rh=90 "
         "return_plenum.static_pressure=-0.63 supply_plenum.static_pressure=0.19 filter.pressure_drop=0.52 coil.pressure_drop=0.17 "
         "outdoor.dry_bulb=84.8 liquid_line_outdoor.temperature=94.1 suction_line_outdoor.temperature=53.4 compressor.voltage@1=119 "
         "compressor.current@1=8.0 compressor.voltage@2=119 compressor.current@2=7.9",
         ()),
    ), ()),
    ("Tanner Row 5", "front", "wren", 149760, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=warm complaint_hour=afternoon strip_heat=none coil=wet panels=on "
         "zeroed=done filter=blocked evaporator_face=clean condenser_coil=dry",
         "system.running_time=18 return_unit.dry_bulb=78.2 return_unit.rh=54 supply_plenum.dry_bulb=55.5 supply_plenum.rh=92 "
         "return_plenum.static_pressure=-0.68 supply_plenum.static_pressure=0.19 filter.pressure_drop=0.58 coil.pressure_drop=0.16 "
         "outdoor.dry_bulb=93.4 liquid_line_outdoor.temperature=102.4 suction_line_outdoor.temperature=49.0 compressor.voltage@1=118 "
         "compressor.current@1=8.4 compressor.voltage@2=118 compressor.current@2=8.3",
         ("filter_changed",)),
        ("filter=clean",
         "system.running_time=16 return_unit.dry_bulb=77.5 return_unit.rh=53 supply_plenum.dry_bulb=58.0 supply_plenum.rh=90 "
         "return_plenum.static_pressure=-0.18 supply_plenum.static_pressure=0.23 filter.pressure_drop=0.06 coil.pressure_drop=0.19 "
         "outdoor.dry_bulb=93.8 liquid_line_outdoor.temperature=103.1 suction_line_outdoor.temperature=54.2 compressor.voltage@1=119 "
         "compressor.current@1=8.4 compressor.voltage@2=120 compressor.current@2=8.4",
         ()),
    ), ("complaint", "Upstairs hall never cools after lunch.")),
    ("Tanner Row 5", "back", "wren", 149760, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=77.0 return_unit.rh=52 supply_plenum.dry_bulb=57.2 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.21 supply_plenum.static_pressure=0.25 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=93.5 liquid_line_outdoor.temperature=104.1 suction_line_outdoor.temperature=60.5 compressor.voltage@1=119 "
         "compressor.current@1=7.2 compressor.voltage@2=119 compressor.current@2=7.2",
         ()),
    ), ()),
    ("Chandler Court 2", "main", "ines", 669600, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=76.0 return_unit.rh=51 supply_plenum.dry_bulb=55.9 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.22 supply_plenum.static_pressure=0.27 filter.pressure_drop=0.08 coil.pressure_drop=0.19 "
         "outdoor.dry_bulb=87.5 liquid_line_outdoor.temperature=98.0 suction_line_outdoor.temperature=55.4 compressor.voltage@1=119 "
         "compressor.current@1=11.0 compressor.voltage@2=120 compressor.current@2=11.1",
         ()),
    ), ()),
    ("Chandler Court 2", "main", "ines", 406080, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=not_seen "
         "condenser_coil=dry",
         "system.running_time=18 return_unit.dry_bulb=75.6 return_unit.rh=52 supply_plenum.dry_bulb=54.7 supply_plenum.rh=90 "
         "return_plenum.static_pressure=-0.23 supply_plenum.static_pressure=0.26 filter.pressure_drop=0.07 coil.pressure_drop=0.24 "
         "outdoor.dry_bulb=86.0 liquid_line_outdoor.temperature=96.0 suction_line_outdoor.temperature=54.0 compressor.voltage@1=120 "
         "compressor.current@1=10.9 compressor.voltage@2=119 compressor.current@2=10.9",
         ()),
    ), ()),
    ("Chandler Court 2", "main", "tomas", 138240, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=both iced=yes strip_heat=none coil=wet panels=on zeroed=done "
         "filter=clean evaporator_face=dirty condenser_coil=dry blower_wheel=dirty ice=none",
         "system.running_time=18 return_unit.dry_bulb=77.8 return_unit.rh=56 supply_plenum.dry_bulb=56.3 supply_plenum.rh=92 "
         "return_plenum.static_pressure=-0.17 supply_plenum.static_pressure=0.21 filter.pressure_drop=0.06 coil.pressure_drop=0.48 "
         "blower.airflow@flow_device=1230 outdoor.dry_bulb=92.2 liquid_line_outdoor.temperature=101.8 suction_line_outdoor.temperature=48.2 "
         "compressor.voltage@1=119 compressor.current@1=11.2 compressor.voltage@2=118 compressor.current@2=11.1",
         ()),
    ), ("complaint", "Froze up twice last week, water on the floor.")),
    ("Chandler Court 2", "loft", "tomas", 138240, (
        ("visit_kind=maintenance complaint_where=none runs_at=full strip_heat=off coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=76.2 return_unit.rh=52 supply_plenum.dry_bulb=55.5 supply_plenum.rh=90 "
         "filter.pressure_drop=0.05 coil.pressure_drop=0.16 blower.airflow@flow_device=603 outdoor.dry_bulb=92.0 "
         "liquid_line_outdoor.temperature=100.1 suction_line_outdoor.temperature=54.4 compressor.voltage@1=119 compressor.current@1=5.3 "
         "compressor.voltage@2=118 compressor.current@2=5.3",
         ()),
    ), ()),
    ("Ropewalk 21", "main", "wren", 682560, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=75.9 return_unit.rh=51 supply_plenum.dry_bulb=55.2 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.12 supply_plenum.static_pressure=0.15 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=87.6 liquid_line_outdoor.temperature=97.0 suction_line_outdoor.temperature=54.9 compressor.voltage@1=120 "
         "compressor.current@1=9.4 compressor.voltage@2=119 compressor.current@2=9.3",
         ()),
    ), ()),
    ("Ropewalk 21", "main", "wren", 403200, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=76.2 return_unit.rh=52 supply_plenum.dry_bulb=56.1 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.13 supply_plenum.static_pressure=0.16 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=88.8 liquid_line_outdoor.temperature=101.4 suction_line_outdoor.temperature=56.1 compressor.voltage@1=119 "
         "compressor.current@1=9.1 compressor.voltage@2=119 compressor.current@2=9.2",
         ()),
    ), ()),
    ("Ropewalk 21", "main", "ines", 126720, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=warm recent_work=charge_added strip_heat=none coil=wet panels=on "
         "zeroed=done filter=clean evaporator_face=clean condenser_coil=dry liquid_line_noise=flash oil_stains=seen caps=missing",
         "system.running_time=18 return_unit.dry_bulb=77.4 return_unit.rh=53 supply_plenum.dry_bulb=62.3 supply_plenum.rh=85 "
         "return_plenum.static_pressure=-0.11 supply_plenum.static_pressure=0.14 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=92.4 liquid_line_outdoor.temperature=111.1 suction_line_outdoor.temperature=66.8 "
         "condenser_air_out.dry_bulb=104.5 compressor.voltage@1=119 compressor.current@1=8.5 compressor.voltage@2=119 "
         "compressor.current@2=8.5",
         ("caps_tightened",)),
    ), ("complaint", "Somebody topped it up in spring. Warm again.")),
    ("Ropewalk 21", "main", "ines", 57600, (
        ("visit_kind=recheck complaint_where=whole_house complaint_feel=warm strip_heat=none coil=wet panels=on zeroed=done filter=clean "
         "evaporator_face=clean condenser_coil=dry liquid_line_noise=flash oil_stains=seen caps=on service_valves=open",
         "system.running_time=18 return_unit.dry_bulb=77.2 return_unit.rh=53 supply_plenum.dry_bulb=62.1 supply_plenum.rh=85 "
         "return_plenum.static_pressure=-0.11 supply_plenum.static_pressure=0.14 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=92.3 liquid_line_outdoor.temperature=111.1 suction_line_outdoor.temperature=66.8 "
         "condenser_air_out.dry_bulb=104.5 compressor.voltage@1=119 compressor.current@1=8.5 compressor.voltage@2=119 "
         "compressor.current@2=8.5 gauge_suction.pressure=114 gauge_liquid.pressure=377 "
         "gauge_suction.pressure@s1=120 gauge_liquid.pressure@s1=379 suction_line_outdoor.temperature@s1=62.1 "
         "liquid_line_outdoor.temperature@s1=110.9 gauge_suction.pressure@s2=125 gauge_liquid.pressure@s2=380 "
         "suction_line_outdoor.temperature@s2=57.2 liquid_line_outdoor.temperature@s2=108.1 gauge_suction.pressure@s3=127 "
         "gauge_liquid.pressure@s3=382 suction_line_outdoor.temperature@s3=55.6 liquid_line_outdoor.temperature@s3=104.1",
         ("hook_up:did=on port.low=on port.high=on check.refrigerant=done check.zeroed=done check.valves_closed=done "
          "check.low_loss=done check.dry=done check.gloves=done",
          "charge_step:number=1 way=add before=226.5 after=219.5 cylinder=C-11",
          "charge_step:number=2 way=add before=219.5 after=212.5 cylinder=C-11",
          "charge_step:number=3 way=add before=212.5 after=208.5 cylinder=C-11",
          "leak_search:found=found where=core_of_the_liquid_service_valve repaired=yes tested=soap",
          "hook_up:did=off hose_returned=yes caps_on=yes lost=0.3", "other:Valve core changed, no bubbles after")),
        ("",
         "system.running_time=16 return_unit.dry_bulb=76.6 return_unit.rh=52 supply_plenum.dry_bulb=56.2 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.12 supply_plenum.static_pressure=0.15 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=92.0 liquid_line_outdoor.temperature=103.9 suction_line_outdoor.temperature=55.4 compressor.voltage@1=119 "
         "compressor.current@1=9.5 compressor.voltage@2=119 compressor.current@2=9.5",
         ()),
    ), ("complaint", "Warm again since last week.")),
    ("Ropewalk 21", "workshop", "ines", 126720, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=78.0 return_unit.rh=50 supply_plenum.dry_bulb=57.5 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.12 supply_plenum.static_pressure=0.15 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=92.6 liquid_line_outdoor.temperature=103.7 suction_line_outdoor.temperature=61.0 compressor.voltage@1=119 "
         "compressor.current@1=7.1 compressor.voltage@2=119 compressor.current@2=7.1",
         ()),
    ), ()),
    ("Mill Race 8", "main", "tomas", 655200, (
        ("visit_kind=commissioning complaint_where=none strip_heat=off coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=75.2 return_unit.rh=52 supply_plenum.dry_bulb=54.4 supply_plenum.rh=90 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.20 blower.airflow@flow_device=1608 blower.power=410 outdoor.dry_bulb=86.9 "
         "liquid_line_outdoor.temperature=95.8 suction_line_outdoor.temperature=55.1 compressor.voltage@1=118 compressor.current@1=12.2 "
         "compressor.voltage@2=119 compressor.current@2=12.1",
         ("hook_up:did=on port.low=on port.high=on check.refrigerant=done check.zeroed=done check.valves_closed=done check.low_loss=done check.gloves=done",
          "charge_step:number=1 way=add before=318 after=310.5 cylinder=C-14 why=Weighed_in_for_the_line_set",
          "hook_up:did=off hose_returned=yes caps_on=yes lost=0.2")),
    ), ()),
    ("Lock Cottage 1", "main", "wren", 172800, (
        ("visit_kind=maintenance complaint_where=none strip_heat=off coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=75.8 return_unit.rh=51 supply_plenum.dry_bulb=56.0 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.18 supply_plenum.static_pressure=0.22 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=101.5 liquid_line_outdoor.temperature=95.3 suction_line_outdoor.temperature=54.0 compressor.voltage@1=119 "
         "compressor.current@1=6.1 compressor.voltage@2=118 compressor.current@2=6.1",
         ()),
        ("filter=clean condenser_coil=dry",
         "system.running_time=16 return_unit.dry_bulb=75.6 return_unit.rh=51 supply_plenum.dry_bulb=55.2 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.18 supply_plenum.static_pressure=0.22 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=86.8 liquid_line_outdoor.temperature=95.4 suction_line_outdoor.temperature=54.2 compressor.voltage@1=119 "
         "compressor.current@1=6.1 compressor.voltage@2=118 compressor.current@2=6.1",
         ()),
    ), ("remark", "First outdoor reading stood in the sun by the wall. Moved into the shade and read again.")),
    ("Lock Cottage 1", "annex", "wren", 172800, (
        ("visit_kind=maintenance complaint_where=none strip_heat=off coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=75.0 return_unit.rh=50 supply_plenum.dry_bulb=54.5 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.17 supply_plenum.static_pressure=0.20 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=87.0 liquid_line_outdoor.temperature=94.9 suction_line_outdoor.temperature=54.9 compressor.voltage@1=120 "
         "compressor.current@1=6.0 compressor.voltage@2=117 compressor.current@2=6.0",
         ()),
    ), ()),
    ("Saltmeadow 40", "main", "tomas", 145440, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=both strip_heat=off coil=wet panels=on zeroed=done filter=clean "
         "evaporator_face=clean condenser_coil=dry ducts=open",
         "system.running_time=18 return_grille.dry_bulb=76.3 return_grille.rh=53 return_unit.dry_bulb=82.4 return_unit.rh=52 "
         "supply_plenum.dry_bulb=62.0 supply_plenum.rh=89 supply_register.dry_bulb=63.9 supply_register.rh=86 attic.dry_bulb=118.0 "
         "attic.rh=22 return_plenum.static_pressure=-0.20 supply_plenum.static_pressure=0.25 filter.pressure_drop=0.07 "
         "coil.pressure_drop=0.20 outdoor.dry_bulb=93.0 liquid_line_outdoor.temperature=102.6 suction_line_outdoor.temperature=56.9 "
         "compressor.voltage@1=120 compressor.current@1=9.7 compressor.voltage@2=118 compressor.current@2=9.5",
         ("return_sealed",)),
        ("ducts=sound",
         "system.running_time=16 return_grille.dry_bulb=76.2 return_grille.rh=52 return_unit.dry_bulb=76.9 return_unit.rh=52 "
         "supply_plenum.dry_bulb=57.0 supply_plenum.rh=89 supply_register.dry_bulb=58.7 supply_register.rh=86 attic.dry_bulb=117.2 "
         "attic.rh=22 return_plenum.static_pressure=-0.19 supply_plenum.static_pressure=0.23 filter.pressure_drop=0.07 "
         "coil.pressure_drop=0.20 outdoor.dry_bulb=92.7 liquid_line_outdoor.temperature=102.0 suction_line_outdoor.temperature=54.9 "
         "compressor.voltage@1=119 compressor.current@1=9.5 compressor.voltage@2=119 compressor.current@2=9.5",
         ()),
    ), ("complaint", "Sticky indoors, runs all day, dust on everything.")),
    ("Weir Walk 12", "lower", "ines", 666720, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=76.2 return_unit.rh=52 supply_plenum.dry_bulb=56.3 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.11 supply_plenum.static_pressure=0.14 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=88.2 liquid_line_outdoor.temperature=98.4 suction_line_outdoor.temperature=55.0 "
         "condenser_air_out.dry_bulb=105.6 compressor.voltage@1=118 compressor.current@1=13.0 compressor.voltage@2=119 "
         "compressor.current@2=13.1",
         ()),
    ), ()),
    ("Weir Walk 12", "lower", "ines", 161280, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=warm tripped=yes strip_heat=none coil=wet panels=on zeroed=done "
         "filter=clean evaporator_face=clean condenser_coil=matted outdoor_fan_blade=right",
         "system.running_time=18 return_unit.dry_bulb=77.1 return_unit.rh=52 supply_plenum.dry_bulb=59.3 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.13 supply_plenum.static_pressure=0.15 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=94.6 liquid_line_outdoor.temperature=112.9 suction_line_outdoor.temperature=56.2 "
         "condenser_air_out.dry_bulb=124.2 compressor.voltage@1=119 compressor.current@1=17.2 compressor.voltage@2=119 "
         "compressor.current@2=17.3",
         ("condenser_washed",)),
        ("condenser_coil=dry",
         "system.running_time=16 return_unit.dry_bulb=76.8 return_unit.rh=52 supply_plenum.dry_bulb=56.9 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.12 supply_plenum.static_pressure=0.15 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=94.9 liquid_line_outdoor.temperature=105.5 suction_line_outdoor.temperature=55.2 "
         "condenser_air_out.dry_bulb=112.7 compressor.voltage@1=119 compressor.current@1=13.6 compressor.voltage@2=121 "
         "compressor.current@2=13.6",
         ()),
    ), ("complaint", "Trips in the afternoon heat.")),
    ("Weir Walk 12", "upper", "ines", 161280, (
        ("visit_kind=maintenance complaint_where=none strip_heat=off coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=77.0 return_unit.rh=51 supply_plenum.dry_bulb=57.1 supply_plenum.rh=89 "
         "return_plenum.static_pressure=-0.18 supply_plenum.static_pressure=0.21 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=95.0 liquid_line_outdoor.temperature=104.5 suction_line_outdoor.temperature=54.8 compressor.voltage@1=119 "
         "compressor.current@1=9.7 compressor.voltage@2=119 compressor.current@2=9.7",
         ()),
    ), ()),
    ("Ferry Street 3", "main", "tomas", 662400, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=78.0 return_unit.rh=52 supply_plenum.dry_bulb=57.0 supply_plenum.rh=90 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.22 blower.airflow@flow_device=796 outdoor.dry_bulb=89.0 "
         "liquid_line_outdoor.temperature=103.0 suction_line_outdoor.temperature=63.0 compressor.voltage@1=119 compressor.current@1=7.5 "
         "compressor.voltage@2=120 compressor.current@2=7.6",
         ()),
    ), ()),
    ("Ferry Street 3", "main", "tomas", 1530, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=warm strip_heat=none coil=wet panels=on zeroed=done filter=clean "
         "evaporator_face=clean condenser_coil=dry sight_glass=bubbles suction_sweating=warm",
         "system.running_time=18 return_unit.dry_bulb=79.2 return_unit.rh=53 supply_plenum.dry_bulb=64.2 supply_plenum.rh=84 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.22 blower.airflow@flow_device=790 outdoor.dry_bulb=92.5 "
         "liquid_line_outdoor.temperature=107.4 suction_line_outdoor.temperature=74.5 compressor.voltage@1=118 compressor.current@1=6.2 "
         "compressor.voltage@2=119 compressor.current@2=6.2",
         ()),
    ), ("complaint", "Blows, but not cold.")),
    ("Barge House 7", "main", "wren", 156960, (
        ("visit_kind=maintenance complaint_where=none strip_heat=off coil=wet panels=on zeroed=done filter=clean",
         "system.running_time=20 return_unit.dry_bulb=75.6 return_unit.rh=52 supply_plenum.dry_bulb=56.4 supply_plenum.rh=92 "
         "return_plenum.static_pressure=-0.22 supply_plenum.static_pressure=0.24 filter.pressure_drop=0.06 blower.power=310 "
         "water_in.temperature=62.4 water_out.temperature=71.9 water_loop.water_drop=3.1 compressor.voltage@1=120 compressor.current@1=7.4 "
         "compressor.voltage@2=119 compressor.current@2=7.5",
         ()),
    ), ()),
    ("Larkspur Pass 2", "main", "wren", 648000, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=dry panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=76.4 return_unit.rh=42 supply_plenum.dry_bulb=53.6 supply_plenum.rh=87 "
         "return_plenum.static_pressure=-0.09 supply_plenum.static_pressure=0.11 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=84.0 liquid_line_outdoor.temperature=92.8 suction_line_outdoor.temperature=57.2 compressor.voltage@1=119 "
         "compressor.current@1=9.1 compressor.voltage@2=118 compressor.current@2=9.0",
         ()),
    ), ()),
    ("Larkspur Pass 2", "guest wing", "wren", 648000, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=dry panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on",
         "system.running_time=18 return_unit.dry_bulb=76.0 return_unit.rh=42 supply_plenum.dry_bulb=52.9 supply_plenum.rh=87 "
         "return_plenum.static_pressure=-0.10 supply_plenum.static_pressure=0.12 filter.pressure_drop=0.07 coil.pressure_drop=0.20 "
         "outdoor.dry_bulb=84.3 liquid_line_outdoor.temperature=93.3 suction_line_outdoor.temperature=57.0 compressor.voltage@1=118 "
         "compressor.current@1=5.9 compressor.voltage@2=118 compressor.current@2=5.9",
         ()),
    ), ()),
    ("Upper Quarry Road 27", "main", "tomas", 432000, (
        ("visit_kind=maintenance complaint_where=none mode=heating strip_heat=off panels=on zeroed=done filter=clean outdoor_coil=clear",
         "system.running_time=21 return_unit.dry_bulb=68.4 supply_plenum.dry_bulb=91.6 return_plenum.static_pressure=-0.16 "
         "supply_plenum.static_pressure=0.19 filter.pressure_drop=0.06 liquid_line_indoor.temperature=78.2 outdoor.dry_bulb=36.4 "
         "true_suction.temperature=27.8 compressor.voltage@1=120 compressor.current@1=6.1 compressor.voltage@2=119 "
         "compressor.current@2=6.2",
         ()),
    ), ()),
    ("Cairn Street 9", "main", "ines", 639360, (
        ("visit_kind=first complaint_where=none strip_heat=none coil=dry panels=on zeroed=done filter=clean evaporator_face=clean "
         "condenser_coil=dry caps=on blower_speed=changed",
         "system.running_time=18 return_unit.dry_bulb=77.0 return_unit.rh=41 supply_plenum.dry_bulb=49.4 supply_plenum.rh=91 "
         "return_plenum.static_pressure=-0.10 supply_plenum.static_pressure=0.12 filter.pressure_drop=0.04 coil.pressure_drop=0.11 "
         "blower.airflow@flow_device=880 outdoor.dry_bulb=86.4 liquid_line_outdoor.temperature=95.0 suction_line_outdoor.temperature=50.2 "
         "compressor.voltage@1=119 compressor.current@1=8.8 compressor.voltage@2=118 compressor.current@2=8.8",
         ()),
    ), ("remark", "Somebody moved the tap to low for the noise. Owner wants to think about it.")),
    ("Hollow Lane 14", "upstairs", "ines", 38, (
        ("visit_kind=service complaint_where=some_rooms complaint_feel=warm complaint_hour=all_day recent_work=none strip_heat=none "
         "coil=wet panels=on zeroed=done filter=blocked evaporator_face=not_seen condenser_coil=dry liquid_line_noise=quiet caps=on "
         "registers=open",
         "system.running_time=18 return_grille.dry_bulb=76.2 return_grille.rh=52 return_unit.dry_bulb=76.4 return_unit.rh=52 "
         "supply_plenum.dry_bulb=52.4 supply_plenum.rh=93 supply_register.dry_bulb=53.2 supply_register.rh=90 "
         "return_plenum.static_pressure=-0.66 supply_plenum.static_pressure=0.08 filter.pressure_drop=0.62 coil.pressure_drop=0.13 "
         "liquid_line_indoor.temperature=98.9 outdoor.dry_bulb=90.8 liquid_line_outdoor.temperature=99.6 "
         "suction_line_outdoor.temperature=48.6 condenser_air_out.dry_bulb=106.8 compressor.voltage@1=119 compressor.current@1=9.9 "
         "compressor.voltage@2=119 compressor.current@2=9.8",
         ()),
    ), ("complaint", "The study stays warm once its door is shut.")),
    ("Hollow Lane 14", "downstairs", "ines", 20, (
    ), ()),
    ("Mill Race 8", "main", "tomas", 47, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=humid strip_heat=off coil=wet panels=on zeroed=done filter=clean "
         "condensate=running",
         "system.running_time=25 return_unit.dry_bulb=79.0 return_unit.rh=68 supply_plenum.dry_bulb=62.1 supply_plenum.rh=93 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 blower.airflow@flow_device=1600 blower.power=430 outdoor.dry_bulb=88.2 "
         "liquid_line_outdoor.temperature=98.0 suction_line_outdoor.temperature=60.1 compressor.voltage@1=119 compressor.current@1=12.6 "
         "compressor.voltage@2=119 compressor.current@2=12.6",
         ()),
    ), ("complaint", "Came home to a damp house; it was off for two weeks.")),
    ("Larkspur Pass 2", "main", "wren", 95, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=dry panels=on zeroed=done filter=clean",
         "system.running_time=22 return_unit.dry_bulb=76.8 return_unit.rh=42 supply_plenum.dry_bulb=51.1 supply_plenum.rh=90 "
         "blower.airflow@nominal_guess=1400 outdoor.dry_bulb=86.4",
         ()),
    ), ()),
    ("Cairn Street 9", "main", "wren", 170, (
        ("visit_kind=recheck complaint_where=whole_house complaint_feel=warm strip_heat=none coil=dry panels=on zeroed=done filter=clean "
         "blower_speed=changed evaporator_face=clean condenser_coil=dry",
         "system.running_time=18 return_unit.dry_bulb=77.4 return_unit.rh=41 supply_plenum.dry_bulb=49.5 supply_plenum.rh=92 "
         "return_plenum.static_pressure=-0.10 supply_plenum.static_pressure=0.12 filter.pressure_drop=0.04 coil.pressure_drop=0.11 "
         "blower.airflow@flow_device=875 outdoor.dry_bulb=88.1 liquid_line_outdoor.temperature=96.4 suction_line_outdoor.temperature=49.4 "
         "compressor.voltage@1=119 compressor.current@1=8.9 compressor.voltage@2=120 compressor.current@2=9.0",
         ("blower_speed_set:medium",)),
        ("blower_speed=as_listed",
         "",
         ()),
    ), ()),
)
# fmt: on
