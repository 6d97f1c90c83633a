"""Every pitch of the chosen series against the wheels a lathe has: exact, good, poor, no room, needs a wheel."""

from collections.abc import Iterator, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction

from valleywind.core.lathe.machine import Lathe, SetUp
from valleywind.core.lathe.pitches import stated_in
from valleywind.core.lathe.plan import Candidate, requirements
from valleywind.core.lathe.series import Series, sizes
from valleywind.core.lathe.thread import Ask, CarriageMove, FeedAsk, PitchUnit, ThreadAsk
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.model import Stock
from valleywind.core.trains.standing import Standing, standings
from valleywind.core.units import MM_PER_INCH


@dataclass(frozen=True)
class ChartAsk:
    """One line of a chart: the ask, and the names of the sizes that have this pitch."""

    ask: Ask
    sizes: tuple[str, ...] = ()


@dataclass(frozen=True)
class Row:
    """A line of the chart answered. candidate: the train that comes closest and goes on, or with NEEDS_WHEEL the one
    with the wheel `new`; None where there is none."""

    pitched: ChartAsk
    standing: Standing
    candidate: Candidate | None
    new: int | None = None


class List(StrEnum):
    """The lists of pitches that a chart can be made of."""

    METRIC = "metric"
    METRIC_FINE = "metric_fine"
    PER_INCH = "per_inch"
    UNC = "unc"
    UNF = "unf"
    UNEF = "unef"
    BSW = "bsw"
    BSF = "bsf"
    BSP = "bsp"
    BSPT = "bspt"
    NPT = "npt"
    ME = "me"
    BA = "ba"
    TRAPEZOIDAL = "trapezoidal"
    ACME = "acme"
    BUTTRESS = "buttress"
    ROUND = "round"
    MODULE_WORMS = "module_worms"
    DP_WORMS = "dp_worms"
    FEEDS_ALONG = "feeds_along"
    FEEDS_ACROSS = "feeds_across"


_SERIES = {
    List.UNC: Series.UNC, List.UNF: Series.UNF, List.UNEF: Series.UNEF, List.BSW: Series.BSW, List.BSF: Series.BSF,
    List.BSP: Series.BSP, List.BSPT: Series.BSPT, List.NPT: Series.NPT, List.ME: Series.ME, List.BA: Series.BA,
    List.TRAPEZOIDAL: Series.TRAPEZOIDAL, List.ACME: Series.ACME, List.BUTTRESS: Series.BUTTRESS,
    List.ROUND: Series.ROUND,
}  # fmt: skip
# Threads per inch that gearboxes and books list.
_PER_INCH = "4 4.5 5 5.5 6 7 8 9 10 11 11.5 12 13 14 16 18 19 20 22 24 26 27 28 32 36 40 44 48 56 60 64 72 80"
# ISO 54, modules, first choice and the second between them; diametral pitches as they are listed.
_MODULES = "0.3 0.4 0.5 0.6 0.7 0.8 1 1.25 1.5 1.75 2 2.25 2.5 2.75 3 3.5 4"
_DIAMETRAL = "6 8 10 12 14 16 18 20 24 32 40 48 64"
# Preferred numbers R 10 from 0.01 to 1 mm.
_FEEDS = "0.01 0.0125 0.016 0.02 0.025 0.03 0.04 0.05 0.063 0.08 0.1 0.125 0.16 0.2 0.25 0.315 0.4 0.5 0.63 0.8 1"


def pitches(of: List) -> tuple[ChartAsk, ...]:
    """Every pitch of a list once, coarsest first, with the sizes that have it; judged for the largest of them."""
    match of:
        case List.PER_INCH:
            return tuple(ChartAsk(ThreadAsk(MM_PER_INCH / Fraction(t), PitchUnit.TPI)) for t in _PER_INCH.split())
        case List.MODULE_WORMS:
            return _worms(PitchSystem.MODULE, reversed(_MODULES.split()))
        case List.DP_WORMS:
            return _worms(PitchSystem.DIAMETRAL, _DIAMETRAL.split())
        case List.FEEDS_ALONG | List.FEEDS_ACROSS:
            way = CarriageMove.ALONG if of is List.FEEDS_ALONG else CarriageMove.ACROSS
            return tuple(ChartAsk(FeedAsk(Fraction(f), way=way)) for f in reversed(_FEEDS.split()))
        case List.METRIC | List.METRIC_FINE:
            return _sized(Series.METRIC, of is List.METRIC)
        case _:
            return _sized(_SERIES[of], None)


def _worms(system: PitchSystem, values: Sequence[str] | Iterator[str]) -> tuple[ChartAsk, ...]:
    worms = [Pitch(system, Fraction(v)) for v in values]
    return tuple(ChartAsk(ThreadAsk(p.circular, worm=p)) for p in worms)


def _sized(series: Series, usual: bool | None) -> tuple[ChartAsk, ...]:
    """The pitches of a series; of the metric series the coarse ones or the fine."""
    by_pitch: dict[Fraction, list[ThreadAsk]] = {}
    for size in sizes(series):
        if usual is None or size.usual == usual:
            ask = ThreadAsk(size.pitch, stated_in(series), diameter=size.diameter, series=series, size=size)
            by_pitch.setdefault(size.pitch, []).append(ask)
    return tuple(
        ChartAsk(
            replace(asks[-1], size=asks[-1].size if usual is not False else None),
            tuple(a.size.name for a in asks if a.size),
        )
        for _, asks in sorted(by_pitch.items(), reverse=True)
    )


def chart(asks: Sequence[ChartAsk], lathe: Lathe, stock: Stock, mounted: SetUp | None = None) -> list[Row]:
    """Answer the lines of a chart; those asked for together are laid out together, which is much quicker.

    Raises Refusal `no_wheels` (stock) where there is none, `no_cross_feed` for feeds that the lathe does not have.
    """
    if not any(n > 0 for n in stock.values()):
        raise Refusal("no_wheels", "stock", lathe.name)
    every = requirements([pitched.ask for pitched in asks], lathe, mounted)
    stands = standings(every, lathe.gearbox, stock)
    return [
        Row(pitched, stood.standing, stood.candidate, stood.new) for pitched, stood in zip(asks, stands, strict=True)
    ]
