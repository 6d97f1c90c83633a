"""A machine's book, out of the log: its readings, the set-ups in use, pins; and the page of today."""

from typing import Annotated

from fastapi import APIRouter, Path
from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.access import InSession, ToWrite
from valleywind.api.parameters import InUnits, Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.shop.log import LogEntryOut, entry_out, machines_there
from valleywind.app import book
from valleywind.app.kinds import mounted_on, planned_at
from valleywind.core.names import check_name
from valleywind.core.units import spell
from valleywind.shop import log, machines, rack
from valleywind.shop.log import LogFilter
from valleywind.shop.models import LogKind, MachineRow
from valleywind.wording import log as words
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/log", tags=["log"], responses=RESPONSES)

_MOST_SET_UPS, _MOST_WHEELS, _MOST_DONE = 12, 20, 5


class SetUpInUse(BaseModel):
    ask: str = Field(description="What it was put on for; empty where that was not said")
    train: str = Field(description="As requests name it")
    text: str = Field(description="As people write it")
    times: int = Field(description="How often it was put on")
    last: str = Field(description="When last, UTC; empty for never")
    pin: int | None = Field(description="Number of its pin; null where it is not pinned")


class LeadReadingOut(BaseModel):
    at: str = Field(description="When, UTC")
    entry: int = Field(description="Number of its entry in the log")
    text: str = Field(description="What was measured, in a sentence")
    ppm: float = Field(description="How much longer the lead was than wanted, parts per million")
    off_ppm: float = Field(description="By how much that may be off")
    left_out: bool = Field(description="Struck through, explained by a slip, or apart from the others")


class WheelUse(BaseModel):
    teeth: int
    times: int = Field(description="How often it was put on")


class BookOut(BaseModel):
    machine: str = Field(description="The machine's name")
    set_ups: list[SetUpInUse] = Field(description="Pinned ones first, then the most used")
    wheels: list[WheelUse] = Field(description="The most used first")
    readings: list[LeadReadingOut] = Field(description="Readings of its lead, the oldest first")
    says: str = Field(description="What they say together")
    ppm: float | None = Field(description="How far the lead is off by all of them together; null for too few")
    off_ppm: float | None = Field(description="By how much that may be off")
    screw: str | None = Field(description="The screw’s lead as measured, where it differs from the record")


class PinIn(BaseModel):
    machine: str = Field(description="Short name of the machine", max_length=80)
    ask: str = Field(description="What it is for", max_length=200)
    train: str = Field(description="The set-up, as the log names it", max_length=200)


class MachineToday(BaseModel):
    slug: str
    name: str
    station: str = Field(description="Kind of station that plans for it")
    train: str = Field(description="What is on, as requests name it; empty where it is bare")
    text: str = Field(description="The same as people write it")
    since: str = Field(description="Since when, UTC; empty where that is not known")
    ask: str = Field(description="What it was put on for; empty where that is not known")


class PinOut(BaseModel):
    id: int = Field(description="The pin’s number")
    slug: str = Field(description="Short name of its machine")
    machine: str = Field(description="Its machine’s name")
    station: str = Field(description="Kind of station that plans for it")
    ask: str = Field(description="What it is for")
    train: str = Field(description="As requests name it")
    text: str = Field(description="As people write it")


class MissingOut(BaseModel):
    machine: str = Field(description="The machine’s name")
    teeth: list[int] = Field(description="Wheels that it is known to lack")


class TodayOut(BaseModel):
    machines: list[MachineToday]
    pins: list[PinOut] = Field(description="Set-ups that are kept at hand")
    missing: list[MissingOut] = Field(description="Wheels to be made or bought, by machine")
    done: list[LogEntryOut] = Field(description="What was done last, the newest first")


@router.get("/book/{machine}")
def get_book(machine: Slug, session: InSession, units: InUnits = Units.MM) -> BookOut:
    """What the log says of one machine."""
    row = machines.machine(session, machine)
    used = log.set_up_uses(session, row)
    read, lead = book.readings(session, row)
    screw = row.lathe is not None and lead is not None and lead.says
    return BookOut(
        machine=row.name,
        set_ups=[
            SetUpInUse(ask=s.ask, train=s.train, text=words.train_words(s.train), times=s.times, last=s.last, pin=s.pin)
            for s in book.set_ups(row, used)[:_MOST_SET_UPS]
        ],
        wheels=[WheelUse(teeth=teeth, times=times) for teeth, times in log.wheel_uses(used)[:_MOST_WHEELS]],
        readings=[
            LeadReadingOut(
                at=one.entry.row.at, entry=one.entry.row.id, text=words.sentence(one.entry.row, units),
                ppm=one.relative * 1e6, off_ppm=one.off * 1e6, left_out=one.left_out,
            )
            for one in read
        ],
        says=words.readings_text(lead, len(read), sum(one.left_out for one in read)),
        ppm=lead.relative * 1e6 if lead else None,
        off_ppm=lead.off * 1e6 if lead else None,
        screw=f"{spell(book.measured_screw(row, lead))} mm" if screw and lead else None,
    )  # fmt: skip


@router.post("/book/{machine}/screw")
def take_measured_screw(machine: Slug, session: ToWrite) -> None:
    """Put the lead that the readings say into the lathe's record."""
    book.take_over(session, machines.machine(session, machine))


@router.post("/pins", status_code=201)
def add_pin(typed: PinIn, session: ToWrite) -> None:
    """Keep a set-up at hand."""
    row = machines.machine(session, typed.machine)
    book.pin(session, row, check_name(typed.ask, "ask"), check_name(typed.train, "train"))


@router.delete("/pins/{pin}")
def delete_pin(pin: Annotated[int, Path(ge=1, le=2**53, description="The pin's number")], session: ToWrite) -> None:
    """Keep it at hand no longer."""
    book.unpin(session, pin)


@router.get("/today")
def get_today(session: InSession, units: InUnits = Units.MM) -> TodayOut:
    """What is on each machine and since when, what is pinned, what was done last."""
    there = machines_there(session)
    planned = [row for row in there.values() if planned_at(row) and not row.archived]
    done = log.entries(session, LogFilter(kind=LogKind.DONE), _MOST_DONE)
    return TodayOut(
        machines=[_today(session, row) for row in planned],
        pins=[
            PinOut(
                id=pin.id, slug=row.slug, machine=row.name, station=row.kind, ask=pin.ask, train=pin.train,
                text=words.train_words(pin.train),
            )
            for row in planned for pin in row.pins
        ],
        missing=[
            MissingOut(machine=there[number].name, teeth=teeth)
            for number, teeth in rack.missing(session).items() if number in there and not there[number].archived
        ],
        done=[entry_out(entry, there, units) for entry in done],
    )  # fmt: skip


def _today(session: Session, row: MachineRow) -> MachineToday:
    on, since = mounted_on(row), log.on_since(session, row)
    # What stands in the log is not what is on where that was recorded some other way.
    known = since if on and since and since.train == on.name else None
    return MachineToday(
        slug=row.slug, name=row.name, station=planned_at(row) or "", train=on.name if on else "",
        text=on.text if on else "", since=known.at if known else "", ask=known.ask if known else "",
    )  # fmt: skip
