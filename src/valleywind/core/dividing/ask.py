"""What is asked of dividing: `divide 57`, `divide 127 on Grebe`."""

import re
from dataclasses import dataclass

from valleywind.core.dividing.ways import allowed_divisions
from valleywind.core.refusal import Refused


@dataclass(frozen=True)
class DivideAsk:
    """divisions; machine: the name said after `on`, empty where none."""

    divisions: int
    machine: str = ""


def is_divide_ask(text: str) -> bool:
    return re.match(r"\s*(?:divide|index)\b", text, re.IGNORECASE) is not None


def read_divide(text: str) -> DivideAsk:
    """Read an ask for divisions. Raises Refused `not_a_divide_ask`, `divisions_out_of_range`."""
    pattern = r"\s*(?:divide|index)?\s*(?:by|into)?\s*(\d{1,6})\s*(?:divisions|teeth|parts|holes)?(?:\s+on\s+(.+))?\s*"
    match = re.fullmatch(pattern, text, re.IGNORECASE | re.ASCII)
    if not match:
        raise Refused("not_a_divide_ask", "ask", text.strip())
    return DivideAsk(allowed_divisions(int(match[1]), "ask"), (match[2] or "").strip())
