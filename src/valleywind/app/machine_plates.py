"""Plates of machines: what each kind reads from one, what it may be by it, and how that goes into its record."""

from collections import Counter
from collections.abc import Callable, Iterable, Iterator
from contextlib import suppress
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache

from sqlalchemy.orm import Session

from valleywind.core.dividing.heads import TypedHead
from valleywind.core.helix import plate as mill_plate
from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.chart import chart as lead_chart
from valleywind.core.helix.plan import drive_of
from valleywind.core.hobbing import plate as hobber_plate
from valleywind.core.hobbing.chart import CountStanding
from valleywind.core.hobbing.chart import chart as hob_chart
from valleywind.core.hobbing.machine import Box
from valleywind.core.lathe import plate as lathe_plate
from valleywind.core.lathe.chart import Pitched, chart
from valleywind.core.lathe.machine import LeverPosition
from valleywind.core.lathe.record import LatheRecord, read_screw, read_steps
from valleywind.core.lathe.thread import CarriageMove
from valleywind.core.plate.plate import JudgedLine, Plate, Standing
from valleywind.core.refusal import Refused
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.in_line import reached
from valleywind.core.trains.model import Combination, Stock, Train
from valleywind.core.trains.quadrant import Unmeasured
from valleywind.core.trains.quadrant_record import MOST_TRAINS, QuadrantFacts, spell_quadrant
from valleywind.core.units import PI, spell
from valleywind.shop import changes, machine_plates, machines, records
from valleywind.shop.models import MachineRow
from valleywind.wording import plate as plate_words
from valleywind.wording.helix import plate as mill_words
from valleywind.wording.helix.answers import pair_label
from valleywind.wording.hobbing import plate as hobber_words
from valleywind.wording.lathe import plate as lathe_words
from valleywind.wording.plate import PlateWords
from valleywind.wording.trains import train_text


@dataclass(frozen=True)
class Choice:
    """One machine that a plate fits: what goes into the record, field by field, as a form takes it."""

    fields: tuple[tuple[str, str], ...]


@dataclass(frozen=True)
class PlateKind:
    """A kind of machine that has plates. read: a plate, given the counts in the rack; choices: what it may be by one,
    what its record says already before the most usual; put: one of them into the record, of a new machine where the
    row is None."""

    name: str
    words: PlateWords
    read: Callable[[str, Iterable[int]], Plate]
    choices: Callable[[Plate, MachineRow | None], list[Choice]]
    put: Callable[[Session, MachineRow | None, str, Plate, Choice], MachineRow]


def kind_of(row: MachineRow) -> PlateKind:
    """The kind of a known machine. Raises Refused `no_plates`."""
    return kind_named(row.kind)


def kind_named(name: str) -> PlateKind:
    """Raises Refused `no_plates` for a kind that has none."""
    if name not in KINDS:
        raise Refused("no_plates", "kind", name)
    return KINDS[name]


def read(kind: PlateKind, text: str, row: MachineRow | None = None) -> Plate:
    """A plate; the same one is read once. Raises Refused: those of `find_plate`."""
    held = frozenset(machines.stock(row)) if row is not None else frozenset()
    return _read(kind.name, text, held)


@lru_cache(maxsize=32)
def _read(kind: str, text: str, held: frozenset[int]) -> Plate:
    return KINDS[kind].read(text, held)


def kept(row: MachineRow) -> Plate | None:
    """A machine's plate, None where it has none that can be read."""
    text = machine_plates.lines(row)
    if not text or row.kind not in KINDS:
        return None
    try:
        return read(KINDS[row.kind], text, row)
    except Refused:
        return None


def on_plate(row: MachineRow, wanted: Fraction, kind: str) -> frozenset[Combination]:
    """The wheels that the machine's plate has for this: a lead in mm, a part of a turn."""
    plate = kept(row)
    if plate is None:
        return frozenset()
    return frozenset(
        line.train.combination
        for line in plate.lines
        if line.right.target.per == wanted and line.target.kind == kind and not line.changes
    )


def save(session: Session, row: MachineRow, text: str) -> None:
    """Keep a plate as typed. Raises Refused: those of `find_plate`, `no_plates`."""
    if text.strip():
        read(kind_of(row), text, row)
    machine_plates.save(session, row, text)


def use(session: Session, row: MachineRow, choice: int, wheels: bool) -> MachineRow:
    """Put what a machine's plate gives into its record, and the maker's wheels into its box.

    Raises Refused `no_such_choice`, and what a record or a rack refuses.
    """
    kind, plate = kind_of(row), kept(row)
    if plate is None:
        raise Refused("no_plate_lines", "lines", "")
    row = kind.put(session, row, row.name, plate, _chosen(kind, plate, row, choice))
    if wheels:
        add_wheels(session, row, plate)
    changes.name(session, "plate_used", name=row.name)
    return row


def new(session: Session, kind: PlateKind, name: str, text: str, choice: int, wheels: bool) -> MachineRow:
    """A new machine from its plate. Raises Refused as `use` does, `empty` (name), `name_taken`."""
    if not name.strip():
        raise Refused("empty", "name", name)
    plate = read(kind, text)
    row = kind.put(session, None, name.strip(), plate, _chosen(kind, plate, None, choice))
    machine_plates.put(row, text)
    session.flush()
    if wheels:
        add_wheels(session, row, plate)
    changes.name(session, "machine_added", name=row.name)
    return row


def lacking(row: MachineRow, plate: Plate) -> Counter[int]:
    """The maker's wheels that are not in the machine's box."""
    return Counter(plate.wheels) - Counter(machines.stock(row))


def add_wheels(session: Session, row: MachineRow, plate: Plate) -> None:
    """Every wheel of the plate that is not in the machine's box goes into it."""
    machines.set_wheels(session, row, dict(Counter(machines.stock(row)) | Counter(plate.wheels)))


def _chosen(kind: PlateKind, plate: Plate, row: MachineRow | None, choice: int) -> Choice:
    choices = kind.choices(plate, row)
    if not 0 <= choice < len(choices):
        raise Refused("no_such_choice", "choice", choice)
    return choices[choice]


def _steps(plate: Plate) -> tuple[LeverPosition, ...]:
    """The positions that a plate names, as a record takes them: `II B=1/2`."""
    named = {" ".join(filter(None, step)): factor for step, factor in plate.steps.items()}
    return tuple(LeverPosition(name or "none", factor) for name, factor in named.items()) if any(named) else ()


# Lathes


def _lathes(plate: Plate, row: MachineRow | None) -> list[Choice]:
    if plate.constant is None:
        return []
    box = ", ".join(f"{step.name}={step.ratio}" for step in _steps(plate))
    lathes = [(one.screw, str(one.first_ratio)) for one in lathe_plate.lathes_of(plate.constant)]
    known = machines.record(row) if row is not None else None
    if known is not None and _gives(known, plate):
        lathes = list(dict.fromkeys([_own(known), *lathes]))
    return [Choice((("screw", screw), ("first", first), *((("box", box),) if box else ()))) for screw, first in lathes]


def _own(record: LatheRecord) -> tuple[str, str]:
    """Screw and first shaft as a record has them."""
    return lathe_plate.spell_screw(record.screw_lead, record.screw_stated), str(record.first[0].ratio)


def _put_lathe(session: Session, row: MachineRow | None, name: str, plate: Plate, choice: Choice) -> MachineRow:
    typed = dict(choice.fields)
    lead, stated = read_screw(typed["screw"])
    ratio = Fraction(typed["first"])
    known = machines.record(row) if row is not None else LatheRecord.of_screw(name, lead, stated)
    record = replace(known, quadrant=_with_trains(known.quadrant, row, plate))
    if row is None or not _gives(known, plate) or (typed["screw"], typed["first"]) != _own(known):
        first = (LeverPosition(typed["first"], ratio),)
        # Read as the record's form reads it: what is saved can be saved again.
        box = read_steps(typed["box"], "lines") if "box" in typed else known.box
        record = replace(record, screw_lead=lead, screw_stated=stated, first=first, box=box)
    if plate.constant is not None:
        # The apron turns with the screw, whichever position of the levers the plate's constant is told from.
        along, across = (
            plate.constants[way] * record.screw_lead / plate.constant if way in plate.constants else feed
            for way, feed in ((CarriageMove.ALONG, known.feed_along), (CarriageMove.ACROSS, known.feed_across))
        )
        record = replace(record, feed_along=along, feed_across=across)
    more = (
        machines.particulars(row) if row is not None else machines.Particulars("", Hand.RIGHT, None, None, True, None)
    )
    return machines.save_lathe(session, row, record, more)


def _gives(record: LatheRecord, plate: Plate) -> bool:
    """Whether a record gives what the plate does already, its positions by whatever names: then it stays."""
    known = {first.ratio * step * record.screw_lead for first in record.first for step in _ratios(record.box)}
    constant = plate.constant or 0
    return {constant * step for step in _ratios(_steps(plate))} <= known


def _ratios(steps: tuple[LeverPosition, ...]) -> list[Fraction]:
    return [step.ratio for step in steps] or [Fraction(1)]


def _with_trains(facts: QuadrantFacts, row: MachineRow | None, plate: Plate) -> QuadrantFacts:
    """With the plate's trains as known to go on, where the quadrant is not measured."""
    family = machines.family(row.family) if row is not None and row.family else None
    if not isinstance(facts.carrier(float(family.module) if family else None), Unmeasured):
        return facts
    known = dict.fromkeys([*facts.goes_on, *(t for t in plate.trains if reached(t) is not None)])
    return replace(facts, goes_on=tuple(known)[:MOST_TRAINS])


# Hobbers


def _hobbers(plate: Plate, _row: MachineRow | None) -> list[Choice]:
    found = hobber_plate.constants_of(plate)
    fields = []
    if found.index:
        fields.append(("index", ", ".join(spell(k) + (f" from {at}" if at else "") for k, at in found.index)))
    if found.feed is not None:
        fields.append(("feed", f"{spell(found.feed)} mm"))
    if found.differential is not None:
        said = f"{spell(found.differential * PI)}/π" if found.pi else f"{float(found.differential):.6g}"
        fields.append(("differential", f"{said} mm"))
    return [Choice(tuple(fields))] if fields else []


def _put_hobber(session: Session, row: MachineRow | None, name: str, plate: Plate, choice: Choice) -> MachineRow:
    known = records.as_typed(row, records.HOBBER) if row is not None else records.HOBBER.typed()
    found = dict(choice.fields)
    if _agrees(row, plate):
        found.pop("index", None)
    typed = replace(
        known, index=found.get("index", known.index), feed=found.get("feed", known.feed),
        differential=found.get("differential", known.differential),
    )  # fmt: skip
    return _save(session, row, "hobber", name, {records.HOBBER.name: typed})


def _agrees(row: MachineRow | None, plate: Plate) -> bool:
    """Whether the record's index constants give every line that agrees: they say more than a table, such as the
    reversing pair, and the very count at which it is changed."""
    if row is None or not records.as_typed(row, records.HOBBER).index:
        return False
    hobber = records.hobber(row)
    lines = [line for line in plate.standing(Standing.AGREES) if line.target.kind == Box.INDEX]
    return all(
        hobber.index_for(hobber_plate.teeth_of(line.target)).constant * line.target.per == line.train.ratio
        for line in lines
    )


# Mills


def _mills(plate: Plate, row: MachineRow | None) -> list[Choice]:
    if plate.constant is None:
        return []
    pairs = ", ".join(name for step in plate.steps if ":" in (name := " ".join(filter(None, step))))
    mills = [(one.screw, one.head) for one in mill_plate.mills_of(1 / plate.constant)]
    if row is not None and records.has(row, records.HEAD):
        head = records.head(row).ratio
        mills.sort(key=lambda mill: mill[1] != head)
    return [
        Choice((("screw", screw), ("ratio", spell(head)), *((("pairs", pairs),) if pairs else ())))
        for screw, head in mills
    ]


def _put_mill(session: Session, row: MachineRow | None, name: str, _plate: Plate, choice: Choice) -> MachineRow:
    found = dict(choice.fields)
    mill = records.as_typed(row, records.MILL) if row is not None else records.MILL.typed()
    has_head = row is not None and records.has(row, records.HEAD)
    head = records.as_typed(row, records.HEAD) if row is not None and has_head else TypedHead()
    mill = replace(mill, screw=found["screw"], pairs=mill.pairs or found.get("pairs", ""))
    parts = {records.MILL.name: mill, records.HEAD.name: replace(head, ratio=found["ratio"])}
    return _save(session, row, "mill", name, parts)


def _save(session: Session, row: MachineRow | None, kind: str, name: str, parts: dict[str, object]) -> MachineRow:
    if row is None:
        return records.save(session, None, records.TypedMachine(kind, name, parts=parts), None)
    whole = {p.name: records.as_typed(row, p) for p in records.PARTS if records.has(row, p)} | parts
    arm = spell_quadrant(machines.quadrant_facts(row.quadrant)) if row.quadrant is not None else None
    return records.save(session, row, records.TypedMachine(kind, name, row.note, whole, arm), row.family)


KINDS = {
    kind.name: kind
    for kind in (
        PlateKind("lathe", lathe_words.WORDS, lathe_plate.read_plate, _lathes, _put_lathe),
        PlateKind("hobber", hobber_words.WORDS, hobber_plate.read_plate, _hobbers, _put_hobber),
        PlateKind("mill", mill_words.WORDS, mill_plate.read_plate, _mills, _put_mill),
    )
}


# What the wheels can do beside a plate


@dataclass(frozen=True)
class Compared:
    """A line of a plate beside the best train of the wheels held."""

    number: int
    train: str
    says: str


def compared(row: MachineRow) -> list[Compared]:
    """For each line of a machine's plate that names what is wanted by itself, the best train that goes on. Nothing
    where there is no plate, no wheel, or the record lacks what trains are planned by."""
    plate, stock = kept(row), machines.stock(row)
    if plate is None or not any(stock.values()):
        return []
    with suppress(Refused):
        return list(_COMPARED[row.kind](row, plate, stock))
    return []


def _lathe_compared(row: MachineRow, plate: Plate, stock: Stock) -> Iterator[Compared]:
    lathe = machines.lathe(row)
    # A lathe without a feed of its own across has none to compare.
    lines = [line for line in plate.lines if line.target.kind != CarriageMove.ACROSS or line.target.kind in lathe.feeds]
    rows = chart([Pitched(lathe_plate.ask_of(line.right.target)) for line in lines], lathe, stock)
    for line, found in zip(lines, rows, strict=True):
        candidate = found.candidate if found.new is None else None
        if candidate is None:
            yield _none(line, found.new)
        else:
            yield _beside(line, candidate.train, candidate.error)


def _hobber_compared(row: MachineRow, plate: Plate, stock: Stock) -> Iterator[Compared]:
    """Its index lines for a hob of one start: a feed or a lead is not asked for by itself."""
    counts = {line.line.number: hobber_plate.teeth_of(line.right.target) for line in plate.lines if _is_count(line)}
    stands = {one.teeth: one for one in hob_chart(records.hobber(row), stock, sorted(set(counts.values())))}
    for line in plate.lines:
        found = stands.get(counts.get(line.line.number, 0))
        if found is None:
            continue
        if found.laid is not None and found.standing is CountStanding.EXACT:
            yield _beside(line, found.laid.train, Fraction(0))
        elif found.standing is CountStanding.OTHER_PAIR and found.laid is not None:
            yield Compared(line.line.number, train_text(found.laid.train), plate_words.OTHER_PAIR)
        elif found.standing is CountStanding.MADE_UP:
            yield Compared(line.line.number, "", plate_words.MADE_UP)
        else:
            yield _none(line, found.new)


def _is_count(line: JudgedLine) -> bool:
    return line.target.kind == Box.INDEX and line.right.target.per.numerator == 1


def _mill_compared(row: MachineRow, plate: Plate, stock: Stock) -> Iterator[Compared]:
    head = records.head(row).ratio if records.has(row, records.HEAD) else None
    drive = drive_of(records.mill(row), head)
    asked = [HelixAsk(lead=1 / line.right.target.per) for line in plate.lines]
    for line, cell in zip(plate.lines, lead_chart(asked, drive, stock), strict=True):
        if cell.candidate is None or cell.new is not None:
            yield _none(line, cell.new)
        else:
            pair = pair_label(cell.candidate.setting, drive)
            yield _beside(line, cell.candidate.train, cell.candidate.error, pair or "")


def _none(line: JudgedLine, new: int | None) -> Compared:
    return Compared(line.line.number, "", plate_words.no_train(new))


def _beside(line: JudgedLine, train: Train, error: Fraction, setting: str = "") -> Compared:
    """The best train of a line; the same as the plate's where wheels and error are."""
    gives = None if line.standing is Standing.WRONG else line.error
    same = train.combination == line.right.train.combination and (not setting or error == gives)
    says = plate_words.beside(error, gives, same)
    return Compared(line.line.number, ", ".join(filter(None, (train_text(train), setting))), says)


_COMPARED: dict[str, Callable[[MachineRow, Plate, Stock], Iterator[Compared]]] = {
    "lathe": _lathe_compared,
    "hobber": _hobber_compared,
    "mill": _mill_compared,
}
