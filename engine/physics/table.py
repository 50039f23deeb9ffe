"""Reading between the lines of a table of two axes: the one interpolator of every table of the engine."""

import numpy as np


def between(rows, columns, values, row, column):
    """The value at (row, column), linear both ways (bilinear); NaN outside the table. Arrays or floats alike, unchecked.

    rows (n,), columns (m,): rising; values (n, m). row, column: of one shape, in the axes' units. Returns that shape, in the values' unit.
    """
    rows, columns, values = np.asarray(rows, float), np.asarray(columns, float), np.asarray(values, float)
    r, c = np.broadcast_arrays(np.asarray(row, float), np.asarray(column, float))
    outside = ~((r >= rows[0]) & (r <= rows[-1]) & (c >= columns[0]) & (c <= columns[-1]))
    r, c = np.where(outside, rows[0], r), np.where(outside, columns[0], c)
    i = np.clip(np.searchsorted(rows, r, "right") - 1, 0, len(rows) - 2)
    j = np.clip(np.searchsorted(columns, c, "right") - 1, 0, len(columns) - 2)
    u = (r - rows[i]) / (rows[i + 1] - rows[i])
    v = (c - columns[j]) / (columns[j + 1] - columns[j])
    low = values[i, j] * (1 - v) + values[i, j + 1] * v
    high = values[i + 1, j] * (1 - v) + values[i + 1, j + 1] * v
    return np.where(outside, np.nan, low * (1 - u) + high * u)
