"""What a person says was done, put into the log."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from valleywind.core.names import check_name
from valleywind.shop import log
from valleywind.shop.models import LogKind, LogRow, MachineRow, Outcome


@dataclass(frozen=True)
class WorkReport:
    """ask, train: what was done, and with which set-up; pieces: how many; tried: with what, `nut`, `gauge` or `mate`,
    empty where that is not said; minutes: how long it took, None where nobody says; by: initials."""

    ask: str
    train: str
    outcome: Outcome | None
    pieces: int
    tried: str
    note: str
    by: str
    minutes: int | None = None


def add(session: Session, row: MachineRow | None, done: WorkReport) -> LogRow:
    """Add it, with the machine that it was done on. Raises Refusal as `check_name` does."""
    for field in ("ask", "train", "note", "by"):
        check_name(getattr(done, field), field)
    about: dict[str, object] = {"pieces": done.pieces}
    about |= {"tried": done.tried} if done.tried else {}
    about |= {"minutes": done.minutes} if done.minutes is not None else {}
    made = LogRow(
        at="", kind=LogKind.DONE, machine=row.name if row else "", machine_id=row.id if row else None, ask=done.ask,
        train=done.train, outcome=done.outcome or "", note=done.note.strip(), by=done.by.strip(), about=about,
    )  # fmt: skip
    return log.add(session, made)
