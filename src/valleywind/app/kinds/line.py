"""What is made of a line while it is typed: how a kind of machine reads its own."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass
from typing import NamedTuple

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask_line import A, M, Reading, Station
from valleywind.wording import refusals
from valleywind.wording.numbers import Units


class Completion(NamedTuple):
    """How a line could go on, and what that would mean."""

    ask: str
    means: str


@dataclass(frozen=True)
class LineRead:
    """station: whose ask it is; canonical: in one line, where it is whole; understood: what each piece was taken for;
    says, would_do: why it is none, and what would do; asks: the line in full, where it means what is usual at its
    station, empty as typed."""

    station: Station
    whole: bool
    canonical: str | None = None
    description: str | None = None
    understood: tuple[str, ...] = ()
    left_over: tuple[str, ...] = ()
    nearest: tuple[str, ...] = ()
    completions: tuple[Completion, ...] = ()
    says: str | None = None
    would_do: str | None = None
    asks: str = ""


def understood(reading: Reading[A, M], meanings: Mapping[M, str]) -> list[str]:
    """What each piece was taken for: `M14x2: thread`."""
    return [f"{text}: {meanings[meant]}" for text, meant in reading.understood]


class Reader(NamedTuple):
    """One kind of ask: whether a line is one, at whatever station, and what is made of it."""

    is_one: Callable[[str, Station | None], bool]
    read: Callable[[str, Units], LineRead]


def line_read(
    station: Station, reading: Reading[A, M], meanings: Mapping[M, str], completion: Callable[[A], Completion],
    offered: Iterable[Completion],
) -> LineRead:  # fmt: skip
    """What was made of a line; completion: an ask in one line, and in words."""
    why = refusals.say(reading.refusal) if reading.refusal else None
    known = completion(reading.ask) if reading.ask is not None else None
    return LineRead(
        station, known is not None, known.ask if known else None, known.means if known else None,
        tuple(understood(reading, meanings)), reading.left_over, reading.nearest, tuple(offered),
        why.says if why else None, why.would_do if why else None,
    )  # fmt: skip


def plain_line(station: Station, described: Callable[[], str], nearest: tuple[str, ...]) -> LineRead:
    """An ask that is understood as a whole or not at all."""
    try:
        return LineRead(station, True, description=described())
    except Refusal as refused:
        why = refusals.say(refused)
        return LineRead(station, False, nearest=nearest, says=why.says, would_do=why.would_do)
