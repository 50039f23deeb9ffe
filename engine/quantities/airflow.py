"""Airflow for each nominal ton, against the house rule's two limits."""

from engine.constants import AIRFLOW_REPEAT, AIRFLOW_SPREAD_SOUND, NOMINAL_CFM_PER_TON
from engine.quantities.quantity import HOUSE_RULE, At, Quantity, compared
from engine.quantities.residual import LN
from engine.readings.measured import Measured
from engine.uncertainty.estimate import Estimate, missing


def airflow(m: Measured) -> Quantity:
    """Airflow [CFM/ton]: 400 is usual; low and high where the shop's rules say. A guess is no measurement, and none is
    none.
    """
    rules, usual = m.round.rules, NOMINAL_CFM_PER_TON.value
    found = missing("CFM/ton", "needs", "airflow") if m.airflows.assumed else m["cfm_per_ton"]
    tolerance = (usual - rules.airflow_low_cfm_per_ton, rules.airflow_high_cfm_per_ton - usual)
    pushes = {s: p / found.value for s, p in m.parts("cfm_per_ton").items()} if found.known else {}
    residual = (
        {"model_u95": AIRFLOW_SPREAD_SOUND.value, "repeat_u95": AIRFLOW_REPEAT.value} if m.airflows.measured else None
    )
    return compared(
        "airflow",
        "CFM/ton",
        found,
        Estimate(usual, 0.0, "CFM/ton"),
        tolerance,
        form=LN,
        pushes=pushes,
        authority=HOUSE_RULE,
        at=At("blower", "airflow", own_u95=found.u95 if found.known else 0.0),
        residual=residual,
        decided_by="airflow_method",
    )
