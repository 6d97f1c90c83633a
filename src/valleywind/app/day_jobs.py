"""The wheels that are being made, taken together: in which order cutter, plate and holding change least, and what each
is cut from."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from valleywind.app.job_choices import bars_for, chosen_bar, chosen_donor, donors_for, held_cutters, job_of, title
from valleywind.app.job_dividing import divides
from valleywind.core import interrupt
from valleywind.core.dividing.day import sides
from valleywind.core.making.day import Piece, Setting, choices, share_out
from valleywind.core.making.job import Job
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.cutters import Cutter
from valleywind.core.teeth.donors import HOLDING, Donor, FromBar
from valleywind.core.trains.days_work import MOST_ON_A_MACHINE, Change, work_through
from valleywind.core.trains.effort import USUAL
from valleywind.shop import cutting, stores
from valleywind.shop import jobs as kept
from valleywind.shop.models import JobRow
from valleywind.wording.making import day as words
from valleywind.wording.numbers import Units

# The steps at which bar or wheel is taken.
_TAKEN = ("stock", "donor")


@dataclass(frozen=True)
class JobTurn:
    """One job in its order. changes: of cutter, plate and holding, coming from the one before; source: what it is cut
    from, empty where it is taken already or nothing serves; chosen: somebody chose that for it."""

    job: JobRow
    title: str
    changes: list[str]
    source: str
    chosen: bool


@dataclass(frozen=True)
class JobsDay:
    """says: what the order comes to; sharing: what the sharing out comes to, empty where nothing is shared out;
    left_out: jobs whose figures are not whole yet, each with why."""

    says: str
    sharing: str
    turns: tuple[JobTurn, ...]
    left_out: tuple[tuple[JobRow, str, Refusal], ...]


@dataclass(frozen=True)
class _OpenJob:
    row: JobRow
    job: Job
    setting: Setting
    cutter: Cutter | None


def plan(session: Session, units: Units) -> JobsDay:
    """The open jobs, the oldest first where nothing else says; those whose cutting has begun before all others."""
    some: list[_OpenJob] = []
    left_out = []
    later = 0
    for row in sorted((row for row in kept.jobs(session) if not row.done), key=lambda row: row.id):
        interrupt.checkpoint()
        if len(some) == MOST_ON_A_MACHINE:
            later += 1
            continue
        try:
            some.append(_read(row, session))
        except Refusal as refused:
            left_out.append((row, title(row, session), refused))
    begun = [n for n, one in enumerate(some) if cutting.cutting_of(session, one.row.id) is not None]
    first = [(b, n) for b in begun for n in range(len(some)) if n not in begun]
    day = work_through([choices(one.setting) for one in some], USUAL, before=first)
    pieces, proven = _shared(some, session)
    turns = [_turn(some[turn.ask], turn.change, pieces.get(turn.ask), session, units) for turn in day.turns]
    served = sum(piece is not None for piece in pieces.values())
    sharing = words.sharing(served, len(pieces) - served, proven) if len(pieces) > 1 else ""
    return JobsDay(words.sentence(day) + words.later(later), sharing, tuple(turns), tuple(left_out))


def _read(row: JobRow, session: Session) -> _OpenJob:
    job, held, ways = job_of(row, session), held_cutters(row, session), divides(row, session)
    plates = []
    if ways.by is not None:
        on = ways.by.on
        plates = [words.plate(on.row.name, n, len(on.head.sides)) for s in ways.by.way.settings
                  for n in sides(on.head, s)]  # fmt: skip
    cutter = held[0] if held else None
    tool = cutter or (job.family.pitch, job.family.pressure_angle, row.teeth)
    return _OpenJob(row, job, Setting(tool, (job.school, job.family.bore), tuple(dict.fromkeys(plates))), cutter)


def _turn(one: _OpenJob, change: Change, source: "_Source | None", session: Session, units: Units) -> JobTurn:
    text = ""
    match source and source.of:
        case FromBar() as bar:
            text = words.from_the_bar(bar, stores.bar_row(session, bar.bar.record).place, units)
        case Donor() as donor:
            text = words.from_a_wheel(donor)
    changed = words.changes(change, one.cutter, one.job.school)
    return JobTurn(one.row, title(one.row, session), changed, text, bool(source and source.chosen))


@dataclass(frozen=True)
class _Source:
    """chosen: somebody chose it for the job."""

    piece: Piece
    of: FromBar | Donor
    chosen: bool = False


def _shared(some: Sequence[_OpenJob], session: Session) -> tuple[dict[int, "_Source | None"], bool]:
    """What each job is cut from, for those that have nothing taken yet, None where nothing is left that serves; and
    whether no other way of sharing is better."""
    asking = [n for n, one in enumerate(some) if not _is_taken(one.row, session)]
    offered = [_sources(some[n], session) for n in asking]
    held: dict[tuple[str, int], float] = {source.piece.source: 1.0 for each in offered for source in each}
    held |= {("bar", bar.record): max(0.0, bar.length - HOLDING) for bar in stores.known_bars(session)}
    shared = share_out([[source.piece for source in each] for each in offered], held)
    chosen = {
        n: next((source for source in each if source.piece == piece), None)
        for n, each, piece in zip(asking, offered, shared.pieces, strict=True)
    }
    return chosen, shared.proven


def _is_taken(row: JobRow, session: Session) -> bool:
    figures: Mapping[str, kept.FoundFigure] = kept.figures(session, row.id)
    return any(figures[step].done for step in _TAKEN if step in figures)


def _sources(one: _OpenJob, session: Session) -> list[_Source]:
    """What is chosen for a job, else every piece of bar that serves and every larger wheel that can be spared."""
    row, job = one.row, one.job
    if (donor := chosen_donor(row, job, session)) is not None:
        return [replace(_from_wheel(donor, job), chosen=True)]
    if (bar := chosen_bar(row, job, session)) is not None:
        return [replace(_from_bar(bar), chosen=True)]
    spared = [_from_wheel(d, job) for d in donors_for(row, session) if d.held.spare and job.how_many == 1]
    return [*(_from_bar(bar) for bar in bars_for(row, job, session)), *spared]


def _from_bar(bar: FromBar) -> _Source:
    metal = math.pi / 4 * bar.bar.diameter**2 * bar.used / 1000
    return _Source(Piece(("bar", bar.bar.record), bar.used, metal), bar)


def _from_wheel(donor: Donor, job: Job) -> _Source:
    """What is turned off a wheel that can be spared is all that is lost."""
    tip = job.sizes.tip_diameter
    ring = math.pi / 4 * ((tip + donor.turned_off) ** 2 - tip**2) * job.face / 1000
    return _Source(Piece(("wheel", donor.held.record), 1.0, ring), donor)
