"""Which tooth is this? From the hole that the pin is in and the gaps that can be counted."""

from dataclasses import dataclass

from valleywind.core.making.places import By, Places
from valleywind.core.refusal import Refusal


@dataclass(frozen=True)
class WhichTooth:
    """teeth: those it may be that the work stands at now, from 0, the likeliest first. sure: only one is left.
    contradicts: hole and gaps cannot both be right; the teeth are then told by the hole alone."""

    teeth: tuple[int, ...]
    sure: bool
    contradicts: bool = False


def find(places: Places, hole: int | None, gaps: int | None) -> WhichTooth:
    """hole: of the crank's pin, counted from the first, 0; or of the spindle's plate; or the gap of a wheel or the mark
    of a disc, from 1. gaps: cut so far in this round. The gap at which the work stands may be cut already or not, so
    that one count means two teeth.

    Raises Refusal: `nothing_to_go_by` (hole), `no_such_hole` (hole), `no_such_count` (gaps).
    """
    if hole is None and gaps is None:
        raise Refusal("nothing_to_go_by", "hole", "")
    divisions = len(places.each)
    if gaps is not None and not 0 <= gaps <= divisions:
        raise Refusal("no_such_count", "gaps", gaps, most=divisions)
    first = 1 if places.by in (By.WHEEL, By.DISC, By.FLATS) else 0
    if hole is not None and places.circle and not first <= hole < places.circle + first:
        raise Refusal("no_such_hole", "hole", hole, least=first, most=places.circle + first - 1)
    by_hole = range(divisions) if hole is None else [n for n in range(divisions) if _hole(places, n) == hole]
    if gaps is None:
        return WhichTooth(tuple(by_hole), len(by_hole) == 1)
    # This many gaps are cut: it stands at the next one, or still at the last of them.
    near = [n for n in (gaps, gaps - 1) if n in by_hole and 0 <= n < divisions]
    return WhichTooth(tuple(near or by_hole), len(near) == 1, not near)


def _hole(places: Places, n: int) -> int:
    place = places.each[n]
    if places.by is By.PINNED:
        return int(place.at * places.circle / 360)
    return place.hole if places.by in (By.CRANK, By.CRANK_AND_PLATE) else int(place.at)
