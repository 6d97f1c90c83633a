"""Pages of A4, and a train drawn to scale on one: black on white."""

import math
from collections.abc import Callable, Sequence
from dataclasses import dataclass

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from valleywind.core.teeth.geometry import tip_radius, tooth_outline
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.model import Train
from valleywind.core.trains.motion import motions
from valleywind.core.trains.placement import Placement
from valleywind.core.trains.quadrant import Carrier, Quadrant
from valleywind.formats.fonts import FONTS
from valleywind.wording.labels import place
from valleywind.wording.lathe.sheet import Fact, ShaftRow, SheetStep
from valleywind.wording.trains import slot_name

WIDTH, HEIGHT, MARGIN = 210.0, 297.0, 14.0
GREY = 90

Point = tuple[float, float]
Place = tuple[float, float, float, float]
"""Left, top, width, height; mm on paper."""


def page(title: str) -> FPDF:
    """A page with our fonts."""
    pdf = FPDF(format="A4")
    pdf.set_auto_page_break(False)
    pdf.set_margins(MARGIN, MARGIN)
    pdf.add_font("text", "", FONTS / "text-regular.ttf")
    pdf.add_font("text", "B", FONTS / "text-bold.ttf")
    pdf.add_font("digits", "B", FONTS / "digits-bold.ttf")
    pdf.set_title(title)
    pdf.add_page()
    return pdf


def text(pdf: FPDF, words: str, width: float, line: float = 5.0, x: float | None = None) -> None:
    """A paragraph; `**` stands round what is strong."""
    if x is not None:
        pdf.set_x(x)
    pdf.multi_cell(width, line, words, markdown=True, new_x=XPos.LEFT, new_y=YPos.NEXT, align="L")


def shafts_table(pdf: FPDF, rows: tuple[ShaftRow, ...], size: float = 10) -> None:
    """Shaft by shaft what goes where."""
    pdf.set_font("text", "", size)
    columns = (30.0, 36.0, 36.0, 80.0)
    with pdf.table(
        col_widths=columns, width=sum(columns), align="LEFT", line_height=size * 0.55, markdown=True, text_align="LEFT",
        borders_layout="HORIZONTAL_LINES",
    ) as table:  # fmt: skip
        for row in [("Shaft", "Inner", "Outer", "Where"), *((r.shaft, r.inner, r.outer, r.where) for r in rows)]:
            table.row(row)


def steps_list(pdf: FPDF, steps: tuple[SheetStep, ...], size: float = 10) -> None:
    """Numbered steps, with their cautions behind a bar."""
    width, line = WIDTH - 2 * MARGIN - 8, size * 0.5
    for n, step in enumerate(steps, 1):
        pdf.set_font("text", "B", size)
        pdf.cell(8, line, str(n))
        pdf.set_font("text", "", size)
        text(pdf, step.text, width, line)
        if step.caution:
            top = pdf.get_y()
            pdf.set_font("text", "B", size - 1)
            text(pdf, step.caution, width - 4, line * 0.92, MARGIN + 12)
            pdf.set_line_width(1)
            pdf.line(MARGIN + 9.5, top + 0.4, MARGIN + 9.5, pdf.get_y() - 0.4)
        pdf.set_xy(MARGIN, pdf.get_y() + size * 0.12)


def paragraph(pdf: FPDF, title: str, lines: Sequence[str], size: float) -> None:
    """A title and its lines as one paragraph."""
    pdf.set_x(MARGIN)
    pdf.set_font("text", "B", size + 1)
    pdf.cell(0, 4.6, title, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
    pdf.set_font("text", "", size)
    text(pdf, " ".join(lines), WIDTH - 2 * MARGIN, size * 0.5, MARGIN)


def facts(pdf: FPDF, rows: Sequence[Fact], size: float) -> None:
    """Figures with their labels, a line each."""
    pdf.ln(1)
    for fact in rows:
        pdf.set_font("text", "", size)
        pdf.set_text_color(GREY)
        pdf.set_x(MARGIN)
        pdf.cell(34, size * 0.5, fact.label)
        pdf.set_text_color(0)
        text(pdf, fact.text, WIDTH - 2 * MARGIN - 34, size * 0.5)


def fitted(
    laid_out: Callable[[float, float], tuple[FPDF, float]],
    sizes: Sequence[tuple[float, float]],
    lowest: float,
    follows: Callable[[FPDF], None] = lambda _: None,
) -> bytes:
    """The page in the largest size of type and drawings with which it ends above `lowest`; in the smallest where it
    never does. `laid_out` gives the page and where it ends; `follows` adds the pages behind it."""
    for size, high in sizes:
        pdf, bottom = laid_out(size, high)
        if bottom <= lowest:
            break
    follows(pdf)
    return bytes(pdf.output())


def foot(pdf: FPDF, aid: str) -> None:
    """What the sheet is, at the bottom of the page."""
    pdf.set_font("text", "", 8)
    pdf.set_text_color(GREY)
    pdf.set_xy(MARGIN, HEIGHT - MARGIN - 4)
    pdf.multi_cell(WIDTH - 2 * MARGIN, 4, aid)
    pdf.set_text_color(0)


@dataclass(frozen=True)
class OnPaper:
    """A train in its place, to be drawn. title: what stands under it before the scale; pitch_known: whether lengths
    mean anything."""

    train: Train
    placement: Placement
    family: WheelFamily
    quadrant: Carrier
    title: str
    pitch_known: bool = True


def train(pdf: FPDF, drawn: OnPaper, box: Place) -> None:
    """The end view in `box` (left, top, width, height; mm on paper), with its scale."""
    wheels, placement, quadrant = drawn.train.wheels, drawn.placement, drawn.quadrant
    centres = placement.centres
    module = float(drawn.family.module)
    extent = [
        (
            centres[w.shaft][0] + s * module * (w.teeth / 2 + 1),
            centres[w.shaft][1] + s * module * (w.teeth / 2 + 1),
        )
        for w in wheels
        for s in (-1, 1)
    ]
    points = [*extent, *(quadrant.cover or ())]
    low, high = (
        (min(p[0] for p in points), min(p[1] for p in points)),
        (max(p[0] for p in points), max(p[1] for p in points)),
    )
    left, top, width, height = box
    ratio = round_scale(max((high[0] - low[0]) / width, (high[1] - low[1]) / (height - 5)))
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
    for wheel, motion in zip(wheels, motions(drawn.train, centres), strict=True):
        outline = tooth_outline(wheel.teeth, drawn.family, 2)[:-1]
        x, y = centres[wheel.shaft]
        around = [
            paper((x + r * math.cos(a), y + r * math.sin(a)))
            for n in range(wheel.teeth)
            for r, a in ((r, motion.phase + 2 * math.pi * n / wheel.teeth + a) for r, a in outline)
        ]
        pdf.set_line_width(0.12 if wheel.plane == 0 else 0.25)
        pdf.polygon(around)
    _labels(pdf, drawn, paper, ratio)
    pdf.set_font("text", "", 8)
    scale = f"1 : {ratio:g}" if drawn.pitch_known else "in proportion"
    view = "end view from the gear side" if isinstance(quadrant, Quadrant) else "wheels in mesh, in a line"
    pdf.text(left, top + height - 1, f"{drawn.title}, {view}, {scale}")


def _labels(pdf: FPDF, drawn: OnPaper, paper: Callable[[Point], Point], ratio: float) -> None:
    """Shafts with their centre lines, and tooth numbers on the wheels."""
    wheels, centres = drawn.train.wheels, drawn.placement.centres
    bosses = drawn.quadrant.boss_radii(drawn.train.shafts)
    pdf.set_line_width(0.2)
    for (x, y), radius in zip(map(paper, centres), (b / ratio for b in bosses), strict=True):
        pdf.set_fill_color(255)
        pdf.circle(x=x, y=y, radius=radius, style="DF")
        pdf.line(x - radius * 1.3, y, x + radius * 1.3, y)
        pdf.line(x, y - radius * 1.3, x, y + radius * 1.3)
    tips = [tip_radius(t, drawn.family) for t in drawn.train.teeth]
    for wheel, label in zip(wheels, place(drawn.train, centres, tips, bosses), strict=True):
        size = max(7.0, min(18.0, label.size / ratio * 4))
        pdf.set_font("digits", "B", size)
        x, y = paper(label.at)
        height, wide = size * 0.25, pdf.get_string_width(str(wheel.teeth))
        pdf.rect(x - wide / 2 - 0.3, y - height / 2 - 0.4, wide + 0.6, height + 0.8, style="F")
        pdf.text(x - wide / 2, y + height / 2, str(wheel.teeth))


def round_scale(least: float) -> float:
    """A scale that a rule reads: the next of 1, 1.5, 2, 2.5, 3, 4, 5 …"""
    steps = (0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 15, 20)
    return next((s for s in steps if s >= least), math.ceil(least))
