"""Figures as they are printed: rounded to what an instrument deserves, with unit and 95 % uncertainty."""

# unit -> (step it is rounded to, decimals shown)
STEPS = {
    "°F": (0.1, 1),
    "%": (1.0, 0),
    "BTU/h": (100.0, 0),
    "CFM/ton": (1.0, 0),
    "CFM": (1.0, 0),
    "lb/h": (10.0, 0),
    "tons": (0.01, 2),
    "BTU/lb": (0.1, 1),
    "lb/lb": (0.0001, 4),
    "": (0.01, 2),
}
BLANK = "–"


def plain(value: float | None, unit: str) -> str:
    """'36,200' for 36211.7 BTU/h; a dash for nothing."""
    if value is None:
        return BLANK
    step, decimals = STEPS[unit]
    text = f"{round(value / step) * step:,.{decimals}f}"
    return text.replace("-", "−")


def figure(estimate) -> str:
    """The value of an estimate."""
    return plain(estimate.value, estimate.unit)


def with_uncertainty(estimate) -> str:
    """'19.8 ± 2.2'; a dash for nothing."""
    if not estimate.known:
        return BLANK
    if not estimate.u95:
        return figure(estimate)
    return f"{figure(estimate)} ± {plain(estimate.u95, estimate.unit)}"


def grains(estimate) -> str:
    """A humidity ratio in grains per pound."""
    return BLANK if not estimate.known else f"{7000 * estimate.value:.0f}"
