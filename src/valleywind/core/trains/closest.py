"""The combinations closest to what is wanted, over wheels, settings, first drivers and locked pairs together."""

import math
from collections.abc import Iterable
from dataclasses import replace
from fractions import Fraction
from typing import Any, Generic, NamedTuple

from valleywind.core.teeth.geometry import tip_radius
from valleywind.core.trains.gearbox import Gearbox, Requirement, S, Target, V
from valleywind.core.trains.layout import largest
from valleywind.core.trains.model import Combination, Stock, lacking
from valleywind.core.trains.search import Approximation, keeping, search_each

# With fewer tooth numbers than this no train can be made.
_FEWEST_SIZES = 2
# A value that no train reaches: what comes closest to it is the end of the range.
_BEYOND = Fraction(1, 10**9)


class Hit(NamedTuple, Generic[S]):
    """A combination found by its ratio, with the setting it counts on."""

    approximation: Approximation
    target: Target[S]

    @property
    def combination(self) -> Combination:
        return self.approximation.combination

    @property
    def error(self) -> Fraction:
        return self.approximation.error


def closest_first(hits: Iterable[Hit[S]]) -> list[Hit[S]]:
    """The same in the order of merit: see `Approximation`."""
    return sorted(hits, key=lambda h: h.approximation)


def closest(wanted: Requirement[S, V], box: Gearbox, stock: Stock, stages: Iterable[int], best: int) -> list[Hit[S]]:
    """The `best` combinations over wheels, settings, first drivers and pairs together, closest first.

    Locked pairs stand between a free driver and a free driven wheel.
    """
    stages = tuple(stages)
    wheels = usable(box, stock)
    if wheels is None:
        return []
    free, first, last = wheels
    ratios, targets = wanted.ratios, wanted.targets
    hits = [Hit(f, targets[n]) for n, f in search_each(ratios, free, stages, best, first, last)]
    within = hits[-1].approximation.size if len(hits) == best else math.inf
    for driven, driver in pair_ways(box, stock) if 2 in stages else ():
        turned = Fraction(driven, driver)
        through = [ratio * turned for ratio in ratios]
        hits += [
            Hit(Approximation.of(joined(f.combination, driven, driver), f.error), targets[n])
            for n, f in search_each(through, free, (1,), best, first, last, within)
        ]
    return closest_first(hits)[:best]


def closest_keeping(wanted: Requirement[S, V], box: Gearbox, stock: Stock, best: int) -> list[Hit[S]]:
    """Combinations that leave at least half of what the mounted train has where it is in use: one wheel of a single
    stage, two of two; the `best` for each choice of which wheels, closest first. None with locked pairs."""
    wheels = usable(box, stock)
    if wheels is None or wanted.mounted is None:
        return []
    free, first, last = wheels
    present = wanted.mounted.combination
    hits = [
        Hit(f, wanted.targets[n])
        for stages in (1, 2)
        for n, f in keeping(wanted.ratios, free, present, stages, stages, best, first, last)
    ]
    return closest_first(hits)


def usable(box: Gearbox, stock: Stock) -> tuple[Stock, list[int], list[int]] | None:
    """The wheels that have room somewhere, which of them may drive on the first shaft and which run on the last, empty
    where any may; None where none may. Where too few have room, all of them: so that it is seen why nothing goes."""
    free = box.free(stock)
    room = largest(box.quadrant)
    fits = {t: tip_radius(t, box.family) for t in free}
    roomy = {t: n for t, n in free.items() if fits[t] <= room.anywhere}
    # Where only some wheels may drive first or run last and none of them has room, they are tried all the same: so that
    # it is seen why they do not go on.
    for only in (box.fixed.first, box.fixed.last):
        if only and not any(t in roomy for t in only):
            roomy |= {t: free[t] for t in only if free.get(t, 0)}
    if len(roomy) < _FEWEST_SIZES:
        roomy = dict(free)
    ends = []
    for only, largest_there in ((box.fixed.first, room.first), (box.fixed.last, room.last)):
        if only:
            held = [t for t in only if roomy.get(t, 0)]
            if not held:
                return None
            ends.append(held)
        else:
            small = [t for t in roomy if fits[t] <= largest_there]
            ends.append(small if 0 < len(small) < len(roomy) else [])
    return roomy, ends[0], ends[1]


def pair_ways(box: Gearbox, stock: Stock) -> list[tuple[int, int]]:
    """Driven and driver of every locked pair that is held, both ways round."""
    return [way for pair in box.fixed.pairs if not lacking((pair.one, pair.other), stock) for way in pair.ways]


def joined(plain: Combination, driven: int, driver: int) -> Combination:
    """The combination with a locked pair between its wheels."""
    return Combination(tuple(sorted((*plain.drivers, driver))), tuple(sorted((*plain.driven, driven))))


def least(wanted: Requirement[S, V], box: Gearbox, stock: Stock, best: int) -> list[Hit[S]]:
    """The `best` combinations that give least, in one or two stages, the least first."""
    return _at_the_end(wanted, box, stock, best, _BEYOND, min(wanted.targets, key=lambda t: t.gives))


def reach(wanted: Requirement[S, V], box: Gearbox, stock: Stock) -> tuple[Fraction, Fraction] | None:
    """The least and the most that the wheels give in one or two stages, whether or not they go on; None where they
    make no train."""
    by_gives = sorted(wanted.targets, key=lambda t: t.gives)
    ends = (
        _at_the_end(wanted, box, stock, 1, _BEYOND, by_gives[0]),
        _at_the_end(wanted, box, stock, 1, 1 / _BEYOND, by_gives[-1]),
    )
    if not all(ends):
        return None
    low, high = (hits[0].combination.ratio * hits[0].target.gives for hits in ends)
    return low, high


def _at_the_end(
    wanted: Requirement[Any, Any], box: Gearbox, stock: Stock, best: int, value: Fraction, target: Target[Any]
) -> list[Hit[Any]]:
    return closest(replace(wanted, value=value, targets=(target,)), box, stock, (1, 2), best)
