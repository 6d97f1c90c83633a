"""What is to be done in the shop: on which machine each is done, in which order least is changed, and how long that
took before."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from statistics import median
from typing import Any

from sqlalchemy.orm import Session

from valleywind.app.kinds import craft_of, machine_in, mounted_on, station_on
from valleywind.app.kinds.craft import ListedWay
from valleywind.app.reading import read_line
from valleywind.core import interrupt
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask_line import Station
from valleywind.core.trains.days_work import Choices, DaysWork, work_through
from valleywind.core.trains.effort import Place, Stands, What
from valleywind.shop import efforts, log, machines
from valleywind.shop import tasks as tasks_of_day
from valleywind.shop.models import MachineRow, TaskRow, TaskState
from valleywind.wording import day as words
from valleywind.wording import refusals
from valleywind.wording.day import PlaceNames
from valleywind.wording.numbers import Units

# How many of the newest known times are looked at.
_TIMES = 5


@dataclass(frozen=True)
class Line:
    """A line as it is read. ask: as typed, without the lathe that it names; station: what it is for; named: whether it
    names its machine itself."""

    ask: str
    station: Station
    machine: MachineRow | None
    named: bool


def read(session: Session, text: str) -> Line:
    """A line of what is to be done, with the machine that does it: the one that it names, else the one of its kind that
    was used last. Raises Refusal `task_not_read`, `no_such_machine_named`."""
    there = machines.machines(session)
    text, named = _named(text.strip(), there)
    reading = read_line(text, None, Units.MM)
    if not reading.whole:
        raise Refusal("task_not_read", "asks", text, says=reading.says or "")
    name = named.name if named else machine_in(reading.station, text)
    able = [row for row in there if does(row, reading.station)]
    if name:
        row = next((row for row in able if row.name.casefold() == name.casefold()), None)
        if row is None:
            raise Refusal("no_such_machine_named", "asks", name, text=text)
        return Line(text, reading.station, row, True)
    latest = log.latest_of(session, [row.id for row in able])
    usual = next((row for row in able if row.id == latest), next(iter(able), None))
    return Line(text, reading.station, usual, False)


def station_of(ask: str) -> Station:
    """What a line is for."""
    return read_line(ask, None, Units.MM).station


def does(row: MachineRow, station: Station) -> bool:
    """Whether a machine does what is asked at a station."""
    return station is station_on(row)


def _named(text: str, there: Sequence[MachineRow]) -> tuple[str, MachineRow | None]:
    """A lathe's ask names no machine itself: `M14x2 on Plover`."""
    ask, on, name = text.rpartition(" on ")
    row = next((row for row in there if row.lathe is not None and row.name.casefold() == name.strip().casefold()), None)
    return (ask.strip(), row) if on and row is not None else (text, None)


@dataclass(frozen=True)
class Estimate:
    """How long something took before. minutes: the median of those `times`; same: of this very thing on this machine,
    else of whatever was done on it."""

    minutes: int
    of: int
    same: bool


@dataclass(frozen=True)
class DayTurn:
    """One of the day, in its order. ask: in one spelling; work, changes: coming from the one before."""

    task: TaskRow
    ask: str
    shown: ListedWay
    work: str
    changes: list[str]
    estimate: Estimate | None


@dataclass(frozen=True)
class LeftOutTask:
    """Something that nothing is planned for, and why; the best there is, where something fits."""

    task: TaskRow
    says: str
    shown: ListedWay | None = None


@dataclass(frozen=True)
class MachineDay:
    """The day on one machine. says: what the order comes to; back: what putting back comes to, None where that is not
    wished; on: what is on the machine, as requests name it."""

    says: str
    put_on: int
    as_typed: int
    proven: bool
    turns: tuple[DayTurn, ...]
    back: str | None
    left_out: tuple[LeftOutTask, ...]
    on: str


def plan(session: Session, row: MachineRow, put_back: bool, units: Units) -> MachineDay:
    """The order in which least is changed on a machine, beginning with what is on it. What it is set up for comes
    first, what is put off comes last.

    Raises Refusal `plans_nothing`, `too_many_asks`, and what the machine lacks.
    """
    craft, tasks, mounted = craft_of(session, row), tasks_of_day.of_machine(session, row), mounted_on(row)
    left_out: list[LeftOutTask] = []
    some: list[tuple[TaskRow, Any, str]] = []
    wanted: list[Choices[Any]] = []
    for task in tasks:
        interrupt.checkpoint()
        try:
            ask, text = craft.read(task.ask)
            wanted.append(_held(craft.choices(ask), task.held))
        except Refusal as refused:
            why = refusals.say(refused)
            left_out.append(LeftOutTask(task, f"{why.says} {why.would_do}".strip()))
            continue
        some.append((task, ask, text))
    on = _with_holding(craft.on, tasks_of_day.held_now(session, row)) if craft.on is not None else None
    day = work_through(wanted, efforts.effort(row), on, put_back, _before([task for task, _, _ in some]))
    times = log.minutes(session, row)
    turns, last = [], PlaceNames()
    for turn in day.turns:
        task, ask, text = some[turn.ask]
        last = _holding_named(craft.place_names(ask, turn.candidate), task.held)
        turns.append(
            DayTurn(
                task, text, craft.entry(ask, turn.candidate, units), words.work_text(turn.change, last),
                words.changes(turn.change, last), _estimate(text, times),
            )
        )  # fmt: skip
    for place, best in day.left_out:
        task, ask, _ = some[place]
        shown = craft.entry(ask, best, units) if best is not None else None
        left_out.append(LeftOutTask(task, words.left_out(shown.head if shown else None), shown))
    return MachineDay(
        words.sentence(day), day.put_on, day.typed_put_on, day.proven, tuple(turns), _back(day, last),
        tuple(sorted(left_out, key=lambda one: one.task.id)), mounted.name if mounted else "",
    )  # fmt: skip


_HOLDING = Place(What.HOLDING)


def _with_holding(stands: Stands, held: str) -> Stands:
    """What stands on a machine, and what the work is held in; where nobody said, that may be anything."""
    return {**stands, _HOLDING: " ".join(held.casefold().split())} if held else stands


def _held(choices: Choices[Any], held: str) -> Choices[Any]:
    return replace(choices, ways=[replace(made, stands=_with_holding(made.stands, held)) for made in choices.ways])


def _holding_named(named: PlaceNames, held: str) -> PlaceNames:
    return replace(named, texts={**named.texts, _HOLDING: f"hold it in: {held}" if held else ""})


def _back(day: DaysWork[Any], named: PlaceNames) -> str | None:
    return words.work_text(day.back, named) if day.back is not None else None


def _before(tasks: Sequence[TaskRow]) -> list[tuple[int, int]]:
    """What comes before what: as was said; what the machine is set up for first; what is put off last, and behind it
    only what has to come after it."""
    place = {task.id: n for n, task in enumerate(tasks)}
    pairs = [(place[task.after], n) for n, task in enumerate(tasks) if task.after in place]
    begun = max((task for task in tasks if task.begun), key=lambda task: task.begun, default=None)
    if begun is not None and begun.after not in place:
        pairs += [(place[begun.id], n) for n, task in enumerate(tasks) if task is not begun]
    behind = {n: task.after for n, task in enumerate(tasks)}

    def waits_for(n: int, one: int) -> bool:
        for _ in tasks:
            before = place.get(behind[n] or 0)
            if before is None or before == one:
                return before == one
            n = before
        return False

    later = [n for n, task in enumerate(tasks) if task.state == TaskState.LATER]
    return pairs + [(n, one) for one in later for n in range(len(tasks)) if n not in later and not waits_for(n, one)]


def _estimate(ask: str, times: Sequence[tuple[str, int]]) -> Estimate | None:
    same = [minutes for done, minutes in times if done == ask][:_TIMES]
    known = same or [minutes for _, minutes in times]
    return Estimate(round(median(known)), len(known), bool(same)) if known else None
