"""Wheels to be made, and the sessions in which they are cut."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict
from datetime import UTC, datetime
from fractions import Fraction
from typing import Any, NamedTuple

from sqlalchemy import select
from sqlalchemy.orm import Session

from valleywind.core.making.session import CutOrder, Event, Kind, State, Work, after, replay
from valleywind.core.refusal import Refused
from valleywind.core.teeth.pile import Condition, Entry
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.shop import changes, rack
from valleywind.shop.models import CuttingEventRow, CuttingRow, JobRow, MachineRow


def now() -> str:
    """The time as it is kept, to a millisecond."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


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


def cutting_of(session: Session, number: int) -> CuttingRow | None:
    """The session of a job; None where it is not begun."""
    return session.scalars(select(CuttingRow).where(CuttingRow.job_id == number)).one_or_none()


def cutting(session: Session, number: int) -> CuttingRow:
    """Raises Refused `no_session`."""
    found = cutting_of(session, number)
    if found is None:
        raise Refused("no_session", "job", number)
    return found


def begin(session: Session, row: JobRow, head: str, plan: Mapping[str, Any]) -> CuttingRow:
    """Begin the session of a job. Raises Refused `session_there`, `head_in_use` (head)."""
    if cutting_of(session, row.id) is not None:
        raise Refused("session_there", "job", row.id)
    if head:
        for other in session.scalars(select(CuttingRow).where(CuttingRow.head == head)):
            state = state_of(session, other)
            if not state.finished(work_of(other)) and state.paused is None:
                raise Refused("head_in_use", "way", head)
    found = CuttingRow(job_id=row.id, begun=now(), head=head, plan=dict(plan))
    session.add(found)
    session.flush()
    return found


def work_of(row: CuttingRow) -> Work:
    """What is cut in a session."""
    kept = row.plan["work"]
    return Work(kept["divisions"], len(row.plan["depths"]), kept["marks"], CutOrder(kept["order"]))


class Recorded(NamedTuple):
    """One thing that is on record, as kept: its place among the others, its teller's key, when, what, and by what."""

    place: int
    key: str
    at: str
    kind: str
    about: Mapping[str, Any]
    by: str


_RECORDED = tuple(getattr(CuttingEventRow, name) for name in Recorded._fields)


def events(session: Session, row: CuttingRow) -> list[Recorded]:
    """Everything that happened, in its order."""
    wanted = select(*_RECORDED).where(CuttingEventRow.cutting_id == row.id).order_by(CuttingEventRow.place)
    return [Recorded(*one) for one in session.execute(wanted)]


def state_of(session: Session, row: CuttingRow) -> State:
    return replayed(events(session, row), row)


def replayed(known: Sequence[Recorded], row: CuttingRow) -> State:
    """Where a session stands after these."""
    return replay((Event(Kind(e.kind), e.about) for e in known), work_of(row))


def record(
    session: Session, row: CuttingRow, event: Event, key: str, seen: int | None, by: str = ""
) -> tuple[list[Recorded], State]:
    """Add one thing that happened, and say where the session then stands. Told again with the same key it is there
    already. seen: how many things its teller knew of.

    Raises Refused `session_moved` (seen), and what `after` does.
    """
    known = events(session, row)
    state = replayed(known, row)
    if any(e.key == key for e in known):
        return known, state
    if seen is not None and seen != len(known):
        raise Refused("session_moved", "seen", seen)
    state = after(state, event, work_of(row))
    added = Recorded(len(known), key, now(), event.kind.value, dict(event.about), by)
    session.add(CuttingEventRow(cutting_id=row.id, **added._asdict()))
    session.flush()
    return [*known, added], state
