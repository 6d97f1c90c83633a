"""The ways one combination of wheels can stand: which driver first, which driven with it, idlers between."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from functools import cached_property
from itertools import combinations as combinations_of
from itertools import combinations_with_replacement, pairwise, permutations
from typing import TypeVar, overload

import numpy as np
from numpy.typing import NDArray

from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.layout import measure
from valleywind.core.trains.model import Combination, Stage, Stock, Train
from valleywind.core.trains.placement import Layout
from valleywind.core.trains.quadrant import Carrier
from valleywind.core.trains.search import each_pair_of
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
class FixedWheels:
    """Wheels whose place is laid down: the only drivers for the first shaft, the only driven wheels for the last, empty
    where any will do; and pairs that must stay together."""

    first: tuple[int, ...] = ()
    last: tuple[int, ...] = ()
    pairs: tuple[Pair, ...] = ()

    def allowed(self, sides: NDArray[np.int64]) -> NDArray[np.bool_]:
        """Which of these trains keep to it. sides: (trains, 2, stages), drivers before driven wheels."""
        drivers, driven = sides[:, 0], sides[:, 1]
        allowed = np.ones(len(sides), dtype=bool)
        if self.first:
            allowed &= (drivers[:, :1] == np.array(self.first)).any(axis=1)
        if self.last:
            allowed &= (driven[:, -1:] == np.array(self.last)).any(axis=1)
        for pair in self.pairs:
            present = ((sides == pair.one) | (sides == pair.other)).any(axis=(1, 2))
            together = np.zeros(len(sides), dtype=bool)
            for before, after in pair.ways:
                together |= ((driven[:, :-1] == before) & (drivers[:, 1:] == after)).any(axis=1)
            allowed &= together | ~present
        return allowed


T = TypeVar("T", bound=np.generic)

_FREE = FixedWheels()
# Sizes that are tried of one idler, of two, of three.
_SIZES_TRIED = (40, 24, 10)


def with_idlers(train: Train, idlers: int, stock: Stock) -> list[Train]:
    """The train with this many idlers in any of its stages, of any sizes that the stock has left over; of a large stock
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
    """Idlers in every order, this many, of what the stock has left over beside the wheels that are used; smaller ones
    first."""
    if not idlers:
        return [()]
    counts = Counter(used)
    left = {teeth: held - counts[teeth] for teeth, held in stock.items() if held > counts[teeth]}
    sizes = _spread(sorted(left), _SIZES_TRIED[idlers - 1])
    return [
        order
        for chosen in combinations_with_replacement(sizes, idlers)
        if all(chosen.count(teeth) <= left[teeth] for teeth in set(chosen))
        for order in dict.fromkeys(permutations(chosen))
    ]


def _spread(sizes: list[int], most: int) -> list[int]:
    """At most this many of them, evenly from the first to the last."""
    if len(sizes) <= most:
        return sizes
    return [sizes[n * (len(sizes) - 1) // (most - 1)] for n in range(most)]


def _shares(total: int, parts: int) -> list[tuple[int, ...]]:
    if parts == 1:
        return [(total,)]
    return [(n, *rest) for n in range(total + 1) for rest in _shares(total - n, parts - 1)]


class _Ways:
    """Every arrangement of many combinations that are alike, measured.

    Each has a place, row after row and of one row its shapes. fits: whether it goes on.
    """

    def __init__(self, shapes: Sequence[TrainsOfShape]) -> None:
        self._shapes = shapes
        self.fits = _row_by_row([one.fits for one in shapes])
        self._kept: tuple[Train, NDArray[np.int64]] | None = None

    def going(self, owners: NDArray[np.intp]) -> NDArray[np.intp]:
        """The places of those that go on, owner after owner, of each the roomiest first."""
        going = np.flatnonzero(self.fits)
        room = _row_by_row([one.room for one in self._shapes])[going]
        order: NDArray[np.intp] = going[np.lexsort((-room, owners[going]))]
        return order

    def nearest_first(self, places: NDArray[np.intp]) -> NDArray[np.intp]:
        """Some that do not go on, by how far they are off."""
        rows, shape = np.divmod(places, len(self._shapes))
        worth = np.empty(len(places))
        for n, one in enumerate(self._shapes):
            worth[shape == n] = one.worth(rows[shape == n])
        order: NDArray[np.intp] = places[np.argsort(-worth, kind="stable")]
        return order

    def wheels_kept(self, mounted: Train) -> NDArray[np.int64]:
        """For each of them how many wheels of a mounted train stay in their places."""
        if self._kept is None or self._kept[0] is not mounted:
            self._kept = mounted, _row_by_row([one.wheels_kept(mounted) for one in self._shapes])
        return self._kept[1]

    def laid(self, place: int) -> Layout:
        """One of them in its best place."""
        row, shape = divmod(place, len(self._shapes))
        return self._shapes[shape].laid(row)


def _row_by_row(columns: Sequence[NDArray[T]]) -> NDArray[T]:
    return columns[0] if len(columns) == 1 else np.stack(columns, axis=1).ravel()


class Arrangements(Sequence[Layout]):
    """Arrangements of one combination that go on, the roomiest first; where none does all of them, the nearest to going
    on first. Each is made when it is looked at."""

    def __init__(self, ways: _Ways, own: range, going: NDArray[np.intp]) -> None:
        self._ways, self._own, self._going = ways, own, going

    def __len__(self) -> int:
        return len(self._going) or len(self._own)

    @property
    def goes_on(self) -> bool:
        """Whether any does."""
        return len(self._going) > 0

    @cached_property
    def _places(self) -> NDArray[np.intp]:
        return self._going if self.goes_on else self._ways.nearest_first(np.array(self._own, dtype=np.intp))

    @overload
    def __getitem__(self, at: int) -> Layout: ...

    @overload
    def __getitem__(self, at: slice) -> Sequence[Layout]: ...

    def __getitem__(self, at: int | slice) -> Layout | Sequence[Layout]:
        if isinstance(at, slice):
            return [self._ways.laid(place) for place in self._places[at].tolist()]
        return self._ways.laid(int(self._places[at]))

    def keeping_most(self, mounted: Train) -> Layout:
        """Of those that go on the one that keeps most wheels of a train in their places, the roomiest of these."""
        return self._ways.laid(int(self._going[self._ways.wheels_kept(mounted)[self._going].argmax()]))


def arrange(
    combinations: Sequence[Combination],
    idlers: int,
    stock: Stock,
    family: WheelFamily,
    quadrant: Carrier,
    fixed: FixedWheels = _FREE,
) -> list[Arrangements]:
    """For each combination its arrangements with this many idlers, laid out; of equal ones those with smaller idlers
    first.

    Empty where fixed wheels forbid all, or no idler is left.
    """
    by_combination: dict[int, Arrangements] = {}
    for stages in {c.stages for c in combinations}:
        alike = [n for n, c in enumerate(combinations) if c.stages == stages]
        some = [combinations[n] for n in alike]
        ways, owners = _measured(some, idlers, stock, family, quadrant, fixed)
        going, ends = ways.going(owners), np.arange(1, len(some) + 1)
        on, every = np.searchsorted(owners[going], ends).tolist(), np.searchsorted(owners, ends).tolist()
        for n, own, best in zip(alike, pairwise((0, *every)), pairwise((0, *on)), strict=True):
            by_combination[n] = Arrangements(ways, range(*own), going[slice(*best)])
    return [by_combination[n] for n in range(len(combinations))]


def _measured(
    combinations: Sequence[Combination],
    idlers: int,
    stock: Stock,
    family: WheelFamily,
    quadrant: Carrier,
    fixed: FixedWheels,
) -> tuple[_Ways, NDArray[np.intp]]:
    """Every arrangement of combinations with the same number of stages, and of each place the combination."""
    sides, owner = _orders(combinations, fixed)
    between = [_idlers(c.wheels, idlers, stock) for c in combinations]
    ends = np.cumsum([len(some) for some in between])
    begins = np.append(0, ends[:-1])
    order_of, chosen_of = each_pair_of(begins[owner], ends[owner])
    sides, owner = sides[order_of], owner[order_of]
    every = np.array([one for some in between for one in some], dtype=np.int64)
    extra = every.reshape(ends[-1], idlers)[chosen_of]
    shares_of = _shares(idlers, combinations[0].stages)
    teeth = []
    for shares in shares_of:
        columns, at = [], 0
        for stage, share in enumerate(shares):
            columns += [sides[:, :1, stage], extra[:, at : at + share], sides[:, 1:, stage]]
            at += share
        teeth.append(np.concatenate(columns, axis=1))
    shapes = measure([shape_of(shares) for shares in shares_of], teeth, family, quadrant)
    return _Ways(shapes), np.repeat(owner, len(shapes))


def _orders(combinations: Sequence[Combination], fixed: FixedWheels) -> tuple[NDArray[np.int64], NDArray[np.intp]]:
    """Every order of the drivers with every order of the driven wheels of combinations with the same number of stages,
    each once: (orders, 2, stages), drivers first; and the combination of each."""
    over, under = np.array([c.drivers for c in combinations]), np.array([c.driven for c in combinations])
    ways = list(permutations(range(over.shape[1])))
    owner, one, other = np.nonzero(_once(over, ways)[:, :, None] & _once(under, ways)[:, None, :])
    order = np.array(ways)
    sides = np.stack((over[owner[:, None], order[one]], under[owner[:, None], order[other]]), axis=1)
    allowed = fixed.allowed(sides)
    return sides[allowed], owner[allowed]


def _once(side: NDArray[np.int64], ways: Sequence[tuple[int, ...]]) -> NDArray[np.bool_]:
    """Which orders of each row to count: of equal wheels only the order in which they stand in the row.

    side: (rows, wheels); returns (rows, orders).
    """
    counts = np.ones((len(side), len(ways)), dtype=bool)
    for a, b in combinations_of(range(side.shape[1]), 2):
        turned = np.array([way.index(a) > way.index(b) for way in ways])
        counts &= ~((side[:, a] == side[:, b])[:, None] & turned)
    return counts
