"""Every count against a hobber's wheels: exact, with which constant, by the differential, or which wheel lacks."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.cutting.wheel import FEWEST_CUT
from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.machine import Box, Hobber, IndexConstant
from valleywind.core.hobbing.making_up import MadeUp, first_ways, ways_to_make_up
from valleywind.core.hobbing.plan import making_up_hand
from valleywind.core.hobbing.ratios import index_ratio
from valleywind.core.interrupt import checkpoint
from valleywind.core.trains.advice import Advice, advise
from valleywind.core.trains.closest import Hit
from valleywind.core.trains.exact import bringing, exact_trains
from valleywind.core.trains.gearbox import Target
from valleywind.core.trains.model import Combination, Stock
from valleywind.core.trains.new_wheels import new_wheels
from valleywind.core.trains.placement import Layout
from valleywind.core.trains.places import place_all
from valleywind.core.trains.search import Approximation

USUAL_COUNTS = range(6, 201)
# How many exact trains of a count are laid out at first, and how many where none of them goes on.
_AT_FIRST, _FURTHER = 3, 40
# How many shares are laid out for a count made up by the differential.
_SHARES = 5
# How many wheels that bring most counts, room aside, are laid out.
_TRIED = 30


class CountStanding(StrEnum):
    """How a count stands with the wheels held."""

    EXACT = "exact"
    OTHER_PAIR = "other_pair"
    MADE_UP = "made_up"
    NO_ROOM = "no_room"
    NEEDS_WHEEL = "needs_wheel"
    NOTHING = "nothing"


@dataclass(frozen=True)
class Row:
    """A count answered. laid: the index train; constant: that it counts on; way: how the differential makes it up;
    new: the wheel that would bring it."""

    teeth: int
    standing: CountStanding
    laid: Layout | None = None
    constant: IndexConstant | None = None
    way: MadeUp | None = None
    new: int | None = None


def chart(hobber: Hobber, stock: Stock, counts: Iterable[int] = USUAL_COUNTS, starts: int = 1) -> list[Row]:
    """How each count stands. Counts below what can be hobbed are left out."""
    wanted = [teeth for teeth in counts if teeth >= FEWEST_CUT]
    job = _Chart(hobber, stock, starts)
    rows = job.exact(wanted, {teeth: hobber.index_for(teeth) for teeth in wanted}, CountStanding.EXACT)
    others = {
        teeth: constant
        for teeth in wanted
        if teeth not in rows
        for constant in hobber.index
        if constant.constant != hobber.index_for(teeth).constant
    }
    rows |= job.exact([t for t in wanted if t not in rows and t in others], others, CountStanding.OTHER_PAIR)
    rows |= job.made_up([teeth for teeth in wanted if teeth not in rows])
    for teeth in wanted:
        if teeth not in rows:
            checkpoint()
            rows[teeth] = job.otherwise(teeth)
    return [rows[teeth] for teeth in wanted]


def worth_making(hobber: Hobber, stock: Stock, counts: Sequence[int], starts: int = 1) -> Iterator[float | Advice[int]]:
    """For the likeliest wheels not held those of the counts that have no exact index train and get one that goes on
    with it in hand; before that the share of the work done."""
    new = new_wheels(hobber.boxes[Box.INDEX], stock)

    def ratio(count: int) -> Fraction:
        return index_ratio(hobber.index_for(count).constant, starts, count)

    def brought(teeth: int, some: Sequence[int]) -> Iterable[int]:
        constants = {count: hobber.index_for(count) for count in some}
        return _Chart(hobber, {**stock, teeth: 1}, starts).exact(some, constants, CountStanding.EXACT)

    return advise(
        counts,
        lambda some: [count for count in some if not exact_trains(ratio(count), stock)],
        lambda some: (bringing(ratio(count), stock, new) for count in some),
        brought,
        _TRIED,
    )


def _may_bring(ratio: Fraction, stock: Stock, new: Iterable[int]) -> list[int]:
    """The wheels that could bring an exact train: every prime of the ratio that no wheel held has must be in them."""
    lacking = [p for p in _primes(ratio.numerator * ratio.denominator) if all(t % p for t, n in stock.items() if n)]
    return [t for t in new if all(t % p == 0 for p in lacking)]


def _primes(number: int) -> list[int]:
    primes, rest, p = [], number, 2
    while p * p <= rest:
        if rest % p == 0:
            primes.append(p)
            while rest % p == 0:
                rest //= p
        p += 1
    return [*primes, rest] if rest > 1 else primes


class _Chart:
    def __init__(self, hobber: Hobber, stock: Stock, starts: int) -> None:
        self.hobber, self.stock, self.starts = hobber, stock, starts
        self.no_room: dict[int, Layout | None] = {}
        self.new = new_wheels(hobber.boxes[Box.INDEX], stock)

    def exact(
        self, counts: Sequence[int], constants: dict[int, IndexConstant], standing: CountStanding
    ) -> dict[int, Row]:
        """Those that have an exact train that goes on."""
        every: dict[int, tuple[Combination, ...]] = {}
        for teeth in counts:
            ratio = index_ratio(constants[teeth].constant, self.starts, teeth)
            if trains := exact_trains(ratio, self.stock):
                every[teeth] = trains
        if standing is CountStanding.EXACT:
            self.no_room = dict.fromkeys(every)
        rows: dict[int, Row] = {}
        for start, end, with_idler in ((0, _AT_FIRST, 0), (0, _FURTHER, 2)):
            lines = {t: [_hit(c) for c in some[start:end]] for t, some in every.items() if t not in rows}
            places = place_all(lines.values(), None, self.hobber.boxes[Box.INDEX], self.stock, (), with_idler)
            for teeth, line in lines.items():
                going = [places[h.combination] for h in line if h.combination in places]
                if going:
                    rows[teeth] = Row(teeth, standing, max(going, key=lambda laid: laid.room), constants[teeth])
        return rows

    def made_up(self, counts: Sequence[int]) -> dict[int, Row]:
        """Those that the differential makes up without run-off."""
        hobber = self.hobber
        if hobber.differential is None or hobber.feed is None or not counts:
            return {}
        asks = [HobAsk(teeth, starts=self.starts) for teeth in counts]
        ways = first_ways(asks, hobber, self.stock, lambda adds: making_up_hand(hobber, asks[0], adds), _SHARES)
        return {teeth: Row(teeth, CountStanding.MADE_UP, way.index, way.constant, way) for teeth, way in ways.items()}

    def otherwise(self, teeth: int) -> Row:
        """A count that no index train divides and no differential makes up exactly: with run-off, or with a wheel
        more."""
        hobber = self.hobber
        if hobber.differential is not None and hobber.feed is not None:
            ask = HobAsk(teeth, starts=self.starts)
            ways = ways_to_make_up(ask, hobber, self.stock, lambda adds: making_up_hand(hobber, ask, adds), 1, _SHARES)
            if ways:
                return Row(teeth, CountStanding.MADE_UP, ways[0].index, ways[0].constant, ways[0])
        if teeth in self.no_room:
            return Row(teeth, CountStanding.NO_ROOM)
        constant = hobber.index_for(teeth)
        ratio = index_ratio(constant.constant, self.starts, teeth)
        for new in sorted(_may_bring(ratio, self.stock, self.new), key=lambda t: (t != teeth, t)):
            trains = [c for c in exact_trains(ratio, {**self.stock, new: 1}) if new in c.wheels]
            places = place_all([[_hit(c) for c in trains[:_AT_FIRST]]], None, hobber.boxes[Box.INDEX], self.stock)
            if places:
                return Row(teeth, CountStanding.NEEDS_WHEEL, next(iter(places.values())), constant, new=new)
        return Row(teeth, CountStanding.NOTHING)


def _hit(combination: Combination) -> Hit[str]:
    return Hit(Approximation.of(combination, Fraction(0)), Target("", Fraction(1)))
