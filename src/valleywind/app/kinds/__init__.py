"""The kinds of machine, each in a module of its own. Whatever is the same for all of them is asked here."""

from typing import Any

from sqlalchemy.orm import Session

from valleywind.app.kinds import head, hobber, lathe, mill
from valleywind.app.kinds.craft import Craft
from valleywind.app.kinds.kind import Mounting, RecordKind, SetUpText, TrainKind, WorkKind
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.ask_line import Station
from valleywind.shop import record_parts
from valleywind.shop.models import MachineRow
from valleywind.shop.record_parts import RecordPart
from valleywind.wording.effort import Weight
from valleywind.wording.numbers import Units
from valleywind.wording.record_form import Facts, PartWords, part_facts

KINDS = (lathe.LATHE, head.HEAD, hobber.HOBBER, mill.MILL)

RECORDS: dict[str, RecordKind] = {one.kind.name: one for kind in KINDS for one in kind.records}
"""What may have a record beside a lathe, by name."""
WORK: tuple[WorkKind, ...] = tuple(kind.work for kind in KINDS)
TRAINS: tuple[TrainKind, ...] = tuple(kind for kind in WORK if isinstance(kind, TrainKind))
PARTS: dict[str, RecordPart[Any, Any]] = {
    part.name: part for one in RECORDS.values() for part in (*one.kind.has, *one.kind.may_have)
}
PART_WORDS: dict[str, PartWords] = {}
for _record in RECORDS.values():
    for _words in _record.words.parts:
        PART_WORDS.setdefault(_words.name, _words)


def record_kind(name: str, row: MachineRow | None = None) -> RecordKind:
    """The kind of this name. Raises Refusal `unknown_kind`, also where a known machine is a lathe."""
    if name not in RECORDS or (row is not None and row.lathe is not None):
        raise Refusal("unknown_kind", "kind", name, known=list(RECORDS))
    return RECORDS[name]


def facts_of(row: MachineRow, units: Units) -> Facts:
    """Everything on record of a machine, in words."""
    facts = lathe.facts(row, units) if row.lathe else []
    for part in PARTS.values():
        if record_parts.has(row, part):
            typed, known = record_parts.as_typed(row, part), record_parts.part_of(row, part)
            facts += part_facts(PART_WORDS[part.name], typed, known, units)
    return facts


def mounted_on(row: MachineRow) -> SetUpText | None:
    """What is on a machine; None for nothing, and where no train goes on."""
    kind = _trains(row)
    return kind.mounted(row) if kind else None


def mounting(row: MachineRow, train: str | None) -> Mounting:
    """A set-up of this machine as requests name it, None for a bare machine. Raises Refusal as its reader does, and
    `takes_no_trains`."""
    kind = _trains(row)
    if kind is None:
        raise Refusal("takes_no_trains", "machine", row.name)
    return kind.mounting(row, train)


def planned_at(row: MachineRow) -> Station | None:
    """The station that plans trains for a machine; None for none."""
    kind = _trains(row)
    return kind.station if kind else None


def station_on(row: MachineRow) -> Station | None:
    """The station that does the work of a machine; None for none."""
    return next((kind.station for kind in WORK if kind.is_one(row)), None)


def weights_of(row: MachineRow) -> tuple[Weight, ...]:
    """What a change at each place of a machine weighs, in the order in which it is asked for."""
    return next((kind.weights for kind in WORK if kind.is_one(row)), ())


def craft_of(session: Session, row: MachineRow) -> Craft[Any, Any]:
    """A machine as a day is planned on it. Raises Refusal `plans_nothing`, and what it lacks to be planned for."""
    for kind in WORK:
        if kind.is_one(row):
            return kind.craft(session, row)
    raise Refusal("plans_nothing", "machine", row.name)


def machine_in(station: Station, line: str) -> str:
    """The machine that a line names itself; empty for none."""
    return next((kind.machine_in(line) for kind in WORK if kind.station is station), "")


def _trains(row: MachineRow) -> TrainKind | None:
    return next((kind for kind in TRAINS if kind.is_one(row)), None)
