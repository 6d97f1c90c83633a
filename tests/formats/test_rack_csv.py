"""Rack files: an exact round trip, errors line by line, formulas that stay texts."""

import csv
import io

import pytest
from hypothesis import given
from hypothesis import strategies as st

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import Condition
from valleywind.formats.rack_csv import COLUMNS, MOST_ROWS, CsvWheel, read, write

FAMILIES, MACHINES = ["Plover's wheels", "=Box"], ["Plover"]
texts = st.text(st.characters(exclude_categories=["Cs", "Cc"]), max_size=30).map(str.strip)
names = st.text(st.characters(exclude_categories=["Cs", "Cc", "Cf", "Zl", "Zp"]), max_size=30).map(str.strip)
tricky = st.sampled_from(["=1+1", "@x", "-3", "'=1", "'", "+", 'a,b"c'])
wheels = st.builds(
    CsvWheel, st.integers(6, 400), st.integers(0, 99), st.sampled_from(["", *FAMILIES]),
    st.sampled_from(["", *MACHINES]), st.sampled_from(Condition), names, names, st.one_of(texts, tricky),
)  # fmt: skip


@given(st.lists(wheels, min_size=1, max_size=12))
def test_what_is_written_is_read_back(rack: list[CsvWheel]) -> None:
    text = write(rack)
    assert [line.wheel for line in read(text.encode("utf-8-sig"), FAMILIES, MACHINES).lines] == rack
    cells = [cell for row in csv.reader(io.StringIO(text, newline="")) for cell in row]
    assert not any(cell.startswith(("=", "+", "-", "@")) for cell in cells)


def test_every_bad_line_says_why_and_the_others_stand() -> None:
    text = "Teeth;family;condition\n40;Plover's wheels;\n4O;;\n0;;worn\n50;Rook's;\n60;;rusty\n12.5;;\n\n45;;worn\n"
    lines = read(text.encode(), FAMILIES, MACHINES).lines
    assert [(n.number, n.refused.field if n.refused else None) for n in lines] == [
        (2, None), (3, "teeth"), (4, "teeth"), (5, "family"), (6, "condition"), (7, "teeth"), (9, None),
    ]  # fmt: skip
    assert lines[0].wheel is not None
    assert (lines[0].wheel.count, lines[0].wheel.condition) == (1, Condition.GOOD)


@pytest.mark.parametrize(
    ("data", "code"),
    [("Zähne".encode("latin-1"), "not_utf8"), (b"", "empty"), (b"wheel,count\n40,1\n", "no_teeth_column"),
     (b"teeth\n" + b"40\n" * (MOST_ROWS + 1), "too_many_rows")],
)  # fmt: skip
def test_a_file_that_is_none_is_refused_whole(data: bytes, code: str) -> None:
    with pytest.raises(Refusal) as caught:
        read(data, FAMILIES, MACHINES)
    assert (caught.value.field, caught.value.code) == ("file", code)


def test_ten_thousand_lines_are_read() -> None:
    data = ",".join(COLUMNS).encode() + b"\n" + b"40,1,,,good,,,\n" * 10_000
    assert len(read(data, FAMILIES, MACHINES).lines) == 10_000


def test_a_quotation_mark_that_is_not_closed_swallows_no_lines() -> None:
    for text in (b'teeth,note\n40,"old\n41,\n42,\n', b'teeth,note\n40,"a\n' + b"41,x\n" * 40 + b'42,"b"\n'):
        with pytest.raises(Refusal, match="unclosed_quote") as refused:
            read(text, [], [])
        assert refused.value.value == 2
    (line,) = read(b'teeth,note\n40,"one ""line""\nand another"\n', [], []).lines
    assert line.wheel is not None
    assert line.wheel.note == 'one "line"\nand another'


def test_a_line_keeps_its_number_behind_one_of_several_lines() -> None:
    lines = read(b'teeth,note\n40,"a\nb"\n4O,\n', [], []).lines
    assert [(line.number, line.refused is None) for line in lines] == [(2, True), (4, False)]


def test_columns_and_cells_are_refused_by_name() -> None:
    with pytest.raises(Refusal, match="heads_alike") as refused:
        read(b"teeth,note,Note\n40,a,b\n", [], [])
    assert refused.value.value == "note"
    (line,) = read(b"teeth,note\n40," + b"x" * 300 + b"\n", [], []).lines
    assert line.refused is not None
    assert (line.refused.field, line.refused.code) == ("note", "too_long")


def test_usual_heads_are_understood_and_the_others_named() -> None:
    table = read("Zähnezahl;Anzahl;Modul;Lagerort;Zustand\n40x2;3;2;Kiste 1;abgenutzt\n".encode(), [], [])
    assert table.unused == ("Modul",)
    (line,) = table.lines
    assert line.wheel is not None
    assert (line.wheel.teeth, line.wheel.count, line.wheel.place) == (40, 6, "Kiste 1")
    assert line.wheel.condition is Condition.WORN
    english = read(b"Teeth,Qty,Location,Module\n57,2,drawer 3,2\n", [], [])
    assert english.unused == ("Module",)
    assert english.lines[0].wheel is not None
    assert (english.lines[0].wheel.count, english.lines[0].wheel.place) == (2, "drawer 3")
