"""Wheels of a day on one hobber: the set-ups that will do for each, and what has to stand where for them."""

from collections.abc import Hashable, Iterator, Sequence
from dataclasses import replace

from valleywind.core.hobbing.ask import HobAsk
from valleywind.core.hobbing.boxes import Boxes
from valleywind.core.hobbing.machine import Hobber
from valleywind.core.hobbing.plan import plan
from valleywind.core.hobbing.set_up import OnNow, SetUp
from valleywind.core.trains.days_work import Choices, WayOfMaking
from valleywind.core.trains.effort import Place, What, stands_of
from valleywind.core.trains.model import Stock, lacking

# Set-ups of each that are chosen from, feed trains that each is tried with, and both together.
_SET_UPS, _FEEDS, _WAYS = 60, 6, 120


def choices(ask: HobAsk, hobber: Hobber, stock: Stock, on: OnNow) -> Choices[SetUp]:
    """The set-ups for one wheel that do best for it, each with several feeds. Raises Refusal as `plan` does."""
    set_ups = plan(ask, hobber, stock, on, best=_SET_UPS).set_ups
    good = [s for s in set_ups if s.good]
    best = min(map(_rank, good), default=(0, 0))
    some = list(_with_feeds([s for s in good if _rank(s) == best], ask, hobber, stock, on))[:_WAYS]
    return Choices([WayOfMaking(s, stands(s, ask)) for s in some], next(iter(set_ups), None), every=False)


def _rank(set_up: SetUp) -> tuple[int, int]:
    return set_up.run_off.rank if set_up.run_off else 0, set_up.feed.verdict.rank if set_up.feed else 0


def _with_feeds(set_ups: Sequence[SetUp], ask: HobAsk, hobber: Hobber, stock: Stock, on: OnNow) -> Iterator[SetUp]:
    """Each as it is, then with every other feed train as good whose wheels it leaves."""
    yield from set_ups
    # A helix or a count that is made up depends on its feed.
    plain = [s for s in set_ups if s.feed is not None and s.run_off is None]
    if not plain:
        return
    feeds = Boxes(ask, hobber, stock, on).feeds(stock)[:_FEEDS]
    for set_up in plain:
        assert set_up.feed is not None
        for feed in feeds:
            same = feed.train == set_up.feed.train or feed.verdict.rank != set_up.feed.verdict.rank
            if not same and not lacking((*set_up.index.train.teeth, *feed.train.teeth), stock):
                yield replace(set_up, feed=feed, moved=())


def stands(set_up: SetUp, ask: HobAsk | None = None) -> dict[Place, Hashable]:
    """What stands where on a hobber with this set-up; the hob where the ask says which."""
    there: dict[Place, Hashable] = {Place(What.PAIR): set_up.index.setting}
    for box, train in set_up.trains.items():
        there |= stands_of(train, box)
    if ask is not None and ask.pitch is not None:
        there[Place(What.TOOL)] = (ask.pitch, ask.angle, ask.starts, ask.hob_hand)
    return there


def stands_now(on: OnNow) -> dict[Place, Hashable] | None:
    """What stands where with what is on; None for nothing. Which hob is on is not known."""
    if not on.trains:
        return None
    there: dict[Place, Hashable] = {} if on.constant is None else {Place(What.PAIR): on.constant}
    for box, train in on.trains.items():
        there |= stands_of(train, box)
    return there
