"""Drawings at true size in mm, y upward: to SVG, DXF and PDF, on one page or tiled over several."""

import math
from collections.abc import Iterable, Sequence
from dataclasses import dataclass
from io import StringIO
from typing import Literal
from xml.sax.saxutils import escape

from fpdf import FPDF

from valleywind.core.interrupt import checkpoint
from valleywind.core.refusal import Refused
from valleywind.formats.fonts import FONTS

Point = tuple[float, float]
Anchor = Literal["start", "middle", "end"]

FINE, PLAIN, BOLD = 0.13, 0.25, 0.5
"""Widths of lines, mm."""

A4 = (210.0, 297.0)
_MARGIN, _OVERLAP = 10.0, 8.0
MOST_SHEETS = 24
"""Sheets that a drawing at true size is tiled over."""
_ALIGN = {"start": "MIDDLE_LEFT", "middle": "MIDDLE_CENTER", "end": "MIDDLE_RIGHT"}
# Height of capital letters as a share of the size of the font.
_CAPITALS = 0.7


@dataclass(frozen=True)
class Path:
    """Straight from point to point; closed back to the first."""

    points: tuple[Point, ...]
    layer: str
    closed: bool = False
    width: float = PLAIN


@dataclass(frozen=True)
class Ring:
    centre: Point
    radius: float
    layer: str
    width: float = PLAIN


@dataclass(frozen=True)
class Label:
    """Text whose middle line runs through `at`; height of its capitals; angle in degrees, anticlockwise."""

    at: Point
    text: str
    height: float
    layer: str = "TEXT"
    anchor: Anchor = "middle"
    angle: float = 0.0


Item = Path | Ring | Label


@dataclass(frozen=True)
class Picture:
    """What is drawn, under a title."""

    title: str
    items: tuple[Item, ...]

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """Left, bottom, right, top; of labels only where they stand."""
        xs, ys = [], []
        for item in self.items:
            points, spread = _extent(item)
            xs += [x + d for x, _ in points for d in (-spread, spread)]
            ys += [y + d for _, y in points for d in (-spread, spread)]
        return min(xs), min(ys), max(xs), max(ys)


def _extent(item: Item) -> tuple[Sequence[Point], float]:
    match item:
        case Path():
            return item.points, 0.0
        case Ring():
            return [item.centre], item.radius
        case Label():
            return [item.at], item.height


def to_svg(picture: Picture, margin: float = 5.0) -> str:
    """The drawing as SVG, one unit a mm."""
    left, bottom, right, top = picture.bounds
    wide, high = right - left + 2 * margin, top - bottom + 2 * margin
    out = StringIO()
    out.write(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.3f}mm" height="{high:.3f}mm" '
        f'viewBox="{left - margin:.3f} {-top - margin:.3f} {wide:.3f} {high:.3f}">\n'
        f"<title>{escape(picture.title)}</title>\n"
    )
    for layer in dict.fromkeys(item.layer for item in picture.items):
        out.write(f'<g id="{escape(layer)}" fill="none" stroke="black" stroke-linejoin="round">\n')
        for item in picture.items:
            if item.layer == layer:
                out.write(_svg(item) + "\n")
        out.write("</g>\n")
    out.write("</svg>\n")
    return out.getvalue()


def _svg(item: Item) -> str:
    match item:
        case Path():
            steps = "L".join(f"{x:.4f} {-y:.4f}" for x, y in item.points)
            return f'<path d="M{steps}{"Z" if item.closed else ""}" stroke-width="{item.width}"/>'
        case Ring():
            x, y = item.centre
            return f'<circle cx="{x:.4f}" cy="{-y:.4f}" r="{item.radius:.4f}" stroke-width="{item.width}"/>'
        case Label():
            x, y = item.at
            turn = f' transform="rotate({-item.angle:.3f} {x:.4f} {-y:.4f})"' if item.angle else ""
            look = f'font-size="{item.height / _CAPITALS:.3f}" font-family="sans-serif" fill="black" stroke="none"'
            place = f'x="{x:.4f}" y="{-y:.4f}" text-anchor="{item.anchor}" dominant-baseline="central"{turn}'
            return f"<text {place} {look}>{escape(item.text)}</text>"


def to_dxf(picture: Picture) -> bytes:
    """The drawing as DXF in mm, one layer for each kind of thing, outlines as closed polylines."""
    # Read when the first such drawing is asked for: it would make every start slower by a quarter of a second.
    from ezdxf import units
    from ezdxf.enums import TextEntityAlignment
    from ezdxf.filemanagement import new

    document = new("R2010", units=units.MM)
    document.header["$INSUNITS"] = units.MM
    document.header["$MEASUREMENT"] = 1
    space = document.modelspace()
    for layer in dict.fromkeys(item.layer for item in picture.items):
        document.layers.add(layer)
    for item in picture.items:
        attributes = {"layer": item.layer}
        match item:
            case Path():
                space.add_lwpolyline(item.points, close=item.closed, dxfattribs=attributes)
            case Ring():
                space.add_circle(item.centre, item.radius, dxfattribs=attributes)
            case Label():
                text = space.add_text(item.text, height=item.height, rotation=item.angle, dxfattribs=attributes)
                text.set_placement(item.at, align=TextEntityAlignment[_ALIGN[item.anchor]])
    out = StringIO()
    document.write(out)
    return out.getvalue().encode()


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
    """The same pages at the end of a document that has our fonts. Raises Refused `too_large_for_paper`."""
    left, bottom, right, top = picture.bounds
    # A line to be measured stands beneath, with the title.
    foot = 16.0
    width, height = paper[0] - 2 * _MARGIN, paper[1] - 2 * _MARGIN - foot
    across = _tiles(right - left, width)
    down = _tiles(top - bottom, height)
    if across * down > MOST_SHEETS:
        raise Refused("too_large_for_paper", "ask", across * down, most=MOST_SHEETS)
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
            size = item.height / _CAPITALS
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
