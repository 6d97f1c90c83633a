"""What is to be done in the shop: a list, typed as it comes, and how it stands with each."""

from collections.abc import Sequence
from datetime import UTC, datetime, timedelta

from sqlalchemy import func, select
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.shop import changes
from valleywind.shop.log import DONE
from valleywind.shop.models import MachineRow, TaskRow, TaskState

MOST_TASKS = 200
MOST_MINUTES = 600
"""What has taken longer was not worked on all the time."""


def every(session: Session) -> list[TaskRow]:
    """All of them, in the order in which they were typed."""
    return list(session.scalars(select(TaskRow).order_by(TaskRow.id)))


def of_machine(session: Session, row: MachineRow) -> list[TaskRow]:
    """What is still to be done today on a machine: in the order as typed, what is put off until later at the end."""
    mine = [
        one for one in every(session)
        if one.machine_id == row.id and one.state in (TaskState.OPEN, TaskState.LATER)
    ]  # fmt: skip
    return sorted(mine, key=lambda one: one.state == TaskState.LATER)


def task(session: Session, number: int) -> TaskRow:
    """Raises Refusal `no_such_task`."""
    row = session.get(TaskRow, number)
    if row is None:
        raise Refusal("no_such_task", "task", number)
    return row


def add(session: Session, wanted: Sequence[tuple[str, MachineRow | None]]) -> list[TaskRow]:
    """Asks, each with the machine that it is done on. Raises Refusal `too_many_tasks`."""
    held = session.scalar(select(func.count(TaskRow.id))) or 0
    if held + len(wanted) > MOST_TASKS:
        raise Refusal("too_many_tasks", "asks", held + len(wanted), most=MOST_TASKS)
    rows = [TaskRow(ask=ask, machine_id=on.id if on else None, state=TaskState.OPEN) for ask, on in wanted]
    changes.name(session, "tasks_added", asks=[ask for ask, _ in wanted])
    session.add_all(rows)
    session.flush()
    return rows


def edit(
    session: Session, row: TaskRow, on: MachineRow | None, after: int | None, state: TaskState, held: str | None = None
) -> None:
    """On which machine it is done, what comes before it, whether it is for later or not for today, and what the work is
    held in; None as it was said before.

    Raises Refusal `after_itself` (after) where that would come before itself, `no_such_task`, `done_already` for one
    that is done, or would be said to be done without more.
    """
    if row.state == TaskState.DONE or state is TaskState.DONE:
        raise Refusal("done_already", "task", row.id)
    before, seen = after, {row.id}
    while before is not None:
        if before in seen:
            raise Refusal("after_itself", "after", row.ask)
        seen.add(before)
        before = task(session, before).after
    changes.name(session, "task_edited", ask=row.ask)
    row.machine_id, row.after, row.state = on.id if on else None, after, state
    if state is not TaskState.OPEN:
        row.begun = ""
    if held is not None:
        row.held = held.strip()
    session.flush()


def begin(row: TaskRow) -> None:
    """The machine is set up for it now; it is first of what is left."""
    row.begun, row.state = now(), TaskState.OPEN


def finish(session: Session, row: TaskRow, entry: int) -> None:
    """It is done, and stands in the log under this number. Raises Refusal `done_already`."""
    if row.state == TaskState.DONE:
        raise Refusal("done_already", "task", row.id)
    changes.name(session, DONE, ask=row.ask, entry=entry)
    row.state, row.done, row.entry = TaskState.DONE, now(), entry
    session.flush()


def held_now(session: Session, row: MachineRow) -> str:
    """What the work on a machine is held in now, by what it was set up for last; empty where nobody said."""
    mine = [one for one in every(session) if one.machine_id == row.id and (one.begun or one.done)]
    last = max(mine, key=lambda one: (max(one.begun, one.done), one.id), default=None)
    return last.held if last else ""


def minutes_since(row: TaskRow) -> int | None:
    """Since the machine was set up for it; None where it is not, or so long ago that it was not worked on all the
    time."""
    if not row.begun:
        return None
    passed = round((datetime.now(UTC) - datetime.fromisoformat(row.begun)) / timedelta(minutes=1))
    return passed if 1 <= passed <= MOST_MINUTES else None


def delete(session: Session, row: TaskRow) -> None:
    """Take one off the list; what was to come after it comes when it will."""
    changes.name(session, "task_deleted", ask=row.ask)
    _forget(session, [row])


def clear(session: Session) -> None:
    """Take off the list what is done."""
    changes.name(session, "tasks_cleared")
    _forget(session, [row for row in every(session) if row.state == TaskState.DONE])


def _forget(session: Session, rows: Sequence[TaskRow]) -> None:
    gone = {row.id for row in rows}
    for other in every(session):
        if other.after in gone:
            other.after = None
    for row in rows:
        session.delete(row)
    session.flush()


def now() -> str:
    """The time, UTC, as rows keep it."""
    return datetime.now(UTC).isoformat(timespec="seconds")
