"""How a line that is typed could go on."""

import re
from fractions import Fraction
from functools import cache

from valleywind.core.lathe.ask import read
from valleywind.core.lathe.pitches import of_size
from valleywind.core.lathe.series import every_size
from valleywind.core.lathe.thread import Ask, FeedAsk, ThreadAsk, say
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.units import NUMBER, plain


def complete(text: str, most: int = 8) -> list[Ask]:
    """Asks that begin with what is typed so far: sizes of every series, worms, feeds; a bare number with its units."""
    start = _close(text)
    if not start:
        return []
    asks: list[Ask] = []
    for _, ask in sorted(
        ((key, ask) for key, ask in _by_key() if key.startswith(start)), key=lambda k: _further(k[0], start)
    ):
        if ask not in asks:
            asks.append(ask)
    if not asks and start.isalpha():
        # The name of a series: its sizes. Those of `BA` grow as their number falls.
        asks = list(dict.fromkeys(ask for key, ask in _by_key() if key.endswith(start)))
        asks = asks[::-1] if start == "ba" else asks
    if match := re.fullmatch(rf"feed\s+(?:of\s+)?({NUMBER})\s*(.*)", plain(text), re.IGNORECASE | re.ASCII):
        asks = _feeds_of(match[1], match[2])
    elif re.fullmatch(NUMBER, plain(text), re.ASCII):
        fraction = "/" in text
        units = ("in", "in/rev") if fraction else ("mm", "tpi", "mm/rev")
        plainly = [a for unit in units if (a := read(f"{plain(text)} {unit}").ask) is not None]
        asks = asks[: most - len(plainly)] + plainly if fraction else plainly + asks
    return asks[:most]


def _further(key: str, start: str) -> int:
    """Where a size stands among those that begin alike: `M1` itself, then M10 to M18, then the rest."""
    if key == start:
        return 0
    return 1 if start[-1:].isdigit() and key[len(start)].isdigit() and "x" not in key else 2


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
    sizes: list[tuple[str, Ask]] = [(_close(size.designation), of_size(size)) for size in every_size()]
    for system, value in _USUAL_WORMS:
        pitch = Pitch(system, Fraction(value))
        ask = ThreadAsk(pitch.circular, worm=pitch)
        name = _close(say(ask))
        sizes += [(key, ask) for key in (name, name.removeprefix("worm"), f"{name.removeprefix('worm')}worm")]
    return (*sizes, *((f"feed{f}", FeedAsk(Fraction(f))) for f in _USUAL_FEEDS.split()))


def _close(text: str) -> str:
    return re.sub(r"[\s-]", "", plain(text)).lower()
