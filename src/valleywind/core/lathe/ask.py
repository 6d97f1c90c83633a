"""What thread is wanted, read from what people type.

`M14x2`, `M12`, `1.75 mm`, `26 tpi`, `1/2-13`, `lead 12 mm 3 starts`, `M8 left hand`. The reader says which words it
understood, which not, and the nearest asks it would understand; `say` prints what `read` reads back.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from difflib import get_close_matches
from enum import StrEnum
from fractions import Fraction

from valleywind.core.lathe.series import ISO_COARSE, nearest_coarse
from valleywind.core.lathe.verdict import ENGAGEMENT, USUAL_DIAMETER
from valleywind.core.refusal import Refused
from valleywind.core.trains.direction import Hand
from valleywind.core.units import (
    MM_PER_INCH,
    NUMBER,
    UNIT_WORDS,
    Length,
    Unit,
    parse_length,
    parse_number,
    plain,
    spell,
    spell_inch,
)

FINEST_PITCH, COARSEST_LEAD = Fraction(1, 100), Fraction(500)
MOST_STARTS = 24
_LARGEST_INCH_SIZE = 6
EXAMPLES = ("M14x2", "M12", "1.75 mm", "26 tpi", "1/2-13", "lead 12 mm 3 starts", "M8 left hand")
MOST_TYPED = 120


class Stated(StrEnum):
    """How the pitch was given, so that it can be said back the same way."""

    MM = "mm"
    TPI = "tpi"
    INCH = "inch"


@dataclass(frozen=True)
class ThreadAsk:
    """A wanted thread; lengths in mm, exact. `diameter` and `engagement` are None where nobody said."""

    pitch: Fraction
    stated: Stated = Stated.MM
    starts: int = 1
    diameter: Fraction | None = None
    diameter_in_inches: bool = False
    metric_series: bool = False
    coarse: bool = False
    hand: Hand = Hand.RIGHT
    engagement: Fraction | None = None
    included_angle: Fraction = Fraction(60)

    @property
    def lead(self) -> Fraction:
        """Travel in one turn: starts × pitch."""
        return self.pitch * self.starts

    @property
    def nominal(self) -> Fraction:
        """The diameter, or a usual one for the pitch where none was given."""
        return self.diameter if self.diameter is not None else self.pitch * USUAL_DIAMETER

    @property
    def length(self) -> Fraction:
        """Length of engagement that is judged: as given, else 0.8 d."""
        return self.engagement if self.engagement is not None else ENGAGEMENT * self.nominal


class Meaning(StrEnum):
    METRIC_SIZE = "metric_size"
    COARSE_SIZE = "coarse_size"
    PITCH = "pitch"
    LEAD = "lead"
    TPI = "tpi"
    INCH_SIZE = "inch_size"
    STARTS = "starts"
    HAND = "hand"
    ENGAGEMENT = "engagement"


@dataclass(frozen=True)
class Reading:
    """What was made of a line: the ask if it is whole; each understood piece with its meaning; the words left over;
    asks near to it that would be understood; why not, as a refusal."""

    ask: ThreadAsk | None
    understood: tuple[tuple[str, Meaning], ...] = ()
    left_over: tuple[str, ...] = ()
    nearest: tuple[str, ...] = ()
    refusal: Refused | None = None


@dataclass
class _Line:
    """The part of the line not yet understood."""

    rest: str
    understood: list[tuple[str, Meaning]] = field(default_factory=list)

    def take(self, pattern: str, meaning: Meaning) -> re.Match[str] | None:
        match = re.search(rf"(?<![\w.,/]){pattern}(?![\w/])", self.rest, re.IGNORECASE | re.ASCII)
        if match:
            self.understood.append((match[0].strip(), meaning))
            self.rest = f"{self.rest[: match.start()]} {self.rest[match.end() :]}".strip()
        return match


_LENGTH_WORDS = "|".join(sorted((re.escape(w) for w in UNIT_WORDS), key=len, reverse=True))
_LENGTH = rf"{NUMBER}\s*(?:{_LENGTH_WORDS})"
_HAND = r"(?:(left|l\.?h\.?)|(right|r\.?h\.?))(?:[ -]?hand(?:ed)?)?\.?"
_STARTS = r"(\d{1,3})[ -]?starts?"
_ENGAGEMENT = rf"(?:over|nut|engagement)\s+({_LENGTH}|{NUMBER})"
_TPI = rf"(?:(?:lead|pitch)\s+)?({NUMBER})\s*(?:tpi|t\.p\.i\.?|threads?\s+(?:per|an|to the)\s+inch)"


def read(text: str) -> Reading:
    """Read a line. Never raises: a line that is no ask comes back with a refusal and the nearest readings."""
    if len(text) > MOST_TYPED:
        return Reading(
            None, (), (text[:20] + "…",), EXAMPLES[:3], Refused("too_long", "ask", text[:20], most=MOST_TYPED)
        )
    line = _Line(re.sub(r"(?<=\d)\s*\*\s*(?=\d)", "x", plain(text)))
    if not line.rest:
        return Reading(None, (), (), EXAMPLES[:4], Refused("empty", "ask", text))
    try:
        hand = _hand(line)
        starts = _starts(line)
        engagement = _engagement(line)
        base = _thread(line, starts)
    except Refused as refused:
        return Reading(None, tuple(line.understood), _words(line.rest), _nearest(text), refused)
    line.take(
        r"(?:thread|screw|cut|a|an|the|of|for|please)(?:\s+(?:thread|screw|cut|a|an|the|of|for|please))*",
        Meaning.LEAD,
    )
    understood = tuple(u for u in line.understood if u[1] is not Meaning.LEAD or any(c.isdigit() for c in u[0]))
    left = _words(line.rest)
    if base is None or left:
        why = Refused("not_understood", "ask", text) if base is None else Refused("words_left", "ask", " ".join(left))
        return Reading(None, understood, left, _nearest(text, base), why)
    ask = replace(base, hand=hand, starts=starts, engagement=engagement)
    if not ask.pitch >= FINEST_PITCH or ask.lead > COARSEST_LEAD:
        why = Refused("lead_out_of_range", "ask", text, finest=FINEST_PITCH, coarsest=COARSEST_LEAD)
        return Reading(None, understood, (), EXAMPLES[:3], why)
    return Reading(ask, understood)


def _hand(line: _Line) -> Hand:
    match = line.take(_HAND, Meaning.HAND)
    return Hand.LEFT if match and match[1] else Hand.RIGHT


def _starts(line: _Line) -> int:
    match = line.take(_STARTS, Meaning.STARTS)
    starts = int(match[1]) if match else 1
    if not 1 <= starts <= MOST_STARTS:
        raise Refused("starts_out_of_range", "ask", starts, most=MOST_STARTS)
    return starts


def _engagement(line: _Line) -> Fraction | None:
    match = line.take(_ENGAGEMENT, Meaning.ENGAGEMENT)
    return parse_length(match[1], Unit.MM, "ask").mm if match else None


def _thread(line: _Line, starts: int) -> ThreadAsk | None:
    readers: tuple[Callable[[_Line, int], ThreadAsk | None], ...] = (_metric, _inch_size, _tpi, _plain_length)
    for reader in readers:
        ask = reader(line, starts)
        if ask is not None:
            return ask
    return None


def _metric(line: _Line, _starts: int) -> ThreadAsk | None:
    if match := line.take(rf"M\s*({NUMBER})\s*(?:x|-)\s*({NUMBER})(?:\s*mm)?", Meaning.METRIC_SIZE):
        diameter, pitch = parse_number(match[1], "ask"), parse_number(match[2], "ask")
        if not 0 < pitch < diameter:
            raise Refused("pitch_against_diameter", "ask", match[0])
        return ThreadAsk(pitch, diameter=diameter, metric_series=True)
    if match := line.take(rf"M\s*({NUMBER})(?!\s*(?:x|-))", Meaning.COARSE_SIZE):
        diameter = parse_number(match[1], "ask")
        if diameter not in ISO_COARSE:
            raise Refused("no_coarse_size", "ask", match[0], diameter=diameter)
        return ThreadAsk(ISO_COARSE[diameter], diameter=diameter, metric_series=True, coarse=True)
    return None


def _inch_size(line: _Line, _starts: int) -> ThreadAsk | None:
    """`1/2-13`, `1/2" x 13`, `0.75-16 tpi`: a size up to six inches and threads to the inch."""
    size = r"(\d+[ -]\d+/\d+|\d+/\d+|\d+(?:\.\d+)?|\.\d+)"
    inches = rf'{size}(?:\s*-\s*|\s*(?:"|in\.?|inch)\s*[-x]?\s*)({NUMBER})(?:\s*tpi)?(?!\s*(?:mm|"|in))'
    if match := line.take(inches, Meaning.INCH_SIZE):
        diameter, per_inch = parse_number(match[1], "ask"), parse_number(match[2], "ask")
        if not per_inch or not 0 < diameter <= _LARGEST_INCH_SIZE or 1 / per_inch >= diameter:
            raise Refused("pitch_against_diameter", "ask", match[0])
        return ThreadAsk(MM_PER_INCH / per_inch, Stated.TPI, diameter=diameter * MM_PER_INCH, diameter_in_inches=True)
    return None


def _tpi(line: _Line, _starts: int) -> ThreadAsk | None:
    if match := line.take(_TPI, Meaning.TPI):
        per_inch = parse_number(match[1], "ask")
        if not per_inch:
            raise Refused("not_positive", "ask", match[0])
        return ThreadAsk(MM_PER_INCH / per_inch, Stated.TPI)
    return None


def _plain_length(line: _Line, starts: int) -> ThreadAsk | None:
    if match := line.take(rf"(lead\s+|pitch\s+)?({_LENGTH})(\s+lead|\s+pitch)?", Meaning.PITCH):
        length = parse_length(match[2], None, "ask")
        word = (match[1] or match[3] or "").strip().lower()
        pitch = length.mm if word == "pitch" else length.mm / starts
        if word != "pitch":
            line.understood[-1] = (line.understood[-1][0], Meaning.LEAD)
        stated = Stated.INCH if length.unit in (Unit.INCH, Unit.THOU) else Stated.MM
        return ThreadAsk(pitch, stated)
    return None


def _words(rest: str) -> tuple[str, ...]:
    return tuple(rest.split())


_KNOWN_WORDS = ("tpi", "mm", "inch", "thou", "left", "right", "hand", "starts", "lead", "pitch", "over")


def _nearest(text: str, base: ThreadAsk | None = None) -> tuple[str, ...]:
    """Up to four asks near to what was typed, each of which `read` understands."""
    typed = plain(text)
    guesses: list[str] = []
    if base is not None:
        guesses.append(say(base))
    if match := re.search(rf"\bM\s*({NUMBER})(.*)", typed, re.IGNORECASE | re.ASCII):
        try:
            diameter = parse_number(match[1])
            guesses += [f"M{spell(d)}" for d in nearest_coarse(diameter)]
            inside = min(ISO_COARSE, key=lambda d: abs(d - diameter))
            guesses.append(f"M{spell(diameter)}x{spell(ISO_COARSE[inside])}")
        except Refused:
            pass
    if match := re.fullmatch(rf"({NUMBER})\s*[x-]\s*({NUMBER}).*", typed, re.ASCII):
        guesses.append(f"M{match[1]}x{match[2]}")
    mended = " ".join(_mend(word) for word in re.findall(rf"{NUMBER}|[^\s\d]+", typed))
    guesses.append(mended)
    for found in re.findall(NUMBER, typed, re.ASCII)[:1]:
        guesses += [f"{found} mm", f"{found} tpi", f"M{found}"]
    valid = [g for g in dict.fromkeys(guesses) if g != typed and _whole(g)]
    return tuple(valid[:4]) or EXAMPLES[:4]


def _mend(word: str) -> str:
    close = get_close_matches(word.lower(), _KNOWN_WORDS, 1, 0.6)
    return close[0] if close else word


def _whole(text: str) -> bool:
    """Whether `read` would take it; without `read`'s own search for what is near."""
    line = _Line(plain(text))
    try:
        _hand(line)
        ask = _thread(line, _starts(line))
    except Refused:
        return False
    return ask is not None and not line.rest and ask.pitch >= FINEST_PITCH and ask.lead <= COARSEST_LEAD


def with_lengths(ask: ThreadAsk, diameter: Length | None, engagement: Length | None) -> ThreadAsk:
    """The ask with a diameter or a length of engagement from fields beside the line; a stated one gives way.

    Raises Refused `pitch_against_diameter` where the pitch is not smaller than the diameter.
    """
    if diameter is not None:
        if ask.pitch >= diameter.mm:
            raise Refused("pitch_against_diameter", "diameter", spell(diameter.mm))
        ask = replace(
            ask,
            diameter=diameter.mm,
            diameter_in_inches=diameter.unit is Unit.INCH,
            metric_series=ask.metric_series,
        )
    return ask if engagement is None else replace(ask, engagement=engagement.mm)


def say(ask: ThreadAsk) -> str:
    """The ask in one line that `read` reads back to the same."""
    per_inch = MM_PER_INCH / ask.pitch
    words: list[str] = []
    if ask.metric_series and ask.diameter is not None:
        words.append(f"M{spell(ask.diameter)}" + ("" if ask.coarse else f"x{spell(ask.pitch)}"))
    elif ask.diameter is not None:
        words.append(f"{spell_inch(ask.diameter / MM_PER_INCH)}-{spell(per_inch)}")
    elif ask.stated is Stated.TPI:
        words.append(f"{spell(per_inch)} tpi")
    elif ask.stated is Stated.INCH:
        words.append(
            f"pitch {spell(ask.pitch / MM_PER_INCH)} in" if ask.starts > 1 else f"{spell(ask.pitch / MM_PER_INCH)} in"
        )
    else:
        words.append(f"pitch {spell(ask.pitch)} mm" if ask.starts > 1 else f"{spell(ask.pitch)} mm")
    if ask.starts > 1:
        words.append(f"{ask.starts} starts")
    if ask.hand is Hand.LEFT:
        words.append("left hand")
    if ask.engagement is not None:
        words.append(f"over {spell(ask.engagement)} mm")
    return " ".join(words)
