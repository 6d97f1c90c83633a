"""The log of the shop: what was done and how it came out. It is only ever added to."""

import re
from collections import Counter
from collections.abc import Iterable, Mapping, Sequence
from dataclasses import dataclass
from datetime import UTC, datetime
from fractions import Fraction
from typing import Any, TypeVar

from sqlalchemy import Select, delete, func, insert, or_, select, text
from sqlalchemy.orm import Session, aliased

from valleywind.core.making.last_gap import GapExplanation
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import parse_train
from valleywind.core.trains.slips import Slip
from valleywind.shop.models import JobRow, LogAsideRow, LogKind, LogRow, MachineRow, Outcome

_OF_A_MACHINE = ("mounted", "boxes_mounted", "dismounted", "boxes_cleared", "machine_", "plate_", "full_set")
MOUNTED = ("mounted", "boxes_mounted")
UNDONE = "undone"
DONE = "task_done"
TAKEN_IN, _ENTRIES = "imported", "entries"
TASKS = ("tasks_added", "task_edited", "task_deleted", DONE, "tasks_cleared")
"""The changes of what is to be done."""
_BARED = ("dismounted", "boxes_cleared")
# What may make a set-up of then another one now: the machine's record, and wheels of the rack.
_RECORD_CHANGED = ("machine_edited", "plate_used", "machine_wheels")
_WHEELS_CHANGED = ("wheels_edited", "wheels_deleted")
BY_ITSELF = (LogKind.CHANGE.value, LogKind.JOB.value)
"""Kinds of entries that nobody strikes through: what happened to the shop happened."""
BEGUN, FINISHED, LAST_GAP = "begun", "finished", "last_gap"
_MOST_WORDS = 10
_MOST_LOOKED_AT = 500
Chosen = TypeVar("Chosen", Select[LogRow, LogRow], Select[int])


@dataclass(frozen=True)
class Entry:
    """An entry, and the one that strikes it through, if any."""

    row: LogRow
    corrected: LogRow | None


@dataclass(frozen=True)
class LogFilter:
    """Which entries: None or empty for all. words: that stand in it, each from its beginning; before: older than this
    one; since, until: days, `2026-03-01`, both within."""

    machine: MachineRow | None = None
    kind: LogKind | None = None
    outcome: Outcome | None = None
    words: str = ""
    teeth: int | None = None
    job: int | None = None
    since: str = ""
    until: str = ""
    entry: int | None = None
    before: int | None = None


@dataclass(frozen=True)
class LoggedCheck:
    """A reading, compared with what a set-up gives. what: length (mm), angle (degrees), marks, crank (turns), line
    (degrees); over: turns, or the table's travel, mm; off: by how much it may be off; slip: the likeliest that explains
    it; screw: lead of the machine's screw then, mm, None where no screw has a part in it."""

    what: str
    measured: Fraction
    expected: Fraction | float
    off: Fraction
    over: Fraction
    agrees: bool
    slip: Slip | None = None
    screw: Fraction | None = None

    @property
    def plain(self) -> dict[str, Any]:
        """As it is kept."""
        slip = self.slip and {
            "kind": self.slip.kind.value, "wheels": list(self.slip.wheels), "sure": self.slip.sure,
            "code": self.slip.factor.code if self.slip.factor else "",
            "name": self.slip.factor.name if self.slip.factor else "",
        }  # fmt: skip
        return {
            "what": self.what, "measured": str(self.measured), "expected": str(self.expected), "off": str(self.off),
            "over": str(self.over), "agrees": self.agrees, "slip": slip,
            "screw": None if self.screw is None else str(self.screw),
        }  # fmt: skip


def add(session: Session, row: LogRow) -> LogRow:
    """Add an entry; it has its number then."""
    row.at = row.at or datetime.now(UTC).isoformat(timespec="seconds")
    session.add(row)
    session.flush()
    parts = (row.machine, row.ask, row.train, row.note, row.by, *_flat(row.about))
    if row.about.get("photo"):
        parts = (*parts, "photograph")
    session.execute(
        text("INSERT INTO log_words (rowid, words) VALUES (:id, :words)"), {"id": row.id, "words": " ".join(parts)}
    )
    return row


def clear(session: Session) -> None:
    """Begin anew, in the demo shop's own file."""
    session.execute(delete(LogRow))
    session.execute(delete(LogAsideRow))
    session.execute(text("INSERT INTO log_words (log_words) VALUES ('delete-all')"))


def note_change(
    session: Session, number: int, undoes: int | None, code: str, about: Mapping[str, Any], at: str
) -> None:
    """A change of the shop, by its number, written by itself. undoes: the change that it takes back; that one's entry
    is struck through by it. A whole shop that came into an empty file has its own log, and none of that."""
    of, what, undone = about, code, False
    while what == UNDONE:
        what, of, undone = of["what"], of["of"], not undone
    if code == TAKEN_IN and about.get("whole"):
        return
    if what in TASKS and _note_of_task(session, number, undoes, what, of, undone):
        return
    named = str(of.get("name", "")) if what.startswith(_OF_A_MACHINE) else ""
    machine = session.scalar(select(MachineRow.id).where(MachineRow.name == named)) if named else None
    # A set-up stands with the entry by which it is on: not with the one that takes it off again.
    train = str(of.get("train", "")) if what in MOUNTED and not undone else ""
    row = LogRow(
        at=at, kind=LogKind.CHANGE, machine=named, machine_id=machine, change_id=number, train=train, code=code,
        ask="" if undone else str(of.get("ask", "")), about=dict(about),
        corrects=session.scalar(select(LogRow.id).where(LogRow.change_id == undoes)) if undoes else None,
    )  # fmt: skip
    add(session, row)
    if code == UNDONE and what == TAKEN_IN and of.get(_ENTRIES):
        # After its own entry: that one has a number which none of theirs had.
        (_take_aside if undone else _bring_back)(session, *of[_ENTRIES])


def _note_of_task(
    session: Session, number: int, undoes: int | None, what: str, of: Mapping[str, Any], undone: bool
) -> bool:
    """Whether no more is to be noted of a change of what is to be done, which is no part of the log. What was done
    stands there by itself: it is struck through where that is undone, and stands anew where it is done again."""
    if what != DONE:
        return True
    if undoes is None:
        done = session.get(LogRow, of["entry"])
        if done is not None:
            done.change_id = number
        return True
    before = session.scalar(select(LogRow).where(LogRow.change_id == undoes))
    if undone:
        return before is None
    struck = session.get(LogRow, before.corrects) if before is not None and before.corrects else None
    if struck is not None and not _corrected_by_hand(session, struck):
        again = {column.key: getattr(struck, column.key) for column in LogRow.__table__.columns}
        add(session, LogRow(**again | {"id": None, "change_id": number}))
    return True


def _corrected_by_hand(session: Session, row: LogRow) -> bool:
    by_hand = select(LogRow.id).where(LogRow.corrects == row.id, LogRow.kind == LogKind.CORRECTION.value)
    return session.scalar(by_hand) is not None


def newest(session: Session) -> int:
    """The number of the newest entry; 0 where there is none."""
    return session.scalar(select(func.max(LogRow.id))) or 0


def _take_aside(session: Session, first: int, last: int) -> None:
    """Entries that came with a file, from the first to the last, leave the log while the taking in of it is undone."""
    theirs = LogRow.id.between(first, last)
    rows = [
        {"id": row["id"], "entry": dict(row)}
        for row in session.execute(select(*LogRow.__table__.columns).where(theirs)).mappings()
    ]
    if rows:
        session.execute(insert(LogAsideRow), rows)
        session.execute(delete(LogRow).where(theirs))


def _bring_back(session: Session, first: int, last: int) -> None:
    """Those entries where they were. Their words are found still: no other entry ever has their numbers."""
    aside = LogAsideRow.id.between(first, last)
    rows = list(session.scalars(select(LogAsideRow.entry).where(aside)))
    if rows:
        session.execute(insert(LogRow), rows)
        session.execute(delete(LogAsideRow).where(aside))


def note_job(session: Session, row: JobRow, code: str, about: Mapping[str, Any], at: str = "") -> None:
    """What happened with a wheel to be made, written by itself."""
    facts = {"teeth": row.teeth, **about}
    add(session, LogRow(at=at, kind=LogKind.JOB, job_id=row.id, code=code, about=facts))


def note_last_gap(session: Session, row: JobRow, beside: float, off: float, slip: GapExplanation | None) -> None:
    """What the last gap of a wheel told. beside, off: µm; slip: the nearest that explains it."""
    facts: dict[str, Any] = {"beside_um": round(beside, 1), "off_um": round(off, 1), "agrees": abs(beside) <= off}
    if slip is not None:
        of = slip.of
        facts |= {"slip": slip.slip.value, "circle": slip.circle, "unit": of.unit.value if of else None,
                 "of_circle": of.circle if of else None}  # fmt: skip
    note_job(session, row, LAST_GAP, facts)


def last_gap_of(session: Session, row: JobRow) -> LogRow | None:
    """The newest entry of what the last gap of a wheel told; None where it was not compared."""
    query = (
        select(LogRow)
        .where(LogRow.job_id == row.id, LogRow.kind == LogKind.JOB.value, LogRow.code == LAST_GAP)
        .order_by(LogRow.id.desc())
        .limit(1)
    )
    return session.scalar(query)


def note_check(session: Session, row: MachineRow, ask: str, train: str, checked: LoggedCheck, by: str = "") -> LogRow:
    """What was measured against what was wanted, written by itself."""
    made = LogRow(
        at="", by=by, kind=LogKind.CHECK, machine=row.name, machine_id=row.id, ask=ask, train=train,
        about=checked.plain,
    )  # fmt: skip
    return add(session, made)


def entries(session: Session, wanted: LogFilter, most: int) -> list[Entry]:
    """The newest first. A correction stands with what it corrects, and is no entry of its own."""
    correcting = aliased(LogRow)
    query = select(LogRow, correcting).outerjoin(correcting, correcting.corrects == LogRow.id)
    rows = session.execute(_chosen(query, wanted).order_by(LogRow.id.desc()).limit(most))
    return [Entry(row, corrected) for row, corrected in rows]


def how_many(session: Session, wanted: LogFilter) -> int:
    """How many entries are like that."""
    return session.scalar(_chosen(select(func.count(LogRow.id)), wanted)) or 0


def _chosen(query: Chosen, wanted: LogFilter) -> Chosen:
    query = query.where(LogRow.kind != LogKind.CORRECTION.value)
    if wanted.machine is not None:
        query = query.where(LogRow.machine_id == wanted.machine.id)
    if wanted.kind is not None:
        query = query.where(LogRow.kind == wanted.kind.value)
    if wanted.outcome is not None:
        query = query.where(LogRow.outcome == wanted.outcome.value)
    if wanted.entry is not None:
        query = query.where(LogRow.id == wanted.entry)
    if wanted.job is not None:
        query = query.where(LogRow.job_id == wanted.job)
    if wanted.since:
        query = query.where(LogRow.at >= wanted.since)
    if wanted.until:
        # Every time of that day begins with it, and comes before it with a letter behind.
        query = query.where(LogRow.at < f"{wanted.until}~")
    if wanted.before is not None:
        query = query.where(LogRow.id < wanted.before)
    sought = _sought(wanted.words) + (f' "{wanted.teeth}"' if wanted.teeth is not None else "")
    if sought.strip():
        matching = text("log.id IN (SELECT rowid FROM log_words WHERE log_words MATCH :sought)")
        query = query.where(matching.bindparams(sought=sought))
    return query


def latest_of(session: Session, machines: Sequence[int]) -> int | None:
    """The machine, by its number, that the newest entry of any of these is about; None where there is none."""
    newest = [session.scalar(select(func.max(LogRow.id)).where(LogRow.machine_id == one)) for one in machines]
    known = [(entry, one) for entry, one in zip(newest, machines, strict=True) if entry is not None]
    return max(known)[1] if known else None


def minutes(session: Session, machine: MachineRow, most: int = 200) -> list[tuple[str, int]]:
    """What was done on a machine with the minutes that it took, as far as somebody said: ask and minutes, the newest
    first."""
    query = _standing(LogKind.DONE).where(LogRow.machine_id == machine.id).order_by(LogRow.id.desc()).limit(most)
    return [(row.ask, int(row.about["minutes"])) for row in session.scalars(query) if row.about.get("minutes")]


def number_of(session: Session, machine: MachineRow, ask: str, train: str) -> int | None:
    """The entry in which a set-up was last put on, measured or used for an ask; None where there is none."""
    query = (
        _standing(LogKind.CHANGE, LogKind.CHECK, LogKind.DONE)
        .with_only_columns(func.max(LogRow.id))
        .where(LogRow.machine_id == machine.id, LogRow.ask == ask, LogRow.train == train)
    )
    number: int | None = session.scalar(query)
    return number


def _standing(*kinds: LogKind) -> Select[LogRow]:
    """Entries of these kinds that nothing strikes through."""
    correcting = aliased(LogRow)
    return (
        select(LogRow)
        .outerjoin(correcting, correcting.corrects == LogRow.id)
        .where(correcting.id.is_(None), LogRow.kind.in_([kind.value for kind in kinds]))
    )


def last_time(session: Session, machine: MachineRow, ask: str, most: int = 5) -> list[Entry]:
    """What was put on, measured and done for this ask on this machine: the newest first, without what was struck
    through."""
    query = (
        _standing(LogKind.CHANGE, LogKind.CHECK, LogKind.DONE, LogKind.NOTE)
        .where(LogRow.machine_id == machine.id, LogRow.ask == ask)
        .order_by(LogRow.id.desc())
        .limit(most)
    )
    return [Entry(row, None) for row in session.scalars(query)]


def changed_since(session: Session, entry: LogRow, teeth: Iterable[int]) -> list[LogRow]:
    """What was changed since an entry that may make its set-up another one now: the machine's record, and wheels of
    these teeth; the newest first."""
    wheels = set(teeth)
    query = (
        select(LogRow)
        .where(LogRow.id > entry.id, LogRow.kind == LogKind.CHANGE.value)
        .where(LogRow.code.in_([*_RECORD_CHANGED, *_WHEELS_CHANGED]))
        .order_by(LogRow.id.desc())
        .limit(_MOST_LOOKED_AT)
    )
    return [row for row in session.scalars(query) if _concerns(row, entry, wheels)]


def _concerns(row: LogRow, entry: LogRow, wheels: set[int]) -> bool:
    if row.code in _RECORD_CHANGED:
        return row.machine_id == entry.machine_id
    return any(pair[0] in wheels for pair in row.about.get("wheels", ()))


def on_since(session: Session, machine: MachineRow) -> LogRow | None:
    """The entry of what is on a machine now: None where the log does not know, or it is bare."""
    query = (
        _standing(LogKind.CHANGE)
        .where(LogRow.machine_id == machine.id, or_(LogRow.train != "", LogRow.code.in_(_BARED)))
        .order_by(LogRow.id.desc())
        .limit(1)
    )
    row = session.scalar(query)
    return row if row is not None and row.train else None


def checks(session: Session, machine: MachineRow, most: int = 200) -> list[Entry]:
    """What was measured at a machine, the oldest first; with what strikes it through."""
    return entries(session, LogFilter(machine=machine, kind=LogKind.CHECK), most)[::-1]


@dataclass(frozen=True)
class SetUpUse:
    """A set-up that was put on: how often, and when last."""

    ask: str
    train: str
    times: int
    last: str


def set_up_uses(session: Session, machine: MachineRow, most: int = 1000) -> list[SetUpUse]:
    """The set-ups that were put on, the most used first."""
    times = func.count()
    query = (
        _standing(LogKind.CHANGE)
        .with_only_columns(LogRow.ask, LogRow.train, times, func.max(LogRow.at))
        .where(LogRow.machine_id == machine.id, LogRow.train != "")
        .group_by(LogRow.ask, LogRow.train)
        .order_by(times.desc(), func.max(LogRow.at).desc())
        .limit(most)
    )
    return [SetUpUse(*one) for one in session.execute(query)]


def wheel_uses(set_ups: Sequence[SetUpUse]) -> list[tuple[int, int]]:
    """Tooth numbers with how often they were put on, the most used first."""
    uses: Counter[int] = Counter()
    for one in set_ups:
        for teeth in set(teeth_of(one.train)):
            uses[teeth] += one.times
    return uses.most_common()


def teeth_of(train: str) -> list[int]:
    """The tooth numbers of a set-up as the log names it: trains, with levers and constants behind an @."""
    teeth: list[int] = []
    for part in train.split("+"):
        try:
            teeth.extend(parse_train(part.partition("@")[0]).teeth)
        except Refusal:
            continue
    return teeth


def correct(session: Session, number: int, row: LogRow) -> LogRow:
    """Strike an entry through, with a reason.

    Raises Refusal `no_such_entry`, `corrected_already`, `written_by_itself`.
    """
    struck = session.get(LogRow, number)
    if struck is None or struck.kind == LogKind.CORRECTION.value:
        raise Refusal("no_such_entry", "entry", number)
    if struck.kind in BY_ITSELF:
        raise Refusal("written_by_itself", "entry", number)
    if session.scalar(select(LogRow.id).where(LogRow.corrects == number)) is not None:
        raise Refusal("corrected_already", "entry", number)
    row.kind, row.corrects = LogKind.CORRECTION, number
    row.machine, row.machine_id = struck.machine, struck.machine_id
    row.ask, row.train = struck.ask, struck.train
    return add(session, row)


def _sought(words: str) -> str:
    """What is typed as a question to the index: every word, each from its beginning."""
    parts = re.findall(r"\w+", words)[:_MOST_WORDS]
    return " ".join(f'"{word}"*' for word in parts)


def _flat(value: object) -> Iterable[str]:
    if isinstance(value, Mapping):
        for name, one in value.items():
            if name != _ENTRIES:
                yield from _flat(one)
    elif isinstance(value, list | tuple):
        for one in value:
            yield from _flat(one)
    elif value is not None and not isinstance(value, bool):
        yield str(value)
