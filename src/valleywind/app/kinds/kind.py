"""What the program knows of a kind of machine: one list for what has a record, one for what does as a line asks. A
dividing head is on both and need not pretend to plan trains."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, NamedTuple

from sqlalchemy.orm import Session

from valleywind.app.kinds.craft import Craft
from valleywind.app.kinds.line import Reader
from valleywind.app.kinds.plate import PlateKind
from valleywind.core.teeth.ask_line import Station
from valleywind.shop.models import MachineRow
from valleywind.shop.record_parts import Kind
from valleywind.wording.effort import Weight
from valleywind.wording.record_form import KindWords


class SetUpText(NamedTuple):
    """What is on a machine: as requests name it, and in words."""

    name: str
    text: str


@dataclass(frozen=True)
class Mounting:
    """A set-up read for a machine. name: as requests and the log name it, empty for a bare machine; before: the same of
    what is on now; spell: an ask in its one spelling, as it was typed where it is none; record: puts it on record."""

    name: str
    before: str
    spell: Callable[[str], str]
    record: Callable[[Session, str], None]

    def put(self, session: Session, ask: str) -> None:
        """Record that it is on, and what for; an ask that can be read is kept in its one spelling. Raises Refusal
        `wheels_not_held`."""
        self.record(session, self.spell(ask))


class RecordKind(NamedTuple):
    """A kind of machine that has a record: its parts, and what they are called."""

    kind: Kind
    words: KindWords


@dataclass(frozen=True)
class WorkKind:
    """A kind of machine that does as a line asks. is_one: whether a machine is of it; craft: a machine as a day is
    planned on it; readers: of its lines; examples: of its lines; machine_in: the machine that a line names, empty for
    none; weights: what a change at each of its places weighs, as it is asked for."""

    station: Station
    is_one: Callable[[MachineRow], bool]
    craft: Callable[[Session, MachineRow], Craft[Any, Any]]
    readers: tuple[Reader, ...]
    examples: tuple[str, ...]
    machine_in: Callable[[str], str]
    weights: tuple[Weight, ...]


@dataclass(frozen=True)
class TrainKind(WorkKind):
    """One that trains go on. mounted: what is on, None for nothing; mounting: a set-up as requests name it, None for a
    bare machine; plate: what it makes of its plate."""

    mounted: Callable[[MachineRow], SetUpText | None]
    mounting: Callable[[MachineRow, str | None], Mounting]
    plate: PlateKind


@dataclass(frozen=True)
class MachineKind:
    """All that is listed of a kind of machine; records: its records, none of a lathe, whose record is its own."""

    work: WorkKind
    records: tuple[RecordKind, ...] = ()
