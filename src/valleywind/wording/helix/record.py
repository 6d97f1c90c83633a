"""A mill on record, in words."""

from fractions import Fraction

from valleywind.core.helix.machine import LEAD_BOX, PairsAt, Side, TypedMill
from valleywind.wording.effort import HOLDING, Weight, of_train
from valleywind.wording.heads import ON_A_MILL
from valleywind.wording.numbers import Units, listed, short_length
from valleywind.wording.record_form import (
    NOT_KNOWN,
    BoxWords,
    Group,
    KindWords,
    PartWords,
    Words,
    in_mm,
    one_fact,
    short_fact,
    turns_either_way,
)  # fmt: skip
from valleywind.wording.trains import LEAD_SHAFTS

_AT = {PairsAt.BEFORE: " (before the wheels)", PairsAt.AFTER: " (after the wheels)", None: ""}


def _two(mm: tuple[Fraction, Fraction], units: Units, between: str) -> str:
    one, other = (short_length(size, units) for size in mm)
    return f"{one}{between}{other}"


MILL = PartWords(
    "mill",
    "a mill",
    "Table, head, arbors and lead attachment of a mill; empty where it is not known",
    TypedMill,
    (
        Group(
            "Its table",
            (
                (
                    Words("screw", "Table screw", "6 mm, 4 tpi", facts=one_fact("Table screw", in_mm)),
                    Words(
                        "swing", "Table swings, ± °", "45; 0 for a plain one", numeric=True,
                        facts=one_fact("Table swings", turns_either_way),
                    ),
                ),
                (
                    Words(
                        "table", "Length x width", "1000 x 240 mm",
                        facts=one_fact(
                            "Table", lambda e: f"{_two(e.read, e.units, ' long, ')} wide" if e.read else None
                        ),
                    ),
                    Words("travel", "Travel along", "560 mm", facts=short_fact("Table travels")),
                ),
                (
                    Words(
                        "saddle", "Column to the table’s middle, near to far", "150 to 400 mm",
                        facts=one_fact(
                            "Column to the table’s middle",
                            lambda e: _two(e.read, e.units, " to ") if e.read else None,
                        ),
                    ),
                ),
                (
                    Words(
                        "head_at", "The dividing head stands at", facts=lambda _: [],
                        options=((Side.RIGHT.value, "the right-hand end"), (Side.LEFT.value, "the left-hand end")),
                    ),
                ),
            ),
        ),
        Group(
            "Its cutters’ side",
            (
                (
                    Words(
                        "arbors", "Arbors reach from the column", "220, 320, 460 mm", long=True,
                        facts=one_fact(
                            "Arbors reach",
                            lambda e: listed([short_length(mm, e.units) for mm in e.read], "or") if e.read else None,
                        ),
                    ),
                    Words(
                        "swivel", "Cutter head swivels, ± °", "90; 0 for none", numeric=True,
                        facts=one_fact("Cutter head swivels", turns_either_way),
                    ),
                ),
            ),
        ),
        Group(
            "Lead attachment",
            (
                (
                    Words(
                        "pairs", "Worm pairs", "1:2, 1:10, 1:40", long=True,
                        facts=one_fact(
                            "Lead attachment, worm pairs", lambda e: e.text + _AT[e.of.pairs_at] if e.read else None
                        ),
                    ),
                ),
                (
                    Words(
                        "pairs_at", "The pairs lie", facts=lambda _: [],
                        options=(
                            NOT_KNOWN,
                            (PairsAt.BEFORE.value, "between table screw and wheels"),
                            (PairsAt.AFTER.value, "between wheels and head"),
                        ),
                    ),
                ),
            ),
            "Turns out to turns in, as they stand in the manual. A pair that goes in only so: 1:40 one way.",
        ),
    ),
    (
        BoxWords(
            LEAD_BOX, "Lead quadrant", "A right-hand helix comes out with", "A reversing lever turns it the other way",
            LEAD_SHAFTS,
        ),
    ),
    "Lead quadrant",
    "Where the change wheels go between table and head; not the arm of the head’s own gears.",
)  # fmt: skip
KIND = KindWords(
    "mill",
    "mill",
    "a mill",
    "What turns the work while the table moves: its screw, its lead attachment, the head on it.",
    (MILL, ON_A_MILL),
)
WEIGHTS = (
    *of_train(LEAD_SHAFTS), Weight("pair", "Change the worm pair"), Weight("tool", "Change the cutter"), HOLDING,
)  # fmt: skip
"""What a change at each of its places weighs."""
