"""What a kind of machine makes of a plate: how it is read, what the machine may be by it, and what the wheels can do
beside it."""

from collections.abc import Callable, Iterable, Iterator, Mapping
from dataclasses import dataclass
from fractions import Fraction

from sqlalchemy.orm import Session

from valleywind.core.plate.plate import Agreement, JudgedLine, Plate
from valleywind.core.trains.model import Stock, Train
from valleywind.core.trains.quadrant_record import spell_quadrant
from valleywind.shop import machines, record_parts, records
from valleywind.shop.models import MachineRow
from valleywind.shop.record_parts import Kind
from valleywind.wording import plate as plate_words
from valleywind.wording.plate import PlateWords
from valleywind.wording.trains import train_text


@dataclass(frozen=True)
class Choice:
    """One machine that a plate fits: what goes into the record, field by field, as a form takes it."""

    fields: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class PlateComparison:
    """A line of a plate beside the best train of the wheels held."""

    number: int
    train: str
    says: str


@dataclass(frozen=True)
class PlateKind:
    """A kind of machine that has plates. read: a plate, given the counts in the rack; choices: what it may be by one,
    what its record says already before the most usual; put: one of them into the record, of a new machine where the
    row is None; compared: its lines beside the best trains of the wheels."""

    name: str
    words: PlateWords
    read: Callable[[str, Iterable[int]], Plate]
    choices: Callable[[Plate, MachineRow | None], list[Choice]]
    put: Callable[[Session, MachineRow | None, str, Plate, Choice], MachineRow]
    compared: Callable[[MachineRow, Plate, Stock], Iterator[PlateComparison]]


def no_train(line: JudgedLine, new: int | None) -> PlateComparison:
    """No train goes on for a line. new: a wheel that would bring one."""
    return PlateComparison(line.line.number, "", plate_words.no_train(new))


def beside(line: JudgedLine, train: Train, error: Fraction, setting: str = "") -> PlateComparison:
    """The best train of a line; the same as the plate's where wheels and error are."""
    gives = None if line.standing is Agreement.WRONG else line.error
    same = train.combination == line.right.train.combination and (not setting or error == gives)
    says = plate_words.beside(error, gives, same)
    return PlateComparison(line.line.number, ", ".join(filter(None, (train_text(train), setting))), says)


def put_parts(
    session: Session, row: MachineRow | None, kind: Kind, name: str, parts: Mapping[str, object]
) -> MachineRow:
    """Put parts into the record of a machine, of a new one where the row is None; its other parts stay. Raises Refusal
    as `records.save` does."""
    if row is None:
        return records.save(session, None, records.TypedMachine(kind, name, parts=parts), None)
    every = (*kind.has, *kind.may_have)
    whole = {part.name: record_parts.as_typed(row, part) for part in every if record_parts.has(row, part)} | {**parts}
    arm = spell_quadrant(machines.quadrant_facts(row.quadrant)) if row.quadrant is not None else None
    return records.save(session, row, records.TypedMachine(kind, name, row.note, whole, arm), row.family)
