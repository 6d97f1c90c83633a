"""A hobber on record, and what is in its boxes now."""

from collections.abc import Mapping
from fractions import Fraction

from sqlalchemy.orm import Session

from valleywind.core.hobbing.machine import Box, Hobber, IndexConstant, TypedHobber, read_hobber
from valleywind.core.hobbing.set_up import OnNow, spell_trains
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Train, lacking, parse_train
from valleywind.shop import changes
from valleywind.shop.machines import stock
from valleywind.shop.models import BoxMountedRow, MachineRow
from valleywind.shop.record_parts import Kind, RecordPart, part_of

HOBBER = RecordPart(
    "hobber",
    TypedHobber,
    read_hobber,
    lambda row: Refusal("wrong_kind", "machine", row.slug, kind="hobber"),
    tuple(Box),
)
KIND = Kind("hobber", (HOBBER,))


def hobber(row: MachineRow) -> Hobber:
    """The hobber as the core knows it. Raises Refusal `wrong_kind`."""
    return part_of(row, HOBBER)


def on_now(row: MachineRow, hobber: Hobber) -> OnNow:
    """The trains that are on, and the index constant that the reversing pair gives, None where that is not known."""
    kept = {Box(one.box): one for one in row.box_mounted}
    trains = {box: parse_train(kept[box].train) for box in Box if box in kept}
    setting = kept[Box.INDEX].setting if Box.INDEX in kept else ""
    constant = next((c for c in hobber.index if setting and c.constant == Fraction(setting)), None)
    return OnNow(trains, constant)


def name_of(row: MachineRow, hobber: Hobber) -> str:
    """What is on, as `spell_trains` writes it; empty for a bare machine."""
    on = on_now(row, hobber)
    return spell_trains(on.trains, on.constant or hobber.index[0]) if on.trains else ""


def mount(
    session: Session, row: MachineRow, trains: Mapping[Box, Train], pair: IndexConstant | None, ask: str = ""
) -> None:
    """Record what is in the boxes now; a box that is not named is bare, and nothing at all clears the machine.
    pair: the index constant that the reversing pair gives; ask: what they were put on for.

    Raises Refusal `wheels_not_held` where the rack does not have them all at once.
    """
    if not trains:
        changes.name(session, "boxes_cleared", name=row.name)
    else:
        named = {box.value: train.notation for box, train in trains.items()}
        set_up = spell_trains(trains, pair) if pair else ""
        changes.name(session, "boxes_mounted", name=row.name, trains=named, ask=ask, train=set_up)
    short = lacking((t for train in trains.values() for t in train.teeth), stock(row))
    if short:
        notation = ", ".join(train.notation for train in trains.values())
        raise Refusal("wheels_not_held", "train", notation, lacking=short)
    kept = {one.box: one for one in row.box_mounted}
    for box in Box:
        train, one = trains.get(box), kept.get(box.value)
        setting = str(pair.constant) if box is Box.INDEX and pair is not None else ""
        if train is None:
            if one is not None:
                row.box_mounted.remove(one)
        elif one is None:
            row.box_mounted.append(BoxMountedRow(box=box.value, train=train.notation, setting=setting))
        else:
            one.train, one.setting = train.notation, setting
    session.flush()
