"""Combinations that give a ratio exactly: each product of drivers asks for one product of driven wheels."""

from collections.abc import Iterable, Sequence
from fractions import Fraction
from itertools import pairwise

import numpy as np
from numpy.typing import NDArray

from valleywind.core.interrupt import spend
from valleywind.core.trains.model import Combination, Stock
from valleywind.core.trains.search import Products, are_apart, each_pair, products

USUAL_STAGES = (1, 2)
# How many products are looked through in the time that it takes to lay out one place.
_A_PLACE = 200
# How many trains of one ratio are given at most.
_MOST_TRAINS = 1000
_NONE = np.iinfo(np.int16).max


def exact_trains(
    ratio: Fraction, stock: Stock, stages: Iterable[int] = USUAL_STAGES, most: int | None = None
) -> tuple[Combination, ...]:
    """The combinations that give a ratio exactly, the handiest first: fewest stages, then the larger smallest wheel.
    Of very many of one number of stages only the `most` handiest; where no number is named, the handiest half of
    `_MOST_TRAINS` and as many spread evenly over the rest, since the handiest of a large stock may all be too large to
    go on."""
    return exact_trains_each([ratio], stock, stages, most)[0]


def exact_trains_each(
    ratios: Sequence[Fraction], stock: Stock, stages: Iterable[int] = USUAL_STAGES, most: int | None = None
) -> list[tuple[Combination, ...]]:
    """The same for many ratios together, which is much quicker than one by one."""
    trains: list[list[Combination]] = [[] for _ in ratios]
    for size in sorted(stages):
        every = products(stock, size)
        which, i, j = _exactly(ratios, every)
        over, under = every.wheels[i], every.wheels[j]
        smallest = np.minimum(over.min(axis=1, initial=_NONE), under.min(axis=1, initial=_NONE))
        order = np.lexsort((*over.T[::-1], -smallest, which))
        ends = np.searchsorted(which[order], np.arange(len(ratios) + 1))
        for n, (start, end) in enumerate(pairwise(ends.tolist())):
            handiest = order[start:end]
            if most is None and len(handiest) > _MOST_TRAINS:
                half = _MOST_TRAINS // 2
                spread = np.linspace(half, len(handiest) - 1, _MOST_TRAINS - half).astype(int)
                handiest = handiest[[*range(half), *spread]]
            handiest = handiest[:most]
            sides = zip(over[handiest].tolist(), under[handiest].tolist(), strict=True)
            trains[n] += [Combination(tuple(drivers), tuple(driven)) for drivers, driven in sides]
    return [tuple(some) for some in trains]


def bringing(ratio: Fraction, stock: Stock, new: Iterable[int]) -> set[int]:
    """Those of some wheels that are not held which give a ratio exactly in one or two stages, each with wheels held
    beside it: every choice of the others asks for one wheel."""
    held = np.array(sorted(t for t, n in stock.items() if n > 0), np.int64)
    doubled = np.array([stock[int(t)] > 1 for t in held], bool)
    wheels: set[int] = set()
    for over, under in ((ratio.numerator, ratio.denominator), (ratio.denominator, ratio.numerator)):
        # Alone against one of them, then beside one against two (b, c) of them.
        wheels.update(_whole(over * held, np.array(under)))
        b, c = np.triu_indices(len(held))
        may = (b != c) | doubled[b]
        b, c = b[may], c[may]
        spend(len(b) * len(held) // _A_PLACE)
        # One that stands on both sides drops out: what is left was found alone.
        against = over * held[b] * held[c]
        for beside in held:
            wheels.update(_whole(against, under * beside))
    return wheels & set(new)


def _whole(over: NDArray[np.int64], under: NDArray[np.int64]) -> list[int]:
    """The quotients that are whole."""
    quotients: list[int] = np.unique(over[over % under == 0] // under).tolist()
    return quotients


def count_exact(ratio: Fraction, stock: Stock, stages: int) -> int:
    """How many combinations with this number of stages give a ratio exactly."""
    return len(_exactly([ratio], products(stock, stages))[0])


def _exactly(
    ratios: Sequence[Fraction], every: Products
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]:
    """Which of the ratios, and places of drivers and driven in the sorted products whose quotient it is, no wheel on
    both sides."""
    most = int(every.values[-1]) if len(every.values) else 0
    near = [n for n, ratio in enumerate(ratios) if max(ratio.numerator, ratio.denominator) <= most]
    spend(len(near) * (len(every.values) // _A_PLACE))
    tops = np.array([ratios[n].numerator for n in near], np.int64)
    bottoms = np.array([ratios[n].denominator for n in near], np.int64)
    scaled = every.values * bottoms[:, None]
    which, over = np.nonzero(scaled % tops[:, None] == 0)
    wanted = scaled[which, over] // tops[which]
    low, high = (np.searchsorted(every.values, wanted, side) for side in ("left", "right"))
    row, j = each_pair(np.arange(len(over)), low, high)
    apart = are_apart(every, every, over[row], j)
    row, j = row[apart], j[apart]
    return np.array(near, np.intp)[which[row]], over[row], j
