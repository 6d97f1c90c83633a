"""A lathe of one's own: entered, tried, given its wheels, planned on."""

import re

from playwright.sync_api import Page, expect


def test_from_an_empty_shop_to_the_first_train(page: Page, own_shop: str) -> None:
    page.goto(own_shop)
    page.get_by_role("link", name="Add a lathe").click()
    page.get_by_label("Name").fill("Wren")
    page.get_by_label("Lead screw").fill("8 tpi")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_text("No wheels are chosen for it.").first).to_be_visible()
    page.get_by_role("button", name="Add a family").click()
    dialog = page.get_by_role("dialog", name="A family of wheels")
    dialog.get_by_label("Name").fill("Wren's wheels")
    dialog.get_by_label("Pitch", exact=True).fill("1.5")
    dialog.get_by_role("button", name="Save").click()
    expect(page.get_by_role("dialog")).to_have_count(0)
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Wren is saved.")
    expect(page).to_have_url(re.compile("/lathe/wren$"))
    page.get_by_role("combobox", name="What is wanted").fill("16 tpi")
    expect(page.get_by_role("alert")).to_contain_text("Wren has no wheels yet. Enter its wheels first, under Machines.")
    page.get_by_role("link", name="Machines").click()
    page.get_by_label("Wheels held").fill("24 32 36 40 45 48 50 55 60 64 72 80")
    page.get_by_role("button", name="Save").click()
    page.get_by_role("link", name="Plan a thread on Wren").click()
    page.get_by_role("combobox", name="What is wanted").fill("16 tpi")
    expect(page.get_by_role("radiogroup", name="Trains").get_by_role("radio").first).to_contain_text("exact")


def test_a_record_is_typed_dragged_and_tried(page: Page, address: str) -> None:
    page.goto(f"{address}/machines")
    card = page.get_by_role("article").filter(has=page.get_by_role("heading", name="Plover"))
    card.get_by_role("link", name="Change its record").click()
    page.get_by_label("A train known to go on").fill("76/66*32/78")
    told = page.get_by_role("region", name="End view").get_by_role("status")
    expect(told).to_have_text("76/66 × 32/78 goes on: 17.8 mm clear.")
    handle = page.get_by_role("button", name="first shaft: drag it")
    handle.press("ArrowRight")
    expect(page.get_by_label("To the right")).to_have_value("73")
    box = handle.bounding_box()
    assert box
    middle = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0] + 150, middle[1], steps=5)
    page.mouse.up()
    expect(told).to_contain_text("does not go on")
    page.get_by_label("Swing from, °").fill("200")
    expect(page.get_by_text("The swing ends at 125° before it begins.")).to_be_visible()
    page.get_by_label("Swing from, °").fill("15")
    for grip, key, label, value in (
        ("slot B, farthest end", "ArrowUp", "Slot B: farthest", "193"),
        ("swing to 125°", "ArrowDown", "to, °", "122"),
    ):
        for _ in range(3):
            page.get_by_role("button", name=grip.split(" 1")[0]).press(key)
        expect(page.get_by_label(label, exact=True)).to_have_value(value)
    page.get_by_role("button", name="corner 1 of the cover").press("ArrowLeft")
    expect(page.get_by_label("Cover: its corners")).to_have_value(re.compile(r"^-153 "))
    page.get_by_role("button", name="Measure it with calipers").click()
    for label, typed in (
        ("Over both bosses", "214.78"),
        ("Height between", "168"),
        ("First boss across", "32"),
        ("Screw’s collar across", "32"),
    ):
        page.get_by_label(label).fill(typed)
    page.get_by_role("button", name="Work out its place").click()
    expect(page.get_by_label("To the right")).to_have_value("72")
    expect(told).to_have_text(re.compile("goes on: 17.[78] mm clear"))
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Plover is saved.")
