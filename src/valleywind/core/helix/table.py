"""How table or head is set over, what it needs of arbor and saddle, and all of it seen from above.

Seen from above as the operator stands: x to the right, y away from the operator toward the column; the table turns
about the origin, under the cutter. mm and degrees, positive angles anticlockwise.
"""

import math
from collections.abc import Iterable
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.helix.machine import Mill, Side
from valleywind.core.trains.direction import Hand, Sense

Point = tuple[float, float]

CLEAR = 5.0
"""mm that the table keeps from the column."""
CUTTER_WIDTH = 12.0
"""mm that an arbor carries beyond the middle of the cutter, collar and all, to hold it."""
# Drawn where nothing is on record, mm: length and width of the table, middle of the table to column; the cutter.
_TABLE, _AWAY = (700.0, 180.0), 230.0
USUAL_CUTTER = 60.0
# A dividing head on the table, and the tailstock at the other end: how long and how wide they are drawn, mm.
_HEAD, _TAIL = (120.0, 110.0), (50.0, 60.0)
_ARBOR, _OVERHANG = 14.0, 70.0


class How(StrEnum):
    """What is set over by the helix angle."""

    TABLE = "table"
    HEAD = "head"
    NEITHER = "neither"
    UNKNOWN = "unknown"


@dataclass(frozen=True)
class Swing:
    """degrees: how far, 0 … 90. how: what is set over; sense: seen from above, of the table, or of the cutter's plane
    where the head is. most: how far the machine can, None where that is not on record."""

    degrees: float
    how: How
    sense: Sense
    most: Fraction | None


def swing(degrees: float, hand: Hand, mill: Mill) -> Swing:
    """For a right-hand helix the right-hand end of the table goes away from the operator, toward the column:
    anticlockwise seen from above. Beyond what the table does a swivelling head does it, the table square."""
    table = Sense.ANTICLOCKWISE if hand is Hand.RIGHT else Sense.CLOCKWISE
    if mill.swing is not None and degrees <= mill.swing:
        return Swing(degrees, How.TABLE, table, mill.swing)
    if mill.swivel is not None and degrees <= mill.swivel:
        # The cutter is turned to the teeth instead of the teeth to the cutter: the other way round.
        return Swing(degrees, How.HEAD, table.other, mill.swivel)
    if mill.swing is None:
        return Swing(degrees, How.UNKNOWN, table, None)
    return Swing(degrees, How.NEITHER, table, max(mill.swing, mill.swivel or Fraction(0)))


def approach(cutter: float, depth: float, degrees: float) -> float:
    """How far along the work the cutter's middle is from the end of the teeth when it first touches, or is just clear:
    √(h (D − h)) along its own plane."""
    return math.sqrt(depth * (cutter - depth)) * math.cos(math.radians(degrees))


@dataclass(frozen=True)
class Needs:
    """What the set-over table needs. away: the table's middle line from the column, None where the table's size is not
    on record; square: the same of a table that stands square; arbor: how far from the column the cutter is carried;
    chosen: the shortest arbor on record that does it, None where none does or none is on record. column_clear: False
    where the saddle does not come out so far, None where that is not known; travels: likewise of the table along."""

    away: float | None
    square: float | None
    arbor: float | None
    chosen: Fraction | None
    column_clear: bool | None
    travels: bool | None

    @property
    def arbor_lacks(self) -> bool:
        """No arbor on record reaches; False where that is not known."""
        return self.arbor is not None and self.chosen is None


def needs(swing: Swing, mill: Mill, move: float) -> Needs:
    """For a table that moves so far along during the cut, mm, the work in the middle of the table."""
    travels = None if mill.travel is None else move <= mill.travel
    if mill.table is None:
        return Needs(None, None, None, None, None, travels)
    turned = 0.0 if swing.how is How.HEAD else swing.degrees
    nearest = float(mill.saddle[0]) if mill.saddle else 0.0
    square = max(nearest, _behind(mill, 0.0, 0.0) + CLEAR)
    away = max(nearest, _behind(mill, turned, move / 2) + CLEAR)
    arbor = away + CUTTER_WIDTH
    chosen = next((a for a in mill.arbors if a >= arbor), None) if mill.arbors else None
    clear = None if mill.saddle is None else away <= mill.saddle[1]
    return Needs(away, square, arbor if mill.arbors else None, chosen, clear, travels)


def _behind(mill: Mill, degrees: float, shift: float) -> float:
    """How far the table's hindmost corner stands behind its middle, shifted along itself so far."""
    assert mill.table is not None
    long, wide = map(float, mill.table)
    turned = math.radians(degrees)
    return (long / 2 + shift) * math.sin(turned) + wide / 2 * math.cos(turned)


@dataclass(frozen=True)
class View:
    """Everything seen from above, corners in turn. table: as it stands at mid-cut; begins, ends: where it is when the
    cut begins and when it is done, the table moving left; square: as it stood before it was swung, empty where it is
    not swung. work, head, tail: on it; teeth: lines on top of the work. cutter, arbor: in place; column: distance of
    its face. to_scale: False where the table's size is not on record."""

    table: tuple[Point, ...]
    begins: tuple[Point, ...]
    ends: tuple[Point, ...]
    square: tuple[Point, ...]
    work: tuple[Point, ...]
    head: tuple[Point, ...]
    tail: tuple[Point, ...]
    teeth: tuple[tuple[Point, ...], ...]
    cutter: tuple[Point, ...]
    arbor: tuple[Point, ...]
    column: float
    fouls: bool
    to_scale: bool


def view(
    swing: Swing, hand: Hand, mill: Mill, need: Needs, move: float, work: tuple[float, float], cutter: float,
    teeth: int | None = None,
) -> View:  # fmt: skip
    """work: diameter and length; cutter: diameter; move: how far the table goes during the cut; teeth: how many lines
    go round the work, None where that is not known."""
    long, wide = map(float, mill.table) if mill.table else _TABLE
    toward = 1 if swing.sense is Sense.ANTICLOCKWISE else -1
    table_turn = toward * swing.degrees if swing.how is not How.HEAD else 0.0
    cutter_turn = toward * swing.degrees if swing.how is How.HEAD else 0.0
    column = need.away if need.away is not None else max(_AWAY, _reach(long, wide, table_turn, move) + CLEAR)
    if need.column_clear is False and mill.saddle is not None:
        column = float(mill.saddle[1])
    across, length = work
    head_at = 1 if mill.head_at is Side.RIGHT else -1
    ends = [head_at * (_clear_of_arbor(length, size[1], table_turn) + size[0] / 2) for size in (_HEAD, _TAIL)]
    return View(
        _block((long, wide), 0.0, 0.0, table_turn),
        _block((long, wide), move / 2, 0.0, table_turn),
        _block((long, wide), -move / 2, 0.0, table_turn),
        _block((long, wide), 0.0, 0.0, 0.0) if table_turn else (),
        _block((length, across), 0.0, 0.0, table_turn),
        _block(_HEAD, ends[0], 0.0, table_turn),
        _block(_TAIL, -ends[1], 0.0, table_turn),
        _grooves(across, length, hand, swing.degrees, table_turn, teeth),
        _block((cutter, CUTTER_WIDTH / 2), 0.0, 0.0, cutter_turn),
        _block((_ARBOR, column + _OVERHANG), 0.0, (column - _OVERHANG) / 2, cutter_turn),
        column,
        need.column_clear is False,
        mill.table is not None,
    )


def _reach(long: float, wide: float, degrees: float, move: float) -> float:
    turned = math.radians(abs(degrees))
    return (long + move) / 2 * math.sin(turned) + wide / 2 * math.cos(turned)


def _block(size: tuple[float, float], along: float, across: float, degrees: float) -> tuple[Point, ...]:
    """The corners of a block whose middle stands so far along and across, turned about the origin."""
    half_long, half_wide = size[0] / 2, size[1] / 2
    corners = ((-half_long, -half_wide), (half_long, -half_wide), (half_long, half_wide), (-half_long, half_wide))
    return _turned([(along + x, across + y) for x, y in corners], degrees)


def _clear_of_arbor(length: float, wide: float, degrees: float) -> float:
    """How far from the cutter's middle a block on the table begins, so that none of it is under the arbor however the
    table is swung: the mandrel is long enough for that."""
    turned = math.radians(abs(degrees))
    return max(length / 2 + _GAP, (_ARBOR / 2 + CLEAR + wide / 2 * math.sin(turned)) / math.cos(turned))


def _grooves(
    across: float, length: float, hand: Hand, degrees: float, turn: float, teeth: int | None
) -> tuple[tuple[Point, ...], ...]:
    """Tooth lines on the upper side of the work: helices about its axis, lying over by the angle on its very top, where
    a right-hand one runs toward the operator on its way to the right."""
    radius, half = across / 2, length / 2
    rise = radius / math.tan(math.radians(degrees))
    way = -1 if hand is Hand.RIGHT else 1
    apart = 2 * math.pi * rise / teeth if teeth else max(length, math.pi * rise) / _LINES
    # Lines that would lie closer than can be seen are left out, evenly.
    spacing = apart * math.ceil(length / _CLOSEST / apart) if apart < length / _CLOSEST else apart
    count = math.ceil((half + math.pi / 2 * rise) / spacing)
    lines = []
    for n in range(-count, count + 1):
        # From where it comes up over the work's edge, or in at its end, to where it goes.
        low, high = sorted(way * (x - n * spacing) / rise for x in (-half, half))
        low, high = max(low, -math.pi / 2), min(high, math.pi / 2)
        if low < high:
            angles = [low + (high - low) * step / _POINTS for step in range(_POINTS + 1)]
            points = [(n * spacing + way * phi * rise, radius * math.sin(phi)) for phi in angles]
            lines.append(_turned(points, turn))
    return tuple(lines)


# Lines drawn along the work where their count is not known, how many at most, and points of each.
_LINES, _CLOSEST, _POINTS = 9, 60, 12
# mm of mandrel that show at either end of the work.
_GAP = 25.0


def _turned(points: Iterable[Point], degrees: float) -> tuple[Point, ...]:
    turned = math.radians(degrees)
    cos, sin = math.cos(turned), math.sin(turned)
    return tuple((x * cos - y * sin, x * sin + y * cos) for x, y in points)
