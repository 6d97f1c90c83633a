"""What the Hobber station is answered: asks, set-ups box by box, figures of the wheel."""

from fractions import Fraction
from typing import Literal

from pydantic import BaseModel, Field

from valleywind.api.drawing import Drawing, Scene, ToothOutline, draw_train, outlines
from valleywind.api.pieces import FigureOut, SheetOut, StageOut, stages_of
from valleywind.app import merits
from valleywind.app.kinds.hobber import HobberInUse
from valleywind.app.machine_plates import on_plate
from valleywind.app.merits import Merit
from valleywind.core.cutting.wheel import cut_wheel
from valleywind.core.hobbing.ask import HobAsk, say
from valleywind.core.hobbing.machine import Box, Hobber
from valleywind.core.hobbing.set_up import AnyTrain, HobPlan, SetUp, SetUpKind, spell_trains
from valleywind.core.hobbing.setting import BlankMaterial, hob_pitch_diameter, swivel, travel
from valleywind.core.teeth.ask_line import spell_pitch
from valleywind.core.trains.direction import Hand
from valleywind.core.units import spell, spell_degrees
from valleywind.wording.hobbing import answers as words
from valleywind.wording.hobbing import setting, teeth
from valleywind.wording.hobbing.boxes import BOX_SHAFTS, BOXES
from valleywind.wording.hobbing.sheet import sheet
from valleywind.wording.numbers import Units, length
from valleywind.wording.trains import room, train_text


class HobAskOut(BaseModel):
    """The ask, and its fields as they are typed; empty where nothing is said."""

    canonical: str = Field(description="The ask in one line; asked again it gives the same", examples=["hob 37"])
    description: str = Field(examples=["37 teeth, spur"])
    teeth: str
    pitch: str
    angle: str
    helix: str
    hand: Literal["", "right", "left"]
    face: str
    starts: str
    hob_hand: Literal["right", "left"]
    hob_diameter: str
    turns: str
    mate: str
    feed: str
    way: Literal["", "up", "down"]
    blanks: str
    depth: str
    assumptions: list[str] = Field(description="What was taken for granted because nobody said")


class BoxTrainOut(BaseModel):
    """A train in its box, as a list shows it."""

    box: Box
    name: str = Field(examples=["index"])
    text: str = Field(examples=["48/37 × 40/80"])
    stages: list[StageOut]


class ListedSetUp(BaseModel):
    """A set-up as a list shows it."""

    train: str = Field(description="Names it in requests", examples=["48/37*40/80@24+52/38/39+"])
    kind: SetUpKind
    boxes: list[BoxTrainOut]
    head: str = Field(examples=["Exact"])
    merit: Merit
    run_off: str = Field(examples=["0.24 µm run-off"])
    feed: str = Field(examples=["feed 1.00 mm"])
    constant: str = Field(examples=["constant 24, reversing pair 40/40"])
    work: str = Field(examples=["keep 4, fit 3 wheels"])
    room: str = Field(description="Of the tightest box", examples=["4.0 mm clear"])
    goes_on: bool
    fits: bool = Field(description="It goes on, and every wheel is held")
    is_on: bool
    on_plate: bool = Field(description="The machine's table has this index train for this count")
    reasons: list[str] = Field(description="Why it cannot be set up; empty where it can")


class BoxOut(BoxTrainOut):
    """A box with its train drawn."""

    drawing: Drawing
    room: str
    direction: str


class SwivelOut(BaseModel):
    """How the hob head is turned, seen with the hob between oneself and the work; degrees, leans to the right
    positive."""

    turned: float = Field(description="As a clock hand runs positive")
    thread: float = Field(description="Lean of the hob's thread where it cuts, before the head is turned")
    teeth: float = Field(description="Lean of the teeth")
    within: bool | None = Field(description="Whether the head turns so far; null where that is not on record")


class TravelOut(BaseModel):
    """The hob's way along the work, mm."""

    approach: float
    swing: float = Field(description="How far the hob stands from square to the work, degrees")
    along: float = Field(description="How far from its middle, along its own axis, the hob cuts first")
    face: float = Field(description="Of one blank")
    blanks: int
    overrun: float
    depth: float
    hob_radius: float
    blank_radius: float
    way: Literal["down", "up"]
    texts: list[str] = Field(
        description="Approach, face of the stack, overrun", examples=[["16.2 mm", "20 mm", "2 mm"]]
    )


class SetUpOut(ListedSetUp):
    """A set-up that is looked at."""

    verdict: str
    faster: str | None = Field(description="Whether the work turns faster than for a spur wheel")
    caution: str | None = Field(description="What must not be done during the cut")
    drawn: list[BoxOut]
    moved: list[str] = Field(description="Wheels that are on in another box")
    swivel: SwivelOut | None = Field(description="Null where pitch or hob are not said")
    travel: TravelOut | None = Field(description="Null where pitch, hob or face are not said")
    setting: list[FigureOut]
    sheet: SheetOut


class WayOutOut(BaseModel):
    text: str
    candidate: ListedSetUp


class HobPlanOut(BaseModel):
    ask: HobAskOut
    machine: str
    candidates: list[ListedSetUp]
    first: SetUpOut | None
    ways_out: list[WayOutOut] = Field(description="What else would bring a count without an exact train")
    shortfall: str | None
    cut_short: str | None
    not_known: list[str]
    left_out: str | None = Field(None, description="Wheels in its box that no train is planned with")
    wheel: list[FigureOut] = Field(description="Sizes of the wheel; empty where no pitch is said")
    pair: list[FigureOut] = Field(description="What wheel and mate are to each other")
    outlines: list[ToothOutline] = Field(description="Of wheels that are not on the machine’s shelf")


class OneSetUpOut(BaseModel):
    candidate: SetUpOut
    outlines: list[ToothOutline]


def ask_out(ask: HobAsk, machine: Hobber | None, units: Units) -> HobAskOut:
    """The ask as its fields show it."""

    def mm(value: object) -> str:
        return "" if value is None else f"{spell(value)} mm"  # type: ignore[arg-type]

    def whole(value: int | None) -> str:
        return "" if value is None else str(value)

    return HobAskOut(
        canonical=say(ask),
        description=words.description(ask, units),
        teeth=str(ask.teeth),
        pitch=spell_pitch(ask.pitch) if ask.pitch else "",
        angle="" if ask.angle is None else spell_degrees(ask.angle),
        helix=spell_degrees(ask.helix) if ask.helical else "",
        hand=ask.hand.value if ask.hand else "",
        face=mm(ask.face),
        starts=str(ask.starts) if ask.starts > 1 else "",
        hob_hand=ask.hob_hand.value,
        hob_diameter=mm(ask.hob_diameter),
        turns=whole(ask.turns),
        mate=whole(ask.mate),
        feed=mm(ask.feed),
        way=ask.way.value if ask.way else "",
        blanks=str(ask.blanks) if ask.blanks > 1 else "",
        depth=mm(ask.depth),
        assumptions=words.assumptions(ask, machine, units) if machine else [],
    )


class Answer:
    """Shapes the core's findings for one ask into the schema, in the reader's units."""

    def __init__(self, ask: HobAsk, at: HobberInUse, material: BlankMaterial, units: Units) -> None:
        self.ask, self.hobber, self.name, self.family, self.stock = ask, at.hobber, at.row.name, at.family, at.stock
        self.on, self.material, self.units = at.on, material, units
        self.on_plate = on_plate(at.row, Fraction(ask.starts, ask.teeth), Box.INDEX)

    def plan(self, plan: HobPlan, machine: str) -> HobPlanOut:
        out = words.ways_out(plan)
        first = next(iter([*plan.set_ups, *(s for _, s in out)]), plan.unfit)
        wheel = cut_wheel(self.ask)
        figures = teeth.wheel_facts(wheel, self.units) if wheel else []
        boxes = [box for box, _ in first.boxed] if first else list(Box)
        return HobPlanOut(
            ask=ask_out(self.ask, self.hobber, self.units),
            machine=machine,
            candidates=[self.listed(s) for s in plan.set_ups],
            first=self.set_up(first) if first else None,
            ways_out=[WayOutOut(text=text, candidate=self.listed(s)) for text, s in out],
            shortfall=words.shortfall(plan),
            cut_short=words.CUT_SHORT if plan.cut_short else None,
            not_known=words.not_known(self.hobber, boxes),
            wheel=[FigureOut(label=label, text=text, wrong=label == "Undercut") for label, text in figures],
            pair=[FigureOut.model_validate(f) for f in setting.pair_facts(self.ask, self.units)],
            outlines=self._outlines(first) if first else [],
        )

    def one(self, set_up: SetUp) -> OneSetUpOut:
        """One set-up alone, with the outlines to draw it."""
        return OneSetUpOut(candidate=self.set_up(set_up), outlines=self._outlines(set_up))

    def _outlines(self, set_up: SetUp) -> list[ToothOutline]:
        return outlines({t for t in set_up.teeth if t not in self.stock}, self.family)

    def listed(self, set_up: SetUp) -> ListedSetUp:
        """A set-up as the list shows it."""
        tightest = min(set_up.boxed, key=lambda b: b[1].placement.clearance)
        return ListedSetUp(
            train=spell_trains(set_up.trains, set_up.index.setting),
            kind=set_up.kind,
            boxes=[self._box(box, part) for box, part in set_up.boxed],
            head=words.head(set_up),
            merit=merits.of_set_up(set_up),
            run_off=words.short_run_off(set_up, self.units),
            feed=words.feed_text(set_up, self.units),
            constant=words.constant_text(set_up.index.setting),
            work=words.work_text(set_up),
            room=room(tightest[1].placement, self.hobber.boxes[tightest[0]].quadrant, self.units),
            goes_on=set_up.goes_on,
            fits=set_up.goes_on and not set_up.lacking,
            is_on=set_up.is_on and set(set_up.trains) >= set(self.on.trains),
            on_plate=set_up.index.train.combination in self.on_plate,
            reasons=words.reasons(set_up, self.units),
        )

    def _box(self, box: Box, part: AnyTrain) -> BoxTrainOut:
        train = part.train
        return BoxTrainOut(
            box=box, name=BOXES[box], text=train_text(train),
            stages=stages_of(train),
        )  # fmt: skip

    def set_up(self, set_up: SetUp) -> SetUpOut:
        """A set-up that is looked at."""
        figures = setting.setting_facts(self.ask, self.hobber, set_up.feed_mm, self.material, self.units)
        written = sheet(set_up, self.ask, self.hobber, self.name, self.family, self.material, self.units)
        return SetUpOut(
            **dict(self.listed(set_up)),
            verdict=words.verdict(set_up, self.ask, self.units),
            faster=words.faster_text(set_up),
            caution=None if set_up.kind is SetUpKind.SPUR else words.NEVER_DISENGAGE,
            drawn=[self._drawn(box, part) for box, part in set_up.boxed],
            moved=words.moved_text(set_up),
            swivel=self._swivel(),
            travel=self._travel(),
            setting=[FigureOut.model_validate(f) for f in figures],
            sheet=SheetOut.model_validate(written),
        )

    def _swivel(self) -> SwivelOut | None:
        diameter = hob_pitch_diameter(self.ask)
        if diameter is None:
            return None
        swivelled = swivel(self.ask, diameter, self.hobber)
        assert swivelled is not None
        thread = swivelled.lead_angle * (-1 if self.ask.hob_hand is Hand.LEFT else 1)
        teeth = float(self.ask.helix) * (-1 if self.ask.hand is Hand.LEFT else 1)
        return SwivelOut(turned=teeth - thread, thread=thread, teeth=teeth, within=swivelled.within)

    def _travel(self) -> TravelOut | None:
        wheel, ask = cut_wheel(self.ask), self.ask
        moved = travel(ask, self.hobber)
        if moved is None:
            return None
        assert wheel is not None
        assert ask.face is not None
        assert ask.hob_diameter is not None
        return TravelOut(
            approach=moved.approach, face=float(ask.face), blanks=ask.blanks, overrun=moved.overrun, depth=wheel.depth,
            hob_radius=float(ask.hob_diameter) / 2, swing=moved.swing, along=moved.along,
            blank_radius=wheel.tip_diameter / 2,
            way=(ask.way or self.hobber.feeds[0]).value,
            texts=[length(mm, self.units) for mm in (moved.approach, moved.face, moved.overrun)],
        )  # fmt: skip

    def _drawn(self, box: Box, part: AnyTrain) -> BoxOut:
        gearbox, on = self.hobber.boxes[box], self.on.trains.get(box)
        # Which way the shafts turn is known only as far as even or odd meshes go: it is said, not drawn.
        scene = Scene(
            gearbox.family, gearbox.quadrant, BOX_SHAFTS[box], self.units, None, on.places if on else {},
            part.lacking, None, bool(self.family.name),
        )  # fmt: skip
        way = self.ask.way or self.hobber.feeds[0]
        return BoxOut(
            **dict(self._box(box, part)),
            drawing=draw_train(part.train, part.placement, scene),
            room=room(part.placement, gearbox.quadrant, self.units),
            direction=words.direction(box, part.hand, self.ask, self.hobber, way),
        )
