"""The chart of every count against a hobber's wheels, and which wheels are worth making."""

from collections.abc import Callable, Sequence
from typing import Annotated

from fastapi import APIRouter, Query, Response
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, STREAMED
from valleywind.api.advice import WorthLine, advised, in_lines
from valleywind.api.bounds import in_part
from valleywind.api.parameters import InUnits
from valleywind.api.pieces import StageOut, stages_of
from valleywind.api.problems import RESPONSES
from valleywind.api.tables import CSV, csv_in_pieces
from valleywind.api.topics.hobbing.station import OnHobber
from valleywind.app.kinds.hobber import HobberInUse
from valleywind.core.cutting.wheel import FEWEST_CUT, MOST_CUT
from valleywind.core.hobbing.ask import MOST_STARTS, HobAsk, say
from valleywind.core.hobbing.chart import CountStanding, Row, chart, worth_making
from valleywind.core.hobbing.machine import Box
from valleywind.core.hobbing.set_up import spell_trains
from valleywind.core.refusal import Refusal
from valleywind.core.trains.advice import Advice
from valleywind.shop import machines
from valleywind.wording.hobbing import chart as words
from valleywind.wording.numbers import Units

MOST_COUNTS = 200
# Counts that are worked out together.
_AT_A_TIME = 10
_MOST_WHEELS = 24
router = APIRouter(prefix="/hobbers", tags=["hobber"], responses=RESPONSES)

First = Annotated[int, Query(ge=FEWEST_CUT, le=MOST_CUT, description="First count")]
Last = Annotated[int, Query(ge=FEWEST_CUT, le=MOST_CUT, description="Last count")]
Starts = Annotated[int, Query(ge=1, le=MOST_STARTS, description="Starts of the hob")]


class HobChartRow(BaseModel):
    teeth: int
    ask: str = Field(description="Goes to the ask line", examples=["hob 37"])
    standing: CountStanding
    standing_text: str
    text: str = Field(description="The index train; empty for none", examples=["48/37 × 40/80"])
    stages: list[StageOut]
    train: str | None = Field(description="Names the set-up in requests, where it is whole")
    constant: str = Field(examples=["24"])
    note: str


class HobChartOut(BaseModel):
    rows: list[HobChartRow]
    next: int | None = Field(description="The first count that is not answered yet; null where all are")


def _counts(first: int, last: int) -> range:
    if first > last:
        raise Refusal("range_backwards", "last", f"{first}-{last}", first=first, last=last)
    if last - first >= MOST_COUNTS:
        raise Refusal("too_many_lines", "last", last - first + 1, most=MOST_COUNTS)
    return range(first, last + 1)


def _row(row: Row, starts: int, units: Units) -> HobChartRow:
    laid, way = row.laid, row.way
    train = None
    if laid is not None and row.constant is not None and way is not None:
        boxes = {Box.INDEX: laid.train, Box.FEED: way.feed_laid.train, Box.DIFFERENTIAL: way.differential.train}
        train = spell_trains(boxes, row.constant)
    return HobChartRow(
        teeth=row.teeth,
        ask=say(HobAsk(row.teeth, starts=starts)),
        standing=row.standing,
        standing_text=words.STANDINGS[row.standing],
        text=words.train(row),
        stages=stages_of(laid.train) if laid else [],
        train=train,
        constant=words.constant(row),
        note=words.note(row, units),
    )  # fmt: skip


@router.get("/{machine}/chart", dependencies=[LONG])
def get_hob_chart(
    on: OnHobber, first: First = 6, last: Last = 200, starts: Starts = 1, units: InUnits = Units.MM
) -> HobChartOut:
    """The counts from first on against the wheels held, as far as one question goes."""
    counts, work = _counts(first, last), _charting(on, starts)
    rows = in_part(counts, _AT_A_TIME, work)
    after = counts[len(rows) :]
    return HobChartOut(rows=[_row(r, starts, units) for r in rows], next=after[0] if after else None)


def _charting(on: HobberInUse, starts: int) -> Callable[[Sequence[int]], list[Row]]:
    stock = machines.some(on.row, on.stock)
    return lambda counts: chart(on.hobber, stock, counts, starts)


@router.get("/{machine}/chart.csv", dependencies=[STREAMED], response_class=Response, responses=CSV)
def get_hob_chart_csv(
    on: OnHobber, first: First = 6, last: Last = 200, starts: Starts = 1, units: InUnits = Units.MM
) -> Response:
    """The same chart as a table for a spreadsheet."""
    counts, work = _counts(first, last), _charting(on, starts)
    rows = (words.csv_row(row, units) for teeth in counts for row in work([teeth]))
    return csv_in_pieces(words.csv_head(units), rows, f"{on.row.slug}-counts.csv")


class HobBringsOut(BaseModel):
    teeth: int
    counts: list[int] = Field(description="Counts that get an exact index train by it and have none now")
    text: str = Field(examples=["A 43 brings 43, 86, 129 and 172."])


class HobWorthOut(BaseModel):
    head: str
    wheels: list[HobBringsOut] = Field(description="Best first")


@router.get(
    "/{machine}/worth",
    dependencies=[STREAMED],
    response_class=StreamingResponse,
    responses=in_lines(WorthLine[HobWorthOut]),
)
def get_hob_worth(on: OnHobber, first: First = 6, last: Last = 200, starts: Starts = 1) -> StreamingResponse:
    """Which wheels are worth making for these counts; lines of progress, then the advice."""

    def advice_out(advice: Advice[int]) -> HobWorthOut:
        return HobWorthOut(
            head=words.advice_head(len(advice.lacking)),
            wheels=[
                HobBringsOut(teeth=teeth, counts=list(counts), text=words.brings(teeth, counts))
                for teeth, counts in advice.wheels[:_MOST_WHEELS]
            ],
        )

    return advised(worth_making(on.hobber, on.stock, _counts(first, last), starts), advice_out)
