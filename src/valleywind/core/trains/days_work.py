"""A day's work on one machine: the way in which each thing is made, and the order, so that least is changed."""

from collections.abc import Collection, Hashable, Sequence
from dataclasses import dataclass
from fractions import Fraction
from functools import cached_property
from typing import Generic, TypeVar

from valleywind.core.refusal import Refusal
from valleywind.core.trains.day import Day, Way, as_typed, order_of
from valleywind.core.trains.effort import Effort, Place, Stands, What
from valleywind.core.trains.merit import Handling

# What a way does not ask for is taken off, and the quadrant with it is set anew; a lever or a plate stays.
_TAKEN = (What.WHEEL, What.QUADRANT)
MOST_ON_A_MACHINE = 20
"""How many things are planned together on one machine at most."""

C = TypeVar("C")


@dataclass(frozen=True)
class WayOfMaking(Generic[C]):
    """A way in which a thing is made, and what has to stand where for it."""

    candidate: C
    stands: Stands


@dataclass(frozen=True)
class Choices(Generic[C]):
    """The ways in which one thing is made. ways: those that will do, the one liked most first; best: the best there is
    where none will do, None for nothing at all; every: whether these are all there are."""

    ways: Sequence[WayOfMaking[C]]
    best: C | None = None
    every: bool = True


@dataclass(frozen=True)
class Change:
    """From what stood on a machine, None where nothing did, to what has to stand there."""

    stood: Stands | None
    stands: Stands

    @cached_property
    def put(self) -> tuple[Place, ...]:
        """The places at which something else has to be put or set."""
        stood = self.stood or {}
        return tuple(sorted(p for p, what in self.stands.items() if stood.get(p) != what))

    @cached_property
    def taken(self) -> tuple[Place, ...]:
        """The places whose wheel comes off and is not replaced."""
        stood = self.stood or {}
        return tuple(sorted(p for p in stood if p.what is What.WHEEL and p not in self.stands))

    @property
    def handling(self) -> Handling:
        """Its wheels and levers, counted."""
        wheels = sum(p.what is What.WHEEL for p in self.stands)
        stood = sum(p.what is What.WHEEL for p in self.stood or {})
        put = sum(p.what is What.WHEEL for p in self.put)
        levers = sum(p.what in (What.LEVER, What.PAIR) for p in self.put) if self.stood is not None else 0
        return Handling(wheels - put, put, stood - (wheels - put), levers)

    def weighs(self, effort: Effort) -> Fraction:
        """What it takes."""
        return sum((effort.of(place) for place in self.put), Fraction(0))


@dataclass(frozen=True)
class Turn(Generic[C]):
    """One of the day. ask: its place among what was wanted; change: from what stood there before it."""

    ask: int
    candidate: C
    change: Change


@dataclass(frozen=True)
class DaysWork(Generic[C]):
    """turns: in their order; back: to what was on at the beginning, None where that is not wished. weighs: all changes
    together; at_least: no order of these ways weighs less, None where that is not known; every: whether every way that
    would do was thought of; typed_turns, typed_back, typed_weighs: of the order as it was typed. left_out: places of
    what has no way that would do, each with the best there is."""

    turns: tuple[Turn[C], ...]
    back: Change | None
    weighs: Fraction
    at_least: Fraction | None
    every: bool
    typed_turns: tuple[Turn[C], ...]
    typed_back: Change | None
    typed_weighs: Fraction
    left_out: tuple[tuple[int, C | None], ...]

    @property
    def proven(self) -> bool:
        """No order of ways that would do weighs less."""
        return self.every and self.at_least is not None and self.weighs <= self.at_least

    @property
    def put_on(self) -> int:
        """Wheels put on in all."""
        return _put_on(self.turns, self.back)

    @property
    def typed_put_on(self) -> int:
        """The same in the order as typed."""
        return _put_on(self.typed_turns, self.typed_back)


def work_through(
    wanted: Sequence[Choices[C]],
    effort: Effort,
    on: Stands | None = None,
    put_back: bool = False,
    before: Collection[tuple[int, int]] = (),
) -> DaysWork[C]:
    """The order and the ways in which least is changed.

    on: what stands on the machine, None for nothing; put_back: it has to stand there again at the end; before: pairs of
    places in `wanted`, the first of which is done before the second. Raises Refusal `too_many_asks`, and as `order_of`
    does.
    """
    if len(wanted) > MOST_ON_A_MACHINE:
        raise Refusal("too_many_asks", "asks", len(wanted), most=MOST_ON_A_MACHINE)
    kept = [n for n, choices in enumerate(wanted) if choices.ways]
    left_out = tuple((n, choices.best) for n, choices in enumerate(wanted) if not choices.ways)
    places = sorted({p for n in kept for made in wanted[n].ways for p in made.stands} | set(on or {}))
    weights = [float(effort.of(place)) for place in places]

    def way(stands: Stands) -> Way:
        return tuple(stands.get(place) for place in places)

    asks = [[way(made.stands) for made in wanted[n].ways] for n in kept]
    begin = way(on) if on is not None else None
    end = begin if put_back else None
    number = {n: place for place, n in enumerate(kept)}
    pairs = [(number[a], number[b]) for a, b in before if a in number and b in number]
    best, typed = order_of(asks, weights, begin, end, pairs), as_typed(asks, weights, begin, end)
    turns, back = _turns(best, kept, wanted, on, put_back)
    typed_turns, typed_back = _turns(typed, kept, wanted, on, put_back)
    weighs = _weighs(turns, back, effort)
    return DaysWork(
        turns, back, weighs, _least(best, weighs, wanted),
        all(choices.every for choices in wanted), typed_turns, typed_back, _weighs(typed_turns, typed_back, effort),
        left_out,
    )  # fmt: skip


def _least(best: Day, weighs: Fraction, wanted: Sequence[Choices[C]]) -> Fraction | None:
    """What no order weighs less than. A plate or a lever that some ways do not ask for stays as it stands for those
    that follow; the orders are not looked through for that."""
    ways = [made.stands for choices in wanted for made in choices.ways]
    others = {place for stands in ways for place in stands if place.what not in _TAKEN}
    if any(place not in stands for place in others for stands in ways):
        return None
    return weighs if best.proven else min(weighs, Fraction(best.at_least))


def _turns(
    day: Day, kept: Sequence[int], wanted: Sequence[Choices[C]], on: Stands | None, put_back: bool
) -> tuple[tuple[Turn[C], ...], Change | None]:
    turns = []
    stood: Stands | None = on
    for step in day.steps:
        made = wanted[kept[step.ask]].ways[step.way]
        turns.append(Turn(kept[step.ask], made.candidate, Change(stood, made.stands)))
        stood = _after(stood, made.stands)
    return tuple(turns), Change(stood, on) if put_back and on is not None else None


def _after(stood: Stands | None, stands: Stands) -> Stands:
    """What stands on the machine then: levers, plates and the like that nobody asked for stay as they stood."""
    stay: dict[Place, Hashable] = {p: what for p, what in (stood or {}).items() if p.what not in _TAKEN}
    return stay | dict(stands)


def _weighs(turns: Sequence[Turn[C]], back: Change | None, effort: Effort) -> Fraction:
    changes = [turn.change for turn in turns] + ([back] if back else [])
    return sum((change.weighs(effort) for change in changes), Fraction(0))


def _put_on(turns: Sequence[Turn[C]], back: Change | None) -> int:
    return sum(turn.change.handling.put_on for turn in turns) + (back.handling.put_on if back else 0)
