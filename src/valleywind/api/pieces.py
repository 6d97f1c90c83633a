"""Pieces of answers that every station has: stages, steps, shafts, figures, and a train as a list shows it."""

from typing import Literal

from pydantic import BaseModel, ConfigDict, Field

from valleywind.core.trains.model import Train

Goes = Literal["freely", "mid_tolerance", "partly", "not"]
MOST_SLIPS = 8
"""How many slips that explain a reading are told at most, the likeliest first."""


class FromCore(BaseModel):
    model_config = ConfigDict(from_attributes=True)


class StageOut(FromCore):
    driver: int
    driven: int
    idlers: list[int]


def stages_of(train: Train) -> list[StageOut]:
    """The stages as they are drawn and listed."""
    return [StageOut(driver=s.driver, driven=s.driven, idlers=list(s.idlers)) for s in train.stages]


class StepOut(FromCore):
    text: str = Field(description="`**` stands round what is to be set strongly")
    caution: str | None


class ShaftRowOut(FromCore):
    shaft: str
    inner: str
    outer: str
    where: str


class FactOut(FromCore):
    label: str
    text: str


class ShaftsOut(FromCore):
    """The shafts of one train."""

    name: str = Field(examples=["Index"])
    train: str = Field(description="Its wheels, empty where the sheet's head says them")
    note: str
    rows: list[ShaftRowOut]


class LinesOut(FromCore):
    title: str
    lines: list[str] = Field(description="`**` stands round what is to be set strongly")


class SheetOut(FromCore):
    """The set-up sheet of any machine."""

    title: str = Field(description="The ask")
    machine: str
    figure: str = Field(description="What comes of it; empty where the rest says it")
    train: str = Field(description="What is put on; empty where each box has its own")
    head: str
    verdict: str
    facts: list[FactOut]
    shafts: list[ShaftsOut]
    steps: list[StepOut]
    check: LinesOut
    check_over: str = Field(description="The turns or the travel that the check speaks of, as its field takes it")
    after: list[LinesOut]
    aid: str
    brief: bool = Field(description="There is room for one large drawing with the facts beside it")


class FigureOut(FactOut):
    wrong: bool = Field(False, description="The machine cannot do it, or the wheels do not run")


class AdviceOut(BaseModel):
    text: str = Field(examples=["With a 40 as idler between 33 and 80 the hand is right: 3 mm clear."])
    train: str


class ListedTrain(BaseModel):
    """A train as a list shows it."""

    train: str = Field(description="Names train and setting in requests", examples=["76/66*32/78", "32/80/64@9 ×2"])
    text: str = Field(examples=["76/66 × 32/78"])
    stages: list[StageOut]
    levers: str | None = Field(description="Levers, or the worm pair, where there is a choice", examples=["box 9 ×2"])
    lead: str = Field(examples=["1.9999 mm"])
    relative_error: float = Field(description="Signed, lead / wanted lead − 1")
    error: str = Field(examples=["−0.0052 %"])
    goes: Goes
    verdict_head: str = Field(examples=["Nut runs free"])
    goes_on: bool = Field(description="Nothing that is known keeps it off, and it turns the right way")
    checked: Literal["room", "reach", "nothing"] = Field(description="What was looked at before it is said to go on")
    fits: bool = Field(description="It goes on, and every wheel is held")
    room: str = Field(examples=["16.7 mm clear"])
    is_on: bool = Field(description="It is on the machine already, levers or pair set")
    on_plate: bool = Field(description="The machine's plate has these wheels for this")
    work: str = Field(examples=["keep 2, change 2"])
    order_reason: str
    reasons: list[str] = Field(description="Why it does not go on; empty when it does")
