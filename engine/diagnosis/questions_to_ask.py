"""Which questions are worth reading for now: what the readings so far make worth reading next. The rest of the walk is
quiet, never hidden.
"""

from engine.diagnosis.cause import AIR_GROUPS, DUCT_GROUPS, HEALTHY
from engine.diagnosis.diagnosis import Diagnosis
from engine.diagnosis.verdict import CANNOT_TELL, NOT_READ, SOUND, SPLIT_ALONE
from engine.readings.round import Round
from engine.readings.vocabulary import GROUND_SOURCE
from engine.readings.walk import AIR, AIRFLOW, CHARGE, COMPRESSION, DUCTS, ELECTRICAL

EVERYTHING = frozenset((AIR, AIRFLOW, CHARGE, DUCTS, ELECTRICAL))
# What was asked or seen that brings up a question of its own.
_AFTER_SIGHT = {
    ("visit_kind", "commissioning"): tuple(EVERYTHING),
    ("visit_kind", "first"): tuple(EVERYTHING),
    ("complaint_where", "some_rooms"): (DUCTS,),
    ("tripped", "yes"): (ELECTRICAL,),
    ("liquid_line_noise", "flash"): (CHARGE,),
    ("oil_stains", "seen"): (CHARGE,),
    ("recent_work", "charge_added"): (CHARGE,),
}


def questions_to_ask(round_: Round, diagnosis: Diagnosis) -> frozenset[str]:
    """The questions worth reading for now (engine.readings.walk: air, airflow, charge, ducts, electrical, compression).

    Air and airflow always; heating wants the lines too. A baseline visit (commissioning, first) wants everything. The
    lines of a unit in cooling only once the air is told and its airflow is not at fault; the discharge line, which is
    on neither list of the trade, only where it is among the steps that tell most.
    """
    asked = {AIR, AIRFLOW}
    if round_.mode == "heating" or round_.equipment.kind == GROUND_SOURCE:
        asked |= {CHARGE, ELECTRICAL}
    asked.update(_after_verdict(diagnosis))
    for (what, degree), questions in _AFTER_SIGHT.items():
        if round_.observations.get(what) == degree:
            asked.update(questions)
    if any("discharge" in advice.step.gives for advice in diagnosis.steps):
        asked.add(COMPRESSION)
    return frozenset(asked)


def _after_verdict(diagnosis: Diagnosis) -> tuple[str, ...]:
    verdict = diagnosis.verdict
    if verdict.group in (*AIR_GROUPS, *DUCT_GROUPS):
        return (DUCTS,)
    if verdict.state == SOUND:
        return (CHARGE,)
    if verdict.group not in ("", HEALTHY):
        return (CHARGE, ELECTRICAL)
    air_is_told = (
        verdict.state == CANNOT_TELL
        and verdict.reason not in (NOT_READ, SPLIT_ALONE)
        and any(r.kind.id == "airflow" for r in diagnosis.residuals)
    )
    return (CHARGE, ELECTRICAL) if air_is_told else ()
