"""The mill's sheet as one page of A4: wheels and table drawn to scale, everything in the order of the work."""

from fpdf import FPDF

from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.machine import Mill
from valleywind.core.helix.plan import LeadCandidate
from valleywind.core.helix.table import Point, View
from valleywind.core.making.mill_setting import MillSetting, view_of
from valleywind.formats import paper
from valleywind.formats.paper import MARGIN, WIDTH, OnPaper, Place, text
from valleywind.wording.helix.sheet import HelixSheet
from valleywind.wording.trains import LEAD_SHAFTS

# Size of type, and height of the drawings side by side, mm: on one page if it can be, else with room on two.
_SIZES = ((8.5, 76.0), (8.0, 66.0), (7.5, 60.0), (8.5, 76.0))


def helix_sheet_pdf(
    sheet: HelixSheet, candidate: LeadCandidate, ask: HelixAsk, mill: Mill, setting: MillSetting
) -> bytes:
    """The page as a PDF file."""
    return paper.fitted(
        lambda size, high: _laid_out(sheet, candidate, ask, mill, setting, size, high), _SIZES, paper.BOTTOM
    )


def _laid_out(
    sheet: HelixSheet,
    candidate: LeadCandidate,
    ask: HelixAsk,
    mill: Mill,
    setting: MillSetting,
    size: float,
    high: float,
) -> tuple[FPDF, float]:
    """The page in this size of type, with drawings so high, and where it ends."""
    pdf = paper.page(f"{sheet.title} on {sheet.machine}", sheet.aid)
    pdf.set_font("text", "B", 17)
    text(pdf, f"{sheet.title} on {sheet.machine}", WIDTH - 2 * MARGIN, 7)
    pdf.set_font("digits", "B", 13)
    text(pdf, f"{sheet.train}   {sheet.pair}", WIDTH - 2 * MARGIN, 6)
    pdf.set_font("text", "", size + 1)
    text(pdf, f"**{sheet.head}.** {sheet.verdict}", WIDTH - 2 * MARGIN, 4.6)
    top, half = pdf.get_y() + 2, (WIDTH - 2 * MARGIN) / 2
    assert mill.box is not None
    drawn = OnPaper(
        candidate.train, candidate.placement, mill.box.family, mill.box.quadrant, LEAD_SHAFTS.carrier.capitalize()
    )
    paper.train(pdf, drawn, (MARGIN, top, half - 4, high))
    if seen := view_of(setting, ask, mill):
        _from_above(pdf, seen, (MARGIN + half, top, half, high))
    pdf.set_y(top + high + 2)
    pdf.set_x(MARGIN)
    paper.shafts_table(pdf, sheet.shafts, size)
    pdf.ln(1.5)
    paper.steps_list(pdf, sheet.steps, size)
    paper.paragraph(pdf, "Check by hand before the cutter touches", sheet.proof, size)
    paper.facts(pdf, sheet.facts, size)
    return pdf, float(pdf.get_y())


def _from_above(pdf: FPDF, seen: View, place: Place) -> None:
    """The table from above, the column on top, in the place (left, top, width, height), with its scale."""
    left, top, width, height = place
    corners = [*seen.table, *seen.begins, *seen.ends, *seen.square]
    xs, low = [x for x, _ in corners], min(y for _, y in corners)
    column = seen.column + _COLUMN
    ratio = paper.round_scale(max((max(xs) - min(xs)) / width, (column - low) / (height - 5)))
    middle = (max(xs) + min(xs)) / 2

    def at(point: Point) -> Point:
        return left + width / 2 + (point[0] - middle) / ratio, top + (column - point[1]) / ratio

    pdf.set_draw_color(120)
    pdf.set_line_width(0.2)
    pdf.set_dash_pattern(2, 1)
    for one in (seen.begins, seen.ends, seen.square):
        if one:
            pdf.polygon([at(p) for p in one])
    pdf.set_dash_pattern()
    pdf.set_draw_color(0)
    pdf.set_line_width(0.3)
    pdf.polygon([at(p) for p in seen.table])
    for one in (seen.work, seen.head, seen.tail, seen.arbor):
        pdf.set_fill_color(255)
        pdf.polygon([at(p) for p in one], style="DF")
    pdf.set_line_width(0.12)
    for line in seen.teeth:
        pdf.polyline([at(p) for p in line])
    pdf.set_fill_color(0)
    pdf.polygon([at(p) for p in seen.cutter], style="DF")
    pdf.set_line_width(0.7)
    half = min(width / 2, 140 / ratio)
    face = at((middle, seen.column))
    pdf.line(face[0] - half, face[1], face[0] + half, face[1])
    pdf.set_line_width(0.2)
    pdf.set_font("text", "", 8)
    pdf.text(face[0] - half, face[1] - 1, "column")
    scale = f"1 : {ratio:g}" if seen.to_scale else "in proportion"
    pdf.text(left, top + height - 1, f"From above, as the operator stands, {scale}")


# Room for the column above its face, mm.
_COLUMN = 60.0
