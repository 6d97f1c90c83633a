"""The record of a machine that is no lathe, in words: what each field is called, how it is typed, what is told of it.

One line for each field. The form, the machine's card and the description of the interface all come from here.
"""

import re
from collections.abc import Callable
from dataclasses import dataclass
from typing import Any, NamedTuple

from valleywind.core.trains.quadrant_record import read_quadrant
from valleywind.wording.machines import post_text, quadrant_known
from valleywind.wording.numbers import Units, length, short_length
from valleywind.wording.trains import ShaftNames

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

    def card_facts(self, entry: Entry) -> Facts:
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
    """A part that a machine may have. a: what has it, with its article; typed: what holds its fields; boxes_title,
    boxes_note: over its boxes."""

    name: str
    a: str
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
        facts += field.card_facts(entry)
    for box in words.boxes:
        if box.box in typed.boxes:
            facts += _box_facts(box, typed.boxes[box.box].quadrant, getattr(known, "posts", {}).get(box.box), units)
    return facts


def _box_facts(box: BoxWords, quadrant: Any, posts: Any, units: Units) -> Facts:
    facts = quadrant_known(read_quadrant(quadrant), units, box.shafts.carrier.capitalize())[:1]
    if posts:
        facts.append((f"{box.title} posts", ", ".join(post_text(post, units) for post in posts)))
    return facts


def one_fact(label: str, text: Callable[[Entry], str | None]) -> Callable[[Entry], Facts]:
    """One fact, told where there is a text for it."""
    return lambda entry: [(label, value)] if (value := text(entry)) else []


def size_fact(label: str) -> Callable[[Entry], Facts]:
    """A length."""
    return one_fact(label, lambda e: None if e.read is None else length(e.read, e.units))


def short_fact(label: str) -> Callable[[Entry], Facts]:
    """A length without the other unit."""
    return one_fact(label, lambda e: None if e.read is None else short_length(e.read, e.units))


# What ends a length that says its unit itself.
_UNIT_AT_END = re.compile(r"(mm|cm|\bm|in|inch|inches|\"|″|ft|tpi|per inch)$", re.IGNORECASE)


def in_mm(entry: Entry) -> str:
    """A length as it was typed; a figure alone is in millimetres and says so."""
    text = entry.text.strip()
    if not text:
        return "not known"
    return text if _UNIT_AT_END.search(text) else f"{text} mm"


def turns_either_way(entry: Entry) -> str:
    """How far something turns either way."""
    if entry.read is None:
        return "not known"
    return f"{entry.text.strip('° ')}° either way" if entry.read else "not at all"


NOT_KNOWN = ("", "not known")
