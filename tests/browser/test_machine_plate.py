"""A machine known from its plate: typed, put right, put into its record."""

import re

import pytest
from playwright.sync_api import Page, expect

from tests.browser.test_machines_station import Actions, to_a_first_train

PLATES = {
    "Lathe": ("20 tpi 30 60\n10 tpi 60 60\n16 tpi 30 48\n8 tpi 60 48", "16 tpi", "lathe", 7),
    "Hobber": ("31: 24/31\n37: 24/37\n48: 24/48\n60: 24/60", "hob 37", "hobber", 8),
    "Mill": ("360 mm 48/48\n180 mm 48/24\n240 mm 36/24", "lead 240 mm", "mill", 8),
}


@pytest.mark.parametrize("kind", list(PLATES))
def test_from_nothing_to_a_first_train_by_the_plate(page: Page, own_shop: str, kind: str) -> None:
    lines, ask, station, most = PLATES[kind]
    do = Actions()
    page.goto(own_shop)
    do.click(page.get_by_role("link", name="Add a machine from its plate"))
    if kind != "Lathe":
        do.click(page.get_by_role("radio", name=kind))
    do.fill(page.get_by_label("Name"), "Linnet")
    do.fill(page.get_by_label(re.compile("^Lines of the")), lines)
    expect(page.get_by_role("status").filter(has_text="lines agree")).to_be_visible()
    to_a_first_train(page, do, station, ask)
    assert do.count <= most, do.count


def test_a_misprint_is_named_put_right_and_printed_anew(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/dunlin/plate")
    typed = page.get_by_label("Lines of the plate, as they stand")
    wrong = page.get_by_role("listitem").filter(has_text="Line 24:")
    expect(wrong).to_contain_text("Agrees with the others with 52 tpi for 54 tpi.")
    page.get_by_role("button", name="Line 24: 52 tpi for 54 tpi").click()
    expect(wrong).to_have_count(0)
    expect(typed).to_have_value(re.compile("\n52 32 64 G 3\n"))
    page.emulate_media(media="print")
    printed = page.get_by_role("region", name="Plate, printed")
    expect(printed.get_by_role("row")).to_have_count(40)
    expect(printed).to_contain_text("52 tpi 32/64")
    page.emulate_media(media="screen")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("button", name="Save")).to_be_disabled()
    page.reload()
    expect(page.get_by_role("status").filter(has_text="wrong")).to_have_count(0)
    page.get_by_role("button", name="Use in the record").click()
    expect(page.get_by_text("What the plate gives is in Dunlin’s record.")).to_be_visible()
    page.goto(f"{address}/lathe/dunlin?ask=8 tpi")
    expect(page.get_by_role("radio").filter(has_text="on the plate").first).to_be_visible()


def test_a_plate_half_typed_is_not_left_in_silence(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/wren/plate")
    typed = page.get_by_label("Lines of the plate, as they stand")
    typed.fill("20 tpi 20 50\n16 tpi 20 45")
    expect(page.get_by_text("No constant can be told from these lines yet.")).to_be_visible()
    expect(page.get_by_role("button", name="Use in the record")).to_have_count(0)
    page.get_by_role("link", name="Rack").click()
    page.get_by_role("dialog").get_by_role("button", name="Stay").click()
    expect(typed).to_have_value("20 tpi 20 50\n16 tpi 20 45")


def test_turns_and_travel_go_into_the_record(page: Page, own_shop: str) -> None:
    page.goto(own_shop)
    page.get_by_role("link", name="Identify an unknown lathe").click()
    page.get_by_label("Carriage moved").fill("63.5 mm")
    page.get_by_role("button", name="What lathe is it?").click()
    page.get_by_role("link", name=re.compile("^Use 8 tpi")).first.click()
    expect(page.get_by_label("Lead screw")).to_have_value("8 tpi")
