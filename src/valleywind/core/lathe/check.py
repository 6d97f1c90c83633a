"""Check before cutting: a scratch pass, what it must measure, and what went wrong if it does not."""

from collections.abc import Iterator
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.lathe.constants import FIRST_RATIOS
from valleywind.core.lathe.length_reading import MOST_TURNS, LengthReading
from valleywind.core.lathe.machine import Lathe, LeverPosition, SetUp
from valleywind.core.lathe.thread import Ask, PitchUnit, ThreadAsk
from valleywind.core.trains.model import Stock
from valleywind.core.trains.slips import Apart, Factor, Slip, apart, explain, within
from valleywind.core.units import MM_PER_INCH, spell

_LONGEST_SCRATCH = Fraction(32)
_TRAVEL_TURNS = 10
# A feed is so small that it takes many turns to measure it.
_MOST_SCRATCHES = (1, 2, 5, 10, 20, 50, 100, 200, 500)


@dataclass(frozen=True)
class ToCheck:
    """Scratch `turns` turns: they must measure `length` mm. `travel` is the carriage travel in `travel_turns` spindle
    turns, mm. `wanted_length` is what the wanted lead would give over the same scratch."""

    turns: int
    length: Fraction
    wanted_length: Fraction
    travel_turns: int
    travel: Fraction


def to_check(lead: Fraction, wanted: Fraction, most_turns: int = 20) -> ToCheck:
    """As many turns as make a length that a caliper or rule reads well: at most 32 mm, in at most this many turns."""
    turns = max((n for n in _MOST_SCRATCHES if n <= most_turns and n * wanted <= _LONGEST_SCRATCH), default=1)
    return ToCheck(turns, turns * lead, turns * wanted, _TRAVEL_TURNS, _TRAVEL_TURNS * lead)


def feed_to_check(travel: Fraction, wanted: Fraction) -> ToCheck:
    """The same for a feed, over as many turns as move the tool a length that can be read."""
    return to_check(travel, wanted, most_turns=_MOST_SCRATCHES[-1])


@dataclass(frozen=True)
class CheckResult:
    """Whether the reading agrees with the train. expected: what it should be, mm; slips: what explains it if it does
    not, the most likely first; empty where no single slip does. apart: what would tell the first two slips apart, where
    both may be; turns: over how many the reading was."""

    agrees: bool
    expected: Fraction
    slips: tuple[Slip, ...]
    apart: Apart | None = None
    turns: int = 0


def check(measured: LengthReading, ask: Ask, set_up: SetUp, lathe: Lathe, stock: Stock) -> CheckResult:
    """Compare a reading with what the train gives; where they differ, look for the single slip that explains it."""
    train = set_up.train
    per_ratio = lathe.lead_of(Fraction(1), set_up.setting, ask.way) * measured.turns
    observed, uncertainty = measured.length / per_ratio, measured.uncertainty / per_ratio
    expected = train.ratio * per_ratio
    if within(train.ratio, observed, uncertainty):
        return CheckResult(True, expected, ())
    factors = _factors(measured, ask, set_up, lathe)
    slips = tuple(explain(train, observed, uncertainty, stock, factors))
    doubt = apart(slips[0], slips[1], uncertainty, MOST_TURNS // measured.turns) if len(slips) > 1 else None
    return CheckResult(False, expected, slips, doubt, measured.turns)


def _factors(measured: LengthReading, ask: Ask, set_up: SetUp, lathe: Lathe) -> Iterator[Factor]:
    """Slips of a lathe that are not of wheels."""
    for n in (measured.turns - 1, measured.turns + 1):
        if n > 0:
            yield Factor("miscounted", Fraction(n, measured.turns), 0.6, str(n))
    yield from _levers(set_up, lathe)
    yield from _other_system(ask)


def _levers(set_up: SetUp, lathe: Lathe) -> Iterator[Factor]:
    """The box a step or more out; the first shaft's lever elsewhere, or its ratio taken for another."""
    first, box = set_up.setting.first, set_up.setting.box
    if box is not None:
        place = lathe.box.index(box)
        for n, step in enumerate(lathe.box):
            if n != place:
                likelihood = 0.7 if abs(n - place) == 1 else 0.15
                yield Factor("box_step", step.ratio / box.ratio, likelihood, step.name)
    others: list[LeverPosition] = [s for s in lathe.first if s != first]
    for step in others:
        yield Factor("first_lever", step.ratio / first.ratio, 0.5, step.name)
    known = {s.ratio for s in lathe.first}
    for ratio in FIRST_RATIOS[:3]:
        if ratio not in known:
            yield Factor("first_ratio", ratio / first.ratio, 0.1, str(ratio))


def _other_system(ask: Ask) -> Iterator[Factor]:
    """Inch taken for metric: in the reading, or in the thread that was set up, 8 to the inch for 8 mm."""
    if not isinstance(ask, ThreadAsk):
        return
    for inches, times in ((True, 1 / MM_PER_INCH), (False, MM_PER_INCH)):
        yield Factor("read_in_inch" if inches else "read_in_mm", times, 0.2, "")
    pitch = MM_PER_INCH / ask.pitch if ask.stated is PitchUnit.TPI else ask.pitch
    # The same number in the other system: 8 to the inch for 8 mm.
    other = pitch if ask.stated is PitchUnit.TPI else MM_PER_INCH / pitch
    if other != ask.pitch and pitch.denominator <= 8:
        yield Factor(
            "set_as_mm" if ask.stated is PitchUnit.TPI else "set_as_tpi", other / ask.pitch, 0.15, spell(pitch)
        )
