"""The demo lathes as the core knows them, without a database."""

from valleywind.core.lathe.machine import Lathe
from valleywind.core.trains.model import Stock
from valleywind.demo import harrowfold
from valleywind.shop import machines
from valleywind.shop.models import MachineRow


def plover() -> tuple[Lathe, Stock]:
    return _as_core(harrowfold.plover())


def curlew() -> tuple[Lathe, Stock]:
    return _as_core(harrowfold.curlew())


def dunlin() -> tuple[Lathe, Stock]:
    return _as_core(harrowfold.dunlin())


def _as_core(row: MachineRow) -> tuple[Lathe, Stock]:
    return machines.lathe(row), machines.stock(row)
