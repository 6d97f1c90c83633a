"""Check before cutting: the table moved by hand, what the work must turn, and which slip explains another reading."""

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.helix.lead import PairWay, crank_turns, pair_ways, work_turn
from valleywind.core.helix.plan import LeadDrive
from valleywind.core.refusal import Refused
from valleywind.core.trains.model import Stock, Train
from valleywind.core.trains.slips import Apart, Factor, Slip, apart, explain, within

# A fifth of a turn of the work is seen well.
_USUAL_SHARE = Fraction(1, 5)
# Travels that are dialled readily, mm.
_TRAVELS = tuple(map(Fraction, (1, 2, 5, 10, 20, 25, 50, 100, 150, 200)))


class Read(StrEnum):
    """What is read while the table moves."""

    DEGREES = "degrees"
    CRANK = "crank"


@dataclass(frozen=True)
class HelixProof:
    """Move the table by so many mm: the work must turn so many degrees, the crank so often."""

    travel: Fraction
    degrees: Fraction
    crank: Fraction


def given_lead(train: Train, pair: PairWay, drive: LeadDrive) -> Fraction:
    """The lead that the drive gives, mm."""
    return drive.head * drive.screw / (pair.ratio * train.ratio)


def proof(train: Train, pair: PairWay, drive: LeadDrive, longest: Fraction = Fraction(200)) -> HelixProof:
    """As far as makes the work turn well visibly, and no farther than the table goes."""
    lead = given_lead(train, pair, drive)
    fitting = [t for t in _TRAVELS if t <= longest]
    travel = next((t for t in fitting if t / lead >= _USUAL_SHARE), max(fitting, default=longest))
    return HelixProof(travel, work_turn(travel, lead), crank_turns(travel, lead, drive.head))


@dataclass(frozen=True)
class HelixChecked:
    """Whether the reading agrees; else the slips that explain it, the likeliest first. expected: in the reading's own
    measure; too_fast: the work turns faster than planned; doubt: what would tell the first two apart."""

    agrees: bool
    expected: Fraction
    too_fast: bool
    slips: tuple[Slip, ...]
    doubt: Apart | None = None


def check(
    read: Read, value: Fraction, off: Fraction, travel: Fraction, train: Train, pair: PairWay, drive: LeadDrive,
    stock: Stock,
) -> HelixChecked:  # fmt: skip
    """Compare what the work turned over a travel with what the drive gives.

    Raises Refused `not_positive` for a value, an uncertainty or a travel that is not above zero."""
    for name, figure in (("measured", value), ("off", off), ("travel", travel)):
        if figure <= 0:
            raise Refused("not_positive", name, figure)
    turns = 360 if read is Read.DEGREES else drive.head
    # What the reading would be with a train of 1 : 1: the work turns p/(R L) …
    per_ratio = turns * travel * pair.ratio / (drive.head * drive.screw)
    expected = train.ratio * per_ratio
    observed, uncertainty = value / per_ratio, off / per_ratio
    if within(train.ratio, observed, uncertainty):
        return HelixChecked(True, expected, False, ())
    slips = tuple(explain(train, observed, uncertainty, stock, _factors(pair, drive)))
    doubt = apart(slips[0], slips[1], uncertainty, 20) if len(slips) > 1 else None
    return HelixChecked(False, expected, value > expected, slips, doubt)


def _factors(pair: PairWay, drive: LeadDrive) -> Iterator[Factor]:
    """The pair in the other way round, or another pair."""
    for other in pair_ways(drive.pairs):
        if other.ratio != pair.ratio:
            turned = other.ratio * pair.ratio == 1
            yield Factor("pair_turned" if turned else "other_pair", other.ratio / pair.ratio, 0.9 if turned else 0.5,
                         other.name)  # fmt: skip
