"""A set-up sheet of any machine: what comes of the set-up, shaft by shaft what goes where, the work in its order with
the cautions, and what is checked.

In the texts `**` stands round what is to be set strongly: tooth numbers, distances, readings.
"""

from dataclasses import dataclass

from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.model import Role, Train
from valleywind.core.trains.placement import Placement
from valleywind.wording.numbers import Units, short_length
from valleywind.wording.trains import ShaftNames, where

AID = (
    "An aid to calculation: the machine’s own manual, the local safety rules and, for supply and guarding, "
    "a licensed person come first."
)
NUMBER = "No. {number} in the log"

_FEW_FACTS, _FEW_STEPS = 9, 14


@dataclass(frozen=True)
class SheetStep:
    """One thing to do. `caution` is a short line where a hazard is."""

    text: str
    caution: str | None = None


@dataclass(frozen=True)
class Fact:
    label: str
    text: str


@dataclass(frozen=True)
class ShaftRow:
    """A shaft of the train: what sits in the inner and in the outer place, and where the shaft is."""

    shaft: str
    inner: str
    outer: str
    where: str


@dataclass(frozen=True)
class Shafts:
    """The shafts of one train, machine outward. name: of the box; train, note: its wheels and what is to be known of
    it, empty where the sheet's head says it."""

    name: str
    rows: tuple[ShaftRow, ...]
    train: str = ""
    note: str = ""

    @property
    def title(self) -> str:
        """In one line."""
        of = f"{self.name}: {self.train}" if self.train else self.name
        return f"{of} ({self.note})" if self.note else of


@dataclass(frozen=True)
class Lines:
    """Sentences under their title."""

    title: str
    lines: tuple[str, ...]


@dataclass(frozen=True)
class Sheet:
    """All of it, for one page. title: the ask; figure: what comes of it, train: what is put on, both empty where the
    rest says it; check: before the cut, over this many turns or this much travel, as its field takes it; after: what is
    done during the cut or after it."""

    title: str
    machine: str
    figure: str
    train: str
    head: str
    verdict: str
    facts: tuple[Fact, ...]
    shafts: tuple[Shafts, ...]
    steps: tuple[SheetStep, ...]
    check: Lines
    check_over: str
    after: tuple[Lines, ...]
    aid: str = AID

    @property
    def brief(self) -> bool:
        """Whether there is room for one large drawing with the facts beside it."""
        return len(self.facts) <= _FEW_FACTS and len(self.steps) <= _FEW_STEPS


def isolated(machine: str, then: str, *, told_of_supply: bool = True) -> SheetStep:
    """The first step where wheels are changed."""
    caution = "Keep hands out until the machine is isolated."
    if told_of_supply:
        caution += " Its electrical supply is work for a licensed person."
    return SheetStep(f"Isolate the {machine}: pull the plug, or lock the switch off.{then}", caution)


def spacer(family: WheelFamily, units: Units) -> str:
    """What fills a place without wheel: as wide as a wheel's face, where that is known."""
    return f"spacer {short_length(family.face, units)}" if family.face else "spacer"


def shaft_rows(
    train: Train, placement: Placement, names: ShaftNames, family: WheelFamily, units: Units
) -> list[ShaftRow]:
    """Every shaft of a train, from the first on."""
    rows = []
    for shaft in range(train.shafts):
        inner_and_outer = [spacer(family, units)] * 2
        for wheel in train.on_shaft(shaft):
            inner_and_outer[wheel.plane] = (
                f"**{wheel.teeth}** {'idler' if wheel.role is Role.IDLER else wheel.role.value}"
            )
        at = where(train, placement, shaft, names, units)
        inner, outer = inner_and_outer
        rows.append(ShaftRow(names.of(train, shaft).capitalize(), inner, outer, at))
    return rows
