"""Parts that a machine may have on record, kept as they are typed, and the kinds of machine that have them."""

import json
from collections.abc import Callable
from dataclasses import dataclass, fields
from functools import lru_cache
from typing import Any, Generic, TypeVar

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.box_record import TypedBox
from valleywind.core.trains.quadrant import Part
from valleywind.core.trains.quadrant_record import Source, TypedQuadrant, TypedSlot
from valleywind.core.units import Unit, parse_length, spell
from valleywind.shop.machines import family as family_of
from valleywind.shop.models import MachineRow

T = TypeVar("T")
K = TypeVar("K")


@dataclass(frozen=True)
class RecordPart(Generic[T, K]):
    """A part that a machine may have on record. name: in the file, and in requests; typed: its fields as typed, and
    how they are read; lacking: what is refused where a machine has none; boxes: those for its change wheels."""

    name: str
    typed: type[T]
    read: Callable[[T, WheelFamily | None], K]
    lacking: Callable[[MachineRow], Refusal]
    boxes: tuple[str, ...] = ()


@dataclass(frozen=True)
class Kind:
    """What a machine may be beside a lathe: the parts that it always has, and those it may have."""

    name: str
    has: tuple[RecordPart[Any, Any], ...]
    may_have: tuple[RecordPart[Any, Any], ...] = ()


def has(row: MachineRow, part: RecordPart[Any, Any]) -> bool:
    """Whether a machine has this part on record."""
    return part.name in row.records


def as_typed(row: MachineRow, part: RecordPart[T, K]) -> T:
    """A part as it was typed. Raises what the part lacks."""
    return _unpacked(part, _packed(row, part))


def part_of(row: MachineRow, part: RecordPart[T, K]) -> K:
    """A part as the core knows it; the same text is read once. Raises what the part lacks."""
    known: K = _read(part, _packed(row, part), family_of(row.family) if row.family else None)
    return known


def _packed(row: MachineRow, part: RecordPart[Any, Any]) -> str:
    """All that is in the file of a part, with its boxes."""
    kept = row.records.get(part.name)
    if kept is None:
        raise part.lacking(row)
    boxes = {
        one.box: {"quadrant": one.quadrant, "turns": one.turns, "lever": one.lever, "posts": one.posts}
        for one in row.gearboxes
        if one.box in part.boxes
    }
    return json.dumps([kept.typed, boxes])


def _unpacked(part: RecordPart[T, Any], packed: str) -> T:
    typed, boxes = json.loads(packed)
    names = {f.name for f in fields(part.typed)}  # type: ignore[arg-type]
    more = {"boxes": {box: _box(**one) for box, one in boxes.items()}} if part.boxes else {}
    return part.typed(**{name: text for name, text in typed.items() if name in names}, **more)


@lru_cache(maxsize=64)
def _read(part: RecordPart[Any, Any], packed: str, family: WheelFamily | None) -> Any:
    return part.read(_unpacked(part, packed), family)


# Collars were typed as radii once; now they are asked for as diameters.
_ONCE_RADII = {"boss_first": "collar_first", "boss_stud": "collar_stud", "boss_last": "collar_last"}


def _doubled(radius: str) -> str:
    try:
        return spell(2 * parse_length(radius, Unit.MM).mm) if radius.strip() else ""
    except Refusal:
        return radius


def _box(quadrant: dict[str, Any], turns: str, lever: bool, posts: str) -> TypedBox:
    facts = dict(quadrant)
    slots = tuple(TypedSlot(**slot) for slot in facts.pop("slots", ()))
    sources = {Part(part): Source(source) for part, source in facts.pop("sources", {}).items()}
    for old, name in _ONCE_RADII.items():
        if old in facts:
            facts[name] = _doubled(facts.pop(old))
    return TypedBox(TypedQuadrant(**facts, slots=slots, sources=sources), turns, lever, posts)
