"""The log on paper: day by day, what was struck through with its reason."""

from collections.abc import Sequence
from dataclasses import dataclass

from valleywind.core.interrupt import checkpoint
from valleywind.formats import paper
from valleywind.formats.paper import MARGIN, WIDTH

_TIME, _SIZE, _LINE = 14.0, 9.5, 4.6


@dataclass(frozen=True)
class LogLine:
    """day, time: when, as they are written; struck: why it does not hold, empty where it does."""

    day: str
    time: str
    text: str
    struck: str = ""


def log_pdf(title: str, range_text: str, lines: Sequence[LogLine]) -> bytes:
    """The entries in their order. title: what the log is of; range_text: which entries these are."""
    pdf = paper.page(title, f"{title}. {range_text}")
    pdf.set_font("text", "B", 16)
    paper.text(pdf, title, WIDTH - 2 * MARGIN, 8)
    pdf.set_font("text", "", _SIZE)
    paper.text(pdf, range_text, WIDTH - 2 * MARGIN, _LINE)
    day = ""
    for line in lines:
        checkpoint()
        if line.day != day:
            day = line.day
            paper.keep_together(pdf, 14)
            pdf.ln(3)
            pdf.set_font("text", "B", 11)
            paper.text(pdf, day, WIDTH - 2 * MARGIN, 6)
        _entry(pdf, line)
    return bytes(pdf.output())


def _entry(pdf: paper.Paper, line: LogLine) -> None:
    pdf.set_font("text", "", _SIZE)
    wide = WIDTH - 2 * MARGIN - _TIME
    text = f"{line.text}\nStruck through: {line.struck}" if line.struck else line.text
    paper.keep_together(pdf, paper.high(pdf, text, wide, _LINE))
    top = pdf.get_y()
    pdf.set_text_color(paper.GREY)
    pdf.cell(_TIME, _LINE, line.time)
    pdf.set_text_color(0)
    left = MARGIN + _TIME
    pdf.set_xy(left, top)
    if line.struck:
        # What is struck through is still to be read.
        pdf.multi_cell(wide, _LINE, f"~~{line.text}~~", markdown=True, new_x="LEFT", new_y="NEXT", align="L")
        pdf.multi_cell(wide, _LINE, f"Struck through: {line.struck}", new_x="LEFT", new_y="NEXT", align="L")
    else:
        pdf.multi_cell(wide, _LINE, line.text, new_x="LEFT", new_y="NEXT", align="L")
    pdf.set_x(MARGIN)
