"""What divides: its lines and its day."""

from collections.abc import Mapping
from typing import Any

from sqlalchemy.orm import Session

from valleywind.app.dividing import on_machine
from valleywind.app.kinds.craft import Craft, ListedWay
from valleywind.app.kinds.kind import MachineKind, RecordKind, WorkKind
from valleywind.app.kinds.line import LineRead, Reader, plain_line
from valleywind.core.dividing.ask import is_divide_ask, read_divide
from valleywind.core.dividing.day import HeadSetUp
from valleywind.core.dividing.day import choices as divide_choices
from valleywind.core.teeth.ask_line import Station
from valleywind.core.trains.days_work import Choices
from valleywind.core.trains.effort import Place, What
from valleywind.core.trains.model import Train
from valleywind.shop import heads, record_parts
from valleywind.shop.models import MachineRow
from valleywind.wording import dividing as dividing_words
from valleywind.wording import heads as record_words
from valleywind.wording.day import PlaceNames
from valleywind.wording.dividing import ask_text
from valleywind.wording.numbers import Units
from valleywind.wording.trains import HEAD_SHAFTS


def _line(text: str, _: Units) -> LineRead:
    def described() -> str:
        ask = read_divide(text)
        return ask_text(ask.divisions, ask.machine)

    return plain_line(Station.DIVIDING, described, ("divide 57",))


class OnHead(Craft[int, HeadSetUp]):
    def __init__(self, _: Session, row: MachineRow) -> None:
        self._at = on_machine(row)

    def read(self, text: str) -> tuple[int, str]:
        divisions = read_divide(text).divisions
        return divisions, f"divide {divisions}"

    def choices(self, ask: int) -> Choices[HeadSetUp]:
        return divide_choices(self._at.head, ask, self._at.gears, self._at.arm)

    def entry(self, ask: int, way: HeadSetUp, units: Units) -> ListedWay:  # noqa: ARG002
        exact = way.way.exact
        return ListedWay(
            "", "exact" if exact else "partly", dividing_words.KINDS[way.way.kind],
            dividing_words.off(way.way.error), (), dividing_words.setting_text(way.setting),
        )  # fmt: skip

    def place_names(self, ask: int, way: HeadSetUp) -> PlaceNames:  # noqa: ARG002
        side, sides = way.side, len(self._at.head.sides)
        plate = f"plate side {side + 1} to the front" if side is not None and sides > 1 else ""
        pin = dividing_words.setting_text(way.setting)
        trains: Mapping[str, tuple[Train, Any]] = {"": (way.train, HEAD_SHAFTS)} if way.train is not None else {}
        return PlaceNames(trains, {}, {
            Place(What.PLATE): plate, Place(What.PIN): f"pin: {pin}", Place(What.PIN, name="spindle"): f"pin: {pin}",
        })  # fmt: skip


_RECORDS = (
    RecordKind(heads.DIVIDING_HEAD, record_words.DIVIDING_HEAD),
    RecordKind(heads.ROTARY_TABLE, record_words.ROTARY_TABLE),
    RecordKind(heads.SPIN_INDEXER, record_words.SPIN_INDEXER),
    RecordKind(heads.COLLET_BLOCK, record_words.COLLET_BLOCK),
)
HEAD = MachineKind(
    WorkKind(
        Station.DIVIDING,
        # A mill with a head divides as part of its own work.
        lambda row: record_parts.has(row, heads.HEAD) and any(row.kind == one.kind.name for one in _RECORDS),
        OnHead, (Reader(lambda line, _: is_divide_ask(line), _line),), ("divide 57",),
        lambda text: read_divide(text).machine, record_words.WEIGHTS,
    ),
    _RECORDS,
)  # fmt: skip
