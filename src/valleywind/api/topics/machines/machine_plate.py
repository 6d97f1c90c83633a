"""The plate of a machine: read while it is typed, kept, put into the record, compared with what the wheels can do."""

from typing import Annotated, Literal

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import LONG, InSession, ToWrite
from valleywind.api.parameters import Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.machines.machines import Fact, MachineOut, machine_out
from valleywind.api.versions import check_text
from valleywind.app import machine_plates as plates
from valleywind.app.kinds.plate import PlateKind
from valleywind.core.plate.plate import JudgedLine, Plate
from valleywind.core.plate.text import MOST_TEXT
from valleywind.core.trains.model import spell_stock
from valleywind.shop import machine_plates as shop
from valleywind.shop import machines
from valleywind.shop.models import MachineRow
from valleywind.wording import plate as words
from valleywind.wording.trains import train_text

router = APIRouter(prefix="/machine-plates", tags=["machines"], responses=RESPONSES)

KindName = Annotated[
    str, Field(max_length=60, description="Whose plate it is", json_schema_extra={"enum": list(plates.KINDS)})
]
Lines = Annotated[
    str,
    Field(
        max_length=MOST_TEXT, description="The plate, a line of it to a line", examples=["20 tpi 30 60\n10 tpi 60 60"]
    ),
]


class PlateToRead(BaseModel):
    """A plate as typed, of a machine of the shop or of one that is not there yet."""

    kind: KindName
    lines: Lines
    machine: Annotated[str, Field(max_length=60)] | None = Field(None, description="The machine's short name")


class ChangeOfLineOut(BaseModel):
    """A change that makes a line agree."""

    text: str = Field(examples=["55 for 56"])
    line: str = Field(description="The line with it, as it would be typed; empty where that cannot be told")


class PlateLineOut(BaseModel):
    """A line of the plate, and what it is found to be."""

    number: int = Field(description="Of the typed text, from 1")
    text: str
    target: str = Field(description="What it wants, as typed", examples=["20 tpi"])
    train: str = Field(examples=["30/60"])
    step: str = Field(description="Where the levers are; empty where the plate does not say")
    standing: Literal["agrees", "approximate", "wrong", "alone"]
    says: str = Field(examples=["Agrees with the others with 55 for 56."])
    changes: list[ChangeOfLineOut]
    right: str = Field(
        description="The line as it should stand, empty where that is not clear", examples=["20 tpi 30/60"]
    )


class UnreadLineOut(BaseModel):
    number: int
    text: str
    says: str


class PlateChoiceOut(BaseModel):
    """A machine that the plate fits: what would go into the record."""

    facts: list[Fact]


class MachinePlateOut(BaseModel):
    """What a plate gives."""

    kind: KindName
    says: str
    reading: str = Field(description="How its columns are read")
    lines: list[PlateLineOut]
    unread: list[UnreadLineOut]
    choices: list[PlateChoiceOut] = Field(description="What the machine may be, the most usual first")
    steps: list[list[Fact]] = Field(
        description="What each position multiplies the turns by; of positions that multiply each lever by itself"
    )
    wheels: str = Field(description="The maker's wheels, doubles as 32x2", examples=["20 30x2 40"])
    lacking: str = Field(description="Those of them that are not in the machine's box")
    open: list[str] = Field(description="What the plate leaves open, and what would settle it")


class KeptPlateOut(BaseModel):
    """A machine's plate as it is kept."""

    kind: KindName
    machine: str
    name: str
    lines: str
    plate: MachinePlateOut | None = Field(description="Null where none is kept")


class MachinePlateIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"lines": "20 tpi 30 60\n10 tpi 60 60"}]})

    lines: Lines = Field(description="Empty takes the plate away")
    seen: Annotated[str, Field(max_length=MOST_TEXT)] | None = Field(
        None, description="The plate as it was when this was typed over"
    )


class PlateUse(BaseModel):
    """What of a kept plate goes into the record."""

    choice: int = Field(0, ge=0, le=1000, description="Which of `choices`")
    wheels: bool = Field(False, description="Put the maker's wheels that are lacking into the machine's box")


class MachineFromPlate(PlateUse):
    """A new machine, known by its plate alone."""

    kind: KindName
    name: Annotated[str, Field(max_length=60)]
    lines: Lines


class LineTrainOut(BaseModel):
    """What the wheels can do for a line, beside what the plate says."""

    number: int
    train: str = Field(description="The best train, empty where none goes on")
    says: str = Field(examples=["the same", "better: exact"])


@router.post("/read")
def read_machine_plate(body: PlateToRead, session: InSession) -> MachinePlateOut:
    """What a plate gives, while it is typed."""
    row = machines.machine(session, body.machine) if body.machine else None
    kind = plates.kind_of(row) if row is not None else plates.kind_named(body.kind)
    plate = plates.read(kind, body.lines, row)
    return _plate_out(kind, plate, row)


@router.post("")
def add_machine_from_plate(body: MachineFromPlate, session: ToWrite) -> MachineOut:
    """Add a machine from its plate: its constants, its levers, and its wheels where they are wanted."""
    kind = plates.kind_named(body.kind)
    return machine_out(plates.new(session, kind, body.name, body.lines, body.choice, body.wheels))


@router.get("/{machine}")
def get_machine_plate(machine: Slug, session: InSession) -> KeptPlateOut:
    """A machine's plate as it was typed, and what it gives."""
    row = machines.machine(session, machine)
    kind, plate = plates.kind_of(row), plates.plate_of(row)
    shown = _plate_out(kind, plate, row) if plate is not None else None
    return KeptPlateOut.model_validate(
        {"kind": kind.name, "machine": row.slug, "name": row.name, "lines": shop.lines(row), "plate": shown}
    )


@router.put("/{machine}")
def put_machine_plate(machine: Slug, typed: MachinePlateIn, session: ToWrite) -> KeptPlateOut:
    """Keep a machine's plate as typed."""
    row = machines.machine(session, machine)
    check_text(typed.seen, "lines", typed.lines, shop.lines(row))
    plates.save(session, row, typed.lines)
    return get_machine_plate(machine, session)


@router.post("/{machine}/record")
def use_machine_plate(machine: Slug, body: PlateUse, session: ToWrite) -> MachineOut:
    """Put what the plate gives into the machine's record."""
    return machine_out(plates.use(session, machines.machine(session, machine), body.choice, body.wheels))


@router.get("/{machine}/trains", dependencies=[LONG])
def get_trains_of_plate(machine: Slug, session: InSession) -> list[LineTrainOut]:
    """For each line of a machine's plate the best train of the wheels held, beside the plate's own."""
    comparisons = plates.compared(machines.machine(session, machine))
    return [LineTrainOut(number=one.number, train=one.train, says=one.says) for one in comparisons]


def _plate_out(kind: PlateKind, plate: Plate, row: MachineRow | None) -> MachinePlateOut:
    lacking = spell_stock(plates.lacking(row, plate)) if row is not None else ""
    named = {" ".join(filter(None, step)): factor for step, factor in plate.steps.items()}
    levers = plate.columns or ((named,) if any(named) else ())
    return MachinePlateOut.model_validate(
        {
            "kind": kind.name, "says": words.plate_says(plate, kind.words),
            "reading": words.reading_says(plate.reading),
            "lines": [_line(line, kind) for line in plate.lines],
            "unread": [
                UnreadLineOut(number=u.number, text=u.text, says=words.unread_says(u, kind.words)) for u in plate.unread
            ],
            "choices": [
                PlateChoiceOut(facts=[Fact(label=kind.words.fields[field], text=text) for field, text in choice.fields])
                for choice in kind.choices(plate, row)
            ],
            "steps": [
                [Fact(label=label, text=f"× {factor}") for label, factor in lever.items() if label] for lever in levers
            ],
            "wheels": spell_stock(plate.wheels), "lacking": lacking, "open": words.open_says(plate, kind.words),
        }
    )  # fmt: skip


def _line(line: JudgedLine, kind: PlateKind) -> PlateLineOut:
    right = line.right if line.clear or not line.changes else None
    return PlateLineOut(
        number=line.line.number, text=line.line.text, target=line.target.text, train=train_text(line.train),
        step=" ".join(filter(None, line.step)), standing=line.standing.value, says=words.line_says(line, kind.words),
        changes=[ChangeOfLineOut(text=words.change_text(c), line=c.typed) for c in line.changes[:3]],
        right=f"{right.target.text} {train_text(right.train)}" if right is not None else "",
    )  # fmt: skip
