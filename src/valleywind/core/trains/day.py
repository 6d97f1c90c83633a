"""The order of several set-ups, and the way each is made, so that least is changed in all.

A way of making something says what stands at each place of the machine. Going from one way to the next costs the weight
of every place at which something else has to be put; what is taken off and not replaced costs nothing.
"""

import math
from collections.abc import Collection, Hashable, Sequence
from dataclasses import dataclass
from itertools import combinations, pairwise

import numpy as np
from numpy.typing import NDArray

from valleywind.core.refusal import Refusal

MOST_ASKS = 40
MOST_WAYS = 20_000
"""Of all asks together."""
# Every order is looked at where that works out no more costs than this; else this many of the best beginnings of each
# length.
_MOST_COSTS = 20_000_000
_BEGINNINGS = 300
# Ways for each set of places, up to which it is quicker to look at every pair of ways than at every set.
_WAYS_A_SET = 4
_NEVER = np.float32(np.inf)

Way = tuple[Hashable | None, ...]
"""What stands at each place; None for nothing."""


@dataclass(frozen=True)
class Step:
    """One of the day. ask, way: places in what was asked; cost: of coming here from the step before."""

    ask: int
    way: int
    cost: float


@dataclass(frozen=True)
class Day:
    """An order with a way for each. cost: of all steps and of ending as wished; at_least: no order costs less, which
    proves this one where both are equal."""

    steps: tuple[Step, ...]
    cost: float
    at_least: float

    @property
    def proven(self) -> bool:
        return self.cost <= self.at_least


def order_of(
    asks: Sequence[Sequence[Way]],
    weights: Sequence[float],
    on: Way | None = None,
    end: Way | None = None,
    before: Collection[tuple[int, int]] = (),
) -> Day:
    """The order and the ways of least cost.

    asks: the ways in which each can be made, the one that is liked most first; weights: of each place; on, end: what
    stands there at the beginning, and has to stand there at the end; before: pairs of asks, the first of which comes
    before the second. Ten asks or so by dynamic programming over all orders; more by the best beginnings, with a bound.
    Raises Refusal `too_many_asks`, `too_many_ways`, `no_way` (value: the ask), `order_impossible`.
    """
    if len(asks) > MOST_ASKS:
        raise Refusal("too_many_asks", "asks", len(asks), most=MOST_ASKS)
    if sum(map(len, asks)) > MOST_WAYS:
        raise Refusal("too_many_ways", "asks", sum(map(len, asks)), most=MOST_WAYS)
    for n, ways in enumerate(asks):
        if not ways:
            raise Refusal("no_way", "asks", n + 1)
    if not asks:
        return Day((), 0.0, 0.0)
    return _Search(asks, weights, on, end, before).best()


def as_typed(asks: Sequence[Sequence[Way]], weights: Sequence[float], on: Way | None, end: Way | None) -> Day:
    """The ways of least cost where the order is the one of the asks."""
    return order_of(asks, weights, on, end, [(n, n + 1) for n in range(len(asks) - 1)])


class _Search:
    """The ways of all asks in one row, those that nothing tells apart once.

    What costs less than putting everything on is what stays; `gain` of a set of places is their weight, had by the ways
    before and after that agree there. So the cheapest way to come to a way is the best over all sets of places.
    """

    def __init__(
        self,
        asks: Sequence[Sequence[Way]],
        weights: Sequence[float],
        on: Way | None,
        end: Way | None,
        before: Collection[tuple[int, int]],
    ) -> None:
        self.asks, self.weights = asks, np.array(weights, dtype=np.float32)
        self.first: list[int] = [0] * len(asks)
        for earlier, later in before:
            self.first[later] |= 1 << earlier
        self.codes, self.ask_of, self.way_of = self._codes_of_ways(on, end)
        self.put: NDArray[np.float32] = (self.codes != 0) @ self.weights
        self.on, self.end = self._code(on), self._code(end)
        # Where there are few ways and many places, each way is held beside each; else groups of ways that agree.
        sets = 1 << len(self.weights)
        self.between = self._between() if len(self.codes) <= _WAYS_A_SET * sets else None
        self.groups = self._groups() if self.between is None else []

    def _codes_of_ways(self, on: Way | None, end: Way | None) -> tuple[NDArray[np.int64], NDArray[np.int64], list[int]]:
        """Codes (ways, places): 0 for nothing, the same positive one where what stands there is shared by another ask
        or by the beginning or end, negative where no other has it. Of ways that are alike in that the first is kept."""
        places = len(self.weights)
        shared: list[dict[Hashable, int]] = []
        for place in range(places):
            having: dict[Hashable, set[int]] = {}
            for n, ways in enumerate(self.asks):
                for way in ways:
                    having.setdefault(way[place], set()).add(n)
            for n, stands in ((-1, on), (-2, end)):
                if stands is not None:
                    having.setdefault(stands[place], set()).add(n)
            some = [what for what, who in having.items() if what is not None and len(who) > 1]
            shared.append({what: code for code, what in enumerate(some, 1)})
        self.shared = shared
        rows: list[tuple[int, ...]] = []
        ask_of: list[int] = []
        way_of: list[int] = []
        for n, ways in enumerate(self.asks):
            seen: set[tuple[int, ...]] = set()
            for which, way in enumerate(ways):
                row = self._row(way)
                if row not in seen:
                    seen.add(row)
                    rows.append(row)
                    ask_of.append(n)
                    way_of.append(which)
        return np.array(rows, dtype=np.int64), np.array(ask_of, dtype=np.int64), way_of

    def _row(self, way: Way) -> tuple[int, ...]:
        return tuple(0 if what is None else codes.get(what, -1) for what, codes in zip(way, self.shared, strict=True))

    def _code(self, way: Way | None) -> NDArray[np.int64] | None:
        return None if way is None else np.array(self._row(way), dtype=np.int64)

    def _between(self) -> NDArray[np.float32]:
        """What it costs to go from each way (row) to each (column)."""
        cost = np.repeat(self.put[None, :], len(self.codes), axis=0)
        for column, weight in zip(self.codes.T, self.weights, strict=True):
            cost -= weight * ((column[:, None] == column[None, :]) & (column[None, :] > 0))
        return cost

    def _groups(self) -> list[tuple[float, NDArray[np.int64], NDArray[np.int64], NDArray[np.int64], int]]:
        """Of each set of places at which two ways can agree: its gain, the ways that have something shared at all of
        them sorted by what, where each group of those begins, the group of each way, and how many there are."""
        groups = []
        places = range(len(self.weights))
        for size in range(1, len(self.weights) + 1):
            for some in combinations(places, size):
                columns = self.codes[:, some]
                having = np.flatnonzero((columns > 0).all(axis=1))
                if not len(having):
                    continue
                keys, which = np.unique(columns[having], axis=0, return_inverse=True)
                order = np.argsort(which, kind="stable")
                begins = np.searchsorted(which[order], np.arange(len(keys)))
                group = np.full(len(self.codes), -1, dtype=np.int64)
                group[having] = which
                groups.append((float(self.weights[list(some)].sum()), having[order], begins, group, len(keys)))
        return groups

    def _from(self, row: NDArray[np.int64] | None) -> NDArray[np.float32]:
        """What each way costs after what stands there at the beginning; all of it where nothing does."""
        if row is None:
            return self.put.copy()
        stays: NDArray[np.float32] = ((self.codes == row) & (row > 0)) @ self.weights
        return self.put - stays

    def _after(self, best: NDArray[np.float32]) -> NDArray[np.float32]:
        """The least cost of coming to each way, from the best of the ways before."""
        if self.between is not None:
            alive = np.isfinite(best)
            after: NDArray[np.float32] = (best[alive, None] + self.between[alive]).min(axis=0)
            return after
        least = np.full(len(best), best.min())
        for gain, ways, begins, group, _ in self.groups:
            mine = np.minimum.reduceat(best[ways], begins) - gain
            least = np.where(group >= 0, np.minimum(least, mine[group]), least)
        return least + self.put

    def _ending(self) -> NDArray[np.float32]:
        """What it costs to end as wished after each way."""
        if self.end is None:
            return np.zeros(len(self.codes), dtype=np.float32)
        stays: NDArray[np.float32] = ((self.codes == self.end) & (self.end > 0)) @ self.weights
        return np.float32((self.end != 0) @ self.weights) - stays

    def best(self) -> Day:
        n = len(self.asks)
        mine = [self.ask_of == ask for ask in range(n)]
        levels: list[dict[int, NDArray[np.float32]]] = [{}]
        begin = self._from(self.on)
        for ask in range(n):
            if not self.first[ask]:
                levels[0][1 << ask] = np.where(mine[ask], begin, _NEVER)
        whole = True
        few = (1 << n) * len(self.codes) <= _MOST_COSTS
        for _ in range(n - 1):
            here = levels[-1]
            if not few and len(here) > _BEGINNINGS:
                whole = False
                kept = sorted(here, key=lambda done: float(here[done].min()))[:_BEGINNINGS]
                here = levels[-1] = {done: here[done] for done in kept}
            onward: dict[int, NDArray[np.float32]] = {}
            for done, costs in here.items():
                after = self._after(costs)
                for ask in range(n):
                    if done >> ask & 1 or self.first[ask] & ~done:
                        continue
                    there = onward.setdefault(done | 1 << ask, np.full(len(costs), _NEVER))
                    np.minimum(there, after, out=there, where=mine[ask])
            levels.append(onward)
        every = (1 << n) - 1
        if every not in levels[-1]:
            raise Refusal("order_impossible", "asks", n)
        last = levels[-1][every] + self._ending()
        cost = float(last.min())
        steps = self._back(levels, int(np.argmin(last)))
        return Day(steps, cost, cost if whole else min(cost, self._bound()))

    def _back(self, levels: list[dict[int, NDArray[np.float32]]], last: int) -> tuple[Step, ...]:
        """The steps that lead to this last way."""
        done, here = (1 << len(self.asks)) - 1, last
        steps: list[Step] = []
        for level in range(len(self.asks) - 1, -1, -1):
            ask = int(self.ask_of[here])
            cost = float(levels[level][done][here])
            earlier = done & ~(1 << ask)
            before, from_here = 0.0, -1
            if earlier:
                costs = levels[level - 1][earlier]
                agrees = (self.codes == self.codes[here]) & (self.codes[here] > 0)
                total = costs + self.put[here] - agrees @ self.weights
                from_here = int(np.argmin(total))
                before = float(costs[from_here])
            steps.append(Step(ask, self.way_of[here], cost - before))
            done, here = earlier, from_here
        return tuple(reversed(steps))

    def _bound(self) -> float:
        """No order costs less: each ask is come to from whatever suits it best."""
        least = 0.0
        begin = self._from(self.on)
        for ask in range(len(self.asks)):
            others = np.where(self.ask_of == ask, _NEVER, 0.0)
            coming = np.minimum(begin, self._after(others))
            least += float(coming[self.ask_of == ask].min())
        return least + float(self._ending().min())


def total(weights: Sequence[float], ways: Sequence[Way], on: Way | None, end: Way | None) -> float:
    """What these ways cost one after the other, place by place."""
    row = [on] * (on is not None) + list(ways) + [end] * (end is not None)
    first = 0.0 if on is not None or not row else _put(weights, None, row[0])
    return first + math.fsum(_put(weights, before, then) for before, then in pairwise(row))


def _put(weights: Sequence[float], before: Way | None, then: Way | None) -> float:
    assert then is not None
    stood = before if before is not None else (None,) * len(then)
    return math.fsum(w for w, a, b in zip(weights, stood, then, strict=True) if b is not None and a != b)
