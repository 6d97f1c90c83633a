"""A day's work on a lathe: trains and their order, so that least is changed."""

from typing import Annotated

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from valleywind.api.access import LONG
from valleywind.api.lathe.answers import Answer, ListedOut
from valleywind.api.parameters import InUnits, OnLathe
from valleywind.api.problems import RESPONSES
from valleywind.core.lathe import ask as asks
from valleywind.core.lathe import thread
from valleywind.core.lathe.day import MOST_ON_A_LATHE, day_on
from valleywind.core.lathe.machine import SetUp
from valleywind.core.lathe.thread import Ask
from valleywind.wording import refusals
from valleywind.wording.lathe import day as words
from valleywind.wording.numbers import Units
from valleywind.wording.trains import work

router = APIRouter(prefix="/lathes", tags=["lathe"], responses=RESPONSES)


class DayTurnOut(BaseModel):
    """One of the day, in its order."""

    line: int = Field(description="The line that it was asked in, from 0")
    ask: str = Field(description="The ask in one line")
    candidate: ListedOut
    work: str = Field(description="What there is to do, coming from the one before", examples=["keep 3, change 1"])
    changes: list[str] = Field(
        description="What changes, place by place", examples=[["stud, inner place: 40 for the 52"]]
    )


class LeftOutOut(BaseModel):
    """A line that nothing is planned for."""

    line: int = Field(description="The line, from 0")
    text: str = Field(description="As it was typed")
    says: str = Field(description="Why")
    candidate: ListedOut | None = Field(description="The best there is, where something fits")


class DayOut(BaseModel):
    says: str = Field(description="What the order comes to")
    put_on: int = Field(description="Wheels put on in all")
    as_typed: int = Field(description="Wheels put on in the order of the lines")
    turns: list[DayTurnOut]
    back: str | None = Field(description="What putting back comes to; null where it is not wished")
    left_out: list[LeftOutOut]


@router.get("/{machine}/day", dependencies=[LONG])
def get_day(
    on: OnLathe,
    ask: Annotated[
        list[Annotated[str, Query(max_length=200)]],
        Query(description="What is to be done, one each", max_length=MOST_ON_A_LATHE, examples=[["M14x2", "1.25 mm"]]),
    ],
    put_back: Annotated[bool, Query(description="What is on now is to be on at the end")] = False,
    units: InUnits = Units.MM,
) -> DayOut:
    """The order in which threads and feeds are least trouble, with the train of each."""
    left_out: list[LeftOutOut] = []
    read: list[tuple[int, Ask]] = []
    for line, text in enumerate(ask):
        reading = asks.read(text)
        if reading.ask is None:
            assert reading.refusal is not None
            said = refusals.say(reading.refusal)
            left_out.append(LeftOutOut(line=line, text=text, says=f"{said.says} {said.would_do}", candidate=None))
        else:
            read.append((line, reading.ask))
    day = day_on([one for _, one in read], on.lathe, on.stock, on.mounted, put_back)
    turns = []
    before: SetUp | None = on.mounted
    for turn in day.turns:
        line, wanted = read[turn.ask]
        turns.append(
            DayTurnOut(
                line=line,
                ask=thread.say(wanted),
                candidate=Answer(wanted, on, units).listed(turn.candidate),
                work=words.work_of(turn, before, on.lathe),
                changes=words.changes(turn, before, on.lathe),
            )
        )
        before = SetUp.of(turn.candidate)
    for place, best in day.left_out:
        line, wanted = read[place]
        listed = Answer(wanted, on, units).listed(best) if best else None
        says = words.left_out(listed.verdict_head if listed else None)
        left_out.append(LeftOutOut(line=line, text=ask[line], says=says, candidate=listed))
    return DayOut(
        says=words.sentence(day), put_on=day.put_on, as_typed=day.as_typed, turns=turns,
        back=work(day.back) if day.back else None, left_out=sorted(left_out, key=lambda one: one.line),
    )  # fmt: skip
