"""A gear hobber's record: the constants that its trains are worked out from."""

import re
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.refusal import Refused
from valleywind.core.units import MM_PER_INCH, PI, parse_number


@dataclass(frozen=True)
class IndexConstant:
    """Ratio of the index train times the teeth per start, from this count of teeth on."""

    constant: Fraction
    from_teeth: int = 0


@dataclass(frozen=True)
class Hobber:
    """index: constants, the one for the smallest counts first. feed: mm per table turn at a train of 1 : 1.
    differential: mm; the train is this times sin β over m_n and starts; None where the machine has no differential.
    swivel: how far the hob head turns either way, degrees."""

    index: tuple[IndexConstant, ...]
    feed: Fraction
    differential: Fraction | None = None
    swivel: Fraction | None = None

    def index_for(self, teeth: int) -> Fraction:
        """The index constant that holds for this count."""
        return max((c for c in self.index if c.from_teeth <= teeth), key=lambda c: c.from_teeth).constant


@dataclass(frozen=True)
class TypedHobber:
    """As typed: `24, 48 from 97`; `0.75 mm`; `25/π mm`; `45`."""

    index: str = ""
    feed: str = ""
    differential: str = ""
    swivel: str = ""


def read_hobber(typed: TypedHobber) -> Hobber:
    """Read every field. Raises Refused at the field: `not_an_index_constant`, `not_positive`, those of numbers."""
    return Hobber(
        _index(typed.index),
        read_constant(typed.feed, "feed"),
        read_constant(typed.differential, "differential") if typed.differential.strip() else None,
        parse_number(typed.swivel.strip().removesuffix("°"), "swivel") if typed.swivel.strip() else None,
    )


def read_constant(text: str, field: str) -> Fraction:
    """A length constant in mm, π allowed: `0.75`, `0.03 in`, `25/π mm`, `8 pi`. Raises Refused `not_positive`."""
    typed = text.strip().lower().replace("π", "pi")
    unit = Fraction(1)
    if found := re.search(r"\s*(mm|inch|in|\")$", typed):
        typed, unit = typed[: found.start()], Fraction(1) if found[1] == "mm" else MM_PER_INCH
    found = re.fullmatch(r"(.*?)\s*([/*×]?)\s*pi", typed)
    number = parse_number(found[1] if found else typed, field)
    if found:
        number = number / PI if found[2] == "/" else number * PI
    if number <= 0:
        raise Refused("not_positive", field, text)
    return number * unit


def _index(text: str) -> tuple[IndexConstant, ...]:
    found = []
    for part in (p.strip() for p in text.split(",")):
        if not part:
            continue
        number, word, teeth = part.partition(" from ")
        constant = parse_number(number, "index")
        if not constant or (word and not re.fullmatch(r"\d{1,4}", teeth.strip(), re.ASCII)):
            raise Refused("not_an_index_constant", "index", part)
        found.append(IndexConstant(constant, int(teeth) if word else 0))
    if not found:
        raise Refused("empty", "index", text)
    found.sort(key=lambda c: c.from_teeth)
    if found[0].from_teeth or len({c.from_teeth for c in found}) < len(found):
        raise Refused("not_an_index_constant", "index", text)
    return tuple(found)
