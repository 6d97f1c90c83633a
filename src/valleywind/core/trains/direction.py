"""Hand: which way a train turns its last shaft, and what to do when that is the wrong way.

Turning senses are as seen from the gear end of the machine.
"""

from dataclasses import dataclass
from enum import StrEnum
from functools import lru_cache


class Sense(StrEnum):
    CLOCKWISE = "clockwise"
    ANTICLOCKWISE = "anticlockwise"

    @property
    def other(self) -> "Sense":
        return Sense.ANTICLOCKWISE if self is Sense.CLOCKWISE else Sense.CLOCKWISE


class Hand(StrEnum):
    RIGHT = "right"
    LEFT = "left"

    @property
    def other(self) -> "Hand":
        return Hand.LEFT if self is Hand.RIGHT else Hand.RIGHT


def hand_of(word: str) -> Hand:
    """The hand that a word as `left`, `LH`, `right-hand` says."""
    return Hand.LEFT if word.lower().startswith("l") else Hand.RIGHT


@dataclass(frozen=True)
class Drive:
    """How a machine drives its first shaft, with the work turning forward.

    first_shaft: its sense with the lever forward, or without lever.
    right_hand: the sense of the last shaft that cuts a right-hand thread.
    reverse_lever: whether a lever (a tumbler) can turn the first shaft the other way.
    """

    first_shaft: Sense
    right_hand: Sense
    reverse_lever: bool


@dataclass(frozen=True)
class HandAdvice:
    """What gives the wanted hand. lever: True forward, False reverse, None where there is none to set. first_shaft: its
    sense, None where it is not on record. known: False where it is not on record which way the work goes, so that it
    has to be tried."""

    right: bool
    lever: bool | None
    first_shaft: Sense | None
    known: bool = True


@lru_cache(maxsize=256)
def advise(meshes: int, wanted: Hand | None, drive: Drive | None) -> HandAdvice:
    """Every mesh turns the sense round once: does a train of this many meshes cut the wanted hand? With None it is not
    known what the hand does, and any train may do; without a drive on record likewise."""
    if wanted is None or drive is None:
        return HandAdvice(True, None, drive.first_shaft if drive else None, known=False)
    last = drive.right_hand if wanted is Hand.RIGHT else drive.right_hand.other
    needed_first = last if meshes % 2 == 0 else last.other
    agrees = needed_first is drive.first_shaft
    if drive.reverse_lever:
        return HandAdvice(True, agrees, needed_first)
    return HandAdvice(agrees, None, drive.first_shaft)
