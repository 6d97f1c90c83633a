"""What is made of a line while it is typed, whichever machine or station it is for."""

from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import Field

from valleywind.api.parameters import InUnits
from valleywind.api.pieces import FromCore
from valleywind.api.problems import RESPONSES
from valleywind.app.reading import read_line
from valleywind.core.teeth.ask_line import Station
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/reading", tags=["ask line"], responses=RESPONSES)

Ask = Annotated[
    str, Query(description="A line as it is typed", examples=["M14x2", "hob 37", "make 57 for Plover"], max_length=200)
]


class CompletionOut(FromCore):
    ask: str = Field(examples=["M14x1.5"])
    means: str = Field(examples=["1.5 mm pitch, 14 mm across, 60°"])


class ReadingOut(FromCore):
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


@router.get("")
def read_ask(
    ask: Ask,
    units: InUnits = Units.MM,
    at: Annotated[
        Station | Literal[""], Query(description="Where it is typed: there a bare line means what is usual")
    ] = "",
) -> ReadingOut:
    """What is made of a line while it is typed. Never fails: says what was understood, what not, what is near."""
    return ReadingOut.model_validate(read_line(ask, at or None, units))
