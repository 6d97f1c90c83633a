"""A wanted thread, and how it is said in one line."""

from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from valleywind.core.lathe.series import INCLUDED_ANGLE, Series, Size
from valleywind.core.lathe.verdict import ENGAGEMENT, USUAL_DIAMETER
from valleywind.core.refusal import Refused
from valleywind.core.trains.direction import Hand
from valleywind.core.units import MM_PER_INCH, Length, spell, spell_inch


class Stated(StrEnum):
    """How the pitch was given, so that it can be said back the same way."""

    MM = "mm"
    TPI = "tpi"
    INCH = "inch"


@dataclass(frozen=True)
class ThreadAsk:
    """A wanted thread; lengths in mm, exact. `diameter` and `engagement` are None where nobody said.

    `series` where it belongs to one; `size` where it was named by its size in the series' table.
    """

    pitch: Fraction
    stated: Stated = Stated.MM
    starts: int = 1
    diameter: Fraction | None = None
    series: Series | None = None
    size: Size | None = None
    hand: Hand = Hand.RIGHT
    engagement: Fraction | None = None

    @property
    def included_angle(self) -> Fraction:
        """Included flank angle, degrees; 60 where no series says otherwise."""
        return INCLUDED_ANGLE[self.series] if self.series else INCLUDED_ANGLE[Series.METRIC]

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


def with_lengths(ask: ThreadAsk, diameter: Length | None, engagement: Length | None) -> ThreadAsk:
    """The ask with a diameter or a length of engagement from fields beside the line; a stated one gives way.

    Raises Refused `pitch_against_diameter` where the pitch is not smaller than the diameter.
    """
    if diameter is not None:
        if ask.pitch >= diameter.mm:
            raise Refused("pitch_against_diameter", "diameter", spell(diameter.mm))
        ask = replace(ask, diameter=diameter.mm, size=None)
    return ask if engagement is None else replace(ask, engagement=engagement.mm)


def named(ask: ThreadAsk) -> str | None:
    """The thread by its size, without starts, hand and nut: `M14x2`, `3/8 BSW`; None where it is a bare pitch."""
    if ask.size is not None:
        return ask.size.said
    if ask.diameter is None:
        return None
    if ask.series in (Series.METRIC, Series.TRAPEZOIDAL):
        return f"{ask.series}{spell(ask.diameter)}x{spell(ask.pitch)}"
    return f"{spell_inch(ask.diameter / MM_PER_INCH)}-{spell(MM_PER_INCH / ask.pitch)}"


def over(ask: ThreadAsk) -> str | None:
    """The stated length of the nut as `read` takes it: `over 30 mm`; None where nobody said."""
    return None if ask.engagement is None else f"over {spell(ask.engagement)} mm"


def say(ask: ThreadAsk) -> str:
    """The ask in one line that `read` reads back to the same."""
    per_inch = MM_PER_INCH / ask.pitch
    words: list[str] = []
    if size := named(ask):
        words.append(size)
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
    if nut := over(ask):
        words.append(nut)
    return " ".join(words)
