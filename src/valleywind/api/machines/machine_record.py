"""Records of machines that are no lathes, as they are typed: hobbers, mills, heads, rotary tables."""

from dataclasses import asdict
from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import InSession, ToWrite
from valleywind.api.fields import Number, Typed
from valleywind.api.machines.machines import MachineOut, machine_out
from valleywind.api.machines.quadrant_record import PreviewOut, QuadrantIO, TriedWith, preview, shown_quadrant
from valleywind.api.parameters import InUnits, Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.versions import Version, check_version
from valleywind.core.dividing.heads import TypedHead
from valleywind.core.helix.machine import LEAD_BOX, TypedMill
from valleywind.core.hobbing.machine import Box, TypedHobber
from valleywind.core.refusal import Refused
from valleywind.core.trains.box_record import TypedBox
from valleywind.core.trains.quadrant_record import TypedQuadrant
from valleywind.shop import kinds, machines, rack
from valleywind.shop.models import MachineRow
from valleywind.wording import trains
from valleywind.wording.hobbing.boxes import BOX_SHAFTS
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/machine-records", tags=["machines"], responses=RESPONSES)

Long = Annotated[str, Field(max_length=600)]


class HeadIO(BaseModel):
    """What it divides with."""

    ratio: Typed = Field("", description="Crank turns per turn of the work", examples=["40", "72:1"])
    plates: Long = Field("", description="Circles of each plate side, sides parted by /", examples=["15 18 21 / 16 19"])
    direct: Typed = Field("", description="Holes of plates on the spindle itself", examples=["24 30 36"])
    gears: Long = Field("", description="Its own gears for differential indexing", examples=["24x2 28 32 40"])
    geared: bool = Field(False, description="The plate can be driven from the spindle")
    reads: Typed = Field("", description="The smallest angle its graduations show", examples=["5'"])


class BoxIO(BaseModel):
    """A box for change wheels of a hobber."""

    quadrant: QuadrantIO = Field(default_factory=QuadrantIO)
    turns: Literal["", "even", "odd"] = Field(
        "", description="Number of meshes with which it turns the right way without a lever; empty: not known"
    )
    lever: bool = Field(False, description="A lever or reversing gear turns it the other way")
    posts: Typed = Field("", description="Its posts from the first shaft on", examples=["22 x 60, 20 x 55 worn"])

    def typed(self) -> TypedBox:
        """As the core takes it."""
        return TypedBox(TypedQuadrant(**self.quadrant.facts(TypedQuadrant)), self.turns, self.lever, self.posts)


class HobberIO(BaseModel):
    """The constants of a hobber, what it has room for, and its boxes."""

    index: Typed = Field("", examples=["24 with 40/40, 48 from 97 with 48/24"])
    feed: Typed = Field("", examples=["0.75 mm"])
    differential: Typed = Field("", examples=["25/π mm"])
    swivel: Typed = Field("", description="How far the hob head turns, degrees", examples=["45"])
    table: Typed = Field("", description="`clockwise` or `anticlockwise` from above with a right-hand hob; empty")
    feeds: Typed = Field("down", description="`down`, `up` or `both`")
    taken: Typed = Field("after", description="Feed driven from `after` the differential, or `before` it")
    largest: Typed = Field("", description="Largest wheel", examples=["250 mm"])
    travel: Typed = Field("", description="Travel of the hob along the work", examples=["180 mm"])
    between: Typed = Field("", description="Length of the arbor between centres", examples=["120 mm"])
    boxes: dict[Box, BoxIO] = Field({}, description="Its boxes for change wheels, as far as they are known")

    def typed(self) -> TypedHobber:
        """As the core takes it."""
        plain = self.model_dump(exclude={"boxes"})
        return TypedHobber(**plain, boxes={box: one.typed() for box, one in self.boxes.items()})


class MillIO(BaseModel):
    """Table, head, arbors and lead attachment of a mill; empty where it is not known."""

    screw: Typed = Field("", examples=["6 mm"])
    swing: Typed = Field("", description="How far the table turns, degrees; 0 for a plain one", examples=["45"])
    pairs: Typed = Field(
        "", description="Worm pairs of a lead attachment, turns out : in", examples=["1:2, 1:40 one way"]
    )
    swivel: Typed = Field("", description="How far the cutter’s head swivels, degrees; 0: not at all", examples=["90"])
    pairs_at: Typed = Field("", description="Pairs `before` the change wheels, or `after` them")
    table: Typed = Field("", description="Length and width of the table", examples=["1000 x 250 mm"])
    travel: Typed = Field("", description="How far the table goes along", examples=["500 mm"])
    saddle: Typed = Field("", description="Column to the table’s middle line, near to far", examples=["150 to 350 mm"])
    arbors: Typed = Field(
        "", description="How far from the column each arbor carries a cutter", examples=["200, 400 mm"]
    )
    head_at: Typed = Field("", description="End of the table at which the head stands: `left` or `right`")
    lead: BoxIO = Field(default_factory=BoxIO, description="Where the change wheels of the lead drive go")

    def typed(self) -> TypedMill:
        """As the core takes it."""
        return TypedMill(**self.model_dump(exclude={"lead"}), lead=self.lead.typed())


class MachineRecordIO(BaseModel):
    """A machine as typed, with the parts that its kind has."""

    model_config = ConfigDict(
        json_schema_extra={"examples": [{"kind": "rotary table", "name": "Wigeon", "head": {"ratio": "90"}}]}
    )

    kind: Literal["hobber", "mill", "head", "rotary table", "spin indexer", "collet block"]
    name: Annotated[str, Field(max_length=60)]
    note: Annotated[str, Field(max_length=300)] = ""
    family: Number | None = Field(None, description="The family of its wheels; null for none")
    head: HeadIO | None = None
    hobber: HobberIO | None = None
    mill: MillIO | None = None
    arm: QuadrantIO | None = Field(None, description="What carries a head's gears, where it is known")
    version: Version = None


class ArmTried(TriedWith):
    arm: QuadrantIO
    box: Box | Literal["lead"] | None = Field(
        None, description="Which box of a hobber it is, or a mill's lead drive; null for a head's arm"
    )
    family: Number | None = Field(None, description="The family of the gears")


@router.post("/preview")
def preview_arm(asked: ArmTried, session: InSession, units: InUnits = Units.MM) -> PreviewOut:
    """A head's arm, a hobber's box or a mill's lead drive drawn while it is typed; whether a known train goes on."""
    typed = TypedQuadrant(**asked.arm.facts(TypedQuadrant))
    names = trains.HEAD_SHAFTS
    if asked.box is not None:
        names = trains.LEAD_SHAFTS if asked.box == LEAD_BOX else BOX_SHAFTS[Box(asked.box)]
    return preview(typed, rack.family(session, asked.family), asked, names, units)


@router.get("/{machine}")
def get_machine_record(machine: Slug, session: InSession) -> MachineRecordIO:
    """A machine's record, every field so that it can be typed over."""
    return _shown(machines.machine(session, machine))


def _shown(row: MachineRow) -> MachineRecordIO:
    if row.kind not in kinds.KINDS:
        raise Refused("unknown_kind", "kind", row.kind, known=list(kinds.KINDS))
    return MachineRecordIO.model_validate(
        {
            "kind": row.kind, "name": row.name, "note": row.note, "family": row.family_id,
            "head": vars(kinds.head_as_typed(row)) if row.head else None,
            "hobber": asdict(kinds.hobber_as_typed(row)) if row.hobber else None,
            "mill": asdict(kinds.mill_as_typed(row)) if row.mill else None,
            "version": row.version,
            "arm": shown_quadrant(row.quadrant) if row.quadrant else None,
        }
    )  # fmt: skip


@router.post("")
def add_machine_record(record: MachineRecordIO, session: ToWrite) -> MachineOut:
    """Add a machine that is no lathe."""
    return _saved(session, None, record)


@router.put("/{machine}")
def put_machine_record(machine: Slug, record: MachineRecordIO, session: ToWrite) -> MachineOut:
    """Make a machine's record what is typed."""
    return _saved(session, machine, record)


def _saved(session: ToWrite, machine: str | None, record: MachineRecordIO) -> MachineOut:
    row = machines.machine(session, machine) if machine is not None else None
    if row is not None:
        check_version(record.version, row.version, record, _shown(row))
    typed = kinds.TypedMachine(
        record.kind, record.name, record.note.strip(),
        TypedHead(**record.head.model_dump()) if record.head else None,
        record.hobber.typed() if record.hobber else None,
        record.mill.typed() if record.mill else None,
        TypedQuadrant(**record.arm.facts(TypedQuadrant)) if record.arm else None,
    )  # fmt: skip
    return machine_out(kinds.save(session, row, typed, rack.family(session, record.family)))


@router.delete("/{machine}")
def remove_machine(machine: Slug, session: ToWrite) -> list[str]:
    """Take a machine out of the shop, once it has no wheels and no train; answers the machines left."""
    machines.remove(session, machines.machine(session, machine))
    session.flush()
    return [row.slug for row in machines.machines(session)]
