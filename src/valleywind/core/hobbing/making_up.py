"""A count for which there is no exact index train: indexed as one near to it, the differential making up the rest.

The count z′ that is indexed need not be whole; the nearer it is to z, the less the differential has to do. Where the
product of differential and feed trains hits what it must be exactly, the teeth do not run off at all, whatever the feed
comes to: then six wheels together are one exact train of three stages, shared out between the two boxes.
"""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache
from itertools import islice
from operator import itemgetter

from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.machine import Box, Hobber, IndexConstant
from valleywind.core.hobbing.ratios import FEED_ABOUT, FEED_NEAR, Addition, MakingUp, addition, indexed_as, making_up
from valleywind.core.interrupt import checkpoint
from valleywind.core.trains.closest import Hit, usable
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.exact import exact_trains
from valleywind.core.trains.gearbox import Gearbox, Target
from valleywind.core.trains.model import Combination, Stock, Train, lacking
from valleywind.core.trains.placement import Layout
from valleywind.core.trains.places import place_all
from valleywind.core.trains.search import Approximation, nearest_ratios, search

# Different ratios that are looked at, those nearest first, and index trains of each.
_RATIOS, _OF_A_RATIO_INDEXED = 24, 60
# How many exact trains of each ratio are shared out, how many shares are laid out, how many ways are given.
_SHARED, _SHARED_FEW, _SHARES, _WAYS = 300, 80, 24, 24
# Ratios that are laid out at a time, and ways that are given of each.
_TOGETHER, _OF_A_RATIO = 3, 4
# With more tooth numbers than this three stages cost too much to be looked through every time.
_MANY = 64
# Where nothing is exact: ratios, feeds of each, differential trains of each.
_NEAR_RATIOS, _NEAR_FEEDS, _NEAR_TRAINS = 8, 6, 8


@dataclass(frozen=True)
class MadeUp:
    """One way to make a count up. feed: mm per table turn; error: of the product of the trains, relative; share: the
    part of the work's turning that the differential gives."""

    constant: IndexConstant
    indexed: Fraction
    index: Layout
    feed_laid: Layout
    differential: Layout
    feed: Fraction
    adds: bool
    error: Fraction
    share: Fraction

    @property
    def trains(self) -> dict[Box, Train]:
        return {Box.INDEX: self.index.train, Box.FEED: self.feed_laid.train, Box.DIFFERENTIAL: self.differential.train}


@dataclass(frozen=True)
class _Near:
    """Index trains of one ratio near the right one, and what the differential must do with them."""

    constant: IndexConstant
    indexed: Fraction
    trains: tuple[Combination, ...]
    must: MakingUp


@dataclass(frozen=True)
class _SharedWheels:
    """Wheels for all three boxes, not laid out yet."""

    near: _Near
    index: Combination
    feed: Combination
    differential: Combination

    @property
    def trains(self) -> dict[Box, Combination]:
        return {Box.INDEX: self.index, Box.FEED: self.feed, Box.DIFFERENTIAL: self.differential}


def nearest_indexed(
    teeth: int, starts: int, constant: Fraction, stock: Stock, stages: Sequence[int] = (1, 2), most: int = _RATIOS
) -> list[tuple[Fraction, tuple[Combination, ...]]]:
    """The counts nearest to this one that index trains divide into, other than itself, nearest by ratio first; with the
    trains that do."""
    near = nearest_ratios(constant * starts / teeth, stock, stages, most, _OF_A_RATIO_INDEXED)
    return [(indexed_as(constant, starts, ratio), trains) for ratio, trains in near]


def ways_to_make_up(
    ask: HobAsk,
    hobber: Hobber,
    stock: Stock,
    hand_for: Callable[[bool], Hand | None],
    most: int = _WAYS,
    shares: int = _SHARES,
) -> list[MadeUp]:
    """Ways that go on, those without any run-off first; only where there are none those that come nearest.

    hand_for: the hand that the differential box must give to add to the work's turning (True) or to take away. shares:
    this many are laid out at a time.
    """
    near = _near(ask, hobber, stock, _RATIOS)
    job = _Job(ask, hobber, stock, hand_for, shares)
    ways = job.exact(near, most)
    return ways or job.nearest(near[:_NEAR_RATIOS], most)


def first_ways(
    asks: Sequence[HobAsk], hobber: Hobber, stock: Stock, hand_for: Callable[[bool], Hand | None], shares: int
) -> dict[int, MadeUp]:
    """For each of many wheels that differ in their count alone one way without run-off, where there is one; all laid
    out together, the nearest ratios first."""
    ways: dict[int, MadeUp] = {}
    if not asks:
        return ways
    job = _Job(asks[0], hobber, stock, hand_for, shares)
    near = {ask.teeth: _near(ask, hobber, stock, _RATIOS) for ask in asks}
    # Of many wheels two stages give exact products already; three are looked through only for what is left.
    passes = ((2,), (3,)) if len(stock) > _MANY else ((2, 3),)
    for start, stages in ((start, some) for some in passes for start in range(_RATIOS)):
        checkpoint()
        job.stages, job.looked_at = stages, _SHARED_FEW
        lines = {
            teeth: [s for one in some[start : start + 1] for s in islice(job.shares_of(one), shares)]
            for teeth, some in near.items()
            if teeth not in ways
        }
        among = [shared for line in lines.values() for shared in line]
        for teeth, line in lines.items():
            way = next((w for s in line if (w := job.way(s, among))), None)
            if way is not None:
                ways[teeth] = way
    return ways


@dataclass(frozen=True)
class HelicalWay:
    """Trains for a helical wheel whose count has no exact index train. feed: mm per table turn; error: of the
    differential train, relative."""

    constant: IndexConstant
    index: Layout
    feed_laid: Layout
    differential: Layout
    feed: Fraction
    must: Addition
    error: Fraction

    @property
    def trains(self) -> dict[Box, Train]:
        return {Box.INDEX: self.index.train, Box.FEED: self.feed_laid.train, Box.DIFFERENTIAL: self.differential.train}


def helical_ways(
    ask: HobAsk,
    hobber: Hobber,
    stock: Stock,
    hand_for: Callable[[bool], Hand | None],
    turn_per_mm: Fraction,
    most: int = _WAYS,
) -> list[HelicalWay]:
    """Ways for a helical wheel, those whose teeth run off least first; turn_per_mm as for `addition`."""
    assert hobber.feed is not None
    assert hobber.differential is not None
    job = _Job(ask, hobber, stock, hand_for, _SHARES)
    stages = (2, 3) if len(stock) <= _MANY else (2,)
    helical_ways: list[HelicalWay] = []
    for near in _near(ask, hobber, stock, _NEAR_RATIOS):
        checkpoint()
        shared: list[tuple[Addition, _SharedWheels]] = []
        for feed in job.feeds():
            must = addition(
                ask.teeth, near.indexed, ask.starts, feed.ratio * hobber.feed, hobber.differential, hobber.taken,
                turn_per_mm,
            )  # fmt: skip
            if must.train:
                own = replace(near, must=MakingUp(must.per_mm > 0, must.train, near.must.share))
                for hit in search(must.train, _without(stock, feed.wheels), stages, _NEAR_TRAINS):
                    shared += [(must, s) for s in islice(job.with_index(own, feed, hit.combination), 1)]
        shared.sort(key=lambda m: abs(m[1].differential.ratio / m[0].train - 1) * abs(m[0].per_mm))
        among = [s for _, s in shared[:_SHARES]]
        for must, s in shared[:_SHARES]:
            laid = job.laid_out(s, among)
            if laid:
                error = s.differential.ratio / must.train - 1
                helical_ways.append(
                    HelicalWay(near.constant, laid[Box.INDEX], laid[Box.FEED], laid[Box.DIFFERENTIAL],
                               s.feed.ratio * hobber.feed, must, error)
                )  # fmt: skip
    return sorted(helical_ways, key=lambda w: abs(w.error * w.must.per_mm))[:most]


def _near(ask: HobAsk, hobber: Hobber, stock: Stock, most: int) -> list[_Near]:
    """The index trains nearest to the right ratio, one entry a ratio, with what the differential must do."""
    assert hobber.feed is not None
    assert hobber.differential is not None
    constant = hobber.index_for(ask.teeth)
    return [
        _Near(
            constant, indexed, trains,
            making_up(ask.teeth, indexed, ask.starts, hobber.feed, hobber.differential, hobber.taken),
        )
        for indexed, trains in nearest_indexed(ask.teeth, ask.starts, constant.constant, stock, most=most)
    ]  # fmt: skip


class _Job:
    def __init__(
        self, ask: HobAsk, hobber: Hobber, stock: Stock, hand_for: Callable[[bool], Hand | None], shares: int
    ) -> None:
        assert hobber.feed is not None
        self.ask, self.hobber, self.stock, self.hand_for, self.shares = ask, hobber, stock, hand_for, shares
        self.feed_constant = hobber.feed
        self.stages: tuple[int, ...] = (2, 3)
        self.looked_at = _SHARED
        self.serving = _serving(tuple(sorted(stock)), float(self.feed_constant / ask.wished_feed))
        self.laid: dict[tuple[Box, Hand | None], dict[Combination, Layout | None]] = {}

    def exact(self, near: Sequence[_Near], most: int) -> list[MadeUp]:
        """Ways whose product is exact. Those of a few ratios are laid out together."""
        ways: list[MadeUp] = []
        for start in range(0, len(near), _TOGETHER):
            checkpoint()
            lines = [list(islice(self.shares_of(one), self.shares)) for one in near[start : start + _TOGETHER]]
            among = [shared for line in lines for shared in line]
            for line in lines:
                ways += islice((way for s in line if (way := self.way(s, among))), _OF_A_RATIO)
                if len(ways) >= most:
                    return ways[:most]
        return ways

    def nearest(self, near: Sequence[_Near], most: int) -> list[MadeUp]:
        """Ways whose product comes nearest, the least run-off first."""
        ways: list[MadeUp] = []
        feeds = self.feeds()
        for one in near:
            checkpoint()
            shared: list[_SharedWheels] = []
            for feed in feeds:
                left = _without(self.stock, feed.wheels)
                wanted = one.must.product / feed.ratio
                for hit in search(wanted, left, (1, 2), _NEAR_TRAINS):
                    shared += islice(self.with_index(one, feed, hit.combination), 1)
            shared.sort(key=lambda s: abs(s.differential.ratio * s.feed.ratio / one.must.product - 1))
            ways += [way for s in shared[: self.shares] if (way := self.way(s, shared[: self.shares]))][:4]
        return sorted(ways, key=lambda w: abs(w.error) * w.share / w.feed)[:most]

    def shares_of(self, near: _Near) -> Iterator[_SharedWheels]:
        """Exact trains of two and three stages shared out between feed and differential: feeds as wished first, then
        the larger smallest wheel."""
        shares = [
            (far, -min(whole.wheels), driver, driven, whole)
            for stages in self.stages
            for whole in exact_trains(near.must.product, self.stock, (stages,), self.looked_at)
            for driver in dict.fromkeys(whole.drivers)
            for driven in dict.fromkeys(whole.driven)
            if (far := self.serving.get((driver, driven))) is not None
        ]
        for _, _, driver, driven, whole in sorted(shares, key=itemgetter(0, 1, 2, 3)):
            rest = Combination(_one_less(whole.drivers, driver), _one_less(whole.driven, driven))
            yield from islice(self.with_index(near, Combination((driver,), (driven,)), rest), 1)

    def with_index(self, near: _Near, feed: Combination, differential: Combination) -> Iterator[_SharedWheels]:
        used = (*feed.wheels, *differential.wheels)
        once = frozenset(used)
        for index in near.trains:
            # Every wheel once is held for sure; only doubles have to be counted.
            if len({*once, *index.wheels}) == len(used) + len(index.wheels) or not lacking(
                (*index.wheels, *used), self.stock
            ):
                yield _SharedWheels(near, index, feed, differential)

    def feeds(self) -> list[Combination]:
        """Single-stage feed trains that go on, nearest to the wish."""
        target = self.ask.wished_feed / self.feed_constant
        hits = [f.combination for f in search(target, self.stock, (1,), 40)]
        going = self._places(Box.FEED, hits, None)
        return [c for c in hits if going.get(c) and (*c.drivers, *c.driven) in self.serving][:_NEAR_FEEDS]

    def way(self, shared: _SharedWheels, among: Sequence[_SharedWheels]) -> MadeUp | None:
        """It laid out, where every box's train goes on; those `among` which it stands are laid out with it."""
        laid, near = self.laid_out(shared, among), shared.near
        if laid is None:
            return None
        error = shared.differential.ratio * shared.feed.ratio / near.must.product - 1
        return MadeUp(
            near.constant, near.indexed, laid[Box.INDEX], laid[Box.FEED], laid[Box.DIFFERENTIAL],
            shared.feed.ratio * self.feed_constant, near.must.adds, error, near.must.share,
        )  # fmt: skip

    def laid_out(self, shared: _SharedWheels, among: Sequence[_SharedWheels]) -> dict[Box, Layout] | None:
        """The train of every box in its place; None where one does not go on."""
        near, wanted = shared.near, shared.trains
        hands = {
            Box.INDEX: self.ask.hob_hand, Box.FEED: None, Box.DIFFERENTIAL: self.hand_for(near.must.adds),
        }  # fmt: skip
        laid: dict[Box, Layout] = {}
        for box in Box:
            alike = (s.trains[box] for s in among if s.near.must.adds is near.must.adds)
            place = self._places(box, alike, hands[box]).get(wanted[box])
            if place is None:
                return None
            laid[box] = place
        for box in Box:
            # An idler that another box needs is looked for among what is left.
            others = [t for b, other in laid.items() if b is not box for t in other.train.teeth]
            if lacking((*laid[box].train.teeth, *others), self.stock):
                left = _without(self.stock, others)
                places = place_all([[_hit(wanted[box])]], hands[box], self.hobber.boxes[box], left)
                if wanted[box] not in places or lacking(wanted[box].wheels, left):
                    return None
                laid[box] = places[wanted[box]]
        return laid

    def _places(self, box: Box, wanted: Iterable[Combination], hand: Hand | None) -> dict[Combination, Layout | None]:
        """The roomiest place of each, None where it does not go on; each laid out once."""
        known = self.laid.setdefault((box, hand), {})
        fresh = [c for c in dict.fromkeys(wanted) if c not in known]
        if fresh:
            gearbox = self.hobber.boxes[box]
            fits = _roomy(gearbox, self.stock)
            hits = [_hit(c) for c in fresh if all(t in fits for t in c.wheels)]
            places = place_all([[h] for h in hits], hand, gearbox, self.stock)
            known |= {c: places.get(c) for c in fresh}
        return known


@lru_cache(maxsize=8)
def _serving(stock: tuple[int, ...], per_ratio: float) -> dict[tuple[int, int], bool]:
    """Driver and driven wheel of each single-stage feed that serves, with whether it is far from the wish; `per_ratio`:
    what a train of 1 : 1 gives, as a share of the wish."""
    off = {(a, b): abs(a / b * per_ratio - 1) for a in stock for b in stock if a != b}
    return {pair: o > float(FEED_NEAR) for pair, o in off.items() if o <= float(FEED_ABOUT)}


def _hit(combination: Combination) -> Hit[str]:
    return Hit(Approximation.of(combination, Fraction(0)), Target("", Fraction(1)))


def _roomy(gearbox: Gearbox, stock: Stock) -> Stock:
    wheels = usable(gearbox, stock)
    return wheels[0] if wheels else {}


def _one_less(teeth: tuple[int, ...], one: int) -> tuple[int, ...]:
    place = teeth.index(one)
    return teeth[:place] + teeth[place + 1 :]


def _without(stock: Stock, used: Sequence[int]) -> dict[int, int]:
    return {t: n - used.count(t) for t, n in stock.items() if n > used.count(t)}
