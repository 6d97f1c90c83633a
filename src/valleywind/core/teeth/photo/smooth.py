"""Means over a window: of a picture, and round a circle."""

from typing import Any

import numpy as np
from numpy.typing import NDArray

Array = NDArray[Any]
Picture = NDArray[np.float32]


def _mean_along(picture: Picture, n: int, axis: int) -> Picture:
    before, behind = n // 2, n - 1 - n // 2
    pad = [(before, behind) if k == axis else (0, 0) for k in range(2)]
    one = [(1, 0) if k == axis else (0, 0) for k in range(2)]
    total = np.cumsum(np.pad(np.pad(picture, pad, mode="edge"), one), axis=axis, dtype=np.float64)
    high, low = [slice(None)] * 2, [slice(None)] * 2
    high[axis], low[axis] = slice(n, None), slice(None, -n)
    return ((total[tuple(high)] - total[tuple(low)]) / n).astype(np.float32)


def blurred(picture: Picture, n: int) -> Picture:
    """The picture with each point the mean of some n by n around it, twice over."""
    for _ in range(2):
        picture = _mean_along(_mean_along(picture, n, 0), n, 1)
    return picture


def round_mean(rows: Array, n: float) -> Array:
    """The mean of n points along each row, which closes on itself."""
    odd = min(int(n) | 1, rows.shape[1] // 2 * 2 - 1)
    half = odd // 2
    closed = np.concatenate([rows[:, rows.shape[1] - half :], rows, rows[:, :half]], axis=1)
    kind = np.complex128 if np.iscomplexobj(rows) else np.float64
    total = np.cumsum(closed, axis=1, dtype=kind)
    total = np.concatenate([np.zeros((len(rows), 1), kind), total], axis=1)
    mean: Array = ((total[:, odd:] - total[:, :-odd]) / odd).astype(rows.dtype)
    return mean
