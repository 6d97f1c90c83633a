"""A train whose quadrant is not known: its wheels in mesh along a line, and what can be told of it all the same.

Stretched out, no two shafts can stand farther apart; so what fouls here fouls on any quadrant. Rules of thumb are in
numbers of teeth, for which no pitch is needed: a wheel's tips stand (z + 2) / 2 modules from its middle, two wheels in
mesh (a + b) / 2 modules apart.

        A ── B,C ── D        B reaches across the last shaft as soon as B + 2 > C + D
"""

import math
from collections.abc import Iterator, Sequence
from enum import Enum, auto
from functools import partial

from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.model import Train
from valleywind.core.trains.placement import Checked, Laid, Margin, Obstacle, Placement, Reason
from valleywind.core.trains.quadrant import Reached, Unmeasured

# Of idlers that would all do, one of about this size is named.
_USUAL_IDLER = 50
# Distances between the shafts that are looked at where trains known to go on leave a range.
_DISTANCES = 25
# Rounding, in modules.
_TOUCH = 1e-9


def lay_in_line(trains: Sequence[Train], family: WheelFamily, quadrant: Unmeasured) -> list[Laid]:
    """Each train stretched out, in the order given, with what surely keeps it off."""
    laid = []
    for train in trains:
        obstacles = _obstacles(train, quadrant)
        off = max((o.amount for o in obstacles), default=0.0)
        room = -off if obstacles else min((margin.teeth for margin in _margins(train)), default=0.0)
        # A hair of preference for idlers of a usual size.
        room -= 1e-6 * sum(abs(teeth - _USUAL_IDLER) for teeth in train.idlers)
        laid.append(Laid(train, not obstacles, room, partial(_placement, train, family, quadrant)))
    return laid


def reached(train: Train) -> Reached | None:
    """What a train with one stud reaches; None for any other."""
    if train.shafts != 3:
        return None
    first, stud, _ = _along(train)
    return Reached(first - stud, stud)


def _placement(train: Train, family: WheelFamily, quadrant: Unmeasured) -> Placement:
    module = float(family.module)
    obstacles = tuple(_obstacles(train, quadrant))
    reach = _reach(train, quadrant)
    return Placement(
        centres=tuple((x * module, 0.0) for x in _along(train)),
        slots=(),
        swing=0.0,
        boss_clearance=0.0,
        clearance=0.0,
        obstacles=obstacles,
        tightest=(),
        checked=Checked.REACH if reach is _Reach.KNOWN and not obstacles else Checked.NOTHING,
        swing_known=False,
        margins=tuple(sorted(_margins(train), key=lambda m: m.teeth)),
    )


def _along(train: Train) -> list[float]:
    """How far each shaft stands from the last one, in modules."""
    spans = [(train.teeth[a] + train.teeth[b]) / 2 for a, b in train.meshing]
    return [sum(spans[n:]) for n in range(train.shafts)]


def _obstacles(train: Train, quadrant: Unmeasured) -> list[Obstacle]:
    if train.shafts - 2 > quadrant.studs:
        return [Obstacle(Reason.TOO_FEW_STUDS, train.shafts - 2 - quadrant.studs)]
    if train.shafts == 2 and not _meet(train, quadrant):
        return [Obstacle(Reason.NO_IDLER, 1.0)]
    obstacles = [
        Obstacle(Reason.REACHES_SHAFT, -m.teeth, m.shaft, wheels=(m.wheel,)) for m in _margins(train) if m.teeth <= 0
    ]
    obstacles += [Obstacle(Reason.WHEELS_MEET, over, wheels=(a, b)) for a, b, over in _meetings(train) if over > 0]
    if not obstacles and _reach(train, quadrant) is _Reach.NOT:
        obstacles.append(Obstacle(Reason.BEYOND_KNOWN, 1.0))
    return obstacles


def _meet(train: Train, quadrant: Unmeasured) -> bool:
    """Whether two wheels alone are known to reach from shaft to shaft."""
    return quadrant.apart is not None and abs(quadrant.apart - _along(train)[0]) < _DIRECT


# Two wheels mesh directly where the shafts stand this near to their centre distance, in modules.
_DIRECT = 0.1


def _margins(train: Train) -> Iterator[Margin]:
    """For every wheel and every shaft whose wheels it does not mesh with: by how many teeth it falls short of it."""
    along = _along(train)
    meshes = {frozenset(pair) for pair in train.meshing}
    for n, wheel in enumerate(train.wheels):
        for shaft in range(train.shafts):
            partners = [m for m, other in enumerate(train.wheels) if other.shaft == shaft]
            if shaft != wheel.shaft and not any(frozenset((n, m)) in meshes for m in partners):
                yield Margin(n, shaft, 2 * abs(along[shaft] - along[wheel.shaft]) - (wheel.teeth + 2))


def _meetings(train: Train) -> Iterator[tuple[int, int, float]]:
    """Wheels of one plane on two shafts that are not to mesh: both, and by how many teeth they overlap."""
    along = _along(train)
    meshes = {frozenset(pair) for pair in train.meshing}
    wheels = train.wheels
    for a, one in enumerate(wheels):
        for b in range(a + 1, len(wheels)):
            other = wheels[b]
            if one.plane == other.plane and one.shaft != other.shaft and frozenset((a, b)) not in meshes:
                apart = abs(along[one.shaft] - along[other.shaft])
                yield a, b, one.teeth + other.teeth + 4 - 2 * apart


class _Reach(Enum):
    KNOWN = auto()
    OPEN = auto()
    NOT = auto()


def _reach(train: Train, quadrant: Unmeasured) -> _Reach:
    """Whether a train with one stud closes, as far as trains known to go on tell.

    Each of them bounds the distance D of the shafts: |s − r| ≤ D ≤ s + r with s from first shaft to stud, r from stud
    to last. Between the nearest and the farthest stud there is slot; between the smallest and the largest angle at the
    last shaft, cos α = (r² + D² − s²) / 2rD, the quadrant swings; both for every D that the trains leave open.
    """
    wanted = reached(train)
    if wanted is None:
        return _Reach.OPEN
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


def _distances(quadrant: Unmeasured) -> list[float]:
    """Distances of the shafts, in modules, that the trains known to go on leave open; none where nothing tells."""
    if quadrant.apart is not None:
        return [quadrant.apart]
    if not quadrant.goes_on:
        return []
    least = max(abs(k.first - k.last) for k in quadrant.goes_on)
    most = min(k.first + k.last for k in quadrant.goes_on)
    return [least + (most - least) * n / (_DISTANCES - 1) for n in range(_DISTANCES)] if most > least else []


def _closes(reached: Reached, distance: float) -> bool:
    return abs(reached.first - reached.last) - _TOUCH <= distance <= reached.first + reached.last + _TOUCH


def _swings(wanted: Reached, distance: float, known: Sequence[Reached]) -> bool:
    """Whether the stud stands between the directions of those of known trains, with the shafts so far apart."""
    if not _closes(wanted, distance):
        return False
    angles = [_angle(k, distance) for k in known if _closes(k, distance)]
    return bool(angles) and min(angles) - _TOUCH <= _angle(wanted, distance) <= max(angles) + _TOUCH


def _angle(reached: Reached, distance: float) -> float:
    """At the last shaft, between the first shaft and the stud, radians."""
    if distance <= 0:
        return 0.0
    cosine = (reached.last**2 + distance**2 - reached.first**2) / (2 * reached.last * distance)
    return math.acos(max(-1.0, min(1.0, cosine)))
