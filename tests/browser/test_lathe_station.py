"""Journeys through the Lathe station as a person makes them."""

import re
from io import BytesIO
from pathlib import Path

import pytest
from playwright.sync_api import Browser, Locator, Page, expect
from pypdf import PdfReader


def ask(page: Page, text: str) -> None:
    page.get_by_role("combobox", name="What is wanted").fill(text)


def trains(page: Page) -> Locator:
    return page.get_by_role("region", name="Trains").get_by_role("radiogroup", name="Trains").get_by_role("radio")


def sheet(page: Page) -> Locator:
    return page.get_by_role("region", name="Set-up sheet")


def drawing(page: Page) -> Locator:
    return page.get_by_role("region", name="Drawing").get_by_role("img")


def test_a_first_ask_by_mouse(lathe: Page) -> None:
    expect(lathe.get_by_text("cuts 26 tpi")).to_be_visible()
    ask(lathe, "M14x2")
    expect(trains(lathe).first).to_contain_text("Goes as any other", timeout=2000)
    expect(lathe.get_by_role("search")).to_contain_text("2 mm lead, right-hand, 60°")
    expect(sheet(lathe)).to_contain_text("1.9999")
    expect(sheet(lathe)).to_contain_text("the error gathers to 0.6 µm")
    expect(drawing(lathe)).to_have_accessible_name(
        "Plover, end view from the gear side: 76 driver on the spindle stud, 66 driven on the stud, "
        "32 driver on the stud, 78 driven on the screw"
    )
    shelf = lathe.get_by_role("list", name="wheels in order of size")
    expect(shelf.get_by_role("listitem", name="76, in this plan")).to_be_visible()
    expect(shelf.get_by_role("listitem", name="32, on the lathe now, stays")).to_be_visible()
    expect(shelf.get_by_role("listitem", name="60, missing")).to_be_visible()

    trains(lathe).nth(1).click()
    expect(drawing(lathe)).to_have_accessible_name(re.compile("68 driver on the spindle stud, 64 driven"))
    expect(sheet(lathe)).to_contain_text("64 inner with 32 outer")
    expect(shelf.get_by_role("listitem", name="68, in this plan")).to_be_visible()
    lathe.reload()
    expect(drawing(lathe)).to_have_accessible_name(re.compile("68 driver"))


def test_mounting_and_undo(lathe: Page) -> None:
    ask(lathe, "M14x2")
    lathe.get_by_role("button", name="Mounted").click()
    expect(lathe.get_by_role("status", name="What was done")).to_contain_text("Recorded: 76/66 × 32/78 is on Plover.")
    expect(trains(lathe).first).to_contain_text("already on the machine")
    expect(lathe.get_by_role("button", name="Is on")).to_be_disabled()
    lathe.get_by_role("button", name="Undo").click()
    expect(trains(lathe).first).to_contain_text("leave 2, put on 2")


def test_the_whole_way_by_keyboard(lathe: Page) -> None:
    press = lathe.keyboard.press
    expect(lathe.get_by_role("combobox", name="What is wanted")).to_be_focused()
    lathe.keyboard.type("M14x2")
    press("Enter")
    expect(trains(lathe).first).to_be_visible()
    while lathe.evaluate("document.activeElement.closest('[aria-label=Trains][role=radiogroup]') === null"):
        press("Tab")
    press("ArrowDown")
    expect(trains(lathe).nth(1)).to_be_checked()
    press("ArrowUp")
    expect(trains(lathe).first).to_be_checked()
    press("o")
    expect(lathe.get_by_role("radio", name="Most exact")).to_be_checked()
    press("u")
    expect(sheet(lathe)).to_contain_text("in lead")
    press("n")
    expect(lathe.locator("html")).to_have_class("night")
    press("m")
    expect(lathe.get_by_role("status", name="What was done")).to_contain_text("Recorded")
    press("z")
    expect(trains(lathe).first).to_contain_text("leave 2, put on 2")
    press("?")
    dialog = lathe.get_by_role("dialog", name="Keys")
    expect(dialog).to_contain_text("go to the ask line")
    press("Escape")
    expect(dialog).to_be_hidden()
    press("/")
    expect(lathe.get_by_role("combobox", name="What is wanted")).to_be_focused()
    lathe.keyboard.type("26 tpi")
    press("Enter")
    expect(sheet(lathe)).to_contain_text("26 tpi")


def test_another_order_and_what_stands_beside(lathe: Page) -> None:
    lathe.get_by_role("button", name="on Plover, choose another lathe").click()
    lathe.get_by_role("option", name="Curlew").click()
    ask(lathe, "26 tpi")
    lathe.get_by_role("radio", name="Most exact").click()
    unfit = lathe.get_by_role("group", name="Most exact, but does not go on").get_by_role("radio")
    unfit.click()
    note = lathe.get_by_role("note")
    expect(note).to_contain_text("Does not go on")
    expect(note).to_contain_text("into the cover")
    expect(sheet(lathe).get_by_role("button", name="Print")).to_be_disabled()
    lathe.get_by_role("group", name="Best with one more wheel").get_by_role("radio").click()
    expect(note).to_contain_text(re.compile(r"needs an? \d+, which is not held"))
    expect(lathe.get_by_role("listitem", name=re.compile("not held, wanted by this plan"))).to_have_count(1)


def test_a_bad_ask_keeps_what_was_typed_and_offers_what_is_near(lathe: Page) -> None:
    ask(lathe, "M13")
    expect(lathe.get_by_role("search")).to_contain_text("M13 is not a coarse size of the metric series.")
    lathe.get_by_role("search").get_by_role("button", name="M14", exact=True).click()
    expect(lathe.get_by_role("combobox", name="What is wanted")).to_have_value("M14")
    expect(trains(lathe).first).to_be_visible()
    ask(lathe, "bananas")
    lathe.keyboard.press("Enter")
    expect(lathe.get_by_role("alert")).to_contain_text("“bananas” is not understood.")
    expect(lathe.get_by_role("combobox", name="What is wanted")).to_have_value("bananas")


def test_the_line_completes_while_typing(lathe: Page) -> None:
    ask(lathe, "M14x2")
    expect(trains(lathe).first).to_be_visible()
    ask(lathe, "1/2-2")
    offered = lathe.get_by_role("listbox", name="How it could go on").get_by_role("option")
    expect(offered).to_have_text(
        [
            re.compile("1/2-20 UNF.*20 tpi, 12.7 mm across, 60°"),
            re.compile("1/2-28 UNEF"),
            re.compile("1/2-26 ME.*55°"),
        ]
    )
    # What is not yet whole is left to be typed on: the plan before it stays.
    expect(drawing(lathe)).to_have_accessible_name(re.compile("76 driver"))
    lathe.keyboard.press("ArrowDown")
    lathe.keyboard.press("ArrowDown")
    lathe.keyboard.press("Enter")
    expect(lathe.get_by_role("combobox", name="What is wanted")).to_have_value("1/2-28 UNEF")
    expect(trains(lathe).first).to_contain_text("28 tpi")
    expect(offered).to_have_count(0)


def test_a_wish_that_nothing_meets(lathe: Page) -> None:
    ask(lathe, "0.01 mm")
    expect(lathe.get_by_text("Nothing meets this.")).to_be_visible()


def test_plain_fields_beside_the_line(lathe: Page) -> None:
    ask(lathe, "0.5 mm")
    lathe.get_by_role("button", name="Plain fields").click()
    expect(lathe.get_by_label("Pitch")).to_have_value("0.5 mm")
    lathe.get_by_label("Nut length").fill("2 in")
    lathe.get_by_role("button", name="Ask with these").click()
    expect(sheet(lathe)).to_contain_text("50.8 mm long")
    lathe.get_by_label("Pitch").fill("26 tpi")
    lathe.get_by_label("Starts").fill("2")
    lathe.get_by_role("radio", name="Left hand").click()
    lathe.get_by_role("button", name="Ask with these").click()
    expect(lathe.get_by_role("search")).to_contain_text("26 tpi pitch, 2 starts, 1.95 mm lead, left-hand, 60°")
    expect(sheet(lathe)).to_contain_text("Tumbler reversed for a left-hand thread.")
    # A thread of a series keeps its name and its flanks when only the hand is changed, and the stated nut.
    ask(lathe, "1/4 BSP over 9 mm")
    expect(lathe.get_by_label("Pitch")).to_have_value("19 tpi")
    lathe.get_by_role("radio", name="Left hand").click()
    lathe.get_by_role("button", name="Ask with these").click()
    expect(lathe.get_by_role("combobox", name="What is wanted")).to_have_value("1/4 BSP left hand over 9 mm")
    expect(lathe.get_by_role("search")).to_contain_text("19 tpi, left-hand, 55°")
    lathe.get_by_label("Nut length").fill("a lot")
    lathe.get_by_role("button", name="Ask with these").click()
    expect(lathe.get_by_role("alert")).to_contain_text("“a lot” is not a number.")


def test_wheels_turn_in_mesh_and_rest_when_motion_is_not_wanted(browser: Browser, address: str) -> None:
    page = browser.new_context(reduced_motion="no-preference").new_page()
    page.goto(f"{address}/lathe/plover?ask=M14x2")
    expect(page.get_by_role("button", name="Stop")).to_be_visible()
    turned = """() => [...document.querySelectorAll('section[aria-label=Drawing] [data-turns]')]
        .map(w => [Number(w.dataset.turns), w.transform.baseVal.numberOfItems ? w.transform.baseVal[0].angle : 0])"""
    page.wait_for_function(f"() => Math.abs(({turned})()[0][1]) > 2")
    wheels = page.evaluate(turned)
    (first, angle), rest = wheels[0], wheels[1:]
    for turns, other in rest:
        assert other / angle == pytest.approx(turns / first, rel=1e-6)
    page.get_by_role("button", name="Stop").click()
    still = page.evaluate(turned)
    page.evaluate("() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))")
    assert page.evaluate(turned) == still
    page.context.close()


def test_a_scratch_pass_is_told_yes_or_what_went_wrong(lathe: Page) -> None:
    ask(lathe, "M14x2")
    expect(trains(lathe).first).to_be_visible()
    sheet(lathe).get_by_label("Length").fill("20.02")
    sheet(lathe).get_by_role("button", name="Is it right?").click()
    expect(sheet(lathe)).to_contain_text("Yes: 20.02 mm agrees with 20.00 mm")
    sheet(lathe).get_by_label("Length").fill("85.1")
    lathe.keyboard.press("Enter")
    expect(sheet(lathe)).to_contain_text("No: 85.10 mm is not 20.00 mm.")
    sheet(lathe).get_by_role("button", name="The 32 and the 66 are exchanged on their stud.").click()
    expect(lathe.get_by_role("note")).to_contain_text("As it may stand now")
    expect(drawing(lathe)).to_have_accessible_name(re.compile("32 driven on the stud, 66 driver on the stud"))
    lathe.get_by_role("button", name="Back to the plan").click()
    expect(drawing(lathe)).to_have_accessible_name(re.compile("66 driven on the stud, 32 driver on the stud"))
    sheet(lathe).get_by_label("Length").fill("a bit")
    lathe.keyboard.press("Enter")
    expect(sheet(lathe)).to_contain_text("“a bit” is not a number.")


def test_reduced_motion_is_respected(lathe: Page) -> None:
    ask(lathe, "M14x2")
    expect(lathe.get_by_role("button", name="Turn")).to_be_visible()
    expect(lathe.locator("section[aria-label=Drawing] [data-turns][transform]")).to_have_count(0)


def test_the_printed_sheet_is_one_page(lathe: Page) -> None:
    ask(lathe, "M14x2")
    expect(trains(lathe).first).to_be_visible()
    reader = PdfReader(BytesIO(lathe.pdf(prefer_css_page_size=True)))
    assert len(reader.pages) == 1
    text = " ".join(reader.pages[0].extract_text().split())
    for told in (
        "M14x2 on Plover",
        "1.9999 mm lead",
        "slot A, 116.4 mm",
        "keyed together",
        "10 leads measure 20.00 mm",
    ):
        assert told in text
    assert "Least trouble" not in text
    assert "spindle stud" in text
    # Six wheels on two studs, with the longest steps.
    ask(lathe, "50 mm")
    expect(sheet(lathe)).to_contain_text("49.8929")
    reader = PdfReader(BytesIO(lathe.pdf(prefer_css_page_size=True)))
    assert len(reader.pages) == 1
    assert "licensed person come first" in " ".join(reader.pages[0].extract_text().split())


def test_the_sheet_can_be_downloaded(lathe: Page, tmp_path: Path) -> None:
    ask(lathe, "M14x2")
    expect(trains(lathe).first).to_be_visible()
    with lathe.expect_download() as waiting:
        lathe.get_by_role("link", name="PDF").click()
    waiting.value.save_as(tmp_path / "sheet.pdf")
    assert waiting.value.suggested_filename == "plover-M14x2.pdf"
    assert "M14x2 on Plover" in PdfReader(tmp_path / "sheet.pdf").pages[0].extract_text()


def test_a_server_that_does_not_answer(lathe: Page) -> None:
    lathe.route("**/api/**", lambda route: route.abort())
    ask(lathe, "19 tpi")
    lathe.keyboard.press("Enter")
    expect(lathe.get_by_role("alert")).to_contain_text("The Valleywind server does not answer.")
    lathe.unroute("**/api/**")
    lathe.get_by_role("button", name="Try again").click()
    expect(trains(lathe).first).to_be_visible()
    expect(lathe.get_by_role("combobox", name="What is wanted")).to_have_value("19 tpi")
