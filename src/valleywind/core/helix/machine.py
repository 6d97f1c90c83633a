"""A milling machine's record: what turns the work while the table moves."""

import re
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.refusal import Refused
from valleywind.core.units import MM_PER_INCH, parse_length, parse_number

MOST_SWING = 90


@dataclass(frozen=True)
class WormPair:
    """A worm pair of a lead attachment, mounted either way round."""

    one: int
    other: int


@dataclass(frozen=True)
class Mill:
    """screw: lead of the table screw, mm. swing: how far the table turns either way, degrees, 0 for a plain table.
    pairs: worm pairs of a lead attachment, none where there is no attachment."""

    screw: Fraction
    swing: Fraction
    pairs: tuple[WormPair, ...] = ()


@dataclass(frozen=True)
class TypedMill:
    """As typed: `6 mm` or `4 tpi`; `45°`; `1:2, 1:10, 1:40`."""

    screw: str = ""
    swing: str = ""
    pairs: str = ""


def read_mill(typed: TypedMill) -> Mill:
    """Read every field. Raises Refused at the field: `not_two_numbers`, `swing_too_far`, those of lengths."""
    swing = parse_number(typed.swing.strip().removesuffix("°").strip() or "0", "swing")
    if swing > MOST_SWING:
        raise Refused("swing_too_far", "swing", typed.swing, most=MOST_SWING)
    return Mill(read_screw(typed.screw, "screw"), swing, read_pairs(typed.pairs, "pairs"))


def read_screw(text: str, field: str) -> Fraction:
    """Lead of the table's screw, mm: `6 mm`, `4 tpi`. Raises Refused `not_positive`, those of lengths."""
    if found := re.fullmatch(r"(.*?)\s*(?:tpi|per inch|threads per inch)", text.strip().lower()):
        number = parse_number(found[1], field)
        if not number:
            raise Refused("not_positive", field, text)
        return MM_PER_INCH / number
    return parse_length(text, field=field).mm


def read_pairs(text: str, field: str) -> tuple[WormPair, ...]:
    """Worm pairs, either way round: `1:2, 1:10`; a bare `10` is 1:10. Raises Refused `not_two_numbers`."""
    pairs = []
    for part in (p.strip() for p in text.split(",")):
        if part:
            found = re.fullmatch(r"(?:(\d{1,3})\s*[:/]\s*)?(\d{1,3})", part, re.ASCII)
            if not found or not int(found[1] or 1) or not int(found[2]):
                raise Refused("not_two_numbers", field, part)
            pairs.append(WormPair(int(found[1] or 1), int(found[2])))
    return tuple(pairs)
