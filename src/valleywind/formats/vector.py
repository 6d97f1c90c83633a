"""Drawings at true size in mm, y upward: to SVG and DXF. Paper is in vector_pdf."""

from collections.abc import Sequence
from dataclasses import dataclass
from io import StringIO
from typing import Literal
from xml.sax.saxutils import escape

Point = tuple[float, float]
Anchor = Literal["start", "middle", "end"]

FINE, PLAIN, BOLD = 0.13, 0.25, 0.5
"""Widths of lines, mm."""

_ALIGN = {"start": "MIDDLE_LEFT", "middle": "MIDDLE_CENTER", "end": "MIDDLE_RIGHT"}
CAPITALS = 0.7
"""Height of capital letters as a share of the size of the font."""


@dataclass(frozen=True)
class Path:
    """Straight from point to point; closed back to the first."""

    points: tuple[Point, ...]
    layer: str
    closed: bool = False
    width: float = PLAIN


@dataclass(frozen=True)
class Ring:
    centre: Point
    radius: float
    layer: str
    width: float = PLAIN


@dataclass(frozen=True)
class Label:
    """Text whose middle line runs through `at`; height of its capitals; angle in degrees, anticlockwise."""

    at: Point
    text: str
    height: float
    layer: str = "TEXT"
    anchor: Anchor = "middle"
    angle: float = 0.0


Item = Path | Ring | Label


@dataclass(frozen=True)
class Picture:
    """What is drawn, under a title."""

    title: str
    items: tuple[Item, ...]

    @property
    def bounds(self) -> tuple[float, float, float, float]:
        """Left, bottom, right, top; of labels only where they stand."""
        xs, ys = [], []
        for item in self.items:
            points, spread = _extent(item)
            xs += [x + d for x, _ in points for d in (-spread, spread)]
            ys += [y + d for _, y in points for d in (-spread, spread)]
        return min(xs), min(ys), max(xs), max(ys)


def _extent(item: Item) -> tuple[Sequence[Point], float]:
    match item:
        case Path():
            return item.points, 0.0
        case Ring():
            return [item.centre], item.radius
        case Label():
            return [item.at], item.height


def to_svg(picture: Picture, margin: float = 5.0) -> str:
    """The drawing as SVG, one unit a mm."""
    left, bottom, right, top = picture.bounds
    wide, high = right - left + 2 * margin, top - bottom + 2 * margin
    out = StringIO()
    out.write(
        f'<svg xmlns="http://www.w3.org/2000/svg" width="{wide:.3f}mm" height="{high:.3f}mm" '
        f'viewBox="{left - margin:.3f} {-top - margin:.3f} {wide:.3f} {high:.3f}">\n'
        f"<title>{escape(picture.title)}</title>\n"
    )
    for layer in dict.fromkeys(item.layer for item in picture.items):
        out.write(f'<g id="{escape(layer)}" fill="none" stroke="black" stroke-linejoin="round">\n')
        for item in picture.items:
            if item.layer == layer:
                out.write(_svg(item) + "\n")
        out.write("</g>\n")
    out.write("</svg>\n")
    return out.getvalue()


def _svg(item: Item) -> str:
    match item:
        case Path():
            steps = "L".join(f"{x:.4f} {-y:.4f}" for x, y in item.points)
            return f'<path d="M{steps}{"Z" if item.closed else ""}" stroke-width="{item.width}"/>'
        case Ring():
            x, y = item.centre
            return f'<circle cx="{x:.4f}" cy="{-y:.4f}" r="{item.radius:.4f}" stroke-width="{item.width}"/>'
        case Label():
            x, y = item.at
            turn = f' transform="rotate({-item.angle:.3f} {x:.4f} {-y:.4f})"' if item.angle else ""
            look = f'font-size="{item.height / CAPITALS:.3f}" font-family="sans-serif" fill="black" stroke="none"'
            place = f'x="{x:.4f}" y="{-y:.4f}" text-anchor="{item.anchor}" dominant-baseline="central"{turn}'
            return f"<text {place} {look}>{escape(item.text)}</text>"


def to_dxf(picture: Picture) -> bytes:
    """The drawing as DXF in mm, one layer for each kind of thing, outlines as closed polylines."""
    # Read when the first such drawing is asked for: it would make every start slower by a quarter of a second.
    from ezdxf import units
    from ezdxf.enums import TextEntityAlignment
    from ezdxf.filemanagement import new

    document = new("R2010", units=units.MM)
    document.header["$INSUNITS"] = units.MM
    document.header["$MEASUREMENT"] = 1
    space = document.modelspace()
    for layer in dict.fromkeys(item.layer for item in picture.items):
        document.layers.add(layer)
    for item in picture.items:
        attributes = {"layer": item.layer}
        match item:
            case Path():
                space.add_lwpolyline(item.points, close=item.closed, dxfattribs=attributes)
            case Ring():
                space.add_circle(item.centre, item.radius, dxfattribs=attributes)
            case Label():
                text = space.add_text(item.text, height=item.height, rotation=item.angle, dxfattribs=attributes)
                text.set_placement(item.at, align=TextEntityAlignment[_ALIGN[item.anchor]])
    out = StringIO()
    document.write(out)
    return out.getvalue().encode()
