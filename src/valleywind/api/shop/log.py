"""The log of the shop: what was done, how it came out, and what was done last time."""

from typing import Annotated

from fastapi import APIRouter, Path, Query, Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.access import InSession, ToAdd
from valleywind.api.problems import RESPONSES
from valleywind.api.tables import CSV, csv_response
from valleywind.core.names import check_name
from valleywind.core.refusal import Refused
from valleywind.formats.tables import csv_text
from valleywind.shop import log, machines
from valleywind.shop.log import Entry, Wanted
from valleywind.shop.models import LogKind, LogRow, MachineRow, Outcome
from valleywind.wording import log as words
from valleywind.wording.changes import set_up_text

router = APIRouter(prefix="/log", tags=["log"], responses=RESPONSES)

_MOST_AT_ONCE, _MOST_IN_A_FILE = 100, 20_000
_STATIONS = ("lathe", "hobber", "mill")
_HEAD = ("at", "by", "kind", "machine", "ask", "train", "outcome", "text", "struck through because")
By = Annotated[str, Field(max_length=12, description="Initials of whoever says it; may be empty")]
Note = Annotated[str, Field(max_length=500, description="In one's own words")]


class CorrectionOut(BaseModel):
    at: str = Field(description="When, UTC")
    by: str = Field(description="Initials, if any")
    reason: str = Field(description="Why the entry is struck through, and what holds instead")


class LogEntryOut(BaseModel):
    id: int
    at: str = Field(description="When, UTC")
    by: str = Field(description="Initials, if any")
    kind: LogKind
    text: str = Field(description="What happened, in one sentence")
    machine: str = Field(description="The machine's name then; empty where it is about none")
    slug: str | None = Field(description="The machine's short name, where there still is one of that name")
    station: str | None = Field(description="Kind of station that plans for it: lathe, hobber or mill; null for none")
    ask: str = Field(description="What was wanted; empty where nothing was")
    train: str = Field(description="The set-up, as requests name it; empty where it is about none")
    train_text: str = Field(description="The set-up as people write it")
    outcome: Outcome | None = Field(description="How it came out, where somebody said so")
    correction: CorrectionOut | None = Field(description="What strikes it through; null where it stands")


class DoneIn(BaseModel):
    machine: str = Field(description="Short name of the machine", max_length=80)
    ask: str = Field(description="What was done, as it was asked", max_length=200)
    train: str = Field("", description="With which set-up", max_length=160)
    outcome: Outcome | None = None
    note: Note = ""
    by: By = ""


class NoteIn(BaseModel):
    note: Note
    by: By = ""


class CorrectionIn(BaseModel):
    reason: Note
    by: By = ""


def _out(entry: Entry, machines_there: dict[str, MachineRow]) -> LogEntryOut:
    row, struck = entry.row, entry.corrected
    there = machines_there.get(row.machine)
    station = there.kind if there and there.kind in _STATIONS else None
    return LogEntryOut(
        id=row.id,
        at=row.at,
        by=row.by,
        kind=LogKind(row.kind),
        text=words.sentence(row),
        machine=row.machine,
        slug=there.slug if there else None,
        station=station,
        ask=row.ask,
        train=row.train,
        train_text=set_up_text(row.train),
        outcome=Outcome(row.outcome) if row.outcome else None,
        correction=CorrectionOut(at=struck.at, by=struck.by, reason=struck.note) if struck else None,
    )


def _there(session: Session) -> dict[str, MachineRow]:
    return {row.name: row for row in machines.every(session)}


Machine = Annotated[str, Query(max_length=80, description="The machine's name; empty for all")]
Words = Annotated[str, Query(max_length=200, description="Words that stand in it")]


@router.get("")
def get_shop_log(
    session: InSession,
    machine: Machine = "",
    kind: Annotated[LogKind | None, Query(description="Of this kind alone")] = None,
    outcome: Annotated[Outcome | None, Query(description="That came out so")] = None,
    text: Words = "",
    before: Annotated[int | None, Query(ge=1, le=2**53, description="Older than this entry")] = None,
) -> list[LogEntryOut]:
    """Entries of the log, the newest first, up to 100."""
    found = log.entries(session, Wanted(machine, kind, outcome, text, before), _MOST_AT_ONCE)
    there = _there(session)
    return [_out(entry, there) for entry in found]


@router.get("/last")
def get_last_time(
    session: InSession,
    machine: Annotated[str, Query(max_length=80, description="Short name of the machine")],
    ask: Annotated[str, Query(max_length=200, description="What is wanted")],
) -> list[LogEntryOut]:
    """What was put on for this ask last time, and how it came out."""
    row = machines.machine(session, machine)
    return [_out(entry, {row.name: row}) for entry in log.last_time(session, row.name, ask)]


@router.get("/file.csv", response_class=Response, responses=CSV)
def get_shop_log_file(session: InSession, machine: Machine = "", text: Words = "") -> Response:
    """The log as a table, the newest first."""
    found = log.entries(session, Wanted(machine, words=text), _MOST_IN_A_FILE)
    rows = [
        (e.row.at, e.row.by, e.row.kind, e.row.machine, e.row.ask, e.row.train, e.row.outcome, words.sentence(e.row),
         e.corrected.note if e.corrected else "")
        for e in found
    ]  # fmt: skip
    return csv_response(csv_text(_HEAD, rows), "log.csv")


@router.post("/done", status_code=201)
def add_done(typed: DoneIn, session: ToAdd) -> LogEntryOut:
    """Say that a piece of work is done, and how it came out."""
    row = machines.machine(session, typed.machine)
    for field in ("ask", "train", "note", "by"):
        check_name(getattr(typed, field), field)
    made = LogRow(
        at="", kind=LogKind.DONE, machine=row.name, ask=typed.ask, train=typed.train, outcome=typed.outcome or "",
        note=typed.note.strip(), by=typed.by.strip(),
    )  # fmt: skip
    return _out(Entry(log.add(session, made), None), {row.name: row})


@router.post("/notes", status_code=201)
def add_note(typed: NoteIn, session: ToAdd) -> LogEntryOut:
    """Add a note."""
    if not typed.note.strip():
        raise Refused("empty", "note", typed.note)
    check_name(typed.note, "note")
    made = LogRow(at="", kind=LogKind.NOTE, note=typed.note.strip(), by=check_name(typed.by, "by").strip())
    return _out(Entry(log.add(session, made), None), {})


@router.post("/{entry}/correction", status_code=201)
def add_correction(
    entry: Annotated[int, Path(ge=1, le=2**53, description="The entry's number")], typed: CorrectionIn, session: ToAdd
) -> CorrectionOut:
    """Strike an entry through, with a reason. It stays to be read."""
    if not typed.reason.strip():
        raise Refused("empty", "reason", typed.reason)
    check_name(typed.reason, "reason")
    row = LogRow(at="", note=typed.reason.strip(), by=check_name(typed.by, "by").strip())
    made = log.correct(session, entry, row)
    return CorrectionOut(at=made.at, by=made.by, reason=made.note)
