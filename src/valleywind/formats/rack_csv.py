"""The rack as CSV, out and in: a round trip is exact, and a cell that looks like a formula stays a text."""

import csv
import io
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

from valleywind.core.names import check_name
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import MOST_OF_ONE_COUNT, Condition
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH
from valleywind.core.teeth.sizes import read_shift
from valleywind.formats.tables import FORMULA, csv_text

COLUMNS = ("teeth", "count", "family", "machine", "condition", "material", "place", "note", "shift")
_HEADS = {
    "teeth": "tooth z t zähne zaehne zähnezahl zaehnezahl no.of.teeth number.of.teeth tooth.count",
    "count": "qty quantity number pieces pcs anzahl menge stück stueck stk",
    "family": "set familie satz radsatz",
    "machine": "for maschine",
    "condition": "state zustand",
    "material": "werkstoff",
    "place": "location box drawer shelf ort platz lagerort lagerplatz fach kiste",
    "note": "notes remark remarks comment comments bemerkung bemerkungen notiz",
    "shift": "profile.shift x profilverschiebung",
}  # fmt: skip
"""What columns are called elsewhere, in English and German; a point stands for a space."""
_COLUMN_OF = {
    name.replace(".", " "): column for column in COLUMNS for name in (column, *_HEADS[column].split())
}  # fmt: skip
_CONDITIONS = {
    "gut": "good", "abgenutzt": "worn", "verschlissen": "worn", "ausgebrochen": "chipped", "fraglich": "suspect",
}  # fmt: skip
MOST_ROWS = 20_000
_LONGEST = 200
# Cells may have line breaks in them, but not so many.
_MOST_LINES_OF_A_ROW = 20


@dataclass(frozen=True)
class CsvWheel:
    """One line: a record of like wheels; family and machine by name, empty for none."""

    teeth: int
    count: int
    family: str
    machine: str
    condition: Condition
    material: str
    place: str
    note: str
    shift: float = 0.0


@dataclass(frozen=True)
class CsvLine:
    """A line of a file as it was read: its number, its cells by column, the wheel or what is wrong with it."""

    number: int
    cells: Mapping[str, str]
    wheel: CsvWheel | None
    refused: Refusal | None


def write(wheels: Sequence[CsvWheel]) -> str:
    """The file's text, headings first."""
    return csv_text(COLUMNS, ([getattr(wheel, name) for name in COLUMNS] for wheel in wheels))


@dataclass(frozen=True)
class RackFile:
    """A file as it was read. unused: heads of columns that mean nothing here."""

    lines: tuple[CsvLine, ...]
    unused: tuple[str, ...]


def read(data: bytes, families: Sequence[str], machines: Sequence[str]) -> RackFile:
    """Every line of a file, each with its own error. Only `teeth` must be there; `count` is 1 where it is empty. Usual
    heads in English and German are understood, and `40x2` in a cell of teeth times the count.

    Raises Refusal for the file as a whole: `not_utf8`, `too_many_rows`, `no_teeth_column`, `empty`.
    """
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refusal("not_utf8", "file", None) from None
    lines = _rows(text)
    if not lines or not any(any(cell.strip() for cell in line) for _, line in lines):
        raise Refusal("empty", "file", "")
    heads = [cell.strip() for cell in lines[0][1]]
    head = [_column(cell) for cell in heads]
    if alike := next((name for name in head if name and head.count(name) > 1), None):
        raise Refusal("heads_alike", "file", alike)
    if "teeth" not in head:
        raise Refusal("no_teeth_column", "file", ", ".join(head)[:80], columns=", ".join(COLUMNS))
    if len(lines) - 1 > MOST_ROWS:
        raise Refusal("too_many_rows", "file", len(lines) - 1, most=MOST_ROWS)
    checked = []
    for number, line in lines[1:]:
        cells = {name: _text(cell) for name, cell in zip(head, line, strict=False) if name in COLUMNS}
        if any(cells.values()):
            checked.append(_line(number, cells, families, machines))
    unused = [text for text, name in zip(heads, head, strict=True) if text and name not in COLUMNS]
    return RackFile(tuple(checked), tuple(unused))


def _column(head: str) -> str:
    """The column that a head means; the head itself where it means none."""
    plain = " ".join(head.lower().replace("_", " ").split())
    return _COLUMN_OF.get(plain, plain)


def _rows(text: str) -> list[tuple[int, list[str]]]:
    """Every row with the line of the file in which it begins. A quotation mark that is never closed would swallow all
    that follows: it is refused by its line."""
    reader = csv.reader(io.StringIO(text, newline=None), delimiter=_delimiter(text), strict=True)
    rows, begins = [], 1
    try:
        for row in reader:
            if reader.line_num > begins + _MOST_LINES_OF_A_ROW:
                raise Refusal("unclosed_quote", "file", begins)
            rows.append((begins, row))
            begins = reader.line_num + 1
    except csv.Error:
        raise Refusal("unclosed_quote", "file", begins) from None
    return rows


def _delimiter(text: str) -> str:
    """Comma, or what spreadsheets of other languages write instead."""
    head = text.partition("\n")[0]
    return max((",", ";", "\t"), key=head.count)


def _line(number: int, cells: Mapping[str, str], families: Sequence[str], machines: Sequence[str]) -> CsvLine:
    try:
        teeth, times = _teeth(cells.get("teeth", ""))
        count = times * _whole(cells.get("count", "") or "1", "count", 0, MOST_OF_ONE_COUNT)
        if count > MOST_OF_ONE_COUNT:
            raise Refusal("not_whole", "count", str(count), least=0, most=MOST_OF_ONE_COUNT)
        wheel = CsvWheel(
            teeth,
            count,
            _one_of(cells.get("family", ""), families, "family"),
            _one_of(cells.get("machine", ""), machines, "machine"),
            _condition(cells.get("condition", "")),
            check_name(_short(cells.get("material", ""), "material"), "material"),
            check_name(_short(cells.get("place", ""), "place"), "place"),
            _short(cells.get("note", ""), "note"),
            read_shift(_short(cells.get("shift", ""), "shift")),
        )
    except Refusal as refused:
        return CsvLine(number, cells, None, refused)
    return CsvLine(number, cells, wheel, None)


def _teeth(text: str) -> tuple[int, int]:
    """A tooth number, and how many of it: `40`, `40x2`."""
    number, cross, times = text.replace("×", "x").replace("X", "x").partition("x")
    teeth = _whole(number.strip(), "teeth", FEWEST_TEETH, MOST_TEETH)
    return teeth, _whole(times.strip(), "teeth", 1, MOST_OF_ONE_COUNT) if cross else 1


def _whole(text: str, name: str, least: int, most: int) -> int:
    if not (text.isascii() and text.isdigit()):
        raise Refusal("not_whole", name, text, least=least, most=most)
    value = int(text[:9])
    if not least <= value <= most:
        raise Refusal("not_whole", name, text, least=least, most=most)
    return value


def _one_of(text: str, names: Sequence[str], name: str) -> str:
    if text and text not in names:
        raise Refusal("unknown_name", name, text, known=list(names))
    return text


def _condition(text: str) -> Condition:
    text = _CONDITIONS.get(text.lower(), text.lower())
    if text and text not in set(Condition):
        raise Refusal("unknown_condition", "condition", text)
    return Condition(text or Condition.GOOD)


def _short(text: str, name: str) -> str:
    if len(text) > _LONGEST:
        raise Refusal("too_long", name, text[:20], most=_LONGEST)
    return text


def _text(cell: str) -> str:
    return cell[1:] if cell.startswith("'") and cell[1:].startswith(FORMULA) else cell.strip()
