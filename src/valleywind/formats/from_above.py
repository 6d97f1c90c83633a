"""A mill's table seen from above, on paper."""

from fpdf import FPDF

from valleywind.core.helix.table import Point, View
from valleywind.formats import paper
from valleywind.formats.paper import Place

# Room for the column above its face, mm.
_COLUMN = 60.0


def from_above(pdf: FPDF, seen: View, place: Place) -> None:
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
