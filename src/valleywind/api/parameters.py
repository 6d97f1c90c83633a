"""Parameters that routes of several topics take: units, a machine, a lathe with what it is planned with."""

from dataclasses import dataclass
from typing import Annotated

from fastapi import Depends, Path, Query

from valleywind.api.access import InSession
from valleywind.core.lathe.machine import Lathe, SetUp
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH
from valleywind.core.trains.model import Change, Stock
from valleywind.shop import machines
from valleywind.shop.models import MachineRow
from valleywind.wording.numbers import Units

InUnits = Annotated[Units, Query(description="Lengths in the texts")]
ChangeOf = Annotated[
    Change, Query(description="Put a wheel at a place, swap two, put an idler behind one, take an idler out")
]
At = Annotated[int, Query(description="Place of the wheel, counted from the first driver at 0")]
Teeth = Annotated[int, Query(ge=FEWEST_TEETH, le=MOST_TEETH, description="The wheel to put, for put and idler")]
OtherPlace = Annotated[int, Query(description="The other place, for swap")]
Slug = Annotated[str, Path(description="The machine's short name", examples=["plover"])]


@dataclass(frozen=True)
class LatheInUse:
    """A lathe with the wheels it can be set up with and the train that is on it."""

    row: MachineRow
    lathe: Lathe
    stock: Stock
    mounted: SetUp | None


def _lathe_in_use(machine: Slug, session: InSession) -> LatheInUse:
    row = machines.machine(session, machine)
    lathe = machines.lathe(row)
    return LatheInUse(row, lathe, machines.stock(row), machines.mounted(row, lathe))


OnLathe = Annotated[LatheInUse, Depends(_lathe_in_use)]
