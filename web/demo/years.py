"""Three invented machines over four years, from the simulator: one sound, one losing charge, one whose coil mats over.
As in `visits`.
"""

# fmt: off
VISITS = (
    ("Osier Row 3", "front", "ines", 2249280, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=19 return_unit.dry_bulb=76.6 return_unit.rh=50 supply_plenum.dry_bulb=55.4 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 blower.airflow@flow_device=1194 outdoor.dry_bulb=83.9 "
         "liquid_line_outdoor.temperature=91.9 suction_line_outdoor.temperature=55.1 condenser_air_out.dry_bulb=100.0 "
         "compressor.voltage@1=119 compressor.current@1=10.5 compressor.voltage@2=120 compressor.current@2=10.6",
         ()),
    ), ()),
    ("Osier Row 3", "front", "ines", 2116800, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=20 return_unit.dry_bulb=77.9 return_unit.rh=51 supply_plenum.dry_bulb=57.4 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.24 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 blower.airflow@flow_device=1188 outdoor.dry_bulb=92.0 "
         "liquid_line_outdoor.temperature=101.4 suction_line_outdoor.temperature=57.4 condenser_air_out.dry_bulb=109.1 "
         "compressor.voltage@1=120 compressor.current@1=11.7 compressor.voltage@2=120 compressor.current@2=11.8",
         ()),
    ), ()),
    ("Osier Row 3", "front", "ines", 1723680, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=21 return_unit.dry_bulb=76.7 return_unit.rh=51 supply_plenum.dry_bulb=55.7 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.21 blower.airflow@flow_device=1219 outdoor.dry_bulb=83.3 "
         "liquid_line_outdoor.temperature=90.9 suction_line_outdoor.temperature=55.3 condenser_air_out.dry_bulb=99.2 "
         "compressor.voltage@1=119 compressor.current@1=10.5 compressor.voltage@2=119 compressor.current@2=10.5",
         ()),
    ), ()),
    ("Osier Row 3", "front", "tomas", 1595520, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=19 return_unit.dry_bulb=77.9 return_unit.rh=52 supply_plenum.dry_bulb=57.6 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 blower.airflow@flow_device=1209 outdoor.dry_bulb=90.6 "
         "liquid_line_outdoor.temperature=99.4 suction_line_outdoor.temperature=57.2 condenser_air_out.dry_bulb=107.1 "
         "compressor.voltage@1=119 compressor.current@1=11.6 compressor.voltage@2=120 compressor.current@2=11.5",
         ()),
    ), ()),
    ("Osier Row 3", "front", "ines", 1199520, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=17 return_unit.dry_bulb=76.5 return_unit.rh=50 supply_plenum.dry_bulb=55.3 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.21 blower.airflow@flow_device=1200 outdoor.dry_bulb=86.5 "
         "liquid_line_outdoor.temperature=95.1 suction_line_outdoor.temperature=55.0 condenser_air_out.dry_bulb=102.4 "
         "compressor.voltage@1=119 compressor.current@1=10.8 compressor.voltage@2=119 compressor.current@2=11.0",
         ()),
    ), ()),
    ("Osier Row 3", "front", "ines", 1067040, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=20 return_unit.dry_bulb=78.8 return_unit.rh=50 supply_plenum.dry_bulb=57.7 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 blower.airflow@flow_device=1209 outdoor.dry_bulb=93.1 "
         "liquid_line_outdoor.temperature=102.2 suction_line_outdoor.temperature=57.3 condenser_air_out.dry_bulb=109.8 "
         "compressor.voltage@1=120 compressor.current@1=11.9 compressor.voltage@2=120 compressor.current@2=11.9",
         ()),
    ), ()),
    ("Osier Row 3", "front", "ines", 671040, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=22 return_unit.dry_bulb=75.9 return_unit.rh=51 supply_plenum.dry_bulb=55.4 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.21 blower.airflow@flow_device=1198 outdoor.dry_bulb=82.3 "
         "liquid_line_outdoor.temperature=90.9 suction_line_outdoor.temperature=55.5 condenser_air_out.dry_bulb=99.3 "
         "compressor.voltage@1=120 compressor.current@1=10.3 compressor.voltage@2=119 compressor.current@2=10.4",
         ()),
    ), ()),
    ("Osier Row 3", "front", "ines", 544320, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=18 return_unit.dry_bulb=77.9 return_unit.rh=51 supply_plenum.dry_bulb=57.7 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.21 blower.airflow@flow_device=1217 outdoor.dry_bulb=91.7 "
         "liquid_line_outdoor.temperature=100.7 suction_line_outdoor.temperature=56.8 condenser_air_out.dry_bulb=108.3 "
         "compressor.voltage@1=119 compressor.current@1=11.7 compressor.voltage@2=119 compressor.current@2=11.8",
         ()),
    ), ()),
    ("Osier Row 3", "front", "ines", 145440, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=21 return_unit.dry_bulb=77.3 return_unit.rh=50 supply_plenum.dry_bulb=56.3 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.24 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.20 blower.airflow@flow_device=1184 outdoor.dry_bulb=88.5 "
         "liquid_line_outdoor.temperature=97.1 suction_line_outdoor.temperature=56.0 condenser_air_out.dry_bulb=104.8 "
         "compressor.voltage@1=119 compressor.current@1=11.1 compressor.voltage@2=119 compressor.current@2=11.3",
         ()),
    ), ()),
    ("Osier Row 3", "rear", "ines", 2249280, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=19 return_unit.dry_bulb=76.4 return_unit.rh=51 supply_plenum.dry_bulb=55.3 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.20 blower.airflow@flow_device=1005 outdoor.dry_bulb=83.9 "
         "liquid_line_outdoor.temperature=92.4 suction_line_outdoor.temperature=55.1 condenser_air_out.dry_bulb=100.6 "
         "compressor.voltage@1=120 compressor.current@1=8.8 compressor.voltage@2=119 compressor.current@2=8.9",
         ()),
    ), ()),
    ("Osier Row 3", "rear", "ines", 2116800, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=16 return_unit.dry_bulb=78.1 return_unit.rh=50 supply_plenum.dry_bulb=57.6 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.24 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.21 blower.airflow@flow_device=987 outdoor.dry_bulb=92.2 "
         "liquid_line_outdoor.temperature=102.1 suction_line_outdoor.temperature=57.2 condenser_air_out.dry_bulb=109.0 "
         "compressor.voltage@1=120 compressor.current@1=9.9 compressor.voltage@2=119 compressor.current@2=9.8",
         ()),
    ), ()),
    ("Osier Row 3", "rear", "ines", 1723680, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=21 return_unit.dry_bulb=76.9 return_unit.rh=49 supply_plenum.dry_bulb=55.4 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.21 blower.airflow@flow_device=986 outdoor.dry_bulb=83.1 "
         "liquid_line_outdoor.temperature=92.0 suction_line_outdoor.temperature=55.2 condenser_air_out.dry_bulb=99.6 "
         "compressor.voltage@1=120 compressor.current@1=8.7 compressor.voltage@2=120 compressor.current@2=8.7",
         ()),
    ), ()),
    ("Osier Row 3", "rear", "tomas", 1595520, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=17 return_unit.dry_bulb=77.5 return_unit.rh=52 supply_plenum.dry_bulb=57.6 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.21 blower.airflow@flow_device=998 outdoor.dry_bulb=90.6 "
         "liquid_line_outdoor.temperature=100.4 suction_line_outdoor.temperature=57.4 condenser_air_out.dry_bulb=107.2 "
         "compressor.voltage@1=119 compressor.current@1=9.6 compressor.voltage@2=119 compressor.current@2=9.6",
         ()),
    ), ()),
    ("Osier Row 3", "rear", "ines", 1199520, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=21 return_unit.dry_bulb=76.6 return_unit.rh=51 supply_plenum.dry_bulb=55.6 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.21 blower.airflow@flow_device=985 outdoor.dry_bulb=86.6 "
         "liquid_line_outdoor.temperature=96.3 suction_line_outdoor.temperature=55.5 condenser_air_out.dry_bulb=103.1 "
         "compressor.voltage@1=120 compressor.current@1=9.1 compressor.voltage@2=119 compressor.current@2=9.1",
         ()),
    ), ()),
    ("Osier Row 3", "rear", "ines", 1067040, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=20 return_unit.dry_bulb=78.6 return_unit.rh=51 supply_plenum.dry_bulb=57.9 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.21 blower.airflow@flow_device=1003 outdoor.dry_bulb=93.5 "
         "liquid_line_outdoor.temperature=104.1 suction_line_outdoor.temperature=57.7 condenser_air_out.dry_bulb=109.7 "
         "compressor.voltage@1=120 compressor.current@1=9.9 compressor.voltage@2=120 compressor.current@2=9.8",
         ()),
    ), ()),
    ("Osier Row 3", "rear", "ines", 671040, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=21 return_unit.dry_bulb=76.4 return_unit.rh=52 supply_plenum.dry_bulb=55.4 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.24 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.21 blower.airflow@flow_device=987 outdoor.dry_bulb=82.8 "
         "liquid_line_outdoor.temperature=93.4 suction_line_outdoor.temperature=55.4 condenser_air_out.dry_bulb=99.1 "
         "compressor.voltage@1=120 compressor.current@1=8.6 compressor.voltage@2=119 compressor.current@2=8.6",
         ()),
    ), ()),
    ("Osier Row 3", "rear", "ines", 544320, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=16 return_unit.dry_bulb=77.7 return_unit.rh=51 supply_plenum.dry_bulb=57.5 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.19 blower.airflow@flow_device=1011 outdoor.dry_bulb=91.4 "
         "liquid_line_outdoor.temperature=103.7 suction_line_outdoor.temperature=58.1 condenser_air_out.dry_bulb=108.0 "
         "compressor.voltage@1=119 compressor.current@1=9.6 compressor.voltage@2=120 compressor.current@2=9.7",
         ()),
    ), ()),
    ("Osier Row 3", "rear", "ines", 145440, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=22 return_unit.dry_bulb=77.2 return_unit.rh=51 supply_plenum.dry_bulb=56.9 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.20 blower.airflow@flow_device=1003 outdoor.dry_bulb=88.3 "
         "liquid_line_outdoor.temperature=100.8 suction_line_outdoor.temperature=56.7 condenser_air_out.dry_bulb=104.8 "
         "compressor.voltage@1=119 compressor.current@1=9.4 compressor.voltage@2=120 compressor.current@2=9.3",
         ()),
    ), ()),
    ("Withy Lane 6", "main", "ines", 2249280, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=18 return_unit.dry_bulb=76.3 return_unit.rh=51 supply_plenum.dry_bulb=55.5 "
         "supply_plenum.rh=84 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.20 blower.airflow@flow_device=1001 outdoor.dry_bulb=84.1 "
         "liquid_line_outdoor.temperature=92.3 suction_line_outdoor.temperature=54.8 condenser_air_out.dry_bulb=100.5 "
         "compressor.voltage@1=119 compressor.current@1=8.8 compressor.voltage@2=120 compressor.current@2=8.8",
         ()),
    ), ()),
    ("Withy Lane 6", "main", "ines", 2116800, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=22 return_unit.dry_bulb=77.9 return_unit.rh=52 supply_plenum.dry_bulb=57.3 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.24 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.21 blower.airflow@flow_device=1017 outdoor.dry_bulb=91.8 "
         "liquid_line_outdoor.temperature=101.2 suction_line_outdoor.temperature=57.1 condenser_air_out.dry_bulb=108.8 "
         "compressor.voltage@1=120 compressor.current@1=9.9 compressor.voltage@2=119 compressor.current@2=9.8",
         ()),
    ), ()),
    ("Withy Lane 6", "main", "ines", 1723680, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=18 return_unit.dry_bulb=76.9 return_unit.rh=49 supply_plenum.dry_bulb=55.6 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.22 blower.airflow@flow_device=989 outdoor.dry_bulb=83.2 "
         "liquid_line_outdoor.temperature=91.4 suction_line_outdoor.temperature=55.2 condenser_air_out.dry_bulb=99.6 "
         "compressor.voltage@1=120 compressor.current@1=8.8 compressor.voltage@2=120 compressor.current@2=8.7",
         ()),
    ), ()),
    ("Withy Lane 6", "main", "tomas", 1595520, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=20 return_unit.dry_bulb=77.4 return_unit.rh=52 supply_plenum.dry_bulb=57.4 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.07 coil.pressure_drop=0.23 blower.airflow@flow_device=989 outdoor.dry_bulb=90.3 "
         "liquid_line_outdoor.temperature=98.9 suction_line_outdoor.temperature=57.1 condenser_air_out.dry_bulb=107.2 "
         "compressor.voltage@1=120 compressor.current@1=9.6 compressor.voltage@2=120 compressor.current@2=9.6",
         ()),
    ), ()),
    ("Withy Lane 6", "main", "ines", 1199520, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=21 return_unit.dry_bulb=76.8 return_unit.rh=50 supply_plenum.dry_bulb=55.6 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.22 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.23 blower.airflow@flow_device=1002 outdoor.dry_bulb=86.5 "
         "liquid_line_outdoor.temperature=94.7 suction_line_outdoor.temperature=55.2 condenser_air_out.dry_bulb=102.7 "
         "compressor.voltage@1=119 compressor.current@1=9.1 compressor.voltage@2=120 compressor.current@2=9.0",
         ()),
    ), ()),
    ("Withy Lane 6", "main", "ines", 1067040, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=17 return_unit.dry_bulb=78.2 return_unit.rh=50 supply_plenum.dry_bulb=57.7 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.23 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.23 blower.airflow@flow_device=976 outdoor.dry_bulb=93.0 "
         "liquid_line_outdoor.temperature=102.1 suction_line_outdoor.temperature=57.1 condenser_air_out.dry_bulb=109.9 "
         "compressor.voltage@1=119 compressor.current@1=9.9 compressor.voltage@2=120 compressor.current@2=9.9",
         ()),
    ), ()),
    ("Withy Lane 6", "main", "ines", 671040, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=16 return_unit.dry_bulb=75.9 return_unit.rh=52 supply_plenum.dry_bulb=55.0 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.22 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.24 blower.airflow@flow_device=979 outdoor.dry_bulb=82.8 "
         "liquid_line_outdoor.temperature=90.5 suction_line_outdoor.temperature=54.8 condenser_air_out.dry_bulb=99.1 "
         "compressor.voltage@1=119 compressor.current@1=8.6 compressor.voltage@2=120 compressor.current@2=8.7",
         ()),
    ), ()),
    ("Withy Lane 6", "main", "ines", 544320, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=21 return_unit.dry_bulb=77.7 return_unit.rh=52 supply_plenum.dry_bulb=57.1 "
         "supply_plenum.rh=86 return_plenum.static_pressure=-0.15 supply_plenum.static_pressure=0.22 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.25 blower.airflow@flow_device=973 outdoor.dry_bulb=91.6 "
         "liquid_line_outdoor.temperature=100.7 suction_line_outdoor.temperature=57.0 condenser_air_out.dry_bulb=108.5 "
         "compressor.voltage@1=119 compressor.current@1=9.7 compressor.voltage@2=119 compressor.current@2=9.8",
         ()),
    ), ()),
    ("Withy Lane 6", "main", "ines", 145440, (
        ("visit_kind=maintenance complaint_where=none strip_heat=none coil=wet panels=on zeroed=done filter=clean condenser_coil=dry",
         "system.running_time=22 return_unit.dry_bulb=77.5 return_unit.rh=51 supply_plenum.dry_bulb=56.0 "
         "supply_plenum.rh=85 return_plenum.static_pressure=-0.16 supply_plenum.static_pressure=0.22 "
         "filter.pressure_drop=0.06 coil.pressure_drop=0.26 blower.airflow@flow_device=949 outdoor.dry_bulb=88.2 "
         "liquid_line_outdoor.temperature=96.8 suction_line_outdoor.temperature=55.8 condenser_air_out.dry_bulb=104.7 "
         "compressor.voltage@1=120 compressor.current@1=9.3 compressor.voltage@2=120 compressor.current@2=9.3",
         ()),
    ), ()),
)
# fmt: on
