"""What divides, on record: heads, rotary tables, spin indexers, collet blocks, and the head on a mill, in words."""

from dataclasses import replace

from valleywind.core.dividing.heads import TypedHead
from valleywind.core.trains.model import spell_stock
from valleywind.core.units import spell
from valleywind.wording.effort import HOLDING, Weight
from valleywind.wording.machines import angle
from valleywind.wording.record_form import Entry, Facts, Group, KindWords, PartWords, Words, one_fact


def _plates(entry: Entry) -> Facts:
    sides = entry.of.sides
    return [(f"Plate side {n}" if len(sides) > 1 else "Plate", " ".join(str(c.holes) for c in side))
            for n, side in enumerate(sides, start=1)]  # fmt: skip


def _differential(entry: Entry) -> str | None:
    if not entry.of.geared:
        return None
    return f"gears {spell_stock(entry.of.gears)}" if entry.of.gears else "gears from the rack"


def _part(title: str, ratio: str = "40:1, 60:1", direct: Words | None = None) -> PartWords:
    """What divides. ratio: an example; direct: the holes on the spindle, where they are no holes."""
    holes = direct or Words("direct", "Holes on the spindle itself", "24")
    note = (
        "Holes as they stand on the plates: every side by itself, sides separated by /. A circle’s diameter in mm "
        "goes behind an @."
    )
    rows = (
        (
            Words(
                "ratio", "Crank turns per turn", ratio,
                facts=one_fact("Worm", lambda e: f"{spell(e.read)} : 1" if e.read else None),
            ),
            Words(
                "reads", "Graduated to", "1°, 5', 10\"",
                facts=one_fact("Reads to", lambda e: angle(e.read) if e.read else None),
            ),
        ),
        (Words("plates", "Plates", "15 18 21 29 37 43@92 / 16 19 23", facts=_plates, long=True),),
        (
            replace(
                holes, facts=one_fact("Direct", lambda e: " ".join(map(str, e.read)) + " holes" if e.read else None)
            ),
            Words(
                "gears", "Its own gears", "24x2 28 32 40 44 48 56 64 72 86 100", long=True,
                facts=one_fact("Differential", _differential),
            ),
        ),
        (
            Words(
                "geared", "The plate can be geared to the spindle (differential indexing)", tick=True,
                facts=lambda _: [],
            ),
        ),
    )  # fmt: skip
    return PartWords("head", "a dividing head", "What it divides with", TypedHead, (Group(title, rows, note),))


HEAD = _part("What it divides with")
ON_A_MILL = _part("The head on it, if there is one")
_NO_WORM = "empty: no worm"
DIVIDING_HEAD = KindWords("head", "head", "a dividing head", "Worm, plates, gears of its own.", (HEAD,))
ROTARY_TABLE = KindWords(
    "rotary table",
    "rotary-table",
    "a rotary table",
    "A worm under a table, with plates or read by its graduations.",
    (HEAD,),
)
SPIN_INDEXER = KindWords(
    "spin indexer",
    "spin-indexer",
    "a spin indexer",
    "Holes on the spindle itself, and a second row for the degrees between.",
    (_part("What it divides with", _NO_WORM, Words("direct", "Holes on the spindle itself", "36")),),
)
COLLET_BLOCK = KindWords(
    "collet block",
    "collet-block",
    "a collet block",
    "A block with 4 or 6 flats, turned over in the vice.",
    (_part("What it divides with", _NO_WORM, Words("direct", "Flats", "4 6")),),
)
WEIGHTS = (
    Weight("plate", "Change the plate, or turn it over"), Weight("pin", "Set the pin to another circle"),
    Weight("first", "A gear on the spindle"), Weight("stud", "A gear on a stud"),
    Weight("last", "A gear on the plate"), HOLDING,
)  # fmt: skip
"""What a change at each of its places weighs."""
