"""What stands on the label of a wheel, a cutter, a box."""

from collections import Counter
from collections.abc import Sequence

from valleywind.core.teeth.cutters import Cutter
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.wording.rack.stores import range_text, set_name, wheels_text


def of_wheel(family: WheelFamily | None, name: str, machine: str) -> list[str]:
    """Beneath the count: pitch and angle, and whose it is."""
    lines = [set_name(family.pitch, family.pressure_angle)] if family else ["not recognised"]
    return [*lines, machine or name] if machine or name else lines


def of_cutter(cutter: Cutter, place: str) -> tuple[str, list[str]]:
    """The counts that it cuts; beneath pitch and angle, number, place."""
    number = f"No. {cutter.engraved}" if cutter.engraved else ""
    beneath = ", ".join(filter(None, [number, place]))
    lines = [set_name(cutter.pitch, cutter.pressure_angle), beneath]
    return range_text((cutter.lowest, cutter.highest)), [line for line in lines if line]


def of_box(held: Sequence[tuple[int, int]]) -> list[str]:
    """Beneath the name of the box: the wheels in it."""
    counts: Counter[int] = Counter()
    for teeth, count in held:
        counts[teeth] += count
    return [wheels_text(dict(sorted(counts.items())))] if counts else []
