"""A set-up sheet of any machine as one page of A4, or two where there is much to say: black on white, with what is put
on drawn to scale."""

from collections.abc import Sequence

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from valleywind.core.helix.table import View
from valleywind.formats import paper
from valleywind.formats.from_above import from_above
from valleywind.formats.on_paper import Drawn
from valleywind.formats.paper import GREY, MARGIN, WIDTH, Place, text
from valleywind.formats.qr import Mark
from valleywind.wording.sheet import Lines, Sheet

_ACROSS = WIDTH - 2 * MARGIN
# One drawing has verdict and facts beside it where they are few.
_WIDE, _APART = 104.0, 6.0
# Size of type, and height of the drawings, mm, beside text and side by side: on one page if it can be, else with room
# on two.
_BESIDE = ((10.0, 108.0), (9.5, 98.0), (9.0, 90.0), (10.0, 108.0))
_IN_A_ROW = ((8.5, 76.0), (8.0, 66.0), (7.5, 56.0), (8.5, 76.0))


def sheet_pdf(sheet: Sheet, drawn: Sequence[Drawn], mark: Mark) -> bytes:
    """The sheet as a PDF file, with at least one drawing; mark: what leads back to its page."""
    beside = len(drawn) == 1 and sheet.brief
    laid_out, sizes = (_with_one, _BESIDE) if beside else (_with_a_row, _IN_A_ROW)
    return paper.fitted(lambda size, high: laid_out(sheet, drawn, mark, size, high), sizes, paper.BOTTOM)


def _with_one(sheet: Sheet, drawn: Sequence[Drawn], mark: Mark, size: float, high: float) -> tuple[FPDF, float]:
    """The page in this size of type, with a drawing so high, and where it ends."""
    pdf = _begun(sheet, mark, 20)
    top = pdf.get_y() + 2
    _draw(pdf, drawn[0], (MARGIN, top, _WIDE, high))
    bottom = _beside(pdf, sheet, MARGIN + _WIDE + _APART, top)
    pdf.set_y((max(top + high, bottom) if pdf.pages_count == 1 else bottom) + 1)
    _work(pdf, sheet, size)
    return pdf, float(pdf.get_y())


def _with_a_row(sheet: Sheet, drawn: Sequence[Drawn], mark: Mark, size: float, high: float) -> tuple[FPDF, float]:
    """The same with drawings side by side, the facts at the end."""
    pdf = _begun(sheet, mark, 17)
    pdf.set_font("text", "", size + 1)
    text(pdf, f"**{sheet.head}.** {sheet.verdict}", _ACROSS, 4.6)
    top, wide = pdf.get_y() + 1, _ACROSS / max(2, len(drawn))
    for n, one in enumerate(drawn):
        _draw(pdf, one, (MARGIN + n * wide, top, wide - 3, high))
    pdf.set_y(top + high + 1)
    _work(pdf, sheet, size)
    paper.facts(pdf, sheet.facts, size)
    return pdf, float(pdf.get_y())


def _draw(pdf: FPDF, drawn: Drawn, place: Place) -> None:
    if isinstance(drawn, View):
        from_above(pdf, drawn, place)
    else:
        paper.train(pdf, drawn, place)


def _begun(sheet: Sheet, mark: Mark, size: float) -> FPDF:
    """A page with the sheet's head in this size of type."""
    pdf, title = paper.page(f"{sheet.title} on {sheet.machine}", sheet.aid, mark), f"{sheet.title} on {sheet.machine}"
    pdf.set_font("digits", "B", size)
    figure = pdf.get_string_width(sheet.figure) + 4 if sheet.figure else 0.0
    top = pdf.get_y()
    if sheet.figure:
        pdf.set_xy(WIDTH - MARGIN - figure, top)
        pdf.cell(figure, 9, sheet.figure, align="R")
    pdf.set_xy(MARGIN, top)
    pdf.set_font("text", "B", size)
    text(pdf, title, _ACROSS - figure, size * 0.42)
    if sheet.train:
        pdf.set_font("digits", "B", size * 0.75)
        pdf.set_x(MARGIN)
        pdf.multi_cell(_ACROSS, size * 0.36, sheet.train, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_line_width(0.5)
    pdf.line(MARGIN, pdf.get_y() + 0.7, WIDTH - MARGIN, pdf.get_y() + 0.7)
    pdf.ln(1.5)
    return pdf


def _beside(pdf: FPDF, sheet: Sheet, left: float, top: float) -> float:
    """Verdict and facts beside the drawing; the y where they end."""
    width = WIDTH - MARGIN - left
    pdf.set_xy(left, top)
    pdf.set_font("text", "B", 12)
    text(pdf, f"{sheet.head}.", width, 6)
    pdf.set_font("text", "", 10)
    text(pdf, sheet.verdict, width, 5, left)
    pdf.ln(3)
    for fact in sheet.facts:
        pdf.set_x(left)
        pdf.set_font("text", "", 8)
        pdf.set_text_color(GREY)
        pdf.cell(width, 4, fact.label, new_x=XPos.LEFT, new_y=YPos.NEXT)
        pdf.set_text_color(0)
        pdf.set_font("text", "", 10)
        text(pdf, fact.text, width, 5, left)
        pdf.ln(0.8)
    return float(pdf.get_y())


def _work(pdf: FPDF, sheet: Sheet, size: float) -> None:
    """Shafts, steps, and what is checked."""
    for shafts in sheet.shafts:
        pdf.set_font("text", "B", size + 1)
        paper.keep_together(pdf, 6 + size * 0.55 * (len(shafts.rows) + 1))
        pdf.set_x(MARGIN)
        pdf.cell(0, size * 0.55, shafts.title, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        paper.shafts_table(pdf, shafts.rows, size)
        pdf.ln(size * 0.15)
    pdf.set_x(MARGIN)
    paper.steps_list(pdf, sheet.steps, size)
    for lines in (sheet.check, *sheet.after):
        _lines(pdf, lines, size)
    pdf.set_font("text", "", size)
    paper.keep_together(pdf, 7)
    pdf.set_x(MARGIN)
    pdf.cell(0, size * 0.6, "Measured: ____________    Date: ____________", new_x=XPos.LMARGIN, new_y=YPos.NEXT)


def _lines(pdf: FPDF, lines: Lines, size: float) -> None:
    """A title and its sentences as one paragraph."""
    words = " ".join(lines.lines)
    pdf.ln(size * 0.1)
    pdf.set_font("text", "", size)
    paper.keep_together(pdf, size * 0.55 + paper.high(pdf, words, _ACROSS, size * 0.48))
    pdf.set_x(MARGIN)
    pdf.set_font("text", "B", size + 1)
    pdf.cell(0, size * 0.55, lines.title, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_font("text", "", size)
    text(pdf, words, _ACROSS, size * 0.48, MARGIN)
