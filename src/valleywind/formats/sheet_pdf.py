"""The set-up sheet as one page of A4: black on white, with the train drawn to scale."""

import math
from collections.abc import Callable

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.plan import Candidate
from valleywind.core.teeth.geometry import tip_radius, tooth_outline
from valleywind.core.trains.motion import motions
from valleywind.core.trains.quadrant import Quadrant
from valleywind.formats.fonts import FONTS
from valleywind.wording.labels import place
from valleywind.wording.lathe.sheet import Sheet
from valleywind.wording.trains import slot_name

_WIDTH, _HEIGHT, _MARGIN = 210.0, 297.0, 14.0
_DRAWING = 104.0
_GREY, _LIGHT = 90, 235

Point = tuple[float, float]


def sheet_pdf(sheet: Sheet, candidate: Candidate, lathe: Lathe) -> bytes:
    """The page as a PDF file."""
    pdf = FPDF(format="A4")
    pdf.set_auto_page_break(False)
    pdf.set_margins(_MARGIN, _MARGIN)
    pdf.add_font("text", "", FONTS / "text-regular.ttf")
    pdf.add_font("text", "B", FONTS / "text-bold.ttf")
    pdf.add_font("digits", "B", FONTS / "digits-bold.ttf")
    pdf.set_title(f"{sheet.title} on {sheet.machine}")
    pdf.add_page()
    _head(pdf, sheet)
    top = pdf.get_y() + 2
    _drawing(pdf, candidate, lathe, (_MARGIN, top, _DRAWING, _DRAWING))
    bottom = _beside(pdf, sheet, _MARGIN + _DRAWING + 6, top)
    pdf.set_y(max(top + _DRAWING, bottom) + 4)
    _shafts(pdf, sheet)
    _steps(pdf, sheet)
    _proof(pdf, sheet)
    _foot(pdf, sheet)
    return bytes(pdf.output())


def _text(pdf: FPDF, text: str, width: float, line: float = 5.0, x: float | None = None) -> None:
    if x is not None:
        pdf.set_x(x)
    pdf.multi_cell(width, line, text, markdown=True, new_x=XPos.LEFT, new_y=YPos.NEXT, align="L")


def _head(pdf: FPDF, sheet: Sheet) -> None:
    pdf.set_font("text", "B", 20)
    pdf.cell(110, 9, f"{sheet.title} on {sheet.machine}")
    pdf.set_font("digits", "B", 20)
    pdf.cell(_WIDTH - 2 * _MARGIN - 110, 9, str(sheet.figure), align="R", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_font("digits", "B", 15)
    pdf.cell(0, 8, sheet.train, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_line_width(0.5)
    pdf.line(_MARGIN, pdf.get_y() + 1, _WIDTH - _MARGIN, pdf.get_y() + 1)
    pdf.ln(2)


def _beside(pdf: FPDF, sheet: Sheet, left: float, top: float) -> float:
    """Verdict and facts beside the drawing; the y where they end."""
    width = _WIDTH - _MARGIN - left
    pdf.set_xy(left, top)
    pdf.set_font("text", "B", 12)
    _text(pdf, f"{sheet.verdict_head}.", width, 6)
    pdf.set_font("text", "", 10)
    _text(pdf, sheet.verdict, width, 5, left)
    pdf.ln(3)
    for fact in sheet.facts:
        pdf.set_x(left)
        pdf.set_font("text", "", 8)
        pdf.set_text_color(_GREY)
        pdf.cell(width, 4, fact.label, new_x=XPos.LEFT, new_y=YPos.NEXT)
        pdf.set_text_color(0)
        pdf.set_font("text", "", 10)
        _text(pdf, fact.text, width, 5, left)
        pdf.ln(0.8)
    return float(pdf.get_y())


def _shafts(pdf: FPDF, sheet: Sheet) -> None:
    pdf.set_font("text", "B", 11)
    pdf.cell(0, 6, "Shafts, from machine outward", new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_font("text", "", 10)
    columns = (30.0, 36.0, 36.0, 80.0)
    with pdf.table(
        col_widths=columns, width=sum(columns), align="LEFT", line_height=5.5, markdown=True, text_align="LEFT",
        borders_layout="HORIZONTAL_LINES",
    ) as table:  # fmt: skip
        for row in [
            ("Shaft", "Inner", "Outer", "Where"),
            *((r.shaft, r.inner, r.outer, r.where) for r in sheet.shafts),
        ]:
            table.row(row)
    pdf.ln(4)


def _steps(pdf: FPDF, sheet: Sheet) -> None:
    width = _WIDTH - 2 * _MARGIN - 8
    for n, step in enumerate(sheet.steps, 1):
        pdf.set_font("text", "B", 10)
        pdf.cell(8, 5, str(n))
        pdf.set_font("text", "", 10)
        _text(pdf, step.text, width)
        if step.caution:
            top = pdf.get_y()
            pdf.set_font("text", "B", 9)
            _text(pdf, step.caution, width - 4, 4.6, _MARGIN + 12)
            pdf.set_line_width(1)
            pdf.line(_MARGIN + 9.5, top + 0.4, _MARGIN + 9.5, pdf.get_y() - 0.4)
        pdf.set_xy(_MARGIN, pdf.get_y() + 1.2)


def _proof(pdf: FPDF, sheet: Sheet) -> None:
    for title, lines in (("Check before cutting", sheet.proof), ("Picking up", sheet.picking_up)):
        if lines:
            pdf.ln(1)
            pdf.set_font("text", "B", 11)
            pdf.cell(0, 5.5, title, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
            pdf.set_font("text", "", 10)
        for told in lines:
            _text(pdf, told, _WIDTH - 2 * _MARGIN, 4.8, _MARGIN)
    pdf.ln(1)
    pdf.cell(0, 6, "Measured: ____________    Date: ____________", new_x=XPos.LMARGIN, new_y=YPos.NEXT)


def _foot(pdf: FPDF, sheet: Sheet) -> None:
    pdf.set_font("text", "", 8)
    pdf.set_text_color(_GREY)
    pdf.set_xy(_MARGIN, _HEIGHT - _MARGIN - 4)
    pdf.multi_cell(_WIDTH - 2 * _MARGIN, 4, sheet.aid)
    pdf.set_text_color(0)


def _drawing(pdf: FPDF, candidate: Candidate, lathe: Lathe, box: tuple[float, float, float, float]) -> None:
    """The end view in `box` (left, top, width, height; mm on paper), with its scale."""
    train, placement, quadrant = candidate.train, candidate.placement, lathe.quadrant
    centres = placement.centres
    module = float(lathe.family.module)
    extent = [
        (
            centres[w.shaft][0] + s * module * (w.teeth / 2 + 1),
            centres[w.shaft][1] + s * module * (w.teeth / 2 + 1),
        )
        for w in train.wheels
        for s in (-1, 1)
    ]
    points = [*extent, *(quadrant.cover or ())]
    low, high = (
        (min(p[0] for p in points), min(p[1] for p in points)),
        (max(p[0] for p in points), max(p[1] for p in points)),
    )
    left, top, width, height = box
    ratio = _round_scale(max((high[0] - low[0]) / width, (high[1] - low[1]) / (height - 5)))
    centre = ((low[0] + high[0]) / 2, (low[1] + high[1]) / 2)

    def paper(point: Point) -> Point:
        return left + width / 2 + (point[0] - centre[0]) / ratio, top + (height - 5) / 2 - (
            point[1] - centre[1]
        ) / ratio

    pdf.set_line_width(0.2)
    pdf.set_draw_color(120)
    for n, slot in enumerate(quadrant.slots):
        angle = placement.swing + slot.offset
        ends = [paper((r * math.cos(angle), r * math.sin(angle))) for r in (slot.nearest, slot.farthest)]
        pdf.line(*ends[0], *ends[1])
        pdf.set_font("text", "", 7)
        pdf.text(ends[1][0] + 1, ends[1][1] - 1, slot_name(n))
    if quadrant.cover:
        pdf.set_dash_pattern(2, 1)
        pdf.polygon([paper(p) for p in quadrant.cover])
        pdf.set_dash_pattern()
    pdf.set_draw_color(0)
    for wheel, motion in zip(train.wheels, motions(train, centres), strict=True):
        outline = tooth_outline(wheel.teeth, lathe.family, 2)[:-1]
        x, y = centres[wheel.shaft]
        around = [
            paper((x + r * math.cos(a), y + r * math.sin(a)))
            for n in range(wheel.teeth)
            for r, a in ((r, motion.phase + 2 * math.pi * n / wheel.teeth + a) for r, a in outline)
        ]
        pdf.set_line_width(0.12 if wheel.plane == 0 else 0.25)
        pdf.polygon(around)
    _labels(pdf, candidate, lathe, paper, ratio)
    pdf.set_font("text", "", 8)
    scale = f"1 : {ratio:g}" if lathe.pitch_known else "in proportion"
    view = "end view from the gear side" if isinstance(lathe.quadrant, Quadrant) else "wheels in mesh, in a line"
    pdf.text(left, top + height - 1, f"{lathe.name}, {view}, {scale}")


def _labels(pdf: FPDF, candidate: Candidate, lathe: Lathe, paper: Callable[[Point], Point], ratio: float) -> None:
    """Shafts with their centre lines, and tooth numbers on the wheels."""
    train, centres = candidate.train, candidate.placement.centres
    bosses = lathe.quadrant.boss_radii(train.shafts)
    pdf.set_line_width(0.2)
    for (x, y), radius in zip(map(paper, centres), (b / ratio for b in bosses), strict=True):
        pdf.set_fill_color(255)
        pdf.circle(x=x, y=y, radius=radius, style="DF")
        pdf.line(x - radius * 1.3, y, x + radius * 1.3, y)
        pdf.line(x, y - radius * 1.3, x, y + radius * 1.3)
    tips = [tip_radius(t, lathe.family) for t in train.teeth]
    for wheel, label in zip(train.wheels, place(train, centres, tips, bosses), strict=True):
        size = max(7.0, min(18.0, label.size / ratio * 4))
        pdf.set_font("digits", "B", size)
        x, y = paper(label.at)
        height, wide = size * 0.25, pdf.get_string_width(str(wheel.teeth))
        pdf.rect(x - wide / 2 - 0.3, y - height / 2 - 0.4, wide + 0.6, height + 0.8, style="F")
        pdf.text(x - wide / 2, y + height / 2, str(wheel.teeth))


def _round_scale(least: float) -> float:
    """A scale that a rule reads: the next of 1, 1.5, 2, 2.5, 3, 4, 5 …"""
    steps = (0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 15, 20)
    return next((s for s in steps if s >= least), math.ceil(least))
