"""The machines of a shop that divide."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from valleywind.core.dividing import plan
from valleywind.core.dividing.heads import Head
from valleywind.core.dividing.plan import Way, beside_a_lead
from valleywind.core.helix.ask import HelixAsk
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.model import Stock
from valleywind.shop import heads, machines, record_parts
from valleywind.shop.models import MachineRow
from valleywind.wording.numbers import Units
from valleywind.wording.sheet import spacer

# Where nothing says how wide the work is, mm.
_USUAL_ACROSS = 100.0


@dataclass(frozen=True)
class On:
    """A machine that divides, with the wheels that may go between spindle and plate."""

    row: MachineRow
    head: Head
    gears: Stock | None
    arm: Gearbox | None

    def ways(self, divisions: int) -> list[Way]:
        """Every way it has for a count, the best first."""
        return plan.ways(self.head, divisions, self.gears, arm=self.arm)

    def spacer(self, units: Units) -> str:
        """What fills the empty place of an end shaft that carries one gear."""
        return spacer(self.arm.family, units) if self.arm else ""


def dividing_machines(session: Session) -> list[On]:
    """Every machine that divides."""
    return [on_machine(row) for row in machines.machines(session) if record_parts.has(row, heads.HEAD)]


def on_machine(row: MachineRow) -> On:
    """The machine as one that divides. Raises Refusal `divides_not`."""
    head = heads.head(row)
    gears = head.gears or (machines.stock(row) if head.geared and row.family else None)
    return On(row, head, gears, heads.arm(row) if head.geared else None)


def pitch_circle(session: Session, z: int) -> float:
    """Of a wheel of this many teeth for the first lathe; 100 mm where there is none."""
    family = machines.first_family(session)
    return float(machines.family(family).module) * z if family else _USUAL_ACROSS


@dataclass(frozen=True)
class ByMachine:
    """A way of a machine; number: its place among those of the machine; divisions: how many; across: where its error is
    told, mm."""

    on: On
    way: Way
    number: int
    divisions: int
    across: float


def beside_the_lead(row: MachineRow, ask: HelixAsk) -> ByMachine | None:
    """How the head of a mill divides while it is geared for the lead; None where it does not."""
    if ask.teeth is None or ask.teeth < 2:
        return None
    on = on_machine(row)
    simple = beside_a_lead(on.ways(ask.teeth))
    return ByMachine(on, simple[1], simple[0], ask.teeth, ask.across or _USUAL_ACROSS) if simple else None
