"""The tables: machines and what each kind has, wheel families, wheels, what is mounted, cutters, bar stock.

Lengths in mm, angles in degrees. Quantities that enter ratios and pitches are exact fractions, kept as text `a/b`.
"""

from enum import StrEnum
from fractions import Fraction
from typing import Any

from sqlalchemy import (
    JSON,
    CheckConstraint,
    Dialect,
    ForeignKey,
    Index,
    LargeBinary,
    String,
    TypeDecorator,
    UniqueConstraint,
    false,
)
from sqlalchemy.orm import DeclarativeBase, Mapped, attribute_keyed_dict, mapped_column, relationship, validates

from valleywind.core.lathe.thread import PitchUnit
from valleywind.core.making.session import EventKind
from valleywind.core.names import check_name
from valleywind.core.teeth.pile import Condition
from valleywind.core.teeth.pitch import PitchSystem
from valleywind.core.trains.direction import Hand, Sense


class Unreadable(Exception):
    """What stands in the file is no value of its column."""


class Exact(TypeDecorator[Fraction]):
    """A fraction, kept exactly."""

    impl = String
    cache_ok = True

    def process_bind_param(self, value: Fraction | None, dialect: Dialect) -> str | None:  # noqa: ARG002
        return None if value is None else str(Fraction(value))

    def process_result_value(self, value: Any | None, dialect: Dialect) -> Fraction | None:  # noqa: ARG002
        try:
            return None if value is None else Fraction(value)
        except (TypeError, ValueError, ZeroDivisionError):
            raise Unreadable(str(value)[:40]) from None


class OneOf(TypeDecorator[str]):
    """One of the words of an enumeration."""

    impl = String
    cache_ok = True

    def __init__(self, words: type[StrEnum]) -> None:
        super().__init__()
        self.words = frozenset(word.value for word in words)

    def process_bind_param(self, value: str | None, dialect: Dialect) -> str | None:  # noqa: ARG002
        return None if value is None else str(value)

    def process_result_value(self, value: Any | None, dialect: Dialect) -> str | None:  # noqa: ARG002
        if value is not None and value not in self.words:
            raise Unreadable(str(value)[:40])
        return value


class JobEventKind(StrEnum):
    """What is on record of a job. CHOSEN: `typed`, all that was then chosen; FOUND: `step`, `figure` as typed, `done`;
    IN_RACK, OUT_AGAIN: the wheel went into the rack, or that was undone."""

    CHOSEN = "chosen"
    FOUND = "found"
    IN_RACK = "in_rack"
    OUT_AGAIN = "out_again"


class Base(DeclarativeBase):
    @validates("name", "place", "material")
    def _check_name(self, field: str, value: Any) -> Any:
        """What a record is called, of what it is and where it lies. Raises Refusal as `check_name` does."""
        return check_name(value, field) if isinstance(value, str) else value


# The number of a record that is gone is never given to another: what was said of it would be said of that one.
_NUMBERED = {"sqlite_autoincrement": True}


class ChangeRow(Base):
    """One change of the shop: what it was, and every row it changed, as it was before and as it was after.

    `about` is what its sentence needs; `rows` are `[table, key, before, after]`, a side null where there was no row.
    `undone_by` and `undoes` name other changes.
    """

    __tablename__ = "change"
    __table_args__ = (_NUMBERED,)

    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[str]
    code: Mapped[str]
    about: Mapped[dict[str, Any]] = mapped_column(JSON)
    rows: Mapped[list[Any]] = mapped_column(JSON)
    undone_by: Mapped[int | None]
    undoes: Mapped[int | None]


class WheelFamilyRow(Base):
    __tablename__ = "wheel_family"
    __table_args__ = (_NUMBERED,)

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str] = mapped_column(unique=True)
    pitch_system: Mapped[str] = mapped_column(OneOf(PitchSystem))
    pitch_value: Mapped[Fraction] = mapped_column(Exact)
    pressure_angle_deg: Mapped[Fraction] = mapped_column(Exact)
    bore_mm: Mapped[Fraction] = mapped_column(Exact)
    key_mm: Mapped[Fraction] = mapped_column(Exact)
    face_mm: Mapped[Fraction] = mapped_column(Exact)
    addendum: Mapped[Fraction] = mapped_column(Exact, default=Fraction(1))
    hub_mm: Mapped[Fraction] = mapped_column(Exact, default=Fraction(0))

    wheels: Mapped[list["WheelRow"]] = relationship(back_populates="family")
    machines: Mapped[list["MachineRow"]] = relationship(back_populates="family")


class MachineRow(Base):
    """A machine of any kind. `family` is None where no wheels go on it, or their pitch is not known; `full_set` is its
    maker's list as typed; `example`: its figures are of an example and not confirmed yet; `archived`: it is put away,
    kept with all that is said of it, and planned for no more.
    """

    __tablename__ = "machine"
    __table_args__ = (_NUMBERED,)

    id: Mapped[int] = mapped_column(primary_key=True)
    slug: Mapped[str] = mapped_column(unique=True)
    name: Mapped[str]
    kind: Mapped[str]
    note: Mapped[str] = mapped_column(default="")
    family_id: Mapped[int | None] = mapped_column(ForeignKey("wheel_family.id"))
    full_set: Mapped[str] = mapped_column(default="")
    example: Mapped[bool] = mapped_column(default=False, server_default=false())
    archived: Mapped[bool] = mapped_column(default=False, server_default=false())
    version: Mapped[int] = mapped_column(default=1, server_default="1")

    family: Mapped[WheelFamilyRow | None] = relationship(back_populates="machines")
    lathe: Mapped["LatheRow | None"] = relationship(back_populates="machine", cascade="all, delete-orphan")
    quadrant: Mapped["QuadrantRow | None"] = relationship(cascade="all, delete-orphan")
    mounted: Mapped["MountedRow | None"] = relationship(cascade="all, delete-orphan")
    records: Mapped[dict[str, "RecordRow"]] = relationship(
        collection_class=attribute_keyed_dict("part"), cascade="all, delete-orphan"
    )
    gearboxes: Mapped[list["GearboxRow"]] = relationship(cascade="all, delete-orphan")
    box_mounted: Mapped[list["BoxMountedRow"]] = relationship(cascade="all, delete-orphan")
    pins: Mapped[list["PinRow"]] = relationship(cascade="all, delete-orphan", order_by="PinRow.id")
    wheels: Mapped[list["WheelRow"]] = relationship(back_populates="machine", order_by="WheelRow.teeth")


class LatheRow(Base):
    """What turns what. `screw_stated` says how the screw's lead was given: `mm` or `tpi`.

    Steps of levers are pairs of name and ratio, `["9 ×2", "4/9"]`, the usual one first; pairs are two tooth numbers
    locked together; dials are teeth and marks. `screw_turns_right_hand` is the screw's sense for a right-hand thread
    if its own thread were right-hand; both senses None where they are not known.
    """

    __tablename__ = "lathe"

    machine_id: Mapped[int] = mapped_column(ForeignKey("machine.id"), primary_key=True)
    screw_lead_mm: Mapped[Fraction] = mapped_column(Exact)
    screw_stated: Mapped[str] = mapped_column(OneOf(PitchUnit))
    screw_hand: Mapped[str] = mapped_column(OneOf(Hand), default="right")
    first_shaft_turns: Mapped[str | None] = mapped_column(OneOf(Sense))
    screw_turns_right_hand: Mapped[str | None] = mapped_column(OneOf(Sense))
    reverse_lever: Mapped[bool]
    first_steps: Mapped[list[list[str]]] = mapped_column(JSON)
    box_steps: Mapped[list[list[str]]] = mapped_column(JSON, default=list)
    first_drivers: Mapped[list[int]] = mapped_column(JSON, default=list)
    last_driven: Mapped[list[int]] = mapped_column(JSON, default=list)
    pairs: Mapped[list[list[int]]] = mapped_column(JSON, default=list)
    dials: Mapped[list[list[int]]] = mapped_column(JSON, default=list)
    feed_along_mm: Mapped[Fraction | None] = mapped_column(Exact)
    feed_across_mm: Mapped[Fraction | None] = mapped_column(Exact)

    machine: Mapped[MachineRow] = relationship(back_populates="lathe")


class QuadrantRow(Base):
    """What is known of a quadrant, None where it is not. `apart_mm` is the distance of the shafts where their direction
    is not known; an empty cover is none. `goes_on` and `not_on` are trains, `sources` where a part comes from.
    """

    __tablename__ = "quadrant"

    machine_id: Mapped[int] = mapped_column(ForeignKey("machine.id"), primary_key=True)
    first_x_mm: Mapped[float | None]
    first_y_mm: Mapped[float | None]
    apart_mm: Mapped[float | None]
    swing_low_deg: Mapped[float | None]
    swing_high_deg: Mapped[float | None]
    boss_first_mm: Mapped[float | None]
    boss_stud_mm: Mapped[float | None]
    boss_last_mm: Mapped[float | None]
    gap_mm: Mapped[float]
    studs: Mapped[int | None]
    cover_mm: Mapped[list[list[float]] | None] = mapped_column(JSON(none_as_null=True))
    goes_on: Mapped[list[str]] = mapped_column(JSON, default=list, server_default="[]")
    not_on: Mapped[list[str]] = mapped_column(JSON, default=list, server_default="[]")
    sources: Mapped[dict[str, str]] = mapped_column(JSON, default=dict, server_default="{}")

    slots: Mapped[list["SlotRow"]] = relationship(order_by="SlotRow.place", cascade="all, delete-orphan")


class SlotRow(Base):
    __tablename__ = "slot"
    __table_args__ = (UniqueConstraint("machine_id", "place"), CheckConstraint("nearest_mm < farthest_mm"))

    id: Mapped[int] = mapped_column(primary_key=True)
    machine_id: Mapped[int] = mapped_column(ForeignKey("quadrant.machine_id"))
    place: Mapped[int]
    offset_deg: Mapped[float]
    nearest_mm: Mapped[float]
    farthest_mm: Mapped[float]


class WheelRow(Base):
    """Wheels alike: of one family, tooth number, state and place. A count of 0 is a wheel known to be missing.

    `family` is None for a wheel that nobody has recognised yet, whose readings are kept in `measured`; `machine` is
    None for wheels that belong to no machine; `shift` is the profile shift in modules; `photo` names its photograph,
    empty where there is none.
    """

    __tablename__ = "wheel"
    __table_args__ = (CheckConstraint("count >= 0"), _NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    family_id: Mapped[int | None] = mapped_column(ForeignKey("wheel_family.id"))
    machine_id: Mapped[int | None] = mapped_column(ForeignKey("machine.id"))
    teeth: Mapped[int]
    count: Mapped[int]
    condition: Mapped[str] = mapped_column(OneOf(Condition), default="good")
    material: Mapped[str] = mapped_column(default="")
    place: Mapped[str] = mapped_column(default="")
    note: Mapped[str] = mapped_column(default="")
    measured: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    shift: Mapped[float] = mapped_column(default=0.0, server_default="0")
    photo: Mapped[str] = mapped_column(default="")
    version: Mapped[int] = mapped_column(default=1, server_default="1")

    family: Mapped[WheelFamilyRow | None] = relationship(back_populates="wheels")
    machine: Mapped[MachineRow | None] = relationship(back_populates="wheels")


class MountedRow(Base):
    """The train that is on the machine now, in the notation of `core.trains.model`, and where the levers stand."""

    __tablename__ = "mounted"

    machine_id: Mapped[int] = mapped_column(ForeignKey("machine.id"), primary_key=True)
    train: Mapped[str]
    setting: Mapped[str] = mapped_column(default="")


class PhotoRow(Base):
    """A photograph as JPEG, named by what is in it. It stays when its wheel goes, for the way back."""

    __tablename__ = "photo"

    name: Mapped[str] = mapped_column(primary_key=True)
    picture: Mapped[bytes] = mapped_column(LargeBinary)


class CutterRow(Base):
    """Form cutters alike. `highest` None is up to a rack; bore and depth 0 where unknown; `engraved` its number."""

    __tablename__ = "cutter"
    __table_args__ = (_NUMBERED,)

    id: Mapped[int] = mapped_column(primary_key=True)
    pitch_system: Mapped[str] = mapped_column(OneOf(PitchSystem))
    pitch_value: Mapped[Fraction] = mapped_column(Exact)
    pressure_angle_deg: Mapped[Fraction] = mapped_column(Exact)
    lowest: Mapped[int]
    highest: Mapped[int | None]
    engraved: Mapped[str] = mapped_column(default="")
    bore_mm: Mapped[Fraction] = mapped_column(Exact, default=Fraction(0))
    depth_mm: Mapped[Fraction] = mapped_column(Exact, default=Fraction(0))
    condition: Mapped[str] = mapped_column(OneOf(Condition), default="good")
    count: Mapped[int] = mapped_column(default=1)
    place: Mapped[str] = mapped_column(default="")
    note: Mapped[str] = mapped_column(default="")
    version: Mapped[int] = mapped_column(default=1, server_default="1")


class BarRow(Base):
    """A piece of round bar."""

    __tablename__ = "bar"
    __table_args__ = (_NUMBERED,)

    id: Mapped[int] = mapped_column(primary_key=True)
    material: Mapped[str]
    diameter_mm: Mapped[Fraction] = mapped_column(Exact)
    length_mm: Mapped[Fraction] = mapped_column(Exact)
    place: Mapped[str] = mapped_column(default="")
    note: Mapped[str] = mapped_column(default="")
    version: Mapped[int] = mapped_column(default=1, server_default="1")


class RecordRow(Base):
    """A part of a machine's record, as it was typed: field by field, see `shop.records`. Its boxes are `GearboxRow`."""

    __tablename__ = "record"

    machine_id: Mapped[int] = mapped_column(ForeignKey("machine.id"), primary_key=True)
    part: Mapped[str] = mapped_column(primary_key=True)
    typed: Mapped[dict[str, Any]] = mapped_column(JSON)


class GearboxRow(Base):
    """One of several boxes for change wheels on a machine: its quadrant as typed, and how it turns; see `TypedBox`."""

    __tablename__ = "gearbox"

    machine_id: Mapped[int] = mapped_column(ForeignKey("machine.id"), primary_key=True)
    box: Mapped[str] = mapped_column(primary_key=True)
    quadrant: Mapped[dict[str, Any]] = mapped_column(JSON)
    turns: Mapped[str] = mapped_column(default="")
    lever: Mapped[bool] = mapped_column(default=False)
    posts: Mapped[str] = mapped_column(default="")


class BoxMountedRow(Base):
    """The train that is in one of several boxes now, and what stands with it, such as the index constant."""

    __tablename__ = "box_mounted"

    machine_id: Mapped[int] = mapped_column(ForeignKey("machine.id"), primary_key=True)
    box: Mapped[str] = mapped_column(primary_key=True)
    train: Mapped[str]
    setting: Mapped[str] = mapped_column(default="")


class JobRow(Base):
    """A wheel to be made, or several alike. `wheel` is its family as it was, `typed` what is chosen and typed now;
    `machine` is the slug of what it is for. `done` says when the wheel went into the rack."""

    __tablename__ = "job"
    __table_args__ = (_NUMBERED,)

    id: Mapped[int] = mapped_column(primary_key=True)
    teeth: Mapped[int]
    machine: Mapped[str] = mapped_column(default="")
    family_id: Mapped[int | None]
    begun: Mapped[str]
    wheel: Mapped[dict[str, Any]] = mapped_column(JSON)
    typed: Mapped[dict[str, Any]] = mapped_column(JSON)
    done: Mapped[str] = mapped_column(default="")
    version: Mapped[int] = mapped_column(default=1, server_default="1")


class JobEventRow(Base):
    """One thing that happened with a job, in its place; only ever added. `kind` is a `JobEventKind`."""

    __tablename__ = "job_event"

    job_id: Mapped[int] = mapped_column(primary_key=True)
    place: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[str]
    kind: Mapped[str] = mapped_column(OneOf(JobEventKind))
    about: Mapped[dict[str, Any]] = mapped_column(JSON)


class CuttingRow(Base):
    """A cutting session: its plan, as it was when it was begun. `head` is the slug of the machine that divides."""

    __tablename__ = "cutting"
    __table_args__ = (_NUMBERED,)

    id: Mapped[int] = mapped_column(primary_key=True)
    job_id: Mapped[int] = mapped_column(unique=True)
    begun: Mapped[str]
    head: Mapped[str] = mapped_column(default="")
    plan: Mapped[dict[str, Any]] = mapped_column(JSON)


class CuttingEventRow(Base):
    """One thing that happened in a session, in its place; only ever added. `key` is made by whoever told it, so that
    told twice it is recorded once."""

    __tablename__ = "cutting_event"
    __table_args__ = (UniqueConstraint("cutting_id", "key"),)

    cutting_id: Mapped[int] = mapped_column(ForeignKey("cutting.id"), primary_key=True)
    place: Mapped[int] = mapped_column(primary_key=True)
    key: Mapped[str]
    at: Mapped[str]
    kind: Mapped[str] = mapped_column(OneOf(EventKind))
    about: Mapped[dict[str, Any]] = mapped_column(JSON)
    by: Mapped[str] = mapped_column(default="")


class PassphraseRow(Base):
    """The shop's passphrase, as argon2 keeps it, and the secret that the cookies of guests are signed with."""

    __tablename__ = "passphrase"
    __table_args__ = (CheckConstraint("id = 1"),)

    id: Mapped[int] = mapped_column(primary_key=True, default=1)
    hash: Mapped[str]
    secret: Mapped[bytes] = mapped_column(LargeBinary)


class GuestRow(Base):
    """A browser that is signed in. key: SHA-256 of what its cookie holds; begun_s: when, seconds since 1970."""

    __tablename__ = "guest"

    key: Mapped[str] = mapped_column(primary_key=True)
    name: Mapped[str]
    looks_only: Mapped[bool]
    begun_s: Mapped[int]


class DeviceKeyRow(Base):
    """A key by which a device is let in. hash: SHA-256 of the key, which is shown once; made_s: when, seconds since
    1970."""

    __tablename__ = "device_key"

    id: Mapped[int] = mapped_column(primary_key=True)
    name: Mapped[str]
    hash: Mapped[str] = mapped_column(unique=True)
    made_s: Mapped[int]


class LogKind(StrEnum):
    """What an entry of the log is. CHANGE: of the shop, CHECK: what was measured against what was wanted, JOB: what
    happened with a wheel to be made, all three written by themselves; CORRECTION: of an entry before."""

    CHANGE = "change"
    CHECK = "check"
    JOB = "job"
    DONE = "done"
    NOTE = "note"
    CORRECTION = "correction"


class Outcome(StrEnum):
    """How a piece of work came out."""

    RAN_FREE = "ran_free"
    TIGHT = "tight"
    SCRAPPED = "scrapped"


class LogRow(Base):
    """An entry of the log, which is only ever added to. at: UTC; by: initials, if any; machine: its name then, and
    machine_id its number, which no other machine ever has; ask, train: as they were typed and named; outcome: an
    `Outcome`, or empty; code, about: of a change or a job, what its sentence needs; about: of a check, its figures;
    change_id: of a change, its number; corrects: the entry that this one strikes through: a correction, or an undo."""

    __tablename__ = "log"
    __table_args__ = (
        Index("log_of_machine", "machine_id", "ask"),
        Index("log_of_machine_kind", "machine_id", "kind"),
        Index("log_of_kind", "kind"),
        Index("log_corrected", "corrects"),
        Index("log_of_change", "change_id"),
    )

    id: Mapped[int] = mapped_column(primary_key=True)
    at: Mapped[str]
    by: Mapped[str] = mapped_column(default="")
    kind: Mapped[str] = mapped_column(OneOf(LogKind))
    machine: Mapped[str] = mapped_column(default="")
    machine_id: Mapped[int | None]
    job_id: Mapped[int | None]
    change_id: Mapped[int | None]
    ask: Mapped[str] = mapped_column(default="")
    train: Mapped[str] = mapped_column(default="")
    outcome: Mapped[str] = mapped_column(default="")
    note: Mapped[str] = mapped_column(default="")
    code: Mapped[str] = mapped_column(default="")
    about: Mapped[dict[str, Any]] = mapped_column(JSON, default=dict)
    corrects: Mapped[int | None]


class LogAsideRow(Base):
    """An entry that came with a file, aside while the taking in of that file is undone: by its number, as it was."""

    __tablename__ = "log_aside"

    id: Mapped[int] = mapped_column(primary_key=True)
    entry: Mapped[dict[str, Any]] = mapped_column(JSON)


class PinRow(Base):
    """A set-up of a machine that is kept at hand: the ask, and the train as the log names it."""

    __tablename__ = "pin"
    __table_args__ = (UniqueConstraint("machine_id", "ask", "train"), _NUMBERED)

    id: Mapped[int] = mapped_column(primary_key=True)
    machine_id: Mapped[int] = mapped_column(ForeignKey("machine.id"))
    ask: Mapped[str]
    train: Mapped[str]


class TaskState(StrEnum):
    """How it stands with something that is to be done. LATER: after all others; SKIPPED: not today."""

    OPEN = "open"
    LATER = "later"
    SKIPPED = "skipped"
    DONE = "done"


class TaskRow(Base):
    """Something that is to be done, as it was typed. machine_id: the machine that it is done on, None for a wheel to be
    made, and where no machine of the shop does it; after: the task that comes before it; begun: when the machine was
    set up for it, done: when it was done, both UTC and empty before; entry: the log's entry of that; held: the chuck,
    arbor or fixture that the work is held in, empty where nobody said."""

    __tablename__ = "task"
    __table_args__ = (_NUMBERED,)

    id: Mapped[int] = mapped_column(primary_key=True)
    ask: Mapped[str]
    machine_id: Mapped[int | None]
    after: Mapped[int | None]
    state: Mapped[str] = mapped_column(OneOf(TaskState), default=TaskState.OPEN)
    begun: Mapped[str] = mapped_column(default="")
    done: Mapped[str] = mapped_column(default="")
    entry: Mapped[int | None]
    held: Mapped[str] = mapped_column(default="", server_default="")
