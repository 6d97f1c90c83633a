"""A shop, or a part of it, written as a file has it."""

import sys
from collections.abc import Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from valleywind.formats.shop_file import (
    FileBar,
    FileBox,
    FileBoxMounted,
    FileCut,
    FileCutter,
    FileFamily,
    FileJob,
    FileJobEvent,
    FileLathe,
    FileLogEntry,
    FileMachine,
    FileMounted,
    FilePin,
    FileQuadrant,
    FileSession,
    FileShop,
    FileTask,
    FileWheel,
)
from valleywind.shop import cutting, jobs, tasks
from valleywind.shop.models import (
    BarRow,
    CutterRow,
    CuttingEventRow,
    JobRow,
    LogRow,
    MachineRow,
    PhotoRow,
    TaskRow,
    WheelFamilyRow,
    WheelRow,
)

NAMED = {"bar": "bars", "donor": "wheels"}
"""What of a job's choices names other records, and the list of the file that it names."""


@dataclass(frozen=True)
class Part:
    """What of a shop is written: all of it, one machine with its wheels, one job, or the wheels of one family."""

    machine: MachineRow | None = None
    job: JobRow | None = None
    family: WheelFamilyRow | None = None

    @property
    def whole(self) -> bool:
        return self == Part()


def file_of(session: Session, part: Part | None = None) -> tuple[FileShop, dict[str, bytes]]:
    """A shop, or a part of it, as a file has it, with its photographs."""
    return _ShopWriter(session, part or Part()).file()


class _ShopWriter:
    """Writes a shop; knows the place of each record in the lists of the file."""

    def __init__(self, session: Session, part: Part) -> None:
        self._session = session
        self._machines = list(session.scalars(select(MachineRow).order_by(MachineRow.id)))
        self._wheels = list(session.scalars(select(WheelRow).order_by(WheelRow.id)))
        self._families = list(session.scalars(select(WheelFamilyRow).order_by(WheelFamilyRow.id)))
        self._cutters = list(session.scalars(select(CutterRow).order_by(CutterRow.id)))
        self._bars = list(session.scalars(select(BarRow).order_by(BarRow.id)))
        self._jobs = list(session.scalars(select(JobRow).order_by(JobRow.id)))
        self._log = list(session.scalars(select(LogRow).order_by(LogRow.id)))
        self._tasks = tasks.every(session)
        if not part.whole:
            self._only(part)
        self._wheels.sort(key=self._where)
        self._family_names = {row.id: row.name for row in self._families}
        self._slugs = {row.id: row.slug for row in self._machines}
        self._places = {
            "bars": {row.id: n for n, row in enumerate(self._bars)},
            "wheels": {row.id: n for n, row in enumerate(self._wheels)},
            "jobs": {row.id: n for n, row in enumerate(self._jobs)},
            "log": {row.id: n for n, row in enumerate(self._log)},
            "tasks": {row.id: n for n, row in enumerate(self._tasks)},
        }

    def _where(self, wheel: WheelRow) -> tuple[int, int]:
        """Wheels stand machine by machine, then those of none: so they come in, and so they are written again."""
        return wheel.machine_id or sys.maxsize, wheel.id

    def _only(self, part: Part) -> None:
        """Leave out what does not belong to a part. A job goes alone: it has its family and its plan in itself."""
        of, job, family = part.machine, part.job, part.family
        self._machines = [of] if of else []
        # Wheels of a family go without the machines that they belong to.
        self._wheels = [
            row for row in self._wheels
            if (of is not None and row.machine_id == of.id) or (family is not None and row.family_id == family.id)
        ]  # fmt: skip
        self._cutters, self._bars, self._log, self._tasks = [], [], [], []
        self._jobs = [job] if job else []
        wanted = {row.family_id for row in self._machines} | {row.family_id for row in self._wheels}
        wanted |= {row.family_id for row in self._jobs}
        self._families = [row for row in self._families if row.id in wanted]

    def file(self) -> tuple[FileShop, dict[str, bytes]]:
        shop = FileShop(
            made=datetime.now(UTC).isoformat(timespec="seconds"),
            families=[FileFamily.model_validate(row) for row in self._families],
            machines=[self._machine(row) for row in self._machines],
            wheels=[self._wheel(row) for row in self._wheels],
            cutters=[FileCutter.model_validate(row) for row in self._cutters],
            bars=[FileBar.model_validate(row) for row in self._bars],
            jobs=[self._job(row) for row in self._jobs],
            log=[self._entry(row) for row in self._log],
            tasks=[self._task(row) for row in self._tasks],
        )
        names = {wheel.photo for wheel in shop.wheels if wheel.photo}
        names |= {str(entry.about["photo"]) for entry in shop.log if entry.about.get("photo")}
        there = self._session.scalars(select(PhotoRow).where(PhotoRow.name.in_(names))) if names else ()
        return shop, {row.name: row.picture for row in there}

    def _machine(self, row: MachineRow) -> FileMachine:
        return FileMachine(
            short_name=row.slug, name=row.name, kind=row.kind, note=row.note,
            family=self._family_names.get(row.family_id or 0), full_set=row.full_set, example=row.example,
            archived=row.archived, lathe=FileLathe.model_validate(row.lathe) if row.lathe else None,
            quadrant=FileQuadrant.model_validate(row.quadrant) if row.quadrant else None,
            parts={part: dict(row.records[part].typed) for part in sorted(row.records)},
            boxes=[FileBox.model_validate(one) for one in sorted(row.gearboxes, key=lambda one: one.box)],
            mounted=FileMounted.model_validate(row.mounted) if row.mounted else None,
            boxes_mounted=[
                FileBoxMounted.model_validate(one) for one in sorted(row.box_mounted, key=lambda one: one.box)
            ],
            pins=[FilePin.model_validate(one) for one in row.pins],
        )  # fmt: skip

    def _wheel(self, row: WheelRow) -> FileWheel:
        names = {"family": self._family_names.get(row.family_id or 0), "machine": self._slugs.get(row.machine_id or 0)}
        return FileWheel(**{name: getattr(row, name) for name in OF_A_WHEEL}, **names)

    def _job(self, row: JobRow) -> FileJob:
        begun = cutting.cutting_of(self._session, row.id)
        return FileJob(
            teeth=row.teeth, machine=row.machine, family=self._family_names.get(row.family_id or 0), begun=row.begun,
            wheel=row.wheel, typed=self._placed(row.typed), done=row.done,
            events=[
                FileJobEvent(at=e.at, kind=e.kind, about=self._placed_within(e.about))
                for e in jobs.events(self._session, row.id)
            ],
            session=FileSession(
                begun=begun.begun, head=begun.head, plan=begun.plan,
                events=[
                    FileCut.model_validate(one)
                    for one in self._session.scalars(
                        select(CuttingEventRow)
                        .where(CuttingEventRow.cutting_id == begun.id)
                        .order_by(CuttingEventRow.place)
                    )
                ],
            ) if begun else None,
        )  # fmt: skip

    def _placed(self, typed: Mapping[str, Any]) -> dict[str, Any]:
        """Choices of a job with places of the file for the shop's numbers; null for what is gone."""
        named = {name: self._places[into].get(typed.get(name) or 0) for name, into in NAMED.items() if name in typed}
        return {**typed, **named}

    def _placed_within(self, about: Mapping[str, Any]) -> dict[str, Any]:
        return {**about, "typed": self._placed(about["typed"])} if "typed" in about else dict(about)

    def _entry(self, row: LogRow) -> FileLogEntry:
        return FileLogEntry(
            at=row.at, by=row.by, kind=row.kind, machine=row.machine, of=self._slugs.get(row.machine_id or 0),
            job=self._places["jobs"].get(row.job_id or 0), ask=row.ask, train=row.train, outcome=row.outcome or "",
            note=row.note, code=row.code, about=row.about, corrects=self._places["log"].get(row.corrects or 0),
        )  # fmt: skip

    def _task(self, row: TaskRow) -> FileTask:
        return FileTask(
            ask=row.ask, machine=self._slugs.get(row.machine_id or 0), after=self._places["tasks"].get(row.after or 0),
            state=row.state, begun=row.begun, done=row.done, entry=self._places["log"].get(row.entry or 0),
            held=row.held,
        )  # fmt: skip


OF_A_WHEEL = ("teeth", "count", "condition", "material", "place", "note", "measured", "shift", "photo")
"""What a wheel has in the file as in the shop."""
