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


def needs(found: Swing, mill: Mill, move: float) -> Needs:
    """For a table that moves so far along during the cut, mm, the work in the middle of the table."""
    travels = None if mill.travel is None else move <= mill.travel
    if mill.table is None:
        return Needs(None, None, None, None, None, travels)
    turned = found.degrees if found.how is How.TABLE else 0.0
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
    found: Swing, hand: Hand, mill: Mill, need: Needs, move: float, work: tuple[float, float], cutter: float
) -> View:
    """work: diameter and length; cutter: diameter; move: how far the table goes during the cut."""
    long, wide = map(float, mill.table) if mill.table else _TABLE
    toward = 1 if found.sense is Sense.ANTICLOCKWISE else -1
    table_turn = toward * found.degrees if found.how is not How.HEAD else 0.0
    cutter_turn = toward * found.degrees if found.how is How.HEAD else 0.0
    column = need.away if need.away is not None else max(_AWAY, _reach(long, wide, table_turn, move) + CLEAR)
    if need.column_clear is False and mill.saddle is not None:
        column = float(mill.saddle[1])
    across, length = work
    head_at = 1 if mill.head_at is Side.RIGHT else -1
    ends = [head_at * (length / 2 + gap + size[0] / 2) for gap, size in ((25.0, _HEAD), (25.0, _TAIL))]
    return View(
        _block((long, wide), 0.0, 0.0, table_turn),
        _block((long, wide), move / 2, 0.0, table_turn),
        _block((long, wide), -move / 2, 0.0, table_turn),
        _block((long, wide), 0.0, 0.0, 0.0) if table_turn else (),
        _block((length, across), 0.0, 0.0, table_turn),
        _block(_HEAD, ends[0], 0.0, table_turn),
        _block(_TAIL, -ends[0] + head_at * (_HEAD[0] - _TAIL[0]) / 2, 0.0, table_turn),
        _grooves(across, length, hand, found.degrees, table_turn),
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


def _grooves(across: float, length: float, hand: Hand, degrees: float, turn: float) -> tuple[tuple[Point, ...], ...]:
    """Tooth lines on the upper side of the work: helices about its axis, lying over by the angle on its very top, where
    a right-hand one runs toward the operator on its way to the right."""
    radius = across / 2
    lead = 2 * math.pi * radius / math.tan(math.radians(degrees))
    way = -1 if hand is Hand.RIGHT else 1
    quarter = lead / 4
    spacing = max(length / _LINES, 2 * quarter / _LINES)
    count = math.ceil((length / 2 + quarter) / spacing)
    lines = []
    for n in range(-count, count + 1):
        points = []
        for step in range(-_POINTS, _POINTS + 1):
            phi = math.pi / 2 * step / _POINTS
            x = n * spacing + way * phi * lead / (2 * math.pi)
            if abs(x) <= length / 2:
                points.append((x, radius * math.sin(phi)))
        if len(points) > 1:
            lines.append(_turned(points, turn))
    return tuple(lines)


# Lines drawn along the work, and points of each on either side of its top.
_LINES, _POINTS = 9, 8


def _turned(points: Iterable[Point], degrees: float) -> tuple[Point, ...]:
    turned = math.radians(degrees)
    cos, sin = math.cos(turned), math.sin(turned)
    return tuple((x * cos - y * sin, x * sin + y * cos) for x, y in points)
