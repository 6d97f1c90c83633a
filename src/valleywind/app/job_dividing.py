"""How a job is divided: by a machine of the shop, a wheel as its own plate, or a printed disc."""

from dataclasses import dataclass

from sqlalchemy.orm import Session

from valleywind.app.dividing import ByMachine, on_machine
from valleywind.app.job_choices import divider_for, school_of
from valleywind.core.dividing.plan import Way, WayKind, beside_a_lead
from valleywind.core.making.job import DIVIDERS, Divider
from valleywind.core.making.places import Places, on_a_disc, on_a_wheel, places
from valleywind.core.refusal import Refusal
from valleywind.core.units import parse_whole
from valleywind.shop import heads, machines, record_parts, sources
from valleywind.shop import jobs as kept
from valleywind.shop.job_choices import read
from valleywind.shop.models import JobRow, MachineRow
from valleywind.wording import dividing as words
from valleywind.wording.making import figures as job_words


@dataclass(frozen=True)
class Divides:
    """How a job is divided. places: of every tooth; text: in words; by: the machine's way, None where none divides."""

    places: Places
    text: str
    by: ByMachine | None = None


def divides(row: JobRow, session: Session) -> Divides:
    """How the job is divided, by what goes with the way its blank is held.

    Raises Refusal `no_such_way`, `divides_another`, `no_such_machine`, `divides_not_simply`.
    """
    typed, lead = read(row.typed), kept.lead_of(row)
    if lead is not None:
        mill = machines.machine(session, lead.mill)
        simple = beside_a_lead(on_machine(mill).ways(row.teeth))
        if simple is None:
            raise Refusal("divides_not_simply", "way", row.teeth)
        return _by_head(row, mill, simple[0])
    divider = divider_for(row, session)
    if divider is Divider.WHEEL:
        # Without another one said it is a wheel of the same count that is copied.
        teeth = parse_whole(typed.template or str(row.teeth), "template", row.teeth, 1000, "teeth")
        return Divides(on_a_wheel(teeth, row.teeth), job_words.by_a_wheel(teeth))
    if typed.head and typed.way is not WayKind.DISC:
        machine = machines.machine(session, typed.head)
        if typed.number >= len(on_machine(machine).ways(row.teeth)):
            raise Refusal("no_such_way", "number", typed.number)
        return _by_head(row, machine, typed.number)
    every = [] if divider is Divider.DISC else _ways_held_so(row, session)
    if not every:
        return Divides(on_a_disc(row.teeth), job_words.by_a_disc(row.teeth))
    best = min(every, key=lambda one: one[1].merit)
    return _by_head(row, best[0], best[2])


def _ways(row: JobRow, session: Session) -> list[tuple[MachineRow, Way, int]]:
    """Every way of every head, with its place among those of its head."""
    return [
        (machine, way, n)
        for machine in machines.machines(session) if record_parts.has(machine, heads.HEAD)
        for n, way in enumerate(on_machine(machine).ways(row.teeth))
    ]  # fmt: skip


def _ways_held_so(row: JobRow, session: Session) -> list[tuple[MachineRow, Way, int]]:
    """Those of the machines on which the blank is held as it is to be."""
    serves = DIVIDERS[school_of(row, session)]
    return [one for one in _ways(row, session) if sources.divider_of(one[0]) in serves]


def _by_head(row: JobRow, machine: MachineRow, number: int) -> Divides:
    on = on_machine(machine)
    by = ByMachine(on, on.ways(row.teeth)[number], number, row.teeth, _across(row))
    text = f"{words.way_text(by.way)}, on {machine.name}"
    return Divides(places(by.way.settings[0], on.head.ratio, row.teeth), text, by)


def _across(row: JobRow) -> float:
    return float(kept.family_of(row).module) * row.teeth


def ways_of_job(row: JobRow, session: Session) -> list[ByMachine]:
    """Every way of every machine, the best first."""
    if kept.lead_of(row) is not None:
        return []
    every = sorted(_ways(row, session), key=lambda one: one[1].merit)
    return [ByMachine(on_machine(machine), way, n, row.teeth, _across(row)) for machine, way, n in every]
