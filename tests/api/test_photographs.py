"""Photographs from outside: what is opened, at what cost, and what is kept."""

from io import BytesIO
from typing import Any

import pytest
from fastapi.testclient import TestClient
from PIL import ExifTags, Image, ImageFile

from valleywind.api import fields
from valleywind.core.refusal import Refusal
from valleywind.formats.photograph import small


def posted(client: TestClient, file: bytes) -> str:
    """Why it is refused."""
    answer = client.post("/api/rack/photos?wheel=1", content=file, headers={"Content-Type": "image/png"})
    assert answer.status_code == 422
    refused: str = answer.json()["errors"][0]["code"]
    return refused


def a_file(mode: str, size: tuple[int, int], kind: str, **more: Any) -> bytes:
    file = BytesIO()
    Image.new(mode, size).save(file, kind, **more)
    return file.getvalue()


# Runs for ever where a program reads it.
ENDLESS = b"%!PS-Adobe-3.0 EPSF-3.0\n%%BoundingBox: 0 0 10 10\n{} loop\n"


@pytest.mark.parametrize(
    ("file", "why"),
    [
        (a_file("1", (9000, 5000), "PNG"), "photo_too_many_pixels"),
        (a_file("L", (4000, 4000), "JPEG", progressive=True), "photo_too_many_pixels"),
        (a_file("1", (13_000, 2000), "PNG"), "photo_too_many_pixels"),
        (a_file("1", (1, 60_000), "PNG"), "photo_too_narrow"),
        (ENDLESS, "not_a_picture"),
        (a_file("RGB", (9, 9), "BMP"), "not_a_picture"),
        (a_file("RGB", (9, 9), "TIFF"), "not_a_picture"),
        (a_file("RGB", (99, 99), "PNG")[:-30], "not_a_picture"),
    ],
)
def test_a_picture_is_opened_only_where_it_can_do_no_harm(
    demo: TestClient, monkeypatch: pytest.MonkeyPatch, file: bytes, why: str
) -> None:
    if why != "not_a_picture":
        monkeypatch.setattr(ImageFile.ImageFile, "load", lambda _: pytest.fail("a pixel was decoded"))
    assert posted(demo, file) == why


def test_a_picture_is_turned_upright_and_tells_nothing_else() -> None:
    exif = Image.Exif()
    exif[ExifTags.Base.Orientation] = 6
    exif[ExifTags.Base.Make] = "a camera"
    kept = Image.open(BytesIO(small(a_file("RGB", (400, 200), "JPEG", exif=exif, comment=b"here"))))
    assert kept.size == (200, 400)
    assert not kept.getexif()
    assert "comment" not in kept.info


def test_a_picture_is_decoded_before_it_is_its_turn_to_write(demo: TestClient, monkeypatch: pytest.MonkeyPatch) -> None:
    def decoding(_: bytes) -> bytes:
        assert not demo.app.state.turns.writing.locked()  # type: ignore[attr-defined]
        raise Refusal("not_a_picture", "photo", None)

    monkeypatch.setattr(fields, "small", decoding)
    assert posted(demo, b"x") == "not_a_picture"
