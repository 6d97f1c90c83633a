"""What an unknown wheel is."""

import json
from functools import cache, lru_cache
from typing import Annotated, Literal

from fastapi import APIRouter, Depends
from pydantic import BaseModel, Field

from valleywind.api.access import InSession, ToWrite
from valleywind.api.bounds import bounded
from valleywind.api.drawing import DrawnTool, ToothOutline, outlines
from valleywind.api.fields import Number, Typed, Whole
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.geometry import span_teeth
from valleywind.core.teeth.identify import (
    Identity,
    TipMethod,
    ToMeasure,
    WheelMeasures,
    could_be_of,
    identify,
    measure_next,
)
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH, Pitch, PitchSystem, WheelFamily
from valleywind.core.units import parse_length, parse_number, parse_whole
from valleywind.shop import machines, rack
from valleywind.shop.models import WheelRow
from valleywind.wording.numbers import Units
from valleywind.wording.rack import rack as words

router = APIRouter(prefix="/rack", tags=["rack"], responses=RESPONSES)

# Drawn for a wheel that nobody has recognised: its size from its readings, or a plain one.
_PLAIN_PITCH = Pitch(PitchSystem.MODULE, parse_number("1.25"))
_PLAIN = WheelFamily("", _PLAIN_PITCH, *map(parse_number, ("20", "10", "0", "10")))


class ReadingsIn(BaseModel):
    """What was counted and measured of one wheel; lengths as typed, empty where not measured."""

    teeth: Whole = Field(examples=["46"])
    tip_diameter: Typed = ""
    tip_method: TipMethod = TipMethod.CALIPER
    tip_off: Typed = Field("", description="By how much it may be off, where that is more than its tool is")
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
    shift: float = Field(description="Profile shift in modules; 0 for none")
    fits: bool = Field(description="Whether every reading is what measuring and wear can make of such a wheel")
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


def _identify(body: IdentifyIn) -> tuple[IdentifyIn, list[WheelMeasures], list[Identity]]:
    seen, identities = bounded(lambda: _identified(body))
    return body, seen, identities


def _identified(body: IdentifyIn) -> tuple[list[WheelMeasures], list[Identity]]:
    seen = [measures_of(readings) for readings in body.wheels]
    return seen, identify(seen)


@router.post("/identify")
def identify_wheel(
    identified: Annotated[
        tuple[IdentifyIn, list[WheelMeasures], list[Identity]], Depends(_identify)
    ],  # before others wait to write
    session: ToWrite,
    units: InUnits = Units.MM,
) -> IdentifyOut:
    """What a wheel is, from counted teeth and measurements, and what to measure next."""
    body, seen, identities = identified
    next_measure = measure_next(seen[0], identities)
    first, rival = identities[0], identities[1]
    if body.keep is not None:
        rack.keep_readings(session, body.keep, seen[0].teeth, body.wheels[0].model_dump(mode="json"))
    return IdentifyOut(
        identities=[_identity(i, seen[0], session, units) for i in identities if i.probability >= 0.0005],
        next_text=words.next_text(next_measure, first, rival, units),
        next=_next(next_measure, first.family),
        span_teeth=min(span_teeth(seen[0].teeth, first.family), seen[0].teeth - 1),
        outline=outlines({seen[0].teeth}, first.family, first.shift)[0],
    )


def measures_of(readings: ReadingsIn) -> WheelMeasures:
    """Readings in figures. Raises Refusal at their fields."""

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
        raise Refusal("mate_missing", "mate", readings.mate)
    return WheelMeasures(
        teeth,
        tip_diameter=mm(readings.tip_diameter, "tip_diameter"),
        tip_method=readings.tip_method,
        spans=tuple((k, value) for k, value in spans if value is not None),
        pins=(pin, across) if pin is not None and across is not None else None,
        centres=(mate, centres) if centres is not None else None,
        bore=mm(readings.bore, "bore"),
        face=mm(readings.face, "face"),
        worn=readings.worn,
        tip_off=mm(readings.tip_off, "tip_off") or 0.0,
    )


def _identity(identity: Identity, seen: WheelMeasures, session: InSession, units: Units) -> IdentityOut:
    agrees = [row.id for row in rack.families(session) if could_be_of(identity, seen, machines.family(row))]
    return IdentityOut(
        text=words.identity(identity), system=identity.pitch.system.value, value=str(identity.pitch.value),
        pressure_angle=identity.pressure_angle, stub=identity.addendum < 1, probability=identity.probability,
        shift=identity.shift, fits=identity.fits,
        likelihood=words.likelihood(identity), residuals=[words.residual(r, units) for r in identity.residuals],
        families=agrees,
    )  # fmt: skip


def _next(to_measure: ToMeasure | None, family: WheelFamily) -> NextOut | None:
    if to_measure is None:
        return None
    return NextOut(what=to_measure.what.value, over=to_measure.over, tool=DrawnTool.of(to_measure.tool(family)))


def outline_of_unknown(row: WheelRow) -> ToothOutline:
    """A wheel that nobody has recognised, as the likeliest that its readings tell."""
    return _likeliest_outline(row.teeth, json.dumps(row.measured))


@lru_cache(maxsize=2048)
def _likeliest_outline(teeth: int, measured: str) -> ToothOutline:
    try:
        readings = ReadingsIn.model_validate(json.loads(measured) | {"teeth": str(teeth)})
        likeliest = identify([measures_of(readings)])[0]
    except (Refusal, ValueError):
        return _plain_outline(teeth)
    return outlines({teeth}, likeliest.family, likeliest.shift)[0]


@cache
def _plain_outline(teeth: int) -> ToothOutline:
    return outlines({teeth}, _PLAIN)[0]
