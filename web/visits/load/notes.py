"""The notes beside the fields that come from the assessment: findings, derived values, what to expect."""

from web.visits import figures
from web.visits.load.sheet import FieldState, Sheet


def annotate(sheet: Sheet) -> None:
    """Put findings, dew points and expectations at their fields."""
    assessed = sheet.assessed
    for finding in assessed.findings:
        for place, quantity in finding.fields:
            f = _at(sheet, place, quantity)
            if f is not None:
                f.note.findings.append(finding)
    for place, air in assessed.air_states.items():
        f = sheet.fields.get(f"{place}.{sheet.choices.get(f'{place}.humidity', '')}")
        if f is not None:
            f.note.beside = (
                f"dew point {figures.temperature(air.dew_point_f)}, {7000 * air.humidity_ratio:.0f} grains/lb"
            )
    for kind, expected in assessed.supply_humidity.items():
        f = sheet.fields.get(f"supply_plenum.{kind}")
        if f is not None:
            f.note.expect = f"expect {figures.with_uncertainty(expected, unit=True)}"


def _at(sheet: Sheet, place: str, quantity: str) -> FieldState | None:
    """The field of a finding: of several (legs, methods) the first that holds something."""
    found = [f for f in sheet.fields.values() if (f.place, f.quantity) == (place, quantity)]
    return next((f for f in found if f.typed), found[0] if found else None)
