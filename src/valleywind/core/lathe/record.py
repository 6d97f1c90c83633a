"""A lathe's record as it is typed in, field by field, read into what the planner needs."""

import math
from dataclasses import dataclass, field
from fractions import Fraction

from valleywind.core.lathe.ask import read
from valleywind.core.lathe.machine import Dial, Step
from valleywind.core.lathe.thread import Stated, ThreadAsk
from valleywind.core.refusal import Refused
from valleywind.core.trains.arrange import Pair
from valleywind.core.trains.model import parse_stock
from valleywind.core.trains.quadrant import MOST_STUDS, Quadrant, Slot
from valleywind.core.units import parse_length, parse_number

# Farther than this nothing stands round a lathe's gear end, mm.
_FARTHEST = 2000.0


@dataclass(frozen=True)
class TypedSlot:
    """A slot as typed: degrees from the first one, mm."""

    offset: str
    nearest: str
    farthest: str


@dataclass(frozen=True)
class TypedLathe:
    """Every field as text. Steps are written `name=ratio` or a ratio alone, pairs `127/120`, dials `24/8` (teeth and
    marks), the cover as corners `x y, x y, x y`; lengths bare are mm, angles degrees."""

    name: str
    screw: str
    first: str = "1"
    box: str = ""
    first_drivers: str = ""
    last_driven: str = ""
    pairs: str = ""
    dials: str = ""
    feed_along: str = ""
    feed_across: str = ""
    first_x: str = ""
    first_y: str = ""
    swing_low: str = ""
    swing_high: str = ""
    boss_first: str = ""
    boss_stud: str = ""
    boss_last: str = ""
    gap: str = "0.5"
    studs: str = "2"
    slots: tuple[TypedSlot, ...] = ()
    cover: str = ""


@dataclass(frozen=True)
class LatheRecord:
    """The same, read. Angles of the quadrant in radians, lengths in mm."""

    name: str
    screw_lead: Fraction
    screw_stated: Stated
    first: tuple[Step, ...]
    box: tuple[Step, ...]
    first_drivers: tuple[int, ...]
    last_driven: tuple[int, ...]
    pairs: tuple[Pair, ...]
    dials: tuple[Dial, ...]
    feed_along: Fraction | None
    feed_across: Fraction | None
    quadrant: Quadrant = field(repr=False)


def read_record(typed: TypedLathe) -> LatheRecord:
    """Read every field. Raises Refused at the first that cannot be used, by its name."""
    if not typed.name.strip():
        raise Refused("empty", "name", typed.name)
    lead, stated = _screw(typed.screw)
    return LatheRecord(
        typed.name.strip(),
        lead,
        stated,
        _steps(typed.first, "first") or (Step("1", Fraction(1)),),
        _steps(typed.box, "box"),
        _wheels(typed.first_drivers, "first_drivers"),
        _wheels(typed.last_driven, "last_driven"),
        tuple(Pair(*two) for two in _twos(typed.pairs, "pairs")),
        tuple(Dial(*two) for two in _twos(typed.dials, "dials")),
        _feed(typed.feed_along, "feed_along"),
        _feed(typed.feed_across, "feed_across"),
        read_quadrant(typed),
    )


def read_quadrant(typed: TypedLathe) -> Quadrant:
    """The quadrant's fields alone. Raises Refused at the field."""
    low, high = _degrees(typed.swing_low, "swing_low"), _degrees(typed.swing_high, "swing_high")
    if not low < high:
        raise Refused("swing_backwards", "swing_high", typed.swing_high)
    first = _coordinate(typed.first_x, "first_x"), _coordinate(typed.first_y, "first_y")
    if math.hypot(*first) < 1:
        raise Refused("shafts_in_one_place", "first_x", typed.first_x)
    studs = _number(typed.studs, "studs")
    if studs.denominator != 1 or not 0 <= studs <= MOST_STUDS:
        raise Refused("studs_out_of_range", "studs", typed.studs, most=MOST_STUDS)
    slots = tuple(_slot(slot, n) for n, slot in enumerate(typed.slots))
    if studs and not slots:
        raise Refused("no_slot", "slots", None)
    bosses = (
        _size(typed.boss_first, "boss_first"),
        _size(typed.boss_stud, "boss_stud"),
        _size(typed.boss_last, "boss_last"),
    )
    return Quadrant(first, slots, (low, high), bosses, _size(typed.gap or "0", "gap"), int(studs), _cover(typed.cover))


def from_calipers(over: float, first_boss: float, last_boss: float, height: float) -> tuple[float, float]:
    """Where the first shaft is, seen from the last: from the reading over both bosses, their diameters, and how much
    higher (mm) the first one stands; to the right. Raises Refused `calipers_do_not_close`."""
    apart = over - (first_boss + last_boss) / 2
    if apart <= 0 or abs(height) > apart:
        raise Refused("calipers_do_not_close", "over", f"{over:g}", apart=f"{max(apart, 0):.1f}")
    return math.sqrt(apart**2 - height**2), height


def _screw(text: str) -> tuple[Fraction, Stated]:
    reading = read(text)
    if not isinstance(reading.ask, ThreadAsk):
        if reading.refusal is not None and not text.strip():
            raise reading.refusal.under("screw")
        raise Refused("not_a_screw", "screw", text)
    return reading.ask.lead, reading.ask.stated


def _steps(text: str, name: str) -> tuple[Step, ...]:
    steps = []
    for part in (p.strip() for p in text.replace("\n", ",").split(",")):
        if part:
            label, equals, ratio = part.rpartition("=")
            number = parse_number(ratio, name)
            if not number:
                raise Refused("not_positive", name, part)
            steps.append(Step(label.strip() if equals else ratio.strip(), number))
    if len({s.name for s in steps}) < len(steps):
        raise Refused("steps_alike", name, text)
    return tuple(steps)


def _wheels(text: str, name: str) -> tuple[int, ...]:
    return tuple(parse_stock(text, name)) if text.strip() else ()


def _twos(text: str, name: str) -> list[tuple[int, int]]:
    found = []
    for part in (p.strip() for p in text.split(",")):
        if part:
            one, slash, other = part.partition("/")
            if (
                not slash
                or not one.strip().isdigit()
                or not other.strip().isdigit()
                or not int(other)
                or int(one) > 400
            ):
                raise Refused("not_two_numbers", name, part)
            found.append((int(one), int(other)))
    return found


def _feed(text: str, name: str) -> Fraction | None:
    return parse_length(text, field=name).mm if text.strip() else None


def _number(text: str, name: str) -> Fraction:
    """A number that may stand below zero."""
    typed = text.strip().replace("−", "-").removesuffix("°").strip()
    sign = -1 if typed.startswith("-") else 1
    return sign * parse_number(typed.removeprefix("-"), name)


def _degrees(text: str, name: str) -> float:
    value = float(_number(text, name))
    if not -360 <= value <= 360:
        raise Refused("angle_too_large", name, text)
    return math.radians(value)


def _coordinate(text: str, name: str) -> float:
    value = float(_number(text.strip().removesuffix("mm"), name))
    if abs(value) > _FARTHEST:
        raise Refused("too_far", name, text, most=_FARTHEST)
    return value


def _size(text: str, name: str) -> float:
    value = _coordinate(text, name)
    if value < 0:
        raise Refused("not_positive", name, text)
    return value


def _slot(typed: TypedSlot, place: int) -> Slot:
    name = f"slots.{place}"
    nearest, farthest = _size(typed.nearest, name), _size(typed.farthest, name)
    if not nearest < farthest:
        raise Refused("slot_backwards", name, typed.farthest)
    return Slot(_degrees(typed.offset or "0", name), nearest, farthest)


def _cover(text: str) -> tuple[tuple[float, float], ...] | None:
    corners = []
    for part in (p.strip() for p in text.replace("\n", ",").split(",")):
        if part:
            words = part.split()
            if len(words) != 2:
                raise Refused("not_a_corner", "cover", part)
            corners.append((_coordinate(words[0], "cover"), _coordinate(words[1], "cover")))
    if corners and len(corners) < 3:
        raise Refused("too_few_corners", "cover", text)
    return tuple(corners) or None
