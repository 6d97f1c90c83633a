"""The latest changes of the shop, and undo."""

from typing import Annotated

from fastapi import APIRouter, Path
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.access import InSession, Shop, ToWriteAtLength
from valleywind.api.problems import RESPONSES
from valleywind.shop import changes, jobs
from valleywind.shop.models import ChangeRow
from valleywind.wording import changes as words

router = APIRouter(prefix="/changes", tags=["changes"], responses=RESPONSES)


class ChangeOut(BaseModel):
    id: int
    at: str = Field(description="When, UTC", examples=["2026-01-31T09:30:00+00:00"])
    text: str = Field(examples=["Added to the rack: 40, 45."])
    undone: bool = Field(description="It was undone since")
    is_undo: bool = Field(description="It is itself the undoing of another")


class UndoOut(BaseModel):
    text: str = Field(description="What was taken back", examples=["Added to the rack: 40, 45."])
    left: list[str] = Field(description="What of it could not be taken back, and why")


@router.get("")
def get_changes(session: InSession) -> list[ChangeOut]:
    """The latest changes, the newest first."""
    return [_change(row) for row in changes.latest(session)]


@router.post("/{change}/undo")
def undo_change(
    change: Annotated[int, Path(ge=0, le=2**53, description="Number of the change")],
    shop: Shop,
    at_length: ToWriteAtLength,
) -> UndoOut:
    """Take back one change; what others changed since then stays, and is told."""
    with shop.reading() as session:
        much = changes.is_much(session, change)
    return at_length(much, lambda session: _undone(session, change), jobs.note_all)


def _undone(session: Session, change: int) -> UndoOut:
    done = changes.undo(session, change)
    return UndoOut(
        text=words.change(done.change.code, done.change.about),
        left=[words.left(one.code, one.about) for one in done.left],
    )


def _change(row: ChangeRow) -> ChangeOut:
    return ChangeOut(
        id=row.id, at=row.at, text=words.change(row.code, row.about), undone=row.undone_by is not None,
        is_undo=row.undoes is not None,
    )  # fmt: skip
