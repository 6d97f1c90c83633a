"""Change wheels as numbers: the stock, a combination of wheels, and a train as it stands on its shafts.

ratio = product of drivers / product of driven = turns of the last shaft per turn of the first.
"""

import re
from collections import Counter
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from functools import cached_property
from math import prod
from typing import NamedTuple

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition, parse_pile
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH

Stock = Mapping[int, int]
"""How many wheels of each tooth number are held."""


def parse_stock(text: str, field: str = "stock") -> dict[int, int]:
    """Wheels as typed: `24,28,32x2,36` or `24 28 32 32`. A number that stands twice is held twice.

    Raises Refusal: those of `parse_pile`; `not_a_wheel` for a word of condition.
    """
    held: Counter[int] = Counter()
    for entry in parse_pile(text, field):
        if entry.condition is not Condition.GOOD:
            raise Refusal("not_a_wheel", field, entry.condition.value)
        held[entry.teeth] += entry.count
    return dict(sorted(held.items()))


def spell_stock(stock: Stock) -> str:
    """A stock as `parse_stock` takes it back: `24 28 32x2`."""
    return " ".join(f"{teeth}x{n}" if n > 1 else f"{teeth}" for teeth, n in sorted(stock.items()) if n)


class Combination(NamedTuple):
    """Which wheels drive and which are driven, without their order: both ascending."""

    drivers: tuple[int, ...]
    driven: tuple[int, ...]

    @property
    def ratio(self) -> Fraction:
        return Fraction(prod(self.drivers), prod(self.driven))

    @property
    def stages(self) -> int:
        return len(self.drivers)

    @property
    def wheels(self) -> tuple[int, ...]:
        """All of them, drivers first."""
        return self.drivers + self.driven


class Change(StrEnum):
    """What may be done with a wheel of a train: put another in its place, swap two, put an idler behind one, take an
    idler out."""

    PUT = "put"
    SWAP = "swap"
    IDLER = "idler"
    OUT = "out"


class Role(StrEnum):
    DRIVER = "driver"
    DRIVEN = "driven"
    IDLER = "idler"


class Stage(NamedTuple):
    """A driver, the wheel it drives, and the idlers between them, in order."""

    driver: int
    driven: int
    idlers: tuple[int, ...] = ()

    @property
    def chain(self) -> tuple[int, ...]:
        return (self.driver, *self.idlers, self.driven)


@dataclass(frozen=True)
class WheelOnShaft:
    """A wheel on its shaft. `plane` counts outward from the machine: 0 inner, 1 outer."""

    teeth: int
    role: Role
    shaft: int
    plane: int


@dataclass(frozen=True)
class Train:
    """Stages in order from the first shaft to the last.

    Shaft 0 is the first shaft; studs follow; the last shaft is number `shafts − 1`. Every stage lies in a plane
    of its own, alternately inner and outer. Trains are in the order of their notation.
    """

    stages: tuple[Stage, ...]

    def __lt__(self, other: "Train") -> bool:
        return self.notation < other.notation

    @property
    def ratio(self) -> Fraction:
        return self.combination.ratio

    @cached_property
    def combination(self) -> Combination:
        return Combination(tuple(sorted(s.driver for s in self.stages)), tuple(sorted(s.driven for s in self.stages)))

    @property
    def idlers(self) -> tuple[int, ...]:
        return tuple(i for s in self.stages for i in s.idlers)

    @cached_property
    def teeth(self) -> tuple[int, ...]:
        """Tooth numbers in the order of `wheels`."""
        return sum((s.chain for s in self.stages), ())

    @property
    def shape(self) -> tuple[int, ...]:
        """How many idlers each stage has."""
        return tuple(len(s.idlers) for s in self.stages)

    @cached_property
    def meshes(self) -> int:
        return sum(len(s.idlers) + 1 for s in self.stages)

    @property
    def shafts(self) -> int:
        return self.meshes + 1

    @cached_property
    def wheels(self) -> tuple[WheelOnShaft, ...]:
        """Every wheel with its shaft and plane, in the order in which motion passes through them."""
        placed, shaft = [], 0
        for n, stage in enumerate(self.stages):
            roles = [Role.DRIVER, *[Role.IDLER] * len(stage.idlers), Role.DRIVEN]
            placed += [
                WheelOnShaft(t, r, shaft + i, n % 2) for i, (t, r) in enumerate(zip(stage.chain, roles, strict=True))
            ]
            shaft += len(stage.chain) - 1
        return tuple(placed)

    @cached_property
    def meshing(self) -> tuple[tuple[int, int], ...]:
        """Pairs of places in `wheels` that mesh."""
        return tuple((i, i + 1) for i, w in enumerate(self.wheels[:-1]) if w.role is not Role.DRIVEN)

    @cached_property
    def places(self) -> dict[tuple[int, int], int]:
        """Tooth number by place: shaft (studs counted from the first shaft, the last shaft −1) and plane."""
        places, shaft, last = {}, 0, self.meshes
        for n, stage in enumerate(self.stages):
            for teeth in stage.chain:
                places[(-1 if shaft == last else shaft, n % 2)] = teeth
                shaft += 1
            shaft -= 1
        return places

    def on_shaft(self, shaft: int) -> tuple[WheelOnShaft, ...]:
        """The wheels of one shaft, inner first."""
        return tuple(sorted((w for w in self.wheels if w.shaft == shaft), key=lambda w: w.plane))

    def with_wheel(self, place: int, teeth: int) -> "Train":
        """The train with another wheel at a place of `wheels`. Raises Refusal `no_such_place`."""
        return self._of(self._replaced({self._checked_place(place): teeth}))

    def swapped(self, one: int, other: int) -> "Train":
        """The train with the wheels of two places exchanged. Raises Refusal `no_such_place`."""
        places = {self._checked_place(one): self.teeth[self._checked_place(other)], other: self.teeth[one]}
        return self._of(self._replaced(places))

    def with_idler(self, after: int, teeth: int) -> "Train":
        """The train with an idler put between the wheel at this place and the one it drives.

        Raises Refusal `no_such_place` where that wheel drives none.
        """
        chains, n = self._replaced({}), self._checked_place(after)
        for chain in chains:
            if n < len(chain) - 1:
                chain.insert(n + 1, teeth)
                return self._of(chains)
            if n == len(chain) - 1:
                break
            n -= len(chain)
        raise Refusal("no_such_place", "at", after)

    def without(self, place: int) -> "Train":
        """The train with an idler taken out. Raises Refusal `not_an_idler`, `no_such_place`."""
        wheel = self.wheels[self._checked_place(place)]
        if wheel.role is not Role.IDLER:
            raise Refusal("not_an_idler", "at", wheel.teeth)
        chains = self._replaced({place: 0})
        return self._of([[t for t in chain if t] for chain in chains])

    def changed(self, change: "Change", at: int, teeth: int, other: int = 0) -> "Train":
        """The train with one change. at, other: places of `wheels`; teeth: of the wheel to put, for PUT and IDLER.

        Raises Refusal `no_such_place`, `not_an_idler`.
        """
        match change:
            case Change.PUT:
                return self.with_wheel(at, teeth)
            case Change.SWAP:
                return self.swapped(at, other)
            case Change.IDLER:
                return self.with_idler(at, teeth)
            case Change.OUT:
                return self.without(at)

    def _checked_place(self, place: int) -> int:
        if not 0 <= place < len(self.teeth):
            raise Refusal("no_such_place", "at", place)
        return place

    def _replaced(self, changes: Mapping[int, int]) -> list[list[int]]:
        """The chains of the stages with other wheels at some places."""
        rest = iter([changes.get(n, t) for n, t in enumerate(self.teeth)])
        return [[next(rest) for _ in stage.chain] for stage in self.stages]

    def _of(self, chains: list[list[int]]) -> "Train":
        return Train(tuple(Stage(chain[0], chain[-1], tuple(chain[1:-1])) for chain in chains))

    @property
    def notation(self) -> str:
        """A short name that `parse_train` reads back: `76/66*32/78`; an idler stands between: `40/50/80`."""
        return "*".join("/".join(map(str, s.chain)) for s in self.stages)


def parse_train(text: str, field: str = "train") -> Train:
    """Read `76/66*32/78` (also `x` and `×`). Raises Refusal `not_a_train` or `teeth_out_of_range`."""
    stages = []
    for part in re.split(r"\s*[*x×]\s*", text.strip()):
        if not re.fullmatch(r"\d{1,4}(/\d{1,4}){1,4}", part, re.ASCII):
            raise Refusal("not_a_train", field, text)
        driver, *idlers, driven = map(int, part.split("/"))
        if not all(FEWEST_TEETH <= t <= MOST_TEETH for t in (driver, *idlers, driven)):
            raise Refusal("teeth_out_of_range", field, text, fewest=FEWEST_TEETH, most=MOST_TEETH)
        stages.append(Stage(driver, driven, tuple(idlers)))
    if len(stages) > 3:
        raise Refusal("not_a_train", field, text)
    return Train(tuple(stages))


def size_of(error: Fraction) -> float:
    """How large an error is, rounded. It stands before the exact one where errors are compared: it decides nearly
    always, never wrongly, and is quicker."""
    return abs(error.numerator / error.denominator)


def lacking(teeth: Iterable[int], stock: Stock) -> dict[int, int]:
    """Which of these wheels the stock cannot give, and how many of each."""
    used: dict[int, int] = {}
    for t in teeth:
        used[t] = used.get(t, 0) + 1
    short = {t: n - stock.get(t, 0) for t, n in used.items() if n > stock.get(t, 0)}
    return dict(sorted(short.items()))
