"""From a wheel to be hobbed to trains for every box of the machine, all from one set of wheels.

The index train comes first, for it must be exact; then what needs most digits; the feed last.
"""

import math
from collections import Counter
from collections.abc import Iterable, Iterator, Mapping, Sequence
from dataclasses import replace
from fractions import Fraction

from valleywind.core.cutting.run_off import RunOff
from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.boxes import Boxes, less
from valleywind.core.hobbing.machine import Box, Hobber, IndexConstant
from valleywind.core.hobbing.making_up import helical_ways, ways_to_make_up
from valleywind.core.hobbing.ratios import (
    Addition,
    addition,
    differential_ratio,
    making_up,
    run_off_without,
    work_faster,
)
from valleywind.core.hobbing.set_up import (
    DifferentialTrain,
    FeedTrain,
    HobPlan,
    IndexTrain,
    Move,
    NearTrain,
    OnNow,
    SetUp,
    SetUpKind,
)
from valleywind.core.hobbing.setting import table_now
from valleywind.core.refusal import Refusal
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.model import Stock, Train, lacking
from valleywind.core.trains.new_wheels import new_wheels, with_each_new_wheel

# How many trains of the differential are considered when boxes are put together.
_DIFFERENTIAL = 40
# Room that is no better for being so little more, mm.
_ROOM_STEP = 5
# Trains with each new wheel that are looked at.
_OF_A_NEW_WHEEL = 4
# Feeds that are tried for a helix without a differential, those nearest to the wish first.
_FEEDS_TRIED = 6


def plan(ask: HobAsk, hobber: Hobber, stock: Stock, on: OnNow | None = None, best: int = 12) -> HobPlan:
    """The `best` set-ups for a wheel.

    Raises Refusal: `no_wheels` (stock), `needs_pitch` (pitch) for a helical wheel without one, `no_feed_constant`
    (feed) where the feed decides and the machine's is not on record.
    """
    if not any(n > 0 for n in stock.values()):
        raise Refusal("no_wheels", "stock", "")
    if ask.helical and ask.pitch is None:
        raise Refusal("needs_pitch", "pitch", "")
    return _Job(ask, hobber, stock, on or OnNow()).plan(best)


def judged(
    ask: HobAsk, hobber: Hobber, stock: Stock, on: OnNow, trains: Mapping[Box, Train], constant: IndexConstant
) -> SetUp:
    """One particular set-up judged for this ask, whether or not it is a good one.

    Raises Refusal: `needs_index_train` (trains); those of `plan`.
    """
    if Box.INDEX not in trains:
        raise Refusal("needs_index_train", "train", "")
    if ask.helical and ask.pitch is None:
        raise Refusal("needs_pitch", "pitch", "")
    return _Job(ask, hobber, stock, on).judged(trains, constant)


class _Job:
    """One ask on one machine with one set of wheels."""

    def __init__(self, ask: HobAsk, hobber: Hobber, stock: Stock, on: OnNow) -> None:
        self.ask, self.hobber, self.stock, self.on = ask, hobber, stock, on
        self.boxes = Boxes(ask, hobber, stock, on)

    def plan(self, best: int) -> HobPlan:
        if self.ask.helical and self.hobber.differential is None:
            without, cut = self._without()
            return HobPlan(self.ask, self.hobber, self._ordered(without)[:best], cut_short=cut)
        usual = (self.hobber.index_for(self.ask.teeth),)
        index = self.boxes.index(self.ask.starts, usual)
        exact = [c for c in index if c.fits]
        if set_ups := self._ordered(self._put_together(exact)):
            return HobPlan(self.ask, self.hobber, set_ups[:best])
        made_up: tuple[SetUp, ...] = ()
        if self.hobber.differential is not None:
            made_up = self._ordered(self._made_up_helix() if self.ask.helical else self._made_up())
        return HobPlan(
            self.ask, self.hobber, made_up[:best], self._one_more(), self._other_constant(), self._more_starts(),
            next((self._set_up(SetUpKind.SPUR, c, None) for c in index), None),
        )  # fmt: skip

    def judged(self, trains: Mapping[Box, Train], constant: IndexConstant) -> SetUp:
        """These trains, with what they come to for this ask."""
        ask, hobber = self.ask, self.hobber
        feed = self.boxes.as_feed(trains[Box.FEED]) if Box.FEED in trains and hobber.feed is not None else None
        index = self.boxes.as_index(trains[Box.INDEX], constant)
        indexed = constant.constant * ask.starts / index.train.ratio
        if ask.helical and Box.DIFFERENTIAL in trains and indexed != ask.teeth and feed is not None:
            return self._judged_helix(index, feed, trains[Box.DIFFERENTIAL], indexed)
        if ask.helical and Box.DIFFERENTIAL in trains and hobber.differential is not None:
            assert ask.pitch is not None
            ratio = differential_ratio(hobber.differential, ask.pitch.module, ask.helix, ask.starts)
            d = self.boxes.as_differential(trains[Box.DIFFERENTIAL], ratio, ask.hand, self.boxes.run_off_with)
            return self._set_up(SetUpKind.HELICAL, index, feed, d, d.verdict, indexed)
        if ask.helical and feed is not None:
            near = self.boxes.as_near(trains[Box.INDEX], constant, feed.value)
            return self._set_up(SetUpKind.WITHOUT, near, feed, None, near.verdict, indexed)
        if Box.DIFFERENTIAL in trains and hobber.differential is not None and feed is not None and indexed != ask.teeth:
            assert hobber.feed is not None
            must = making_up(ask.teeth, indexed, ask.starts, hobber.feed, hobber.differential, hobber.taken)
            error = trains[Box.DIFFERENTIAL].ratio * trains[Box.FEED].ratio / must.product - 1
            off = self.boxes.run_off(
                run_off_without(ask.shown_face, self.boxes.diameter, feed.value, error * must.share)
            )
            ratio, hand = trains[Box.DIFFERENTIAL].ratio, self._making_up_hand(must.adds)
            d = self.boxes.as_differential(trains[Box.DIFFERENTIAL], ratio, hand, lambda _: off)
            return self._set_up(SetUpKind.MADE_UP, index, feed, d, off, indexed, must.adds)
        return self._set_up(SetUpKind.SPUR, index, feed, indexed=indexed)

    def _judged_helix(self, index: IndexTrain, feed: FeedTrain, train: Train, indexed: Fraction) -> SetUp:
        """A helix whose count is not the one that is indexed."""
        must = self._addition(indexed, feed.value)
        along = abs(must.per_mm) * self.ask.shown_face * 1000
        off = self.boxes.run_off(abs(float((train.ratio / must.train - 1) * along)) * math.pi * self.boxes.diameter)
        d = self.boxes.as_differential(train, train.ratio, self._making_up_hand(must.per_mm > 0), lambda _: off)
        return self._set_up(SetUpKind.MADE_UP, index, feed, d, off, indexed, must.per_mm > 0)

    def _addition(self, indexed: Fraction, feed: Fraction) -> Addition:
        assert self.hobber.differential is not None
        return addition(
            self.ask.teeth, indexed, self.ask.starts, feed, self.hobber.differential, self.hobber.taken,
            self.boxes.turn_per_mm(),
        )  # fmt: skip

    # Putting boxes together.

    def _put_together(self, exact: Sequence[IndexTrain]) -> list[SetUp]:
        if not self.ask.helical:
            spared = self._spared(exact)
            return [self._spur(c) for c in spared]
        return self._helical(exact)

    def _spared(self, exact: Sequence[IndexTrain]) -> Sequence[IndexTrain]:
        """Those that need no wheel which is on in the differential's box, where there are any: it stands idle, and its
        wheels can stay."""
        idle = self.on.trains.get(Box.DIFFERENTIAL)
        if idle is None:
            return exact
        left = less(self.stock, idle.teeth)
        return [c for c in exact if not lacking(c.train.teeth, left)] or exact

    def _spur(self, index: IndexTrain) -> SetUp:
        idle = self.on.trains.get(Box.DIFFERENTIAL)
        feed = self.boxes.feed(index.train.teeth, idle.teeth if idle else ())
        return self._set_up(SetUpKind.SPUR, index, feed)

    def _helical(self, exact: Sequence[IndexTrain]) -> list[SetUp]:
        if not exact:
            return []
        ask, constant = self.ask, self.hobber.differential
        assert ask.pitch is not None
        assert constant is not None
        ratio = differential_ratio(constant, ask.pitch.module, ask.helix, ask.starts)
        outcome = self.boxes.differential_planner(ratio, self.boxes.run_off_with).plan(best=_DIFFERENTIAL)
        pairs = list(self._pairs(exact, outcome.candidates))
        if not pairs:
            for index in exact[:6]:
                left = less(self.stock, index.train.teeth)
                outcome = self.boxes.differential_planner(ratio, self.boxes.run_off_with, left).plan(best=_DIFFERENTIAL)
                pairs += [(index, c) for c in outcome.candidates]
        return [
            self._set_up(SetUpKind.HELICAL, index, self.boxes.feed((*index.train.teeth, *d.train.teeth)), d, d.verdict)
            for index, d in pairs
        ]

    def _pairs(
        self, exact: Sequence[IndexTrain], differentials: Sequence[DifferentialTrain]
    ) -> Iterator[tuple[IndexTrain, DifferentialTrain]]:
        """Each differential train with the first index train that shares no wheel with it."""
        for d in differentials:
            for index in exact:
                if not lacking((*index.train.teeth, *d.train.teeth), self.stock):
                    yield index, d
                    break

    def _set_up(
        self,
        kind: SetUpKind,
        index: IndexTrain | NearTrain,
        feed: FeedTrain | None,
        differential: DifferentialTrain | None = None,
        run_off: RunOff | None = None,
        indexed: Fraction | None = None,
        adds: bool | None = None,
    ) -> SetUp:
        faster = None
        table = table_now(self.hobber, self.ask.hob_hand)
        if self.ask.hand is not None and table is not None:
            faster = work_faster(self.ask.hand, table, self.boxes.way)
            adds = faster if kind is SetUpKind.HELICAL else adds
        set_up = SetUp(kind, index, feed, differential, run_off, indexed, adds, faster)
        return replace(set_up, moved=self._moved(set_up))

    def _moved(self, set_up: SetUp) -> tuple[Move, ...]:
        """Wheels that are on in another box and that the rack cannot give a second time."""
        on = self.on.trains
        if not on:
            return ()
        loose = Counter(self.stock)
        for train in on.values():
            loose.subtract(train.teeth)
        moves = []
        staying = {box: Counter(train.teeth) for box, train in on.items()}
        for box, train in set_up.trains.items():
            fresh = Counter(train.teeth) - staying.get(box, Counter())
            for teeth in fresh.elements():
                if loose[teeth] > 0:
                    loose[teeth] -= 1
                    continue
                origin = next((b for b, has in staying.items() if b is not box and has[teeth] > 0), None)
                if origin is not None:
                    staying[origin][teeth] -= 1
                    moves.append(Move(teeth, origin, box))
        return tuple(moves)

    def _ordered(self, set_ups: Iterable[SetUp]) -> tuple[SetUp, ...]:
        """Least trouble first: what goes on, is good enough, keeps most wheels, has fewest to put on, is roomiest."""
        return tuple(sorted(set_ups, key=_trouble))

    # A helix without a differential: the feed first, then an index train for what it really gives.

    def _without(self) -> tuple[list[SetUp], bool]:
        ask, hobber = self.ask, self.hobber
        assert ask.pitch is not None
        assert ask.hand is not None
        if hobber.feed is None:
            raise Refusal("no_feed_constant", "feed", "")
        constant = hobber.index_for(ask.teeth)
        set_ups: list[SetUp] = []
        cut = False
        feeds = {feed.value: feed for feed in reversed(self.boxes.feeds(self.stock)) if feed.verdict.good}
        for feed in sorted(feeds.values(), key=lambda f: (f.verdict.rank, abs(f.error)))[:_FEEDS_TRIED]:
            left = less(self.stock, feed.train.teeth)
            outcome = self.boxes.near_planner(constant, feed.value, left).plan(best=6)
            cut = cut or outcome.cut_short
            set_ups += [self._set_up(SetUpKind.WITHOUT, c, feed, None, c.verdict) for c in outcome.candidates]
        return set_ups, cut

    # A count without an exact train.

    def _made_up(self) -> list[SetUp]:
        """Index trains near the right ratio, the differential making up the rest."""
        assert self.hobber.differential is not None
        if self.hobber.feed is None:
            return []
        ways = ways_to_make_up(self.ask, self.hobber, self.stock, self._making_up_hand)
        return [self.judged(way.trains, way.constant) for way in ways]

    def _made_up_helix(self) -> list[SetUp]:
        """The same for a helical wheel; none where it is not known which way the table turns."""
        if self.hobber.feed is None or self.hobber.table is None:
            return []
        ways = helical_ways(self.ask, self.hobber, self.stock, self._making_up_hand, self.boxes.turn_per_mm())
        return [self.judged(way.trains, way.constant) for way in ways]

    def _making_up_hand(self, adds: bool) -> Hand | None:
        return making_up_hand(self.hobber, self.ask, adds)

    def _one_more(self) -> SetUp | None:
        """With one wheel that is not held: the smallest number of wheels, then the wheel nearest to those held."""
        planner = self.boxes.index_planner(self.ask.starts, self.hobber.index_for(self.ask.teeth))
        new = new_wheels(planner.box, self.stock)
        near = with_each_new_wheel(planner.wanted, planner.box, self.stock, new, 0.0, _OF_A_NEW_WHEEL)
        for teeth in sorted(near, key=lambda t: (t != self.ask.teeth, t)):
            exact = [h for h in near[teeth] if not h.error]
            going = [c for c in planner.candidates(exact, whatever=True) if c.goes_on]
            if going:
                best = min(going, key=lambda c: (len(c.train.wheels), -c.laid.room))
                return self._set_up(SetUpKind.SPUR, best, self.boxes.feed([t for t in best.train.teeth if t != teeth]))
        return None

    def _other_constant(self) -> SetUp | None:
        usual = self.hobber.index_for(self.ask.teeth)
        others = [c for c in self.hobber.index if c.constant != usual.constant]
        return self._first_exact(self.ask.starts, others)

    def _more_starts(self) -> tuple[int, SetUp] | None:
        for starts in (2, 3):
            if starts > self.ask.starts:
                exact = self._first_exact(starts, (self.hobber.index_for(self.ask.teeth),))
                if exact:
                    return starts, exact
        return None

    def _first_exact(self, starts: int, constants: Sequence[IndexConstant]) -> SetUp | None:
        return next((self._spur(c) for c in self.boxes.index(starts, constants) if c.fits), None)


def making_up_hand(hobber: Hobber, ask: HobAsk, adds: bool) -> Hand | None:
    """The hand of a helix for which the differential adds to the work's turning, or takes away; None where the table's
    sense is not known."""
    table, way = table_now(hobber, ask.hob_hand), ask.way or hobber.feeds[0]
    if table is None:
        return None
    return next(hand for hand in Hand if work_faster(hand, table, way) is adds)


def _trouble(set_up: SetUp) -> tuple[object, ...]:
    rank = set_up.run_off.rank if set_up.run_off else 0
    return (
        not set_up.goes_on,
        rank,
        set_up.run_off.um if set_up.run_off and not set_up.run_off.good else 0.0,
        set_up.feed.verdict.rank if set_up.feed else 0,
        # A wheel out of a box that is set anew comes off anyway.
        sum(move.origin not in set_up.trains for move in set_up.moved),
        -set_up.kept,
        set_up.put_on,
        sum(len(train.idlers) for train in set_up.trains.values()),
        round(abs(float(set_up.feed.error)), 2) if set_up.feed else 0.0,
        -round(min(part.laid.room for part in set_up.parts) / _ROOM_STEP),
        -min(set_up.teeth),
        set_up.run_off.um if set_up.run_off else 0.0,
        tuple(t.notation for t in set_up.trains.values()),
    )
