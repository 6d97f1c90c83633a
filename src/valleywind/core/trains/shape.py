"""What trains that differ in tooth numbers only have in common: which wheel is on which shaft, what meshes, what could
foul what. All of it in places, so that many trains are measured at once as arrays."""

from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from valleywind.core.trains.model import Stage, Train

Places = NDArray[np.intp]


@dataclass(frozen=True)
class Shape:
    """idlers: how many each stage has, first stage first. Everything else counts wheels as `Train.wheels` does.

    shaft_of: the shaft of each wheel; places: its shaft and plane, as in `Train.places`. meshing: two places each.
    pairs: the two shafts of every distance between shafts. on_shaft: of every wheel and every shaft that is not its own
    the wheel, the shaft, and which of `pairs` tells how far apart they are. beside: of every two wheels of one plane
    that neither mesh nor share a shaft both, and which of `pairs`.
    """

    idlers: tuple[int, ...]
    shafts: int
    shaft_of: Places
    places: tuple[tuple[int, int], ...]
    meshing: tuple[Places, Places]
    pairs: tuple[Places, Places]
    on_shaft: tuple[Places, Places, Places]
    beside: tuple[Places, Places, Places]

    def train(self, teeth: Sequence[int]) -> Train:
        """The train of this shape with these tooth numbers, in the order of its wheels."""
        stages, at = [], 0
        for idlers in self.idlers:
            end = at + idlers + 1
            stages.append(Stage(teeth[at], teeth[end], tuple(teeth[at + 1 : end])))
            at = end + 1
        return Train(tuple(stages))


@lru_cache(maxsize=64)
def shape_of(idlers: tuple[int, ...]) -> Shape:
    """The shape of trains whose stages have so many idlers each."""
    example = Train(tuple(Stage(1, 1, (1,) * n) for n in idlers))
    wheels, shafts, meshing = example.wheels, example.shafts, example.meshing
    pairs = list(combinations(range(shafts), 2))
    apart = {pair: n for n, pair in enumerate(pairs)} | {(b, a): n for n, (a, b) in enumerate(pairs)}
    on_shaft = [
        (w, s, apart[wheel.shaft, s]) for w, wheel in enumerate(wheels) for s in range(shafts) if s != wheel.shaft
    ]
    beside = [
        (a, b, apart[wheels[a].shaft, wheels[b].shaft])
        for a, b in combinations(range(len(wheels)), 2)
        if wheels[a].plane == wheels[b].plane and wheels[a].shaft != wheels[b].shaft and (a, b) not in meshing
    ]
    one, other = _columns(meshing, 2)
    first, second = _columns(pairs, 2)
    wheel, shaft, how_far = _columns(on_shaft, 3)
    left, right, between = _columns(beside, 3)
    shaft_of = np.array([w.shaft for w in wheels], dtype=np.intp)
    places = tuple((-1 if w.shaft == shafts - 1 else w.shaft, w.plane) for w in wheels)
    return Shape(
        idlers, shafts, shaft_of, places, (one, other), (first, second), (wheel, shaft, how_far), (left, right, between)
    )


def _columns(rows: Sequence[tuple[int, ...]], wide: int) -> list[Places]:
    return list(np.array(rows, dtype=np.intp).reshape(-1, wide).T)
