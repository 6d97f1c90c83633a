"""Which wheels of a rack go with nothing here, and why."""

from dataclasses import dataclass
from enum import StrEnum

from valleywind.core.teeth.pitch import WheelFamily


class Why(StrEnum):
    """Why a wheel goes with nothing."""

    NOT_RECOGNISED = "not_recognised"
    MESHES_WITH_NONE = "meshes_with_none"
    ON_NO_MACHINE = "on_no_machine"


@dataclass(frozen=True)
class Stray:
    """A wheel that goes with nothing. same_bore: it fits the shafts of the machine in whose box it lies, so that it may
    stand on a stud beside one of its wheels."""

    why: Why
    same_bore: bool = False


def stray(family: WheelFamily | None, box: WheelFamily | None, served: bool) -> Stray | None:
    """Why a wheel of this family, None where it is not recognised, goes with nothing; None where it does go.

    box: the wheels of the machine in whose box it lies, None where it lies in none; served: whether any machine takes
    wheels of its family.
    """
    if family is None:
        return Stray(Why.NOT_RECOGNISED)
    if box is not None and box.name != family.name:
        return Stray(Why.MESHES_WITH_NONE, (family.bore, family.key) == (box.bore, box.key))
    return None if served else Stray(Why.ON_NO_MACHINE)
