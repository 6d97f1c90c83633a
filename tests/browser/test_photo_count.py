"""A wheel counted in a picture and put into the rack, as a person finds it."""

from playwright.sync_api import FilePayload, Page, expect

from tests.photos import Scene, Wheel, as_jpeg, photograph

PICTURE: FilePayload = {
    "name": "wheel.jpg", "mimeType": "image/jpeg", "buffer": as_jpeg(photograph(Scene((Wheel(53, broken=(7,)),)))),
}  # fmt: skip


def test_a_wheel_is_counted_and_added_with_its_picture(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="Count from a picture").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Its bore, for the diameters").fill("16 mm")
    dialog.get_by_label("Picture of a wheel").set_input_files(PICTURE)
    told = dialog.get_by_role("status", name="Counted")
    expect(told).to_contain_text("53 teeth. Worn, broken or hidden: ")
    expect(told).to_contain_text("It measures over the tips 73.")
    dialog.get_by_role("button", name="Add as 53").click()
    expect(told).to_contain_text("In the rack as 53")
    dialog.get_by_role("button", name="Close").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Added to the rack: 53, with its picture.")
    wheels = page.request.get(f"{address}/api/rack", params={"text": "53"}).json()["wheels"]
    assert any(wheel["teeth"] == 53 and wheel["photo"] for wheel in wheels)


def test_what_is_no_wheel_is_told_and_nothing_is_added(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="Count from a picture").click()
    dialog = page.get_by_role("dialog")
    text: FilePayload = {"name": "a.jpg", "mimeType": "image/jpeg", "buffer": b"no picture"}
    dialog.get_by_label("Picture of a wheel").set_input_files(text)
    expect(dialog.get_by_role("alert")).to_contain_text("That file is not a picture.")
