"""How deep at once: one pass for small teeth in soft stuff, else three, the last of them light."""

import re
from fractions import Fraction

from valleywind.core.making.materials import MATERIALS, Stuff
from valleywind.core.refusal import Refusal
from valleywind.core.units import parse_length

MOST_PASSES = 8
_SHARES = (Fraction(60, 100), Fraction(90, 100), Fraction(1))
# Modules up to which one pass goes to depth, in soft and in hard stuff, and from which it takes one pass more, mm.
_ONE_SOFT, _ONE_HARD, _FOUR_HARD = Fraction(1), Fraction(1, 2), Fraction(3)


def usual_passes(depth: float, module: Fraction, stuff: Stuff) -> tuple[float, ...]:
    """Depths from touching, one for each pass, to a hundredth of a mm; the last is the whole depth."""
    soft = MATERIALS[stuff].soft
    if module <= (_ONE_SOFT if soft else _ONE_HARD):
        return (depth,)
    shares = _SHARES if soft or module < _FOUR_HARD else (Fraction(45, 100), Fraction(75, 100), *_SHARES[1:])
    return (*(round(depth * float(share), 2) for share in shares[:-1]), depth)


def read_passes(text: str, depth: float | None, field: str = "passes") -> tuple[float, ...]:
    """Depths as typed, `2.7 4.1 4.6`, each deeper than the one before and none deeper than `depth`; None for any.

    Raises Refusal: `pass_too_deep`, `passes_not_deeper`, `too_many_passes`, those of lengths.
    """
    depths = [float(parse_length(part, field=field).mm) for part in re.split(r"[\s;]+", text.strip()) if part]
    if len(depths) > MOST_PASSES:
        raise Refusal("too_many_passes", field, len(depths), most=MOST_PASSES)
    for n, one in enumerate(depths):
        # What is typed to a hundredth may lie a little over.
        if depth is not None and one > depth + 0.01:
            raise Refusal("pass_too_deep", field, f"{one:g}", most=f"{depth:.2f}")
        if one <= (depths[n - 1] if n else 0):
            raise Refusal("passes_not_deeper", field, text)
    return tuple(depths)
