"""The Lathe station: read an ask, plan trains for it, write the set-up sheet."""

from typing import Annotated, Literal

from fastapi import APIRouter, Query, Response
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import InSession
from valleywind.api.drawing import Drawing, ToothOutline, draw, outlines
from valleywind.api.machines import Slug
from valleywind.api.problems import RESPONSES, NotUnderstood
from valleywind.core.lathe import ask as asks
from valleywind.core.lathe import thread
from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.plan import Candidate, Order, Plan, candidate_for, plan, plan_of
from valleywind.core.lathe.proof import UNCERTAINTY, Measured, Method, check
from valleywind.core.lathe.thread import ThreadAsk
from valleywind.core.trains.model import Train, parse_train
from valleywind.core.units import Unit, parse_length
from valleywind.formats.sheet_pdf import sheet_pdf
from valleywind.shop import machines as shop
from valleywind.wording import lathe as words
from valleywind.wording import numbers, refusals, slips
from valleywind.wording.numbers import Units
from valleywind.wording.sheet import sheet
from valleywind.wording.trains import room, train_text, work

router = APIRouter(prefix="/lathes", tags=["lathe"], responses=RESPONSES)

Ask = Annotated[
    str,
    Query(
        description="What is wanted, as people say it",
        examples=["M14x2", "26 tpi", "1.75 mm left"],
        max_length=200,
    ),
]
InUnits = Annotated[Units, Query(description="Lengths in the texts")]
Typed = Annotated[str | None, Query(max_length=40, examples=["11 mm", "1/2 in"])]


# More explanations than this help nobody.
_MOST_SLIPS = 8


class AskOut(BaseModel):
    canonical: str = Field(description="The ask in one line; asked again it gives the same", examples=["M14x2"])
    description: str = Field(examples=["2 mm lead, right-hand, 60°"])
    lead_mm: float
    pitch_mm: float
    pitch: str = Field(description="The pitch of one start, in the way it was asked for", examples=["2 mm", "26 tpi"])
    named: str | None = Field(description="The thread by its size, without starts, hand and nut", examples=["M14x2"])
    over: str | None = Field(description="The stated length of the nut, as it is asked", examples=["over 30 mm"])
    starts: int
    diameter_mm: float | None
    engagement_mm: float = Field(description="Length of nut that is judged")
    hand: Literal["right", "left"]
    assumptions: list[str] = Field(description="What was taken for granted because nobody said")


class Gathered(BaseModel):
    over: str = Field(examples=["300 mm"])
    gathers: str = Field(examples=["16 µm"])


class VerdictOut(BaseModel):
    goes: Literal["freely", "mid_tolerance", "partly", "not"]
    head: str = Field(examples=["Goes as any other"])
    text: str
    longest: str
    slide: str
    gathered_um: float = Field(description="Pitch error gathered over the engagement")
    taken_up_um: float = Field(description="What that takes up of the pitch-diameter clearance")
    allowance_um: float = Field(description="Guaranteed clearance of the fit")
    mid_tolerance_um: float = Field(description="Clearance of a screw cut to the middle of its tolerance")
    taken_up: str
    allowance: str
    mid_tolerance: str
    per_length: list[Gathered] = Field(description="Pitch error gathered over usual lengths")


class StageOut(BaseModel):
    driver: int
    driven: int
    idlers: list[int]


class FromSheet(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class StepOut(FromSheet):
    text: str = Field(description="`**` stands round what is to be set strongly")
    caution: str | None


class ShaftRowOut(FromSheet):
    shaft: str
    inner: str
    outer: str
    where: str


class FactOut(FromSheet):
    label: str
    text: str


class SheetOut(FromSheet):
    title: str
    machine: str
    train: str
    facts: list[FactOut]
    shafts: list[ShaftRowOut]
    steps: list[StepOut]
    proof: list[str]
    scratch_turns: int = Field(description="Turns of the scratch pass that the proof speaks of")
    aid: str


class CandidateOut(BaseModel):
    train: str = Field(description="Names the train in requests", examples=["76/66*32/78"])
    text: str = Field(examples=["76/66 × 32/78"])
    stages: list[StageOut]
    ratio: str = Field(examples=["608/1287"])
    lead_mm: float
    lead: str = Field(examples=["1.9999 mm"])
    lead_value: str = Field(examples=["1.9999"])
    lead_unit: str = Field(examples=["mm lead"])
    relative_error: float = Field(description="Signed, lead / wanted lead − 1")
    error: str = Field(examples=["−52 ppm"])
    goes_on: bool = Field(description="It has a place on the quadrant and turns the right way")
    fits: bool = Field(description="It goes on, and every wheel is held")
    room: str = Field(examples=["16.7 mm clear"])
    is_on: bool = Field(description="It is on the lathe already")
    work: str = Field(examples=["leave 2, put on 2"])
    order_reason: str
    reasons: list[str] = Field(description="Why it does not go on; empty when it does")
    hand: str
    verdict: VerdictOut
    drawing: Drawing
    sheet: SheetOut


class SlipOut(BaseModel):
    text: str = Field(examples=["The 66 and the 32 are exchanged on their stud."])
    stands: CandidateOut = Field(description="The train as it would stand with the slip")


class MethodOut(BaseModel):
    method: Method
    text: str = Field(examples=["caliper, ±0.05 mm"])


class ProofOut(BaseModel):
    agrees: bool = Field(description="The reading is what the train gives, within the measuring uncertainty")
    text: str
    expected_mm: float
    slips: list[SlipOut] = Field(description="Single slips that explain the reading, the likeliest first")
    outlines: list[ToothOutline]


class PlanOut(BaseModel):
    ask: AskOut
    machine: str
    ratio_wanted: str = Field(description="Turns of the screw per turn of the first shaft, exact", examples=["60/127"])
    order: Order
    candidates: list[CandidateOut]
    most_exact_unfit: CandidateOut | None = Field(description="The closest train, when it does not go on")
    one_more: CandidateOut | None = Field(description="The best train with one wheel that is not held")
    one_more_text: str | None
    shortfall: str | None = Field(description="Nothing meets the ask: how far off the best is, and why")
    outlines: list[ToothOutline]


class CompletionOut(BaseModel):
    ask: str = Field(examples=["M14x1.5"])
    means: str = Field(examples=["1.5 mm pitch, 14 mm across, 60°"])


class ReadingOut(BaseModel):
    whole: bool = Field(description="Whether this can be planned")
    canonical: str | None
    description: str | None
    understood: list[str]
    left_over: list[str]
    nearest: list[str] = Field(description="Asks near to it that would be understood")
    completions: list[CompletionOut] = Field(description="How the line could go on, and what that would mean")
    says: str | None
    would_do: str | None


def _read(text: str, diameter: str | None = None, engagement: str | None = None) -> ThreadAsk:
    reading = asks.read(text)
    if reading.ask is None:
        assert reading.refusal is not None
        raise NotUnderstood(reading.refusal, _understood(reading), list(reading.left_over), list(reading.nearest))
    return thread.with_lengths(
        reading.ask,
        parse_length(diameter, field="diameter") if diameter else None,
        parse_length(engagement, field="engagement") if engagement else None,
    )


def _understood(reading: asks.Reading) -> list[str]:
    return [f"{text}: {words.MEANINGS[meaning]}" for text, meaning in reading.understood]


@router.get("/reading")
def read_ask(ask: Ask, units: InUnits = Units.MM) -> ReadingOut:
    """What is made of a line while it is typed. Never fails: says what was understood, what not, what is near."""
    reading = asks.read(ask)
    said = refusals.say(reading.refusal) if reading.refusal else None
    return ReadingOut(
        whole=reading.ask is not None,
        canonical=thread.say(reading.ask) if reading.ask else None,
        description=words.description(reading.ask, units) if reading.ask else None,
        understood=_understood(reading),
        left_over=list(reading.left_over),
        nearest=list(reading.nearest),
        completions=[CompletionOut(ask=thread.say(a), means=words.completion(a, units)) for a in asks.complete(ask)],
        says=said.says if said else None,
        would_do=said.would_do if said else None,
    )


@router.get("/methods")
def get_methods(units: InUnits = Units.MM) -> list[MethodOut]:
    """What a scratch pass may be measured with, and how far a reading with it may be off."""
    return [MethodOut(method=method, text=text) for method, text in slips.methods(units)]


@router.get("/{machine}/plan")
def get_plan(
    machine: Slug,
    ask: Ask,
    session: InSession,
    units: InUnits = Units.MM,
    order: Annotated[Order, Query(description="What comes first")] = Order.LEAST_TROUBLE,
    best: Annotated[int, Query(ge=1, le=40, description="How many trains at most")] = 12,
    diameter: Typed = None,
    engagement: Typed = None,
) -> PlanOut:
    """Trains for an ask from the wheels this lathe has, laid out, judged and in order of merit."""
    row = shop.machine(session, machine)
    lathe, mounted = shop.lathe(row), shop.mounted(row)
    wanted = _read(ask, diameter, engagement)
    return _Answer(wanted, lathe, mounted, units).plan(
        plan(wanted, lathe, shop.stock(row), mounted, order, best), machine
    )


@router.get("/{machine}/now")
def get_now(machine: Slug, session: InSession, units: InUnits = Units.MM) -> PlanOut | None:
    """The train that is on the lathe now, as a plan for the thread it cuts; null when the lathe is bare."""
    row = shop.machine(session, machine)
    lathe, mounted = shop.lathe(row), shop.mounted(row)
    if mounted is None:
        return None
    found = plan_of(mounted, lathe, shop.stock(row))
    return _Answer(found.ask, lathe, mounted, units).plan(found, machine)


@router.get("/{machine}/sheet.pdf", response_class=Response, responses={200: {"content": {"application/pdf": {}}}})
def get_sheet(
    machine: Slug,
    ask: Ask,
    train: Annotated[str, Query(examples=["76/66*32/78"], max_length=80)],
    session: InSession,
    units: InUnits = Units.MM,
    diameter: Typed = None,
    engagement: Typed = None,
) -> Response:
    """The set-up sheet of one train as a page of A4."""
    row = shop.machine(session, machine)
    lathe, mounted = shop.lathe(row), shop.mounted(row)
    wanted = _read(ask, diameter, engagement)
    chosen = candidate_for(parse_train(train), wanted, lathe, shop.stock(row), mounted)
    name = f"{machine}-{thread.say(wanted)}".replace(" ", "-").replace("/", "_")
    return Response(
        sheet_pdf(sheet(chosen, wanted, lathe, units), chosen, lathe),
        media_type="application/pdf",
        headers={"Content-Disposition": f'attachment; filename="{name}.pdf"'},
    )


@router.get("/{machine}/proof")
def get_proof(
    machine: Slug,
    ask: Ask,
    train: Annotated[str, Query(description="The train that was set up", examples=["76/66*32/78"], max_length=80)],
    measured: Annotated[str, Query(description="The measured length", examples=["20.02 mm"], max_length=40)],
    turns: Annotated[int, Query(description="Over so many turns of the spindle", examples=[10])],
    session: InSession,
    method: Annotated[Method, Query(description="Measured with what")] = Method.CALIPER,
    units: InUnits = Units.MM,
) -> ProofOut:
    """Compare a scratch pass with the train: yes, or the single slips that explain what was measured."""
    row = shop.machine(session, machine)
    lathe, stock, mounted = shop.lathe(row), shop.stock(row), shop.mounted(row)
    wanted, chosen = _read(ask), parse_train(train)
    length = parse_length(measured, Unit.MM if units is Units.MM else Unit.INCH, "measured").mm
    reading = Measured(length, turns, UNCERTAINTY[method])
    result = check(reading, chosen, lathe, stock)
    answer = _Answer(wanted, lathe, mounted, units)
    found = [
        SlipOut(
            text=slips.slip(s, lathe), stands=answer.candidate(candidate_for(s.train, wanted, lathe, stock, mounted))
        )
        for s in result.slips[:_MOST_SLIPS]
    ]
    return ProofOut(
        agrees=result.agrees,
        text=slips.answer(result, reading, units, len(found)),
        expected_mm=float(result.expected),
        slips=found,
        outlines=outlines({t for s in result.slips[:_MOST_SLIPS] for t in s.train.teeth}, lathe.family),
    )


class _Answer:
    """Shapes the core's findings for one ask into the schema, in the reader's units."""

    def __init__(self, ask: ThreadAsk, lathe: Lathe, mounted: Train | None, units: Units) -> None:
        self.ask, self.lathe, self.mounted, self.units = ask, lathe, mounted, units

    def plan(self, found: Plan, machine: str) -> PlanOut:
        shown = [*found.candidates, *(c for c in (found.most_exact_unfit, found.one_more) if c)]
        return PlanOut(
            ask=self.asked(),
            machine=machine,
            ratio_wanted=str(found.target),
            order=found.order,
            candidates=[self.candidate(c, n == 0) for n, c in enumerate(found.candidates)],
            most_exact_unfit=self.candidate(found.most_exact_unfit) if found.most_exact_unfit else None,
            one_more=self.candidate(found.one_more) if found.one_more else None,
            one_more_text=words.one_more_text(found, self.units),
            shortfall=words.shortfall_text(found, self.units),
            outlines=outlines({t for c in shown for t in c.train.teeth}, self.lathe.family),
        )

    def asked(self) -> AskOut:
        ask = self.ask
        return AskOut(
            canonical=thread.say(ask),
            description=words.description(ask, self.units),
            lead_mm=float(ask.lead),
            pitch_mm=float(ask.pitch),
            pitch=words.pitch_as_asked(ask, self.units),
            named=thread.named(ask),
            over=thread.over(ask),
            starts=ask.starts,
            diameter_mm=float(ask.diameter) if ask.diameter is not None else None,
            engagement_mm=float(ask.length),
            hand=ask.hand.value,
            assumptions=words.assumptions(ask, self.units),
        )

    def candidate(self, found: Candidate, first: bool = False) -> CandidateOut:
        train, figure = found.train, words.lead_figure(found, self.ask, self.units)
        return CandidateOut(
            train=train.notation,
            text=train_text(train),
            stages=[StageOut(driver=s.driver, driven=s.driven, idlers=list(s.idlers)) for s in train.stages],
            ratio=str(train.ratio),
            lead_mm=float(found.lead),
            lead=figure.short,
            lead_value=figure.value,
            lead_unit=figure.unit,
            relative_error=float(found.error),
            error=numbers.error(found.error),
            goes_on=found.goes_on,
            fits=found.fits,
            room=room(found.placement, self.units),
            is_on=found.handling.none,
            work=work(found.handling),
            order_reason=words.order_reason(found, first),
            reasons=words.reasons(found, self.units),
            hand=words.hand_text(found.hand, self.ask.hand),
            verdict=self.verdict(found),
            drawing=draw(found, self.lathe, self.mounted, self.units),
            sheet=SheetOut.model_validate(sheet(found, self.ask, self.lathe, self.units)),
        )

    def verdict(self, found: Candidate) -> VerdictOut:
        verdict, units = found.verdict, self.units
        return VerdictOut(
            goes=verdict.goes.value,
            head=words.verdict_head(verdict),
            text=words.verdict_text(found, units),
            longest=words.longest_text(verdict, units),
            slide=words.slide_text(verdict, units),
            gathered_um=verdict.gathered,
            taken_up_um=verdict.taken_up,
            allowance_um=verdict.fit.allowance,
            mid_tolerance_um=verdict.fit.mid_tolerance,
            taken_up=numbers.small(verdict.taken_up, units),
            allowance=numbers.small(verdict.fit.allowance, units),
            mid_tolerance=numbers.small(verdict.fit.mid_tolerance, units),
            per_length=[Gathered(over=o, gathers=g) for o, g in words.gathered_rows(verdict, units)],
        )
