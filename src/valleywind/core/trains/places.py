"""Places for many combinations at once, with as few idlers as will do."""

from collections.abc import Iterable, Sequence
from dataclasses import replace
from typing import Any

from valleywind.core.trains.arrange import FixedWheels, arrange
from valleywind.core.trains.closest import Hit
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import Combination, Stock
from valleywind.core.trains.placement import Layout

# How many compound trains of a line are tried with an idler.
_COMPOUND_WITH_IDLER = 2


def may_take(combination: Combination, idlers: int, hand: Hand | None, box: Gearbox) -> bool:
    """Whether this many idlers leave the hand right, and there is a stud for each."""
    studs = combination.stages - 1 + idlers
    enough = studs <= box.quadrant.studs or (idlers == 0 and combination.stages > 1)
    return enough and box.hand(combination.stages + idlers, hand).right


def place_all(
    lines: Iterable[Sequence[Hit[Any]]],
    hand: Hand | None,
    box: Gearbox,
    stock: Stock,
    new: Iterable[int] = (),
    compound_with_idler: int = _COMPOUND_WITH_IDLER,
) -> dict[Combination, Layout]:
    """The roomiest place of every combination that goes on, all laid out together, with as few idlers as will do.

    compound_with_idler: how many compound trains of a line (its hits) are tried with an idler where nothing else of it
    goes on.
    """
    lines, fixed, free = list(lines), _fixed_with(box.fixed, new), box.free(stock)
    places: dict[Combination, Layout] = {}
    for idlers in range(min(box.quadrant.studs, 2) + 1):
        wanted = [
            h.combination
            for line in lines
            for rank, h in enumerate(line)
            if h.combination.stages == 1
            or idlers == 0
            or (idlers == 1 and rank < compound_with_idler and not any(o.combination in places for o in line))
        ]
        to_try = [c for c in dict.fromkeys(wanted) if c not in places and may_take(c, idlers, hand, box)]
        arranged = arrange(to_try, idlers, free, box.family, box.quadrant, fixed)
        places |= {c: laid[0] for c, laid in zip(to_try, arranged, strict=True) if laid.goes_on}
    return places


def _fixed_with(fixed: FixedWheels, new: Iterable[int]) -> FixedWheels:
    """What is laid down, with these new wheels allowed in first place."""
    return replace(fixed, first=(*fixed.first, *new)) if fixed.first else fixed
