"""What a hobber's table says, in words."""

from fractions import Fraction

from valleywind.core.units import spell
from valleywind.wording.numbers import error
from valleywind.wording.plate import PlateWords


def constant_text(constant: Fraction) -> str:
    """The index constant; a plate's own constant is its inverse."""
    return f"The index constant is {spell(1 / constant)}."


_FIELDS = {"index": "Index constant", "feed": "Feed constant", "differential": "Differential constant"}
WORDS = PlateWords("count of teeth", constant_text, lambda _: "", _FIELDS, error)
