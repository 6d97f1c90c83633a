"""A file taken into a shop: what is different is kept as it is here, taken from the file, or kept twice.

Everything that is taken in is one change, undone as one: entries of the log that came with it go with it.
"""

from collections import Counter
from collections.abc import Callable, Mapping, Sequence
from fractions import Fraction
from typing import Any

from sqlalchemy import select
from sqlalchemy.exc import SQLAlchemyError
from sqlalchemy.orm import Session

from valleywind.app.file_comparison import Beside, Choice, Choices, Item, check_names, compare, entry_key
from valleywind.app.file_export import NAMED, OF_A_WHEEL, file_of
from valleywind.app.kinds import facts_of, mounted_on
from valleywind.core.refusal import Refusal
from valleywind.formats.shop_file import (
    FileBar,
    FileCutter,
    FileFamily,
    FileJob,
    FileLogEntry,
    FileMachine,
    FileSession,
    FileShop,
    FileWheel,
)
from valleywind.shop import changes, cutting, jobs, log, machines, soundness
from valleywind.shop.models import (
    BarRow,
    Base,
    BoxMountedRow,
    CutterRow,
    CuttingEventRow,
    CuttingRow,
    Exact,
    GearboxRow,
    JobEventRow,
    JobRow,
    LatheRow,
    LogRow,
    MachineRow,
    MountedRow,
    PhotoRow,
    PinRow,
    QuadrantRow,
    RecordRow,
    SlotRow,
    TaskRow,
    WheelFamilyRow,
    WheelRow,
)
from valleywind.wording.numbers import Units


def take_in(session: Session, theirs: FileShop, photos: Mapping[str, bytes], choices: Choices) -> dict[str, int]:
    """Take a file in, as one change; how many things of each kind came in. choices: by the keys of `look`; what is not
    in them is done as usual. photos: its pictures, looked at already.

    Raises Refusal: `shop_file_damaged` (file) where what came in cannot be read as a shop; nothing is changed then.
    """
    check_names(theirs)
    mine, _ = file_of(session)
    entries = dict(zip(map(entry_key, mine.log), session.scalars(select(LogRow.id).order_by(LogRow.id)), strict=True))
    before = log.newest(session)
    taking = _Taking(session, theirs, photos, entries)
    try:
        for item, thing in list(compare(mine, theirs)):
            chosen = choices.get(item.key, item.choices[0])
            taking.take(item, thing, chosen if chosen in item.choices else item.choices[0])
        session.flush()
        _check_sound(session, taking)
    except Refusal:
        raise
    except (ValueError, TypeError, LookupError, ArithmeticError, SQLAlchemyError) as error:
        raise Refusal("shop_file_damaged", "file", type(error).__name__) from error
    # An empty shop that takes a file in is the shop of the file, its log too.
    empty = not any((mine.machines, mine.wheels, mine.jobs, mine.log))
    came = {}
    if taking.counts["log"]:
        came["entries"] = [before + 1, log.newest(session)]
        changes.note_anyway(session)
    changes.name(session, log.TAKEN_IN, count=sum(taking.counts.values()), whole=empty, **came)
    return dict(taking.counts)


def _check_sound(session: Session, taking: "_Taking") -> None:
    """Whether what came in is a shop's: every value one of its column, every machine and session to be read."""
    session.expire_all()
    if not soundness.is_sound(session):
        raise Refusal("shop_file_damaged", "file", "values")
    try:
        for row in taking.machines.values():
            facts_of(row, Units.MM)
            mounted_on(row)
            if row.lathe is not None:
                machines.lathe(row)
        for job in taking.jobs.values():
            begun = cutting.cutting_of(session, job)
            if begun is not None:
                cutting.standing(session, begun)
    except Refusal as refused:
        raise Refusal("shop_file_damaged", "file", refused.code) from refused


class _Taking:
    """Takes things of a file into the shop; knows under which records they came in."""

    def __init__(
        self, session: Session, theirs: FileShop, photos: Mapping[str, bytes], entries: Mapping[str, int]
    ) -> None:
        """entries: numbers of the log's entries here, by what they say."""
        self._session, self._theirs, self._photos, self._entries = session, theirs, photos, entries
        self.counts: Counter[str] = Counter()
        self._families: dict[str, int] = {}
        self.machines: dict[str, MachineRow] = {}
        self._wheels: dict[int, int] = {}
        self._bars: dict[int, int] = {}
        self.jobs: dict[int | None, int] = {}
        self._logged: dict[int | None, int] = {}

    def take(self, item: Item, thing: Any, choice: Choice) -> None:
        takers: dict[str, Callable[[Item, Any, Choice], None]] = {
            "family": self._family, "machine": self._machine, "wheel": self._wheel, "cutter": self._cutter,
            "bar": self._bar, "job": self._job, "log": self._log, "task": self._tasks,
        }  # fmt: skip
        takers[item.kind](item, thing, choice)

    def _took(self, item: Item) -> None:
        self.counts[item.kind] += 1

    def _family(self, item: Item, theirs: FileFamily, choice: Choice) -> None:
        there = self._session.scalar(select(WheelFamilyRow).where(WheelFamilyRow.name == theirs.name))
        if choice is Choice.MINE:
            if there is not None:
                self._families[theirs.name] = there.id
            return
        name = self._free_name(theirs.name, WheelFamilyRow) if choice is Choice.BOTH else theirs.name
        values = _columns(WheelFamilyRow, theirs.model_dump() | {"name": name})
        if there is None or choice is Choice.BOTH:
            there = WheelFamilyRow(**values)
            self._session.add(there)
        else:
            _set(there, values)
        self._session.flush()
        self._families[theirs.name] = there.id
        self._took(item)

    def _free_name(self, name: str, table: type[WheelFamilyRow] | type[MachineRow]) -> str:
        taken = set(self._session.scalars(select(table.name)))
        return next(new for n in range(2, len(taken) + 3) if (new := f"{name} ({n})") not in taken)

    def _machine(self, item: Item, theirs: FileMachine, choice: Choice) -> None:
        there = self._session.scalar(select(MachineRow).where(MachineRow.name == theirs.name))
        if choice is Choice.MINE:
            if there is not None:
                self.machines[theirs.short_name] = there
                self._known_wheels(theirs, there)
            return
        name = self._free_name(theirs.name, MachineRow) if choice is Choice.BOTH else theirs.name
        fields = {"name": name, "kind": theirs.kind, "note": theirs.note, "full_set": theirs.full_set,
                  "example": theirs.example, "archived": theirs.archived,
                  "family_id": self._families.get(theirs.family or "")}  # fmt: skip
        if there is None or choice is Choice.BOTH:
            row = MachineRow(slug=self._free_slug(name, theirs.short_name), **fields)
            self._session.add(row)
        else:
            row = there
            _set(row, fields)
            for wheel in list(row.wheels):
                self._session.delete(wheel)
            row.lathe = row.quadrant = row.mounted = None
            row.records.clear()
            for children in (row.gearboxes, row.box_mounted, row.pins):
                children.clear()
        self._session.flush()
        self._fill(row, theirs)
        self._session.flush()
        self.machines[theirs.short_name] = row
        for n, brought in enumerate(self._theirs.wheels):
            if brought.machine == theirs.short_name:
                self._put_wheel(n, brought, row.id)
        self._took(item)

    def _free_slug(self, name: str, short: str) -> str:
        """A short name, its own where that may be."""
        try:
            return machines.free_slug(self._session, name, None)
        except Refusal as refused:
            if refused.code != "name_taken":
                raise
        taken = set(self._session.scalars(select(MachineRow.slug)))
        return next(new for n in range(2, len(taken) + 3) if (new := f"{short}-{n}") not in taken)

    def _fill(self, row: MachineRow, theirs: FileMachine) -> None:
        if theirs.lathe is not None:
            row.lathe = LatheRow(**_columns(LatheRow, theirs.lathe.model_dump(mode="json")))
        if theirs.quadrant is not None:
            plain = theirs.quadrant.model_dump(mode="json")
            slots = [SlotRow(place=n, **slot) for n, slot in enumerate(plain.pop("slots"))]
            row.quadrant = QuadrantRow(**plain, slots=slots)
        row.records = {part: RecordRow(part=part, typed=typed) for part, typed in theirs.parts.items()}
        row.gearboxes = [GearboxRow(**box.model_dump()) for box in theirs.boxes]
        row.mounted = MountedRow(**theirs.mounted.model_dump()) if theirs.mounted else None
        row.box_mounted = [BoxMountedRow(**box.model_dump()) for box in theirs.boxes_mounted]
        row.pins = [PinRow(**pin.model_dump()) for pin in theirs.pins]

    def _known_wheels(self, theirs: FileMachine, row: MachineRow) -> None:
        """The wheels of a machine that stays as it is, so that jobs of the file find theirs."""
        for n, wheel in enumerate(self._theirs.wheels):
            if wheel.machine == theirs.short_name:
                there = next((w for w in row.wheels if (w.teeth, w.place) == (wheel.teeth, wheel.place)), None)
                if there is not None:
                    self._wheels[n] = there.id

    def _put_wheel(self, n: int, theirs: FileWheel, machine: int | None) -> None:
        family = self._families.get(theirs.family or "")
        row = WheelRow(family_id=family, machine_id=machine, **{name: getattr(theirs, name) for name in OF_A_WHEEL})
        row.condition = theirs.condition.value
        row.photo = self._photo(theirs.photo)
        self._session.add(row)
        self._session.flush()
        self._wheels[n] = row.id

    def _photo(self, name: str) -> str:
        picture = self._photos.get(name)
        if picture is None:
            return name if name and self._session.get(PhotoRow, name) is not None else ""
        if self._session.get(PhotoRow, name) is None:
            self._session.add(PhotoRow(name=name, picture=picture))
            self._session.flush()
        return name

    def _wheel(self, item: Item, theirs: FileWheel, choice: Choice) -> None:
        n = next(n for n, one in enumerate(self._theirs.wheels) if one is theirs)
        there = self._same_pile(theirs)
        if choice is Choice.MINE:
            if there is not None:
                self._wheels[n] = there.id
            return
        if there is not None:
            there.count, there.note = theirs.count, theirs.note
            self._wheels[n] = there.id
        else:
            self._put_wheel(n, theirs, None)
        self._took(item)

    def _same_pile(self, theirs: FileWheel) -> WheelRow | None:
        family = self._families.get(theirs.family or "")
        alike = select(WheelRow).where(
            WheelRow.teeth == theirs.teeth, WheelRow.machine_id.is_(None), WheelRow.place == theirs.place,
            WheelRow.material == theirs.material, WheelRow.condition == theirs.condition.value,
            WheelRow.family_id == family if family else WheelRow.family_id.is_(None),
        )  # fmt: skip
        seen = set(self._wheels.values())
        return next((row for row in self._session.scalars(alike.order_by(WheelRow.id)) if row.id not in seen), None)

    def _cutter(self, item: Item, theirs: FileCutter, choice: Choice) -> None:
        if choice is Choice.MINE:
            return
        values = _columns(CutterRow, theirs.model_dump(mode="json"))
        alike = {name: value for name, value in values.items() if name not in ("count", "note")}
        there = self._session.scalars(select(CutterRow).filter_by(**alike)).first()
        if item.standing is Beside.DIFFERENT and there is not None:
            _set(there, values)
        else:
            self._session.add(CutterRow(**values))
        self._took(item)

    def _bar(self, item: Item, theirs: FileBar, choice: Choice) -> None:
        n = next(n for n, one in enumerate(self._theirs.bars) if one is theirs)
        values = _columns(BarRow, theirs.model_dump(mode="json"))
        alike = {name: value for name, value in values.items() if name != "note"}
        seen = set(self._bars.values())
        rows = self._session.scalars(select(BarRow).filter_by(**alike).order_by(BarRow.id))
        there = next((row for row in rows if row.id not in seen), None)
        if choice is Choice.MINE:
            if there is not None:
                self._bars[n] = there.id
            return
        if item.standing is Beside.DIFFERENT and there is not None:
            _set(there, values)
        else:
            there = BarRow(**values)
            self._session.add(there)
        self._session.flush()
        self._bars[n] = there.id
        self._took(item)

    def _job(self, item: Item, thing: tuple[int, FileJob], choice: Choice) -> None:
        n, theirs = thing
        there = self._session.scalars(select(JobRow).filter_by(teeth=theirs.teeth, begun=theirs.begun)).first()
        if there is not None and choice is Choice.MINE:
            self.jobs[n] = there.id
        if choice is Choice.MINE:
            return
        fields = {
            "machine": self._slug(theirs.machine), "family_id": self._families.get(theirs.family or ""),
            "wheel": theirs.wheel, "typed": self._numbered(theirs.typed), "done": theirs.done,
        }  # fmt: skip
        if there is None:
            there = JobRow(teeth=theirs.teeth, begun=theirs.begun, **fields)
            self._session.add(there)
        else:
            _set(there, fields)
        self._session.flush()
        first = len(jobs.events(self._session, there.id))
        for place, event in enumerate(
            theirs.events[first:] if item.standing is Beside.DIFFERENT else theirs.events, first
        ):
            about = (
                {**event.about, "typed": self._numbered(event.about["typed"])}
                if "typed" in event.about
                else event.about
            )
            self._session.add(
                JobEventRow(job_id=there.id, place=place, at=event.at, kind=event.kind.value, about=about)
            )
        if theirs.session is not None:
            self._session_of(there, theirs.session)
        self._session.flush()
        self.jobs[n] = there.id
        self._took(item)

    def _session_of(self, row: JobRow, theirs: FileSession) -> None:
        begun = CuttingRow(job_id=row.id, begun=theirs.begun, head=self._slug(theirs.head), plan=theirs.plan)
        self._session.add(begun)
        self._session.flush()
        for place, event in enumerate(theirs.events):
            self._session.add(
                CuttingEventRow(
                    cutting_id=begun.id,
                    place=place,
                    key=event.key,
                    at=event.at,
                    kind=event.kind.value,
                    about=event.about,
                    by=event.by,
                )
            )

    def _slug(self, short: str) -> str:
        """What a machine of the file is called here; one that is not in it keeps its name."""
        row = self.machines.get(short)
        return row.slug if row else short

    def _numbered(self, typed: Mapping[str, Any]) -> dict[str, Any]:
        places = {"bar": self._bars, "donor": self._wheels}
        named = {name: places[name].get(typed[name]) for name in NAMED if isinstance(typed.get(name), int)}
        head = {"head": self._slug(typed["head"])} if isinstance(typed.get("head"), str) else {}
        return {**typed, **named, **head}

    def _log(self, _item: Item, fresh: Sequence[int], choice: Choice) -> None:
        if choice is Choice.MINE:
            return
        new = set(fresh)
        for n, theirs in enumerate(self._theirs.log):
            self._logged[n] = self._entry(theirs, self._logged) if n in new else self._entries[entry_key(theirs)]
        self.counts["log"] += len(new)

    def _tasks(self, _item: Item, fresh: Sequence[int], choice: Choice) -> None:
        if choice is Choice.MINE:
            return
        rows: dict[int, TaskRow] = {}
        for n in fresh:
            theirs = self._theirs.tasks[n]
            of = self.machines.get(theirs.machine or "")
            rows[n] = TaskRow(
                ask=theirs.ask, machine_id=of.id if of else None, state=theirs.state.value, begun=theirs.begun,
                done=theirs.done, entry=self._logged.get(theirs.entry), held=theirs.held,
            )  # fmt: skip
        self._session.add_all(rows.values())
        self._session.flush()
        for place, row in rows.items():
            before = self._theirs.tasks[place].after
            row.after = rows[before].id if before in rows else None
        self.counts["task"] += len(rows)

    def _entry(self, theirs: FileLogEntry, numbers: Mapping[int | None, int]) -> int:
        of = self.machines.get(theirs.of or "")
        if isinstance(theirs.about.get("photo"), str):
            self._photo(theirs.about["photo"])
        row = LogRow(
            at=theirs.at, by=theirs.by, kind=theirs.kind.value, machine=theirs.machine,
            machine_id=of.id if of else None, job_id=self.jobs.get(theirs.job), ask=theirs.ask, train=theirs.train,
            outcome=str(theirs.outcome or ""), note=theirs.note, code=theirs.code, about=theirs.about,
            corrects=numbers.get(theirs.corrects),
        )  # fmt: skip
        return log.add(self._session, row).id


def _columns(table: type[Base], plain: Mapping[str, Any]) -> dict[str, Any]:
    """Values of a file as a table takes them: exact numbers as such."""
    columns = table.__table__.columns
    return {
        name: Fraction(value) if value is not None and isinstance(columns[name].type, Exact) else value
        for name, value in plain.items()
    }


def _set(row: Base, values: Mapping[str, Any]) -> None:
    for name, value in values.items():
        setattr(row, name, value)
