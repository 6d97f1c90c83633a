"""What several commands say alike in JSON: `target` for what is wanted, `candidates` for trains, lengths in `…_mm`.

A command that first had other names for them gives both, so that what reads it goes on reading it.
"""

import json
from collections.abc import Iterable, Mapping
from fractions import Fraction
from typing import Any

# A fraction of more digits than this is not one of wheels, but a rounded number with π in it.
_LONGEST_FRACTION = 12


def in_mm(answer: Mapping[str, Any], lengths: Iterable[str]) -> dict[str, Any]:
    """The answer with those of these lengths that it has under `…_mm` too."""
    return {**answer, **{f"{name}_mm": answer[name] for name in lengths if name in answer}}


def as_text(answer: Mapping[str, Any], lengths: Iterable[str] = (), **alike: Any) -> str:
    """The answer as a line of JSON, with its lengths (mm) under `…_mm` too, and what else it has under a common
    name; None for what it does not have."""
    return json.dumps({**in_mm(answer, lengths), **{name: value for name, value in alike.items() if value is not None}})


def ratio_text(value: Fraction) -> str | float:
    """`a/b` for a ratio of whole numbers, a number for one with π or a sine in it."""
    if len(str(value.denominator)) > _LONGEST_FRACTION:
        return float(value)
    return f"{value.numerator}/{value.denominator}"
