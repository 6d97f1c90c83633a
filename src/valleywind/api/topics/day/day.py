"""The day's list: what is to be done, and how it stands with each."""

from dataclasses import replace
from typing import Annotated, Literal

from fastapi import APIRouter, Path, Query
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from valleywind.api.access import LONG, InSession, ToWrite
from valleywind.api.parameters import MOST_INITIALS, InUnits, Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.day.answers import (
    JobsDayOut,
    MachineDayOut,
    TaskOut,
    ToDoOut,
    jobs_day_out,
    machine_day_out,
    to_do,
)
from valleywind.api.versions import check_text
from valleywind.app import day, day_jobs, doing
from valleywind.app.doing import WorkReport
from valleywind.app.kinds import mounting
from valleywind.core.names import check_name
from valleywind.core.refusal import Refusal
from valleywind.shop import machines, tasks
from valleywind.shop.models import MachineRow, Outcome, TaskRow, TaskState
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/day", tags=["day"], responses=RESPONSES)

Number = Annotated[int, Path(ge=1, le=2**53, description="The number of what is to be done")]
_MOST_MINUTES = 10_000


class TasksIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"asks": ["M14x2", "hob 37"]}]})

    asks: list[Annotated[str, Field(max_length=200)]] = Field(
        description="What is to be done, one each; a machine may be named: M14x2 on Plover",
        min_length=1, max_length=tasks.MOST_TASKS,
    )  # fmt: skip
    machine: str = Field("", description="Short name of the machine where a line names none; empty for the usual one",
                         max_length=80)  # fmt: skip


class TaskIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"machine": "plover", "state": "later"}]})

    machine: str | None = Field(
        description="Short name of the machine that it is done on; null for none", max_length=80
    )
    after: int | None = Field(None, ge=1, le=2**53, description="What has to come before it; null for nothing")
    state: Literal["open", "later", "skipped"] = Field(
        "open", description="Later: after all others; skipped: not today"
    )
    held: str | None = Field(
        None, max_length=80, description="What the work is held in, empty for not said; left out: as it was"
    )


class FittedIn(BaseModel):
    train: str = Field(description="The set-up that is on now, as requests name it; empty where none is put on",
                       max_length=200)  # fmt: skip
    seen: str | None = Field(None, description="What was on when this was asked, empty for bare", max_length=200)


class TaskDoneIn(BaseModel):
    train: str = Field("", description="With which set-up", max_length=200)
    outcome: Outcome | None = Field(None, description="How it came out; null where that is not said")
    pieces: int = Field(1, ge=1, le=100_000, description="How many")
    tried: Literal["", "nut", "gauge", "mate"] = Field("", description="What it was tried with")
    minutes: int | None = Field(
        None, ge=1, le=_MOST_MINUTES,
        description="How long it took; null: counted since the machine was set up for it, where that is not long ago",
    )  # fmt: skip
    note: str = Field("", max_length=500, description="In one's own words")
    by: str = Field("", max_length=MOST_INITIALS, description="Initials of whoever says it; may be empty")


@router.get("")
def get_to_do(session: InSession) -> ToDoOut:
    """All that is to be done, as it was typed, and the machines that do it."""
    return to_do(session)


@router.post("", status_code=201)
def add_tasks(typed: TasksIn, session: ToWrite) -> list[TaskOut]:
    """Add to what is to be done."""
    usual = machines.machine(session, typed.machine) if typed.machine else None
    wanted: list[tuple[str, MachineRow | None]] = []
    for text in typed.asks:
        line = day.read(session, check_name(text, "asks"))
        serves = usual is not None and line.named is False and day.does(usual, line.station)
        wanted.append((line.ask, usual if serves else line.machine))
    added = {row.id for row in tasks.add(session, wanted)}
    return [one for one in to_do(session).tasks if one.id in added]


@router.delete("/done")
def clear_done(session: ToWrite) -> ToDoOut:
    """Take off the list what is done; answers what is left. It stays in the log."""
    tasks.clear(session)
    return to_do(session)


@router.put("/{task}")
def put_task(task: Number, typed: TaskIn, session: ToWrite) -> TaskOut:
    """Say on which machine it is done, what comes before it, and whether it is for later."""
    row = tasks.task(session, task)
    on = machines.machine(session, typed.machine) if typed.machine else None
    if on is not None and not day.does(on, day.read(session, row.ask).station):
        raise Refusal("machine_does_not", "machine", on.name, ask=row.ask)
    held = check_name(typed.held, "held") if typed.held is not None else None
    tasks.edit(session, row, on, typed.after, TaskState(typed.state), held)
    return _one(session, row)


@router.delete("/{task}")
def delete_task(task: Number, session: ToWrite) -> ToDoOut:
    """Take one off the list; answers what is left."""
    tasks.delete(session, tasks.task(session, task))
    return to_do(session)


@router.post("/{task}/fitted")
def post_fitted(task: Number, typed: FittedIn, session: ToWrite) -> TaskOut:
    """The machine is set up for it now: what is on is recorded, and the time begins."""
    row = tasks.task(session, task)
    on = _machine_of(session, row)
    if typed.train and on is not None:
        set_up = mounting(on, typed.train)
        check_text(typed.seen, "train", set_up.name, set_up.before)
        set_up.put(session, row.ask)
    tasks.begin(row)
    session.flush()
    return _one(session, row)


@router.post("/{task}/done")
def post_task_done(task: Number, typed: TaskDoneIn, session: ToWrite) -> TaskOut:
    """It is done, and how it came out: it goes into the log."""
    row = tasks.task(session, task)
    on = _machine_of(session, row)
    ask = mounting(on, None).spell(row.ask) if on is not None and typed.train else row.ask
    report = WorkReport(ask=ask, **typed.model_dump())
    entry = doing.add(session, on, replace(report, minutes=report.minutes or tasks.minutes_since(row)))
    tasks.finish(session, row, entry.id)
    return _one(session, row)


@router.get("/machines/{machine}", dependencies=[LONG])
def get_machine_day(
    machine: Slug,
    session: InSession,
    put_back: Annotated[bool, Query(description="What is on now is to be on at the end")] = False,
    units: InUnits = Units.MM,
) -> MachineDayOut:
    """The order in which least is changed on a machine, with the set-up of each."""
    return machine_day_out(day.plan(session, machines.machine(session, machine), put_back, units))


@router.get("/jobs", dependencies=[LONG])
def get_jobs_day(session: InSession, units: InUnits = Units.MM) -> JobsDayOut:
    """The wheels that are being made, in the order in which cutter, plate and holding change least."""
    return jobs_day_out(day_jobs.plan(session, units))


def _machine_of(session: Session, row: TaskRow) -> MachineRow | None:
    return next((one for one in machines.every(session) if one.id == row.machine_id), None)


def _one(session: Session, row: TaskRow) -> TaskOut:
    return next(one for one in to_do(session).tasks if one.id == row.id)
