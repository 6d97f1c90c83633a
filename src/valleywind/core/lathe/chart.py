"""Every pitch of the chosen series against the wheels a lathe has: exact, good, poor, no room, needs a wheel."""

from bisect import bisect_left
from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from functools import lru_cache
from itertools import pairwise

from valleywind.core.lathe.machine import Lathe, Setting, SetUp
from valleywind.core.lathe.plan import Candidate, wanted
from valleywind.core.lathe.series import Series, sizes
from valleywind.core.lathe.thread import Ask, FeedAsk, Stated, ThreadAsk, Way
from valleywind.core.lathe.verdict import Goes
from valleywind.core.refusal import Refused
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.closest import Hit, closest, reach
from valleywind.core.trains.model import Combination, Stock
from valleywind.core.trains.new_wheels import new_wheels, with_each_new_wheel
from valleywind.core.trains.placement import Laid
from valleywind.core.trains.places import place_all
from valleywind.core.trains.planner import Planner
from valleywind.core.units import MM_PER_INCH

# Of the combinations near enough so many are laid out at first, twice as many every further time.
_AT_FIRST = 4
# So many of the closest are looked for; where none of them goes on, so many, and so on.
_LOOKED_AT, _LOOKED_FURTHER = 21, (120, 480, 1920)
_POOR_LAID_OUT = 12
# Combinations with each new wheel that are looked at for a line.
_OF_A_WHEEL = 4


class Standing(StrEnum):
    """How a pitch stands with the wheels held."""

    EXACT = "exact"
    GOOD = "good"
    POOR = "poor"
    NO_ROOM = "no_room"
    NEEDS_WHEEL = "needs_wheel"
    OUT_OF_REACH = "out_of_reach"


@dataclass(frozen=True)
class Pitched:
    """One line of a chart: the ask, and the names of the sizes that have this pitch."""

    ask: Ask
    sizes: tuple[str, ...] = ()


@dataclass(frozen=True)
class Row:
    """A line of the chart answered. candidate: the train that comes closest and goes on, or with NEEDS_WHEEL the one
    with the wheel `new`; None where there is none."""

    pitched: Pitched
    standing: Standing
    candidate: Candidate | None
    new: int | None = None


class List(StrEnum):
    """The lists of pitches that a chart can be made of."""

    METRIC = "metric"
    METRIC_FINE = "metric_fine"
    PER_INCH = "per_inch"
    UNC = "unc"
    UNF = "unf"
    UNEF = "unef"
    BSW = "bsw"
    BSF = "bsf"
    BSP = "bsp"
    ME = "me"
    BA = "ba"
    TRAPEZOIDAL = "trapezoidal"
    ACME = "acme"
    MODULE_WORMS = "module_worms"
    DP_WORMS = "dp_worms"
    FEEDS_ALONG = "feeds_along"
    FEEDS_ACROSS = "feeds_across"


_SERIES = {
    List.UNC: Series.UNC, List.UNF: Series.UNF, List.UNEF: Series.UNEF, List.BSW: Series.BSW, List.BSF: Series.BSF,
    List.BSP: Series.BSP, List.ME: Series.ME, List.BA: Series.BA, List.TRAPEZOIDAL: Series.TRAPEZOIDAL,
    List.ACME: Series.ACME,
}  # fmt: skip
# Threads per inch that gearboxes and books list.
_PER_INCH = "4 4.5 5 5.5 6 7 8 9 10 11 11.5 12 13 14 16 18 19 20 22 24 26 27 28 32 36 40 44 48 56 60 64 72 80"
# ISO 54, modules, first choice and the second between them; diametral pitches as they are listed.
_MODULES = "0.3 0.4 0.5 0.6 0.7 0.8 1 1.25 1.5 1.75 2 2.25 2.5 2.75 3 3.5 4"
_DIAMETRAL = "6 8 10 12 14 16 18 20 24 32 40 48 64"
# Preferred numbers R 10 from 0.01 to 1 mm.
_FEEDS = "0.01 0.0125 0.016 0.02 0.025 0.03 0.04 0.05 0.063 0.08 0.1 0.125 0.16 0.2 0.25 0.315 0.4 0.5 0.63 0.8 1"


def pitches(of: List) -> tuple[Pitched, ...]:
    """Every pitch of a list once, coarsest first, with the sizes that have it; judged for the largest of them."""
    match of:
        case List.PER_INCH:
            return tuple(Pitched(ThreadAsk(MM_PER_INCH / Fraction(t), Stated.TPI)) for t in _PER_INCH.split())
        case List.MODULE_WORMS:
            return _worms(PitchSystem.MODULE, reversed(_MODULES.split()))
        case List.DP_WORMS:
            return _worms(PitchSystem.DIAMETRAL, _DIAMETRAL.split())
        case List.FEEDS_ALONG | List.FEEDS_ACROSS:
            way = Way.ALONG if of is List.FEEDS_ALONG else Way.ACROSS
            return tuple(Pitched(FeedAsk(Fraction(f), way=way)) for f in reversed(_FEEDS.split()))
        case List.METRIC | List.METRIC_FINE:
            return _sized(Series.METRIC, of is List.METRIC)
        case _:
            return _sized(_SERIES[of], None)


def _worms(system: PitchSystem, values: Sequence[str] | Iterator[str]) -> tuple[Pitched, ...]:
    found = [Pitch(system, Fraction(v)) for v in values]
    return tuple(Pitched(ThreadAsk(p.circular, worm=p)) for p in found)


def _sized(series: Series, usual: bool | None) -> tuple[Pitched, ...]:
    """The pitches of a series; of the metric series the coarse ones or the fine."""
    by_pitch: dict[Fraction, list[ThreadAsk]] = {}
    for size in sizes(series):
        if usual is None or size.usual == usual:
            ask = ThreadAsk(size.pitch, _stated(series), diameter=size.diameter, series=series, size=size)
            by_pitch.setdefault(size.pitch, []).append(ask)
    return tuple(
        Pitched(
            replace(found[-1], size=found[-1].size if usual is not False else None),
            tuple(a.size.name for a in found if a.size),
        )
        for _, found in sorted(by_pitch.items(), reverse=True)
    )


def _stated(series: Series) -> Stated:
    return Stated.MM if series in (Series.METRIC, Series.TRAPEZOIDAL, Series.BA) else Stated.TPI


@lru_cache(maxsize=1024)
def good_within(ask: Ask) -> float:
    """The largest relative error with which it still does for the job, by halving."""
    low, high = 0.0, 1.0
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if ask.judged(Fraction(middle)).good else (low, middle)
    return high


def chart(asked: Sequence[Pitched], lathe: Lathe, stock: Stock, mounted: SetUp | None = None) -> list[Row]:
    """Answer the lines of a chart; those asked for together are laid out together, which is much quicker.

    Raises Refused `no_wheels` (stock) where there is none, `no_cross_feed` for feeds that the lathe does not have.
    """
    if not any(n > 0 for n in stock.values()):
        raise Refused("no_wheels", "stock", lathe.name)
    return _Chart(asked, lathe, stock, mounted).rows()


class _Chart:
    def __init__(self, asked: Sequence[Pitched], lathe: Lathe, stock: Stock, mounted: SetUp | None) -> None:
        self.asked, self.lathe, self.stock, self.mounted = asked, lathe, stock, mounted
        self.asks = [pitched.ask for pitched in asked]
        self.wanted = [wanted(ask, lathe, mounted) for ask in self.asks]
        self.box = lathe.gearbox

    def rows(self) -> list[Row]:
        """Line by line what is known of it, the dear questions only for lines that nothing simpler answered."""
        every = range(len(self.asks))
        found = {n: self._hits(n, (1, 2), _LOOKED_AT) for n in every}
        near = {n: self._good(n, found[n]) for n in every}
        answered = {n: self._good_row(n, c) for n, c in self._first_going(near).items()}
        looked = dict(near)
        for before, further in pairwise((_LOOKED_AT, *_LOOKED_FURTHER)):
            more = {n: self._good(n, self._hits(n, (1, 2), further))
                    for n in every if n not in answered and len(looked[n]) == before}  # fmt: skip
            looked |= more
            answered |= {n: self._good_row(n, c) for n, c in
                         self._first_going({n: m[before:] for n, m in more.items()}).items()}  # fmt: skip
        if self.lathe.quadrant.studs >= 2:
            longer = {n: self._good(n, self._hits(n, (3,), _LOOKED_AT))
                      for n in every if n not in answered and not near[n]}  # fmt: skip
            answered |= {n: self._good_row(n, c) for n, c in self._first_going(longer).items()}
        answered |= self._with_a_new_wheel([n for n in every if n not in answered])
        poor = self._first_going({n: found[n][:_POOR_LAID_OUT] for n in every if n not in answered})
        return [answered.get(n) or self._poor_row(n, bool(near[n]), poor.get(n)) for n in every]

    def _hits(self, n: int, stages: tuple[int, ...], best: int) -> list[Hit[Setting]]:
        return closest(self.wanted[n], self.box, self.stock, stages, best)

    def _good(self, n: int, found: list[Hit[Setting]]) -> list[Hit[Setting]]:
        """Those near enough for the job; the hits come closest first, so that only the last such has to be found."""
        ask = self.asks[n]
        return found[: bisect_left(found, True, key=lambda h: not ask.judged(h.error).good)]

    def _good_row(self, n: int, candidate: Candidate) -> Row:
        return Row(self.asked[n], Standing.EXACT if candidate.error == 0 else Standing.GOOD, candidate)

    def _poor_row(self, n: int, near: bool, poor: Candidate | None) -> Row:
        if near:
            return Row(self.asked[n], Standing.NO_ROOM, None)
        ends = reach(self.wanted[n], self.box, self.stock)
        beyond = ends is None or not ends[0] <= self.asks[n].lead <= ends[1]
        if poor is None or beyond or poor.verdict.goes is Goes.NOT:
            return Row(self.asked[n], Standing.OUT_OF_REACH, poor)
        return Row(self.asked[n], Standing.POOR, poor)

    def _with_a_new_wheel(self, lines: list[int]) -> dict[int, Row]:
        """Lines that one wheel not held would answer well."""
        new = new_wheels(self.box, self.stock)
        near = {n: self._good(n, self._hits_with_new(n, new)) for n in lines}
        going = self._first_going(near, new)
        return {n: Row(self.asked[n], Standing.NEEDS_WHEEL, c, next(iter(c.lacking))) for n, c in going.items()}

    def _hits_with_new(self, n: int, new: Sequence[int]) -> list[Hit[Setting]]:
        ask = self.asks[n]
        near = with_each_new_wheel(self.wanted[n], self.box, self.stock, new, good_within(ask), _OF_A_WHEEL)
        return sorted((hit for some in near.values() for hit in some), key=lambda h: h.found.merit)

    def _first_going(self, found: dict[int, list[Hit[Setting]]], new: Sequence[int] = ()) -> dict[int, Candidate]:
        """For each line the closest of its hits that goes on, a few of every line laid out at a time."""
        going: dict[int, Candidate] = {}
        stretches = {n: _stretches(h) for n, h in found.items()}
        while some := {n: h for n, rest in stretches.items() if n not in going and (h := next(rest, None))}:
            for hand in {self.wanted[n].hand for n in some}:
                lines = {n: h for n, h in some.items() if self.wanted[n].hand is hand}
                going |= self._closest(lines, place_all(lines.values(), hand, self.box, self.stock, new))
        return going

    def _closest(self, lines: dict[int, list[Hit[Setting]]], places: dict[Combination, Laid]) -> dict[int, Candidate]:
        going = {}
        for n, some in lines.items():
            judge = Planner(self.wanted[n], self.box, self.stock).candidate
            fitting = [judge(places[h.combination], h.target) for h in some if h.combination in places]
            if fitting:
                going[n] = min(fitting, key=lambda c: (abs(c.error), len(c.train.wheels), c.handling.put_on))
        return going


def _stretches(found: list[Hit[Setting]]) -> Iterator[list[Hit[Setting]]]:
    """A few of the closest, then twice as many and so on; those that are equally close stay together."""
    start, long = 0, _AT_FIRST
    while start < len(found):
        end = start + long
        while end < min(len(found), start + 2 * long) and found[end].error == found[end - 1].error:
            end += 1
        yield found[start:end]
        start, long = end, 2 * long
