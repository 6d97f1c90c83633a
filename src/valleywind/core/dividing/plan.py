"""All ways that one head has for a count, the best first."""

from collections.abc import Iterable, Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from itertools import chain

from valleywind.core.dividing.geared import Placed, on_the_arm_each
from valleywind.core.dividing.heads import Head
from valleywind.core.dividing.ways import (
    Compound,
    Degrees,
    Differential,
    Direct,
    Nearest,
    Simple,
    allowed_divisions,
    best_nearest,
    compound,
    degrees,
    differential_each,
    direct,
    rounded,
    simple,
)
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import Stock
from valleywind.core.trains.placement import Layout

# How many trains of each differential setting are found: as many as are laid out first.
_TRAINS = 4


class WayKind(StrEnum):
    """How a count is had, those of least trouble first; some need no head: a wheel of the rack with a finger in its
    gaps, a plate made for it, a printed disc."""

    DIRECT = "direct"
    SIMPLE = "simple"
    DEGREES = "degrees"
    WHEEL = "wheel"
    DIFFERENTIAL = "differential"
    COMPOUND = "compound"
    NEW_PLATE = "new_plate"
    NEAREST = "nearest_hole"
    DISC = "disc"


def merit(
    kind: WayKind, error: Fraction | float, goes_on: bool = True
) -> tuple[bool, bool, bool, Fraction | float, int]:
    """Ascending, best first: exact ways by their trouble, the others by their error, a disc after all of them; behind
    everything what does not go on the head."""
    return not goes_on, error != 0, kind is WayKind.DISC, error, list(WayKind).index(kind)


Setting = Direct | Simple | Degrees | Differential | Compound | Nearest


@dataclass(frozen=True)
class Way:
    """One way on one head. settings: what is set, the handiest first, all of one kind. error: worst at the work,
    degrees, 0 where it is exact. laid: where the gears of the first setting stand, if the head's arm is known."""

    kind: WayKind
    settings: Sequence[Setting]
    error: Fraction = Fraction(0)
    laid: Layout | None = None

    @property
    def exact(self) -> bool:
        return self.error == 0

    @property
    def goes_on(self) -> bool:
        """Nothing is known against its gears."""
        return self.laid is None or self.laid.fits

    @property
    def merit(self) -> tuple[bool, bool, bool, Fraction | float, int]:
        return merit(self.kind, self.error, self.goes_on)


@dataclass(frozen=True)
class Pin:
    """A pin in a circle of holes: in spaces from its first hole, counted on through whole turns, where it stands at
    the start and after every division; below nought where it has gone back."""

    circle: int
    spaces: tuple[int, ...]

    def turned(self, division: int) -> Fraction:
        """Turns since the start, after this many divisions."""
        return Fraction(self.spaces[division], self.circle)


@dataclass(frozen=True)
class PinPlaces:
    """Where the pins of a head stand, division by division. crank: the crank's pin as against the plate; lock: the pin
    that holds the plate against the head, where plate and crank are turned together for the second move."""

    crank: Pin
    lock: Pin | None = None

    def turned(self, division: int) -> Fraction:
        """Turns of the worm since the start, after this many divisions, apart from what gears give the plate."""
        return self.crank.turned(division) + (self.lock.turned(division) if self.lock else 0)


def pin_places(setting: Setting, ratio: Fraction, divisions: int, moves: int) -> PinPlaces | None:
    """Where the pins stand for the start and this many moves; None where no pin tells. A differential setting is
    counted as against the plate, which its gears turn meanwhile."""
    if isinstance(setting, Differential):
        setting = setting.simple[-1]
    every = range(moves + 1)
    match setting:
        case Simple():
            return PinPlaces(Pin(setting.circle, tuple(int(setting.crank * setting.circle) * k for k in every)))
        case Nearest():
            step = ratio * setting.circle / divisions
            return PinPlaces(Pin(setting.circle, tuple(rounded(step, k) for k in every)))
        case Compound():
            crank = Pin(setting.circle_1, tuple(setting.holes_1 * k for k in every))
            return PinPlaces(crank, Pin(setting.circle_2, tuple(setting.holes_2 * k for k in every)))
        case _:
            return None


def ways(
    head: Head, divisions: int, gears: Stock | None = None, mounted: int | None = None, arm: Gearbox | None = None
) -> list[Way]:
    """Every way this head has for the count, best first.

    gears: wheels that go between spindle and plate, else the head's own; mounted: the circle of the plate that is on;
    arm: what carries the gears, where it is on record. Raises Refusal `divisions_out_of_range`.
    """
    every = list(_plain(head, allowed_divisions(divisions), mounted))
    if not any(way.kind is WayKind.SIMPLE for way in every):
        every += [*_geared(head, [divisions], gears, arm)[0], *_roundabout(head, divisions)]
    return sorted(every, key=lambda w: w.merit)


def beside_a_lead(every: Sequence[Way]) -> tuple[int, Way] | None:
    """What is left to a head that is geared for a lead: its simple way, with its place among them; None where it has
    none."""
    return next(((n, way) for n, way in enumerate(every) if way.kind is WayKind.SIMPLE), None)


def _plain(head: Head, divisions: int, mounted: int | None = None) -> Iterator[Way]:
    """What neither gears nor a second move are needed for, in the order of its trouble."""
    if plates := direct(divisions, head.direct, head.flats):
        yield Way(WayKind.DIRECT, plates)
    if head.ratio is not None and (settings := simple(head.ratio, divisions, head.circles)):
        # The one on the head now, then the largest: its holes are the finest.
        settings.sort(key=lambda s: (s.circle != mounted, -s.circle))
        yield Way(WayKind.SIMPLE, settings)
    if head.reads is not None:
        read = degrees(divisions, head.reads, head.pinned)
        yield Way(WayKind.DEGREES, [read], read.error)


def _geared(
    head: Head, counts: Sequence[int], gears: Stock | None, arm: Gearbox | None, trains: int = _TRAINS
) -> list[list[Way]]:
    """For each of many counts the way by differential gears, worked out together; none where there is none."""
    gears = gears or head.gears
    if not head.geared or not gears or head.ratio is None:
        return [[] for _ in counts]
    each = differential_each(head.ratio, counts, head.circles, gears, trains=trains)
    for settings in each:
        settings.sort(key=_handiest)
    placed = on_the_arm_each(each, arm, gears) if arm is not None else [None for _ in counts]
    return [[_geared_way(settings, one)] if settings else [] for settings, one in zip(each, placed, strict=True)]


def _geared_way(settings: Sequence[Differential], placed: Placed | None) -> Way:
    if placed is None:
        return Way(WayKind.DIFFERENTIAL, settings)
    first, laid = placed
    others = [one for one in settings if one.indexed_as != first.indexed_as]
    return Way(WayKind.DIFFERENTIAL, [first, *others], laid=laid)


def _roundabout(head: Head, divisions: int) -> Iterator[Way]:
    """What is left where no circle serves, and no gears go on."""
    if head.ratio is None:
        return
    both = compound(head.ratio, divisions, [[c.holes for c in side] for side in head.sides])
    if both:
        both.sort(key=lambda c: (c.holes_1 + abs(c.holes_2), c.holes_2 < 0))
        yield Way(WayKind.COMPOUND, both)
    if close := best_nearest(head.ratio, divisions, head.circles):
        yield Way(WayKind.NEAREST, [close], close.error)


def _handiest(setting: Differential) -> tuple[int, int, bool, int]:
    """Fewest wheels, idlers counted, then the slower plate, then the nearer count."""
    train = setting.trains[0]
    slow = abs(setting.gear_ratio) > 1
    return train.stages * 2 + setting.idlers(train), setting.idlers(train), slow, abs(setting.indexed_as)


def best(
    head: Head, divisions: int, gears: Stock | None = None, arm: Gearbox | None = None, trains: int = _TRAINS
) -> Way | None:
    """The best way for a count; None where the head has none: the first exact way that goes on, without working out the
    more troublesome ones; else the least off. trains: how many of each differential setting at most.

    Raises Refusal `divisions_out_of_range`.
    """
    return best_each(head, [divisions], gears, arm, trains)[0]


def best_each(
    head: Head, counts: Sequence[int], gears: Stock | None = None, arm: Gearbox | None = None, trains: int = _TRAINS
) -> list[Way | None]:
    """The same for many counts; what takes gears is worked out together, which is much quicker than one by one."""
    plain = [list(_plain(head, allowed_divisions(divisions))) for divisions in counts]
    hard = [n for n, some in enumerate(plain) if not any(way.exact for way in some)]
    geared = dict(zip(hard, _geared(head, [counts[n] for n in hard], gears, arm, trains), strict=True))
    return [_first_exact(chain(some, geared.get(n, ()), _roundabout(head, counts[n]))) for n, some in enumerate(plain)]


def _first_exact(every: Iterable[Way]) -> Way | None:
    """The first that is exact and goes on; else the best of them."""
    others = []
    for way in every:
        if way.exact and way.goes_on:
            return way
        others.append(way)
    return min(others, key=lambda w: w.merit, default=None)
