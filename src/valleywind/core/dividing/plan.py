"""All ways that one head has for a count, the best first."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.dividing.geared import on_the_arm
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
    differential,
    direct,
    rounded,
    simple,
)
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import Stock
from valleywind.core.trains.placement import Layout


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
        """Turns since the start, after so many divisions."""
        return Fraction(self.spaces[division], self.circle)


@dataclass(frozen=True)
class PinPlaces:
    """Where the pins of a head stand, division by division. crank: the crank's pin as against the plate; lock: the pin
    that holds the plate against the head, where plate and crank are turned together for the second move."""

    crank: Pin
    lock: Pin | None = None

    def turned(self, division: int) -> Fraction:
        """Turns of the worm since the start, after so many divisions, apart from what gears give the plate."""
        return self.crank.turned(division) + (self.lock.turned(division) if self.lock else 0)


def pin_places(setting: Setting, ratio: Fraction, divisions: int, moves: int) -> PinPlaces | None:
    """Where the pins stand for the start and so many moves; None where no pin tells. A differential setting is counted
    as against the plate, which its gears turn meanwhile."""
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
    arm: what carries the gears, where it is on record. Raises Refused `divisions_out_of_range`.
    """
    allowed_divisions(divisions)
    return sorted(_each(head, divisions, gears, mounted, arm), key=lambda w: w.merit)


def beside_a_lead(every: Sequence[Way]) -> tuple[int, Way] | None:
    """What is left to a head that is geared for a lead: its simple way, with its place among them; None where it has
    none."""
    return next(((n, way) for n, way in enumerate(every) if way.kind is WayKind.SIMPLE), None)


def _each(
    head: Head, divisions: int, gears: Stock | None, mounted: int | None = None, arm: Gearbox | None = None
) -> Iterator[Way]:
    """The ways one by one, the exact ones in the order of their trouble."""
    if plates := direct(divisions, head.direct, head.flats):
        yield Way(WayKind.DIRECT, plates)
    settings = simple(head.ratio, divisions, head.circles) if head.ratio is not None else []
    if settings:
        # The one on the head now, then the largest: its holes are the finest.
        settings.sort(key=lambda s: (s.circle != mounted, -s.circle))
        yield Way(WayKind.SIMPLE, settings)
    if head.reads is not None:
        read = degrees(divisions, head.reads, head.pinned)
        yield Way(WayKind.DEGREES, [read], read.error)
    if head.ratio is not None and head.circles and not settings:
        yield from _roundabout(head, head.ratio, divisions, gears or head.gears, arm)


def _roundabout(head: Head, ratio: Fraction, divisions: int, gears: Stock | None, arm: Gearbox | None) -> Iterator[Way]:
    """What is left where no circle serves."""
    if head.geared and gears and (geared := differential(ratio, divisions, head.circles, gears, trains=1)):
        geared.sort(key=_handiest)
        laid = None
        if arm is not None and (placed := on_the_arm(geared, arm, gears)):
            first, laid = placed
            geared = [first, *(g for g in geared if g.indexed_as != first.indexed_as)]
        yield Way(WayKind.DIFFERENTIAL, geared, laid=laid)
    both = compound(ratio, divisions, [[c.holes for c in side] for side in head.sides])
    if both:
        both.sort(key=lambda c: (c.holes_1 + abs(c.holes_2), c.holes_2 < 0))
        yield Way(WayKind.COMPOUND, both)
    if close := best_nearest(ratio, divisions, head.circles):
        yield Way(WayKind.NEAREST, [close], close.error)


def _handiest(setting: Differential) -> tuple[int, int, bool, int]:
    """Fewest wheels, idlers counted, then the slower plate, then the nearer count."""
    train = setting.trains[0]
    slow = abs(setting.gear_ratio) > 1
    return train.stages * 2 + setting.idlers(train), setting.idlers(train), slow, abs(setting.indexed_as)


def best(head: Head, divisions: int, gears: Stock | None = None, arm: Gearbox | None = None) -> Way | None:
    """The best way for a count; None where the head has none: the first exact way that goes on, without working out the
    more troublesome ones; else the least off. Raises Refused `divisions_out_of_range`."""
    allowed_divisions(divisions)
    rest = []
    for way in _each(head, divisions, gears, arm=arm):
        if way.exact and way.goes_on:
            return way
        rest.append(way)
    return min(rest, key=lambda w: w.merit, default=None)
