"""What is chosen and typed of a job, as it is kept."""

from collections.abc import Mapping
from dataclasses import asdict, dataclass
from enum import Enum
from typing import Any, get_type_hints

from valleywind.core.dividing.plan import WayKind
from valleywind.core.making.job import School
from valleywind.core.making.materials import Stuff
from valleywind.core.making.session import CutOrder


@dataclass(frozen=True)
class Choices:
    """Texts as typed, empty where it is as usual or not said; None for what is proposed, or the best of what there is.

    school: how the blank is held; bar, donor: numbers of the piece of bar and of the wheel that it is cut from; way,
    head (a slug), number: how it is divided, on which machine, and the place among its ways; template: teeth of the
    wheel that divides as its own plate.
    """

    material: Stuff = Stuff.CAST_IRON
    school: School | None = None
    how_many: str = "1"
    bar: int | None = None
    donor: int | None = None
    way: WayKind | None = None
    head: str = ""
    number: int = 0
    template: str = ""
    cutter: str = ""
    collar: str = ""
    jaw_gap: str = ""
    jaw_radius: str = ""
    nut: str = ""
    nut_across: str = ""
    centre: str = ""
    passes: str = ""
    marks: bool = True
    order: CutOrder = CutOrder.ROUND_BY_ROUND
    note: str = ""

    def spelled(self) -> dict[str, Any]:
        """Plain values; `read` gives the same."""
        return {name: one.value if isinstance(one, Enum) else one for name, one in asdict(self).items()}


_KINDS = {"material": Stuff, "school": School, "way": WayKind, "order": CutOrder}


def read(kept: Mapping[str, Any]) -> Choices:
    """What is kept, of an older shop too. Raises ValueError, TypeError for what is none."""
    if not isinstance(kept, Mapping):
        raise TypeError("typed")
    known: dict[str, Any] = {}
    for name, kind in get_type_hints(Choices).items():
        if name in kept:
            value = kept[name]
            known[name] = _KINDS[name](value) if name in _KINDS and value is not None else value
            if not isinstance(known[name], kind):
                raise TypeError(name)
    return Choices(**known)
