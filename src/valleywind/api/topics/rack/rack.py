"""The rack: families, wheels, a pile typed fast, changes in bulk with a way back."""

from collections import Counter, defaultdict
from collections.abc import Callable, Iterable
from enum import StrEnum
from fractions import Fraction
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, ConfigDict, Field
from sqlalchemy.orm import Session

from valleywind.api.access import InSession, ToWrite, ToWriteAtLength
from valleywind.api.drawing import ToothOutline, outlines
from valleywind.api.fields import Number, Typed
from valleywind.api.problems import RESPONSES, Side, Stale
from valleywind.api.topics.rack.identify import outline_of_unknown
from valleywind.api.versions import as_text
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition, parse_pile
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily, allowed_angle
from valleywind.core.units import parse_degrees, parse_length, parse_number
from valleywind.shop import machines, rack
from valleywind.shop.models import MachineRow, WheelFamilyRow, WheelRow
from valleywind.wording.rack import rack as words

router = APIRouter(prefix="/rack", tags=["rack"], responses=RESPONSES)

# Bores, keys, faces and hubs of change wheels stay below this, mm.
_LARGEST_SIZE = Fraction(500)
# To change more wheels than this takes longer than others should wait.
_MANY = 50
_LONGEST_PAGE = 500
_TEETH_TOLD = 12
Why = dict[tuple[int | None, int | None], tuple[str, str]]


class RackFamily(BaseModel):
    id: int
    name: str
    text: str = Field(examples=["12 DP, 14.5°, bore 7/8 in, key 3/16 in, face 5/8 in"])
    pitch: str = Field(examples=["12 DP"])
    machines: list[str] = Field(description="Names of the machines it goes on")
    wheels: int
    gaps: list[int] = Field(description="Tooth numbers known to be missing")
    doubles: list[int]
    outlines: list[ToothOutline]


class RackWheel(BaseModel):
    id: int
    family: int | None
    machine: str | None = Field(description="Slug of the machine it belongs to")
    machine_name: str | None
    teeth: int
    count: int
    mounted: int = Field(description="How many of its tooth number are on its machine now")
    condition: Condition
    material: str
    place: str
    note: str
    measured: dict[str, Any] = Field(description="Readings of a wheel not identified")
    shift: float = Field(description="Profile shift in modules; 0 for none")
    shifted: str = Field(description="That it is shifted, and what that does; empty where it is not")
    photo: str = Field(description="Name of its photograph; empty where there is none")
    version: int = Field(description="Counts its changes; sent with a change, so that nobody else's is overwritten")
    stray: str | None = Field(description="Why it goes with nothing here")
    counted_for: str | None = Field(description="The lathe it was counted for, where its pitch is not known yet")


class StandingOut(BaseModel):
    """Wheels that stand out for one reason."""

    why: str = Field(description="Why they go with nothing here, or the state they are in", examples=["worn"])
    wheels: int = Field(description="How many records they are")
    teeth: list[int] = Field(description="Their tooth numbers, the first twelve")
    ids: list[int] = Field(description="Their numbers, the first 500")


class SortedBy(StrEnum):
    """What the wheels are put in order by. FAMILY: by family and tooth number."""

    FAMILY = "family"
    TEETH = "teeth"
    HELD = "held"
    CONDITION = "condition"
    MACHINE = "machine"
    PLACE = "place"
    MATERIAL = "material"


class RackOut(BaseModel):
    families: list[RackFamily]
    wheels: list[RackWheel] = Field(description="A page of what answers")
    answering: int = Field(description="How many records answer to what is sought")
    next: int | None = Field(description="Where the next page begins; null after the last")
    records: int = Field(description="How many records of wheels there are in all")
    stand_out: list[StandingOut] = Field(description="Those that go with nothing here or are not good, by the reason")
    unknown: list[ToothOutline] = Field(description="Outlines for wheels not recognised, by their readings")


class PileIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"wheels": "40 40 45 50 worn 20", "family": 1}]})

    wheels: str = Field(description="The pile as counted; a condition behind its wheel", max_length=2000)
    family: Number | None = Field(None, description="The family; null for wheels not recognised")
    machine: str | None = Field(None, description="Slug of the machine they belong to")
    material: Typed = ""
    place: Typed = ""
    note: Annotated[str, Field(max_length=200)] = ""
    planned: bool = Field(False, description="Not there yet: to be made or bought; kept as missing")


class SeenRackWheel(BaseModel):
    """What somebody saw of a wheel who now changes it."""

    id: Number
    version: Number
    family: Number | None = None
    machine: str | None = None
    teeth: int
    count: int
    condition: Condition
    shift: float = 0.0
    material: str
    place: str
    note: str


class EditIn(BaseModel):
    """Only what is given is changed."""

    ids: list[Number] = Field(min_length=1, max_length=2000)
    family: Number | None = None
    machine: str | None = Field(None, description="Slug; empty for none")
    teeth: Annotated[int, Field(ge=-(2**53), le=2**53)] | None = None
    count: Annotated[int, Field(ge=-(2**53), le=2**53)] | None = None
    condition: Condition | None = None
    shift: Annotated[float, Field(ge=-2, le=2, description="Profile shift in modules")] | None = None
    material: Typed | None = None
    place: Typed | None = None
    note: Annotated[str, Field(max_length=200)] | None = None
    seen: list[SeenRackWheel] = Field(
        [],
        description="The wheels as they were when this was decided; one left out is changed as it is",
        max_length=2000,
    )


class RackDone(BaseModel):
    """What a change of the rack was about. The header Valleywind-Change of the answer names it, for undo."""

    ids: list[int] = Field(description="Numbers of the wheels")


class FamilyIn(BaseModel):
    model_config = ConfigDict(
        json_schema_extra={"examples": [{"name": "Box from the fair", "system": "dp", "pitch": "20", "angle": "14.5"}]}
    )

    name: Annotated[str, Field(max_length=60)]
    system: Literal["module", "dp", "cp"]
    pitch: Typed
    angle: Typed = "20"
    bore: Typed = Field("", description="As typed: 8 mm, 7/8 in; empty where unknown")
    key: Typed = ""
    face: Typed = ""
    hub: Typed = ""
    stub: bool = False


@router.get("")
def get_rack(
    session: InSession,
    seek: Annotated[str, Query(max_length=100, description="Teeth, or words of state, place, material, note")] = "",
    wheel: Annotated[list[Number] | None, Query(description="Only those with these numbers", max_length=500)] = None,
    by: Annotated[SortedBy, Query(description="What they are put in order by")] = SortedBy.FAMILY,
    down: Annotated[bool, Query(description="The other way round")] = False,
    begin: Annotated[int, Query(ge=0, le=2**53, description="From where on, of what answers")] = 0,
    most: Annotated[int, Query(ge=1, le=_LONGEST_PAGE, description="How many at most")] = _LONGEST_PAGE,
) -> RackOut:
    """The rack: families with their doubles and gaps, and a page of wheels with their strays."""
    every = rack.briefly(session)
    on: Counter[int] = Counter()
    for machine in machines.every(session):
        on.update(machines.mounted_records(session, machine))
    why = _why_stray(session, every)
    named = None if wheel is None else set(wheel)
    some = every if named is None else [w for w in every if w.id in named]
    answering = [w for w in some if _answers(w, seek.lower().split(), *why[w.family_id, w.machine_id])]
    if by is not SortedBy.FAMILY:
        key = _sorted_by(by, {w.machine_id: why[w.family_id, w.machine_id][0] for w in every})
        # What says nothing stands last either way.
        filled, empty = [w for w in answering if key(w) != ""], [w for w in answering if key(w) == ""]
        answering = sorted(filled, key=key, reverse=down) + empty
    shown = rack.in_full(session, answering[begin : begin + most])
    return RackOut(
        families=_families(session, every),
        wheels=[_wheel(row, on[row.id]) for row in shown],
        answering=len(answering),
        next=begin + most if begin + most < len(answering) else None,
        records=len(every),
        stand_out=_standing_out(every, why),
        unknown=[outline_of_unknown(row) for row in shown if row.family is None],
    )


def _sorted_by(by: SortedBy, owners: dict[int | None, str]) -> Callable[[rack.Brief], Any]:
    """What one record is put in order by; an empty text where it says nothing."""
    return {
        SortedBy.FAMILY: lambda w: w.family_id or 0,
        SortedBy.TEETH: lambda w: w.teeth,
        SortedBy.HELD: lambda w: w.count,
        SortedBy.CONDITION: lambda w: w.condition,
        SortedBy.MACHINE: lambda w: owners[w.machine_id].casefold(),
        SortedBy.PLACE: lambda w: w.place.casefold(),
        SortedBy.MATERIAL: lambda w: w.material.casefold(),
    }[by]


def _standing_out(every: Iterable[rack.Brief], why: Why) -> list[StandingOut]:
    briefs: dict[str, list[rack.Brief]] = defaultdict(list)
    for wheel in every:
        stray = why[wheel.family_id, wheel.machine_id][1]
        if wheel.count and (stray or wheel.condition != Condition.GOOD):
            briefs[stray or wheel.condition].append(wheel)
    return [
        StandingOut(
            why=reason,
            wheels=len(wheels),
            teeth=[w.teeth for w in wheels[:_TEETH_TOLD]],
            ids=[w.id for w in wheels[:_LONGEST_PAGE]],
        )
        for reason, wheels in briefs.items()
    ]


def _why_stray(session: Session, wheels: Iterable[rack.Brief]) -> Why:
    """By family and machine that a wheel is of: the machine's name, and why it goes with nothing; empty where it
    does."""
    families = {row.id: row for row in rack.families(session)}
    every = {row.id: row for row in machines.every(session)}
    why = {}
    for kind in {(w.family_id, w.machine_id) for w in wheels}:
        family, machine = families.get(kind[0] or 0), every.get(kind[1] or 0)
        why[kind] = (machine.name if machine else "", _stray(family, machine) or "")
    return why


def _answers(wheel: rack.Brief, sought: list[str], *more: str) -> bool:
    """Whether a wheel is of what is sought: figures are teeth, words stand in what is said of it."""
    text = " ".join((wheel.condition, wheel.material, wheel.place, wheel.note, *more)).lower() if sought else ""
    return all(wheel.teeth == int(w) if w.isascii() and w.isdigit() else w in text for w in sought)


@router.get("/families")
def get_families(session: InSession) -> list[RackFamily]:
    """The families of wheels, with their doubles and gaps."""
    return _families(session, rack.briefly(session))


@router.post("/wheels")
def add_wheels(pile: PileIn, at_length: ToWriteAtLength) -> RackDone:
    """Put a pile of wheels into the rack."""
    return at_length(len(pile.wheels) > 4 * _MANY, lambda session: _added(session, pile))


def _added(session: Session, pile: PileIn) -> RackDone:
    shared = {
        "family_id": rack.family(session, pile.family) and pile.family,
        "machine_id": machines.machine(session, pile.machine).id if pile.machine else None,
        "material": pile.material.strip(), "place": pile.place.strip(), "note": pile.note.strip(),
    }  # fmt: skip
    entries = parse_pile(pile.wheels)
    return done(rack.plan_for(session, entries, shared) if pile.planned else rack.add(session, entries, shared))


@router.patch("/wheels")
def edit_wheels(edit: EditIn, at_length: ToWriteAtLength) -> RackDone:
    """Change the same things of one wheel or of many."""
    return at_length(len(edit.ids) > _MANY, lambda session: _edited(session, edit))


def _edited(session: Session, edit: EditIn) -> RackDone:
    fields = edit.model_dump(exclude_unset=True, exclude={"ids", "seen"})
    changed: dict[str, Any] = {k: v for k, v in fields.items() if k not in ("family", "machine") and v is not None}
    if "family" in fields:
        rack.family(session, edit.family)
        changed["family_id"] = edit.family
    if "machine" in fields:
        changed["machine_id"] = machines.machine(session, edit.machine).id if edit.machine else None
    if "condition" in changed:
        changed["condition"] = Condition(changed["condition"]).value
    _check_seen(session, edit, fields)
    return done(rack.change(session, edit.ids, changed))


def _check_seen(session: Session, edit: EditIn, fields: dict[str, Any]) -> None:
    """Raises Stale where somebody else changed since then what is to be changed now."""
    sides: list[Side] = []
    for seen in edit.seen:
        row = rack.wheel(session, seen.id)
        if row.version == seen.version:
            continue
        now, then = _wheel(row, 0).model_dump(), seen.model_dump()
        sides += [
            Side(field=f"{row.teeth}: {name}", yours=as_text(wanted), theirs=as_text(now[name]))
            for name, wanted in fields.items()
            if now[name] != then[name] and as_text(now[name]) != as_text(wanted)
        ]
    if sides:
        raise Stale(sides, {})


@router.delete("/wheels")
def remove_wheels(
    wheel: Annotated[list[Number], Query(description="Numbers of the wheels", max_length=2000)],
    at_length: ToWriteAtLength,
) -> RackDone:
    """Take wheels out of the rack. One that is on a machine is kept, with what to do instead."""
    at_length(len(wheel) > _MANY, lambda session: rack.remove(session, wheel))
    return RackDone(ids=wheel)


@router.post("/families")
def add_family(family: FamilyIn, session: ToWrite) -> RackFamily:
    """Add a family of wheels: what they share."""

    def size(text: str, field: str) -> Fraction:
        length = parse_length(text, field=field).mm if text.strip() else Fraction(0)
        if length > _LARGEST_SIZE:
            raise Refusal("size_out_of_range", field, text, most=_LARGEST_SIZE)
        return length

    wanted = WheelFamily(
        family.name.strip(),
        Pitch(PitchSystem(family.system), parse_number(family.pitch, "pitch")),
        allowed_angle(parse_degrees(family.angle, "angle")),
        size(family.bore, "bore"),
        size(family.key, "key"),
        size(family.face, "face"),
        parse_number("0.8") if family.stub else parse_number("1"),
    )
    return _family(rack.add_family(session, wanted, size(family.hub, "hub"), family.system), Counter())


def done(rows: list[WheelRow]) -> RackDone:
    return RackDone(ids=[row.id for row in rows])


def _families(session: Session, wheels: Iterable[rack.Brief]) -> list[RackFamily]:
    held: dict[int | None, Counter[int]] = defaultdict(Counter)
    for wheel in wheels:
        held[wheel.family_id][wheel.teeth] += wheel.count
    return [_family(row, held[row.id]) for row in rack.families(session)]


def _family(row: WheelFamilyRow, held: Counter[int]) -> RackFamily:
    known = machines.family(row)
    return RackFamily(
        id=row.id,
        name=row.name,
        text=words.family_text(known),
        pitch=words.family_text(known).split(",")[0],
        machines=[m.name for m in row.machines],
        wheels=sum(held.values()),
        gaps=sorted(t for t, n in held.items() if n == 0),
        doubles=sorted(t for t, n in held.items() if n > 1),
        outlines=outlines(set(held), known),
    )


def _wheel(row: WheelRow, on: int) -> RackWheel:
    family = machines.family(row.family) if row.family else None
    return RackWheel(
        id=row.id, family=row.family_id, machine=row.machine.slug if row.machine else None,
        machine_name=row.machine.name if row.machine else None, teeth=row.teeth, count=row.count,
        mounted=on,
        condition=Condition(row.condition), material=row.material, place=row.place, note=row.note,
        measured=row.measured, shift=row.shift,
        shifted=words.shifted_wheel(row.shift, family), photo=row.photo, version=row.version,
        stray=_stray(row.family, row.machine), counted_for=_counted_for(row),
    )  # fmt: skip


def _counted_for(row: WheelRow) -> str | None:
    here = row.machine is not None and row.family is None and rack.stray(None, row.machine) is None
    return row.machine.name if here and row.machine else None


def _stray(family: WheelFamilyRow | None, machine: MachineRow | None) -> str | None:
    one = rack.stray(family, machine)
    known = machines.family(family) if family else None
    return words.stray_text(one, machine.name if machine else "", known) if one else None
