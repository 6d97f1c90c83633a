"""What a file has beside what a shop has, in the words of the file: a thing is new, the same, or different."""

import json
from collections import Counter
from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum
from typing import Any, TypeVar

from sqlalchemy.orm import Session

from valleywind.app.file_export import NAMED, file_of
from valleywind.core.refusal import Refusal
from valleywind.formats.shop_file import (
    FileBar,
    FileCutter,
    FileJob,
    FileLogEntry,
    FileMachine,
    FileShop,
    FileTask,
    FileWheel,
)


class Beside(StrEnum):
    """How a thing of a file stands to the shop."""

    NEW = "new"
    SAME = "same"
    DIFFERENT = "different"


class Choice(StrEnum):
    """What is done with it: MINE, as it is here, and what is new is left out; THEIRS; or BOTH are kept."""

    MINE = "mine"
    THEIRS = "theirs"
    BOTH = "both"


@dataclass(frozen=True)
class Item:
    """A thing of a file. kind: family, machine, wheel, cutter, bar, job, log, task; name: of a family or machine;
    about: what its words need; key: by which a choice names it; choices: what may be done with it, the usual one
    first."""

    kind: str
    key: str
    standing: Beside
    about: Mapping[str, Any] = field(default_factory=dict)

    @property
    def choices(self) -> tuple[Choice, ...]:
        match self.standing:
            case Beside.NEW:
                return (Choice.THEIRS, Choice.MINE)
            case Beside.SAME:
                return (Choice.MINE,)
            case Beside.DIFFERENT if self.kind in ("family", "machine"):
                return (Choice.MINE, Choice.THEIRS, Choice.BOTH)
            case Beside.DIFFERENT if self.about.get("cutting"):
                # What is being cut here is never replaced.
                return (Choice.MINE,)
        return (Choice.MINE, Choice.THEIRS)


Choices = Mapping[str, Choice]
Pile = TypeVar("Pile", FileWheel, FileCutter, FileBar)


def look(session: Session, theirs: FileShop) -> list[Item]:
    """What a file has, beside what is here. Raises Refusal `shop_file_damaged` (file) where names lead
    nowhere."""
    check_names(theirs)
    mine, _ = file_of(session)
    return [item for item, _ in compare(mine, theirs)]


def check_names(shop: FileShop) -> None:
    """Everything that is named is there, once. Raises Refusal."""
    families, short = [f.name for f in shop.families], [m.short_name for m in shop.machines]
    said_families = {*(m.family for m in shop.machines), *(w.family for w in shop.wheels)} - {None}
    said_machines = {*(w.machine for w in shop.wheels)} - {None}
    entries = range(len(shop.log))
    sound = (
        _once(families)
        and _once(short)
        and _once([m.name for m in shop.machines])
        and said_families <= set(families)
        and said_machines <= set(short)
        and all(e.job is None or e.job < len(shop.jobs) for e in shop.log)
        and all(e.corrects is None or e.corrects < n for n, e in zip(entries, shop.log, strict=True))
        and all(t.machine is None or t.machine in short for t in shop.tasks)
        and all(t.after is None or t.after < len(shop.tasks) for t in shop.tasks)
        and all(_ends(shop.tasks, n) for n in range(len(shop.tasks)))
        and all(t.entry is None or t.entry < len(shop.log) for t in shop.tasks)
    )
    if not sound:
        raise Refusal("shop_file_damaged", "file", "names")


def _once(names: Sequence[str]) -> bool:
    return len(set(names)) == len(names)


def _ends(tasks: Sequence[FileTask], n: int) -> bool:
    """Whether what has to come before something does not have to come after it."""
    before = tasks[n].after
    for _ in tasks:
        if before is None or before == n:
            return before is None
        before = tasks[before].after
    return False


def compare(mine: FileShop, theirs: FileShop) -> Iterator[tuple[Item, Any]]:
    """Each thing of a file with its standing, in the order in which they are taken in."""
    families = {f.name: f for f in mine.families}
    for f in theirs.families:
        yield Item("family", f"family {f.name}", _stands(families.get(f.name), f), {"name": f.name}), f
    own = {m.name: _whole(mine, m) for m in mine.machines}
    for m in theirs.machines:
        whole = _whole(theirs, m)
        about = {
            "name": m.name,
            "kind": m.kind,
            "wheels": sum(w.count for w in theirs.wheels if w.machine == m.short_name),
        }
        yield Item("machine", f"machine {m.name}", _stands(own.get(m.name), whole), about), m
    yield from _piles("wheel", _loose(mine), _loose(theirs))
    yield from _piles("cutter", mine.cutters, theirs.cutters)
    yield from _piles("bar", mine.bars, theirs.bars)
    of_jobs = {(j.teeth, j.begun): _carried(j) for j in mine.jobs}
    for n, j in enumerate(theirs.jobs):
        there = of_jobs.get((j.teeth, j.begun))
        about = {"teeth": j.teeth, "begun": j.begun, "cutting": there is not None and there.session is not None}
        standing = _stands(there, _carried(j))
        yield Item("job", f"job {n}", standing, about), (n, j)
    known = Counter(entry_key(e) for e in mine.log)
    fresh = [n for n, e in enumerate(theirs.log) if not known[entry_key(e)]]
    if theirs.log:
        about = {"new": len(fresh), "all": len(theirs.log)}
        yield Item("log", "log", Beside.NEW if fresh else Beside.SAME, about), fresh
    if theirs.tasks:
        left = Counter(task_key(t) for t in mine.tasks)
        new = []
        for n, t in enumerate(theirs.tasks):
            if left[task_key(t)]:
                left[task_key(t)] -= 1
            else:
                new.append(n)
        about = {"new": len(new), "all": len(theirs.tasks)}
        yield Item("task", "tasks", Beside.NEW if new else Beside.SAME, about), new


def _stands(mine: object, theirs: object) -> Beside:
    return Beside.NEW if mine is None else Beside.SAME if mine == theirs else Beside.DIFFERENT


def _whole(shop: FileShop, machine: FileMachine) -> tuple[FileMachine, list[str]]:
    """A machine with its wheels, whatever it is called in addresses."""
    wheels = [
        w.model_copy(update={"machine": None}).model_dump_json() for w in shop.wheels if w.machine == machine.short_name
    ]
    return machine.model_copy(update={"short_name": ""}), sorted(wheels)


def _loose(shop: FileShop) -> list[FileWheel]:
    return [w for w in shop.wheels if w.machine is None]


def _piles(kind: str, mine: Sequence[Pile], theirs: Sequence[Pile]) -> Iterator[tuple[Item, Pile]]:
    """Things that have no name: alike but for how many there are, they are the same pile."""
    left: dict[str, list[Pile]] = {}
    for one in mine:
        left.setdefault(_alike(one), []).append(one)
    for n, one in enumerate(theirs):
        there = left.get(_alike(one))
        standing = _stands(there.pop(0) if there else None, one)
        yield Item(kind, f"{kind} {n}", standing, one.model_dump(mode="json")), one


def _alike(one: FileWheel | FileCutter | FileBar) -> str:
    return one.model_copy(
        update={"count": 0, "note": ""} if not isinstance(one, FileBar) else {"note": ""}
    ).model_dump_json()


def _carried(job: FileJob) -> FileJob:
    """A job but for the places in lists, which differ from file to file."""
    bare = {**job.typed, **dict.fromkeys(NAMED)}
    events = [
        e.model_copy(update={"about": {**e.about, "typed": None}}) if "typed" in e.about else e for e in job.events
    ]
    return job.model_copy(update={"typed": bare, "events": events})


def task_key(task: FileTask) -> str:
    """What is to be done, whichever shop it is to be done in."""
    return json.dumps([task.ask, task.machine, task.state, task.begun, task.done])


def entry_key(entry: FileLogEntry) -> str:
    """What an entry says, whichever shop it stands in: two that say the same are one."""
    return json.dumps([entry.at, entry.by, entry.kind, entry.machine, entry.ask, entry.train, entry.outcome, entry.note,
                       entry.code, entry.about], sort_keys=True)  # fmt: skip
