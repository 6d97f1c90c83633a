"""A refusal in words: what is wrong, and what would do."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.refusal import Refusal
from valleywind.core.units import spell


@dataclass(frozen=True)
class Notice:
    """`says`: what is wrong. `would_do`: what to type instead."""

    says: str
    would_do: str


Sentences = Mapping[str, Callable[[Refusal], Notice]]
"""By the code of the refusal."""


def plain(says: str, would_do: str) -> Callable[[Refusal], Notice]:
    """Sentences with the value and the quantities of the refusal in them, fractions spelt."""

    def teller(refused: Refusal) -> Notice:
        values = {"value": refused.value, **refused.quantities}
        texts = {k: spell(Fraction(v)) if isinstance(v, int | Fraction) else str(v) for k, v in values.items()}
        return Notice(says.format(**texts), would_do.format(**texts))

    return teller
