"""What is made of a line while it is typed, whichever machine or station it is for."""

from collections.abc import Mapping
from typing import Annotated, Literal

from fastapi import APIRouter, Query
from pydantic import BaseModel, Field

from valleywind.api.asked import understood
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.core.dividing.ask import is_divide_ask, read_divide
from valleywind.core.helix import ask as helix
from valleywind.core.helix.ask import is_helix_ask, is_lead_ask, is_make_helix
from valleywind.core.hobbing import ask as hobbing
from valleywind.core.hobbing.ask import is_hob_ask
from valleywind.core.lathe import ask as asks
from valleywind.core.lathe import thread
from valleywind.core.lathe.complete import complete
from valleywind.core.refusal import Refused
from valleywind.core.teeth.ask import is_make_ask, is_wheel_ask, read_wheel
from valleywind.core.teeth.said import A, M, Reading, Station, meant_at
from valleywind.wording import refusals
from valleywind.wording.dividing import ask_text as divide_ask_text
from valleywind.wording.helix import answers as helix_words
from valleywind.wording.hobbing import answers as hob_words
from valleywind.wording.lathe import answers as words
from valleywind.wording.numbers import Units
from valleywind.wording.wheels import ask_text as wheel_ask_text

router = APIRouter(prefix="/reading", tags=["ask line"], responses=RESPONSES)

Ask = Annotated[
    str, Query(description="A line as it is typed", examples=["M14x2", "hob 37", "make 57 for Plover"], max_length=200)
]


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


@router.get("")
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
