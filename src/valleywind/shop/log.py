"""The log of the shop: what was done and how it came out. It is only ever added to."""

import re
from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import delete, select, text
from sqlalchemy.orm import Session, aliased

from valleywind.core.refusal import Refused
from valleywind.shop.models import LogKind, LogRow, Outcome

_OF_A_MACHINE = ("mounted", "boxes_mounted", "dismounted", "boxes_cleared", "machine_", "plate_", "full_set")
_MOST_WORDS = 10
MOUNTED = "mounted"


@dataclass(frozen=True)
class Entry:
    """An entry, and the one that strikes it through, if any."""

    row: LogRow
    corrected: LogRow | None


@dataclass(frozen=True)
class Wanted:
    """Which entries: empty for all. words: that stand in it, each from its beginning; before: older than this one."""

    machine: str = ""
    kind: LogKind | None = None
    outcome: Outcome | None = None
    words: str = ""
    before: int | None = None


def add(session: Session, row: LogRow) -> LogRow:
    """Add an entry; it has its number then."""
    row.at = row.at or datetime.now(UTC).isoformat(timespec="seconds")
    session.add(row)
    session.flush()
    told = (row.machine, row.ask, row.train, row.note, row.by, *_flat(row.about))
    session.execute(
        text("INSERT INTO log_words (rowid, words) VALUES (:id, :words)"), {"id": row.id, "words": " ".join(told)}
    )
    return row


def clear(session: Session) -> None:
    """Begin anew, in the demo shop's own file."""
    session.execute(delete(LogRow))
    session.execute(text("INSERT INTO log_words (log_words) VALUES ('delete-all')"))


def note_change(session: Session, code: str, about: Mapping[str, Any], at: str) -> None:
    """A change of the shop, written by itself."""
    named = str(about.get("name", "")) if code.startswith(_OF_A_MACHINE) else ""
    train = str(about.get("train", "")) if code == MOUNTED else ""
    row = LogRow(
        at=at, kind=LogKind.CHANGE, machine=named, ask=str(about.get("ask", "")), train=train, code=code,
        about=dict(about),
    )  # fmt: skip
    add(session, row)


def entries(session: Session, wanted: Wanted, most: int) -> list[Entry]:
    """The newest first. A correction stands with what it corrects, and is no entry of its own."""
    correcting = aliased(LogRow)
    query = (
        select(LogRow, correcting)
        .outerjoin(correcting, correcting.corrects == LogRow.id)
        .where(LogRow.kind != LogKind.CORRECTION.value)
        .order_by(LogRow.id.desc())
        .limit(most)
    )
    if wanted.machine:
        query = query.where(LogRow.machine == wanted.machine)
    if wanted.kind is not None:
        query = query.where(LogRow.kind == wanted.kind.value)
    if wanted.outcome is not None:
        query = query.where(LogRow.outcome == wanted.outcome.value)
    if wanted.before is not None:
        query = query.where(LogRow.id < wanted.before)
    if sought := _sought(wanted.words):
        matching = text("log.id IN (SELECT rowid FROM log_words WHERE log_words MATCH :sought)")
        query = query.where(matching.bindparams(sought=sought))
    return [Entry(row, corrected) for row, corrected in session.execute(query)]


def last_time(session: Session, machine: str, ask: str, most: int = 5) -> list[Entry]:
    """What was put on for this ask on this machine, and how it came out: the newest first, without what was struck
    through."""
    correcting = aliased(LogRow)
    query = (
        select(LogRow)
        .outerjoin(correcting, correcting.corrects == LogRow.id)
        .where(LogRow.machine == machine, LogRow.ask == ask, correcting.id.is_(None))
        .where(LogRow.kind.in_([LogKind.CHANGE.value, LogKind.DONE.value]))
        .order_by(LogRow.id.desc())
        .limit(most)
    )
    return [Entry(row, None) for row in session.scalars(query)]


def correct(session: Session, number: int, row: LogRow) -> LogRow:
    """Strike an entry through, with a reason.

    Raises Refused `no_such_entry`, `corrected_already`, `written_by_itself`.
    """
    struck = session.get(LogRow, number)
    if struck is None or struck.kind == LogKind.CORRECTION.value:
        raise Refused("no_such_entry", "entry", number)
    if struck.kind == LogKind.CHANGE.value:
        raise Refused("written_by_itself", "entry", number)
    if session.scalar(select(LogRow.id).where(LogRow.corrects == number)) is not None:
        raise Refused("corrected_already", "entry", number)
    row.kind, row.corrects = LogKind.CORRECTION, number
    row.machine, row.ask, row.train = struck.machine, struck.ask, struck.train
    return add(session, row)


def _sought(words: str) -> str:
    """What is typed as a question to the index: every word, each from its beginning."""
    found = re.findall(r"\w+", words)[:_MOST_WORDS]
    return " ".join(f'"{word}"*' for word in found)


def _flat(value: object) -> Iterable[str]:
    if isinstance(value, Mapping):
        for one in value.values():
            yield from _flat(one)
    elif isinstance(value, list | tuple):
        for one in value:
            yield from _flat(one)
    elif value is not None and not isinstance(value, bool):
        yield str(value)
