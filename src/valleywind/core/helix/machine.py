"""A milling machine's record: what turns the work while the table moves, and how far table, head and arbors go."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction

from valleywind.core.record import or_none, read_fields, typed_field
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.box_record import TypedBox, read_box, word
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.units import MM_PER_INCH, parse_degrees, parse_length, parse_number

MOST_SWING = 90
LEAD_BOX = "lead"
"""What the box of the lead drive's wheels is called on record."""
_MOST_STAGES = 2
_MOST_PAIRS, _MOST_ARBORS = 24, 12
_LARGEST = Fraction(10_000)


@dataclass(frozen=True)
class WormPair:
    """A worm pair of a lead attachment: turns out for turns in. one_way: it is not put in the other way round."""

    one: int
    other: int
    one_way: bool = False


class PairsAt(StrEnum):
    """Where the worm pairs lie between the table's screw and the head."""

    BEFORE = "before"
    AFTER = "after"


class Side(StrEnum):
    """An end of the table, as the operator sees it."""

    LEFT = "left"
    RIGHT = "right"


@dataclass(frozen=True)
class Mill:
    """Lengths in mm, angles in degrees; None where it is not known.

    screw: lead of the table's screw. swing: how far the table turns either way, 0 for a plain one; swivel: how far the
    cutter's head swivels, 0 where it does not. pairs: worm pairs of a lead attachment, none where there is none;
    pairs_at: where they lie. box: where the change wheels go. table: its length and width; travel: how far it goes
    along; saddle: how near and how far the table's middle line stands from the column; arbors: how far from the column
    each carries a cutter. head_at: the end of the table at which the dividing head stands.
    """

    screw: Fraction | None
    swing: Fraction | None
    pairs: tuple[WormPair, ...] = ()
    swivel: Fraction | None = None
    pairs_at: PairsAt | None = None
    box: Gearbox | None = None
    table: tuple[Fraction, Fraction] | None = None
    travel: Fraction | None = None
    saddle: tuple[Fraction, Fraction] | None = None
    arbors: tuple[Fraction, ...] = ()
    head_at: Side = Side.RIGHT


def read_screw(text: str, field: str) -> Fraction:
    """Lead of the table's screw, mm: `6 mm`, `4 tpi`. Raises Refusal `not_positive`, those of lengths."""
    if match := re.fullmatch(r"(.*?)\s*(?:tpi|per inch|threads per inch)", text.strip().lower()):
        number = parse_number(match[1], field)
        if not number:
            raise Refusal("not_positive", field, text)
        return MM_PER_INCH / number
    return parse_length(text, field=field).mm


def read_pairs(text: str, field: str) -> tuple[WormPair, ...]:
    """Worm pairs, turns out for turns in, either way round unless `one way` is said: `1:2, 1:10 one way`; a bare `10`
    is 1:10. Raises Refusal `not_a_worm_pair`, `too_many_pairs`."""
    pairs = []
    for part in (p.strip() for p in text.split(",")):
        if part:
            match = re.fullmatch(r"(?:(\d{1,3})\s*[:/]\s*)?(\d{1,3})(\s+one[- ]way)?", part, re.ASCII | re.IGNORECASE)
            if not match or not int(match[1] or 1) or not int(match[2]):
                raise Refusal("not_a_worm_pair", field, part)
            pairs.append(WormPair(int(match[1] or 1), int(match[2]), bool(match[3])))
    if len(pairs) > _MOST_PAIRS:
        raise Refusal("too_many_pairs", field, len(pairs), most=_MOST_PAIRS)
    return tuple(pairs)


def _degrees(text: str, field: str) -> Fraction:
    angle = parse_degrees(text, field)
    if not 0 <= angle <= MOST_SWING:
        raise Refusal("swing_too_far", field, text, most=MOST_SWING)
    return angle


def _length(text: str, field: str) -> Fraction:
    mm = parse_length(text, field=field).mm
    if not 0 < mm <= _LARGEST:
        raise Refusal("length_out_of_range", field, text, least=0, most=int(_LARGEST))
    return mm


def _two(text: str, field: str, between: str = r"x|×|by") -> tuple[Fraction, Fraction]:
    """Two lengths; a unit behind the second holds for both. Raises Refusal `not_two_lengths`, those of lengths."""
    match = re.fullmatch(
        rf"(.*?[\d\"”])\s*(mm|cm|in|inch)?\s*(?:{between})\s*(.*?[\d\"”])\s*(mm|cm|in|inch)?", text.strip()
    )
    if not match:
        raise Refusal("not_two_lengths", field, text)
    unit = match[4] or ""
    one, other = (_length(f"{n} {u}".strip(), field) for n, u in ((match[1], match[2] or unit), (match[3], unit)))
    return one, other


def _rising(text: str, field: str) -> tuple[Fraction, Fraction]:
    nearer, farther = _two(text, field, r"to|-|–")
    if nearer >= farther:
        raise Refusal("not_two_lengths", field, text)
    return nearer, farther


def _arbors(text: str, field: str) -> tuple[Fraction, ...]:
    parts = [p.strip() for p in text.split(",") if p.strip()]
    if len(parts) > _MOST_ARBORS:
        raise Refusal("too_many_arbors", field, len(parts), most=_MOST_ARBORS)
    unit = re.search(r"(mm|cm|in|inch)$", parts[-1]) if parts else None
    with_unit = [p if unit is None or re.search(r"[a-z\"”]$", p) else f"{p} {unit[1]}" for p in parts]
    return tuple(sorted(_length(p, field) for p in with_unit))


@dataclass(frozen=True)
class TypedMill:
    """As typed, empty where it is not known: `6 mm` or `4 tpi`; `45°`; `1:2, 1:10, 1:40 one way`; `before` or `after`
    the wheels; table `1000 x 250 mm`; `500 mm`; saddle `150 to 350 mm`; arbors `200, 400 mm`; `left` or `right`; the
    box of the lead drive."""

    screw: str = typed_field(or_none(read_screw))
    swing: str = typed_field(or_none(_degrees))
    pairs: str = typed_field(read_pairs)
    swivel: str = typed_field(or_none(_degrees))
    pairs_at: str = typed_field(or_none(word(PairsAt)))
    table: str = typed_field(or_none(_two))
    travel: str = typed_field(or_none(_length))
    saddle: str = typed_field(or_none(_rising))
    arbors: str = typed_field(_arbors)
    head_at: str = typed_field(word(Side), usual=Side.RIGHT.value)
    boxes: Mapping[str, TypedBox] = field(default_factory=dict)


def read_mill(typed: TypedMill, family: WheelFamily | None = None) -> Mill:
    """Read every field; `family` of its wheels, None where their pitch is not known.

    Raises Refusal at the field: `not_a_worm_pair`, `swing_too_far`, `not_two_lengths`, `not_one_of`, those of lengths;
    of the box under its name, such as `lead.swing_low`.
    """
    lead = typed.boxes.get(LEAD_BOX, TypedBox())
    return Mill(**read_fields(typed), box=read_box(LEAD_BOX, lead, family, _MOST_STAGES))
