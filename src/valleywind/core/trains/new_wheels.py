"""Wheels that are not held: which are worth thinking of, and what each would bring."""

from bisect import bisect_right
from collections.abc import Iterable, Sequence
from fractions import Fraction

from valleywind.core.teeth.geometry import root_radius, tip_radius
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH, WheelFamily
from valleywind.core.trains.closest import Hit, closest_first, joined, pair_ways, usable
from valleywind.core.trains.gearbox import Gearbox, Requirement, S, V
from valleywind.core.trains.layout import largest
from valleywind.core.trains.model import Stock
from valleywind.core.trains.search import Approximation
from valleywind.core.trains.worth import Ends, Near, near_of_each, with_each_of

SMALLEST_CUT = 12
"""Teeth at which the usual sets of form cutters begin."""
# The ring left between the keyway and the bottom of the teeth, in modules.
_LEAST_WALL = 0.5


def new_wheels(box: Gearbox, stock: Stock, fewest: int = SMALLEST_CUT, most: int = MOST_TEETH) -> list[int]:
    """Tooth numbers not held that are worth thinking of: from `fewest` and what leaves metal over the key up to what
    has room somewhere on the quadrant, or `most`. Plans, charts and advice think of the same."""
    room = largest(box.quadrant).anywhere
    return [
        teeth
        for teeth in range(max(fewest, smallest_on_shaft(box.family)), most + 1)
        if not stock.get(teeth, 0) and tip_radius(teeth, box.family) <= room
    ]


def smallest_on_shaft(family: WheelFamily) -> int:
    """The fewest teeth whose bottom leaves half a module of metal over bore and keyway (half the key's width deep)."""
    least = float(family.bore + family.key) / 2 + _LEAST_WALL * float(family.module)
    counts = range(FEWEST_TEETH, MOST_TEETH + 1)
    return next((teeth for teeth in counts if root_radius(teeth, family) >= least), MOST_TEETH + 1)


def with_each_new_wheel(
    wanted: Requirement[S, V], box: Gearbox, stock: Stock, counts: Iterable[int], within: float, most: int
) -> dict[int, list[Hit[S]]]:
    """For each of these tooth numbers that is not held the `most` closest combinations of one such wheel and held ones
    that err by at most `within`, over wheels, settings and locked pairs together, closest first.

    Wheels too large to have room anywhere are left out. A new wheel may go first even where only some of the held do.
    """
    return with_each_new_wheel_of([(wanted, counts, within)], box, stock, most)[0]


def with_each_new_wheel_of(
    lines: Sequence[tuple[Requirement[S, V], Iterable[int], float]],
    box: Gearbox,
    stock: Stock,
    most: int,
    in_hand: bool = False,
) -> list[dict[int, list[Hit[S]]]]:
    """The same for many lines together: what is wanted, the tooth numbers, and within how much. in_hand: a new wheel
    may stand at the ends only where it might if it were held."""
    lines = [(one, tuple(counts), within) for one, counts, within in lines]
    wheels = usable(box, stock)
    if wheels is None:
        return [{} for _ in lines]
    free, first, last = wheels
    new = None
    more = {t: 1 for _, some, _ in lines for t in some if not stock.get(t, 0)}
    if in_hand and (held := usable(box, {**stock, **more})):
        new = Ends(*held[1:])
    wanted, plain = [one for one, _, _ in lines], _to_come_near(lines, box, stock)
    hits: list[dict[int, list[Hit[S]]]] = [{} for _ in lines]
    for n, by_teeth in enumerate(with_each_of(plain, free, most, first, last, new=new)):
        for teeth, combinations in by_teeth.items():
            hits[n].setdefault(teeth, []).extend(Hit(f, wanted[n].targets[at]) for at, f in combinations)
    pairs = pair_ways(box, stock)
    for driven, driver in pairs:
        through = _through(plain, driven, driver)
        for n, by_teeth in enumerate(with_each_of(through, free, most, first, last, (1,), new)):
            for teeth, combinations in by_teeth.items():
                hits[n].setdefault(teeth, []).extend(
                    Hit(Approximation.of(joined(f.combination, driven, driver), f.error), wanted[n].targets[at])
                    for at, f in combinations
                )
    if not pairs:
        return hits  # in their order as they are
    return [{teeth: closest_first(some)[:most] for teeth, some in one.items()} for one in hits]


def closest_with_new_wheels(
    lines: Sequence[tuple[Requirement[S, V], Iterable[int], float]], box: Gearbox, stock: Stock, most: int
) -> list[list[Hit[S]]]:
    """For each line the same over all its wheels, closest first. Within a smaller error they are the first of what is
    found within a larger one."""
    near = with_each_new_wheel_of(lines, box, stock, most)
    every = [closest_first(h for some in of_line.values() for h in some) for of_line in near]
    # What errs by a hair more than it should was perhaps found.
    return [
        hits[: bisect_right(hits, within, key=lambda h: h.approximation.size)]
        for (_, _, within), hits in zip(lines, every, strict=True)
    ]


def near_with_each_new_wheel(
    lines: Sequence[tuple[Requirement[S, V], Iterable[int], float]], box: Gearbox, stock: Stock
) -> list[dict[int, bool]]:
    """For each line the new wheels that come near to it, room aside, and whether perhaps exactly: those that
    `with_each_new_wheel_of` has combinations of, without making them."""
    wheels = usable(box, stock)
    if wheels is None:
        return [{} for _ in lines]
    free, first, last = wheels
    plain = _to_come_near(lines, box, stock)
    near = near_of_each(plain, free, first, last)
    for driven, driver in pair_ways(box, stock):
        for one, more in zip(near, near_of_each(_through(plain, driven, driver), free, first, last, (1,)), strict=True):
            one |= {teeth: exact or one.get(teeth, False) for teeth, exact in more.items()}
    return near


def _to_come_near(
    lines: Sequence[tuple[Requirement[S, V], Iterable[int], float]], box: Gearbox, stock: Stock
) -> list[Near]:
    room = largest(box.quadrant).anywhere
    every = {teeth for _, counts, _ in lines for teeth in counts}
    roomy = {teeth for teeth in every if not stock.get(teeth, 0) and tip_radius(teeth, box.family) <= room}
    return [
        Near(wanted.ratios, wanted.rounded_ratios, [teeth for teeth in counts if teeth in roomy], within)
        for wanted, counts, within in lines
    ]


def _through(lines: Sequence[Near], driven: int, driver: int) -> list[Near]:
    """The same with a locked pair between."""
    turned = Fraction(driven, driver)
    return [line._replace(turned=turned) for line in lines]
