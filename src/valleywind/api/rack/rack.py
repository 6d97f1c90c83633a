"""The rack: families, wheels, a pile typed fast, changes in bulk with a way back, and what an unknown wheel is."""

from collections import Counter
from fractions import Fraction
from typing import Annotated, Any, Literal

from fastapi import APIRouter, Body, Query, Response
from pydantic import BaseModel, BeforeValidator, ConfigDict, Field
from sqlalchemy.orm import Session

from valleywind.api.access import LONG, InSession, ToWrite
from valleywind.api.drawing import DrawnTool, ToothOutline, outlines
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES, Side, Stale, field_problem
from valleywind.api.tables import CSV, csv_response
from valleywind.api.versions import as_text
from valleywind.core.refusal import Refused
from valleywind.core.teeth.geometry import span_teeth
from valleywind.core.teeth.identify import (
    Identity,
    Observed,
    TipMethod,
    ToMeasure,
    could_be_of,
    identify,
    measure_next,
)
from valleywind.core.teeth.pile import Condition, parse_pile
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH, Pitch, PitchSystem, WheelFamily, allowed_angle
from valleywind.core.units import parse_length, parse_number, parse_whole
from valleywind.formats import rack_csv
from valleywind.shop import machines, rack
from valleywind.shop.models import WheelFamilyRow, WheelRow
from valleywind.wording.numbers import Units
from valleywind.wording.rack import rack as words

router = APIRouter(prefix="/rack", tags=["rack"], responses=RESPONSES)

Typed = Annotated[str, Field(max_length=40)]
# A whole number as typed; an older shop kept them as numbers.
Whole = Annotated[str, BeforeValidator(lambda v: str(v) if type(v) is int else v), Field(max_length=40)]
# As large as a number of a record can be kept.
Number = Annotated[int, Field(ge=0, le=2**53)]
# Bores, keys, faces and hubs of change wheels stay below this, mm.
_LARGEST_SIZE = Fraction(500)
# Drawn for a wheel that nobody has recognised: its size from its readings, or a plain one.
_PLAIN_PITCH = Pitch(PitchSystem.MODULE, parse_number("1.25"))
_PLAIN = WheelFamily("", _PLAIN_PITCH, *map(parse_number, ("20", "10", "0", "10")))


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
    measured: dict[str, Any] = Field(description="Readings of a wheel not yet recognised")
    photo: str = Field(description="Name of its photograph; empty where there is none")
    version: int = Field(description="Counts its changes; sent with a change, so that nobody else's is overwritten")
    stray: str | None = Field(description="Why it goes with nothing here")
    counted_for: str | None = Field(description="The lathe it was counted for, where its pitch is not known yet")


class RackOut(BaseModel):
    families: list[RackFamily]
    wheels: list[RackWheel]
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


class RackWheelSeen(BaseModel):
    """What somebody saw of a wheel who now changes it."""

    id: Number
    version: Number
    family: Number | None = None
    machine: str | None = None
    teeth: int
    count: int
    condition: Condition
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
    material: Typed | None = None
    place: Typed | None = None
    note: Annotated[str, Field(max_length=200)] | None = None
    seen: list[RackWheelSeen] = Field(
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


class ReadingsIn(BaseModel):
    """What was counted and measured of one wheel; lengths as typed, empty where not measured."""

    teeth: Whole = Field(examples=["46"])
    tip_diameter: Typed = ""
    tip_method: TipMethod = TipMethod.CALIPER
    span_teeth: Whole = ""
    span: Typed = ""
    span_next: Typed = Field("", description="The span over one tooth more")
    pin: Typed = Field("", description="Diameter of the two pins")
    over_pins: Typed = ""
    mate: Whole = Field("", description="Teeth of a wheel of the same pitch that it was meshed with; empty for none")
    centres: Typed = Field("", description="Distance of their centres, meshed closely")
    bore: Typed = ""
    face: Typed = ""
    worn: bool = False


class IdentifyIn(BaseModel):
    wheels: list[ReadingsIn] = Field(
        description="Wheels of one set; the first is the one asked about", min_length=1, max_length=12
    )
    keep: Number | None = Field(None, description="A wheel of the rack to keep the first one's readings with")


class IdentityOut(BaseModel):
    text: str = Field(examples=["20 DP, 14.5°"])
    system: Literal["module", "dp", "cp"]
    value: str
    pressure_angle: float | None
    stub: bool
    probability: float
    likelihood: str
    residuals: list[str]
    families: list[int] = Field(description="Families of the rack that it agrees with")


class NextOut(BaseModel):
    what: Literal["tip", "span", "next_span", "pins"]
    over: int
    tool: DrawnTool = Field(description="How it sits on the likeliest wheel")


class IdentifyOut(BaseModel):
    identities: list[IdentityOut]
    next_text: str
    next: NextOut | None
    span_teeth: int = Field(description="Over how many teeth a span is best taken")
    outline: ToothOutline = Field(description="The wheel as the likeliest identity draws it")


@router.get("")
def get_rack(session: InSession) -> RackOut:
    """Everything in the rack: families with their doubles and gaps, wheels with their strays."""
    rows = rack.wheels(session)
    on: Counter[int] = Counter()
    for machine in machines.machines(session):
        on.update(machines.mounted_records(machine))
    return RackOut(
        families=[_family(row) for row in rack.families(session)],
        wheels=[_wheel(row, on[row.id]) for row in rows],
        unknown=[_unknown(row) for row in rows if row.family is None],
    )


@router.post("/wheels")
def add_wheels(pile: PileIn, session: ToWrite) -> RackDone:
    """Put a pile of wheels into the rack."""
    shared = {
        "family_id": rack.family(session, pile.family) and pile.family,
        "machine_id": machines.machine(session, pile.machine).id if pile.machine else None,
        "material": pile.material.strip(), "place": pile.place.strip(), "note": pile.note.strip(),
    }  # fmt: skip
    entries = parse_pile(pile.wheels)
    return done(rack.plan_for(session, entries, shared) if pile.planned else rack.add(session, entries, shared))


@router.patch("/wheels")
def edit_wheels(edit: EditIn, session: ToWrite) -> RackDone:
    """Change the same things of one wheel or of many."""
    given = edit.model_dump(exclude_unset=True, exclude={"ids", "seen"})
    changed: dict[str, Any] = {k: v for k, v in given.items() if k not in ("family", "machine") and v is not None}
    if "family" in given:
        rack.family(session, edit.family)
        changed["family_id"] = edit.family
    if "machine" in given:
        changed["machine_id"] = machines.machine(session, edit.machine).id if edit.machine else None
    if "condition" in changed:
        changed["condition"] = Condition(changed["condition"]).value
    _check_seen(session, edit, given)
    return done(rack.change(session, edit.ids, changed))


def _check_seen(session: Session, edit: EditIn, given: dict[str, Any]) -> None:
    """Raises Stale where somebody else changed since then what is to be changed now."""
    sides: list[Side] = []
    for seen in edit.seen:
        row = rack.wheel(session, seen.id)
        if row.version == seen.version:
            continue
        now, then = _wheel(row, 0).model_dump(), seen.model_dump()
        sides += [
            Side(field=f"{row.teeth}: {name}", yours=as_text(wanted), theirs=as_text(now[name]))
            for name, wanted in given.items()
            if now[name] != then[name] and as_text(now[name]) != as_text(wanted)
        ]
    if sides:
        raise Stale(sides, {})


@router.delete("/wheels")
def remove_wheels(
    wheel: Annotated[list[Number], Query(description="Numbers of the wheels", max_length=2000)], session: ToWrite
) -> RackDone:
    """Take wheels out of the rack. One that is on a machine is kept, with what to do instead."""
    rack.remove(session, wheel)
    return RackDone(ids=wheel)


class CsvLineOut(BaseModel):
    number: int = Field(description="Line of the file, the headings being 1")
    cells: dict[str, str]
    problem: str | None = Field(description="What is wrong with it, at which column")


class ImportOut(BaseModel):
    lines: list[CsvLineOut] = Field(description="The first lines, and every line that cannot be used, up to a hundred")
    good: int
    bad: int
    done: bool = Field(description="They were put in")


@router.get("/wheels.csv", response_class=Response, responses=CSV)
def get_csv(session: InSession) -> Response:
    """The rack as a table for a spreadsheet. Cells that look like formulas are made texts."""
    lines = [
        rack_csv.CsvWheel(
            row.teeth, row.count, row.family.name if row.family else "", row.machine.name if row.machine else "",
            Condition(row.condition), row.material, row.place, row.note,
        )
        for row in rack.wheels(session)
    ]  # fmt: skip
    return csv_response(rack_csv.write(lines), "rack.csv")


@router.post("/wheels.csv", dependencies=[LONG])
def read_csv(
    file: Annotated[bytes, Body(media_type="text/csv", description="The file, UTF-8")],
    session: ToWrite,
    put: Annotated[bool, Query(description="Put the wheels in; else only say what would be")] = False,
) -> ImportOut:
    """Read wheels from a CSV file: line by line what is wrong, and all of it put in or nothing."""
    families = {row.name: row.id for row in rack.families(session)}
    owners = {row.name: row.id for row in machines.machines(session)}
    lines = rack_csv.read(file, list(families), list(owners))
    bad = [line for line in lines if line.wheel is None]
    putting = put and not bad
    if putting:
        rack.put_records(session, [_as_record(line.wheel, families, owners) for line in lines if line.wheel])
    return ImportOut(
        lines=[_csv_line(line) for line in (bad + [line for line in lines if line.wheel][:8])[:100]],
        good=len(lines) - len(bad),
        bad=len(bad),
        done=putting,
    )


def _as_record(wheel: rack_csv.CsvWheel, families: dict[str, int], owners: dict[str, int]) -> rack.Record:
    return {
        "teeth": wheel.teeth, "count": wheel.count, "family_id": families.get(wheel.family),
        "machine_id": owners.get(wheel.machine), "condition": wheel.condition.value, "material": wheel.material,
        "place": wheel.place, "note": wheel.note, "measured": {}, "photo": "",
    }  # fmt: skip


def _csv_line(line: rack_csv.CsvLine) -> CsvLineOut:
    if line.refused is None:
        return CsvLineOut(number=line.number, cells=dict(line.cells), problem=None)
    said = field_problem(line.refused)
    return CsvLineOut(
        number=line.number, cells=dict(line.cells), problem=f"{line.refused.field}: {said.says} {said.would_do}"
    )


@router.post("/families")
def add_family(family: FamilyIn, session: ToWrite) -> RackFamily:
    """Add a family of wheels: what they share."""

    def size(text: str, field: str) -> Fraction:
        found = parse_length(text, field=field).mm if text.strip() else Fraction(0)
        if found > _LARGEST_SIZE:
            raise Refused("size_out_of_range", field, text, most=_LARGEST_SIZE)
        return found

    wanted = WheelFamily(
        family.name.strip(),
        Pitch(PitchSystem(family.system), parse_number(family.pitch, "pitch")),
        allowed_angle(parse_number(family.angle.removesuffix("°"), "angle")),
        size(family.bore, "bore"),
        size(family.key, "key"),
        size(family.face, "face"),
        parse_number("0.8") if family.stub else parse_number("1"),
    )
    return _family(rack.add_family(session, wanted, size(family.hub, "hub"), family.system))


@router.post("/identify")
def identify_wheel(asked: IdentifyIn, session: ToWrite, units: InUnits = Units.MM) -> IdentifyOut:
    """What a wheel is, from counted teeth and measurements, and what to measure next."""
    seen = [_observed(readings) for readings in asked.wheels]
    identities = identify(seen)
    next_measure = measure_next(seen[0], identities)
    first, rival = identities[0], identities[1]
    if asked.keep is not None:
        rack.keep_readings(session, asked.keep, seen[0].teeth, asked.wheels[0].model_dump(mode="json"))
    return IdentifyOut(
        identities=[_identity(i, seen[0], session, units) for i in identities if i.probability >= 0.0005],
        next_text=words.next_text(next_measure, words.identity(first), words.identity(rival), units),
        next=_next(next_measure, first.family),
        span_teeth=min(span_teeth(seen[0].teeth, first.family), seen[0].teeth - 1),
        outline=outlines({seen[0].teeth}, first.family)[0],
    )


def _observed(readings: ReadingsIn) -> Observed:
    def mm(text: str, field: str) -> float | None:
        return float(parse_length(text, field=field).mm) if text.strip() else None

    teeth = parse_whole(readings.teeth, "teeth", FEWEST_TEETH, MOST_TEETH, "teeth")
    spanned = bool(readings.span.strip() or readings.span_next.strip())
    over = parse_whole(readings.span_teeth, "span_teeth", 2, teeth - 1, "teeth") if spanned else 0
    spans = [
        (over + n, value) for n, value in enumerate((mm(readings.span, "span"), mm(readings.span_next, "span_next")))
    ]
    pin, across = mm(readings.pin, "pin"), mm(readings.over_pins, "over_pins")
    centres = mm(readings.centres, "centres")
    mated = readings.mate.strip() not in ("", "0")
    mate = parse_whole(readings.mate, "mate", FEWEST_TEETH, MOST_TEETH, "teeth") if mated else 0
    if centres is not None and not mate:
        raise Refused("mate_missing", "mate", readings.mate)
    return Observed(
        teeth,
        tip_diameter=mm(readings.tip_diameter, "tip_diameter"),
        tip_method=readings.tip_method,
        spans=tuple((k, value) for k, value in spans if value is not None),
        pins=(pin, across) if pin is not None and across is not None else None,
        centres=(mate, centres) if centres is not None else None,
        bore=mm(readings.bore, "bore"),
        face=mm(readings.face, "face"),
        worn=readings.worn,
    )


def _identity(identity: Identity, seen: Observed, session: InSession, units: Units) -> IdentityOut:
    agrees = [row.id for row in rack.families(session) if could_be_of(identity, seen, machines.family(row))]
    return IdentityOut(
        text=words.identity(identity), system=identity.pitch.system.value, value=str(identity.pitch.value),
        pressure_angle=identity.pressure_angle, stub=identity.addendum < 1, probability=identity.probability,
        likelihood=words.likelihood(identity), residuals=[words.residual(r, units) for r in identity.residuals],
        families=agrees,
    )  # fmt: skip


def _next(to_measure: ToMeasure | None, family: WheelFamily) -> NextOut | None:
    if to_measure is None:
        return None
    return NextOut(what=to_measure.what.value, over=to_measure.over, tool=DrawnTool.of(to_measure.tool(family)))


def done(rows: list[WheelRow]) -> RackDone:
    return RackDone(ids=[row.id for row in rows])


def _family(row: WheelFamilyRow) -> RackFamily:
    known = machines.family(row)
    held = Counter[int]()
    for wheel in row.wheels:
        held[wheel.teeth] += wheel.count
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
        measured=row.measured, photo=row.photo, version=row.version,
        stray=_stray(row, family), counted_for=_counted_for(row),
    )  # fmt: skip


def _counted_for(row: WheelRow) -> str | None:
    here = row.machine is not None and row.family is None and row in machines.of_its_kind(row.machine)
    return row.machine.name if here and row.machine else None


def _stray(row: WheelRow, family: WheelFamily | None) -> str | None:
    one = rack.stray(row)
    return words.stray_text(one, row.machine.name if row.machine else "", family) if one else None


def _unknown(row: WheelRow) -> ToothOutline:
    try:
        identities = identify([_observed(ReadingsIn.model_validate(row.measured | {"teeth": str(row.teeth)}))])[
            0
        ].family
    except (Refused, ValueError):
        identities = _PLAIN
    return outlines({row.teeth}, identities)[0]
