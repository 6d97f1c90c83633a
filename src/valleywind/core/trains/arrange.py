"""The ways one combination of wheels can stand: which driver first, which driven with it, idlers between."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations_with_replacement, permutations, product, takewhile
from typing import overload

import numpy as np

from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.layout import measure
from valleywind.core.trains.model import Combination, Stage, Stock, Train, lacking
from valleywind.core.trains.placement import Layout
from valleywind.core.trains.quadrant import Carrier
from valleywind.core.trains.shape import TrainsOfShape, shape_of


@dataclass(frozen=True)
class Pair:
    """Two wheels that are locked together: whichever is driven, the other drives on the same stud."""

    one: int
    other: int

    @property
    def ways(self) -> tuple[tuple[int, int], ...]:
        """Driven and driver, both ways round."""
        return (self.one, self.other), (self.other, self.one)


@dataclass(frozen=True)
class Fixed:
    """Wheels whose place is laid down: the only drivers for the first shaft, the only driven wheels for the last, empty
    where any will do; and pairs that must stay together."""

    first: tuple[int, ...] = ()
    last: tuple[int, ...] = ()
    pairs: tuple[Pair, ...] = ()

    def allows(self, drivers: Sequence[int], driven: Sequence[int]) -> bool:
        """Whether a train keeps to it, first stage first."""
        if (self.first and drivers[0] not in self.first) or (self.last and driven[-1] not in self.last):
            return False
        joined = set(zip(driven, drivers[1:], strict=False))
        present = {*drivers, *driven}
        return all(joined & set(pair.ways) for pair in self.pairs if present & {pair.one, pair.other})


_FREE = Fixed()
# Sizes that are tried of one idler, of two, of three.
_SIZES_TRIED = (40, 24, 10)


def arrangements(combination: Combination, fixed: Fixed = _FREE) -> list[Train]:
    """Every order of the same wheels without idlers, each once."""
    return [Train(tuple(map(Stage, drivers, driven))) for drivers, driven in _orders(combination, fixed)]


def _orders(combination: Combination, fixed: Fixed) -> list[tuple[tuple[int, ...], tuple[int, ...]]]:
    """Every order of the drivers with every order of the driven wheels, each once."""
    over, under = (dict.fromkeys(permutations(side)) for side in (combination.drivers, combination.driven))
    return [order for order in product(over, under) if fixed == _FREE or fixed.allows(*order)]


def with_idlers(train: Train, idlers: int, stock: Stock) -> list[Train]:
    """The train with so many idlers in any of its stages, of any sizes that the stock has left over; of a large stock
    a spread of sizes, since an idler only has to reach across.

    Stages keep their order, and so do idlers within a stage.
    """
    trains = []
    for chosen in _idlers(train.teeth, idlers, stock):
        for shares in _shares(idlers, len(train.stages)):
            rest, stages = list(chosen), []
            for stage, share in zip(train.stages, shares, strict=True):
                stages.append(Stage(stage.driver, stage.driven, tuple(rest[:share])))
                rest = rest[share:]
            trains.append(Train(tuple(stages)))
    return trains


def _idlers(used: Sequence[int], idlers: int, stock: Stock) -> list[tuple[int, ...]]:
    """So many idlers in every order, of what the stock has left over beside the wheels that are used; smaller ones
    first."""
    if not idlers:
        return [()]
    counts = Counter(used)
    left = {teeth: held - counts[teeth] for teeth, held in stock.items() if held > counts[teeth]}
    sizes = _spread(sorted(left), _SIZES_TRIED[idlers - 1])
    return [
        order
        for chosen in combinations_with_replacement(sizes, idlers)
        if not lacking(chosen, left)
        for order in dict.fromkeys(permutations(chosen))
    ]


def _spread(sizes: list[int], most: int) -> list[int]:
    """So many of them at most, evenly from the first to the last."""
    if len(sizes) <= most:
        return sizes
    return [sizes[n * (len(sizes) - 1) // (most - 1)] for n in range(most)]


def _shares(total: int, parts: int) -> list[tuple[int, ...]]:
    if parts == 1:
        return [(total,)]
    return [(n, *rest) for n in range(total + 1) for rest in _shares(total - n, parts - 1)]


class Arrangements(Sequence[Layout]):
    """Every arrangement of one combination, roomiest first, each made when it is looked at."""

    def __init__(self, rows: Sequence[tuple[TrainsOfShape, int]]) -> None:
        self._rows = rows

    def __len__(self) -> int:
        return len(self._rows)

    @overload
    def __getitem__(self, at: int) -> Layout: ...

    @overload
    def __getitem__(self, at: slice) -> Sequence[Layout]: ...

    def __getitem__(self, at: int | slice) -> Layout | Sequence[Layout]:
        if isinstance(at, slice):
            return Arrangements(self._rows[at])
        survey, row = self._rows[at]
        return survey.laid(row)

    @property
    def goes_on(self) -> bool:
        """Whether the roomiest does."""
        return bool(self._rows) and bool(self._rows[0][0].fits[self._rows[0][1]])

    def keeping_most(self, mounted: Train) -> Layout:
        """Of those that go on the one that keeps most wheels of a train in their places, the roomiest of these."""
        going = takewhile(lambda one: one[0].fits[one[1]], self._rows)
        survey, row = max(going, key=lambda one: one[0].kept(mounted)[one[1]])
        return survey.laid(row)


def arrange(
    combinations: Sequence[Combination],
    idlers: int,
    stock: Stock,
    family: WheelFamily,
    quadrant: Carrier,
    fixed: Fixed = _FREE,
) -> list[Arrangements]:
    """For each combination every arrangement with so many idlers, laid out, roomiest first; of equal ones the one with
    the smaller idlers.

    Empty where fixed wheels forbid all, or no idler is left.
    """
    by_combination = [Arrangements(())] * len(combinations)
    for stages in {c.stages for c in combinations}:
        alike = [n for n, c in enumerate(combinations) if c.stages == stages]
        ways = _survey([combinations[n] for n in alike], idlers, stock, family, quadrant, fixed)
        for n, rows in zip(alike, ways, strict=True):
            by_combination[n] = Arrangements(rows)
    return by_combination


def _survey(
    combinations: Sequence[Combination],
    idlers: int,
    stock: Stock,
    family: WheelFamily,
    quadrant: Carrier,
    fixed: Fixed,
) -> list[list[tuple[TrainsOfShape, int]]]:
    """For combinations of so many stages, all alike, every arrangement: where it is measured, roomiest first."""
    orders: list[tuple[tuple[int, ...], tuple[int, ...]]] = []
    chosen: list[tuple[int, ...]] = []
    owner: list[int] = []
    order_of: list[int] = []
    chosen_of: list[int] = []
    for n, combination in enumerate(combinations):
        some, between = _orders(combination, fixed), _idlers(combination.wheels, idlers, stock)
        order_of += [len(orders) + o for o in range(len(some)) for _ in between]
        chosen_of += [len(chosen) + c for _ in some for c in range(len(between))]
        owner += [n] * (len(some) * len(between))
        orders += some
        chosen += between
    if not owner:
        return [[] for _ in combinations]
    sides, extra = np.array(orders)[order_of], np.array(chosen, dtype=np.int64)[chosen_of]
    surveys = []
    for shares in _shares(idlers, combinations[0].stages):
        columns, at = [], 0
        for stage, share in enumerate(shares):
            columns += [sides[:, :1, stage], extra[:, at : at + share], sides[:, 1:, stage]]
            at += share
        surveys.append(measure(shape_of(shares), np.concatenate(columns, axis=1), family, quadrant))
    # Row after row, and of one row its shapes: the order in which they are made one by one.
    fits = np.stack([survey.fits for survey in surveys], axis=1).ravel()
    worth = np.stack([survey.worth for survey in surveys], axis=1).ravel()
    best = np.lexsort((-worth, ~fits, np.repeat(owner, len(surveys))))
    ways: list[list[tuple[TrainsOfShape, int]]] = [[] for _ in combinations]
    for place in best.tolist():
        row, shape = divmod(place, len(surveys))
        ways[owner[row]].append((surveys[shape], row))
    return ways
