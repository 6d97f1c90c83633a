"""The demo shop's job: the missing 57 for Plover, its session half-way."""

from datetime import UTC, datetime, timedelta
from fractions import Fraction
from typing import Any

from sqlalchemy.orm import Session

from valleywind.core.dividing.ways import simple
from valleywind.core.making.materials import Stuff
from valleywind.core.making.passes import usual_passes
from valleywind.core.making.places import places
from valleywind.core.making.session import CutOrder, EventKind, Work
from valleywind.shop import cutting as cut_there
from valleywind.shop import jobs, machines
from valleywind.shop.cutting_plan import Plan, PlateKept
from valleywind.shop.models import CuttingEventRow, CuttingRow, MachineRow


def half_way(session: Session, plover: MachineRow) -> None:
    """The missing 57 for Plover: marked, counted, the first pass round, and in the middle of the second."""
    assert plover.family is not None
    family = machines.family(plover.family)
    setting = simple(Fraction(60), 57, (19,))[0]
    side = [15, 16, 17, 19, 21, 23]
    typed = {
        "material": "cast iron", "school": "mandrel", "how_many": "1", "way": "simple", "head": "heron", "number": 0,
        "bar": None, "donor": None,
        "template": "", "cutter": "70 mm", "collar": "36 mm", "jaw_gap": "30 mm", "jaw_radius": "55 mm", "nut": "14 mm",
        "nut_across": "36 mm", "centre": "", "passes": "",
        "marks": True, "order": CutOrder.ROUND_BY_ROUND.value, "note": "",
    }  # fmt: skip
    begun = datetime.now(UTC) - timedelta(hours=5)
    at = begun.isoformat(timespec="milliseconds")
    row = jobs.add(session, 57, family, typed, "plover", plover.family_id, at)
    figures = {"bore": "22.23 mm", "part_off": "15.9 mm", "outside": "124.85 mm", "runout": "0.03 mm"}
    done = [
        "stock",
        "face",
        "bore",
        "part_off",
        "mandrel",
        "outside",
        "mandrel_over",
        "runout",
        "divide",
        "centre",
        "clear",
        "touch",
    ]
    for n, code in enumerate(done, 1):
        at = (begun + timedelta(minutes=10 * n)).isoformat(timespec="milliseconds")
        jobs.add_result(session, row, code, figures.get(code, ""), True, at)
    depth = 4.567 - (124.883 - 124.85) / 2
    work = Work(57, 3, True, CutOrder.ROUND_BY_ROUND)
    plan = Plan(
        work, usual_passes(depth, family.module, Stuff.CAST_IRON), places(setting, Fraction(60), 57), "Heron",
        plate=PlateKept(
            tuple((holes, 34.0 + 6 * n) for n, holes in enumerate(side)), False, 19, None, 1, ()
        ),
    )  # fmt: skip
    begun += timedelta(hours=2, minutes=20)
    cutting = cut_there.begin(session, row, "heron", plan, begun.isoformat(timespec="milliseconds"))
    _recorded(session, cutting, begun)


def _recorded(session: Session, cutting: CuttingRow, begun: datetime) -> None:
    """Marks, their count, a pass with a pause in it, and 22 gaps of the next; a gap takes some 50 s."""
    happened: list[tuple[EventKind, dict[str, Any]]] = [
        *[(EventKind.DONE, {})] * 57,
        (EventKind.COUNTED, {"count": 57}),
        *[(EventKind.DONE, {})] * 31,
        (EventKind.PAUSE, {"reason": "lunch"}),
        (EventKind.RESUME, {}),
        *[(EventKind.DONE, {})] * 26,
        (EventKind.NOTE, {"reason": "a little chatter, slower feed"}),
        *[(EventKind.DONE, {})] * 22,
    ]
    at = begun
    for place, (kind, about) in enumerate(happened):
        at += (
            timedelta(minutes=38)
            if kind is EventKind.RESUME
            else timedelta(seconds=15 if place < 57 else 41 + place % 7)
        )
        session.add(
            CuttingEventRow(
                cutting_id=cutting.id, place=place, key=f"demo-{place:04}", at=at.isoformat(timespec="milliseconds"),
                kind=kind.value, about=dict(about), by="screen",
            )
        )  # fmt: skip
