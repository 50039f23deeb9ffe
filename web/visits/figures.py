"""Figures as they are printed, in the scale the person reads: rounded to what an instrument deserves, with unit and 95
% uncertainty.
"""

from web.shell.bridge import words

BLANK = "–"


def sign(unit: str) -> str:
    """The unit as printed: airflow per ton as CFM beside its label."""
    return unit if unit == "CFM/ton" else words().sign(unit)


def plain(value: float | None, unit: str, difference: bool = False) -> str:
    """'36,200' for 36211.7 BTU/h; a dash for nothing. difference: of °F, a difference."""
    return words().plain(value, unit, difference)


def spread(u95: float | None, unit: str) -> str:
    """An uncertainty or tolerance: of °F always a difference."""
    return words().spread(u95, unit)


def figure(estimate, difference: bool = False) -> str:
    """The value of an estimate; a dash for nothing."""
    return plain(estimate.value if estimate.known else None, estimate.unit, difference)


def with_uncertainty(estimate, difference: bool = False, unit: bool = False) -> str:
    """'19.8 ± 2.2', with its unit when asked; a dash for nothing."""
    text = words().margin(estimate, difference)
    return f"{text} {sign(estimate.unit)}" if unit and estimate.known else text


def temperature(value_f: float) -> str:
    """'57.5 °F', or the same in °C."""
    return f"{plain(value_f, '°F')} {sign('°F')}"
