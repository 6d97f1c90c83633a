"""What the core raises when it cannot use what it was given.

A refusal carries a code and quantities, never a sentence: `valleywind.wording` turns it into one.
"""

from collections.abc import Callable, Mapping
from typing import TypeVar

T = TypeVar("T")


class Refusal(ValueError):
    """Input that cannot be used: which field, what stood there, and why as a code with quantities. others: what is
    refused at further fields of the same record."""

    others: "tuple[Refusal, ...]" = ()

    def __init__(self, code: str, field: str, value: object = None, **quantities: object) -> None:
        super().__init__(f"{field}: {code} ({value!r})")
        self.code = code
        self.field = field
        self.value = value
        self.quantities: Mapping[str, object] = quantities

    def under(self, field: str) -> "Refusal":
        """The same refusal seen from outside, where the field goes by another name."""
        return Refusal(self.code, field, self.value, **self.quantities)


class Refusals:
    """What is refused of a record, field by field, so that all of it is told at once."""

    def __init__(self) -> None:
        self._refused: list[Refusal] = []

    def read(self, reader: Callable[[], T], otherwise: T) -> T:
        """What a reader gives; where it refuses, that is noted and `otherwise` stands for it."""
        try:
            return reader()
        except Refusal as refused:
            self.refuse(refused)
            return otherwise

    def refuse(self, refused: Refusal) -> None:
        """Note a refusal."""
        self._refused += [refused, *refused.others]

    def raise_all(self) -> None:
        """Raise what was refused, the first with all others; nothing where nothing was."""
        if self._refused:
            first, *others = self._refused
            first.others = tuple(others)
            raise first
