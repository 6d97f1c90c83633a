"""What devices at the machine tell, and when that means something: a move is complete, a pedal was pressed.

Readings come as they are: noisy, bouncing, with gaps. Bounce never counts twice, and where a device was not heard in
between nothing is taken for done.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from typing import Any

from valleywind.core.names import check_name
from valleywind.core.refusal import Refusal

MOST_LINE = 4096
"""Bytes of one line."""
_MOST_NAME = 40
# No turn, mark or reading is farther from nought.
_FARTHEST = 1e9


class Sort(StrEnum):
    """What a device is."""

    ENCODER = "encoder"
    INDICATOR = "indicator"
    CALIPER = "caliper"
    PEDAL = "pedal"
    CAMERA = "camera"


ADVANCES = (Sort.ENCODER, Sort.PEDAL, Sort.CAMERA)
"""Those that can advance a session."""


class On(StrEnum):
    """Where an encoder sits: on the crank of the worm, or on what the work turns with."""

    CRANK = "crank"
    WORK = "work"


@dataclass(frozen=True)
class Hello:
    """How a device names itself in its first line. on: of an encoder."""

    sort: Sort
    name: str
    on: On = On.CRANK


# What a line of each sort carries, and of which type.
_CARRIES: dict[Sort, tuple[str, type | tuple[type, ...]]] = {
    Sort.ENCODER: ("turned", (int, float)),
    Sort.INDICATOR: ("at", (int, float)),
    Sort.CALIPER: ("figure", str),
    Sort.PEDAL: ("pressed", bool),
    Sort.CAMERA: ("mark", (int, float)),
}


def read_hello(line: Any) -> Hello:
    """The first line, `{"hello": "encoder", "name": "crank", "on": "crank"}`. Raises Refusal `no_hello`,
    `no_device_name`, `no_encoder_place`, and as `check_name` does."""
    if not isinstance(line, Mapping) or line.get("hello") not in list(Sort):
        raise Refusal("no_hello", "hello", None)
    name = line.get("name", "")
    if not isinstance(name, str) or len(name) > _MOST_NAME:
        raise Refusal("no_device_name", "name", None, most=_MOST_NAME)
    check_name(name, "name")
    if (on := line.get("on", On.CRANK)) not in list(On):
        raise Refusal("no_encoder_place", "on", None)
    return Hello(Sort(line["hello"]), name or str(line["hello"]), On(on))


Reading = float | str | bool | None
"""What a line of a device tells; None where it says itself that it does not see anything."""


def read_line(sort: Sort, line: Any) -> Any:
    """What a line of such a device tells: a `Reading` of its sort's type. Raises Refusal
    `no_device_field`, `no_device_reading`, and as `check_name` does."""
    field, types = _CARRIES[sort]
    if not isinstance(line, Mapping) or field not in line:
        raise Refusal("no_device_field", field, None)
    value = line[field]
    if value is None:
        return None
    if not isinstance(value, types) or (isinstance(value, bool) and types is not bool):
        raise Refusal("no_device_reading", field, None)
    if isinstance(value, str) and len(value) > _MOST_NAME:
        raise Refusal("no_device_reading", field, None)
    if isinstance(value, str):
        return check_name(value, field)
    # What is not a number lies nowhere between.
    if isinstance(value, int | float) and not -_FARTHEST <= value <= _FARTHEST:
        raise Refusal("no_device_reading", field, None)
    return value


class Came(StrEnum):
    """What a reading of an encoder or a camera means for the move."""

    ARRIVED = "arrived"
    PAST = "past"
    BACKWARDS = "backwards"
    LOST = "lost"


# How many readings in a row show whether it stands still; and how far one may be from the one before while it is
# believed, turns.
_STILL = 5
_LEAP = 0.25
# While it stands still readings lie so close together, and the last so close to the first, in parts of what still
# counts as the place itself.
_TOGETHER, _DRIFT = Fraction(1, 4), Fraction(1, 8)


def _at_rest(window: Sequence[float], near: float) -> bool:
    """Whether readings say that nothing moves: not only where it is, also that it is not on its way through."""
    return (
        len(window) >= _STILL
        and max(window) - min(window) <= near * _TOGETHER
        and abs(window[-1] - window[0]) <= near * _DRIFT
    )


@dataclass(frozen=True)
class Follow:
    """An encoder on the way to the next tooth. move: turns from where it starts, at its first reading or at `start`;
    near: how far off still counts; over: turns by which the way there goes beyond the place, as compound indexing does
    that comes back; window: the readings before, the last ones; latest: what they meant last. lost: it was not
    heard in between, and must be set anew."""

    move: float
    near: float
    start: float | None = None
    over: float = 0.0
    window: tuple[float, ...] = ()
    latest: Came | None = None
    lost: bool = False

    @property
    def target(self) -> float:
        """Turns at which the next tooth stands."""
        return (self.start or 0.0) + self.move

    def heard(self, turned: float | None) -> tuple["Follow", Came | None]:
        """With one reading more; and what it means, told once."""
        if self.lost:
            return self, None
        last = self.window[-1] if self.window else self.start
        if turned is None or (last is not None and abs(turned - last) > _LEAP):
            return replace(self, lost=True, window=()), Came.LOST
        start = turned if self.start is None else self.start
        now = replace(self, start=start, window=(*self.window, turned)[-_STILL:])
        came = now._stands()
        return (replace(now, latest=came), came) if came not in (None, self.latest) else (now, None)

    def _stands(self) -> Came | None:
        """What it means that it stands still where it does; None while it moves, and on the way."""
        if not _at_rest(self.window, self.near):
            return None
        assert self.start is not None
        here = self.window[-1]
        if abs(here - self.target) <= self.near:
            return Came.ARRIVED
        if here > self.target + self.over + self.near:
            return Came.PAST
        return Came.BACKWARDS if here <= self.start - self.move / 2 else None

    def again(self) -> "Follow":
        """What was refused is told anew when it stands there still."""
        return replace(self, latest=None, window=self.window[-1:])

    def onward(self, move: float, near: float, over: float) -> "Follow":
        """To the tooth after that."""
        return Follow(move, near, self.target, over, self.window[-1:])


# How near a mark must stand to the pointer, in marks, and how far on it still counts as gone past.
_UNDER, _PAST = 0.15, 2.0
# How close together marks are read while the disc stands still, in marks.
_MARK_STILL = 0.24


@dataclass(frozen=True)
class Watch:
    """A camera over a printed disc of this many marks, until the wanted one, from 1, stands under the pointer. It sees
    where it is, so that a reading that is missed costs nothing but time. window: how far the last readings were past
    the mark."""

    marks: int
    target: int
    window: tuple[float, ...] = ()
    latest: Came | None = None

    def heard(self, mark: float | None) -> tuple["Watch", Came | None]:
        """With one reading more; and what it means, told once."""
        if mark is None:
            return replace(self, window=()), None
        # How far it is past the mark, the short way round.
        off = (mark - self.target + self.marks / 2) % self.marks - self.marks / 2
        now = replace(self, window=(*self.window, off)[-_STILL:])
        came = None
        if _at_rest(now.window, _MARK_STILL):
            came = Came.ARRIVED if abs(off) <= _UNDER else Came.PAST if _UNDER < off <= _PAST else None
        return (replace(now, latest=came), came) if came not in (None, self.latest) else (now, None)

    def again(self) -> "Watch":
        """What was refused is told anew when it stands there still."""
        return replace(self, latest=None, window=())


SAME_TOOTH = 0.8
"""Whoever presses sooner than this after a step that somebody else reported has seen the tooth before it, s."""


@dataclass(frozen=True)
class Presses:
    """A pedal: a press counts where it was up long enough before. at, up: when it last went down and came up, s."""

    up: float = -math.inf
    down: bool = False

    def heard(self, pressed: bool | None, at: float) -> tuple["Presses", bool]:
        """With one reading more, at this time; whether it counts as a press."""
        if pressed is None or pressed == self.down:
            return self, False
        if not pressed:
            return Presses(at, False), False
        return Presses(self.up, True), at - self.up >= _APART


# Bounce is over by then, s.
_APART = 0.25


@dataclass(frozen=True)
class RunOutReading:
    """A blank once round under an indicator. total: the whole reading; high: where it stands highest, degrees on from
    the start; offset: how far the middle is off, of the first harmonic; rest: what is then left, out of round; mm."""

    total: float
    high: float
    offset: float
    rest: float


_FEWEST = 8


def once_round(readings: Sequence[float]) -> RunOutReading:
    """Of readings at even steps once round. Raises Refusal `too_few_readings`."""
    n = len(readings)
    if n < _FEWEST:
        raise Refusal("too_few_readings", "readings", n, least=_FEWEST)
    middle = sum(readings) / n
    angles = [2 * math.pi * k / n for k in range(n)]
    cos = 2 / n * sum(r * math.cos(a) for r, a in zip(readings, angles, strict=True))
    sin = 2 / n * sum(r * math.sin(a) for r, a in zip(readings, angles, strict=True))
    left = [r - middle - cos * math.cos(a) - sin * math.sin(a) for r, a in zip(readings, angles, strict=True)]
    return RunOutReading(
        max(readings) - min(readings), math.degrees(math.atan2(sin, cos)) % 360, math.hypot(cos, sin),
        max(left) - min(left),
    )  # fmt: skip
