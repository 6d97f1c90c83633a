"""What a change at each place of a machine weighs: what the places are called, by kind of machine."""

from typing import NamedTuple

from valleywind.core.teeth.said import Station
from valleywind.core.trains.effort import TypedEffort
from valleywind.wording.trains import LATHE_SHAFTS, LEAD_SHAFTS


class Weight(NamedTuple):
    """A place. field: of `TypedEffort`."""

    field: str
    label: str


_QUADRANT, _LEVER = Weight("quadrant", "Move the quadrant"), Weight("lever", "Move a lever")
_HOLDING = Weight("holding", "Change what holds the work")
_OF = {
    Station.LATHE: (
        Weight("first", f"A wheel on the {LATHE_SHAFTS.first}"), Weight("stud", "A wheel on a stud"),
        Weight("last", f"A wheel on the {LATHE_SHAFTS.last}"), _QUADRANT, _LEVER,
        _HOLDING,
    ),
    Station.HOBBER: (
        Weight("index", "In the index box, each change by"), Weight("feed", "In the feed box, each change by"),
        Weight("differential", "In the differential box, each change by"), _QUADRANT,
        Weight("pair", "Change the reversing pair"), Weight("tool", "Change the hob"), _HOLDING,
    ),
    Station.MILL: (
        Weight("first", f"A wheel on the {LEAD_SHAFTS.first}"), Weight("stud", "A wheel on a stud"),
        Weight("last", f"A wheel on the {LEAD_SHAFTS.last}"), _QUADRANT, Weight("pair", "Change the worm pair"),
        Weight("tool", "Change the cutter"), _HOLDING,
    ),
    Station.DIVIDING: (
        Weight("plate", "Change the plate, or turn it over"), Weight("pin", "Set the pin to another circle"),
        Weight("first", "A gear on the spindle"), Weight("stud", "A gear on a stud"),
        Weight("last", "A gear on the plate"), _HOLDING,
    ),
}  # fmt: skip


def weights(station: Station) -> tuple[Weight, ...]:
    """The places of a machine of this kind, in the order in which they are asked for."""
    return _OF.get(station, ())


def usual(field: str) -> str:
    """What stands there before anything is typed."""
    return str(getattr(TypedEffort(), field))
