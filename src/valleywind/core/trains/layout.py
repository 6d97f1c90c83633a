"""Does a train go on the quadrant, where does each stud sit, and if it does not go, by how much not.

Trains of one shape are measured together as arrays: rows are arrangements, branches the ways they can lie.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache, partial
from itertools import combinations

import numpy as np

from valleywind.core.interrupt import spend
from valleywind.core.teeth.geometry import pitch_radius, tip_radius
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.in_line import lay_in_line
from valleywind.core.trains.model import Train
from valleywind.core.trains.placement import Clearance, Laid, Obstacle, Placement, Reason
from valleywind.core.trains.quadrant import Carrier, Floats, Part, Point, Quadrant, Unmeasured, branches

# Places of a stud along its slot, and of a slot within the swing, that are looked at.
_STEPS = 48
# A violation this small is rounding, mm.
_TOUCH = 1e-6


def solutions(train: Train, family: WheelFamily, quadrant: Quadrant) -> list[Placement]:
    """Every way the centre distances close within slots and swing, whatever may foul, in order of swing."""
    if train.shafts - 2 > quadrant.studs or train.shafts < 3:
        return []
    survey = _Survey([train], family, quadrant)
    reached = np.nonzero(survey.reach[0] <= _TOUCH)[0]
    return sorted((survey.placement(0, int(b)) for b in reached), key=lambda p: (p.swing, p.slots))


def lay_out(trains: Sequence[Train], family: WheelFamily, quadrant: Carrier) -> list[Laid]:
    """Each train in its roomiest place, in the order given; in a line where the quadrant is not known.

    The trains may be of any mixture of shapes; those of one shape are worked out together.
    """
    if isinstance(quadrant, Unmeasured):
        return lay_in_line(trains, family, quadrant)
    shapes: dict[tuple[int, ...], list[int]] = {}
    for n, train in enumerate(trains):
        shapes.setdefault(tuple(len(s.idlers) for s in train.stages), []).append(n)
    laid: dict[int, Laid] = {}
    for rows in shapes.values():
        survey = _Survey([trains[n] for n in rows], family, quadrant)
        worth, fits = survey.worth.max(axis=1).tolist(), survey.fits.any(axis=1).tolist()
        for row, n in enumerate(rows):
            laid[n] = Laid(trains[n], fits[row], worth[row], partial(survey.roomiest, row))
    return [laid[n] for n in range(len(trains))]


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


class _Survey:
    """Trains of one shape on one quadrant, measured in every branch."""

    def __init__(self, trains: Sequence[Train], family: WheelFamily, quadrant: Quadrant) -> None:
        self.trains, self.family, self.quadrant = trains, family, quadrant
        shape = trains[0]
        spend(len(trains) * 2 * max(1, len(quadrant.slots)) ** max(0, shape.shafts - 2))
        teeth = np.array([t.teeth for t in trains])
        self.pitch_radii = pitch_radius(1, family) * teeth
        self.tips = self.pitch_radii + (tip_radius(1, family) - pitch_radius(1, family))
        spans = np.stack([self.pitch_radii[:, a] + self.pitch_radii[:, b] for a, b in shape.meshing], axis=1)
        self.boss_radii = quadrant.boss_radii(shape.shafts)
        self.missing_studs = max(0, shape.shafts - 2 - quadrant.studs)
        self.branches = branches(spans, quadrant, float(family.module))
        rows, ways = self.branches.swing.shape
        first = np.broadcast_to(np.array(quadrant.first_shaft), (rows, ways, 1, 2))
        last = np.zeros((rows, ways, 1, 2))
        self.centres = np.concatenate([first, self.branches.studs, last], axis=2)
        self.slot_miss = self._slot_miss()
        low, high = quadrant.swing
        swing = self.branches.swing
        self.swing_miss = np.maximum(low - swing, 0) - np.maximum(swing - high, 0)
        reach_of_swing = np.abs(self.swing_miss) * math.hypot(*quadrant.first_shaft)
        self.reach = (
            np.maximum.reduce(
                [np.abs(self.branches.lack), np.abs(self.slot_miss).max(axis=2, initial=0.0), reach_of_swing]
            )
            + 1e3 * self.missing_studs
        )
        self.apart = {pair: self._distances(*pair) for pair in combinations(range(shape.shafts), 2)}
        self.boss, self.wheel, self.cover = self._boss(), self._wheel(), self._cover()
        self.clear = np.minimum.reduce([a.min(axis=2) for a in (self.boss, self.wheel, self.cover)])
        # What goes on is worth its clearance; what does not, the worst of how far it is off.
        off = np.maximum(self.reach, -self.clear)
        self.fits = off <= _TOUCH
        self.worth = np.where(self.fits, self.clear, -off)
        self.choice = self.worth.argmax(axis=1)

    def _slot_miss(self) -> Floats:
        """(rows, branches, studs): mm beyond the slot's far end positive, short of its near end negative."""
        radii = np.hypot(self.branches.studs[..., 0], self.branches.studs[..., 1])
        slots = self.quadrant.slots
        nearest = np.array([s.nearest for s in slots] or [0.0])[self.branches.slots]
        farthest = np.array([s.farthest for s in slots] or [0.0])[self.branches.slots]
        beyond: Floats = np.maximum(radii - farthest, 0) - np.maximum(nearest - radii, 0)
        return beyond

    def _distances(self, a: int, b: int) -> Floats:
        apart: Floats = np.hypot(
            self.centres[:, :, a, 0] - self.centres[:, :, b, 0], self.centres[:, :, a, 1] - self.centres[:, :, b, 1]
        )
        return apart

    def _between(self, a: int, b: int) -> Floats:
        return self.apart[min(a, b), max(a, b)]

    def _boss_pairs(self) -> list[tuple[int, int]]:
        shape = self.trains[0]
        return [(w, s) for w, wheel in enumerate(shape.wheels) for s in range(shape.shafts) if s != wheel.shaft]

    def _wheel_pairs(self) -> list[tuple[int, int]]:
        shape = self.trains[0]
        return [
            (a, b)
            for a, one in enumerate(shape.wheels)
            for b, other in enumerate(shape.wheels)
            if a < b and one.plane == other.plane and one.shaft != other.shaft and (a, b) not in shape.meshing
        ]

    def _boss(self) -> Floats:
        wheels = self.trains[0].wheels
        gaps = [
            self._between(wheels[w].shaft, s) - self.tips[:, w, None] - self.boss_radii[s] - self.quadrant.gap
            for w, s in self._boss_pairs()
        ]
        return np.stack(gaps, axis=2)

    def _wheel(self) -> Floats:
        wheels = self.trains[0].wheels
        gaps = [
            self._between(wheels[a].shaft, wheels[b].shaft)
            - (self.tips[:, a] + self.tips[:, b])[:, None]
            - self.quadrant.gap
            for a, b in self._wheel_pairs()
        ]
        return np.stack(gaps, axis=2) if gaps else np.full((*self.branches.swing.shape, 1), np.inf)

    def _cover(self) -> Floats:
        if self.quadrant.cover is None:
            return np.full((*self.branches.swing.shape, 1), np.inf)
        inside = _inside(self.centres, self.quadrant.cover)
        return np.stack(
            [
                inside[:, :, w.shaft] - self.tips[:, n, None] - self.quadrant.gap
                for n, w in enumerate(self.trains[0].wheels)
            ],
            axis=2,
        )

    def roomiest(self, row: int) -> Placement:
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
            tightest=tuple(clearances[:3]),
            gap=self.quadrant.gap,
            swing_known=Part.DIRECTION not in self.quadrant.unknown,
        )

    def _obstacles(self, row: int, branch: int, clearances: list[Clearance]) -> list[Obstacle]:
        found: list[Obstacle] = []
        if self.missing_studs:
            return [Obstacle(Reason.TOO_FEW_STUDS, self.missing_studs)]
        lack = float(self.branches.lack[row, branch])
        if abs(lack) > _TOUCH:
            return [Obstacle(Reason.CENTRES_TOO_CLOSE if lack > 0 else Reason.CENTRES_TOO_FAR, abs(lack))]
        for stud, miss in enumerate(self.slot_miss[row, branch]):
            if abs(miss) > _TOUCH:
                reason = Reason.STUD_BEYOND_SLOT if miss > 0 else Reason.STUD_SHORT_OF_SLOT
                found.append(Obstacle(reason, abs(float(miss)), stud + 1))
        swing = float(self.swing_miss[row, branch])
        if abs(swing) > _TOUCH:
            found.append(Obstacle(Reason.SWING_TOO_LOW if swing > 0 else Reason.SWING_TOO_HIGH, abs(swing)))
        fouls = [Obstacle(c.reason, -c.mm, None, c) for c in clearances if c.mm < -_TOUCH]
        return found + fouls

    def _clearances(self, row: int, branch: int, centres: Sequence[Point]) -> list[Clearance]:
        wheels = self.trains[row].wheels
        tips = self.tips[row]
        found = []
        beside = Reason.WHEEL_ON_MIDDLE if Part.COLLARS in self.quadrant.unknown else Reason.WHEEL_ON_BOSS
        for (w, s), mm in zip(self._boss_pairs(), self.boss[row, branch], strict=True):
            start = _toward(centres[wheels[w].shaft], centres[s], tips[w])
            end = _toward(centres[s], centres[wheels[w].shaft], self.boss_radii[s])
            found.append(Clearance(beside, float(mm), w, s, start, end, self.quadrant.gap))
        for (a, b), mm in zip(self._wheel_pairs(), self.wheel[row, branch], strict=False):
            one, other = centres[wheels[a].shaft], centres[wheels[b].shaft]
            ends = _toward(one, other, tips[a]), _toward(other, one, tips[b])
            found.append(Clearance(Reason.WHEEL_ON_WHEEL, float(mm), a, b, *ends, self.quadrant.gap))
        if self.quadrant.cover is not None:
            for w, mm in enumerate(self.cover[row, branch]):
                centre = centres[wheels[w].shaft]
                wall = _nearest_on(self.quadrant.cover, centre)
                # Of a wheel whose middle is outside the cover the far side is what stands out.
                outside = float(mm) + self.quadrant.gap + tips[w] < 0
                rim = _toward(centre, wall, -tips[w] if outside else tips[w])
                found.append(Clearance(Reason.WHEEL_ON_COVER, float(mm), w, None, rim, wall, self.quadrant.gap))
        return sorted(found, key=lambda c: c.mm)


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
    best, found = math.inf, point
    for (ax, ay), (bx, by) in zip(outline, [*outline[1:], outline[0]], strict=True):
        dx, dy = bx - ax, by - ay
        share = min(1.0, max(0.0, ((point[0] - ax) * dx + (point[1] - ay) * dy) / (dx * dx + dy * dy)))
        foot = (ax + share * dx, ay + share * dy)
        away = math.hypot(point[0] - foot[0], point[1] - foot[1])
        if away < best:
            best, found = away, foot
    return found


def _toward(start: Point, end: Point, distance: float) -> Point:
    """The point so far from `start` on the way to `end`."""
    away = math.hypot(end[0] - start[0], end[1] - start[1]) or 1.0
    share = float(distance) / away
    return start[0] + (end[0] - start[0]) * share, start[1] + (end[1] - start[1]) * share
