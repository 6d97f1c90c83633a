"""Journeys through the Lathe station as a person makes them."""

import re
from io import BytesIO
from pathlib import Path

import pytest
from playwright.sync_api import Locator, Page, expect
from pypdf import PdfReader


def ask(page: Page, text: str) -> None:
    page.get_by_role("combobox", name="What is wanted").fill(text)


def trains(page: Page) -> Locator:
    return page.get_by_role("region", name="Trains").get_by_role("radiogroup", name="Trains").get_by_role("radio")


def sheet(page: Page) -> Locator:
    return page.get_by_role("region", name="Set-up sheet")


def drawing(page: Page) -> Locator:
    return page.get_by_role("region", name="Drawing").locator("svg[aria-label]").first


def test_a_first_ask_by_mouse(lathe: Page) -> None:
    expect(lathe.get_by_text("cuts 26 tpi")).to_be_visible()
    ask(lathe, "M14x2")
    expect(trains(lathe).first).to_contain_text("Nut runs free")
    expect(lathe.get_by_role("search")).to_contain_text("2 mm lead, right-hand, 60°")
    expect(sheet(lathe)).to_contain_text("1.9999")
    expect(sheet(lathe)).to_contain_text("the error adds up to 0.6 µm")
    expect(drawing(lathe)).to_have_accessible_name(
        "Plover, end view from the gear side: 76 driver on the spindle stud, 66 driven on the stud, "
        "32 driver on the stud, 78 driven on the screw"
    )
    shelf = lathe.get_by_role("list", name="wheels in order of size")
    expect(shelf.get_by_role("listitem", name="76, in this plan")).to_be_visible()
    expect(shelf.get_by_role("listitem", name="32, on the machine now, stays")).to_be_visible()
    expect(shelf.get_by_role("listitem", name="60, missing")).to_be_visible()

    trains(lathe).nth(1).click()
    expect(drawing(lathe)).to_have_accessible_name(re.compile("68 driver on the spindle stud, 64 driven"))
    expect(sheet(lathe)).to_contain_text("64 inner with 32 outer")
    expect(shelf.get_by_role("listitem", name="68, in this plan")).to_be_visible()
    lathe.reload()
    expect(drawing(lathe)).to_have_accessible_name(re.compile("68 driver"))


def test_mounting_and_undo(lathe: Page) -> None:
    ask(lathe, "M14x2")
    lathe.get_by_role("button", name="Record as fitted").click()
    expect(lathe.get_by_role("status", name="What was done")).to_contain_text("Recorded: 76/66 × 32/78 is on Plover.")
    expect(trains(lathe).first).to_contain_text("already on the machine")
    expect(lathe.get_by_role("button", name="Fitted", exact=True)).to_be_disabled()
    lathe.get_by_role("button", name="Undo").click()
    expect(trains(lathe).first).to_contain_text("keep 2, change 2")


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
    expect(trains(lathe).first).to_contain_text("keep 2, change 2")
    press("?")
    dialog = lathe.get_by_role("dialog", name="Help: Lathe")
    expect(dialog).to_contain_text("go to the ask line")
    press("Escape")
    expect(dialog).to_be_hidden()
    press("/")
    expect(lathe.get_by_role("combobox", name="What is wanted")).to_be_focused()
    lathe.keyboard.type("26 tpi")
    press("Enter")
    expect(sheet(lathe)).to_contain_text("26 tpi")


def test_a_key_does_what_the_screen_says_at_that_moment(lathe: Page) -> None:
    """However soon it is pressed: here as soon as the notice stands, before anything else of the page has run."""
    ask(lathe, "M14x2")
    expect(sheet(lathe)).to_contain_text("1.9999")
    lathe.evaluate("() => document.activeElement.blur()")
    lathe.evaluate(
        """() => {
          const seen = new MutationObserver(() => {
            const told = document.querySelector("[aria-label='What was done']").textContent;
            if (!told.startsWith("Recorded")) return;
            seen.disconnect();
            document.body.dispatchEvent(new KeyboardEvent("keydown", { key: "z", bubbles: true, cancelable: true }));
          });
          seen.observe(document.body, { subtree: true, childList: true });
        }"""
    )
    lathe.keyboard.press("m")
    expect(lathe.get_by_role("status", name="What was done")).to_contain_text("Undone")
    expect(lathe.get_by_role("dialog")).to_have_count(0)


def test_another_order_and_what_stands_beside(lathe: Page) -> None:
    lathe.get_by_role("button", name="on Plover, choose another lathe").click()
    lathe.get_by_role("option", name="Curlew").click()
    ask(lathe, "26 tpi over 200 mm")
    lathe.get_by_role("radio", name="Most exact").click()
    unfit = lathe.get_by_role("group", name="Most exact, but does not fit").get_by_role("radio")
    unfit.click()
    note = lathe.get_by_role("note")
    expect(note).to_contain_text("Does not fit")
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
            re.compile("1/2-2.*as typed"),
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


def test_keys_of_the_line_are_its_own_while_it_completes(lathe: Page) -> None:
    line = lathe.get_by_role("combobox", name="What is wanted")
    offered = lathe.get_by_role("listbox", name="How it could go on").get_by_role("option")
    ask(lathe, "1/2-2")
    expect(offered.first).to_have_attribute("data-focus", "")
    # Home goes to the beginning of what is typed, not of the list; Tab leaves without asking.
    lathe.keyboard.press("Home")
    assert line.evaluate("field => field.selectionStart") == 0
    lathe.keyboard.press("Tab")
    expect(offered).to_have_count(0)
    expect(line).to_have_value("1/2-2")
    expect(lathe).not_to_have_url(re.compile("ask="))
    # Escape closes the list, and then leaves the line.
    line.press("End")
    lathe.keyboard.press("Backspace")
    expect(offered.first).to_be_visible()
    lathe.keyboard.press("Escape")
    expect(offered).to_have_count(0)
    expect(line).to_be_focused()
    lathe.keyboard.press("Escape")
    expect(line).not_to_be_focused()
    expect(line).to_have_value("1/2-")
    ask(lathe, "1/2-2")
    offered.filter(has_text="1/2-26 ME").click()
    expect(line).to_have_value("1/2-26 ME")
    expect(trains(lathe).first).to_contain_text("26 tpi")


def test_on_a_phone_the_page_begins_at_its_top(lathe: Page, address: str) -> None:
    lathe.set_viewport_size({"width": 390, "height": 844})
    lathe.goto(f"{address}/lathe/plover?ask=M14x2")
    expect(trains(lathe).first).to_be_checked()
    assert lathe.evaluate("document.scrollingElement.scrollTop") == 0
    trains(lathe).nth(3).click()
    expect(trains(lathe).nth(3)).to_be_in_viewport()


def test_a_wish_that_nothing_meets(lathe: Page) -> None:
    ask(lathe, "0.01 mm")
    expect(lathe.get_by_text("Nothing meets this.")).to_be_visible()


def test_plain_fields_beside_the_line(lathe: Page) -> None:
    line = lathe.get_by_role("combobox", name="What is wanted")
    again = lathe.get_by_role("button", name="Ask with these")
    ask(lathe, "0.5 mm")
    lathe.get_by_role("button", name="Plain fields").click()
    expect(lathe.get_by_label("Pitch or size")).to_have_value("0.5 mm")
    lathe.get_by_label("Nut length").fill("2 in")
    again.click()
    expect(line).to_have_value("0.5 mm over 50.8 mm")
    expect(sheet(lathe)).to_contain_text("50.8 mm long")
    lathe.get_by_label("Pitch or size").fill("26 tpi")
    lathe.get_by_label("Starts").fill("2")
    lathe.get_by_role("radio", name="Left hand").click()
    again.click()
    expect(lathe.get_by_role("search")).to_contain_text("2 starts, pitch 26 tpi, lead 1.9538 mm, left-hand, 60°")
    expect(sheet(lathe)).to_contain_text("Tumbler reversed for a left-hand thread.")
    # A thread of a series keeps its name and its flanks when only the hand is changed, and the stated nut.
    ask(lathe, "1/4 BSP over 9 mm")
    expect(lathe.get_by_label("Pitch or size")).to_have_value("19 tpi")
    lathe.get_by_role("radio", name="Left hand").click()
    again.click()
    expect(line).to_have_value("1/4 BSP left hand over 9 mm")
    expect(lathe.get_by_role("search")).to_contain_text("19 tpi, left-hand, 55°")
    lathe.get_by_label("Nut length").fill("a lot")
    again.click()
    expect(lathe.get_by_role("alert")).to_contain_text("“a lot” is not a number.")
    expect(lathe.get_by_label("Nut length")).to_have_value("a lot")
    # Class of fit, and a feed instead of a thread.
    ask(lathe, "1/2-13 UNC")
    lathe.get_by_label("Class of fit").select_option("3A")
    again.click()
    expect(line).to_have_value("1/2-13 UNC 3A")
    expect(sheet(lathe)).to_contain_text("0 µm is guaranteed")
    lathe.get_by_role("radio", name="Across").click()
    lathe.get_by_label("Per turn").fill("0.004 in")
    again.click()
    expect(line).to_have_value("feed 0.004 in/rev across")
    expect(trains(lathe).first).to_contain_text("s asked")


def test_wheels_turn_in_mesh_and_rest_when_motion_is_not_wanted(page: Page, address: str) -> None:
    page.emulate_media(reduced_motion="no-preference")
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


def test_a_scratch_pass_is_told_yes_or_what_went_wrong(lathe: Page) -> None:
    ask(lathe, "M14x2")
    expect(trains(lathe).first).to_be_visible()
    sheet(lathe).get_by_label("Length").fill("20.02")
    sheet(lathe).get_by_role("button", name="Check").click()
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


# Nothing can be touched while an older answer is shown.
SPOT = """name => {
    const wheels = [...document.querySelectorAll('[aria-label=Drawing] [role=button]')];
    const wheel = wheels.find(one => one.getAttribute('aria-label')?.includes(name));
    for (let turn = 0; wheel && turn < 60; turn++) {
        const [x, y, k] = wheel.getAttribute('transform').match(/-?[0-9.]+/g).map(Number);
        const board = wheel.ownerSVGElement.getBoundingClientRect();
        const path = wheel.querySelector('path').getBBox(), r = path.width / 2 * k * 0.9, a = turn * Math.PI / 30;
        const at = [board.x + x + r * Math.cos(a), board.y + y + r * Math.sin(a)];
        if (wheel.contains(document.elementFromPoint(...at))) return at;
    }
    return null; }"""


def spot(page: Page, name: str) -> tuple[float, float]:
    """A point on a drawn wheel that nothing else covers: on its rim, opposite its number; as soon as there is one."""
    x, y = page.wait_for_function(SPOT, arg=name).json_value()
    return x, y


def test_a_wheel_dragged_to_a_shaft_and_two_swapped(lathe: Page) -> None:
    ask(lathe, "M14x2")
    expect(trains(lathe).first).to_be_checked()
    taken = lathe.get_by_role("button", name="Pick up the 48").first.bounding_box()
    assert taken
    lathe.mouse.move(taken["x"] + taken["width"] / 2, taken["y"] + taken["height"] - 20)
    lathe.mouse.down()
    lathe.mouse.move(*spot(lathe, "66 driven, pick up"), steps=6)
    lathe.mouse.up()
    own = lathe.get_by_role("group", name="Your own train").get_by_role("radio")
    expect(own).to_contain_text("2.7499 mm")
    expect(sheet(lathe)).to_contain_text("Nut will not start.")
    done = lathe.get_by_role("status", name="What was done")
    expect(done).to_contain_text("76/48 × 32/78: 2.7499 mm, +37 %.")
    # Swapping the two of the stud: tapped one, then the other.
    lathe.mouse.click(*spot(lathe, "32 driver, pick up"))
    lathe.mouse.click(*spot(lathe, "Put the 32 in place of the 48"))
    expect(drawing(lathe)).to_have_accessible_name(re.compile("32 driven on the stud, 48 driver on the stud"))
    done.get_by_role("button", name="Undo").click()
    expect(drawing(lathe)).to_have_accessible_name(re.compile("48 driven on the stud, 32 driver on the stud"))


def test_an_idler_put_in_by_keyboard_and_taken_out(lathe: Page, address: str) -> None:
    lathe.goto(f"{address}/lathe/curlew?ask=0.5 mm&train=40/60")
    note = lathe.get_by_role("note")
    expect(note).to_contain_text("With a 45 as idler between 40 and 60 the hand is right")
    expect(sheet(lathe).get_by_role("img", name="left-hand thread")).to_be_visible()
    shelf = lathe.get_by_role("button", name="Pick up the 20").first
    shelf.focus()
    for _ in range(8):
        lathe.keyboard.press("ArrowRight")
    lathe.keyboard.press("Enter")
    expect(lathe.get_by_text("The 50 is picked up")).to_be_visible()
    lathe.get_by_role("button", name="Put the 50 as idler between 40 and 60").press("Enter")
    expect(drawing(lathe)).to_have_accessible_name(re.compile("40 driver .*, 50 idler .*, 60 driven"))
    expect(sheet(lathe).get_by_role("img", name="right-hand thread")).to_be_visible()
    lathe.get_by_role("button", name="50 idler, pick up").press("Delete")
    expect(drawing(lathe)).to_have_accessible_name(re.compile("40 driver on the spindle stud, 60 driven on the screw"))
    note.get_by_role("button", name="Do that").click()
    expect(note).to_have_count(0)


def test_the_thread_in_its_nut(lathe: Page) -> None:
    ask(lathe, "26 tpi over 40 mm")
    lathe.get_by_role("button", name="on Plover, choose another lathe").click()
    lathe.get_by_role("option", name="Curlew").click()
    lathe.get_by_role("radio", name="In its nut").click()
    expect(drawing(lathe)).to_have_accessible_name(
        re.compile("Thread in its nut over 41 turns, drift magnified 5 times: binds where marked")
    )
    ask(lathe, "4 BA")
    expect(drawing(lathe)).to_have_accessible_name(re.compile("touches nowhere"))
    ask(lathe, "feed 0.05")
    expect(drawing(lathe)).to_have_accessible_name(re.compile("^Curlew, end view"))


def test_picking_up_with_the_dial_or_without(lathe: Page) -> None:
    ask(lathe, "13 tpi")
    picking = sheet(lathe).get_by_role("region", name="Picking up")
    expect(picking).to_contain_text("close at marks 1, 3, 5 or 7")
    expect(picking.get_by_role("img", name="thread dial, close at 1, 3, 5, 7 of 8 marks")).to_be_visible()
    ask(lathe, "M14x2")
    expect(picking).to_contain_text("keep the half-nuts closed")
    expect(picking.get_by_role("img")).to_have_count(0)
    ask(lathe, "pitch 4 mm 2 starts")
    expect(picking).to_contain_text("Next start:")


def test_slower_than_the_wheels_give(lathe: Page, address: str) -> None:
    lathe.goto(f"{address}/lathe/curlew?ask=feed 0.04")
    expect(lathe.get_by_text("Nothing meets this.")).to_be_visible()
    expect(lathe.get_by_text("With an 18 in place of the 20 it would be 0.0422 mm")).to_be_visible()
    lathe.get_by_role("button", name="See it on the quadrant").click()
    expect(lathe.get_by_role("note")).to_contain_text("needs an 18, which is not held")


def test_only_a_lever_moves_on_dunlin(lathe: Page, address: str) -> None:
    lathe.goto(f"{address}/lathe/dunlin?ask=16 tpi")
    expect(trains(lathe).first).to_contain_text("only a lever moves: box to 8 ×2")
    expect(sheet(lathe)).to_contain_text("The wheels stay as they are.")
    sheet(lathe).get_by_role("button", name="Record as fitted").click()
    expect(trains(lathe).first).to_contain_text("already on the machine")
    sheet(lathe).get_by_label("Length").fill("14.11")
    sheet(lathe).get_by_label("over turns").fill("10")
    sheet(lathe).get_by_role("button", name="Check").click()
    expect(sheet(lathe).get_by_role("button", name="The box stands at 9 ×2.")).to_be_visible()


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
    for sentence in (
        "M14x2 on Plover",
        "1.9999 mm lead",
        "slot A, 116.4 mm",
        "keyed together",
        "10 leads measure 20.00 mm",
        "Keep the half-nuts closed",
    ):
        assert sentence in text
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


# Words of the end view that lie on each other, by more than a hair.
COVERED = """() => {
    const words = [...document.querySelectorAll('section[aria-label=Drawing] svg text')].map(e => [e.textContent, e.getBoundingClientRect()])
    return words.flatMap(([one, a], n) => words.slice(n + 1).filter(([, b]) =>
        Math.min(a.right, b.right) - Math.max(a.left, b.left) > 2 && Math.min(a.bottom, b.bottom) - Math.max(a.top, b.top) > 4
    ).map(([other]) => `${one} on ${other}`))
}"""  # noqa: E501


@pytest.mark.parametrize(
    "place", ["plover?ask=M14x2", "dunlin?ask=2%20mm", "curlew?ask=26%20tpi", "plover?ask=19%20tpi"]
)
def test_no_word_of_the_drawing_covers_another(page: Page, address: str, place: str) -> None:
    page.goto(f"{address}/lathe/{place}")
    expect(trains(page).first).to_be_visible()
    for size in ((1280, 800), (390, 844)):
        page.set_viewport_size({"width": size[0], "height": size[1]})
        page.evaluate("() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))")
        assert page.evaluate(COVERED) == []


def test_a_line_that_is_valid_already_can_go_on(lathe: Page) -> None:
    lathe.get_by_label("What is wanted").press_sequentially("M1")
    offered = lathe.get_by_role("listbox", name="How it could go on")
    expect(offered.get_by_role("option", name="M12")).to_be_visible()
    # It is planned meanwhile, and goes on all the same.
    expect(lathe).to_have_url(re.compile("ask=M1$"))
    offered.get_by_role("option", name="M12").click()
    expect(lathe).to_have_url(re.compile("ask=M12"))
    expect(offered).to_have_count(0)


def test_on_a_phone_one_row_stands_above_the_station_and_print_is_near(lathe: Page, address: str) -> None:
    lathe.set_viewport_size({"width": 390, "height": 844})
    lathe.goto(f"{address}/lathe/plover?ask=M14x2")
    expect(trains(lathe).first).to_be_checked()
    main = lathe.locator("main").bounding_box()
    assert main is not None
    assert main["y"] < 90
    expect(lathe.get_by_role("navigation", name="Stations")).to_be_hidden()
    lathe.get_by_role("button", name="Menu").click()
    lathe.get_by_role("link", name="Chart").click()
    expect(lathe).to_have_url(re.compile("/lathe/plover/chart$"))
    expect(lathe.get_by_role("navigation", name="Stations")).to_be_hidden()
    lathe.goto(f"{address}/lathe/plover?ask=M14x2")
    expect(trains(lathe).first).to_be_checked()
    # The second screen.
    lathe.evaluate("document.scrollingElement.scrollTop = 844")
    sheet = lathe.get_by_role("region", name="Set-up sheet")
    expect(sheet.get_by_text("Nut runs free.")).to_be_in_viewport()
    expect(sheet.get_by_role("button", name="Print")).to_be_in_viewport()
