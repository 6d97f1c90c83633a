"""The set-up sheet as one page of A4: black on white, with the train drawn to scale."""

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.plan import Candidate
from valleywind.formats import paper
from valleywind.formats.paper import GREY, MARGIN, WIDTH, OnPaper, text
from valleywind.wording.lathe.sheet import Sheet

_WIDE = 104.0
# Size of type, and height of the drawing, mm: on one page if it can be, else with room on two.
_SIZES = ((10.0, 108.0), (9.5, 98.0), (9.0, 90.0), (10.0, 108.0))


def sheet_pdf(sheet: Sheet, candidate: Candidate, lathe: Lathe) -> bytes:
    """The sheet as a PDF file: a page, or two where there is much to say."""
    return paper.fitted(lambda size, high: _laid_out(sheet, candidate, lathe, size, high), _SIZES, paper.BOTTOM)


def _laid_out(sheet: Sheet, candidate: Candidate, lathe: Lathe, size: float, high: float) -> tuple[FPDF, float]:
    """The page in this size of type, with a drawing so high, and where it ends."""
    pdf = paper.page(f"{sheet.title} on {sheet.machine}", sheet.aid)
    _head(pdf, sheet)
    top = pdf.get_y() + 2
    drawn = OnPaper(candidate.train, candidate.placement, lathe.family, lathe.quadrant, lathe.name, lathe.pitch_known)
    paper.train(pdf, drawn, (MARGIN, top, _WIDE, high))
    bottom = _beside(pdf, sheet, MARGIN + _WIDE + 6, top)
    pdf.set_y((max(top + high, bottom) if pdf.pages_count == 1 else bottom) + 1)
    pdf.set_font("text", "B", 11)
    pdf.cell(0, 6, "Shafts, from machine outward", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    paper.shafts_table(pdf, sheet.shafts, size)
    pdf.ln(3)
    paper.steps_list(pdf, sheet.steps, size)
    _proof(pdf, sheet, size)
    return pdf, float(pdf.get_y())


def _head(pdf: FPDF, sheet: Sheet) -> None:
    wide = WIDTH - 2 * MARGIN
    pdf.set_font("digits", "B", 20)
    figure = pdf.get_string_width(str(sheet.figure)) + 4
    top = pdf.get_y()
    pdf.set_xy(WIDTH - MARGIN - figure, top)
    pdf.cell(figure, 9, str(sheet.figure), align="R")
    pdf.set_xy(MARGIN, top)
    pdf.set_font("text", "B", 20)
    text(pdf, f"{sheet.title} on {sheet.machine}", wide - figure - 4, 9)
    pdf.set_font("digits", "B", 15)
    pdf.set_x(MARGIN)
    pdf.multi_cell(wide, 8, sheet.train, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_line_width(0.5)
    pdf.line(MARGIN, pdf.get_y() + 1, WIDTH - MARGIN, pdf.get_y() + 1)
    pdf.ln(2)


def _beside(pdf: FPDF, sheet: Sheet, left: float, top: float) -> float:
    """Verdict and facts beside the drawing; the y where they end."""
    width = WIDTH - MARGIN - left
    pdf.set_xy(left, top)
    pdf.set_font("text", "B", 12)
    text(pdf, f"{sheet.verdict_head}.", width, 6)
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


def _proof(pdf: FPDF, sheet: Sheet, size: float) -> None:
    line = size * 0.48
    for title, lines in (("Check before cutting", sheet.proof), ("Picking up", sheet.picking_up)):
        if lines:
            pdf.ln(1)
            pdf.set_font("text", "", size)
            paper.keep_together(pdf, 5.5 + paper.high(pdf, lines[0], WIDTH - 2 * MARGIN, line))
            pdf.set_font("text", "B", size + 1)
            pdf.cell(0, 5.5, title, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
            pdf.set_font("text", "", size)
        for words in lines:
            text(pdf, words, WIDTH - 2 * MARGIN, line, MARGIN)
    paper.keep_together(pdf, 7)
    pdf.ln(1)
    pdf.set_x(MARGIN)
    pdf.cell(0, 6, "Measured: ____________    Date: ____________", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
