"""What the Mill station is answered: asks, set-ups, the table seen from above, and how the work must turn."""

from typing import Literal

from pydantic import BaseModel, Field

from valleywind.api.drawing import Drawing, Scene, Spot, ToothOutline, draw_train, outlines
from valleywind.api.pieces import (
    AdviceOut,
    FigureOut,
    Goes,
    ListedTrain,
    SheetOut,
    stages_of,
)
from valleywind.api.ways_out import WayOut
from valleywind.app.kinds.mill import MillInUse
from valleywind.app.machine_plates import on_plate
from valleywind.core.cutting.run_off import Mark
from valleywind.core.helix.ask import HelixAsk, say
from valleywind.core.helix.check import given_lead
from valleywind.core.helix.lead import PairWay
from valleywind.core.helix.plan import (
    LeadCandidate,
    LeadSetUp,
    SetUpDetail,
    Verdict,
    look,
    work_turns,
)
from valleywind.core.helix.plate import LEAD
from valleywind.core.helix.table import How, Point, View
from valleywind.core.making.mill_setting import MillSetting, view_of
from valleywind.core.teeth.ask_line import spell_pitch
from valleywind.core.trains.direction import Sense
from valleywind.core.trains.planner import Order, Outcome
from valleywind.core.units import spell, spell_degrees
from valleywind.wording.helix import answers as words
from valleywind.wording.helix.setting import setting_facts, wheel_sizes
from valleywind.wording.helix.sheet import sheet
from valleywind.wording.numbers import Units, length
from valleywind.wording.trains import LEAD_SHAFTS, order_reason, room, train_text

GOES: dict[Mark, Goes] = {
    Mark.NONE: "freely", Mark.GOOD: "freely", Mark.RUNS: "mid_tolerance", Mark.COARSE: "partly", Mark.NOT: "not",
}  # fmt: skip


class HelixAskOut(BaseModel):
    """The ask, and its fields as they are typed; empty where nothing is said."""

    canonical: str = Field(description="The ask in one line; asked again it gives the same", examples=["lead 300 mm"])
    description: str = Field(examples=["24 teeth, module 2, helix 30° left-hand, lead 301.59 mm"])
    wheel: bool = Field(description="A wheel with helical teeth, not grooves")
    lead: str = Field(description="The lead wanted", examples=["301.59 mm"])
    lead_mm: float
    teeth: str
    pitch: str
    angle: str
    helix: str
    stated_lead: str
    hand: Literal["", "right", "left"]
    diameter: str
    face: str
    mate: str
    cutter: str
    within: str
    assumptions: list[str] = Field(description="What was taken for granted because nobody said")


class HelixSetUpOut(ListedTrain):
    """A set-up that is looked at."""

    chain: list[str] = Field(description="What drives what, from the table’s screw to the head")
    pair: str | None = Field(description="How the pair is put in", examples=["2 turns in, 1 out"])
    verdict: str
    direction: str
    load: str | None = Field(description="Where the gearing is loaded heavily, and what loads it less")
    advice: AdviceOut | None = Field(description="What puts a wrong turning way right")
    mate: str | None = Field(description="How the mate is cut; null where none is said")
    drawing: Drawing
    sheet: SheetOut


class ViewOut(BaseModel):
    """The table from above, mm, as the operator stands: x to the right, y toward the column, the cutter at 0, 0."""

    how: How = Field(description="What is set over")
    degrees: float
    turned: float = Field(description="Of the table, or of the cutter’s plane; anticlockwise positive")
    table: list[Spot]
    begins: list[Spot] = Field(description="The table where the cut begins, moving left")
    ends: list[Spot] = Field(description="The table where it is done")
    square: list[Spot] = Field(description="The table before it was swung; empty where it is not")
    work: list[Spot]
    head: list[Spot]
    tail: list[Spot]
    teeth: list[list[Spot]] = Field(description="Tooth lines on top of the work")
    cutter: list[Spot]
    arbor: list[Spot]
    column_mm: float = Field(description="Distance of the column’s face")
    column_text: str
    fouls: bool = Field(description="The table meets the column")
    to_scale: bool = Field(description="False where the table’s size is not on record")


class TurningOut(BaseModel):
    """How the work turns, seen from the right-hand end of the table."""

    moving_left: Literal["clockwise", "anticlockwise"]
    moving_right: Literal["clockwise", "anticlockwise"]
    text: str


class HelixSettingOut(BaseModel):
    """Everything that is set beside the wheels; the same for every set-up of one ask."""

    figures: list[FigureOut]
    view: ViewOut | None = Field(description="Null where the angle is not known")
    turning: TurningOut
    wheel: list[FigureOut] = Field(description="Sizes of the wheel; empty for grooves")
    dividing: WayOut | None = Field(description="The head’s simple way; null where it has none")


class HelixPlanOut(BaseModel):
    ask: HelixAskOut
    machine: str
    order: Order
    candidates: list[ListedTrain]
    most_exact_unfit: ListedTrain | None = Field(description="The closest train, when it does not go on")
    one_more: ListedTrain | None = Field(description="The best train with one wheel that is not held")
    first: HelixSetUpOut | None = Field(description="The first of these to be looked at; ask for the others by name")
    one_more_text: str | None
    shortfall: str | None = Field(description="Nothing meets the ask: how far off the best is, and why")
    cut_short: str | None
    not_known: list[str]
    left_out: str | None = Field(None, description="Wheels in its box that no train is planned with, and why")
    setting: HelixSettingOut
    outlines: list[ToothOutline] = Field(description="Of the wheels of `first` that are not on the machine’s shelf")


class OneHelixSetUp(BaseModel):
    candidate: HelixSetUpOut
    outlines: list[ToothOutline]


def ask_out(ask: HelixAsk, units: Units) -> HelixAskOut:
    """The ask as its fields show it."""

    def mm(value: object) -> str:
        return "" if value is None else f"{spell(value)} mm"  # type: ignore[arg-type]

    def degrees(value: object) -> str:
        return "" if value is None else spell_degrees(value)  # type: ignore[arg-type]

    return HelixAskOut(
        canonical=say(ask),
        description=words.description(ask, units),
        wheel=ask.wheel,
        lead=words.lead_text(ask.wanted_lead, units),
        lead_mm=float(ask.wanted_lead),
        teeth="" if ask.teeth is None else str(ask.teeth),
        pitch=spell_pitch(ask.pitch) if ask.pitch else "",
        angle=degrees(ask.angle),
        helix=degrees(ask.helix),
        stated_lead=mm(ask.lead),
        hand=ask.hand.value if ask.hand else "",
        diameter=mm(ask.diameter),
        face=mm(ask.face),
        mate="" if ask.mate is None else str(ask.mate),
        cutter=mm(ask.cutter),
        within="" if ask.within is None else f"{spell(ask.within * 100)} %",
        assumptions=words.assumptions(ask, units),
    )


class Answer:
    """Shapes the core's findings for one ask into the schema, in the reader's units."""

    def __init__(
        self, ask: HelixAsk, at: MillInUse, setting: MillSetting, dividing: WayOut | None, units: Units
    ) -> None:
        self.ask, self.at, self.setting, self.dividing, self.units = ask, at, setting, dividing, units
        self.on_plate = on_plate(at.row, 1 / ask.wanted_lead, LEAD)

    def plan(self, outcome: Outcome[PairWay, Verdict], machine: str, order: Order) -> HelixPlanOut:
        """A whole plan, its first set-up looked at."""
        candidates, unfit, more = list(outcome.candidates), outcome.most_exact_unfit, outcome.one_more
        listed = [self.listed(c, n == 0) for n, c in enumerate(candidates)]
        first = next((c for c in (*candidates, unfit, more) if c), None)
        at, units = self.at, self.units
        return HelixPlanOut(
            ask=ask_out(self.ask, units),
            machine=machine,
            order=order,
            candidates=listed,
            most_exact_unfit=self.listed(unfit) if unfit else None,
            one_more=self.listed(more) if more else None,
            first=self.set_up(first, candidates) if first else None,
            one_more_text=words.one_more_text(more),
            shortfall=words.shortfall_text(outcome.shortfall, at.drive, at.name, units),
            cut_short=words.CUT_SHORT if outcome.cut_short else None,
            not_known=words.not_known(at.mill, at.drive),
            setting=self._setting(),
            outlines=self._outlines(first) if first else [],
        )

    def one(self, candidate: LeadCandidate) -> OneHelixSetUp:
        """One set-up alone, with the outlines to draw it."""
        return OneHelixSetUp(candidate=self.set_up(candidate), outlines=self._outlines(candidate))

    def _outlines(self, candidate: LeadCandidate) -> list[ToothOutline]:
        return outlines({t for t in candidate.train.teeth if t not in self.at.stock}, self.at.drive.box.family)

    def listed(self, candidate: LeadCandidate, first: bool = False) -> ListedTrain:
        """A set-up as the list shows it."""
        at, train = self.at, candidate.train
        set_up = LeadSetUp(train, candidate.setting)
        gives = given_lead(set_up, at.drive)
        return ListedTrain(
            train=set_up.name,
            text=train_text(train),
            stages=stages_of(train),
            levers=words.pair_label(candidate.setting, at.drive),
            lead=words.lead_text(gives, self.units),
            relative_error=float(gives / self.ask.wanted_lead - 1),
            error=words.run_off_short(candidate, self.units),
            goes=GOES[candidate.verdict.mark],
            verdict_head=words.head(candidate.verdict),
            goes_on=candidate.goes_on,
            checked=candidate.placement.checked.value,
            fits=candidate.fits,
            room=room(candidate.placement, at.drive.box.quadrant, self.units),
            is_on=candidate.handling.none,
            on_plate=train.combination in self.on_plate,
            work=words.work_text(candidate),
            order_reason=order_reason(train, candidate.handling, first),
            reasons=words.reasons(candidate, self.units),
        )

    def set_up(self, candidate: LeadCandidate, others: list[LeadCandidate] | None = None) -> HelixSetUpOut:
        """A set-up that is looked at; `others` of the same ask, for what loads the gearing less."""
        at, box = self.at, self.at.drive.box
        scene = Scene(
            box.family, box.quadrant, LEAD_SHAFTS, self.units, None, at.on.train.places if at.on else {},
            candidate.lacking, None, bool(at.family.name),
        )  # fmt: skip
        looked = look(candidate, self.ask, at.drive, at.stock, at.on)
        written = sheet(candidate, self.ask, at.mill, at.drive, self.setting, at.name, at.family, self.units)
        return HelixSetUpOut(
            **dict(self.listed(candidate)),
            chain=words.chain(LeadSetUp(candidate.train, candidate.setting), at.mill, at.drive, self.units),
            pair=words.pair_text(candidate.setting) if at.drive.pairs else None,
            verdict=words.verdict_text(candidate, self.ask, at.drive, self.units),
            direction=words.direction(candidate, self.ask),
            load=words.load_text(candidate, at.drive, others or []),
            advice=self._advice(candidate, looked.righted),
            mate=self._mate(looked),
            drawing=draw_train(candidate.train, candidate.placement, scene),
            sheet=SheetOut.model_validate(written),
        )

    def _advice(self, candidate: LeadCandidate, right: LeadCandidate | None) -> AdviceOut | None:
        text = words.one_idler_text(candidate, right)
        return AdviceOut(text=text, train=LeadSetUp(right.train, right.setting).name) if right and text else None

    def _mate(self, looked: SetUpDetail) -> str | None:
        if not looked.has_mate:
            return None
        return words.mate_text(looked.mate, self.ask, self.at.drive, self.units) if looked.mate else words.NO_MATE

    def _setting(self) -> HelixSettingOut:
        hand = self.ask.wanted_hand
        left, right = (work_turns(hand, to_left) for to_left in (True, False))
        seen = view_of(self.setting, self.ask, self.at.mill)
        figures = setting_facts(self.setting, self.ask, self.at.mill, self.units)
        return HelixSettingOut(
            figures=[FigureOut.model_validate(f) for f in figures],
            view=_view(seen, self.setting, self.units) if seen else None,
            turning=TurningOut(moving_left=left.value, moving_right=right.value, text=words.turning_text(hand)),
            wheel=[FigureOut.model_validate(f) for f in wheel_sizes(self.setting, self.ask, self.units)],
            dividing=self.dividing,
        )


def _view(seen: View, setting: MillSetting, units: Units) -> ViewOut:
    assert setting.swing is not None

    def spots(points: tuple[Point, ...]) -> list[Spot]:
        return [Spot.at((round(x, 2), round(y, 2))) for x, y in points]

    way = 1 if setting.swing.sense is Sense.ANTICLOCKWISE else -1
    return ViewOut(
        how=setting.swing.how,
        degrees=setting.swing.degrees,
        turned=way * setting.swing.degrees,
        table=spots(seen.table),
        begins=spots(seen.begins),
        ends=spots(seen.ends),
        square=spots(seen.square),
        work=spots(seen.work),
        head=spots(seen.head),
        tail=spots(seen.tail),
        teeth=[spots(line) for line in seen.teeth],
        cutter=spots(seen.cutter),
        arbor=spots(seen.arbor),
        column_mm=seen.column,
        column_text=length(seen.column, units, 0),
        fouls=seen.fouls,
        to_scale=seen.to_scale,
    )
