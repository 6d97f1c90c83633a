"""What is on a machine, whatever its kind: as requests and the log name it, and recorded anew."""

from collections.abc import Callable
from dataclasses import dataclass

from sqlalchemy.orm import Session

from valleywind.core.helix import ask as helix
from valleywind.core.helix import plan as helix_plan
from valleywind.core.hobbing import ask as hobbing
from valleywind.core.hobbing.set_up import read_trains, spell_trains
from valleywind.core.lathe import ask as lathe
from valleywind.core.lathe import machine as lathe_machine
from valleywind.core.lathe import thread
from valleywind.shop import hobbers, machines, mills, records
from valleywind.shop.models import MachineRow


@dataclass(frozen=True)
class Mounting:
    """A set-up read for a machine. name: as requests and the log name it, empty for a bare machine; before: the same of
    what is on now; said: an ask in its one spelling, as it was typed where it is none; record: puts it on record."""

    name: str
    before: str
    said: Callable[[str], str]
    record: Callable[[Session, str], None]

    def put(self, session: Session, ask: str) -> None:
        """Record that it is on, and what for; an ask that can be read is kept in its one spelling. Raises Refused
        `wheels_not_held`."""
        self.record(session, self.said(ask))


def read(row: MachineRow, train: str | None) -> Mounting:
    """A set-up of this machine as requests name it, None for a bare machine. Raises Refused as its reader does, and
    `not_a_mill`, `no_table_screw`, `no_head` for a machine that takes none."""
    if row.lathe is not None:
        return _on_a_lathe(row, train)
    return _on_a_hobber(row, train) if records.has(row, records.HOBBER) else _on_a_mill(row, train)


def _on_a_lathe(row: MachineRow, train: str | None) -> Mounting:
    on, before = machines.lathe(row), machines.mounted(row)
    set_up = lathe_machine.read_set_up(train, on) if train is not None else None
    return Mounting(
        set_up.name(on) if set_up else "", before.name(on) if before else "",
        lambda ask: thread.say(one) if (one := lathe.read(ask).ask) else ask,
        lambda session, ask: machines.mount(session, row, set_up, ask),
    )  # fmt: skip


def _on_a_hobber(row: MachineRow, train: str | None) -> Mounting:
    hobber = records.hobber(row)
    trains, known = read_trains(train, hobber) if train is not None else ({}, None)
    return Mounting(
        spell_trains(trains, known) if known else "", hobbers.name_of(row, hobber),
        lambda ask: hobbing.say(one) if (one := hobbing.read(ask).ask) else ask,
        lambda session, ask: hobbers.mount(session, row, trains, known, ask),
    )  # fmt: skip


def _on_a_mill(row: MachineRow, train: str | None) -> Mounting:
    mill, now = records.mill(row), mills.on_now(row)
    drive = helix_plan.drive_of(mill, records.head(row).ratio if records.has(row, records.HEAD) else None)
    set_up = helix_plan.read_set_up(train, drive) if train is not None else None
    return Mounting(
        set_up.name if set_up else "", now.name if now else "",
        lambda ask: helix.say(one) if (one := helix.read(ask).ask) else ask,
        lambda session, ask: mills.mount(session, row, set_up, ask),
    )  # fmt: skip
