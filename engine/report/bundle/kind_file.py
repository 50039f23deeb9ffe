"""The kind file: what is known of sound machines, as JSON, written by `./ruddy learn` and read by `./ruddy assess
--kind`. Described in docs/kinds.md.
"""

import json
from typing import Any

from engine.errors import EngineError
from engine.kinds.features import COLUMNS
from engine.kinds.kind import Group, Kind, Learnt, OfSetting, Suspicion

FORMAT = "ruddy-kind/1"
DIGITS = 7  # significant: far under any instrument


def kind_text(kind: Kind) -> str:
    """The file's text."""
    return json.dumps(_written(kind), ensure_ascii=False, indent=1) + "\n"


def kind_of(text: str) -> Kind:
    """What a file's text says; raises an EngineError that names what is wrong with it."""
    try:
        raw = json.loads(text)
        if raw.get("format") != FORMAT or raw.get("columns") != list(COLUMNS):
            raise EngineError(f"this is no kind file of this version ({FORMAT}); learn it again")
        return _read(raw)
    except (json.JSONDecodeError, AttributeError, KeyError, TypeError, ValueError) as error:
        raise EngineError(f"this is no kind file: {error}") from error


def _written(kind: Kind) -> dict[str, Any]:
    return {
        "format": FORMAT,
        "machines": kind.machines,
        "confirmed": kind.confirmed,
        "columns": list(COLUMNS),
        "settings": {name: _setting(of) for name, of in kind.settings.items()},
    }


def _setting(of: OfSetting) -> dict[str, Any]:
    return {
        "quantities": {id_: _quantity(learnt) for id_, learnt in of.learnt.items()},
        "order": list(of.ids),
        "correlation": [[_short(x) for x in row] for row in of.correlation],
        "suspicions": [
            {"cause": s.cause, "level": s.level, "group": s.group, "quantities": list(s.quantities)}
            for s in of.suspicions
        ],
    }


def _quantity(learnt: Learnt) -> dict[str, Any]:
    return {
        "count": _short(learnt.count),
        "coefficients": [_short(x) for x in learnt.coefficients],
        "covariance": [[_short(x) for x in row] for row in learnt.covariance],
        "spread_u95": _short(learnt.spread),
        "allowed_u95": _short(learnt.allowed),
        "unseen_variance": {level: _short(x) for level, x in learnt.unseen.items()},
        "groups": {
            level: {
                name: {"count": g.count, "offset": _short(g.offset), "variance": _short(g.variance), "within": g.within}
                for name, g in groups.items()
            }
            for level, groups in learnt.groups.items()
        },
    }


def _short(x: float) -> float:
    return float(f"{x:.{DIGITS}g}")


def _read(raw: dict[str, Any]) -> Kind:
    settings = {}
    for name, of in raw["settings"].items():
        learnt = {
            id_: Learnt(
                q["count"],
                tuple(q["coefficients"]),
                tuple(map(tuple, q["covariance"])),
                q["spread_u95"],
                dict(q["unseen_variance"]),
                {level: {n: Group(**g) for n, g in groups.items()} for level, groups in q["groups"].items()},
                q.get("allowed_u95", 0.0),
            )
            for id_, q in of["quantities"].items()
        }
        said = tuple(Suspicion(s["cause"], s["level"], s["group"], tuple(s["quantities"])) for s in of["suspicions"])
        settings[name] = OfSetting(learnt, tuple(of["order"]), tuple(map(tuple, of["correlation"])), said)
    return Kind(settings, raw["machines"], raw["confirmed"])
