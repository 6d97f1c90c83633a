"""Combinations for an ask over wheels, levers, first drivers and locked pairs together, and places for them."""

from collections.abc import Iterable, Sequence
from dataclasses import dataclass, replace
from fractions import Fraction
from functools import lru_cache

from valleywind.core.lathe.machine import Lathe, Setting
from valleywind.core.lathe.thread import Ask, ThreadAsk
from valleywind.core.teeth.geometry import root_radius, tip_radius
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH, WheelFamily
from valleywind.core.trains.arrange import Fixed, arrange
from valleywind.core.trains.direction import Hand, advise
from valleywind.core.trains.layout import largest
from valleywind.core.trains.model import Combination, Stock, Train, lacking
from valleywind.core.trains.placement import Laid
from valleywind.core.trains.search import Found, keeping, search_each
from valleywind.core.trains.worth import with_each

# Of a line's compound trains so many are tried with an idler.
_COMPOUND_WITH_IDLER = 2
# With fewer tooth numbers than this no train can be made.
_FEWEST_SIZES = 2
# A lead that no train reaches: what comes closest to it is the end of the range.
_BEYOND_FINEST = Fraction(1, 10**9)


@dataclass(frozen=True)
class Hit:
    """A combination found by its ratio, with the levers it counts on."""

    found: Found
    setting: Setting


def hits(
    ask: Ask, lathe: Lathe, stock: Stock, stages: Iterable[int], best: int, settings: Sequence[Setting] = ()
) -> list[Hit]:
    """The `best` combinations over wheels, levers, first drivers and pairs together, closest first.

    Locked pairs stand between a free driver and a free driven wheel.
    """
    stages = tuple(stages)
    usable = _usable(lathe, stock)
    if usable is None:
        return []
    free, first, last = usable
    settings = settings or lathe.settings
    targets = [lathe.ratio_for(ask.lead, setting, ask.way) for setting in settings]
    found = [Hit(f, settings[n]) for n, f in search_each(targets, free, stages, best, first, last)]
    for driven, driver in _pair_ways(lathe, stock) if 2 in stages else ():
        through = [target * Fraction(driven, driver) for target in targets]
        found += [
            Hit(Found(_joined(f.combination, driven, driver), f.error), settings[n])
            for n, f in search_each(through, free, (1,), best, first, last)
        ]
    return sorted(found, key=lambda h: h.found.merit)[:best]


def _usable(lathe: Lathe, stock: Stock) -> tuple[Stock, list[int], list[int]] | None:
    """The wheels that have room somewhere, which of them may drive on the first shaft and which run on the last, empty
    where any may; None where none may. Where too few have room, all of them: so that it is seen why nothing goes."""
    free = lathe.free(stock)
    room = largest(lathe.quadrant)
    fits = {t: tip_radius(t, lathe.family) for t in free}
    roomy = {t: n for t, n in free.items() if fits[t] <= room.anywhere}
    # Where only some wheels may drive first or run last and none of them has room, they are tried all the same: so that
    # it is seen why they do not go on.
    for only in (lathe.first_drivers, lathe.last_driven):
        if only and not any(t in roomy for t in only):
            roomy |= {t: free[t] for t in only if free.get(t, 0)}
    if len(roomy) < _FEWEST_SIZES:
        roomy = dict(free)
    ends = []
    for only, largest_there in ((lathe.first_drivers, room.first), (lathe.last_driven, room.last)):
        if only:
            held = [t for t in only if roomy.get(t, 0)]
            if not held:
                return None
            ends.append(held)
        else:
            small = [t for t in roomy if fits[t] <= largest_there]
            ends.append(small if 0 < len(small) < len(roomy) else [])
    return roomy, ends[0], ends[1]


def hits_keeping(ask: Ask, lathe: Lathe, stock: Stock, mounted: Train, best: int) -> list[Hit]:
    """Combinations that leave at least half of what the mounted train has where it is in use: one wheel of a single
    stage, two of two; the `best` for each choice of which wheels, closest first. None with locked pairs."""
    usable = _usable(lathe, stock)
    if usable is None:
        return []
    free, first, last = usable
    settings, present = lathe.settings, mounted.combination
    targets = [lathe.ratio_for(ask.lead, setting, ask.way) for setting in settings]
    found = [
        Hit(f, settings[n])
        for stages in (1, 2)
        for n, f in keeping(targets, free, present, stages, stages, best, first, last)
    ]
    return sorted(found, key=lambda h: h.found.merit)


def _joined(plain: Combination, driven: int, driver: int) -> Combination:
    """The combination with a locked pair between its wheels."""
    return Combination(tuple(sorted((*plain.drivers, driver))), tuple(sorted((*plain.driven, driven))))


def hand_of(ask: Ask, lathe: Lathe) -> Hand | None:
    """The hand that the train must give; None where any will do."""
    return lathe.hand_of(ask.way, ask.hand)


def reach(ask: Ask, lathe: Lathe, stock: Stock) -> tuple[Fraction, Fraction] | None:
    """Finest and coarsest lead or feed that the wheels give in one or two stages, whether or not they go on, mm; None
    where they make no train."""
    by_ratio = sorted(lathe.settings, key=lambda s: s.ratio)
    ends = (
        (by_ratio[0], slowest(ask, lathe, stock, 1, by_ratio[0])),
        (by_ratio[-1], hits(with_lead(ask, 1 / _BEYOND_FINEST), lathe, stock, (1, 2), 1, by_ratio[-1:])),
    )
    if not all(found for _, found in ends):
        return None
    finest, coarsest = (lathe.lead_of(found[0].found.combination.ratio, s, ask.way) for s, found in ends)
    return finest, coarsest


def slowest(ask: Ask, lathe: Lathe, stock: Stock, best: int, setting: Setting | None = None) -> list[Hit]:
    """The `best` combinations that give the least travel, in one or two stages, the slowest first."""
    slow = setting or min(lathe.settings, key=lambda s: s.ratio)
    return hits(with_lead(ask, _BEYOND_FINEST), lathe, stock, (1, 2), best, [slow])


def with_lead(ask: Ask, lead: Fraction) -> Ask:
    """The same ask for another lead, mm."""
    if isinstance(ask, ThreadAsk):
        return replace(ask, pitch=lead / ask.starts, size=None, worm=None)
    return replace(ask, travel=lead)


SMALLEST_CUT = 12
"""Teeth at which the usual sets of form cutters begin."""
# The ring left between the keyway and the bottom of the teeth, in modules.
_LEAST_WALL = 0.5


def new_wheels(lathe: Lathe, stock: Stock, fewest: int = SMALLEST_CUT, most: int = MOST_TEETH) -> list[int]:
    """Tooth numbers not held that are worth thinking of for this lathe: from `fewest` and what leaves metal over the
    key up to what has room somewhere on the quadrant, or `most`. Plan, chart and advice think of the same."""
    room = largest(lathe.quadrant).anywhere
    return [
        teeth
        for teeth in range(max(fewest, smallest_on_shaft(lathe.family)), most + 1)
        if not stock.get(teeth, 0) and tip_radius(teeth, lathe.family) <= room
    ]


def smallest_on_shaft(family: WheelFamily) -> int:
    """The fewest teeth whose bottom leaves half a module of metal over bore and keyway (half the key's width deep)."""
    least = float(family.bore + family.key) / 2 + _LEAST_WALL * float(family.module)
    counts = range(FEWEST_TEETH, MOST_TEETH + 1)
    return next((teeth for teeth in counts if root_radius(teeth, family) >= least), MOST_TEETH + 1)


def with_each_new_wheel(
    ask: Ask, lathe: Lathe, stock: Stock, counts: Iterable[int], within: float, most: int
) -> dict[int, list[Hit]]:
    """For each of these tooth numbers that is not held the `most` closest combinations of one such wheel and held ones
    that err by at most `within`, over wheels, levers and locked pairs together, closest first.

    Wheels too large to have room anywhere are left out. A new wheel may go first even where only some of the held do.
    """
    usable = _usable(lathe, stock)
    if usable is None:
        return {}
    free, first, last = usable
    room = largest(lathe.quadrant).anywhere
    new = [t for t in counts if not stock.get(t, 0) and tip_radius(t, lathe.family) <= room]
    settings = lathe.settings
    targets = [lathe.ratio_for(ask.lead, setting, ask.way) for setting in settings]
    near: dict[int, list[Hit]] = {}
    for teeth, found in with_each(targets, free, new, within, most, first, last).items():
        near.setdefault(teeth, []).extend(Hit(f, settings[n]) for n, f in found)
    for driven, driver in _pair_ways(lathe, stock):
        through = [target * Fraction(driven, driver) for target in targets]
        for teeth, found in with_each(through, free, new, within, most, first, last, (1,)).items():
            near.setdefault(teeth, []).extend(
                Hit(Found(_joined(f.combination, driven, driver), f.error), settings[n]) for n, f in found
            )
    return {teeth: sorted(some, key=lambda h: h.found.merit)[:most] for teeth, some in near.items()}


def _pair_ways(lathe: Lathe, stock: Stock) -> list[tuple[int, int]]:
    """Driven and driver of every locked pair that is held, both ways round."""
    return [way for pair in lathe.pairs if not lacking((pair.one, pair.other), stock) for way in pair.ways]


@lru_cache(maxsize=1024)
def good_within(ask: Ask) -> float:
    """The largest relative error with which it still does for the job, by halving."""
    low, high = 0.0, 1.0
    for _ in range(40):
        middle = (low + high) / 2
        low, high = (middle, high) if ask.judged(Fraction(middle)).good else (low, middle)
    return high


def fixed_with(lathe: Lathe, new: Iterable[int]) -> Fixed:
    """What the lathe lays down, with these new wheels allowed in first place."""
    fixed = lathe.fixed
    return replace(fixed, first=(*fixed.first, *new)) if fixed.first else fixed


def may_take(combination: Combination, idlers: int, hand: Hand | None, lathe: Lathe) -> bool:
    """Whether so many idlers leave the hand right, and there is a stud for each."""
    studs = combination.stages - 1 + idlers
    enough = studs <= lathe.quadrant.studs or (idlers == 0 and combination.stages > 1)
    return enough and advise(combination.stages + idlers, hand, lathe.drive).right


def place_all(
    lines: Iterable[list[Hit]],
    hand: Hand | None,
    lathe: Lathe,
    stock: Stock,
    new: Iterable[int] = (),
    compound_with_idler: int = _COMPOUND_WITH_IDLER,
) -> dict[Combination, Laid]:
    """The roomiest place of every combination that goes on, all laid out together, with as few idlers as will do.

    So many compound trains of a line (its hits) are tried with an idler where nothing else of it goes on.
    """
    lines, fixed, free = list(lines), fixed_with(lathe, new), lathe.free(stock)
    places: dict[Combination, Laid] = {}
    for idlers in range(min(lathe.quadrant.studs, 2) + 1):
        wanted = [
            h.found.combination
            for line in lines
            for rank, h in enumerate(line)
            if h.found.combination.stages == 1
            or idlers == 0
            or (idlers == 1 and rank < compound_with_idler and not any(o.found.combination in places for o in line))
        ]
        to_try = [c for c in dict.fromkeys(wanted) if c not in places and may_take(c, idlers, hand, lathe)]
        arranged = arrange(to_try, idlers, free, lathe.family, lathe.quadrant, fixed)
        places |= {c: laid[0] for c, laid in zip(to_try, arranged, strict=True) if laid and laid[0].fits}
    return places
