"""Which wheels are worth making for many things that are wanted of one gearbox: counts, or leads."""

from collections.abc import Callable, Iterable, Iterator, Sequence
from dataclasses import dataclass
from typing import Generic, TypeVar

T = TypeVar("T")
# How many of what is wanted are worked out in one step.
_AT_A_TIME = 20


@dataclass(frozen=True)
class Advice(Generic[T]):
    """asked: how many were; lacking: those that the wheels held do not do well. wheels: of wheels not held what each
    brings of these, most first, then the smaller wheel."""

    wanted: int
    lacking: tuple[T, ...]
    wheels: tuple[tuple[int, tuple[T, ...]], ...]


def advise(
    wanted: Sequence[T],
    lacking: Callable[[Sequence[T]], Iterable[T]],
    bringing: Callable[[Sequence[T]], Iterable[Iterable[int]]],
    brought: Callable[[int, Sequence[T]], Iterable[T]],
    tried: int,
) -> Iterator[float | Advice[T]]:
    """Yields the share of the work done from time to time, and at last the advice.

    lacking: those of some that are not done well now; bringing: for each the wheels not held that may bring it; tried:
    how many of the wheels that may bring most are tried; brought: those of some that are done well with such a wheel in
    hand.
    """
    left: list[T] = []
    for begin, some in _batches(wanted):
        left += lacking(some)
        yield (begin + len(some)) / len(wanted) / 3
    may: dict[int, int] = {}
    for n, wheels_for_one in enumerate(bringing(left), 1):
        for teeth in wheels_for_one:
            may[teeth] = may.get(teeth, 0) + 1
        yield (1 + n / len(left)) / 3
    likely = sorted(may, key=lambda teeth: (-may[teeth], teeth))[:tried]
    wheels: list[tuple[int, tuple[T, ...]]] = []
    for n, teeth in enumerate(likely):
        brings: list[T] = []
        for begin, some in _batches(left):
            brings += brought(teeth, some)
            yield (2 + (n + (begin + len(some)) / len(left)) / len(likely)) / 3
        if brings:
            wheels.append((teeth, tuple(brings)))
    yield Advice(len(wanted), tuple(left), tuple(sorted(wheels, key=lambda w: (-len(w[1]), w[0]))))


def _batches(every: Sequence[T]) -> Iterator[tuple[int, Sequence[T]]]:
    """Some at a time, each time with how many came before."""
    return ((begin, every[begin : begin + _AT_A_TIME]) for begin in range(0, len(every), _AT_A_TIME))
