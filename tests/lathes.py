"""The demo lathes as the core knows them, without a database."""

from valleywind.core.lathe.machine import Lathe
from valleywind.core.trains.model import Stock
from valleywind.demo import harrowfold
from valleywind.shop import machines


def plover() -> tuple[Lathe, Stock]:
    row = harrowfold.plover()
    return machines.lathe(row), machines.stock(row)


def curlew() -> tuple[Lathe, Stock]:
    row = harrowfold.curlew()
    return machines.lathe(row), machines.stock(row)
