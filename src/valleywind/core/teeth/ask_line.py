"""A line as people type it, taken apart piece by piece, and the pieces that asks for wheels have in common."""

import re
from collections.abc import Callable, Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Generic, TypeVar

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.units import ANGLE, NUMBER, UNIT_WORDS, Unit, parse_length, parse_number, plain, spell, spell_inch

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
    refusal: Refusal | None = None


class Line(Generic[M]):
    """What is left of a line, and what was understood of it so far, in the words of the ask that reads it."""

    # What a piece must not touch, on its left and on its right.
    before, after = r"\w.,/°-", r"\w/°"

    def __init__(self, text: str) -> None:
        self.rest = self.parted(_without_commas(plain(text)))
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
        """The same, of what may be said only once. Raises Refusal `said_twice`."""
        match = self.take(pattern, meant)
        if match and (again := self.take(pattern, meant)):
            raise Refusal("said_twice", "ask", again[0].strip(), first=match[0].strip())
        return match


def _without_commas(text: str) -> str:
    """Commas between the pieces of a line mean nothing; in a machine's name behind them they stay."""
    named = re.search(r"\b(?:for|on)\b", text, re.IGNORECASE)
    end = named.start() if named else len(text)
    return re.sub(r",(?=\s|$)", " ", text[:end]) + text[end:]


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
        refused = Refusal("too_long", "ask", text[:20], most=MOST_TYPED)
        return Reading(None, (), (text[:20] + "…",), tuple(examples[:3]), refused)
    line: Line[M] = Line(text)
    try:
        ask = take(line, text)
    except Refusal as refused:
        left = tuple(line.rest.split())
        return Reading(None, tuple(line.understood), left, nearest(line), refused.under("ask"))
    return Reading(ask, tuple(line.understood))


_UNITS = "|".join(sorted((re.escape(w) for w in UNIT_WORDS), key=len, reverse=True))
SIZE = rf"({NUMBER}\s*(?:{_UNITS})?)"
SIZED = rf"({NUMBER}\s*(?:{_UNITS}))"
"""A size with its unit."""
HAND = r"(left|right|LH|RH)(?:[- ]?hand(?:ed)?)?"
DEGREES = rf"({ANGLE})"
TEETH = r"(\d{1,6})(?:\s*(?:teeth|tooth|t|z))?"
_SYSTEM_WORDS = (
    (PitchSystem.DIAMETRAL, r"d\.?p\.?"), (PitchSystem.MODULE, "module|mod|m"), (PitchSystem.CIRCULAR, r"c\.?p\.?"),
)  # fmt: skip
# Diametral pitches and modules that are asked for; of two figures beside the word the one that is among them is the
# pitch, and where both are, the one behind it.
_USUAL = {
    PitchSystem.DIAMETRAL: "3 4 5 6 7 8 9 10 11 12 14 16 18 20 22 24 26 28 30 32 36 40 48 64",
    PitchSystem.MODULE: "0.3 0.4 0.5 0.6 0.7 0.8 0.9 1 1.125 1.25 1.375 1.5 1.6 1.75 2 2.25 2.5 2.75 3 3.5 4 4.5 5 6 8",
    PitchSystem.CIRCULAR: "1/8 3/16 1/4 5/16 3/8 1/2 5/8 3/4 1",
}
_STUB_PAIR = r"(\d{1,2})\s*/\s*(\d{1,2})"
STUB = Fraction(4, 5)
"""Addendum of stub teeth in modules, where no pair of pitches says another."""


@dataclass(frozen=True)
class TeethPitch:
    """The pitch of teeth as said, and their addendum in modules: less than 1 for stub teeth."""

    pitch: Pitch
    addendum: Fraction = Fraction(1)


def take_teeth(line: Line[M], meant: M | None) -> TeethPitch | None:
    """Pitch and stub teeth out of a line: `m2`, `2 module`, `dp 12`, `12 DP`, `dp12 stub`, `dp 8/10`; None where it has
    none. A count may stand before or behind: `24 dp 12`, `20 dp 57`. Raises Refusal `said_twice`, `stub_without_pitch`,
    `not_a_stub_pair`."""
    stub = line.once("stub(?:bed)?(?:\\s+teeth)?", meant) is not None
    if pair := _stub_pair(line, meant):
        return pair
    pitch: Pitch | None = None
    for system, words in _SYSTEM_WORDS:
        while (figure := _figure_of(line, system, words, meant)) is not None:
            if pitch is not None:
                raise Refusal("said_twice", "ask", spell_pitch(Pitch(system, figure)), first=spell_pitch(pitch))
            pitch = Pitch(system, figure)
    if pitch is None:
        if stub:
            raise Refusal("stub_without_pitch", "ask", "stub")
        return None
    return TeethPitch(pitch, STUB if stub else Fraction(1))


def _stub_pair(line: Line[M], meant: M | None) -> TeethPitch | None:
    """`dp 8/10`: circles of 8 DP with the depth of 10 DP, so that the addendum is 8/10 of a module."""
    match = line.take(rf"d\.?p\.?\s*{_STUB_PAIR}|{_STUB_PAIR}\s*d\.?p\.?", meant)
    if match is None:
        return None
    one, other = (int(g) for g in match.groups() if g)
    if not 0 < one < other < 2 * one:
        raise Refusal("not_a_stub_pair", "ask", match[0].strip())
    return TeethPitch(Pitch(PitchSystem.DIAMETRAL, Fraction(one)), Fraction(one, other))


# A figure that is no mixed number, so that a count may stand before it; and what a figure of something else goes on
# with.
_PLAIN = r"(?:\d+/\d+|\d+(?:[.,]\d+)?|[.,]\d+)"
_OF_ELSE = r"(?![.,/\d])(?!\s*(?:°|deg|-?\s*starts?|blanks?|rpm|mm|cm|in\b|\"|thou|%|teeth|tooth|t\b|z\b|wide|face))"


def _figure_of(line: Line[M], system: PitchSystem, words: str, meant: M | None) -> Fraction | None:
    """The figure of a pitch in this system: what is written on to the word, else of a figure before it and one behind
    it the pitch, the other going back into the line; else the one there is."""
    word = rf"(?:{words})"
    if match := line.take(rf"{word}({_PLAIN})|({_PLAIN}){word}", meant):
        return parse_number(match[1] or match[2], "pitch")
    if match := line.take(rf"({_PLAIN})\s+{word}\s+({_PLAIN}){_OF_ELSE}", meant):
        usual = {parse_number(text) for text in _USUAL[system].split()}
        before, behind = match[1], match[2]
        first, second = parse_number(before, "pitch"), parse_number(behind, "pitch")
        taken, count = (before, behind) if first in usual and second not in usual else (behind, before)
        if meant is not None:
            line.understood[-1] = (match[0].replace(count, "", 1).strip(), meant)
        line.rest = f"{count} {line.rest}".strip()
        return parse_number(taken, "pitch")
    match = line.take(rf"({_PLAIN})\s+{word}", meant) or line.take(rf"{word}\s+({_PLAIN})", meant)
    return parse_number(match[1], "pitch") if match else None


def take_pitch(line: Line[M], meant: M | None) -> Pitch | None:
    """A pitch out of a line, None where it has none; stub teeth are not asked for so. Raises Refusal `said_twice`,
    `stub_not_here`."""
    teeth = take_teeth(line, meant)
    if teeth is None:
        return None
    if teeth.addendum != 1:
        raise Refusal("stub_not_here", "ask", spell_pitch(teeth.pitch))
    return teeth.pitch


_COUNT_WORDS = {
    "single": 1, "one": 1, "two": 2, "double": 2, "twin": 2, "three": 3, "triple": 3, "four": 4, "quadruple": 4,
}  # fmt: skip

_COUNT_OF_STARTS = rf"({'|'.join(_COUNT_WORDS)}|\d{{1,3}})[- ]?starts?(?:\s+hob)?"
_STARTS_COUNTED = rf"starts?\s+(\d{{1,3}}){_OF_ELSE}"
# Where a word has its figure behind it, that is no count of starts: in `pitch 3 starts 4` there are 4.
_FIGURE_OF_ANOTHER = (
    r"\b(?:pitch|lead|module|mod\.?|m|d\.?p\.?|c\.?p\.?|diameter|dia\.?|over|nut|feed|hob|wheel)"
    rf"\s+{NUMBER}\s+{_STARTS_COUNTED}"
)


def take_starts(line: Line[M], meant: M | None, most: int) -> int | None:
    """`2 starts`, `two-start`, `double start`, `starts 2`; None where it says nothing of them. Raises Refusal
    `said_twice`, `starts_out_of_range`."""
    ways = [_COUNT_OF_STARTS, _STARTS_COUNTED]
    if re.search(_FIGURE_OF_ANOTHER, line.rest, re.IGNORECASE | re.ASCII):
        ways.reverse()
    match = line.take(ways[0], meant) or line.take(ways[1], meant)
    if match is None:
        return None
    if again := line.take(ways[0], meant) or line.take(ways[1], meant):
        raise Refusal("said_twice", "ask", again[0].strip(), first=match[0].strip())
    starts = _COUNT_WORDS.get(match[1].lower()) or int(match[1])
    if not 1 <= starts <= most:
        raise Refusal("starts_out_of_range", "ask", starts, most=most)
    return starts


class Station(StrEnum):
    """Where a line is typed."""

    LATHE = "lathe"
    HOBBER = "hobber"
    MILL = "mill"
    WHEEL = "wheel"
    DIVIDING = "dividing"
    JOBS = "jobs"


# What a bare count means at a station: `37` is 37 teeth at the hobber.
_COUNTS_MEAN = {
    Station.HOBBER: "hob", Station.WHEEL: "wheel", Station.DIVIDING: "divide", Station.JOBS: "make",
}  # fmt: skip


def meant_at(text: str, station: Station | None) -> str:
    """The line in full: one that begins with a count and names nothing means what is usual at its station."""
    word = _COUNTS_MEAN.get(station) if station is not None else None
    if word is None or not re.match(
        r"\s*\d{1,4}(?:\s|$)(?!\s*(?:mm|tpi|in\b|\"|thou|x\b|BA\b|starts?))", text, re.IGNORECASE
    ):
        return text
    return f"{word} {text.strip()}"


def read_pitch(text: str) -> Pitch:
    """A pitch by itself: `m2`, `2 module`, `12 dp`; a bare number is a module. Raises Refusal `not_a_pitch`."""
    line: Line[StrEnum] = Line(text)
    pitch = take_pitch(line, None)
    if pitch is None and (bare := line.take(rf"({NUMBER})(?:\s*(?:module|mod|m|mm))?", None)):
        pitch = Pitch(PitchSystem.MODULE, parse_number(bare[1], "pitch"))
    if pitch is None or line.rest:
        raise Refusal("not_a_pitch", "pitch", text)
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
