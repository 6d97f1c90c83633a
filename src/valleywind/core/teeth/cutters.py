"""Form cutters: which of the set of eight cuts a wheel."""

# Lowest count of each cutter of the set of eight; the last goes on to the rack.
_FIRST_OF_EIGHT = (12, 14, 17, 21, 26, 35, 55, 135)


def range_of_eight(teeth: int) -> tuple[int, int | None]:
    """The range of the cutter that cuts this count, lowest and highest; None for up to a rack.

    A count below twelve is cut by none: it is answered with the lowest range.
    """
    place = max(0, sum(first <= teeth for first in _FIRST_OF_EIGHT) - 1)
    last = _FIRST_OF_EIGHT[place + 1] - 1 if place + 1 < len(_FIRST_OF_EIGHT) else None
    return _FIRST_OF_EIGHT[place], last
