"""Machines of the shop, as records and as the core knows them."""

import math
import re
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass
from fractions import Fraction

from sqlalchemy import inspect, or_, select
from sqlalchemy.orm import Session, joinedload, selectinload
from sqlalchemy.orm.attributes import set_committed_value

from valleywind.core.lathe.machine import Dial, Lathe, LeverPosition, SetUp
from valleywind.core.lathe.record import LatheRecord
from valleywind.core.lathe.thread import CarriageMove, PitchUnit
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY, Pitch, PitchSystem, WheelFamily
from valleywind.core.trains.arrange import Pair
from valleywind.core.trains.direction import Drive, Hand, Sense
from valleywind.core.trains.model import Stock, lacking, parse_train
from valleywind.core.trains.quadrant import Part, Point, Slot, usable_outline
from valleywind.core.trains.quadrant_record import QuadrantFacts, Source
from valleywind.shop import changes
from valleywind.shop.models import LatheRow, MachineRow, MountedRow, QuadrantRow, SlotRow, WheelFamilyRow, WheelRow

MOST_SIZES = 150
"""Different tooth numbers that a machine is planned with: more than any shop has, and as many as are quickly tried."""


def machines(session: Session) -> list[MachineRow]:
    """The machines that are in use, in the order in which they were entered."""
    return [row for row in every(session) if not row.archived]


def archive(session: Session, row: MachineRow, away: bool) -> None:
    """Put a machine away, or take it into use again."""
    changes.name(session, "machine_archived" if away else "machine_in_use", name=row.name)
    row.archived = away
    session.flush()


def every(session: Session) -> list[MachineRow]:
    """All machines, those put away too, in the order in which they were entered."""
    parts = (
        MachineRow.family, MachineRow.lathe, MachineRow.quadrant, MachineRow.mounted, MachineRow.records,
        MachineRow.gearboxes, MachineRow.box_mounted,
    )  # fmt: skip
    with_them = select(MachineRow).order_by(MachineRow.id).options(*map(selectinload, parts))
    return list(session.scalars(with_them))


def machine(session: Session, slug: str) -> MachineRow:
    """One machine by its slug, with what nearly every question needs of it. Raises Refusal `no_such_machine` with the
    slugs there are."""
    parts = (MachineRow.family, MachineRow.lathe, MachineRow.mounted, MachineRow.records)
    quadrant = joinedload(MachineRow.quadrant).joinedload(QuadrantRow.slots)
    with_them = select(MachineRow).where(MachineRow.slug == slug).options(quadrant, *map(joinedload, parts))
    row = session.scalars(with_them).unique().one_or_none()
    if row is None:
        raise Refusal("no_such_machine", "machine", slug, known=[m.slug for m in machines(session)])
    return row


def machine_with_wheels(session: Session, slug: str) -> MachineRow:
    """The same, with the wheels of its family and those in its box, all read in one go."""
    row = machine(session, slug)
    if row.family is not None and "wheels" in inspect(row).unloaded & inspect(row.family).unloaded:
        ours = or_(WheelRow.family_id == row.family_id, WheelRow.machine_id == row.id)
        wheels = session.scalars(select(WheelRow).where(ours).order_by(WheelRow.teeth, WheelRow.id)).all()
        set_committed_value(row, "wheels", [w for w in wheels if w.machine_id == row.id])
        set_committed_value(row.family, "wheels", [w for w in wheels if w.family_id == row.family_id])
    return row


def first_family(session: Session) -> WheelFamilyRow | None:
    """The wheels of the first lathe: what is meant where nobody says which."""
    return next((m.family for m in machines(session) if m.lathe is not None and m.family is not None), None)


def family_on(row: MachineRow) -> WheelFamily:
    """The family of a machine's wheels; one of which nothing is known where it has none."""
    return family(row.family) if row.family else UNKNOWN_FAMILY


def family(row: WheelFamilyRow) -> WheelFamily:
    """The wheel family as the core knows it."""
    pitch = Pitch(PitchSystem(row.pitch_system), row.pitch_value)
    return WheelFamily(row.name, pitch, row.pressure_angle_deg, row.bore_mm, row.key_mm, row.face_mm, row.addendum)


def quadrant_facts(row: QuadrantRow | None) -> QuadrantFacts:
    """What is on record of a machine's quadrant, part by part: radians, mm."""
    if row is None:
        return QuadrantFacts()
    first = None if row.first_x_mm is None or row.first_y_mm is None else (row.first_x_mm, row.first_y_mm)
    swing = None
    if row.swing_low_deg is not None and row.swing_high_deg is not None:
        swing = math.radians(row.swing_low_deg), math.radians(row.swing_high_deg)
    cover: tuple[Point, ...] | None = None
    if row.cover_mm is not None:
        cover = usable_outline([(x, y) for x, y in row.cover_mm]) if row.cover_mm else ()
    return QuadrantFacts(
        first,
        row.apart_mm,
        tuple(Slot(math.radians(s.offset_deg), s.nearest_mm, s.farthest_mm) for s in row.slots),
        swing,
        (row.boss_first_mm, row.boss_stud_mm, row.boss_last_mm),
        row.gap_mm,
        row.studs,
        cover,
        tuple(map(parse_train, row.goes_on or ())),
        tuple(map(parse_train, row.not_on or ())),
        {Part(part): Source(source) for part, source in (row.sources or {}).items()},
    )


def lathe(row: MachineRow) -> Lathe:
    """The lathe as the core knows it. Raises Refusal `wrong_kind`."""
    if row.lathe is None:
        raise Refusal("wrong_kind", "machine", row.slug, kind="lathe")
    record = row.lathe
    wheels = family(row.family) if row.family else None
    feeds = {CarriageMove.ALONG: record.feed_along_mm, CarriageMove.ACROSS: record.feed_across_mm}
    return Lathe(
        row.name,
        record.screw_lead_mm,
        _steps(record.first_steps),
        _drive(record),
        wheels or UNKNOWN_FAMILY,
        quadrant_facts(row.quadrant).carrier(float(wheels.module) if wheels else None),
        box=_steps(record.box_steps),
        first_drivers=tuple(record.first_drivers),
        last_driven=tuple(record.last_driven),
        pairs=tuple(Pair(*pair) for pair in record.pairs),
        feeds={way: travel for way, travel in feeds.items() if travel is not None},
        dials=tuple(Dial(*dial) for dial in record.dials),
        pitch_known=wheels is not None,
    )


def _drive(record: LatheRow) -> Drive | None:
    """How the shafts turn, where both senses are on record."""
    if record.first_shaft_turns is None or record.screw_turns_right_hand is None:
        return None
    right_hand = Sense(record.screw_turns_right_hand)
    if Hand(record.screw_hand) is Hand.LEFT:
        right_hand = right_hand.other
    return Drive(Sense(record.first_shaft_turns), right_hand, record.reverse_lever)


def _steps(rows: list[list[str]]) -> tuple[LeverPosition, ...]:
    return tuple(LeverPosition(name, Fraction(ratio)) for name, ratio in rows)


@dataclass(frozen=True)
class Particulars:
    """What a lathe's record has beside what is typed of its shafts: its turning senses, None where they are not known,
    and which wheels go on it, None where their pitch is not known. example: its figures are not confirmed yet."""

    note: str
    screw_hand: Hand
    first_shaft_turns: Sense | None
    screw_turns_right_hand: Sense | None
    reverse_lever: bool
    family: WheelFamilyRow | None
    example: bool = False


def record(row: MachineRow) -> LatheRecord:
    """A lathe's record, as it would be read. Raises Refusal `wrong_kind`."""
    known = lathe(row)
    assert row.lathe is not None
    return LatheRecord(
        row.name, known.screw_lead, PitchUnit(row.lathe.screw_stated), known.first, known.box, known.first_drivers,
        known.last_driven, known.pairs, known.dials, known.feeds.get(CarriageMove.ALONG),
        known.feeds.get(CarriageMove.ACROSS), quadrant_facts(row.quadrant),
    )  # fmt: skip


def particulars(row: MachineRow) -> Particulars:
    """What a lathe's record has beside that."""
    assert row.lathe is not None
    turns, screw = row.lathe.first_shaft_turns, row.lathe.screw_turns_right_hand
    return Particulars(
        row.note, Hand(row.lathe.screw_hand), Sense(turns) if turns else None, Sense(screw) if screw else None,
        row.lathe.reverse_lever, row.family, row.example,
    )  # fmt: skip


def save_lathe(session: Session, row: MachineRow | None, record: LatheRecord, more: Particulars) -> MachineRow:
    """Enter a new lathe, or make a known one what the record says.

    Raises Refusal `name_taken`; `mounted_not_held` where its wheels are of another family than what is mounted.
    """
    slug = free_slug(session, record.name, row)
    changes.name(session, "machine_edited" if row else "machine_added", name=record.name)
    if row is None:
        row = MachineRow(slug=slug, name=record.name, kind="lathe", note="", family=more.family)
        session.add(row)
    levers = mounted(row) if row.lathe is not None and row.mounted is not None else None
    if row.mounted is not None and row.family not in (None, more.family):
        raise Refusal(
            "mounted_not_held", "family", row.name, lacking=dict(Counter(parse_train(row.mounted.train).teeth))
        )
    if row.family is None and more.family is not None:
        # Now that their pitch is known the wheels counted for it are of that family.
        for wheel in of_its_kind(row):
            wheel.family = more.family
    row.slug, row.name, row.note, row.family = slug, record.name, more.note, more.family
    row.example = more.example
    row.lathe = row.lathe or LatheRow()
    lathe = row.lathe
    lathe.screw_lead_mm, lathe.screw_stated = record.screw_lead, "tpi" if record.screw_stated is PitchUnit.TPI else "mm"
    lathe.screw_hand, lathe.reverse_lever = more.screw_hand.value, more.reverse_lever
    lathe.first_shaft_turns, lathe.screw_turns_right_hand = more.first_shaft_turns, more.screw_turns_right_hand
    lathe.first_steps = [[s.name, str(s.ratio)] for s in record.first]
    lathe.box_steps = [[s.name, str(s.ratio)] for s in record.box]
    lathe.first_drivers, lathe.last_driven = list(record.first_drivers), list(record.last_driven)
    lathe.pairs = [[p.one, p.other] for p in record.pairs]
    lathe.dials = [[d.teeth, d.marks] for d in record.dials]
    lathe.feed_along_mm, lathe.feed_across_mm = record.feed_along, record.feed_across
    save_quadrant(session, row, record.quadrant)
    session.flush()
    if levers is not None:
        _keep_levers(row, levers)
    return row


def _keep_levers(row: MachineRow, before: SetUp) -> None:
    """Where the levers stand under their new names. Raises Refusal `levers_gone` where there is no such place now."""
    now = lathe(row)
    name = now.setting_name(before.setting)
    alike = [s for s in now.every_setting() if now.setting_name(s) == name]
    # A lever that has no choice any more, or has one now, stands where it turns as it did.
    alike = alike or [s for s in now.every_setting() if s.ratio == before.setting.ratio]
    if len(alike) != 1:
        field = "box" if before.setting.box else "first"
        raise Refusal("levers_gone", field, name or before.setting.first.name, machine=row.name)
    assert row.mounted is not None
    row.mounted.setting = now.setting_name(alike[0])


def save_quadrant(session: Session, row: MachineRow, known: QuadrantFacts) -> None:
    """Make the machine's quadrant what is known of it. What was not changed keeps its figures to the last digit."""
    kept = row.quadrant = row.quadrant or QuadrantRow()
    x, y = known.first_shaft or (None, None)
    low, high = map(math.degrees, known.swing) if known.swing else (None, None)
    first, stud, last = known.bosses
    _keep(kept, first_x_mm=x, first_y_mm=y, apart_mm=known.apart, swing_low_deg=low, swing_high_deg=high)
    _keep(kept, boss_first_mm=first, boss_stud_mm=stud, boss_last_mm=last, gap_mm=known.gap)
    kept.studs = known.studs
    kept.cover_mm = None if known.cover is None else [[x, y] for x, y in known.cover]
    kept.goes_on, kept.not_on = ([t.notation for t in trains] for trains in (known.goes_on, known.not_on))
    kept.sources = {part.value: source.value for part, source in known.sources.items()}
    del kept.slots[len(known.slots) :]
    for n, slot in enumerate(known.slots):
        if n == len(kept.slots):
            kept.slots.append(SlotRow(place=n))
        _keep(kept.slots[n], offset_deg=math.degrees(slot.offset), nearest_mm=slot.nearest, farthest_mm=slot.farthest)
    session.flush()


def _keep(row: QuadrantRow | SlotRow, **figures: float | None) -> None:
    """Set figures that are not as they were; what differs only by the way from degrees and back stays as it is."""
    for name, figure in figures.items():
        before = getattr(row, name)
        if before is None or figure is None or not math.isclose(before, figure, rel_tol=1e-12, abs_tol=1e-12):
            setattr(row, name, figure)


def remove(session: Session, row: MachineRow) -> None:
    """Take a machine out of the shop. Its wheels stay in the rack and belong to no machine; those that it is known to
    lack are forgotten with it."""
    name, wheels = row.name, list(row.wheels)
    for wheel in wheels:
        if wheel.count:
            wheel.machine = None
        else:
            session.delete(wheel)
    session.flush()
    session.expire(row, ["wheels"])
    session.delete(row)
    session.flush()
    changes.name(session, "machine_deleted", name=name)


def list_full_set(session: Session, row: MachineRow, wheels: str) -> None:
    """Keep the maker's list of a machine's wheels; empty for none."""
    changes.name(session, "full_set", name=row.name)
    row.full_set = wheels


RESERVED = frozenset({
    "backlash", "calipers", "chart", "compare", "constants", "devices", "disc", "examples", "fields", "materials",
    "methods", "new", "plate", "preview", "read", "reading", "rolling", "ways",
})  # fmt: skip
"""Words that stand in addresses where a machine's short name stands: no machine is called so."""


def free_slug(session: Session, name: str, row: MachineRow | None) -> str:
    """The short name of a machine of this name; a known one keeps its own while its name stays.

    Raises Refusal `name_taken`, `not_a_name`.
    """
    if row is not None and row.name == name:
        return row.slug
    slug = re.sub(r"[^a-z0-9]+", "-", name.lower()).strip("-")
    if not slug:
        raise Refusal("not_a_name", "name", name)
    if slug in RESERVED:
        slug += "-2"
    if session.scalar(select(MachineRow).where(MachineRow.slug == slug)) not in (None, row):
        raise Refusal("name_taken", "name", name)
    return slug


def stock(row: MachineRow) -> Stock:
    """The wheels this machine can be set up with, those mounted on it included.

    Of its own family and whole enough to run: its own ones, and those that belong to no machine as far as no other
    machine has them on. A lathe whose wheels have no known pitch has those that were counted for it.
    Raises Refusal `too_many_sizes`.
    """
    if row.family is None:
        return dict(sorted(_own(row).items()))
    held: Counter[int] = Counter()
    loose: Counter[int] = Counter()
    for wheel in row.family.wheels:
        if Condition(wheel.condition).usable and not _of_another(wheel, row):
            (held if wheel.machine is row else loose)[wheel.teeth] += wheel.count
    if len(held | loose) > MOST_SIZES:
        raise Refusal("too_many_sizes", "stock", len(held | loose), most=MOST_SIZES)
    for other in row.family.machines if loose else ():
        if other is not row:
            loose -= on_machine(other) - Counter(_own(other))
    return dict(sorted((held + loose).items()))


def _of_another(wheel: WheelRow, row: MachineRow) -> bool:
    """Whether it belongs to another machine, which is not read for that."""
    if "machine" in inspect(wheel).unloaded:
        return wheel.machine_id not in (row.id, None)
    return wheel.machine not in (row, None)


def elsewhere(row: MachineRow) -> dict[int, str]:
    """Wheels of this machine's family that are whole but not among its stock: the machine each belongs to, or is on."""
    if row.family is None:
        return {}
    own = stock(row)
    where = {w.teeth: w.machine.name for w in row.family.wheels
             if w.machine not in (row, None) and Condition(w.condition).usable}  # fmt: skip
    for other in row.family.machines:
        if other is not row:
            where |= dict.fromkeys(on_machine(other), other.name)
    return {teeth: name for teeth, name in where.items() if teeth not in own}


def some(row: MachineRow, held: Stock) -> Stock:
    """The wheels to plan with. Raises Refusal `no_wheels`, under the machine's name, where there are none."""
    if not any(held.values()):
        raise Refusal("no_wheels", "stock", row.name)
    return held


def on_machine(row: MachineRow) -> Counter[int]:
    """Every wheel that is on the machine now, in whatever box."""
    trains = [row.mounted.train] if row.mounted else []
    return Counter(t for train in (*trains, *(b.train for b in row.box_mounted)) for t in parse_train(train).teeth)


def _own(row: MachineRow) -> dict[int, int]:
    own: Counter[int] = Counter()
    for wheel in of_its_kind(row):
        if Condition(wheel.condition).usable:
            own[wheel.teeth] += wheel.count
    return own


def takes_wheels(row: MachineRow) -> bool:
    """Whether change wheels go on the machine: a head alone has gears of its own, unless it is given a family."""
    return row.family is not None or row.lathe is not None or any(part != "head" for part in row.records)


def of_its_kind(row: MachineRow) -> list[WheelRow]:
    """The wheels in a machine's box that go on it: of its family, or where that is not known those without one."""
    if not takes_wheels(row):
        return []
    return [w for w in row.wheels if w.family is row.family]


def left_out(row: MachineRow) -> list[WheelRow]:
    """Wheels in this machine's box that no train is planned with: of another pitch, not recognised, or chipped."""
    goes_on = takes_wheels(row)
    return [
        w for w in row.wheels if w.count and not (goes_on and w.family is row.family and Condition(w.condition).usable)
    ]


def mounted(row: MachineRow, record: Lathe | None = None) -> SetUp | None:
    """The train that is on a lathe now, with its levers as they were recorded; None where nothing is on it, or where it
    is not known any more how the levers stand. `record` is the lathe, where it is read already.

    Raises Refusal `wrong_kind`.
    """
    if row.mounted is None:
        return None
    record = record or lathe(row)
    setting = next((s for s in record.every_setting() if record.setting_name(s) == row.mounted.setting), None)
    return SetUp(parse_train(row.mounted.train), setting) if setting is not None else None


def mounted_records(session: Session, row: MachineRow) -> dict[int, int]:
    """Of which records of the rack the wheels on the machine are, and how many of each: its own before those of no
    machine, good ones before worn."""
    wanted = on_machine(row)
    if not wanted:
        return {}
    own = WheelRow.machine_id == row.id
    its_own = own if row.family is None else own | WheelRow.machine_id.is_(None)
    kin = select(WheelRow).where(WheelRow.family_id.is_not_distinct_from(row.family_id), its_own)
    of_these = session.scalars(kin.where(WheelRow.teeth.in_(wanted)))
    usable = [w for w in of_these if Condition(w.condition).usable]
    usable.sort(key=lambda w: (w.machine_id is None, Condition(w.condition) is not Condition.GOOD, w.id))
    records = {}
    for wheel in usable:
        if taken := min(wheel.count, wanted[wheel.teeth]):
            records[wheel.id] = taken
            wanted[wheel.teeth] -= taken
    return records


def mount(session: Session, row: MachineRow, set_up: SetUp | None, ask: str = "") -> None:
    """Record what is on the machine now; None clears it. ask: what it was put on for. Raises Refusal
    `wheels_not_held`."""
    if set_up is None:
        changes.name(session, "dismounted", name=row.name)
        row.mounted = None
        return
    changes.name(session, "mounted", name=row.name, train=set_up.name(lathe(row)), ask=ask)
    train, setting = set_up.train, lathe(row).setting_name(set_up.setting)
    short = lacking(train.teeth, stock(row))
    if short:
        raise Refusal("wheels_not_held", "train", train.notation, lacking=short)
    if row.mounted is None:
        row.mounted = MountedRow(train=train.notation, setting=setting)
    else:
        row.mounted.train, row.mounted.setting = train.notation, setting


def set_wheels(session: Session, row: MachineRow, held: Stock) -> None:
    """Make `held` the machine's wheels. A tooth number it had and has no more stays as missing.

    Raises Refusal `mounted_not_held` when a mounted wheel would be gone.
    """
    changes.name(session, "machine_wheels", name=row.name)
    lacking_before = changes.shortages(session)
    own = [w for w in of_its_kind(row) if Condition(w.condition).usable]
    for teeth in sorted({w.teeth for w in own} | set(held)):
        alike = [w for w in own if w.teeth == teeth] or [_new_wheel(row, teeth)]
        wanted = held.get(teeth, 0) - sum(w.count for w in alike)
        # What comes is good; what goes, goes from the worn ones first.
        for wheel in sorted(alike, key=lambda w: w.condition == Condition.GOOD):
            if wanted < 0:
                taken = min(-wanted, wheel.count)
                wheel.count, wanted = wheel.count - taken, wanted + taken
        alike[0].count += max(wanted, 0)
    session.flush()
    if len(held) > MOST_SIZES:
        raise Refusal("too_many_sizes", "wheels", len(held), most=MOST_SIZES)
    keep_mounted(session, lacking_before)


def add_wheels(session: Session, row: MachineRow, held: Stock) -> None:
    """Give a new machine its wheels, as part of adding it."""
    if len(held) > MOST_SIZES:
        raise Refusal("too_many_sizes", "wheels", len(held), most=MOST_SIZES)
    with session.no_autoflush:
        for teeth, number in held.items():
            _new_wheel(row, teeth).count = number
    session.flush()


def keep_mounted(session: Session, lacking_before: Mapping[int, Counter[int]]) -> None:
    """No change may take away a wheel that is on a machine. One that an older shop lacked already is no hindrance.

    `lacking_before`: the shortages before the change. Raises Refusal `mounted_not_held`.
    """
    for number, lacking_now in changes.shortages(session).items():
        if short := lacking_now - lacking_before.get(number, Counter()):
            row = session.get(MachineRow, number)
            raise Refusal("mounted_not_held", "wheels", row.name if row else None, lacking=dict(short))


def _new_wheel(row: MachineRow, teeth: int) -> WheelRow:
    wheel = WheelRow(
        family=row.family, teeth=teeth, count=0, condition=Condition.GOOD.value, material="", place="", note="",
        measured={},
    )  # fmt: skip
    row.wheels.append(wheel)
    return wheel
