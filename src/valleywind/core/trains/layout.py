"""Does a train go on the quadrant, where does each stud sit, and if it does not go, by how much not.

Trains of one shape are measured together as arrays: rows are arrangements, branches the ways they can lie.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache

import numpy as np
from numpy.typing import NDArray

from valleywind.core.interrupt import spend
from valleywind.core.teeth.geometry import pitch_radius, tip_radius
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.in_line import Line
from valleywind.core.trains.model import Train
from valleywind.core.trains.placement import Clearance, Layout, Obstacle, Placement, Reason
from valleywind.core.trains.quadrant import Carrier, Floats, Part, Point, Quadrant, Unmeasured, branches
from valleywind.core.trains.shape import Places, Shape, TrainsOfShape, shape_of

# Places of a stud along its slot, and of a slot within the swing, that are looked at.
_STEPS = 48
# Decimals of a mm by which distances are told apart, so that rounding does not choose between equal ones.
_ALIKE = 9
# A violation this small is rounding, mm.
_TOUCH = 1e-6
# Clearances that are told of a place.
_TIGHTEST = 3


def solutions(train: Train, family: WheelFamily, quadrant: Quadrant) -> list[Placement]:
    """Every way the centre distances close within slots and swing, whatever may foul, in order of swing."""
    if train.shafts - 2 > quadrant.studs or train.shafts < 3:
        return []
    survey = Survey(shape_of(train.shape), np.array([train.teeth]), family, quadrant)
    reached = np.nonzero(survey.reach[0] <= _TOUCH)[0]
    return sorted((survey.placement(0, int(b)) for b in reached), key=lambda p: (p.swing, p.slots))


def lay_out(trains: Sequence[Train], family: WheelFamily, quadrant: Carrier) -> list[Layout]:
    """Each train in its roomiest place, in the order given; in a line where the quadrant is not known.

    The trains may be of any mixture of shapes; those of one shape are worked out together.
    """
    shapes: dict[tuple[int, ...], list[int]] = {}
    for n, train in enumerate(trains):
        shapes.setdefault(train.shape, []).append(n)
    laid: dict[int, Layout] = {}
    for idlers, rows in shapes.items():
        measured = measure(shape_of(idlers), np.array([trains[n].teeth for n in rows]), family, quadrant)
        laid |= {n: measured.laid(row, trains[n]) for row, n in enumerate(rows)}
    return [laid[n] for n in range(len(trains))]


def measure(shape: Shape, teeth: NDArray[np.int64], family: WheelFamily, quadrant: Carrier) -> TrainsOfShape:
    """Trains of one shape, on the quadrant or in a line. teeth: (trains, wheels)."""
    if isinstance(quadrant, Unmeasured):
        return Line(shape, teeth, family, quadrant)
    return Survey(shape, teeth, family, quadrant)


@dataclass(frozen=True)
class Largest:
    """The greatest tip radius, mm, that a wheel may have on the first shaft, on a stud wherever that may stand, on the
    last shaft: it fouls neither the cover nor what sticks out at the end shafts. What is larger goes on nowhere there.
    """

    first: float
    stud: float
    last: float

    @property
    def anywhere(self) -> float:
        return max(self.first, self.stud, self.last)


@lru_cache(maxsize=64)
def largest(quadrant: Carrier) -> Largest:
    """How large wheels may be. Studs are looked at in steps; what could lie between two steps is allowed for. Where the
    quadrant is not known nothing is too large."""
    if isinstance(quadrant, Unmeasured):
        return Largest(math.inf, math.inf, math.inf)
    boss_first, _, boss_last = quadrant.bosses
    first, last = np.array(quadrant.first_shaft), np.zeros(2)
    apart = math.hypot(*quadrant.first_shaft)
    ends = np.array([first, last])
    cover = _inside(ends, quadrant.cover) if quadrant.cover else np.full(2, np.inf)
    low, high = quadrant.swing
    turns = np.linspace(low, high, _STEPS)
    stud, slack = 0.0, 0.0
    for slot in quadrant.slots:
        along = np.linspace(slot.nearest, slot.farthest, _STEPS)
        r, turn = np.meshgrid(along, turns + slot.offset)
        spots = np.stack([r * np.cos(turn), r * np.sin(turn)], axis=-1)
        room = np.hypot(*np.moveaxis(spots - first, -1, 0)) - boss_first
        room = np.minimum(room, r - boss_last)
        if quadrant.cover:
            room = np.minimum(room, _inside(spots, quadrant.cover))
        stud = max(stud, float(room.max()))
        # Nothing moves by more than this from the nearest of the steps.
        slack = max(slack, math.hypot(along[1] - along[0], slot.farthest * (turns[1] - turns[0])))
    return Largest(
        min(float(cover[0]), apart - boss_last) - quadrant.gap,
        stud + slack - quadrant.gap,
        min(float(cover[1]), apart - boss_first) - quadrant.gap,
    )


class Survey(TrainsOfShape):
    """Trains of one shape on one quadrant, measured in every branch.

    teeth: (trains, wheels). fits, worth: for each train in its roomiest branch whether it goes on, and the least
    clearance, mm; where it does not go on how far it is off, negative.
    """

    def __init__(self, shape: Shape, teeth: NDArray[np.int64], family: WheelFamily, quadrant: Quadrant) -> None:
        super().__init__(shape, teeth)
        self.family, self.quadrant = family, quadrant
        spend(len(teeth) * 2 * max(1, len(quadrant.slots)) ** max(0, shape.shafts - 2))
        pitch_radii = pitch_radius(1, family) * teeth
        self.tips = pitch_radii + (tip_radius(1, family) - pitch_radius(1, family))
        one, other = shape.meshing
        self.boss_radii = np.array(quadrant.boss_radii(shape.shafts))
        self.missing_studs = max(0, shape.shafts - 2 - quadrant.studs)
        self.branches = branches(pitch_radii[:, one] + pitch_radii[:, other], quadrant, float(family.module))
        rows, ways = self.branches.swing.shape
        self.centres = np.zeros((rows, ways, shape.shafts, 2))
        self.centres[:, :, 0] = quadrant.first_shaft
        self.centres[:, :, 1:-1] = self.branches.studs
        self.slot_miss = self._slot_miss()
        low, high = quadrant.swing
        swing = self.branches.swing
        self.swing_miss = np.maximum(low - swing, 0) - np.maximum(swing - high, 0)
        reach_of_swing = np.abs(self.swing_miss) * math.hypot(*quadrant.first_shaft)
        reach = np.maximum(np.abs(self.branches.lack), reach_of_swing)
        self.reach = np.maximum(reach, np.abs(self.slot_miss).max(axis=2, initial=0.0)) + 1e3 * self.missing_studs
        here, there = shape.pairs
        away = self.centres[:, :, here] - self.centres[:, :, there]
        self.apart = np.hypot(away[..., 0], away[..., 1])
        self.boss, self.wheel, self.cover = self._boss(), self._wheel(), self._cover()
        self.clear = self.boss.min(axis=2)
        for other_kind in (self.wheel, self.cover):
            if other_kind is not None:
                np.minimum(self.clear, other_kind.min(axis=2), out=self.clear)
        # What goes on is worth its clearance; what does not, the worst of how far it is off.
        off = np.maximum(self.reach, -self.clear)
        worth = np.round(np.where(off <= _TOUCH, self.clear, -off), _ALIKE)
        self.choice = worth.argmax(axis=1)
        self.worth = worth.max(axis=1)
        self.fits = (off <= _TOUCH).any(axis=1)

    def _slot_miss(self) -> Floats:
        """(rows, branches, studs): mm beyond the slot's far end positive, short of its near end negative."""
        radii = np.hypot(self.branches.studs[..., 0], self.branches.studs[..., 1])
        slots = self.quadrant.slots
        nearest = np.array([s.nearest for s in slots] or [0.0])[self.branches.slots]
        farthest = np.array([s.farthest for s in slots] or [0.0])[self.branches.slots]
        beyond: Floats = np.maximum(radii - farthest, 0) - np.maximum(nearest - radii, 0)
        return beyond

    def _boss(self) -> Floats:
        """(rows, branches, `on_shaft`): from a wheel's tips to what sticks out at another shaft."""
        wheel, shaft, pair = self.shape.on_shaft
        gaps: Floats = self.apart[:, :, pair]
        gaps -= (self.tips[:, wheel] + self.boss_radii[shaft] + self.quadrant.gap)[:, None]
        return gaps

    def _wheel(self) -> Floats | None:
        """(rows, branches, `beside`): from tips to tips of wheels side by side."""
        one, other, pair = self.shape.beside
        if not len(pair):
            return None
        gaps: Floats = self.apart[:, :, pair]
        gaps -= (self.tips[:, one] + self.tips[:, other] + self.quadrant.gap)[:, None]
        return gaps

    def _cover(self) -> Floats | None:
        """(rows, branches, wheels): from tips to the cover."""
        if self.quadrant.cover is None:
            return None
        inside: Floats = _inside(self.centres, self.quadrant.cover)[:, :, self.shape.shaft_of]
        inside -= (self.tips + self.quadrant.gap)[:, None]
        return inside

    def best(self, row: int) -> Placement:
        """The best branch of one arrangement."""
        return self.placement(row, int(self.choice[row]))

    def placement(self, row: int, branch: int) -> Placement:
        """Everything about one branch of one arrangement, in the words of the drawing."""
        centres = tuple((float(x), float(y)) for x, y in self.centres[row, branch])
        clearances = self._clearances(row, branch, centres)
        return Placement(
            centres=centres,
            slots=tuple(int(s) for s in self.branches.slots[branch]),
            swing=float(self.branches.swing[row, branch]),
            boss_clearance=float(self.boss[row, branch].min()),
            clearance=float(self.clear[row, branch]),
            obstacles=tuple(self._obstacles(row, branch, clearances)),
            tightest=tuple(clearances[:_TIGHTEST]),
            gap=self.quadrant.gap,
            swing_known=Part.DIRECTION not in self.quadrant.unknown,
        )

    def _obstacles(self, row: int, branch: int, clearances: list[Clearance]) -> list[Obstacle]:
        obstacles: list[Obstacle] = []
        if self.missing_studs:
            return [Obstacle(Reason.TOO_FEW_STUDS, self.missing_studs)]
        lack = float(self.branches.lack[row, branch])
        if abs(lack) > _TOUCH:
            return [Obstacle(Reason.CENTRES_TOO_CLOSE if lack > 0 else Reason.CENTRES_TOO_FAR, abs(lack))]
        for stud, miss in enumerate(self.slot_miss[row, branch]):
            if abs(miss) > _TOUCH:
                reason = Reason.STUD_BEYOND_SLOT if miss > 0 else Reason.STUD_SHORT_OF_SLOT
                obstacles.append(Obstacle(reason, abs(float(miss)), stud + 1))
        swing = float(self.swing_miss[row, branch])
        if abs(swing) > _TOUCH:
            obstacles.append(Obstacle(Reason.SWING_TOO_LOW if swing > 0 else Reason.SWING_TOO_HIGH, abs(swing)))
        fouls = [Obstacle(c.reason, -c.mm, None, c) for c in clearances if c.mm < -_TOUCH]
        return obstacles + fouls

    def _clearances(self, row: int, branch: int, centres: Sequence[Point]) -> list[Clearance]:
        """The three tightest, and whatever fouls; tightest first."""
        near: list[tuple[float, Reason, int, int | None]] = []
        beside = Reason.WHEEL_ON_MIDDLE if Part.COLLARS in self.quadrant.unknown else Reason.WHEEL_ON_BOSS
        near += [(mm, beside, w, s) for w, s, mm in _rows(self.shape.on_shaft[:2], self.boss[row, branch])]
        if self.wheel is not None:
            rows = _rows(self.shape.beside[:2], self.wheel[row, branch])
            near += [(mm, Reason.WHEEL_ON_WHEEL, a, b) for a, b, mm in rows]
        if self.cover is not None:
            near += [(mm, Reason.WHEEL_ON_COVER, w, None) for w, mm in enumerate(self.cover[row, branch].tolist())]
        near.sort(key=lambda one: one[0])
        told = [one for n, one in enumerate(near) if n < _TIGHTEST or one[0] < -_TOUCH]
        tips = self.tips[row].tolist()
        return [self._clearance(*one, tips, centres) for one in told]

    def _clearance(
        self, mm: float, reason: Reason, wheel: int, other: int | None, tips: Sequence[float], centres: Sequence[Point]
    ) -> Clearance:
        """One with the line along which it is measured. other: the shaft or wheel that it is to; None for the cover."""
        shafts = self.shape.shaft_of.tolist()
        centre = centres[shafts[wheel]]
        if other is None:
            assert self.quadrant.cover is not None
            end = _nearest_on(self.quadrant.cover, centre)
            # Of a wheel whose middle is outside the cover the far side is what stands out.
            outside = mm + self.quadrant.gap + tips[wheel] < 0
            start = _toward(centre, end, -tips[wheel] if outside else tips[wheel])
        else:
            beside = reason is Reason.WHEEL_ON_WHEEL
            there = centres[shafts[other] if beside else other]
            start = _toward(centre, there, tips[wheel])
            end = _toward(there, centre, tips[other] if beside else float(self.boss_radii[other]))
        return Clearance(reason, mm, wheel, other, start, end, self.quadrant.gap)


def _rows(places: tuple[Places, Places], distances: Floats) -> Iterator[tuple[int, int, float]]:
    """Two places and the distance between them, one after the other."""
    yield from zip(places[0].tolist(), places[1].tolist(), distances.tolist(), strict=True)


def _inside(points: Floats, outline: Sequence[Point]) -> Floats:
    """Distance of each point (…, 2) from the outline, positive inside it, negative outside."""
    px, py = np.ascontiguousarray(points[..., 0]), np.ascontiguousarray(points[..., 1])
    nearest = np.full(px.shape, np.inf)
    within = np.zeros(px.shape, dtype=bool)
    for (x, y), (end_x, end_y) in zip(outline, [*outline[1:], outline[0]], strict=True):
        along_x, along_y = end_x - x, end_y - y
        from_x, from_y = px - x, py - y
        share = np.clip((from_x * along_x + from_y * along_y) / (along_x**2 + along_y**2), 0, 1)
        np.minimum(nearest, (from_x - share * along_x) ** 2 + (from_y - share * along_y) ** 2, out=nearest)
        if along_y:
            crosses = (y > py) != (end_y > py)
            within ^= crosses & (px < x + along_x * from_y / along_y)
    away = np.sqrt(nearest)
    signed: Floats = np.where(within, away, -away)
    return signed


def _nearest_on(outline: Sequence[Point], point: Point) -> Point:
    best, nearest = math.inf, point
    for (ax, ay), (bx, by) in zip(outline, [*outline[1:], outline[0]], strict=True):
        dx, dy = bx - ax, by - ay
        share = min(1.0, max(0.0, ((point[0] - ax) * dx + (point[1] - ay) * dy) / (dx * dx + dy * dy)))
        foot = (ax + share * dx, ay + share * dy)
        away = math.hypot(point[0] - foot[0], point[1] - foot[1])
        if away < best:
            best, nearest = away, foot
    return nearest


def _toward(start: Point, end: Point, distance: float) -> Point:
    """The point so far from `start` on the way to `end`."""
    away = math.hypot(end[0] - start[0], end[1] - start[1]) or 1.0
    share = float(distance) / away
    return start[0] + (end[0] - start[0]) * share, start[1] + (end[1] - start[1]) * share
