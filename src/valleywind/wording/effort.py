"""What a change at each place of a machine weighs: what the places are called that several kinds of machine have."""

from typing import NamedTuple

from valleywind.core.trains.effort import TypedEffort
from valleywind.wording.trains import ShaftNames


class Weight(NamedTuple):
    """A place. field: of `TypedEffort`."""

    field: str
    label: str


QUADRANT, HOLDING = Weight("quadrant", "Move the quadrant"), Weight("holding", "Change what holds the work")


def of_train(shafts: ShaftNames) -> tuple[Weight, ...]:
    """The wheels of a train on one quadrant."""
    return (
        Weight("first", f"A wheel on the {shafts.first}"), Weight("stud", "A wheel on a stud"),
        Weight("last", f"A wheel on the {shafts.last}"), QUADRANT,
    )  # fmt: skip


def usual(field: str) -> str:
    """What stands there before anything is typed."""
    return str(getattr(TypedEffort(), field))
