"""The chart of counts and what is worth making, in words."""

from collections.abc import Sequence

from valleywind.core.hobbing.chart import CountStanding, Row
from valleywind.core.units import spell
from valleywind.wording.hobbing.answers import constant_text
from valleywind.wording.numbers import Units, a, count, fixed, length, listed
from valleywind.wording.trains import train_text

STANDINGS = {
    CountStanding.EXACT: "exact",
    CountStanding.OTHER_PAIR: "exact with another reversing pair",
    CountStanding.MADE_UP: "by the differential",
    CountStanding.NO_ROOM: "no room",
    CountStanding.NEEDS_WHEEL: "needs a wheel",
    CountStanding.NOTHING: "nothing",
}
# Counts named for one wheel.
_MOST_NAMED = 16


def train(row: Row) -> str:
    return train_text(row.laid.train) if row.laid else ""


def constant(row: Row) -> str:
    return spell(row.constant.constant) if row.constant else ""


def note(row: Row, units: Units) -> str:
    """What else there is to a line."""
    match row.standing:
        case CountStanding.MADE_UP if row.way is not None:
            exact = "no run-off" if row.way.error == 0 else "with run-off"
            return (
                f"indexed as {fixed(row.way.indexed, 4)}; differential {train_text(row.way.differential.train)}, "
                f"feed {train_text(row.way.feed_laid.train)} ({length(row.way.feed, units, 2)}); {exact}"
            )
        case CountStanding.NEEDS_WHEEL if row.new is not None:
            return f"with {a(row.new)}, which is not held"
        case CountStanding.OTHER_PAIR if row.constant is not None:
            return constant_text(row.constant)
        case CountStanding.NO_ROOM:
            return "an exact train is held, but none fits"
        case CountStanding.NOTHING:
            return "no exact train with one wheel more"
        case _:
            return ""


def csv_head(units: Units) -> list[str]:
    return ["Teeth", "Standing", "Index constant", "Index train", f"Note ({units.value})"]


def csv_row(row: Row, units: Units) -> list[str]:
    return [str(row.teeth), STANDINGS[row.standing], constant(row), train(row), note(row, units)]


def brings(teeth: int, counts: Sequence[int]) -> str:
    """`A 43 brings 43, 86, 129 and 172.`"""
    named = [str(c) for c in counts[:_MOST_NAMED]]
    more = len(counts) - len(named)
    return f"{a(teeth).capitalize()} brings {listed([*named, f'{more} more'] if more else named)}."


def advice_head(lacking: int) -> str:
    if not lacking:
        return "Every count has an exact index train."
    return f"{count(lacking, 'count')} without an exact index train."
