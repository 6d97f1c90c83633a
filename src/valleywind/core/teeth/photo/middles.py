"""Where the middles of round things are in a picture: across every edge runs a line, and many lines meet there."""

from dataclasses import dataclass

import numpy as np

from valleywind.core.teeth.photo.smooth import Array, Picture, blurred

# Looked at with half the picture's points each way; votes are gathered in cells of these.
_HALF, _CELL = 2, 2
# What share of all points has the strongest edges; and how many times the mean about it an edge counts at most.
_EDGES, _STRONGEST = 0.12, 4.0
_APART = 28
"""px between two middles."""


@dataclass(frozen=True)
class Middle:
    """x, y: px. votes: how much more lines meet there than about it."""

    x: float
    y: float
    votes: float


def middles(picture: Picture, most: int) -> list[Middle]:
    """The surest middles, `most` of them at most, the surest first."""
    high, wide = (n // _HALF * _HALF for n in picture.shape)
    quarters: Array = picture[:high, :wide].reshape(high // _HALF, _HALF, wide // _HALF, _HALF).mean((1, 3))
    small = blurred(quarters, 3)
    slopes: list[Array] = list(np.gradient(small))
    down, right = slopes
    steep: Array = np.hypot(right, down)
    even = steep / (np.sqrt(blurred(steep * steep, min(61, min(small.shape) // 2 | 1))) + 0.002)
    rows, columns = np.nonzero(even > np.quantile(even, 1 - _EDGES))
    kept = steep[rows, columns] > 0
    rows, columns = rows[kept], columns[kept]
    u, v = right[rows, columns] / steep[rows, columns], down[rows, columns] / steep[rows, columns]
    weight = np.minimum(even[rows, columns], _STRONGEST)
    high, wide = small.shape
    cells_high, cells_wide = high // _CELL + 1, wide // _CELL + 1
    votes = np.zeros(cells_high * cells_wide)
    for radius in np.arange(8.0, min(high, wide) * 0.48, 2.0):
        for way in (radius, -radius):
            x, y = columns + way * u, rows + way * v
            there = (x >= 0) & (x < wide) & (y >= 0) & (y < high)
            at = (y[there] / _CELL).astype(np.int64) * cells_wide + (x[there] / _CELL).astype(np.int64)
            votes += np.bincount(at, weight[there], minlength=len(votes))
    met = blurred(votes.reshape(cells_high, cells_wide).astype(np.float32), 3)
    beside = blurred(met, min(41, min(met.shape) // 2 | 1)) + met.mean() * 0.2 + 1e-9
    return _peaks(met / beside, most)


def _peaks(votes: Picture, most: int) -> list[Middle]:
    down, right = np.mgrid[: votes.shape[0], : votes.shape[1]]
    left, size, middles = votes.copy(), _CELL * _HALF, []
    for _ in range(most):
        row, column = np.unravel_index(int(np.argmax(left)), left.shape)
        if left[row, column] <= 0:
            break
        middles.append(Middle((float(column) + 0.5) * size, (float(row) + 0.5) * size, float(left[row, column])))
        left[(right - column) ** 2 + (down - row) ** 2 < (_APART / size) ** 2] = -1
    return middles
