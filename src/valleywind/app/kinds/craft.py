"""A machine as a day is planned on it: how a line is read, in which ways it is made, and what it is called."""

from abc import ABC, abstractmethod
from dataclasses import dataclass
from typing import Any, Generic, TypeVar

from valleywind.app.merits import Merit
from valleywind.core.teeth.ask_line import Reading
from valleywind.core.trains.days_work import Choices
from valleywind.core.trains.effort import Stands
from valleywind.core.trains.model import Train
from valleywind.wording.day import PlaceNames
from valleywind.wording.numbers import Units

A = TypeVar("A")
C = TypeVar("C")


@dataclass(frozen=True)
class ListedWay:
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

    on: Stands | None = None

    @abstractmethod
    def read(self, text: str) -> tuple[A, str]:
        """A line, and in one spelling. Raises Refusal."""

    @abstractmethod
    def choices(self, ask: A) -> Choices[C]:
        """The ways in which it is made. Raises Refusal."""

    @abstractmethod
    def entry(self, ask: A, way: C, units: Units) -> ListedWay:
        """A way as a list shows it."""

    @abstractmethod
    def place_names(self, ask: A, way: C) -> PlaceNames:
        """What its places are called."""


def whole(reading: Reading[A, Any]) -> A:
    """The ask of a line. Raises why it is none."""
    if reading.ask is None:
        assert reading.refusal is not None
        raise reading.refusal
    return reading.ask
