"""What it takes to change a machine from one set-up to the next: its places, and what a change at each weighs.

A wheel at a place that is easy to reach weighs 1. A place that is a pain to reach weighs more.
"""

from collections.abc import Hashable, Mapping
from dataclasses import dataclass, fields
from enum import StrEnum
from fractions import Fraction

from valleywind.core.record import read_fields, typed_field
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Train
from valleywind.core.units import parse_number

HEAVIEST = 100


class What(StrEnum):
    """What is changed at a place. QUADRANT: its studs and its swing; PAIR: a reversing or worm pair; TOOL: hob or
    cutter; PLATE: of a dividing head, with the side that is to the front; PIN: the circle it goes in; HOLDING: how the
    work is held."""

    WHEEL = "wheel"
    QUADRANT = "quadrant"
    LEVER = "lever"
    PAIR = "pair"
    TOOL = "tool"
    PLATE = "plate"
    PIN = "pin"
    HOLDING = "holding"


@dataclass(frozen=True, order=True)
class Place:
    """box: of a machine that has several, else empty; shaft, plane: of a wheel, as `Train.places` counts them; name: of
    a lever, where there are several."""

    what: What
    box: str = ""
    shaft: int = 0
    plane: int = 0
    name: str = ""


Stands = Mapping[Place, Hashable]
"""What stands at each place; what is not named may stand as it will."""


def _weight(text: str, field: str) -> Fraction:
    weight = parse_number(text, field)
    if not 0 <= weight <= HEAVIEST:
        raise Refusal("weight_out_of_range", field, text, most=HEAVIEST)
    return weight


@dataclass(frozen=True)
class TypedEffort:
    """As typed, each a figure from 0 to 100. first, stud, last: a wheel on that shaft; index, feed, differential: by
    what a wheel in that box counts more than elsewhere."""

    first: str = typed_field(_weight, usual="1")
    stud: str = typed_field(_weight, usual="1")
    last: str = typed_field(_weight, usual="1")
    quadrant: str = typed_field(_weight, usual="0.5")
    lever: str = typed_field(_weight, usual="0.5")
    pair: str = typed_field(_weight, usual="2")
    tool: str = typed_field(_weight, usual="2")
    plate: str = typed_field(_weight, usual="2")
    pin: str = typed_field(_weight, usual="0.5")
    holding: str = typed_field(_weight, usual="2")
    index: str = typed_field(_weight, usual="1")
    feed: str = typed_field(_weight, usual="1")
    differential: str = typed_field(_weight, usual="1")


@dataclass(frozen=True)
class Effort:
    """What a change weighs, by the name of `TypedEffort`."""

    weights: Mapping[str, Fraction]

    def of(self, place: Place) -> Fraction:
        """What a change at this place weighs."""
        box = self.weights.get(place.box, Fraction(1))
        if place.what is not What.WHEEL:
            return self.weights[place.what] * box
        return self.weights[{0: "first", -1: "last"}.get(place.shaft, "stud")] * box


def read_effort(effort: TypedEffort) -> Effort:
    """Raises Refusal at the field: `weight_out_of_range`, those of numbers."""
    return Effort(read_fields(effort))


USUAL = read_effort(TypedEffort())
WEIGHTS = tuple(one.name for one in fields(TypedEffort))


def stands_of(train: Train, box: str = "") -> dict[Place, Hashable]:
    """What stands where with this train: its wheels, and the quadrant as their centre distances want it."""
    stands: dict[Place, Hashable] = {
        Place(What.WHEEL, box, shaft, plane): teeth for (shaft, plane), teeth in train.places.items()
    }
    wheels = train.wheels
    stands[Place(What.QUADRANT, box)] = tuple(wheels[one].teeth + wheels[other].teeth for one, other in train.meshing)
    return stands
