"""A lathe's record: as typed, drawn live while it is typed, kept."""

import math
from fractions import Fraction
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import InSession
from valleywind.api.drawing import Drawing, DrawnShaft, DrawnSlot, Spot, ToothOutline, draw, outlines
from valleywind.api.lathe import InUnits
from valleywind.api.machines import MachineOut, Slug, machine_out, screw_text
from valleywind.api.problems import RESPONSES, FieldProblem, field_problem
from valleywind.core.lathe.machine import Lathe, SetUp, Step
from valleywind.core.lathe.plan import candidate_for
from valleywind.core.lathe.record import TypedLathe, TypedSlot, from_calipers, read_quadrant, read_record
from valleywind.core.lathe.thread import ThreadAsk
from valleywind.core.refusal import Refused
from valleywind.core.trains.direction import Drive, Hand, Sense
from valleywind.core.trains.model import parse_train
from valleywind.core.trains.quadrant import Quadrant
from valleywind.core.units import parse_length, spell
from valleywind.shop import machines as shop
from valleywind.shop import rack
from valleywind.shop.models import MachineRow
from valleywind.wording import lathe as words
from valleywind.wording import trains
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/lathe-records", tags=["machines"], responses=RESPONSES)

Typed = Annotated[str, Field(max_length=600)]


class SlotRecord(BaseModel):
    offset: Typed = Field("0", description="Degrees from the first slot")
    nearest: Typed
    farthest: Typed


class LatheRecordIO(BaseModel):
    """A lathe as it is typed; lengths bare are mm, angles degrees, empty where there is none."""

    model_config = ConfigDict(json_schema_extra={"examples": [{"name": "Wren", "screw": "8 tpi", "family": 1}]})

    name: Annotated[str, Field(max_length=60)]
    note: Annotated[str, Field(max_length=300)] = ""
    family: int | None = Field(None, ge=0, le=2**53, description="Family of its wheels, by number")
    screw: Typed = Field(examples=["6 tpi"])
    screw_hand: Hand = Hand.RIGHT
    first: Typed = Field("1", description="First-shaft turns per spindle turn; several as name=ratio, with commas")
    reverse_lever: bool = True
    first_shaft_turns: Sense = Field(Sense.CLOCKWISE, description="Seen from the gear end, lever forward")
    screw_turns_right_hand: Sense = Field(Sense.CLOCKWISE, description="For a right-hand thread, screw right-hand")
    box: Typed = Field("", description="Gearbox steps as name=ratio, with commas")
    first_drivers: Typed = ""
    last_driven: Typed = ""
    pairs: Typed = Field("", examples=["127/120"])
    dials: Typed = Field("", description="Thread dials as teeth/marks", examples=["24/8"])
    feed_along: Typed = ""
    feed_across: Typed = ""
    first_x: Typed = ""
    first_y: Typed = ""
    swing_low: Typed = ""
    swing_high: Typed = ""
    boss_first: Typed = ""
    boss_stud: Typed = ""
    boss_last: Typed = ""
    gap: Typed = "0.5"
    studs: Typed = "2"
    slots: list[SlotRecord] = Field([], max_length=4)
    cover: Typed = Field("", description="Corners as x y, with commas between")

    def typed(self) -> TypedLathe:
        names = TypedLathe.__dataclass_fields__.keys() - {"slots"}
        slots = tuple(TypedSlot(s.offset, s.nearest, s.farthest) for s in self.slots)
        return TypedLathe(**{n: getattr(self, n) for n in names}, slots=slots)


class PreviewIn(BaseModel):
    record: LatheRecordIO
    train: Annotated[str, Field(max_length=80)] = Field(
        "", description="A train known to go on, to try the record with"
    )
    swing_deg: float | None = Field(None, ge=-360, le=360, description="Where the quadrant is drawn without a train")


class PreviewOut(BaseModel):
    problems: list[FieldProblem] = Field(description="Fields that cannot be used yet")
    drawing: Drawing | None
    outlines: list[ToothOutline]
    train_text: str | None = Field(description="Whether the train goes on, and why not")
    train_fits: bool | None


class CalipersOut(BaseModel):
    x_mm: float
    y_mm: float
    first_boss_radius_mm: float
    last_boss_radius_mm: float


@router.get("/calipers")
def place_from_calipers(
    over: Annotated[str, Query(description="Over the outsides of both bosses", max_length=40)],
    first_boss: Annotated[str, Query(description="Diameter at the first shaft", max_length=40)],
    last_boss: Annotated[str, Query(description="Diameter at the last shaft", max_length=40)],
    height: Annotated[str, Query(description="How much higher the first shaft stands", max_length=40)],
    side: Annotated[Literal["right", "left"], Query(description="On which side, seen from the gear end")] = "right",
) -> CalipersOut:
    """Where the first shaft is, from caliper readings over the bosses."""
    readings = {"over": over, "first_boss": first_boss, "last_boss": last_boss, "height": height}
    found = {name: float(parse_length(text, field=name).mm) for name, text in readings.items()}
    x, y = from_calipers(found["over"], found["first_boss"], found["last_boss"], found["height"])
    return CalipersOut(
        x_mm=x if side == "right" else -x, y_mm=y,
        first_boss_radius_mm=found["first_boss"] / 2, last_boss_radius_mm=found["last_boss"] / 2,
    )  # fmt: skip


@router.post("/preview")
def preview_record(asked: PreviewIn, session: InSession, units: InUnits = Units.MM) -> PreviewOut:
    """The record drawn while it is typed, and whether a train known to go on does so by it."""
    problems = []
    try:
        read_record(asked.record.typed())
    except Refused as refused:
        problems.append(field_problem(refused))
    try:
        quadrant = read_quadrant(asked.record.typed())
    except Refused:
        return PreviewOut(problems=problems, drawing=None, outlines=[], train_text=None, train_fits=None)
    bare = PreviewOut(
        problems=problems, drawing=_bare(quadrant, asked.swing_deg), outlines=[], train_text=None, train_fits=None
    )
    family_row = rack.family(session, asked.record.family)
    if not asked.train.strip() or family_row is None:
        return bare
    try:
        train = parse_train(asked.train)
    except Refused as refused:
        return bare.model_copy(update={"problems": [*problems, field_problem(refused)]})
    drive = Drive(asked.record.first_shaft_turns, asked.record.screw_turns_right_hand, True)
    lathe = Lathe(asked.record.name, Fraction(1), (Step("1", Fraction(1)),), drive, shop.family(family_row), quadrant)
    held = dict.fromkeys(train.teeth, 9)
    found = candidate_for(SetUp(train, lathe.usual), ThreadAsk(train.ratio), lathe, held, None)
    reasons = words.reasons(found, units)
    text = (
        f"{trains.train_text(train)} goes on: {trains.room(found.placement, units)}."
        if not reasons
        else (f"{trains.train_text(train)} does not go on: {'; '.join(reasons)}.")
    )
    return PreviewOut(
        problems=problems,
        drawing=draw(found, lathe, None, Hand.RIGHT, units),
        outlines=outlines(set(train.teeth), lathe.family),
        train_text=text,
        train_fits=not reasons,
    )


@router.get("/{machine}")
def get_record(machine: Slug, session: InSession) -> LatheRecordIO:
    """A lathe's record as its fields show it."""
    return _shown(shop.machine(session, machine))


@router.post("")
def add_lathe(record: LatheRecordIO, session: InSession) -> MachineOut:
    """Enter a new lathe."""
    return _save(session, None, record)


@router.put("/{machine}")
def change_lathe(machine: Slug, record: LatheRecordIO, session: InSession) -> MachineOut:
    """Make a lathe what the record says."""
    return _save(session, shop.machine(session, machine), record)


@router.delete("/{machine}")
def remove_machine(machine: Slug, session: InSession) -> list[str]:
    """Take a machine out of the shop, once it has no wheels and no train; answers the machines left."""
    shop.remove(session, shop.machine(session, machine))
    session.flush()
    return [row.slug for row in shop.machines(session)]


def _save(session: InSession, row: MachineRow | None, record: LatheRecordIO) -> MachineOut:
    read = read_record(record.typed())
    family = rack.family(session, record.family)
    if family is None:
        raise Refused("no_family_yet", "family", None)
    more = shop.Particulars(
        record.note.strip(), record.screw_hand, record.first_shaft_turns, record.screw_turns_right_hand,
        record.reverse_lever, family,
    )  # fmt: skip
    return machine_out(shop.save_lathe(session, row, read, more))


def _shown(row: MachineRow) -> LatheRecordIO:
    shop.lathe(row)  # refuses what is no lathe
    assert row.lathe is not None
    assert row.quadrant is not None
    lathe, quadrant = row.lathe, row.quadrant

    def steps(rows: list[list[str]]) -> str:
        return ", ".join(ratio if name == ratio else f"{name}={ratio}" for name, ratio in rows)

    def feed(mm: Fraction | None) -> str:
        return f"{spell(mm)} mm" if mm is not None else ""

    return LatheRecordIO(
        name=row.name, note=row.note, family=row.family_id,
        screw=screw_text(lathe),
        screw_hand=Hand(lathe.screw_hand), first=steps(lathe.first_steps), reverse_lever=lathe.reverse_lever,
        first_shaft_turns=Sense(lathe.first_shaft_turns), screw_turns_right_hand=Sense(lathe.screw_turns_right_hand),
        box=steps(lathe.box_steps), first_drivers=" ".join(map(str, lathe.first_drivers)),
        last_driven=" ".join(map(str, lathe.last_driven)),
        pairs=", ".join(f"{one}/{other}" for one, other in lathe.pairs),
        dials=", ".join(f"{teeth}/{marks}" for teeth, marks in lathe.dials),
        feed_along=feed(lathe.feed_along_mm), feed_across=feed(lathe.feed_across_mm),
        first_x=_figure(quadrant.first_x_mm), first_y=_figure(quadrant.first_y_mm),
        swing_low=_figure(quadrant.swing_low_deg), swing_high=_figure(quadrant.swing_high_deg),
        boss_first=_figure(quadrant.boss_first_mm), boss_stud=_figure(quadrant.boss_stud_mm),
        boss_last=_figure(quadrant.boss_last_mm), gap=_figure(quadrant.gap_mm), studs=str(quadrant.studs),
        slots=[SlotRecord(offset=_figure(s.offset_deg), nearest=_figure(s.nearest_mm), farthest=_figure(s.farthest_mm))
               for s in quadrant.slots],
        cover=", ".join(f"{_figure(x)} {_figure(y)}" for x, y in quadrant.cover_mm or []),
    )  # fmt: skip


def _figure(value: float) -> str:
    """As the field takes it back, to a hundred-thousandth."""
    return f"{value:.5f}".rstrip("0").rstrip(".")


def _bare(quadrant: Quadrant, swing_deg: float | None) -> Drawing:
    """The quadrant without wheels, in the middle of its swing or where it is asked to stand."""
    swing = math.radians(swing_deg) if swing_deg is not None else sum(quadrant.swing) / 2
    first, _, last = quadrant.bosses
    x, y = quadrant.first_shaft
    names = trains.LATHE_SHAFTS
    return Drawing(
        hand="right",
        shafts=[
            DrawnShaft(name=names.first, x_mm=x, y_mm=y, boss_radius_mm=first, slot=None, radius_mm=None),
            DrawnShaft(name=names.last, x_mm=0, y_mm=0, boss_radius_mm=last, slot=None, radius_mm=None),
        ],
        wheels=[],
        meshes=[],
        slots=[
            DrawnSlot(
                name=trains.slot_name(n), angle_rad=swing + s.offset, nearest_mm=s.nearest, farthest_mm=s.farthest
            )
            for n, s in enumerate(quadrant.slots)
        ],
        swing_deg=math.degrees(swing),
        cover=[Spot.at(p) for p in quadrant.cover] if quadrant.cover else None,
        clearances=[],
    )
