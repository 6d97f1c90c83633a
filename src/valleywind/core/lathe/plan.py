"""From a wanted thread to trains that cut it on this lathe with these wheels, in order of merit."""

from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.thread import Stated, ThreadAsk
from valleywind.core.lathe.verdict import Goes, Verdict, judge
from valleywind.core.refusal import Refused
from valleywind.core.trains.arrange import Fixed, arrange
from valleywind.core.trains.direction import Hand, HandAdvice, advise
from valleywind.core.trains.layout import Laid, Placement, lay_out
from valleywind.core.trains.merit import Handling, handling, least_trouble, most_exact
from valleywind.core.trains.model import Combination, Stock, Train, lacking
from valleywind.core.trains.search import Found, floor, search
from valleywind.core.trains.worth import with_one_more
from valleywind.core.units import MM_PER_INCH

# How many of the closest combinations are looked at; of these every one good enough is laid out.
_LOOKED_AT = 160
# So many of the closest are laid out whatever their verdict, so that a hopeless ask still shows what comes nearest.
_ALWAYS_LAID_OUT = 24
# Idlers in a compound train are tried when fewer trains than this go on without, and for the closest few anyway.
_ENOUGH = 6
_IDLERS_TRIED = 12
# Tooth numbers thought of for one more wheel: from a little below the smallest held to well above the largest.
_FEWEST_NEW, _MOST_NEW, _ABOVE_LARGEST = 17, 130, 40
_NEW_AT_A_TIME = (24, 240)
# A ratio that no train reaches: what comes closest to it is the end of the range.
_BEYOND_FINEST = Fraction(1, 10**9)


class Order(StrEnum):
    LEAST_TROUBLE = "least_trouble"
    MOST_EXACT = "most_exact"


@dataclass(frozen=True)
class Candidate:
    """One train for the ask. error: signed, lead / wanted lead − 1; lead in mm per spindle turn."""

    laid: Laid
    error: Fraction
    lead: Fraction
    verdict: Verdict
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
        """It goes on, and the nut goes on over the whole engagement."""
        return self.fits and self.verdict.goes.rank <= Goes.MID_TOLERANCE.rank


class ShortfallCause(StrEnum):
    """Why nothing meets an ask."""

    FINER_THAN_FINEST = "finer_than_finest"
    COARSER_THAN_COARSEST = "coarser_than_coarsest"
    NEAR_ONES_DO_NOT_FIT = "near_ones_do_not_fit"
    NOTHING_NEAR = "nothing_near"
    NO_TRAIN = "no_train"


@dataclass(frozen=True)
class Shortfall:
    """Nothing meets the ask. best_error: of the best that fits; finest, coarsest: the ends of the range in two stages,
    mm; floor: the relative error that any wheels of `floor_teeth` could reach in two stages."""

    cause: ShortfallCause
    best_error: Fraction | None
    finest: Fraction | None = None
    coarsest: Fraction | None = None
    floor: Fraction | None = None
    floor_teeth: tuple[int, int] | None = None


@dataclass(frozen=True)
class Plan:
    """What came of an ask. `candidates` in the wanted order; `most_exact_unfit` is the closest train, when that does
    not go on; `one_more` the best train with one wheel that is not held, when that is better."""

    ask: ThreadAsk
    lathe: Lathe
    target: Fraction
    order: Order
    candidates: tuple[Candidate, ...]
    most_exact_unfit: Candidate | None
    one_more: Candidate | None
    one_more_teeth: int | None
    shortfall: Shortfall | None


def plan(
    ask: ThreadAsk,
    lathe: Lathe,
    stock: Stock,
    mounted: Train | None = None,
    order: Order = Order.LEAST_TROUBLE,
    best: int = 12,
    fixed: Fixed = Fixed(),
) -> Plan:
    """The `best` trains for `ask`, laid out and judged, and what stands next to them.

    Raises Refused: `no_wheels` (stock), `not_held` (first, last).
    """
    if not any(n > 0 for n in stock.values()):
        raise Refused("no_wheels", "stock", lathe.name)
    return _Planner(ask, lathe, stock, mounted, fixed).plan(order, best)


def candidate_for(train: Train, ask: ThreadAsk, lathe: Lathe, stock: Stock, mounted: Train | None) -> Candidate:
    """One particular train judged for this ask, whether or not it is a good one."""
    return _Planner(ask, lathe, stock, mounted, Fixed()).candidate(lay_out([train], lathe.family, lathe.quadrant)[0])


def plan_of(mounted: Train, lathe: Lathe, stock: Stock) -> Plan:
    """What a train cuts: the plan whose ask is the lead it gives, in threads per inch where that comes out even."""
    lead = lathe.lead_of(mounted.ratio)
    per_inch = MM_PER_INCH / lead
    stated = Stated.TPI if per_inch.denominator in (1, 2, 4) else Stated.MM
    hand = Hand.RIGHT if advise(mounted.meshes, Hand.RIGHT, lathe.drive).right else Hand.LEFT
    ask = ThreadAsk(lead, stated, hand=hand)
    found = candidate_for(mounted, ask, lathe, stock, mounted)
    return Plan(ask, lathe, mounted.ratio, Order.LEAST_TROUBLE, (found,), None, None, None, None)


class _Planner:
    def __init__(self, ask: ThreadAsk, lathe: Lathe, stock: Stock, mounted: Train | None, fixed: Fixed) -> None:
        self.ask, self.lathe, self.stock, self.mounted, self.fixed = ask, lathe, stock, mounted, fixed
        self.target = lathe.ratio_for(ask.lead)

    def plan(self, order: Order, best: int) -> Plan:
        found = self._search((1, 2))
        candidates = self._candidates(found)
        if self.lathe.quadrant.studs >= 2 and not any(c.good for c in candidates):
            longer = self._search((3,))[:_ALWAYS_LAID_OUT]
            candidates += self._candidates(longer)
            found = sorted(found + longer, key=lambda f: f.merit)
        going = self._sorted([c for c in candidates if c.fits], order)
        shown = [c for c in going if c.verdict.goes is not Goes.NOT] or going[:5]
        unfit = self._closest_unfit(candidates, going)
        one_more = self._one_more(going)
        shortfall = None if any(c.good for c in going) else self._shortfall(going, found)
        teeth = next(iter(one_more.lacking)) if one_more else None
        return Plan(self.ask, self.lathe, self.target, order, tuple(shown[:best]), unfit, one_more, teeth, shortfall)

    def _search(self, stages: Sequence[int]) -> list[Found]:
        return search(self.target, self.stock, stages, _LOOKED_AT, first=self.fixed.first, last=self.fixed.last)

    def judged(self, error: Fraction) -> Verdict:
        ask = self.ask
        return judge(error, float(ask.pitch), float(ask.nominal), float(ask.length), float(ask.included_angle))

    def candidate(self, laid: Laid) -> Candidate:
        train = laid.train
        error = train.ratio / self.target - 1
        return Candidate(
            laid,
            error,
            self.lathe.lead_of(train.ratio),
            self.judged(error),
            advise(train.meshes, self.ask.hand, self.lathe.drive),
            handling(train, self.mounted),
            lacking((w.teeth for w in train.wheels), self.stock),
        )

    def _sorted(self, candidates: list[Candidate], order: Order) -> list[Candidate]:
        if order is Order.MOST_EXACT:
            return sorted(candidates, key=lambda c: most_exact(c.fits, c.handling, c.train, c.error))
        return sorted(
            candidates, key=lambda c: least_trouble(c.fits, c.verdict.goes.rank, c.handling, c.train, c.error)
        )

    def _candidates(self, found: list[Found], compound_idlers: int = _IDLERS_TRIED) -> list[Candidate]:
        """One candidate a combination: its best arrangement, with as few idlers as will do.

        `found` comes closest first; those far off are left out beyond the first few. So many compound trains
        at most are tried with idlers, which costs a hundred arrangements each.
        """
        near, far = found[:_ALWAYS_LAID_OUT], found[_ALWAYS_LAID_OUT:]
        wanted = [f.combination for f in near + [f for f in far if self.judged(f.error).goes is not Goes.NOT]]
        best: dict[Combination, Candidate] = {}
        for idlers in range(self.lathe.quadrant.studs + 1):
            for combination, arranged in self._arranged(self._to_try(wanted, idlers, best, compound_idlers), idlers):
                chosen = self._least_work(arranged)
                if combination not in best or chosen.fits:
                    best[combination] = chosen
        return list(best.values())

    def _to_try(
        self, wanted: list[Combination], idlers: int, best: dict[Combination, Candidate], compound_idlers: int
    ) -> list[Combination]:
        """Which combinations deserve a try with so many idlers: those without a place yet, but compound trains only
        as long as few others go on, and the closest of them in any case."""
        homeless = [c for c in wanted if self._may_take(c, idlers) and not (c in best and best[c].fits)]
        if not idlers:
            return homeless
        compound = [c for c in homeless if c.stages > 1]
        if sum(c.good for c in best.values()) >= _ENOUGH:
            compound = [c for c in compound if c in wanted[:_ENOUGH]]
        return [c for c in homeless if c.stages == 1] + compound[:compound_idlers]

    def _arranged(self, combinations: list[Combination], idlers: int) -> list[tuple[Combination, list[Laid]]]:
        ways = arrange(combinations, idlers, self.stock, self.lathe.family, self.lathe.quadrant, self.fixed)
        return [(c, arranged) for c, arranged in zip(combinations, ways, strict=True) if arranged]

    def _may_take(self, combination: Combination, idlers: int) -> bool:
        """Whether so many idlers leave the hand right, and there is a stud for each."""
        studs = combination.stages - 1 + idlers
        meshes = combination.stages + idlers
        enough = studs <= self.lathe.quadrant.studs or (idlers == 0 and combination.stages > 1)
        return enough and advise(meshes, self.ask.hand, self.lathe.drive).right

    def _least_work(self, arranged: list[Laid]) -> Candidate:
        """Of the arrangements of one combination: one that fits and keeps most mounted wheels, then the roomiest."""
        fitting = [a for a in arranged if a.fits]
        if not fitting:
            return self.candidate(arranged[0])
        return self.candidate(max(fitting, key=lambda a: (handling(a.train, self.mounted).kept, a.room)))

    def _closest_unfit(self, candidates: list[Candidate], going: list[Candidate]) -> Candidate | None:
        closest = min(candidates, key=lambda c: (abs(c.error), not c.fits), default=None)
        if closest is None or closest.fits:
            return None
        return None if going and min(abs(c.error) for c in going) <= abs(closest.error) else closest

    def _one_more(self, going: list[Candidate]) -> Candidate | None:
        """The best train with one wheel not held, when it is closer than anything that fits without."""
        held = [t for t, n in self.stock.items() if n > 0]
        counts = range(_FEWEST_NEW, min(_MOST_NEW, max(held) + _ABOVE_LARGEST) + 1)
        present = min((abs(c.error) for c in going), default=None)
        if present == 0:
            return None
        tried = 0
        for best in _NEW_AT_A_TIME:
            near = with_one_more(self.target, self.stock, counts, best=best)[tried:]
            better = [
                w.found
                for w in near
                if (present is None or abs(w.found.error) < present) and self._keeps_fixed(w.found.combination)
            ]
            fitting = [c for c in self._candidates(better, compound_idlers=0) if c.goes_on]
            if fitting:
                return min(fitting, key=lambda c: (abs(c.error), len(c.train.wheels), -c.laid.room))
            tried = best
        return None

    def _keeps_fixed(self, combination: Combination) -> bool:
        first, last = self.fixed.first, self.fixed.last
        return (first is None or first in combination.drivers) and (last is None or last in combination.driven)

    def _shortfall(self, going: list[Candidate], found: list[Found]) -> Shortfall:
        best = min((c.error for c in going), key=abs, default=None)
        if not found:
            return Shortfall(ShortfallCause.NO_TRAIN, best)
        finest, coarsest = self._range()
        if self.ask.lead < finest and not any(c.lead <= self.ask.lead for c in going):
            return Shortfall(ShortfallCause.FINER_THAN_FINEST, best, finest, coarsest)
        if self.ask.lead > coarsest and not any(c.lead >= self.ask.lead for c in going):
            return Shortfall(ShortfallCause.COARSER_THAN_COARSEST, best, finest, coarsest)
        if self.judged(found[0].error).goes.rank <= Goes.MID_TOLERANCE.rank:
            return Shortfall(ShortfallCause.NEAR_ONES_DO_NOT_FIT, best)
        sizes = (min(self.stock), max(self.stock))
        return Shortfall(ShortfallCause.NOTHING_NEAR, best, floor=floor(self.target, *sizes, 2), floor_teeth=sizes)

    def _range(self) -> tuple[Fraction, Fraction]:
        """Finest and coarsest lead that the wheels give in one or two stages, whether or not they go on, mm."""
        ends = (search(target, self.stock, (1, 2), 1)[0] for target in (_BEYOND_FINEST, 1 / _BEYOND_FINEST))
        finest, coarsest = (self.lathe.lead_of(end.combination.ratio) for end in ends)
        return finest, coarsest
