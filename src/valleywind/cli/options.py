"""Options that several commands read alike."""

from fractions import Fraction

from valleywind.core.refusal import Refused
from valleywind.core.trains.search import MOST_STAGES
from valleywind.core.units import parse_number


def read_stages(text: str) -> list[int]:
    """`1,2` as numbers of stages. Raises Refused `stages_out_of_range`."""
    try:
        return [int(word) for word in text.replace(",", " ").split()]
    except ValueError:
        raise Refused("stages_out_of_range", "stages", text, most=MOST_STAGES) from None


def read_helix(text: str) -> Fraction:
    """A helix angle in degrees, with its sign or without: `22`, `22.5°`. Raises Refused `helix_out_of_range`."""
    angle = parse_number(text.strip().removesuffix("°"), "helix")
    if not 0 < angle < 90:
        raise Refused("helix_out_of_range", "helix", text)
    return angle
