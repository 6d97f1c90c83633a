"""A lathe's record as it is typed in, field by field, read into what the planner needs."""

import re
from dataclasses import dataclass, field
from fractions import Fraction

from valleywind.core.lathe.ask import read
from valleywind.core.lathe.machine import Dial, LeverPosition
from valleywind.core.lathe.thread import PitchUnit, ThreadAsk
from valleywind.core.refusal import Refusal, Refusals
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH
from valleywind.core.trains.arrange import Pair
from valleywind.core.trains.model import parse_stock
from valleywind.core.trains.quadrant_record import QuadrantFacts, TypedQuadrant, read_quadrant
from valleywind.core.units import mm_or_none, parse_ratio

MOST_MARKS = 64
"""Marks of a thread dial: more would not be told apart."""
MOST_STEPS = 80
"""Positions of a lever or a gearbox, and all of them together."""
_LARGEST_STEP = Fraction(1000)


@dataclass(frozen=True)
class TypedLathe(TypedQuadrant):
    """Every field as text. Steps are written `name=ratio` or a ratio alone, pairs `127/120`, dials `24/8` (teeth and
    marks); lengths bare are mm."""

    name: str = ""
    screw: str = ""
    first: str = "1"
    box: str = ""
    first_drivers: str = ""
    last_driven: str = ""
    pairs: str = ""
    dials: str = ""
    feed_along: str = ""
    feed_across: str = ""


@dataclass(frozen=True)
class LatheRecord:
    """The same, read. Angles of the quadrant in radians, lengths in mm."""

    name: str
    screw_lead: Fraction
    screw_stated: PitchUnit
    first: tuple[LeverPosition, ...]
    box: tuple[LeverPosition, ...]
    first_drivers: tuple[int, ...]
    last_driven: tuple[int, ...]
    pairs: tuple[Pair, ...]
    dials: tuple[Dial, ...]
    feed_along: Fraction | None
    feed_across: Fraction | None
    quadrant: QuadrantFacts = field(repr=False)

    @classmethod
    def of_screw(cls, name: str, screw_lead: Fraction, stated: PitchUnit) -> "LatheRecord":
        """A lathe of which no more is known than its screw."""
        first = (LeverPosition("1", Fraction(1)),)
        return cls(name, screw_lead, stated, first, (), (), (), (), (), None, None, QuadrantFacts())


def read_screw(text: str) -> tuple[Fraction, PitchUnit]:
    """A lead screw as typed, `6 tpi`, `1.5 mm`: its lead in mm, and how it is stated. Raises Refusal `not_a_screw`."""
    reading = read(text)
    if not isinstance(reading.ask, ThreadAsk):
        if reading.refusal is not None and not text.strip():
            raise reading.refusal.under("screw")
        raise Refusal("not_a_screw", "screw", text)
    return reading.ask.lead, reading.ask.stated


def read_record(typed: TypedLathe) -> LatheRecord:
    """Read every field. Raises Refusal at the first that cannot be used, by its name, with those at all others."""
    refusals = Refusals()
    name = typed.name.strip()
    if not name:
        refusals.refuse(Refusal("empty", "name", typed.name))
    lead, stated = refusals.read(lambda: read_screw(typed.screw), (Fraction(1), PitchUnit.MM))
    record = LatheRecord(
        name,
        lead,
        stated,
        refusals.read(lambda: read_steps(typed.first, "first"), ()) or (LeverPosition("1", Fraction(1)),),
        refusals.read(lambda: read_steps(typed.box, "box"), ()),
        refusals.read(lambda: _wheels(typed.first_drivers, "first_drivers"), ()),
        refusals.read(lambda: _wheels(typed.last_driven, "last_driven"), ()),
        refusals.read(lambda: tuple(Pair(*two) for two in _twos(typed.pairs, "pairs", MOST_TEETH)), ()),
        refusals.read(lambda: tuple(Dial(*two) for two in _twos(typed.dials, "dials", MOST_MARKS)), ()),
        refusals.read(lambda: mm_or_none(typed.feed_along, "feed_along"), None),
        refusals.read(lambda: mm_or_none(typed.feed_across, "feed_across"), None),
        refusals.read(lambda: read_quadrant(typed), QuadrantFacts()),
    )
    refusals.raise_all()
    return record


def read_steps(text: str, name: str) -> tuple[LeverPosition, ...]:
    """Positions of a lever or a gearbox as typed, `A=1, B=8/9`. Raises Refusal: `not_positive`, `step_out_of_range`,
    `too_many_steps`, `steps_alike`, those of numbers."""
    steps: list[LeverPosition] = []
    for part in (p.strip() for p in text.replace("\n", ",").split(",")):
        if part:
            label, equals, ratio = part.rpartition("=")
            number = parse_ratio(ratio, name)
            if not number:
                raise Refusal("not_positive", name, part)
            if not 1 / _LARGEST_STEP <= number <= _LARGEST_STEP or number.denominator > 10**6:
                raise Refusal("step_out_of_range", name, part, most=_LARGEST_STEP)
            if len(steps) == MOST_STEPS:
                raise Refusal("too_many_steps", name, part, most=MOST_STEPS)
            steps.append(LeverPosition(label.strip() if equals else ratio.strip(), number))
    if len({s.name for s in steps}) < len(steps):
        raise Refusal("steps_alike", name, text)
    return tuple(steps)


def _wheels(text: str, name: str) -> tuple[int, ...]:
    return tuple(parse_stock(text, name)) if text.strip() else ()


def _twos(text: str, name: str, most: int) -> list[tuple[int, int]]:
    """Pairs like `127/120`: a wheel's teeth, and a number up to `most`."""
    twos = []
    for part in (p.strip() for p in text.split(",")):
        if part:
            two = re.fullmatch(r"(\d{1,6})\s*/\s*(\d{1,6})", part, re.ASCII)
            if two is None or not FEWEST_TEETH <= int(two[1]) <= MOST_TEETH or not 1 <= int(two[2]) <= most:
                raise Refusal("not_two_numbers", name, part, fewest=FEWEST_TEETH, most_teeth=MOST_TEETH, most=most)
            twos.append((int(two[1]), int(two[2])))
    return twos
