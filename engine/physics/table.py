"""Reading between the lines of a table of two axes: the one interpolator of every table of the engine."""

import numpy as np
from numpy.typing import ArrayLike, NDArray

from engine.units import Numbers


def between(
    rows: ArrayLike, columns: ArrayLike, values: ArrayLike, row: Numbers, column: Numbers
) -> NDArray[np.float64]:
    """The value at (row, column), linear both ways (bilinear); NaN outside the table. Arrays or floats alike,
    unchecked.

    rows (n,), columns (m,): rising; values (n, m). row, column: of one shape, in the axes' units. Returns that shape,
    in the values' unit.
    """
    r_axis, c_axis, v_grid = np.asarray(rows, float), np.asarray(columns, float), np.asarray(values, float)
    r, c = np.broadcast_arrays(np.asarray(row, float), np.asarray(column, float))
    outside = ~((r >= r_axis[0]) & (r <= r_axis[-1]) & (c >= c_axis[0]) & (c <= c_axis[-1]))
    r, c = np.where(outside, r_axis[0], r), np.where(outside, c_axis[0], c)
    i = np.clip(np.searchsorted(r_axis, r, "right") - 1, 0, len(r_axis) - 2)
    j = np.clip(np.searchsorted(c_axis, c, "right") - 1, 0, len(c_axis) - 2)
    u = (r - r_axis[i]) / (r_axis[i + 1] - r_axis[i])
    v = (c - c_axis[j]) / (c_axis[j + 1] - c_axis[j])
    low = v_grid[i, j] * (1 - v) + v_grid[i, j + 1] * v
    high = v_grid[i + 1, j] * (1 - v) + v_grid[i + 1, j + 1] * v
    return np.where(outside, np.nan, low * (1 - u) + high * u)
