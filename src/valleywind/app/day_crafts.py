"""What each kind of machine gives a day's work: how a line is read, in which ways it is made, and what it is called."""

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

from sqlalchemy.orm import Session

from valleywind.app import merits
from valleywind.app.dividing import on_machine
from valleywind.app.in_use import hobber_in_use, lathe_in_use, mill_in_use
from valleywind.app.merits import Merit
from valleywind.core.dividing.ask import read_divide
from valleywind.core.dividing.day import Divided
from valleywind.core.dividing.day import choices as divide_choices
from valleywind.core.helix import ask as helix
from valleywind.core.helix import day as helix_day
from valleywind.core.helix.plan import LeadCandidate, LeadSetUp
from valleywind.core.hobbing import ask as hobbing
from valleywind.core.hobbing import day as hobbing_day
from valleywind.core.hobbing.set_up import SetUp, spell_trains
from valleywind.core.lathe import ask as lathe
from valleywind.core.lathe import day as lathe_day
from valleywind.core.lathe import machine as lathe_machine
from valleywind.core.lathe import thread
from valleywind.core.lathe.plan import Candidate
from valleywind.core.refusal import Refused
from valleywind.core.teeth.cutters import Cutter
from valleywind.core.teeth.said import Station
from valleywind.core.trains.days_work import Choices
from valleywind.core.trains.effort import Place, Stands, What
from valleywind.core.trains.model import Train
from valleywind.shop import records
from valleywind.shop.models import MachineRow
from valleywind.wording import dividing as dividing_words
from valleywind.wording import numbers
from valleywind.wording.day import Named
from valleywind.wording.helix import answers as helix_words
from valleywind.wording.hobbing import answers as hobbing_words
from valleywind.wording.hobbing.boxes import BOX_SHAFTS, BOXES
from valleywind.wording.lathe import answers as lathe_words
from valleywind.wording.numbers import Units
from valleywind.wording.rack.stores import range_text
from valleywind.wording.trains import HEAD_SHAFTS, LATHE_SHAFTS, LEAD_SHAFTS

A = TypeVar("A")
C = TypeVar("C")


@dataclass(frozen=True)
class Shown:
    """A way as a list shows it. train: as requests name it, empty where none is put on; head: the verdict; error: in
    words; boxes: each train with its title, which is empty where there is one; levers: how they stand, and the like."""

    train: str
    merit: Merit
    head: str
    error: str
    boxes: tuple[tuple[str, Train], ...]
    levers: str


class Craft(ABC, Generic[A, C]):
    """One machine as a day is planned on it. on: what stands on it, None for nothing."""

    station: Station
    on: Stands | None = None

    @abstractmethod
    def read(self, text: str) -> tuple[A, str]:
        """A line, and in one spelling. Raises Refused."""

    @abstractmethod
    def choices(self, ask: A) -> Choices[C]:
        """The ways in which it is made. Raises Refused."""

    @abstractmethod
    def shown(self, ask: A, way: C, units: Units) -> Shown:
        """A way as a list shows it."""

    @abstractmethod
    def named(self, ask: A, way: C) -> Named:
        """What its places are called."""


class OnLathe(Craft[thread.Ask, Candidate]):
    station = Station.LATHE

    def __init__(self, session: Session, row: MachineRow) -> None:
        self._at = lathe_in_use(session, row.slug)
        mounted = self._at.mounted
        self.on = lathe_day.stands(mounted) if mounted else None

    def read(self, text: str) -> tuple[thread.Ask, str]:
        ask = _whole(lathe.read(text))
        return ask, thread.say(ask)

    def choices(self, ask: thread.Ask) -> Choices[Candidate]:
        return lathe_day.choices(ask, self._at.lathe, self._at.stock, self._at.mounted)

    def shown(self, ask: thread.Ask, way: Candidate, units: Units) -> Shown:  # noqa: ARG002
        return Shown(
            lathe_machine.SetUp.of(way).name(self._at.lathe), merits.of_thread(way),
            lathe_words.verdict_head(way.verdict), numbers.error(way.error), (("", way.train),),
            lathe_words.levers_label(way.setting, self._at.lathe) or "",
        )  # fmt: skip

    def named(self, ask: thread.Ask, way: Candidate) -> Named:  # noqa: ARG002
        on = self._at.lathe
        first = f"first shaft to {way.setting.first.name}" if len(on.first) > 1 else ""
        box = f"box to {way.setting.box.name}" if way.setting.box else ""
        said = {Place(What.LEVER, name=lathe_day.FIRST): first, Place(What.LEVER, name=lathe_day.BOX): box}
        return Named({"": (way.train, LATHE_SHAFTS)}, {}, said)


class OnHobber(Craft[hobbing.HobAsk, SetUp]):
    station = Station.HOBBER

    def __init__(self, session: Session, row: MachineRow) -> None:
        self._at = hobber_in_use(session, row.slug)
        self.on = hobbing_day.stands_now(self._at.on)

    def read(self, text: str) -> tuple[hobbing.HobAsk, str]:
        ask = _whole(hobbing.read(text))
        return ask, hobbing.say(ask)

    def choices(self, ask: hobbing.HobAsk) -> Choices[SetUp]:
        return hobbing_day.choices(ask, self._at.hobber, self._at.stock, self._at.on)

    def shown(self, ask: hobbing.HobAsk, way: SetUp, units: Units) -> Shown:  # noqa: ARG002
        return Shown(
            spell_trains(way.trains, way.index.setting), merits.of_set_up(way), hobbing_words.head(way),
            hobbing_words.short_run_off(way, units),
            tuple((BOXES[box].capitalize(), train) for box, train in way.trains.items()),
            f"{hobbing_words.constant_text(way.index.setting)}, {hobbing_words.feed_text(way, units)}",
        )  # fmt: skip

    def named(self, ask: hobbing.HobAsk, way: SetUp) -> Named:
        hob = (
            f"hob: {hobbing_words.pitch_text(ask.pitch)}, {hobbing_words.starts_text(ask.starts)}" if ask.pitch else ""
        )
        pair = hobbing_words.constant_text(way.index.setting) if len(self._at.hobber.index) > 1 else ""
        return Named(
            {box: (train, BOX_SHAFTS[box]) for box, train in way.trains.items()},
            {box: name.capitalize() for box, name in BOXES.items()},
            {Place(What.PAIR): pair, Place(What.TOOL): hob},
        )


class OnMill(Craft[helix.HelixAsk, LeadCandidate]):
    station = Station.MILL

    def __init__(self, session: Session, row: MachineRow) -> None:
        self._at = mill_in_use(session, row.slug)
        self.on = helix_day.stands(self._at.on) if self._at.on else None

    def read(self, text: str) -> tuple[helix.HelixAsk, str]:
        ask = _whole(helix.read(text))
        return ask, helix.say(ask)

    def choices(self, ask: helix.HelixAsk) -> Choices[LeadCandidate]:
        at = self._at
        return helix_day.choices(ask, at.drive, at.stock, at.on, at.cutters)

    def shown(self, ask: helix.HelixAsk, way: LeadCandidate, units: Units) -> Shown:  # noqa: ARG002
        return Shown(
            LeadSetUp(way.train, way.setting).name, merits.of_mark(way.verdict.mark), helix_words.head(way.verdict),
            helix_words.run_off_short(way, units), (("", way.train),),
            helix_words.pair_label(way.setting, self._at.drive) or "",
        )  # fmt: skip

    def named(self, ask: helix.HelixAsk, way: LeadCandidate) -> Named:
        cutter = helix_day.cutter_for(ask, self._at.cutters)
        tool = ""
        if cutter is not None:
            tool = (
                f"cutter for {range_text((cutter.lowest, cutter.highest))}"
                if isinstance(cutter, Cutter)
                else "no cutter held for this count"
            )
        pair = helix_words.pair_label(way.setting, self._at.drive) or ""
        return Named({"": (way.train, LEAD_SHAFTS)}, {}, {Place(What.PAIR): pair, Place(What.TOOL): tool})


class OnHead(Craft[int, Divided]):
    station = Station.DIVIDING

    def __init__(self, _: Session, row: MachineRow) -> None:
        self._at = on_machine(row)

    def read(self, text: str) -> tuple[int, str]:
        divisions = read_divide(text).divisions
        return divisions, f"divide {divisions}"

    def choices(self, ask: int) -> Choices[Divided]:
        return divide_choices(self._at.head, ask, self._at.gears, self._at.arm)

    def shown(self, ask: int, way: Divided, units: Units) -> Shown:  # noqa: ARG002
        exact = way.way.exact
        return Shown(
            "", "exact" if exact else "partly", dividing_words.KINDS[way.way.kind],
            dividing_words.off(way.way.error), (), dividing_words.setting_text(way.setting),
        )  # fmt: skip

    def named(self, ask: int, way: Divided) -> Named:  # noqa: ARG002
        side, sides = way.side, len(self._at.head.sides)
        plate = f"plate side {side + 1} to the front" if side is not None and sides > 1 else ""
        pin = dividing_words.setting_text(way.setting)
        trains: Mapping[str, tuple[Train, Any]] = {"": (way.train, HEAD_SHAFTS)} if way.train is not None else {}
        return Named(trains, {}, {
            Place(What.PLATE): plate, Place(What.PIN): f"pin: {pin}", Place(What.PIN, name="spindle"): f"pin: {pin}",
        })  # fmt: skip


def craft_of(session: Session, row: MachineRow) -> Craft[Any, Any]:
    """A machine as a day is planned on it. Raises Refused `plans_nothing`, and what it lacks to be planned for."""
    if row.lathe is not None:
        return OnLathe(session, row)
    for part, craft in ((records.HOBBER, OnHobber), (records.MILL, OnMill), (records.HEAD, OnHead)):
        if records.has(row, part):
            return craft(session, row)
    raise Refused("plans_nothing", "machine", row.name)


def _whole(reading: Any) -> Any:
    if reading.ask is None:
        assert reading.refusal is not None
        raise reading.refusal
    return reading.ask
