"""Thread against nut along the engagement, as numbers to draw: the error and the clearance magnified alike.

The screw's threads drift against the nut's by the pitch error; the nut settles in the middle, so that the drift is
nothing there and half of what gathers at either end. A flank touches where the drift passes half the axial play.
"""

import math
from dataclasses import dataclass

from valleywind.core.lathe.series import Series
from valleywind.core.lathe.thread import ThreadAsk
from valleywind.core.lathe.verdict import Measure, Purpose, Verdict

_MAGNIFICATIONS = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000)
# Drift and play drawn at most, in pitches: more would hide the form of the thread.
_MOST_DRAWN = 0.3
# Depth of thread in pitches: pointed threads, trapezoidal ones, worms (two modules), buttress threads of DIN 513-1 and
# ASME B1.9, round threads of DIN 405-1.
_DEEP, _SQUARE, _WORM = 0.61, 0.5, 2 / math.pi
_OF_SERIES = {Series.BUTTRESS: 0.75, Series.BUTTRESS_INCH: 0.6, Series.ROUND: 0.5}
# DIN 405-1, heights from half way up the flanks, in pitches: the screw's crest and root, the nut's root and its crest.
_ROUND_SCREW, _ROUND_NUT = (0.25, -0.25), (0.3, -0.2)
# Points along one side of a rounded ridge.
_POINTS = 24
_ROUND_FLANK = math.radians(15)
# Half the width that a ridge is drawn with at least at its crest, in pitches.
_LEAST_CREST = 0.04
# Turns drawn at either end of a long nut.
_ALL, _AT_EACH_END = 13, 6


@dataclass(frozen=True)
class Turn:
    """One thread in the nut, counted from the end where the screw enters. drift: of the screw's thread against the
    nut's, mm, true; touches: the drift is more than the play allows."""

    number: int
    drift: float
    touches: bool


Outline = tuple[tuple[float, float], ...]
"""A ridge from root to root: x along the axis from its middle, y up from half way up its flanks; mm."""


@dataclass(frozen=True)
class NutView:
    """Lengths in mm, true. play: axial, of a screw cut to the middle of its tolerance.

    Drift and play are to be drawn `magnification` times as large as the thread: groove, the nut's, is as wide as half
    a pitch half way up its flanks, and screw, its ridge, narrower by that much of the play: `flank` from its middle to
    either side. `turns` are those to draw; `left_out` of them in the middle are not.
    """

    pitch: float
    depth: float
    engagement: float
    play: float
    magnification: int
    groove: Outline
    screw: Outline
    flank: float
    turns: tuple[Turn, ...]
    left_out: int


def nut_view(ask: ThreadAsk, error: float, verdict: Verdict) -> NutView | None:
    """The view for a relative error; None where no nut or wheel is in question."""
    if verdict.job not in (Purpose.NUT, Purpose.WORM) or verdict.measure is Measure.SHARE:
        return None
    pitch, engagement = float(ask.pitch), verdict.engagement
    play = verdict.at_most / verdict.takes / 1000
    number = max(1, int(engagement / pitch + 0.5))
    shown = [*range(number)] if number <= _ALL else [*range(_AT_EACH_END), *range(number - _AT_EACH_END, number)]
    turns = []
    # The outermost threads stand at the ends of the engagement, as the verdict reckons it.
    binds = verdict.taken_up > verdict.at_most
    for n in shown:
        drift = error * (n / (number - 1) - 0.5 if number > 1 else 0.5) * engagement
        outermost = n in (0, number - 1)
        turns.append(Turn(n + 1, drift, binds if outermost else abs(drift) > play / 2))
    largest = max(play, *(abs(t.drift) for t in turns))
    magnification = max((m for m in _MAGNIFICATIONS if m * largest <= _MOST_DRAWN * pitch), default=1)
    usual = _WORM if ask.worm else _DEEP if ask.included_angle > 35 else _SQUARE
    depth = (_OF_SERIES.get(ask.series, usual) if ask.series else usual) * pitch
    room = play * magnification / 2
    if ask.series is Series.ROUND:
        groove, screw = _rounded(pitch, _ROUND_NUT, 0.0), _rounded(pitch, _ROUND_SCREW, room)
    else:
        slopes = tuple(math.tan(math.radians(float(angle))) for angle in ask.flank_angles)
        groove, screw = (_straight(pitch, depth, slopes, less) for less in (0.0, room))
    left_out = number - len(shown)
    flank = pitch / 4 - room
    return NutView(pitch, depth, engagement, play, magnification, groove, screw, flank, tuple(turns), left_out)


def _straight(pitch: float, depth: float, slopes: tuple[float, ...], less: float) -> Outline:
    """A ridge with straight flanks of these slopes, left and right, each standing back by `less`."""
    half, up = pitch / 4 - less, depth / 2
    left, right = (half - slope * up for slope in slopes)
    if left + right < 2 * _LEAST_CREST * pitch:
        off = (right - left) / 2
        left, right = _LEAST_CREST * pitch - off, _LEAST_CREST * pitch + off
    return ((-half - slopes[0] * up, -up), (-left, up), (right, up), (half + slopes[1] * up, -up))


def _rounded(pitch: float, ends: tuple[float, float], less: float) -> Outline:
    """A ridge of a round thread, crest and root at these heights (pitches), its sides standing back by `less` (mm)."""
    crest, root = ends
    side = []
    for n in range(_POINTS + 1):
        y = crest + (root - crest) * (1 - math.cos(math.pi * n / _POINTS)) / 2
        if (half := _half_width(y, crest, root) * pitch - less) >= 0:
            side.append((half, y * pitch))
    return (*((-x, y) for x, y in reversed(side)), *side)


def round_radius(height: float) -> float:
    """Radius of the crest of a 30° round thread that ends so high above the middle of its flanks; both in pitches."""
    return (math.cos(_ROUND_FLANK) / 4 - height * math.sin(_ROUND_FLANK)) / (1 - math.sin(_ROUND_FLANK))


def _half_width(y: float, crest: float, root: float) -> float:
    """Half the width of a round ridge at the height y, all in pitches: arc of the crest, flank, arc of the root."""
    top, bottom = round_radius(crest), round_radius(-root)
    if y > (centre := crest - top) + top * math.sin(_ROUND_FLANK):
        return math.sqrt(max(0.0, top**2 - (y - centre) ** 2))
    if y < (centre := root + bottom) - bottom * math.sin(_ROUND_FLANK):
        return 0.5 - math.sqrt(max(0.0, bottom**2 - (y - centre) ** 2))
    return 0.25 - y * math.tan(_ROUND_FLANK)
