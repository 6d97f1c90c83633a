"""The kinds of machine: what each has on record, and what is on it. Whatever is the same for all of them is asked here.

Two lists, for what has a record and for what plans trains: a dividing head has the one and need not pretend the other.
"""

from collections.abc import Callable
from typing import NamedTuple

from valleywind.core.teeth.said import Station
from valleywind.core.units import MM_PER_INCH, spell
from valleywind.shop import hobbers, machines, mills, records
from valleywind.shop.models import LatheRow, MachineRow
from valleywind.wording import machines as words
from valleywind.wording.helix.answers import set_up_text
from valleywind.wording.hobbing.boxes import BOXES
from valleywind.wording.numbers import Units
from valleywind.wording.records import PARTS, Facts, part_facts
from valleywind.wording.trains import train_text


class Mounted(NamedTuple):
    """What is on a machine: as requests name it, and in words."""

    name: str
    text: str


class Planned(NamedTuple):
    """A kind of machine that trains are planned for: its station, which machines are of it, and what is on one."""

    station: Station
    there: Callable[[MachineRow], bool]
    mounted: Callable[[MachineRow], Mounted | None]


def facts_of(row: MachineRow, units: Units) -> Facts:
    """Everything on record of a machine, in words."""
    facts = _of_a_lathe(row, units) if row.lathe else []
    for part in records.PARTS:
        if records.has(row, part):
            facts += part_facts(PARTS[part.name], records.as_typed(row, part), records.known(row, part), units)
    return facts


def mounted_on(row: MachineRow) -> Mounted | None:
    """What is on a machine; None for nothing, and where no train goes on."""
    return next((kind.mounted(row) for kind in PLANNED if kind.there(row)), None)


def planned_at(row: MachineRow) -> Station | None:
    """The station that plans trains for a machine; None for none."""
    return next((kind.station for kind in PLANNED if kind.there(row)), None)


def screw_text(lathe: LatheRow) -> str:
    """The lead screw as it was stated, so that a field takes it back."""
    lead = lathe.screw_lead_mm
    return f"{spell(MM_PER_INCH / lead)} tpi" if lathe.screw_stated == "tpi" else f"{spell(lead)} mm"


def _of_a_lathe(row: MachineRow, units: Units) -> Facts:
    assert row.lathe is not None
    left = row.lathe.screw_hand == "left"
    facts = words.lathe_facts(machines.lathe(row), screw_text(row.lathe), left, units)
    return facts + words.quadrant_known(machines.quadrant_facts(row.quadrant), units)


def _on_a_lathe(row: MachineRow) -> Mounted | None:
    on = machines.mounted(row)
    return Mounted(on.name(machines.lathe(row)), train_text(on.train)) if on else None


def _on_a_hobber(row: MachineRow) -> Mounted | None:
    hobber = records.hobber(row)
    said = [f"{BOXES[box]} {train_text(train)}" for box, train in hobbers.on_now(row, hobber).trains.items()]
    return Mounted(hobbers.name_of(row, hobber), ", ".join(said)) if said else None


def _on_a_mill(row: MachineRow) -> Mounted | None:
    on = mills.on_now(row)
    return Mounted(on.name, set_up_text(on)) if on else None


PLANNED = (
    Planned(Station.LATHE, lambda row: row.lathe is not None, _on_a_lathe),
    Planned(Station.HOBBER, lambda row: records.has(row, records.HOBBER), _on_a_hobber),
    Planned(Station.MILL, lambda row: records.has(row, records.MILL), _on_a_mill),
)
