"""What one more wheel would bring."""

from collections.abc import Collection, Iterable, Sequence
from fractions import Fraction
from functools import lru_cache
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from valleywind.core.trains.model import Combination, Stock
from valleywind.core.trains.search import Found, Products, are_apart, each_pair, exact_error, products

# Covers the rounding of the floats by which combinations are compared before they are made exact.
_SLACK = 1e-9
# Errors closer to each other than this are taken for equal, so that fewer stages decide.
_ALIKE = 12


def with_each(
    targets: Sequence[Fraction],
    stock: Stock,
    counts: Iterable[int],
    within: float,
    most: int,
    first: Collection[int] = (),
    last: Collection[int] = (),
    stages: Iterable[int] = (1, 2),
) -> dict[int, list[tuple[int, Found]]]:
    """For each of these tooth numbers that is not held the `most` closest combinations, over all targets, of one such
    wheel and held ones, whose relative error is at most `within`; closest first, each with the place of its target.

    `first` and `last` ask that one of these wheels be among the drivers, or among the driven; the new wheel may be the
    first driver too.
    """
    new = tuple(sorted({c for c in counts if stock.get(c, 0) < 1}))
    if not new:
        return {}
    held_wheels = tuple(sorted((t, n) for t, n in stock.items() if n > 0))
    parts: list[_Near] = []
    for size in stages:
        joined, held = _joined(new, held_wheels, size), products(stock, size)
        for drivers, driven, driving in (
            (joined, held.having(last), True),
            (held.having(first), joined.having(last), False),
        ):
            near = _near(np.array([float(t) for t in targets]), drivers, driven, within)
            fresh = _fresh(drivers if driving else driven, new)[near[1 if driving else 2]]
            parts.append(_Near(size, drivers, driven, *near, fresh))
    return _closest_of_each(parts, targets, most)


class _Near(NamedTuple):
    """Combinations near a target: which target, places in drivers and driven, how far off each is, its new wheel."""

    stages: int
    drivers: Products
    driven: Products
    target: NDArray[np.intp]
    i: NDArray[np.intp]
    j: NDArray[np.intp]
    off: NDArray[np.float64]
    fresh: NDArray[np.int16]


def _near(
    targets: NDArray[np.float64], drivers: Products, driven: Products, within: float
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp], NDArray[np.float64]]:
    """For each target every pair of products whose ratio is so near, no wheel on both sides: the target, both places,
    and the size of the error."""
    wide, many = within + _SLACK, len(drivers.values)
    low = np.searchsorted(driven.values, drivers.values / (targets[:, None] * (1 + wide)), "left").ravel()
    if wide >= 1:
        high = np.full(len(low), len(driven.values))
    else:
        high = np.searchsorted(driven.values, drivers.values / (targets[:, None] * (1 - wide)), "right").ravel()
    rows, j = each_pair(np.arange(len(low)), low, high)
    target, i = np.divmod(rows, many)
    apart = are_apart(drivers, driven, i, j)
    target, i, j = target[apart], i[apart], j[apart]
    return target, i, j, np.abs(drivers.values[i] / (driven.values[j] * targets[target]) - 1)


def _closest_of_each(
    parts: Sequence[_Near], targets: Sequence[Fraction], most: int
) -> dict[int, list[tuple[int, Found]]]:
    off = np.concatenate([near.off for near in parts])
    fresh = np.concatenate([near.fresh for near in parts])
    part = np.repeat(np.arange(len(parts)), [len(near.off) for near in parts])
    place = np.concatenate([np.arange(len(near.off)) for near in parts])
    size = np.array([near.stages for near in parts])[part]
    order = np.lexsort((size, np.round(off, _ALIKE), fresh))
    begins = np.flatnonzero(np.diff(fresh[order], prepend=-1))
    rank = np.arange(len(order)) - np.repeat(begins, np.diff(begins, append=len(order)))
    by_wheel: dict[int, list[tuple[int, Found]]] = {}
    for one in order[rank < most].tolist():
        near = parts[part[one]]
        over, under = near.i[place[one]], near.j[place[one]]
        made = Combination(tuple(near.drivers.wheels[over].tolist()), tuple(near.driven.wheels[under].tolist()))
        target = int(near.target[place[one]])
        error = exact_error(targets[target], int(near.drivers.values[over]), int(near.driven.values[under]))
        by_wheel.setdefault(int(fresh[one]), []).append((target, Found(made, error)))
    return {teeth: sorted(hits, key=lambda f: (f[1].merit, f[0])) for teeth, hits in by_wheel.items()}


def _fresh(joined: Products, new: Collection[int]) -> NDArray[np.int16]:
    """The new wheel of each product."""
    is_new = np.isin(joined.wheels, list(new))
    fresh: NDArray[np.int16] = joined.wheels[np.arange(len(joined.wheels)), is_new.argmax(axis=1)]
    return fresh


@lru_cache(maxsize=32)
def _joined(new: tuple[int, ...], stock: tuple[tuple[int, int], ...], size: int) -> Products:
    """Every product of one new wheel and `size` − 1 held ones; kept, so that one stock pays once."""
    fresh = np.array(new, dtype=np.int64)
    if size == 1:
        return Products(fresh, fresh[:, None].astype(np.int16))
    held = products(dict(stock), size - 1)
    values = (fresh[:, None] * held.values[None, :]).ravel()
    wheels = np.column_stack(
        [np.repeat(fresh, len(held.values)).astype(np.int16), np.tile(held.wheels, (len(fresh), 1))]
    )
    order = np.argsort(values, kind="stable")
    return Products(values[order], np.sort(wheels[order], axis=1))
