"""What is wanted, read from what people type.

`M14x2`, `M12`, `1.75 mm`, `26 tpi`, `1/2-13 UNC`, `3/8 BSW`, `4 BA`, `Tr20x4`, `lead 12 mm 3 starts`,
`module 1.5 worm`, `feed 0.03 mm/rev`. The reader says which words it understood, which not, and the nearest asks it
would understand; `say` prints what `read` reads back, and `complete` offers how a line could go on.
"""

import re
from collections.abc import Callable
from dataclasses import replace
from difflib import get_close_matches
from fractions import Fraction
from functools import cache

from valleywind.core.lathe.fits import fit
from valleywind.core.lathe.line import LENGTH, MOST_STARTS, Meaning, Particulars, ThreadLine, particulars
from valleywind.core.lathe.series import Series, Size, every_size, find, inch_name, nearest, sizes
from valleywind.core.lathe.thread import LARGEST_INCH_SIZE, Ask, CarriageMove, FeedAsk, Stated, ThreadAsk, say
from valleywind.core.refusal import Refused
from valleywind.core.teeth import said
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.direction import Hand
from valleywind.core.units import MM_PER_INCH, NUMBER, Unit, parse_length, parse_number, plain, spell

FINEST_PITCH, COARSEST_LEAD = Fraction(1, 100), Fraction(500)
LARGEST_DIAMETER, LONGEST_ENGAGEMENT = Fraction(1000), Fraction(10_000)
FINEST_FEED, COARSEST_FEED = Fraction(1, 2000), Fraction(25)
EXAMPLES = ("M14x2", "M12", "1.75 mm", "26 tpi", "1/2-13 UNC", "3/8 BSW", "4 BA", "module 1.5 worm", "feed 0.05 mm/rev")
MOST_TYPED = 120


Reading = said.Reading[Ask, Meaning]


def read(text: str) -> Reading:
    """Read a line. Never raises: a line that is no ask comes back with a refusal and the nearest readings."""
    # The key that leads to the ask line is no part of an ask.
    text = re.sub(r"^\s*/+", "", text)
    if len(text) > MOST_TYPED:
        why = Refused("too_long", "ask", text[:20], most=MOST_TYPED)
        return Reading(None, (), (text[:20] + "…",), EXAMPLES[:3], why)
    line = ThreadLine(text)
    if not line.rest:
        return Reading(None, (), (), EXAMPLES[:4], Refused("empty", "ask", text))
    base: Ask | None = None
    try:
        particulars_known = particulars(line)
        base = _feed(line) or _thread(line, particulars_known.starts or 1)
        line.take_filling()
        if base is None or line.words:
            raise _why_not(text, base, line)
        ask = _fed(base, particulars_known) if isinstance(base, FeedAsk) else _threaded(base, particulars_known)
        in_range(ask)
    except Refused as refused:
        return Reading(None, tuple(line.understood), line.words, _nearest(text, base), refused.under("ask"))
    return Reading(ask, tuple(line.understood))


def _why_not(text: str, base: Ask | None, line: ThreadLine) -> Refused:
    if base is None:
        return Refused("not_understood", "ask", text)
    left = " ".join(line.words)
    if re.search(r"\b(?:mm|tpi|in|inch)\b|\d\"", left):
        return Refused("mixed_units", "ask", text)
    return Refused("words_left", "ask", left)


def _threaded(base: ThreadAsk, said: Particulars) -> ThreadAsk:
    """The thread with what else was said of it."""
    if said.across is not None:
        raise Refused("only_for_a_feed", "ask", "across" if said.across else "along")
    if base.starts > 1 and said.starts not in (None, base.starts):
        raise Refused("starts_disagree", "ask", f"{said.starts} starts", named=base.starts)
    if base.worm and (said.slide or said.fit_class):
        raise Refused("not_for_a_worm", "ask", said.fit_class or "lead screw")
    ask = replace(base, hand=said.hand or Hand.RIGHT, starts=said.starts or base.starts, engagement=said.engagement,
                  slide=said.slide, fit_class=said.fit_class, within=said.within)  # fmt: skip
    if said.diameter is not None:
        ask = with_diameter(ask, said.diameter)
    if said.angle is not None:
        ask = with_flanks(ask, said.angle * 2 if ask.worm else said.angle)
    fit(ask.series, ask.fit_class, 1.0, 1.0)  # refuses a class that the series does not have
    return ask


def with_flanks(ask: ThreadAsk, angle: Fraction) -> ThreadAsk:
    """The ask with this included flank angle (degrees). Raises Refused `flanks_out_of_range`."""
    if not 10 <= angle <= 120:
        raise Refused("flanks_out_of_range", "flanks", angle, least=10, most=120)
    usual = replace(ask, flanks=None).included_angle
    return replace(ask, flanks=None if angle == usual else angle)


def with_diameter(ask: ThreadAsk, diameter: Fraction) -> ThreadAsk:
    """The ask with another diameter (mm): it keeps its flanks, but is no size of a table any more.

    Raises Refused `pitch_against_diameter` where the pitch is not smaller than the diameter.
    """
    if ask.pitch >= diameter:
        raise Refused("pitch_against_diameter", "diameter", f"{spell(diameter)} mm")
    if ask.diameter == diameter:
        return ask
    if ask.series in (Series.METRIC, Series.TRAPEZOIDAL):
        size = find(ask.series, spell(diameter), ask.pitch) if ask.series is Series.TRAPEZOIDAL else None
        return replace(ask, diameter=diameter, size=size)
    bare = replace(ask, diameter=diameter, size=None, series=None)
    return bare if ask.flanks is not None or ask.worm else with_flanks(bare, ask.included_angle)


def _fed(base: FeedAsk, said: Particulars) -> FeedAsk:
    """The feed with what else was said of it. Raises Refused `not_for_a_feed` for what only a thread has."""
    if thread_only := said.thread_only:
        raise Refused("not_for_a_feed", "ask", thread_only)
    return replace(
        base,
        way=CarriageMove.ACROSS if said.across else CarriageMove.ALONG,
        hand=said.hand or Hand.RIGHT,
        within=said.within,
    )


def in_range(ask: Ask) -> None:
    """Raises Refused where a figure is beyond what any lathe cuts."""
    if isinstance(ask, FeedAsk):
        if not FINEST_FEED <= ask.travel <= COARSEST_FEED:
            raise Refused("feed_out_of_range", "ask", say(ask), finest=FINEST_FEED, coarsest=COARSEST_FEED)
        return
    if not ask.pitch >= FINEST_PITCH or ask.lead > COARSEST_LEAD:
        raise Refused("lead_out_of_range", "ask", say(ask), finest=FINEST_PITCH, coarsest=COARSEST_LEAD)
    if ask.diameter is not None and ask.diameter > LARGEST_DIAMETER:
        raise Refused("diameter_out_of_range", "ask", f"{spell(ask.diameter)} mm", most=LARGEST_DIAMETER)
    if ask.engagement is not None and ask.engagement > LONGEST_ENGAGEMENT:
        raise Refused("engagement_out_of_range", "ask", f"{spell(ask.engagement)} mm", most=LONGEST_ENGAGEMENT)


_PER_TURN = r"(?:\s*/\s*(?:rev|turn|r)\.?|\s*per\s+(?:rev(?:olution)?\.?|turn))"


def _feed(line: ThreadLine) -> FeedAsk | None:
    """`feed 0.03 mm/rev`, `feed 0.0015 in`, `0.1 mm/rev`; a bare number is mm."""
    match = line.take(rf"feed(?:\s+of)?\s+({LENGTH}|{NUMBER}){_PER_TURN}?", Meaning.FEED) or line.take(
        rf"({LENGTH}){_PER_TURN}", Meaning.FEED
    )
    if not match:
        return None
    length = parse_length(match[1], Unit.MM, "ask")
    return FeedAsk(length.mm, Stated.INCH if length.unit in (Unit.INCH, Unit.THOU) else Stated.MM)


def _thread(line: ThreadLine, starts: int) -> ThreadAsk | None:
    readers: tuple[Callable[[ThreadLine, int], ThreadAsk | None], ...] = (
        _worm, _named, _numbered, _trapezoidal, _metric, _inch_size, _tpi, _plain_length,
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
                raise Refused("not_positive", "ask", match[0])
            pitch = Pitch(system, number)
            return ThreadAsk(pitch.circular, Stated.MM, worm=pitch)
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


def _named(line: ThreadLine, _starts: int) -> ThreadAsk | None:
    """A size with the letters of its series: `1/2-13 UNC`, `6-32 UNC`, `3/8 BSW`, `4 BA`, `G1/4`, `1/4x40 ME`."""
    words = "|".join(sorted(_SERIES_WORDS, key=len, reverse=True))
    after = rf'(?:#|no\.?\s*)?({_SIZE})\s*(?:"|in\.?|inch)?\s*(?:[-x]\s*({NUMBER})\s*(?:tpi)?)?\s*({words})'
    if match := line.take(after, Meaning.SERIES_SIZE):
        return _of(_look_up(_SERIES_WORDS[match[3].lower()], match[1], match[2], match[0]))
    if match := line.take(rf"(BA|G)\s*({_SIZE})", Meaning.SERIES_SIZE):
        series = Series.BA if match[1].upper() == "BA" else Series.BSP
        return _of(_look_up(series, match[2], None, match[0]))
    return None


def _numbered(line: ThreadLine, _starts: int) -> ThreadAsk | None:
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


def _trapezoidal(line: ThreadLine, _starts: int) -> ThreadAsk | None:
    """`Tr20x4`, with any pitch, or `Tr20` with the preferred one; `Tr40x14(P7)` of two starts."""
    if match := line.take(
        rf"Tr\s*({NUMBER})\s*x\s*({NUMBER})\s*(?:\(\s*P\s*({NUMBER})\s*\)|P\s*({NUMBER}))", Meaning.SERIES_SIZE
    ):
        return _of_lead(Series.TRAPEZOIDAL, match[1], match[2], match[3] or match[4], match[0])
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


def _of_lead(series: Series, diameter: str, lead: str, pitch: str, said: str) -> ThreadAsk:
    """A thread of several starts by its lead and pitch, as standards name it. Raises Refused `lead_not_of_pitch`."""
    ask = _sized(series, parse_number(diameter, "ask"), parse_number(pitch, "ask"), said)
    starts = parse_number(lead, "ask") / ask.pitch
    if starts.denominator != 1 or not 1 <= starts <= MOST_STARTS:
        raise Refused("lead_not_of_pitch", "ask", said, most=MOST_STARTS)
    size = find(series, spell(parse_number(diameter, "ask")), ask.pitch) if series is Series.TRAPEZOIDAL else None
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


def _inch_size(line: ThreadLine, _starts: int) -> ThreadAsk | None:
    """`1/2-13`, `1/2" x 13`, `0.75-16 tpi`: a size up to six inches and threads to the inch."""
    inches = rf'({_SIZE})(?:\s*-\s*|\s*(?:"|in\.?|inch)\s*[-x]?\s*)({NUMBER})(?:\s*tpi)?(?!\s*(?:mm|"|in))'
    if match := line.take(inches, Meaning.INCH_SIZE):
        diameter, per_inch = parse_number(match[1], "ask"), parse_number(match[2], "ask")
        if not per_inch or not 0 < diameter <= LARGEST_INCH_SIZE or 1 / per_inch >= diameter:
            raise Refused("pitch_against_diameter", "ask", match[0])
        return ThreadAsk(MM_PER_INCH / per_inch, Stated.TPI, diameter=diameter * MM_PER_INCH)
    return None


_TPI = rf"(?:(lead|pitch)\s+)?({NUMBER})\s*(?:tpi|t\.p\.i\.?|threads?\s+(?:per|an|to the)\s+inch)"


def _tpi(line: ThreadLine, starts: int) -> ThreadAsk | None:
    if match := line.take(_TPI, Meaning.TPI):
        per_inch = parse_number(match[2], "ask")
        if not per_inch:
            raise Refused("not_positive", "ask", match[0])
        # The lead of a thread of several starts is one turn's travel; any other figure is its pitch.
        starts = starts if (match[1] or "").lower() == "lead" else 1
        return ThreadAsk(MM_PER_INCH / per_inch / starts, Stated.TPI)
    return None


def _plain_length(line: ThreadLine, starts: int) -> ThreadAsk | None:
    if match := line.take(rf"(lead\s+|pitch\s+)?({LENGTH})(\s+lead|\s+pitch)?", Meaning.PITCH):
        length = parse_length(match[2], None, "ask")
        word = (match[1] or match[3] or "").strip().lower()
        pitch = length.mm / starts if word == "lead" else length.mm
        if word == "lead" or (not word and starts == 1):
            line.understood[-1] = (line.understood[-1][0], Meaning.LEAD)
        stated = Stated.INCH if length.unit in (Unit.INCH, Unit.THOU) else Stated.MM
        return ThreadAsk(pitch, stated)
    return None


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


_KNOWN_WORDS = (
    "tpi", "mm", "inch", "thou", "left", "right", "hand", "starts", "lead", "pitch", "over", "feed", "worm", "module",
    "across", "along", "within", "diameter",
)  # fmt: skip


def _nearest(text: str, base: Ask | None = None) -> tuple[str, ...]:
    """Up to four asks near to what was typed, each of which `read` understands."""
    typed = plain(text)
    guesses: list[str] = []
    if base is not None:
        guesses.append(say(base))
    if match := re.search(rf"\bM\s*({NUMBER})(.*)", typed, re.IGNORECASE | re.ASCII):
        guesses += _near_metric(match[1], match[2])
    guesses += _near_in_series(typed)
    if match := re.fullmatch(rf"({NUMBER})\s*[x-]\s*({NUMBER}).*", typed, re.ASCII):
        guesses.append(f"M{match[1]}x{match[2]}")
    guesses.append(" ".join(_mend(word) for word in re.findall(rf"{NUMBER}|[^\s\d]+", typed)))
    if not re.search(r"\d", typed):
        guesses += [e for e in EXAMPLES if typed.lower()[:4] in e]
    for number in re.findall(NUMBER, typed, re.ASCII)[:1]:
        if "feed" in typed.lower():
            guesses += [f"feed {number} mm/rev", f"feed {number} in/rev"]
        if "worm" in typed.lower():
            guesses += [f"worm module {number}", f"worm {number} DP"]
        guesses += [f"{number} mm", f"{number} tpi", f"M{number}"]
    if isinstance(base, ThreadAsk) and base.stated is Stated.MM and "tpi" in typed.lower():
        guesses.append(f"{spell(base.pitch)} tpi")
    valid = [g for g in dict.fromkeys(guesses) if g != typed and _whole(g)]
    return tuple(valid[:4]) or EXAMPLES[:4]


def _near_metric(number: str, after: str) -> list[str]:
    """Metric sizes near a diameter: its fine threads where those were meant, then the usual sizes beside it."""
    try:
        diameter = parse_number(number)
    except Refused:
        return []
    fine = [s.said for s in sizes(Series.METRIC) if s.diameter == diameter and not s.usual]
    near = [s.said for s in nearest(Series.METRIC, diameter)]
    own = f"M{spell(diameter)}x{spell(nearest(Series.METRIC, diameter, 1)[0].pitch)}"
    return [*(fine if "fine" in after.lower() else []), *near, own]


def _mend(word: str) -> str:
    close = get_close_matches(word.lower(), _KNOWN_WORDS, 1, 0.6)
    return close[0] if close else word


def _whole(text: str) -> bool:
    """Whether `read` would take it; without `read`'s own search for what is near."""
    line = ThreadLine(text)
    try:
        particulars_known = particulars(line)
        base = _feed(line) or _thread(line, particulars_known.starts or 1)
        if base is None or line.rest:
            return False
        in_range(_fed(base, particulars_known) if isinstance(base, FeedAsk) else _threaded(base, particulars_known))
    except Refused:
        return False
    return True


def complete(text: str, most: int = 8) -> list[Ask]:
    """Asks that begin with what is typed so far: sizes of every series, worms, feeds; a bare number with its units."""
    start = _close(text)
    if not start:
        return []
    asks: list[Ask] = []
    for key, ask in _by_key():
        if key.startswith(start) and ask not in asks:
            asks.append(ask)
    if match := re.fullmatch(rf"feed\s+(?:of\s+)?({NUMBER})\s*(.*)", plain(text), re.IGNORECASE | re.ASCII):
        asks = _feeds_of(match[1], match[2])
    elif re.fullmatch(NUMBER, plain(text), re.ASCII):
        fraction = "/" in text
        units = ("in", "in/rev") if fraction else ("mm", "tpi", "mm/rev")
        plainly = [a for unit in units if (a := read(f"{plain(text)} {unit}").ask) is not None]
        asks = asks[: most - len(plainly)] + plainly if fraction else plainly + asks
    return asks[:most]


def _feeds_of(number: str, after: str) -> list[Ask]:
    """Feeds of this number in every unit and direction that what was typed behind it still allows."""
    lines = [f"feed {number} {rest}" for rest in ("mm/rev", "in/rev", "mm/rev across", "in/rev across")]
    asks = [
        ask for line in lines if _close(line).startswith(_close(f"feed{number}{after}")) and (ask := read(line).ask)
    ]
    return asks


_USUAL_WORMS = (
    *((PitchSystem.MODULE, m) for m in ["0.5", "0.8", "1", "1.25", "1.5", "2", "2.5", "3", "4"]),
    *((PitchSystem.DIAMETRAL, p) for p in ["8", "10", "12", "16", "20", "24", "32", "48"]),
    *((PitchSystem.CIRCULAR, p) for p in ["1/8", "3/16", "1/4", "5/16", "3/8", "1/2"]),
)
_USUAL_FEEDS = "0.02 0.05 0.1 0.2"


@cache
def _by_key() -> tuple[tuple[str, Ask], ...]:
    """Every usual ask under the beginnings it may be typed with."""
    sizes: list[tuple[str, Ask]] = [(_close(size.said), _of(size)) for size in every_size()]
    for system, value in _USUAL_WORMS:
        pitch = Pitch(system, Fraction(value))
        ask = ThreadAsk(pitch.circular, worm=pitch)
        name = _close(say(ask))
        sizes += [(key, ask) for key in (name, name.removeprefix("worm"), f"{name.removeprefix('worm')}worm")]
    return (*sizes, *((f"feed{f}", FeedAsk(Fraction(f))) for f in _USUAL_FEEDS.split()))


def _close(text: str) -> str:
    return re.sub(r"[\s-]", "", plain(text)).lower()
