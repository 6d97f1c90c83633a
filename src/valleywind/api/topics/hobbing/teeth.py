"""The teeth of a hobbed wheel: how the hob's rack makes them, and how they run with a mate's."""

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from valleywind.api.drawing import Spot, ToothOutline
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.hobbing.station import Ask, read_whole
from valleywind.core.cutting.wheel import backlash_from_spans, pair_of
from valleywind.core.hobbing.ask import say
from valleywind.core.hobbing.generating import GeneratedTooth, generated
from valleywind.core.refusal import Refusal
from valleywind.core.units import parse_length
from valleywind.wording.hobbing import teeth as words
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/hobbers", tags=["hobber"], responses=RESPONSES)


class RollingOut(BaseModel):
    """The hob's rack at work on the wheel, and the wheel in mesh with its mate; mm, the wheel's centre at (0, 0), a gap
    upward."""

    rack: list[Spot] = Field(description="One tooth of the rack, the pitch line at y = 0, the wheel below it")
    rack_pitch_mm: float = Field(description="From one tooth of the rack to the next")
    rolls_rad: float = Field(description="The wheel turns by this much either way while one gap is cut")
    pitch_radius_mm: float
    wheel: ToothOutline = Field(description="The tooth as the rack leaves it")
    mate: ToothOutline | None = Field(description="The same of the mate")
    centres_mm: float | None = Field(description="Distance of the shafts without backlash")
    undercut: bool
    text: str


@router.get("/rolling")
def get_rolling(ask: Ask) -> RollingOut:
    """How the hob's rack makes the tooth of this wheel, and how the wheel runs with its mate."""
    wanted = read_whole(ask)
    cut = generated(wanted)
    mate = generated(wanted, wanted.mate) if wanted.mate is not None else None
    return RollingOut(
        rack=[Spot.at(p) for p in cut.rack],
        rack_pitch_mm=cut.step,
        rolls_rad=cut.rolls,
        pitch_radius_mm=cut.wheel.pitch_diameter / 2,
        wheel=_cut_outline(cut),
        mate=_cut_outline(mate) if mate else None,
        centres_mm=(cut.wheel.pitch_diameter + mate.wheel.pitch_diameter) / 2 if mate else None,
        undercut=cut.wheel.undercut,
        text=words.rolling(cut, wanted),
    )


def _cut_outline(cut: GeneratedTooth) -> ToothOutline:
    points = cut.outline
    return ToothOutline(
        teeth=cut.wheel.teeth, pitch_radius_mm=cut.wheel.pitch_diameter / 2, tip_radius_mm=cut.wheel.tip_diameter / 2,
        bore_radius_mm=0, radii_mm=[round(r, 4) for r, _ in points], angles_rad=[round(a, 6) for _, a in points],
    )  # fmt: skip


class BacklashOut(BaseModel):
    text: str = Field(examples=["Backlash 0.08 mm along the pitch circle: as usual (0.08 to 0.12 mm)."])
    good: bool


@router.get("/backlash")
def get_backlash(
    ask: Ask,
    span: Annotated[str, Query(max_length=40, description="Measured span of the wheel")],
    mate_span: Annotated[str, Query(max_length=40, description="Measured span of the mate")],
    centres: Annotated[str, Query(max_length=40, description="Distance of the shafts; empty for the nominal one")] = "",
    units: InUnits = Units.MM,
) -> BacklashOut:
    """Backlash of the pair from two measured spans and the distance of the shafts."""
    wanted = read_whole(ask)
    pair = pair_of(wanted)
    if pair is None:
        raise Refusal("no_pair", "ask", say(wanted))
    if pair.wheel.span is None or pair.mate.span is None:
        raise Refusal("no_span", "span", span)
    spans = [float(parse_length(text, units.bare, name).mm) for text, name in
             ((span, "span"), (mate_span, "mate_span"))]  # fmt: skip
    apart = float(parse_length(centres, units.bare, "centres").mm) if centres.strip() else pair.centres
    play = backlash_from_spans(pair, (spans[0], spans[1]), wanted, apart)
    return BacklashOut(text=words.backlash_text(play, pair, units), good=words.backlash_good(play, pair))
