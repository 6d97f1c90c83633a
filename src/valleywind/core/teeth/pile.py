"""A pile of wheels on the bench, typed as fast as they are counted: `40 40 45 50 worn 20`."""

import re
from collections import Counter
from dataclasses import dataclass
from enum import StrEnum

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH

MOST_OF_ONE_COUNT = 99


class Condition(StrEnum):
    """In what state a wheel is. A chipped one is not planned with."""

    GOOD = "good"
    WORN = "worn"
    CHIPPED = "chipped"
    SUSPECT = "suspect"

    @property
    def usable(self) -> bool:
        return self is not Condition.CHIPPED


@dataclass(frozen=True)
class Entry:
    """Wheels that are alike, and how many."""

    teeth: int
    condition: Condition
    count: int


def parse_pile(text: str, field: str = "wheels") -> list[Entry]:
    """Wheels as typed: tooth numbers, doubles twice or as `40x2`, one of each from `24-65`, a condition behind the
    wheel it is about.

    Raises Refusal: `empty`, `not_a_wheel`, `range_backwards`, `teeth_out_of_range`, `too_many_of_one`,
    `condition_of_nothing`.
    """
    held: Counter[tuple[int, Condition]] = Counter()
    last: tuple[int, Condition] | None = None
    for word in re.split(r"[\s,;]+", text.replace("×", "x").strip()):
        if not word:
            continue
        if word.lower() in set(Condition):
            if last is None:
                raise Refusal("condition_of_nothing", field, word)
            held[last] -= 1
            last = (last[0], Condition(word.lower()))
            held[last] += 1
            continue
        if every := re.fullmatch(r"(\d{1,4})[-–](\d{1,4})", word, re.ASCII):
            for teeth in _range(int(every[1]), int(every[2]), field, word):
                held[teeth, Condition.GOOD] += 1
            last = None
            continue
        match = re.fullmatch(r"(\d{1,4})(?:[x*](\d{1,3}))?", word, re.ASCII)
        if not match:
            raise Refusal("not_a_wheel", field, word)
        teeth, count = int(match[1]), int(match[2] or 1)
        if not FEWEST_TEETH <= teeth <= MOST_TEETH:
            raise Refusal("teeth_out_of_range", field, word, fewest=FEWEST_TEETH, most=MOST_TEETH)
        last = (teeth, Condition.GOOD)
        held[last] += count
        if not 0 < held[last] <= MOST_OF_ONE_COUNT:
            raise Refusal("too_many_of_one", field, word, most=MOST_OF_ONE_COUNT)
    entries = [Entry(teeth, condition, count) for (teeth, condition), count in sorted(held.items()) if count > 0]
    if not entries:
        raise Refusal("empty", field, text)
    return entries


def _range(first: int, last: int, field: str, word: str) -> range:
    for teeth in (first, last):
        if not FEWEST_TEETH <= teeth <= MOST_TEETH:
            raise Refusal("teeth_out_of_range", field, word, fewest=FEWEST_TEETH, most=MOST_TEETH)
    if first > last:
        raise Refusal("range_backwards", field, word, first=first, last=last)
    return range(first, last + 1)
