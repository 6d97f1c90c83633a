"""The quadrant, and every way a chain of centre distances can lie on it.

End view in mm, origin on the last shaft, which is also the quadrant's pivot:

        S first shaft            every slot is straight and radial from the pivot,
         o                       at its own offset from the first slot's centre line;
          \\                      swing = direction of that centre line
           \\   o stud
            \\ /
             O  last shaft, pivot

Many chains of one shape are worked out in one go as arrays: rows are chains, branches are the ways the same centre
distances can lie (which slot, which mirror image).
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from typing import ClassVar

import numpy as np
from numpy.typing import NDArray

Floats = NDArray[np.float64]
Point = tuple[float, float]

MOST_STUDS = 3
"""Studs that are worked out; a train of more is drawn in a line and does not go on."""

# Slots nearer to each other than this are one, rad.
_SAME_SLOT = 1e-12
# With no stud the two shafts must stand at the centre distance: this much too far or too near still meshes, in modules.
_DIRECT_SLACK, _DIRECT_TIGHT = 0.1, 0.02


@dataclass(frozen=True)
class Slot:
    """A straight slot from the pivot outward: offset (rad) from the first slot; nearest and farthest stud (mm)."""

    offset: float
    nearest: float
    farthest: float


LEAST_APART = 1e-3
"""Corners of a cover that are nearer to each other than this are one, mm."""


def closed(corners: Sequence[Point]) -> tuple[Point, ...]:
    """The corners of an outline that closes by itself: the first one said once more at its end is left out."""
    if len(corners) > 1 and math.dist(corners[0], corners[-1]) < LEAST_APART:
        return tuple(corners[:-1])
    return tuple(corners)


def usable_outline(corners: Sequence[Point]) -> tuple[Point, ...] | None:
    """What can be used of an outline however it was saved: corners in one place are one; None for fewer than three."""
    apart: list[Point] = []
    for corner in closed(corners):
        if not apart or math.dist(apart[-1], corner) >= LEAST_APART:
            apart.append(corner)
    while len(apart) > 1 and math.dist(apart[0], apart[-1]) < LEAST_APART:
        apart.pop()
    return tuple(apart) if len(apart) >= 3 else None


class Part(StrEnum):
    """What may be on record of a quadrant, each part by itself. DIRECTION: which way the first shaft lies, seen from
    the last; SHAFTS: how far apart they are."""

    SHAFTS = "shafts"
    DIRECTION = "direction"
    SLOTS = "slots"
    SWING = "swing"
    COLLARS = "collars"
    COVER = "cover"
    STUDS = "studs"


@dataclass(frozen=True)
class Quadrant:
    """The carrier of the studs and what stands round it. mm and radians.

    first_shaft: its centre, seen from the last shaft. swing: lowest and highest direction of the first slot.
    bosses: radii of what sticks out at the first shaft, at a stud, at the last shaft. gap: least clearance wanted.
    studs: how many studs there are. cover: its outline, or None. unknown: parts that are not on record: the swing is
    then taken to be free, collars to be nothing, and no cover is looked at. guessed: parts that are a guess.
    """

    first_shaft: Point
    slots: tuple[Slot, ...]
    swing: tuple[float, float]
    bosses: tuple[float, float, float]
    gap: float
    studs: int
    cover: tuple[Point, ...] | None = None
    unknown: frozenset[Part] = frozenset()
    guessed: frozenset[Part] = frozenset()

    def boss_radii(self, shafts: int) -> list[float]:
        """What sticks out at each of this many shafts, first to last."""
        first, stud, last = self.bosses
        return [first, *[stud] * (shafts - 2), last]


USUAL_STUDS = 2
"""Studs that are counted on where nobody has said how many there are."""


@dataclass(frozen=True)
class CentreDistances:
    """Centre distances of a train with one stud, in modules: first shaft to stud, stud to last shaft."""

    first: float
    last: float


@dataclass(frozen=True)
class UnmeasuredQuadrant:
    """A quadrant whose room is not known, because it is not measured or the wheels have no known pitch.

    unknown: parts that are not on record. apart: from first to last shaft in modules, None where not known. goes_on,
    not_on: what trains with one stud reach that are known to go on, and known not to.
    """

    studs: int = USUAL_STUDS
    apart: float | None = None
    goes_on: tuple[CentreDistances, ...] = ()
    not_on: tuple[CentreDistances, ...] = ()
    unknown: frozenset[Part] = frozenset(Part)

    slots: ClassVar[tuple[Slot, ...]] = ()
    cover: ClassVar[None] = None

    def boss_radii(self, shafts: int) -> list[float]:
        """Nothing is known to stick out."""
        return [0.0] * shafts


Carrier = Quadrant | UnmeasuredQuadrant
"""What carries the studs, measured or not."""


@dataclass(frozen=True)
class Branches:
    """How far studs stand from the last shaft and in which direction (rows, branches, studs), swing (rows, branches),
    slots (branches, studs) and how many mm the centre distances lack (positive: too close together) or have too much
    (negative) to close."""

    radii: Floats
    directions: Floats
    swing: Floats
    slots: NDArray[np.intp]
    lack: Floats

    def some(self, rows: slice) -> "Branches":
        """Those of some chains alone."""
        return Branches(self.radii[rows], self.directions[rows], self.swing[rows], self.slots, self.lack[rows])

    def studs(self, rows: NDArray[np.intp], ways: NDArray[np.intp]) -> Floats:
        """Where they stand (…, studs, 2), of these rows in one branch each."""
        radii, directions = self.radii[rows, ways], self.directions[rows, ways]
        return np.stack((radii * np.cos(directions), radii * np.sin(directions)), axis=-1)


def branches(spans: Floats, quadrant: Quadrant, module: float) -> Branches:
    """Every way the shafts of one chain can lie: `spans` (rows, meshes) are centre distances, first to last."""
    studs = spans.shape[1] - 1
    if studs == 0 or studs > MOST_STUDS or not quadrant.slots:
        return _in_line(spans, quadrant, module)
    first = math.hypot(*quadrant.first_shaft)
    toward = math.atan2(quadrant.first_shaft[1], quadrant.first_shaft[0])
    middle = sum(quadrant.swing) / 2
    ways = _ways(spans, quadrant)
    offsets = np.array([slot.offset for slot in quadrant.slots])[ways.slots]
    angle, open_by = _triangle(ways.radii[0], first, spans[:, :1])
    # Each way has its mirror image, next to it.
    sides = toward + angle[:, :, None] * np.array([1, -1]) - offsets[:, :1]
    swing = _turned_near(sides.reshape(len(spans), 2 * sides.shape[1]), middle)
    turned = swing[:, :, None] + np.repeat(offsets, 2, axis=0)
    radii = np.repeat(np.stack(ways.radii, axis=2), 2, axis=1)
    lack = np.repeat(_worse(ways.lack, open_by), 2, axis=1)
    return Branches(radii, turned, swing, np.repeat(ways.slots, 2, axis=0), lack)


def _in_line(spans: Floats, quadrant: Quadrant, module: float) -> Branches:
    """Straight from shaft to shaft with no stud; more studs than are worked out are drawn in a line."""
    reach = spans.sum(axis=1)
    share = np.cumsum(spans[:, ::-1], axis=1)[:, ::-1][:, 1:] / reach[:, None]
    away = share[:, None, :] * math.hypot(*quadrant.first_shaft)
    toward = np.full(away.shape, math.atan2(quadrant.first_shaft[1], quadrant.first_shaft[0]))
    off = math.hypot(*quadrant.first_shaft) - reach
    meshes = (off >= -_DIRECT_TIGHT * module) & (off <= _DIRECT_SLACK * module)
    lowest = np.full((len(spans), 1), quadrant.swing[0])
    slots = np.zeros((1, spans.shape[1] - 1), dtype=np.intp)
    return Branches(away, toward, lowest, slots, np.where(meshes, 0.0, -off)[:, None])


@dataclass(frozen=True)
class _SlotChoices:
    """Every choice of slots: which slot each stud is in (ways, studs), its radius there (rows, ways) for each stud, the
    stud next to the first shaft first; and by how much the studs fail to reach each other at the worst (rows, ways)."""

    slots: NDArray[np.intp]
    radii: tuple[Floats, ...]
    lack: Floats


def _ways(spans: Floats, quadrant: Quadrant) -> _SlotChoices:
    """Slots and radii of the studs; the stud next to the last shaft sits at its own centre distance from the pivot,
    each other stud where its slot comes within reach of the stud before it."""
    offsets = np.array([slot.offset for slot in quadrant.slots])
    slots = np.arange(len(offsets), dtype=np.intp)[:, None]
    radii: tuple[Floats, ...] = (np.repeat(spans[:, -1:], len(offsets), axis=1),)
    lack = np.zeros((len(spans), len(offsets)))
    for between in range(spans.shape[1] - 2, 0, -1):
        # In its own slot the next stud stands in one place, in another slot in two, the farther one first.
        steps = [
            (way, slot, far)
            for way, before in enumerate(slots[:, 0])
            for slot in range(len(offsets))
            for far in ((True,) if abs(offsets[slot] - offsets[before]) < _SAME_SLOT else (True, False))
        ]
        way, slot = np.array([step[:2] for step in steps], dtype=np.intp).T
        farther = np.array([far for _, _, far in steps])
        turned = offsets[slot] - offsets[slots[way, 0]]
        radius, lacks = _next_stud(spans[:, between, None], radii[0][:, way], turned, farther)
        radii = (radius, *(r[:, way] for r in radii))
        lack = _worse(lack[:, way], lacks)
        slots = np.column_stack([slot, slots[way]])
    return _SlotChoices(slots, radii, lack)


def _worse(one: Floats, other: Floats) -> Floats:
    return np.where(np.abs(one) > np.abs(other), one, other)


def _triangle(near: Floats, first: float, span: Floats) -> tuple[Floats, Floats]:
    """Angle at the pivot between the first shaft, `first` away, and a stud `near` away that stands `span` from it.

    Also how many mm the three fail to close: positive with the stud too close to the shaft, negative too far.
    """
    with np.errstate(divide="ignore", invalid="ignore"):
        cosine = (near**2 + first**2 - span**2) / (2 * near * first)
    cosine = np.where(np.isnan(cosine), 2.0, cosine)
    too_far = np.where(cosine > 1, np.abs(first - near) - span, 0.0)
    too_close = np.where(cosine < -1, span - (first + near), 0.0)
    return np.arccos(np.minimum(np.maximum(cosine, -1), 1)), too_close - too_far


def _turned_near(angle: Floats, middle: float) -> Floats:
    """The same direction, written within half a turn of `middle`."""
    return middle + np.remainder(angle - middle + math.pi, 2 * math.pi) - math.pi


def _next_stud(between: Floats, last: Floats, offset: Floats, farther: NDArray[np.bool_]) -> tuple[Floats, Floats]:
    """Radius at which the next stud toward the first shaft sits, and by how much the two fail to reach each other.

    `between`: centre distance of the studs; `last`: radius of the stud before; `offset`: angle between their slots;
    `farther`: whether it sits on the far side of the foot of the stud before, or on the near one.
    """
    same = np.abs(offset) < _SAME_SLOT
    foot = np.where(same, last, last * np.cos(offset))
    height = np.where(same, 0.0, np.abs(last * np.sin(offset)))
    reach = np.sqrt(np.maximum(between**2 - height**2, 0))
    lack = np.where(between < height, -(height - between), 0.0)
    inner = foot - reach
    # A stud on the far side of the pivot is no place in the slot.
    beyond = np.where(inner > 0, lack, np.minimum(lack, -np.abs(inner) - 1.0))
    return np.where(farther, foot + reach, np.maximum(inner, 1e-3)), np.where(farther, lack, beyond)
