"""What is asked of dividing: `divide 57`, `divide 127 on Grebe`."""

import re
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.dividing.ways import allowed_divisions
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask_line import Line
from valleywind.core.units import parse_number


@dataclass(frozen=True)
class DivideAsk:
    """divisions; machine: the name said after `on`, empty where none."""

    divisions: int
    machine: str = ""


# Degrees, minutes and seconds from tooth to tooth: `22.5°`, `17° 30'`, `7 deg`.
_ANGLE = r"(?:by\s+)?(\d{1,3}(?:[.,]\d{1,6})?)\s*(?:°|deg(?:rees)?)(?:\s*(\d{1,2})\s*['′])?(?:\s*(\d{1,2})\s*[\"″])?"


def _divisions_of(angle: re.Match[str], text: str) -> int:
    """How many such angles go round."""
    degrees = parse_number(angle[1], "ask") + Fraction(int(angle[2] or 0), 60) + Fraction(int(angle[3] or 0), 3600)
    if not degrees:
        raise Refusal("not_a_divide_ask", "ask", text.strip())
    divisions = 360 / degrees
    if divisions.denominator != 1:
        near = max(2, round(divisions))
        raise Refusal("angle_leaves_a_rest", "ask", angle[0].strip(), near=near)
    return int(divisions)


def is_divide_ask(text: str) -> bool:
    return re.match(r"\s*(?:divide|index)\b", text, re.IGNORECASE) is not None


def read_divide(text: str) -> DivideAsk:
    """Read an ask for divisions: how many, or by what angle. Raises Refusal `not_a_divide_ask`, `words_left`,
    `divisions_out_of_range`, `angle_leaves_a_rest`."""
    line: Line[StrEnum] = Line(text)
    line.take(r"(?:divide|index)", None)
    machine = line.take(r"on\s+(\S.*)", None)
    angle = line.take(_ANGLE, None)
    if angle is not None:
        if line.rest:
            raise Refusal("words_left", "ask", line.rest)
        return DivideAsk(allowed_divisions(_divisions_of(angle, text), "ask"), machine[1].strip() if machine else "")
    count = line.take(r"(?:(?:by|into)\s+)?(\d{1,6})\s*(?:divisions|teeth|parts|holes|t|z)?", None)
    if count is None or line.rest:
        raise Refusal("words_left" if count else "not_a_divide_ask", "ask", line.rest or text.strip())
    return DivideAsk(allowed_divisions(int(count[1]), "ask"), machine[1].strip() if machine else "")
