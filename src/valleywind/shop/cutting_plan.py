"""What a session of cutting was begun with, as it is kept: figures with a version, read for ever."""

from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any

from valleywind.core.making.places import Places, read_places, spelled
from valleywind.core.making.session import CutOrder, Work
from valleywind.shop.models import CuttingRow

PLAN_VERSION = 2
"""Of what a session keeps of its plan. 1 kept sentences and a picture of the plate; 2 keeps figures alone."""


@dataclass(frozen=True)
class PlateKept:
    """The plate side that a session divides with. circles: holes and radius of each, mm; measured: whether the radii
    are on record; circle, lock: of the pins; spaces: between the arms; painted: holes that are ever used, where they
    are few."""

    circles: tuple[tuple[int, float], ...]
    measured: bool
    circle: int
    lock: int | None
    spaces: int
    painted: tuple[int, ...]


@dataclass(frozen=True)
class Plan:
    """What a session was begun with. depths: of the passes, mm; head: name of the machine that divides, empty for none;
    helical: whether the table turns the work while it cuts. title, divides, hint: sentences that a plan of the first
    version has in place of figures."""

    work: Work
    depths: tuple[float, ...]
    places: Places
    head: str = ""
    helical: bool = False
    plate: PlateKept | None = None
    title: str = ""
    divides: str = ""
    hint: str = ""

    def spelled(self) -> dict[str, Any]:
        """As it is kept; `plan_of` takes it back."""
        work = self.work
        return {
            "version": PLAN_VERSION,
            "work": {
                "divisions": work.divisions, "marks": work.marks, "order": work.order.value,
                "measured_after": work.measured_after,
            },
            "depths_mm": list(self.depths),
            "places": spelled(self.places),
            "head": self.head,
            "helical": self.helical,
            "plate": None if self.plate is None else {
                "circles": [list(circle) for circle in self.plate.circles], "measured": self.plate.measured,
                "circle": self.plate.circle, "lock": self.plate.lock, "spaces": self.plate.spaces,
                "painted": list(self.plate.painted),
            },
        }  # fmt: skip


def plan_of(row: CuttingRow) -> Plan:
    """What a session was begun with, whichever version kept it."""
    kept = row.plan
    places, plate = read_places(kept["places"]), kept.get("plate")
    if kept.get("version", 1) == 1:
        circles = tuple((c["holes"], c["radius_mm"]) for c in plate["circles"]) if plate else ()
        return Plan(
            work_of(row), tuple(kept["depths"]), places, title=kept["title"], divides=kept["divides"],
            hint=kept.get("hint", ""), plate=_plate(plate, circles) if plate else None,
        )  # fmt: skip
    circles = tuple((holes, radius) for holes, radius in plate["circles"]) if plate else ()
    return Plan(
        work_of(row), tuple(kept["depths_mm"]), places, kept["head"], kept["helical"],
        _plate(plate, circles) if plate else None,
    )  # fmt: skip


def _plate(kept: Mapping[str, Any], circles: tuple[tuple[int, float], ...]) -> PlateKept:
    return PlateKept(
        circles, kept["measured"], kept["circle"], kept["lock"], kept["spaces"], tuple(kept.get("painted", ()))
    )


def work_of(row: CuttingRow) -> Work:
    """What is cut in a session."""
    kept = row.plan["work"]
    depths = row.plan["depths" if row.plan.get("version", 1) == 1 else "depths_mm"]
    return Work(kept["divisions"], len(depths), kept["marks"], CutOrder(kept["order"]), kept.get("measured_after"))
