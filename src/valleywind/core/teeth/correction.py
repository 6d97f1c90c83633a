"""At the machine: how deep now, and whether the blank runs true enough. Lengths in mm."""

import math
from dataclasses import dataclass
from enum import StrEnum

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.geometry import pin_angle
from valleywind.core.teeth.sizes import BACKLASH, Sizes

# Shares of the backlash that runout may take away on the tight side.
_GOOD, _RUNS = 0.5, 1.0


@dataclass(frozen=True)
class Plunge:
    """From touching the tip. depth: the whole plunge for the blank as it was turned; more: still to go after a
    measured tooth, to the middle of what the backlash asks for, below nought where it is too deep already; None
    before anything was measured."""

    depth: float
    more: float | None = None
    too_thin: float = 0.0


def plunge(wanted: Sizes, blank: float | None = None, span: float | None = None, pins: float | None = None) -> Plunge:
    """How deep: blank is its diameter as turned; span and pins what was measured over the wheel's k teeth or pins.

    A blank δ small on its diameter is plunged δ/2 less. Further plunge from a measured excess: ΔW/(2 sin α) of a span,
    ΔM sin φ/(2 sin α) over pins. Raises Refusal `not_positive`, `blank_too_small` (blank).
    """
    depth = wanted.depth
    if blank is not None:
        if blank <= 0:
            raise Refusal("not_positive", "blank", blank)
        depth -= (wanted.tip_diameter - blank) / 2
        if depth <= 0:
            raise Refusal("blank_too_small", "blank", blank, wanted=wanted.tip_diameter)
    sine = math.sin(math.radians(wanted.family.pressure_angle))
    more, thin = None, 0.0
    if span is not None:
        more, thin = _more(span, wanted.span.low, wanted.span.high, 1 / (2 * sine), "span")
    elif pins is not None:
        phi = pin_angle(wanted.teeth, wanted.pin, wanted.family, wanted.shift)
        more, thin = _more(pins, wanted.pins.low, wanted.pins.high, math.sin(phi) / (2 * sine), "pins")
    return Plunge(depth, more, thin)


def _more(measured: float, low: float, high: float, per_excess: float, field: str) -> tuple[float, float]:
    if measured <= 0:
        raise Refusal("not_positive", field, measured)
    return (measured - (low + high) / 2) * per_excess, max(0.0, low - measured)


class Running(StrEnum):
    """What a runout means for the mesh."""

    GOOD = "good"
    TIGHT_AND_SLACK = "tight_and_slack"
    RESEAT = "reseat"


@dataclass(frozen=True)
class Runout:
    """swing: how much the backlash swings either side; backlash: what is intended, both mm."""

    running: Running
    swing: float
    backlash: float


def true_enough(module: float, pressure_angle: float) -> float:
    """The most that a blank or arbor may run out, total reading, and still be good, mm."""
    return _GOOD * sum(BACKLASH) / 2 * module / math.tan(math.radians(pressure_angle))


def runout(reading: float, module: float, pressure_angle: float) -> Runout:
    """Total indicator reading t of a blank or arbor: the backlash swings by t tan α either side."""
    if reading < 0:
        raise Refusal("not_positive", "runout", reading)
    swing, backlash = reading * math.tan(math.radians(pressure_angle)), sum(BACKLASH) / 2 * module
    share = swing / backlash
    running = Running.GOOD if share <= _GOOD else Running.TIGHT_AND_SLACK if share <= _RUNS else Running.RESEAT
    return Runout(running, swing, backlash)
