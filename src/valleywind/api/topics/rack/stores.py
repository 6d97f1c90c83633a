"""Form cutters held, with what their sets lack, and bar stock."""

from fractions import Fraction
from typing import Annotated, Literal

from fastapi import APIRouter, Path
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import InSession, ToWrite
from valleywind.api.fields import Typed, Whole
from valleywind.api.problems import RESPONSES
from valleywind.api.versions import Version, check_version
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.cutters import Cutter, read_range, sets
from valleywind.core.teeth.pile import MOST_OF_ONE_COUNT, Condition
from valleywind.core.teeth.pitch import Pitch, PitchSystem, allowed_angle
from valleywind.core.units import parse_degrees, parse_length, parse_number, parse_whole, spell
from valleywind.shop import stores
from valleywind.shop.models import BarRow, CutterRow
from valleywind.wording.rack import stores as words

router = APIRouter(prefix="/stores", tags=["stores"], responses=RESPONSES)


RecordNumber = Annotated[int, Path(ge=0, le=2**53, description="Number of the record")]


class CutterIn(BaseModel):
    """A cutter as typed from what is engraved on it."""

    model_config = ConfigDict(
        json_schema_extra={"examples": [{"system": "dp", "pitch": "12", "angle": "14.5", "range": "55-134"}]}
    )

    system: Literal["module", "dp", "cp"]
    pitch: Typed
    angle: Typed
    range: Typed = Field(description="As engraved: 26-34, 135-rack")
    engraved: Typed = Field("", description="Its number, as it stands there")
    bore: Typed = ""
    depth: Typed = Field("", description="The whole depth, where it is engraved")
    condition: Condition = Condition.GOOD
    count: Whole = "1"
    place: Typed = ""
    note: Annotated[str, Field(max_length=200)] = ""
    version: Version = None


class CutterOut(BaseModel):
    id: int
    range: str = Field(examples=["55–134"])
    numbers: str = Field(description="What it is called in either school, and which one it is numbered by")
    text: str = Field(description="Bore, engraved depth, place, note")
    condition: Condition
    count: int
    typed: CutterIn


class SetPlace(BaseModel):
    """One place of a set of eight."""

    range: str = Field(examples=["26–34"])
    held: int = Field(description="Usable cutters that cut some of it")
    gap: bool = Field(description="None of them cuts all of it")


class CutterSetOut(BaseModel):
    name: str = Field(examples=["12 DP, 14.5°"])
    cutters: list[CutterOut]
    places: list[SetPlace]
    gaps: list[str] = Field(description="Ranges of a set of eight that none of them cuts")
    doubles: list[str]
    counts: str = Field(description="The tooth numbers that can be cut", examples=["12–54 and 135 to a rack"])


class BarIn(BaseModel):
    """A piece of round bar as typed; lengths bare are mm."""

    model_config = ConfigDict(json_schema_extra={"examples": [{"material": "cast iron", "diameter": "130"}]})

    material: Typed
    diameter: Typed
    length: Typed
    place: Typed = ""
    note: Annotated[str, Field(max_length=200)] = ""
    version: Version = None


class BarOut(BaseModel):
    id: int
    material: str
    text: str = Field(examples=["∅130 × 80 mm"])
    diameter_mm: float
    length_mm: float
    place: str
    note: str
    typed: BarIn


class StoresOut(BaseModel):
    sets: list[CutterSetOut]
    bars: list[BarOut]


@router.get("")
def get_stores(session: InSession) -> StoresOut:
    """The cutters by set, with gaps and doubles, and the pieces of bar."""
    rows = stores.cutters(session)
    known: dict[int, tuple[Cutter, CutterRow]] = {}
    for row in rows:
        core = stores.cutter(row)
        known[id(core)] = (core, row)
    return StoresOut(
        sets=[
            CutterSetOut(
                name=words.set_name(cutter_set.pitch, cutter_set.pressure_angle),
                cutters=[_cutter(known[id(cutter)][1], cutter) for cutter in cutter_set.cutters],
                places=[
                    SetPlace(
                        range=words.range_text(r),
                        held=held,
                        gap=cutter_set.lacks(r),
                    )
                    for r, held in cutter_set.places
                ],
                gaps=[words.range_text(r) for r in cutter_set.gaps],
                doubles=[words.range_text(r) for r in cutter_set.doubles],
                counts=words.counts_text(cutter_set.counts),
            )
            for cutter_set in sets([core for core, _ in known.values()])
        ],
        bars=[_bar(row) for row in stores.bars(session)],
    )


@router.post("/cutters")
def add_cutter(cutter: CutterIn, session: ToWrite) -> CutterOut:
    """Add a form cutter."""
    return _saved(session, None, cutter)


@router.put("/cutters/{number}")
def change_cutter(number: RecordNumber, cutter: CutterIn, session: ToWrite) -> CutterOut:
    """Change a form cutter."""
    row = stores.cutter_row(session, number)
    check_version(cutter.version, row.version, cutter, _typed_cutter(row))
    return _saved(session, number, cutter)


@router.delete("/cutters/{number}")
def remove_cutter(number: RecordNumber, session: ToWrite) -> CutterIn:
    """Delete a cutter; answers what it was."""
    row = stores.cutter_row(session, number)
    typed = _typed_cutter(row)
    stores.delete(session, row)
    return typed


@router.post("/bars")
def add_bar(bar: BarIn, session: ToWrite) -> BarOut:
    """Add a piece of bar."""
    return _bar(stores.save_bar(session, None, *_read_bar(bar)))


@router.put("/bars/{number}")
def change_bar(number: RecordNumber, bar: BarIn, session: ToWrite) -> BarOut:
    """Change a piece of bar, as when some of it was cut off."""
    row = stores.bar_row(session, number)
    check_version(bar.version, row.version, bar, _bar(row).typed)
    return _bar(stores.save_bar(session, row, *_read_bar(bar)))


@router.delete("/bars/{number}")
def remove_bar(number: RecordNumber, session: ToWrite) -> BarIn:
    """Delete a piece of bar; answers what it was."""
    row = stores.bar_row(session, number)
    typed = _bar(row).typed
    stores.delete(session, row)
    return typed


def _saved(session: ToWrite, number: int | None, typed: CutterIn) -> CutterOut:
    lowest, highest = read_range(typed.range)
    wanted = Cutter(
        Pitch(PitchSystem(typed.system), parse_number(typed.pitch, "pitch")),
        allowed_angle(parse_degrees(typed.angle, "angle")),
        lowest, highest, typed.engraved.strip(), typed.condition, _size(typed.bore, "bore"),
        _size(typed.depth, "depth"), parse_whole(typed.count, "count", 0, MOST_OF_ONE_COUNT),
    )  # fmt: skip
    return _cutter(stores.save_cutter(session, number, wanted, typed.place.strip(), typed.note.strip()), wanted)


def _size(text: str, field: str) -> Fraction:
    return parse_length(text, field=field).mm if text.strip() else Fraction(0)


def _cutter(row: CutterRow, cutter: Cutter) -> CutterOut:
    return CutterOut(
        id=row.id,
        range=words.range_text((cutter.lowest, cutter.highest)),
        numbers=words.numbers_text(cutter),
        text=words.cutter_text(cutter, row.place, row.note),
        condition=cutter.condition,
        count=cutter.count,
        typed=_typed_cutter(row),
    )


def _typed_cutter(row: CutterRow) -> CutterIn:
    return CutterIn(
        system=PitchSystem(row.pitch_system).value, pitch=spell(row.pitch_value), angle=spell(row.pressure_angle_deg),
        range=f"{row.lowest}-{row.highest or 'rack'}", engraved=row.engraved, bore=words.typed_size(row.bore_mm),
        depth=words.typed_size(row.depth_mm), condition=Condition(row.condition), count=str(row.count), place=row.place,
        note=row.note, version=row.version,
    )  # fmt: skip


def _read_bar(typed: BarIn) -> tuple[str, Fraction, Fraction, str, str]:
    """Material, diameter and length (mm), place, note."""
    if not typed.material.strip():
        raise Refusal("empty", "material", typed.material)
    return (
        typed.material.strip(), parse_length(typed.diameter, field="diameter").mm,
        parse_length(typed.length, field="length").mm, typed.place.strip(), typed.note.strip(),
    )  # fmt: skip


def _bar(row: BarRow) -> BarOut:
    return BarOut(
        id=row.id, material=row.material, text=words.bar_text(row.diameter_mm, row.length_mm),
        diameter_mm=float(row.diameter_mm), length_mm=float(row.length_mm), place=row.place, note=row.note,
        typed=BarIn(
            material=row.material, diameter=words.typed_size(row.diameter_mm), length=words.typed_size(row.length_mm),
            place=row.place, note=row.note, version=row.version,
        ),
    )  # fmt: skip
