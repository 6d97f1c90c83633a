"""A quadrant's record as it is typed in, for whatever machine has one, and calipers instead of coordinates."""

import math
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.core.trains.in_line import reached
from valleywind.core.trains.model import Train, parse_train
from valleywind.core.trains.quadrant import (
    LEAST_APART,
    MOST_STUDS,
    USUAL_STUDS,
    Carrier,
    Part,
    Point,
    Quadrant,
    Slot,
    UnmeasuredQuadrant,
    closed,
)
from valleywind.core.units import parse_degrees, parse_number

# Farther than this nothing stands round a machine's gear end, mm.
_FARTHEST = 2000.0
_MOST_CORNERS = 60
MOST_TRAINS = 12
"""Trains that are kept as known to go on, and as known not to."""
# How much the place of the first shaft may differ from the distance typed beside it, mm.
_SAME_DISTANCE = 0.1


@dataclass(frozen=True)
class TypedSlot:
    """A slot as typed: degrees from the first one, mm."""

    offset: str
    nearest: str
    farthest: str


class Source(StrEnum):
    """Where a part of the record comes from."""

    STATED = "stated"
    MEASURED = "measured"
    GUESSED = "guessed"


NO_COVER = "none"
"""What is typed where there is no cover: an empty field says that it is not known."""


@dataclass(frozen=True)
class TypedQuadrant:
    """Every field as text, empty where it is not known; lengths in mm, angles in degrees.

    first_x, first_y: where the first shaft is, seen from the last, to the right and up; or only `apart`, how far they
    are from each other. collar_first, collar_stud, collar_last: diameters of what sticks out beside a wheel there.
    cover: corners `x y, x y, x y`, or `none`. goes_on, not_on: trains known to go on and known not to, with commas
    between. sources: where a part comes from, other than from papers.
    """

    first_x: str = ""
    first_y: str = ""
    apart: str = ""
    swing_low: str = ""
    swing_high: str = ""
    collar_first: str = ""
    collar_stud: str = ""
    collar_last: str = ""
    gap: str = "0.5"
    studs: str = ""
    slots: tuple[TypedSlot, ...] = ()
    cover: str = ""
    goes_on: str = ""
    not_on: str = ""
    sources: Mapping[Part, Source] = field(default_factory=dict)


@dataclass(frozen=True)
class QuadrantFacts:
    """The same, read: each part by itself, None where it is not known. Lengths in mm, angles in radians.

    bosses: radii of what sticks out at first shaft, stud and last shaft. apart: where only the distance of the shafts
    is known; `first_shaft` where their direction is known too. cover: () where there is none.
    """

    first_shaft: Point | None = None
    apart: float | None = None
    slots: tuple[Slot, ...] = ()
    swing: tuple[float, float] | None = None
    bosses: tuple[float | None, float | None, float | None] = (None, None, None)
    gap: float = 0.5
    studs: int | None = None
    cover: tuple[Point, ...] | None = None
    goes_on: tuple[Train, ...] = ()
    not_on: tuple[Train, ...] = ()
    sources: Mapping[Part, Source] = field(default_factory=dict)

    @property
    def distance(self) -> float | None:
        """From first to last shaft, mm."""
        return math.hypot(*self.first_shaft) if self.first_shaft else self.apart

    @property
    def unknown(self) -> frozenset[Part]:
        """The parts that are not on record."""
        missing = {
            Part.SHAFTS: self.distance is None,
            Part.DIRECTION: self.first_shaft is None,
            Part.SLOTS: not self.slots and self.studs != 0,
            Part.SWING: self.swing is None,
            Part.COLLARS: None in self.bosses,
            Part.COVER: self.cover is None,
            Part.STUDS: self.studs is None,
        }
        return frozenset(part for part, lacks in missing.items() if lacks)

    def carrier(self, module: float | None) -> Carrier:
        """What trains are laid out on: a measured quadrant as soon as shafts and slots are known and the wheels have a
        pitch (`module`, mm); else what is known all the same."""
        unknown, distance = self.unknown, self.distance
        studs = USUAL_STUDS if self.studs is None else self.studs
        if module is None or distance is None or Part.SLOTS in unknown:
            goes, stays_off = (tuple(r for t in some if (r := reached(t))) for some in (self.goes_on, self.not_on))
            apart = distance / module if distance and module else None
            return UnmeasuredQuadrant(studs, apart, goes, stays_off, unknown)
        first, stud, last = (radius or 0.0 for radius in self.bosses)
        guessed = frozenset(p for p, source in self.sources.items() if source is Source.GUESSED and p not in unknown)
        return Quadrant(
            self.first_shaft or (distance * math.cos(_SOMEWHERE), distance * math.sin(_SOMEWHERE)),
            self.slots, self.swing or (-math.pi, math.pi), (first, stud, last), self.gap, studs, self.cover or None,
            unknown, guessed,
        )  # fmt: skip


# Where only the distance of the shafts is known, the first one is drawn in this direction, radians.
_SOMEWHERE = math.radians(60)


def read_quadrant(typed: TypedQuadrant) -> QuadrantFacts:
    """Read every field. Raises Refusal at the first that cannot be used, by its name."""
    first, apart = _first_shaft(typed)
    studs = _signed(parse_number, typed.studs, "studs") if typed.studs.strip() else None
    if studs is not None and (studs.denominator != 1 or not 0 <= studs <= MOST_STUDS):
        raise Refusal("studs_out_of_range", "studs", typed.studs, most=MOST_STUDS)
    slots = tuple(_slot(slot, n) for n, slot in enumerate(typed.slots))
    facts = QuadrantFacts(
        first, apart, slots, _swing(typed),
        (_radius(typed.collar_first, "collar_first"), _radius(typed.collar_stud, "collar_stud"),
         _radius(typed.collar_last, "collar_last")),
        _size(typed.gap or "0", "gap"), None if studs is None else int(studs), _cover(typed.cover),
        _trains(typed.goes_on, "goes_on"), _trains(typed.not_on, "not_on"), dict(typed.sources),
    )  # fmt: skip
    if first is None:
        # Both are told from where the first shaft lies.
        if facts.swing is not None:
            raise Refusal("needs_direction", "swing_low", typed.swing_low)
        if facts.cover:
            raise Refusal("needs_direction", "cover", typed.cover)
    return facts


def _first_shaft(typed: TypedQuadrant) -> tuple[Point | None, float | None]:
    apart = _known(typed.apart, "apart")
    if apart is not None and apart < 1:
        raise Refusal("shafts_in_one_place", "apart", typed.apart)
    if not typed.first_x.strip() and not typed.first_y.strip():
        return None, apart
    first = _coordinate(typed.first_x, "first_x"), _coordinate(typed.first_y, "first_y")
    if math.hypot(*first) < 1:
        raise Refusal("shafts_in_one_place", "first_x", typed.first_x)
    if apart is not None and abs(math.hypot(*first) - apart) > _SAME_DISTANCE:
        raise Refusal("apart_differs", "apart", typed.apart, apart=f"{math.hypot(*first):.1f}")
    return first, None


def _swing(typed: TypedQuadrant) -> tuple[float, float] | None:
    if not typed.swing_low.strip() and not typed.swing_high.strip():
        return None
    low, high = _degrees(typed.swing_low, "swing_low"), _degrees(typed.swing_high, "swing_high")
    if not low < high:
        raise Refusal("swing_backwards", "swing_high", typed.swing_high)
    return low, high


def _trains(text: str, name: str) -> tuple[Train, ...]:
    """Trains with commas between. Raises Refusal `not_one_stud` for one that tells nothing of the shafts."""
    trains = tuple(parse_train(part.strip(), name) for part in re.split(r"[,;\n]", text) if part.strip())
    for train in trains:
        if reached(train) is None:
            raise Refusal("not_one_stud", name, train.notation)
    if len(trains) > MOST_TRAINS:
        raise Refusal("too_many_trains", name, len(trains), most=MOST_TRAINS)
    return trains


def spell_quadrant(known: QuadrantFacts) -> TypedQuadrant:
    """The fields as `read_quadrant` takes them back, to a billionth of a mm or a degree."""
    low, high = (_figure(math.degrees(angle)) for angle in known.swing) if known.swing else ("", "")
    first, stud, last = ("" if radius is None else _figure(2 * radius) for radius in known.bosses)
    x, y = map(_figure, known.first_shaft) if known.first_shaft else ("", "")
    cover = ", ".join(f"{_figure(x)} {_figure(y)}" for x, y in known.cover or ())
    return TypedQuadrant(
        x, y, "" if known.apart is None else _figure(known.apart), low, high, first, stud, last, _figure(known.gap),
        "" if known.studs is None else str(known.studs),
        tuple(
            TypedSlot(_figure(math.degrees(s.offset)), _figure(s.nearest), _figure(s.farthest)) for s in known.slots
        ),
        NO_COVER if known.cover == () else cover,
        ", ".join(t.notation for t in known.goes_on), ", ".join(t.notation for t in known.not_on), dict(known.sources),
    )  # fmt: skip


def _figure(value: float) -> str:
    """The figure so that it is read back to the same, but for what the way from degrees and back adds."""
    text = f"{value:.9f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


@dataclass(frozen=True)
class Readings:
    """Caliper readings over the outsides of two shafts, mm, with the diameters they were taken on.

    over: first and last shaft. inner, outer: the stud at each end of its slot, and the last shaft. height: how much
    higher the first shaft stands. None where it was not taken.
    """

    first: float
    last: float
    over: float
    stud: float | None = None
    inner: float | None = None
    outer: float | None = None
    height: float | None = None


@dataclass(frozen=True)
class QuadrantFigures:
    """What readings come to: the distance of the shafts, where the first one is (to the right) when its height was
    taken, nearest and farthest place of the stud; mm, None where it was not measured."""

    apart: float
    first_shaft: Point | None
    nearest: float | None
    farthest: float | None


def from_calipers(read: Readings) -> QuadrantFigures:
    """Middle to middle: the reading less half of both diameters.

    Raises Refusal `calipers_do_not_close`, `empty` (stud), `slot_backwards`, at the reading.
    """
    apart = _between("over", read.over, read.first, read.last)
    first = None
    if read.height is not None:
        if abs(read.height) > apart:
            raise Refusal("calipers_do_not_close", "over", f"{read.over:g}", apart=f"{apart:.1f}")
        first = math.sqrt(apart**2 - read.height**2), read.height
    ends = []
    for name, over in (("inner", read.inner), ("outer", read.outer)):
        if over is not None and read.stud is None:
            raise Refusal("empty", "stud", "")
        ends.append(None if over is None or read.stud is None else _between(name, over, read.stud, read.last))
    nearest, farthest = ends
    if nearest is not None and farthest is not None and nearest >= farthest:
        raise Refusal("slot_backwards", "outer", f"{read.outer:g}")
    return QuadrantFigures(apart, first, nearest, farthest)


def _between(name: str, over: float, one: float, other: float) -> float:
    apart = over - (one + other) / 2
    if apart <= 0:
        raise Refusal("calipers_do_not_close", name, f"{over:g}", apart="0")
    return apart


def _signed(parse: Callable[[str, str], Fraction], text: str, name: str) -> Fraction:
    """What may stand below zero."""
    typed = text.strip().replace("−", "-")
    sign = -1 if typed.startswith("-") else 1
    return sign * parse(typed.removeprefix("-"), name)


def _degrees(text: str, name: str) -> float:
    value = float(_signed(parse_degrees, text, name))
    if not -360 <= value <= 360:
        raise Refusal("angle_too_large", name, text)
    return math.radians(value)


def _coordinate(text: str, name: str) -> float:
    value = float(_signed(parse_number, text.strip().removesuffix("mm"), name))
    if abs(value) > _FARTHEST:
        raise Refusal("too_far", name, text, most=_FARTHEST)
    return value


def _size(text: str, name: str) -> float:
    value = _coordinate(text, name)
    if value < 0:
        raise Refusal("not_positive", name, text)
    return value


def _known(text: str, name: str) -> float | None:
    return _size(text, name) if text.strip() else None


def _radius(diameter: str, name: str) -> float | None:
    across = _known(diameter, name)
    return None if across is None else across / 2


def _slot(typed: TypedSlot, place: int) -> Slot:
    name = f"slots.{place}"
    nearest, farthest = _size(typed.nearest, name), _size(typed.farthest, name)
    if not nearest < farthest:
        raise Refusal("slot_backwards", name, typed.farthest)
    return Slot(_degrees(typed.offset or "0", name), nearest, farthest)


def _cover(text: str) -> tuple[tuple[float, float], ...] | None:
    """Its corners; () where there is none, None where nothing is known."""
    if text.strip().lower() == NO_COVER:
        return ()
    corners = []
    for part in (p.strip() for p in text.replace("\n", ",").split(",")):
        if part:
            words = part.split()
            if len(words) != 2:
                raise Refusal("not_a_corner", "cover", part)
            corners.append((_coordinate(words[0], "cover"), _coordinate(words[1], "cover")))
    outline = closed(corners)
    for corner, onward in zip(outline, [*outline[1:], *outline[:1]], strict=True):
        if len(outline) > 1 and math.dist(corner, onward) < LEAST_APART:
            raise Refusal("corner_on_corner", "cover", f"{corner[0]:g} {corner[1]:g}")
    if outline and len(outline) < 3:
        raise Refusal("too_few_corners", "cover", text)
    if len(outline) > _MOST_CORNERS:
        raise Refusal("too_many_corners", "cover", len(outline), most=_MOST_CORNERS)
    return outline or None
