"""Trains whose quadrant is not known: wheels in mesh along a line, and what can be told of them all the same.

Stretched out, no two shafts can stand farther apart; so what fouls here fouls on any quadrant. Rules of thumb are in
numbers of teeth, for which no pitch is needed: a wheel's tips stand (z + 2) / 2 modules from its middle, two wheels in
mesh (a + b) / 2 modules apart.

        A ── B,C ── D        B reaches across the last shaft as soon as B + 2 > C + D

Trains of one shape are measured together as arrays, one row a train.
"""

import math
from collections.abc import Sequence
from enum import Enum, auto

import numpy as np
from numpy.typing import NDArray

from valleywind.core.interrupt import spend
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.model import Train
from valleywind.core.trains.placement import Margin, Obstacle, Placement, Reason, RoomCheck
from valleywind.core.trains.quadrant import CentreDistances, UnmeasuredQuadrant
from valleywind.core.trains.shape import Places, Shape, TrainsOfShape

# Of idlers that would all do, one of about this size is named.
_USUAL_IDLER = 50
ENOUGH_TEETH = 13
"""How many teeth short of a shaft is room enough. By an old rule of thumb two wheels in mesh need 15 teeth more than a
wheel beside them; its tips take up 2."""
# Distances between the shafts that are looked at where trains known to go on leave a range.
_DISTANCES = 25
# Rounding, in modules.
_TOUCH = 1e-9
# Two wheels mesh directly where the shafts stand this near to their centre distance, in modules.
_DIRECT = 0.1


def reached(train: Train) -> CentreDistances | None:
    """What a train with one stud reaches; None for any other."""
    if train.shafts != 3:
        return None
    first, last = ((train.teeth[a] + train.teeth[b]) / 2 for a, b in train.meshing)
    return CentreDistances(first, last)


class Line(TrainsOfShape):
    """Trains of one shape, each stretched out.

    teeth: (trains, wheels). fits: whether nothing surely keeps it off; room: how many teeth larger a wheel may be
    before one reaches where it must not, with idlers as far as that matters.
    """

    def __init__(
        self, shape: Shape, teeth: NDArray[np.int64], family: WheelFamily, quadrant: UnmeasuredQuadrant
    ) -> None:
        spend(len(teeth))
        super().__init__(shape, teeth)
        self.family, self.quadrant = family, quadrant
        one, other = shape.meshing
        spans = (teeth[:, one] + teeth[:, other]) / 2
        # How far each shaft stands from the last one, in modules.
        self.along = np.zeros((len(teeth), shape.shafts))
        self.along[:, :-1] = spans[:, ::-1].cumsum(axis=1)[:, ::-1]
        here, there = shape.pairs
        apart = np.abs(self.along[:, here] - self.along[:, there])
        # For every wheel and every shaft whose wheels it does not mesh with: by how many teeth it falls short of it.
        wheel, _, pair = shape.free_of
        self.margins = 2 * apart[:, pair] - (teeth[:, wheel] + 2)
        # Wheels of one plane on two shafts that are not to mesh: by how many teeth they overlap.
        left, right, between = shape.beside
        self.meetings = teeth[:, left] + teeth[:, right] + 4 - 2 * apart[:, between]
        self.off = self._off()
        self.fits = self.off < 0
        room = self.margins.min(axis=1) if self.margins.shape[1] else np.zeros(len(teeth))
        idlers = teeth[:, shape.between]
        if len(shape.between):  # a larger idler is no better for more room than that
            room = np.minimum(room, ENOUGH_TEETH)
        # A hair of preference for idlers of a usual size.
        unusual = np.abs(idlers - _USUAL_IDLER).sum(axis=1)
        self.room: NDArray[np.float64] = np.where(self.fits, room, -self.off) - 1e-6 * unusual

    def worth(self, rows: Places) -> NDArray[np.float64]:
        return self.room[rows]

    def _off(self) -> NDArray[np.float64]:
        """By how much each train surely does not go on; negative where nothing keeps it off."""
        rows = len(self.teeth)
        if self._lacking > 0:
            return np.full(rows, float(self._lacking))
        if self.shape.shafts == 2:
            return np.where(self._meet(), -1.0, 1.0)
        reaching = np.where(self.margins <= 0, -self.margins, -1.0).max(axis=1, initial=-1.0)
        meeting = np.where(self.meetings > 0, self.meetings, -1.0).max(axis=1, initial=-1.0)
        off: NDArray[np.float64] = np.maximum(reaching, meeting)
        if self.shape.shafts == 3 and _tells(self.quadrant):
            for row in np.nonzero(off < 0)[0].tolist():
                if self._reach(row) is _Reach.NOT:
                    off[row] = 1.0
        return off

    @property
    def _lacking(self) -> int:
        """How many studs lack."""
        return self.shape.shafts - 2 - self.quadrant.studs

    def _meet(self) -> NDArray[np.bool_]:
        """Whether two wheels alone are known to reach from shaft to shaft."""
        if self.quadrant.apart is None:
            return np.zeros(len(self.teeth), dtype=bool)
        near: NDArray[np.bool_] = np.abs(self.quadrant.apart - self.along[:, 0]) < _DIRECT
        return near

    def _reach(self, row: int) -> "_Reach":
        if self.shape.shafts != 3:
            return _Reach.OPEN
        first, stud, _ = self.along[row].tolist()
        return _reach(CentreDistances(first - stud, stud), self.quadrant)

    def best(self, row: int) -> Placement:
        """Where the shafts stand in the line, and the rules of thumb."""
        module = float(self.family.module)
        obstacles = tuple(self._obstacles(row))
        return Placement(
            centres=tuple((x * module, 0.0) for x in self.along[row].tolist()),
            slots=(),
            swing=0.0,
            boss_clearance=0.0,
            clearance=0.0,
            obstacles=obstacles,
            tightest=(),
            checked=RoomCheck.REACH if self._reach(row) is _Reach.KNOWN and not obstacles else RoomCheck.NOTHING,
            swing_known=False,
            margins=tuple(sorted(self._margins(row), key=lambda m: m.teeth)),
        )

    def _margins(self, row: int) -> list[Margin]:
        wheels, shafts, _ = (places.tolist() for places in self.shape.free_of)
        return list(map(Margin, wheels, shafts, self.margins[row].tolist()))

    def _obstacles(self, row: int) -> list[Obstacle]:
        if self.fits[row]:
            return []
        if self._lacking > 0:
            return [Obstacle(Reason.TOO_FEW_STUDS, self._lacking)]
        if self.shape.shafts == 2:
            return [Obstacle(Reason.NO_IDLER, 1.0)]
        obstacles = [
            Obstacle(Reason.REACHES_SHAFT, -m.teeth, m.shaft, wheels=(m.wheel,))
            for m in self._margins(row)
            if m.teeth <= 0
        ]
        left, right, _ = (places.tolist() for places in self.shape.beside)
        obstacles += [
            Obstacle(Reason.WHEELS_MEET, over, wheels=(a, b))
            for a, b, over in zip(left, right, self.meetings[row].tolist(), strict=True)
            if over > 0
        ]
        return obstacles or [Obstacle(Reason.BEYOND_KNOWN, 1.0)]


def _tells(quadrant: UnmeasuredQuadrant) -> bool:
    """Whether anything is known of how far a stud reaches."""
    return quadrant.apart is not None or bool(quadrant.goes_on)


class _Reach(Enum):
    KNOWN = auto()
    OPEN = auto()
    NOT = auto()


def _reach(wanted: CentreDistances, quadrant: UnmeasuredQuadrant) -> _Reach:
    """Whether a train with one stud closes, as far as trains known to go on tell.

    Each of them bounds the distance D of the shafts: |s − r| ≤ D ≤ s + r with s from first shaft to stud, r from stud
    to last. Between the nearest and the farthest stud there is slot; between the smallest and the largest angle at the
    last shaft, cos α = (r² + D² − s²) / 2rD, the quadrant swings; both for every D that the trains leave open.
    """
    distances = _distances(quadrant)
    if distances and not any(_closes(wanted, d) for d in distances):
        return _Reach.NOT
    if not quadrant.goes_on:
        return _Reach.OPEN
    nearest, farthest = min(k.last for k in quadrant.goes_on), max(k.last for k in quadrant.goes_on)
    for other in quadrant.not_on:
        if wanted.last >= other.last > farthest or wanted.last <= other.last < nearest:
            return _Reach.NOT
    inside = nearest - _TOUCH <= wanted.last <= farthest + _TOUCH
    if inside and distances and all(_swings(wanted, d, quadrant.goes_on) for d in distances):
        return _Reach.KNOWN
    return _Reach.OPEN


def _distances(quadrant: UnmeasuredQuadrant) -> list[float]:
    """Distances of the shafts, in modules, that the trains known to go on leave open; none where nothing tells."""
    if quadrant.apart is not None:
        return [quadrant.apart]
    if not quadrant.goes_on:
        return []
    least = max(abs(k.first - k.last) for k in quadrant.goes_on)
    most = min(k.first + k.last for k in quadrant.goes_on)
    return [least + (most - least) * n / (_DISTANCES - 1) for n in range(_DISTANCES)] if most > least else []


def _closes(reached: CentreDistances, distance: float) -> bool:
    return abs(reached.first - reached.last) - _TOUCH <= distance <= reached.first + reached.last + _TOUCH


def _swings(wanted: CentreDistances, distance: float, known: Sequence[CentreDistances]) -> bool:
    """Whether the stud stands between the directions of those of known trains, with the shafts so far apart."""
    if not _closes(wanted, distance):
        return False
    angles = [_angle(k, distance) for k in known if _closes(k, distance)]
    return bool(angles) and min(angles) - _TOUCH <= _angle(wanted, distance) <= max(angles) + _TOUCH


def _angle(reached: CentreDistances, distance: float) -> float:
    """At the last shaft, between the first shaft and the stud, radians."""
    if distance <= 0:
        return 0.0
    cosine = (reached.last**2 + distance**2 - reached.first**2) / (2 * reached.last * distance)
    return math.acos(max(-1.0, min(1.0, cosine)))
