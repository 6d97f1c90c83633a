"""What is asked of dividing: `divide 57`, `divide 127 on Grebe`."""

import re
from dataclasses import dataclass
from enum import StrEnum

from valleywind.core.dividing.ways import allowed_divisions
from valleywind.core.refusal import Refused
from valleywind.core.teeth.said import Line


@dataclass(frozen=True)
class DivideAsk:
    """divisions; machine: the name said after `on`, empty where none."""

    divisions: int
    machine: str = ""


def is_divide_ask(text: str) -> bool:
    return re.match(r"\s*(?:divide|index)\b", text, re.IGNORECASE) is not None


def read_divide(text: str) -> DivideAsk:
    """Read an ask for divisions. Raises Refused `not_a_divide_ask`, `words_left`, `divisions_out_of_range`."""
    line: Line[StrEnum] = Line(text)
    line.take(r"(?:divide|index)", None)
    machine = line.take(r"on\s+(\S.*)", None)
    count = line.take(r"(?:(?:by|into)\s+)?(\d{1,6})\s*(?:divisions|teeth|parts|holes|t|z)?", None)
    if count is None or line.rest:
        raise Refused("words_left" if count else "not_a_divide_ask", "ask", line.rest or text.strip())
    return DivideAsk(allowed_divisions(int(count[1]), "ask"), machine[1].strip() if machine else "")
