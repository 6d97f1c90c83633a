"""A quadrant's record as it is typed in, for whatever machine has one, and calipers instead of coordinates."""

import math
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.refusal import Refused
from valleywind.core.trains.quadrant import LEAST_APART, MOST_STUDS, Quadrant, Slot, closed
from valleywind.core.units import parse_number

# Farther than this nothing stands round a machine's gear end, mm.
_FARTHEST = 2000.0
_MOST_CORNERS = 60


@dataclass(frozen=True)
class TypedSlot:
    """A slot as typed: degrees from the first one, mm."""

    offset: str
    nearest: str
    farthest: str


@dataclass(frozen=True)
class TypedQuadrant:
    """Every field as text: first_x, first_y where the first shaft is, seen from the last, in mm to the right and up;
    the swing in degrees; bosses as radii; the cover as corners `x y, x y, x y`."""

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


def read_quadrant(typed: TypedQuadrant) -> Quadrant:
    """Read every field. Raises Refused at the first that cannot be used, by its name."""
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


def spell_quadrant(known: Quadrant) -> TypedQuadrant:
    """The fields as `read_quadrant` takes them back, to a billionth of a mm or a degree."""
    low, high = (_figure(math.degrees(angle)) for angle in known.swing)
    first, stud, last = map(_figure, known.bosses)
    x, y = map(_figure, known.first_shaft)
    return TypedQuadrant(
        x, y, low, high, first, stud, last, _figure(known.gap), str(known.studs),
        tuple(
            TypedSlot(_figure(math.degrees(s.offset)), _figure(s.nearest), _figure(s.farthest)) for s in known.slots
        ),
        ", ".join(f"{_figure(x)} {_figure(y)}" for x, y in known.cover or ()),
    )  # fmt: skip


def _figure(value: float) -> str:
    """The figure so that it is read back to the same, but for what the way from degrees and back adds."""
    text = f"{value:.9f}".rstrip("0").rstrip(".")
    return "0" if text == "-0" else text


def from_calipers(over: float, first_boss: float, last_boss: float, height: float) -> tuple[float, float]:
    """Where the first shaft is, seen from the last: from the reading over both bosses, their diameters, and how much
    higher (mm) the first one stands; to the right. Raises Refused `calipers_do_not_close`."""
    apart = over - (first_boss + last_boss) / 2
    if apart <= 0 or abs(height) > apart:
        raise Refused("calipers_do_not_close", "over", f"{over:g}", apart=f"{max(apart, 0):.1f}")
    return math.sqrt(apart**2 - height**2), height


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
    outline = closed(corners)
    for corner, onward in zip(outline, [*outline[1:], *outline[:1]], strict=True):
        if len(outline) > 1 and math.dist(corner, onward) < LEAST_APART:
            raise Refused("corner_on_corner", "cover", f"{corner[0]:g} {corner[1]:g}")
    if outline and len(outline) < 3:
        raise Refused("too_few_corners", "cover", text)
    if len(outline) > _MOST_CORNERS:
        raise Refused("too_many_corners", "cover", len(outline), most=_MOST_CORNERS)
    return outline or None
