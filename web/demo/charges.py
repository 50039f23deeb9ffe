"""A year of refrigerant, from the simulator: a leak that was topped up and found at the second visit, one that nobody
searched, an overcharge recovered. As in `visits`.
"""

# fmt: off
VISITS = (
    ("Tanner Row 5", "back", "wren", 475200, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=warm strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean condenser_coil=dry caps=on service_valves=open liquid_line_noise=flash",
         "system.running_time=17 return_unit.dry_bulb=77.9 return_unit.rh=50 supply_plenum.dry_bulb=61.3 "
         "supply_plenum.rh=75 return_plenum.static_pressure=-0.20 supply_plenum.static_pressure=0.25 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 outdoor.dry_bulb=89.4 liquid_line_outdoor.temperature=109.8 "
         "suction_line_outdoor.temperature=66.8 condenser_air_out.dry_bulb=106.0 compressor.voltage@1=120 "
         "compressor.current@1=8.1 compressor.voltage@2=119 compressor.current@2=8.3 gauge_suction.pressure=108 "
         "gauge_liquid.pressure=365 gauge_suction.pressure@s1=117 gauge_liquid.pressure@s1=378 "
         "suction_line_outdoor.temperature@s1=61.0 liquid_line_outdoor.temperature@s1=109.6 gauge_suction.pressure@s2=123 "
         "gauge_liquid.pressure@s2=389 suction_line_outdoor.temperature@s2=54.6 liquid_line_outdoor.temperature@s2=105.4",
         (
          "hook_up:did=on port.low=on port.high=on check.refrigerant=done check.zeroed=done check.valves_closed=done check.low_loss=done check.dry=done check.gloves=done",
          "charge_step:number=1 way=add before=252.5 after=247.5 cylinder=C-11",
          "charge_step:number=2 way=add before=247.5 after=242.5 cylinder=C-11",
          "leak_search:found=none",
          "hook_up:did=off hose_returned=yes caps_on=yes lost=0.4",
         )),
        ("filter=clean condenser_coil=dry",
         "system.running_time=20 return_unit.dry_bulb=77.9 return_unit.rh=50 supply_plenum.dry_bulb=57.4 "
         "supply_plenum.rh=84 return_plenum.static_pressure=-0.20 supply_plenum.static_pressure=0.25 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 outdoor.dry_bulb=89.5 liquid_line_outdoor.temperature=105.7 "
         "suction_line_outdoor.temperature=54.8 condenser_air_out.dry_bulb=108.5 compressor.voltage@1=120 "
         "compressor.current@1=8.6 compressor.voltage@2=120 compressor.current@2=8.7",
         ()),
    ), ("complaint", "Takes all evening to cool the back rooms.")),
    ("Tanner Row 5", "back", "wren", 90720, (
        ("visit_kind=service recent_work=charge_added complaint_where=whole_house complaint_feel=warm strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean condenser_coil=dry caps=on service_valves=open liquid_line_noise=flash oil_stains=seen",
         "system.running_time=17 return_unit.dry_bulb=77.9 return_unit.rh=51 supply_plenum.dry_bulb=61.9 "
         "supply_plenum.rh=73 return_plenum.static_pressure=-0.19 supply_plenum.static_pressure=0.25 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.21 outdoor.dry_bulb=91.2 liquid_line_outdoor.temperature=110.4 "
         "suction_line_outdoor.temperature=68.7 condenser_air_out.dry_bulb=107.5 compressor.voltage@1=119 "
         "compressor.current@1=8.2 compressor.voltage@2=119 compressor.current@2=8.3 gauge_suction.pressure=106 "
         "gauge_liquid.pressure=368 gauge_suction.pressure@s1=115 gauge_liquid.pressure@s1=380 "
         "suction_line_outdoor.temperature@s1=63.8 liquid_line_outdoor.temperature@s1=112.6 gauge_suction.pressure@s2=121 "
         "gauge_liquid.pressure@s2=392 suction_line_outdoor.temperature@s2=57.4 liquid_line_outdoor.temperature@s2=108.8 "
         "gauge_suction.pressure@s3=125 gauge_liquid.pressure@s3=400 suction_line_outdoor.temperature@s3=52.3 "
         "liquid_line_outdoor.temperature@s3=105.7",
         (
          "hook_up:did=on port.low=on port.high=on check.refrigerant=done check.zeroed=done check.valves_closed=done check.low_loss=done check.dry=done check.gloves=done",
          "charge_step:number=1 way=add before=240.5 after=235.5 cylinder=C-11",
          "charge_step:number=2 way=add before=235.5 after=230.5 cylinder=C-11",
          "charge_step:number=3 way=add before=230.5 after=226.5 cylinder=C-11",
          "leak_search:found=found where=flare_at_the_suction_service_valve repaired=yes tested=nitrogen",
          "hook_up:did=off hose_returned=yes caps_on=yes lost=0.3",
          "other:Flare cut anew",
         )),
        ("filter=clean condenser_coil=dry",
         "system.running_time=18 return_unit.dry_bulb=78.0 return_unit.rh=51 supply_plenum.dry_bulb=56.7 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.19 supply_plenum.static_pressure=0.24 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.21 outdoor.dry_bulb=90.9 liquid_line_outdoor.temperature=105.5 "
         "suction_line_outdoor.temperature=52.4 condenser_air_out.dry_bulb=110.7 compressor.voltage@1=119 "
         "compressor.current@1=9.0 compressor.voltage@2=120 compressor.current@2=8.9",
         ()),
    ), ("complaint", "Warm in the back rooms again.")),
    ("Lock Cottage 1", "annex", "tomas", 217440, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=warm strip_heat=off coil=wet panels=on zeroed=done filter=clean evaporator_face=clean condenser_coil=dry caps=on service_valves=open liquid_line_noise=flash",
         "system.running_time=20 return_unit.dry_bulb=77.9 return_unit.rh=51 supply_plenum.dry_bulb=57.8 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.17 supply_plenum.static_pressure=0.20 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 outdoor.dry_bulb=92.0 liquid_line_outdoor.temperature=107.0 "
         "suction_line_outdoor.temperature=61.5 condenser_air_out.dry_bulb=105.0 compressor.voltage@1=119 "
         "compressor.current@1=6.7 compressor.voltage@2=119 compressor.current@2=6.7 gauge_suction.pressure=137 "
         "gauge_liquid.pressure=360 gauge_suction.pressure@s1=136 gauge_liquid.pressure@s1=362 "
         "suction_line_outdoor.temperature@s1=60.0 liquid_line_outdoor.temperature@s1=104.6 gauge_suction.pressure@s2=135 "
         "gauge_liquid.pressure@s2=365 suction_line_outdoor.temperature@s2=59.1 liquid_line_outdoor.temperature@s2=98.1",
         (
          "hook_up:did=on port.low=on port.high=on check.refrigerant=done check.zeroed=done check.valves_closed=done check.low_loss=done check.dry=done check.gloves=done",
          "charge_step:number=1 way=add before=440 after=435 cylinder=C-12",
          "charge_step:number=2 way=add before=435 after=431 cylinder=C-12",
          "leak_search:found=not_searched",
          "hook_up:did=off hose_returned=yes caps_on=yes lost=0.2",
         )),
        ("filter=clean condenser_coil=dry",
         "system.running_time=18 return_unit.dry_bulb=78.1 return_unit.rh=51 supply_plenum.dry_bulb=56.9 "
         "supply_plenum.rh=87 return_plenum.static_pressure=-0.17 supply_plenum.static_pressure=0.20 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.20 outdoor.dry_bulb=92.0 liquid_line_outdoor.temperature=98.1 "
         "suction_line_outdoor.temperature=59.2 condenser_air_out.dry_bulb=104.9 compressor.voltage@1=119 "
         "compressor.current@1=6.8 compressor.voltage@2=119 compressor.current@2=6.8",
         ()),
    ), ("complaint", "Does not keep up in the afternoon.")),
    ("Ferry Street 3", "main", "tomas", 302400, (
        ("visit_kind=service complaint_where=whole_house complaint_feel=warm recent_work=charge_added strip_heat=none coil=wet panels=on zeroed=done filter=clean evaporator_face=clean condenser_coil=dry caps=on service_valves=open",
         "system.running_time=20 return_unit.dry_bulb=78.0 return_unit.rh=50 supply_plenum.dry_bulb=55.9 "
         "supply_plenum.rh=90 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.33 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 outdoor.dry_bulb=90.0 liquid_line_outdoor.temperature=98.3 "
         "suction_line_outdoor.temperature=43.0 condenser_air_out.dry_bulb=109.4 compressor.voltage@1=120 "
         "compressor.current@1=8.7 compressor.voltage@2=119 compressor.current@2=8.6 gauge_suction.pressure=74 "
         "gauge_liquid.pressure=255 gauge_suction.pressure@s1=74 gauge_liquid.pressure@s1=250 "
         "suction_line_outdoor.temperature@s1=42.9 liquid_line_outdoor.temperature@s1=101.3 gauge_suction.pressure@s2=72 "
         "gauge_liquid.pressure@s2=245 suction_line_outdoor.temperature@s2=52.1 liquid_line_outdoor.temperature@s2=104.6",
         (
          "hook_up:did=on port.low=on port.high=on check.refrigerant=done check.zeroed=done check.valves_closed=done check.low_loss=done check.dry=done check.gloves=done",
          "charge_step:number=1 way=recover before=410 after=415 cylinder=R-4",
          "charge_step:number=2 way=recover before=415 after=420 cylinder=R-4",
          "hook_up:did=off hose_returned=yes caps_on=yes lost=0.3",
         )),
        ("filter=clean condenser_coil=dry",
         "system.running_time=21 return_unit.dry_bulb=77.9 return_unit.rh=51 supply_plenum.dry_bulb=56.7 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.33 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 outdoor.dry_bulb=89.9 liquid_line_outdoor.temperature=104.7 "
         "suction_line_outdoor.temperature=52.2 condenser_air_out.dry_bulb=109.2 compressor.voltage@1=120 "
         "compressor.current@1=8.0 compressor.voltage@2=119 compressor.current@2=8.0",
         ()),
    ), ("complaint", "Somebody added refrigerant last year. Humid since.")),
)
# fmt: on
