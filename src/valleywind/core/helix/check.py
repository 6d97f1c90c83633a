"""Check before cutting: the table moved by hand, what the work must turn, and which slip explains another reading."""

import math
from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.helix.lead import PairWay, crank_turns, pair_ways, work_turn
from valleywind.core.helix.plan import LeadDrive, LeadSetUp
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Stock
from valleywind.core.trains.slips import Apart, Factor, Slip, apart, explain, within
from valleywind.core.units import Unit, parse_degrees, parse_length

# A fifth of a turn of the work is seen well.
_USUAL_SHARE = Fraction(1, 5)
# Travels that are dialled readily, mm.
_TRAVELS = tuple(map(Fraction, (1, 2, 5, 10, 20, 25, 50, 100, 150, 200)))
_LONGEST_TRAVEL = Fraction(2000)
_MOST_TURNED = Fraction(360 * 1000)
# Degrees off an angle of a scribed line, or of the work's turn; turns of the crank: a hole or two.
USUAL_OFF = Fraction(1, 2)
USUAL_CRANK_OFF = Fraction(1, 10)


class ReadAs(StrEnum):
    """What is read: degrees of the work or turns of the crank while the table moves; or the angle against its axis of a
    line that the cutter scribed on the work, at a diameter."""

    DEGREES = "degrees"
    CRANK = "crank"
    LINE = "line"


class WayTurned(StrEnum):
    """Which way the work turned: as it must, the other way, or nobody looked."""

    RIGHT_WAY = "right_way"
    OTHER_WAY = "other_way"
    NOT_LOOKED = "not_looked"


@dataclass(frozen=True)
class LeadToCheck:
    """Move the table by `mm`: how many degrees the work must turn, and how often the crank."""

    travel: Fraction
    degrees: Fraction
    crank: Fraction


def given_lead(set_up: LeadSetUp, drive: LeadDrive) -> Fraction:
    """The lead that the drive gives, mm."""
    return drive.head * drive.screw / (set_up.pair.ratio * set_up.train.ratio)


def to_check(set_up: LeadSetUp, drive: LeadDrive, longest: Fraction | None = None) -> LeadToCheck:
    """As far as makes the work turn well visibly, and no farther than the table goes."""
    lead = given_lead(set_up, drive)
    most = longest or _TRAVELS[-1]
    fitting = [t for t in _TRAVELS if t <= most]
    travel = next((t for t in fitting if t / lead >= _USUAL_SHARE), max(fitting, default=most))
    return LeadToCheck(travel, work_turn(travel, lead), crank_turns(travel, lead, drive.head))


def line_angle(diameter: Fraction, lead: Fraction) -> float:
    """The angle of a scribed line against the work's axis, degrees: tan β = π d/L."""
    return math.degrees(math.atan(math.pi * float(diameter / lead)))


@dataclass(frozen=True)
class LeadReading:
    """A reading and by how much it may be off, in its own measure. over: the table's travel, or of a scribed line the
    diameter of the work, mm."""

    read: ReadAs
    value: Fraction
    off: Fraction
    over: Fraction
    turned: WayTurned = WayTurned.NOT_LOOKED


def read_measured(
    read: ReadAs, value: str, over: str, off: str = "", turned: WayTurned = WayTurned.NOT_LOOKED, bare: Unit = Unit.MM
) -> LeadReading:
    """A reading as typed: `119.4°` over `100 mm`; `19.9` or `19 44/49` turns; a line of `30.2°` at a diameter. `bare`:
    the unit of a length without one.

    Raises Refusal at the field: `not_positive`, `angle_too_far`, `line_angle_out_of_range`, `length_out_of_range`.
    """
    number = _figure(value, "measured")
    spread = _figure(off, "off") if off.strip() else USUAL_CRANK_OFF if read is ReadAs.CRANK else USUAL_OFF
    length = parse_length(over, bare, "over").mm
    for field, figure, text in (("measured", number, value), ("off", spread, off)):
        if figure <= 0:
            raise Refusal("not_positive", field, text)
        if figure > _MOST_TURNED:
            raise Refusal("angle_too_far", field, text, most=_MOST_TURNED)
    if read is ReadAs.LINE and not spread < number < 90 - spread:
        raise Refusal("line_angle_out_of_range", "measured", value)
    if not 0 < length <= _LONGEST_TRAVEL:
        raise Refusal("length_out_of_range", "over", over, least=0, most=int(_LONGEST_TRAVEL))
    return LeadReading(read, number, spread, length, turned)


def _figure(text: str, field: str) -> Fraction:
    """Degrees or turns."""
    return parse_degrees(text.strip().removesuffix("turns"), field)


@dataclass(frozen=True)
class HelixComparison:
    """Whether the reading agrees; else the slips that explain it, the likeliest first. expected: in the reading's own
    measure; too_fast: the work turns faster than planned; wrong_way: it turns the wrong way, however fast; doubt: what
    would tell the first two apart."""

    agrees: bool
    expected: float
    too_fast: bool
    wrong_way: bool
    slips: tuple[Slip, ...]
    doubt: Apart | None = None


def check(measured: LeadReading, set_up: LeadSetUp, drive: LeadDrive, stock: Stock) -> HelixComparison:
    """Compare what the work turned over a travel, or a line on it, with what the drive gives."""
    train, pair = set_up.train, set_up.pair
    # Turns of the work for a mm of travel that a train of 1 : 1 makes.
    per_ratio = pair.ratio / (drive.head * drive.screw)
    if measured.read is ReadAs.LINE:
        around = math.pi * float(measured.over)
        expected = math.degrees(math.atan(around * float(train.ratio * per_ratio)))
        slopes = [math.tan(math.radians(float(measured.value + off))) / around for off in (0, measured.off)]
        observed, spread = (Fraction(s) / per_ratio for s in (slopes[0], slopes[1] - slopes[0]))
    else:
        turns = 360 if measured.read is ReadAs.DEGREES else drive.head
        scale = turns * measured.over * per_ratio
        expected = float(train.ratio * scale)
        observed, spread = measured.value / scale, measured.off / scale
    wrong_way = measured.turned is WayTurned.OTHER_WAY
    if within(train.ratio, observed, spread):
        return HelixComparison(not wrong_way, expected, False, wrong_way, ())
    slips = tuple(explain(train, observed, spread, stock, _factors(pair, drive)))
    doubt = apart(slips[0], slips[1], spread, 20) if len(slips) > 1 else None
    return HelixComparison(False, expected, observed > train.ratio, wrong_way, slips, doubt)


def _factors(pair: PairWay, drive: LeadDrive) -> Iterator[Factor]:
    """The pair in the other way round, or another pair."""
    for other in pair_ways(drive.pairs):
        if other.ratio != pair.ratio:
            turned = other.ratio * pair.ratio == 1
            yield Factor("pair_turned" if turned else "other_pair", other.ratio / pair.ratio, 0.9 if turned else 0.5,
                         other.name)  # fmt: skip
