"""Thread against nut along the engagement, as numbers to draw: the error and the clearance magnified alike.

The screw's threads drift against the nut's by the pitch error; the nut settles in the middle, so that the drift is
nothing there and half of what gathers at either end. A flank touches where the drift passes half the axial play.
"""

import math
from dataclasses import dataclass

from valleywind.core.lathe.thread import ThreadAsk
from valleywind.core.lathe.verdict import Measure, Purpose, Verdict

_MAGNIFICATIONS = (1, 2, 5, 10, 20, 50, 100, 200, 500, 1000, 2000)
# Drift and play drawn at most, in pitches: more would hide the form of the thread.
_MOST_DRAWN = 0.3
# Depth of thread in pitches: pointed threads, trapezoidal ones, worms (two modules).
_DEEP, _SQUARE, _WORM = 0.61, 0.5, 2 / math.pi
# A ridge is drawn at least so wide at its crest, in pitches.
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


@dataclass(frozen=True)
class Ridge:
    """Half the width of a ridge at its root and at its crest, as it is to be drawn."""

    root: float
    crest: float


@dataclass(frozen=True)
class NutView:
    """Lengths in mm, true. play: axial, of a screw cut to the middle of its tolerance.

    Drift and play are to be drawn `magnification` times as large as the thread: groove, the nut's, is as wide as half
    a pitch half way up its flanks, and screw, its ridge, narrower by that much of the play. `turns` are those to draw;
    `left_out` of them in the middle are not.
    """

    pitch: float
    depth: float
    engagement: float
    play: float
    magnification: int
    groove: Ridge
    screw: Ridge
    turns: tuple[Turn, ...]
    left_out: int


def nut_view(ask: ThreadAsk, error: float, verdict: Verdict) -> NutView | None:
    """The view for a relative error; None where no nut or wheel is in question."""
    if verdict.job not in (Purpose.NUT, Purpose.WORM) or verdict.measure is Measure.SHARE:
        return None
    pitch, engagement = float(ask.pitch), verdict.engagement
    angle = math.radians(float(ask.included_angle)) / 2
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
    depth = (_WORM if ask.worm else _DEEP if ask.included_angle > 35 else _SQUARE) * pitch
    slope = math.tan(angle) * depth
    groove, screw = (
        Ridge((wide + slope) / 2, max(_LEAST_CREST * pitch, (wide - slope) / 2))
        for wide in (pitch / 2, pitch / 2 - play * magnification)
    )
    left_out = number - len(shown)
    return NutView(pitch, depth, engagement, play, magnification, groove, screw, tuple(turns), left_out)
