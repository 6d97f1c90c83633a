"""What went wrong, in words: a reading that agrees, or the slip that explains it."""

from valleywind.core.lathe.check import CheckResult
from valleywind.core.lathe.length_reading import UNCERTAINTY, LengthReading, Method
from valleywind.core.lathe.machine import Lathe
from valleywind.core.trains.slips import Slip, SlipKind
from valleywind.wording.numbers import Units, count, length
from valleywind.wording.slips import wheels_slip
from valleywind.wording.trains import LATHE_SHAFTS

_METHODS = {Method.CALIPER: "caliper", Method.RULE: "rule", Method.MICROMETER: "dial or micrometer",
            Method.GAUGE: "pitch gauge"}  # fmt: skip


def methods(units: Units) -> list[tuple[Method, str]]:
    """What a length may be measured with, and how far a reading with it may be off: `caliper, ±0.05 mm`."""
    digits = 2 if units is Units.MM else 1
    return [(method, f"{name}, ±{length(UNCERTAINTY[method], units, digits)}") for method, name in _METHODS.items()]


def answer(result: CheckResult, measured: LengthReading, units: Units, shown: int) -> str:
    """`Yes: …`, or what the reading should have been and how many slips explain it, of which this many are shown."""
    digits = 2 if units is Units.MM else 1
    read, expected = length(measured.length, units, digits), length(result.expected, units, digits)
    off = length(measured.uncertainty, units, digits)
    if result.agrees:
        return f"Yes: {read} agrees with {expected} within the {off} that the reading may be off."
    if not result.slips:
        return (
            f"No: {read} is not {expected}, and no single slip explains it. Measure again, over more turns; "
            "then look for two slips, or a wheel miscounted when it was added."
        )
    several = len(result.slips)
    likeliest = "first" if shown >= several else shown
    many = "One slip explains it" if several == 1 else f"{several} single slips explain it, the likeliest {likeliest}"
    if not any(s.sure for s in result.slips):
        many = "No single slip explains it quite; these come near. Measure again to be sure"
    return f"No: {read} is not {expected}. {many}:"


def tell_apart(result: CheckResult) -> str | None:
    """What to measure or count next so that the first two slips are told apart; None where there are not two."""
    if result.apart is None:
        return None
    ways = []
    if result.apart.times is not None:
        ways.append(f"measure over {count(result.apart.times * result.turns, 'turn')}")
    if result.apart.count is not None:
        place, first, second = result.apart.count
        train = result.slips[0].train
        shaft = LATHE_SHAFTS.of(train, train.wheels[place].shaft)
        ways.append(f"count the wheel on the {shaft}: {first} by the first, {second} by the second")
    if not ways:
        return "Look at levers and turns: no wheel tells the first two apart."
    return f"To tell the first two apart, {'; or '.join(ways)}."


def slip(slip: Slip, lathe: Lathe) -> str:
    """`The 66 and the 32 of the stud are exchanged.`, with how sure it is where the reading lies a little beside it."""
    text = _factor(slip, lathe) if slip.kind is SlipKind.FACTOR else wheels_slip(slip.kind, slip.wheels)
    return text if slip.sure else f"Less sure: {text}"


def _factor(slip: Slip, lathe: Lathe) -> str:
    assert slip.factor is not None
    name = slip.factor.name
    match slip.factor.code:
        case "miscounted":
            return f"The turns were miscounted: these are {count(int(name), 'turn')}."
        case "box_step":
            return f"The box stands at {name}."
        case "first_lever":
            return f"The first shaft’s lever stands at {name}."
        case "first_ratio":
            return f"The first shaft turns {name} to the spindle’s 1, not {lathe.usual.first.ratio}."
        case "read_in_inch":
            return "The reading is in inches, not in mm."
        case "read_in_mm":
            return "The reading is in mm, not in inches."
        case "set_as_tpi":
            return f"Set up for {name} threads to the inch, not {name} mm."
        case _:
            return f"Set up for {name} mm, not {name} threads to the inch."
