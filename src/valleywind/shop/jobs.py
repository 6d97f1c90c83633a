"""Wheels to be made, and everything that happened with them."""

from collections.abc import Mapping, Sequence
from dataclasses import asdict, dataclass
from fractions import Fraction
from itertools import groupby
from typing import Any

from sqlalchemy import select, true
from sqlalchemy.orm import Session

from valleywind.core.making.job import ScrewTeeth
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition, Entry
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.direction import Hand
from valleywind.shop import changes, log, rack
from valleywind.shop.cutting import cutting_of, now
from valleywind.shop.models import JobEventKind, JobEventRow, JobRow, MachineRow


@dataclass(frozen=True)
class FoundFigure:
    """What stands for a step: the figure as it was typed last, whether the step is done, and when that was said.
    earlier: figures that stood there before, the newest first, each with its time; each: every figure in the order in
    which they were found; accepted: why a figure outside its tolerance was taken, empty where it was not."""

    figure: str
    done: bool
    at: str
    earlier: tuple[tuple[str, str], ...] = ()
    each: tuple[str, ...] = ()
    accepted: str = ""


def jobs(session: Session) -> list[JobRow]:
    """All of them, the newest first."""
    return list(session.scalars(select(JobRow).order_by(JobRow.id.desc())))


def job(session: Session, number: int) -> JobRow:
    """Raises Refusal `no_such_job`."""
    row = session.get(JobRow, number)
    if row is None:
        raise Refusal("no_such_job", "job", number)
    return row


def family_fields(family: WheelFamily) -> dict[str, str]:
    """A family as plain figures, so that a job stays what it was whatever becomes of the family."""
    plain = asdict(family)
    pitch = plain.pop("pitch")
    return {"system": pitch["system"], "pitch": str(pitch["value"])} | {k: str(v) for k, v in plain.items()}


def family_of(row: JobRow) -> WheelFamily:
    """The family that the wheel is to be of."""
    kept = dict(row.wheel)
    kept.pop("lead", None)
    kept.pop("screw", None)
    pitch = Pitch(PitchSystem(kept.pop("system")), Fraction(kept.pop("pitch")))
    name = kept.pop("name")
    return WheelFamily(name, pitch, **{k: Fraction(v) for k, v in kept.items()})


@dataclass(frozen=True)
class Lead:
    """What a helical wheel has beside its family. angle: of the helix, degrees; ask: as the mill reads it; mill: its
    slug; train: the set-up by its name, empty where none was found."""

    angle: Fraction
    hand: Hand
    ask: str
    mill: str
    train: str


def lead_of(row: JobRow) -> Lead | None:
    """None for straight teeth."""
    kept = row.wheel.get("lead")
    return Lead(**(kept | {"angle": Fraction(kept["angle"]), "hand": Hand(kept["hand"])})) if kept else None


def screw_of(row: JobRow) -> ScrewTeeth | None:
    """Of a wheel that runs in a lead screw; None for any other."""
    kept = row.wheel.get("screw")
    return ScrewTeeth(kept["across_mm"], kept["tilt_deg"], Hand(kept["hand"])) if kept else None


def add(
    session: Session,
    teeth: int,
    family: WheelFamily,
    typed: Mapping[str, Any],
    machine: str,
    family_id: int | None,
    at: str = "",
    lead: Lead | None = None,
    screw: ScrewTeeth | None = None,
    again: bool = True,
) -> JobRow:
    """A new job; `at`: when it was begun, now where it is empty; `lead`: for helical teeth; `screw`: for teeth that run
    in a lead screw. Raises Refusal `job_there` (again) where the same wheel is being made and `again` is false."""
    wheel: dict[str, Any] = dict(family_fields(family))
    if lead is not None:
        wheel["lead"] = asdict(lead) | {"angle": str(lead.angle), "hand": lead.hand.value}
    if screw is not None:
        wheel["screw"] = {"across_mm": screw.across, "tilt_deg": screw.tilt, "hand": screw.hand.value}
    if not again:
        _check_not_there(session, teeth, machine, wheel)
    changes.name(session, "job_added", teeth=teeth)
    row = JobRow(teeth=teeth, machine=machine, family_id=family_id, begun=at or now(), wheel=wheel, typed=dict(typed))
    session.add(row)
    session.flush()
    note_now(session, row, at)
    return row


def _check_not_there(session: Session, teeth: int, machine: str, wheel: Mapping[str, Any]) -> None:
    open_jobs = select(JobRow).where(JobRow.teeth == teeth, JobRow.machine == machine, JobRow.done == "")
    there = next((row for row in session.scalars(open_jobs.order_by(JobRow.id)) if row.wheel == wheel), None)
    if there is not None:
        raise Refusal("job_there", "again", teeth, job=there.id)


def change(session: Session, row: JobRow, typed: Mapping[str, Any]) -> None:
    """Type over what was chosen."""
    changes.name(session, "job_edited", teeth=row.teeth)
    row.typed = dict(typed)
    session.flush()
    note_now(session, row)


def events(session: Session, number: int) -> list[JobEventRow]:
    """Everything that happened with a job, in its order."""
    wanted = select(JobEventRow).where(JobEventRow.job_id == number).order_by(JobEventRow.place)
    return list(session.scalars(wanted))


def _add_event(session: Session, number: int, kind: JobEventKind, about: Mapping[str, Any], at: str = "") -> None:
    place = len(events(session, number))
    at = at or now()
    session.add(JobEventRow(job_id=number, place=place, at=at, kind=kind.value, about=dict(about)))
    session.flush()
    # That something was chosen is a change of the shop, and stands there as one.
    row = session.get(JobRow, number)
    if row is not None and kind is not JobEventKind.CHOSEN:
        log.note_job(session, row, kind.value, about, at)


def note_now(session: Session, row: JobRow, at: str = "") -> None:
    """Add to the log what differs from what it says: what is chosen, and whether the wheel is in the rack. An undo of a
    change is a thing that happened too."""
    known = events(session, row.id)
    chosen = next((e.about["typed"] for e in reversed(known) if e.kind == JobEventKind.CHOSEN), None)
    if chosen != row.typed:
        _add_event(session, row.id, JobEventKind.CHOSEN, {"typed": row.typed}, at)
    moved = next((e.kind for e in reversed(known) if e.kind in (JobEventKind.IN_RACK, JobEventKind.OUT_AGAIN)), "")
    if bool(row.done) != (moved == JobEventKind.IN_RACK):
        _add_event(session, row.id, JobEventKind.IN_RACK if row.done else JobEventKind.OUT_AGAIN, {})


def note_all(session: Session) -> None:
    """The same for every job there is."""
    for row in jobs(session):
        note_now(session, row)


def add_result(
    session: Session, row: JobRow, step: str, figure: str, done: bool, at: str = "", accepted: str = ""
) -> None:
    """Add what was found at a step, and whether it is done; with neither the step stands as it was at first. accepted:
    why a figure outside its tolerance is taken."""
    about = {"step": step, "figure": figure, "done": done} | ({"accepted": accepted} if accepted else {})
    _add_event(session, row.id, JobEventKind.FOUND, about, at)


def figures(session: Session, number: int) -> dict[str, FoundFigure]:
    """What stands for each step of a job by its code; steps of which nothing stands are not in it."""
    return figures_in(events(session, number))


def figures_in(known: Sequence[JobEventRow]) -> dict[str, FoundFigure]:
    """The same, of a log."""
    by_step: dict[str, list[JobEventRow]] = {}
    for event in known:
        if event.kind == JobEventKind.FOUND:
            by_step.setdefault(event.about["step"], []).append(event)
    stands = {}
    for step, events in by_step.items():
        last = events[-1]
        figure, done = last.about["figure"], last.about["done"]
        earlier = {e.about["figure"]: e.at for e in events[:-1] if e.about["figure"] not in ("", figure)}
        if figure or done:
            each = tuple(f for f, _ in groupby(e.about["figure"] for e in events) if f)
            accepted = last.about.get("accepted", "")
            stands[step] = FoundFigure(figure, done, last.at, tuple(reversed(earlier.items())), each, accepted)
    return stands


def into_rack(session: Session, row: JobRow, machine: MachineRow | None, count: int, material: str, note: str) -> None:
    """Put the wheels that were made into the rack, on their machine's shelf where there is one."""
    shared = {"family_id": row.family_id, "material": material, "note": note}
    if machine is not None and machine.family_id == row.family_id:
        shared["machine_id"] = machine.id
    rack.add(session, [Entry(row.teeth, Condition.GOOD, count)], shared)
    row.done = now()
    session.flush()
    note_now(session, row)


def delete(session: Session, row: JobRow) -> None:
    """Delete a job; its log stays, for the way back. Raises Refusal `session_there` where something was cut."""
    if cutting_of(session, row.id) is not None:
        raise Refusal("session_there", "job", row.id)
    changes.name(session, "job_deleted", teeth=row.teeth)
    session.delete(row)
    session.flush()


def before(session: Session, teeth: int, but: int | None, most: int) -> list[JobRow]:
    """Jobs of a wheel of this many teeth, the newest first; but: a job that is left out."""
    query = select(JobRow).where(JobRow.teeth == teeth, JobRow.id != but if but is not None else true())
    return list(session.scalars(query.order_by(JobRow.id.desc()).limit(most)))
