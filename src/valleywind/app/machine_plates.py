"""Plates of machines: what is read from one, how that goes into the record, and what the wheels can do beside it."""

from collections import Counter
from contextlib import suppress
from fractions import Fraction
from functools import lru_cache

from sqlalchemy.orm import Session

from valleywind.app.kinds import TRAINS
from valleywind.app.kinds.plate import Choice, PlateComparison, PlateKind
from valleywind.core.plate.plate import Plate
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Combination
from valleywind.shop import changes, machine_plates, machines
from valleywind.shop.models import MachineRow

KINDS = {kind.plate.name: kind.plate for kind in TRAINS}


def kind_of(row: MachineRow) -> PlateKind:
    """The kind of a known machine. Raises Refusal `no_plates`."""
    return kind_named(row.kind)


def kind_named(name: str) -> PlateKind:
    """Raises Refusal `no_plates` for a kind that has none."""
    if name not in KINDS:
        raise Refusal("no_plates", "kind", name)
    return KINDS[name]


def read(kind: PlateKind, text: str, row: MachineRow | None = None) -> Plate:
    """A plate; the same one is read once. Raises Refusal: those of `find_plate`."""
    held = frozenset(machines.stock(row)) if row is not None else frozenset()
    return _read(kind.name, text, held)


@lru_cache(maxsize=32)
def _read(kind: str, text: str, held: frozenset[int]) -> Plate:
    return KINDS[kind].read(text, held)


def plate_of(row: MachineRow) -> Plate | None:
    """A machine's plate, None where it has none that can be read."""
    text = machine_plates.lines(row)
    if not text or row.kind not in KINDS:
        return None
    try:
        return read(KINDS[row.kind], text, row)
    except Refusal:
        return None


def on_plate(row: MachineRow, wanted: Fraction, kind: str) -> frozenset[Combination]:
    """The wheels that the machine's plate has for this: a lead in mm, a part of a turn."""
    plate = plate_of(row)
    if plate is None:
        return frozenset()
    return frozenset(
        line.train.combination
        for line in plate.lines
        if line.right.target.per == wanted and line.target.kind == kind and not line.changes
    )


def save(session: Session, row: MachineRow, text: str) -> None:
    """Keep a plate as typed. Raises Refusal: those of `find_plate`, `no_plates`."""
    if text.strip():
        read(kind_of(row), text, row)
    machine_plates.save(session, row, text)


def use(session: Session, row: MachineRow, choice: int, wheels: bool) -> MachineRow:
    """Put what a machine's plate gives into its record, and the maker's wheels into its box.

    Raises Refusal `no_such_choice`, and what a record or a rack refuses.
    """
    kind, plate = kind_of(row), plate_of(row)
    if plate is None:
        raise Refusal("no_plate_lines", "lines", "")
    row = kind.put(session, row, row.name, plate, _chosen(kind, plate, row, choice))
    if wheels:
        add_wheels(session, row, plate)
    changes.name(session, "plate_used", name=row.name)
    return row


def new(session: Session, kind: PlateKind, name: str, text: str, choice: int, wheels: bool) -> MachineRow:
    """A new machine from its plate. Raises Refusal as `use` does, `empty` (name), `name_taken`."""
    if not name.strip():
        raise Refusal("empty", "name", name)
    plate = read(kind, text)
    row = kind.put(session, None, name.strip(), plate, _chosen(kind, plate, None, choice))
    machine_plates.put(row, text)
    session.flush()
    if wheels:
        add_wheels(session, row, plate)
    changes.name(session, "machine_added", name=row.name)
    return row


def lacking(row: MachineRow, plate: Plate) -> Counter[int]:
    """The maker's wheels that are not in the machine's box."""
    return Counter(plate.wheels) - Counter(machines.stock(row))


def add_wheels(session: Session, row: MachineRow, plate: Plate) -> None:
    """Every wheel of the plate that is not in the machine's box goes into it."""
    machines.set_wheels(session, row, dict(Counter(machines.stock(row)) | Counter(plate.wheels)))


def _chosen(kind: PlateKind, plate: Plate, row: MachineRow | None, choice: int) -> Choice:
    choices = kind.choices(plate, row)
    if not 0 <= choice < len(choices):
        raise Refusal("no_such_choice", "choice", choice)
    return choices[choice]


def compared(row: MachineRow) -> list[PlateComparison]:
    """For each line of a machine's plate that names what is wanted by itself, the best train that goes on. Nothing
    where there is no plate, no wheel, or the record lacks what trains are planned by."""
    plate, stock = plate_of(row), machines.stock(row)
    if plate is None or not any(stock.values()):
        return []
    with suppress(Refusal):
        return list(kind_of(row).compared(row, plate, stock))
    return []
