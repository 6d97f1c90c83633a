"""A mill on record, and what is in its lead drive now."""

from fractions import Fraction

from sqlalchemy.orm import Session

from valleywind.core.helix.lead import PairWay
from valleywind.core.helix.machine import LEAD_BOX, Mill, TypedMill, read_mill
from valleywind.core.helix.plan import LeadSetUp
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import lacking, parse_train
from valleywind.shop import changes
from valleywind.shop.heads import HEAD
from valleywind.shop.machines import stock
from valleywind.shop.models import BoxMountedRow, MachineRow
from valleywind.shop.record_parts import Kind, RecordPart, part_of

MILL = RecordPart(
    "mill", TypedMill, read_mill, lambda row: Refusal("wrong_kind", "machine", row.slug, kind="mill"), (LEAD_BOX,)
)
KIND = Kind("mill", (MILL,), (HEAD,))


def mill(row: MachineRow) -> Mill:
    """The mill as the core knows it. Raises Refusal `wrong_kind`."""
    return part_of(row, MILL)


def on_now(row: MachineRow) -> LeadSetUp | None:
    """Wheels and pair that are on; None where the drive is bare."""
    kept = next((one for one in row.box_mounted if one.box == LEAD_BOX), None)
    return LeadSetUp(parse_train(kept.train), PairWay(Fraction(kept.setting or "1"))) if kept else None


def mount(session: Session, row: MachineRow, set_up: LeadSetUp | None, ask: str = "") -> None:
    """Record what is on now; None for a bare drive. ask: what it was put on for. Raises Refusal `wheels_not_held`."""
    kept = next((one for one in row.box_mounted if one.box == LEAD_BOX), None)
    if set_up is None:
        changes.name(session, "dismounted", name=row.name)
        if kept is not None:
            row.box_mounted.remove(kept)
        return
    changes.name(session, "mounted", name=row.name, train=set_up.name, ask=ask)
    if short := lacking(set_up.train.teeth, stock(row)):
        raise Refusal("wheels_not_held", "train", set_up.train.notation, lacking=short)
    setting = str(set_up.pair.ratio)
    if kept is None:
        row.box_mounted.append(BoxMountedRow(box=LEAD_BOX, train=set_up.train.notation, setting=setting))
    else:
        kept.train, kept.setting = set_up.train.notation, setting
    session.flush()
