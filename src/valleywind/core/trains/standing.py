"""How many things that are wanted of one gearbox stand with the wheels held: exact, good, poor, no room, needs a wheel.

Those asked for together are laid out together, which is much quicker than one by one.
"""

from bisect import bisect_left
from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from itertools import pairwise
from typing import Any, Generic

from valleywind.core.trains.closest import Hit, closest, closest_first, reach
from valleywind.core.trains.gearbox import Gearbox, Requirement, S, V
from valleywind.core.trains.model import Combination, Stock
from valleywind.core.trains.new_wheels import (
    closest_with_new_wheels,
    near_with_each_new_wheel,
    new_wheels,
    with_each_new_wheel_of,
)
from valleywind.core.trains.placement import Layout
from valleywind.core.trains.places import place_all
from valleywind.core.trains.planner import Candidate, Planner

# How many of the combinations that are near enough are laid out at first; each time after that twice as many.
_AT_FIRST = 4
# How many of the closest are looked for, and how many next where none of them goes on.
_LOOKED_AT, _LOOKED_FURTHER = 21, (120, 480, 1920)
_POOR_LAID_OUT = 12
# Combinations with each new wheel that are looked at for a line.
_OF_A_WHEEL = 4
# Of what is good with one of them the closest, by this share of the error, are looked at before the rest is looked for.
_CLOSEST_SHARE = 1 / 8
# How many combinations of one new wheel are laid out, and how many next where none of them goes on.
_OF_A_WHEEL_TRIED = (1, 4, 16, 48)
# How many pairs of a line and a new wheel are worked out together.
_TOGETHER = 1000


class Standing(StrEnum):
    """How what is wanted stands with the wheels held."""

    EXACT = "exact"
    GOOD = "good"
    POOR = "poor"
    NO_ROOM = "no_room"
    NEEDS_WHEEL = "needs_wheel"
    OUT_OF_REACH = "out_of_reach"


@dataclass(frozen=True)
class LineStanding(Generic[S, V]):
    """One of them answered. candidate: the train that comes closest and goes on, or with NEEDS_WHEEL the one with the
    wheel `new`; None where there is none."""

    standing: Standing
    candidate: Candidate[S, V] | None
    new: int | None = None


def standings(wanted: Sequence[Requirement[S, V]], box: Gearbox, stock: Stock) -> list[LineStanding[S, V]]:
    """How each stands, in their order."""
    return _Chart(wanted, box, stock).rows()


def good_ones(wanted: Sequence[Requirement[S, V]], box: Gearbox, stock: Stock) -> list[Standing | None]:
    """Which of them stand as exact or good, in their order; None for the others, which are not told apart here: that
    costs most of a chart."""
    return _Chart(wanted, box, stock).good_standings()


def bringing_wheels(
    wanted: Sequence[Requirement[S, V]], box: Gearbox, stock: Stock, counts: Sequence[int]
) -> Iterator[dict[int, bool]]:
    """For each line the wheels not held with which it is good, out of these counts, and whether it is exact.

    Of each wheel the closest combinations are laid out, more and more of them until one goes on; many lines together.
    """
    new = [t for t in counts if not stock.get(t, 0)]
    together = max(1, _TOGETHER // max(1, len(new)))
    for start in range(0, len(wanted), together):
        yield from _brought_together(wanted[start : start + together], box, stock, new)


def may_bring(
    wanted: Sequence[Requirement[S, V]], box: Gearbox, stock: Stock, counts: Sequence[int]
) -> list[dict[int, bool]]:
    """The same, room aside: each line is brought by these wheels at most, and exactly by those only of which it says
    so. Much quicker."""
    return near_with_each_new_wheel([(one, counts, one.good_within) for one in wanted], box, stock)


def _brought_together(
    wanted: Sequence[Requirement[S, V]], box: Gearbox, stock: Stock, new: Sequence[int]
) -> list[dict[int, bool]]:
    within = [one.good_within for one in wanted]
    left: dict[int, Sequence[int]] = dict.fromkeys(range(len(wanted)), new)
    tried: list[set[Combination]] = [set() for _ in wanted]
    exactly: list[dict[int, bool]] = [{} for _ in wanted]
    for most in _OF_A_WHEEL_TRIED:
        near = with_each_new_wheel_of([(wanted[n], some, within[n]) for n, some in left.items()], box, stock, most)
        lines = {
            (n, teeth): [h for h in good_hits(wanted[n], some, within[n]) if h.combination not in tried[n]]
            for n, of_line in zip(left, near, strict=True)
            for teeth, some in of_line.items()
        }
        for hand in {one.hand for one in wanted}:
            of_hand = {at: some for at, some in lines.items() if wanted[at[0]].hand is hand}
            places = place_all(of_hand.values(), hand, box, stock, new, compound_with_idler=0)
            for (n, teeth), some in of_hand.items():
                going = [h for h in some if h.combination in places]
                if going:
                    exactly[n][teeth] = any(h.error == 0 for h in going)
                tried[n].update(h.combination for h in some)
        # Where fewer were found than looked for there are no more.
        more = {n: [t for t, some in of_line.items() if t not in exactly[n] and len(some) == most]
                for n, of_line in zip(left, near, strict=True)}  # fmt: skip
        left = {n: some for n, some in more.items() if some}
        if not left:
            break
    return exactly


def good_with_each(
    wanted: Sequence[Requirement[S, V]], box: Gearbox, stock: Stock, counts: Iterable[int]
) -> Iterator[tuple[int, list[Standing | None]]]:
    """For each of these wheels that are not held how every line stands with it in hand, as `good_ones` tells.

    What the wheels held give is looked for once, and beside it what takes the new wheel: first what comes closest, and
    only where that does not go on more.
    """
    # Half of a locked pair opens more than a train with one wheel more.
    halves = {half for pair in box.fixed.pairs for half in (pair.one, pair.other)}
    counts = list(counts)
    alone = [teeth for teeth in counts if teeth not in halves]
    with_it = {teeth: {**stock, teeth: 1} for teeth in counts}
    held = [good_hits(one, closest(one, box, stock, (1, 2), _LOOKED_AT)) for one in wanted]
    near = _good_with_new(wanted, [alone for _ in wanted], box, stock, 1)
    stands: dict[int, dict[int, Standing]] = {}
    for teeth in alone:
        first = [closest_first((*before[:1], *new[teeth]))[:1] for before, new in zip(held, near, strict=True)]
        stands[teeth] = _Chart(wanted, box, with_it[teeth], first).closest_going()
    left = [[teeth for teeth in alone if n not in stands[teeth]] for n in range(len(wanted))]
    near = _good_with_new(wanted, left, box, stock, _LOOKED_AT)
    for teeth in counts:
        if teeth in halves:
            yield teeth, good_ones(wanted, box, with_it[teeth])
            continue
        rest = [n for n in range(len(wanted)) if n not in stands[teeth]]
        hits = [closest_first((*held[n], *near[n][teeth]))[:_LOOKED_AT] for n in rest]
        good = _Chart([wanted[n] for n in rest], box, with_it[teeth], hits).good(range(len(rest)))
        stands[teeth] |= {rest[n]: stood.standing for n, stood in good.items()}
        yield teeth, [stands[teeth].get(n) for n in range(len(wanted))]


def _good_with_new(
    wanted: Sequence[Requirement[S, V]], counts: Sequence[Sequence[int]], box: Gearbox, stock: Stock, most: int
) -> list[dict[int, list[Hit[S]]]]:
    """For each line and each of its wheels that are not held the `most` closest combinations with it that are good."""
    lines = [(one, some, one.good_within) for one, some in zip(wanted, counts, strict=True)]
    near = with_each_new_wheel_of(lines, box, stock, most, in_hand=True)
    return [
        {teeth: good_hits(one, by_teeth.get(teeth, [])) for teeth in some}
        for one, some, by_teeth in zip(wanted, counts, near, strict=True)
    ]


def good_hits(wanted: Requirement[S, V], hits: list[Hit[S]], within: float = 0.0) -> list[Hit[S]]:
    """Those near enough for the job; the hits come closest first, so that only the last such has to be found. within:
    so large an error is known to be good."""
    if not hits or hits[-1].approximation.size <= within:
        return hits
    return hits[: bisect_left(hits, True, key=lambda h: not wanted.judge(h.error).good)]


class _Chart(Generic[S, V]):
    """Things wanted of one gearbox. hits: the closest of each in one or two stages, where they are known; of those that
    do not stand well only the good ones are looked at then."""

    def __init__(
        self, wanted: Sequence[Requirement[S, V]], box: Gearbox, stock: Stock, hits: list[list[Hit[S]]] | None = None
    ) -> None:
        self.wanted, self.box, self.stock = wanted, box, stock
        self._every = range(len(wanted))
        self.hits = hits or [self._hits(n, (1, 2), _LOOKED_AT) for n in range(len(wanted))]

    def rows(self) -> list[LineStanding[S, V]]:
        """Line by line what is known of it, the dear questions only for lines that nothing simpler answered."""
        answered = self.good(self._every)
        answered |= self._with_a_new_wheel([n for n in self._every if n not in answered])
        poor = self._first_going({n: self.hits[n][:_POOR_LAID_OUT] for n in self._every if n not in answered})
        return [
            answered.get(n) or self._poor_row(n, bool(self._good(n, self.hits[n])), poor.get(n)) for n in self._every
        ]

    def good_standings(self) -> list[Standing | None]:
        """Which lines are exact or good; None for the others."""
        stands = self.closest_going()
        stands |= {n: stood.standing for n, stood in self.good([n for n in self._every if n not in stands]).items()}
        return [stands.get(n) for n in self._every]

    def closest_going(self) -> dict[int, Standing]:
        """Lines whose closest combination goes on just as it is: they stand as that does, however the others do."""
        closest = {n: good[0] for n in self._every if (good := self._good(n, self.hits[n][:1]))}
        stands: dict[int, Standing] = {}
        for hand in {self.wanted[n].hand for n in closest}:
            lines = {n: [hit] for n, hit in closest.items() if self.wanted[n].hand is hand}
            places = place_all(lines.values(), hand, self.box, self.stock, compound_with_idler=0)
            stands |= {n: _exact_or_good(hit) for n, (hit,) in lines.items() if hit.combination in places}
        return stands

    def good(self, every: Sequence[int]) -> dict[int, LineStanding[S, V]]:
        """Those of these lines that are exact or good."""
        near = {n: self._good(n, self.hits[n]) for n in every}
        answered = {n: self._good_row(c) for n, c in self._first_going(near).items()}
        looked = dict(near)
        for before, further in pairwise((_LOOKED_AT, *_LOOKED_FURTHER)):
            more = {n: self._good(n, self._hits(n, (1, 2), further))
                    for n in every if n not in answered and len(looked[n]) == before}  # fmt: skip
            looked |= more
            answered |= {n: self._good_row(c) for n, c in
                         self._first_going({n: m[before:] for n, m in more.items()}).items()}  # fmt: skip
        if self.box.quadrant.studs >= 2:
            longer = {n: self._good(n, self._hits(n, (3,), _LOOKED_AT))
                      for n in every if n not in answered and not near[n]}  # fmt: skip
            answered |= {n: self._good_row(c) for n, c in self._first_going(longer).items()}
        return answered

    def _hits(self, n: int, stages: tuple[int, ...], best: int) -> list[Hit[S]]:
        return closest(self.wanted[n], self.box, self.stock, stages, best)

    def _good(self, n: int, hits: list[Hit[S]]) -> list[Hit[S]]:
        return good_hits(self.wanted[n], hits)

    def _good_row(self, candidate: Candidate[S, V]) -> LineStanding[S, V]:
        return LineStanding(_exact_or_good(candidate), candidate)

    def _poor_row(self, n: int, near: bool, poor: Candidate[S, V] | None) -> LineStanding[S, V]:
        if near:
            return LineStanding(Standing.NO_ROOM, None)
        ends = reach(self.wanted[n], self.box, self.stock)
        beyond = ends is None or not ends[0] <= self.wanted[n].value <= ends[1]
        if poor is None or beyond or poor.verdict.hopeless:
            return LineStanding(Standing.OUT_OF_REACH, poor)
        return LineStanding(Standing.POOR, poor)

    def _with_a_new_wheel(self, lines: list[int]) -> dict[int, LineStanding[S, V]]:
        """Lines that one wheel not held would answer well."""
        new = new_wheels(self.box, self.stock)
        near = self._hits_with_new(lines, new, _CLOSEST_SHARE)
        going = self._first_going(near, new, lambda short: self._hits_with_new(short, new))
        return {n: LineStanding(Standing.NEEDS_WHEEL, c, next(iter(c.lacking))) for n, c in going.items()}

    def _hits_with_new(self, lines: list[int], new: Sequence[int], share: float = 1.0) -> dict[int, list[Hit[S]]]:
        """The good ones of each line, closest first; or those that err by this share of what is good only."""
        each = [(self.wanted[n], new, self.wanted[n].good_within * share) for n in lines]
        every = closest_with_new_wheels(each, self.box, self.stock, _OF_A_WHEEL)
        return {n: self._good(n, hits) for n, hits in zip(lines, every, strict=True)}

    def _first_going(
        self,
        hits: dict[int, list[Hit[S]]],
        new: Sequence[int] = (),
        every: Callable[[list[int]], dict[int, list[Hit[S]]]] | None = None,
    ) -> dict[int, Candidate[S, V]]:
        """For each line the closest of its hits that goes on, a few of every line laid out at a time. every: looks for
        all hits of some lines, where `hits` are the first of them only."""
        going: dict[int, Candidate[S, V]] = {}
        stretches = {n: _Stretches(h, every is None) for n, h in hits.items()}
        while left := {n: rest for n, rest in stretches.items() if n not in going}:
            if every and (short := [n for n, rest in left.items() if rest.short]):
                for n, whole in every(short).items():
                    left[n].hits, left[n].whole = whole, True
            some = {n: h for n, rest in left.items() if (h := rest.take())}
            if not some:
                break
            for hand in {self.wanted[n].hand for n in some}:
                lines = {n: h for n, h in some.items() if self.wanted[n].hand is hand}
                going |= self._closest(lines, place_all(lines.values(), hand, self.box, self.stock, new))
        return going

    def _closest(self, lines: dict[int, list[Hit[S]]], places: dict[Combination, Layout]) -> dict[int, Candidate[S, V]]:
        going = {}
        for n, some in lines.items():
            judge = Planner(self.wanted[n], self.box, self.stock).candidate
            fitting = [judge(places[h.combination], h.target) for h in some if h.combination in places]
            if fitting:
                going[n] = min(fitting, key=lambda c: (abs(c.error), len(c.train.wheels), c.handling.put_on))
        return going


def _exact_or_good(one: Hit[Any] | Candidate[Any, Any]) -> Standing:
    return Standing.EXACT if one.error == 0 else Standing.GOOD


class _Stretches(Generic[S]):
    """Hits taken in turn: a few of the closest, then twice as many and so on; those that are equally close stay
    together. whole: there are no more hits than these."""

    def __init__(self, hits: list[Hit[S]], whole: bool = True) -> None:
        self.hits, self.whole = hits, whole
        self._start, self._long = 0, _AT_FIRST

    @property
    def short(self) -> bool:
        """Whether more hits must be known before the next are taken."""
        return not self.whole and len(self.hits) < self._start + 2 * self._long

    def take(self) -> list[Hit[S]]:
        """The next of them; empty where there are no more."""
        hits, start, end = self.hits, self._start, self._start + self._long
        while end < min(len(hits), start + 2 * self._long) and hits[end].error == hits[end - 1].error:
            end += 1
        self._start, self._long = end, 2 * self._long
        return hits[start:end]
