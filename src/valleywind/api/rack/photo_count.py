"""Wheels counted in a photograph, with the places of their teeth to be painted onto it."""

from typing import Annotated

import numpy as np
from fastapi import APIRouter, Depends, Query
from pydantic import BaseModel, Field

from valleywind.api.access import LONG
from valleywind.api.fields import looked_at
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.core.teeth.photo.counting import Counted, count
from valleywind.core.teeth.photo.measuring import Diameters, diameters, in_pixels
from valleywind.core.units import parse_length
from valleywind.formats.photograph import Light
from valleywind.wording.numbers import Units
from valleywind.wording.rack import photo_count as words

router = APIRouter(prefix="/rack", tags=["rack"], responses=RESPONSES)

Part = Annotated[float, Field(description="Part of the picture's width or height, from left or top")]
Known = Annotated[str, Query(max_length=40, description="As typed, with its unit; empty where it is not known")]
Tapped = Annotated[float | None, Query(ge=0, le=1, description="Where the middle of a wheel is, if somebody shows it")]


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
    x: Part
    y: Part
    marks: list[ToothMark] = Field(description="The teeth, from the first right of the top, clockwise")


class PhotoCountOut(BaseModel):
    wheels: list[PhotoWheelOut] = Field(description="From left to right")
    says: str = Field(description="Why nothing is counted, or not for sure; empty where all is well")


@router.post("/count", dependencies=[LONG])
def count_in_photo(
    photo: Annotated[Light, Depends(looked_at)],
    bore: Known = "",
    tip: Known = "",
    x: Tapped = None,
    y: Tapped = None,
    units: InUnits = Units.MM,
) -> PhotoCountOut:
    """Count the wheels of a photograph. Nothing is kept."""
    known = {
        field: float(parse_length(text, units.bare, field).mm)
        for field, text in (("bore", bore), ("tip", tip))
        if text.strip()
    }
    high, wide = photo.brightness.shape
    found = count(photo.brightness, (x * wide, y * high) if x is not None and y is not None else None)
    measured = [diameters(in_pixels(photo.brightness, one), **known) for one in found.wheels]
    return PhotoCountOut(
        wheels=[_wheel(one, sizes, (wide, high), units) for one, sizes in zip(found.wheels, measured, strict=True)],
        says=words.says(found, measured, bool(known)),
    )


def _wheel(one: Counted, sizes: Diameters | None, size: tuple[int, int], units: Units) -> PhotoWheelOut:
    wide, high = size
    fit = one.fit
    x, y = fit.plane.seen(np.full(one.teeth, fit.radius + 1.5 * fit.half), one.places)
    marks = [
        ToothMark(x=round(float(a) / wide, 5), y=round(float(b) / high, 5), doubtful=n + 1 in one.doubtful)
        for n, (a, b) in enumerate(zip(x, y, strict=True))
    ]
    return PhotoWheelOut(
        teeth=one.teeth, sure=one.sure, certainty=one.certainty, text=words.wheel(one),
        sizes=words.sizes(sizes, units) if sizes else "", tip_mm=round(sizes.tip, 3) if sizes else None,
        tip_off_mm=round(sizes.tip_off, 3) if sizes else None, x=one.centre[0] / wide, y=one.centre[1] / high,
        marks=marks,
    )  # fmt: skip
