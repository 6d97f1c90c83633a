"""How a thread or a feed is said: by its size in a series, its pitch, its threads per inch, as a worm, a travel."""

import re
from collections.abc import Callable
from dataclasses import replace
from fractions import Fraction

from valleywind.core.lathe.line import LENGTH, MOST_STARTS, Meaning, ThreadLine
from valleywind.core.lathe.series import Series, Size, find, inch_name, numbered, sizes
from valleywind.core.lathe.thread import LARGEST_INCH_SIZE, FeedAsk, PitchUnit, ThreadAsk
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.units import MM_PER_INCH, NUMBER, Unit, parse_length, parse_number, spell, spell_inch

# Inch; a smaller fraction is a pitch.
_SMALLEST_SIZE = Fraction(1, 8)
_OF_SIZES = (2, 4, 8, 16, 32)
_PER_TURN = r"(?:\s*/\s*(?:rev|turn|r)\.?|\s*per\s+(?:rev(?:olution)?\.?|turn))"


def take_feed(line: ThreadLine) -> FeedAsk | None:
    """`feed 0.03 mm/rev`, `feed 0.0015 in`, `0.1 mm/rev`; a bare number is mm."""
    match = line.take(rf"feed(?:\s+of)?\s+({LENGTH}|{NUMBER}){_PER_TURN}?", Meaning.FEED) or line.take(
        rf"({LENGTH}){_PER_TURN}", Meaning.FEED
    )
    if not match:
        return None
    length = parse_length(match[1], Unit.MM, "ask")
    return FeedAsk(length.mm, PitchUnit.INCH if length.unit in (Unit.INCH, Unit.THOU) else PitchUnit.MM)


def take_thread(line: ThreadLine, starts: int) -> ThreadAsk | None:
    """A thread out of a line, None where it has none. Raises Refusal where a series has no such size."""
    readers: tuple[Callable[[ThreadLine, int], ThreadAsk | None], ...] = (
        _worm, _named, _numbered, _lettered, _metric, _inch_size, _tpi, _plain_length,
    )  # fmt: skip
    for reader in readers:
        ask = reader(line, starts)
        if ask is not None:
            return ask
    return None


_WORM_PITCHES = {
    PitchSystem.MODULE: rf"(?:module|mod\.?)\s*({NUMBER})|({NUMBER})\s*(?:module|mod)",
    PitchSystem.DIAMETRAL: rf"d\.?p\.?\s*({NUMBER})|({NUMBER})\s*d\.?p\.?",
    PitchSystem.CIRCULAR: (
        rf"(?:c\.?p\.?|circular\s+pitch)\s*({NUMBER})(?:\s*(?:in|inch|\"))?"
        rf"|({NUMBER})\s*(?:(?:in|inch|\")\s*)?(?:c\.?p\.?|circular\s+pitch)"
    ),
}


def _worm(line: ThreadLine, _starts: int) -> ThreadAsk | None:
    """A worm by the pitch of its wheel: `module 1.5 worm`, `worm 16 DP`, `3/8 in circular pitch worm`."""
    for system, pattern in _WORM_PITCHES.items():
        if match := line.take(rf"(?:worm\s+(?:of\s+)?)?(?:{pattern})(?:\s+worm)?", Meaning.WORM):
            number = parse_number(match[1] or match[2], "ask")
            if not number:
                raise Refusal("not_positive", "ask", match[0])
            pitch = Pitch(system, number)
            return ThreadAsk(pitch.circular, PitchUnit.MM, worm=pitch)
    return None


def stated_in(series: Series) -> PitchUnit:
    """How the pitches of a series are said."""
    metric = series in (Series.METRIC, Series.TRAPEZOIDAL, Series.BA, Series.BUTTRESS)
    return PitchUnit.MM if metric else PitchUnit.TPI


def of_size(size: Size) -> ThreadAsk:
    """The ask for a thread out of a table."""
    return ThreadAsk(
        size.pitch,
        stated_in(size.series),
        diameter=size.diameter,
        series=size.series,
        size=size if size.usual or size.series is not Series.METRIC else None,
    )


SERIES_WORDS = {
    "unc": Series.UNC,
    "unf": Series.UNF,
    "unef": Series.UNEF,
    "bsw": Series.BSW,
    "whit": Series.BSW,
    "whitworth": Series.BSW,
    "bsf": Series.BSF,
    "bsp": Series.BSP,
    "bspt": Series.BSPT,
    "npt": Series.NPT,
    "ba": Series.BA,
    "me": Series.ME,
    "acme": Series.ACME,
    "butt": Series.BUTTRESS_INCH,
    "buttress": Series.BUTTRESS_INCH,
}
LETTERED = {"tr": Series.TRAPEZOIDAL, "s": Series.BUTTRESS, "rd": Series.ROUND}
"""Series by the letters that stand before a diameter in mm."""
SIZE = r"(?:\d+[ -]\d+/\d+|\d+/\d+|\d+(?:\.\d+)?|\.\d+)"


def _named(line: ThreadLine, _starts: int) -> ThreadAsk | None:
    """A size with the letters of its series: `1/2-13 UNC`, `6-32 UNC`, `3/8 BSW`, `4 BA`, `G1/4`, `1/4x40 ME`."""
    words = "|".join(sorted(SERIES_WORDS, key=len, reverse=True))
    after = rf'(?:#|no\.?\s*)?({SIZE})\s*(?:"|in\.?|inch)?\s*(?:[-x]\s*({NUMBER})\s*(?:tpi)?)?\s*({words})'
    if match := line.take(after, Meaning.SERIES_SIZE):
        return _of_series(SERIES_WORDS[match[3].lower()], match[1], match[2], match[0])
    before = rf'({words})\s+(?:#|no\.?\s*)?({SIZE})\s*(?:"|in\.?|inch)?(?:\s*[-x]\s*({NUMBER})\s*(?:tpi)?)?'
    if match := line.take(before, Meaning.SERIES_SIZE):
        return _of_series(SERIES_WORDS[match[1].lower()], match[2], match[3], match[0])
    if match := line.take(rf"(BA|G|R)\s*({SIZE})", Meaning.SERIES_SIZE):
        series = {"BA": Series.BA, "G": Series.BSP, "R": Series.BSPT}[match[1].upper()]
        return _of_series(series, match[2], None, match[0])
    return None


def _of_series(series: Series, typed: str, per_inch: str | None, text: str) -> ThreadAsk:
    """The thread of a size in inches and its series. Raises Refusal `not_in_series`, and `buttress_without_pitch` since
    inch buttress threads have no usual one."""
    if series is not Series.BUTTRESS_INCH:
        return of_size(_look_up(series, typed, per_inch, text))
    diameter = parse_number(typed, "ask")
    if per_inch is None:
        raise Refusal("buttress_without_pitch", "ask", text, size=spell_inch(diameter))
    if diameter > LARGEST_INCH_SIZE:
        raise Refusal("not_in_series", "ask", text, series="inch buttress threads")
    return replace(_sized(series, diameter * MM_PER_INCH, _pitch_of(per_inch), text), stated=PitchUnit.TPI)


def _numbered(line: ThreadLine, _starts: int) -> ThreadAsk | None:
    """A numbered unified size without letters: `#6-32`, `No. 6-32`."""
    if match := line.take(rf"(?:#|no\.?)\s*(\d+)\s*[-x]\s*({NUMBER})", Meaning.SERIES_SIZE):
        if size := numbered(int(match[1]), _pitch_of(match[2])):
            return of_size(size)
        raise Refusal("not_in_series", "ask", match[0], series="the unified series")
    return None


def _look_up(series: Series, typed: str, per_inch: str | None, text: str) -> Size:
    number = parse_number(typed, "ask")
    pitch = _pitch_of(per_inch) if per_inch else None
    names = [spell(number)] if series is Series.BA else [inch_name(number), f"#{spell(number)}"]
    for name in names:
        if size := find(series, name, pitch):
            return size
    raise Refusal("not_in_series", "ask", text, series=series.value)


def _pitch_of(per_inch: str) -> Fraction:
    number = parse_number(per_inch, "ask")
    if not number:
        raise Refusal("not_positive", "ask", per_inch)
    return MM_PER_INCH / number


_LETTERED_TABLE = {
    Series.TRAPEZOIDAL: "the trapezoidal series",
    Series.BUTTRESS: "buttress threads",
    Series.ROUND: "round threads",
}


def _lettered(line: ThreadLine, _starts: int) -> ThreadAsk | None:
    """`Tr20x4`, with any pitch, or `Tr20` with the preferred one; `Tr40x14(P7)` of two starts. `S40x7` likewise, and
    `Rd40x1/6`, whose pitch is a fraction of an inch."""
    letters = "|".join(LETTERED)
    if match := line.take(
        rf"({letters})\s*({NUMBER})\s*x\s*({NUMBER})\s*(?:\(\s*P\s*({NUMBER})\s*\)|P\s*({NUMBER}))", Meaning.SERIES_SIZE
    ):
        return _of_lead(LETTERED[match[1].lower()], match[2], match[3], match[4] or match[5], match[0])
    match = line.take(
        rf'({letters})\s*({NUMBER})(?:\s*x\s*({NUMBER})(?:\s*(mm|"|in\.?|inch)(?![a-z]))?)?', Meaning.SERIES_SIZE
    )
    if not match:
        return None
    series, diameter = LETTERED[match[1].lower()], parse_number(match[2], "ask")
    unit = (match[4] or "").lower()
    pitch = parse_number(match[3], "ask") if match[3] else None
    # The pitch of a round thread is a fraction of an inch.
    inch = pitch is not None and (
        unit.startswith(('"', "in")) or (series is Series.ROUND and "/" in match[3] and not unit)
    )
    if pitch is not None and inch:
        pitch *= MM_PER_INCH
    if size := find(series, spell(diameter), pitch):
        return of_size(size)
    if pitch is None:
        raise Refusal("not_in_series", "ask", match[0], series=_LETTERED_TABLE[series])
    return replace(_sized(series, diameter, pitch, match[0]), stated=PitchUnit.TPI if inch else PitchUnit.MM)


def _of_lead(series: Series, diameter: str, lead: str, pitch: str, text: str) -> ThreadAsk:
    """A thread of several starts by its lead and pitch, as standards name it. Raises Refusal `lead_not_of_pitch`."""
    ask = _sized(series, parse_number(diameter, "ask"), parse_number(pitch, "ask"), text)
    starts = parse_number(lead, "ask") / ask.pitch
    if starts.denominator != 1 or not 1 <= starts <= MOST_STARTS:
        raise Refusal("lead_not_of_pitch", "ask", text, most=MOST_STARTS)
    size = find(series, spell(parse_number(diameter, "ask")), ask.pitch) if series is not Series.METRIC else None
    return replace(ask, starts=int(starts), size=size)


def _metric(line: ThreadLine, _starts: int) -> ThreadAsk | None:
    if match := line.take(rf"M\s*({NUMBER})\s*x\s*Ph\s*({NUMBER})\s*P\s*({NUMBER})", Meaning.METRIC_SIZE):
        return _of_lead(Series.METRIC, match[1], match[2], match[3], match[0])
    if match := line.take(rf"M\s*({NUMBER})\s*(?:x|-)\s*({NUMBER})(?:\s*mm)?", Meaning.METRIC_SIZE):
        return _sized(Series.METRIC, parse_number(match[1], "ask"), parse_number(match[2], "ask"), match[0])
    if match := line.take(rf"M\s*({NUMBER})(\s+fine|\s+coarse)?(?!\s*(?:x|-))", Meaning.COARSE_SIZE):
        diameter = parse_number(match[1], "ask")
        if match[2] and "fine" in match[2].lower():
            return _fine(diameter, match[0])
        size = find(Series.METRIC, spell(diameter))
        if size is None:
            raise Refusal("no_coarse_size", "ask", match[0], diameter=diameter)
        return of_size(size)
    return None


def _fine(diameter: Fraction, text: str) -> ThreadAsk:
    """The fine thread of a diameter, where there is one alone."""
    fine = [s for s in sizes(Series.METRIC) if s.diameter == diameter and not s.usual]
    if len(fine) != 1:
        raise Refusal("several_fine" if fine else "no_coarse_size", "ask", text, diameter=diameter)
    return _sized(Series.METRIC, diameter, fine[0].pitch, text)


def _sized(series: Series, diameter: Fraction, pitch: Fraction, text: str) -> ThreadAsk:
    if not 0 < pitch < diameter:
        raise Refusal("pitch_against_diameter", "ask", text)
    return ThreadAsk(pitch, diameter=diameter, series=series)


def _inch_size(line: ThreadLine, _starts: int) -> ThreadAsk | None:
    """`1/2-13`, `1/2" x 13`, `0.75-16 tpi`: a size up to six inches and threads to the inch."""
    inches = rf'({SIZE})(?:\s*-\s*|\s*(?:"|in\.?|inch)\s*[-x]?\s*)({NUMBER})(?:\s*tpi)?(?!\s*(?:mm|"|in))'
    # A fraction can be nothing but inches: `1/2 x 20`, `1/4 20`.
    fraction = r"((?:\d+[ -])?\d+/\d+)\s*(?:x|\s)\s*(\d+(?:[.,]\d+)?)(?:\s*tpi)?(?!\s*(?:mm|\"|in|°|deg|starts?|%))"
    if match := line.take(inches, Meaning.INCH_SIZE) or line.take(fraction, Meaning.INCH_SIZE):
        bare = not re.search('"|in', match[0]) and match[1].isdigit()
        if bare and (size := numbered(int(match[1]), _pitch_of(match[2]))):
            return of_size(size)
        diameter, per_inch = parse_number(match[1], "ask"), parse_number(match[2], "ask")
        if not per_inch or not 0 < diameter <= LARGEST_INCH_SIZE or 1 / per_inch >= diameter:
            raise Refusal("pitch_against_diameter", "ask", match[0])
        return ThreadAsk(MM_PER_INCH / per_inch, PitchUnit.TPI, diameter=diameter * MM_PER_INCH)
    return None


_TPI = rf"(?:(lead|pitch)\s+)?({NUMBER})\s*(?:tpi|t\.p\.i\.?|threads?\s+(?:per|an|to the)\s+inch)"


def _tpi(line: ThreadLine, starts: int) -> ThreadAsk | None:
    if match := line.take(_TPI, Meaning.TPI):
        per_inch = parse_number(match[2], "ask")
        if not per_inch:
            raise Refusal("not_positive", "ask", match[0])
        # The lead of a thread of several starts is one turn's travel; any other figure is its pitch.
        starts = starts if (match[1] or "").lower() == "lead" else 1
        return ThreadAsk(MM_PER_INCH / per_inch / starts, PitchUnit.TPI)
    return None


def _is_a_size(inches: Fraction) -> bool:
    """Whether a fraction is a size as sizes go, not a pitch."""
    return inches >= _SMALLEST_SIZE and inches.denominator in _OF_SIZES


def _plain_length(line: ThreadLine, starts: int) -> ThreadAsk | None:
    """A bare pitch or lead: `2 mm`, `pitch 2`, `lead 12`. A fraction of an inch alone is a size: what its pitch is
    is not said. Raises Refusal `size_without_pitch`."""
    if match := line.take(rf"pitch\s+({NUMBER})(?=\s*$)", Meaning.PITCH):
        return ThreadAsk(parse_number(match[1], "ask"), PitchUnit.MM)
    if match := line.take(rf"lead\s+({NUMBER})(?=\s*$)", Meaning.LEAD):
        return ThreadAsk(parse_number(match[1], "ask") / starts, PitchUnit.MM)
    size = re.fullmatch(r'((?:\d+[ -])?\d+/\d+)\s*(?:"|in\.?|inch)', line.rest.strip(), re.IGNORECASE)
    if size and starts == 1 and _is_a_size(parse_number(size[1], "ask")):
        raise Refusal("size_without_pitch", "ask", line.rest.strip(), size=spell_inch(parse_number(size[1], "ask")))
    if match := line.take(rf"(lead\s+|pitch\s+)?({LENGTH})(\s+lead|\s+pitch)?", Meaning.PITCH):
        length = parse_length(match[2], None, "ask")
        word = (match[1] or match[3] or "").strip().lower()
        pitch = length.mm / starts if word == "lead" else length.mm
        if word == "lead" or (not word and starts == 1):
            line.understood[-1] = (line.understood[-1][0], Meaning.LEAD)
        stated = PitchUnit.INCH if length.unit in (Unit.INCH, Unit.THOU) else PitchUnit.MM
        return ThreadAsk(pitch, stated)
    return None
