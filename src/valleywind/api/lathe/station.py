"""The Lathe station: read an ask, plan trains for it, write the set-up sheet."""

from collections.abc import Mapping
from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, Field

from valleywind.api.access import QUICK
from valleywind.api.asked import understood, whole
from valleywind.api.drawn_files import attached, described
from valleywind.api.lathe.answers import Answer, AskOut, PlanOut, TrainOut, asked
from valleywind.api.machines.machines import left_out_text, not_known
from valleywind.api.parameters import At, ChangeOf, InUnits, OnLathe, OtherPlace, Teeth
from valleywind.api.problems import RESPONSES
from valleywind.core.dividing.ask import is_divide_ask, read_divide
from valleywind.core.helix import ask as helix
from valleywind.core.helix.ask import is_helix_ask, is_lead_ask, is_make_helix
from valleywind.core.hobbing import ask as hobbing
from valleywind.core.hobbing.ask import is_hob_ask
from valleywind.core.lathe import ask as asks
from valleywind.core.lathe import thread
from valleywind.core.lathe.complete import complete
from valleywind.core.lathe.fields import Fields, ask_from
from valleywind.core.lathe.machine import SetUp, read_set_up
from valleywind.core.lathe.plan import candidate_for, plan, plan_of
from valleywind.core.lathe.thread import Ask as AskFor
from valleywind.core.lathe.thread import CarriageMove
from valleywind.core.refusal import Refused
from valleywind.core.teeth.ask import is_make_ask, is_wheel_ask, read_wheel
from valleywind.core.teeth.said import A, M, Reading, Station, meant_at
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.planner import Order
from valleywind.formats.sheet_pdf import sheet_pdf
from valleywind.wording import refusals
from valleywind.wording.dividing import ask_text as divide_ask_text
from valleywind.wording.helix import answers as helix_words
from valleywind.wording.hobbing import answers as hob_words
from valleywind.wording.lathe import answers as words
from valleywind.wording.lathe.sheet import sheet
from valleywind.wording.numbers import Units
from valleywind.wording.wheels import ask_text as wheel_ask_text

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
Typed = Annotated[str, Query(max_length=40, description="As typed; empty as usual", examples=["2", "14 mm"])]


class CompletionOut(BaseModel):
    ask: str = Field(examples=["M14x1.5"])
    means: str = Field(examples=["1.5 mm pitch, 14 mm across, 60°"])


class ReadingOut(BaseModel):
    station: Station = Field(description="Whose ask it is")
    asks: str = Field("", description="The line in full, where it means what is usual at its station; empty as typed")
    whole: bool = Field(description="Whether this can be planned")
    canonical: str | None
    description: str | None
    understood: list[str]
    left_over: list[str]
    nearest: list[str] = Field(description="Asks near to it that would be understood")
    completions: list[CompletionOut] = Field(description="How the line could go on, and what that would mean")
    says: str | None
    would_do: str | None


def read_whole(text: str) -> AskFor:
    """The ask of a line. Raises NotUnderstood with what was made of it."""
    return whole(asks.read(text), words.MEANINGS)


@router.get("/reading")
def read_ask(
    ask: Ask,
    units: InUnits = Units.MM,
    at: Annotated[
        Station | Literal[""], Query(description="Where it is typed: there a bare line means what is usual")
    ] = "",
) -> ReadingOut:
    """What is made of a line while it is typed. Never fails: says what was understood, what not, what is near."""
    line = meant_at(ask, at or None)
    answer = _reading(line, units, at)
    return answer if line == ask else answer.model_copy(update={"asks": line})


def _reading(ask: str, units: Units, at: str) -> ReadingOut:
    if is_hob_ask(ask):
        return _of_a_hob(ask, units)
    if is_helix_ask(ask) or (at == "mill" and is_lead_ask(ask)):
        return _of_a_helix(ask, units)
    if is_make_helix(ask):
        return _of_a_helix(ask, units).model_copy(update={"station": Station.JOBS, "canonical": ask.strip()})
    if is_wheel_ask(ask) or is_divide_ask(ask) or is_make_ask(ask):
        return _of_a_wheel(ask)
    reading = asks.read(ask)
    said = refusals.say(reading.refusal) if reading.refusal else None
    return ReadingOut(
        station="lathe",
        whole=reading.ask is not None,
        canonical=thread.say(reading.ask) if reading.ask else None,
        description=words.description(reading.ask, units) if reading.ask else None,
        understood=understood(reading, words.MEANINGS),
        left_over=list(reading.left_over),
        nearest=list(reading.nearest),
        completions=[CompletionOut(ask=thread.say(a), means=words.completion(a, units)) for a in complete(ask)],
        says=said.says if said else None,
        would_do=said.would_do if said else None,
    )


def _of_a_hob(text: str, units: Units) -> ReadingOut:
    """A wheel to be hobbed."""
    offered = [hobbing.read(line).ask for line in hobbing.complete(text)]
    means = [(hobbing.say(ask), hob_words.description(ask, units)) for ask in offered if ask]
    reading = hobbing.read(text)
    known = (hobbing.say(reading.ask), hob_words.description(reading.ask, units)) if reading.ask else None
    return _said("hobber", reading, known, hob_words.MEANINGS, means)


def _of_a_helix(text: str, units: Units) -> ReadingOut:
    """A helix to be milled."""
    offered = [helix.read(line).ask for line in helix.complete(text)]
    means = [(helix.say(ask), helix_words.description(ask, units)) for ask in offered if ask]
    reading = helix.read(text)
    known = (helix.say(reading.ask), helix_words.description(reading.ask, units)) if reading.ask else None
    return _said("mill", reading, known, helix_words.MEANINGS, means)


def _said(
    station: Literal["hobber", "mill"], reading: Reading[A, M], known: tuple[str, str] | None,
    meanings: Mapping[M, str], completions: list[tuple[str, str]],
) -> ReadingOut:  # fmt: skip
    """What was made of a line; known, completions: an ask in one line, and in words."""
    said = refusals.say(reading.refusal) if reading.refusal else None
    return ReadingOut(
        station=station, whole=known is not None, canonical=known[0] if known else None,
        description=known[1] if known else None,
        understood=understood(reading, meanings),
        left_over=list(reading.left_over), nearest=list(reading.nearest),
        completions=[CompletionOut(ask=ask, means=means) for ask, means in completions],
        says=said.says if said else None, would_do=said.would_do if said else None,
    )  # fmt: skip


def _of_a_wheel(ask: str) -> ReadingOut:
    """A wheel to be made, or one to be divided."""
    described, refused = None, None
    dividing = is_divide_ask(ask)
    try:
        if dividing:
            asked = read_divide(ask)
            described = divide_ask_text(asked.divisions, asked.machine)
        else:
            wanted = read_wheel(ask)
            described = wheel_ask_text(wanted.teeth, wanted.pitch, wanted.machine)
    except Refused as found:
        refused = refusals.say(found)
    station: Literal["dividing", "jobs", "wheel"] = "wheel"
    if dividing or is_make_ask(ask):
        station = "dividing" if dividing else "jobs"
    near = {"dividing": ["divide 57"], "jobs": ["make 57"], "wheel": ["wheel 57", "wheel 41 m1.25"]}
    return ReadingOut(
        station=station, whole=described is not None, canonical=None, description=described,
        understood=[], left_over=[], completions=[], says=refused.says if refused else None,
        nearest=[] if described else near[station], would_do=refused.would_do if refused else None,
    )  # fmt: skip


@router.get("/fields")
def ask_in_fields(
    pitch: Annotated[str, Query(max_length=60, description="A pitch, a size or a feed", examples=["2 mm", "26 tpi"])],
    ask: Annotated[str, Query(max_length=200, description="The ask the fields were filled from, if any")] = "",
    way: Annotated[CarriageMove, Query(description="Thread, or feed along or across")] = CarriageMove.THREAD,
    hand: Annotated[
        Hand, Query(description="Hand of the thread; for a feed, right is toward the headstock")
    ] = Hand.RIGHT,
    starts: Typed = "",
    diameter: Typed = "",
    engagement: Typed = "",
    flanks: Annotated[str, Query(max_length=40, description="Included angle, a worm's pressure angle, degrees")] = "",
    fit_class: Annotated[str, Query(max_length=40, description="Class of fit", examples=["6g", "2A"])] = "",
    slide: Annotated[bool, Query(description="A screw that measures or moves a slide")] = False,
    within: Annotated[str, Query(max_length=40, description="Allowed error in percent")] = "",
    units: InUnits = Units.MM,
) -> AskOut:
    """The ask that these fields make, in one line. Empty fields are as usual."""
    fields = Fields(pitch, way, hand, starts, diameter, engagement, flanks, fit_class, slide, within)
    return asked(ask_from(fields, asks.read(ask).ask if ask else None), units)


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
    return _answered(Answer(wanted, lathe, stock, mounted, units).plan(outcome, on.row.slug), on)


def _answered(plan: PlanOut, on: OnLathe) -> PlanOut:
    """With what the lathe's record leaves out of every plan."""
    return plan.model_copy(update={"left_out": left_out_text(on.row), "not_known": not_known(on.row, on.lathe)})


@router.get("/{machine}/train", dependencies=[QUICK])
def get_train(on: OnLathe, ask: Ask, train: TrainName, units: InUnits = Units.MM) -> TrainOut:
    """One train of one's own, laid out and judged for an ask, whether or not it is a good one."""
    lathe, stock, mounted = on.lathe, on.stock, on.mounted
    wanted = read_whole(ask)
    candidate = candidate_for(read_set_up(train, lathe), wanted, lathe, stock, mounted)
    return Answer(wanted, lathe, stock, mounted, units).train(candidate)


@router.get("/{machine}/train/changed", dependencies=[QUICK])
def get_changed_train(
    on: OnLathe,
    ask: Ask,
    train: TrainName,
    change: ChangeOf,
    at: At,
    teeth: Teeth = 40,
    other: OtherPlace = 0,
    units: InUnits = Units.MM,
) -> TrainOut:
    """The train with one change, laid out and judged: what a wheel dragged to a shaft makes of it."""
    lathe, stock, mounted = on.lathe, on.stock, on.mounted
    wanted, before = read_whole(ask), read_set_up(train, lathe)
    after = before.train.changed(change, at, teeth, other)
    candidate = candidate_for(SetUp(after, before.setting), wanted, lathe, stock, mounted)
    return Answer(wanted, lathe, stock, mounted, units).train(candidate)


@router.get("/{machine}/now", dependencies=[QUICK])
def get_now(on: OnLathe, units: InUnits = Units.MM) -> PlanOut | None:
    """The train that is on the lathe now, as a plan for the thread it cuts; null when the lathe is bare."""
    lathe, stock, mounted = on.lathe, on.stock, on.mounted
    if mounted is None:
        return None
    now = plan_of(mounted, lathe, stock)
    return _answered(Answer(now.ask, lathe, stock, mounted, units).plan(now, on.row.slug), on)


@router.get(
    "/{machine}/sheet.pdf",
    dependencies=[QUICK],
    response_class=Response,
    responses=described("pdf"),
)
def get_sheet(on: OnLathe, ask: Ask, train: TrainName, units: InUnits = Units.MM) -> Response:
    """The set-up sheet of one train as a page of A4."""
    lathe = on.lathe
    wanted = read_whole(ask)
    chosen = candidate_for(read_set_up(train, lathe), wanted, lathe, on.stock, on.mounted)
    return attached(
        sheet_pdf(sheet(chosen, wanted, lathe, units), chosen, lathe), "pdf", f"{on.row.slug}-{thread.say(wanted)}"
    )
