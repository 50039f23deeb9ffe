"""The kind file: what is known of sound machines, as JSON, written by `./ruddy learn` and read by `./ruddy assess
--kind`. Described in docs/kinds.md.
"""

import json
from collections.abc import Sequence
from typing import Any

import numpy as np

from engine.errors import EngineError
from engine.kinds.features import COLUMNS, LEVELS
from engine.kinds.kind import Group, Kind, Learnt, OfSetting, Suspicion
from engine.quantities.residual import KINDS

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
        return _checked(_read(raw))
    except (json.JSONDecodeError, AttributeError, KeyError, TypeError, ValueError, RecursionError) as error:
        raise EngineError(f"this is no kind file: {error}") from error


def _checked(kind: Kind) -> Kind:
    """The kind, if its numbers are of the shapes and signs that the use of it takes for granted."""
    if kind.machines < 0 or kind.confirmed < 0:
        raise ValueError("counts are under 0")
    columns = len(COLUMNS)
    for name, of in kind.settings.items():
        n = len(of.ids)
        _numbers(f"{name}: correlation", of.correlation, (n, n))
        if set(of.ids) != set(of.learnt) or not of.learnt.keys() <= KINDS.keys():
            raise ValueError(f"{name}: its quantities are not those that are judged by")
        if not np.allclose(np.diag(np.array(of.correlation)), 1.0, atol=1e-3):
            raise ValueError(f"{name}: its correlation has another diagonal than ones")
        np.linalg.cholesky(np.array(of.correlation) + 1e-6 * np.eye(n))
        for id_, learnt in of.learnt.items():
            where = f"{name}, {id_}"
            _numbers(f"{where}: coefficients", learnt.coefficients, (columns,))
            _numbers(f"{where}: covariance", learnt.covariance, (columns, columns))
            of_groups = [(g.count, g.variance) for groups in learnt.groups.values() for g in groups.values()]
            sizes = [learnt.count, learnt.spread, learnt.allowed, *(learnt.unseen[level] for level in LEVELS)]
            _numbers(f"{where}: offsets", [g.offset for groups in learnt.groups.values() for g in groups.values()])
            if min(_numbers(f"{where}: sizes", [*sizes, *(x for pair in of_groups for x in pair)])) < 0:
                raise ValueError(f"{where}: a size is under 0")
    return kind


def _numbers(what: str, rows: Sequence[Any], shape: tuple[int, ...] = ()) -> list[float]:
    """The numbers, all of them finite and of the shape that is asked for."""
    found = np.array(rows, dtype=float)
    if (shape and found.shape != shape) or not np.isfinite(found).all():
        raise ValueError(f"{what} are not {' by '.join(map(str, shape)) or 'finite'} numbers")
    return [float(x) for x in found.ravel()]


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
