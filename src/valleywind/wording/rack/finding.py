"""What is found in the shop, in a line each."""

from valleywind.core.teeth.cutters import Cutter
from valleywind.core.teeth.pile import Condition
from valleywind.wording.rack.stores import range_text, set_name


def joined(*parts: str) -> str:
    """What there is of them, with commas."""
    return ", ".join(filter(None, parts))


def machine_text(kind: str, note: str, archived: bool) -> str:
    """`Lathe, archived, the small one`"""
    return joined(f"{kind[:1].upper()}{kind[1:]}", "archived" if archived else "", note)


def job_text(done: bool) -> str:
    return "job, done" if done else "job"


def wheel_text(family: str, owner: str, count: int, condition: str, material: str, place: str, note: str) -> str:
    """`Plover wheels, 2, worn, drawer`."""
    held = "missing" if count == 0 else f"{count} of them" if count > 1 else ""
    state = "" if condition == Condition.GOOD else condition
    return joined(family or "not identified", "" if owner in family else owner, held, state, material, place, note)


def cutter_name(cutter: Cutter) -> str:
    """`12 DP, 14.5°: 55–134`."""
    return f"{set_name(cutter.pitch, cutter.pressure_angle)}: {range_text((cutter.lowest, cutter.highest))}"
