"""A photograph that is sent: the count, its marks, its sentence; and the pocket command."""

import json
from io import BytesIO
from pathlib import Path
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import ExifTags, Image

from tests.commands import run
from tests.photos import Scene, Wheel, as_jpeg, photograph

WHEEL = Wheel(57, (470, 360), 560, 140)
FILE = as_jpeg(photograph(Scene((WHEEL,))))


def sent(client: TestClient, file: bytes, **more: Any) -> Any:
    return client.post("/api/rack/count", content=file, params=more, headers={"Content-Type": "image/jpeg"})


def test_teeth_are_counted_with_the_place_of_each(empty: TestClient) -> None:
    answer = sent(empty, FILE, bore="16 mm")
    assert answer.status_code == 200, answer.text
    (wheel,) = answer.json()["wheels"]
    assert (wheel["teeth"], wheel["sure"], wheel["text"]) == (57, True, "57 teeth.")
    assert wheel["tip_mm"] == pytest.approx(64, rel=0.01)
    assert (wheel["x"] * 1000, wheel["y"] * 750) == pytest.approx((470, 360), abs=4)
    assert len(wheel["marks"]) == 57
    away = [((m["x"] * 1000 - 470) ** 2 + (m["y"] * 750 - 360) ** 2) ** 0.5 for m in wheel["marks"]]
    assert all(abs(one - 285) < 12 for one in away), "each stands at its tip"
    assert answer.json()["says"] == ""
    assert "Valleywind-Change" not in answer.headers


def test_a_line_over_a_known_length_and_the_rim_are_taken(empty: TestClient) -> None:
    across = {"from_x": 0.19, "from_y": 0.48, "to_x": 0.75, "to_y": 0.48}  # over the tips
    wheel = sent(empty, FILE, length="64 mm", **across).json()["wheels"][0]
    assert wheel["tip_mm"] == pytest.approx(64, rel=0.01)
    assert wheel["bore_mm"] == pytest.approx(16, rel=0.03)
    assert wheel["openings"] == 0
    shown = sent(empty, FILE, x=0.47, y=0.48, rim_x=0.75, rim_y=0.48).json()
    assert [w["teeth"] for w in shown["wheels"]] == [57]
    refused = sent(empty, FILE, length="64 mm", from_x=0.2, from_y=0.4)
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["field"] == "length"
    # Both ends in one place, or behind the camera, are no length.
    for to in (0.19, 1.0):
        result = sent(empty, FILE, length="64 mm", **across | {"to_x": to, "to_y": to and 0.48})
        assert result.status_code == 200
    assert sent(empty, FILE, length="64 mm", **across | {"to_x": 0.19}).json()["says"]


def test_a_small_wheel_in_a_large_picture_is_looked_at_closer_where_it_is_shown(empty: TestClient) -> None:
    wheel = Image.open(BytesIO(FILE)).resize((600, 450))  # 57 teeth of 18 px, which are 4 once all of it is made small
    whole, made = Image.new("L", (4000, 3000), 92), BytesIO()
    whole.paste(wheel, (2700, 1900))
    whole.save(made, "JPEG", quality=90)
    assert not any(one["sure"] for one in sent(empty, made.getvalue()).json()["wheels"])
    middle = ((2700 + 470 * 0.6) / 4000, (1900 + 360 * 0.6) / 3000)
    shown = {"x": middle[0], "y": middle[1], "rim_x": middle[0] + 170 / 4000, "rim_y": middle[1], "bore": "16 mm"}
    (one,) = sent(empty, made.getvalue(), **shown).json()["wheels"]
    assert (one["teeth"], one["sure"]) == (57, True)
    assert (one["x"], one["y"]) == pytest.approx(middle, abs=0.002)
    assert one["tip_mm"] == pytest.approx(64, rel=0.015)
    away = [((m["x"] - middle[0]) * 4000, (m["y"] - middle[1]) * 3000) for m in one["marks"]]
    assert all(abs((x * x + y * y) ** 0.5 - 171) < 8 for x, y in away), "each stands at its tip"


def put(client: TestClient, file: bytes = FILE, **more: Any) -> Any:
    return client.post("/api/rack/wheels/photos", content=file, params=more, headers={"Content-Type": "image/jpeg"})


def test_a_counted_wheel_goes_into_the_rack_with_its_picture_in_one_change(empty: TestClient) -> None:
    added = put(empty, wheels="57 worn", tip_diameter="64.1 mm", tip_off="0.4 mm", bore="16 mm")
    assert added.status_code == 200, added.text
    (wheel,) = empty.get("/api/rack").json()["wheels"]
    assert (wheel["teeth"], wheel["condition"], wheel["id"]) == (57, "worn", added.json()["ids"][0])
    assert empty.get(f"/api/rack/photos/{wheel['photo']}").headers["content-type"] == "image/jpeg"
    assert {name: wheel["measured"][name] for name in ("teeth", "tip_diameter", "tip_off", "bore")} == {
        "teeth": "57", "tip_diameter": "64.1 mm", "tip_off": "0.4 mm", "bore": "16 mm",
    }  # fmt: skip
    assert [change["text"] for change in empty.get("/api/changes").json()] == ["Added to the rack: 57."]
    assert empty.post(f"/api/changes/{added.headers['Valleywind-Change']}/undo").status_code == 200
    assert empty.get("/api/rack").json()["wheels"] == []


@pytest.mark.parametrize(("more", "held"), [({"wheels": "57", "family": 1}, 1), ({"wheels": "56 57"}, 2)])
def test_readings_are_not_kept_with_a_known_wheel_or_with_several(demo: TestClient, more: Any, held: int) -> None:
    added = put(demo, **more, tip_diameter="64.1 mm")
    assert added.status_code == 200, added.text
    wheels = [wheel for wheel in demo.get("/api/rack").json()["wheels"] if wheel["id"] in added.json()["ids"]]
    assert [bool(wheel["photo"]) for wheel in wheels] == [True] * held
    assert [wheel["measured"] for wheel in wheels] == [{}] * held


@pytest.mark.parametrize(
    ("file", "more", "field"),
    [
        (FILE, {"wheels": "3"}, "wheels"),
        (b"no picture", {"wheels": "57"}, "photo"),
        (FILE, {"wheels": "57", "tip_diameter": "wide"}, "tip_diameter"),
        (FILE, {"wheels": "57", "family": "99"}, "family"),
    ],
)
def test_a_counted_wheel_that_is_refused_leaves_nothing(empty: TestClient, file: bytes, more: Any, field: str) -> None:
    refused = put(empty, file, **more)
    assert refused.status_code in (404, 415, 422)
    assert refused.json()["errors"][0]["field"] == field
    assert empty.get("/api/rack").json()["wheels"] == []
    assert empty.get("/api/changes").json() == []


def test_a_wheel_is_found_out_from_what_its_picture_says(demo: TestClient) -> None:
    """How far the diameter may be off counts: with it two pitches are as likely, by calipers one alone."""
    wheel = sent(demo, FILE, bore="16 mm").json()["wheels"][0]
    readings = {"teeth": "57", "tip_diameter": f"{64.9} mm", "tip_method": "true", "bore": f"{wheel['bore_mm']} mm"}
    likely = []
    for off in ("", "2 mm"):
        answer = demo.post("/api/rack/identify", json={"wheels": [{**readings, "tip_off": off}]})
        assert answer.status_code == 200, answer.text
        likely.append(max(one["probability"] for one in answer.json()["identities"]))
    assert likely[1] < likely[0]
    assert demo.post("/api/rack/identify", json={"wheels": [{**readings, "tip_off": "wide"}]}).status_code == 422


def test_what_cannot_be_counted_is_a_sentence(empty: TestClient) -> None:
    made = BytesIO()
    Image.new("RGB", (400, 300), (90, 90, 90)).save(made, "PNG")
    answer = sent(empty, made.getvalue()).json()
    assert answer["wheels"] == []
    assert answer["says"]
    for file in (b"", b"no picture", FILE[:3000]):
        assert sent(empty, file).status_code == 422
    refused = sent(empty, FILE, bore="-1")
    assert refused.status_code == 422
    assert refused.json()["errors"][0]["field"] == "bore"


def test_a_turned_picture_is_counted_upright(tmp_path: Path) -> None:
    exif = Image.Exif()
    exif[ExifTags.Base.Orientation] = 6
    on_its_side, made = Image.open(BytesIO(FILE)).transpose(Image.Transpose.ROTATE_90), BytesIO()
    on_its_side.save(made, "JPEG", exif=exif)
    answer = counted(tmp_path, made.getvalue())
    assert answer["wheels"][0]["teeth"] == 57
    assert answer["wheels"][0]["centre"] == pytest.approx([470, 360], abs=4)


def counted(tmp_path: Path, file: bytes, *more: str) -> Any:
    picture = tmp_path / "wheel.jpg"
    picture.write_bytes(file)
    done = run("count", str(picture), *more, "--json")
    assert done.returncode == 0, done.stderr
    return json.loads(done.stdout)


def test_the_pocket_command_says_the_same(tmp_path: Path) -> None:
    (wheel,) = counted(tmp_path, FILE, "--bore", "16 mm")["wheels"]
    assert wheel["teeth"] == 57
    assert wheel["sure"] is True
    assert wheel["tip_diameter"] == pytest.approx(64, rel=0.01)
    assert 0 < wheel["tip_diameter_off"] < 1
    assert wheel["tip_diameter_mm"] == wheel["tip_diameter"]
    assert wheel["centre"] == pytest.approx([470, 360], abs=4)
    assert wheel["doubtful"] == []
    answer = counted(tmp_path, b"no picture")
    assert answer["wheels"] == []
    assert answer["says"].startswith("That file is not a picture.")
    large = BytesIO()
    Image.open(BytesIO(FILE)).resize((4000, 3000)).save(large, "JPEG")
    (wheel,) = counted(tmp_path, large.getvalue(), "--tip", "64 mm")["wheels"]
    assert wheel["centre"] == pytest.approx([1880, 1440], abs=16)
    assert wheel["tip_diameter"] == pytest.approx(64)


def test_it_is_said_to_people_and_refused_in_a_sentence(tmp_path: Path) -> None:
    picture = tmp_path / "wheel.jpg"
    picture.write_bytes(FILE)
    done = run("count", str(picture), "--bore", "16 mm")
    assert done.stdout.startswith("57 teeth. It measures over the tips ")
    for words in (("count", str(tmp_path / "none.jpg")), ("count", str(picture), "--bore", "wide")):
        done = run(*words)
        assert done.returncode == 2
        assert len(done.stderr.strip().splitlines()) == 1
