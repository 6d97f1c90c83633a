"""What one more wheel would bring."""

from collections.abc import Collection, Iterable, Sequence
from fractions import Fraction
from functools import lru_cache
from math import prod
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from valleywind.core.teeth.pitch import MOST_TEETH
from valleywind.core.trains.model import Combination, Stock
from valleywind.core.trains.search import Approximation, Products, are_apart, by_merit, each_pair, exact_error, products

# Covers the rounding of the floats by which combinations are compared before they are made exact.
_SLACK = 1e-9
# Errors closer to each other than this are taken for equal, so that fewer stages decide.
_ALIKE = 12
_MAY_BE_ALIKE = 2 * 10.0**-_ALIKE


class Near(NamedTuple):
    """What is to be come near to: one of these targets, with one of these tooth numbers, within this much.

    rounded: the targets, rounded. turned: what stands between beside, such as a locked pair, by which each target is
    multiplied.
    """

    targets: Sequence[Fraction]
    rounded: NDArray[np.float64]
    counts: Collection[int]
    within: float
    turned: Fraction = Fraction(1)

    def error(self, at: int, top: int, bottom: int) -> Fraction:
        """How far a ratio is off one of the targets, relative."""
        return exact_error(self.targets[at], top * self.turned.denominator, bottom * self.turned.numerator)


class Ends(NamedTuple):
    """Wheels that may drive on the first shaft, and wheels that may run on the last; empty where any may."""

    first: Collection[int]
    last: Collection[int]


def with_each_of(
    lines: Sequence[Near],
    stock: Stock,
    most: int,
    first: Collection[int] = (),
    last: Collection[int] = (),
    stages: Iterable[int] = (1, 2),
    new: Ends | None = None,
) -> list[dict[int, list[tuple[int, Approximation]]]]:
    """For each line, and each of its tooth numbers that is not held, the `most` closest combinations, over its targets,
    of one such wheel and held ones, whose relative error is small enough; closest first, each with the place of its
    target. Many lines together are much quicker than one by one.

    `first` and `last` ask that one of these wheels be among the drivers, or among the driven; the new wheel may be the
    first driver too, or where `new` is given one of its wheels must be among the drivers, or the driven, of which the
    new one is.
    """
    parts, line_of = _parts(lines, stock, first, last, stages, new)
    return _closest_of_each(parts, lines, line_of, most) if parts else [{} for _ in lines]


def near_of_each(
    lines: Sequence[Near],
    stock: Stock,
    first: Collection[int] = (),
    last: Collection[int] = (),
    stages: Iterable[int] = (1, 2),
) -> list[dict[int, bool]]:
    """Which of its wheels come near to each line, and whether one of its combinations may be exact."""
    parts, line_of = _parts(lines, stock, first, last, stages)
    by_line: list[dict[int, bool]] = [{} for _ in lines]
    for near in parts:
        whose = line_of[near.target] * (MOST_TEETH + 1) + near.fresh
        exact = set(np.unique(whose[near.off <= _SLACK]).tolist())
        for one in np.unique(whose).tolist():
            line, teeth = divmod(one, MOST_TEETH + 1)
            by_line[line][teeth] = by_line[line].get(teeth, False) or one in exact
    return by_line


def _parts(
    lines: Sequence[Near],
    stock: Stock,
    first: Collection[int],
    last: Collection[int],
    stages: Iterable[int],
    ends: Ends | None = None,
) -> tuple[list["_Near"], NDArray[np.intp]]:
    """The combinations near to the targets, drivers and driven wheels new in turn; of which line each target is."""
    ends = ends or Ends((), last)
    new = tuple(sorted({c for line in lines for c in line.counts if stock.get(c, 0) < 1}))
    line_of = np.repeat(np.arange(len(lines)), [len(line.targets) for line in lines])
    if not new:
        return [], line_of
    held_wheels = tuple(sorted((t, n) for t, n in stock.items() if n > 0))
    targets = np.concatenate([line.rounded * float(line.turned) for line in lines])
    within = np.array([line.within for line in lines])[line_of]
    may = np.zeros((len(lines), new[-1] + 1), dtype=bool)
    for n, line in enumerate(lines):
        may[n, [c for c in line.counts if stock.get(c, 0) < 1]] = True
    parts: list[_Near] = []
    for size in stages:
        joined, held = _joined(new, held_wheels, size), products(stock, size)
        for drivers, driven, driving in (
            (joined.having(ends.first), held.having(last), True),
            (held.having(first), joined.having(ends.last), False),
        ):
            target, i, j, off = _near(targets, drivers, driven, within)
            fresh = _fresh(drivers if driving else driven, new)[i if driving else j]
            some = may[line_of[target], fresh]
            parts.append(_Near(size, drivers, driven, target[some], i[some], j[some], off[some], fresh[some]))
    return parts, line_of


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
    targets: NDArray[np.float64], drivers: Products, driven: Products, within: NDArray[np.float64]
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp], NDArray[np.float64]]:
    """For each target every pair of products whose ratio is so near, no wheel on both sides: the target, both places,
    and the size of the error."""
    wide, many = within + _SLACK, len(drivers.values)
    low = np.searchsorted(driven.values, drivers.values / (targets * (1 + wide))[:, None], "left")
    # Where everything is near enough there is no end.
    least = np.maximum(targets * (1 - wide), 0)[:, None]
    most = np.divide(drivers.values, least, out=np.full(low.shape, np.inf), where=least > 0)
    high = np.searchsorted(driven.values, most, "right")
    rows, j = each_pair(np.arange(low.size), low.ravel(), high.ravel())
    target, i = np.divmod(rows, many)
    apart = are_apart(drivers, driven, i, j)
    target, i, j = target[apart], i[apart], j[apart]
    return target, i, j, np.abs(drivers.values[i] / (driven.values[j] * targets[target]) - 1)


def _closest_of_each(
    parts: Sequence[_Near], lines: Sequence[Near], line_of: NDArray[np.intp], most: int
) -> list[dict[int, list[tuple[int, Approximation]]]]:
    off = np.concatenate([near.off for near in parts])
    target = np.concatenate([near.target for near in parts])
    fresh = np.concatenate([near.fresh for near in parts])
    part = np.repeat(np.arange(len(parts)), [len(near.off) for near in parts])
    place = np.concatenate([np.arange(len(near.off)) for near in parts])
    size = np.array([near.stages for near in parts])[part]
    # Of every line each of its wheels.
    whose = line_of[target] * (MOST_TEETH + 1) + fresh
    about = np.round(off, _ALIKE)
    order = np.lexsort((size, about, whose))
    begins = np.flatnonzero(np.diff(whose[order], prepend=-1))
    rank = np.arange(len(order)) - np.repeat(begins, np.diff(begins, append=len(order)))
    first_of = np.searchsorted(line_of, np.arange(len(lines)))
    by_line: list[dict[int, list[tuple[int, Approximation]]]] = [{} for _ in lines]
    taken = order[rank < most]
    # They come in their order but for those that the rounding makes alike.
    alike = (np.diff(whose[taken]) == 0) & (np.diff(about[taken]) <= _MAY_BE_ALIKE)
    unsure = {(int(line_of[target[one]]), int(fresh[one])) for one in taken[1:][alike].tolist()}
    number = (target - first_of[line_of[target]])[taken].tolist()
    made = _wheels_of(parts, part[taken], place[taken])
    for line, at, teeth, (drivers, driven) in zip(
        line_of[target[taken]].tolist(), number, fresh[taken].tolist(), made, strict=True
    ):
        error = lines[line].error(at, prod(drivers), prod(driven))
        by_line[line].setdefault(teeth, []).append((at, Approximation.of(Combination(drivers, driven), error)))
    for line, teeth in unsure:
        by_line[line][teeth].sort(key=by_merit)
    return by_line


def _wheels_of(
    parts: Sequence[_Near], part: NDArray[np.intp], place: NDArray[np.intp]
) -> list[tuple[tuple[int, ...], tuple[int, ...]]]:
    """Drivers and driven wheels of some of the combinations, in their order. part, place: where each is found."""
    made: dict[int, tuple[tuple[int, ...], tuple[int, ...]]] = {}
    for n, near in enumerate(parts):
        own = np.flatnonzero(part == n)
        sides = (side.wheels[at[place[own]]].tolist() for side, at in ((near.drivers, near.i), (near.driven, near.j)))
        made |= zip(own.tolist(), zip(*(map(tuple, side) for side in sides), strict=True), strict=True)
    return [made[n] for n in range(len(part))]


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
