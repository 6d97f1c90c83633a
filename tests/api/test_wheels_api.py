"""A wheel to be made and its division, over the API with the demo shop."""

import csv
import io
from io import BytesIO
from typing import Any

import pytest
from fastapi.testclient import TestClient
from pypdf import PdfReader


def told(demo: TestClient, path: str, **query: str) -> Any:
    answer = demo.get(f"/api{path}", params=query)
    assert answer.status_code == 200, answer.text
    return answer.json()


def refused(demo: TestClient, path: str, **query: str) -> Any:
    answer = demo.get(f"/api{path}", params=query)
    assert answer.status_code == 422, answer.text
    return answer.json()["errors"][0]


def lines(sizes: Any) -> dict[str, str]:
    return {line["label"]: line["text"] for group in sizes["groups"] for line in group["lines"]}


def test_a_57_for_plover_has_every_figure(demo: TestClient) -> None:
    sizes = told(demo, "/wheels/sizes", ask="wheel 57 for Plover", mates="72 96")
    assert sizes["title"] == "A 57 for Plover"
    result = lines(sizes)
    assert result["Turn the blank to"] == "124.88 mm"
    assert result["Bore"] == "22.23 mm, keyway 4.76 mm wide"
    assert result["Yours"] == "55–134"
    assert result["With a 96"] == "161.93 mm apart"
    # The cutter has its depth engraved, which goes before 2.157/P.
    assert [d["school"] for d in sizes["depths"] if d["taken"]] == ["engraved"]
    assert sizes["hero"][1]["label"] == "Depth, as engraved"
    typed = told(demo, "/wheels/sizes", ask="wheel 57 for Plover", depth="2.157/P")
    assert typed["hero"][1]["label"] == "Depth, 2.157/P"
    assert told(demo, "/wheels/sizes", ask="wheel 57", depth="4.4")["hero"][1]["label"] == "Depth, as typed"
    assert [d["school"] for d in typed["depths"] if d["taken"]] == ["old_inch"]
    assert sizes["form"]["true_for"] == 55


def test_a_pitch_in_the_ask_goes_before_the_shop(demo: TestClient) -> None:
    sizes = told(demo, "/wheels/sizes", ask="wheel 17 m1.7")
    assert sizes["family"] is None
    assert sizes["family_text"] == "module 1.7, 20°"
    assert "is not a standard pitch" in sizes["remarks"][0]
    few = told(demo, "/wheels/sizes", ask="wheel 12 m1")
    assert any("undercut" in r for r in few["remarks"])
    assert few["helping_shift"] == pytest.approx(0.298, abs=0.001)


@pytest.mark.parametrize(
    ("query", "field"),
    [
        ({"ask": "wheel 3"}, "ask"), ({"ask": "wheel fifty"}, "ask"),
        ({"ask": "wheel 8 m1", "shift": "1.1"}, "shift"), ({"ask": "wheel 57", "pin": "0.1"}, "pin"),
        ({"ask": "wheel 57", "depth": "deep"}, "depth"), ({"ask": "wheel 57", "mates": "4O"}, "mates"),
        ({"ask": "wheel 57 m1", "angle": "5"}, "angle"),
    ],
)  # fmt: skip
def test_what_cannot_be_sized_is_said_at_its_field(demo: TestClient, query: dict[str, str], field: str) -> None:
    assert refused(demo, "/wheels/sizes", **query)["field"] == field


def test_how_deep_now(demo: TestClient) -> None:
    shallow = told(demo, "/wheels/plunge", ask="wheel 57", blank="124.7", span="29.9", dial="0.02")["texts"]
    assert shallow[0] == "From touching the tip go **4.475 mm** deep, 223.8 divisions of 0.02 mm."
    assert shallow[1].startswith("**0.665 mm** more, 33.3 divisions")
    right = told(demo, "/wheels/plunge", ask="wheel 57", span="29.567")["texts"]
    assert right[1] == "That is right. No more to cut."
    thin = told(demo, "/wheels/plunge", ask="wheel 57", pins="125.5")["texts"]
    assert "below what was wanted" in thin[1]
    inch = told(demo, "/wheels/plunge", ask="wheel 57", span="1.17", units="inch")["texts"]
    assert " in** more" in inch[1]
    assert refused(demo, "/wheels/plunge", ask="wheel 57", dial="0")["field"] == "dial"
    assert "Re-seat it" in told(demo, "/wheels/runout", ask="wheel 57", reading="0.6")["texts"][0]


def test_drawings_come_as_files(demo: TestClient) -> None:
    for kind, begins in (("dxf", b"  0\nSECTION"), ("svg", b"<svg"), ("pdf", b"%PDF")):
        answer = demo.get(f"/api/wheels/drawing.{kind}", params={"ask": "wheel 57"})
        assert answer.content.startswith(begins)
        assert f'filename="wheel-57.{kind}"' in answer.headers["content-disposition"]
    pages = PdfReader(BytesIO(demo.get("/api/wheels/drawing.pdf", params={"ask": "wheel 57"}).content)).pages
    assert "29.557 to 29.577 mm" in pages[-1].extract_text()


def test_57_is_divided_with_what_the_shop_has(demo: TestClient) -> None:
    result = told(demo, "/dividing/ways", ask="divide 57")
    assert [(w["machine_name"], w["kind"]) for w in result["ways"][:2]] == [("Heron", "simple"), ("Grebe", "simple")]
    grebe = result["ways"][1]
    assert grebe["text"] == "1 turn and 5 spaces on the 19"
    plate = grebe["plate"]
    assert (plate["circle"], plate["spaces"]) == (19, 5)
    pin = spaces = 0
    for move in plate["moves"]:
        spaces += move["turns"] * 19 + (move["hole"] - pin) % 19
        pin = move["hole"]
    assert spaces == 24 * 24  # of the 72 turns with 19 holes each
    assert result["ways"][-1]["kind"] == "disc"
    assert not any(w["exact"] for w in result["ways"] if w["error_deg"])


def test_compound_moves_turn_crank_and_plate(demo: TestClient) -> None:
    ways = told(demo, "/dividing/ways", ask="divide 77 on Grebe")["ways"]
    plate = next(w for w in ways if w["kind"] == "compound")["plate"]
    assert (plate["circle"], plate["lock"]) == (33, 49)
    first, second = plate["moves"][:2]
    assert first["text"] == "on to hole 12; then crank and plate 28 spaces of the 49 on"
    assert (second["hole"], second["plate_turns"]) == (24, pytest.approx(56 / 49))
    assert all(m["pin_turns"] + m["plate_turns"] == pytest.approx(72 / 77 * n) for n, m in enumerate(plate["moves"], 1))


def test_a_prime_needs_its_gears_and_a_copy_its_wheel(demo: TestClient) -> None:
    ways = told(demo, "/dividing/ways", ask="divide 53")["ways"]
    assert [w["text"] for w in ways if w["kind"] == "wheel"] == ["the 53 of Avocet's wheels as its own plate"]
    first = next(w for w in ways if w["kind"] != "wheel")
    assert (first["machine_name"], first["kind"]) == ("Heron", "differential")
    assert first["gears"]["drivers"]
    assert first["plate"]["circle"]
    plate = next(w for w in ways if w["kind"] == "new_plate")
    assert plate["text"] == "drill a circle of 53 holes"
    kinds = [w["kind"] for w in ways if w["machine_name"] != "Heron"]
    assert kinds.index("new_plate") < kinds.index("nearest_hole")
    assert first["others"]
    copies = [w["text"] for w in told(demo, "/dividing/ways", ask="divide 48")["ways"] if w["kind"] == "wheel"]
    assert copies[0] == "the 48 of Plover's wheels as its own plate"
    only = told(demo, "/dividing/ways", ask="divide 53 on Grebe")["ways"]
    assert {w["machine_name"] for w in only} == {"Grebe"}
    assert refused(demo, "/dividing/ways", ask="divide 1")["field"] == "ask"
    assert demo.get("/api/dividing/ways", params={"ask": "divide 53 on Plover"}).status_code == 404
    assert demo.get("/api/wheels/sizes", params={"ask": "wheel 57 for Bittern"}).json()["errors"][0]["field"] == "ask"


def test_the_chart_and_its_table_say_the_same(demo: TestClient) -> None:
    chart = told(demo, "/dividing/grebe/chart", first="2", last="60")["lines"]
    text = demo.get("/api/dividing/grebe/chart.csv", params={"first": 2, "last": 60}).text.removeprefix("\ufeff")
    head, *rows = csv.reader(io.StringIO(text))
    assert head == ["divisions", "way", "setting", "largest error, arc seconds"]
    assert [[str(c["divisions"]), c["head"], c["text"]] for c in chart] == [row[:3] for row in rows]
    for line, row in zip(chart, rows, strict=True):
        assert line["exact"] == (bool(line["kind"]) and float(row[3]) == 0)
    assert refused(demo, "/dividing/plover/chart")["code"] == "divides_not"


def test_a_disc_tells_its_error_before_it_is_printed(demo: TestClient) -> None:
    small = told(demo, "/dividing/disc", divisions="57", diameter="100")
    assert "good to 10′ 19″" in small["texts"][0]
    assert small["strip_mm"] == pytest.approx(314.159, abs=0.001)
    assert "314.16 mm long" in small["strip_text"]
    assert refused(demo, "/dividing/disc", divisions="400", diameter="20")["field"] == "diameter"
    for form in ("disc", "strip"):
        pdf = demo.get("/api/dividing/disc.pdf", params={"divisions": 57, "diameter": "200", "form": form}).content
        assert len(PdfReader(BytesIO(pdf)).pages) == (2 if form == "disc" else 4)


def test_a_new_plate_is_planned(demo: TestClient) -> None:
    query = {"divisions": "127", "diameter": "250 mm", "hole": "4 mm"}
    plan = told(demo, "/dividing/grebe/plate", **query)
    assert plan["serving"] == [127, 254, 381]
    assert plan["fits"]
    assert not plan["exact"]
    assert plan["generations"][0].startswith("Plate 1: its holes are up to 30″ off")
    assert not told(demo, "/dividing/grebe/plate", **query | {"diameter": "140"})["fits"]
    rows = list(
        csv.DictReader(io.StringIO(demo.get("/api/dividing/grebe/plate.csv", params=query).text.lstrip("\ufeff")))
    )
    assert len(rows) == 127
    assert (float(rows[0]["x, mm"]), float(rows[0]["y, mm"])) == (0, 125)
    # A 57 is drilled on Grebe by a turn and five spaces of the 19: counted on, 72 turns bring it round.
    plain = demo.get("/api/dividing/grebe/plate.csv", params=query | {"divisions": "57", "holes": "57"}).text
    moves = [(int(r["crank turns"]), int(r["crank hole"])) for r in csv.DictReader(io.StringIO(plain.lstrip("\ufeff")))]
    assert moves[:3] == [(0, 0), (1, 5), (2, 10)]
    assert [19 * turns + hole for turns, hole in moves] == [24 * n for n in range(57)]
    assert refused(demo, "/dividing/grebe/plate", **query | {"hole": "0"})["field"] == "hole"


@pytest.mark.parametrize(
    ("ask", "station", "whole"),
    [("wheel 57", "wheel", True), ("wheel 4O", "wheel", False), ("divide 127", "dividing", True),
     ("divide", "dividing", False), ("M14x2", "lathe", True)],
)  # fmt: skip
def test_the_ask_line_knows_the_station(demo: TestClient, ask: str, station: str, whole: bool) -> None:
    result = told(demo, "/reading", ask=ask)
    assert (result["station"], result["whole"]) == (station, whole)
