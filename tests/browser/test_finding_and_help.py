"""The search, and the help of every page."""

import pytest
from playwright.sync_api import Page, expect

FIELD = "Machine, wheel, job, cutter, bar or page"


@pytest.mark.parametrize(
    ("text", "result", "there"),
    [
        ("avocet hobber", "Avocet", "/hobber/avocet"),
        ("record heron", "Record", "/machines/heron"),
        ("leads", "Leads", "/chart"),
        ("stores", "Stores", "/rack/stores"),
        ("57 plover", "A 57 for Plover", "/jobs/1"),
    ],
)
def test_the_search_goes_where_a_thing_is(lathe: Page, text: str, result: str, there: str) -> None:
    lathe.keyboard.press("Control+k")
    lathe.get_by_role("combobox", name=FIELD).fill(text)
    expect(lathe.get_by_role("option").first).to_contain_text(result)
    lathe.keyboard.press("Enter")
    lathe.wait_for_url(f"**{there}")
    expect(lathe.get_by_role("dialog")).to_be_hidden()


def test_a_wheel_and_a_cutter_that_were_found_are_opened(page: Page, address: str) -> None:
    page.goto(f"{address}/machines")
    page.get_by_role("button", name="Search the shop").click()
    page.get_by_role("combobox", name=FIELD).fill("48 plover")
    page.get_by_role("dialog").get_by_role("option").first.click()
    expect(page.get_by_role("region", name="The chosen wheel")).to_contain_text("48")
    page.keyboard.press("Control+k")
    page.get_by_role("combobox", name=FIELD).fill("cutter 55")
    page.get_by_role("dialog").get_by_role("option").first.click()
    expect(page.get_by_role("dialog").get_by_role("textbox", name="Range")).to_have_value("55-134")


def test_what_the_ask_line_does_not_understand_can_be_searched(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover")
    page.get_by_role("combobox", name="What is wanted").fill("grebe")
    page.get_by_role("button", name="Search the shop for “grebe”").click()
    expect(page.get_by_role("option").first).to_contain_text("Grebe")
    page.get_by_role("combobox", name=FIELD).fill("grebe nobody")
    expect(page.get_by_role("status").filter(has_text="Nothing is called “grebe nobody”.")).to_be_visible()


@pytest.mark.parametrize(
    ("place", "title", "words"),
    [
        ("/lathe/plover", "Lathe", "turn the wheels, or stop them"),
        ("/lathe/plover/chart", "Chart", "room not checked: "),
        ("/lathe/plover/unknown", "Constants", "less sure: "),
        ("/lathe/plover/plate", "Plate", "approximate: "),
        ("/hobber/avocet", "Hobber", "index constant: "),
        ("/mill/siskin", "Mill", "worm pair: "),
        ("/rack", "Rack", "profile shift: "),
        ("/rack/sets", "Sets", "Add to rack: "),
        ("/rack/stores", "Stores", "piece: "),
        ("/wheel", "Wheel", "rollers or balls: "),
        ("/dividing", "Dividing", "flats: "),
        ("/dividing/disc", "Discs and hole plates", "error: "),
        ("/jobs", "Jobs", "school: "),
        ("/jobs/1/session", "Cutting", "touch off: "),
        ("/jobs/devices", "Devices", "overtaken: "),
        ("/machines", "Machines", "not known: "),
        ("/machines/plover", "Machine record", "first shaft, last shaft: "),
    ],
)  # fmt: skip
def test_help_is_of_the_page_and_explains_its_words(
    page: Page, address: str, place: str, title: str, words: str
) -> None:
    page.goto(address + place)
    if place.endswith("/session"):  # the frame is folded while one cuts
        page.get_by_role("button", name="Menu").click()
    page.get_by_role("button", name="Help", exact=True).click()
    dialog = page.get_by_role("dialog", name=f"Help: {title}")
    expect(dialog).to_contain_text(words)
    expect(dialog.locator("section").first.locator("svg")).to_be_visible()
    assert all(dialog.locator("dl dd").all_inner_texts()), "every word has a meaning"
    assert ("record the train" in dialog.inner_text()) == (title in ("Lathe", "Hobber", "Mill"))


def test_a_page_tells_what_it_is_for_on_the_first_visit_and_not_again(page: Page, address: str) -> None:
    page.add_init_script("localStorage['valleywind.helpSeen'] = '[]'")
    page.goto(f"{address}/dividing")
    about = page.get_by_role("complementary", name="About this page")
    expect(about).to_contain_text("Type how many divisions")
    kept = page.evaluate("localStorage['valleywind.helpSeen']")
    assert kept == '["dividing"]'
    about.get_by_role("button", name="Close").click()
    expect(about).to_be_hidden()
    page.get_by_role("link", name="Jobs", exact=True).click()
    expect(about).to_contain_text("A job is a wheel to be made")
    page.get_by_role("link", name="Dividing", exact=True).click()
    expect(page.get_by_role("heading", level=1)).to_be_visible()
    expect(about).to_be_hidden()
