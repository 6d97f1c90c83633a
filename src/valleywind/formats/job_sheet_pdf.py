"""A job on one page of A4: the figures, every step with its place for what is found, the side view to scale; then the
drawing of the wheel."""

from collections.abc import Sequence
from contextlib import suppress

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from valleywind.core.making.job import Job, Step
from valleywind.core.making.side_view import SideView
from valleywind.core.refusal import Refusal
from valleywind.formats import paper
from valleywind.formats.paper import MARGIN, WIDTH, Place, text
from valleywind.formats.pictures import wheel_picture
from valleywind.formats.qr import Mark
from valleywind.formats.vector_pdf import add_sheets
from valleywind.wording.making.steps import StepText
from valleywind.wording.sheet import AID

_SIZES = ((8.5, 46.0), (8.0, 40.0), (9.0, 52.0))


def job_sheet_pdf(
    title: str,
    figures: Sequence[tuple[str, str]],
    steps: Sequence[tuple[Step, StepText]],
    job: Job,
    school: str,
    mark: Mark,
) -> bytes:
    """The page as a PDF file, and behind it the drawing of the wheel at true size, where it is a straight one that goes
    on paper."""

    def drawing(pdf: FPDF) -> None:
        if job.helix is None:
            with suppress(Refusal):
                add_sheets(pdf, wheel_picture(job.sizes, title))

    return paper.fitted(
        lambda size, high: _lay_out(title, figures, steps, job, school, mark, size, high), _SIZES, paper.BOTTOM,
        drawing,
    )  # fmt: skip


def _lay_out(
    title: str, figures: Sequence[tuple[str, str]], steps: Sequence[tuple[Step, StepText]], job: Job, school: str,
    mark: Mark, size: float, high: float,
) -> tuple[FPDF, float]:  # fmt: skip
    pdf = paper.page(title, AID, mark)
    pdf.set_font("text", "B", 17)
    text(pdf, title, WIDTH - 2 * MARGIN, 7)
    pdf.set_font("text", "", size + 1)
    text(pdf, f"{school}, of {job.stuff}", WIDTH - 2 * MARGIN, 5)
    top, view = pdf.get_y() + 1, job.side
    half = (WIDTH - 2 * MARGIN) / 2
    paper.label_rows(pdf, figures, (half - 2) if view else 2 * half, size)
    bottom = pdf.get_y()
    if view is not None:
        _side(pdf, view, (MARGIN + half, top, half, high))
        bottom = max(bottom, top + high)
    pdf.set_y(bottom + 2)
    for n, (step, words) in enumerate(steps, 1):
        _step(pdf, n, step, words, job, size)
    return pdf, float(pdf.get_y())


def _step(pdf: FPDF, n: int, step: Step, words: StepText, job: Job, size: float) -> None:
    """What to do on the left, the figure and a line for what is found on the right."""
    line, right = size * 0.48, 56.0
    pdf.set_font("text", "", size)
    tall = paper.high(pdf, f"**{words.title}.** {words.do}", WIDTH - 2 * MARGIN - right - 9, line)
    if words.caution:
        tall += paper.high(pdf, words.caution, WIDTH - 2 * MARGIN - right - 13, line * 0.95)
    paper.keep_together(pdf, max(tall, 2.2 * line))
    top = pdf.get_y()
    pdf.set_font("text", "B", size)
    pdf.set_xy(MARGIN, top)
    pdf.cell(7, line, str(n))
    pdf.set_font("text", "", size)
    text(pdf, f"**{words.title}.** {words.do}", WIDTH - 2 * MARGIN - right - 9, line)
    if words.caution:
        pdf.set_font("text", "B", size - 1)
        text(pdf, words.caution, WIDTH - 2 * MARGIN - right - 13, line * 0.95, MARGIN + 11)
    low = pdf.get_y()
    figure = job.figures.get(step.code)
    pdf.set_xy(WIDTH - MARGIN - right, top)
    pdf.set_font("text", "", size)
    pdf.cell(right, line, words.figure or "", align="R", new_x=XPos.LEFT, new_y=YPos.NEXT)
    if step.asks is not None:
        pdf.set_x(WIDTH - MARGIN - right)
        entry = f"found: {figure:.3f} mm" if figure is not None else "found: ____________"
        pdf.cell(right, line, entry, align="R", new_x=XPos.LEFT, new_y=YPos.NEXT)
    else:
        pdf.rect(WIDTH - MARGIN - 4, top + (line if words.figure else 0) + 0.4, 3, 3)
    pdf.set_xy(MARGIN, max(low, pdf.get_y(), top + line) + size * 0.1)


def _side(pdf: FPDF, view: SideView, place: Place) -> None:
    """Blank, jaws, cutter at the end of its cut, the collar: from the side, to scale."""
    left, top, width, height = place
    reach = view.past + view.cutter / 2
    low, high = -max(view.jaw_radius, view.radius, view.centre or 0), view.axis + view.cutter / 2
    far = min(-reach, view.jaw_face - _JAW) - 2
    near = view.face + max(view.nut, view.past) + 4
    ratio = paper.round_scale(max((near - far) / width, (high - low) / (height - 5)))

    def at(x: float, y: float) -> tuple[float, float]:
        return left + (x - far) / ratio, top + (high - y) / ratio

    def block(x1: float, y1: float, x2: float, y2: float) -> None:
        (a, b), (c, d) = at(x1, y2), at(x2, y1)
        pdf.rect(a, b, c - a, d - b)

    pdf.set_line_width(0.3)
    block(0, -view.radius, view.face, view.radius)
    pdf.set_line_width(0.2)
    block(view.jaw_face - _JAW, -view.jaw_radius, view.jaw_face, view.jaw_radius)
    if view.mandrel:
        block(view.jaw_face, -view.mandrel, view.face + view.nut, view.mandrel)
    if view.nut:
        block(view.face, -view.nut_radius, view.face + view.nut, view.nut_radius)
    if view.centre is not None:
        pdf.line(*at(far, -view.centre), *at(near, -view.centre))
    x, y = at(-view.past, view.axis)
    for across in (view.cutter, view.collar):
        pdf.circle(x=x, y=y, radius=across / 2 / ratio)
    pdf.set_dash_pattern(2, 1)
    pdf.line(*at(0, view.radius - view.depth), *at(view.face, view.radius - view.depth))
    pdf.line(*at(far, 0), *at(near, 0))
    pdf.line(*at(-view.past, view.axis), *at(view.face + view.past, view.axis))
    pdf.set_dash_pattern()
    pdf.set_font("text", "", 8)
    pdf.text(left, top + height - 1, f"From the side, the cut done, 1 : {ratio:g}")


# How thick jaws are drawn, mm.
_JAW = 14.0
