"""Differential gears on the head's own arm: which of the trains that would do go on, with which idlers."""

from collections.abc import Generator, Iterator, Sequence
from dataclasses import replace
from itertools import islice, product
from typing import NamedTuple

from valleywind.core.dividing.ways import MOST_TRAINS, Differential
from valleywind.core.trains.arrange import Arrangements, arrange
from valleywind.core.trains.exact import exact_trains
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import Combination, Stock, lacking
from valleywind.core.trains.placement import Layout

# Settings that are tried, the handiest first, and of each these stretches of its trains; further ones of all of them
# only where none of those goes on.
_SETTINGS, _FIRST, _FURTHER = 10, ((0, 4), (4, 24)), ((24, MOST_TRAINS),)


Placed = tuple[Differential, Layout]
"""A setting whose first train stands on the arm, and where."""


def on_the_arm(settings: Sequence[Differential], arm: Gearbox, stock: Stock) -> Placed | None:
    """The handiest setting whose train goes on, that train first of its trains, and where it stands; where none goes
    on, the one that comes nearest. None where there is nothing to lay out.

    arm: where the gears go between spindle, the first shaft, and plate, the last.
    """
    return on_the_arm_each([settings], arm, stock)[0]


def on_the_arm_each(each: Sequence[Sequence[Differential]], arm: Gearbox, stock: Stock) -> list[Placed | None]:
    """The same for the settings of many counts, laid out together, which is much quicker than one by one."""
    places: list[Placed | None] = [None] * len(each)
    searches = [_search(settings, arm, stock) for settings in each]
    waiting: dict[int, _Trains] = {}

    def go_on(n: int, arranged: list[Arrangements] | None) -> None:
        try:
            waiting[n] = searches[n].send(arranged)
        except StopIteration as end:
            waiting.pop(n, None)
            places[n] = end.value

    for n in range(len(each)):
        go_on(n, None)
    while waiting:
        idlers = min(one.idlers for one in waiting.values())
        some = {n: one.combinations for n, one in waiting.items() if one.idlers == idlers}
        arranged = iter(arrange([c for own in some.values() for c in own], idlers, stock, arm.family, arm.quadrant))
        for n, own in some.items():
            go_on(n, list(islice(arranged, len(own))))
    return places


class _Trains(NamedTuple):
    """Combinations that are to be arranged, and with how many idlers each."""

    idlers: int
    combinations: list[Combination]


def _search(
    settings: Sequence[Differential], arm: Gearbox, stock: Stock
) -> Generator[_Trains, list[Arrangements] | None, Placed | None]:
    """Asks for arrangements of one stretch of trains after the other until one goes on."""
    nearest: Placed | None = None
    for stretches in (_FIRST, _FURTHER):
        for setting, (start, end) in product(settings[:_SETTINGS], stretches):
            trains = setting.trains
            if len(trains) < end:
                trains = exact_trains(abs(setting.gear_ratio), stock, most=end)
            for wanted in _by_idlers(setting, trains[start:end], arm, stock):
                arranged = yield wanted
                for laid in _nearest_first(arranged or ()):
                    if laid.fits:
                        return _with_first(setting, laid), laid
                    if nearest is None or laid.room > nearest[1].room:
                        nearest = _with_first(setting, laid), laid
    return nearest


def _by_idlers(setting: Differential, some: Sequence[Combination], arm: Gearbox, stock: Stock) -> list[_Trains]:
    """With how many idlers each train turns the plate the right way, those with the fewest first."""
    trains = [t for t in some if not lacking(t.wheels, stock)]
    by_idlers: dict[int, list[Combination]] = {}
    for train in trains:
        fewest = setting.idlers(train)
        for idlers in (fewest, fewest + 2):
            if train.stages - 1 + idlers <= arm.quadrant.studs:
                by_idlers.setdefault(idlers, []).append(train)
    if trains and not by_idlers:  # more studs are needed than there are: the first one shows it
        by_idlers[setting.idlers(trains[0])] = trains[:1]
    return [_Trains(idlers, by_idlers[idlers]) for idlers in sorted(by_idlers)]


def _nearest_first(arranged: Sequence[Arrangements]) -> Iterator[Layout]:
    """Of each combination the best place: the roomiest first; those that do not go on, by how far they are off."""
    for going in (True, False):
        best = [ways[0] for ways in arranged if ways and ways.goes_on is going]
        yield from sorted(best, key=lambda laid: -laid.room)


def _with_first(setting: Differential, laid: Layout) -> Differential:
    used = laid.train.combination
    return replace(setting, trains=(used, *(t for t in setting.trains if t != used)))
