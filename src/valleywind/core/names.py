"""Names and places as people give them: one line of characters that can be seen."""

import unicodedata

from valleywind.core.refusal import Refusal

# Of the characters that show nothing only the joiners of words belong into one.
_JOINERS = {"\u200c", "\u200d"}


def check_name(text: str, field: str) -> str:
    """The text, which has nothing in it that cannot be seen: no line break, no control, no mark that turns the reading
    direction, no half of a character. Raises Refusal `hidden_character` (field) with its code."""
    for character in text:
        if unicodedata.category(character) in ("Cc", "Cf", "Cs", "Zl", "Zp") and character not in _JOINERS:
            raise Refusal("hidden_character", field, f"U+{ord(character):04X}")
    return text
