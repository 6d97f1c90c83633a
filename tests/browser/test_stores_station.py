"""Full sets, boxes, cutters and bar, ways to a wheel, photographs, and machines that are no lathes, in the browser."""

from io import BytesIO

import pytest
from PIL import Image
from playwright.sync_api import Page, expect


def undo(page: Page, text: str) -> None:
    done = page.get_by_role("status", name="What was done")
    expect(done).to_contain_text(text)
    done.get_by_role("button", name="Undo").click()


def test_a_pasted_list_tells_what_is_missing(page: Page, address: str) -> None:
    page.goto(f"{address}/rack/sets")
    sets = page.get_by_role("region", name="Full sets")
    expect(sets.get_by_role("status")).to_have_text("18 of the 19 wheels on Plover’s list are there.")
    expect(sets.get_by_role("listitem").filter(has_text="60")).to_contain_text("missing")
    field = sets.get_by_label("The maker’s list")
    field.fill("24 28 4O")
    sets.get_by_role("button", name="Compare").click()
    expect(sets.get_by_role("alert")).to_contain_text("4O")
    expect(field).to_have_value("24 28 4O")
    field.fill(field.input_value().replace("4O", "40\n127"))
    sets.get_by_role("button", name="Compare").click()
    expect(sets.get_by_role("status")).to_have_text("3 of the 4 wheels on Plover’s list are there.")
    expect(sets.get_by_role("listitem").filter(has_text="78")).to_contain_text("not listed")
    sets.get_by_role("button", name="Note the missing").click()
    undo(page, "What is missing stands on the shelf")


def test_two_boxes_become_one_and_two_again(page: Page, address: str) -> None:
    page.goto(f"{address}/rack/sets")
    boxes = page.get_by_role("region", name="Merge two boxes")
    boxes.get_by_label("Empty").select_option("box that came with the head")
    boxes.get_by_label("into").fill("the mill’s own box")
    boxes.get_by_role("button", name="Merge").click()
    expect(boxes.locator("option", has_text="box that came with the head")).to_have_count(0)
    undo(page, "is in “the mill’s own box”")
    expect(boxes.get_by_label("Empty").locator("option", has_text="box that came with the head")).to_have_count(1)


def test_a_cutter_is_entered_put_right_and_taken_out(page: Page, address: str) -> None:
    page.goto(f"{address}/rack/stores")
    cutters = page.get_by_role("region", name="Cutters")
    expect(cutters.get_by_role("article").filter(has_text="12 DP")).to_contain_text("not 12–13, 17–20, 135 to a rack")
    cutters.get_by_role("button", name="Add a cutter").click()
    dialog = page.get_by_role("dialog", name="Add a cutter")
    dialog.get_by_role("radio", name="DP").click()
    dialog.get_by_label("Pitch", exact=True).fill("12")
    dialog.get_by_label("Pressure angle").fill("14.5")
    dialog.get_by_label("Range engraved").fill("20-17")
    dialog.get_by_role("button", name="Save").click()
    expect(dialog.get_by_role("alert")).to_contain_text("20-17")
    dialog.get_by_label("Range engraved").fill("17-20")
    dialog.get_by_label("Number engraved").fill("6")
    page.keyboard.press("Enter")
    expect(cutters.get_by_role("button", name="17–20").last).to_contain_text("the set runs 8 to 1")
    expect(cutters.get_by_role("article").filter(has_text="12 DP")).to_contain_text("not 12–13, 135 to a rack")
    undo(page, "The cutter 17-20 is saved.")
    expect(cutters.get_by_role("article").filter(has_text="12 DP")).to_contain_text("not 12–13, 17–20")


def test_a_form_asks_before_it_is_left_once_anything_in_it_is_changed(page: Page, address: str) -> None:
    page.goto(f"{address}/rack/stores")
    page.get_by_role("button", name="Add a cutter").click()
    dialog = page.get_by_role("dialog", name="Add a cutter")
    dialog.get_by_role("radio", name="DP").click()
    page.keyboard.press("Escape")
    expect(dialog.get_by_role("alert")).to_contain_text("Leave without saving?")
    dialog.get_by_role("button", name="Stay").click()
    expect(dialog.get_by_role("radio", name="DP")).to_be_checked()
    # As it was at the start there is nothing to lose.
    dialog.get_by_role("radio", name="module").click()
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)


def test_bar_is_cut_off_with_the_keyboard_alone(page: Page, address: str) -> None:
    page.goto(f"{address}/rack/stores")
    piece = page.get_by_role("region", name="Bar stock").get_by_role("button", name="∅ 130 mm × 85 mm acetal")
    piece.focus()
    page.keyboard.press("Enter")
    dialog = page.get_by_role("dialog", name="A piece of bar")
    length = dialog.get_by_label("Length")
    length.focus()
    page.keyboard.press("Control+a")
    page.keyboard.type("O mm")
    page.keyboard.press("Enter")
    expect(dialog.get_by_role("alert")).to_be_visible()
    page.keyboard.press("Control+a")
    page.keyboard.type("60 mm")
    page.keyboard.press("Enter")
    expect(page.get_by_role("button", name="∅ 130 mm × 60 mm acetal")).to_be_visible()
    page.keyboard.press("z")
    expect(piece).to_be_visible()


def test_a_held_wheel_tells_how_to_come_by_another(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="52 teeth, Plover").click()
    panel = page.get_by_role("region", name="The chosen wheel")
    panel.get_by_role("button", name="How to get another").click()
    expect(panel.get_by_role("region", name="Cutter")).to_contain_text("35–54")
    panel.get_by_role("link", name="Sizes").click()
    expect(page.get_by_role("heading", name="A 52 for Plover")).to_be_visible()


def test_a_missing_wheel_has_its_ways(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="60 teeth, missing").click()
    panel = page.get_by_role("region", name="The chosen wheel")
    expect(panel.get_by_role("region", name="Cutter")).to_contain_text("Your cutter 55–134 cuts it")
    expect(panel.get_by_role("region", name="From bar")).to_contain_text("cast iron")
    for _ in range(4):
        panel.get_by_role("button", name="One blank more").click()
    expect(panel.get_by_role("region", name="From bar")).to_contain_text("No piece in stock")
    expect(panel.get_by_role("region", name="A larger wheel cut down")).to_contain_text("68 turn 16.93 mm off")
    panel.get_by_role("button", name="One bought elsewhere").click()
    panel.get_by_label("Its bore").fill("20 mm")
    panel.get_by_label("Its face").fill("5/8 in")
    panel.get_by_role("button", name="What does it need?").click()
    expect(panel.get_by_role("list")).to_contain_text("Cut a keyway of 4.76 mm.")


def test_a_photograph_is_kept_and_a_letter_is_not(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="96 teeth").click()
    panel = page.get_by_role("region", name="The chosen wheel")
    picture = BytesIO()
    Image.new("RGB", (60, 40), "sienna").save(picture, "PNG")
    panel.get_by_label("Photograph", exact=True).set_input_files(
        {"name": "letter.jpg", "mimeType": "image/jpeg", "buffer": b"Dear"}
    )
    expect(page.get_by_role("status", name="What was done")).to_contain_text("That file is not a picture.")
    panel.get_by_label("Photograph", exact=True).set_input_files(
        {"name": "96.png", "mimeType": "image/png", "buffer": picture.getvalue()}
    )
    expect(panel.get_by_role("img", name="the 96 as it was photographed")).to_be_visible()
    undo(page, "The 96 has a photograph.")
    expect(panel.get_by_role("img", name="the 96 as it was photographed")).to_have_count(0)


def test_two_of_a_set_are_found_out_together(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_label("Wheels, as you count them").fill("46 30")
    page.get_by_label("Place", exact=True).fill("fair")
    page.keyboard.press("Enter")
    board = page.get_by_role("region", name="Not identified")
    page.get_by_role("checkbox", name="Choose several").click()
    board.get_by_role("button", name="46 teeth, fair").click()
    board.get_by_role("button", name="30 teeth, fair").click()
    panel = page.get_by_role("region", name="The chosen wheels")
    panel.get_by_label("46 teeth, over the tips").fill("60.96")
    panel.get_by_label("30 teeth, over the tips").fill("40.6")
    panel.get_by_role("button", name="Find out").click()
    expect(panel.get_by_role("listitem").first).to_contain_text("20 DP")


def test_a_rotary_table_is_entered_with_its_plates(page: Page, address: str) -> None:
    page.goto(f"{address}/machines")
    page.get_by_role("link", name="Add a rotary table").click()
    page.get_by_label("Name").fill("Wigeon")
    page.get_by_label("Crank turns").fill("9O:1")
    page.get_by_label("Plates").fill("24 28 30 / 34 37@80")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("alert")).to_contain_text("9O")
    page.get_by_label("Crank turns").fill("90:1")
    page.get_by_role("button", name="Save").click()
    card = page.get_by_role("article").filter(has=page.get_by_role("heading", name="Wigeon"))
    expect(card).to_contain_text("24 28 30")
    card.get_by_role("link", name="Edit").click()
    expect(page.get_by_label("Plates")).to_have_value("24 28 30 / 34 37@80")


def test_a_heads_arm_is_typed_dragged_and_believed(page: Page, address: str) -> None:
    page.goto(f"{address}/machines/heron")
    page.get_by_role("radio", name="Head’s arm").click()
    view = page.get_by_role("region", name="End view")
    view.get_by_label("Try a train on this record").fill("40/36*28/48")
    expect(view.get_by_role("status")).to_contain_text("40/36 × 28/48 fits: 6.5 mm clear.")
    page.get_by_label("Slot A: farthest").fill("56")
    expect(view.get_by_role("status")).to_contain_text("does not fit: stud would sit")
    page.get_by_label("Slot A: farthest").fill("40")
    expect(page.get_by_role("alert")).to_contain_text("40")
    page.get_by_label("Slot A: farthest").fill("56")
    view.get_by_role("button", name="first shaft").press("ArrowUp")
    expect(page.get_by_label("Up", exact=True)).to_have_value("101")
    page.get_by_label("Studs").fill("0")
    expect(view.get_by_role("status")).to_contain_text("needs 1 stud; the arm has 0")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Heron is saved.")
    page.goto(f"{address}/dividing?ask=divide%20127%20on%20Heron")
    cards = page.get_by_role("list", name="Ways, the best first").get_by_role("button")
    expect(cards.last).to_contain_text("exact, but the gears do not fit on the arm")
    page.goto(f"{address}/machines/heron")
    page.get_by_role("checkbox", name="The arm that carries the gears is on record").uncheck()
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Heron is saved.")
    page.goto(f"{address}/dividing?ask=divide%20127%20on%20Heron")
    expect(cards.first).to_contain_text("Differential indexing")


@pytest.mark.parametrize("slug", ["avocet", "heron", "grebe"])
def test_every_machine_has_its_record(page: Page, address: str, slug: str) -> None:
    page.goto(f"{address}/machines/{slug}")
    expect(page.get_by_role("heading", level=1)).to_contain_text("record")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("is saved.")


def test_a_machine_is_copied_and_deleted_and_comes_back(page: Page, address: str) -> None:
    page.goto(f"{address}/machines/heron")
    page.get_by_role("link", name="Copy").click()
    expect(page.get_by_role("heading", name="Add a mill")).to_be_visible()
    expect(page.get_by_label("Table screw")).to_have_value("6 mm")
    page.get_by_label("Name").fill("Bittern")
    page.get_by_role("button", name="Save").click()
    expect(page).to_have_url(f"{address}/mill/bittern")
    page.goto(f"{address}/machines/bittern")
    page.get_by_role("button", name="Delete", exact=True).click()
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Its wheels stay in the rack")
    dialog.get_by_role("button", name="Cancel").click()
    page.get_by_role("button", name="Delete", exact=True).click()
    dialog.get_by_role("button", name="Delete").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Bittern is deleted.")
    expect(page.get_by_role("heading", name="Bittern")).to_have_count(0)
    page.get_by_role("status", name="What was done").get_by_role("button", name="Undo").click()
    expect(page.get_by_role("heading", name="Bittern")).to_be_visible()
    # One on which a wheel is being cut stays, and says why.
    page.goto(f"{address}/machines/heron")
    page.get_by_role("button", name="Delete", exact=True).click()
    dialog.get_by_role("button", name="Delete").click()
    expect(dialog.get_by_role("alert")).to_contain_text("being used for another session")
