"""What happened with a job in sentences: what was chosen, found, cut, and that the wheel is in the rack."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from typing import Any

from valleywind.core.dividing.plan import WayKind as WayKind
from valleywind.core.making.job import School
from valleywind.core.making.session import CutOrder
from valleywind.wording.dividing import KINDS
from valleywind.wording.making.figures import SCHOOLS

_ORDERS = {CutOrder.ROUND_BY_ROUND: "round by round", CutOrder.GAP_BY_GAP: "every gap to depth"}
_TYPED = {
    "how_many": "Wheels alike", "cutter": "Cutter diameter", "collar": "Collar of the arbor",
    "jaw_gap": "Gap blank to jaws", "jaw_radius": "Jaw length", "nut": "Nut height", "nut_across": "Nut across flats",
    "centre": "Axis over table", "passes": "Passes", "note": "Note",
}  # fmt: skip


@dataclass(frozen=True)
class Names:
    """What numbers and slugs stand for, as far as it is there still: machines, pieces of bar, wheels."""

    machines: Mapping[str, str] = field(default_factory=dict)
    bars: Mapping[int, str] = field(default_factory=dict)
    wheels: Mapping[int, str] = field(default_factory=dict)


def chosen(before: Mapping[str, Any] | None, now: Mapping[str, Any], names: Names) -> str:
    """What was chosen, as far as it differs from before: `Material: brass, before cast iron.`"""
    if before is None:
        return "Job added."
    tellers: dict[str, Callable[[Mapping[str, Any]], str]] = {
        "Material": lambda typed: str(typed.get("material", "")),
        "Held": lambda typed: SCHOOLS[School(typed["school"])][0].lower() if typed.get("school") else "as proposed",
        "Divided": lambda typed: _divided(typed, names),
        "Bar": lambda typed: _piece(typed.get("bar"), names.bars),
        "Larger wheel": lambda typed: _piece(typed.get("donor"), names.wheels),
        "Order": lambda typed: _ORDERS[CutOrder(typed["order"])] if typed.get("order") else "",
        "Marks first": lambda typed: "yes" if typed.get("marks") else "no",
    }
    tellers |= {label: _as_typed(key) for key, label in _TYPED.items()}
    changed = [
        f"{label}: {then}, before {was}"
        for label, teller in tellers.items() if (then := teller(now)) != (was := teller(before))
    ]  # fmt: skip
    return f"{'; '.join(changed)}." if changed else "Saved again."


def _as_typed(key: str) -> Callable[[Mapping[str, Any]], str]:
    return lambda typed: str(typed.get(key) or "none")


def _divided(typed: Mapping[str, Any], names: Names) -> str:
    if typed.get("way") == WayKind.WHEEL:
        return f"by a wheel of {typed.get('template')}"
    if typed.get("way") == WayKind.DISC:
        return "by a printed disc"
    if not typed.get("head"):
        return "the best way there is"
    kind = KINDS[WayKind(typed["way"])].lower() if typed.get("way") else f"way {int(typed.get('number') or 0) + 1}"
    return f"{kind}, {names.machines.get(typed['head'], typed['head'])}, choice {int(typed.get('number') or 0) + 1}"


def _piece(number: int | None, names: Mapping[int, str]) -> str:
    return "not chosen" if number is None else names.get(number, "one that is gone")


def figure_text(title: str, figure: str, done: bool, accepted: str = "") -> str:
    """`Outside: found 124.85 mm, done.` accepted: why a figure outside its tolerance is taken."""
    parts = [f"found {figure}"] if figure else []
    parts.append(f"outside: accepted, {accepted}" if accepted else "done" if done else "not done")
    return f"{title}: {', '.join(parts)}."


IN_RACK, OUT_AGAIN, BEGUN = "Put into the rack.", "Taken out of the rack again by undo.", "Session begun."


def cuts(first: str, last: str, n: int) -> str:
    """A run of cuts: `Cut: tooth 1, marks, to tooth 57, marks (57 cuts).`"""
    return f"Cut: {first}." if n == 1 else f"Cut: {first}, to {last} ({n} cuts)."
