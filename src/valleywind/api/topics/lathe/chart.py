"""Charts of every pitch against the wheels a lathe has, and what gives slower feeds."""

import re
from collections.abc import Callable
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from fastapi.responses import StreamingResponse
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, STREAMED, InSession
from valleywind.api.advice import WorthLine, advised, in_lines
from valleywind.api.parameters import InUnits, OnLathe
from valleywind.api.pieces import StageOut, stages_of
from valleywind.api.problems import RESPONSES, NotUnderstood
from valleywind.api.tables import CSV, csv_response
from valleywind.api.topics.lathe.station import Ask, read_whole
from valleywind.core.dividing.heads import Head
from valleywind.core.lathe.chart import ChartAsk, List, Row, chart, pitches
from valleywind.core.lathe.machine import Lathe, SetUp
from valleywind.core.lathe.slower import slower
from valleywind.core.lathe.thread import CarriageMove, FeedAsk, say
from valleywind.core.lathe.worth_making import MOST_TOGETHER, Advice, Limits, worth_making
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.cutters import serving
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH
from valleywind.core.trains.new_wheels import SMALLEST_CUT
from valleywind.core.units import parse_whole
from valleywind.formats.tables import csv_text
from valleywind.shop import heads, record_parts, stores
from valleywind.shop import machines as shop
from valleywind.wording import numbers
from valleywind.wording.lathe import chart as words
from valleywind.wording.lathe.answers import levers_label
from valleywind.wording.numbers import Units
from valleywind.wording.trains import train_text

MOST_LINES = 200
"""Lines of a chart that are worked out for one request."""
router = APIRouter(prefix="/lathes", tags=["lathe"], responses=RESPONSES)

Lists = Annotated[list[List], Query(alias="list", description="Which lists of pitches", examples=["metric"])]


class ListOut(BaseModel):
    of: List
    text: str = Field(examples=["Metric coarse"])
    pitches: int
    feeds: bool = Field(description="A list of feeds, not of threads")


class ChartRowOut(BaseModel):
    of: List
    ask: str = Field(description="Goes to the ask line", examples=["M14x2"])
    pitch: str = Field(examples=["2 mm"])
    pitch_mm: float
    sizes: str = Field(examples=["M14, M16"])
    standing: Literal["exact", "good", "poor", "no_room", "needs_wheel", "out_of_reach"]
    standing_text: str
    goes: Literal["freely", "mid_tolerance", "partly", "not"] | None
    train: str | None = Field(description="Names the train in requests")
    text: str | None = Field(examples=["76/66 × 32/78"])
    stages: list[StageOut]
    levers: str | None
    error: str | None
    new: int | None = Field(description="Teeth of the wheel that would bring it, where one is lacking")
    note: str


class ChartOut(BaseModel):
    total: int = Field(description="Lines of the whole chart")
    most_in_a_file: int = Field(description="How many lines one CSV has at most")
    start: int
    rows: list[ChartRowOut]


class SlowerOut(BaseModel):
    texts: list[str]
    train: str | None = Field(description="The slowest that goes on, in requests")
    better_train: str | None = Field(description="The slowest with one smaller driver")


def _offered(lathe: Lathe) -> list[List]:
    """Every list that makes sense on this lathe."""
    return [one for one in List if one is not List.FEEDS_ACROSS or CarriageMove.ACROSS in lathe.feeds]


@router.get("/{machine}/lists")
def get_lists(on: OnLathe) -> list[ListOut]:
    """The lists of pitches and feeds that a chart of this lathe can be made of."""
    lathe = on.lathe
    return [
        ListOut(of=of, text=words.LISTS[of], pitches=len(pitches(of)),
                feeds=of in (List.FEEDS_ALONG, List.FEEDS_ACROSS))
        for of in _offered(lathe)
    ]  # fmt: skip


@router.get("/{machine}/chart", dependencies=[LONG])
def get_chart(
    on: OnLathe,
    lists: Lists,
    start: Annotated[int, Query(ge=0, description="First line wanted")] = 0,
    count: Annotated[int, Query(ge=1, le=MOST_LINES, description="How many lines")] = 100,
    units: InUnits = Units.MM,
) -> ChartOut:
    """Every pitch of the lists against the wheels held, as many lines at a time as are asked for."""
    lathe = on.lathe
    lines = _chart_asks(lists)
    some = lines[start : start + count]
    rows = chart([pitched for _, pitched in some], lathe, on.stock, on.mounted)
    rows_out = [_row(of, r, lathe, units) for (of, _), r in zip(some, rows, strict=True)]
    return ChartOut(total=len(lines), most_in_a_file=MOST_LINES, start=start, rows=rows_out)


@router.get("/{machine}/chart.csv", dependencies=[LONG], response_class=Response, responses=CSV)
def get_chart_csv(on: OnLathe, lists: Lists, units: InUnits = Units.MM) -> Response:
    """The same chart as a table for a spreadsheet."""
    lathe = on.lathe
    lines = _chart_asks(lists)
    if len(lines) > MOST_LINES:
        raise Refusal("too_many_lines", "list", len(lines), most=MOST_LINES)
    rows = list(chart([pitched for _, pitched in lines], lathe, on.stock, on.mounted))
    return csv_response(csv_text(words.csv_head(units), words.csv_rows(rows, lathe, units)), f"{on.row.slug}-chart.csv")


class BringsOut(BaseModel):
    teeth: int
    pitches: int = Field(description="How many that were lacking it brings")
    exact: int = Field(description="How many of these exactly")
    text: str
    asks: list[str] = Field(description="The pitches it brings, for the ask line")


class WorthAdvice(BaseModel):
    head: str
    lacking: int
    single: list[BringsOut] = Field(description="Wheels by what each alone brings, best first")
    together: str | None = Field(description="What a second and a third wheel add")


@router.get(
    "/{machine}/worth",
    dependencies=[STREAMED],
    response_class=StreamingResponse,
    responses=in_lines(WorthLine[WorthAdvice]),
)
def get_worth(
    on: OnLathe,
    session: InSession,
    lists: Annotated[
        list[List] | None, Query(alias="list", description="Lists of pitches", examples=["metric"])
    ] = None,
    wanted: Annotated[str, Query(max_length=600, description="Pitches of one's own, by commas, instead of lists")] = "",
    together: Annotated[int, Query(ge=1, le=MOST_TOGETHER, description="How many wheels to make")] = 3,
    fewest: Annotated[str, Query(max_length=40, description="The smallest wheel to think of; empty as usual")] = "",
    most: Annotated[str, Query(max_length=40, description="The largest; empty as usual")] = "",
    cutters: Annotated[bool, Query(description="Only wheels that a cutter held cuts")] = False,
    head: Annotated[str, Query(description="Only wheels that this machine divides by plain indexing")] = "",
    units: InUnits = Units.MM,
) -> StreamingResponse:
    """Which wheel is worth making for these pitches; lines of progress, then the advice."""
    lathe, stock = on.lathe, on.stock
    held = [stores.cutter(c) for c in stores.cutters(session)]
    can: list[Callable[[int], bool]] = []
    if cutters:
        can.append(lambda teeth: bool(serving(held, lathe.family, teeth)))
    if head:
        can.append(_head(session, head).divides_plainly)
    lines = _own(wanted) if wanted.strip() else [pitched for _, pitched in _chart_asks(lists or [])]
    away = shop.elsewhere(on.row)
    limits = Limits(
        _teeth(fewest, "fewest", SMALLEST_CUT), _teeth(most, "most", MOST_TEETH), tuple(can), frozenset(away)
    )

    def advice_out(advice: Advice) -> WorthAdvice:
        lacking = len(advice.lacking)
        return WorthAdvice(
            head=words.advice_head(advice, lathe),
            lacking=lacking,
            single=[
                BringsOut(
                    teeth=b.teeth, pitches=len(b.exact) + len(b.good), exact=len(b.exact),
                    text=words.brings_text(b, lacking, bool(serving(held, lathe.family, b.teeth)), units,
                                           away.get(b.teeth)),
                    asks=[say(p.ask) for p in (*b.exact, *b.good)],
                )
                for b in advice.single
            ],
            together=words.together_text(advice),
        )  # fmt: skip

    return advised(worth_making(lines, lathe, stock, together, limits), advice_out)


@router.get("/{machine}/slower", dependencies=[LONG])
def get_slower(on: OnLathe, ask: Ask, units: InUnits = Units.MM) -> SlowerOut:
    """The slowest of the kind asked for, and what one new wheel would bring."""
    lathe = on.lathe
    wanted = read_whole(ask)
    slowest = slower(wanted, lathe, on.stock, on.mounted)
    return SlowerOut(
        texts=words.slower_text(slowest, wanted, lathe, units),
        train=SetUp.of(slowest.now).name(lathe) if slowest.now else None,
        better_train=SetUp.of(slowest.smaller[0].candidate).name(lathe) if slowest.smaller else None,
    )


def _teeth(typed: str, field: str, usual: int) -> int:
    return parse_whole(typed, field, FEWEST_TEETH, MOST_TEETH, "teeth") if typed.strip() else usual


def _own(wanted: str) -> list[ChartAsk]:
    """Pitches as typed, parted by commas."""
    own = []
    for part in filter(str.strip, re.split(r"[,;\n]", wanted)):
        try:
            own.append(ChartAsk(read_whole(part)))
        except NotUnderstood as found_not:
            raise found_not.refused.under("wanted") from None
    return own


def _head(session: InSession, machine: str) -> Head:
    row = shop.machine(session, machine)
    if not record_parts.has(row, heads.HEAD):
        raise Refusal("divides_not", "head", row.name)
    return heads.head(row)


def _chart_asks(lists: list[List]) -> list[tuple[List, ChartAsk]]:
    return [(of, pitched) for of in dict.fromkeys(lists) for pitched in pitches(of)]


def _row(of: List, row: Row, lathe: Lathe, units: Units) -> ChartRowOut:
    candidate, ask = row.candidate, row.pitched.ask
    return ChartRowOut(
        of=of,
        ask=say(ask),
        pitch=words.pitch(ask, units),
        pitch_mm=float(ask.travel if isinstance(ask, FeedAsk) else ask.pitch),
        sizes=words.sizes(row),
        standing=row.standing.value,
        new=row.new,
        standing_text=words.STANDINGS[row.standing],
        goes=candidate.verdict.goes.value if candidate else None,
        train=SetUp.of(candidate).name(lathe) if candidate else None,
        text=train_text(candidate.train) if candidate else None,
        stages=stages_of(candidate.train) if candidate else [],
        levers=levers_label(candidate.setting, lathe) if candidate else None,
        error=numbers.error(candidate.error) if candidate else None,
        note=words.note(row, lathe),
    )
