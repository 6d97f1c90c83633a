"""The demo lathes as the core knows them, without a database; and every order of a train's wheels, one by one."""

from itertools import permutations, product

from valleywind.core.lathe.machine import Lathe
from valleywind.core.trains.direction import Drive
from valleywind.core.trains.model import Combination, Stage, Stock, Train
from valleywind.core.trains.quadrant import Quadrant
from valleywind.demo import harrowfold
from valleywind.shop import machines
from valleywind.shop.models import MachineRow


def plover() -> tuple[Lathe, Stock]:
    return _as_core(harrowfold.plover())


def curlew() -> tuple[Lathe, Stock]:
    return _as_core(harrowfold.curlew())


def dunlin() -> tuple[Lathe, Stock]:
    return _as_core(harrowfold.dunlin())


def measured(lathe: Lathe) -> Quadrant:
    """Its quadrant, which must be a measured one."""
    assert isinstance(lathe.quadrant, Quadrant)
    return lathe.quadrant


def drive_of(lathe: Lathe) -> Drive:
    """How its shafts turn, which must be on record."""
    assert lathe.drive is not None
    return lathe.drive


def _as_core(row: MachineRow) -> tuple[Lathe, Stock]:
    return machines.lathe(row), machines.stock(row)


def arrangements(combination: Combination) -> list[Train]:
    """Every order of the same wheels without idlers, each once."""
    sides = (dict.fromkeys(permutations(side)) for side in (combination.drivers, combination.driven))
    return [Train(tuple(map(Stage, *order))) for order in product(*sides)]
