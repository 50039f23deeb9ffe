"""What comes in: a gateway's batch (JSON), and the name of a new gateway. Shape only."""

import json
from dataclasses import dataclass
from datetime import datetime
from typing import Any

from django import forms

from web.shell.forms import NEVER, read_moment, read_text

MOST_SAMPLES = 500
LARGEST_SEQUENCE = 2**53


class BatchError(ValueError):
    """A batch that cannot be read at all."""


@dataclass(frozen=True)
class SampleItem:
    """One sample of a batch. problem: why it cannot be read, '' when it can."""

    probe: str = ""
    channel: str = ""
    sequence: int = -1
    raw: float = 0.0
    unit: str = ""
    taken_at: datetime = NEVER
    battery_pct: float | None = None
    signal_dbm: float | None = None
    problem: str = ""


def parse_batch(body: bytes) -> tuple[list[SampleItem], datetime]:
    """The samples of a batch and the gateway's clock when it was sent; raises BatchError."""
    try:
        data = json.loads(body)
        clock, samples = read_moment(data["clock"]), data["samples"]
    except (ValueError, KeyError, TypeError, AttributeError, RecursionError) as error:
        raise BatchError("A batch has a clock and samples.") from error
    if not isinstance(samples, list) or len(samples) > MOST_SAMPLES:
        raise BatchError(f"A batch holds at most {MOST_SAMPLES} samples.")
    return [_sample(raw) for raw in samples], clock


def _sample(raw: Any) -> SampleItem:
    try:
        sequence = raw["sequence"]
        if not isinstance(sequence, int) or isinstance(sequence, bool) or not 0 <= sequence <= LARGEST_SEQUENCE:
            raise ValueError("sequence must be a whole number, counting up")
        return SampleItem(
            probe=read_text(raw, "probe", 40, needed=True),
            channel=read_text(raw, "channel", 20, needed=True),
            sequence=sequence,
            raw=_number(raw["value"]),
            unit=read_text(raw, "unit", 12, needed=True),
            taken_at=read_moment(raw["taken_at"]),
            battery_pct=_optional(raw, "battery", 0.0, 100.0),
            signal_dbm=_optional(raw, "signal", -150.0, 20.0),
        )
    except (ValueError, KeyError, TypeError, AttributeError, OverflowError) as error:
        return SampleItem(problem=f"This sample cannot be read ({error}).")


def _number(value: object) -> float:
    if not isinstance(value, int | float) or isinstance(value, bool):
        raise ValueError("value must be a number")
    return float(value)


def _optional(raw: dict, key: str, low: float, high: float) -> float | None:
    if raw.get(key) is None:
        return None
    value = _number(raw[key])
    if not low <= value <= high:
        raise ValueError(f"{key} must be from {low:g} to {high:g}")
    return value


class GatewayForm(forms.Form):
    """What to call a new gateway."""

    name = forms.CharField(
        max_length=40, label="Called", error_messages={"required": "Call it something, such as the van it rides in."}
    )
