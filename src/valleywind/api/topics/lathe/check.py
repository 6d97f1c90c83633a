"""Measured against planned: the scratch pass, and the constants of an unknown lathe."""

from fractions import Fraction
from typing import Annotated

from fastapi import APIRouter, Depends, Query
from pydantic import BaseModel, Field

from valleywind.api.access import QUICK, ToKeep
from valleywind.api.comparison import Comparison
from valleywind.api.drawing import ToothOutline, outlines
from valleywind.api.parameters import By, InUnits, OnLathe
from valleywind.api.pieces import MOST_SLIPS
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.lathe.answers import Answer, CandidateOut
from valleywind.api.topics.lathe.station import Ask, TrainName, read_whole
from valleywind.core.lathe.check import check
from valleywind.core.lathe.constants import constants
from valleywind.core.lathe.length_reading import MOST_TURNS, Method, read_measured
from valleywind.core.lathe.machine import SetUp, read_set_up
from valleywind.core.lathe.plan import candidate_for
from valleywind.core.lathe.plate import spell_screw
from valleywind.core.lathe.thread import FeedAsk, say
from valleywind.core.trains.model import parse_train
from valleywind.core.units import parse_whole
from valleywind.shop.log import LoggedCheck
from valleywind.wording.lathe import chart as chart_words
from valleywind.wording.lathe import slips
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/lathes", tags=["lathe"], responses=RESPONSES)


def _turns(
    turns: Annotated[
        str, Query(max_length=40, description="Turns of the spindle that it was measured over", examples=["10"])
    ],
) -> int:
    return parse_whole(turns, "turns", 1, MOST_TURNS, "turns?")


Turns = Annotated[int, Depends(_turns)]
MeasuredText = Annotated[
    str, Query(description="The measured length, or a pitch in tpi", examples=["20.02 mm", "26 tpi"], max_length=40)
]
With = Annotated[Method, Query(description="Measured with what")]
Off = Annotated[str, Query(description="By how much the reading may be off; empty for the method's own", max_length=40)]


class SlipOut(BaseModel):
    text: str = Field(examples=["The 66 and the 32 are exchanged on their stud."])
    stands: CandidateOut = Field(description="The train as it would stand with the slip")


class MethodOut(BaseModel):
    method: Method
    text: str = Field(examples=["caliper, ±0.05 mm"])


class CheckOut(BaseModel):
    agrees: bool = Field(description="The reading is what the train gives, within the measuring uncertainty")
    text: str
    expected_mm: float
    slips: list[SlipOut] = Field(description="Single slips that explain the reading, the likeliest first")
    next_text: str | None = Field(description="What to measure or count next to tell the first two apart")
    outlines: list[ToothOutline]


class ConstantOut(BaseModel):
    text: str = Field(examples=["6 tpi screw, first shaft turns 1 to the spindle’s 1"])
    screw: str = Field(description="As a record takes it", examples=["6 tpi"])
    first: str = Field(description="Turns of the first shaft per spindle turn, as a record takes it", examples=["1/2"])
    constant_mm: float = Field(description="Travel per turn with equal wheels")
    off: float = Field(description="How far the measurement lies from it, in measuring uncertainties")


class ConstantsOut(BaseModel):
    text: str
    measured_mm: float
    lathes: list[ConstantOut] = Field(description="Usual lathes inside the uncertainty, the most usual first")


@router.get("/methods")
def get_methods(units: InUnits = Units.MM) -> list[MethodOut]:
    """What a scratch pass may be measured with, and how far a reading with it may be off."""
    return [MethodOut(method=method, text=text) for method, text in slips.methods(units)]


@router.get("/constants")
def get_constants(
    measured: MeasuredText,
    turns: Turns,
    train: Annotated[str, Query(description="The train that is on; empty for equal wheels", max_length=80)] = "",
    method: With = Method.RULE,
    off: Off = "",
    units: InUnits = Units.MM,
) -> ConstantsOut:
    """Screws and first-shaft ratios that a lathe of unknown constants may have, from turns and carriage travel."""
    ratio = parse_train(train).ratio if train.strip() else Fraction(1)
    known = constants(read_measured(measured, turns, method, off, units.bare), ratio)
    return ConstantsOut(
        text=chart_words.constants_text(known, units),
        measured_mm=float(known.measured),
        lathes=[
            ConstantOut(
                text=chart_words.constant_text(c),
                screw=spell_screw(c.screw_lead, c.stated),
                first=str(c.first_ratio),
                constant_mm=float(c.constant),
                off=c.off,
            )
            for c in known.lathes
        ],
    )


def _compared(
    on: OnLathe,
    ask: Ask,
    train: TrainName,
    measured: MeasuredText,
    turns: Turns,
    method: With = Method.CALIPER,
    off: Off = "",
    units: InUnits = Units.MM,
) -> Comparison[CheckOut]:
    lathe, stock, mounted = on.lathe, on.stock, on.mounted
    wanted, chosen = read_whole(ask), read_set_up(train, lathe)
    reading = read_measured(measured, turns, method, off, units.bare)
    result = check(reading, wanted, chosen, lathe, stock)
    answer = Answer(wanted, on, units)
    shown = result.slips[:MOST_SLIPS]
    stands = [candidate_for(SetUp(s.train, chosen.setting), wanted, lathe, stock, mounted) for s in shown]
    slips_out = [
        SlipOut(text=slips.slip(s, lathe), stands=answer.candidate(c)) for s, c in zip(shown, stands, strict=True)
    ]
    out = CheckOut(
        agrees=result.agrees,
        text=slips.answer(result, reading, units, len(slips_out)),
        expected_mm=float(result.expected),
        slips=slips_out,
        next_text=slips.tell_apart(result),
        outlines=outlines({t for s in shown for t in s.train.teeth}, lathe.family),
    )
    kept = LoggedCheck(
        "length", reading.length, result.expected, reading.uncertainty, Fraction(reading.turns), result.agrees,
        next(iter(result.slips), None), None if isinstance(wanted, FeedAsk) else lathe.screw_lead,
    )  # fmt: skip
    return Comparison(out, on.row, say(wanted), chosen.name(lathe), kept)


IsCompared = Annotated[Comparison[CheckOut], Depends(_compared)]


@router.get("/{machine}/check", dependencies=[QUICK])
def get_check(compared: IsCompared) -> CheckOut:
    """Compare what was measured with the train: yes, or the single slips that explain it."""
    return compared.out


@router.post("/{machine}/check", dependencies=[QUICK])
def keep_check(compared: IsCompared, keep: ToKeep, by: By) -> CheckOut:
    """The same, and keep it in the log."""
    return compared.keep(keep, by)
