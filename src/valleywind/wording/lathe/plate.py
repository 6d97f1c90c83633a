"""What a lathe's plate says, in words."""

from fractions import Fraction

from valleywind.core.lathe.plate import lathes_of
from valleywind.wording.numbers import trimmed
from valleywind.wording.plate import PlateWords


def constant_text(constant: Fraction) -> str:
    """Travel for one turn of spindle and train, and the most usual lathe with it."""
    first = lathes_of(constant)[0]
    shaft = "the spindle’s turns" if first.first_ratio == 1 else f"{first.first_ratio} of the spindle’s turns"
    return (
        f"The carriage moves {trimmed(constant, 5)} mm per spindle turn with equal wheels: "
        f"a screw of {first.screw}, the first shaft at {shaft}."
    )


def _divisible(constant: Fraction) -> str:
    lathes = lathes_of(constant)
    if len(lathes) < 2:
        return "A plate cannot tell a coarse screw with a slow first shaft from a fine one. Measure the screw’s pitch."
    one, other = lathes[:2]
    return (
        f"A plate cannot tell a screw of {one.screw} with the first shaft at {one.first_ratio} turn of the spindle "
        f"from one of {other.screw} at {other.first_ratio}. Measure the screw’s pitch, or count the turns of the first "
        "shaft in ten turns of the spindle."
    )


_FIELDS = {"screw": "Lead screw", "first": "First shaft, turns per spindle turn", "box": "Gearbox"}
WORDS = PlateWords("pitch", constant_text, _divisible, _FIELDS)
