"""Pages of A4, and a train drawn to scale on one: black on white.

What does not fit on a page goes on on the next; the foot stands on each.
"""

import math
from collections.abc import Callable, Sequence

from fpdf import FPDF
from fpdf.enums import XPos, YPos

from valleywind.core.teeth.geometry import tip_radius, tooth_outline
from valleywind.core.trains.motion import motions
from valleywind.core.trains.quadrant import Quadrant
from valleywind.formats.fonts import FONTS
from valleywind.formats.on_paper import OnPaper
from valleywind.formats.qr import Mark
from valleywind.wording.labels import place
from valleywind.wording.sheet import NUMBER, Fact, ShaftRow, SheetStep
from valleywind.wording.trains import slot_name

WIDTH, HEIGHT, MARGIN = 210.0, 297.0, 14.0
GREY = 90

Point = tuple[float, float]
Place = tuple[float, float, float, float]
"""Left, top, width, height; mm on paper."""


_FOOT = 10.0
# The code stands in the margin at the foot, with the free squares that it needs.
_CODE, _QUIET = 17.0, 4
BOTTOM = HEIGHT - MARGIN - _FOOT
"""Where the foot begins, mm from the top."""


class Paper(FPDF):
    """Pages whose foot says what the sheet is."""

    aid, mark = "", Mark()

    def footer(self) -> None:
        room = WIDTH - 2 * MARGIN - (_CODE if self.mark.code else 0.0)
        self.set_font("text", "", 8)
        self.set_text_color(GREY)
        self.set_xy(MARGIN, BOTTOM + 1)
        if self.aid:
            self.multi_cell(room, 3.8, self.aid, new_x=XPos.LMARGIN, new_y=YPos.NEXT)
        if self.mark.number is not None:
            self.cell(room, 3.8, NUMBER.format(number=self.mark.number))
        self.set_text_color(0)
        self._code()

    def _code(self) -> None:
        rows = self.mark.code
        if not rows:
            return
        square = _CODE / (len(rows) + 2 * _QUIET)
        left, top = WIDTH - MARGIN - _CODE + _QUIET * square, BOTTOM + 1 + _QUIET * square
        for y, row in enumerate(rows):
            for x, dark in enumerate(row):
                if dark == "1":
                    self.rect(left + x * square, top + y * square, square, square, "F")


def page(title: str, aid: str = "", mark: Mark = Mark()) -> Paper:
    """A page with our fonts. aid, mark: what stands at the foot of this and every page that follows."""
    pdf = Paper(format="A4")
    pdf.aid, pdf.mark = aid, mark
    pdf.set_auto_page_break(True, MARGIN + _FOOT)
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


def high(pdf: FPDF, words: str, width: float, line: float = 5.0) -> float:
    """How high a paragraph comes out, mm: by its words, for laying it out on trial costs as much as writing it. A line
    too many may be said, since what is strong is wider; one too few is not."""
    room = width - 2 * pdf.c_margin
    space = pdf.get_string_width(" ") * _STRONGER
    lines = 0
    for paragraph in words.split("\n"):
        lines, along = lines + 1, 0.0
        for word in paragraph.replace("**", "").split(" "):
            wide = pdf.get_string_width(word) * _STRONGER
            if along and along + space + wide > room:
                lines, along = lines + 1, 0.0
            lines += int(wide / room)
            along = wide % room if wide > room else along + (space if along else 0.0) + wide
    return lines * line


# How much wider than plain letters strong ones are, at most.
_STRONGER = 1.04


def keep_together(pdf: FPDF, height: float) -> None:
    """A new page where what comes next, so high, would be torn apart."""
    if pdf.will_page_break(height):
        pdf.add_page()


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
        caution = high(pdf, step.caution, width - 4, line * 0.92) if step.caution else 0.0
        keep_together(pdf, high(pdf, step.text, width, line) + caution)
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


def facts(pdf: FPDF, rows: Sequence[Fact], size: float) -> None:
    """Figures with their labels, a line each."""
    pdf.ln(1)
    label_rows(pdf, [(fact.label, fact.text) for fact in rows], WIDTH - 2 * MARGIN, size)


def label_rows(pdf: FPDF, rows: Sequence[tuple[str, str]], width: float, size: float) -> None:
    """Labels in grey with their texts beside them, in a column as wide as the longest label asks for, up to half."""
    pdf.set_font("text", "", size)
    beside = min(width / 2, max((pdf.get_string_width(label) for label, _ in rows), default=0.0) + 4)
    line = size * 0.5
    for label, words in rows:
        pdf.set_font("text", "", size)
        keep_together(pdf, max(high(pdf, label, beside - 2, line), high(pdf, words, width - beside, line)))
        top = pdf.get_y()
        pdf.set_text_color(GREY)
        pdf.set_xy(MARGIN, top)
        text(pdf, label, beside - 2, line)
        bottom = pdf.get_y()
        pdf.set_text_color(0)
        pdf.set_xy(MARGIN + beside, top)
        text(pdf, words, width - beside, line)
        pdf.set_xy(MARGIN, max(bottom, pdf.get_y()))


def fitted(
    laid_out: Callable[[float, float], tuple[FPDF, float]],
    sizes: Sequence[tuple[float, float]],
    lowest: float,
    follows: Callable[[FPDF], None] = lambda _: None,
) -> bytes:
    """The page in the largest size of type and drawings with which all of it stands on one and ends above `lowest`;
    where it never does it goes on on a second page. `laid_out` gives the pages and where they end; `follows` adds what
    stands behind."""
    pages: dict[tuple[float, float], FPDF] = {}
    for size, tall in sizes:
        if (size, tall) in pages:
            pdf = pages[size, tall]
            break
        pdf, bottom = laid_out(size, tall)
        pages[size, tall] = pdf
        if pdf.pages_count == 1 and bottom <= lowest:
            break
    follows(pdf)
    return bytes(pdf.output())


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
    low, top_right = (
        (min(p[0] for p in points), min(p[1] for p in points)),
        (max(p[0] for p in points), max(p[1] for p in points)),
    )
    left, top, width, height = box
    ratio = round_scale(max((top_right[0] - low[0]) / width, (top_right[1] - low[1]) / (height - _CAPTION)))
    centre = ((low[0] + top_right[0]) / 2, (low[1] + top_right[1]) / 2)

    def paper(point: Point) -> Point:
        return left + width / 2 + (point[0] - centre[0]) / ratio, top + (height - _CAPTION) / 2 - (
            point[1] - centre[1]
        ) / ratio

    pdf.set_line_width(0.2)
    pdf.set_draw_color(120)
    slots = []
    for slot in quadrant.slots:
        angle = placement.swing + slot.offset
        near, far = (paper((r * math.cos(angle), r * math.sin(angle))) for r in (slot.nearest, slot.farthest))
        pdf.line(*near, *far)
        slots.append((near, far))
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
    numbers = _labels(pdf, drawn, paper, ratio)
    _slot_names(pdf, slots, numbers, box)
    pdf.set_font("text", "", 8)
    scale = f"1 : {ratio:g}" if drawn.pitch_known else "in proportion"
    view = "end view from the gear side" if isinstance(quadrant, Quadrant) else "wheels in mesh, in a line"
    pdf.set_xy(left, top + height - _CAPTION + 1)
    text(pdf, f"{drawn.title}, {view}, {scale}", width, 3.4)


def _slot_names(pdf: FPDF, slots: Sequence[tuple[Point, Point]], taken: list[Place], box: Place) -> None:
    """Each slot's name at its outer end, or where else along it nothing stands; left out where there is no room."""
    pdf.set_font("text", "", 7)
    left, top, width, height = box
    for n, ((x1, y1), (x2, y2)) in enumerate(slots):
        wide, tall = pdf.get_string_width(slot_name(n)), pdf.font_size * 0.7
        along = [(x1 + (x2 - x1) * part, y1 + (y2 - y1) * part) for part in (1.0, 0.0, 0.9, 0.1, 0.75, 0.25, 0.5)]
        spots = [(x + right, y + down) for x, y in along
                 for right in (1.0, -wide - 1.0) for down in (-1.0, tall + 1.0)]  # fmt: skip
        for x, y in spots:
            place_of = (x, y - tall, wide, tall)
            inside = left <= x <= left + width - wide and top + tall <= y <= top + height - _CAPTION
            if inside and not any(_meet(place_of, other) for other in taken):
                pdf.text(x, y, slot_name(n))
                taken.append(place_of)
                break


def _meet(one: Place, other: Place) -> bool:
    (x1, y1, w1, h1), (x2, y2, w2, h2) = one, other
    return x1 < x2 + w2 and x2 < x1 + w1 and y1 < y2 + h2 and y2 < y1 + h1


def _labels(pdf: FPDF, drawn: OnPaper, paper: Callable[[Point], Point], ratio: float) -> list[Place]:
    """Shafts with their centre lines, and tooth numbers on the wheels; where the numbers stand."""
    numbers: list[Place] = []
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
        numbers.append((x - wide / 2 - 0.5, y - height / 2 - 0.5, wide + 1, height + 1))
    return numbers


# Under a drawing, for two lines that say what it is, mm.
_CAPTION = 9.0


def round_scale(least: float) -> float:
    """A scale that a rule reads: the next of 1, 1.5, 2, 2.5, 3, 4, 5 …"""
    steps = (0.5, 1, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10, 15, 20)
    return next((s for s in steps if s >= least), math.ceil(least))
