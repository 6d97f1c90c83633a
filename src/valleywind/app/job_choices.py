"""What is chosen of a job, and the job as the core knows it."""

from dataclasses import replace
from fractions import Fraction

from sqlalchemy import select
from sqlalchemy.orm import Session

from valleywind.core.dividing.plan import WayKind
from valleywind.core.helix.lead import formative
from valleywind.core.making.helical import Helix
from valleywind.core.making.job import DIVIDERS, MOST_ALIKE, Divider, Job, School, propose
from valleywind.core.making.passes import read_passes
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.cutters import Cutter, serving
from valleywind.core.teeth.donors import Donor, FromBar
from valleywind.core.units import parse_length, parse_offset, parse_whole, spell_degrees
from valleywind.shop import heads, machines, rack, record_parts, sources, stores
from valleywind.shop import jobs as kept
from valleywind.shop.job_choices import Choices, read
from valleywind.shop.models import JobRow, MachineRow, WheelFamilyRow
from valleywind.wording import wheels as words


def family_row(row: JobRow, session: Session) -> WheelFamilyRow | None:
    """The family of the rack that the wheel is for; None where it is for none, or that is gone."""
    return next((f for f in rack.families(session) if f.id == row.family_id), None)


def title(row: JobRow, session: Session) -> str:
    """`A 57 for Plover`, `A 24 of module 2, 20°, helix 30° left`."""
    machine = session.scalar(select(MachineRow.name).where(MachineRow.slug == row.machine)) or ""
    plain, lead = words.title(row.teeth, kept.family_of(row), machine), kept.lead_of(row)
    return f"{plain}, helix {spell_degrees(lead.angle)} {lead.hand}" if lead else plain


def job_of(row: JobRow, session: Session) -> Job:
    """The job as the core knows it. Raises Refusal at the field."""
    typed, family = read(row.typed), kept.family_of(row)
    held, lead, figures = held_cutters(row, session), kept.lead_of(row), kept.figures(session, row.id)
    lathe = next((m.lathe for m in machines.every(session) if m.slug == row.machine), None)
    job = Job(
        teeth=row.teeth,
        family=family,
        stuff=typed.material,
        school=School.LEAD if lead else typed.school or proposal(row, session),
        how_many=parse_whole(typed.how_many or "1", "how_many", 1, MOST_ALIKE, "blanks|wheels"),
        cutter=_mm(typed.cutter, "cutter"),
        collar=_mm(typed.collar, "collar"),
        jaw_gap=_mm(typed.jaw_gap, "jaw_gap", zero=True),
        jaw_radius=_mm(typed.jaw_radius, "jaw_radius"),
        marks=typed.marks,
        order=typed.order,
        engraved=float(held[0].depth) if held and held[0].depth else None,
        screw_lead=float(lathe.screw_lead_mm) if lathe is not None else None,
        figures={code: _figure(one.figure) for code, one in figures.items() if one.figure},
        spans_found=tuple(_figure(one) for one in figures["measure"].each) if "measure" in figures else (),
        screw=kept.screw_of(row),
        nut=_mm(typed.nut, "nut"),
        nut_across=_mm(typed.nut_across, "nut_across"),
        centre=_mm(typed.centre, "centre"),
        helix=Helix(lead.angle, lead.hand) if lead else None,
        divider=divider_for(row, session),
    )  # fmt: skip
    if (job.nut is None) != (job.nut_across is None):
        raise Refusal("nut_in_part", "nut" if job.nut is None else "nut_across", "")
    # A blank that came out smaller, or a span, asks for other depths than were typed: those are kept and flagged.
    return replace(job, depths=read_passes(typed.passes, None)) if typed.passes.strip() else job


def check_passes(row: JobRow, session: Session) -> None:
    """What is typed of the passes against the depth there is now. Raises Refusal as `read_passes` does."""
    typed = read(row.typed).passes
    if typed.strip():
        read_passes(typed, job_of(row, session).depth)


def _figure(text: str) -> float:
    return float(parse_offset(text, field="figure").mm)


def held_cutters(row: JobRow, session: Session) -> list[Cutter]:
    """The cutters of the stores that cut this wheel, the truest first; a helical one by its formative count."""
    family, lead, count = kept.family_of(row), kept.lead_of(row), row.teeth
    if lead is not None:
        count = int(formative(row.teeth, lead.angle))
    return serving([stores.cutter(c) for c in stores.cutters(session)], family, count)


def _mm(text: str, field: str, zero: bool = False) -> float | None:
    if not text.strip():
        return None
    mm = parse_length(text, field=field).mm
    if mm < 0 or (mm == 0 and not zero):
        raise Refusal("not_positive", field, text)
    return float(mm)


def proposal(row: JobRow, session: Session) -> School:
    """How the blank is best held with what the shop has."""
    if kept.lead_of(row) is not None:
        return School.LEAD
    typed = read(row.typed)
    means = sources.means(session, row.teeth, family_row(row, session), chosen_divider(typed, session))
    return propose(row.teeth, kept.family_of(row), means)


def school_of(row: JobRow, session: Session) -> School:
    """How the blank is held: as chosen, else as proposed."""
    return read(row.typed).school or proposal(row, session)


def chosen_divider(typed: Choices, session: Session) -> Divider | None:
    """What was chosen to divide it; None where that is left open, or the machine is gone."""
    if typed.way is WayKind.WHEEL:
        return Divider.WHEEL
    if typed.way is WayKind.DISC:
        return Divider.DISC
    machine = next((m for m in machines.every(session) if m.slug == typed.head), None)
    return sources.divider_of(machine) if machine is not None else None


def divider_for(row: JobRow, session: Session) -> Divider:
    """What divides the job: as chosen, else the first that goes with how the blank is held and is there."""
    if chosen := chosen_divider(read(row.typed), session):
        return chosen
    there = {sources.divider_of(m) for m in machines.machines(session) if record_parts.has(m, heads.HEAD)}
    usual = DIVIDERS[School.LEAD if kept.lead_of(row) else school_of(row, session)]
    return next((d for d in usual if d in there or d in (Divider.WHEEL, Divider.DISC)), usual[0])


def check_held(row: JobRow, session: Session) -> None:
    """How the blank is held and what divides it are one choice. Raises Refusal `held_elsewhere` (school), `no_table`
    (school)."""
    typed = read(row.typed)
    if kept.lead_of(row) is not None or typed.school is None:
        return
    chosen = chosen_divider(typed, session)
    if chosen is not None and chosen not in DIVIDERS[typed.school]:
        raise Refusal("held_elsewhere", "school", typed.school, divider=chosen, serves=DIVIDERS[typed.school])
    tables = any(m.kind == "rotary table" for m in machines.machines(session))
    if DIVIDERS[typed.school] == (Divider.TABLE,) and not tables:
        raise Refusal("no_table", "school", typed.school)


def donors_for(row: JobRow, session: Session) -> list[Donor]:
    """The wheels of the rack that can be cut down to this one; to a helical one, none."""
    if kept.lead_of(row) is not None:
        return []
    family = family_row(row, session)
    return sources.to_cut_down(family, row.teeth, sources.needed_by_charts(family)) if family else []


def bars_for(row: JobRow, job: Job, session: Session) -> list[FromBar]:
    """The pieces of bar that give the blanks of a job."""
    family = family_row(row, session)
    wide = replace(job.family, face=Fraction(job.face))
    hub = family.hub_mm if family else Fraction(0)
    beyond = job.runs_out if job.school is School.ONE_SETTING else 0.0
    return sources.bars_for(session, row.teeth, wide, hub, job.how_many, str(job.stuff), job.sizes.tip_diameter, beyond)


def chosen_bar(row: JobRow, job: Job, session: Session) -> FromBar | None:
    """The piece of bar that the wheel is cut from. Raises Refusal `bar_too_small` (bar) where it does not give that, or
    is gone."""
    number = read(row.typed).bar
    if number is None or job.school is School.DONOR:
        return None
    from_bar = next((f for f in bars_for(row, job, session) if f.bar.record == number), None)
    if from_bar is None:
        raise Refusal("bar_too_small", "bar", number, blanks=job.how_many)
    return from_bar


def chosen_donor(row: JobRow, job: Job, session: Session) -> Donor | None:
    """The wheel that is cut down. Raises Refusal `cannot_be_cut_down` (donor) where it is too small, on a machine, or
    gone."""
    number = read(row.typed).donor
    if number is None or job.school is not School.DONOR:
        return None
    donor = next((d for d in donors_for(row, session) if d.held.record == number), None)
    if donor is None:
        raise Refusal("cannot_be_cut_down", "donor", number, teeth=row.teeth)
    return donor
