"""Records of machines, whatever their kind."""

from sqlalchemy.orm import Session

from valleywind.core.refusal import Refusal
from valleywind.shop import cutting, machines
from valleywind.shop.models import MachineRow


def delete(session: Session, row: MachineRow) -> None:
    """Take a machine out of the shop, see `machines.remove`. Raises Refusal `head_in_use` (machine) while a wheel is
    cut on it."""
    try:
        cutting.head_is_free(session, row.slug)
    except Refusal as refused:
        raise refused.under("machine") from None
    machines.remove(session, row)
