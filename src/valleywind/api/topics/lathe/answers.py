"""What the Lathe station is answered: asks, verdicts, candidates and plans, shaped from the core's findings."""

from typing import Literal

from pydantic import BaseModel, Field

from valleywind.api.drawing import Drawing, Spot, ToothOutline, draw, outlines
from valleywind.api.pieces import (
    AdviceOut,
    FromCore,
    Goes,
    ListedTrain,
    SheetOut,
    stages_of,
)
from valleywind.app.kinds.lathe import LatheInUse
from valleywind.app.machine_plates import on_plate
from valleywind.core.lathe import thread
from valleywind.core.lathe.fits import CLASSES, fit_system
from valleywind.core.lathe.machine import SetUp
from valleywind.core.lathe.nut_view import NutView, nut_view
from valleywind.core.lathe.pickup import pick_up
from valleywind.core.lathe.plan import Candidate, Plan, right_handed
from valleywind.core.lathe.thread import Ask, FeedAsk
from valleywind.core.trains.planner import Order, ShortfallCause
from valleywind.core.units import spell, spell_degrees
from valleywind.wording import numbers
from valleywind.wording.lathe import answers as words
from valleywind.wording.lathe import pickup
from valleywind.wording.lathe.sheet import sheet
from valleywind.wording.numbers import Units, small
from valleywind.wording.trains import order_reason, room, train_text


class AskOut(BaseModel):
    canonical: str = Field(description="The ask in one line; asked again it gives the same", examples=["M14x2"])
    description: str = Field(examples=["2 mm lead, right-hand, 60°"])
    job: Literal["nut", "slide", "worm", "feed"]
    way: Literal["thread", "along", "across"]
    lead_mm: float
    pitch: str = Field(description="The pitch of one start, or the feed, as it was asked for", examples=["2 mm"])
    named: str | None = Field(description="The thread by its size, without starts, hand and nut", examples=["M14x2"])
    starts: int
    diameter: str = Field(description="As the field takes it; empty where none was given", examples=["14 mm"])
    engagement: str = Field(description="Stated length of nut or contact; empty where as usual", examples=["30 mm"])
    usual_engagement: str = Field(examples=["11.2 mm"])
    flanks: str = Field(description="Stated flank or pressure angle; empty where as usual")
    usual_flanks: str = Field(examples=["60°"])
    fit_class: str = Field(description="Stated class of fit; empty where as usual")
    fit_classes: list[str] = Field(description="Classes known for this thread, the usual one first; empty for others")
    within: str = Field(description="Stated tolerance in percent; empty where the job decides")
    hand: Literal["right", "left"]
    assumptions: list[str] = Field(description="What was taken for granted because nobody said")


class GatheredError(BaseModel):
    over: str = Field(examples=["300 mm"])
    gathers: str = Field(examples=["16 µm"])


class VerdictOut(BaseModel):
    job: Literal["nut", "slide", "worm", "feed"]
    goes: Goes
    head: str = Field(examples=["Nut runs free"])
    text: str
    longest: str | None
    slide: str | None
    taken_up: float = Field(description="What the error takes up, in µm or as a proportion; see `bar`")
    freely: float = Field(description="Up to here it runs free")
    at_most: float = Field(description="Up to here it goes with care")
    bar: str = Field(description="The three in words; `**` stands round what is taken up")
    per_length: list[GatheredError] = Field(description="Pitch error gathered over usual lengths")


class DialOut(BaseModel):
    teeth: int
    marks: int
    serving: list[int] = Field(description="Marks at which the half-nuts may close, numbered from 1")


class PickUpOut(BaseModel):
    how: Literal["anywhere", "marks", "every", "keep_closed"]
    head: str = Field(examples=["Close at marks 1, 3, 5 or 7"])
    dial: DialOut | None


class TurnOut(FromCore):
    number: int
    drift: float = Field(description="Of the screw's thread against the nut's, mm, true")
    touches: bool


class NutViewOut(FromCore):
    """Thread against nut; lengths in mm, true. Drift and play are drawn magnified, the thread is not."""

    pitch: float
    depth: float
    engagement: float
    play: float
    play_text: str = Field(examples=["38 µm"])
    magnification: int
    groove: list[Spot] = Field(
        description="The nut's groove from side to side, as drawn: along the axis from its middle, and up from half way"
    )
    screw: list[Spot] = Field(description="The screw's ridge, thinner by the play as it is drawn")
    flank: float = Field(description="Half the width of the screw's ridge half way up, as drawn")
    turns: list[TurnOut]
    left_out: int


class ListedOut(ListedTrain):
    """A train as the list shows it."""

    lead_mm: float


class CandidateOut(ListedOut):
    """A train that is looked at: what it needs to be drawn, set up and judged."""

    ratio: str = Field(examples=["608/1287"])
    lead_value: str = Field(examples=["1.9999"])
    lead_unit: str = Field(examples=["mm lead"])
    advice: AdviceOut | None = Field(description="What puts a wrong hand right")
    hand: str
    verdict: VerdictOut
    pick_up: PickUpOut | None
    nut_view: NutViewOut | None
    drawing: Drawing
    sheet: SheetOut


class PlanOut(BaseModel):
    ask: AskOut
    machine: str
    ratio_wanted: str = Field(
        description="Turns of the screw per turn of the first shaft, levers as usual, exact", examples=["60/127"]
    )
    order: Order
    candidates: list[ListedOut]
    most_exact_unfit: ListedOut | None = Field(description="The closest train, when it does not go on")
    one_more: ListedOut | None = Field(description="The best train with one wheel that is not held")
    first: CandidateOut | None = Field(description="The first of these to be looked at; ask for the others by name")
    one_more_text: str | None
    shortfall: str | None = Field(description="Nothing meets the ask: how far off the best is, and why")
    cut_short: str | None = Field(description="Not every train was tried, and why")
    not_known: list[str] = Field([], description="What is not known of the lathe, and so was not looked at")
    left_out: str | None = Field(None, description="Wheels in the lathe's box that no train is planned with, and why")
    too_fine: bool = Field(description="It is finer or slower than the wheels give: ask what would be slower")
    outlines: list[ToothOutline] = Field(description="Of the wheels of `first` that are not on the machine’s shelf")


class TrainOut(BaseModel):
    candidate: CandidateOut
    outlines: list[ToothOutline] = Field(description="Of its wheels that are not on the machine’s shelf")


class Answer:
    """Shapes the core's findings for one ask into the schema, in the reader's units."""

    def __init__(self, ask: Ask, on: LatheInUse, units: Units) -> None:
        self.ask, self.units, self.on_plate = ask, units, on_plate(on.row, ask.lead, ask.way.value)
        self.lathe, self.stock, self.mounted = on.lathe, on.stock, on.mounted

    def plan(self, plan: Plan, machine: str) -> PlanOut:
        candidates = [self.listed(c, n == 0) for n, c in enumerate(plan.candidates)]
        first = next((c for c in (*plan.candidates, plan.most_exact_unfit, plan.one_more) if c), None)
        return PlanOut(
            ask=ask_out(self.ask, self.units),
            machine=machine,
            ratio_wanted=_short_fraction(str(plan.target)),
            order=plan.order,
            candidates=candidates,
            most_exact_unfit=self.listed(plan.most_exact_unfit) if plan.most_exact_unfit else None,
            one_more=self.listed(plan.one_more) if plan.one_more else None,
            first=self.candidate(first, candidates[0] if candidates else None) if first else None,
            one_more_text=words.one_more_text(plan, self.units),
            shortfall=words.shortfall_text(plan, self.units),
            cut_short=words.CUT_SHORT if plan.cut_short else None,
            too_fine=plan.shortfall is not None and plan.shortfall.cause is ShortfallCause.LESS_THAN_LEAST,
            outlines=self._outlines(first) if first else [],
        )

    def train(self, candidate: Candidate) -> TrainOut:
        """One train alone, with the outlines to draw it."""
        return TrainOut(candidate=self.candidate(candidate), outlines=self._outlines(candidate))

    def _outlines(self, candidate: Candidate) -> list[ToothOutline]:
        """Of wheels that the shelf does not have: what it has the screen knows already."""
        return outlines({t for t in candidate.train.teeth if t not in self.stock}, self.lathe.family)

    def listed(self, candidate: Candidate, first: bool = False) -> ListedOut:
        """A train as the list shows it."""
        train, figure = candidate.train, words.lead_figure(candidate, self.ask, self.units)
        return ListedOut(
            train=SetUp.of(candidate).name(self.lathe),
            text=train_text(train),
            stages=stages_of(train),
            levers=words.levers_label(candidate.setting, self.lathe),
            lead_mm=float(candidate.value),
            lead=figure.short,
            relative_error=float(candidate.error),
            error=numbers.error(candidate.error),
            goes=candidate.verdict.goes.value,
            verdict_head=words.verdict_head(candidate.verdict),
            goes_on=candidate.goes_on,
            checked=candidate.placement.checked.value,
            fits=candidate.fits,
            room=room(candidate.placement, self.lathe.quadrant, self.units),
            is_on=candidate.handling.none,
            on_plate=train.combination in self.on_plate,
            work=words.work_text(candidate, self.lathe),
            order_reason=order_reason(train, candidate.handling, first),
            reasons=words.reasons(candidate, self.units),
        )

    def candidate(self, candidate: Candidate, listed: ListedOut | None = None) -> CandidateOut:
        """A train that is looked at; `listed` is it as the list has it, where that is made already."""
        figure = words.lead_figure(candidate, self.ask, self.units)
        return CandidateOut(
            **dict(listed or self.listed(candidate)),
            ratio=str(candidate.train.ratio),
            lead_value=figure.value,
            lead_unit=figure.unit,
            advice=self._advice(candidate),
            hand=words.direction_text(candidate.hand, self.ask),
            verdict=self._verdict(candidate),
            pick_up=self._pick_up(candidate),
            nut_view=self._nut_view(candidate),
            drawing=draw(
                candidate, self.lathe, self.mounted.train if self.mounted else None, self.ask.hand, self.units
            ),
            sheet=SheetOut.model_validate(sheet(candidate, self.ask, self.lathe, self.units)),
        )

    def _advice(self, candidate: Candidate) -> AdviceOut | None:
        righted = right_handed(candidate, self.ask, self.lathe, self.stock, self.mounted)
        text = words.one_idler_text(candidate, righted, self.lathe.quadrant, self.units)
        return AdviceOut(text=text, train=SetUp.of(righted).name(self.lathe)) if righted and text else None

    def _verdict(self, candidate: Candidate) -> VerdictOut:
        verdict, units = candidate.verdict, self.units
        return VerdictOut(
            job=verdict.job.value,
            goes=verdict.goes.value,
            head=words.verdict_head(verdict),
            text=words.verdict_text(candidate, units),
            longest=words.longest_text(verdict, units),
            slide=words.slide_text(verdict, units),
            taken_up=verdict.taken_up,
            freely=verdict.freely,
            at_most=verdict.at_most,
            bar=words.bar_text(verdict, units),
            per_length=[GatheredError(over=o, gathers=g) for o, g in words.gathered_rows(verdict, units)],
        )

    def _pick_up(self, candidate: Candidate) -> PickUpOut | None:
        if isinstance(self.ask, FeedAsk):
            return None
        advice = pick_up(candidate.value, self.lathe.screw_lead, self.lathe.dials)
        dial = (
            DialOut(teeth=advice.dial.teeth, marks=advice.dial.marks, serving=list(advice.marks))
            if advice.dial
            else None
        )
        return PickUpOut(how=advice.how.value, head=pickup.head(advice), dial=dial)

    def _nut_view(self, candidate: Candidate) -> NutViewOut | None:
        if isinstance(self.ask, FeedAsk):
            return None
        view: NutView | None = nut_view(self.ask, float(candidate.error), candidate.verdict)
        if view is None:
            return None
        return NutViewOut.model_validate(
            {
                **vars(view),
                "groove": [Spot.at(point) for point in view.groove],
                "screw": [Spot.at(point) for point in view.screw],
                "play_text": small(view.play * 1000, self.units),
            }
        )


def ask_out(ask: Ask, units: Units) -> AskOut:
    """The ask as its fields show it."""
    within = "" if ask.within is None else spell(ask.within * 100)
    if isinstance(ask, FeedAsk):
        return AskOut(
            canonical=thread.say(ask), description=words.description(ask, units), job="feed", way=ask.way.value,
            lead_mm=float(ask.lead), pitch=words.travel_as_asked(ask, Units.MM), named=None, starts=1, diameter="",
            engagement="", usual_engagement="", flanks="", usual_flanks="", fit_class="", fit_classes=[],
            within=within, hand=ask.hand.value, assumptions=words.assumptions(ask, units),
        )  # fmt: skip
    angle = ask.included_angle / 2 if ask.worm else ask.included_angle
    judged_by_fit = ask.worm is None and not ask.slide and ask.within is None
    return AskOut(
        canonical=thread.say(ask),
        description=words.description(ask, units),
        job=ask.job.value,
        way="thread",
        lead_mm=float(ask.lead),
        pitch=thread.bare_pitch(ask),
        named=thread.named(ask),
        starts=ask.starts,
        diameter=f"{spell(ask.diameter)} mm" if ask.diameter is not None else "",
        engagement=f"{spell(ask.engagement)} mm" if ask.engagement is not None else "",
        usual_engagement=numbers.short_length(ask.length, units),
        flanks=spell(angle) if ask.flanks is not None else "",
        usual_flanks=words.flanks(ask) if ask.worm is None else spell_degrees(angle),
        fit_class=ask.fit_class or "",
        fit_classes=list(CLASSES[fit_system(ask.series)]) if judged_by_fit else [],
        within=within,
        hand=ask.hand.value,
        assumptions=words.assumptions(ask, units),
    )


def _short_fraction(text: str) -> str:
    """A ratio with π in it is a fraction of dozens of digits; nobody reads those."""
    return text if len(text) <= 24 else f"{text[:20]}…"
