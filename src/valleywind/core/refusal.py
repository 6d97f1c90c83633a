"""What the core raises when it cannot use what it was given.

A refusal carries a code and quantities, never a sentence: `valleywind.wording` turns it into one.
"""

from collections.abc import Mapping


class Refused(ValueError):
    """Input that cannot be used: which field, what stood there, and why as a code with quantities."""

    def __init__(self, code: str, field: str, value: object = None, **quantities: object) -> None:
        super().__init__(f"{field}: {code} ({value!r})")
        self.code = code
        self.field = field
        self.value = value
        self.quantities: Mapping[str, object] = quantities

    def under(self, field: str) -> "Refused":
        """The same refusal seen from outside, where the field goes by another name."""
        return Refused(self.code, field, self.value, **self.quantities)
