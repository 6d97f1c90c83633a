"""What is wanted, read from what people type.

`M14x2`, `M12`, `1.75 mm`, `26 tpi`, `1/2-13 UNC`, `3/8 BSW`, `4 BA`, `Tr20x4`, `lead 12 mm 3 starts`,
`module 1.5 worm`, `feed 0.03 mm/rev`. The reader says which words it understood, which not, and the nearest asks it
would understand; `say` prints what `read` reads back.
"""

import re
from dataclasses import replace
from difflib import get_close_matches
from fractions import Fraction

from valleywind.core.lathe.fits import fit
from valleywind.core.lathe.line import Meaning, Particulars, ThreadLine, particulars
from valleywind.core.lathe.pitches import LETTERED, SERIES_WORDS, SIZE, take_feed, take_thread
from valleywind.core.lathe.series import UNEQUAL_FLANKS, Series, every_size, find, nearest, sizes
from valleywind.core.lathe.thread import OF_ANY_SIZE, Ask, CarriageMove, FeedAsk, PitchUnit, ThreadAsk, say
from valleywind.core.refusal import Refusal
from valleywind.core.teeth import ask_line
from valleywind.core.trains.direction import Hand
from valleywind.core.units import MM_PER_INCH, NUMBER, parse_number, plain, spell

FINEST_PITCH, COARSEST_LEAD = Fraction(1, 100), Fraction(500)
LARGEST_DIAMETER, LONGEST_ENGAGEMENT = Fraction(1000), Fraction(10_000)
FINEST_FEED, COARSEST_FEED = Fraction(1, 2000), Fraction(25)
EXAMPLES = ("M14x2", "M12", "1.75 mm", "26 tpi", "1/2-13 UNC", "3/8 BSW", "4 BA", "module 1.5 worm", "feed 0.05 mm/rev")
MOST_TYPED = 120


Reading = ask_line.Reading[Ask, Meaning]


def read(text: str) -> Reading:
    """Read a line. Never raises: a line that is no ask comes back with a refusal and the nearest readings."""
    # The key that leads to the ask line is no part of an ask.
    text = re.sub(r"^\s*/+", "", text)
    if len(text) > MOST_TYPED:
        why = Refusal("too_long", "ask", text[:20], most=MOST_TYPED)
        return Reading(None, (), (text[:20] + "…",), EXAMPLES[:3], why)
    line = ThreadLine(text)
    if not line.rest:
        return Reading(None, (), (), EXAMPLES[:4], Refusal("empty", "ask", text))
    base: Ask | None = None
    try:
        details = particulars(line)
        base = take_feed(line) or take_thread(line, details.starts or 1)
        line.take_filling()
        if base is None or line.words:
            raise _why_not(text, base, line)
        ask = _fed(base, details) if isinstance(base, FeedAsk) else _threaded(base, details)
        in_range(ask)
    except Refusal as refused:
        near = _with_pitch(refused) or _nearest(text, base)
        return Reading(None, tuple(line.understood), line.words, near, refused.under("ask"))
    return Reading(ask, tuple(line.understood))


def _why_not(text: str, base: Ask | None, line: ThreadLine) -> Refusal:
    if base is None:
        return Refusal("not_understood", "ask", text)
    left = " ".join(line.words)
    if re.search(r"\b(?:mm|tpi|in|inch)\b|\d\"", left):
        return Refusal("mixed_units", "ask", text)
    return Refusal("words_left", "ask", left)


def _threaded(base: ThreadAsk, more: Particulars) -> ThreadAsk:
    """The thread with what else was said of it."""
    if more.across is not None:
        raise Refusal("only_for_a_feed", "ask", "across" if more.across else "along")
    if base.starts > 1 and more.starts not in (None, base.starts):
        raise Refusal("starts_disagree", "ask", f"{more.starts} starts", named=base.starts)
    if base.worm and (more.slide or more.fit_class):
        raise Refusal("not_for_a_worm", "ask", more.fit_class or "lead screw")
    ask = replace(base, hand=more.hand or Hand.RIGHT, starts=more.starts or base.starts, engagement=more.engagement,
                  slide=more.slide, fit_class=more.fit_class, within=more.within)  # fmt: skip
    if more.diameter is not None:
        ask = with_diameter(ask, more.diameter)
    if more.angle is not None:
        ask = with_flanks(ask, more.angle * 2 if ask.worm else more.angle)
    fit(ask.series, ask.fit_class, 1.0, 1.0)  # refuses a class that the series does not have
    return ask


def with_flanks(ask: ThreadAsk, angle: Fraction) -> ThreadAsk:
    """The ask with this included flank angle (degrees). Raises Refusal `flanks_out_of_range`."""
    if not 10 <= angle <= 120:
        raise Refusal("flanks_out_of_range", "flanks", angle, least=10, most=120)
    usual = replace(ask, flanks=None).included_angle
    if ask.series in UNEQUAL_FLANKS and angle != usual:
        load, other = ask.flank_angles
        raise Refusal("flanks_of_its_own", "flanks", angle, load=load, other=other)
    return replace(ask, flanks=None if angle == usual else angle)


def with_diameter(ask: ThreadAsk, diameter: Fraction) -> ThreadAsk:
    """The ask with another diameter (mm): it keeps its flanks, but is no size of a table any more.

    Raises Refusal `pitch_against_diameter` where the pitch is not smaller than the diameter.
    """
    if ask.pitch >= diameter:
        raise Refusal("pitch_against_diameter", "diameter", f"{spell(diameter)} mm")
    if ask.diameter == diameter:
        return ask
    if ask.series in OF_ANY_SIZE:
        size = find(ask.series, spell(diameter), ask.pitch) if ask.series is not Series.METRIC else None
        return replace(ask, diameter=diameter, size=size)
    bare = replace(ask, diameter=diameter, size=None, series=None)
    return bare if ask.flanks is not None or ask.worm else with_flanks(bare, ask.included_angle)


def _fed(base: FeedAsk, more: Particulars) -> FeedAsk:
    """The feed with what else was said of it. Raises Refusal `not_for_a_feed` for what only a thread has."""
    if thread_only := more.thread_only:
        raise Refusal("not_for_a_feed", "ask", thread_only)
    return replace(
        base,
        way=CarriageMove.ACROSS if more.across else CarriageMove.ALONG,
        hand=more.hand or Hand.RIGHT,
        within=more.within,
    )


def in_range(ask: Ask) -> None:
    """Raises Refusal where a figure is beyond what any lathe cuts."""
    if isinstance(ask, FeedAsk):
        if not FINEST_FEED <= ask.travel <= COARSEST_FEED:
            raise Refusal("feed_out_of_range", "ask", say(ask), finest=FINEST_FEED, coarsest=COARSEST_FEED)
        return
    if not ask.pitch >= FINEST_PITCH or ask.lead > COARSEST_LEAD:
        raise Refusal("lead_out_of_range", "ask", say(ask), finest=FINEST_PITCH, coarsest=COARSEST_LEAD)
    if ask.diameter is not None and ask.diameter > LARGEST_DIAMETER:
        raise Refusal("diameter_out_of_range", "ask", f"{spell(ask.diameter)} mm", most=LARGEST_DIAMETER)
    if ask.engagement is not None and ask.engagement > LONGEST_ENGAGEMENT:
        raise Refusal("engagement_out_of_range", "ask", f"{spell(ask.engagement)} mm", most=LONGEST_ENGAGEMENT)


def _near_in_series(typed: str) -> list[str]:
    """Sizes near a size that its series does not have, in that series first, then of the same size in others."""
    words = "|".join(SERIES_WORDS)
    after = re.search(rf"({SIZE})[^A-Za-z]*({words})\b", typed, re.IGNORECASE | re.ASCII)
    before = re.search(rf"\b({'|'.join(LETTERED)})\s*({SIZE})", typed, re.IGNORECASE | re.ASCII)
    series = SERIES_WORDS[after[2].lower()] if after else LETTERED[before[1].lower()] if before else None
    if series is None:
        return []
    try:
        number = parse_number(after[1] if after else before[2] if before else "")
    except Refusal:
        return []
    if series is Series.BA:
        return [s.designation for s in sorted(sizes(series), key=lambda s: abs(int(s.name) - number))[:2]]
    diameter = number if series in LETTERED.values() else number * MM_PER_INCH
    same = [s.designation for s in every_size() if s.diameter == diameter and s.series is not series]
    return [s.designation for s in nearest(series, diameter)] + same


_KNOWN_WORDS = (
    "tpi", "mm", "inch", "thou", "left", "right", "hand", "starts", "lead", "pitch", "over", "feed", "worm", "module",
    "across", "along", "within", "diameter",
)  # fmt: skip


def _with_pitch(refused: Refusal) -> tuple[str, ...]:
    """Threads of a size whose pitch was not said; none where that is not what was wrong."""
    if refused.code != "size_without_pitch":
        return ()
    name = str(refused.quantities["size"])
    known = ((find(series, name), series) for series in (Series.BSW, Series.UNC, Series.BSF, Series.UNF))
    return tuple(f"{name} {series.value}" for size, series in known if size is not None)


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
    if isinstance(base, ThreadAsk) and base.stated is PitchUnit.MM and "tpi" in typed.lower():
        guesses.append(f"{spell(base.pitch)} tpi")
    valid = [g for g in dict.fromkeys(guesses) if g != typed and _whole(g)]
    return tuple(valid[:4]) or EXAMPLES[:4]


def _near_metric(number: str, after: str) -> list[str]:
    """Metric sizes near a diameter: its fine threads where those were meant, then the usual sizes beside it."""
    try:
        diameter = parse_number(number)
    except Refusal:
        return []
    fine = [s.designation for s in sizes(Series.METRIC) if s.diameter == diameter and not s.usual]
    near = [s.designation for s in nearest(Series.METRIC, diameter)]
    own = f"M{spell(diameter)}x{spell(nearest(Series.METRIC, diameter, 1)[0].pitch)}"
    return [*(fine if "fine" in after.lower() else []), *near, own]


def _mend(word: str) -> str:
    close = get_close_matches(word.lower(), _KNOWN_WORDS, 1, 0.6)
    return close[0] if close else word


def _whole(text: str) -> bool:
    """Whether `read` would take it; without `read`'s own search for what is near."""
    line = ThreadLine(text)
    try:
        details = particulars(line)
        base = take_feed(line) or take_thread(line, details.starts or 1)
        if base is None or line.rest:
            return False
        in_range(_fed(base, details) if isinstance(base, FeedAsk) else _threaded(base, details))
    except Refusal:
        return False
    return True
