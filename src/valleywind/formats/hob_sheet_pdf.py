"""The hobber's set-up sheet as one page of A4: every box drawn, shaft by shaft, with the work in order."""

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from valleywind.core.hobbing.machine import Hobber
from valleywind.core.hobbing.set_up import SetUp
from valleywind.formats import paper
from valleywind.formats.paper import MARGIN, WIDTH, OnPaper, text
from valleywind.wording.hobbing.sheet import HobSheet
from valleywind.wording.trains import BOXES

# Size of type, and of the drawings that stand side by side, mm: on one page if it can be, else with room on two.
_SIZES = ((8.0, 66.0), (8.5, 70.0))


def hob_sheet_pdf(sheet: HobSheet, set_up: SetUp, machine: Hobber) -> bytes:
    """The page as a PDF file."""
    return paper.fitted(lambda size, high: _laid_out(sheet, set_up, machine, size, high), _SIZES, paper.BOTTOM)


def _laid_out(sheet: HobSheet, set_up: SetUp, machine: Hobber, size: float, high: float) -> tuple[FPDF, float]:
    """The page in this size of type, with drawings so high, and where it ends."""
    pdf = paper.page(f"{sheet.title} on {sheet.machine}", sheet.aid)
    pdf.set_font("text", "B", 17)
    text(pdf, f"{sheet.title} on {sheet.machine}", WIDTH - 2 * MARGIN, 7)
    pdf.set_font("text", "B", 11)
    text(pdf, f"{sheet.head}.", WIDTH - 2 * MARGIN, 5.5)
    pdf.set_font("text", "", size + 1)
    text(pdf, sheet.verdict, WIDTH - 2 * MARGIN, 4.6)
    top = pdf.get_y() + 2
    width = min(high, (WIDTH - 2 * MARGIN) / len(set_up.boxed))
    for n, (box, part) in enumerate(set_up.boxed):
        gearbox = machine.boxes[box]
        drawn = OnPaper(part.train, part.placement, gearbox.family, gearbox.quadrant, BOXES[box].capitalize())
        paper.train(pdf, drawn, (MARGIN + n * width, top, width - 2, high))
    pdf.set_y(top + high + 2)
    for one in sheet.boxes:
        pdf.set_font("text", "B", size + 1)
        paper.keep_together(pdf, 5 + size * 0.55 * (len(one.shafts) + 1))
        pdf.set_x(MARGIN)
        pdf.cell(0, 5, f"{one.name}: {one.train} ({one.note})", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        paper.shafts_table(pdf, one.shafts, size)
        pdf.ln(1)
    pdf.set_x(MARGIN)
    paper.steps_list(pdf, sheet.steps, size)
    for title, lines in (("Check before cutting", sheet.proof), ("After cutting", sheet.after)):
        paper.paragraph(pdf, title, lines, size)
    paper.facts(pdf, sheet.facts, size)
    return pdf, float(pdf.get_y())
