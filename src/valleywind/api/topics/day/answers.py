"""What the Day station is answered."""

from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.pieces import StageOut, stages_of
from valleywind.app import day, day_jobs
from valleywind.app.day import DayTurn, Estimate, LeftOutTask, MachineDay
from valleywind.app.kinds import station_on
from valleywind.app.kinds.craft import ListedWay
from valleywind.app.merits import Merit
from valleywind.core.teeth.ask_line import Station
from valleywind.shop import machines, tasks
from valleywind.shop.models import MachineRow, TaskRow, TaskState
from valleywind.wording import day as words
from valleywind.wording import refusals


class TaskOut(BaseModel):
    """Something that is to be done."""

    id: int = Field(description="Its number")
    ask: str = Field(description="As it was typed", examples=["M14x2"])
    station: Station = Field(description="Kind of work")
    machine: str | None = Field(description="Short name of the machine that it is done on; null for none")
    machine_name: str = Field(description="What that is called; empty for none")
    may_be_on: list[str] = Field(description="Short names of the machines that could do it")
    after: int | None = Field(description="The number of what has to come before it")
    state: TaskState = Field(description="How it stands with it")
    begun: str = Field(description="When the machine was set up for it, UTC; empty where it is not")
    done: str = Field(description="When it was done, UTC; empty where it is not")
    entry: int | None = Field(description="Number of its entry in the log")
    held: str = Field(description="What the work is held in; empty where nobody said", examples=["4-jaw chuck"])


class MachineToDoOut(BaseModel):
    """A machine with something to be done on it today."""

    slug: str = Field(description="Short name")
    name: str
    station: Station = Field(description="The station that plans for it")
    left: int = Field(description="How many are still to be done today")


class ToDoOut(BaseModel):
    tasks: list[TaskOut] = Field(description="In the order in which they were typed")
    machines: list[MachineToDoOut]
    names: dict[str, str] = Field(description="Names of the machines by their short names")


class WayOfDayOut(BaseModel):
    """A set-up as the day's list shows it."""

    train: str = Field(description="As requests name it; empty where none is put on", examples=["76/66*32/78"])
    merit: Merit = Field(description="How well it does for what is wanted")
    head: str = Field(examples=["Nut runs free"])
    error: str = Field(examples=["−0.0052 %"])
    boxes: list["DayBoxOut"] = Field(description="Each train with its box")
    levers: str = Field(description="Levers, pair, feed, or how it is divided; may be empty")


class DayBoxOut(BaseModel):
    name: str = Field(description="Empty for the only one", examples=["Index"])
    stages: list[StageOut]


class EstimateOut(BaseModel):
    minutes: int = Field(description="The middle of the times that are known")
    text: str = Field(examples=["about 25 min, as the last 3 times"])


class DayTurnOut(BaseModel):
    """One of the day, in its order."""

    task: int = Field(description="Its number")
    ask: str = Field(description="The ask in one spelling")
    way: WayOfDayOut = Field(description="How it is made")
    work: str = Field(description="What there is to do, coming from the one before", examples=["keep 3, change 1"])
    changes: list[str] = Field(
        description="What changes, place by place", examples=[["stud, inner place: 40 for the 52"]]
    )
    estimate: EstimateOut | None = Field(description="How long it took before; null where nobody said")


class LeftOutTaskOut(BaseModel):
    """What nothing is planned for."""

    task: int = Field(description="Its number")
    ask: str = Field(description="As it was typed")
    says: str = Field(description="Why")
    way: WayOfDayOut | None = Field(description="The best there is, where something fits")


class MachineDayOut(BaseModel):
    says: str = Field(description="What the order comes to")
    put_on: int = Field(description="Wheels put on in all")
    as_typed: int = Field(description="Wheels put on in the order as typed")
    proven: bool = Field(description="No order of what fits is less work")
    turns: list[DayTurnOut]
    back: str | None = Field(description="What putting back comes to; null where it is not wished")
    left_out: list[LeftOutTaskOut]
    on: str = Field(description="What is on the machine, as requests name it; empty for bare")


class JobTurnOut(BaseModel):
    """A wheel that is being made, in its order."""

    job: int = Field(description="Its number")
    title: str
    changes: list[str] = Field(description="Cutter, plate and holding, coming from the one before")
    source: str = Field(description="What it is cut from; empty where that is taken already, or nothing serves")
    chosen: bool = Field(description="Somebody chose that for it")


class LeftOutJobOut(BaseModel):
    job: int = Field(description="Its number")
    title: str
    says: str = Field(description="What its figures lack")


class JobsDayOut(BaseModel):
    says: str = Field(description="How often something is changed")
    sharing: str = Field(description="What the sharing out of bar and spare wheels comes to; may be empty")
    turns: list[JobTurnOut]
    left_out: list[LeftOutJobOut]


def to_do(session: Session) -> ToDoOut:
    """The list, with the machines that have something on it."""
    there = machines.machines(session)
    rows = tasks.every(session)
    shown = [_task(row, there) for row in rows]
    return ToDoOut(
        tasks=shown,
        machines=[
            MachineToDoOut(slug=row.slug, name=row.name, station=station, left=len(left))
            for row in there
            if (left := tasks.of_machine(session, row)) and (station := station_on(row)) is not None
        ],
        names={row.slug: row.name for row in there},
    )


def _task(row: TaskRow, there: list[MachineRow]) -> TaskOut:
    station = day.station_of(row.ask)
    on = next((one for one in there if one.id == row.machine_id), None)
    return TaskOut(
        id=row.id, ask=row.ask, station=station, machine=on.slug if on else None,
        machine_name=on.name if on else "", may_be_on=[one.slug for one in there if day.does(one, station)],
        after=row.after, state=TaskState(row.state), begun=row.begun, done=row.done, entry=row.entry,
        held=row.held,
    )  # fmt: skip


def _way(shown: ListedWay) -> WayOfDayOut:
    boxes = [DayBoxOut(name=name, stages=stages_of(train)) for name, train in shown.boxes]
    return WayOfDayOut(
        train=shown.train, merit=shown.merit, head=shown.head, error=shown.error, boxes=boxes, levers=shown.levers
    )


def _turn(turn: DayTurn) -> DayTurnOut:
    return DayTurnOut(
        task=turn.task.id, ask=turn.ask, way=_way(turn.shown), work=turn.work, changes=turn.changes,
        estimate=_estimate(turn.estimate) if turn.estimate else None,
    )  # fmt: skip


def _estimate(known: Estimate) -> EstimateOut:
    return EstimateOut(minutes=known.minutes, text=words.estimate(known.minutes, known.of, known.same))


def _left_out(one: LeftOutTask) -> LeftOutTaskOut:
    return LeftOutTaskOut(task=one.task.id, ask=one.task.ask, says=one.says, way=_way(one.shown) if one.shown else None)


def machine_day_out(day: MachineDay) -> MachineDayOut:
    """The day on one machine as it is answered."""
    return MachineDayOut(
        says=day.says, put_on=day.put_on, as_typed=day.as_typed, proven=day.proven,
        turns=[_turn(turn) for turn in day.turns], back=day.back,
        left_out=[_left_out(one) for one in day.left_out], on=day.on,
    )  # fmt: skip


def jobs_day_out(day: day_jobs.JobsDay) -> JobsDayOut:
    """The wheels that are being made as they are answered."""
    left = [
        LeftOutJobOut(job=row.id, title=title, says=refusals.say(refused).says) for row, title, refused in day.left_out
    ]
    turns = [
        JobTurnOut(job=t.job.id, title=t.title, changes=t.changes, source=t.source, chosen=t.chosen) for t in day.turns
    ]
    return JobsDayOut(says=day.says, sharing=day.sharing, turns=turns, left_out=left)
