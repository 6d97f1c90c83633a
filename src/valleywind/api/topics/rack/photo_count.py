"""Wheels counted in a photograph, with the places of their teeth to be painted onto it."""

from typing import Annotated, Any

import numpy as np
from fastapi import APIRouter, Body, Depends, Query
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, ToWrite
from valleywind.api.fields import Number, small_picture
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.rack.identify import ReadingsIn, measures_of
from valleywind.api.topics.rack.rack import RackDone, done
from valleywind.app.photo_count import Lengths, WheelInPhoto, count_photo, lengths_mm
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.identify import TipMethod
from valleywind.core.teeth.photo.counting import WheelPoints
from valleywind.core.teeth.photo.fit import Point
from valleywind.core.teeth.pile import parse_pile
from valleywind.formats.photograph import Circle, Light, light
from valleywind.shop import photos, rack
from valleywind.wording.numbers import Units
from valleywind.wording.rack import photo_count as words

router = APIRouter(prefix="/rack", tags=["rack"], responses=RESPONSES)

Part = Annotated[float, Field(description="Part of the picture's width or height, from left or top")]
Known = Annotated[str, Query(max_length=40, description="As typed, with its unit; empty where it is not known")]
Tapped = Annotated[float | None, Query(ge=0, le=1, description="Where the middle of a wheel is, if somebody shows it")]
OnRim = Annotated[float | None, Query(ge=0, le=1, description="A point on its tips, if somebody shows that too")]
OnTooth = Annotated[float | None, Query(ge=0, le=1, description="The middle of one of its teeth, if that is shown")]
End = Annotated[float | None, Query(ge=0, le=1, description="An end of the known length in the picture")]


class ToothMark(BaseModel):
    x: Part
    y: Part
    doubtful: bool = Field(description="Worn, broken, hidden or not there")


class PhotoWheelOut(BaseModel):
    """A wheel of a picture."""

    teeth: int = Field(description="How many teeth are counted")
    sure: bool = Field(description="The count may be relied on")
    certainty: float = Field(description="From 0 to 1")
    text: str = Field(description="The count in words", examples=["57 teeth."])
    sizes: str = Field(description="Its diameters in words; empty where no length is known")
    tip_mm: float | None = Field(description="Diameter over the tips; null where no length is known")
    tip_off_mm: float | None = Field(description="By how much that may be off")
    bore_mm: float | None = Field(description="Diameter of its bore; null where no length is known or no bore is seen")
    keyway: bool = Field(description="A keyway is seen in its bore")
    openings: int = Field(description="Holes in its web, or openings between its spokes; 0 where none are seen")
    x: Part
    y: Part
    marks: list[ToothMark] = Field(description="The teeth, from the first right of the top, clockwise")


class PhotoCountOut(BaseModel):
    wheels: list[PhotoWheelOut] = Field(description="From left to right")
    says: str = Field(description="Why nothing is counted, or not for sure; empty where all is well")


@router.post("/count", dependencies=[LONG])
def count_in_photo(
    photo: Annotated[bytes, Body(media_type="image/*", description="A picture file: JPEG, PNG, WebP")],
    bore: Known = "",
    tip: Known = "",
    length: Known = "",
    from_x: End = None,
    from_y: End = None,
    to_x: End = None,
    to_y: End = None,
    x: Tapped = None,
    y: Tapped = None,
    rim_x: OnRim = None,
    rim_y: OnRim = None,
    tooth_x: OnTooth = None,
    tooth_y: OnTooth = None,
    units: InUnits = Units.MM,
) -> PhotoCountOut:
    """Count the wheels of a photograph. Its bore, its diameter over the tips, or a length that lies beside it between
    two points of the picture gives its size. Nothing is kept."""
    about = None
    if x is not None and y is not None and rim_x is not None and rim_y is not None:
        about = Circle((x, y), (rim_x, rim_y))
    seen = light(photo, about)

    def point(across: float | None, down: float | None) -> Point | None:
        return seen.point(across, down) if across is not None and down is not None else None

    known = lengths_mm({"bore": bore, "tip": tip, "length": length}, units.bare)
    begin, end = point(from_x, from_y), point(to_x, to_y)
    if "length" in known and (begin is None or end is None):
        raise Refusal("length_not_shown", "length", length)
    line = (known["length"], begin, end) if "length" in known and begin and end else None
    lengths = Lengths(known.get("bore"), known.get("tip"), line)
    at, on_rim = point(x, y), point(rim_x, rim_y)
    rim = float(np.hypot(on_rim[0] - at[0], on_rim[1] - at[1])) if at and on_rim else None
    shown = WheelPoints(at, rim, point(tooth_x, tooth_y)) if at else None
    result, measured = count_photo(seen.brightness, lengths, shown)
    return PhotoCountOut(
        wheels=[_wheel(one, seen, units) for one in measured],
        says=words.says(result, [one.sizes for one in measured], lengths.any_given),
    )


@router.post("/wheels/photos", dependencies=[LONG])
def add_photographed_wheel(
    photo: Annotated[bytes, Depends(small_picture)],  # before the session: nothing is decoded while others wait
    session: ToWrite,
    wheels: Annotated[str, Query(max_length=200, description="The wheel as counted", examples=["57 worn"])],
    family: Annotated[Number | None, Query(description="Its family; left out where it is not identified")] = None,
    tip_diameter: Known = "",
    tip_off: Annotated[str, Query(max_length=40, description="By how much that may be off")] = "",
    bore: Known = "",
) -> RackDone:
    """Put a wheel that was counted in a photograph into the rack, with the photograph and what it says of the wheel:
    one change."""
    entries = parse_pile(wheels)
    readings: dict[str, Any] = {}
    if tip_diameter.strip():
        sizes = ReadingsIn(
            teeth=str(entries[0].teeth),
            tip_diameter=tip_diameter,
            tip_method=TipMethod.TRUE,
            tip_off=tip_off,
            bore=bore,
        )
        measures_of(sizes)
        readings = sizes.model_dump(mode="json")
    shared = {"family_id": rack.family(session, family) and family}
    return done(rack.add_photographed(session, entries, shared, photos.keep(session, photo), readings))


def _wheel(measured: WheelInPhoto, seen: Light, units: Units) -> PhotoWheelOut:
    one, sizes = measured.wheel, measured.sizes
    fit = one.fit
    x, y = fit.plane.seen(np.full(one.teeth, fit.radius + 1.5 * fit.half), one.places)
    middle, text = seen.part(*one.centre), words.wheel(one, measured.openings, measured.keyway)
    marks = [
        ToothMark(x=round(across, 5), y=round(down, 5), doubtful=n + 1 in one.doubtful)
        for n, (across, down) in enumerate(seen.part(float(a), float(b)) for a, b in zip(x, y, strict=True))
    ]
    return PhotoWheelOut(
        teeth=one.teeth, sure=one.sure, certainty=one.certainty, text=text,
        sizes=words.sizes(sizes, units) if sizes else "", tip_mm=round(sizes.tip, 3) if sizes else None,
        tip_off_mm=round(sizes.tip_off, 3) if sizes else None,
        bore_mm=round(sizes.bore, 3) if sizes and sizes.bore is not None else None,
        openings=measured.openings, keyway=measured.keyway, x=middle[0], y=middle[1],
        marks=marks,
    )  # fmt: skip
