"""A line of a plate as it would stand with one change, in the words it was typed in."""

import re
from collections.abc import Callable, Iterator, Sequence
from itertools import product

from valleywind.core.plate.consensus import Point
from valleywind.core.plate.misreadings import Misreading, MisreadPart


def restated(row: str, target: str, change: Misreading, read: Callable[[str], Point | None]) -> str:
    """The row with the change in it; empty where it cannot be told where in the row it belongs.

    target: what the row wants, as typed in it; read: what a row says.
    """
    for typed in _ways(row, target, change):
        point = read(typed)
        right = change.right
        if point is not None and (point.train, point.target.per, point.step) == (
            right.train,
            right.target.per,
            right.step,
        ):
            return typed
    return ""


def _ways(row: str, target: str, change: Misreading) -> Iterator[str]:
    if change.changed is MisreadPart.WHEEL:
        for at in _places(row, change.was):
            yield _put(row, [(at, change.was, change.now)])
    elif change.changed is MisreadPart.EXCHANGED:
        for one, other in product(_places(row, change.was), _places(row, change.now)):
            yield _put(row, [(one, change.was, change.now), (other, change.now, change.was)])
    elif change.changed is MisreadPart.TARGET:
        at = row.find(target)
        figure = re.match(r"\D*?([\d.,]+)", target)
        if at >= 0 and figure:
            now = re.search(r"[\d.]+", change.now)
            if now:
                yield _put(row, [(at + figure.start(1), figure[1], now[0])])
            yield _put(row, [(at, target, change.now)])
    else:
        yield from _moved(row, change.was.split(), change.now.split())


def _moved(row: str, was: Sequence[str], now: Sequence[str]) -> Iterator[str]:
    if len(was) != len(now):
        return
    for one, other in zip(was, now, strict=True):
        if one != other:
            places = [m.start() for m in re.finditer(rf"(?<!\w){re.escape(one)}(?!\w)", row)]
            if not places:
                return
            row = _put(row, [(places[-1], one, other)])
    yield row


def _places(row: str, number: str) -> list[int]:
    return [m.start() for m in re.finditer(rf"(?<![\d.,]){re.escape(number)}(?!\d)", row)]


def _put(row: str, changes: Sequence[tuple[int, str, str]]) -> str:
    for at, was, now in sorted(changes, reverse=True):
        row = row[:at] + now + row[at + len(was) :]
    return row
