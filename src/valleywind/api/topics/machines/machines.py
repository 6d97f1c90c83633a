"""Machines, their wheels, and what is mounted on them."""

from typing import Literal

from fastapi import APIRouter
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import InSession, ToWrite
from valleywind.api.drawing import ToothOutline, outlines
from valleywind.api.fields import PutOnFor
from valleywind.api.parameters import InUnits, Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.versions import check_text
from valleywind.app.kinds import facts_of, mounted_on, mounting
from valleywind.app.kinds.lathe import not_known, screw_text
from valleywind.app.wheels import left_out_text
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY
from valleywind.core.trains.model import parse_stock, spell_stock
from valleywind.core.units import spell
from valleywind.shop import heads, record_parts
from valleywind.shop import machines as shop
from valleywind.shop.models import MachineRow, WheelFamilyRow
from valleywind.wording.numbers import Units
from valleywind.wording.rack.rack import family_text

router = APIRouter(prefix="/machines", tags=["machines"], responses=RESPONSES)


class FamilyOut(BaseModel):
    name: str
    pitch_system: Literal["module", "dp", "cp"]
    pitch_value: str = Field(description="Exact, as a decimal or fraction", examples=["12"])
    module_mm: float
    pressure_angle_deg: float
    bore_mm: float
    key_mm: float
    face_mm: float
    text: str = Field(examples=["12 DP, 14.5°, bore 7/8 in, key 3/16 in, face 5/8 in"])


class Fact(BaseModel):
    label: str = Field(examples=["Lead screw"])
    text: str = Field(examples=["6 tpi"])


class MachineOut(BaseModel):
    slug: str
    name: str
    kind: str
    note: str
    example: bool = Field(description="Its figures are an example's and not confirmed yet")
    archived: bool = Field(description="Put away: kept, and planned for no more")
    screw: str | None = Field(description="The lead screw's pitch as it is stated", examples=["6 tpi"])
    facts: list[Fact] = Field(description="What is on record of it, in words")
    not_known: list[str] = Field(description="What is not known of a lathe, and so is not looked at")
    family: FamilyOut | None = Field(description="Null where no wheels go on it, or their pitch is not known")
    divides: bool = Field(description="Whether work is divided on it")
    takes_wheels: bool = Field(description="Whether change wheels go on it")
    mounted: str | None = Field(description="The train on the machine now", examples=["36/64*32/78"])
    mounted_text: str | None = Field(examples=["36/64 × 32/78"])


class WheelOut(BaseModel):
    teeth: int
    count: int = Field(description="How many are held; 0 for a wheel known to be missing")
    mounted: int = Field(description="How many of them are on the machine now")
    place: str
    note: str


class ShelfOut(BaseModel):
    machine: str
    wheels: list[WheelOut] = Field(description="Ascending by tooth number")
    held: str = Field(description="What it has, as `wheels` takes it back", examples=["24 28 32x2 36"])
    outlines: list[ToothOutline]
    left_out: str | None = Field(description="Wheels in its box that no train is planned with, and why")


class WheelsIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"wheels": "24 28 32x2 36"}]})

    wheels: str = Field(description="All wheels of the machine, doubles as `32x2`", max_length=2000)
    seen: str | None = Field(None, description="`held` as it was when this was typed over", max_length=4000)


class MountedIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"train": "76/66*32/78"}]})

    train: str | None = Field(description="The train now on the machine; null when it is bare", max_length=80)
    ask: PutOnFor = ""
    seen: str | None = Field(
        None, description="What was on it when this was asked, empty for a bare machine", max_length=80
    )


class MountedOut(BaseModel):
    train: str | None


def _family(row: WheelFamilyRow) -> FamilyOut:
    family = shop.family(row)
    return FamilyOut(
        name=row.name,
        pitch_system=family.pitch.system.value,
        pitch_value=spell(family.pitch.value),
        module_mm=float(family.module),
        pressure_angle_deg=float(family.pressure_angle),
        bore_mm=float(family.bore),
        key_mm=float(family.key),
        face_mm=float(family.face),
        text=family_text(family),
    )


def machine_out(row: MachineRow, units: Units = Units.MM) -> MachineOut:
    """The machine's facts, the screw said as it was stated, lengths in the reader's units."""
    on = mounted_on(row)
    return MachineOut(
        slug=row.slug,
        name=row.name,
        kind=row.kind,
        note=row.note,
        example=row.example,
        archived=row.archived,
        screw=screw_text(row.lathe) if row.lathe else None,
        facts=[Fact(label=label, text=text) for label, text in facts_of(row, units)],
        not_known=not_known(row, shop.lathe(row) if row.lathe else None),
        family=_family(row.family) if row.family else None,
        divides=record_parts.has(row, heads.HEAD),
        takes_wheels=shop.takes_wheels(row),
        mounted=on.name if on else None,
        mounted_text=on.text if on else None,
    )


@router.get("")
def list_machines(session: InSession, units: InUnits = Units.MM) -> list[MachineOut]:
    """All machines of the shop, those put away too, in the order in which they were added."""
    return [machine_out(row, units) for row in shop.every(session)]


class ArchivedIn(BaseModel):
    archived: bool = Field(description="Put away: kept, and planned for no more")


@router.put("/{machine}/archived")
def archive_machine(machine: Slug, wanted: ArchivedIn, session: ToWrite) -> MachineOut:
    """Put a machine away, or take it into use again. Its wheels, its jobs and its plate stay as they are."""
    row = shop.machine(session, machine)
    shop.archive(session, row, wanted.archived)
    return machine_out(row)


@router.get("/{machine}")
def get_machine(machine: Slug, session: InSession, units: InUnits = Units.MM) -> MachineOut:
    """One machine."""
    return machine_out(shop.machine(session, machine), units)


def _shelf(row: MachineRow) -> ShelfOut:
    on = shop.on_machine(row)
    held = shop.stock(row)
    own = {w.teeth: w for w in shop.of_its_kind(row)}
    known = sorted({*held, *own})
    return ShelfOut(
        machine=row.slug,
        wheels=[
            WheelOut(teeth=t, count=held.get(t, 0), mounted=on[t], place=own[t].place if t in own else "",
                     note=own[t].note if t in own else "")
            for t in known
        ],
        held=spell_stock(held),
        outlines=outlines(set(known), shop.family(row.family) if row.family else UNKNOWN_FAMILY),
        left_out=left_out_text(row),
    )  # fmt: skip


@router.get("/{machine}/wheels")
def get_wheels(machine: Slug, session: InSession) -> ShelfOut:
    """The machine's wheels with their true outlines: held, mounted, missing."""
    return _shelf(shop.machine(session, machine))


@router.put("/{machine}/wheels")
def put_wheels(machine: Slug, wheels: WheelsIn, session: ToWrite) -> ShelfOut:
    """Say which wheels the machine has. A wheel it had and has no more stays on the shelf as missing."""
    row = shop.machine(session, machine)
    wanted = parse_stock(wheels.wheels, "wheels")
    check_text(wheels.seen, "wheels", spell_stock(wanted), spell_stock(shop.stock(row)))
    shop.set_wheels(session, row, wanted)
    return _shelf(row)


@router.put("/{machine}/mounted")
def put_mounted(machine: Slug, mounted: MountedIn, session: ToWrite) -> MountedOut:
    """Record which train is on the machine now."""
    row = shop.machine(session, machine)
    shop.lathe(row)  # refused where it is none
    on = mounting(row, mounted.train)
    check_text(mounted.seen, "train", on.name, on.before)
    on.put(session, mounted.ask)
    return MountedOut(train=on.name or None)
