"""Which questions are at hand: what the readings so far make worth reading next. The rest of the walk is quiet, never hidden."""

from engine.assessment.whole import Whole
from engine.readings.round import Round
from engine.readings.walk import AIR, AIRFLOW, CHARGE, DUCTS, ELECTRICAL

EVERYTHING = frozenset((AIR, AIRFLOW, CHARGE, DUCTS, ELECTRICAL))
# What a first verdict sends one to read, beside the air and the airflow that every visit needs: the lines only once the airflow is proved.
_AFTER_VERDICT = {
    "airflow_low": (DUCTS,),
    "capacity_low": (CHARGE, ELECTRICAL),
    "looks_right": (CHARGE,),
    "nothing_out_of_range": (CHARGE,),
    "nothing_to_compare": (CHARGE, ELECTRICAL),
}
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


def questions_at_hand(round_: Round, whole: Whole) -> frozenset[str]:
    """The questions worth reading for now (engine.readings.walk: air, airflow, charge, ducts, electrical).

    Air and airflow always; heating wants the lines too. A baseline visit (commissioning, first) wants everything.
    """
    asked = {AIR, AIRFLOW}
    if whole.mode == "heating" or round_.equipment.kind == "ground_source":
        asked |= {CHARGE, ELECTRICAL}
    asked.update(_AFTER_VERDICT.get(whole.verdict.rule, ()))
    for seen, questions in _AFTER_SIGHT.items():
        if round_.observations.get(seen[0]) == seen[1]:
            asked.update(questions)
    return frozenset(asked)
