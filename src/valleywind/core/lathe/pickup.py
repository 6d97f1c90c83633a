"""Picking a thread up again: where the half-nuts may close so that the tool falls into its groove.

They may close where thread and lead screw agree: travel between agreements is the least common multiple of the lead
that is cut and the screw's. Lengths in mm, exact.
"""

import math
from collections.abc import Sequence
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.lathe.machine import Dial

# A carriage is wound back no farther than this to close the half-nuts again, mm.
_FARTHEST = Fraction(320)


class Close(StrEnum):
    """Where the half-nuts may close."""

    ANYWHERE = "anywhere"
    MARKS = "marks"
    EVERY = "every"
    KEEP_CLOSED = "keep_closed"


@dataclass(frozen=True)
class PickUp:
    """How a thread is picked up. travel: carriage travel between agreements; spindle_turns and screw_turns: turns in
    between. dial and its serving marks, numbered from 1, where a dial shows them."""

    how: Close
    travel: Fraction
    spindle_turns: int
    screw_turns: int
    dial: Dial | None = None
    marks: tuple[int, ...] = ()


def agreement(lead: Fraction, screw_lead: Fraction) -> Fraction:
    """The least travel that is a whole number of both leads."""
    one, other = lead.numerator * screw_lead.denominator, screw_lead.numerator * lead.denominator
    return Fraction(math.lcm(one, other), lead.denominator * screw_lead.denominator)


def pick_up(lead: Fraction, screw_lead: Fraction, dials: Sequence[Dial] = ()) -> PickUp:
    """How to pick up a thread of this lead, as the train really cuts it."""
    travel = agreement(lead, screw_lead)
    turns = int(travel / lead), int(travel / screw_lead)
    if travel == screw_lead:
        return PickUp(Close.ANYWHERE, travel, *turns)
    serving = [(dial, serving_marks(dial, travel, screw_lead)) for dial in dials]
    dial, marks = max(serving, key=lambda one: len(one[1]), default=(None, ()))
    if marks:
        return PickUp(Close.MARKS, travel, *turns, dial, marks)
    return PickUp(Close.EVERY if travel <= _FARTHEST else Close.KEEP_CLOSED, travel, *turns)


def serving_marks(dial: Dial, travel: Fraction, screw_lead: Fraction) -> tuple[int, ...]:
    """Marks of a dial at which the half-nuts may close on every turn of it, if they first closed at mark 1."""
    round_the_dial = dial.teeth * screw_lead
    if (round_the_dial / travel).denominator != 1:
        return ()
    return tuple(
        mark + 1 for mark in range(dial.marks) if (round_the_dial * mark / dial.marks / travel).denominator == 1
    )


@dataclass(frozen=True)
class NextStart:
    """From one start of a thread to the next. teeth: how far to turn the first driver, freed from its mate, with the
    spindle; None where that is no whole number, and the top slide moves by `pitch` instead: of the thread as the train
    cuts it."""

    starts: int
    driver: int
    teeth: int | None
    pitch: Fraction


def next_start(starts: int, pitch: Fraction, driver: int, first_ratio: Fraction) -> NextStart | None:
    """How to come to the next start: z R / starts teeth of the first driver where that is whole; None for one start."""
    if starts == 1:
        return None
    teeth = driver * first_ratio / starts
    return NextStart(starts, driver, int(teeth) if teeth.denominator == 1 else None, pitch)
