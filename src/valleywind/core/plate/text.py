"""A machine's plate as it is typed: what each line wants, its wheels as they stand, and where the levers are.

Which wheel drives is not known here: `reading` finds that out. A line is read as free text (`20 tpi 30 60`,
`1 20/80-40/60 II B`) or by columns that a heading names once (`tpi, A, B, C, D, box`).
"""

import csv
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from enum import StrEnum

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH

MOST_LINES = 200
MOST_TEXT = 20_000
"""Lines and characters of one plate."""
_MOST_WHEELS = 6
_MOST_LABELS = 4
_LONGEST_LABEL = 12

Groups = tuple[tuple[int, ...], ...]
"""Wheels as they stand; those with a stroke between are one group: `20 80/40 60` is ((20,), (80, 40), (60,))."""


@dataclass(frozen=True)
class TargetGrammar:
    """How the first column of a kind of machine is written.

    leading: what a line may begin with, the longest way first; anywhere: what is known by its unit wherever it stands
    in the line. words: heading words for that column, and the unit each gives to a bare number.
    """

    leading: re.Pattern[str]
    anywhere: re.Pattern[str]
    words: Mapping[str, str]


class Column(StrEnum):
    """What a column holds."""

    TARGET = "target"
    DRIVER = "driver"
    DRIVEN = "driven"
    WHEEL = "wheel"
    IDLER = "idler"
    STEP = "step"
    NOTE = "note"


class Order(StrEnum):
    """Which way the columns run, where a heading says so."""

    FROM_SPINDLE = "from the spindle"
    FROM_SCREW = "from the screw"


@dataclass(frozen=True)
class PlateLine:
    """A line of the plate. number: of the typed text, from 1. target: its pitch, lead or count as typed; unit: what the
    heading says of a bare number, empty where it says nothing. named: drivers and driven wheels, where the heading
    names them. idlers: wheels named as idlers. step: positions of levers and box, in their columns' order."""

    number: int
    text: str
    target: str
    unit: str
    groups: Groups
    idlers: tuple[int, ...] = ()
    named: tuple[tuple[int, ...], tuple[int, ...]] | None = None
    step: tuple[str, ...] = ()


class Trouble(StrEnum):
    """Why a line is not read."""

    NO_TARGET = "no_target"
    NO_WHEELS = "no_wheels"
    TOO_MANY_WHEELS = "too_many_wheels"
    NOT_A_WHEEL = "not_a_wheel"
    TOO_MANY_LABELS = "too_many_labels"


@dataclass(frozen=True)
class UnreadLine:
    """A line of which nothing was taken. part: what could not be read in it."""

    number: int
    text: str
    trouble: Trouble
    part: str = ""


@dataclass(frozen=True)
class PlateText:
    """A plate, read. order: which way its columns run, None where no heading says so. headings: the lines that were
    taken as such."""

    lines: tuple[PlateLine, ...]
    unread: tuple[UnreadLine, ...] = ()
    order: Order | None = None
    headings: tuple[int, ...] = ()


class _Unread(Exception):
    def __init__(self, trouble: Trouble, part: str = "") -> None:
        super().__init__(trouble)
        self.trouble, self.part = trouble, part


_ROLES: dict[str, Column] = {
    **dict.fromkeys(("driver", "drivers", "driving", "drive"), Column.DRIVER),
    **dict.fromkeys(("driven", "follower", "followers"), Column.DRIVEN),
    **dict.fromkeys((*"abcdef", "spindle", "mandrel", "stud", "screw", "leadscrew", "wheels", "wheel", "gears", "gear",
                     "train", "first", "last", "z1", "z2", "z3", "z4", "1st", "2nd", "work", "worm"), Column.WHEEL),
    **dict.fromkeys(("idler", "intermediate", "free"), Column.IDLER),
    **dict.fromkeys(("box", "lever", "levers", "position", "pos", "range", "step", "knob", "handle", "gearbox",
                     "column", "pair"), Column.STEP),
    **dict.fromkeys(("note", "notes", "remark", "remarks", "no", "nr", "line"), Column.NOTE),
}  # fmt: skip
_FROM_SPINDLE = ("spindle", "mandrel", "first", "1st")
_FROM_SCREW = ("screw", "leadscrew", "last")
_NO_WHEEL = ("", "-", "--", "free", "any", "idler", "none", "x", "*", "—", "/")
_SKIPPED = ("and", "with", "to", "on", "by", "any", "none")
_IDLER_WORDS = ("idler", "intermediate")
_VULGAR = "½¼¾⅛⅜⅝⅞⅓⅔"


@dataclass(frozen=True)
class _Heading:
    """Columns as a heading names them. words: what each is called; delimiter: None for spaces."""

    roles: tuple[Column, ...]
    words: tuple[str, ...]
    unit: str
    delimiter: str | None


@dataclass
class _State:
    unit: str = ""
    heading: _Heading | None = None
    order: Order | None = None
    headings: list[int] = field(default_factory=list)


def read_plate_text(text: str, grammar: TargetGrammar) -> PlateText:
    """Every line of a plate. What cannot be read is named line by line.

    Raises Refusal `empty`, `plate_too_long`.
    """
    if not text.strip():
        raise Refusal("empty", "lines", text)
    rows = text.splitlines()
    if len(text) > MOST_TEXT or sum(1 for row in rows if row.strip()) > MOST_LINES:
        raise Refusal("plate_too_long", "lines", len(rows), most=MOST_LINES)
    lines: list[PlateLine] = []
    unread: list[UnreadLine] = []
    state = _State()
    for number, row in enumerate(rows, 1):
        plain = _plain(row)
        if not plain or plain.startswith("#"):
            continue
        if _is_heading(plain, grammar, state):
            state.headings.append(number)
            continue
        try:
            lines.append(_line(number, row.strip(), plain, grammar, state))
        except _Unread as why:
            unread.append(UnreadLine(number, row.strip(), why.trouble, why.part))
    return PlateText(tuple(lines), tuple(unread), state.order, tuple(state.headings))


def _plain(row: str) -> str:
    """The row with ×, dashes and strokes in plain characters; tabs stay, for they part columns."""
    for typed, ours in (("×", " x "), ("–", "-"), ("−", "-"), ("⁄", "/"), ("″", '"'), ("”", '"'), ("“", '"'),
                        ("\u00a0", " "), ("\ufeff", "")):  # fmt: skip
        row = row.replace(typed, ours)
    return row.strip(" \r")


def _delimiter(row: str) -> str | None:
    """What parts the columns of a row: a tab, a semicolon, a bar, or a comma that is no decimal comma; None for
    spaces."""
    for sign in ("\t", ";", "|"):
        if sign in row:
            return sign
    commas = row.count(",")
    decimal = len(re.findall(r"(?<=\d),(?=\d)", row))
    return "," if commas and (commas > decimal or not re.search(r"\s", row.strip())) else None


def _cells(row: str, delimiter: str) -> list[str]:
    return [cell.strip() for cell in next(csv.reader([row.strip().strip("|")], delimiter=delimiter))]


def _is_heading(row: str, grammar: TargetGrammar, state: _State) -> bool:
    """Take a row as a heading where all its words are known as such."""
    lowered = re.sub(r"threads?\s+(?:per|to the)\s+inch|t\.p\.i\.?", "tpi", row.lower())
    lowered = re.sub(r"lead\s*screw", "leadscrew", lowered)
    delimiter = _delimiter(lowered)
    cells = _cells(lowered, delimiter) if delimiter else lowered.split()
    if delimiter is None and re.search(r"\(\s*\w+\s*\)", lowered):
        cells = re.sub(r"\s*\(\s*(\w+)\s*\)", r"(\1)", lowered).split()
    roles: list[Column] = []
    units: list[str] = []
    for cell in cells:
        words = re.findall(r"[^\W_]+", cell)
        unit = [grammar.words[w] for w in words if w in grammar.words]
        role = Column.TARGET if unit else next((_ROLES[w] for w in words if w in _ROLES), None)
        if role is None:
            return False
        units += unit
        roles.append(role)
    if not roles:
        return False
    unit_said = next((u for u in units if u), "")
    if set(roles) == {Column.TARGET}:
        state.unit, state.heading = unit_said, None
        return True
    if roles.count(Column.TARGET) != 1:
        return False
    names = tuple(re.sub(r"[^\w]+", " ", c).strip() for c in cells)
    state.unit = unit_said
    state.heading = _Heading(tuple(roles), names, unit_said, delimiter)
    wheels = [w for w, r in zip(names, roles, strict=True) if r is Column.WHEEL]
    if wheels and wheels[0] in _FROM_SPINDLE:
        state.order = Order.FROM_SPINDLE
    elif wheels and wheels[0] in _FROM_SCREW:
        state.order = Order.FROM_SCREW
    return True


def _line(number: int, text: str, row: str, grammar: TargetGrammar, state: _State) -> PlateLine:
    if state.heading is not None:
        cells = _cells_under(row, state.heading, grammar)
        if cells is not None:
            return _by_columns(number, text, cells, state.heading)
    delimiter = _delimiter(row)
    if delimiter:
        row = " ; ".join(_cells(row, delimiter))
    target, rest = _cut_target(row, grammar)
    groups, idlers, step = _free(rest)
    _check_wheels(groups)
    return PlateLine(number, text, target, state.unit, groups, idlers, None, step)


def _cut_target(row: str, grammar: TargetGrammar) -> tuple[str, str]:
    """What a row wants, and the rest of it."""
    leading, anywhere = grammar.leading.match(row), grammar.anywhere.search(row)
    match = (
        anywhere
        if anywhere and (leading is None or (anywhere.start() > 0 and anywhere.end() > leading.end()))
        else leading
    )
    if match is None or not match[0].strip():
        raise _Unread(Trouble.NO_TARGET)
    return match[0].strip(" ;:="), f"{row[: match.start()]} ; {row[match.end() :]}"


def _cells_under(row: str, heading: _Heading, grammar: TargetGrammar) -> list[str] | None:
    """A row's cells, one for each column; None where it has not as many."""
    delimiter = _delimiter(row) if heading.delimiter is None else heading.delimiter
    if delimiter:
        cells = _cells(row, delimiter)
        cells += [""] * (len(heading.roles) - len(cells))
        return cells if len(cells) == len(heading.roles) else None
    cells = row.split()
    if len(cells) != len(heading.roles) and heading.roles[0] is Column.TARGET:
        match = grammar.leading.match(row)
        if match:
            cells = [match[0].strip(), *row[match.end() :].split()]
    return cells if len(cells) == len(heading.roles) else None


def _by_columns(number: int, text: str, cells: list[str], heading: _Heading) -> PlateLine:
    target, step = "", []
    groups: list[tuple[int, ...]] = []
    idlers: list[int] = []
    named: dict[Column, list[int]] = {Column.DRIVER: [], Column.DRIVEN: []}
    for cell, role in zip(cells, heading.roles, strict=True):
        empty = cell.lower() in _NO_WHEEL
        if role is Column.TARGET:
            target = cell
        elif role is Column.STEP:
            step.append("" if empty else cell[:_LONGEST_LABEL])
        elif role is Column.NOTE or empty:
            continue
        else:
            free, beside, labels = _free(cell)
            if labels:
                raise _Unread(Trouble.NOT_A_WHEEL, cell)
            if role is Column.IDLER:
                idlers += [t for group in free for t in group]
                continue
            groups += free
            idlers += beside
            if role in named:
                named[role] += [t for group in free for t in group]
    if not target:
        raise _Unread(Trouble.NO_TARGET)
    _check_wheels(groups)
    both = tuple(named[Column.DRIVER]), tuple(named[Column.DRIVEN])
    whole = all(both) and sum(map(len, both)) == sum(map(len, groups))
    return PlateLine(
        number, text, target, heading.unit, tuple(groups), tuple(idlers), both if whole else None, tuple(step)
    )


_TOKEN = re.compile(
    rf"(?P<decimal>\d+[.,]\d+)|(?P<times>x\s?\d)(?!\d)|(?P<named>[A-H]\s*[=:]?\s*\d{{2,3}})(?!\d)"
    rf"|(?P<wheels>\d+(?:\s*[/:+]\s*\d+)*)|(?P<word>[^\W\d_][\w{_VULGAR}'.#+]*)"
)


def _free(rest: str) -> tuple[Groups, tuple[int, ...], tuple[str, ...]]:
    """Wheels, idlers and labels of a text without columns."""
    rest = re.sub(r"(?<=\d)\s*[x*]\s*(?=\d{2})", " ; ", rest)
    rest = _wheels_in(rest)
    groups: list[tuple[int, ...]] = []
    idlers: list[int] = []
    labels: list[str] = []
    idler_next = False
    for match in _TOKEN.finditer(rest):
        if match["wheels"]:
            group = tuple(int(t) for t in re.findall(r"\d+", match["wheels"]))
            wrong = next((t for t in group if not FEWEST_TEETH <= t <= MOST_TEETH), None)
            if wrong is not None and re.fullmatch(r"\d+\s*:\s*\d+", match["wheels"]):
                labels.append(match["wheels"].replace(" ", ""))
            elif wrong is not None:
                if len(group) > 1 or not labels:
                    raise _Unread(Trouble.NOT_A_WHEEL, str(wrong))
                # A small number behind the name of a lever is its position: `box 3`.
                labels[-1] = f"{labels[-1]} {wrong}"[:_LONGEST_LABEL]
            elif idler_next:
                idlers += group
            else:
                groups.append(group)
            idler_next = False
        elif match["decimal"]:
            raise _Unread(Trouble.NOT_A_WHEEL, match["decimal"])
        else:
            word = match[0].replace(" ", "")
            idler_next = word.lower() in _IDLER_WORDS
            if not idler_next and word.lower() not in (*_SKIPPED, "free", "x"):
                labels.append(word[:_LONGEST_LABEL])
    if len(groups) == 1 and len(groups[0]) == 1 and idlers:
        # `30 idler 60`: any wheel stands between these two.
        groups, idlers = [groups[0], tuple(idlers[-1:])], idlers[:-1]
    if len(labels) > _MOST_LABELS:
        raise _Unread(Trouble.TOO_MANY_LABELS, " ".join(labels))
    return tuple(groups), tuple(idlers), tuple(labels)


def _wheels_in(rest: str) -> str:
    """`A40 B60`, `A 40 B 60`: without the letters, where they are the first of the alphabet in order."""
    named = re.findall(r"(?<![\w])([A-H])\s*[=:]?\s*(\d{2,3})(?!\d)", rest)
    if len(named) < 2 or "".join(letter for letter, _ in named) != "ABCDEFGH"[: len(named)]:
        return rest
    return re.sub(r"(?<![\w])[A-H]\s*[=:]?\s*(\d{2,3})(?!\d)", r"\1", rest)


def _check_wheels(groups: Sequence[tuple[int, ...]]) -> None:
    count = sum(map(len, groups))
    if count < 2:
        raise _Unread(Trouble.NO_WHEELS)
    if count > _MOST_WHEELS:
        raise _Unread(Trouble.TOO_MANY_WHEELS)
