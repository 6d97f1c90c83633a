"""The records of machines that are no lathes, in words: what each field is called, how it is typed, what is told of it.

One line for each field. The form, the machine's card and the description of the interface all come from here.
"""

import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Any, NamedTuple

from valleywind.core.dividing.heads import TypedHead
from valleywind.core.helix.machine import LEAD_BOX, PairsAt, Side, TypedMill
from valleywind.core.hobbing.machine import Box, FeedTaken, FeedWay, TypedHobber
from valleywind.core.trains.direction import Sense
from valleywind.core.trains.model import spell_stock
from valleywind.core.trains.quadrant_record import read_quadrant
from valleywind.core.units import spell
from valleywind.wording.hobbing.boxes import BOX_SHAFTS, BOXES
from valleywind.wording.machines import angle, post_text, quadrant_known
from valleywind.wording.numbers import Units, length, listed, short_length
from valleywind.wording.trains import LEAD_SHAFTS, ShaftNames

Facts = list[tuple[str, str]]
"""Label and text each."""


class Entry(NamedTuple):
    """A field of a machine that is on record. text: as typed; read: as the core knows it; of: the whole part, read."""

    text: str
    read: Any
    of: Any
    units: Units


@dataclass(frozen=True)
class Words:
    """A field of a record. field: its name; options: words that it may hold, and what they are called; long: over the
    whole width; numeric: a bare figure; tick: yes or no; facts: what the machine's card tells, None for what was typed
    under `fact`, the field's label where that is empty."""

    field: str
    label: str
    example: str = ""
    fact: str = ""
    facts: Callable[[Entry], Facts] | None = None
    options: tuple[tuple[str, str], ...] = ()
    long: bool = False
    numeric: bool = False
    tick: bool = False

    def told(self, entry: Entry) -> Facts:
        """What the card tells of it."""
        if self.facts is not None:
            return self.facts(entry)
        return [(self.fact or self.label, entry.text)] if entry.text.strip() else []


@dataclass(frozen=True)
class Group:
    """Fields under one heading; those of a row stand side by side."""

    title: str
    rows: tuple[tuple[Words, ...], ...]
    note: str = ""


@dataclass(frozen=True)
class BoxWords:
    """A box for change wheels. right_way: what is so with an even or odd number of meshes; lever: what turns
    it the other way."""

    box: str
    title: str
    right_way: str
    lever: str
    shafts: ShaftNames


@dataclass(frozen=True)
class PartWords:
    """A part that a machine may have. typed: what holds its fields; boxes_title, boxes_note: over its boxes."""

    name: str
    what: str
    typed: type
    groups: tuple[Group, ...]
    boxes: tuple[BoxWords, ...] = ()
    boxes_title: str = ""
    boxes_note: str = ""

    @property
    def fields(self) -> dict[str, Words]:
        return {one.field: one for group in self.groups for row in group.rows for one in row}


@dataclass(frozen=True)
class KindWords:
    """What a machine may be beside a lathe. path: in addresses; a: with its article; what: what is on record of it."""

    kind: str
    path: str
    a: str
    what: str
    parts: tuple[PartWords, ...]


def part_facts(words: PartWords, typed: Any, known: Any, units: Units) -> Facts:
    """Everything on record of a part: as it was typed, and as the core knows it."""
    facts = []
    for name, field in words.fields.items():
        text = getattr(typed, name)
        entry = Entry(text if isinstance(text, str) else "", getattr(known, name, None), known, units)
        facts += field.told(entry)
    for box in words.boxes:
        if box.box in typed.boxes:
            facts += _box_facts(box, typed.boxes[box.box].quadrant, getattr(known, "posts", {}).get(box.box), units)
    return facts


def _box_facts(box: BoxWords, quadrant: Any, posts: Any, units: Units) -> Facts:
    facts = quadrant_known(read_quadrant(quadrant), units, box.shafts.carrier.capitalize())[:1]
    if posts:
        facts.append((f"{box.title} posts", ", ".join(post_text(post, units) for post in posts)))
    return facts


def _one(label: str, text: Callable[[Entry], str | None]) -> Callable[[Entry], Facts]:
    """One fact, told where there is a text for it."""
    return lambda entry: [(label, said)] if (said := text(entry)) else []


def _size(label: str) -> Callable[[Entry], Facts]:
    return _one(label, lambda e: None if e.read is None else length(e.read, e.units))


def _short(label: str) -> Callable[[Entry], Facts]:
    return _one(label, lambda e: None if e.read is None else short_length(e.read, e.units))


# What ends a length that says its unit itself.
_UNIT_AT_END = re.compile(r"(mm|cm|\bm|in|inch|inches|\"|″|ft|tpi|per inch)$", re.IGNORECASE)


def _in_mm(entry: Entry) -> str:
    """A length as it was typed; a figure alone is in millimetres and says so."""
    text = entry.text.strip()
    if not text:
        return "not known"
    return text if _UNIT_AT_END.search(text) else f"{text} mm"


def _turns(entry: Entry) -> str:
    """How far something turns either way."""
    if entry.read is None:
        return "not known"
    return f"{entry.text.strip('° ')}° either way" if entry.read else "not at all"


_NOT_KNOWN = ("", "not known")

# A head --------------------------------------------------------------------------------------------------------------


def _plates(entry: Entry) -> Facts:
    sides = entry.of.sides
    return [(f"Plate side {n}" if len(sides) > 1 else "Plate", " ".join(str(c.holes) for c in side))
            for n, side in enumerate(sides, start=1)]  # fmt: skip


def _differential(entry: Entry) -> str | None:
    if not entry.of.geared:
        return None
    return f"gears {spell_stock(entry.of.gears)}" if entry.of.gears else "gears from the rack"


def _divides(title: str, ratio: str = "40:1, 60:1", direct: Words | None = None) -> PartWords:
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
                facts=_one("Worm", lambda e: f"{spell(e.read)} : 1" if e.read else None),
            ),
            Words(
                "reads", "Graduated to", "1°, 5', 10\"",
                facts=_one("Reads to", lambda e: angle(e.read) if e.read else None),
            ),
        ),
        (Words("plates", "Plates", "15 18 21 29 37 43@92 / 16 19 23", facts=_plates, long=True),),
        (
            replace(holes, facts=_one("Direct", lambda e: " ".join(map(str, e.read)) + " holes" if e.read else None)),
            Words(
                "gears", "Its own gears", "24x2 28 32 40 44 48 56 64 72 86 100", long=True,
                facts=_one("Differential", _differential),
            ),
        ),
        (
            Words(
                "geared", "The plate can be geared to the spindle (differential indexing)", tick=True,
                facts=lambda _: [],
            ),
        ),
    )  # fmt: skip
    return PartWords("head", "What it divides with", TypedHead, (Group(title, rows, note),))


HEAD = _divides("What it divides with")

# A hobber ------------------------------------------------------------------------------------------------------------

_FEEDS = {(FeedWay.DOWN,): "down", (FeedWay.UP,): "up", (FeedWay.DOWN, FeedWay.UP): "down or up"}


def _feeds(entry: Entry) -> str:
    taken = "after the differential" if entry.of.taken is FeedTaken.AFTER else "before the differential"
    return _FEEDS[entry.read] + (f", taken {taken}" if entry.of.differential else "")


_RIGHT_WAY = {
    Box.INDEX: "The table turns as a right-hand hob needs it with",
    Box.FEED: "The hob feeds down with",
    Box.DIFFERENTIAL: "A right-hand wheel comes out with",
}
HOBBER = PartWords(
    "hobber",
    "The constants of a hobber, what it has room for, and its boxes",
    TypedHobber,
    (
        Group(
            "Constants",
            (
                (
                    Words(
                        "index", "Index constants", "24 with 40/40, 48 from 97 with 48/24", long=True,
                        fact="Index constant",
                    ),
                ),
                (
                    Words("feed", "Feed per table turn at 1 : 1", "0.75 mm", facts=_one("Feed constant", _in_mm)),
                    Words(
                        "differential", "Differential constant", "25/π mm; empty for none",
                        facts=_one("Differential constant", _in_mm),
                    ),
                ),
                (
                    Words(
                        "table", "Table turns, seen from above, with a right-hand hob",
                        options=(_NOT_KNOWN, *((s.value, s.value) for s in (Sense.ANTICLOCKWISE, Sense.CLOCKWISE))),
                        facts=_one(
                            "Table turns",
                            lambda e: f"{e.read.value} from above, with a right-hand hob" if e.read else "not known",
                        ),
                    ),
                ),
                (
                    Words(
                        "feeds", "Hob feeds", options=(("down", "down"), ("up", "up"), ("both", "down or up")),
                        facts=_one("Feeds", _feeds),
                    ),
                    Words(
                        "taken", "Feed is taken", facts=lambda _: [],
                        options=(("after", "after the differential"), ("before", "before the differential")),
                    ),
                ),
            ),
            "From the machine’s manual or plate. Index: ratio of the index train times the teeth, for one start. Where "
            "the reversing pair is changed, each constant with its pair and from which count.",
        ),
        Group(
            "Room",
            (
                (
                    Words("swivel", "Hob head turns, ± °", "45", numeric=True, facts=_one("Hob head swivels", _turns)),
                    Words("largest", "Largest wheel", "250 mm", facts=_size("Largest wheel")),
                ),
                (
                    Words("travel", "Travel of the hob", "180 mm", facts=_size("Travel")),
                    Words("between", "Between centres", "120 mm", facts=_size("Between centres")),
                ),
            ),
        ),
    ),
    tuple(
        BoxWords(
            box.value, name.capitalize(), _RIGHT_WAY[box], "A lever or reversing gear turns it the other way",
            BOX_SHAFTS[box],
        )
        for box, name in BOXES.items()
    ),
    "Boxes",
    "All boxes take wheels from the one set.",
)  # fmt: skip

# A mill --------------------------------------------------------------------------------------------------------------

_AT = {PairsAt.BEFORE: " (before the wheels)", PairsAt.AFTER: " (after the wheels)", None: ""}


def _two(mm: tuple[Fraction, Fraction], units: Units, between: str) -> str:
    one, other = (short_length(size, units) for size in mm)
    return f"{one}{between}{other}"


MILL = PartWords(
    "mill",
    "Table, head, arbors and lead attachment of a mill; empty where it is not known",
    TypedMill,
    (
        Group(
            "Its table",
            (
                (
                    Words("screw", "Table screw", "6 mm, 4 tpi", facts=_one("Table screw", _in_mm)),
                    Words(
                        "swing", "Table swings, ± °", "45; 0 for a plain one", numeric=True,
                        facts=_one("Table swings", _turns),
                    ),
                ),
                (
                    Words(
                        "table", "Length x width", "1000 x 240 mm",
                        facts=_one("Table", lambda e: f"{_two(e.read, e.units, ' long, ')} wide" if e.read else None),
                    ),
                    Words("travel", "Travel along", "560 mm", facts=_short("Table travels")),
                ),
                (
                    Words(
                        "saddle", "Column to the table’s middle, near to far", "150 to 400 mm",
                        facts=_one(
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
                        facts=_one(
                            "Arbors reach",
                            lambda e: listed([short_length(mm, e.units) for mm in e.read], "or") if e.read else None,
                        ),
                    ),
                    Words(
                        "swivel", "Cutter head swivels, ± °", "90; 0 for none", numeric=True,
                        facts=_one("Cutter head swivels", _turns),
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
                        facts=_one(
                            "Lead attachment, worm pairs", lambda e: e.text + _AT[e.of.pairs_at] if e.read else None
                        ),
                    ),
                ),
                (
                    Words(
                        "pairs_at", "The pairs lie", facts=lambda _: [],
                        options=(
                            _NOT_KNOWN,
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

PARTS: Mapping[str, PartWords] = {part.name: part for part in (HEAD, HOBBER, MILL)}
_NO_WORM = "empty: no worm"
KINDS = (
    KindWords("head", "head", "a dividing head", "Worm, plates, gears of its own.", (HEAD,)),
    KindWords(
        "rotary table", "rotary-table", "a rotary table",
        "A worm under a table, with plates or read by its graduations.", (HEAD,),
    ),
    KindWords(
        "spin indexer", "spin-indexer", "a spin indexer",
        "Holes on the spindle itself, and a second row for the degrees between.",
        (_divides("What it divides with", _NO_WORM, Words("direct", "Holes on the spindle itself", "36")),),
    ),
    KindWords(
        "collet block", "collet-block", "a collet block", "A block with 4 or 6 flats, turned over in the vice.",
        (_divides("What it divides with", _NO_WORM, Words("direct", "Flats", "4 6")),),
    ),
    KindWords(
        "hobber", "hobber", "a hobber", "Index, feed and differential trains are worked out from its constants.",
        (HOBBER,),
    ),
    KindWords(
        "mill", "mill", "a mill",
        "What turns the work while the table moves: its screw, its lead attachment, the head on it.",
        (MILL, _divides("The head on it, if there is one")),
    ),
)  # fmt: skip
