"""Counts of a day on one head: the settings that will do for each, and what has to be on the head for them."""

from collections.abc import Hashable, Iterator
from dataclasses import dataclass

from valleywind.core.dividing.heads import Head
from valleywind.core.dividing.plan import Setting, Way, best
from valleywind.core.dividing.ways import Compound, Differential, Direct, Nearest, Simple
from valleywind.core.trains.days_work import Choices, WayOfMaking
from valleywind.core.trains.effort import Place, What, stands_of
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import Combination, Stage, Stock, Train

# How many trains between spindle and plate are chosen from.
_TRAINS = 40


@dataclass(frozen=True)
class HeadSetUp:
    """One setting. side: of the plates, from 0, None where no plate is used; train: between spindle and plate."""

    way: Way
    setting: Setting
    side: int | None = None
    train: Train | None = None


def choices(head: Head, divisions: int, gears: Stock | None, arm: Gearbox | None) -> Choices[HeadSetUp]:
    """The settings for one count: those of the handiest way that is exact. Raises Refusal `divisions_out_of_range`."""
    way = best(head, divisions, gears, arm, _TRAINS)
    if way is None:
        return Choices(())
    if not way.exact or not way.goes_on:
        return Choices((), HeadSetUp(way, way.settings[0]))
    return Choices(list(_each(head, way)), HeadSetUp(way, way.settings[0]))


def _each(head: Head, way: Way) -> Iterator[WayOfMaking[HeadSetUp]]:
    for setting in way.settings:
        circles = _circles(setting)
        if not circles:
            yield WayOfMaking(HeadSetUp(way, setting), _beside(setting))
            continue
        for n in sides(head, setting):
            there: dict[Place, Hashable] = {Place(What.PLATE): n, Place(What.PIN): tuple(sorted(circles))}
            for train in _trains(way, setting):
                yield WayOfMaking(HeadSetUp(way, setting, n, train), there | (stands_of(train) if train else {}))


def sides(head: Head, setting: Setting) -> list[int]:
    """The sides of its plates that have every circle of a setting; none where it uses no plate."""
    circles = _circles(setting)
    there = [{circle.holes for circle in side} for side in head.sides]
    return [n for n, has in enumerate(there) if circles and circles <= has]


def _circles(setting: Setting) -> set[int]:
    match setting:
        case Simple() | Nearest():
            return {setting.circle}
        case Compound():
            return {setting.circle_1, setting.circle_2}
        case Differential():
            return {setting.simple[-1].circle}
        case _:
            return set()


def _beside(setting: Setting) -> dict[Place, Hashable]:
    """Where no plate is used: the holes on the spindle, or the graduations."""
    return {Place(What.PIN, name="spindle"): setting.holes if isinstance(setting, Direct) else 0}


def _trains(way: Way, setting: Setting) -> list[Train | None]:
    """What may stand between spindle and plate; None where no gears are used."""
    if not isinstance(setting, Differential):
        return [None]
    if way.laid is not None and setting is way.settings[0]:
        return [way.laid.train]
    return [_in_order(train) for train in setting.trains]


def _in_order(train: Combination) -> Train:
    return Train(tuple(map(Stage, train.drivers, train.driven)))
