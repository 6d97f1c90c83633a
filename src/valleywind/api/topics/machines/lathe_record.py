"""A lathe's record: as typed, drawn live while it is typed, kept."""

from fractions import Fraction
from typing import Annotated, Literal

from fastapi import APIRouter, Path, Query
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import InSession, ToWrite
from valleywind.api.fields import LongTyped
from valleywind.api.parameters import InUnits, Slug
from valleywind.api.problems import RESPONSES, field_problem
from valleywind.api.topics.machines.its_wheels import ItsWheels, put_wheels, wheels_text
from valleywind.api.topics.machines.machines import MachineOut, machine_out
from valleywind.api.topics.machines.quadrant_record import PreviewOut, QuadrantIO, RecordTrial, preview, shown_quadrant
from valleywind.api.versions import Version, check_version
from valleywind.app.kinds.lathe import screw_text
from valleywind.core.lathe.record import TypedLathe, read_record
from valleywind.core.refusal import Refusal, Refusals
from valleywind.core.trains.direction import Hand, Sense
from valleywind.core.trains.quadrant_record import Readings, from_calipers
from valleywind.core.units import parse_length, spell
from valleywind.shop import examples, rack
from valleywind.shop import machines as shop
from valleywind.shop.examples import Example
from valleywind.shop.models import MachineRow
from valleywind.wording import machines as words
from valleywind.wording import trains
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/lathe-records", tags=["machines"], responses=RESPONSES)


class LatheRecordIO(QuadrantIO, ItsWheels):
    """A lathe as it is typed; lengths bare are mm, angles degrees, empty where there is none.

    Three facts are enough for a new one: its screw, its wheels and how the first shaft turns.
    """

    model_config = ConfigDict(
        json_schema_extra={"examples": [{"name": "Linnet", "screw": "8 tpi", "wheels": "20 25 30x2 40 50 60 127"}]}
    )

    name: Annotated[str, Field(max_length=60)]
    note: Annotated[str, Field(max_length=300)] = ""
    example: bool = Field(False, description="Its figures are an example's and not confirmed yet")
    family: int | None = Field(None, ge=0, le=2**53, description="Family of its wheels; null: pitch not known")
    screw: LongTyped = Field(examples=["6 tpi"])
    screw_hand: Hand = Hand.RIGHT
    first: LongTyped = Field("1", description="First-shaft turns per spindle turn; several as name=ratio, with commas")
    reverse_lever: bool = True
    first_shaft_turns: Sense | None = Field(None, description="Seen from the gear end, lever forward")
    screw_turns_right_hand: Sense | None = Field(None, description="For a right-hand thread, screw right-hand")
    box: LongTyped = Field("", description="Gearbox steps as name=ratio, with commas")
    first_drivers: LongTyped = ""
    last_driven: LongTyped = ""
    pairs: LongTyped = Field("", examples=["127/120"])
    dials: LongTyped = Field("", description="Thread dials as teeth/marks", examples=["24/8"])
    feed_along: LongTyped = ""
    feed_across: LongTyped = ""
    version: Version = None

    def typed(self) -> TypedLathe:
        return TypedLathe(**self.facts(TypedLathe))


class PreviewIn(RecordTrial):
    record: LatheRecordIO


class CalipersOut(BaseModel):
    """Figures as the record's fields take them, mm to a hundredth; empty where they were not measured."""

    apart: str = Field(examples=["134.16"])
    first_x: str
    first_y: str
    nearest: str
    farthest: str


@router.get("/calipers")
def take_readings(
    over: Annotated[str, Query(description="Over the outsides of first and last shaft", max_length=40)],
    first: Annotated[str, Query(description="Diameter at the first shaft", max_length=40)],
    last: Annotated[str, Query(description="Diameter at the last shaft", max_length=40)],
    stud: Annotated[str, Query(description="Diameter at the stud", max_length=40)] = "",
    inner: Annotated[str, Query(description="Over stud and last shaft, stud at the inner end", max_length=40)] = "",
    outer: Annotated[str, Query(description="Over stud and last shaft, stud at the outer end", max_length=40)] = "",
    height: Annotated[str, Query(description="How much higher the first shaft stands", max_length=40)] = "",
    side: Annotated[Literal["right", "left"], Query(description="On which side, seen from the gear end")] = "right",
) -> CalipersOut:
    """Distance of the shafts, and the slot, from caliper readings over the outsides."""
    typed = {"over": over, "first": first, "last": last, "stud": stud, "inner": inner, "outer": outer, "height": height}
    wanted = ("over", "first", "last")
    read = {n: float(parse_length(t, field=n).mm) for n, t in typed.items() if t.strip() or n in wanted}
    taken = from_calipers(Readings(**read))
    x, y = taken.first_shaft or (None, None)
    figures = (taken.apart, -x if x is not None and side == "left" else x, y, taken.nearest, taken.farthest)
    return CalipersOut.model_validate(
        dict(zip(CalipersOut.model_fields, ("" if f is None else f"{f:.2f}" for f in figures), strict=True))
    )


class ExampleOut(BaseModel):
    name: Example
    text: str = Field(examples=["A small metric bench lathe"])


@router.get("/examples")
def list_examples() -> list[ExampleOut]:
    """Ready lathes to start from."""
    return [ExampleOut(name=e, text=words.EXAMPLES[e.value]) for e in Example]


@router.post("/examples/{example}")
def add_example(example: Annotated[Example, Path(description="Which one")], session: ToWrite) -> MachineOut:
    """Add a ready lathe with its wheels, marked as an example until its figures are confirmed."""
    return machine_out(examples.add(session, example))


@router.post("/preview")
def preview_record(body: PreviewIn, session: InSession, units: InUnits = Units.MM) -> PreviewOut:
    """The record drawn while it is typed, and whether a train known to go on does so by it."""
    record = body.record
    shown = preview(record.typed(), rack.family(session, record.family), body, trains.LATHE_SHAFTS, units)
    try:
        read_record(record.typed())
    except Refusal as refused:
        first = field_problem(refused)
        shown.problems = [first, *(p for p in shown.problems if p.field != first.field)]
    return shown


@router.get("/{machine}")
def get_record(machine: Slug, session: InSession) -> LatheRecordIO:
    """A lathe's record as its fields show it."""
    return _record_out(shop.machine(session, machine))


@router.post("")
def add_lathe(record: LatheRecordIO, session: ToWrite) -> MachineOut:
    """Add a lathe with its wheels."""
    refusals = Refusals()
    held = refusals.read(record.held, dict[int, int]())
    refusals.read(lambda: read_record(record.typed()), None)
    refusals.raise_all()
    row = _save(session, None, record)
    if held:
        shop.add_wheels(session, row, held)
    return machine_out(row)


@router.put("/{machine}")
def change_lathe(machine: Slug, record: LatheRecordIO, session: ToWrite) -> MachineOut:
    """Make a lathe what the record says."""
    row = shop.machine(session, machine)
    check_version(record.version, row.version, record.as_it_will_be(row), _record_out(row))
    put_wheels(session, row, record)
    return machine_out(_save(session, row, record))


def _save(session: ToWrite, row: MachineRow | None, record: LatheRecordIO) -> MachineRow:
    read = read_record(record.typed())
    more = shop.Particulars(
        record.note.strip(), record.screw_hand, record.first_shaft_turns, record.screw_turns_right_hand,
        record.reverse_lever, rack.family(session, record.family), record.example,
    )  # fmt: skip
    return shop.save_lathe(session, row, read, more)


def _record_out(row: MachineRow) -> LatheRecordIO:
    shop.lathe(row)  # refuses what is no lathe
    assert row.lathe is not None
    lathe = row.lathe

    def steps(rows: list[list[str]]) -> str:
        return ", ".join(ratio if name == ratio else f"{name}={ratio}" for name, ratio in rows)

    def feed(mm: Fraction | None) -> str:
        return f"{spell(mm)} mm" if mm is not None else ""

    return LatheRecordIO(
        name=row.name, note=row.note, family=row.family_id, example=row.example,
        screw=screw_text(lathe),
        screw_hand=Hand(lathe.screw_hand), first=steps(lathe.first_steps), reverse_lever=lathe.reverse_lever,
        first_shaft_turns=_sense(lathe.first_shaft_turns), screw_turns_right_hand=_sense(lathe.screw_turns_right_hand),
        box=steps(lathe.box_steps), first_drivers=" ".join(map(str, lathe.first_drivers)),
        last_driven=" ".join(map(str, lathe.last_driven)),
        pairs=", ".join(f"{one}/{other}" for one, other in lathe.pairs),
        dials=", ".join(f"{teeth}/{marks}" for teeth, marks in lathe.dials),
        feed_along=feed(lathe.feed_along_mm), feed_across=feed(lathe.feed_across_mm),
        version=row.version, wheels=wheels_text(row), **shown_quadrant(row.quadrant),
    )  # fmt: skip


def _sense(text: str | None) -> Sense | None:
    return None if text is None else Sense(text)
