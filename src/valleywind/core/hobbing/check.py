"""Check before cutting: hob turned by hand and the table's angle, or marks of a first touch counted; and which single
slip explains it if it does not come out."""

from collections.abc import Iterator
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction

from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.machine import Hobber, IndexConstant
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import Stock, Train
from valleywind.core.trains.slips import Apart, Factor, Slip, apart, explain, within
from valleywind.core.units import parse_degrees, parse_whole

MOST_TURNS, MOST_MARKS = 1000, 2000
# How far the table is turned, degrees, about: an angle that a graduated table or a protractor shows well.
_USUAL_ANGLE = 90
_LARGEST_ANGLE = Fraction(360 * 200)
USUAL_OFF = Fraction(1, 2)
"""By how much an angle may be off that is read on the table's rim, degrees."""
# Marks that stand round the work are counted exactly; which count came out is sure within this much of a tooth.
_MARK = Fraction(1, 4)


class MeasuredBy(StrEnum):
    """What was read."""

    ANGLE = "angle"
    MARKS = "marks"


@dataclass(frozen=True)
class ToCheck:
    """Turn the hob `turns` times: the table must turn `degrees`. marks: witness marks of a first touch, None where the
    index train divides into no whole count, so that marks close only with the feed on. around: turns of the hob that
    turn the table once, None where that is no whole number."""

    turns: int
    degrees: Fraction
    marks: int | None
    around: int | None


def to_check(train: Train, constant: IndexConstant, ask: HobAsk) -> ToCheck:
    """What to turn and what it must come to, for the index train that is on."""
    per_turn = 360 * train.ratio / constant.constant
    turns = max(1, round(_USUAL_ANGLE / per_turn))
    count = ask.starts * 360 / per_turn
    around = 360 / per_turn
    return ToCheck(
        turns, turns * per_turn, int(count) if count.denominator == 1 else None,
        int(around) if around.denominator == 1 else None,
    )  # fmt: skip


@dataclass(frozen=True)
class TableReading:
    """kind: an angle of the table, degrees, over this many turns of the hob; or marks counted."""

    kind: MeasuredBy
    value: Fraction
    off: Fraction
    turns: int = 1


def read_measured(kind: MeasuredBy, value: str, turns: str = "1", off: str = "") -> TableReading:
    """A reading as typed: `87.5°`, `37 marks`. Raises Refusal, at the field: `not_positive`, `angle_too_far`, those of
    numbers."""
    if kind is MeasuredBy.MARKS:
        marks = parse_whole(value, "measured", 1, MOST_MARKS, "marks?|teeth|scratches")
        return TableReading(kind, Fraction(marks), _MARK)
    angle = parse_degrees(value, "measured")
    spread = parse_degrees(off, "off") if off.strip() else USUAL_OFF
    for field, figure in (("measured", angle), ("off", spread)):
        if figure <= 0:
            raise Refusal("not_positive", field, value if field == "measured" else off)
        if figure > _LARGEST_ANGLE:
            raise Refusal("angle_too_far", field, value if field == "measured" else off, most=_LARGEST_ANGLE)
    return TableReading(kind, angle, spread, parse_whole(turns, "turns", 1, MOST_TURNS, "turns?"))


@dataclass(frozen=True)
class CheckResult:
    """Whether the reading agrees with the train; else the single slips that explain it, the likeliest first. expected:
    in the reading's own measure; doubt: what would tell the first two apart; again: turns of the hob for that."""

    agrees: bool
    expected: Fraction
    slips: tuple[Slip, ...]
    doubt: Apart | None = None


def check(
    measured: TableReading, train: Train, constant: IndexConstant, ask: HobAsk, hobber: Hobber, stock: Stock
) -> CheckResult:
    """Compare a reading with what the index train gives."""
    if measured.kind is MeasuredBy.ANGLE:
        per_ratio = 360 * measured.turns / constant.constant
        observed, uncertainty = measured.value / per_ratio, measured.off / per_ratio
        expected = train.ratio * per_ratio
    else:
        # The marks counted are s K/i: the ratio falls as their number grows.
        per_ratio = ask.starts * constant.constant
        observed = per_ratio / measured.value
        uncertainty = observed * measured.off / measured.value
        expected = per_ratio / train.ratio
    if within(train.ratio, observed, uncertainty):
        return CheckResult(True, expected, ())
    slips = tuple(explain(train, observed, uncertainty, stock, _factors(measured, constant, ask, hobber)))
    doubt = None
    if len(slips) > 1:
        times = MOST_TURNS // measured.turns if measured.kind is MeasuredBy.ANGLE else 1
        doubt = apart(slips[0], slips[1], uncertainty, times)
    return CheckResult(False, expected, slips, doubt)


def _factors(measured: TableReading, constant: IndexConstant, ask: HobAsk, hobber: Hobber) -> Iterator[Factor]:
    """Slips of a hobber that are not of wheels, as what each multiplies the observed ratio by."""
    for other in hobber.index:
        if other.constant != constant.constant:
            pair = "/".join(map(str, other.pair)) if other.pair else ""
            yield Factor("reversing_pair", constant.constant / other.constant, 0.8, pair)
    if measured.kind is MeasuredBy.ANGLE:
        for n in (measured.turns - 1, measured.turns + 1):
            if n > 0:
                yield Factor("hob_miscounted", Fraction(n, measured.turns), 0.6, str(n))
    else:
        for starts in (1, 2, 3):
            if starts != ask.starts:
                yield Factor("hob_starts", Fraction(ask.starts, starts), 0.6, str(starts))
        count = int(measured.value)
        for n in (count - 1, count + 1):
            if n > 0:
                yield Factor("marks_miscounted", Fraction(n, count), 0.5, str(n))


@dataclass(frozen=True)
class Constant:
    """A constant that a machine without papers may have; off: how far the reading lies from it, in uncertainties."""

    constant: Fraction
    off: float


USUAL_CONSTANTS = tuple(Fraction(n) for n in (6, 8, 9, 10, 12, 15, 16, 18, 20, 24, 30, 32, 36, 40, 48, 60, 72, 80, 96))


def constants_of(
    train: Train, hob_turns: Fraction, table_turns: Fraction, off: Fraction
) -> tuple[Fraction, tuple[Constant, ...]]:
    """The index constant of a machine without papers, from a known train and counted turns of hob and table, and the
    simple numbers inside the uncertainty: K = ratio z/s, where z/s is turns of the hob for one of the table.

    off: of the table's turns. Raises Refusal `not_positive`.
    """
    for name, value in (("hob_turns", hob_turns), ("table_turns", table_turns), ("off", off)):
        if value <= 0:
            raise Refusal("not_positive", name, value)
    constant = train.ratio * hob_turns / table_turns
    spread = constant * off / table_turns
    simple = {n for n in (*USUAL_CONSTANTS, *map(Fraction, range(1, 121))) if abs(n - constant) <= spread}
    simple |= {n / 2 for n in map(Fraction, range(1, 241)) if abs(n / 2 - constant) <= spread}
    ranked = sorted(simple, key=lambda n: (n not in USUAL_CONSTANTS, n.denominator, abs(n - constant)))
    return constant, tuple(Constant(n, float(abs(n - constant) / spread)) for n in ranked[:8])
