"""A machine's full set of wheels as its maker listed it, against the wheels that lie there."""

from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class SetComparison:
    """Counts by tooth number. held: as listed and there; missing: listed, not there; double: more of a listed number
    than the list has; foreign: of a number that the list has not."""

    held: dict[int, int]
    missing: dict[int, int]
    double: dict[int, int]
    foreign: dict[int, int]

    @property
    def complete(self) -> bool:
        return not self.missing


def compare(listed: Mapping[int, int], there: Mapping[int, int]) -> SetComparison:
    """The wheels there against the list, both as counts by tooth number."""
    wanted, have = Counter(dict(listed)), Counter(dict(there))
    more = have - wanted
    return SetComparison(
        held=_sorted(wanted & have),
        missing=_sorted(wanted - have),
        double=_sorted(Counter({t: n for t, n in more.items() if wanted[t]})),
        foreign=_sorted(Counter({t: n for t, n in more.items() if not wanted[t]})),
    )


def _sorted(counts: Counter[int]) -> dict[int, int]:
    return {teeth: counts[teeth] for teeth in sorted(counts) if counts[teeth]}
