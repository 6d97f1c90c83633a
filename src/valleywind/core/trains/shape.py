"""What trains that differ in tooth numbers only have in common: which wheel is on which shaft, what meshes, what could
foul what. All of it in places, so that many trains are measured at once as arrays."""

from abc import ABC, abstractmethod
from collections.abc import Sequence
from dataclasses import dataclass
from functools import lru_cache, partial
from itertools import combinations

import numpy as np
from numpy.typing import NDArray

from valleywind.core.trains.model import Role, Stage, Train
from valleywind.core.trains.placement import Layout, Placement

Places = NDArray[np.intp]


@dataclass(frozen=True)
class Shape:
    """idlers: how many each stage has, first stage first. Everything else counts wheels as `Train.wheels` does.

    shaft_of: the shaft of each wheel; places: its shaft and plane, as in `Train.places`. meshing: two places each.
    pairs: the two shafts of every distance between shafts. on_shaft: of every wheel and every shaft that is not its own
    the wheel, the shaft, and which of `pairs` tells how far apart they are; free_of: the same where it meshes with no
    wheel of that shaft. beside: of every two wheels of one plane that neither mesh nor share a shaft both, and which of
    `pairs`. between: the places of the idlers.
    """

    idlers: tuple[int, ...]
    shafts: int
    shaft_of: Places
    places: tuple[tuple[int, int], ...]
    meshing: tuple[Places, Places]
    pairs: tuple[Places, Places]
    on_shaft: tuple[Places, Places, Places]
    free_of: tuple[Places, Places, Places]
    beside: tuple[Places, Places, Places]
    between: Places

    def train(self, teeth: Sequence[int]) -> Train:
        """The train of this shape with these tooth numbers, in the order of its wheels."""
        stages, at = [], 0
        for idlers in self.idlers:
            end = at + idlers + 1
            stages.append(Stage(teeth[at], teeth[end], tuple(teeth[at + 1 : end])))
            at = end + 1
        return Train(tuple(stages))


@lru_cache(maxsize=64)
def shaft_pairs(shafts: int) -> tuple[Places, Places]:
    """Every two of this many shafts: first with second, first with third and so on."""
    one, other = _columns(list(combinations(range(shafts), 2)), 2)
    return one, other


@lru_cache(maxsize=64)
def shape_of(idlers: tuple[int, ...]) -> Shape:
    """The shape of trains whose stages have this many idlers each."""
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
    meets = {(a, wheels[b].shaft) for a, b in meshing} | {(b, wheels[a].shaft) for a, b in meshing}
    one, other = _columns(meshing, 2)
    shaft_of = np.array([w.shaft for w in wheels], dtype=np.intp)
    places = tuple((-1 if w.shaft == shafts - 1 else w.shaft, w.plane) for w in wheels)
    return Shape(
        idlers, shafts, shaft_of, places, (one, other), shaft_pairs(shafts),
        on_shaft=_three(on_shaft),
        free_of=_three([row for row in on_shaft if row[:2] not in meets]),
        beside=_three(beside),
        between=np.array([n for n, w in enumerate(wheels) if w.role is Role.IDLER], dtype=np.intp),
    )  # fmt: skip


def _three(rows: Sequence[tuple[int, int, int]]) -> tuple[Places, Places, Places]:
    one, two, three = _columns(rows, 3)
    return one, two, three


def _columns(rows: Sequence[tuple[int, ...]], wide: int) -> list[Places]:
    return list(np.array(rows, dtype=np.intp).reshape(-1, wide).T)


class TrainsOfShape(ABC):
    """Trains of one shape that are measured together.

    teeth: (trains, wheels). fits: for each train whether it goes on; room: how well, in a measure of its own, of no
    meaning where it does not go on.
    """

    fits: NDArray[np.bool_]
    room: NDArray[np.float64]

    def __init__(self, shape: Shape, teeth: NDArray[np.int64]) -> None:
        self.shape, self.teeth = shape, teeth

    def wheels_kept(self, mounted: Train) -> NDArray[np.int64]:
        """For each of the trains how many wheels of a mounted one stay in their places."""
        there = np.array([mounted.places.get(place, 0) for place in self.shape.places])
        kept: NDArray[np.int64] = (self.teeth == there).sum(axis=1)
        return kept

    def laid(self, row: int, train: Train | None = None) -> Layout:
        """One of the trains in its best place; `train` is it, where it is made already."""
        train = train or self.shape.train(self.teeth[row].tolist())
        return Layout(train, bool(self.fits[row]), partial(self._room_of, row), partial(self.best, row))

    def _room_of(self, row: int) -> float:
        return float(self.room[row] if self.fits[row] else self.worth(np.array([row]))[0])

    @abstractmethod
    def worth(self, rows: Places) -> NDArray[np.float64]:
        """Of trains that do not go on how far each is off, negative."""

    @abstractmethod
    def best(self, row: int) -> Placement:
        """Everything about one of the trains in its best place."""
