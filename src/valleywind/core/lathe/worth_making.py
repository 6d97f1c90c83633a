"""Which wheel is worth making: for each tooth number not held, how many of the wanted pitches it would bring."""

from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from valleywind.core.lathe.chart import ChartAsk, chart
from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.plan import requirements
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import MOST_TEETH
from valleywind.core.trains.model import Stock
from valleywind.core.trains.new_wheels import SMALLEST_CUT, new_wheels
from valleywind.core.trains.standing import Standing, bringing_wheels, good_ones, good_with_each, may_bring

# How many wheels are shown, and how many of the likeliest are tried in a chart of their own.
_SHOWN = _TRIED = 12
# How many of the likeliest pairs are tried; how many with the best wheel in them; how many get a third wheel.
_PAIRS_TRIED, _WITH_THE_BEST, _EXTENDED = 20, 4, 2
MOST_TOGETHER = 3
# How many wheels are laid out before it is asked whether another may be among the best.
_LAID_OUT_TOGETHER = 12


@dataclass(frozen=True)
class Limits:
    """Which wheels may be made: by the fewest teeth and the most, and only those for which all of `can` say yes, such
    as that a cutter held cuts it, or that a head divides it. Those held `elsewhere` in the shop need no making."""

    fewest: int = SMALLEST_CUT
    most: int = MOST_TEETH
    can: tuple[Callable[[int], bool], ...] = ()
    elsewhere: frozenset[int] = frozenset()

    def counts(self, lathe: Lathe, stock: Stock) -> list[int]:
        """The tooth numbers worth thinking of within these limits. Raises Refusal `no_wheel_allowed`."""
        new = new_wheels(lathe.gearbox, stock, self.fewest, self.most)
        allowed = [teeth for teeth in new if teeth in self.elsewhere or all(can(teeth) for can in self.can)]
        if not allowed:
            raise Refusal("no_wheel_allowed", "most", self.most, fewest=self.fewest)
        return allowed


@dataclass(frozen=True)
class Brings:
    """A wheel to make, and the pitches that become exact or good with it that were neither. `held`: there is one in
    the shop already, with another machine."""

    teeth: int
    exact: tuple[ChartAsk, ...]
    good: tuple[ChartAsk, ...]
    held: bool = False

    @property
    def merit(self) -> tuple[bool, int, int, int]:
        """Ascending, best first: one that is held, most pitches, most of them exact, then the smaller wheel."""
        return not self.held, -len(self.exact) - len(self.good), -len(self.exact), self.teeth


@dataclass(frozen=True)
class Advice:
    """wanted: pitches asked for; lacking: those not exact or good now. single: wheels by what each alone brings.
    together: wheels to make one after the other, each with what it adds; the best set that was found, not proved the
    best there is."""

    wanted: int
    lacking: tuple[ChartAsk, ...]
    single: tuple[Brings, ...]
    together: tuple[Brings, ...]


def worth_making(
    asks: Sequence[ChartAsk], lathe: Lathe, stock: Stock, together: int = 1, limits: Limits | None = None
) -> Iterator[float | Advice]:
    """Yields the share of the work done from time to time, and at last the advice.

    Wheels thought of: `new_wheels` within the limits.
    Raises Refusal `no_wheels` (stock), `no_cross_feed`, `no_wheel_allowed` (limits).
    """
    limits = limits or Limits()
    counts = limits.counts(lathe, stock)
    rows = chart(asks, lathe, stock)
    lacking = [r.pitched for r in rows if r.standing not in (Standing.EXACT, Standing.GOOD)]
    single: list[Brings] = []
    sets: list[tuple[Brings, ...]] = []
    for step in bring(lacking, lathe, stock, counts, limits.elsewhere):
        if isinstance(step, float):
            yield step / 3
        else:
            single = step
    if together > 1 and all(_without(lacking, (b,)) for b in single) and lacking:
        first = single[0].teeth if single else None
        for result in _pairs(lacking, lathe, stock, counts, first, limits.elsewhere):
            if isinstance(result, float):
                yield (1 + result) / 3
            else:
                sets = result
    threes = [pair for pair in sets[:_EXTENDED] if together > 2 and _without(lacking, pair)]
    for n, pair in enumerate(threes):
        left = _without(lacking, pair)
        for step in bring(left, lathe, {**stock, **{b.teeth: 1 for b in pair}}, counts, limits.elsewhere):
            if isinstance(step, float):
                yield (2 + (n + step) / len(threes)) / 3
            else:
                sets += [(*pair, third) for third in step[:1]]
    best = min([(b,) for b in single] + sets, key=_merit, default=())
    yield 1.0
    yield Advice(len(asks), tuple(lacking), tuple(single[:_SHOWN]), best)


def _merit(some: Sequence[Brings]) -> tuple[int, int, int, int]:
    """Ascending, best first: most pitches with all of them, fewer to be made, most pitches exact, smaller wheels."""
    exact = sum(len(b.exact) for b in some)
    return -exact - sum(len(b.good) for b in some), len(some), -exact, sum(b.teeth for b in some)


def _without(lacking: Sequence[ChartAsk], some: Sequence[Brings]) -> list[ChartAsk]:
    brought = {p for b in some for p in (*b.exact, *b.good)}
    return [p for p in lacking if p not in brought]


def _pairs(
    lacking: Sequence[ChartAsk],
    lathe: Lathe,
    stock: Stock,
    counts: Sequence[int],
    best: int | None,
    elsewhere: Collection[int],
) -> Iterator[float | list[tuple[Brings, ...]]]:
    """What pairs of wheels not in stock bring together, best first; the share done in between. best: the wheel that
    brings most by itself.

    Every pair is counted by one and two stages, room aside; what is told of the likeliest is what a chart says.
    """
    likely: list[tuple[int, int]] = []
    for step in likely_pairs(lacking, lathe, stock, counts, best):
        if isinstance(step, float):
            yield step / 2
        else:
            likely = step
    tried: list[tuple[int, int, tuple[int, int]]] = []
    stand = _good(lacking, lathe)
    for n, pair in enumerate(likely, 1):
        stands = stand({**stock, **dict.fromkeys(pair, 1)})
        exact, good = stands.count(Standing.EXACT), stands.count(Standing.GOOD)
        tried.append((-exact - good, -exact, pair))
        yield (1 + n / len(likely)) / 2
    sets: list[tuple[Brings, ...]] = []
    for _, _, pair in sorted(tried)[:_EXTENDED]:
        # The one that brings more by itself comes first.
        first, other = sorted((_brings(t, lacking, lathe, stock, elsewhere) for t in pair), key=lambda b: b.merit)
        left = _without(lacking, [first])
        sets.append((first, _brings(other.teeth, left, lathe, {**stock, first.teeth: 1}, elsewhere)))
    yield [s for s in sets if s[1].exact or s[1].good]


def _brings(teeth: int, lacking: Sequence[ChartAsk], lathe: Lathe, stock: Stock, elsewhere: Collection[int]) -> Brings:
    """What a chart says with this wheel in hand too."""
    return _brings_of(teeth, lacking, _good(lacking, lathe)({**stock, teeth: stock.get(teeth, 0) + 1}), elsewhere)


def _good(some: Sequence[ChartAsk], lathe: Lathe) -> Callable[[Stock], list[Standing | None]]:
    """Which of the pitches are exact or good, with whatever wheels."""
    needs = requirements([pitched.ask for pitched in some], lathe)
    return lambda stock: good_ones(needs, lathe.gearbox, stock)


def _brings_of(
    teeth: int, wanted: Sequence[ChartAsk], stands: Sequence[Standing | None], elsewhere: Collection[int]
) -> Brings:
    """What is told of a wheel with which they stand so."""
    exact, good = (
        tuple(p for p, stood in zip(wanted, stands, strict=True) if stood is one)
        for one in (Standing.EXACT, Standing.GOOD)
    )
    return Brings(teeth, exact, good, teeth in elsewhere)


def likely_pairs(
    lacking: Sequence[ChartAsk], lathe: Lathe, stock: Stock, counts: Sequence[int], best: int | None = None
) -> Iterator[float | list[tuple[int, int]]]:
    """The pairs of these wheels that make most of the pitches good in one or two stages, room aside; most first, and
    before them those with the `best` wheel in them. The share done in between."""
    pairs = _NewPairs(np.array(sorted(counts)), stock)
    many = np.zeros(len(pairs.smaller), int)
    needs = requirements([pitched.ask for pitched in lacking], lathe)
    for n, (wanted, alone_with) in enumerate(
        zip(needs, bringing_wheels(needs, lathe.gearbox, stock, counts), strict=True)
    ):
        alone = list(alone_with)
        made = np.isin(pairs.smaller, alone) | np.isin(pairs.larger, alone)
        many += made | pairs.make(wanted.rounded_ratios, wanted.good_within)
        yield (n + 1) / len(lacking)
    order = np.lexsort((pairs.smaller, pairs.larger, -many))
    order = order[many[order] > 0]
    with_best = order[(pairs.smaller[order] == best) | (pairs.larger[order] == best)][:_WITH_THE_BEST]
    yield [
        (int(pairs.smaller[n]), int(pairs.larger[n]))
        for n in dict.fromkeys([*with_best.tolist(), *order[:_PAIRS_TRIED].tolist()])
    ]


class _NewPairs:
    """Every two of some new wheels, with what a stock may add to them: which of them make a ratio."""

    def __init__(self, new: NDArray[np.int_], stock: Stock) -> None:
        first, second = np.triu_indices(len(new), 1)
        self.smaller, self.larger = new[first], new[second]
        number = np.arange(len(first))
        # One drives and the other is driven, either way round; or both drive, or both are driven.
        self._quotients = _Ordered(
            np.concatenate((self.smaller / self.larger, self.larger / self.smaller)), np.concatenate((number, number))
        )
        self._products = _Ordered(self.smaller * self.larger.astype(float), number)
        held = np.array(sorted(t for t, n in stock.items() if n > 0), float)
        twice = np.array([stock[int(t)] > 1 for t in held], bool)
        two = np.triu(np.ones((len(held), len(held)), bool), 1) | np.diag(twice)
        self._two = np.unique((held[:, None] * held)[two])
        between = (held[:, None] / held)[~np.eye(len(held), dtype=bool)]
        self._between = np.unique(np.append(between, 1.0))

    def make(self, ratios: NDArray[np.float64], within: float) -> NDArray[np.bool_]:
        """Which pairs come within this much of one of the ratios, with up to two wheels of the stock."""
        by_quotient = 1 / (ratios[:, None] * self._between)
        by_product = np.concatenate((ratios[:, None] * self._two, self._two / ratios[:, None]))
        made = np.zeros(len(self.smaller), bool)
        made[self._quotients.near(by_quotient.ravel(), within)] = True
        made[self._products.near(by_product.ravel(), within)] = True
        return made


class _Ordered:
    """Values in their order, each with the number of what it is of."""

    def __init__(self, values: NDArray[np.float64], numbers: NDArray[np.int_]) -> None:
        order = np.argsort(values)
        self._values, self._numbers = values[order], numbers[order]

    def near(self, wanted: NDArray[np.float64], within: float) -> NDArray[np.int_]:
        """The numbers of those that come within this much, as a share, of any wanted."""
        begins = np.searchsorted(self._values, wanted * (1 - within), "left")
        ends = np.searchsorted(self._values, wanted * (1 + within), "right")
        size = len(self._values) + 1
        depth = np.cumsum(np.bincount(begins, minlength=size) - np.bincount(ends, minlength=size))
        return self._numbers[depth[:-1] > 0]


def bring(
    wanted: Sequence[ChartAsk],
    lathe: Lathe,
    stock: Stock,
    counts: Sequence[int],
    elsewhere: Collection[int] = (),
) -> Iterator[float | list[Brings]]:
    """What each wheel not in stock brings of these pitches, best first; the share done in between.

    The likeliest are found by one and two stages; what is told of each is what a chart says with it in hand.
    """
    likely: list[int] = []
    for step in in_two_stages(wanted, lathe, stock, counts, elsewhere, _TRIED):
        if isinstance(step, float):
            yield step / 2
        else:
            likely = [b.teeth for b in step]
    stands: dict[int, list[Standing | None]] = {}
    # Three stages may do what two do not: with few wheels to think of all of them are tried.
    likely = list(dict.fromkeys([*likely, *counts]))[:_TRIED]
    needs = requirements([pitched.ask for pitched in wanted], lathe)
    for n, (teeth, each) in enumerate(good_with_each(needs, lathe.gearbox, stock, likely), 1):
        stands[teeth] = each
        yield (1 + n / len(likely)) / 2
    brings = [_brings_of(teeth, wanted, each, elsewhere) for teeth, each in stands.items()]
    yield sorted((b for b in brings if b.exact or b.good), key=lambda b: b.merit)


def in_two_stages(
    wanted: Sequence[ChartAsk],
    lathe: Lathe,
    stock: Stock,
    counts: Sequence[int],
    elsewhere: Collection[int] = (),
    most: int = MOST_TEETH,
) -> Iterator[float | list[Brings]]:
    """What the `most` best wheels bring of these pitches in one or two stages, best first; the share done in between.

    No wheel brings more than it comes near to, room aside. The most promising are laid out first, until no other can
    be among the best.
    """
    needs = requirements([pitched.ask for pitched in wanted], lathe)
    may = may_bring(needs, lathe.gearbox, stock, counts)
    bounds = sorted(
        (teeth not in elsewhere, -sum(teeth in one for one in may), -sum(one.get(teeth, False) for one in may), teeth)
        for teeth in {teeth for one in may for teeth in one}
    )
    brings: list[Brings] = []
    for start in range(0, len(bounds), _LAID_OUT_TOGETHER):
        if len(brings) >= most and bounds[start] > brings[most - 1].merit:
            break
        some = [teeth for *_, teeth in bounds[start : start + _LAID_OUT_TOGETHER]]
        exact: dict[int, list[ChartAsk]] = {}
        good: dict[int, list[ChartAsk]] = {}
        for n, (pitched, wheels) in enumerate(
            zip(wanted, bringing_wheels(needs, lathe.gearbox, stock, some), strict=True)
        ):
            for teeth, is_exact in wheels.items():
                (exact if is_exact else good).setdefault(teeth, []).append(pitched)
            yield (start + len(some) * (n + 1) / len(wanted)) / len(bounds)
        brings += [Brings(t, tuple(exact.get(t, ())), tuple(good.get(t, ())), t in elsewhere) for t in {*exact, *good}]
        brings.sort(key=lambda b: b.merit)
    yield brings[:most]
