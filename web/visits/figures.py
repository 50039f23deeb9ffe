"""Figures as they are printed: rounded to what an instrument deserves, with unit and 95 % uncertainty, in the scale the person reads."""

from web.visits.bridge import difference_in_scale, in_scale, scale

# unit -> (step it is rounded to, decimals shown)
STEPS = {
    "°F": (0.1, 1), "%": (1.0, 0), "BTU/h": (100.0, 0), "CFM/ton": (1.0, 0), "CFM": (1.0, 0), "lb/h": (10.0, 0), "tons": (0.01, 2), "BTU/lb": (0.1, 1),
    "lb/lb": (0.0001, 4), "in. w.c.": (0.01, 2), "A": (0.1, 1), "W": (10.0, 0), "GPM": (0.1, 1), "psi": (0.1, 1), "BTU/h per W": (0.1, 1), "": (0.01, 2),
}  # fmt: skip
BLANK = "–"
DIFFERENCES = (
    "split",
    "approach",
    "superheat",
    "subcooling",
    "rise",
    "gain",
    "minus",
)  # names of °F results that are no temperatures


def is_difference(name: str) -> bool:
    """Whether a result's name says that its °F are a difference."""
    return any(word in name for word in DIFFERENCES)


def sign(unit: str) -> str:
    """The unit as printed: temperatures in the scale shown, airflow per ton as CFM beside its label."""
    return f"°{scale()}" if unit == "°F" else unit


def plain(value: float | None, unit: str, difference: bool = False) -> str:
    """'36,200' for 36211.7 BTU/h; a dash for nothing. difference: of °F, a difference."""
    if value is None:
        return BLANK
    if unit == "°F":
        value = difference_in_scale(value) if difference else in_scale(value)
    step, decimals = STEPS[unit]
    text = f"{round(value / step) * step:,.{decimals}f}"
    return (text[1:] if text.startswith("-") and float(text.replace(",", "")) == 0 else text).replace("-", "−")


def spread(u95: float | None, unit: str) -> str:
    """An uncertainty or tolerance: of °F always a difference."""
    return plain(u95, unit, difference=True)


def figure(estimate, difference: bool = False) -> str:
    """The value of an estimate."""
    return plain(estimate.value, estimate.unit, difference)


def with_uncertainty(estimate, difference: bool = False, unit: bool = False) -> str:
    """'19.8 ± 2.2', with its unit when asked; a dash for nothing."""
    if not estimate.known:
        return BLANK
    text = figure(estimate, difference)
    if estimate.u95:
        text += f" ± {spread(estimate.u95, estimate.unit)}"
    return f"{text} {sign(estimate.unit)}" if unit else text


def temperature(value_f: float) -> str:
    """'57.5 °F', or the same in °C."""
    return f"{plain(value_f, '°F')} {sign('°F')}"
