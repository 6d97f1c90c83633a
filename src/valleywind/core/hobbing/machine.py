"""A gear hobber's record: the constants that its trains are worked out from, and its boxes for change wheels."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

from valleywind.core.record import or_none, read_fields, typed_field
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.box_record import Post, TypedBox, one_of, read_box, read_posts, word
from valleywind.core.trains.direction import Sense
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.units import MM_PER_INCH, PI, mm_or_none, parse_degrees, parse_number, parse_ratio

MOST_CONSTANTS = 12
# Further from 1 than this no machine's constant lies.
_LEAST_CONSTANT, _MOST_CONSTANT = Fraction(1, 1000), Fraction(100_000)


class Box(StrEnum):
    """A place for change wheels on a hobber."""

    INDEX = "index"
    FEED = "feed"
    DIFFERENTIAL = "differential"


class FeedWay(StrEnum):
    """Which way the hob travels along the work."""

    DOWN = "down"
    UP = "up"


class FeedSource(StrEnum):
    """Whether the feed is driven from behind the differential, so in mm per true turn of the table, or before it."""

    AFTER = "after"
    BEFORE = "before"


@dataclass(frozen=True)
class IndexConstant:
    """Ratio of the index train times the teeth per start, from this count of teeth on. pair: the two wheels of the
    reversing pair that this constant holds with, None where it is not on record."""

    constant: Fraction
    from_teeth: int = 0
    pair: tuple[int, int] | None = None


@dataclass(frozen=True)
class Hobber:
    """index: constants, the one for the smallest counts first. feed: mm per table turn at a train of 1 : 1, None where
    it is not known. differential: mm; the train is this times sin β over m_n and starts; None where the machine has no
    differential.

    table: which way the table turns for a right-hand hob, seen from above, None where that is not known; feeds: the
    ways it can feed; taken: where the feed is driven from. swivel: how far the hob head turns either way, degrees.
    largest: diameter of the work, mm; travel: of the hob along the work, mm; between: arbor length between centres, mm.
    boxes: where the change wheels go; posts: of each box, from its first shaft on.
    """

    index: tuple[IndexConstant, ...]
    feed: Fraction | None
    differential: Fraction | None = None
    swivel: Fraction | None = None
    table: Sense | None = None
    feeds: tuple[FeedWay, ...] = (FeedWay.DOWN,)
    taken: FeedSource = FeedSource.AFTER
    largest: Fraction | None = None
    travel: Fraction | None = None
    between: Fraction | None = None
    boxes: Mapping[Box, Gearbox] = field(default_factory=dict)
    posts: Mapping[Box, tuple[Post, ...]] = field(default_factory=dict)

    def index_for(self, teeth: int) -> IndexConstant:
        """The index constant that holds for this count."""
        return max((c for c in self.index if c.from_teeth <= teeth), key=lambda c: c.from_teeth)


def read_constant(text: str, field: str) -> Fraction:
    """A length constant in mm, π allowed: `0.75`, `0.03 in`, `25/π mm`, `8 pi`.

    Raises Refusal `not_positive`, `constant_out_of_range`, those of numbers."""
    typed = text.strip().lower().replace("π", "pi")
    unit = Fraction(1)
    if match := re.search(r"\s*(mm|inch|in|\")$", typed):
        typed, unit = typed[: match.start()], Fraction(1) if match[1] == "mm" else MM_PER_INCH
    match = re.fullmatch(r"(.*?)\s*([/*×]?)\s*pi", typed)
    number = parse_number(match[1] if match else typed, field)
    if match:
        number = number / PI if match[2] == "/" else number * PI
    return _in_range(number, field, text) * unit


def _in_range(number: Fraction, field: str, text: str) -> Fraction:
    if number <= 0:
        raise Refusal("not_positive", field, text)
    if not _LEAST_CONSTANT <= number <= _MOST_CONSTANT:
        raise Refusal("constant_out_of_range", field, text)
    return number


def _swivel(text: str, field: str) -> Fraction:
    degrees = parse_degrees(text, field)
    if not 0 <= degrees <= 90:
        raise Refusal("swivel_too_far", field, text, most=90)
    return degrees


def _feeds(text: str, field: str) -> tuple[FeedWay, ...]:
    ways = {"down": (FeedWay.DOWN,), "up": (FeedWay.UP,), "both": (FeedWay.DOWN, FeedWay.UP)}
    return ways[one_of(text, field, tuple(ways))]


def _index(text: str, field: str) -> tuple[IndexConstant, ...]:
    constants = []
    for part in (p.strip() for p in text.split(",")):
        if part:
            typed = re.fullmatch(r"(.+?)(?:\s+from\s+(\d{1,4}))?(?:\s+with\s+(\d{1,3})/(\d{1,3}))?", part, re.ASCII)
            if not typed:
                raise Refusal("not_an_index_constant", field, part)
            constant = parse_ratio(typed[1], field)
            if not _LEAST_CONSTANT <= constant <= _MOST_CONSTANT:
                raise Refusal("not_an_index_constant", field, part)
            pair = (int(typed[3]), int(typed[4])) if typed[3] else None
            if pair and not all(pair):
                raise Refusal("not_an_index_constant", field, part)
            constants.append(IndexConstant(constant, int(typed[2] or 0), pair))
    if not constants:
        raise Refusal("empty", field, text)
    constants.sort(key=lambda c: c.from_teeth)
    several = len({c.from_teeth for c in constants}) < len(constants)
    if constants[0].from_teeth or several or len(constants) > MOST_CONSTANTS:
        raise Refusal("not_an_index_constant", field, text)
    return tuple(constants)


@dataclass(frozen=True)
class TypedHobber:
    """As typed: `24 with 40/40, 48 from 97 with 24/48`; `0.75 mm`; `25/π mm`; `45`; table `clockwise`,
    `anticlockwise` or empty; feeds `down`, `up` or `both`; taken `after` or `before`; lengths; the boxes."""

    index: str = typed_field(_index)
    feed: str = typed_field(or_none(read_constant))
    differential: str = typed_field(or_none(read_constant))
    swivel: str = typed_field(or_none(_swivel))
    table: str = typed_field(or_none(word(Sense)))
    feeds: str = typed_field(_feeds, usual="down")
    taken: str = typed_field(word(FeedSource), usual=FeedSource.AFTER.value)
    largest: str = typed_field(mm_or_none)
    travel: str = typed_field(mm_or_none)
    between: str = typed_field(mm_or_none)
    boxes: Mapping[str, TypedBox] = field(default_factory=dict)


# An index train has two wheels or four, a feed train too.
_MOST_STAGES = {Box.INDEX: 2, Box.FEED: 2, Box.DIFFERENTIAL: 3}


def read_hobber(typed: TypedHobber, family: WheelFamily | None = None) -> Hobber:
    """Read every field; `family` of its wheels, None where their pitch is not known.

    Raises Refusal at the field: `not_an_index_constant`, `not_positive`, `swivel_too_far`, `not_one_of`, those of
    numbers; of a box under its name, such as `index.swing_low`.
    """
    boxes = {box: typed.boxes.get(box, TypedBox()) for box in Box}
    return Hobber(
        **read_fields(typed),
        boxes={box: read_box(box, one, family, _MOST_STAGES[box]) for box, one in boxes.items()},
        posts={box: read_posts(one.posts, f"{box}.posts") for box, one in boxes.items()},
    )
