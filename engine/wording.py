"""Numbers in sentences: the figures an instrument deserves, with their unit."""


def temperature(value_f: float) -> str:
    """72.4 °F."""
    return f"{value_f:.1f} °F"


def difference(value_f: float) -> str:
    """A temperature difference without its sign: 4.5 °F."""
    return f"{abs(value_f):.1f} °F"


def capacity(value_btuh: float) -> str:
    """36,200 BTU/h."""
    return f"{round(value_btuh, -2):,.0f} BTU/h"


def airflow(value_cfm_per_ton: float) -> str:
    """298 CFM per ton."""
    return f"{value_cfm_per_ton:.0f} CFM per ton"


def amount(value: float, unit: str) -> str:
    """The size of a difference in its unit, to the figures it deserves: 2.2 °F, 50 CFM/ton, 3,500 BTU/h."""
    if unit == "BTU/h":
        return capacity(abs(value))
    return f"{abs(value):.1f} {unit}" if unit == "°F" else f"{abs(value):.0f} {unit}"


def share(value: float) -> str:
    """12 %."""
    return f"{100 * value:.0f} %"


def listed(words: list[str]) -> str:
    """'a', 'a and b', 'a, b and c'."""
    if len(words) < 2:
        return "".join(words)
    return f"{', '.join(words[:-1])} and {words[-1]}"
