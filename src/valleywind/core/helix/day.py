"""Helices of a day on one mill: the trains that will do for each, and what has to stand where for them."""

from collections.abc import Hashable, Sequence
from dataclasses import replace
from fractions import Fraction

from valleywind.core.cutting.wheel import USUAL_ANGLE
from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.lead import formative
from valleywind.core.helix.plan import LeadCandidate, LeadDrive, LeadSetUp, plan
from valleywind.core.teeth.cutters import Cutter, serving
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY
from valleywind.core.trains.days_work import Choices, WayOfMaking
from valleywind.core.trains.effort import Place, What, stands_of
from valleywind.core.trains.model import Stock

# Trains of each that are chosen from.
_TRAINS = 100


def choices(
    ask: HelixAsk, drive: LeadDrive, stock: Stock, on: LeadSetUp | None, cutters: Sequence[Cutter]
) -> Choices[LeadCandidate]:
    """The trains for one helix that do best for it. Raises Refusal as `plan` does."""
    candidates = plan(ask, drive, stock, on, best=_TRAINS).candidates
    good = [c for c in candidates if c.good]
    rank = min((c.verdict.rank for c in good), default=0)
    tool = cutter_for(ask, cutters)
    ways = [WayOfMaking(c, stands(LeadSetUp(c.train, c.setting), tool)) for c in good if c.verdict.rank == rank]
    return Choices(ways, next(iter(candidates), None), len(candidates) < _TRAINS)


def cutter_for(ask: HelixAsk, cutters: Sequence[Cutter]) -> Hashable | None:
    """What tells the cutter of a wheel from others; None for grooves, whose cutter nobody said."""
    if ask.pitch is None or ask.teeth is None or ask.degrees is None:
        return None
    angle = ask.angle or USUAL_ANGLE
    family = replace(UNKNOWN_FAMILY, pitch=ask.pitch, pressure_angle=angle)
    count = int(formative(ask.teeth, Fraction(ask.degrees)))
    held = serving(cutters, family, count)
    return held[0] if held else (ask.pitch, angle, count)


def stands(set_up: LeadSetUp, tool: Hashable | None = None) -> dict[Place, Hashable]:
    """What stands where on a mill with this set-up, and the cutter where it is known."""
    there = stands_of(set_up.train) | {Place(What.PAIR): set_up.pair}
    return there if tool is None else there | {Place(What.TOOL): tool}
