"""The boxes of a hobbing machine for one wheel that is asked: what each must give, and trains for it.

All of them take from one set of wheels, so a box may be asked for trains of what others leave.
"""

from collections import Counter
from collections.abc import Callable, Iterable, Sequence
from fractions import Fraction
from functools import cached_property

from valleywind.core.cutting.run_off import RunOff, grade_of, run_off
from valleywind.core.cutting.wheel import cut_wheel, lead_of_wheel
from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.machine import Box, FeedWay, Hobber, IndexConstant
from valleywind.core.hobbing.ratios import Closes, FeedVerdict, ratio_without, run_off_without, work_faster
from valleywind.core.hobbing.set_up import DifferentialTrain, FeedTrain, IndexTrain, NearTrain, OnNow
from valleywind.core.hobbing.setting import table_now
from valleywind.core.refusal import Refusal
from valleywind.core.trains.closest import Hit, closest
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.exact import exact_trains
from valleywind.core.trains.gearbox import Requirement, S, Target, V
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import Stock, Train, lacking
from valleywind.core.trains.planner import Candidate, Planner
from valleywind.core.trains.search import Approximation

# How many trains of a box are considered when boxes are put together.
_INDEX, _FEED = 48, 60
# How many wheels further ones have in common with what is on.
_KEPT = 2


class Boxes:
    """The boxes of one machine for one ask, with one set of wheels and what is on now."""

    def __init__(self, ask: HobAsk, hobber: Hobber, stock: Stock, on: OnNow) -> None:
        self.ask, self.hobber, self.stock, self.on = ask, hobber, stock, on
        self.way = ask.way or hobber.feeds[0]
        self._feeds_left: dict[tuple[tuple[int, int], ...], list[FeedTrain]] = {}

    def turn_per_mm(self) -> Fraction:
        """1/L of the helix, positive where the work must turn faster. Raises Refusal `needs_table_sense`."""
        ask, table = self.ask, table_now(self.hobber, self.ask.hob_hand)
        assert ask.pitch is not None
        assert ask.hand is not None
        if table is None:
            raise Refusal("needs_table_sense", "table", "")
        turn = 1 / lead_of_wheel(ask.pitch.module, ask.teeth, ask.helix)
        return turn if work_faster(ask.hand, table, self.way) else -turn

    def as_index(self, train: Train, constant: IndexConstant) -> IndexTrain:
        """This train judged in the index box, with this constant."""
        return _judged(train, self.index_planner(self.ask.starts, constant))

    def as_near(self, train: Train, constant: IndexConstant, feed: Fraction) -> NearTrain:
        """This train judged as one that makes the helix with this feed, without a differential."""
        return _judged(train, self.near_planner(constant, feed, self.stock))

    def as_feed(self, train: Train) -> FeedTrain:
        """This train judged in the feed box."""
        return _judged(train, self._feed_planner(self.stock))

    def as_differential(
        self, train: Train, ratio: Fraction, hand: Hand | None, judge: Callable[[Fraction], RunOff]
    ) -> DifferentialTrain:
        """This train judged in the differential's box, where that ratio and hand are wanted."""
        return _judged(train, self.differential_planner(ratio, judge, hand=hand))

    def index(self, starts: int, constants: Iterable[IndexConstant]) -> list[IndexTrain]:
        """Exact index trains laid out, whether or not they go on: the handiest, and those that keep wheels."""
        trains: list[IndexTrain] = []
        present = Counter(self.on.trains[Box.INDEX].teeth) if Box.INDEX in self.on.trains else Counter[int]()
        for constant in constants:
            planner = self.index_planner(starts, constant)
            target = planner.wanted.targets[0]
            every = exact_trains(planner.wanted.ratio(target), self.stock)
            keeping = [c for c in every[_INDEX:] if (present & Counter(c.wheels)).total() >= _KEPT]
            hits = [Hit(Approximation.of(c, Fraction(0)), target) for c in (*every[:_INDEX], *keeping[:_INDEX])]
            trains += planner.candidates(hits, whatever=True)
        return sorted(trains, key=lambda c: (not c.fits, -c.handling.kept, c.handling.put_on, -min(c.train.teeth)))

    def index_planner(self, starts: int, constant: IndexConstant) -> Planner[IndexConstant, Closes]:
        """For an index train that closes, for a hob of this many starts."""
        now = self.on.constant
        wanted = Requirement(
            Fraction(starts, self.ask.teeth), (Target(constant, 1 / constant.constant),), self.ask.hob_hand, _closes,
            self.on.trains.get(Box.INDEX), Target(now, 1 / now.constant) if now else None,
            lambda one, other: int(one != other),
        )  # fmt: skip
        return Planner(wanted, self.hobber.boxes[Box.INDEX], self.stock)

    def differential_planner(
        self, ratio: Fraction, judge: Callable[[Fraction], RunOff], stock: Stock | None = None, hand: Hand | None = None
    ) -> Planner[str, RunOff]:
        """For a differential train of this ratio; of these wheels and this hand, else of all and as is asked."""
        wanted = Requirement(
            ratio, (Target("", Fraction(1)),), hand or self.ask.hand, judge, self.on.trains.get(Box.DIFFERENTIAL)
        )
        return Planner(wanted, self.hobber.boxes[Box.DIFFERENTIAL], self.stock if stock is None else stock)

    @cached_property
    def diameter(self) -> float:
        """Pitch diameter of the wheel, mm; where its pitch is not known, as if it were a module of 2."""
        wheel = cut_wheel(self.ask)
        return wheel.pitch_diameter if wheel else float(2 * self.ask.teeth)

    def run_off_with(self, error: Fraction) -> RunOff:
        """What a differential train that is off by this much makes of this wheel."""
        return self.run_off(run_off(self.ask.shown_face, self.ask.helix, error))

    def run_off(self, um: float) -> RunOff:
        """What this much run-off, µm, means for this wheel."""
        grade = grade_of(um, self.diameter, float(self.ask.shown_face))
        return RunOff(um, grade, self.ask.mate is not None)

    def feed(self, used: Sequence[int], idle: Sequence[int] = ()) -> FeedTrain | None:
        """The feed train of least trouble that these wheels leave, one without the `idle` ones where there is any; None
        where the feed constant is not on record, or nothing is left."""
        if self.hobber.feed is None:
            return None
        for stock in (less(self.stock, idle), self.stock) if idle else (self.stock,):
            for candidate in self.feeds(stock):
                if not lacking((*used, *candidate.train.teeth), stock):
                    return candidate
        return next(iter(self.feeds(less(self.stock, used))), None)

    def feeds(self, stock: Stock) -> list[FeedTrain]:
        """Feed trains that go on, nearest to the wish and handiest first."""
        key = tuple(sorted(stock.items()))
        if key not in self._feeds_left:
            self._feeds_left[key] = self._find_feeds(stock)
        return self._feeds_left[key]

    def _feed_planner(self, stock: Stock) -> Planner[str, FeedVerdict]:
        assert self.hobber.feed is not None
        hand = Hand.RIGHT if self.way is FeedWay.DOWN else Hand.LEFT
        wanted = Requirement(
            self.ask.wished_feed, (Target("", self.hobber.feed),), hand, FeedVerdict, self.on.trains.get(Box.FEED)
        )
        return Planner(wanted, self.hobber.boxes[Box.FEED], stock)

    def _find_feeds(self, stock: Stock) -> list[FeedTrain]:
        assert self.hobber.feed is not None
        feeds = self._feed_planner(stock)
        wanted, box, present = feeds.wanted, feeds.box, feeds.wanted.mounted
        trains: dict[Train, FeedTrain] = {}
        hits: list[Hit[str]] = []
        if present is not None and not lacking(present.teeth, stock):
            error = present.ratio * self.hobber.feed / self.ask.wished_feed - 1
            hits.append(Hit(Approximation.of(present.combination, error), wanted.targets[0]))
        for stages in (1, 2):
            hits += closest(wanted, box, stock, (stages,), _FEED // stages)
            trains = {c.train: c for c in feeds.candidates(hits, whatever=True) if c.fits}
            if any(c.verdict.good for c in trains.values()):
                break
        return sorted(
            trains.values(),
            key=lambda c: (c.verdict.rank, -c.handling.kept, len(c.train.wheels), abs(c.error), -min(c.train.teeth)),
        )

    def near_planner(self, constant: IndexConstant, feed: Fraction, stock: Stock) -> Planner[IndexConstant, RunOff]:
        """For an index train that makes a helix with this feed. Raises Refusal `needs_table_sense`."""
        ask, table = self.ask, table_now(self.hobber, self.ask.hob_hand)
        assert ask.pitch is not None
        assert ask.hand is not None
        if table is None:
            raise Refusal("needs_table_sense", "table", "")
        along, faster = lead_of_wheel(ask.pitch.module, ask.teeth, ask.helix), work_faster(ask.hand, table, self.way)
        ratio = ratio_without(constant.constant, ask.starts, ask.teeth, along, feed, faster)
        wanted = Requirement(
            ratio / constant.constant, (Target(constant, 1 / constant.constant),), ask.hob_hand,
            lambda error: self.run_off(run_off_without(ask.shown_face, self.diameter, feed, error)),
            self.on.trains.get(Box.INDEX),
        )  # fmt: skip
        return Planner(wanted, self.hobber.boxes[Box.INDEX], stock)


def _closes(error: Fraction) -> Closes:
    return Closes(error == 0)


def _judged(train: Train, planner: Planner[S, V]) -> Candidate[S, V]:
    laid = lay_out([train], planner.box.family, planner.box.quadrant)[0]
    return planner.candidate(laid, planner.wanted.targets[0])


def less(stock: Stock, used: Iterable[int]) -> dict[int, int]:
    """The stock without these wheels."""
    left = Counter(dict(stock))
    left.subtract(used)
    return {t: n for t, n in left.items() if n > 0}
