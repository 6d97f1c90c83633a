"""Wheels to be made."""

from collections.abc import Mapping
from dataclasses import asdict
from fractions import Fraction
from typing import Any

from sqlalchemy import select
from sqlalchemy.orm import Session

from valleywind.core.refusal import Refused
from valleywind.core.teeth.pile import Condition, Entry
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.shop import changes, rack
from valleywind.shop.cutting import cutting_of, now
from valleywind.shop.models import JobRow, MachineRow


def jobs(session: Session) -> list[JobRow]:
    """All of them, the newest first."""
    return list(session.scalars(select(JobRow).order_by(JobRow.id.desc())))


def job(session: Session, number: int) -> JobRow:
    """Raises Refused `no_such_job`."""
    found = session.get(JobRow, number)
    if found is None:
        raise Refused("no_such_job", "job", number)
    return found


def kept_family(family: WheelFamily) -> dict[str, str]:
    """A family as plain figures, so that a job stays what it was whatever becomes of the family."""
    plain = asdict(family)
    pitch = plain.pop("pitch")
    return {"system": pitch["system"], "pitch": str(pitch["value"])} | {k: str(v) for k, v in plain.items()}


def family_of(row: JobRow) -> WheelFamily:
    """The family that the wheel is to be of."""
    kept = dict(row.wheel)
    pitch = Pitch(PitchSystem(kept.pop("system")), Fraction(kept.pop("pitch")))
    name = kept.pop("name")
    return WheelFamily(name, pitch, **{k: Fraction(v) for k, v in kept.items()})


def add(
    session: Session, teeth: int, family: WheelFamily, typed: Mapping[str, Any], machine: str, family_id: int | None
) -> JobRow:
    """A new job."""
    changes.name(session, "job_added", teeth=teeth)
    row = JobRow(
        teeth=teeth, machine=machine, family_id=family_id, begun=now(), wheel=kept_family(family), typed=dict(typed),
        found={},
    )  # fmt: skip
    session.add(row)
    session.flush()
    return row


def change(session: Session, row: JobRow, typed: Mapping[str, Any]) -> None:
    """Type over what was chosen."""
    changes.name(session, "job_edited", teeth=row.teeth)
    row.typed = dict(typed)
    session.flush()


def find(session: Session, row: JobRow, step: str, figure: str, done: bool) -> None:
    """Keep what was found at a step, and whether it is done; with neither the step stands as it was before."""
    changes.name(session, "job_step", teeth=row.teeth)
    kept = dict(row.found)
    if figure or done:
        kept[step] = {"figure": figure, "done": done, "at": now()}
    else:
        kept.pop(step, None)
    row.found = kept
    session.flush()


def into_rack(session: Session, row: JobRow, machine: MachineRow | None, count: int, material: str, note: str) -> None:
    """Put the wheels that were made into the rack, on their machine's shelf where there is one."""
    shared = {"family_id": row.family_id, "material": material, "note": note}
    if machine is not None and machine.family_id == row.family_id:
        shared["machine_id"] = machine.id
    rack.add(session, [Entry(row.teeth, Condition.GOOD, count)], shared)


def finish(session: Session, row: JobRow) -> None:
    """The wheel is made."""
    row.done = now()
    session.flush()


def delete(session: Session, row: JobRow) -> None:
    """Raises Refused `session_there` where something was cut: that stays on record."""
    if cutting_of(session, row.id) is not None:
        raise Refused("session_there", "job", row.id)
    changes.name(session, "job_deleted", teeth=row.teeth)
    session.delete(row)
    session.flush()
