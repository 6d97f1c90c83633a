"""Which wheel is worth making: for each tooth number not held, how many of the wanted pitches it would bring."""

from collections.abc import Callable, Collection, Iterator, Sequence
from dataclasses import dataclass

from valleywind.core.lathe.chart import Pitched, chart
from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.plan import wanted as need
from valleywind.core.refusal import Refused
from valleywind.core.teeth.pitch import MOST_TEETH
from valleywind.core.trains.model import Stock
from valleywind.core.trains.new_wheels import SMALLEST_CUT, new_wheels
from valleywind.core.trains.standing import Standing, brought, confirmed

# So many wheels are shown; so many of the likeliest are tried in a chart of their own.
_SHOWN = _TRIED = 12
MOST_TOGETHER = 3


@dataclass(frozen=True)
class Limits:
    """Which wheels may be made: from so many teeth to so many, and only those for which all of `can` say yes, such as
    that a cutter held cuts it, or that a head divides it. Those held `elsewhere` in the shop need no making."""

    fewest: int = SMALLEST_CUT
    most: int = MOST_TEETH
    can: tuple[Callable[[int], bool], ...] = ()
    elsewhere: frozenset[int] = frozenset()

    def counts(self, lathe: Lathe, stock: Stock) -> list[int]:
        """The tooth numbers worth thinking of within these limits. Raises Refused `no_wheel_allowed`."""
        new = new_wheels(lathe.gearbox, stock, self.fewest, self.most)
        allowed = [teeth for teeth in new if teeth in self.elsewhere or all(can(teeth) for can in self.can)]
        if not allowed:
            raise Refused("no_wheel_allowed", "most", self.most, fewest=self.fewest)
        return allowed


@dataclass(frozen=True)
class Brings:
    """A wheel to make, and the pitches that become exact or good with it that were neither. `held`: there is one in
    the shop already, with another machine."""

    teeth: int
    exact: tuple[Pitched, ...]
    good: tuple[Pitched, ...]
    held: bool = False

    @property
    def merit(self) -> tuple[bool, int, int, int]:
        """Ascending, best first: one that is held, most pitches, most of them exact, then the smaller wheel."""
        return not self.held, -len(self.exact) - len(self.good), -len(self.exact), self.teeth


@dataclass(frozen=True)
class Advice:
    """wanted: pitches asked for; lacking: those not exact or good now. single: wheels by what each alone brings.
    together: wheels to make one after the other, each the best next to those before it, not proved the best set."""

    wanted: int
    lacking: tuple[Pitched, ...]
    single: tuple[Brings, ...]
    together: tuple[Brings, ...]


def worth_making(
    asked: Sequence[Pitched], lathe: Lathe, stock: Stock, together: int = 1, limits: Limits | None = None
) -> Iterator[float | Advice]:
    """Yields the share of the work done from time to time, and at last the advice.

    Wheels thought of: `new_wheels` within the limits.
    Raises Refused `no_wheels` (stock), `no_cross_feed`, `no_wheel_allowed` (limits).
    """
    limits = limits or Limits()
    counts = limits.counts(lathe, stock)
    rows = chart(asked, lathe, stock)
    lacking = [r.pitched for r in rows if r.standing not in (Standing.EXACT, Standing.GOOD)]
    rounds = max(1, min(together, MOST_TOGETHER))
    single: list[Brings] = []
    chosen: list[Brings] = []
    left, held = lacking, dict(stock)
    for n in range(rounds):
        wheels: list[Brings] = []
        for step in bring(left, lathe, held, counts, limits.elsewhere):
            if isinstance(step, float):
                yield (n + step) / rounds
            else:
                wheels = step
        if n == 0:
            single = wheels
        if not wheels:
            break
        best = wheels[0]
        chosen.append(best)
        held = {**held, best.teeth: 1}
        brought = {*best.exact, *best.good}
        left = [p for p in left if p not in brought]
    yield 1.0
    yield Advice(len(asked), tuple(lacking), tuple(single[:_SHOWN]), tuple(chosen))


def bring(
    wanted: Sequence[Pitched],
    lathe: Lathe,
    stock: Stock,
    counts: Sequence[int],
    elsewhere: Collection[int] = (),
) -> Iterator[float | list[Brings]]:
    """What each wheel not in stock brings of these pitches, best first; the share done in between.

    The likeliest are found by one and two stages; what is told of each is what a chart says with it in hand.
    """
    likely: list[int] = []
    for step in in_two_stages(wanted, lathe, stock, counts, elsewhere):
        if isinstance(step, float):
            yield step / 2
        else:
            likely = [b.teeth for b in step]
    stands: dict[int, list[Standing]] = {}
    for tried in confirmed(likely[:_TRIED], stock, lambda held: [r.standing for r in chart(wanted, lathe, held)]):
        if isinstance(tried, float):
            yield (1 + tried) / 2
        else:
            stands = tried
    brings = [
        Brings(
            teeth,
            tuple(p for p, s in zip(wanted, each, strict=True) if s is Standing.EXACT),
            tuple(p for p, s in zip(wanted, each, strict=True) if s is Standing.GOOD),
            teeth in elsewhere,
        )
        for teeth, each in stands.items()
    ]
    yield sorted((b for b in brings if b.exact or b.good), key=lambda b: b.merit)


def in_two_stages(
    wanted: Sequence[Pitched],
    lathe: Lathe,
    stock: Stock,
    counts: Sequence[int],
    elsewhere: Collection[int] = (),
) -> Iterator[float | list[Brings]]:
    """What each wheel brings of these pitches in one or two stages, best first; the share done in between."""
    exact: dict[int, list[Pitched]] = {}
    good: dict[int, list[Pitched]] = {}
    for n, pitched in enumerate(wanted):
        for teeth, is_exact in brought(need(pitched.ask, lathe), lathe.gearbox, stock, counts).items():
            (exact if is_exact else good).setdefault(teeth, []).append(pitched)
        yield (n + 1) / len(wanted)
    wheels = [Brings(t, tuple(exact.get(t, ())), tuple(good.get(t, ())), t in elsewhere) for t in {*exact, *good}]
    yield sorted(wheels, key=lambda b: b.merit)
