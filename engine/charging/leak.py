"""How fast a circuit loses refrigerant, by what was put in. It claims no threshold of any law: local codes prevail."""

from engine.errors import EngineError

DAYS_A_YEAR = 365.0


def leak_rate_share(added_oz: float, charge_oz: float, days: float) -> float:
    """Share of the full charge that is lost in a year [1/a].

    added_oz: what it took to be full again, over 0 [oz]; charge_oz: the full charge, line set included, over 0 [oz];
    days: since it was full last, over 0 [d].

        rate = added / charge x 365 / days

    The annualizing method of 40 CFR 82 subpart F (from memory). Raises an EngineError for what is not over 0.
    """
    for name, value in (("added", added_oz), ("charge", charge_oz), ("days", days)):
        if value <= 0:
            raise EngineError(f"{name} must be over 0, not {value:g}")
    return added_oz / charge_oz * DAYS_A_YEAR / days
