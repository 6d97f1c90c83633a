"""Wheels: which family one is asked for of, and which of a machine's box are in no plan."""

from fractions import Fraction

from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.shop import machines, rack
from valleywind.shop.models import MachineRow
from valleywind.wording.rack.rack import left_out


def family_for(
    session: Session, number: int | None, owner: str
) -> tuple[WheelFamily | None, int | None, str, Fraction]:
    """The family chosen, else that of the machine said, else that of the first lathe; its record, the name of the one
    machine that has it, and the width of its hub."""
    if owner and number is None:
        every = machines.every(session)
        row = next((m for m in every if m.name.lower() == owner.lower()), None)
        if row is None or row.family is None:
            raise Refusal("no_such_machine", "ask", owner, known=[m.name for m in every if m.family])
        return machines.family(row.family), row.family_id, row.name, row.family.hub_mm
    chosen = rack.family(session, number) if number is not None else None
    if chosen is None:
        chosen = machines.first_family(session)
    if chosen is None:
        return None, None, "", Fraction(0)
    owners = [m.name for m in chosen.machines]
    return machines.family(chosen), chosen.id, owners[0] if len(owners) == 1 else "", chosen.hub_mm


def left_out_text(row: MachineRow) -> str | None:
    """Why some wheels of a machine's box are in no plan."""
    strays = [(w.teeth, machines.family(w.family) if w.family else None) for w in machines.left_out(row)]
    return left_out(strays, machines.family(row.family) if row.family else None)
