"""The log of the shop: what was done, how it came out, and what was done last time."""

from datetime import date
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Path, Query, Response
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.access import LONG, InSession, ToAdd
from valleywind.api.drawn_files import attached, described
from valleywind.api.fields import small_picture
from valleywind.api.parameters import MOST_INITIALS, InUnits
from valleywind.api.problems import RESPONSES
from valleywind.api.tables import CSV, csv_response
from valleywind.app import doing
from valleywind.app.doing import WorkReport
from valleywind.app.kinds import planned_at
from valleywind.core.names import check_name
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH
from valleywind.core.trains.model import lacking
from valleywind.formats.tables import csv_text
from valleywind.shop import log, machines, photos
from valleywind.shop.log import Entry, LogFilter
from valleywind.shop.models import LogKind, LogRow, MachineRow, Outcome
from valleywind.wording import log as words
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/log", tags=["log"], responses=RESPONSES)

_MOST_AT_ONCE, _MOST_IN_A_FILE, _MOST_ON_PAPER, _MOST_CHANGES = 100, 20_000, 2_000, 5
_HEAD = ("at", "by", "kind", "machine", "ask", "train", "outcome", "text", "struck through because")
Initials = Annotated[str, Field(max_length=MOST_INITIALS, description="Initials of whoever says it; may be empty")]
Note = Annotated[str, Field(max_length=500, description="In one's own words")]


class CorrectionOut(BaseModel):
    at: str = Field(description="When, UTC")
    by: str = Field(description="Initials, if any")
    reason: str = Field(description="Why the entry is struck through, and what holds instead")


class LogEntryOut(BaseModel):
    id: int = Field(description="The entry's number")
    at: str = Field(description="When, UTC")
    by: str = Field(description="Initials, if any")
    kind: LogKind
    text: str = Field(description="What happened, in one sentence")
    machine: str = Field(description="The machine's name then; empty where it is about none")
    slug: str | None = Field(description="The machine's short name, where it is still there")
    station: str | None = Field(description="Kind of station that plans for it; null for none")
    job: int | None = Field(description="The job that it is about")
    ask: str = Field(description="What was wanted; empty where nothing was")
    train: str = Field(description="The set-up, as requests name it; empty where it is about none")
    train_text: str = Field(description="The set-up as people write it")
    outcome: Outcome | None = Field(description="How it came out, where somebody said so")
    photo: str = Field(description="Name of its photograph; empty where there is none")
    may_correct: bool = Field(description="Whether it may be struck through: not what was written by itself")
    correction: CorrectionOut | None = Field(description="What strikes it through; null where it stands")


class ChangedSince(BaseModel):
    at: str = Field(description="When, UTC")
    text: str = Field(description="What was changed, in a sentence")


class LastSetUpOut(BaseModel):
    """The set-up of last time, as it is now."""

    train: str = Field(description="As requests name it")
    text: str = Field(description="As people write it")
    at: str = Field(description="When it was put on or used, UTC")
    changed: list[ChangedSince] = Field(
        description="What was changed since that may make it another set-up, the newest first"
    )
    lacking: str | None = Field(description="Wheels of it that are not held now, in a sentence")


class LastTimeOut(BaseModel):
    entries: list[LogEntryOut] = Field(description="The newest first")
    as_then: LastSetUpOut | None = Field(description="Null where no set-up is known")


class DoneIn(BaseModel):
    machine: str = Field(description="Short name of the machine", max_length=80)
    ask: str = Field(description="What was done, as it was asked", max_length=200)
    train: str = Field("", description="With which set-up", max_length=200)
    outcome: Outcome | None = Field(None, description="How it came out; null where that is not said")
    pieces: int = Field(1, ge=1, le=100_000, description="How many")
    tried: Literal["", "nut", "gauge", "mate"] = Field("", description="What it was tried with")
    minutes: int | None = Field(None, ge=1, le=10_000, description="How long it took; null where nobody says")
    note: Note = ""
    by: Initials = ""


class NoteIn(BaseModel):
    note: Note
    by: Initials = ""


class CorrectionIn(BaseModel):
    reason: Note
    by: Initials = ""


Machines = dict[int, MachineRow]


def machines_there(session: Session) -> Machines:
    """The machines of the shop by their numbers."""
    return {row.id: row for row in machines.every(session)}


def entry_out(entry: Entry, there: Machines, units: Units) -> LogEntryOut:
    """An entry as it is answered."""
    row, struck = entry.row, entry.corrected
    machine = there.get(row.machine_id or 0)
    return LogEntryOut(
        id=row.id,
        at=row.at,
        by=row.by,
        kind=LogKind(row.kind),
        text=words.sentence(row, units),
        machine=row.machine,
        slug=machine.slug if machine else None,
        station=planned_at(machine) if machine else None,
        job=row.job_id,
        ask=row.ask,
        train=row.train,
        train_text=words.train_words(row.train),
        outcome=Outcome(row.outcome) if row.outcome else None,
        photo=_photo_of(row),
        may_correct=struck is None and row.kind not in log.BY_ITSELF,
        correction=CorrectionOut(at=struck.at, by=struck.by, reason=words.why_struck(struck)) if struck else None,
    )


def _photo_of(row: LogRow) -> str:
    """What came from elsewhere may name whatever it likes."""
    name = str(row.about.get("photo", ""))
    return name if row.kind == LogKind.NOTE and photos.is_name(name) else ""


_DAY = r"^(\d{4}-\d{2}-\d{2})?$"


def _filter(
    session: InSession,
    machine: Annotated[str, Query(max_length=80, description="Short name of the machine; empty for all")] = "",
    kind: Annotated[LogKind | None, Query(description="Of this kind alone")] = None,
    outcome: Annotated[Outcome | None, Query(description="That came out so")] = None,
    text: Annotated[str, Query(max_length=200, description="Words that stand in it")] = "",
    teeth: Annotated[
        int | None, Query(ge=FEWEST_TEETH, le=MOST_TEETH, description="A wheel of this many teeth stands in it")
    ] = None,
    job: Annotated[int | None, Query(ge=1, le=2**53, description="About this job")] = None,
    since: Annotated[str, Query(pattern=_DAY, description="From this day on", examples=["2026-03-01"])] = "",
    until: Annotated[str, Query(pattern=_DAY, description="Up to this day", examples=["2026-03-31"])] = "",
    entry: Annotated[int | None, Query(ge=1, le=2**53, description="This entry alone")] = None,
    before: Annotated[int | None, Query(ge=1, le=2**53, description="Older than this entry")] = None,
) -> LogFilter:
    row = machines.machine(session, machine) if machine else None
    for field, on in (("since", since), ("until", until)):
        _check_day(on, field)
    return LogFilter(row, kind, outcome, text, teeth, job, since, until, entry, before)


def _check_day(text: str, field: str) -> None:
    """Raises Refusal `no_such_day`."""
    try:
        if text:
            date.fromisoformat(text)
    except ValueError:
        raise Refusal("no_such_day", field, text) from None


IsWanted = Annotated[LogFilter, Depends(_filter)]


@router.get("")
def get_shop_log(wanted: IsWanted, session: InSession, units: InUnits = Units.MM) -> list[LogEntryOut]:
    """Entries of the log, the newest first, up to 100."""
    entries = log.entries(session, wanted, _MOST_AT_ONCE)
    there = machines_there(session)
    return [entry_out(entry, there, units) for entry in entries]


@router.get("/last")
def get_last_time(
    session: InSession,
    machine: Annotated[str, Query(max_length=80, description="Short name of the machine")],
    ask: Annotated[str, Query(max_length=200, description="What is wanted")],
    units: InUnits = Units.MM,
) -> LastTimeOut:
    """What was put on, measured and done for this ask last time, and what was changed since."""
    row = machines.machine(session, machine)
    entries = log.last_time(session, row, ask)
    with_train = next((entry.row for entry in entries if entry.row.train), None)
    return LastTimeOut(
        entries=[entry_out(entry, {row.id: row}, units) for entry in entries],
        as_then=_as_then(session, row, with_train, units) if with_train else None,
    )


def _as_then(session: Session, row: MachineRow, entry: LogRow, units: Units) -> LastSetUpOut:
    teeth = log.teeth_of(entry.train)
    changed = log.changed_since(session, entry, teeth)[:_MOST_CHANGES]
    short = sorted(lacking(teeth, machines.stock(row)))
    return LastSetUpOut(
        train=entry.train,
        text=words.train_words(entry.train),
        at=entry.at,
        changed=[ChangedSince(at=one.at, text=words.sentence(one, units)) for one in changed],
        lacking=words.lacking(short) if short else None,
    )


@router.get("/file.csv", response_class=Response, responses=CSV)
def get_shop_log_file(wanted: IsWanted, session: InSession, units: InUnits = Units.MM) -> Response:
    """The log as a table, the newest first."""
    rows = [
        (e.row.at, e.row.by, e.row.kind, e.row.machine, e.row.ask, e.row.train, e.row.outcome,
         words.sentence(e.row, units), e.corrected.note if e.corrected else "")
        for e in log.entries(session, wanted, _MOST_IN_A_FILE)
    ]  # fmt: skip
    return csv_response(csv_text(_HEAD, rows), "log.csv")


@router.get("/file.pdf", dependencies=[LONG], response_class=Response, responses=described("pdf"))
def get_shop_log_pdf(wanted: IsWanted, session: InSession, units: InUnits = Units.MM) -> Response:
    """The log on paper, the newest first, up to 2000 entries."""
    from valleywind.formats.log_pdf import LogLine, log_pdf  # loaded when one is first asked for

    entries = log.entries(session, wanted, _MOST_ON_PAPER)
    lines = [
        LogLine(
            words.day(e.row.at), words.time(e.row.at),
            f"{words.sentence(e.row, units)}{f' {e.row.by}' if e.row.by else ''}",
            words.why_struck(e.corrected) if e.corrected else "",
        )
        for e in entries
    ]  # fmt: skip
    title = words.title(wanted.machine.name if wanted.machine else "")
    rest = log.how_many(session, wanted) - len(entries)
    return attached(
        log_pdf(title, words.range_text(wanted.since, wanted.until, len(entries), rest), lines), "pdf", title
    )


@router.post("/photos", status_code=201, dependencies=[LONG])
def add_log_photo(
    photo: Annotated[bytes, Depends(small_picture)],  # before the session: nothing is decoded while others wait
    session: ToAdd,
    machine: Annotated[str, Query(max_length=80, description="Short name of the machine; empty for none")] = "",
    ask: Annotated[str, Query(max_length=200, description="What was made; empty for nothing in particular")] = "",
    train: Annotated[str, Query(max_length=200, description="With which set-up")] = "",
    note: Annotated[str, Query(max_length=500, description="In one's own words")] = "",
    by: Annotated[str, Query(max_length=MOST_INITIALS, description="Initials; may be empty")] = "",
    units: InUnits = Units.MM,
) -> LogEntryOut:
    """Add a photograph, with a note, of what was made or found."""
    row = machines.machine(session, machine) if machine else None
    for field, typed in (("ask", ask), ("train", train), ("note", note), ("by", by)):
        check_name(typed, field)
    made = LogRow(
        at="", kind=LogKind.NOTE, machine=row.name if row else "", machine_id=row.id if row else None, ask=ask,
        train=train, note=note.strip(), by=by.strip(), about={"photo": photos.keep(session, photo)},
    )  # fmt: skip
    return entry_out(Entry(log.add(session, made), None), {row.id: row} if row else {}, units)


@router.post("/done", status_code=201)
def add_done(typed: DoneIn, session: ToAdd, units: InUnits = Units.MM) -> LogEntryOut:
    """Say that a piece of work is done, and how it came out."""
    row = machines.machine(session, typed.machine)
    made = doing.add(session, row, WorkReport(**typed.model_dump(exclude={"machine"})))
    return entry_out(Entry(made, None), {row.id: row}, units)


@router.post("/notes", status_code=201)
def add_note(typed: NoteIn, session: ToAdd) -> LogEntryOut:
    """Add a note."""
    if not typed.note.strip():
        raise Refusal("empty", "note", typed.note)
    check_name(typed.note, "note")
    made = LogRow(at="", kind=LogKind.NOTE, note=typed.note.strip(), by=check_name(typed.by, "by").strip())
    return entry_out(Entry(log.add(session, made), None), {}, Units.MM)


@router.post("/{entry}/correction", status_code=201)
def add_correction(
    entry: Annotated[int, Path(ge=1, le=2**53, description="The entry's number")], typed: CorrectionIn, session: ToAdd
) -> CorrectionOut:
    """Strike an entry through, with a reason. It stays to be read."""
    if not typed.reason.strip():
        raise Refusal("empty", "reason", typed.reason)
    check_name(typed.reason, "reason")
    row = LogRow(at="", note=typed.reason.strip(), by=check_name(typed.by, "by").strip())
    made = log.correct(session, entry, row)
    return CorrectionOut(at=made.at, by=made.by, reason=made.note)
