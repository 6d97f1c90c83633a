"""What divides, as it is on record: heads, rotary tables, spin indexers, collet blocks, and the head on a mill."""

from dataclasses import replace

from valleywind.core.dividing.heads import Head, TypedHead, read_head
from valleywind.core.refusal import Refusal
from valleywind.core.trains.gearbox import Gearbox
from valleywind.shop.machines import family as family_of
from valleywind.shop.machines import quadrant_facts
from valleywind.shop.models import MachineRow
from valleywind.shop.record_parts import Kind, RecordPart, part_of

HEAD = RecordPart(
    "head", TypedHead, lambda typed, _: read_head(typed), lambda row: Refusal("divides_not", "machine", row.name)
)
DIVIDING_HEAD = Kind("head", (HEAD,))
ROTARY_TABLE = Kind("rotary table", (HEAD,))
SPIN_INDEXER = Kind("spin indexer", (HEAD,))
COLLET_BLOCK = Kind("collet block", (HEAD,))


def head(row: MachineRow) -> Head:
    """What the machine divides with, as the core knows it. Raises Refusal `divides_not`."""
    return replace(part_of(row, HEAD), flats=row.kind == COLLET_BLOCK.name)


def arm(row: MachineRow) -> Gearbox | None:
    """What carries the gears between spindle and plate, where it and the wheels that go on it are on record."""
    if row.quadrant is None or row.family is None:
        return None
    wheels = family_of(row.family)
    return Gearbox(wheels, quadrant_facts(row.quadrant).carrier(float(wheels.module)))
