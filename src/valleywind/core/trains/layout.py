"""Does a train go on the quadrant, where does each stud sit, and if it does not go, by how much not.

Trains of one shape are measured together as arrays: rows are arrangements, branches the ways they can lie.
"""

import math
from collections.abc import Iterator, Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import accumulate

import numpy as np
from numpy.typing import NDArray

from valleywind.core.interrupt import spend
from valleywind.core.teeth.geometry import pitch_radius, tip_radius
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.in_line import Line
from valleywind.core.trains.model import Train
from valleywind.core.trains.placement import Clearance, Layout, Obstacle, Placement, Reason
from valleywind.core.trains.quadrant import (
    Branches,
    Carrier,
    Floats,
    Part,
    Point,
    Quadrant,
    UnmeasuredQuadrant,
    branches,
)
from valleywind.core.trains.shape import Places, Shape, TrainsOfShape, shaft_pairs, shape_of

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
    (survey,) = _surveys([shape_of(train.shape)], [np.array([train.teeth])], family, quadrant)
    reached = np.nonzero(survey.chains.off[0] <= _TOUCH)[0]
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
        (measured,) = measure([shape_of(idlers)], [np.array([trains[n].teeth for n in rows])], family, quadrant)
        laid |= {n: measured.laid(row, trains[n]) for row, n in enumerate(rows)}
    return [laid[n] for n in range(len(trains))]


def measure(
    shapes: Sequence[Shape], teeth: Sequence[NDArray[np.int64]], family: WheelFamily, quadrant: Carrier
) -> Sequence[TrainsOfShape]:
    """Trains of shapes with the same number of shafts, on the quadrant or in a line. teeth: (trains, wheels) of each
    shape."""
    if isinstance(quadrant, UnmeasuredQuadrant):
        return [Line(shape, some, family, quadrant) for shape, some in zip(shapes, teeth, strict=True)]
    return _surveys(shapes, teeth, family, quadrant)


def _surveys(
    shapes: Sequence[Shape], teeth: Sequence[NDArray[np.int64]], family: WheelFamily, quadrant: Quadrant
) -> "list[Survey]":
    """Chains of centre distances lie the same way whichever shape of train they are of: they are worked out once."""
    ways = 2 * max(1, len(quadrant.slots)) ** max(0, shapes[0].shafts - 2)
    for some in teeth:
        spend(len(some) * ways)
    radii = [pitch_radius(1, family) * some.astype(np.float64) for some in teeth]
    spans = [of[:, shape.meshing[0]] + of[:, shape.meshing[1]] for shape, of in zip(shapes, radii, strict=True)]
    chains = _Chains.of(spans[0] if len(spans) == 1 else np.concatenate(spans), quadrant, float(family.module))
    above = float(tip_radius(1, family) - pitch_radius(1, family))
    ends = accumulate(map(len, teeth))
    return [
        Survey(shape, some, of + above, quadrant, chains.some(end - len(some), end))
        for shape, some, of, end in zip(shapes, teeth, radii, ends, strict=True)
    ]


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
    if isinstance(quadrant, UnmeasuredQuadrant):
        return Largest(math.inf, math.inf, math.inf)
    boss_first, _, boss_last = quadrant.bosses
    first = np.array(quadrant.first_shaft)
    apart = math.hypot(*quadrant.first_shaft)
    cover = _ends_inside(quadrant) if quadrant.cover else (np.inf, np.inf)
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
        min(cover[0], apart - boss_last) - quadrant.gap,
        stud + slack - quadrant.gap,
        min(cover[1], apart - boss_first) - quadrant.gap,
    )


@lru_cache(maxsize=64)
def _ends_inside(quadrant: Quadrant) -> tuple[float, float]:
    """How far the first shaft and the last stand inside the cover, mm, negative outside it."""
    assert quadrant.cover is not None
    first, last = _inside(np.array([quadrant.first_shaft, (0.0, 0.0)]), quadrant.cover).tolist()
    return first, last


@dataclass(frozen=True)
class _Stand:
    """Where the shafts of trains stand, each train in one branch. centres: (trains, shafts, 2); apart: of every two
    shafts, first with second, first with third and so on (trains, pairs); inside: how far within the cover each stands
    (trains, shafts), None where there is no cover. mm."""

    centres: Floats
    apart: Floats
    inside: Floats | None

    def some(self, at: slice) -> "_Stand":
        """Of some of the trains alone."""
        return _Stand(self.centres[at], self.apart[at], None if self.inside is None else self.inside[at])


@dataclass(frozen=True)
class _Chains:
    """Chains of shafts on the quadrant in every branch, whichever wheels make the centre distances.

    slot_miss (rows, branches, studs): mm beyond the slot's far end positive, short of its near end negative.
    swing_miss (rows, branches): radians below the swing positive, above it negative. off (rows, branches): by how much
    a chain fails to close, mm. closing: rows and branches that do close; stand: where the shafts stand in these.
    """

    quadrant: Quadrant
    branches: Branches
    slot_miss: Floats
    swing_miss: Floats
    off: Floats
    missing_studs: int
    closing: tuple[Places, Places]
    stand: _Stand

    @staticmethod
    def of(spans: Floats, quadrant: Quadrant, module: float) -> "_Chains":
        """spans (rows, meshes): centre distances, first to last, mm."""
        ways = branches(spans, quadrant, module)
        slots = quadrant.slots
        nearest = np.array([s.nearest for s in slots] or [0.0])[ways.slots]
        farthest = np.array([s.farthest for s in slots] or [0.0])[ways.slots]
        slot_miss: Floats = np.maximum(ways.radii - farthest, 0) - np.maximum(nearest - ways.radii, 0)
        low, high = quadrant.swing
        swing_miss = np.maximum(low - ways.swing, 0) - np.maximum(ways.swing - high, 0)
        missing_studs = max(0, spans.shape[1] - 1 - quadrant.studs)
        off = np.maximum(np.abs(ways.lack), np.abs(swing_miss) * math.hypot(*quadrant.first_shaft))
        off = np.maximum(off, np.abs(slot_miss).max(axis=2, initial=0.0)) + 1e3 * missing_studs
        # What fouls matters only where the centre distances close.
        rows, closing = np.nonzero(off <= _TOUCH)
        stand = _stand(ways, quadrant, rows, closing)
        return _Chains(quadrant, ways, slot_miss, swing_miss, off, missing_studs, (rows, closing), stand)

    def some(self, start: int, end: int) -> "_Chains":
        """Those of some rows alone, from one up to another."""
        if start == 0 and end == len(self.off):
            return self
        own = slice(start, end)
        rows, ways = self.closing
        at = slice(*np.searchsorted(rows, (start, end)).tolist())
        return _Chains(
            self.quadrant, self.branches.some(own), self.slot_miss[own], self.swing_miss[own], self.off[own],
            self.missing_studs, (rows[at] - start, ways[at]), self.stand.some(at),
        )  # fmt: skip

    def stand_of(self, rows: Places, ways: Places) -> _Stand:
        """Where the shafts of these rows stand, each in one branch."""
        return _stand(self.branches, self.quadrant, rows, ways)


def _stand(lie: Branches, quadrant: Quadrant, rows: Places, ways: Places) -> _Stand:
    studs = lie.studs(rows, ways)
    shafts = studs.shape[1] + 2
    centres = np.zeros((len(rows), shafts, 2))
    centres[:, 0] = quadrant.first_shaft
    centres[:, 1:-1] = studs
    here, there = shaft_pairs(shafts)
    away = centres[:, here] - centres[:, there]
    inside = None
    if quadrant.cover is not None:
        # The shafts at the ends stand where they are in every train.
        inside = np.empty(centres.shape[:2])
        inside[:, 0], inside[:, -1] = _ends_inside(quadrant)
        inside[:, 1:-1] = _inside(studs, quadrant.cover)
    return _Stand(centres, np.hypot(away[..., 0], away[..., 1]), inside)


class Survey(TrainsOfShape):
    """Trains of one shape on one quadrant, measured in every branch.

    teeth: (trains, wheels); tips: their radii, mm. room: for each train the least clearance in its roomiest branch, mm.
    worth: how far it is off in the branch in which that is least, mm, negative.
    """

    def __init__(
        self, shape: Shape, teeth: NDArray[np.int64], tips: Floats, quadrant: Quadrant, chains: _Chains
    ) -> None:
        super().__init__(shape, teeth)
        self.tips, self.quadrant, self.chains = tips, quadrant, chains
        self.boss_radii = np.array(quadrant.boss_radii(shape.shafts))
        rows, ways = chains.closing
        self._closing = rows * chains.off.shape[1] + ways
        self._measured = self._clearances(rows, chains.stand)
        clear = self._measured.least
        goes = clear >= -_TOUCH
        room = np.full(chains.off.shape, -np.inf)
        room[rows[goes], ways[goes]] = np.round(clear[goes], _ALIKE)
        self._roomiest = room.argmax(axis=1)
        self.room = room.max(axis=1)
        self.fits = self.room > -np.inf

    def worth(self, rows: Places) -> Floats:
        return self._nearest(rows)[0]

    def _nearest(self, rows: Places) -> tuple[Floats, Places]:
        """Of trains that do not go on the worth, and the branch in which it is largest."""
        many = self.chains.off.shape[1]
        clear = self._looked_at(np.repeat(rows, many), np.tile(np.arange(many), len(rows))).least
        every = np.round(-np.maximum(self.chains.off[rows], -clear.reshape(len(rows), many)), _ALIKE)
        return every.max(axis=1), every.argmax(axis=1)

    def _looked_at(self, rows: Places, ways: Places) -> "_Clearances":
        """Of these trains, each in one branch."""
        return self._clearances(rows, self.chains.stand_of(rows, ways))

    def _clearances(self, rows: Places, stand: _Stand) -> "_Clearances":
        """Of these trains, where their shafts stand so."""
        shape, gap, tips = self.shape, self.quadrant.gap, self.tips[rows]
        wheel, shaft, pair = shape.on_shaft
        boss = stand.apart[:, pair] - (tips[:, wheel] + self.boss_radii[shaft] + gap)
        one, other, pair = shape.beside
        beside = stand.apart[:, pair] - (tips[:, one] + tips[:, other] + gap) if len(pair) else None
        cover = None if stand.inside is None else stand.inside[:, shape.shaft_of] - (tips + gap)
        return _Clearances(stand.centres, boss, beside, cover)

    def best(self, row: int) -> Placement:
        """The best branch of one arrangement."""
        return self.placement(row, int(self._roomiest[row] if self.fits[row] else self._nearest(np.array([row]))[1][0]))

    def placement(self, row: int, branch: int) -> Placement:
        """Everything about one branch of one arrangement, in the words of the drawing."""
        measured = self._in_branch(row, branch)
        centres = tuple((x, y) for x, y in measured.centres[0].tolist())
        clearances = self._tightest(row, measured)
        return Placement(
            centres=centres,
            slots=tuple(int(s) for s in self.chains.branches.slots[branch]),
            swing=float(self.chains.branches.swing[row, branch]),
            boss_clearance=float(measured.boss.min()),
            clearance=float(measured.least[0]),
            obstacles=tuple(self._obstacles(row, branch, clearances)),
            tightest=tuple(clearances[:_TIGHTEST]),
            gap=self.quadrant.gap,
            swing_known=Part.DIRECTION not in self.quadrant.unknown,
        )

    def _in_branch(self, row: int, branch: int) -> "_Clearances":
        """Of one arrangement in one branch, from what was measured where that closes."""
        place = row * self.chains.off.shape[1] + branch
        at = int(np.searchsorted(self._closing, place))
        if at < len(self._closing) and self._closing[at] == place:
            return self._measured.only(at)
        return self._looked_at(np.array([row]), np.array([branch]))

    def _obstacles(self, row: int, branch: int, clearances: list[Clearance]) -> list[Obstacle]:
        obstacles: list[Obstacle] = []
        if self.chains.missing_studs:
            return [Obstacle(Reason.TOO_FEW_STUDS, self.chains.missing_studs)]
        lack = float(self.chains.branches.lack[row, branch])
        if abs(lack) > _TOUCH:
            return [Obstacle(Reason.CENTRES_TOO_CLOSE if lack > 0 else Reason.CENTRES_TOO_FAR, abs(lack))]
        for stud, miss in enumerate(self.chains.slot_miss[row, branch]):
            if abs(miss) > _TOUCH:
                reason = Reason.STUD_BEYOND_SLOT if miss > 0 else Reason.STUD_SHORT_OF_SLOT
                obstacles.append(Obstacle(reason, abs(float(miss)), stud + 1))
        swing = float(self.chains.swing_miss[row, branch])
        if abs(swing) > _TOUCH:
            obstacles.append(Obstacle(Reason.SWING_TOO_LOW if swing > 0 else Reason.SWING_TOO_HIGH, abs(swing)))
        fouls = [Obstacle(c.reason, -c.mm, None, c) for c in clearances if c.mm < -_TOUCH]
        return obstacles + fouls

    def _tightest(self, row: int, measured: "_Clearances") -> list[Clearance]:
        """The three tightest, and whatever fouls; tightest first."""
        near: list[tuple[float, Reason, int, int | None]] = []
        beside = Reason.WHEEL_ON_MIDDLE if Part.COLLARS in self.quadrant.unknown else Reason.WHEEL_ON_BOSS
        near += [(mm, beside, w, s) for w, s, mm in _rows(self.shape.on_shaft[:2], measured.boss[0])]
        if measured.wheel is not None:
            rows = _rows(self.shape.beside[:2], measured.wheel[0])
            near += [(mm, Reason.WHEEL_ON_WHEEL, a, b) for a, b, mm in rows]
        if measured.cover is not None:
            near += [(mm, Reason.WHEEL_ON_COVER, w, None) for w, mm in enumerate(measured.cover[0].tolist())]
        near.sort(key=lambda one: one[0])
        shown = [one for n, one in enumerate(near) if n < _TIGHTEST or one[0] < -_TOUCH]
        tips, centres = self.tips[row].tolist(), [(x, y) for x, y in measured.centres[0].tolist()]
        return [self._clearance(*one, tips, centres) for one in shown]

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


@dataclass(frozen=True)
class _Clearances:
    """Trains that are looked at in one branch each. centres (trains, shafts, 2): where the shafts stand; from a wheel's
    tips to what sticks out at another shaft (trains, `on_shaft`), to the tips of a wheel side by side (trains,
    `beside`), and to the cover (trains, wheels), mm; None where there are none."""

    centres: Floats
    boss: Floats
    wheel: Floats | None
    cover: Floats | None

    def only(self, at: int) -> "_Clearances":
        """Of one train alone."""
        one = slice(at, at + 1)
        wheel, cover = (None if of is None else of[one] for of in (self.wheel, self.cover))
        return _Clearances(self.centres[one], self.boss[one], wheel, cover)

    @property
    def least(self) -> Floats:
        """The smallest of each train."""
        least: Floats = self.boss.min(axis=1)
        for others in (self.wheel, self.cover):
            if others is not None:
                np.minimum(least, others.min(axis=1), out=least)
        return least


def _rows(places: tuple[Places, Places], distances: Floats) -> Iterator[tuple[int, int, float]]:
    """Two places and the distance between them, one after the other."""
    yield from zip(places[0].tolist(), places[1].tolist(), distances.tolist(), strict=True)


@lru_cache(maxsize=64)
def _edges(outline: tuple[Point, ...]) -> tuple[Floats, ...]:
    """Of each edge of an outline, one a row: where it begins, how far it goes along x and y, its length squared, the
    height at which it ends, and how far it rises: 1 for level ones, which no level line crosses."""
    x, y = np.array(outline).T[:, :, None]
    end_x, end_y = np.roll(x, -1), np.roll(y, -1)
    along_x, along_y = end_x - x, end_y - y
    return x, y, along_x, along_y, along_x**2 + along_y**2, end_y, np.where(along_y == 0, 1.0, along_y)


def _inside(points: Floats, outline: Sequence[Point]) -> Floats:
    """Distance of each point (…, 2) from the outline, positive inside it, negative outside."""
    x, y, along_x, along_y, long, end_y, rises = _edges(tuple(outline))
    px, py = points[..., 0].ravel(), points[..., 1].ravel()
    from_x, from_y = px - x, py - y
    share = np.minimum(np.maximum((from_x * along_x + from_y * along_y) / long, 0), 1)
    nearest = ((from_x - share * along_x) ** 2 + (from_y - share * along_y) ** 2).min(axis=0)
    crosses = (y > py) != (end_y > py)
    within = np.logical_xor.reduce(crosses & (px < x + along_x * from_y / rises), axis=0)
    away = np.sqrt(nearest)
    signed: Floats = np.where(within, away, -away).reshape(points.shape[:-1])
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
