"""What devices at the machine tell, and when that means something: a move is complete, a pedal was pressed.

Readings come as they are: noisy, bouncing, with gaps. Bounce never counts twice, and where a device was not heard in
between nothing is taken for done.
"""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from typing import Any

from valleywind.core.refusal import Refused

MOST_LINE = 4096
"""Bytes of one line."""
_MOST_NAME = 40


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
    """The first line, `{"hello": "encoder", "name": "crank", "on": "crank"}`. Raises Refused `no_hello`."""
    if not isinstance(line, Mapping) or line.get("hello") not in list(Sort):
        raise Refused("no_hello", "hello", str(line)[:_MOST_NAME])
    name = line.get("name", "")
    if not isinstance(name, str) or len(name) > _MOST_NAME:
        raise Refused("no_hello", "name", str(name)[:_MOST_NAME])
    if (on := line.get("on", On.CRANK)) not in list(On):
        raise Refused("no_hello", "on", str(on)[:_MOST_NAME])
    return Hello(Sort(line["hello"]), name or str(line["hello"]), On(on))


Reading = float | str | bool | None
"""What a line of a device tells; None where it says itself that it does not see anything."""


def read_line(sort: Sort, line: Any) -> Any:
    """What a line of such a device tells: a `Reading` of its sort's type. Raises Refused `no_device_reading`."""
    field, types = _CARRIES[sort]
    if not isinstance(line, Mapping) or field not in line:
        raise Refused("no_device_reading", field, str(line)[:_MOST_NAME])
    value = line[field]
    if value is None:
        return None
    if not isinstance(value, types) or (isinstance(value, bool) and types is not bool):
        raise Refused("no_device_reading", field, str(value)[:_MOST_NAME])
    if isinstance(value, int | float) and not math.isfinite(value):
        raise Refused("no_device_reading", field, str(value))
    return value


class Came(StrEnum):
    """What a reading of an encoder means for the move."""

    ARRIVED = "arrived"
    PAST = "past"
    LOST = "lost"


# Readings in a row that must stand still, and how far one may be from the one before while it is believed.
_STILL = 5
_LEAP = 0.25


@dataclass(frozen=True)
class Follow:
    """An encoder on the way to the next tooth. target: turns it must come to; near: how far off still counts; last: the
    reading before, None before the first; still: readings in a row that stood within `near`, of the target or past it;
    said: what was said of them last. lost: it was not heard in between, and must be set anew."""

    target: float
    near: float
    last: float | None = None
    still: int = 0
    past: int = 0
    said: Came | None = None
    lost: bool = False

    def heard(self, turned: float | None) -> tuple["Follow", Came | None]:
        """With one reading more; and what it means, told once."""
        if self.lost:
            return self, None
        if turned is None or (self.last is not None and abs(turned - self.last) > _LEAP):
            return replace(self, lost=True, still=0, past=0), Came.LOST
        off = turned - self.target
        quiet = self.last is not None and abs(turned - self.last) <= self.near
        still = self.still + 1 if abs(off) <= self.near else 0
        past = self.past + 1 if off > self.near and quiet else 0
        now = replace(self, last=turned, still=still, past=past)
        if still >= _STILL and self.said is not Came.ARRIVED:
            return replace(now, said=Came.ARRIVED), Came.ARRIVED
        if past >= _STILL and self.said is not Came.PAST:
            return replace(now, said=Came.PAST), Came.PAST
        return now, None

    def onward(self, target: float) -> "Follow":
        """To the tooth after that."""
        return Follow(target, self.near, self.last)


# How near a mark must stand to the pointer, in marks, and how far on it still counts as gone past.
_UNDER, _PAST = 0.15, 2.0


@dataclass(frozen=True)
class Watch:
    """A camera over a printed disc of so many marks, until the wanted one, from 1, stands under the pointer. It sees
    where it is, so that a reading that is missed costs nothing but time."""

    marks: int
    target: int
    still: int = 0
    past: int = 0
    said: Came | None = None

    def heard(self, mark: float | None) -> tuple["Watch", Came | None]:
        """With one reading more; and what it means, told once."""
        if mark is None:
            return replace(self, still=0, past=0), None
        # How far it is past the mark, the short way round.
        off = (mark - self.target + self.marks / 2) % self.marks - self.marks / 2
        still = self.still + 1 if abs(off) <= _UNDER else 0
        past = self.past + 1 if _UNDER < off <= _PAST else 0
        now = replace(self, still=still, past=past)
        if still >= _STILL and self.said is not Came.ARRIVED:
            return replace(now, said=Came.ARRIVED), Came.ARRIVED
        if past >= _STILL and self.said is not Came.PAST:
            return replace(now, said=Came.PAST), Came.PAST
        return now, None


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
class Turned:
    """A blank once round under an indicator. total: the whole reading; high: where it stands highest, degrees on from
    the start; offset: how far the middle is off, of the first harmonic; rest: what is then left, out of round; mm."""

    total: float
    high: float
    offset: float
    rest: float


_FEWEST = 8


def once_round(readings: Sequence[float]) -> Turned:
    """Of readings at even steps once round. Raises Refused `too_few_readings`."""
    n = len(readings)
    if n < _FEWEST:
        raise Refused("too_few_readings", "readings", n, least=_FEWEST)
    middle = sum(readings) / n
    angles = [2 * math.pi * k / n for k in range(n)]
    cos = 2 / n * sum(r * math.cos(a) for r, a in zip(readings, angles, strict=True))
    sin = 2 / n * sum(r * math.sin(a) for r, a in zip(readings, angles, strict=True))
    left = [r - middle - cos * math.cos(a) - sin * math.sin(a) for r, a in zip(readings, angles, strict=True)]
    return Turned(
        max(readings) - min(readings), math.degrees(math.atan2(sin, cos)) % 360, math.hypot(cos, sin),
        max(left) - min(left),
    )  # fmt: skip
