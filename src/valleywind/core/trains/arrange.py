"""The ways one combination of wheels can stand: which driver first, which driven with it, idlers between."""

from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from itertools import combinations_with_replacement, permutations, product

from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.layout import lay_out
from valleywind.core.trains.model import Combination, Stage, Stock, Train, lacking
from valleywind.core.trains.placement import Laid
from valleywind.core.trains.quadrant import Carrier


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

    def allows(self, train: Train) -> bool:
        """Whether a train keeps to it."""
        first, last = train.stages[0].driver, train.stages[-1].driven
        return (first in (self.first or (first,))) and (last in (self.last or (last,))) and self._keeps_pairs(train)

    def _keeps_pairs(self, train: Train) -> bool:
        joined = {(a.driven, b.driver) for a, b in zip(train.stages, train.stages[1:], strict=False)}
        for pair in self.pairs:
            present = {pair.one, pair.other} & set(train.teeth)
            if present and not joined & set(pair.ways):
                return False
        return True


_FREE = Fixed()
# Sizes that are tried of one idler, of two, of three.
_SIZES_TRIED = (40, 24, 10)


def arrangements(combination: Combination, fixed: Fixed = Fixed()) -> list[Train]:
    """Every order of the same wheels without idlers, each once."""
    orders = dict.fromkeys(product(permutations(combination.drivers), permutations(combination.driven)))
    trains = (Train(tuple(map(Stage, drivers, driven))) for drivers, driven in orders)
    return list(trains) if fixed == _FREE else [t for t in trains if fixed.allows(t)]


def with_idlers(train: Train, idlers: int, stock: Stock) -> list[Train]:
    """The train with so many idlers in any of its stages, of any sizes that the stock has left over; of a large stock
    a spread of sizes, since an idler only has to reach across.

    Stages keep their order, and so do idlers within a stage.
    """
    if not idlers:
        return [train]
    used = Counter(w.teeth for w in train.wheels)
    left = {teeth: held - used[teeth] for teeth, held in stock.items() if held > used[teeth]}
    found = []
    for chosen in combinations_with_replacement(_spread(sorted(left), _SIZES_TRIED[idlers - 1]), idlers):
        if lacking(chosen, left):
            continue
        for order in sorted(set(permutations(chosen))):
            for shares in _shares(idlers, len(train.stages)):
                rest = list(order)
                stages = []
                for stage, share in zip(train.stages, shares, strict=True):
                    stages.append(Stage(stage.driver, stage.driven, tuple(rest[:share])))
                    rest = rest[share:]
                found.append(Train(tuple(stages)))
    return found


def _spread(sizes: list[int], most: int) -> list[int]:
    """So many of them at most, evenly from the smallest to the largest."""
    if len(sizes) <= most:
        return sizes
    return [sizes[n * (len(sizes) - 1) // (most - 1)] for n in range(most)]


def _shares(total: int, parts: int) -> list[tuple[int, ...]]:
    if parts == 1:
        return [(total,)]
    return [(n, *rest) for n in range(total + 1) for rest in _shares(total - n, parts - 1)]


def arrange(
    combinations: Sequence[Combination],
    idlers: int,
    stock: Stock,
    family: WheelFamily,
    quadrant: Carrier,
    fixed: Fixed = Fixed(),
) -> list[list[Laid]]:
    """For each combination every arrangement with so many idlers, laid out, roomiest first.

    Empty where fixed wheels forbid all, or no idler is left.
    """
    choices = [[t for plain in arrangements(c, fixed) for t in with_idlers(plain, idlers, stock)] for c in combinations]
    laid = iter(lay_out([t for trains in choices for t in trains], family, quadrant))
    return [sorted((next(laid) for _ in trains), key=_roomiest_first) for trains in choices]


def _roomiest_first(laid: Laid) -> tuple[bool, float]:
    return not laid.fits, -laid.room
