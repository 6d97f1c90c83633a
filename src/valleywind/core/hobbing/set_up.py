"""A set-up of a hobber: trains for its boxes, with what they come to; and how it is written."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

from valleywind.core.cutting.run_off import RunOff
from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.machine import Box, Hobber, IndexConstant
from valleywind.core.hobbing.ratios import Closes, FeedVerdict
from valleywind.core.refusal import Refusal
from valleywind.core.trains import planner
from valleywind.core.trains.model import Train, parse_train
from valleywind.core.units import parse_number, spell

IndexTrain = planner.Candidate[IndexConstant, Closes]
"""Its `value` is turns of the work per turn of the hob."""
NearTrain = planner.Candidate[IndexConstant, RunOff]
"""An index train that makes a helix; what it lacks to the wanted ratio runs the teeth off."""
FeedTrain = planner.Candidate[str, FeedVerdict]
"""Its `value` is the feed, mm per table turn."""
DifferentialTrain = planner.Candidate[str, RunOff]
"""Its `value` is its ratio."""
AnyTrain = IndexTrain | NearTrain | FeedTrain | DifferentialTrain


class SetUpKind(StrEnum):
    """How the work is brought to turn as it must."""

    SPUR = "spur"
    HELICAL = "helical"
    WITHOUT = "without"
    MADE_UP = "made_up"


@dataclass(frozen=True)
class Move:
    """A wheel that is on in one box and is wanted in another."""

    teeth: int
    origin: Box
    to: Box


@dataclass(frozen=True)
class SetUp:
    """Trains for the boxes of one job. differential, feed: None where the job needs none or the machine has none.

    run_off: over the face, None for a spur wheel that is indexed exactly; indexed: the count that the index train
    divides into; adds: whether the differential adds to the work's turning; faster: whether the work turns faster than
    for a spur wheel, None where that is not known.
    """

    kind: SetUpKind
    index: IndexTrain | NearTrain
    feed: FeedTrain | None = None
    differential: DifferentialTrain | None = None
    run_off: RunOff | None = None
    indexed: Fraction | None = None
    adds: bool | None = None
    faster: bool | None = None
    moved: tuple[Move, ...] = ()

    @property
    def boxed(self) -> list[tuple[Box, AnyTrain]]:
        """The boxes in the order in which they are set up, each with its train."""
        every = {Box.INDEX: self.index, Box.DIFFERENTIAL: self.differential, Box.FEED: self.feed}
        return [(box, part) for box, part in every.items() if part is not None]

    @property
    def trains(self) -> dict[Box, Train]:
        return {box: part.train for box, part in self.boxed}

    @property
    def parts(self) -> list[AnyTrain]:
        return [part for _, part in self.boxed]

    @property
    def teeth(self) -> tuple[int, ...]:
        """Every wheel of every box."""
        return tuple(t for train in self.trains.values() for t in train.teeth)

    @property
    def feed_mm(self) -> Fraction | None:
        return self.feed.value if self.feed else None

    @property
    def lacking(self) -> dict[int, int]:
        return {t: n for part in self.parts for t, n in part.lacking.items()}

    @property
    def goes_on(self) -> bool:
        return all(part.goes_on for part in self.parts)

    @property
    def kept(self) -> int:
        return sum(part.handling.kept for part in self.parts)

    @property
    def put_on(self) -> int:
        return sum(part.handling.put_on for part in self.parts)

    @property
    def is_on(self) -> bool:
        """Every wheel is where it must be."""
        return all(part.handling.none for part in self.parts)

    @property
    def good(self) -> bool:
        return self.goes_on and not self.lacking and (self.run_off is None or self.run_off.good)


@dataclass(frozen=True)
class OnNow:
    """What is on the machine: a train a box, and the index constant its reversing pair gives."""

    trains: Mapping[Box, Train] = field(default_factory=dict)
    constant: IndexConstant | None = None


@dataclass(frozen=True)
class HobPlan:
    """What came of an ask. set_ups: in order of least trouble; exact: whether an index train for a spur wheel was
    found. Where none was: `one_more` with one wheel not held; `other_constant` with a reversing pair that is not meant
    for this count; `more_starts` with a hob of more starts. index_outcome: why nothing goes on. cut_short: not all was
    tried."""

    ask: HobAsk
    hobber: Hobber
    set_ups: tuple[SetUp, ...]
    one_more: SetUp | None = None
    other_constant: SetUp | None = None
    more_starts: tuple[int, SetUp] | None = None
    unfit: SetUp | None = None
    cut_short: bool = False

    @property
    def exact(self) -> bool:
        return any(s.kind in (SetUpKind.SPUR, SetUpKind.HELICAL) for s in self.set_ups)


_ORDER = (Box.INDEX, Box.FEED, Box.DIFFERENTIAL)


def spell_trains(trains: Mapping[Box, Train], constant: IndexConstant) -> str:
    """How a set-up is written: `48/37*40/80@24+52/38/39+`, index with its constant, feed, differential; a box without
    train stands empty."""
    parts = [trains[box].notation if box in trains else "" for box in _ORDER]
    return "+".join([f"{parts[0]}@{spell(constant.constant)}", *parts[1:]])


def read_trains(text: str, hobber: Hobber, field_name: str = "train") -> tuple[dict[Box, Train], IndexConstant]:
    """Read it back. Raises Refusal `not_trains`, `no_such_constant`, `not_a_train`."""
    index, at, rest = text.strip().partition("@")
    constant, *others = rest.split("+")
    if not at or len(others) > 2:
        raise Refusal("not_trains", field_name, text)
    known = next((c for c in hobber.index if c.constant == parse_number(constant, field_name)), None)
    if known is None:
        raise Refusal("no_such_constant", field_name, constant)
    named = zip(_ORDER, [index, *others], strict=False)
    return {box: parse_train(part, field_name) for box, part in named if part.strip()}, known
