"""Several wheels to be made, in words: the order, and what each is cut from."""

from fractions import Fraction
from typing import Any

from valleywind.core.making.job import School
from valleywind.core.teeth.cutters import Cutter
from valleywind.core.teeth.donors import Donor, FromBar
from valleywind.core.trains.days_work import Change, DaysWork
from valleywind.core.trains.effort import What
from valleywind.wording.making.figures import SCHOOLS
from valleywind.wording.numbers import Units, count
from valleywind.wording.rack.stores import from_bar_text, piece_name, range_text, wheel_name


def sentence(day: DaysWork[Any]) -> str:
    """How often cutter, plate and holding change, beside the order in which the jobs were begun."""
    if not day.turns:
        return "No job is open."
    if len(day.turns) == 1:
        return ""
    now, typed = (_changed(turns) for turns in (day.turns, day.typed_turns))
    says = f"Cutter, plate or holding change {_times(now)}"
    return f"{says}, {_times(typed)} in the order of the list." if typed > now else f"{says}."


def later(jobs: int) -> str:
    """That the newest jobs are not in the order yet; empty where all are."""
    return f" The {count(jobs, 'newest job')} {'is' if jobs == 1 else 'are'} not in this order yet." if jobs else ""


def _changed(turns: Any) -> int:
    return sum(len(turn.change.put) for turn in turns[1:])


def _times(times: int) -> str:
    return "once" if times == 1 else "never" if not times else count(times, "time")


def changes(change: Change, cutter: Cutter | None, school: School) -> list[str]:
    """What is set anew for a job: `cutter for 55–134`, `plate side 2 of Grebe`."""
    words = []
    for place in change.put:
        match place.what:
            case What.TOOL:
                words.append(
                    f"cutter for {range_text((cutter.lowest, cutter.highest))}" if cutter else "no cutter held for it"
                )
            case What.PLATE:
                words.append(str(change.stands[place]))
            case What.HOLDING:
                words.append(SCHOOLS[school][0])
            case _:
                pass
    return words


def from_the_bar(bar: FromBar, place: str, units: Units) -> str:
    """`cast iron, ∅ 130 mm × 80 mm, shelf: 58 mm of it go, 22 mm are left`."""
    size = (Fraction(bar.bar.diameter).limit_denominator(1000), Fraction(bar.bar.length).limit_denominator(1000))
    return f"{piece_name(bar.bar.material, *size, place)}: {from_bar_text(bar, units)}"


def from_a_wheel(donor: Donor) -> str:
    """`the 80, chipped, turned down`."""
    return f"the {wheel_name(donor.held.teeth, donor.held.condition, '')}, turned down"


def sharing(served: int, lacking: int, proven: bool) -> str:
    """What the sharing out comes to."""
    says = f"Bar and spare wheels are shared out among {count(served, 'job')} so that least metal goes."
    if not proven:
        says += " Not every way of sharing was tried."
    if lacking:
        says += f" Nothing is left that serves {count(lacking, 'job')}."
    return says


def plate(head: str, side: int, sides: int) -> str:
    """A side of a head's plates: `plate side 2 of Grebe`. side: from 0."""
    return f"plate side {side + 1} of {head}" if sides > 1 else f"plate of {head}"
