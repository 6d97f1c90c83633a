"""What is said of a train on its quadrant: where its shafts sit, what is tight, what keeps it off."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from functools import cached_property

from valleywind.core.trains.model import Train
from valleywind.core.trains.quadrant import Point


class Reason(StrEnum):
    """Why a train does not go on, or what its tightest place is."""

    TOO_FEW_STUDS = "too_few_studs"
    CENTRES_TOO_CLOSE = "centres_too_close"
    CENTRES_TOO_FAR = "centres_too_far"
    STUD_BEYOND_SLOT = "stud_beyond_slot"
    STUD_SHORT_OF_SLOT = "stud_short_of_slot"
    SWING_TOO_LOW = "swing_too_low"
    SWING_TOO_HIGH = "swing_too_high"
    WHEEL_ON_BOSS = "wheel_on_boss"
    WHEEL_ON_MIDDLE = "wheel_on_middle"
    WHEEL_ON_WHEEL = "wheel_on_wheel"
    WHEEL_ON_COVER = "wheel_on_cover"
    REACHES_SHAFT = "reaches_shaft"
    WHEELS_MEET = "wheels_meet"
    NO_IDLER = "no_idler"
    BEYOND_KNOWN = "beyond_known"


@dataclass(frozen=True)
class Clearance:
    """What is left between a wheel (place in `train.wheels`) and what it could hit, beyond the gap that is wanted, mm;
    negative fouls.

    `other` is a shaft number for a boss or, where collars are not known, a shaft's middle; a place in `train.wheels`
    for a wheel, None for the cover. `start` and `end` are the nearest points of the two; where they overlap, the points
    between which they do.
    """

    reason: Reason
    mm: float
    wheel: int
    other: int | None
    start: Point
    end: Point
    gap: float

    @property
    def distance(self) -> float:
        """What there is between the two, mm; negative where they overlap."""
        return self.mm + self.gap


@dataclass(frozen=True)
class Obstacle:
    """One thing that keeps a train off the quadrant. `amount` is in mm, for swing in radians, for studs how many lack,
    where the quadrant is not known in numbers of teeth; `shaft` where it is about one; `clearance` where something
    fouls; `wheels`, places in `train.wheels`, where it is about these and no clearance is known."""

    reason: Reason
    amount: float
    shaft: int | None = None
    clearance: Clearance | None = None
    wheels: tuple[int, ...] = ()


class RoomCheck(StrEnum):
    """What was looked at before a train was said to go on."""

    ROOM = "room"
    """Reach and room, on a quadrant whose measures are on record."""
    REACH = "reach"
    """The quadrant is not measured; the stud sits between those of trains that are known to go on."""
    NOTHING = "nothing"
    """The quadrant is not known."""


@dataclass(frozen=True)
class Margin:
    """A rule of thumb where the quadrant is not known: how many teeth larger a wheel (place in `train.wheels`) would
    have to be for its tips to reach the middle of a shaft that is not its own."""

    wheel: int
    shaft: int
    teeth: float


@dataclass(frozen=True)
class Placement:
    """Where everything sits. centres: all shafts, first to last; slots: one a stud; swing in radians, which says
    nothing of the machine unless `swing_known`.

    Where the quadrant is not known the shafts stand in a line, there are no clearances, and `margins` has the rules of
    thumb, tightest first.
    """

    centres: tuple[Point, ...]
    slots: tuple[int, ...]
    swing: float
    boss_clearance: float
    clearance: float
    obstacles: tuple[Obstacle, ...]
    tightest: tuple[Clearance, ...]
    gap: float = 0.0
    checked: RoomCheck = RoomCheck.ROOM
    swing_known: bool = True
    margins: tuple[Margin, ...] = ()

    @property
    def least_distance(self) -> float:
        """The least distance that there is between a wheel and what it could hit, mm: the clearance and the gap."""
        return self.clearance + self.gap

    @property
    def fits(self) -> bool:
        return not self.obstacles

    def stud_radius(self, stud: int) -> float:
        """Distance of stud 1, 2 … from the pivot."""
        return math.hypot(*self.centres[stud])


@dataclass(frozen=True)
class Layout:
    """A train with its roomiest place, or the nearest to one. room: least clearance (mm) where the train goes on,
    else how far off it is, negative. The details are worked out when they are asked for."""

    train: Train
    fits: bool
    _room: Callable[[], float]
    _place: Callable[[], Placement]

    @cached_property
    def room(self) -> float:
        return self._room()

    @cached_property
    def placement(self) -> Placement:
        return self._place()
