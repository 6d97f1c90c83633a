"""A wanted thread, worm or feed, and how it is said in one line."""

import math
from collections.abc import Callable
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from functools import cached_property

from valleywind.core.lathe.fits import fit
from valleywind.core.lathe.series import INCLUDED_ANGLE, UNEQUAL_FLANKS, Series, Size, numbered
from valleywind.core.lathe.verdict import (
    ENGAGEMENT,
    SLIDE_LENGTH,
    USUAL_DIAMETER,
    USUAL_WORM_DIAMETER,
    USUAL_WORM_WHEEL,
    Purpose,
    Verdict,
    judge,
    judge_feed,
    judge_slide,
    judge_worm,
    within,
)
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.direction import Hand
from valleywind.core.units import MM_PER_INCH, spell, spell_degrees, spell_inch

OF_ANY_SIZE = (Series.METRIC, Series.TRAPEZOIDAL, Series.BUTTRESS, Series.ROUND, Series.BUTTRESS_INCH)
"""Series whose threads keep their letters with a diameter and a pitch that no table has."""
LARGEST_INCH_SIZE = 6
# Denominators in which an inch size is said: binary fractions and thousandths.
_ON_A_DRAWING = {2**n for n in range(7)} | {5, 10, 20, 25, 40, 50, 100, 125, 200, 250, 500, 1000}


class PitchUnit(StrEnum):
    """How the pitch was given, so that it can be said back the same way."""

    MM = "mm"
    TPI = "tpi"
    INCH = "inch"


class CarriageMove(StrEnum):
    """What the screw moves: the half-nuts cut threads; the apron feeds along the bed or across it."""

    THREAD = "thread"
    ALONG = "along"
    ACROSS = "across"


@dataclass(frozen=True)
class ThreadAsk:
    """A wanted thread; lengths in mm, exact. `diameter` and `engagement` are None where nobody said.

    `series` where it belongs to one; `size` where it was named by its size in the series' table; `flanks` the included
    angle (degrees) where it was stated; `worm` the pitch of the wheel it meshes with, `flanks` then being twice the
    pressure angle; `fit_class` and `within` (relative error) where they were stated.
    """

    pitch: Fraction
    stated: PitchUnit = PitchUnit.MM
    starts: int = 1
    diameter: Fraction | None = None
    series: Series | None = None
    size: Size | None = None
    hand: Hand = Hand.RIGHT
    engagement: Fraction | None = None
    flanks: Fraction | None = None
    worm: Pitch | None = None
    fit_class: str | None = None
    slide: bool = False
    within: Fraction | None = None

    @property
    def way(self) -> CarriageMove:
        return CarriageMove.THREAD

    @property
    def job(self) -> Purpose:
        return Purpose.WORM if self.worm else Purpose.SLIDE if self.slide else Purpose.NUT

    @property
    def included_angle(self) -> Fraction:
        """Included flank angle, degrees: as stated, else the series' own; 40 for a worm, 60 for any other."""
        if self.flanks is not None:
            return self.flanks
        if self.worm:
            return Fraction(40)
        return INCLUDED_ANGLE[self.series] if self.series else INCLUDED_ANGLE[Series.METRIC]

    @property
    def flank_angles(self) -> tuple[Fraction, Fraction]:
        """Angles of both flanks, degrees: of a buttress thread the one that bears the load first."""
        half = self.included_angle / 2
        return UNEQUAL_FLANKS.get(self.series, (half, half)) if self.series else (half, half)

    @property
    def lead(self) -> Fraction:
        """Travel in one turn: starts × pitch."""
        return self.pitch * self.starts

    @property
    def nominal(self) -> Fraction:
        """The diameter, or a usual one for the pitch where none was given."""
        if self.diameter is not None:
            return self.diameter
        return self.worm.module * USUAL_WORM_DIAMETER if self.worm else self.pitch * USUAL_DIAMETER

    @property
    def length(self) -> Fraction:
        """Length of engagement that is judged: as given, else 0.8 d.

        For a worm the length in contact with the usual wheel of 40 teeth, 2 m √(z + 1).
        """
        if self.engagement is not None:
            return self.engagement
        if self.worm:
            return self.worm.module * Fraction(2 * math.sqrt(USUAL_WORM_WHEEL + 1)).limit_denominator(100)
        return ENGAGEMENT * self.nominal

    def judged(self, error: Fraction) -> Verdict:
        """The verdict on a relative error. Raises Refusal `class_not_of_series`."""
        verdict = self._judge(error)
        return verdict if self.within is None else within(verdict, error, self.within)

    @cached_property
    def _judge(self) -> Callable[[Fraction], Verdict]:
        """What judges an error for the job, its figures made once."""
        pitch, diameter, length = float(self.pitch), float(self.nominal), float(self.length)
        if self.worm is not None:
            module, angle = float(self.worm.module), float(self.included_angle)
            return lambda error: judge_worm(error, module, length, angle / 2, diameter)
        if self.slide:
            travel = float(self.engagement) if self.engagement is not None else SLIDE_LENGTH
            return lambda error: judge_slide(error, pitch, travel)
        clearance = fit(self.series, self.fit_class, pitch, diameter)
        load, other = map(float, self.flank_angles)
        return lambda error: judge(error, pitch, diameter, length, (load, other), clearance)


@dataclass(frozen=True)
class FeedAsk:
    """A wanted feed: mm of travel per spindle turn, along the bed or across; `hand` right is toward the headstock."""

    travel: Fraction
    stated: PitchUnit = PitchUnit.MM
    way: CarriageMove = CarriageMove.ALONG
    hand: Hand = Hand.RIGHT
    within: Fraction | None = None

    @property
    def lead(self) -> Fraction:
        return self.travel

    @property
    def job(self) -> Purpose:
        return Purpose.FEED

    def judged(self, error: Fraction) -> Verdict:
        """The verdict on a relative error."""
        verdict = judge_feed(error, float(self.travel))
        return verdict if self.within is None else within(verdict, error, self.within)


Ask = ThreadAsk | FeedAsk


def named(ask: ThreadAsk) -> str | None:
    """The thread by its size, without starts, hand and nut: `M14x2`, `3/8 BSW`; None where it is a bare pitch."""
    if ask.size is not None:
        return ask.size.designation
    if ask.diameter is None or ask.worm is not None:
        return None
    inches = ask.diameter / MM_PER_INCH
    if ask.series is Series.BUTTRESS_INCH:
        return f"{spell_inch(inches)}-{spell(MM_PER_INCH / ask.pitch)} {ask.series}"
    if ask.series in OF_ANY_SIZE:
        inch = ask.stated is PitchUnit.TPI
        return (
            f"{ask.series}{spell(ask.diameter)}x{f'1/{spell(MM_PER_INCH / ask.pitch)}' if inch else spell(ask.pitch)}"
        )
    if ask.stated is PitchUnit.TPI and inches <= LARGEST_INCH_SIZE and inches.denominator in _ON_A_DRAWING:
        # A whole inch that is also the number of a size says that it is inches.
        mark = '"' if inches.denominator == 1 and numbered(int(inches), ask.pitch) else ""
        return f"{spell_inch(inches)}{mark}-{spell(MM_PER_INCH / ask.pitch)}"
    return None


def bare_pitch(ask: ThreadAsk) -> str:
    """The pitch in the way it was given: `2 mm`, `26 tpi`, `0.05 in`; a worm's as `worm module 1.5`."""
    if ask.worm is not None:
        return f"worm {pitch_name(ask.worm)}"
    if ask.stated is PitchUnit.TPI:
        return f"{spell(MM_PER_INCH / ask.pitch)} tpi"
    return _length(ask.pitch, ask.stated)


def pitch_name(pitch: Pitch) -> str:
    """`module 1.5`, `16 DP`, `3/8 in CP`."""
    match pitch.system:
        case PitchSystem.MODULE:
            return f"module {spell(pitch.value)}"
        case PitchSystem.DIAMETRAL:
            return f"{spell(pitch.value)} DP"
        case PitchSystem.CIRCULAR:
            return f"{spell_inch(pitch.value)} in CP"


def _length(mm: Fraction, stated: PitchUnit) -> str:
    return f"{spell(mm / MM_PER_INCH)} in" if stated is PitchUnit.INCH else f"{spell(mm)} mm"


def say(ask: Ask) -> str:
    """The ask in one line that `read` reads back to the same."""
    if isinstance(ask, FeedAsk):
        words = [f"feed {_length(ask.travel, ask.stated)}/rev"]
        words += ["across"] if ask.way is CarriageMove.ACROSS else []
        words += ["left hand"] if ask.hand is Hand.LEFT else []
        return " ".join([*words, *_tolerance(ask.within)])
    words = []
    if size := named(ask):
        words.append(size)
    else:
        pitch = "pitch " if ask.starts > 1 and ask.worm is None and ask.stated is not PitchUnit.TPI else ""
        words.append(f"{pitch}{bare_pitch(ask)}")
        if ask.diameter is not None:
            words.append(f"diameter {spell(ask.diameter)} mm")
    if ask.flanks is not None:
        words.append(spell_degrees(ask.flanks / 2 if ask.worm else ask.flanks))
    if ask.fit_class is not None:
        words.append(ask.fit_class)
    if ask.starts > 1:
        words.append(f"{ask.starts} starts")
    if ask.hand is Hand.LEFT:
        words.append("left hand")
    if ask.engagement is not None:
        words.append(f"over {spell(ask.engagement)} mm")
    if ask.slide:
        words.append("lead screw")
    return " ".join(words + _tolerance(ask.within))


def _tolerance(allowed: Fraction | None) -> list[str]:
    return [] if allowed is None else [f"within {spell(allowed * 100)} %"]
