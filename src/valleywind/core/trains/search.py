"""Trains that come closest to a wanted ratio, provably the closest.

Meet in the middle: every product of s wheels is made once and sorted; for each product of drivers only the
matching stretch of driven products is looked at. The stretch is as wide as the kth best error found in it, so
nothing better can lie outside.
"""

import math
from collections.abc import Collection, Iterable, Iterator, Mapping, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import lru_cache
from itertools import combinations, groupby
from typing import NamedTuple

import numpy as np
from numpy.typing import NDArray

from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Combination, Stock, size_of

MOST_STAGES = 3

# Up to this many pairs of products, looking at every pair is quicker than narrowing down.
_FEW_PAIRS = 4_000
# So few are told apart one by one quicker than as arrays.
_FEW_FOUND = 12
# Relative slack that covers float rounding when products are compared; exact fractions decide afterwards.
_SLACK = 1e-12

_NONE = Fraction(0)

Pairs = tuple[NDArray[np.intp], NDArray[np.intp]]


class Approximation(NamedTuple):
    """A combination of wheels and its signed relative error ratio/target − 1, exact. In the order of merit: smaller
    error, then fewer stages, then the larger smallest wheel.

    size: how large the error is, rounded; it stands before the exact one, see `size_of`. less_smallest: the smallest
    wheel, negative, for the larger one comes first.
    """

    size: float
    exact_size: Fraction
    stages: int
    less_smallest: int
    combination: Combination
    error: Fraction

    @classmethod
    def of(cls, combination: Combination, error: Fraction) -> "Approximation":
        size = size_of(error)
        exact_size = _NONE if not size else error if error.numerator > 0 else -error
        return cls(size, exact_size, combination.stages, -_smallest(combination), combination, error)

    def alike(self, combination: Combination) -> "Approximation":
        """A combination that errs as much. The errors of both are one object, which is seen at once to be equal."""
        less_smallest = -_smallest(combination)
        return Approximation(self.size, self.exact_size, combination.stages, less_smallest, combination, self.error)


def _smallest(combination: Combination) -> int:
    return min(combination.drivers[0], combination.driven[0])


@dataclass(frozen=True, eq=False)
class Products:
    """Every product of this many wheels that a stock can give: products (n,) ascending, their wheels (n, size). Told
    from others by itself, not by what it holds."""

    values: NDArray[np.int64]
    wheels: NDArray[np.int16]

    def having(self, teeth: Collection[int]) -> "Products":
        """Only those in which one of these wheels takes part; all where none is named."""
        return _having(self, tuple(teeth)) if teeth else self

    def having_all(self, teeth: Collection[int]) -> "Products":
        """Only those in which every one of these wheels takes part."""
        left = self
        for one in teeth:
            left = left.having((one,))
        return left


@lru_cache(maxsize=32)
def _having(every: Products, teeth: tuple[int, ...]) -> Products:
    """Kept, since line after line asks for the same."""
    wanted = np.zeros(max(int(every.wheels.max(initial=0)), *teeth) + 1, dtype=bool)
    wanted[list(teeth)] = True
    keep = wanted[every.wheels].any(axis=1)
    return Products(every.values[keep], every.wheels[keep])


def products(stock: Stock, size: int) -> Products:
    """The sorted products of `size` wheels; kept, so that one stock pays once."""
    return _products(tuple(sorted((t, min(n, size)) for t, n in stock.items() if n > 0)), size)


@lru_cache(maxsize=64)
def _products(stock: tuple[tuple[int, int], ...], size: int) -> Products:
    teeth = np.array([t for t, _ in stock], dtype=np.int64)
    held = np.array([n for _, n in stock], dtype=np.int64)
    chosen = np.arange(len(teeth))[:, None]  # rows of places in `teeth`, ascending within a row
    for step in range(1, size):
        follow = len(teeth) - chosen[:, -1]  # the next wheel is the same count or a larger one
        rows = np.repeat(np.arange(len(chosen)), follow)
        nth = np.arange(len(rows)) - np.repeat(np.cumsum(follow) - follow, follow)
        chosen = np.column_stack([chosen[rows], chosen[rows, -1] + nth])
        uses = (chosen == chosen[:, -1:]).sum(axis=1)
        chosen = chosen[uses <= held[chosen[:, step]]]
    wheels = teeth[chosen]
    values = wheels.prod(axis=1)
    order = np.argsort(values, kind="stable")
    return Products(values[order], wheels[order].astype(np.int16))


def search(
    target: Fraction,
    stock: Stock,
    stages: Iterable[int] = (1, 2),
    best: int = 20,
    first: Collection[int] = (),
    last: Collection[int] = (),
) -> list[Approximation]:
    """The `best` combinations by |ratio/target − 1|, closest first.

    A combination has no tooth number on both sides and uses none more often than `stock` holds it. `first` and
    `last` ask that one of these wheels be among the drivers, or among the driven. Equal errors: fewer stages first,
    then the larger smallest wheel.
    Raises Refusal: `not_positive` (target), `stages_out_of_range`, `none_wanted` (best), `not_held` (first, last).
    """
    return [near for _, near in search_each([target], stock, stages, best, first, last)]


def search_each(
    targets: Sequence[Fraction],
    stock: Stock,
    stages: Iterable[int] = (1, 2),
    best: int = 20,
    first: Collection[int] = (),
    last: Collection[int] = (),
    within: float = math.inf,
) -> list[tuple[int, Approximation]]:
    """The same against several targets at once: the `best` over all of them, each with its place in `targets`. Of those
    that err by more than `within` none has to be found."""
    if any(target.numerator <= 0 for target in targets):
        raise Refusal("not_positive", "target", min(targets))
    if best < 1:
        raise Refusal("none_wanted", "best", best)
    for field, wanted in (("first", first), ("last", last)):
        if wanted and all(stock.get(teeth, 0) < 1 for teeth in wanted):
            raise Refusal("not_held", field, next(iter(wanted)))
    near: list[tuple[int, Approximation]] = []
    # Most stages come closest, so that of fewer not many are left to be looked at.
    for size in sorted(set(stages), reverse=True):
        if not 1 <= size <= MOST_STAGES:
            raise Refusal("stages_out_of_range", "stages", size, most=MOST_STAGES)
        every = products(stock, size)
        near += closest_each(targets, every.having(first), every.having(last), best, within)
        near = sorted(near, key=by_merit)[:best]
        within = min(within, near[-1][1].size) if len(near) == best else within
    return near


def by_merit(one: tuple[int, Approximation]) -> tuple[Approximation, int]:
    """Sort key of what comes near one of several targets."""
    return one[1], one[0]


def nearest_ratios(
    target: Fraction, stock: Stock, stages: Iterable[int], most: int, each: int
) -> list[tuple[Fraction, tuple[Combination, ...]]]:
    """The ratios nearest to the target other than the target itself, up to `most`, nearest first; each with up to
    `each` of its trains, of fewer stages first, then with the larger smallest wheel."""
    by_ratio: dict[Fraction, list[Combination]] = {}
    for size in sorted(set(stages)):
        for ratio, trains in _ratios_near(target, products(stock, size), most, each):
            by_ratio.setdefault(ratio, []).extend(trains)
    near = sorted(by_ratio.items(), key=lambda r: Approximation.of(r[1][0], r[0] / target - 1))
    return [(ratio, tuple(trains[:each])) for ratio, trains in near[:most]]


def _ratios_near(
    target: Fraction, every: Products, most: int, each: int
) -> Iterator[tuple[Fraction, list[Combination]]]:
    """The same for one number of stages. Equal products count once while the ratios are looked for, however many
    trains make them."""
    values, begins = np.unique(every.values, return_index=True)
    ends = np.append(begins[1:], len(every.values))
    if not len(values):
        return
    base = int(values[-1]) + 1
    width, count, seen = 4.0 * max(20 * most, 400) / len(values) ** 2, 0, set[Fraction]()
    aim = _within_reach(float(target), values, values)
    while True:
        low, high = _stretch(aim, values, values, width)
        over, under = each_pair(np.arange(len(values)), low, high)
        common = np.gcd(values[over], values[under])
        codes, which = np.unique(values[over] // common * base + values[under] // common, return_inverse=True)
        errors = np.abs(codes // base / (codes % base * aim) - 1)
        sides = np.argsort(which, kind="stable")
        starts = np.searchsorted(which[sides], np.arange(len(codes) + 1))
        for n in np.argsort(errors, kind="stable").tolist():
            ratio = Fraction(*divmod(int(codes[n]), base))
            if errors[n] > width or ratio == target or ratio in seen:
                continue
            seen.add(ratio)
            some = sides[starts[n] : starts[n + 1]]
            trains = _trains_of(every, begins, ends, over[some], under[some], each)
            if trains:
                yield ratio, trains
                count += 1
                if count == most:
                    return
        if np.all(low == 0) and np.all(high == len(values)):
            return
        width *= 4


def _trains_of(
    every: Products,
    begins: NDArray[np.intp],
    ends: NDArray[np.intp],
    over: NDArray[np.intp],
    under: NDArray[np.intp],
    each: int,
) -> list[Combination]:
    """The trains of these pairs of products, no wheel on both sides, the larger smallest wheel first."""
    rows, i = each_pair_of(begins[over], ends[over])
    again, j = each_pair_of(begins[under][rows], ends[under][rows])
    i, j = disjoint(every, every, i[again], j)
    smallest = np.minimum(every.wheels[i].min(axis=1), every.wheels[j].min(axis=1))
    best = np.argsort(-smallest, kind="stable")[:each]
    return list(_combinations(every, every, i[best], j[best]))


def keeping(
    targets: Sequence[Fraction],
    stock: Stock,
    present: Combination,
    stages: int,
    kept: int,
    best: int,
    first: Collection[int] = (),
    last: Collection[int] = (),
) -> list[tuple[int, Approximation]]:
    """Combinations of `stages` stages that have at least `kept` wheels in common with `present`, drivers with its
    drivers and driven with its driven: the `best` for each choice of which. Closest first, each with its target."""
    every = products(stock, stages)
    by_target: dict[tuple[int, Combination], Approximation] = {}
    for over in range(kept + 1):
        for drivers in combinations(present.drivers, over):
            for driven in combinations(present.driven, kept - over):
                sides = every.having_all(drivers).having(first), every.having_all(driven).having(last)
                by_target |= {(n, f.combination): f for n, f in closest_each(targets, *sides, best)}
    return sorted(((n, f) for (n, _), f in by_target.items()), key=by_merit)


def closest_each(
    targets: Sequence[Fraction], drivers: Products, driven: Products, best: int, within: float = math.inf
) -> list[tuple[int, Approximation]]:
    """Pairs of a product of `drivers` over a product of `driven`, no wheel on both sides, closest first for each
    target: all that are among the `best` over all targets and err by no more than `within`, each with the place of its
    target."""
    if not len(drivers.values) or not len(driven.values):
        return []
    # Looking at every pair pays for longer where one look serves many targets.
    if len(drivers.values) * len(driven.values) <= _FEW_PAIRS * (1 + len(targets) // 4):
        which, i, j = _near_of_every_pair(targets, drivers, driven, best, within)
    else:
        which, i, j = _near_of_each(targets, drivers, driven, best, within)
    counts = np.bincount(which, minlength=len(targets))
    few = counts <= min(best, _FEW_FOUND)
    alone = few[which]
    near = _one_by_one(targets, drivers, driven, which[alone], (i[alone], j[alone]))
    for n in np.flatnonzero(~few).tolist():
        own = which == n
        near += [(n, f) for f in _exactly(targets[n], drivers, driven, (i[own], j[own]), best)]
    return near


def _near_of_every_pair(
    targets: Sequence[Fraction], drivers: Products, driven: Products, best: int, within: float
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]:
    """Which target, and the pair of places, of what is near."""
    i, j = _every_pair(drivers, driven)
    ratios = drivers.values[i] / driven.values[j]
    errors = ratios / _rounded(targets)[:, None]
    errors -= 1
    np.abs(errors, out=errors)
    which, near = np.nonzero(errors <= _reach(errors.ravel(), best, within))
    return which, i[near], j[near]


def _near_of_each(
    targets: Sequence[Fraction], drivers: Products, driven: Products, best: int, within: float
) -> tuple[NDArray[np.intp], NDArray[np.intp], NDArray[np.intp]]:
    """The same, where there are too many pairs to look at each."""
    pairs = [_candidates(float(target), drivers, driven, best) for target in targets]
    which = np.repeat(np.arange(len(targets)), [len(i) for i, _ in pairs])
    i, j = (np.concatenate(side) for side in zip(*pairs, strict=True))
    errors = np.abs(drivers.values[i] / (driven.values[j] * _rounded(targets)[which]) - 1)
    near = errors <= _reach(errors, best, within)
    return which[near], i[near], j[near]


def _rounded(targets: Sequence[Fraction]) -> NDArray[np.float64]:
    return np.array([target.numerator / target.denominator for target in targets])


def _reach(errors: NDArray[np.float64], best: int, within: float) -> float:
    """How far off one of the best may be."""
    kth = np.partition(errors, best - 1)[best - 1] if len(errors) > best else math.inf
    most = float(min(kth, within))
    return most + _SLACK * (1 + most)


@lru_cache(maxsize=16)
def _every_pair(drivers: Products, driven: Products) -> Pairs:
    """Kept, since line after line asks for the same; the few pairs of a small stock only."""
    i, j = (a.ravel() for a in np.indices((len(drivers.values), len(driven.values))))
    return disjoint(drivers, driven, i, j)


def _candidates(target: float, drivers: Products, driven: Products, best: int) -> Pairs:
    """Valid pairs among which the `best` closest are sure to be."""
    pairs = len(drivers.values) * len(driven.values)
    aim = _within_reach(target, drivers.values, driven.values)
    width = 4.0 * max(20 * best, 400) / pairs
    while True:
        low, high = _stretch(aim, drivers.values, driven.values, width)
        stretch = np.maximum(high - low, 0)
        if stretch.sum() >= min(best, pairs):
            i, j = disjoint(drivers, driven, *each_pair(np.arange(len(low)), low, high))
            errors = np.abs(drivers.values[i] / (driven.values[j] * aim) - 1)
            if (errors <= width).sum() >= best or stretch.sum() == pairs:
                return i, j
        width *= 4


def _within_reach(target: float, drivers: NDArray[np.int64], driven: NDArray[np.int64]) -> float:
    """The target, or the end of the range of ratios that it lies beyond: that end ranks the trains as the target does,
    and few lie near it."""
    return float(min(max(target, drivers[0] / driven[-1]), drivers[-1] / driven[0]))


def _stretch(
    aim: float, drivers: NDArray[np.int64], driven: NDArray[np.int64], width: float
) -> tuple[NDArray[np.intp], NDArray[np.intp]]:
    """For each product of drivers the stretch of driven ones, from low up to below high, with which the ratio comes
    within `width` of the aim."""
    low = np.searchsorted(driven, drivers * ((1 - _SLACK) / (aim * (1 + width))), "left")
    nearest = aim * (1 - width)
    most = drivers * ((1 + _SLACK) / nearest) if width < 1 else np.full(len(drivers), np.inf)
    return low, np.searchsorted(driven, most, "right")


def each_pair_of(begins: NDArray[np.intp], ends: NDArray[np.intp]) -> Pairs:
    """Every place of each stretch, with the number of its stretch."""
    return each_pair(np.arange(len(begins)), begins, ends)


def each_pair(rows: NDArray[np.intp], low: NDArray[np.intp], high: NDArray[np.intp]) -> Pairs:
    """Every row with every place of its stretch, from low up to below high."""
    stretch = np.maximum(high - low, 0)
    i = np.repeat(rows, stretch)
    return i, np.arange(len(i)) - np.repeat(np.cumsum(stretch) - stretch, stretch) + np.repeat(low, stretch)


def disjoint(drivers: Products, driven: Products, i: NDArray[np.intp], j: NDArray[np.intp]) -> Pairs:
    """Of pairs of places in both those that have no wheel on both sides."""
    apart = are_apart(drivers, driven, i, j)
    return i[apart], j[apart]


def are_apart(drivers: Products, driven: Products, i: NDArray[np.intp], j: NDArray[np.intp]) -> NDArray[np.bool_]:
    """Of each pair of places in both whether it has no wheel on both sides."""
    over, under = drivers.wheels[i], driven.wheels[j]
    clash = np.zeros(len(i), dtype=bool)
    for a in range(over.shape[1]):
        for b in range(under.shape[1]):
            clash |= over[:, a] == under[:, b]
    return ~clash


def _one_by_one(
    targets: Sequence[Fraction], drivers: Products, driven: Products, which: NDArray[np.intp], pairs: Pairs
) -> list[tuple[int, Approximation]]:
    """Each with the place of its target."""
    i, j = pairs
    numbers = which.tolist()
    errors = map(exact_error, [targets[n] for n in numbers], drivers.values[i].tolist(), driven.values[j].tolist())
    return list(zip(numbers, _approximations(_combinations(drivers, driven, i, j), errors), strict=True))


def _exactly(target: Fraction, drivers: Products, driven: Products, pairs: Pairs, best: int) -> list[Approximation]:
    """Rank by exact error; among equals in the order of merit."""
    i, j = pairs
    tops, bottoms = drivers.values[i], driven.values[j]
    common = np.gcd(tops, bottoms)
    base = int(driven.values[-1]) + 1
    codes, which = np.unique(tops // common * base + bottoms // common, return_inverse=True)
    exact = [exact_error(target, *divmod(code, base)) for code in codes.tolist()]
    rank = np.array(_ranks(exact), dtype=np.int64)[which]
    smallest = np.minimum(drivers.wheels[i].min(axis=1), driven.wheels[j].min(axis=1))
    order = np.lexsort((-smallest, rank))
    if len(order) > best:  # what ties with the last one stays in, so that the order below is whole
        last = order[best - 1]
        ties = (rank[order[best:]] == rank[last]) & (smallest[order[best:]] == smallest[last])
        order = order[: best + int(ties.sum())]
    errors = map(exact.__getitem__, which[order].tolist())
    return sorted(_approximations(_combinations(drivers, driven, i[order], j[order]), errors))[:best]


def _approximations(combinations: Iterable[Combination], errors: Iterable[Fraction]) -> Iterator[Approximation]:
    """Each combination with its error; equal errors as one object."""
    known: dict[tuple[int, int], Approximation] = {}
    for combination, error in zip(combinations, errors, strict=True):
        value = error.numerator, error.denominator
        if value in known:
            yield known[value].alike(combination)
        else:
            known[value] = Approximation.of(combination, error)
            yield known[value]


def _combinations(
    drivers: Products, driven: Products, i: NDArray[np.intp], j: NDArray[np.intp]
) -> Iterator[Combination]:
    """What stands at pairs of places in both."""
    return map(Combination, map(tuple, drivers.wheels[i].tolist()), map(tuple, driven.wheels[j].tolist()))


def _ranks(errors: Sequence[Fraction]) -> list[int]:
    """The place of each error by its size, equal sizes in one place. Rounding keeps the order, so only where two
    rounded sizes are equal the exact ones are compared."""
    sizes = [size_of(e) for e in errors]
    ranks = [0] * len(sizes)
    rank = -1
    for _, group in groupby(sorted(range(len(sizes)), key=sizes.__getitem__), key=sizes.__getitem__):
        alike = list(group)
        if len(alike) == 1:
            rank += 1
            ranks[alike[0]] = rank
            continue
        for _, same in groupby(sorted(alike, key=lambda n: abs(errors[n])), key=lambda n: abs(errors[n])):
            rank += 1
            for n in same:
                ranks[n] = rank
    return ranks


def exact_error(target: Fraction, top: int, bottom: int) -> Fraction:
    """(top/bottom) / target − 1, made in one go."""
    scaled = bottom * target.numerator
    return Fraction(top * target.denominator - scaled, scaled)


def floor(
    targets: Sequence[Fraction],
    fewest: int,
    most: int,
    stages: int,
    first: Collection[int] = (),
    last: Collection[int] = (),
) -> Fraction:
    """Smallest |ratio/target − 1|, over these targets, that any wheels of `fewest` to `most` teeth could give in so
    many stages; with one of `first` among the drivers and one of `last` among the driven, where given."""
    every: Mapping[int, int] = dict.fromkeys({*range(fewest, most + 1), *first, *last}, stages)
    return abs(search_each(targets, every, (stages,), 1, first, last)[0][1].error)
