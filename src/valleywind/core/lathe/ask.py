"""What thread is wanted, read from what people type.

`M14x2`, `M12`, `1.75 mm`, `26 tpi`, `1/2-13 UNC`, `3/8 BSW`, `4 BA`, `Tr20x4`, `lead 12 mm 3 starts`. The reader
says which words it understood, which not, and the nearest asks it would understand; `say` prints what `read` reads
back, and `complete` offers how a line could go on.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from difflib import get_close_matches
from enum import StrEnum
from fractions import Fraction
from functools import cache

from valleywind.core.lathe.series import Series, Size, every_size, find, inch_name, nearest, sizes
from valleywind.core.lathe.thread import Stated, ThreadAsk, say
from valleywind.core.refusal import Refused
from valleywind.core.trains.direction import Hand
from valleywind.core.units import (
    MM_PER_INCH,
    NUMBER,
    UNIT_WORDS,
    Unit,
    parse_length,
    parse_number,
    plain,
    spell,
)

FINEST_PITCH, COARSEST_LEAD = Fraction(1, 100), Fraction(500)
MOST_STARTS = 24
_LARGEST_INCH_SIZE = 6
EXAMPLES = ("M14x2", "M12", "1.75 mm", "26 tpi", "1/2-13 UNC", "3/8 BSW", "4 BA", "lead 12 mm 3 starts")
MOST_TYPED = 120


class Meaning(StrEnum):
    METRIC_SIZE = "metric_size"
    COARSE_SIZE = "coarse_size"
    SERIES_SIZE = "series_size"
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

    def take(self, pattern: str, meaning: Meaning | None) -> re.Match[str] | None:
        """Take a piece out of the line and note what it means; with None it means nothing."""
        match = re.search(rf"(?<![\w.,/]){pattern}(?![\w/])", self.rest, re.IGNORECASE | re.ASCII)
        if match:
            if meaning is not None:
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
        None,
    )
    understood = tuple(line.understood)
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
    readers: tuple[Callable[[_Line, int], ThreadAsk | None], ...] = (
        _named, _numbered, _trapezoidal, _metric, _inch_size, _tpi, _plain_length,
    )  # fmt: skip
    for reader in readers:
        ask = reader(line, starts)
        if ask is not None:
            return ask
    return None


def _of(size: Size) -> ThreadAsk:
    """The ask for a thread out of a table."""
    metric = size.series in (Series.METRIC, Series.TRAPEZOIDAL, Series.BA)
    return ThreadAsk(
        size.pitch,
        Stated.MM if metric else Stated.TPI,
        diameter=size.diameter,
        series=size.series,
        size=size if size.usual or size.series is not Series.METRIC else None,
    )


_SERIES_WORDS = {
    "unc": Series.UNC,
    "unf": Series.UNF,
    "unef": Series.UNEF,
    "bsw": Series.BSW,
    "whit": Series.BSW,
    "whitworth": Series.BSW,
    "bsf": Series.BSF,
    "bsp": Series.BSP,
    "ba": Series.BA,
    "me": Series.ME,
    "acme": Series.ACME,
}
_SIZE = r"(?:\d+[ -]\d+/\d+|\d+/\d+|\d+(?:\.\d+)?|\.\d+)"


def _named(line: _Line, _starts: int) -> ThreadAsk | None:
    """A size with the letters of its series: `1/2-13 UNC`, `6-32 UNC`, `3/8 BSW`, `4 BA`, `G1/4`, `1/4x40 ME`."""
    words = "|".join(sorted(_SERIES_WORDS, key=len, reverse=True))
    after = rf'(?:#|no\.?\s*)?({_SIZE})\s*(?:"|in\.?|inch)?\s*(?:[-x]\s*({NUMBER})\s*(?:tpi)?)?\s*({words})'
    if match := line.take(after, Meaning.SERIES_SIZE):
        return _of(_look_up(_SERIES_WORDS[match[3].lower()], match[1], match[2], match[0]))
    if match := line.take(rf"(BA|G)\s*({_SIZE})", Meaning.SERIES_SIZE):
        series = Series.BA if match[1].upper() == "BA" else Series.BSP
        return _of(_look_up(series, match[2], None, match[0]))
    return None


def _numbered(line: _Line, _starts: int) -> ThreadAsk | None:
    """A numbered unified size without letters: `#6-32`."""
    if match := line.take(rf"#\s*(\d+)\s*[-x]\s*({NUMBER})", Meaning.SERIES_SIZE):
        pitch = _pitch_of(match[2])
        for series in (Series.UNC, Series.UNF, Series.UNEF):
            if size := find(series, f"#{match[1]}", pitch):
                return _of(size)
        raise Refused("not_in_series", "ask", match[0], series="the unified series")
    return None


def _look_up(series: Series, typed: str, per_inch: str | None, said: str) -> Size:
    number = parse_number(typed, "ask")
    pitch = _pitch_of(per_inch) if per_inch else None
    names = [spell(number)] if series is Series.BA else [inch_name(number), f"#{spell(number)}"]
    for name in names:
        if size := find(series, name, pitch):
            return size
    raise Refused("not_in_series", "ask", said, series=series.value)


def _pitch_of(per_inch: str) -> Fraction:
    number = parse_number(per_inch, "ask")
    if not number:
        raise Refused("not_positive", "ask", per_inch)
    return MM_PER_INCH / number


def _trapezoidal(line: _Line, _starts: int) -> ThreadAsk | None:
    """`Tr20x4`, with any pitch, or `Tr20` with the preferred one."""
    match = line.take(rf"Tr\s*({NUMBER})(?:\s*x\s*({NUMBER}))?", Meaning.SERIES_SIZE)
    if not match:
        return None
    diameter, series = parse_number(match[1], "ask"), Series.TRAPEZOIDAL
    pitch = parse_number(match[2], "ask") if match[2] else None
    if size := find(series, spell(diameter), pitch):
        return _of(size)
    if pitch is None:
        raise Refused("not_in_series", "ask", match[0], series="the trapezoidal series")
    return _sized(series, diameter, pitch, match[0])


def _metric(line: _Line, _starts: int) -> ThreadAsk | None:
    if match := line.take(rf"M\s*({NUMBER})\s*(?:x|-)\s*({NUMBER})(?:\s*mm)?", Meaning.METRIC_SIZE):
        return _sized(Series.METRIC, parse_number(match[1], "ask"), parse_number(match[2], "ask"), match[0])
    if match := line.take(rf"M\s*({NUMBER})(\s+fine|\s+coarse)?(?!\s*(?:x|-))", Meaning.COARSE_SIZE):
        diameter = parse_number(match[1], "ask")
        if match[2] and "fine" in match[2].lower():
            return _fine(diameter, match[0])
        size = find(Series.METRIC, spell(diameter))
        if size is None:
            raise Refused("no_coarse_size", "ask", match[0], diameter=diameter)
        return _of(size)
    return None


def _fine(diameter: Fraction, said: str) -> ThreadAsk:
    """The fine thread of a diameter, where there is one alone."""
    fine = [s for s in sizes(Series.METRIC) if s.diameter == diameter and not s.usual]
    if len(fine) != 1:
        raise Refused("several_fine" if fine else "no_coarse_size", "ask", said, diameter=diameter)
    return _sized(Series.METRIC, diameter, fine[0].pitch, said)


def _sized(series: Series, diameter: Fraction, pitch: Fraction, said: str) -> ThreadAsk:
    if not 0 < pitch < diameter:
        raise Refused("pitch_against_diameter", "ask", said)
    return ThreadAsk(pitch, diameter=diameter, series=series)


def _inch_size(line: _Line, _starts: int) -> ThreadAsk | None:
    """`1/2-13`, `1/2" x 13`, `0.75-16 tpi`: a size up to six inches and threads to the inch."""
    inches = rf'({_SIZE})(?:\s*-\s*|\s*(?:"|in\.?|inch)\s*[-x]?\s*)({NUMBER})(?:\s*tpi)?(?!\s*(?:mm|"|in))'
    if match := line.take(inches, Meaning.INCH_SIZE):
        diameter, per_inch = parse_number(match[1], "ask"), parse_number(match[2], "ask")
        if not per_inch or not 0 < diameter <= _LARGEST_INCH_SIZE or 1 / per_inch >= diameter:
            raise Refused("pitch_against_diameter", "ask", match[0])
        return ThreadAsk(MM_PER_INCH / per_inch, Stated.TPI, diameter=diameter * MM_PER_INCH)
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


def _near_in_series(typed: str) -> list[str]:
    """Sizes near a size that its series does not have, in that series first, then of the same size in others."""
    words = "|".join(_SERIES_WORDS)
    after = re.search(rf"({_SIZE})[^A-Za-z]*({words})\b", typed, re.IGNORECASE | re.ASCII)
    before = re.search(rf"\b(Tr)\s*({_SIZE})", typed, re.IGNORECASE | re.ASCII)
    if not after and not before:
        return []
    series = _SERIES_WORDS[after[2].lower()] if after else Series.TRAPEZOIDAL
    try:
        number = parse_number(after[1] if after else before[2] if before else "")
    except Refused:
        return []
    if series is Series.BA:
        return [s.said for s in sorted(sizes(series), key=lambda s: abs(int(s.name) - number))[:2]]
    diameter = number if series is Series.TRAPEZOIDAL else number * MM_PER_INCH
    same = [s.said for s in every_size() if s.diameter == diameter and s.series is not series]
    return [s.said for s in nearest(series, diameter)] + same


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
            if "fine" in match[2].lower():
                guesses += [s.said for s in sizes(Series.METRIC) if s.diameter == diameter and not s.usual]
            guesses += [s.said for s in nearest(Series.METRIC, diameter)]
            guesses.append(f"M{spell(diameter)}x{spell(nearest(Series.METRIC, diameter, 1)[0].pitch)}")
        except Refused:
            pass
    guesses += _near_in_series(typed)
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


def complete(text: str, most: int = 8) -> list[ThreadAsk]:
    """Asks that begin with what is typed so far: sizes of every series, and a bare number with its units."""
    start = _close(text)
    if not start:
        return []
    found = [_of(size) for key, size in _by_key() if key.startswith(start)]
    if re.fullmatch(NUMBER, plain(text), re.ASCII):
        fraction = "/" in text
        plainly = [read(f"{plain(text)} {unit}").ask for unit in (("in",) if fraction else ("mm", "tpi"))]
        lengths = [ask for ask in plainly if ask is not None]
        found = found[: most - 1] + lengths if fraction else lengths + found
    return found[:most]


@cache
def _by_key() -> tuple[tuple[str, Size], ...]:
    return tuple((_close(size.said), size) for size in every_size())


def _close(text: str) -> str:
    return re.sub(r"[\s-]", "", plain(text)).lower()
