"""Drawings at true size, read again by other means: DXF by its library, SVG as XML, PDF by its text and pages."""

import math
import re
from fractions import Fraction
from io import BytesIO, StringIO
from itertools import pairwise
from xml.etree import ElementTree

import pytest
from ezdxf.entities.lwpolyline import LWPolyline
from ezdxf.filemanagement import read
from pypdf import PdfReader

from valleywind.core.dividing.discs import disc
from valleywind.core.dividing.plates import new_circle
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily
from valleywind.core.teeth.sizes import sizes, weight
from valleywind.formats.pictures import area, disc_picture, plate_picture, strip_picture, wheel_picture
from valleywind.formats.vector import to_dxf, to_svg
from valleywind.formats.vector_pdf import to_pdf

PLOVER = WheelFamily(
    "", Pitch(PitchSystem.DIAMETRAL, Fraction(12)), Fraction("14.5"), Fraction("22.225"), Fraction("4.7625"),
    Fraction("15.875"),
)  # fmt: skip
WHEEL = sizes(57, PLOVER)


def test_a_wheel_in_dxf_is_as_large_as_it_should_be() -> None:
    document = read(StringIO(to_dxf(wheel_picture(WHEEL, "57")).decode()))
    assert document.header["$INSUNITS"] == 4
    by_layer = {e.dxf.layer: e for e in document.modelspace()}
    teeth, bore = by_layer["TEETH"], by_layer["BORE"]
    assert isinstance(teeth, LWPolyline)
    assert isinstance(bore, LWPolyline)
    assert teeth.closed
    assert bore.closed
    points = tuple((x, y) for x, y in teeth.get_points("xy"))
    radii = [math.hypot(x, y) for x, y in points]
    assert 2 * max(radii) == pytest.approx(WHEEL.tip_diameter, abs=1e-6)
    assert 2 * min(radii) == pytest.approx(WHEEL.root_diameter, abs=1e-6)
    hole = tuple((x, y) for x, y in bore.get_points("xy"))
    assert max(y for _, y in hole) == pytest.approx((22.225 + 4.7625) / 2)
    metal = area(points) - area(hole)
    assert metal * 15.875 / 1000 == pytest.approx(weight(WHEEL, 1.0), rel=0.002)
    assert 2 * by_layer["PITCH"].dxf.radius == pytest.approx(120.65)


def test_a_wheel_in_svg_is_in_millimetres() -> None:
    root = ElementTree.fromstring(to_svg(wheel_picture(WHEEL, "57 & mate")))
    wide = float(root.attrib["width"].removesuffix("mm"))
    assert float(root.attrib["viewBox"].split()[2]) == pytest.approx(wide)
    assert wide == pytest.approx(WHEEL.tip_diameter + 10, abs=0.2)
    [outline] = [p for g in root if g.attrib.get("id") == "TEETH" for p in g]
    steps = [tuple(map(float, s.split())) for s in re.split("[MLZ]", outline.attrib["d"]) if s]
    assert max(math.hypot(*p) for p in steps) == pytest.approx(WHEEL.tip_diameter / 2, abs=1e-3)


def test_a_wheel_in_pdf_has_its_table() -> None:
    pages = PdfReader(BytesIO(to_pdf(wheel_picture(WHEEL, "57 for Plover"), table=[("Blank", "124.88 mm")]))).pages
    assert len(pages) == 2
    assert "100 mm" in pages[0].extract_text()
    assert "124.88 mm" in pages[1].extract_text()


@pytest.mark.parametrize(("diameter", "sheets"), [(150, 1), (300, 4)])
def test_a_disc_is_tiled_where_the_paper_is_too_small(diameter: float, sheets: int) -> None:
    made = disc(57, diameter)
    picture = disc_picture(made, "57")
    pages = PdfReader(BytesIO(to_pdf(picture))).pages
    assert len(pages) == sheets
    assert ("of 2.2" in pages[0].extract_text()) == (sheets == 4)
    lines = [i for i in picture.items if i.layer == "LINES"]
    assert len(lines) == 57
    starts = [math.atan2(i.points[0][0], i.points[0][1]) for i in lines]  # type: ignore[union-attr]
    turned = [(b - a) % (2 * math.pi) for a, b in pairwise(starts)]
    assert all(t == pytest.approx(2 * math.pi / 57) for t in turned)


def test_a_strip_goes_once_round() -> None:
    made = disc(40, 100)
    lines = [i for i in strip_picture(made, "40").items if i.layer == "LINES"]
    assert len(lines) == 41
    assert lines[-1].points[0][0] == pytest.approx(math.pi * 100)  # type: ignore[union-attr]


def test_a_plate_in_dxf_has_every_hole() -> None:
    made = new_circle(57, 140, 4)
    document = read(StringIO(to_dxf(plate_picture(made, "57")).decode()))
    holes = document.modelspace().query('CIRCLE[layer=="HOLES"]')
    assert len(holes) == 57
    assert {round(2 * h.dxf.radius, 9) for h in holes} == {4.0}
    assert all(math.hypot(*h.dxf.center.vec2) == pytest.approx(70) for h in holes)
