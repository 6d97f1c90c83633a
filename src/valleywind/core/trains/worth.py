"""What one more wheel would bring."""

from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction

import numpy as np

from valleywind.core.trains.model import Stock
from valleywind.core.trains.search import Found, Products, closest, products


@dataclass(frozen=True)
class WithNewWheel:
    """A combination that needs one wheel not held."""

    new: int
    found: Found


def with_one_more(
    target: Fraction, stock: Stock, counts: Iterable[int], stages: Iterable[int] = (1, 2), best: int = 240
) -> list[WithNewWheel]:
    """The `best` combinations that use exactly one wheel not held, of one of these tooth numbers, closest first."""
    new = np.array(sorted({c for c in counts if stock.get(c, 0) < 1}), dtype=np.int64)
    if not len(new):
        return []
    found: list[WithNewWheel] = []
    for size in stages:
        joined = _joined(new, stock, size)
        held = products(stock, size)
        for pair in ((joined, held), (held, joined)):
            for hit in closest(target, *pair, best):
                wheels = hit.combination.drivers + hit.combination.driven
                fresh = next(t for t in wheels if stock.get(t, 0) < 1)
                found.append(WithNewWheel(fresh, hit))
    return sorted(found, key=lambda w: w.found.merit)[:best]


def _joined(new: "np.ndarray[tuple[int], np.dtype[np.int64]]", stock: Stock, size: int) -> Products:
    """Every product of one new wheel and `size` − 1 held ones."""
    if size == 1:
        return Products(new, new[:, None].astype(np.int16))
    held = products(stock, size - 1)
    values = (new[:, None] * held.values[None, :]).ravel()
    wheels = np.column_stack([np.repeat(new, len(held.values)).astype(np.int16), np.tile(held.wheels, (len(new), 1))])
    order = np.argsort(values, kind="stable")
    return Products(values[order], np.sort(wheels[order], axis=1))
