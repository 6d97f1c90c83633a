"""What a mill's table of leads says, in words."""

from fractions import Fraction

from valleywind.core.helix.plate import mills_of
from valleywind.wording.numbers import trimmed
from valleywind.wording.plate import PlateWords


def constant_text(constant: Fraction) -> str:
    """The lead with equal wheels; a plate's own constant is its inverse."""
    mills = mills_of(1 / constant)
    source = f": a table screw of {mills[0].screw}, a head of {mills[0].head} : 1" if mills else ""
    return f"Equal wheels give a lead of {trimmed(1 / constant, 4)} mm{source}."


def _divisible(constant: Fraction) -> str:
    mills = mills_of(1 / constant)
    if len(mills) < 2:
        return "A table of leads cannot tell the screw from the head’s ratio. Measure the screw’s pitch."
    one, other = mills[:2]
    return (
        f"A table of leads cannot tell a screw of {one.screw} with a head of {one.head} : 1 from one of {other.screw} "
        f"with {other.head} : 1. Measure the screw’s pitch, or count the crank turns for one turn of the work."
    )


_FIELDS = {"screw": "Screw of the table", "ratio": "Crank turns of the head per turn", "pairs": "Worm pairs"}
WORDS = PlateWords("lead", constant_text, _divisible, _FIELDS)
