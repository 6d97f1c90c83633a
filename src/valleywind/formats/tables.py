"""Tables as CSV: the units in their heads, and no cell that a spreadsheet would run."""

import csv
import io
from collections.abc import Iterable, Sequence

# A spreadsheet takes a cell that begins so for a formula; an apostrophe before it makes it a text again.
FORMULA = ("=", "+", "-", "@", "＝", "＋", "－", "＠", "\t", "\r", "\n", "'")


def inert(cell: object) -> str:
    """A cell as a spreadsheet shows it and does not run it. Numbers stay numbers, below nought too."""
    text = str(cell)
    return f"'{text}" if text.startswith(FORMULA) and not isinstance(cell, int | float) else text


def csv_text(head: Sequence[str], rows: Iterable[Sequence[object]]) -> str:
    """A table with its heads."""
    return _written([head]) + csv_rows(rows)


def csv_rows(rows: Iterable[Sequence[object]]) -> str:
    """Further lines of a table."""
    return _written([inert(cell) for cell in row] for row in rows)


def _written(lines: Iterable[Sequence[object]]) -> str:
    out = io.StringIO()
    csv.writer(out).writerows(lines)
    return out.getvalue()
