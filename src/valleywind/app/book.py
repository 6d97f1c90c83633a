"""A machine's book: what the log says of its lead, and which set-ups it is used with."""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from fractions import Fraction

from sqlalchemy.orm import Session

from valleywind.core.lathe.thread import PitchUnit
from valleywind.core.refusal import Refusal
from valleywind.core.trains.readings import Reading, Together, together
from valleywind.shop import changes, log, machines
from valleywind.shop.log import Entry
from valleywind.shop.models import MachineRow, PinRow

# Decimals of a measured lead, mm.
_DIGITS = 10_000


@dataclass(frozen=True)
class OfALead:
    """A reading of a machine's lead. relative: how much longer it was than what is wanted now; left_out: its entry is
    struck through, or a slip explains it, or it lies apart from the others."""

    entry: Entry
    relative: float
    off: float
    left_out: bool


def readings(session: Session, row: MachineRow) -> tuple[list[OfALead], Together | None]:
    """The readings of a machine's lead, the oldest first, and what they say together."""
    known = [(one, _reading(one, row)) for one in log.checks(session, row)]
    read = [(one, reading) for one, reading in known if reading is not None]
    counted = [reading for one, reading in read if not _set_aside(one)]
    lead = together(counted)
    apart = {id(counted[n]) for n in lead.gone_wrong} if lead else set()
    shown = [OfALead(one, r.relative, r.off, _set_aside(one) or id(r) in apart) for one, r in read]
    return shown, lead


def _set_aside(entry: Entry) -> bool:
    slip = entry.row.about.get("slip")
    return entry.corrected is not None or bool(slip and slip["sure"])


def _reading(entry: Entry, row: MachineRow) -> Reading | None:
    """None where it is no reading of a lead."""
    about = entry.row.about
    measured, expected, off = Fraction(about["measured"]), Fraction(about["expected"]), Fraction(about["off"])
    if about["what"] == "length" and about.get("screw") and row.lathe is not None:
        # What is on record of the screw may have changed since.
        wanted = expected * row.lathe.screw_lead_mm / Fraction(about["screw"])
        return Reading(float(measured / wanted - 1), float(off / wanted))
    if about["what"] in ("degrees", "crank"):
        # The longer the lead, the less the work turns.
        return Reading(float(expected / measured - 1), float(off / measured))
    return None


def measured_screw(row: MachineRow, lead: Together) -> Fraction:
    """The lead of a lathe's screw as its readings say, mm."""
    assert row.lathe is not None
    return Fraction(round(float(row.lathe.screw_lead_mm) * (1 + lead.relative) * _DIGITS), _DIGITS)


def take_over(session: Session, row: MachineRow) -> None:
    """Put the lead that the readings say into the lathe's record. Raises Refusal `wrong_kind`, `readings_say_nothing`
    (machine)."""
    record = machines.record(row)
    _, lead = readings(session, row)
    if lead is None or not lead.says:
        raise Refusal("readings_say_nothing", "machine", row.name)
    measured = replace(record, screw_lead=measured_screw(row, lead), screw_stated=PitchUnit.MM)
    machines.save_lathe(session, row, measured, machines.particulars(row))


@dataclass(frozen=True)
class InUse:
    """A set-up that was put on or is pinned. pin: the pin's number, None where it is not pinned."""

    ask: str
    train: str
    times: int
    last: str
    pin: int | None


def set_ups(row: MachineRow, used: Sequence[log.SetUpUse]) -> list[InUse]:
    """The set-ups of a machine: pinned ones first, then the most used."""
    pins = {(pin.ask, pin.train): pin.id for pin in row.pins}
    known = {(one.ask, one.train): one for one in used}
    pinned = [
        InUse(ask, train, there.times if there else 0, there.last if there else "", pin)
        for (ask, train), pin in pins.items() for there in [known.get((ask, train))]
    ]  # fmt: skip
    others = [InUse(one.ask, one.train, one.times, one.last, None) for one in used if (one.ask, one.train) not in pins]
    return pinned + others


def pin(session: Session, row: MachineRow, ask: str, train: str) -> None:
    """Keep a set-up at hand; one that is pinned stays so. Raises Refusal `too_many_pins` (train)."""
    if any((one.ask, one.train) == (ask, train) for one in row.pins):
        return
    if len(row.pins) >= MOST_PINS:
        raise Refusal("too_many_pins", "train", len(row.pins), most=MOST_PINS)
    changes.name(session, "pinned", name=row.name, ask=ask, train=train)
    row.pins.append(PinRow(ask=ask, train=train))
    session.flush()


MOST_PINS = 20
"""How many set-ups of a machine may be pinned."""


def unpin(session: Session, number: int) -> None:
    """Raises Refusal `no_such_pin`."""
    there = session.get(PinRow, number)
    if there is None:
        raise Refusal("no_such_pin", "pin", number)
    row = session.get(MachineRow, there.machine_id)
    changes.name(session, "unpinned", name=row.name if row else "", ask=there.ask, train=there.train)
    session.delete(there)
    session.flush()
