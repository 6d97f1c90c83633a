"""Differential gears on the head's own arm: which of the trains that would do go on, with which idlers."""

from collections.abc import Iterator, Sequence
from dataclasses import replace
from itertools import product

from valleywind.core.dividing.ways import MOST_TRAINS, Differential
from valleywind.core.trains.arrange import arrange
from valleywind.core.trains.exact import exact_trains
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import Combination, Stock, lacking
from valleywind.core.trains.placement import Layout

# Settings that are tried, the handiest first, and of each these stretches of its trains; further ones of all of them
# only where none of those goes on.
_SETTINGS, _FIRST, _FURTHER = 10, ((0, 4), (4, 24)), ((24, MOST_TRAINS),)


def on_the_arm(settings: Sequence[Differential], arm: Gearbox, stock: Stock) -> tuple[Differential, Layout] | None:
    """The handiest setting whose train goes on, that train first of its trains, and where it stands; where none goes
    on, the one that comes nearest. None where there is nothing to lay out.

    arm: where the gears go between spindle, the first shaft, and plate, the last.
    """
    nearest: tuple[Differential, Layout] | None = None
    for stretches in (_FIRST, _FURTHER):
        for setting, (start, end) in product(settings[:_SETTINGS], stretches):
            trains = exact_trains(abs(setting.gear_ratio), stock, most=end)[start:end]
            for laid in _laid(setting, trains, arm, stock):
                if laid.fits:
                    return _with_first(setting, laid), laid
                if nearest is None or laid.room > nearest[1].room:
                    nearest = _with_first(setting, laid), laid
    return nearest


def _laid(setting: Differential, some: Sequence[Combination], arm: Gearbox, stock: Stock) -> Iterator[Layout]:
    """The best place of each train, those with the fewest idlers that turn the plate the right way first."""
    trains = [t for t in some if not lacking(t.wheels, stock)]
    by_idlers: dict[int, list[Combination]] = {}
    for train in trains:
        fewest = setting.idlers(train)
        for idlers in (fewest, fewest + 2):
            if train.stages - 1 + idlers <= arm.quadrant.studs:
                by_idlers.setdefault(idlers, []).append(train)
    if trains and not by_idlers:  # more studs are needed than there are: the first one shows it
        by_idlers[setting.idlers(trains[0])] = trains[:1]
    for idlers in sorted(by_idlers):
        arranged = arrange(by_idlers[idlers], idlers, stock, arm.family, arm.quadrant)
        for going in (True, False):
            best = [ways[0] for ways in arranged if ways and ways.goes_on is going]
            yield from sorted(best, key=lambda laid: -laid.room)


def _with_first(setting: Differential, laid: Layout) -> Differential:
    used = laid.train.combination
    return replace(setting, trains=(used, *(t for t in setting.trains if t != used)))
