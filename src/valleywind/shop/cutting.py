"""Sessions in which wheels are cut: what happened is added, read back, and folded to where the work stands."""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import UTC, datetime
from threading import Lock
from typing import Any, NamedTuple

from sqlalchemy import select
from sqlalchemy.orm import Session

from valleywind.core.making.places import Places
from valleywind.core.making.session import Cut, Event, EventKind, State, Work, after, cut_of
from valleywind.core.refusal import Refusal
from valleywind.shop import log
from valleywind.shop.cutting_plan import Plan, plan_of
from valleywind.shop.models import CuttingEventRow, CuttingRow, JobRow, MachineRow

REMEMBERED = "valleywind_remembered"
"""Where a session of the store has the `Remembered` of its shop."""
_MOST_REMEMBERED = 16


def now() -> str:
    """The time as it is kept, to a millisecond."""
    return datetime.now(UTC).isoformat(timespec="milliseconds")


class SessionEntry(NamedTuple):
    """One thing that is on record, as kept: its place among the others, its teller's key, when, what, and by what."""

    place: int
    key: str
    at: str
    kind: str
    about: Mapping[str, Any]
    by: str

    @property
    def event(self) -> Event:
        return Event(EventKind(self.kind), self.about)


# What of an event is as its teller said it; the rest follows from where the session stood.
_TYPED = ("reason", "count", "to", "mm")
_RECORDED = tuple(getattr(CuttingEventRow, name) for name in SessionEntry._fields)


@dataclass(frozen=True)
class SessionNow:
    """A session as it stands. known: everything that happened, in its order; cuts: which cut each of these was about,
    None where it was about none."""

    work: Work
    places: Places
    known: tuple[SessionEntry, ...] = ()
    cuts: tuple[Cut | None, ...] = ()
    state: State = field(default_factory=State)

    def followed_by(self, *added: SessionEntry) -> "SessionNow":
        """With these too. Raises Refusal as `after` does."""
        state, cuts = self.state, []
        for one in added:
            event = one.event
            came = after(state, event, self.work)
            cuts.append(cut_of(state, event, self.work))
            state = came
        return replace(self, known=(*self.known, *added), cuts=(*self.cuts, *cuts), state=state)

    @property
    def finished(self) -> bool:
        return self.state.finished(self.work)


@dataclass
class SessionCache:
    """The sessions that were read lately. What is on record is never changed, so of a session that is known only what
    was added since is read; the last known one is read again to see that it is the same file still."""

    by_number: dict[int, SessionNow] = field(default_factory=dict)
    lock: Lock = field(default_factory=Lock)

    def standing(self, session: Session, row: CuttingRow) -> SessionNow:
        with self.lock:
            before = self.by_number.pop(row.id, None)
        standing = (before and _and_since(session, row, before)) or _fresh(row).followed_by(*_read(session, row, 0))
        with self.lock:
            self.by_number[row.id] = standing
            while len(self.by_number) > _MOST_REMEMBERED:
                self.by_number.pop(next(iter(self.by_number)))
        return standing


def _and_since(session: Session, row: CuttingRow, before: SessionNow) -> SessionNow | None:
    """None where what was known is not what is on record."""
    if not before.known:
        return None
    last = before.known[-1]
    read = _read(session, row, last.place)
    return before.followed_by(*read[1:]) if read and read[0] == last else None


def _fresh(row: CuttingRow) -> SessionNow:
    plan = plan_of(row)
    return SessionNow(plan.work, plan.places)


def _read(session: Session, row: CuttingRow, place: int) -> list[SessionEntry]:
    """What happened from this place on, in its order."""
    wanted = (
        select(*_RECORDED)
        .where(CuttingEventRow.cutting_id == row.id, CuttingEventRow.place >= place)
        .order_by(CuttingEventRow.place)
    )
    return [SessionEntry(*one) for one in session.execute(wanted)]


def standing(session: Session, row: CuttingRow) -> SessionNow:
    """Where a session stands."""
    remembered: SessionCache = session.info.get(REMEMBERED) or SessionCache()
    return remembered.standing(session, row)


def cutting_of(session: Session, number: int) -> CuttingRow | None:
    """The session of a job; None where it is not begun."""
    return session.scalars(select(CuttingRow).where(CuttingRow.job_id == number)).one_or_none()


def cutting(session: Session, number: int) -> CuttingRow:
    """Raises Refusal `no_session`."""
    cutting = cutting_of(session, number)
    if cutting is None:
        raise Refusal("no_session", "job", number)
    return cutting


def begin(session: Session, row: JobRow, head: str, plan: Plan, at: str = "") -> CuttingRow:
    """Begin the session of a job; `at`: when, now where it is empty. Raises Refusal `session_there`, `head_in_use`
    (head)."""
    if cutting_of(session, row.id) is not None:
        raise Refusal("session_there", "job", row.id)
    head_is_free(session, head)
    cutting = CuttingRow(job_id=row.id, begun=at or now(), head=head, plan=plan.spelled())
    session.add(cutting)
    session.flush()
    log.note_job(session, row, log.BEGUN, {}, cutting.begun)
    return cutting


def head_is_free(session: Session, head: str, but: int | None = None) -> None:
    """Raises Refusal `head_in_use` (way) where another session than `but` goes on at this head."""
    if not head:
        return
    for other in session.scalars(select(CuttingRow).where(CuttingRow.head == head, CuttingRow.id != but)):
        stands = standing(session, other)
        if not stands.finished and stands.state.paused is None:
            named = session.scalars(select(MachineRow).where(MachineRow.slug == head)).one_or_none()
            raise Refusal("head_in_use", "way", named.name if named else head, job=other.job_id)


def record(session: Session, row: CuttingRow, event: Event, key: str, seen: int | None, by: str = "") -> SessionNow:
    """Add one thing that happened, and say where the session then stands. Told again with the same key it is there
    already. seen: how many things its teller knew of.

    Raises Refusal `key_used` (key) where something else was told with it, `session_moved` (seen), `head_in_use` where a
    pause ends while another session is cut on the head, and what `after` does.
    """
    stands = standing(session, row)
    known = next((e for e in stands.known if e.key == key), None)
    if known is not None:
        if known.kind != event.kind or any(known.about.get(what) != event.about.get(what) for what in _TYPED):
            raise Refusal("key_used", "key", key)
        return stands
    if seen is not None and seen != len(stands.known):
        raise Refusal("session_moved", "seen", seen)
    if event.kind is EventKind.RESUME:
        head_is_free(session, row.head, row.id)
    added = SessionEntry(len(stands.known), key, now(), event.kind.value, dict(event.about), by)
    then = stands.followed_by(added)
    # What is not committed yet is not remembered: the next who looks reads it.
    session.add(CuttingEventRow(cutting_id=row.id, **added._asdict()))
    session.flush()
    job = session.get(JobRow, row.job_id)
    if job is not None and then.finished and not stands.finished:
        log.note_job(session, job, log.FINISHED, {}, added.at)
    return then
