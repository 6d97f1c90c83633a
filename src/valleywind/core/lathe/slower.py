"""Slower and finer than the wheels allow: which smaller driver, or bigger driven wheel, would do it and go on."""

from collections import Counter
from collections.abc import Iterable
from dataclasses import dataclass
from itertools import pairwise

from valleywind.core.lathe.machine import Lathe, LeverSetting, SetUp
from valleywind.core.lathe.plan import Candidate, planner_for, requirement
from valleywind.core.lathe.thread import Ask
from valleywind.core.teeth.pitch import MOST_TEETH
from valleywind.core.trains.closest import Hit, least
from valleywind.core.trains.model import Stock
from valleywind.core.trains.new_wheels import SMALLEST_CUT, new_wheels, smallest_on_shaft
from valleywind.core.trains.places import place_all

# The slowest combinations are looked at in stretches up to these places, until one goes on; with a new wheel one.
_STRETCHES = (4, 8, 16, 32, 96, 400, 2400)
_WITH_NEW = 96
# How many compound trains of each stretch are tried with an idler, without and with a new wheel.
_WITH_IDLER, _NEW_WITH_IDLER = 8, 2


@dataclass(frozen=True)
class WithNew:
    """The slowest that goes on with one new wheel, and which wheel of the present slowest it takes the place of."""

    new: int
    instead: int | None
    candidate: Candidate


@dataclass(frozen=True)
class Slower:
    """now: the slowest that goes on with the wheels held, None where nothing does. smaller: with a smaller driver, the
    slowest first; bigger: with a bigger driven wheel. smallest_on_shaft: the fewest teeth that leave metal over the
    key; smallest_cut: the fewest that the cutters cut."""

    now: Candidate | None
    smaller: tuple[WithNew, ...]
    bigger: tuple[WithNew, ...]
    smallest_cut: int
    smallest_on_shaft: int


def slower(
    ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None = None, smallest_cut: int = SMALLEST_CUT
) -> Slower:
    """The slowest lead or feed of the kind asked for, and what one new wheel would bring.

    Wheels thought of: smaller than the smallest held, as far as cutters and shaft allow, and bigger than the largest.
    """
    held = [t for t, n in stock.items() if n > 0]
    on_shaft = smallest_on_shaft(lathe.family)
    now = _first_going({0: _slowest(ask, lathe, stock, _STRETCHES[-1])}, ask, lathe, stock, mounted, _WITH_IDLER).get(0)
    new = new_wheels(lathe.gearbox, stock, smallest_cut)
    smaller = _with_each([t for t in new if t < min(held, default=0)], now, ask, lathe, stock, mounted)
    bigger = _with_each([t for t in new if t > max(held, default=MOST_TEETH)], now, ask, lathe, stock, mounted)
    return Slower(now, smaller, bigger, smallest_cut, on_shaft)


def _with_each(
    counts: Iterable[int], now: Candidate | None, ask: Ask, lathe: Lathe, stock: Stock, mounted: SetUp | None
) -> tuple[WithNew, ...]:
    """One new wheel of each of these counts, where it brings something slower; the slowest first."""
    slower_with = {
        teeth: [h for h in brought if teeth in h.combination.wheels]
        for teeth in counts
        for brought in [_slowest(ask, lathe, {**stock, teeth: 1}, _WITH_NEW, now)]
    }
    going = _first_going(slower_with, ask, lathe, stock, mounted, _NEW_WITH_IDLER)
    brought = [WithNew(teeth, _instead(teeth, now, candidate), candidate) for teeth, candidate in going.items()]
    return tuple(sorted(brought, key=lambda w: w.candidate.value))


def _slowest(ask: Ask, lathe: Lathe, stock: Stock, best: int, than: Candidate | None = None) -> list[Hit[LeverSetting]]:
    """The slowest combinations, of those that are slower than what there is."""
    hits = least(requirement(ask, lathe), lathe.gearbox, stock, best)
    if than is None:
        return hits
    return [h for h in hits if h.combination.ratio * h.target.gives < than.value]


def _first_going(
    lines: dict[int, list[Hit[LeverSetting]]],
    ask: Ask,
    lathe: Lathe,
    stock: Stock,
    mounted: SetUp | None,
    with_idler: int,
) -> dict[int, Candidate]:
    """For each wheel thought of the slowest of its combinations that goes on, stretch by stretch, all laid out
    together."""
    judge = planner_for(ask, lathe, stock, mounted).candidate
    going: dict[int, Candidate] = {}
    for start, end in pairwise((0, *_STRETCHES)):
        some = {teeth: line for teeth, every in lines.items() if teeth not in going and (line := every[start:end])}
        places = place_all(some.values(), lathe.hand_of(ask.way, ask.hand), lathe.gearbox, stock, some, with_idler)
        for teeth, line in some.items():
            fitting = [judge(places[c], h.target) for h in line if (c := h.combination) in places]
            if fitting:
                going[teeth] = min(fitting, key=lambda c: c.value)
    return going


def _instead(new: int, now: Candidate | None, going: Candidate) -> int | None:
    """The one wheel of the present train that the new one takes the place of, if it is one."""
    if now is None:
        return None
    gone = Counter(now.train.teeth) - Counter(going.train.teeth)
    come = Counter(going.train.teeth) - Counter(now.train.teeth)
    return next(iter(gone)) if sum(gone.values()) == 1 and come == Counter([new]) else None
