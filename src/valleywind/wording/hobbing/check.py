"""A reading at the table compared with the trains, in words."""

from valleywind.core.hobbing.check import CheckResult, Constant, MeasuredBy, TableReading
from valleywind.core.hobbing.machine import Box
from valleywind.core.trains.slips import Slip, SlipKind
from valleywind.core.units import spell
from valleywind.wording.hobbing.boxes import BOX_SHAFTS
from valleywind.wording.numbers import count, fixed, listed, trimmed
from valleywind.wording.slips import wheels_slip


def answer(result: CheckResult, measured: TableReading, shown: int) -> str:
    """`Yes: …`, or what it should have been and how many slips explain it."""
    if measured.kind is MeasuredBy.ANGLE:
        read, expected = f"{trimmed(measured.value, 2)}°", f"{fixed(result.expected, 2)}°"
        near = f" within the {trimmed(measured.off, 2)}° that the reading may be off"
    else:
        read, expected, near = count(int(measured.value), "mark"), trimmed(result.expected, 2), ""
    if result.agrees:
        return f"Yes: {read} agrees with {expected}{near}."
    if not result.slips:
        return f"No: {read} is not {expected}, and no single slip explains it. Turn further and read again."
    several = len(result.slips)
    many = "One slip explains it" if several == 1 else f"{several} single slips explain it, the likeliest first"
    if shown < several:
        many = f"{several} single slips explain it, the likeliest {shown}"
    if not any(s.sure for s in result.slips):
        many = "No single slip explains it quite; these come near. Read again to be sure"
    return f"No: {read} is not {expected}. {many}:"


def slip(slip: Slip) -> str:
    """One slip in a sentence, with how sure it is."""
    text = _factor(slip) if slip.kind is SlipKind.FACTOR else wheels_slip(slip.kind, slip.wheels)
    return text if slip.sure else f"Less sure: {text}"


def _factor(slip: Slip) -> str:
    assert slip.factor is not None
    name = slip.factor.name
    match slip.factor.code:
        case "reversing_pair":
            return f"The other reversing pair is on{f', {name}' if name else ''}."
        case "hob_miscounted":
            return f"The turns of the hob were miscounted: these are {count(int(name), 'turn')}."
        case "hob_starts":
            starts = count(int(name), "start")
            return f"The hob has {starts}."
        case _:
            return f"The marks were miscounted: there are {name}."


def tell_apart(result: CheckResult, measured: TableReading) -> str | None:
    """What to read next so that the first two slips are told apart."""
    if result.doubt is None:
        return None
    ways = []
    if result.doubt.times is not None and measured.kind is MeasuredBy.ANGLE:
        ways.append(f"turn the hob {result.doubt.times * measured.turns} times")
    if result.doubt.count is not None:
        place, first, second = result.doubt.count
        train = result.slips[0].train
        shaft = BOX_SHAFTS[Box.INDEX].of(train, train.wheels[place].shaft)
        ways.append(f"count the wheel on the {shaft}: {first} by the first, {second} by the second")
    if not ways:
        return "Look at the hob and the reversing pair: no wheel tells the first two apart."
    return f"To tell the first two apart, {'; or '.join(ways)}."


def constants_text(measured: str, constants: tuple[Constant, ...]) -> str:
    """What a counted turn says of the index constant."""
    if not constants:
        return f"By this the index constant is {measured}. No simple number lies so near."
    names = listed([spell(c.constant) for c in constants], "or")
    return f"By this the index constant is {measured}. Simple numbers inside the uncertainty: {names}."
