"""A hobber: its lines, its trains, its plate, its day."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from fractions import Fraction

from sqlalchemy.orm import Session

from valleywind.app import merits
from valleywind.app.kinds.craft import Craft, ListedWay, whole
from valleywind.app.kinds.kind import MachineKind, Mounting, RecordKind, SetUpText, TrainKind
from valleywind.app.kinds.line import Completion, LineRead, Reader, line_read
from valleywind.app.kinds.plate import Choice, PlateComparison, PlateKind, beside, no_train, put_parts
from valleywind.core.hobbing import ask as hobbing
from valleywind.core.hobbing import day as hobbing_day
from valleywind.core.hobbing import plate as hobber_plate
from valleywind.core.hobbing.chart import CountStanding, chart
from valleywind.core.hobbing.machine import Box, Hobber
from valleywind.core.hobbing.set_up import OnNow, SetUp, read_trains, spell_trains
from valleywind.core.plate.plate import Agreement, JudgedLine, Plate
from valleywind.core.teeth.ask_line import Station
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.days_work import Choices
from valleywind.core.trains.effort import Place, What
from valleywind.core.trains.model import Stock
from valleywind.core.units import PI, spell
from valleywind.shop import hobbers, machines, record_parts
from valleywind.shop.models import MachineRow
from valleywind.wording import plate as plate_words
from valleywind.wording.day import PlaceNames
from valleywind.wording.hobbing import answers as hobbing_words
from valleywind.wording.hobbing import plate as hobber_plate_words
from valleywind.wording.hobbing import record as record_words
from valleywind.wording.hobbing.boxes import BOX_SHAFTS, BOXES
from valleywind.wording.numbers import Units
from valleywind.wording.trains import train_text


@dataclass(frozen=True)
class HobberInUse:
    """A hobber with the wheels it can be set up with and what is on it."""

    row: MachineRow
    hobber: Hobber
    family: WheelFamily
    stock: Stock
    on: OnNow


def hobber_in_use(session: Session, machine: str) -> HobberInUse:
    """Raises Refusal `no_such_machine`, `wrong_kind`."""
    row = machines.machine_with_wheels(session, machine)
    hobber = hobbers.hobber(row)
    return HobberInUse(row, hobber, machines.family_on(row), machines.stock(row), hobbers.on_now(row, hobber))


def _line(text: str, units: Units) -> LineRead:
    def completion(ask: hobbing.HobAsk) -> Completion:
        return Completion(hobbing.say(ask), hobbing_words.description(ask, units))

    offered = [completion(ask) for line in hobbing.complete(text) if (ask := hobbing.read(line).ask)]
    return line_read(Station.HOBBER, hobbing.read(text), hobbing_words.MEANINGS, completion, offered)


def _machine_in(text: str) -> str:
    ask = hobbing.read(text).ask
    return ask.machine if ask else ""


def _mounted(row: MachineRow) -> SetUpText | None:
    hobber = hobbers.hobber(row)
    trains = [f"{BOXES[box]} {train_text(train)}" for box, train in hobbers.on_now(row, hobber).trains.items()]
    return SetUpText(hobbers.name_of(row, hobber), ", ".join(trains)) if trains else None


def _mounting(row: MachineRow, train: str | None) -> Mounting:
    hobber = hobbers.hobber(row)
    trains, known = read_trains(train, hobber) if train is not None else ({}, None)
    return Mounting(
        spell_trains(trains, known) if known else "", hobbers.name_of(row, hobber),
        lambda ask: hobbing.say(one) if (one := hobbing.read(ask).ask) else ask,
        lambda session, ask: hobbers.mount(session, row, trains, known, ask),
    )  # fmt: skip


class OnHobber(Craft[hobbing.HobAsk, SetUp]):
    def __init__(self, session: Session, row: MachineRow) -> None:
        self._at = hobber_in_use(session, row.slug)
        self.on = hobbing_day.stands_now(self._at.on)

    def read(self, text: str) -> tuple[hobbing.HobAsk, str]:
        ask = whole(hobbing.read(text))
        return ask, hobbing.say(ask)

    def choices(self, ask: hobbing.HobAsk) -> Choices[SetUp]:
        return hobbing_day.choices(ask, self._at.hobber, self._at.stock, self._at.on)

    def entry(self, ask: hobbing.HobAsk, way: SetUp, units: Units) -> ListedWay:  # noqa: ARG002
        return ListedWay(
            spell_trains(way.trains, way.index.setting), merits.of_set_up(way), hobbing_words.head(way),
            hobbing_words.short_run_off(way, units),
            tuple((BOXES[box].capitalize(), train) for box, train in way.trains.items()),
            f"{hobbing_words.constant_text(way.index.setting)}, {hobbing_words.feed_text(way, units)}",
        )  # fmt: skip

    def place_names(self, ask: hobbing.HobAsk, way: SetUp) -> PlaceNames:
        hob = (
            f"hob: {hobbing_words.pitch_text(ask.pitch)}, {hobbing_words.starts_text(ask.starts)}" if ask.pitch else ""
        )
        pair = hobbing_words.constant_text(way.index.setting) if len(self._at.hobber.index) > 1 else ""
        return PlaceNames(
            {box: (train, BOX_SHAFTS[box]) for box, train in way.trains.items()},
            {box: name.capitalize() for box, name in BOXES.items()},
            {Place(What.PAIR): pair, Place(What.TOOL): hob},
        )


def _choices(plate: Plate, _row: MachineRow | None) -> list[Choice]:
    constants = hobber_plate.constants_of(plate)
    fields = []
    if constants.index:
        fields.append(("index", ", ".join(spell(k) + (f" from {at}" if at else "") for k, at in constants.index)))
    if constants.feed is not None:
        fields.append(("feed", f"{spell(constants.feed)} mm"))
    if constants.differential is not None:
        constant = f"{spell(constants.differential * PI)}/π" if constants.pi else f"{float(constants.differential):.6g}"
        fields.append(("differential", f"{constant} mm"))
    return [Choice(tuple(fields))] if fields else []


def _put(session: Session, row: MachineRow | None, name: str, plate: Plate, choice: Choice) -> MachineRow:
    known = record_parts.as_typed(row, hobbers.HOBBER) if row is not None else hobbers.HOBBER.typed()
    fields = dict(choice.fields)
    if _agrees(row, plate):
        fields.pop("index", None)
    typed = replace(
        known, index=fields.get("index", known.index), feed=fields.get("feed", known.feed),
        differential=fields.get("differential", known.differential),
    )  # fmt: skip
    return put_parts(session, row, hobbers.KIND, name, {hobbers.HOBBER.name: typed})


def _agrees(row: MachineRow | None, plate: Plate) -> bool:
    """Whether the record's index constants give every line that agrees: they say more than a table, such as the
    reversing pair, and the very count at which it is changed."""
    if row is None or not record_parts.as_typed(row, hobbers.HOBBER).index:
        return False
    hobber = hobbers.hobber(row)
    lines = [line for line in plate.standing(Agreement.AGREES) if line.target.kind == Box.INDEX]
    return all(
        hobber.index_for(hobber_plate.teeth_of(line.target)).constant * line.target.per == line.train.ratio
        for line in lines
    )


def _compared(row: MachineRow, plate: Plate, stock: Stock) -> Iterator[PlateComparison]:
    """Its index lines for a hob of one start: a feed or a lead is not asked for by itself."""
    counts = {line.line.number: hobber_plate.teeth_of(line.right.target) for line in plate.lines if _is_count(line)}
    stands = {one.teeth: one for one in chart(hobbers.hobber(row), stock, sorted(set(counts.values())))}
    for line in plate.lines:
        stand = stands.get(counts.get(line.line.number, 0))
        if stand is None:
            continue
        if stand.laid is not None and stand.standing is CountStanding.EXACT:
            yield beside(line, stand.laid.train, Fraction(0))
        elif stand.standing is CountStanding.OTHER_PAIR and stand.laid is not None:
            yield PlateComparison(line.line.number, train_text(stand.laid.train), plate_words.OTHER_PAIR)
        elif stand.standing is CountStanding.MADE_UP:
            yield PlateComparison(line.line.number, "", plate_words.MADE_UP)
        else:
            yield no_train(line, stand.new)


def _is_count(line: JudgedLine) -> bool:
    return line.target.kind == Box.INDEX and line.right.target.per.numerator == 1


HOBBER = MachineKind(
    TrainKind(
        Station.HOBBER, lambda row: record_parts.has(row, hobbers.HOBBER), OnHobber,
        (Reader(lambda line, _: hobbing.is_hob_ask(line), _line),), ("hob 37",), _machine_in, record_words.WEIGHTS,
        _mounted, _mounting,
        PlateKind("hobber", hobber_plate_words.WORDS, hobber_plate.read_plate, _choices, _put, _compared),
    ),
    (RecordKind(hobbers.KIND, record_words.KIND),),
)  # fmt: skip
