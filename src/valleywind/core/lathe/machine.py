"""A lathe as the planner needs it: what turns what, with which levers, and what shows where the screw stands."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from functools import cached_property
from typing import Any

from valleywind.core.lathe.thread import CarriageMove
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.arrange import FixedWheels, Pair
from valleywind.core.trains.direction import Drive, Hand
from valleywind.core.trains.gearbox import Gearbox, Target
from valleywind.core.trains.model import Train, parse_train
from valleywind.core.trains.planner import Candidate
from valleywind.core.trains.quadrant import Carrier


@dataclass(frozen=True)
class LeverPosition:
    """A lever's position and what it multiplies the turns by: first shaft per spindle, or screw per last wheel."""

    name: str
    ratio: Fraction


@dataclass(frozen=True)
class LeverSetting:
    """Where the levers stand: the first shaft's, and the gearbox's where there is a box."""

    first: LeverPosition
    box: LeverPosition | None = None

    @property
    def ratio(self) -> Fraction:
        """What the levers multiply the train's ratio by: R B."""
        return self.first.ratio * (self.box.ratio if self.box else 1)


@dataclass(frozen=True)
class Dial:
    """A thread dial: a wheel of `teeth` that meshes with the lead screw, with this many marks, numbered from 1."""

    teeth: int
    marks: int


@dataclass(frozen=True)
class Lathe:
    """What turns what. Lengths in mm, ratios exact.

    screw_lead: carriage travel per turn of the lead screw through the half-nuts. first: the ways the first shaft can
    turn, the usual one first. box: the steps of a gearbox between last wheel and screw. first_drivers, last_driven:
    the only wheels that go on the first and on the last shaft; empty where any does. pairs: wheels locked together,
    which transpose inch and metric. feeds: travel per screw turn through the apron. dials: what shows where to close
    the half-nuts.
    """

    name: str
    screw_lead: Fraction
    first: tuple[LeverPosition, ...]
    drive: Drive | None
    family: WheelFamily
    quadrant: Carrier
    box: tuple[LeverPosition, ...] = ()
    first_drivers: tuple[int, ...] = ()
    last_driven: tuple[int, ...] = ()
    pairs: tuple[Pair, ...] = ()
    feeds: Mapping[CarriageMove, Fraction] = field(default_factory=dict)
    dials: tuple[Dial, ...] = ()
    pitch_known: bool = True

    @cached_property
    def settings(self) -> tuple[LeverSetting, ...]:
        """The positions of the levers that differ in ratio, the usual one first: what trains are searched for."""
        once: dict[Fraction, LeverSetting] = {}
        for setting in self.every_setting():
            once.setdefault(setting.ratio, setting)
        return tuple(once.values())

    def every_setting(self) -> list[LeverSetting]:
        """Every position of the levers, the usual one first."""
        return [LeverSetting(first, box) for first in self.first for box in (self.box or (None,))]

    def targets(self, way: CarriageMove) -> tuple[Target[LeverSetting], ...]:
        """The same, with the mm of travel per spindle turn that a train of ratio 1 gives."""
        travel = self.travel(way)
        return tuple(Target(setting, setting.ratio * travel) for setting in self.settings)

    @property
    def usual(self) -> LeverSetting:
        """The levers where they usually stand."""
        return self.settings[0]

    @cached_property
    def gearbox(self) -> Gearbox:
        """Where the change wheels go, as the planner wants it told."""
        fixed = FixedWheels(self.first_drivers, self.last_driven, self.pairs)
        return Gearbox(self.family, self.quadrant, fixed, self.drive)

    def travel(self, way: CarriageMove) -> Fraction:
        """mm per screw turn. Along the bed the half-nuts serve where the apron has no feed of its own.

        Raises Refusal `no_cross_feed`.
        """
        if way is CarriageMove.ACROSS and way not in self.feeds:
            raise Refusal("no_cross_feed", "ask", self.name)
        return self.feeds.get(way, self.screw_lead)

    def hand_of(self, way: CarriageMove, wanted: Hand) -> Hand | None:
        """The hand that the screw must turn for; None for a feed that goes through the apron, which has a direction of
        its own that is not on record."""
        return None if way in self.feeds else wanted

    def ratio_for(
        self, lead: Fraction, setting: LeverSetting | None = None, way: CarriageMove = CarriageMove.THREAD
    ) -> Fraction:
        """The train ratio that gives this travel (mm per spindle turn): T = lead / (R B p)."""
        return lead / ((setting or self.usual).ratio * self.travel(way))

    def lead_of(
        self, ratio: Fraction, setting: LeverSetting | None = None, way: CarriageMove = CarriageMove.THREAD
    ) -> Fraction:
        """mm of travel per spindle turn with a train of this ratio."""
        return ratio * (setting or self.usual).ratio * self.travel(way)

    def setting_name(self, setting: LeverSetting) -> str:
        """The levers in a word, as far as there is a choice: `9 ×2`, `½, 9`; empty where there is none."""
        chosen = [setting.first.name] if len(self.first) > 1 else []
        return ", ".join(chosen + ([setting.box.name] if setting.box else []))

    def setting_named(self, name: str, field_name: str = "train") -> LeverSetting:
        """The setting of this name; the usual one for an empty name. Raises Refusal `no_such_setting`."""
        if not name:
            return self.usual
        for setting in self.every_setting():
            if self.setting_name(setting) == name:
                return setting
        raise Refusal("no_such_setting", field_name, name)


@dataclass(frozen=True)
class SetUp:
    """A train on the lathe and where the levers stand."""

    train: Train
    setting: LeverSetting

    def name(self, lathe: Lathe) -> str:
        """`76/66*32/78`, with the levers behind where there is a choice: `32/80/64@9 ×2`; `read_set_up` reads it."""
        levers = lathe.setting_name(self.setting)
        return f"{self.train.notation}@{levers}" if levers else self.train.notation

    @classmethod
    def of(cls, candidate: Candidate[LeverSetting, Any]) -> "SetUp":
        """A planned train with its levers."""
        return cls(candidate.train, candidate.setting)


def read_set_up(text: str, lathe: Lathe, field_name: str = "train") -> SetUp:
    """Raises Refusal: those of `parse_train`, `no_such_setting`."""
    train, _, levers = text.partition("@")
    return SetUp(parse_train(train, field_name), lathe.setting_named(levers.strip(), field_name))
