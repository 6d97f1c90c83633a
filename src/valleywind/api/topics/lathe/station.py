"""The Lathe station: read an ask, plan trains for it, write the set-up sheet."""

from typing import Annotated

from fastapi import APIRouter, Query, Request, Response
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, QUICK, InSession
from valleywind.api.drawn_files import described, set_up_sheet
from valleywind.api.fields import TypedQuery
from valleywind.api.pages import mark_of, station_path
from valleywind.api.parameters import ChangeOf, InUnits, OnLathe, OtherPlace, Teeth, WheelAt
from valleywind.api.pieces import ListedTrain
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.lathe.answers import Answer, AskOut, PlanOut, TrainOut, ask_out
from valleywind.api.whole_ask import whole
from valleywind.app.kinds.lathe import not_known
from valleywind.app.lathes import compare
from valleywind.app.wheels import left_out_text
from valleywind.core.lathe import ask as asks
from valleywind.core.lathe import thread
from valleywind.core.lathe.fields import Fields, ask_from
from valleywind.core.lathe.machine import SetUp, read_set_up
from valleywind.core.lathe.plan import candidate_for, plan, plan_of
from valleywind.core.lathe.thread import Ask as AskFor
from valleywind.core.lathe.thread import CarriageMove
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.planner import Order
from valleywind.formats.on_paper import OnPaper
from valleywind.shop.log import number_of
from valleywind.wording import refusals
from valleywind.wording.lathe import answers as words
from valleywind.wording.lathe.sheet import sheet
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/lathes", tags=["lathe"], responses=RESPONSES)

Ask = Annotated[
    str,
    Query(
        description="What is wanted, as people say it",
        examples=["M14x2", "26 tpi", "module 1.5 worm", "feed 0.03 mm/rev"],
        max_length=200,
    ),
]
TrainName = Annotated[
    str, Query(description="The train, with its levers", examples=["76/66*32/78", "32/80/64@9 ×2"], max_length=80)
]


def read_whole(text: str) -> AskFor:
    """The ask of a line. Raises NotUnderstood with what was made of it."""
    return whole(asks.read(text), words.MEANINGS)


@router.get("/fields")
def ask_in_fields(
    pitch: Annotated[str, Query(max_length=60, description="A pitch, a size or a feed", examples=["2 mm", "26 tpi"])],
    ask: Annotated[str, Query(max_length=200, description="The ask the fields were filled from, if any")] = "",
    way: Annotated[CarriageMove, Query(description="Thread, or feed along or across")] = CarriageMove.THREAD,
    hand: Annotated[
        Hand, Query(description="Hand of the thread; for a feed, right is toward the headstock")
    ] = Hand.RIGHT,
    starts: TypedQuery = "",
    diameter: TypedQuery = "",
    engagement: TypedQuery = "",
    flanks: Annotated[str, Query(max_length=40, description="Included angle, a worm's pressure angle, degrees")] = "",
    fit_class: Annotated[str, Query(max_length=40, description="Class of fit", examples=["6g", "2A"])] = "",
    slide: Annotated[bool, Query(description="A screw that measures or moves a slide")] = False,
    within: Annotated[str, Query(max_length=40, description="Allowed error in percent")] = "",
    units: InUnits = Units.MM,
) -> AskOut:
    """The ask that these fields make, in one line. Empty fields are as usual."""
    fields = Fields(pitch, way, hand, starts, diameter, engagement, flanks, fit_class, slide, within)
    return ask_out(ask_from(fields, asks.read(ask).ask if ask else None), units)


class OnLatheOut(BaseModel):
    """A lathe of the shop with its best train for an ask."""

    machine: str = Field(description="Its short name")
    name: str
    candidate: ListedTrain | None = Field(description="Null where nothing fits, or the lathe lacks something")
    says: str = Field(description="Why there is no train; empty where there is one")


@router.get("/compare", dependencies=[LONG])
def compare_lathes(session: InSession, ask: Ask, units: InUnits = Units.MM) -> list[OnLatheOut]:
    """One thread on every lathe of the shop, the least trouble first."""
    wanted = read_whole(ask)
    return [
        OnLatheOut(
            machine=one.on.row.slug,
            name=one.on.row.name,
            candidate=Answer(wanted, one.on, units).listed(one.candidate) if one.candidate else None,
            says="" if one.candidate else refusals.say(one.why).says if one.why else "Nothing fits.",
        )
        for one in compare(session, wanted)
    ]


@router.get("/{machine}/plan", dependencies=[QUICK])
def get_plan(
    on: OnLathe,
    ask: Ask,
    units: InUnits = Units.MM,
    order: Annotated[Order, Query(description="What comes first")] = Order.LEAST_TROUBLE,
    best: Annotated[int, Query(ge=1, le=40, description="How many trains at most")] = 12,
) -> PlanOut:
    """Trains for an ask from the wheels this lathe has, laid out, judged and in order of merit."""
    lathe, stock, mounted = on.lathe, on.stock, on.mounted
    wanted = read_whole(ask)
    outcome = plan(wanted, lathe, stock, mounted, order, best)
    return _answered(Answer(wanted, on, units).plan(outcome, on.row.slug), on)


def _answered(plan: PlanOut, on: OnLathe) -> PlanOut:
    """With what the lathe's record leaves out of every plan."""
    return plan.model_copy(update={"left_out": left_out_text(on.row), "not_known": not_known(on.row, on.lathe)})


@router.get("/{machine}/train", dependencies=[QUICK])
def get_train(on: OnLathe, ask: Ask, train: TrainName, units: InUnits = Units.MM) -> TrainOut:
    """One train of one's own, laid out and judged for an ask, whether or not it is a good one."""
    lathe, stock, mounted = on.lathe, on.stock, on.mounted
    wanted = read_whole(ask)
    candidate = candidate_for(read_set_up(train, lathe), wanted, lathe, stock, mounted)
    return Answer(wanted, on, units).train(candidate)


@router.get("/{machine}/train/changed", dependencies=[QUICK])
def get_changed_train(
    on: OnLathe,
    ask: Ask,
    train: TrainName,
    change: ChangeOf,
    at: WheelAt,
    teeth: Teeth = 40,
    other: OtherPlace = 0,
    units: InUnits = Units.MM,
) -> TrainOut:
    """The train with one change, laid out and judged: what a wheel dragged to a shaft makes of it."""
    lathe, stock, mounted = on.lathe, on.stock, on.mounted
    wanted, before = read_whole(ask), read_set_up(train, lathe)
    after = before.train.changed(change, at, teeth, other)
    candidate = candidate_for(SetUp(after, before.setting), wanted, lathe, stock, mounted)
    return Answer(wanted, on, units).train(candidate)


@router.get("/{machine}/now", dependencies=[QUICK])
def get_now(on: OnLathe, units: InUnits = Units.MM) -> PlanOut | None:
    """The train that is on the lathe now, as a plan for the thread it cuts; null when the lathe is bare."""
    lathe, stock, mounted = on.lathe, on.stock, on.mounted
    if mounted is None:
        return None
    now = plan_of(mounted, lathe, stock)
    return _answered(Answer(now.ask, on, units).plan(now, on.row.slug), on)


@router.get(
    "/{machine}/sheet.pdf",
    dependencies=[QUICK],
    response_class=Response,
    responses=described("pdf"),
)
def get_sheet(
    on: OnLathe, ask: Ask, train: TrainName, request: Request, session: InSession, units: InUnits = Units.MM
) -> Response:
    """The set-up sheet of one train as a page of A4."""
    lathe = on.lathe
    wanted = read_whole(ask)
    chosen = candidate_for(read_set_up(train, lathe), wanted, lathe, on.stock, on.mounted)
    drawn = OnPaper(chosen.train, chosen.placement, lathe.family, lathe.quadrant, lathe.name, lathe.pitch_known)
    line = thread.say(wanted)
    mark = mark_of(request, station_path("lathe", on.row.slug, line, train), number_of(session, on.row, line, train))
    return set_up_sheet(sheet(chosen, wanted, lathe, units), [drawn], f"{on.row.slug}-{line}", mark)
