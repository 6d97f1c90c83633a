"""Labels at true size: for a wheel, a cutter, a box. As many as go on a page of A4, with lines to cut along."""

from collections.abc import Sequence
from dataclasses import dataclass

from fpdf import FPDF

from valleywind.core.interrupt import checkpoint
from valleywind.core.refusal import Refusal
from valleywind.formats.fonts import FONTS

_PAGE, _EDGE = (210.0, 297.0), 10.0
WIDTHS, HEIGHTS = (15.0, 190.0), (8.0, 120.0)
"""From the narrowest to the widest label, mm; from the lowest to the highest."""
MOST = 500
# Room inside a label, mm; its code takes no more than this share of its width, and has free squares all round.
_INSIDE, _CODE_SHARE, _QUIET = 1.5, 0.45, 4
_PT = 25.4 / 72


@dataclass(frozen=True)
class Label:
    """head: what is read from afar, `57`; lines: beneath; code: squares of a QR code, empty for none."""

    head: str
    lines: tuple[str, ...]
    code: Sequence[str] = ()


def labels_pdf(labels: Sequence[Label], width: float, height: float) -> bytes:
    """The labels, each so wide and so high, mm.

    Raises Refusal `label_size` (width, height), `too_many_labels`, `no_labels` (wheels).
    """
    for field, size, (least, most) in (("width", width, WIDTHS), ("height", height, HEIGHTS)):
        if not least <= size <= most:
            raise Refusal("label_size", field, size, least=int(least), most=int(most))
    if not labels:
        raise Refusal("no_labels", "wheels", 0)
    if len(labels) > MOST:
        raise Refusal("too_many_labels", "wheels", len(labels), most=MOST)
    pdf = FPDF(format="A4", unit="mm")
    pdf.set_auto_page_break(False)
    pdf.set_margin(0)
    pdf.c_margin = 0
    pdf.add_font("text", "", FONTS / "text-regular.ttf")
    pdf.add_font("text", "B", FONTS / "text-bold.ttf")
    pdf.set_title("Labels")
    across = int((_PAGE[0] - 2 * _EDGE) / width)
    down = int((_PAGE[1] - 2 * _EDGE) / height)
    for n, label in enumerate(labels):
        checkpoint()
        place = n % (across * down)
        if place == 0:
            pdf.add_page()
        row, column = divmod(place, across)
        _paint(pdf, label, (_EDGE + column * width, _EDGE + row * height, width, height))
    return bytes(pdf.output())


def _paint(pdf: FPDF, label: Label, at: tuple[float, float, float, float]) -> None:
    left, top, width, height = at
    pdf.set_draw_color(160)
    pdf.set_line_width(0.1)
    pdf.rect(left, top, width, height)
    room, high = width - 2 * _INSIDE, height - 2 * _INSIDE
    if label.code:
        side = min(high, room * _CODE_SHARE)
        _code(pdf, label.code, left + width - _INSIDE - side, top + (height - side) / 2, side)
        room -= side + _INSIDE
    lines = len(label.lines)
    head = high * (0.55 if lines else 1.0)
    _line(pdf, label.head, "B", (left + _INSIDE, top + _INSIDE, room, head))
    each = (high - head) / lines if lines else 0.0
    for n, line in enumerate(label.lines):
        _line(pdf, line, "", (left + _INSIDE, top + _INSIDE + head + n * each, room, each))


def _line(pdf: FPDF, text: str, style: str, at: tuple[float, float, float, float]) -> None:
    """One line in the largest type that goes into its place."""
    left, top, width, height = at
    pdf.set_font("text", style, 10)
    wide = pdf.get_string_width(text) or 1.0
    size = min(height * 0.85 / _PT, 10 * width / wide)
    pdf.set_font("text", style, size)
    pdf.set_xy(left, top)
    pdf.cell(width, height, text)


def _code(pdf: FPDF, rows: Sequence[str], left: float, top: float, side: float) -> None:
    square = side / (len(rows) + 2 * _QUIET)
    for y, row in enumerate(rows):
        for x, dark in enumerate(row):
            if dark == "1":
                pdf.rect(left + (x + _QUIET) * square, top + (y + _QUIET) * square, square, square, "F")
