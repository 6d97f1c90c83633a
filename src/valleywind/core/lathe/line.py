"""A typed line, taken apart piece by piece, and the particulars that any ask may have beside its pitch."""

import re
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask_line import Line, take_starts
from valleywind.core.trains.direction import Hand
from valleywind.core.units import ANGLE, NUMBER, UNIT_WORDS, Unit, parse_degrees, parse_length, parse_number

MOST_STARTS = 24

LENGTH_WORDS = "|".join(sorted((re.escape(w) for w in UNIT_WORDS), key=len, reverse=True))
LENGTH = rf"{NUMBER}\s*(?:{LENGTH_WORDS})"


class Meaning(StrEnum):
    """What a piece of the line was taken for."""

    METRIC_SIZE = "metric_size"
    COARSE_SIZE = "coarse_size"
    SERIES_SIZE = "series_size"
    PITCH = "pitch"
    LEAD = "lead"
    TPI = "tpi"
    INCH_SIZE = "inch_size"
    WORM = "worm"
    FEED = "feed"
    STARTS = "starts"
    HAND = "hand"
    ENGAGEMENT = "engagement"
    DIAMETER = "diameter"
    ANGLE = "angle"
    CLASS = "class"
    SLIDE = "slide"
    WITHIN = "within"
    WAY = "way"


class ThreadLine(Line[Meaning]):
    """A line in which a thread or a feed is asked for."""

    before, after = r"\w.,/", r"\w/"

    @staticmethod
    def parted(text: str) -> str:
        """What is written on without a space stands apart."""
        crossed = re.sub(r"(?<=\d)\s*\*\s*(?=\d)", "x", text)
        # A class of fit is often written on with a hyphen: M14x2-6g, 1/2-13 UNC-2A.
        fit_apart = re.sub(r"-(?=(?:[3-9][efgh]|[123]A|[234]G)\b)", " ", crossed)
        # So is the hand: Tr40x7LH, M16x1.5-LH.
        return re.sub(r"(?<=[\d)])\s*-?\s*(?=(?:LH|RH)\b)", " ", fit_apart, flags=re.IGNORECASE)

    def take_filling(self) -> None:
        """Take words that people say without meaning more by them."""
        filling = r"(?:thread|screw|worm|cut|a|an|the|of|for|please)"
        self.take(rf"{filling}(?:\s+{filling})*", None)

    def refuse_negative(self) -> None:
        """Raises Refusal `not_positive` where a number stands below zero."""
        if match := re.search(rf"(?:^|\s)-\s*({NUMBER})", self.rest, re.ASCII):
            raise Refusal("not_positive", "ask", match[0].strip())

    @property
    def words(self) -> tuple[str, ...]:
        return tuple(self.rest.split())


@dataclass(frozen=True)
class Particulars:
    """What was said beside the pitch; lengths in mm, angle in degrees, `within` relative; None where nobody said."""

    hand: Hand | None
    starts: int | None
    engagement: Fraction | None
    diameter: Fraction | None
    angle: Fraction | None
    fit_class: str | None
    slide: bool
    within: Fraction | None
    across: bool | None

    @property
    def thread_only(self) -> str | None:
        """The first particular that only a thread has, in a word."""
        words = {
            "starts": self.starts is not None,
            "over": self.engagement is not None,
            "diameter": self.diameter is not None,
            "flank angle": self.angle is not None,
            "class": self.fit_class is not None,
            "lead screw": self.slide,
        }
        return next((word for word, stands in words.items() if stands), None)


def particulars(line: ThreadLine) -> Particulars:
    """Take every particular out of the line. Raises Refusal `starts_out_of_range` and those of lengths and numbers."""
    line.refuse_negative()
    return Particulars(
        hand=_hand(line),
        starts=take_starts(line, Meaning.STARTS, MOST_STARTS),
        engagement=_length(line, "over|nut|engagement", Meaning.ENGAGEMENT),
        diameter=_length(line, r"diameter|dia\.?|ø", Meaning.DIAMETER),
        angle=_angle(line),
        fit_class=_fit_class(line),
        slide=line.take(r"(?:for\s+)?(?:an?\s+)?(?:lead\s*-?screw|slide)", Meaning.SLIDE) is not None,
        within=_within(line),
        across=_across(line),
    )


def _hand(line: ThreadLine) -> Hand | None:
    match = line.take(r"(?:(left|l\.?h\.?)|(right|r\.?h\.?))(?:[ -]?hand(?:ed)?)?\.?", Meaning.HAND)
    if not match:
        return None
    return Hand.LEFT if match[1] else Hand.RIGHT


def _length(line: ThreadLine, words: str, meaning: Meaning) -> Fraction | None:
    match = line.take(rf"(?:{words})\s*({LENGTH}|{NUMBER})", meaning)
    return parse_length(match[1], Unit.MM, "ask").mm if match else None


def _angle(line: ThreadLine) -> Fraction | None:
    match = line.take(rf"({ANGLE})(?:\s+(?:flanks?|angle))?", Meaning.ANGLE)
    return parse_degrees(match[1], "ask") if match else None


def _fit_class(line: ThreadLine) -> str | None:
    match = line.take(r"(?:class\s+|fit\s+)?([3-9][efgh]|[123]A|[234]G)", Meaning.CLASS)
    if not match:
        return None
    return match[1] if match[1][1] in "efghAG" else match[1].upper() if match[1][1] in "ag" else match[1]


def _within(line: ThreadLine) -> Fraction | None:
    match = line.take(rf"within\s+({NUMBER})\s*(%|percent|ppm)", Meaning.WITHIN)
    if not match:
        return None
    allowed = parse_number(match[1], "ask") / (10**6 if match[2].lower() == "ppm" else 100)
    if not 0 <= allowed < 1:
        raise Refusal("within_out_of_range", "ask", match[0])
    return allowed


def _across(line: ThreadLine) -> bool | None:
    match = line.take(r"(across|cross|surfacing|facing)|along|longitudinal(?:ly)?", Meaning.WAY)
    return bool(match[1]) if match else None
