"""From what is wanted of a gearbox to trains that give it with these wheels, in order of merit; for every machine."""

from collections import Counter
from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from itertools import pairwise
from typing import Generic, NamedTuple

from valleywind.core.interrupt import OverBudget
from valleywind.core.trains.arrange import Arrangements, arrange, with_idlers
from valleywind.core.trains.closest import Hit, closest, closest_first, closest_keeping, reach
from valleywind.core.trains.direction import HandAdvice
from valleywind.core.trains.gearbox import Gearbox, Judgement, Requirement, S, Target, V
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.merit import (
    Handling,
    handling,
    least_trouble,
    least_trouble_begins,
    most_exact,
    most_exact_begins,
)
from valleywind.core.trains.model import Combination, Stock, Train, lacking, size_of
from valleywind.core.trains.new_wheels import closest_with_new_wheels, new_wheels
from valleywind.core.trains.placement import Layout, Placement, Reason
from valleywind.core.trains.places import may_take, place_all
from valleywind.core.trains.quadrant import MOST_STUDS
from valleywind.core.trains.search import floor

# How many of the closest combinations are looked at, of these every one good enough is laid out; and up to how many,
# four times as many each time, where too few of them go on.
_LOOKED_AT, _LOOKED_AT_MOST = 160, 2560
# How many of the closest are added for each choice of mounted wheels that could stay on.
_KEEPING = 12
# How many of the closest are laid out whatever their verdict: a hopeless ask still shows what comes nearest.
_ALWAYS_LAID_OUT = 24
# Idlers in a compound train, a hundred arrangements each, are tried only where fewer trains than this go on without,
# and for this many of the closest anyway.
_ENOUGH = 6
# How many combinations are laid out at a time, where perhaps not all have to be.
_STRETCH = 40
# More idlers than this are a last resort.
_USUAL_IDLERS = 2
_IDLERS_TRIED = 12
# Combinations with a new wheel: how far off at most, how many of each wheel, where the stretches end in which they are
# laid out, and how many of them are a line in which idlers are tried for the first few.
_NEW_WITHIN, _OF_A_NEW_WHEEL, _NEW_LAID_OUT, _NEW_LINE = 0.25, 4, (16, 64, 256), 16
# How many trains that will not do for the job are shown where nothing better goes on.
_HOPELESS_SHOWN = 5


class Order(StrEnum):
    LEAST_TROUBLE = "least_trouble"
    MOST_EXACT = "most_exact"


@dataclass(frozen=True)
class Candidate(Generic[S, V]):
    """One train with a setting. value: what it gives, in the measure of what is wanted; error: signed, value / wanted
    value − 1."""

    laid: Layout
    setting: S
    value: Fraction
    error: Fraction
    verdict: V
    hand: HandAdvice
    handling: Handling
    lacking: dict[int, int]

    @property
    def train(self) -> Train:
        return self.laid.train

    @property
    def placement(self) -> Placement:
        return self.laid.placement

    @property
    def goes_on(self) -> bool:
        """It has a place on the quadrant and turns the right way."""
        return self.laid.fits and self.hand.right

    @property
    def fits(self) -> bool:
        """It goes on, and every wheel is held."""
        return self.goes_on and not self.lacking

    @property
    def good(self) -> bool:
        """It goes on, and is near enough for the job."""
        return self.fits and self.verdict.good


@dataclass(frozen=True)
class _Attempt(Generic[S, V]):
    """A combination laid out with a setting; what it takes to put it on is worked out for what goes on, and the rest of
    a candidate for what is shown. way: its place, or where it has none its arrangements. fits: it goes on, turns the
    right way, and every wheel is held."""

    way: Layout | Arrangements
    target: Target[S]
    error: Fraction
    verdict: V
    fits: bool

    @property
    def laid(self) -> Layout:
        return self.way if isinstance(self.way, Layout) else self.way[0]

    @property
    def good(self) -> bool:
        """It goes on, and is near enough for the job."""
        return self.fits and self.verdict.good


class _Listing(NamedTuple):
    """What is shown in the end: how many at most, and in which order."""

    order: Order
    best: int


class ShortfallCause(StrEnum):
    """Why nothing meets what is wanted."""

    LESS_THAN_LEAST = "less_than_least"
    MORE_THAN_MOST = "more_than_most"
    NEAR_ONES_DO_NOT_FIT = "near_ones_do_not_fit"
    NOTHING_NEAR = "nothing_near"
    NEVER_CLOSES = "never_closes"
    NO_TRAIN = "no_train"


@dataclass(frozen=True)
class Shortfall:
    """Nothing meets what is wanted. best_error: of the best that fits; least, most: the ends of the range in two
    stages; floor: the relative error that any wheels of `floor_teeth` could reach in two stages."""

    cause: ShortfallCause
    best_error: Fraction | None
    least: Fraction | None = None
    most: Fraction | None = None
    floor: Fraction | None = None
    floor_teeth: tuple[int, int] | None = None


@dataclass(frozen=True)
class Outcome(Generic[S, V]):
    """What came of it. `candidates` stand in the wanted order; `most_exact_unfit` is the closest train, when that does
    not go on; `one_more` the best train with one wheel that is not held, when that is better; `cut_short` says that not
    all was laid out, for it would have cost too much."""

    candidates: tuple[Candidate[S, V], ...]
    most_exact_unfit: Candidate[S, V] | None
    one_more: Candidate[S, V] | None
    shortfall: Shortfall | None
    cut_short: bool = False


class Planner(Generic[S, V]):
    """Plans for one thing wanted of one gearbox with one stock."""

    def __init__(self, wanted: Requirement[S, V], box: Gearbox, stock: Stock) -> None:
        self.wanted, self.box, self.stock = wanted, box, stock
        self.cut_short = False
        self._hands: dict[int, HandAdvice] = {}
        self._on_now = Counter(wanted.mounted.teeth if wanted.mounted else ())

    def plan(self, order: Order = Order.LEAST_TROUBLE, best: int = 12) -> Outcome[S, V]:
        """The `best` trains, laid out and judged, and what stands next to them."""
        hits, attempts = self._closest(_Listing(order, best))
        if self.box.quadrant.studs >= 2 and self.box.most_stages >= 3 and not any(a.good for a in attempts):
            longer = closest(self.wanted, self.box, self.stock, (3,), _LOOKED_AT)[:_ALWAYS_LAID_OUT]
            attempts += self._attempts(longer)
            hits = closest_first(hits + longer)
        if not any(a.fits for a in attempts):
            attempts += self._first_going(self._two_stages, hits, _ALWAYS_LAID_OUT)
        going = self._sorted([a for a in attempts if a.fits], order)
        shown = [a for a in going if not a.verdict.hopeless] or going[:_HOPELESS_SHOWN]
        unfit = self._closest_unfit(attempts, going)
        one_more = self._one_more(going)
        shortfall = None if any(a.good for a in going) else self._shortfall(going, attempts, hits)
        candidates = tuple(self._judged(a) for a in shown[:best])
        return Outcome(candidates, self._judged(unfit) if unfit else None, one_more, shortfall, self.cut_short)

    def candidate(self, laid: Layout, target: Target[S]) -> Candidate[S, V]:
        """One particular train judged, whether or not it is a good one."""
        error = laid.train.ratio * target.gives / self.wanted.value - 1
        return self._judged(self._attempt(laid, target, error, self.wanted.judge(error)))

    def _attempt(self, way: Layout | Arrangements, target: Target[S], error: Fraction, verdict: V) -> _Attempt[S, V]:
        fits = (
            isinstance(way, Layout)
            and way.fits
            and self._hand(way.train).right
            and not lacking(way.train.teeth, self.stock)
        )
        return _Attempt(way, self._as_it_stands(target), error, verdict, fits)

    def _hand(self, train: Train) -> HandAdvice:
        if train.meshes not in self._hands:
            self._hands[train.meshes] = self.box.hand(train.meshes, self.wanted.hand)
        return self._hands[train.meshes]

    def _judged(self, one: _Attempt[S, V]) -> Candidate[S, V]:
        train = one.laid.train
        return Candidate(
            one.laid,
            one.target.setting,
            self.wanted.value * (1 + one.error),
            one.error,
            one.verdict,
            self._hand(train),
            self._handling(train, one.target.setting),
            {} if one.fits else lacking(train.teeth, self.stock),
        )

    def righted(self, candidate: Candidate[S, V], target: Target[S]) -> Candidate[S, V] | None:
        """For a train that turns the last shaft the wrong way: the same with one idler less, or with the roomiest one
        more that is left in stock and goes on; None where the hand is right or no idler helps."""
        train = candidate.train
        if candidate.hand.right:
            return None
        fewer = [
            Train((*train.stages[:n], stage._replace(idlers=stage.idlers[1:]), *train.stages[n + 1 :]))
            for n, stage in enumerate(train.stages)
            if stage.idlers
        ]
        more = with_idlers(train, 1, self.box.free(self.stock)) if train.shafts - 2 < self.box.quadrant.studs else []
        for ways in (fewer, more):
            going = [laid for laid in lay_out(ways, self.box.family, self.box.quadrant) if laid.fits]
            if going:
                return self.candidate(max(going, key=lambda laid: laid.room), target)
        return None

    def _two_stages(self, best: int) -> list[Hit[S]]:
        return closest(self.wanted, self.box, self.stock, (1, 2), best)

    def _closest(self, listing: _Listing) -> tuple[list[Hit[S]], list[_Attempt[S, V]]]:
        """What comes closest, and what leaves most wheels on; with many wheels more and more, until enough goes on or
        the next would not do for the job. Not laid out is what cannot come among those shown."""
        hits = self._two_stages(_LOOKED_AT)
        known: dict[Combination, list[Target[S]]] = {}
        for hit in hits:
            known.setdefault(hit.combination, []).append(hit.target)
        keeping = closest_keeping(self.wanted, self.box, self.stock, _KEEPING)
        more = [h for h in keeping if h.target not in known.get(h.combination, ())]
        attempts = self._attempts(hits + more, listing=listing)
        while len(hits) < _LOOKED_AT_MOST and sum(a.good for a in attempts) < _ENOUGH:
            if len(hits) < _LOOKED_AT or not self.wanted.judge(hits[-1].error).good:
                break
            further = self._two_stages(4 * len(hits))
            if len(further) == len(hits):
                break
            good = [h for h in further[len(hits) :] if self.wanted.judge(h.error).good]
            attempts += self._attempts(good, whatever=True)
            hits = further
        return hits, attempts

    def _first_going(
        self, looked_for: Callable[[int], list[Hit[S]]], known: Sequence[Hit[S]] = (), start: int = 0
    ) -> list[_Attempt[S, V]]:
        """Of hits in an order, from one of them on, the first stretch in which anything goes on, however far off it
        is. `looked_for` finds as many as it is asked for; `known` are the first of them."""
        hits = list(known)
        while start < _LOOKED_AT_MOST:
            end = start + max(2 * _ALWAYS_LAID_OUT, start)
            if end > len(hits):
                hits = looked_for(end)
            attempts = self._attempts(hits[start:end], whatever=True)
            if any(a.fits for a in attempts) or end > len(hits):
                return attempts
            start = end
        return []

    def _as_it_stands(self, target: Target[S]) -> Target[S]:
        """Of two settings that give the same the one that needs no moving."""
        now = self.wanted.now
        return now if now is not None and now.gives == target.gives else target

    def _handling(self, train: Train, setting: S) -> Handling:
        if self.wanted.mounted is None:
            return handling(train, None)
        return handling(train, self.wanted.mounted, self._levers(setting))

    def _levers(self, setting: S) -> int:
        """How many stand elsewhere now."""
        return self.wanted.moves(self.wanted.now.setting, setting) if self.wanted.now else 0

    def _sorted(self, going: list[_Attempt[S, V]], order: Order) -> list[_Attempt[S, V]]:
        return sorted(going, key=lambda a: self._key(a, order))

    def _key(self, one: _Attempt[S, V], order: Order) -> tuple[object, ...]:
        train = one.laid.train
        work = self._handling(train, one.target.setting)
        if order is Order.MOST_EXACT:
            return most_exact(one.fits, work, train, one.error)
        return least_trouble(one.fits, _job_rank(one.verdict, one.error), work, train, one.error)

    def _at_best(self, hit: Hit[S], verdict: V, order: Order) -> tuple[object, ...]:
        """What the key of a hit begins with where its wheels go on without idlers, and as many of the mounted ones as
        are among them stay in their places."""
        wheels = hit.combination.wheels
        new = sum(lacking(wheels, self._on_now).values())
        levers = self._levers(self._as_it_stands(hit.target).setting) if self.wanted.mounted else 0
        work = Handling(len(wheels) - new, new, 0, levers)
        if order is Order.MOST_EXACT:
            return most_exact_begins(True, work, 0, hit.error)
        return least_trouble_begins(True, _job_rank(verdict, hit.error), work, 0, hit.error)

    def candidates(self, hits: list[Hit[S]], whatever: bool = False) -> list[Candidate[S, V]]:
        """One candidate a hit: the best arrangement of its combination, with as few idlers as will do. It need not go
        on.

        `found` comes closest first; those far off are left out beyond the first few, unless `whatever` is wanted, but
        then with one idler at most.
        """
        return [self._judged(a) for a in self._attempts(hits, whatever)]

    def _attempts(
        self, hits: list[Hit[S]], whatever: bool = False, listing: "_Listing | None" = None
    ) -> list[_Attempt[S, V]]:
        """The same, not judged in full. listing: what is shown of them in the end; what cannot be among it may be left
        out, but not what comes closest."""
        tried: list[tuple[Hit[S], V]] = []
        verdicts: dict[Combination, V] = {}
        error, verdict = None, None
        for n, hit in enumerate(hits):
            # Those that err alike mostly come one after the other.
            if verdict is None or (hit.error is not error and hit.error != error):
                error, verdict = hit.error, self.wanted.judge(hit.error)
            if whatever or n < _ALWAYS_LAID_OUT or not verdict.hopeless:
                tried.append((hit, verdict))
                verdicts.setdefault(hit.combination, verdict)
        # What goes on in its best place; of what does not its first arrangements.
        on: dict[Combination, Layout] = {}
        off: dict[Combination, Arrangements] = {}
        for idlers in range(min(self.box.quadrant.studs, 1 if whatever else MOST_STUDS) + 1):
            if idlers > _USUAL_IDLERS and on:
                break
            to_try = self._to_try(verdicts, idlers, on)
            try:
                for some in self._in_stretches(to_try, tried, on, listing) if listing and not idlers else [to_try]:
                    for combination, arranged in self._arranged(some, idlers):
                        if arranged.goes_on:
                            on[combination] = self._least_work(combination, arranged)
                        else:
                            off.setdefault(combination, arranged)
            except OverBudget:
                self.cut_short = True
                break
        ways: dict[Combination, Layout | Arrangements] = {**off, **on}
        if (there := self._as_mounted(ways)) is not None:
            ways[there.train.combination] = there
        return [
            self._attempt(ways[hit.combination], hit.target, hit.error, verdict)
            for hit, verdict in tried
            if hit.combination in ways
        ]

    def _in_stretches(
        self, to_try: list[Combination], tried: list[tuple[Hit[S], V]], on: dict[Combination, Layout], listing: _Listing
    ) -> Iterator[list[Combination]]:
        """Combinations to be laid out without idlers, in stretches: those first that would be shown first if they went
        on at best, until nothing that is left can come among those shown. `on`: what was laid out since and goes on.

        In the first stretches is what is looked at in any case: what comes closest, and what may take idlers even where
        enough goes on. What is mounted comes early by itself, for nothing else keeps all of its wheels.
        """
        at_best: dict[Combination, tuple[object, ...]] = {}
        for hit, verdict in tried:
            key = self._at_best(hit, verdict, listing.order)
            at_best[hit.combination] = min(key, at_best.get(hit.combination, key))
        least = min((hit.approximation.size for hit, _ in tried), default=0)
        first = {hit.combination for hit, _ in tried if hit.approximation.size == least}
        first.update(list(at_best)[:_ENOUGH])
        rest = sorted(to_try, key=lambda c: (c.stages > 1 and c not in first, at_best[c]))
        while rest:
            stretch, rest = rest[:_STRETCH], rest[_STRETCH:]
            yield stretch
            if not rest or rest[0].stages == 1 or rest[0] in first:
                continue
            laid = [self._attempt(on[h.combination], h.target, h.error, v) for h, v in tried if h.combination in on]
            good = [a for a in laid if a.good]
            before = sum(self._key(a, listing.order) < at_best[rest[0]] for a in good)
            if before >= max(listing.best, _ENOUGH) and any(a.verdict.rank == 0 for a in good):
                return

    def _as_mounted(self, among: Collection[Combination]) -> Layout | None:
        """The mounted train as it stands, where its wheels are among these, it goes on and turns the right way: of many
        idlers that would do only some are tried, and perhaps not the one that is on."""
        train = self.wanted.mounted
        if train is None or not train.idlers or train.combination not in among or lacking(train.teeth, self.stock):
            return None
        laid = lay_out([train], self.box.family, self.box.quadrant)[0]
        return laid if laid.fits and self.box.hand(train.meshes, self.wanted.hand).right else None

    def _to_try(self, verdicts: dict[Combination, V], idlers: int, on: dict[Combination, Layout]) -> list[Combination]:
        """Which combinations deserve a try with this many idlers: those without a place yet, but compound trains only
        as long as few others go on, and the closest of them in any case."""
        wanted = list(verdicts)
        homeless = [c for c in wanted if c not in on and may_take(c, idlers, self.wanted.hand, self.box)]
        if not idlers:
            return homeless
        compound = [c for c in homeless if c.stages > 1]
        if sum(verdicts[c].good for c in on) >= _ENOUGH:
            compound = [c for c in compound if c in wanted[:_ENOUGH]]
        # Every further idler multiplies the arrangements of a train.
        return [c for c in homeless if c.stages == 1] + compound[: _IDLERS_TRIED // idlers**2]

    def _arranged(self, combinations: list[Combination], idlers: int) -> list[tuple[Combination, Arrangements]]:
        box = self.box
        ways = arrange(combinations, idlers, box.free(self.stock), box.family, box.quadrant, box.fixed)
        return [(c, arranged) for c, arranged in zip(combinations, ways, strict=True) if arranged]

    def _least_work(self, combination: Combination, arranged: Arrangements) -> Layout:
        """Of the arrangements of one combination that go on: one that keeps most mounted wheels, then the roomiest."""
        first, mounted = arranged[0], self.wanted.mounted
        if mounted is None:
            return first
        if not first.train.idlers and not set(mounted.teeth) & set(combination.wheels):
            return first
        return arranged.keeping_most(mounted)

    def _closest_unfit(self, attempts: list[_Attempt[S, V]], going: list[_Attempt[S, V]]) -> _Attempt[S, V] | None:
        nearest = min(attempts, key=lambda a: (size_of(a.error), abs(a.error), not a.fits), default=None)
        if nearest is None or nearest.fits:
            return None
        return None if going and min(abs(c.error) for c in going) <= abs(nearest.error) else nearest

    def _one_more(self, going: list[_Attempt[S, V]]) -> Candidate[S, V] | None:
        """The best train with one wheel not held, when it is closer than anything that fits without and what there is
        errs so far that it matters. Of wheels that do the same the smallest."""
        present = min((abs(c.error) for c in going), default=None)
        if present == 0 or any(c.verdict.rank == 0 for c in going):
            return None
        new = new_wheels(self.box, self.stock)
        within = _NEW_WITHIN if present is None else min(float(present), _NEW_WITHIN)
        (every,) = closest_with_new_wheels([(self.wanted, new, within)], self.box, self.stock, _OF_A_NEW_WHEEL)
        better = [h for h in every if present is None or abs(h.error) < present]
        for start, end in pairwise((0, *_NEW_LAID_OUT)):
            some = better[start:end]
            lines = [some[n : n + _NEW_LINE] for n in range(0, len(some), _NEW_LINE)]
            try:
                places = place_all(lines, self.wanted.hand, self.box, self.stock, new)
            except OverBudget:
                self.cut_short = True
                return None
            fitting = [self.candidate(places[h.combination], h.target) for h in some if h.combination in places]
            if fitting:
                return min(fitting, key=lambda c: (abs(c.error), max(c.lacking), len(c.train.wheels), -c.laid.room))
        return None

    def _shortfall(self, going: list[_Attempt[S, V]], attempts: list[_Attempt[S, V]], hits: list[Hit[S]]) -> Shortfall:
        best = min((c.error for c in going), key=abs, default=None)
        if not hits:
            return Shortfall(ShortfallCause.NO_TRAIN, best)
        if attempts and not going and all(_never_closes(a.laid.placement) for a in attempts):
            return Shortfall(ShortfallCause.NEVER_CLOSES, best)
        ends = reach(self.wanted, self.box, self.stock)
        if ends is None:
            return Shortfall(ShortfallCause.NO_TRAIN, best)
        least, most = ends
        if self.wanted.value < least and not any(a.error <= 0 for a in going):
            return Shortfall(ShortfallCause.LESS_THAN_LEAST, best, least, most)
        if self.wanted.value > most and not any(a.error >= 0 for a in going):
            return Shortfall(ShortfallCause.MORE_THAN_MOST, best, least, most)
        if self.wanted.judge(hits[0].error).good:
            return Shortfall(ShortfallCause.NEAR_ONES_DO_NOT_FIT, best)
        sizes = (min(self.stock), max(self.stock))
        nearest = floor(self.wanted.ratios, *sizes, 2, self.box.fixed.first, self.box.fixed.last)
        return Shortfall(ShortfallCause.NOTHING_NEAR, best, floor=nearest, floor_teeth=sizes)


def _job_rank(verdict: Judgement, error: Fraction) -> tuple[int, float]:
    """How well it does for the job; of those that do not do, the closer comes first."""
    return verdict.rank, 0.0 if verdict.good else size_of(error)


_OPEN = {
    Reason.CENTRES_TOO_CLOSE, Reason.CENTRES_TOO_FAR, Reason.STUD_BEYOND_SLOT, Reason.STUD_SHORT_OF_SLOT,
    Reason.SWING_TOO_LOW, Reason.SWING_TOO_HIGH, Reason.TOO_FEW_STUDS,
}  # fmt: skip


def _never_closes(placement: Placement) -> bool:
    """The wheels do not even reach from shaft to shaft within slots and swing."""
    return any(o.reason in _OPEN for o in placement.obstacles)
