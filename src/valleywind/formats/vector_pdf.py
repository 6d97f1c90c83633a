"""Drawings at true size on paper: on one page, or tiled over several."""

import math
from collections.abc import Iterable, Sequence

from fpdf import FPDF

from valleywind.core.interrupt import checkpoint
from valleywind.core.refusal import Refusal
from valleywind.formats.fonts import FONTS
from valleywind.formats.vector import CAPITALS, FINE, PLAIN, Item, Label, Path, Picture, Point, Ring

A4 = (210.0, 297.0)
_MARGIN, _OVERLAP = 10.0, 8.0
MOST_SHEETS = 24
"""Sheets that a drawing at true size is tiled over."""


def to_pdf(picture: Picture, paper: Point = A4, table: Iterable[tuple[str, str]] = ()) -> bytes:
    """The drawing at true size: on one page where it goes, else tiled over several that overlap, with a check line on
    the first to be measured after printing. table: labels and figures that follow on a page of their own."""
    pdf = FPDF(format=paper, unit="mm")
    pdf.set_auto_page_break(False)
    pdf.add_font("text", "", FONTS / "text-regular.ttf")
    pdf.add_font("text", "B", FONTS / "text-bold.ttf")
    pdf.set_title(picture.title)
    add_sheets(pdf, picture, paper)
    rows = list(table)
    if rows:
        _table(pdf, picture.title, rows)
    return bytes(pdf.output())


def add_sheets(pdf: FPDF, picture: Picture, paper: Point = A4) -> None:
    """The same pages at the end of a document that has our fonts. Raises Refusal `too_large_for_paper`."""
    left, bottom, right, top = picture.bounds
    # A line to be measured stands beneath, with the title.
    foot = 16.0
    width, height = paper[0] - 2 * _MARGIN, paper[1] - 2 * _MARGIN - foot
    across = _tiles(right - left, width)
    down = _tiles(top - bottom, height)
    if across * down > MOST_SHEETS:
        raise Refusal("too_large_for_paper", "ask", across * down, most=MOST_SHEETS)
    for row in range(down):
        for column in range(across):
            pdf.add_page()
            if across == down == 1:
                x0, y0 = _MARGIN + (width - right + left) / 2 - left, _MARGIN + top
            else:
                x0 = _MARGIN - left - column * (width - _OVERLAP)
                y0 = _MARGIN + top - row * (height - _OVERLAP)
            with pdf.rect_clip(_MARGIN, _MARGIN, width, height):
                for item in picture.items:
                    checkpoint()
                    _paint(pdf, item, x0, y0)
            _foot(pdf, picture.title, paper, (row, column), (down, across))


def _tiles(length: float, page: float) -> int:
    return 1 if length <= page else math.ceil((length - _OVERLAP) / (page - _OVERLAP))


def _paint(pdf: FPDF, item: Item, x0: float, y0: float) -> None:
    match item:
        case Path():
            pdf.set_line_width(item.width)
            pdf.polyline([(x0 + x, y0 - y) for x, y in item.points], polygon=item.closed)
        case Ring():
            pdf.set_line_width(item.width)
            x, y = item.centre
            pdf.circle(x0 + x, y0 - y, item.radius)
        case Label():
            size = item.height / CAPITALS
            pdf.set_font("text", "", size * 72 / 25.4)
            x, y = x0 + item.at[0], y0 - item.at[1]
            wide = pdf.get_string_width(item.text)
            shift = {"start": 0.0, "middle": wide / 2, "end": wide}[item.anchor]
            with pdf.rotation(item.angle, x, y):
                pdf.text(x - shift, y + item.height / 2, item.text)


def _foot(pdf: FPDF, title: str, paper: Point, tile: tuple[int, int], tiles: tuple[int, int]) -> None:
    """Title, which tile this is with its cut lines, and 100 mm to measure."""
    y = paper[1] - _MARGIN - 4
    pdf.set_line_width(PLAIN)
    pdf.line(_MARGIN, y, _MARGIN + 100, y)
    for x in (0, 50, 100):
        pdf.line(_MARGIN + x, y - 2, _MARGIN + x, y + 2)
    pdf.set_font("text", "", 9)
    pdf.text(_MARGIN + 103, y + 1, "100 mm: measure it; print again at 100 % where it is not")
    pdf.set_font("text", "B", 11)
    many = tiles != (1, 1)
    of = f"{title}   sheet {tile[0] + 1}.{tile[1] + 1} of {tiles[0]}.{tiles[1]}" if many else title
    pdf.text(_MARGIN, y - 4, of)
    if many:
        width, height = paper[0] - 2 * _MARGIN, paper[1] - 2 * _MARGIN - 16
        pdf.set_line_width(FINE)
        pdf.rect(_MARGIN, _MARGIN, width, height)
        if tile[1]:
            pdf.line(_MARGIN + _OVERLAP, _MARGIN, _MARGIN + _OVERLAP, _MARGIN + height)
        if tile[0]:
            pdf.line(_MARGIN, _MARGIN + _OVERLAP, _MARGIN + width, _MARGIN + _OVERLAP)


def _table(pdf: FPDF, title: str, rows: Sequence[tuple[str, str]]) -> None:
    pdf.add_page()
    pdf.set_xy(_MARGIN, _MARGIN)
    pdf.set_font("text", "B", 16)
    pdf.cell(0, 10, title)
    y = _MARGIN + 14
    pdf.set_line_width(FINE)
    for label, value in rows:
        pdf.set_xy(_MARGIN, y)
        pdf.set_font("text", "", 11)
        pdf.cell(70, 7, label)
        pdf.set_font("text", "B", 11)
        pdf.set_xy(_MARGIN + 70, y)
        pdf.multi_cell(0, 7, value, align="L")
        y = pdf.get_y() + 1
        pdf.line(_MARGIN, y - 0.5, pdf.w - _MARGIN, y - 0.5)
