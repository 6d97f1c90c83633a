"""Boxes put together, a machine's full set against what lies there, photographs, and how to get a wheel."""

from collections import Counter
from fractions import Fraction
from typing import Annotated, Any

from fastapi import APIRouter, Depends, Path, Query, Response
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import LONG, InSession, ToWrite, ToWriteAtLength
from valleywind.api.drawn_files import BINARY
from valleywind.api.fields import Typed, small_picture
from valleywind.api.parameters import InUnits, Slug
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.rack.rack import RackDone, done
from valleywind.api.versions import check_text
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.cutters import range_of_eight, serving
from valleywind.core.teeth.donors import adapting, least_bar
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH
from valleywind.core.teeth.sets import SetComparison, compare
from valleywind.core.trains.model import parse_stock, spell_stock
from valleywind.core.units import parse_length
from valleywind.shop import machines, photos, rack, sources, stores
from valleywind.shop.models import MachineRow, WheelFamilyRow
from valleywind.wording.numbers import Units
from valleywind.wording.rack import stores as words

router = APIRouter(prefix="/rack", tags=["rack"], responses=RESPONSES)

JPEG: dict[int | str, dict[str, Any]] = {200: {"content": {"image/jpeg": {"schema": BINARY}}}}
FamilyNumber = Annotated[int, Path(ge=1, le=2**53, description="The family of the wheel")]
Teeth = Annotated[int, Path(ge=FEWEST_TEETH, le=MOST_TEETH, description="Its tooth number")]


class MergeIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"place": "second box", "into": "peg board"}]})

    place: Typed = Field(description="The box that is emptied")
    into: Typed = Field(description="Where everything in it goes")


class PlaceOut(BaseModel):
    place: str
    records: int = Field(description="Records of wheels that lie there")


class FullSetIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"wheels": "24 28 32x2 36"}]})

    wheels: str = Field(description="The maker's list, doubles as `32x2`; empty for none", max_length=2000)
    seen: str | None = Field(None, description="The list that was typed over", max_length=4000)


class WheelCount(BaseModel):
    teeth: int
    count: int


class FullSetOut(BaseModel):
    listed: str = Field(description="The maker's list as kept")
    held: list[WheelCount] = Field(description="Listed and there")
    missing: list[WheelCount] = Field(description="Listed, not there")
    double: list[WheelCount] = Field(description="More than the list has")
    foreign: list[WheelCount] = Field(description="Not in the list")
    family: int | None = Field(description="The family of its wheels, for noting what is missing")
    texts: list[str]


class DonorOut(BaseModel):
    record: int
    teeth: int
    text: str


class BarUse(BaseModel):
    bar: int
    name: str
    text: str


class SourcesOut(BaseModel):
    head: str
    donors: list[DonorOut] = Field(description="Held wheels that can be turned down and cut anew, best first")
    donors_text: str
    bars: list[BarUse] = Field(description="Bar pieces that give it, least waste first")
    bars_text: str
    cutter: str = Field(description="Which held cutter cuts it, or which is wanted")


class BoughtOut(BaseModel):
    steps: list[str] = Field(description="What the bought wheel needs; none where it fits as it is")
    text: str


@router.get("/places")
def get_places(session: InSession) -> list[PlaceOut]:
    """The boxes, drawers and boards where wheels lie."""
    return [PlaceOut(place=place, records=n) for place, n in rack.places(session).items()]


@router.post("/merge")
def merge_boxes(merge: MergeIn, at_length: ToWriteAtLength) -> RackDone:
    """Empty one box into another; wheels alike are counted together."""
    return at_length(True, lambda session: done(rack.merge(session, merge.place.strip(), merge.into.strip())))


@router.get("/sets/{machine}")
def get_full_set(machine: Slug, session: InSession) -> FullSetOut:
    """A machine's full set as its maker listed it, against what lies there."""
    return _full_set(machines.machine(session, machine))


@router.put("/sets/{machine}")
def put_full_set(machine: Slug, listed: FullSetIn, session: ToWrite) -> FullSetOut:
    """Keep a maker's list. Nothing in the rack is changed by it."""
    row = machines.machine(session, machine)
    wanted = spell_stock(parse_stock(listed.wheels, "wheels")) if listed.wheels.strip() else ""
    check_text(listed.seen, "wheels", wanted, row.full_set)
    machines.list_full_set(session, row, wanted)
    return _full_set(row)


def _full_set(row: MachineRow) -> FullSetOut:
    there: Counter[int] = Counter()
    for wheel in row.wheels:
        if wheel.family is row.family:
            there[wheel.teeth] += wheel.count
    compared = compare(parse_stock(row.full_set, "wheels"), there) if row.full_set else SetComparison({}, {}, {}, {})

    def counts(of: dict[int, int]) -> list[WheelCount]:
        return [WheelCount(teeth=teeth, count=n) for teeth, n in of.items()]

    return FullSetOut(
        listed=row.full_set, held=counts(compared.held), missing=counts(compared.missing),
        double=counts(compared.double), foreign=counts(compared.foreign), family=row.family_id,
        texts=words.set_texts(compared, row.name) if row.full_set else [],
    )  # fmt: skip


@router.post("/photos", dependencies=[LONG])
def add_photo(
    photo: Annotated[
        bytes, Depends(small_picture)
    ],  # before the session: nothing is decoded while others wait to write
    session: ToWrite,
    wheel: Annotated[int, Query(ge=0, le=2**53, description="The wheel's number")],
) -> RackDone:
    """Keep a photograph with a wheel; the one it had comes back with undo."""
    return done([rack.keep_photo(session, wheel, photos.keep(session, photo))])


@router.get("/photos/{name}", response_class=Response, responses=JPEG)
def get_photo(name: Annotated[str, Path(description="Its name", examples=["0a1b"])], session: InSession) -> Response:
    """A photograph as JPEG."""
    return Response(photos.picture(session, name), media_type="image/jpeg")


@router.get("/sources/{family}/{teeth}", dependencies=[LONG])
def get_sources(
    family: FamilyNumber,
    teeth: Teeth,
    session: InSession,
    blanks: Annotated[int, Query(ge=1, le=20, description="How many are to be made")] = 1,
    units: InUnits = Units.MM,
) -> SourcesOut:
    """How to get a wheel: a larger one re-cut, a piece of bar, and the cutter for it."""
    row = _family(session, family)
    known = machines.family(row)
    donors = sources.to_cut_down(row, teeth, sources.needed_by_charts(row))
    bars = {b.id: words.bar_text(b.diameter_mm, b.length_mm) for b in stores.bars(session)}
    from_stock = sources.bars_for(session, teeth, known, row.hub_mm, blanks)
    cutters = serving([stores.cutter(c) for c in stores.cutters(session)], known, teeth)
    diameter, length = least_bar(teeth, known, row.hub_mm, blanks)
    return SourcesOut(
        head=words.sources_head(teeth, known),
        donors=[DonorOut(record=d.held.record, teeth=d.held.teeth, text=words.donor_text(d, units)) for d in donors],
        donors_text="" if donors else words.no_donor(teeth),
        bars=[
            BarUse(bar=f.bar.record, name=f"{f.bar.material}, {bars[f.bar.record]}",
                   text=words.from_bar_text(f, units))
            for f in from_stock
        ],
        bars_text=words.bar_needed(diameter, length, blanks, units, bool(from_stock)),
        cutter=words.cutter_for(cutters, known, teeth, range_of_eight(teeth)),
    )  # fmt: skip


@router.get("/bought/{family}")
def get_bought(
    family: FamilyNumber,
    session: InSession,
    bore: Annotated[str, Query(max_length=40, description="Its bore as typed", examples=["20 mm"])],
    face: Annotated[str, Query(max_length=40, description="Its face width", examples=["16 mm"])],
    key: Annotated[str, Query(max_length=40, description="Its keyway; empty for none", examples=["5 mm"])] = "",
    hub: Annotated[str, Query(max_length=40, description="Its hub beyond the face", examples=["8 mm"])] = "",
    units: InUnits = Units.MM,
) -> BoughtOut:
    """What a wheel bought with the right pitch, angle and count needs so that it goes where this family goes."""
    row = _family(session, family)

    def size(text: str, field: str) -> Fraction:
        return parse_length(text, field=field).mm if text.strip() else Fraction(0)

    steps = adapting(
        machines.family(row), row.hub_mm, size(bore, "bore"), size(key, "key"), size(face, "face"), size(hub, "hub")
    )
    texts = [words.step_text(step, units) for step in steps]
    return BoughtOut(steps=texts, text=words.bought_head(machines.family(row), len(texts)))


def _family(session: InSession, number: int) -> WheelFamilyRow:
    row = rack.family(session, number)
    if row is None:
        raise Refusal("no_such_family", "family", number)
    return row
