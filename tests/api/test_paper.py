"""Sheets on paper: no two texts meet, and none stands outside the margin or in the foot, whatever is to be said."""

from collections.abc import Iterator
from typing import Any, NamedTuple

import pytest
from fastapi.testclient import TestClient

from tests.api.made import found, made, put
from valleywind.formats.paper import HEIGHT, MARGIN, WIDTH, Paper


class Box(NamedTuple):
    """Text where it was put, mm from the top left."""

    page: int
    left: float
    top: float
    right: float
    bottom: float
    words: str

    def meets(self, other: "Box") -> bool:
        return (
            self.page == other.page
            and min(self.right, other.right) - max(self.left, other.left) > 0.3
            and min(self.bottom, other.bottom) - max(self.top, other.top) > 0.3
        )


class Written:
    """Every text that is put on paper, of the document that was written in last: of those that are tried the one that
    is given out, for its feet come at the end."""

    def __init__(self) -> None:
        self.boxes: list[Box] = []
        self._of = dict[Paper, list[Box]]()
        self.trying = False

    def add(self, pdf: Paper, box: Box) -> None:
        self.boxes = self._of.setdefault(pdf, [])
        self.boxes.append(box)


@pytest.fixture
def written(monkeypatch: pytest.MonkeyPatch) -> Written:
    """What is written from here on."""
    every = Written()
    cell, multi_cell, put_text = Paper.cell, Paper.multi_cell, Paper.text

    def a_cell(pdf: Paper, w: Any = None, h: Any = None, text: str = "", *args: Any, **more: Any) -> Any:
        x, y, wide = pdf.x, pdf.y, pdf.get_string_width(text)
        answer = cell(pdf, w, h, text, *args, **more)
        if text.strip() and not every.trying:
            left = x + w - wide if more.get("align") == "R" and w else x
            # Capitals stand in the middle of their line.
            tall = pdf.font_size * 0.7
            box = Box(pdf.page, left, y + (h - tall) / 2, left + wide, y + (h + tall) / 2, text)
            every.add(pdf, box)
        return answer

    def a_paragraph(pdf: Paper, w: Any, h: Any = None, text: str = "", *args: Any, **more: Any) -> Any:
        # A table tries its rows first, with nothing put out.
        if more.get("dry_run") or every.trying or not text.strip() or "_out" in vars(pdf):
            return multi_cell(pdf, w, h, text, *args, **more)
        page, x, y = pdf.page, pdf.x, pdf.y
        every.trying = True
        lines: Any = multi_cell(pdf, w, h, text, *args, **(more | {"dry_run": True, "output": "LINES"}))
        tall: Any = multi_cell(pdf, w, h, text, *args, **(more | {"dry_run": True, "output": "HEIGHT"}))
        pdf.set_xy(x, y)
        answer = multi_cell(pdf, w, h, text, *args, **more)
        every.trying = False
        if pdf.page != page:
            page, y = pdf.page, max(MARGIN, pdf.y - tall)
        wide = max(pdf.get_string_width(line.replace("**", "")) for line in lines)
        every.add(pdf, Box(page, x, y, x + wide, y + tall, text))
        return answer

    def a_word(pdf: Paper, x: float, y: float, text: str = "") -> Any:
        box = Box(pdf.page, x, y - pdf.font_size * 0.7, x + pdf.get_string_width(text), y, text)
        every.add(pdf, box)
        return put_text(pdf, x, y, text)

    monkeypatch.setattr(Paper, "cell", a_cell)
    monkeypatch.setattr(Paper, "multi_cell", a_paragraph)
    monkeypatch.setattr(Paper, "text", a_word)
    return every


def check(boxes: list[Box], of: str) -> int:
    """Raises where texts meet or leave the page; the count of texts looked at."""
    for n, one in enumerate(boxes):
        assert one.left >= MARGIN - 1, (of, one)
        assert one.right <= WIDTH - MARGIN + 1.5, (of, one)
        assert one.bottom <= HEIGHT - MARGIN + 1, (of, one)
        for other in boxes[n + 1 :]:
            assert not one.meets(other), (of, one, other)
    return len(boxes)


LATHE_ASKS = [
    ("plover", "M14x2"), ("plover", "2 start 1.5 mm left hand"), ("plover", "module 1.5 worm 3 starts"),
    ("plover", "1 1/2-6 UNC left hand 2 starts"), ("plover", "feed 0.03 mm/rev across"), ("plover", "0.5 mm"),
    ("dunlin", "module 1.5 worm"), ("dunlin", "Tr20x4 2 starts left hand"), ("dunlin", "19 tpi"),
    ("curlew", "4 BA"), ("curlew", "feed 0.04 mm/rev"), ("wren", "1 mm"), ("wren", "26 tpi left hand"),
]  # fmt: skip


@pytest.mark.parametrize("units", ["mm", "inch"])
def test_lathe_sheets_have_room_for_what_they_say(demo: TestClient, written: Written, units: str) -> None:
    looked = 0
    for machine, ask in LATHE_ASKS:
        plan = demo.get(f"/api/lathes/{machine}/plan", params={"ask": ask})
        if plan.status_code != 200 or not plan.json()["candidates"]:
            continue
        for one in plan.json()["candidates"][:2]:
            query = {"ask": ask, "train": one["train"], "units": units}
            sheet = demo.get(f"/api/lathes/{machine}/sheet.pdf", params=query)
            assert sheet.status_code == 200, sheet.text
            looked += check(written.boxes, f"{machine} {ask} {units}")
    assert looked > 500


@pytest.mark.parametrize("units", ["mm", "inch"])
def test_sheets_of_hobber_and_mill_have_room_for_what_they_say(demo: TestClient, written: Written, units: str) -> None:
    looked = 0
    for address, machine, asks in (
        ("hobbers", "avocet", ["hob 37", "hob 107", "hob 24 m2 30° left face 20 hob 63 mm 3 blanks with 24"]),
        ("mills", "heron", ["helix 24 m2 30° left face 20", "helix lead 300 mm", "flutes 6 lead 12 in dia 20"]),
    ):
        for ask in asks:
            query = {"ask": ask, "units": units}
            sheet = demo.get(f"/api/{address}/{machine}/sheet.pdf", params=query | _set_up(demo, address, machine, ask))
            assert sheet.status_code == 200, sheet.text
            looked += check(written.boxes, f"{machine} {ask} {units}")
    assert looked > 200


def _set_up(demo: TestClient, address: str, machine: str, ask: str) -> dict[str, str]:
    plan = demo.get(f"/api/{address}/{machine}/plan", params={"ask": ask}).json()
    one = plan["candidates"][0]
    return {"train": one["train"]}


def _jobs(demo: TestClient) -> Iterator[Any]:
    yield made(demo)
    full = put(demo, made(demo), jaw_gap="12 mm", jaw_radius="55 mm", nut="14 mm", nut_across="40 mm", centre="127 mm",
               passes="2.7 4.1 4.57", how_many="3")  # fmt: skip
    for step, figure in (("outside", "124.40"), ("runout", "0.35"), ("measure", "29.70")):
        found(demo, full["id"], step, figure)
    yield full
    yield demo.post("/api/jobs", json={"ask": "make 31 m2 22° left face 20"}).json()
    screw = {"screw": "6 tpi", "diameter": "28 mm", "threads": "24", "hand": "left"}
    yield demo.post("/api/jobs", json={"ask": "", "screw": screw}).json()
    for school in ("one_setting", "chuck_moved", "bolted", "template", "lathe_only"):
        yield put(demo, made(demo), school=school)


@pytest.mark.parametrize("units", ["mm", "inch"])
def test_job_sheets_have_room_for_what_they_say(demo: TestClient, written: Written, units: str) -> None:
    looked = 0
    for job in _jobs(demo):
        sheet = demo.get(f"/api/jobs/{job['id']}/sheet.pdf", params={"units": units})
        assert sheet.status_code == 200, sheet.text
        # The drawing of the wheel stands behind, as large as it is.
        drawn = {box.page for box in written.boxes if "measure it" in box.words}
        looked += check([box for box in written.boxes if box.page not in drawn], f"{job['title']} {units}")
    assert looked > 500
