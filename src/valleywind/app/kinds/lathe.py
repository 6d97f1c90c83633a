"""A lathe: its lines, its trains, its plate, its day."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction

from sqlalchemy.orm import Session

from valleywind.app import merits
from valleywind.app.kinds.craft import Craft, ListedWay, whole
from valleywind.app.kinds.kind import MachineKind, Mounting, SetUpText, TrainKind
from valleywind.app.kinds.line import Completion, LineRead, line_read
from valleywind.app.kinds.plate import Choice, PlateComparison, PlateKind, beside, no_train
from valleywind.core.lathe import ask as lathe
from valleywind.core.lathe import day as lathe_day
from valleywind.core.lathe import machine as lathe_machine
from valleywind.core.lathe import plate as lathe_plate
from valleywind.core.lathe import thread
from valleywind.core.lathe.chart import ChartAsk, chart
from valleywind.core.lathe.complete import complete
from valleywind.core.lathe.machine import Lathe, LeverPosition, SetUp
from valleywind.core.lathe.plan import Candidate
from valleywind.core.lathe.record import LatheRecord, read_screw, read_steps
from valleywind.core.lathe.thread import CarriageMove
from valleywind.core.plate.plate import Plate
from valleywind.core.teeth.ask_line import Station
from valleywind.core.trains.days_work import Choices
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.effort import Place, What
from valleywind.core.trains.in_line import reached
from valleywind.core.trains.model import Stock
from valleywind.core.trains.quadrant import UnmeasuredQuadrant
from valleywind.core.trains.quadrant_record import MOST_TRAINS, QuadrantFacts
from valleywind.core.units import MM_PER_INCH, spell
from valleywind.shop import machines
from valleywind.shop.models import LatheRow, MachineRow
from valleywind.wording import machines as machine_words
from valleywind.wording import numbers
from valleywind.wording.day import PlaceNames
from valleywind.wording.lathe import answers as lathe_words
from valleywind.wording.lathe import plate as plate_words
from valleywind.wording.lathe.record import WEIGHTS
from valleywind.wording.numbers import Units
from valleywind.wording.record_form import Facts
from valleywind.wording.trains import LATHE_SHAFTS, train_text


@dataclass(frozen=True)
class LatheInUse:
    """A lathe with the wheels it can be set up with and the train that is on it."""

    row: MachineRow
    lathe: Lathe
    stock: Stock
    mounted: SetUp | None


def lathe_in_use(session: Session, machine: str) -> LatheInUse:
    """Raises Refusal `no_such_machine`, `wrong_kind`."""
    row = machines.machine_with_wheels(session, machine)
    lathe = machines.lathe(row)
    return LatheInUse(row, lathe, machines.stock(row), machines.mounted(row, lathe))


def not_known(row: MachineRow, lathe: Lathe | None) -> list[str]:
    """What is not known of a lathe, a sentence each; nothing of other machines."""
    if lathe is None:
        return []
    return [*([lathe_words.EXAMPLE] if row.example else []), *lathe_words.not_known(lathe)]


def screw_text(lathe: LatheRow) -> str:
    """The lead screw as it was stated, so that a field takes it back."""
    lead = lathe.screw_lead_mm
    return f"{spell(MM_PER_INCH / lead)} tpi" if lathe.screw_stated == "tpi" else f"{spell(lead)} mm"


def facts(row: MachineRow, units: Units) -> Facts:
    """Everything on record of a lathe, in words."""
    assert row.lathe is not None
    left = row.lathe.screw_hand == "left"
    lines = machine_words.lathe_facts(machines.lathe(row), screw_text(row.lathe), left, units)
    return lines + machine_words.quadrant_known(machines.quadrant_facts(row.quadrant), units)


def read_thread(text: str, units: Units) -> LineRead:
    """A thread or a feed, or what is left over of it."""
    offered = [Completion(thread.say(a), lathe_words.completion(a, units)) for a in complete(text)]
    return line_read(
        Station.LATHE, lathe.read(text), lathe_words.MEANINGS,
        lambda ask: Completion(thread.say(ask), lathe_words.description(ask, units)), offered,
    )  # fmt: skip


def _mounted(row: MachineRow) -> SetUpText | None:
    on = machines.mounted(row)
    return SetUpText(on.name(machines.lathe(row)), train_text(on.train)) if on else None


def _mounting(row: MachineRow, train: str | None) -> Mounting:
    on, before = machines.lathe(row), machines.mounted(row)
    set_up = lathe_machine.read_set_up(train, on) if train is not None else None
    return Mounting(
        set_up.name(on) if set_up else "", before.name(on) if before else "",
        lambda ask: thread.say(one) if (one := lathe.read(ask).ask) else ask,
        lambda session, ask: machines.mount(session, row, set_up, ask),
    )  # fmt: skip


class OnLathe(Craft[thread.Ask, Candidate]):
    def __init__(self, session: Session, row: MachineRow) -> None:
        self._at = lathe_in_use(session, row.slug)
        mounted = self._at.mounted
        self.on = lathe_day.stands(mounted) if mounted else None

    def read(self, text: str) -> tuple[thread.Ask, str]:
        ask = whole(lathe.read(text))
        return ask, thread.say(ask)

    def choices(self, ask: thread.Ask) -> Choices[Candidate]:
        return lathe_day.choices(ask, self._at.lathe, self._at.stock, self._at.mounted)

    def entry(self, ask: thread.Ask, way: Candidate, units: Units) -> ListedWay:  # noqa: ARG002
        return ListedWay(
            lathe_machine.SetUp.of(way).name(self._at.lathe), merits.of_thread(way),
            lathe_words.verdict_head(way.verdict), numbers.error(way.error), (("", way.train),),
            lathe_words.levers_label(way.setting, self._at.lathe) or "",
        )  # fmt: skip

    def place_names(self, ask: thread.Ask, way: Candidate) -> PlaceNames:  # noqa: ARG002
        on = self._at.lathe
        first = f"first shaft to {way.setting.first.name}" if len(on.first) > 1 else ""
        box = f"box to {way.setting.box.name}" if way.setting.box else ""
        names = {Place(What.LEVER, name=lathe_day.FIRST): first, Place(What.LEVER, name=lathe_day.BOX): box}
        return PlaceNames({"": (way.train, LATHE_SHAFTS)}, {}, names)


def _steps(plate: Plate) -> tuple[LeverPosition, ...]:
    """The positions that a plate names, as a record takes them: `II B=1/2`."""
    named = {" ".join(filter(None, step)): factor for step, factor in plate.steps.items()}
    return tuple(LeverPosition(name or "none", factor) for name, factor in named.items()) if any(named) else ()


def _choices(plate: Plate, row: MachineRow | None) -> list[Choice]:
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


def _put(session: Session, row: MachineRow | None, name: str, plate: Plate, choice: Choice) -> MachineRow:
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
    if not isinstance(facts.carrier(float(family.module) if family else None), UnmeasuredQuadrant):
        return facts
    known = dict.fromkeys([*facts.goes_on, *(t for t in plate.trains if reached(t) is not None)])
    return replace(facts, goes_on=tuple(known)[:MOST_TRAINS])


def _compared(row: MachineRow, plate: Plate, stock: Stock) -> Iterator[PlateComparison]:
    lathe = machines.lathe(row)
    # A lathe without a feed of its own across has none to compare.
    lines = [line for line in plate.lines if line.target.kind != CarriageMove.ACROSS or line.target.kind in lathe.feeds]
    rows = chart([ChartAsk(lathe_plate.ask_of(line.right.target)) for line in lines], lathe, stock)
    for line, stand in zip(lines, rows, strict=True):
        candidate = stand.candidate if stand.new is None else None
        if candidate is None:
            yield no_train(line, stand.new)
        else:
            yield beside(line, candidate.train, candidate.error)


LATHE = MachineKind(
    TrainKind(
        Station.LATHE, lambda row: row.lathe is not None, OnLathe, (), (), lambda _: "", WEIGHTS, _mounted, _mounting,
        PlateKind("lathe", plate_words.WORDS, lathe_plate.read_plate, _choices, _put, _compared),
    )
)  # fmt: skip
"""Its lines are what is left over when no other kind takes them, see `read_thread`; they name no machine."""
