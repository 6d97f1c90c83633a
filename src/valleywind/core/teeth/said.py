"""A line as people type it, taken apart piece by piece, and the pieces that asks for wheels have in common."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Generic, TypeVar

from valleywind.core.refusal import Refused
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.units import NUMBER, UNIT_WORDS, Unit, parse_length, parse_number, plain, spell, spell_inch

MOST_TYPED = 240
A = TypeVar("A")
M = TypeVar("M", bound=StrEnum)


@dataclass(frozen=True)
class Reading(Generic[A, M]):
    """What was made of a line: the ask, None where it is none; what each piece was taken for, what is left over, asks
    near to it, and why it is none."""

    ask: A | None
    understood: tuple[tuple[str, M], ...] = ()
    left_over: tuple[str, ...] = ()
    nearest: tuple[str, ...] = ()
    refusal: Refused | None = None


class Line(Generic[M]):
    """What is left of a line, and what was understood of it so far, in the words of the ask that reads it."""

    # What a piece must not touch, on its left and on its right.
    before, after = r"\w.,/°-", r"\w/°"

    def __init__(self, text: str) -> None:
        self.rest = self.parted(plain(text))
        self.understood: list[tuple[str, M]] = []

    @staticmethod
    def parted(text: str) -> str:
        """A hand written on without a space stands apart: `30°left`."""
        return re.sub(r"(?<=[\d°])(?=(?:left|right|LH|RH)\b)", " ", text.replace("º", "°"), flags=re.I)

    def take(self, pattern: str, meant: M | None) -> re.Match[str] | None:
        """Take a piece out of the line and note what it means; with None it means nothing."""
        piece = rf"(?<![{self.before}])(?:{pattern})(?![{self.after}])"
        match = re.search(piece, self.rest, re.IGNORECASE | re.ASCII)
        if match:
            if meant is not None:
                self.understood.append((match[0].strip(), meant))
            self.rest = f"{self.rest[: match.start()]} {self.rest[match.end() :]}".strip()
        return match

    def once(self, pattern: str, meant: M | None) -> re.Match[str] | None:
        """The same, of what may be said only once. Raises Refused `said_twice`."""
        match = self.take(pattern, meant)
        if match and (again := self.take(pattern, meant)):
            raise Refused("said_twice", "ask", again[0].strip(), first=match[0].strip())
        return match


def read_with(
    text: str,
    examples: Sequence[str],
    take: Callable[[Line[M], str], A],
    nearest: Callable[[Line[M]], tuple[str, ...]],
) -> Reading[A, M]:
    """Read a line by what `take` takes of it. Never raises: a line that is no ask comes back with a refusal and asks
    near to it."""
    # The key that leads to the ask line is no part of an ask.
    text = re.sub(r"^\s*/+", "", text)
    if len(text) > MOST_TYPED:
        refused = Refused("too_long", "ask", text[:20], most=MOST_TYPED)
        return Reading(None, (), (text[:20] + "…",), tuple(examples[:3]), refused)
    line: Line[M] = Line(text)
    try:
        ask = take(line, text)
    except Refused as refused:
        left = tuple(line.rest.split())
        return Reading(None, tuple(line.understood), left, nearest(line), refused.under("ask"))
    return Reading(ask, tuple(line.understood))


_UNITS = "|".join(sorted((re.escape(w) for w in UNIT_WORDS), key=len, reverse=True))
SIZE = rf"({NUMBER}\s*(?:{_UNITS})?)"
SIZED = rf"({NUMBER}\s*(?:{_UNITS}))"
"""A size with its unit."""
HAND = r"(left|right|LH|RH)(?:[- ]?hand(?:ed)?)?"
DEGREES = rf"({NUMBER})\s*(?:°|deg(?:rees?)?)"
TEETH = r"(\d{1,6})(?:\s*(?:teeth|tooth|t|z))?"
_PITCHES = (
    (PitchSystem.DIAMETRAL, rf"({NUMBER})\s*dp|dp\s*({NUMBER})"),
    (PitchSystem.MODULE, rf"(?:module|mod|m)\s*({NUMBER})"),
    (PitchSystem.CIRCULAR, rf"({NUMBER})\s*cp|cp\s*({NUMBER})"),
)


def take_pitch(line: Line[M], meant: M | None) -> Pitch | None:
    """A pitch out of a line, None where it has none. Raises Refused `said_twice`."""
    said: Pitch | None = None
    for system, pattern in _PITCHES:
        if match := line.once(pattern, meant):
            if said is not None:
                raise Refused("said_twice", "ask", match[0].strip(), first=spell_pitch(said))
            said = Pitch(system, parse_number(next(g for g in match.groups() if g), "pitch"))
    return said


def read_pitch(text: str) -> Pitch:
    """A pitch by itself: `m2`, `2 module`, `12 dp`; a bare number is a module. Raises Refused `not_a_pitch`."""
    line: Line[StrEnum] = Line(text)
    pitch = take_pitch(line, None)
    if pitch is None and (bare := line.take(rf"({NUMBER})(?:\s*(?:module|mod|m|mm))?", None)):
        pitch = Pitch(PitchSystem.MODULE, parse_number(bare[1], "pitch"))
    if pitch is None or line.rest:
        raise Refused("not_a_pitch", "pitch", text)
    return pitch


def spell_pitch(pitch: Pitch) -> str:
    """`m2`, `12dp`, `1/4cp`."""
    match pitch.system:
        case PitchSystem.MODULE:
            return f"m{spell(pitch.value)}"
        case PitchSystem.DIAMETRAL:
            return f"{spell(pitch.value)}dp"
        case PitchSystem.CIRCULAR:
            return f"{spell_inch(pitch.value)}cp"


def size_of(match: re.Match[str] | None) -> Fraction | None:
    """A length in mm of a match of `SIZE`; None where there is no match."""
    return parse_length(next(g for g in match.groups() if g), Unit.MM, "ask").mm if match else None
