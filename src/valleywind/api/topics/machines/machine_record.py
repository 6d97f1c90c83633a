"""Records of machines that are no lathes, as they are typed: hobbers, mills, heads, rotary tables."""

from dataclasses import asdict, fields
from typing import TYPE_CHECKING, Annotated, Any, Literal

from fastapi import APIRouter
from pydantic import BaseModel, Field, create_model

from valleywind.api.access import InSession, ToWrite
from valleywind.api.fields import LongTyped, Number, Typed
from valleywind.api.parameters import InUnits, Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.machines.its_wheels import ItsWheels, put_wheels, wheels_text
from valleywind.api.topics.machines.machines import MachineOut, machine_out
from valleywind.api.topics.machines.quadrant_record import PreviewOut, QuadrantIO, RecordTrial, preview, shown_quadrant
from valleywind.api.versions import Version, check_version
from valleywind.app.kinds import PART_WORDS, PARTS, RECORDS, record_kind
from valleywind.app.records import delete
from valleywind.core.refusal import Refusal
from valleywind.core.trains.box_record import TypedBox
from valleywind.core.trains.quadrant_record import TypedQuadrant
from valleywind.shop import machines, rack, record_parts, records
from valleywind.shop.models import MachineRow
from valleywind.wording import trains
from valleywind.wording.numbers import Units
from valleywind.wording.record_form import PartWords, Words

router = APIRouter(prefix="/machine-records", tags=["machines"], responses=RESPONSES)


class BoxIO(BaseModel):
    """A box for change wheels of a machine."""

    quadrant: QuadrantIO = Field(default_factory=QuadrantIO)
    turns: Literal["", "even", "odd"] = Field(
        "", description="Number of meshes with which it turns the right way without a lever; empty: not known"
    )
    lever: bool = Field(False, description="A lever or reversing gear turns it the other way")
    posts: Typed = Field("", description="Its posts from the first shaft on", examples=["22 x 60, 20 x 55 worn"])

    def typed(self) -> TypedBox:
        """As the core takes it."""
        return TypedBox(TypedQuadrant(**self.quadrant.facts(TypedQuadrant)), self.turns, self.lever, self.posts)


def _field(words: Words) -> Any:
    """A field of a record in a request, after its one definition."""
    if words.tick:
        return bool, Field(False, description=words.label)
    choices = ", ".join(f"`{word}`" if word else "empty" for word, _ in words.options)
    description = f"{words.label}: {choices}" if choices else words.label
    return (LongTyped if words.long else Typed), Field("", description=description, examples=[words.example])


def _model(part: PartWords) -> type[BaseModel]:
    """The fields of a part in a request, each as it is typed."""
    # What a field holds before anything is typed is the core's to say.
    usual = {f.name: f.default for f in fields(part.typed)}
    made = {name: _field(words) for name, words in part.fields.items()}
    for name, (_, about) in made.items():
        about.default = usual[name]
    boxes: Any = {}
    if part.boxes:
        known: Any = Literal[tuple(box.box for box in part.boxes)]
        about = Field(default_factory=dict, description="Its boxes for change wheels, as far as they are known")
        boxes = {"boxes": (dict[known, BoxIO], about)}
    return create_model(f"{part.name.capitalize()}IO", __doc__=f"{part.what}.", **made, **boxes)


class MachineBase(ItsWheels):
    """A machine as typed, with the parts that its kind has."""

    kind: Annotated[str, Field(max_length=60, json_schema_extra={"enum": list(RECORDS)})]
    name: Annotated[str, Field(max_length=60)]
    note: Annotated[str, Field(max_length=300)] = ""
    family: Number | None = Field(None, description="The family of its wheels; null for none")
    arm: QuadrantIO | None = Field(None, description="What carries a head's gears, where it is known")
    version: Version = None

    def parts(self) -> dict[str, Any]:
        """Its parts by name, as the core takes them."""
        return {name: typed for name in PART_WORDS if (typed := self._part(name)) is not None}

    def _part(self, name: str) -> Any:
        sent: BaseModel | None = getattr(self, name)
        if sent is None:
            return None
        facts = {field: getattr(sent, field) for field in type(sent).model_fields}
        if "boxes" in facts:
            facts["boxes"] = {box: one.typed() for box, one in facts["boxes"].items()}
        return PART_WORDS[name].typed(**facts)


if TYPE_CHECKING:
    MachineRecordIO = MachineBase
else:
    MachineRecordIO = create_model(
        "MachineRecordIO",
        __base__=MachineBase,
        __doc__=MachineBase.__doc__,
        __config__=None,
        **{
            part.name: (_model(part) | None, Field(None, description=f"What {part.a} has on record; null for none"))
            for part in PART_WORDS.values()
        },
    )


class ArmTrial(RecordTrial):
    arm: QuadrantIO
    box: Annotated[str, Field(max_length=40)] | None = Field(
        None, description="Which box of the machine it is; null for a head's arm", examples=["index", "lead"]
    )
    family: Number | None = Field(None, description="The family of the gears")


@router.post("/preview")
def preview_arm(body: ArmTrial, session: InSession, units: InUnits = Units.MM) -> PreviewOut:
    """A head's arm, a hobber's box or a mill's lead drive drawn while it is typed; whether a known train goes on."""
    typed = TypedQuadrant(**body.arm.facts(TypedQuadrant))
    boxes = {box.box: box.shafts for part in PART_WORDS.values() for box in part.boxes}
    if body.box is not None and body.box not in boxes:
        raise Refusal("not_one_of", "box", body.box, known=list(boxes))
    names = boxes[body.box] if body.box is not None else trains.HEAD_SHAFTS
    return preview(typed, rack.family(session, body.family), body, names, units)


@router.get("/{machine}")
def get_machine_record(machine: Slug, session: InSession) -> MachineRecordIO:
    """A machine's record, every field so that it can be typed over."""
    return _record_out(machines.machine(session, machine))


def _record_out(row: MachineRow) -> MachineRecordIO:
    record_kind(row.kind)
    parts = {p.name: asdict(record_parts.as_typed(row, p)) for p in PARTS.values() if record_parts.has(row, p)}
    return MachineRecordIO.model_validate(
        {
            "kind": row.kind, "name": row.name, "note": row.note, "family": row.family_id, "version": row.version,
            "wheels": wheels_text(row), "arm": shown_quadrant(row.quadrant) if row.quadrant else None, **parts,
        }
    )  # fmt: skip


@router.post("")
def add_machine_record(record: MachineRecordIO, session: ToWrite) -> MachineOut:
    """Add a machine that is no lathe, with its wheels."""
    held = record.held()
    row = _saved(session, None, record)
    if held and not machines.takes_wheels(row):
        raise Refusal("takes_no_wheels", "wheels", record.kind)
    if held:
        machines.add_wheels(session, row, held)
    return machine_out(row)


@router.put("/{machine}")
def put_machine_record(machine: Slug, record: MachineRecordIO, session: ToWrite) -> MachineOut:
    """Make a machine's record what is typed."""
    put_wheels(session, machines.machine(session, machine), record)
    return machine_out(_saved(session, machine, record))


def _saved(session: ToWrite, machine: str | None, record: MachineRecordIO) -> MachineRow:
    row = machines.machine(session, machine) if machine is not None else None
    if row is not None:
        check_version(record.version, row.version, record.as_it_will_be(row), _record_out(row))
    arm = TypedQuadrant(**record.arm.facts(TypedQuadrant)) if record.arm else None
    typed = records.TypedMachine(
        record_kind(record.kind, row).kind, record.name, record.note.strip(), record.parts(), arm
    )
    return records.save(session, row, typed, rack.family(session, record.family))


@router.delete("/{machine}")
def remove_machine(machine: Slug, session: ToWrite) -> list[str]:
    """Take a machine out of the shop; its wheels stay in the rack. Answers the machines left."""
    delete(session, machines.machine(session, machine))
    return [row.slug for row in machines.machines(session)]
