"""A wheel counted in a picture and put into the rack, as a person finds it."""

import re
import time
from urllib.parse import parse_qs, urlsplit

import pytest
from playwright.sync_api import FilePayload, Page, expect

from tests.photos import Scene, Wheel, as_jpeg, photograph

PICTURE: FilePayload = {
    "name": "wheel.jpg", "mimeType": "image/jpeg", "buffer": as_jpeg(photograph(Scene((Wheel(53, broken=(7,)),)))),
}  # fmt: skip


def test_a_wheel_is_counted_and_added_with_its_picture(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="Count from a picture").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("How long").fill("16 mm")
    dialog.get_by_label("Picture of a wheel").set_input_files(PICTURE)
    status = dialog.get_by_role("status", name="Counted")
    expect(status).to_contain_text("53 teeth. Worn, broken or hidden: ")
    expect(status).to_contain_text("It measures over the tips 73.")
    sent: list[str] = []
    page.on("request", lambda request: sent.append(request.url) if request.method == "POST" else None)
    dialog.get_by_role("button", name="Add as 53").click()
    expect(status).to_contain_text("In the rack as 53")
    dialog.get_by_role("button", name="Close").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Added to the rack: 53, with its picture.")
    wheels = page.request.get(f"{address}/api/rack", params={"text": "53"}).json()["wheels"]
    assert any(wheel["teeth"] == 53 and wheel["photo"] for wheel in wheels)
    assert len([url for url in sent if "/api/rack" in url]) == 1, "nothing is left half done where the line drops"


def test_a_picture_of_the_demo_is_tried_and_the_wheel_found_out(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="Count from a picture").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_role("button", name="Pictures to try it with").click()
    dialog.get_by_role("button", name="A wheel for Plover").click()
    status = dialog.get_by_role("status", name="Counted")
    expect(status).to_contain_text("57 teeth.")
    expect(dialog.get_by_label("How long")).to_have_value("7/8 in")
    status.get_by_role("button", name="What wheel is it?").click()
    expect(status.get_by_label("Over the tips", exact=True)).to_have_value(re.compile(r"^12[45]\.\d+ mm$"))
    status.get_by_role("button", name="Find out").click()
    expect(status.get_by_role("listitem").first).to_contain_text("12 DP")
    status.get_by_role("button", name="It is of Plover’s wheels").or_(
        status.get_by_role("button", name="It is of Plover's wheels")
    ).click()
    expect(status.get_by_label("Family").locator("option:checked")).to_contain_text("Plover")
    # Added without a family, what its picture said stands with it.
    status.get_by_label("Family").select_option("not identified")
    status.get_by_role("button", name="Add as 57").click()
    expect(status).to_contain_text("In the rack as 57")

    def kept() -> list[str]:
        wheels = page.request.get(f"{address}/api/rack").json()["wheels"]
        return [w["measured"].get("tip_off", "") for w in wheels if w["teeth"] == 57 and w["photo"]]

    deadline = time.monotonic() + 20
    while not any(kept()) and time.monotonic() < deadline:
        page.wait_for_timeout(100)
    assert [one.endswith(" mm") for one in kept()] == [True]


def test_the_rim_and_a_known_length_are_drawn_on_the_picture(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="Count from a picture").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Picture of a wheel").set_input_files(PICTURE)
    status = dialog.get_by_role("status", name="Counted")
    expect(status).to_contain_text("53 teeth")
    requests: list[str] = []
    page.on("request", lambda request: requests.append(request.url) if "/api/rack/count" in request.url else None)
    picture = dialog.get_by_role("button", name="Show the middle of a wheel")

    def drag(begin: tuple[float, float], end: tuple[float, float]) -> None:
        box = picture.bounding_box()
        assert box is not None
        for n, (x, y) in enumerate((begin, end)):
            page.mouse.move(box["x"] + x * box["width"], box["y"] + y * box["height"], steps=4)
            page.mouse.down() if n == 0 else page.mouse.up()

    with page.expect_response("**/api/rack/count*"):
        drag((0.5, 0.5), (0.8, 0.5))
    assert "rim_x=" in requests[-1]
    expect(status).to_contain_text("53 teeth")
    expect(dialog.get_by_text("Tap the middle of one tooth")).to_be_visible()
    with page.expect_response("**/api/rack/count*"):
        drag((0.7985, 0.5), (0.7985, 0.5))
    assert "tooth_x=" in requests[-1]
    dialog.get_by_label("Known length").select_option("a line in the picture")
    dialog.get_by_label("How long").fill("73 mm")
    expect(dialog.get_by_text("Draw a line over that length in the picture.")).to_be_visible()
    with page.expect_response("**/api/rack/count*"):
        drag((0.2, 0.5), (0.8, 0.5))
    expect(status).to_contain_text("It measures over the tips 73.")
    before = picture.bounding_box()
    dialog.get_by_role("button", name="Zoom in").click()
    after = picture.bounding_box()
    assert before is not None
    assert after is not None
    assert after["width"] > 1.3 * before["width"]
    requests.clear()
    drag((0.5, 0.4), (0.6, 0.4))
    assert requests == [], "a drag moves what is closer"
    dialog.get_by_role("button", name="Draw a line").click()
    with page.expect_response("**/api/rack/count*"):
        drag((0.5, 0.4), (0.6, 0.4))
    begin, end = (float(parse_qs(urlsplit(requests[-1]).query)[name][0]) for name in ("from_x", "to_x"))
    assert (begin, end) == pytest.approx((0.5, 0.6), abs=0.01)


def test_the_middle_and_the_tips_are_shown_by_keys(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="Count from a picture").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Picture of a wheel").set_input_files(PICTURE)
    expect(dialog.get_by_role("status", name="Counted")).to_contain_text("53 teeth")
    requests: list[dict[str, list[str]]] = []
    page.on(
        "request", lambda r: requests.append(parse_qs(urlsplit(r.url).query)) if "/api/rack/count" in r.url else None
    )
    dialog.get_by_role("button", name="Count again").focus()
    page.keyboard.press("Tab")
    expect(dialog.get_by_role("button", name="Show the middle of a wheel")).to_be_focused()
    page.keyboard.press("ArrowRight")
    page.keyboard.press("Shift+ArrowUp")
    with page.expect_response("**/api/rack/count*"):
        page.keyboard.press("Enter")
    assert (float(requests[-1]["x"][0]), float(requests[-1]["y"][0])) == pytest.approx((0.52, 0.498))
    page.keyboard.press("ArrowLeft")
    page.keyboard.press("Space")
    for _ in range(15):
        page.keyboard.press("ArrowRight")
    with page.expect_response("**/api/rack/count*"):
        page.keyboard.press("Enter")
    assert (float(requests[-1]["x"][0]), float(requests[-1]["rim_x"][0])) == pytest.approx((0.5, 0.8))


def test_what_is_no_wheel_is_told_and_nothing_is_added(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="Count from a picture").click()
    dialog = page.get_by_role("dialog")
    text: FilePayload = {"name": "a.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
    dialog.get_by_label("Picture of a wheel").set_input_files(text)
    expect(dialog.get_by_role("alert")).to_contain_text("That file is not a picture.")
