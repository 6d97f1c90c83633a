"""The wheels of a machine, typed in its record."""

from typing import Annotated, Self

from pydantic import BaseModel, Field
from sqlalchemy.orm import Session

from valleywind.api.versions import check_text
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import parse_stock, spell_stock
from valleywind.shop import machines
from valleywind.shop.models import MachineRow

_Text = Annotated[str, Field(max_length=2000)]


class ItsWheels(BaseModel):
    """What a record says of the machine's wheels."""

    wheels: _Text | None = Field(
        None,
        description="Its wheels as counted, doubles as `30x2`; null leaves them as they are",
        examples=["24 28 32x2"],
    )
    wheels_seen: _Text | None = Field(None, description="They as they were when this was typed; not looked at if null")

    def as_it_will_be(self, row: MachineRow) -> Self:
        """The record with the wheels that come of it, to be compared with what stands there."""
        wheels = wheels_text(row) if self.wheels is None else self.wheels
        return self.model_copy(update={"wheels": wheels, "wheels_seen": None})

    def held(self) -> dict[int, int]:
        """The wheels as typed; none where nothing is. Raises Refusal (wheels)."""
        return dict(parse_stock(self.wheels, "wheels")) if self.wheels and self.wheels.strip() else {}


def wheels_text(row: MachineRow) -> str:
    """The wheels of a machine as its record shows them."""
    return spell_stock(machines.stock(row)) if machines.takes_wheels(row) else ""


def put_wheels(session: Session, row: MachineRow, typed: ItsWheels) -> None:
    """Make the wheels of a known machine what is typed, where they are typed.

    Raises Refusal `takes_no_wheels`, and as `set_wheels` does; Stale where somebody else changed them meanwhile.
    """
    if typed.wheels is None:
        return
    held = typed.held()
    if held and not machines.takes_wheels(row):
        raise Refusal("takes_no_wheels", "wheels", row.kind)
    check_text(typed.wheels_seen, "wheels", spell_stock(held), spell_stock(machines.stock(row)))
    if held != machines.stock(row):
        machines.set_wheels(session, row, held)
