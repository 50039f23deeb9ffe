"""What stored results said: a record that later engines may have written in another form."""

from dataclasses import dataclass

from engine.diagnosis.cause import GROUPS, HEALTHY
from engine.diagnosis.causes import Setting, causes_in, group_label
from engine.diagnosis.conclusion import NOTHING_SHOWN, Shown
from engine.diagnosis.verdict import CANNOT_TELL, CAUSE, DOES_NOT_COUNT, GROUP, SOUND, STOP_FIRST
from engine.report import customer_words
from engine.report.customer_words import told_to_customer

__all__ = ["GROUPS", "SOUND", "told_to_customer"]
FAULTS = (STOP_FIRST, CAUSE, GROUP)  # states of a verdict that tells of a fault, the worst first
UNTOLD = (DOES_NOT_COUNT, CANNOT_TELL)


def groups_in(setting: Setting) -> dict[str, str]:
    """What there is to be found on a machine of this kind in this mode, as it is called there."""
    there = {cause.group for cause in causes_in(setting).values()}
    return {group: group_label(group, setting) for group in GROUPS if group in there}


@dataclass(frozen=True)
class Told:
    """What a stored result told of a machine: a fault, or that it is sound. probability: how sure it was of that."""

    state: str
    group: str
    headline: str
    probability: float
    engine: str
    mode: str


def told(stored: dict | None) -> Told | None:
    """What a stored result told; None where it told nothing, or in another form."""
    stored = stored or {}
    verdict = stored.get("verdict", {})
    if verdict.get("state") not in (CAUSE, GROUP, SOUND):
        return None
    group = verdict["group"] or HEALTHY
    sure = stored["groups"].get(group, 0.0)
    return Told(verdict["state"], group, verdict["headline"], sure, stored["engine"], stored.get("mode", ""))


def said_last(stored: dict | None) -> Shown:
    """What a stored result said; nothing for none, or where the engine of that day answered in another form."""
    if not stored or "verdict" not in stored or "state" not in stored["verdict"]:
        return NOTHING_SHOWN
    verdict = stored["verdict"]
    return Shown(verdict["group"], verdict["cause"], tuple(cause["cause"] for cause in stored["causes"]))


def for_customer(stored: dict | None) -> customer_words.Round | None:
    """What a stored result tells a customer; None where it told nothing, or in another form."""
    stored = stored or {}
    verdict = stored.get("verdict", {})
    if "state" not in verdict:
        return None
    capacity = stored.get("quantities", {}).get("capacity", {})
    measured, expected = ((capacity.get(name) or {}).get("value") for name in ("measured", "expected"))
    share = measured / expected if measured and expected else None
    return customer_words.Round(verdict["state"], verdict.get("group", ""), verdict.get("cause", ""), share)
