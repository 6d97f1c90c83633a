"""Picking up a thread, in words."""

from valleywind.core.lathe.machine import Dial
from valleywind.core.lathe.pickup import Close, NextStart, PickUp
from valleywind.wording.numbers import Units, a, count, length, listed, rough_length, short_length


def head(pick_up: PickUp) -> str:
    """A few words: `Close anywhere`, `Close at marks 1, 3, 5 or 7`."""
    match pick_up.how:
        case Close.ANYWHERE:
            return "Close the half-nuts anywhere"
        case Close.MARKS:
            return f"Close at {marks(pick_up.marks, pick_up.dial)}"
        case Close.EVERY:
            return f"Close every {count(pick_up.screw_turns, 'turn')} of the screw"
        case Close.KEEP_CLOSED:
            return "Keep the half-nuts closed"


def text(pick_up: PickUp, units: Units) -> str:
    """What to do between passes."""
    travel = short_length(pick_up.travel, units)
    match pick_up.how:
        case Close.ANYWHERE:
            return "Half-nuts may close anywhere: every turn of the screw is a whole number of threads."
        case Close.MARKS:
            teeth = pick_up.dial.teeth if pick_up.dial else ""
            return f"Close the half-nuts at {marks(pick_up.marks, pick_up.dial)} of the {teeth}-tooth dial."
        case Close.EVERY:
            turns = count(pick_up.screw_turns, "turn")
            return (
                f"Thread and screw agree every **{travel}** of carriage travel, {turns} of the screw. Return "
                "the carriage by a multiple of that before the half-nuts close, or keep them closed and reverse."
            )
        case Close.KEEP_CLOSED:
            agree = rough_length(float(pick_up.travel), units)
            return (
                f"Keep the half-nuts closed: thread and screw agree only every {agree}. Cut a relief to run out into, "
                "draw the tool back first, then reverse the spindle."
            )


def marks(serving: tuple[int, ...], dial: Dial | None) -> str:
    """`any mark`, `mark 1`, `marks 1, 3, 5 or 7`."""
    if dial is not None and len(serving) == dial.marks:
        return "any mark"
    return f"mark{'s' if len(serving) > 1 else ''} {listed([str(m) for m in serving], 'or')}"


def next_start_text(next_start: NextStart, units: Units) -> str:
    """How to come to the next of several starts."""
    if next_start.teeth is None:
        return (
            f"Next start: move the top slide by **{length(next_start.pitch, units, 3)}**, set parallel to the bed; "
            f"{a(next_start.driver)} in first place has no whole number of teeth for {next_start.starts} starts."
        )
    return (
        f"Next start: chalk a tooth of the **{next_start.driver}** and its gap, part the wheels, turn the spindle "
        f"until **{next_start.teeth}** teeth have passed, mesh again."
    )
