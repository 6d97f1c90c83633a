"""A reading at the table or on the work compared with the drive, in words."""

from collections.abc import Sequence
from fractions import Fraction

from valleywind.core.helix.check import HelixComparison, LeadReading, ReadAs
from valleywind.core.helix.lead import PairWay
from valleywind.core.helix.plan import LeadDrive
from valleywind.core.trains.slips import Slip, SlipKind
from valleywind.core.units import parse_number
from valleywind.wording.helix.answers import pair_label, pair_text
from valleywind.wording.numbers import Units, fixed, short_length, trimmed
from valleywind.wording.slips import wheels_slip
from valleywind.wording.trains import LEAD_SHAFTS

_WRONG_WAY = (
    "turns the wrong way: the reversing lever, or one idler more or less. The helix would come out of the other hand."
)


def answer(result: HelixComparison, measured: LeadReading, shown: int) -> str:
    """`Yes: …`, or what it should have been, whether it turns too fast, and how many slips explain it."""
    unit = " turns" if measured.read is ReadAs.CRANK else "°"
    read = f"{trimmed(measured.value, 2)}{unit}"
    expected = f"{fixed(result.expected, 2)}{unit}"
    off = f"{trimmed(measured.off, 2)}{unit}"
    if result.agrees:
        return f"Yes: {read} agrees with {expected} within the {off} that the reading may be off."
    if result.wrong_way and not result.slips:
        return f"No: {read} is as much as it must be, but the work {_WRONG_WAY}"
    fast = "too fast" if result.too_fast else "too slowly"
    text = f"No: {read} is not {expected}: the work turns {fast}."
    if result.wrong_way:
        text += f" And it {_WRONG_WAY}"
    several = len(result.slips)
    if not several:
        return f"{text} No single slip explains it. Move the table farther and read again."
    many = "One slip explains it" if several == 1 else f"{several} single slips explain it, the likeliest first"
    if shown < several:
        many = f"{several} single slips explain it, the likeliest {shown}"
    if not any(s.sure for s in result.slips):
        many = "No single slip explains it quite; these come near. Read again to be sure"
    return f"{text} {many}:"


def slip(slip: Slip, drive: LeadDrive) -> str:
    """One slip in a sentence, with how sure it is."""
    text = _factor(slip, drive) if slip.kind is SlipKind.FACTOR else wheels_slip(slip.kind, slip.wheels)
    return text if slip.sure else f"Less sure: {text}"


def _factor(slip: Slip, drive: LeadDrive) -> str:
    assert slip.factor is not None
    pair = pair_of(slip)
    assert pair is not None
    if slip.factor.code == "pair_turned":
        return f"The worm pair is in the other way round: {pair_text(pair)}."
    label = pair_label(pair, drive)
    return f"Another worm pair is in: {label}, {pair_text(pair)}."


def tell_apart(result: HelixComparison, measured: LeadReading, units: Units) -> str | None:
    """What to read or count next so that the first two slips are told apart."""
    if result.doubt is None:
        return None
    ways = []
    if result.doubt.times is not None and measured.read is not ReadAs.LINE:
        ways.append(f"move the table {short_length(measured.over * result.doubt.times, units)}")
    if result.doubt.count is not None:
        place, first, second = result.doubt.count
        train = result.slips[0].train
        shaft = LEAD_SHAFTS.of(train, train.wheels[place].shaft)
        ways.append(f"count the wheel on the {shaft}: {first} by the first, {second} by the second")
    if not ways:
        return "Look at the worm pair: no wheel tells the first two apart."
    return f"To tell the first two apart, {'; or '.join(ways)}."


def degrees_text(degrees: Fraction) -> str:
    """`119.38°`"""
    return f"{fixed(degrees, 2)}°"


def crank_text(turns: Fraction, circles: Sequence[int]) -> str:
    """`19.9 turns: 19 turns and 44 holes on the 49`; the holes are the nearest on the largest circle there is."""
    text = f"{trimmed(turns, 3)} turns"
    if not circles:
        return text
    circle = max(circles)
    whole, holes = divmod(round(turns * circle), circle)
    return f"{text}: {whole} turns and {holes} holes on the {circle}" if holes else text


def pair_of(slip: Slip) -> PairWay | None:
    """The pair that is in by this slip, where it is one of the pair."""
    return PairWay(parse_number(slip.factor.name)) if slip.factor is not None else None
