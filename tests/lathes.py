"""The demo lathes as the core knows them, without a database."""

from valleywind.core.lathe.machine import Lathe
from valleywind.core.trains.direction import Drive
from valleywind.core.trains.model import Stock
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
