"""Machines as they are planned with: with their wheels, and what is on them."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from valleywind.core.dividing.heads import Head
from valleywind.core.helix.machine import Mill
from valleywind.core.helix.plan import LeadDrive, LeadSetUp, drive_of
from valleywind.core.hobbing.machine import Hobber
from valleywind.core.hobbing.set_up import OnNow
from valleywind.core.lathe.machine import Lathe, SetUp
from valleywind.core.teeth.cutters import Cutter
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY, WheelFamily
from valleywind.core.trains.model import Stock
from valleywind.shop import hobbers, machines, mills, records, stores
from valleywind.shop.models import MachineRow
from valleywind.wording.lathe import answers as lathe_words
from valleywind.wording.rack.rack import left_out


@dataclass(frozen=True)
class LatheInUse:
    """A lathe with the wheels it can be set up with and the train that is on it."""

    row: MachineRow
    lathe: Lathe
    stock: Stock
    mounted: SetUp | None


@dataclass(frozen=True)
class HobberInUse:
    """A hobber with the wheels it can be set up with and what is on it."""

    row: MachineRow
    hobber: Hobber
    family: WheelFamily
    stock: Stock
    on: OnNow


@dataclass(frozen=True)
class MillInUse:
    """A mill with its drive, its head, the wheels and cutters there are, and what is on it."""

    row: MachineRow
    mill: Mill
    drive: LeadDrive
    head: Head
    family: WheelFamily
    stock: Stock
    on: LeadSetUp | None
    cutters: list[Cutter]

    @property
    def name(self) -> str:
        return self.row.name


def lathe_in_use(session: Session, machine: str) -> LatheInUse:
    """Raises Refused `no_such_machine`, `not_a_lathe`."""
    row = machines.machine(session, machine)
    lathe = machines.lathe(row)
    return LatheInUse(row, lathe, machines.stock(row), machines.mounted(row, lathe))


def hobber_in_use(session: Session, machine: str) -> HobberInUse:
    """Raises Refused `no_such_machine`, `not_a_hobber`."""
    row = machines.machine(session, machine)
    hobber = records.hobber(row)
    return HobberInUse(row, hobber, _family(row), machines.stock(row), hobbers.on_now(row, hobber))


def mill_in_use(session: Session, machine: str) -> MillInUse:
    """Raises Refused `no_such_machine`, `not_a_mill`, and what its drive lacks."""
    row = machines.machine(session, machine)
    mill = records.mill(row)
    head = records.head(row) if records.has(row, records.HEAD) else None
    drive = drive_of(mill, head.ratio if head else None)
    assert head is not None
    cutters = [stores.cutter(c) for c in stores.cutters(session)]
    return MillInUse(row, mill, drive, head, _family(row), machines.stock(row), mills.on_now(row), cutters)


def _family(row: MachineRow) -> WheelFamily:
    return machines.family(row.family) if row.family else UNKNOWN_FAMILY


def not_known(row: MachineRow, lathe: Lathe | None) -> list[str]:
    """What is not known of a lathe, a sentence each; nothing of other machines."""
    if lathe is None:
        return []
    return [*([lathe_words.EXAMPLE] if row.example else []), *lathe_words.not_known(lathe)]


def left_out_text(row: MachineRow) -> str | None:
    """Why some wheels of its box are in no plan."""
    strays = [(w.teeth, machines.family(w.family) if w.family else None) for w in machines.left_out(row)]
    return left_out(strays, machines.family(row.family) if row.family else None)
