"""What a change at each place of a machine weighs, kept as it was typed beside its record."""

from dataclasses import asdict, fields

from sqlalchemy.orm import Session

from valleywind.core.trains.effort import Effort, TypedEffort, read_effort
from valleywind.shop import changes
from valleywind.shop.models import MachineRow, RecordRow

PART = "effort"
"""What it is called among the parts of a machine's record in the file."""
_NAMES = {one.name for one in fields(TypedEffort)}


def as_typed(row: MachineRow) -> TypedEffort:
    """As it was typed, as usual where nothing was."""
    kept = row.records.get(PART)
    return TypedEffort(**{name: text for name, text in kept.typed.items() if name in _NAMES}) if kept else TypedEffort()


def effort(row: MachineRow) -> Effort:
    """As the core knows it."""
    return read_effort(as_typed(row))


def save(session: Session, row: MachineRow, typed: TypedEffort) -> None:
    """Keep it. Raises Refusal at the field, as `read_effort` does."""
    read_effort(typed)
    changes.name(session, "effort_saved", name=row.name)
    facts = {name: text.strip() for name, text in asdict(typed).items()}
    if PART in row.records:
        row.records[PART].typed = facts
    else:
        row.records[PART] = RecordRow(part=PART, typed=facts)
    session.flush()
