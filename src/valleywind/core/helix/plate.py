"""A mill's table of leads: each with its worm pair and wheels.

Wheels × pair = R p/L, so each line gives L × ratio, which is R p by the pair's own ratio. R: crank turns of the head
for one turn of the work; p: lead of the table's screw.
"""

import re
from collections.abc import Iterable
from dataclasses import dataclass
from fractions import Fraction
from functools import cache

from valleywind.core.plate.consensus import APPROXIMATE, Target
from valleywind.core.plate.plate import Plate, PlateCraft, find_plate
from valleywind.core.plate.text import TargetGrammar
from valleywind.core.refusal import Refusal
from valleywind.core.units import MM_PER_INCH, parse_length, spell

_NUMBER = r"(?:\d+(?:[.,]\d+)?|[.,]\d+)"
_UNIT = r"(?:mm|inch(?:es)?|in\b\.?|\")"
_GRAMMAR = TargetGrammar(
    re.compile(rf"(?:lead\s+)?{_NUMBER}(?:\s*{_UNIT}|(?![\d.,]*\s*(?:[/+]|:\d)|\d))", re.IGNORECASE),
    re.compile(rf"(?:lead\s+)?{_NUMBER}\s*{_UNIT}", re.IGNORECASE),
    {"lead": "", "leads": "", "mm": "mm", "inch": "inch", "inches": "inch", "in": "inch"},
)
LEAD = "lead"
_HEADS = (Fraction(40), Fraction(60), Fraction(80), Fraction(90), Fraction(1))
_SCREWS = tuple(
    [(Fraction(p), f"{p} mm") for p in (6, 5, 4, 8, 10, 3)]
    + [(MM_PER_INCH / n, f"{n} tpi") for n in (4, 5, 2, 8, 6, 10)]
)


def read_plate(text: str, held: Iterable[int] = ()) -> Plate:
    """A mill's table of leads. Raises Refusal: those of `find_plate`."""
    return find_plate(text, _CRAFT, held)


@dataclass(frozen=True)
class PlateMill:
    """A mill that a constant belongs to. screw: as a record takes it."""

    screw: str
    head: Fraction


def mills_of(constant: Fraction) -> tuple[PlateMill, ...]:
    """The usual screws and heads whose product R p is this, mm, the most usual first."""
    return tuple(PlateMill(name, head) for head in _HEADS for screw, name in _SCREWS if screw * head == constant)


@cache
def _ranks() -> dict[Fraction, int]:
    ranks: dict[Fraction, int] = {}
    for h, head in enumerate(_HEADS):
        for s, (screw, _) in enumerate(_SCREWS):
            ranks.setdefault(head * screw, 3 * h + s)
    return ranks


@cache
def _target(typed: str, unit: str) -> Target:
    text = re.sub(r"^lead\s+", "", typed.strip(), flags=re.IGNORECASE).lower()
    bare = re.fullmatch(_NUMBER, text)
    length = parse_length(f"{text} {unit}" if bare else text, field="lines")
    if length.mm <= 0:
        raise Refusal("not_positive", "lines", typed)
    inch = not text.endswith("mm") and (not bare or unit == "inch")
    return Target(typed, LEAD, 1 / length.mm, "inch" if inch else "metric")


def _unusual(_kind: str, constant: Fraction) -> int | None:
    """The constant of a line is told the other way up: 1/(R p)."""
    return _ranks().get(1 / constant)


def _near(_kind: str, constant: Fraction) -> Iterable[Fraction]:
    return [1 / k for k in _ranks() if abs(1 / (k * constant) - 1) <= APPROXIMATE]


def _others(target: Target) -> Iterable[Target]:
    """Leads in round figures."""
    unit = MM_PER_INCH if target.system == "inch" else Fraction(1)
    lead = 1 / (target.per * unit)
    rounds = {Fraction(n) for n in (round(lead * by) for by in (Fraction(1, 10), Fraction(1, 2), 2, 10)) if n}
    name = '"' if target.system == "inch" else " mm"
    return [Target(f"{spell(r)}{name}", LEAD, 1 / (r * unit), target.system) for r in sorted(rounds)]


_CRAFT = PlateCraft(
    _GRAMMAR, LEAD, ("mm", "inch"), lambda line, bare: _target(line.target, line.unit or bare), _unusual, _others,
    _near, divisible=True,
)  # fmt: skip
