"""Combinations that give a ratio exactly: each product of drivers asks for one product of driven wheels."""

from collections.abc import Iterable
from fractions import Fraction

import numpy as np
from numpy.typing import NDArray

from valleywind.core.interrupt import spend
from valleywind.core.trains.model import Combination, Stock
from valleywind.core.trains.search import Pairs, Products, disjoint, each_pair, products

USUAL_STAGES = (1, 2)
# How many products are looked through in the time that it takes to lay out one place.
_A_PLACE = 200
# How many trains of one ratio are given at most.
_MOST_TRAINS = 1000


def exact_trains(
    ratio: Fraction, stock: Stock, stages: Iterable[int] = USUAL_STAGES, most: int | None = None
) -> tuple[Combination, ...]:
    """The combinations that give a ratio exactly, the handiest first: fewest stages, then the larger smallest wheel.
    Of very many of one number of stages only the `most` handiest; where no number is named, half of so many and as many
    spread evenly over the rest, since the handiest of a large stock may all be too large to go on."""
    combinations: list[Combination] = []
    for size in sorted(stages):
        every = products(stock, size)
        i, j = _exactly(ratio, every)
        over, under = every.wheels[i], every.wheels[j]
        smallest = np.minimum(over.min(axis=1), under.min(axis=1))
        handiest = np.lexsort((*over.T[::-1], -smallest))
        if most is None and len(handiest) > _MOST_TRAINS:
            half = _MOST_TRAINS // 2
            spread = np.linspace(half, len(handiest) - 1, _MOST_TRAINS - half).astype(int)
            handiest = handiest[[*range(half), *spread]]
        handiest = handiest[:most]
        sides = zip(over[handiest].tolist(), under[handiest].tolist(), strict=True)
        combinations += [Combination(tuple(drivers), tuple(driven)) for drivers, driven in sides]
    return tuple(combinations)


def bringing(ratio: Fraction, stock: Stock, new: Iterable[int]) -> set[int]:
    """Those of some wheels that are not held which give a ratio exactly in one or two stages, each with wheels held
    beside it: every choice of the others asks for one wheel."""
    held = np.array(sorted(t for t, n in stock.items() if n > 0), np.int64)
    doubled = np.array([stock[int(t)] > 1 for t in held], bool)
    asked: set[int] = set()
    for over, under in ((ratio.numerator, ratio.denominator), (ratio.denominator, ratio.numerator)):
        # Alone against one of them, then beside one against two (b, c) of them.
        asked.update(_whole(over * held, np.array(under)))
        b, c = np.triu_indices(len(held))
        may = (b != c) | doubled[b]
        b, c = b[may], c[may]
        spend(len(b) * len(held) // _A_PLACE)
        # One that stands on both sides drops out: what is left was found alone.
        against = over * held[b] * held[c]
        for beside in held:
            asked.update(_whole(against, under * beside))
    return asked & set(new)


def _whole(over: NDArray[np.int64], under: NDArray[np.int64]) -> list[int]:
    """The quotients that are whole."""
    quotients: list[int] = np.unique(over[over % under == 0] // under).tolist()
    return quotients


def count_exact(ratio: Fraction, stock: Stock, stages: int) -> int:
    """How many combinations of so many stages give a ratio exactly."""
    return len(_exactly(ratio, products(stock, stages))[0])


def _exactly(ratio: Fraction, every: Products) -> Pairs:
    """Places of drivers and driven in the sorted products whose quotient is the ratio, no wheel on both sides."""
    most = int(every.values[-1]) if len(every.values) else 0
    if max(ratio.numerator, ratio.denominator) > most:
        return disjoint(every, every, *each_pair(np.arange(0), np.arange(0), np.arange(0)))
    spend(len(every.values) // _A_PLACE)
    scaled = every.values * ratio.denominator
    over = np.flatnonzero(scaled % ratio.numerator == 0)
    wanted = scaled[over] // ratio.numerator
    low, high = (np.searchsorted(every.values, wanted, side) for side in ("left", "right"))
    return disjoint(every, every, *each_pair(over, low, high))
