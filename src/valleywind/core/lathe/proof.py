"""Proof before metal is lost: a scratch pass, what it must measure, and what went wrong if it does not."""

from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.lathe.machine import Lathe
from valleywind.core.refusal import Refused
from valleywind.core.trains.model import Stock, Train
from valleywind.core.trains.slips import Factor, Slip, explain, within

_LONGEST_SCRATCH = Fraction(32)
_TRAVEL_TURNS = 10


@dataclass(frozen=True)
class Proof:
    """Scratch `turns` turns: they must measure `length` mm. `travel` is the carriage travel in `travel_turns` spindle
    turns, mm. `wanted_length` is what the wanted lead would give over the same scratch."""

    turns: int
    length: Fraction
    wanted_length: Fraction
    travel_turns: int
    travel: Fraction


def proof(lead: Fraction, wanted: Fraction) -> Proof:
    """As many turns as make a length that a caliper or rule reads well: at most 32 mm, of 1, 2, 5, 10 or 20 turns."""
    turns = max((n for n in (1, 2, 5, 10, 20) if n * wanted <= _LONGEST_SCRATCH), default=1)
    return Proof(turns, turns * lead, turns * wanted, _TRAVEL_TURNS, _TRAVEL_TURNS * lead)


class Method(StrEnum):
    """With what a length was measured."""

    RULE = "rule"
    CALIPER = "caliper"
    MICROMETER = "micrometer"


UNCERTAINTY: dict[Method, Fraction] = {
    Method.RULE: Fraction(1, 4),
    Method.CALIPER: Fraction(1, 20),
    Method.MICROMETER: Fraction(1, 50),
}
"""What a careful reading over scratches or a thread may be off, mm: rule, caliper over points, dial or micrometer."""

# Lengths beyond which a reading or a count is a slip of the keyboard, mm and turns.
_MOST_TURNS, _LONGEST = 1000, Fraction(5000)


@dataclass(frozen=True)
class Measured:
    """A measured length over so many turns, and by how much the reading may be off; mm."""

    length: Fraction
    turns: int
    uncertainty: Fraction

    def __post_init__(self) -> None:
        if not 1 <= self.turns <= _MOST_TURNS:
            raise Refused("turns_out_of_range", "turns", self.turns, most=_MOST_TURNS)
        if not 0 < self.length <= _LONGEST:
            raise Refused("measured_out_of_range", "measured", self.length, longest=_LONGEST)


@dataclass(frozen=True)
class ProofResult:
    """Whether the reading agrees with the train. expected: what it should be, mm; slips: what explains it if it does
    not, the most likely first; empty where no single slip does."""

    agrees: bool
    expected: Fraction
    slips: tuple[Slip, ...]


def check(measured: Measured, train: Train, lathe: Lathe, stock: Stock) -> ProofResult:
    """Compare a reading with what the train gives; where they differ, look for the single slip that explains it."""
    per_ratio = lathe.lead_of(Fraction(1)) * measured.turns
    observed, uncertainty = measured.length / per_ratio, measured.uncertainty / per_ratio
    expected = train.ratio * per_ratio
    if within(train.ratio, observed, uncertainty):
        return ProofResult(True, expected, ())
    return ProofResult(False, expected, tuple(explain(train, observed, uncertainty, stock, _factors(measured, lathe))))


def _factors(measured: Measured, lathe: Lathe) -> list[Factor]:
    """Slips of a lathe that are not of wheels: turns miscounted; the first shaft's ratio taken for another."""
    found = [
        Factor("miscounted", Fraction(n, measured.turns), 0.6, n)
        for n in (measured.turns - 1, measured.turns + 1)
        if n > 0
    ]
    found += [
        Factor("first_ratio", ratio / lathe.first_ratio, 0.1, int(1 / ratio))
        for ratio in (Fraction(1), Fraction(1, 2), Fraction(1, 4))
        if ratio != lathe.first_ratio
    ]
    return found
