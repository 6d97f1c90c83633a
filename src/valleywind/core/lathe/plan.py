"""From a wanted thread or feed to trains and levers that give it on this lathe with these wheels, in order of merit."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from functools import partial

from valleywind.core.interrupt import Exhausted
from valleywind.core.lathe.find import (
    Hit,
    hand_of,
    hits,
    hits_keeping,
    may_take,
    new_wheels,
    place_all,
    reach,
    with_each_new_wheel,
)
from valleywind.core.lathe.machine import Lathe, Setting, SetUp
from valleywind.core.lathe.thread import Ask, Stated, ThreadAsk
from valleywind.core.lathe.verdict import Goes, Verdict
from valleywind.core.refusal import Refused
from valleywind.core.trains.arrange import arrange, with_idlers
from valleywind.core.trains.direction import Hand, HandAdvice, advise
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.merit import Handling, handling, least_trouble, most_exact
from valleywind.core.trains.model import Combination, Stock, Train, lacking
from valleywind.core.trains.placement import Laid, Placement, Reason
from valleywind.core.trains.quadrant import MOST_STUDS
from valleywind.core.trains.search import floor
from valleywind.core.units import MM_PER_INCH

# How many of the closest combinations are looked at, of these every one good enough is laid out; and up to how many,
# four times as many each time, where too few of them go on.
_LOOKED_AT, _LOOKED_AT_MOST = 160, 2560
# For each choice of mounted wheels that could stay on, so many of the closest besides.
_KEEPING = 12
# So many of the closest are laid out whatever their verdict, so that a hopeless ask still shows what comes nearest.
_ALWAYS_LAID_OUT = 24
# Idlers in a compound train, a hundred arrangements each, are tried for so many at most, and only when fewer trains
# than this go on without, and for the closest few anyway.
_ENOUGH = 6
# More idlers than this are a last resort.
_USUAL_IDLERS = 2
_IDLERS_TRIED = 12
# Combinations with a new wheel: how far off at most, how many of each wheel, how many are looked at in all, and how
# many of them are laid out at a time.
_NEW_WITHIN, _OF_A_NEW_WHEEL, _NEW_LOOKED_AT, _NEW_AT_A_TIME = 0.25, 4, 256, 16


class Order(StrEnum):
    LEAST_TROUBLE = "least_trouble"
    MOST_EXACT = "most_exact"


@dataclass(frozen=True)
class Candidate:
    """One train for the ask, with the levers set. error: signed, lead / wanted lead − 1; lead in mm per turn."""

    laid: Laid
    setting: Setting
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
    def set_up(self) -> SetUp:
        return SetUp(self.train, self.setting)

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


class ShortfallCause(StrEnum):
    """Why nothing meets an ask."""

    FINER_THAN_FINEST = "finer_than_finest"
    COARSER_THAN_COARSEST = "coarser_than_coarsest"
    NEAR_ONES_DO_NOT_FIT = "near_ones_do_not_fit"
    NOTHING_NEAR = "nothing_near"
    NEVER_CLOSES = "never_closes"
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
    """What came of an ask. `target` is the ratio with the levers as usual; `candidates` stand in the wanted order;
    `most_exact_unfit` is the closest train, when that does not go on; `one_more` the best train with one wheel that is
    not held, when that is better; `cut_short` says that not all was laid out, for it would have cost too much."""

    ask: Ask
    lathe: Lathe
    target: Fraction
    order: Order
    candidates: tuple[Candidate, ...]
    most_exact_unfit: Candidate | None
    one_more: Candidate | None
    one_more_teeth: int | None
    shortfall: Shortfall | None
    cut_short: bool = False


def plan(
    ask: Ask,
    lathe: Lathe,
    stock: Stock,
    mounted: SetUp | None = None,
    order: Order = Order.LEAST_TROUBLE,
    best: int = 12,
) -> Plan:
    """The `best` trains for `ask`, laid out and judged, and what stands next to them.

    Raises Refused: `no_wheels` (stock), `no_cross_feed` (ask), `class_not_of_series` (class).
    """
    if not any(n > 0 for n in stock.values()):
        raise Refused("no_wheels", "stock", lathe.name)
    return _Planner(ask, lathe, stock, mounted).plan(order, best)


def candidate_for(set_up: SetUp, ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None) -> Candidate:
    """One particular train judged for this ask, whether or not it is a good one."""
    laid = lay_out([set_up.train], lathe.family, lathe.quadrant)[0]
    return _Planner(ask, lathe, stock, mounted).candidate(laid, set_up.setting)


def judging(ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None) -> Callable[[Laid, Setting], Candidate]:
    """What judges laid-out trains for this ask, one by one."""
    return _Planner(ask, lathe, stock, mounted).candidate


def right_handed(candidate: Candidate, ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None) -> Candidate | None:
    """For a train that turns the screw the wrong way: the same with one idler less, or with the roomiest one more that
    is left in stock and goes on; None where the hand is right or no idler helps."""
    train = candidate.train
    if candidate.hand.right:
        return None
    fewer = [
        Train((*train.stages[:n], replace(stage, idlers=stage.idlers[1:]), *train.stages[n + 1 :]))
        for n, stage in enumerate(train.stages)
        if stage.idlers
    ]
    more = with_idlers(train, 1, lathe.free(stock)) if train.shafts - 2 < lathe.quadrant.studs else []
    for ways in (fewer, more):
        going = [laid for laid in lay_out(ways, lathe.family, lathe.quadrant) if laid.fits]
        if going:
            roomiest = max(going, key=lambda laid: laid.room)
            return _Planner(ask, lathe, stock, mounted).candidate(roomiest, candidate.setting)
    return None


def plan_of(mounted: SetUp, lathe: Lathe, stock: Stock) -> Plan:
    """What a train cuts: the plan whose ask is the lead it gives, in threads per inch where that comes out even."""
    lead = lathe.lead_of(mounted.train.ratio, mounted.setting)
    per_inch = MM_PER_INCH / lead
    stated = Stated.TPI if per_inch.denominator in (1, 2, 4) else Stated.MM
    hand = Hand.RIGHT if advise(mounted.train.meshes, Hand.RIGHT, lathe.drive).right else Hand.LEFT
    ask = ThreadAsk(lead, stated, hand=hand)
    found = candidate_for(mounted, ask, lathe, stock, mounted)
    return Plan(ask, lathe, mounted.train.ratio, Order.LEAST_TROUBLE, (found,), None, None, None, None)


class _Planner:
    def __init__(self, ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None) -> None:
        self.ask, self.lathe, self.stock, self.mounted = ask, lathe, stock, mounted
        self.target = lathe.ratio_for(ask.lead, way=ask.way)
        self.cut_short = False

    def plan(self, order: Order, best: int) -> Plan:
        found, candidates = self._closest()
        if self.lathe.quadrant.studs >= 2 and not any(c.good for c in candidates):
            longer = hits(self.ask, self.lathe, self.stock, (3,), _LOOKED_AT)[:_ALWAYS_LAID_OUT]
            candidates += self.candidates(longer)
            found = sorted(found + longer, key=lambda h: h.found.merit)
        if not any(c.fits for c in candidates):
            wanted = partial(hits, self.ask, self.lathe, self.stock, (1, 2))
            candidates += self.first_going(wanted, found, _ALWAYS_LAID_OUT)
        going = self._sorted([c for c in candidates if c.fits], order)
        shown = [c for c in going if c.verdict.goes is not Goes.NOT] or going[:5]
        unfit = self._closest_unfit(candidates, going)
        one_more = self._one_more(going)
        shortfall = None if any(c.good for c in going) else self._shortfall(going, candidates, found)
        teeth = next(iter(one_more.lacking)) if one_more else None
        return Plan(
            self.ask, self.lathe, self.target, order, tuple(shown[:best]), unfit, one_more, teeth, shortfall,
            self.cut_short,
        )  # fmt: skip

    def _closest(self) -> tuple[list[Hit], list[Candidate]]:
        """What comes closest, and what leaves most wheels on; with many wheels more and more, until enough goes on or
        the next would not do for the job."""
        found = hits(self.ask, self.lathe, self.stock, (1, 2), _LOOKED_AT)
        first = found
        if self.mounted is not None:
            known = {(h.found.combination, h.setting) for h in found}
            keeping = hits_keeping(self.ask, self.lathe, self.stock, self.mounted.train, _KEEPING)
            first = found + [h for h in keeping if (h.found.combination, h.setting) not in known]
        candidates = self.candidates(first)
        while len(found) < _LOOKED_AT_MOST and sum(c.good for c in candidates) < _ENOUGH:
            if len(found) < _LOOKED_AT or not self.ask.judged(found[-1].found.error).good:
                break
            further = hits(self.ask, self.lathe, self.stock, (1, 2), 4 * len(found))
            if len(further) == len(found):
                break
            good = [h for h in further[len(found) :] if self.ask.judged(h.found.error).good]
            candidates += self.candidates(good, whatever=True)
            found = further
        return found, candidates

    def first_going(
        self, looked_for: Callable[[int], list[Hit]], known: Sequence[Hit] = (), start: int = 0
    ) -> list[Candidate]:
        """Of hits in an order, from one of them on, the first stretch in which anything goes on, however far off it
        is. `looked_for` finds so many; `known` are the first of them."""
        found = list(known)
        while start < _LOOKED_AT_MOST:
            end = start + max(2 * _ALWAYS_LAID_OUT, start)
            if end > len(found):
                found = looked_for(end)
            candidates = self.candidates(found[start:end], whatever=True)
            if any(c.fits for c in candidates) or end > len(found):
                return candidates
            start = end
        return []

    def candidate(self, laid: Laid, setting: Setting) -> Candidate:
        train, setting = laid.train, self._as_it_stands(setting)
        lead = self.lathe.lead_of(train.ratio, setting, self.ask.way)
        error = lead / self.ask.lead - 1
        return Candidate(
            laid,
            setting,
            error,
            lead,
            self.ask.judged(error),
            advise(train.meshes, hand_of(self.ask, self.lathe), self.lathe.drive),
            self._handling(train, setting),
            lacking((w.teeth for w in train.wheels), self.stock),
        )

    def _as_it_stands(self, setting: Setting) -> Setting:
        """Of two lever positions with the same ratio the one that needs no moving."""
        now = self.mounted.setting if self.mounted else None
        return now if now is not None and now.ratio == setting.ratio else setting

    def _handling(self, train: Train, setting: Setting) -> Handling:
        if self.mounted is None:
            return handling(train, None)
        now = self.mounted.setting
        return handling(train, self.mounted.train, (setting.first != now.first) + (setting.box != now.box))

    def _sorted(self, candidates: list[Candidate], order: Order) -> list[Candidate]:
        if order is Order.MOST_EXACT:
            return sorted(candidates, key=lambda c: most_exact(c.fits, c.handling, c.train, c.error))
        return sorted(candidates, key=lambda c: least_trouble(c.fits, _job_rank(c), c.handling, c.train, c.error))

    def candidates(self, found: list[Hit], whatever: bool = False) -> list[Candidate]:
        """One candidate a hit: the best arrangement of its combination, with as few idlers as will do.

        `found` comes closest first; those far off are left out beyond the first few, unless `whatever` is wanted, but
        then with one idler at most.
        """
        tried: list[Hit] = []
        closest: dict[Combination, Goes] = {}
        for n, hit in enumerate(found):
            goes = self.ask.judged(hit.found.error).goes
            if whatever or n < _ALWAYS_LAID_OUT or goes is not Goes.NOT:
                tried.append(hit)
                closest.setdefault(hit.found.combination, goes)
        best: dict[Combination, Laid] = {}
        for idlers in range(min(self.lathe.quadrant.studs, 1 if whatever else MOST_STUDS) + 1):
            if idlers > _USUAL_IDLERS and any(laid.fits for laid in best.values()):
                break
            try:
                arrangements = self._arranged(self._to_try(closest, idlers, best), idlers)
            except Exhausted:
                self.cut_short = True
                break
            for combination, arranged in arrangements:
                chosen = self._least_work(arranged)
                if combination not in best or chosen.fits:
                    best[combination] = chosen
        return [self.candidate(best[c], h.setting) for h in tried if (c := h.found.combination) in best]

    def _to_try(
        self, closest: dict[Combination, Goes], idlers: int, best: dict[Combination, Laid]
    ) -> list[Combination]:
        """Which combinations deserve a try with so many idlers: those without a place yet, but compound trains only
        as long as few others go on, and the closest of them in any case."""
        wanted = list(closest)
        homeless = [
            c
            for c in wanted
            if may_take(c, idlers, hand_of(self.ask, self.lathe), self.lathe) and not (c in best and best[c].fits)
        ]
        if not idlers:
            return homeless
        compound = [c for c in homeless if c.stages > 1]
        good = sum(laid.fits and closest[c].rank <= Goes.MID_TOLERANCE.rank for c, laid in best.items())
        if good >= _ENOUGH:
            compound = [c for c in compound if c in wanted[:_ENOUGH]]
        # Every further idler multiplies the arrangements of a train.
        return [c for c in homeless if c.stages == 1] + compound[: _IDLERS_TRIED // idlers**2]

    def _arranged(self, combinations: list[Combination], idlers: int) -> list[tuple[Combination, list[Laid]]]:
        lathe, free = self.lathe, self.lathe.free(self.stock)
        ways = arrange(combinations, idlers, free, lathe.family, lathe.quadrant, lathe.fixed)
        return [(c, arranged) for c, arranged in zip(combinations, ways, strict=True) if arranged]

    def _least_work(self, arranged: list[Laid]) -> Laid:
        """Of the arrangements of one combination: one that fits and keeps most mounted wheels, then the roomiest."""
        fitting = [a for a in arranged if a.fits]
        if not fitting:
            return arranged[0]
        mounted = self.mounted.train if self.mounted else None
        if mounted is None or not set(mounted.teeth) & set(fitting[0].train.teeth):
            return fitting[0]
        return max(fitting, key=lambda a: (handling(a.train, mounted).kept, a.room))

    def _closest_unfit(self, candidates: list[Candidate], going: list[Candidate]) -> Candidate | None:
        closest = min(candidates, key=lambda c: (abs(c.error), not c.fits), default=None)
        if closest is None or closest.fits:
            return None
        return None if going and min(abs(c.error) for c in going) <= abs(closest.error) else closest

    def _one_more(self, going: list[Candidate]) -> Candidate | None:
        """The best train with one wheel not held, when it is closer than anything that fits without."""
        present = min((abs(c.error) for c in going), default=None)
        if present == 0:
            return None
        new = new_wheels(self.lathe, self.stock)
        within = _NEW_WITHIN if present is None else min(float(present), _NEW_WITHIN)
        near = with_each_new_wheel(self.ask, self.lathe, self.stock, new, within, _OF_A_NEW_WHEEL)
        every = sorted((h for some in near.values() for h in some), key=lambda h: h.found.merit)
        better = [h for h in every if present is None or abs(h.found.error) < present][:_NEW_LOOKED_AT]
        for start in range(0, len(better), _NEW_AT_A_TIME):
            some = better[start : start + _NEW_AT_A_TIME]
            try:
                places = place_all([some], hand_of(self.ask, self.lathe), self.lathe, self.stock, new)
            except Exhausted:
                self.cut_short = True
                return None
            fitting = [self.candidate(places[c], h.setting) for h in some if (c := h.found.combination) in places]
            if fitting:
                return min(fitting, key=lambda c: (abs(c.error), len(c.train.wheels), -c.laid.room))
        return None

    def _shortfall(self, going: list[Candidate], candidates: list[Candidate], found: list[Hit]) -> Shortfall:
        best = min((c.error for c in going), key=abs, default=None)
        if not found:
            return Shortfall(ShortfallCause.NO_TRAIN, best)
        if candidates and not going and all(_never_closes(c) for c in candidates):
            return Shortfall(ShortfallCause.NEVER_CLOSES, best)
        ends = reach(self.ask, self.lathe, self.stock)
        if ends is None:
            return Shortfall(ShortfallCause.NO_TRAIN, best)
        finest, coarsest = ends
        if self.ask.lead < finest and not any(c.lead <= self.ask.lead for c in going):
            return Shortfall(ShortfallCause.FINER_THAN_FINEST, best, finest, coarsest)
        if self.ask.lead > coarsest and not any(c.lead >= self.ask.lead for c in going):
            return Shortfall(ShortfallCause.COARSER_THAN_COARSEST, best, finest, coarsest)
        if self.ask.judged(found[0].found.error).good:
            return Shortfall(ShortfallCause.NEAR_ONES_DO_NOT_FIT, best)
        sizes = (min(self.stock), max(self.stock))
        targets = [self.lathe.ratio_for(self.ask.lead, s, self.ask.way) for s in self.lathe.settings]
        nearest = floor(targets, *sizes, 2, self.lathe.first_drivers, self.lathe.last_driven)
        return Shortfall(ShortfallCause.NOTHING_NEAR, best, floor=nearest, floor_teeth=sizes)


def _job_rank(candidate: Candidate) -> tuple[int, float]:
    """How well it does for the job; of those that do not do, the closer comes first."""
    verdict = candidate.verdict
    return verdict.goes.rank, 0.0 if verdict.good else abs(float(candidate.error))


_OPEN = {
    Reason.CENTRES_TOO_CLOSE, Reason.CENTRES_TOO_FAR, Reason.STUD_BEYOND_SLOT, Reason.STUD_SHORT_OF_SLOT,
    Reason.SWING_TOO_LOW, Reason.SWING_TOO_HIGH, Reason.TOO_FEW_STUDS,
}  # fmt: skip


def _never_closes(candidate: Candidate) -> bool:
    """The wheels do not even reach from shaft to shaft within slots and swing."""
    return any(o.reason in _OPEN for o in candidate.placement.obstacles)
