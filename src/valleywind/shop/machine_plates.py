"""The plate of a machine, kept as it was typed: line by line, beside its record."""

from sqlalchemy.orm import Session

from valleywind.shop import changes
from valleywind.shop.models import MachineRow, RecordRow

PART = "plate"
"""What a plate is called among the parts of a machine's record in the file."""


def lines(row: MachineRow) -> str:
    """The plate as typed, empty where none is kept."""
    kept = row.records.get(PART)
    return str(kept.typed.get("lines", "")) if kept else ""


def save(session: Session, row: MachineRow, typed: str) -> None:
    """Keep a plate; an empty one goes."""
    changes.name(session, "plate_saved", name=row.name)
    put(row, typed)
    session.flush()


def put(row: MachineRow, typed: str) -> None:
    """Make the machine's plate what is typed, as part of another change."""
    if not typed.strip():
        row.records.pop(PART, None)
    elif PART in row.records:
        row.records[PART].typed = {"lines": typed}
    else:
        row.records[PART] = RecordRow(part=PART, typed={"lines": typed})
