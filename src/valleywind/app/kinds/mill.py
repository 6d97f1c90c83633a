"""A mill with a lead drive: its lines, its trains, its plate, its day."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

from sqlalchemy.orm import Session

from valleywind.app import merits
from valleywind.app.kinds.craft import Craft, ListedWay, whole
from valleywind.app.kinds.kind import MachineKind, Mounting, RecordKind, SetUpText, TrainKind
from valleywind.app.kinds.line import Completion, LineRead, Reader, line_read
from valleywind.app.kinds.plate import Choice, PlateComparison, PlateKind, beside, no_train, put_parts
from valleywind.core.dividing.heads import Head, TypedHead
from valleywind.core.helix import ask as helix
from valleywind.core.helix import day as helix_day
from valleywind.core.helix import plan as helix_plan
from valleywind.core.helix import plate as mill_plate
from valleywind.core.helix.chart import chart
from valleywind.core.helix.machine import Mill
from valleywind.core.helix.plan import LeadCandidate, LeadDrive, LeadSetUp, drive_of
from valleywind.core.plate.plate import Plate
from valleywind.core.teeth.ask_line import Station
from valleywind.core.teeth.cutters import Cutter
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.days_work import Choices
from valleywind.core.trains.effort import Place, What
from valleywind.core.trains.model import Stock
from valleywind.core.units import spell
from valleywind.shop import heads, machines, mills, record_parts, stores
from valleywind.shop.models import MachineRow
from valleywind.wording.day import PlaceNames
from valleywind.wording.helix import answers as helix_words
from valleywind.wording.helix import plate as mill_plate_words
from valleywind.wording.helix import record as record_words
from valleywind.wording.numbers import Units
from valleywind.wording.rack.stores import range_text
from valleywind.wording.trains import LEAD_SHAFTS


@dataclass(frozen=True)
class MillInUse:
    """A mill with its drive, its head, the wheels and cutters there are, and what is on it."""

    row: MachineRow
    mill: Mill
    drive: LeadDrive
    head: Head
    family: WheelFamily
    stock: Stock
    on: LeadSetUp | None
    cutters: list[Cutter]

    @property
    def name(self) -> str:
        return self.row.name


def mill_in_use(session: Session, machine: str) -> MillInUse:
    """Raises Refusal `no_such_machine`, `wrong_kind`, and what its drive lacks."""
    row = machines.machine_with_wheels(session, machine)
    mill = mills.mill(row)
    head = heads.head(row) if record_parts.has(row, heads.HEAD) else None
    drive = drive_of(mill, head.ratio if head else None)
    assert head is not None
    cutters = [stores.cutter(c) for c in stores.cutters(session)]
    return MillInUse(row, mill, drive, head, machines.family_on(row), machines.stock(row), mills.on_now(row), cutters)


def _line(text: str, units: Units) -> LineRead:
    def completion(ask: helix.HelixAsk) -> Completion:
        return Completion(helix.say(ask), helix_words.description(ask, units))

    offered = [completion(ask) for line in helix.complete(text) if (ask := helix.read(line).ask)]
    return line_read(Station.MILL, helix.read(text), helix_words.MEANINGS, completion, offered)


def _is_helix(line: str, at: Station | None) -> bool:
    return helix.is_helix_ask(line) or (at is Station.MILL and helix.is_lead_ask(line))


def _helical_job(text: str, units: Units) -> LineRead:
    return replace(_line(text, units), station=Station.JOBS, canonical=text.strip())


def _machine_in(text: str) -> str:
    ask = helix.read(text).ask
    return ask.machine if ask else ""


def _mounted(row: MachineRow) -> SetUpText | None:
    on = mills.on_now(row)
    return SetUpText(on.name, helix_words.set_up_text(on)) if on else None


def _mounting(row: MachineRow, train: str | None) -> Mounting:
    mill, now = mills.mill(row), mills.on_now(row)
    drive = helix_plan.drive_of(mill, heads.head(row).ratio if record_parts.has(row, heads.HEAD) else None)
    set_up = helix_plan.read_set_up(train, drive) if train is not None else None
    return Mounting(
        set_up.name if set_up else "", now.name if now else "",
        lambda ask: helix.say(one) if (one := helix.read(ask).ask) else ask,
        lambda session, ask: mills.mount(session, row, set_up, ask),
    )  # fmt: skip


class OnMill(Craft[helix.HelixAsk, LeadCandidate]):
    def __init__(self, session: Session, row: MachineRow) -> None:
        self._at = mill_in_use(session, row.slug)
        self.on = helix_day.stands(self._at.on) if self._at.on else None

    def read(self, text: str) -> tuple[helix.HelixAsk, str]:
        ask = whole(helix.read(text))
        return ask, helix.say(ask)

    def choices(self, ask: helix.HelixAsk) -> Choices[LeadCandidate]:
        at = self._at
        return helix_day.choices(ask, at.drive, at.stock, at.on, at.cutters)

    def entry(self, ask: helix.HelixAsk, way: LeadCandidate, units: Units) -> ListedWay:  # noqa: ARG002
        return ListedWay(
            LeadSetUp(way.train, way.setting).name, merits.of_mark(way.verdict.mark), helix_words.head(way.verdict),
            helix_words.run_off_short(way, units), (("", way.train),),
            helix_words.pair_label(way.setting, self._at.drive) or "",
        )  # fmt: skip

    def place_names(self, ask: helix.HelixAsk, way: LeadCandidate) -> PlaceNames:
        cutter = helix_day.cutter_for(ask, self._at.cutters)
        tool = ""
        if cutter is not None:
            tool = (
                f"cutter for {range_text((cutter.lowest, cutter.highest))}"
                if isinstance(cutter, Cutter)
                else "no cutter held for this count"
            )
        pair = helix_words.pair_label(way.setting, self._at.drive) or ""
        return PlaceNames({"": (way.train, LEAD_SHAFTS)}, {}, {Place(What.PAIR): pair, Place(What.TOOL): tool})


def _choices(plate: Plate, row: MachineRow | None) -> list[Choice]:
    if plate.constant is None:
        return []
    pairs = ", ".join(name for step in plate.steps if ":" in (name := " ".join(filter(None, step))))
    mills = [(one.screw, one.head) for one in mill_plate.mills_of(1 / plate.constant)]
    if row is not None and record_parts.has(row, heads.HEAD):
        head = heads.head(row).ratio
        mills.sort(key=lambda mill: mill[1] != head)
    return [
        Choice((("screw", screw), ("ratio", spell(head)), *((("pairs", pairs),) if pairs else ())))
        for screw, head in mills
    ]


def _put(session: Session, row: MachineRow | None, name: str, _plate: Plate, choice: Choice) -> MachineRow:
    fields = dict(choice.fields)
    mill = record_parts.as_typed(row, mills.MILL) if row is not None else mills.MILL.typed()
    has_head = row is not None and record_parts.has(row, heads.HEAD)
    head = record_parts.as_typed(row, heads.HEAD) if row is not None and has_head else TypedHead()
    mill = replace(mill, screw=fields["screw"], pairs=mill.pairs or fields.get("pairs", ""))
    parts = {mills.MILL.name: mill, heads.HEAD.name: replace(head, ratio=fields["ratio"])}
    return put_parts(session, row, mills.KIND, name, parts)


def _compared(row: MachineRow, plate: Plate, stock: Stock) -> Iterator[PlateComparison]:
    head = heads.head(row).ratio if record_parts.has(row, heads.HEAD) else None
    drive = drive_of(mills.mill(row), head)
    asks = [helix.HelixAsk(lead=1 / line.right.target.per) for line in plate.lines]
    for line, cell in zip(plate.lines, chart(asks, drive, stock), strict=True):
        if cell.candidate is None or cell.new is not None:
            yield no_train(line, cell.new)
        else:
            pair = helix_words.pair_label(cell.candidate.setting, drive)
            yield beside(line, cell.candidate.train, cell.candidate.error, pair or "")


MILL = MachineKind(
    TrainKind(
        Station.MILL, lambda row: record_parts.has(row, mills.MILL), OnMill,
        (
            Reader(_is_helix, _line),
            Reader(lambda line, _: helix.is_make_helix(line), _helical_job),
        ),
        ("helix 24 m2 30° left", "lead 300 mm on 40 mm", "flute 6 lead 12 in on 1 in"),
        _machine_in, record_words.WEIGHTS, _mounted, _mounting,
        PlateKind("mill", mill_plate_words.WORDS, mill_plate.read_plate, _choices, _put, _compared),
    ),
    (RecordKind(mills.KIND, record_words.KIND),),
)  # fmt: skip
