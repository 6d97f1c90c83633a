"""Recording what happens in cutting sessions, whoever tells it: a screen, or a device."""

import asyncio
from collections.abc import Callable
from dataclasses import dataclass, field
from typing import Any, TypeVar

from anyio.to_thread import run_sync
from sqlalchemy.orm import Session

from valleywind.app.dividing import ByMachine
from valleywind.app.events import Events
from valleywind.app.job_choices import job_of
from valleywind.app.job_dividing import divides
from valleywind.core.making import session as cuts
from valleywind.core.making.job import check_result, in_tolerance, steps
from valleywind.core.making.session import Event, EventKind
from valleywind.core.refusal import Refusal
from valleywind.core.units import Unit, parse_length
from valleywind.shop import cutting as cut_there
from valleywind.shop import jobs
from valleywind.shop.cutting import SessionNow
from valleywind.shop.cutting_plan import Plan, PlateKept, work_of
from valleywind.shop.models import CuttingRow
from valleywind.shop.store import Store

Value = TypeVar("Value")
Records = Callable[[Session], tuple[SessionNow, Value]]
"""Records something; gives where the session then stands, and what is to be answered."""
Moved = Callable[[int, SessionNow, object], None]
"""Is told the job, where its session stands now, and who told the step."""


@dataclass
class Recording:
    """The one place where steps are recorded: one by one, and on disk before anybody is told. writing: the turn
    to write to the shop; followers: called in that turn."""

    store: Store
    writing: asyncio.Lock
    events: Events = field(default_factory=Events)
    followers: list[Moved] = field(default_factory=list)

    async def record(self, job: int, work: Records[Value], teller: object = None) -> tuple[SessionNow, Value]:
        """Raises what the work does; then nothing is recorded."""

        def there() -> tuple[SessionNow, Value]:
            with self.store.adding() as session:
                return work(session)

        async with self.writing:
            # Not left before it is done, though nobody waits for it any more.
            stands, value = await run_sync(there)
            for moved in self.followers:
                moved(job, stands, teller)
        return stands, value


@dataclass(frozen=True)
class NewEvent:
    """One thing that happened, as it is told: tooth and number of a jump from 1, number 0 for the marks; figure: a span
    as typed."""

    kind: EventKind
    reason: str | None = None
    tooth: int | None = None
    number: int | None = None
    count: int | None = None
    figure: str | None = None


def begin(session: Session, number: int, plate: Callable[[ByMachine], PlateKept | None]) -> CuttingRow:
    """Begin the session of a job: its plan is kept as it is now. plate: how that of a machine is kept.

    Raises Refusal as `job_of`, `divides` and `shop.cutting.begin` do."""
    row = jobs.job(session, number)
    made, divided = job_of(row, session), divides(row, session)
    machine = divided.by.on.row if divided.by else None
    work = cuts.Work(row.teeth, len(made.passes), made.marks, made.order, made.sizes.over if made.spans else None)
    plan = Plan(
        work, made.passes, divided.places, machine.name if machine else "", made.helix is not None,
        plate(divided.by) if divided.by else None,
    )  # fmt: skip
    return cut_there.begin(session, row, machine.slug if machine else "", plan)


def add(
    session: Session, job: int, event: NewEvent, key: str, seen: int | None, by: str, bare: Unit | None
) -> SessionNow:
    """Record what was told. bare: the unit of a figure without one. Raises Refusal as `shop.cutting.record` does, and
    at the figure."""
    cutting = cut_there.cutting(session, job)
    about = _about(event, cutting)
    if event.kind is EventKind.MEASURED and event.figure:
        about |= _measured(event.figure, key, job, session, bare)
    return cut_there.record(session, cutting, Event(event.kind, about), key, seen, by)


def _about(event: NewEvent, cutting: CuttingRow) -> dict[str, Any]:
    about: dict[str, Any] = {}
    if event.reason is not None:
        about["reason"] = event.reason.strip()
    if event.kind is EventKind.COUNTED:
        about["count"] = event.count
    if event.kind is EventKind.JUMP:
        about["to"] = work_of(cutting).number_of(
            (event.tooth or 0) - 1, event.number - 1 if event.number is not None else 0
        )
    return about


def _measured(figure: str, key: str, job: int, session: Session, bare: Unit | None) -> dict[str, Any]:
    """Keep a span with its job, and say whether the first teeth are to be cut again, deeper. Raises Refusal
    (figure)."""
    row = jobs.job(session, job)
    step = next((s for s in steps(job_of(row, session)) if s.code == "measure"), None)
    if step is None or step.high is None:
        raise Refusal("nothing_to_measure", "figure", figure)
    mm = float(parse_length(figure, bare, "figure").mm)
    check_result(step, mm)
    cutting = cut_there.cutting(session, job)
    if all(one.key != key for one in cut_there.standing(session, cutting).known):
        jobs.add_result(session, row, step.code, f"{mm:.4f} mm", in_tolerance(step, mm))
    return {"mm": mm, "again": mm > step.high and not in_tolerance(step, mm)}
