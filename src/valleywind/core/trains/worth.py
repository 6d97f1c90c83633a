"""What one more wheel would bring."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache

import numpy as np

from valleywind.core.trains.model import Stock
from valleywind.core.trains.search import Found, Products, closest_each, products


@dataclass(frozen=True)
class WithNewWheel:
    """A combination that needs one wheel not held."""

    new: int
    found: Found


def with_one_more(
    targets: Sequence[Fraction], stock: Stock, counts: Iterable[int], stages: Iterable[int] = (1, 2), best: int = 240
) -> list[tuple[int, WithNewWheel]]:
    """The `best` combinations over all targets that use exactly one wheel not held, of one of these tooth numbers,
    closest first, each with the place of its target."""
    new = tuple(sorted({c for c in counts if stock.get(c, 0) < 1}))
    if not new:
        return []
    held_wheels = tuple(sorted((t, n) for t, n in stock.items() if n > 0))
    found: list[tuple[int, WithNewWheel]] = []
    for size in stages:
        joined = _joined(new, held_wheels, size)
        held = products(stock, size)
        for pair in ((joined, held), (held, joined)):
            for n, hit in closest_each(targets, *pair, best):
                wheels = hit.combination.drivers + hit.combination.driven
                fresh = next(t for t in wheels if stock.get(t, 0) < 1)
                found.append((n, WithNewWheel(fresh, hit)))
    if len(found) > best:  # those that are sure to be too far off are not sorted
        rounded = [abs(float(w.found.error)) for _, w in found]
        kth = sorted(rounded)[best - 1]
        found = [one for one, size in zip(found, rounded, strict=True) if size <= kth]
    return sorted(found, key=lambda w: (w[1].found.merit, w[0]))[:best]


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
