"""The chart of counts against angles on a mill, and which wheels are worth making for it."""

from collections.abc import Callable, Sequence
from fractions import Fraction
from typing import Annotated

from fastapi import APIRouter, Query, Response
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, STREAMED
from valleywind.api.advice import WorthLine, advised, in_lines
from valleywind.api.bounds import in_part
from valleywind.api.parameters import InUnits
from valleywind.api.pieces import Goes, StageOut, stages_of
from valleywind.api.problems import RESPONSES
from valleywind.api.tables import CSV, csv_in_pieces
from valleywind.api.topics.helix.answers import GOES
from valleywind.api.topics.helix.station import OnMill
from valleywind.app.kinds.mill import MillInUse
from valleywind.core.cutting.wheel import FEWEST_CUT, MOST_CUT
from valleywind.core.helix.ask import HelixAsk, say
from valleywind.core.helix.chart import Cell, asks, chart, read_angles, worth_making
from valleywind.core.helix.plan import LeadSetUp
from valleywind.core.helix.table import How, swing
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask_line import read_pitch
from valleywind.core.trains.advice import Advice
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.standing import Standing
from valleywind.core.units import spell_degrees
from valleywind.shop import machines
from valleywind.wording.helix import chart as words
from valleywind.wording.helix.answers import lead_text, pair_label
from valleywind.wording.helix.setting import swing_text
from valleywind.wording.hobbing.answers import pitch_text
from valleywind.wording.lathe.chart import STANDINGS
from valleywind.wording.numbers import Units
from valleywind.wording.trains import train_text

MOST_CELLS = 400
# Counts that are worked out together, each at every angle.
_AT_A_TIME = 4
_MOST_WHEELS = 24
router = APIRouter(prefix="/mills", tags=["mill"], responses=RESPONSES)

First = Annotated[int, Query(ge=FEWEST_CUT, le=MOST_CUT, description="First count")]
Last = Annotated[int, Query(ge=FEWEST_CUT, le=MOST_CUT, description="Last count")]
PitchText = Annotated[str, Query(max_length=40, description="Normal module or DP", examples=["m2", "12dp"])]
Angles = Annotated[str, Query(max_length=80, description="Helix angles, spaces between", examples=["15 20 30 45"])]
HandOf = Annotated[Hand, Query(description="Hand of the helix")]


class CellOut(BaseModel):
    teeth: int
    angle: str = Field(examples=["30°"])
    lead: str = Field(examples=["301.59 mm"])
    ask: str = Field(description="Goes to the ask line", examples=["helix 24 m2 30° left"])
    standing: Standing
    standing_text: str
    goes: Goes | None
    train: str | None = Field(description="Names the set-up in requests")
    text: str = Field(description="Wheels and pair; empty for none", examples=["72/28 × 52/56, pair 1 : 2"])
    wheels: str = Field(description="The change wheels alone; empty for none", examples=["72/28 × 52/56"])
    stages: list[StageOut]
    pair: str | None
    note: str


class AngleOut(BaseModel):
    text: str = Field(examples=["30°"])
    cannot: str | None = Field(description="Why it cannot be set on this mill, where that is known")


class HelixChartOut(BaseModel):
    pitch: str = Field(description="As it is said", examples=["module 2"])
    angles: list[AngleOut]
    cells: list[CellOut] = Field(description="Count by count, every angle in turn")
    next: int | None = Field(description="The first count that is not answered yet; null where all are")


def _asks(pitch: str, first: int, last: int, angles: str, hand: Hand) -> list[HelixAsk]:
    """Raises Refusal at the field."""
    if first > last:
        raise Refusal("range_backwards", "last", f"{first}-{last}", first=first, last=last)
    wanted = read_angles(angles)
    if (last - first + 1) * len(wanted) > MOST_CELLS:
        raise Refusal("too_many_lines", "last", (last - first + 1) * len(wanted), most=MOST_CELLS)
    return asks(read_pitch(pitch or "m2"), range(first, last + 1), wanted, hand)


def _charting(on: MillInUse) -> Callable[[Sequence[HelixAsk]], list[Cell]]:
    stock = machines.some(on.row, on.stock)
    return lambda asks: chart(asks, on.drive, stock, on.on)


def _cell(cell: Cell, on: MillInUse, units: Units) -> CellOut:
    candidate, ask = cell.candidate, cell.ask
    assert ask.helix is not None
    assert ask.teeth is not None
    return CellOut(
        teeth=ask.teeth,
        angle=spell_degrees(ask.helix),
        lead=lead_text(ask.wanted_lead, units),
        ask=say(ask),
        standing=cell.standing,
        standing_text=STANDINGS[cell.standing],
        goes=GOES[candidate.verdict.mark] if candidate else None,
        train=LeadSetUp(candidate.train, candidate.setting).name if candidate else None,
        text=words.cell_text(cell, on.drive),
        wheels=train_text(candidate.train) if candidate else "",
        stages=stages_of(candidate.train) if candidate else [],
        pair=pair_label(candidate.setting, on.drive) if candidate else None,
        note=words.note(cell, units),
    )


def _angle(angle: Fraction, hand: Hand, on: MillInUse) -> AngleOut:
    set_over = swing(float(angle), hand, on.mill)
    cannot = swing_text(set_over, hand) if set_over.how is How.NEITHER else None
    return AngleOut(text=spell_degrees(angle), cannot=cannot)


@router.get("/{machine}/chart", dependencies=[LONG])
def get_helix_chart(
    on: OnMill, pitch: PitchText = "m2", first: First = 12, last: Last = 60, angles: Angles = "",
    hand: HandOf = Hand.RIGHT, units: InUnits = Units.MM,
) -> HelixChartOut:  # fmt: skip
    """The counts from first on at every angle, with the wheels and pairs there are, as far as one question goes."""
    asks, wanted = _asks(pitch, first, last, angles, hand), read_angles(angles)
    cells = in_part(asks, _AT_A_TIME * len(wanted), _charting(on))
    counts = len(cells) // len(wanted)
    return HelixChartOut(
        pitch=pitch_text(read_pitch(pitch or "m2")),
        angles=[_angle(angle, hand, on) for angle in wanted],
        cells=[_cell(cell, on, units) for cell in cells],
        next=first + counts if first + counts <= last else None,
    )


@router.get("/{machine}/chart.csv", dependencies=[STREAMED], response_class=Response, responses=CSV)
def get_helix_chart_csv(
    on: OnMill, pitch: PitchText = "m2", first: First = 12, last: Last = 60, angles: Angles = "",
    hand: HandOf = Hand.RIGHT, units: InUnits = Units.MM,
) -> Response:  # fmt: skip
    """The same chart as a table for a spreadsheet."""
    asks = _asks(pitch, first, last, angles, hand)
    work = _charting(on)
    rows = (words.csv_row(cell, on.drive, units) for ask in asks for cell in work([ask]))
    return csv_in_pieces(words.csv_head(units), rows, f"{on.row.slug}-leads.csv")


class HelixBringsOut(BaseModel):
    teeth: int
    asks: list[str] = Field(description="What it brings, for the ask line")
    text: str = Field(examples=["A 34 brings 24 at 30° and 36 at 15°."])


class HelixWorthOut(BaseModel):
    head: str
    wheels: list[HelixBringsOut] = Field(description="Best first")


@router.get(
    "/{machine}/worth",
    dependencies=[STREAMED],
    response_class=StreamingResponse,
    responses=in_lines(WorthLine[HelixWorthOut]),
)
def get_helix_worth(
    on: OnMill, pitch: PitchText = "m2", first: First = 12, last: Last = 60, angles: Angles = "",
    hand: HandOf = Hand.RIGHT,
) -> StreamingResponse:  # fmt: skip
    """Which wheels are worth making for these leads; lines of progress, then the advice."""

    def advice_out(advice: Advice[HelixAsk]) -> HelixWorthOut:
        return HelixWorthOut(
            head=words.advice_head(len(advice.lacking), advice.wanted),
            wheels=[
                HelixBringsOut(teeth=teeth, asks=[say(ask) for ask in brought], text=words.brings(teeth, brought))
                for teeth, brought in advice.wheels[:_MOST_WHEELS]
            ],
        )

    asks = _asks(pitch, first, last, angles, hand)
    return advised(worth_making(asks, on.drive, on.stock), advice_out)
