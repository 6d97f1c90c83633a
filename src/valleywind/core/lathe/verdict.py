"""What an error of lead does to the job: does the nut go on and how far, does the worm mesh, is the feed near enough.

A pitch error gathers along the engagement: δ = |e| L. What that takes up depends on the job: on the flanks of a thread,
which stand at α and β, 2 δ / (tan α + tan β) of the clearance on the pitch diameter; on a worm δ cos(pressure angle) of
the backlash; on a screw that moves a slide the error itself counts; for a feed only the proportion.
"""

import math
from enum import StrEnum
from fractions import Fraction
from typing import NamedTuple

from valleywind.core.lathe.fits import Fit, metric_fit
from valleywind.core.refusal import Refusal

SLIDE_LENGTH = 300.0
SLIDE_ERROR = 10.0
"""A screw that measures or moves a slide: the most that may gather, µm, in 300 mm where no travel is asked for."""
FEED_AS_ASKED, FEED_ABOUT = Fraction(3, 100), Fraction(10, 100)
"""A feed is as asked within 3 %, and near enough for most work within 10 %."""
# A nut that holds fewer turns than this before it binds does not start at all.
_FEWEST_TURNS = 1.5
# Nominal diameter taken when only a pitch is asked for, in pitches; M6 to M30 coarse lie between 6 and 8.6.
USUAL_DIAMETER = 7
ENGAGEMENT = Fraction(4, 5)
"""Usual engagement of a nut, in diameters."""
USUAL_WORM_DIAMETER, USUAL_WORM_WHEEL = 10, 40
"""A worm's pitch diameter in modules, and the teeth of the wheel it drives, where nobody said."""


class Purpose(StrEnum):
    """What the thread or feed is for, which decides what an error means."""

    NUT = "nut"
    SLIDE = "slide"
    WORM = "worm"
    FEED = "feed"


class Goes(StrEnum):
    """How well it does for the job, best first."""

    FREELY = "freely"
    MID_TOLERANCE = "mid_tolerance"
    PARTLY = "partly"
    NOT = "not"

    @property
    def rank(self) -> int:
        return _RANKS[self]


_RANKS = {goes: rank for rank, goes in enumerate(Goes)}


class Measure(StrEnum):
    """What an error is weighed against: µm of pitch-diameter clearance, of travel, of backlash; or the proportion."""

    CLEARANCE = "clearance"
    TRAVEL = "travel"
    BACKLASH = "backlash"
    SHARE = "share"


class Verdict(NamedTuple):
    """What the error does over `engagement` mm. Gathered errors in µm, lengths in mm.

    takes: µm of the measure taken up for each µm gathered. taken_up, freely, at_most, in the `measure`: what the error
    takes, up to where it runs free, up to where it goes with care. binds_after: turns of engagement after which
    it binds, None when that is never or no question. longest, longest_freely: engagement that still goes with care, and
    runs free; None when unlimited.
    """

    job: Purpose
    goes: Goes
    engagement: float
    gathered: float
    measure: Measure
    takes: float
    taken_up: float
    freely: float
    at_most: float
    fit: Fit | None
    binds_after: float | None
    longest: float | None
    longest_freely: float | None
    per_10_mm: float
    per_inch: float
    per_300_mm: float

    @property
    def serves_a_slide(self) -> bool:
        """Good enough for a screw that measures or moves a slide: at most 0.01 mm in 300 mm."""
        return self.per_300_mm <= SLIDE_ERROR

    @property
    def good(self) -> bool:
        """It does for the job, if need be with care."""
        return self.goes.rank <= Goes.MID_TOLERANCE.rank

    @property
    def hopeless(self) -> bool:
        """It does not do at all."""
        return self.goes is Goes.NOT

    @property
    def rank(self) -> int:
        """0 for good without condition, larger for less good."""
        return self.goes.rank


def judge(
    relative_error: Fraction | float,
    pitch: float,
    diameter: float,
    engagement: float,
    flanks: tuple[float, float] = (30.0, 30.0),
    fit: Fit | None = None,
) -> Verdict:
    """The verdict on a nut over an engagement; lengths in mm, fit 6g where None. flanks: the angles of both flanks
    against the plane across the axis, degrees.

    Raises Refusal `not_positive` for a pitch, diameter or engagement that is not above zero.
    """
    for field, value in (("pitch", pitch), ("diameter", diameter), ("engagement", engagement)):
        if not value > 0:
            raise Refusal("not_positive", field, value)
    fit = fit or metric_fit("6g", pitch, diameter)
    takes = 2 / sum(math.tan(math.radians(angle)) for angle in flanks)
    return _gathering(Purpose.NUT, Measure.CLEARANCE, relative_error, pitch, engagement, takes,
                      fit.allowance, fit.mid_tolerance, fit)  # fmt: skip


def judge_worm(
    relative_error: Fraction | float,
    module: float,
    contact: float,
    pressure_angle: float = 20.0,
    diameter: float | None = None,
) -> Verdict:
    """The verdict on a worm over the length in contact with its wheel (mm); pressure angle in degrees.

    Shares its load over the teeth up to the pitch deviation of grade 9, f_pt = 4 (0.3 (m + 0.4 √d) + 4) µm of the usual
    wheel (ISO 1328-1:1995); turns without binding up to the least backlash
    ⅔ (0.06 + 0.0005 a + 0.03 m) mm (ISO/TR 10064-2).
    """
    wheel = USUAL_WORM_WHEEL * module
    centres = (wheel + (diameter if diameter is not None else USUAL_WORM_DIAMETER * module)) / 2
    shares = 4 * (0.3 * (module + 0.4 * math.sqrt(wheel)) + 4)
    backlash = 2000 / 3 * (0.06 + 0.0005 * centres + 0.03 * module)
    takes = math.cos(math.radians(pressure_angle))
    return _gathering(Purpose.WORM, Measure.BACKLASH, relative_error, math.pi * module, contact, takes,
                      min(shares, backlash), backlash)  # fmt: skip


def judge_slide(relative_error: Fraction | float, pitch: float, travel: float = SLIDE_LENGTH) -> Verdict:
    """The verdict on a screw that measures or moves a slide over this much travel, whatever its nut; lengths in mm."""
    verdict = _gathering(Purpose.SLIDE, Measure.TRAVEL, relative_error, pitch, travel, 1.0, SLIDE_ERROR, SLIDE_ERROR)
    goes = Goes.FREELY if verdict.taken_up <= SLIDE_ERROR else Goes.NOT
    return verdict._replace(goes=goes, binds_after=None)


def judge_feed(relative_error: Fraction | float, travel: float) -> Verdict:
    """The verdict on a feed, where about is near enough; travel in mm per turn."""
    verdict = _gathering(Purpose.FEED, Measure.SHARE, relative_error, travel, 10.0, 1.0, 0.0, 0.0)
    return _by_share(verdict, relative_error, float(FEED_AS_ASKED), float(FEED_ABOUT))


def within(verdict: Verdict, relative_error: Fraction | float, allowed: Fraction) -> Verdict:
    """The same verdict under a tolerance that was stated: an error within `allowed`, relative, will do."""
    return _by_share(verdict, relative_error, float(allowed), float(allowed))


def _by_share(verdict: Verdict, relative_error: Fraction | float, freely: float, at_most: float) -> Verdict:
    share = abs(float(relative_error))
    goes = Goes.FREELY if share <= freely else Goes.MID_TOLERANCE if share <= at_most else Goes.NOT
    return verdict._replace(
        goes=goes, measure=Measure.SHARE, taken_up=share, freely=freely, at_most=at_most, fit=None,
        binds_after=None, longest=None, longest_freely=None,
    )  # fmt: skip


def _gathering(
    job: Purpose,
    measure: Measure,
    relative_error: Fraction | float,
    pitch: float,
    engagement: float,
    takes: float,
    freely: float,
    at_most: float,
    fit: Fit | None = None,
) -> Verdict:
    """An error that gathers along the engagement and takes up `takes` µm for each µm gathered."""
    error = abs(float(relative_error))
    gathered = error * engagement * 1000
    taken_up = gathered * takes
    rate = takes * error * 1000
    longest, longest_freely = (at_most / rate, freely / rate) if rate else (None, None)
    turns = longest / pitch if longest is not None else None
    if taken_up <= freely:
        goes = Goes.FREELY
    elif taken_up <= at_most:
        goes = Goes.MID_TOLERANCE
    else:
        goes = Goes.PARTLY if turns is not None and turns >= _FEWEST_TURNS else Goes.NOT
    return Verdict(
        job, goes, engagement, gathered, measure, takes, taken_up, freely, at_most, fit, turns, longest, longest_freely,
        per_10_mm=error * 10_000, per_inch=error * 25_400, per_300_mm=error * SLIDE_LENGTH * 1000,
    )  # fmt: skip
