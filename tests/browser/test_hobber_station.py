"""Journeys through the Hobber station as a person makes them."""

import re
from collections.abc import Iterator
from io import BytesIO

import pytest
from playwright.sync_api import Locator, Page, Route, expect
from pypdf import PdfReader


@pytest.fixture
def hobber(page: Page, address: str) -> Iterator[Page]:
    """The Hobber station of the demo shop; nothing may go wrong unseen behind it."""
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.goto(f"{address}/hobber/avocet")
    expect(page.get_by_role("heading", name="What wheel?")).to_be_visible()
    # The menu is whole once the machines are known: nothing in it moves any more.
    expect(page.get_by_role("link", name="Mill")).to_be_visible()
    yield page
    assert complaints == []


def ask(page: Page, text: str) -> None:
    page.get_by_role("combobox", name="What is wanted").fill(text)


def trains(page: Page) -> Locator:
    return page.get_by_role("region", name="Trains").get_by_role("radiogroup", name="Trains").get_by_role("radio")


def sheet(page: Page) -> Locator:
    return page.get_by_role("region", name="Set-up sheet")


def box(page: Page, name: str) -> Locator:
    return page.get_by_role("region", name=f"{name} box")


def test_from_the_lathe_to_the_sheet_of_37(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe")
    ask(page, "hob 37")
    expect(page).to_have_url(re.compile(r"/hobber/avocet\?ask=hob\+37"))
    expect(trains(page).first).to_contain_text("already on the machine")
    expect(sheet(page)).to_contain_text("37 turns of the hob turn the table once, exactly: it comes out as 37.")
    expect(box(page, "index").locator("svg[aria-label]").first).to_have_accessible_name(
        re.compile("48 driver on the drive shaft, 37 driven on the stud, 40 driver on the stud, 80 driven on the index")
    )
    expect(box(page, "differential")).to_have_count(0)
    expect(sheet(page)).to_contain_text("Just touch the blank for one turn of the table: count 37 marks.")


def test_107_by_the_differential_is_mounted_and_undone(hobber: Page) -> None:
    ask(hobber, "hob 107 m2 face 20 hob dia 63")
    expect(sheet(hobber)).to_contain_text("It comes out as 107 without any run-off")
    expect(sheet(hobber)).to_contain_text("Never disengage and never change the feed until the wheel is done.")
    expect(trains(hobber).last).to_contain_text("With a 107, made or borrowed")
    for name in ("index", "differential", "feed"):
        expect(box(hobber, name)).to_be_visible()
    expect(sheet(hobber)).to_contain_text("The thread is worn at the stud of the differential box (22 × 66 mm)")
    sheet(hobber).get_by_role("button", name="Record as fitted").click()
    expect(hobber.get_by_role("status", name="What was done")).to_contain_text("Recorded: these trains are on Avocet.")
    expect(trains(hobber).first).to_contain_text("already on the machine")
    hobber.get_by_role("button", name="Undo").click()
    expect(trains(hobber).first).to_contain_text("fit ")


def test_another_set_up_is_looked_at_and_stays_in_the_address(hobber: Page) -> None:
    ask(hobber, "hob 37")
    drawing = box(hobber, "index").locator("svg[aria-label]").first
    first = str(drawing.get_attribute("aria-label"))
    trains(hobber).nth(2).click()
    expect(trains(hobber).nth(2)).to_be_checked()
    expect(hobber).to_have_url(re.compile("train="))
    expect(drawing).not_to_have_accessible_name(first)
    shown = str(drawing.get_attribute("aria-label"))
    hobber.reload()
    expect(drawing).to_have_accessible_name(shown)
    hobber.goto(hobber.url.split("?")[0] + "?ask=hob+37&train=nonsense")
    expect(hobber.get_by_text("The train in the address, “nonsense”, is not shown.")).to_be_visible()
    hobber.get_by_role("button", name="See the first of the list").click()
    expect(sheet(hobber)).to_contain_text("exactly")


def test_one_box_is_looked_at_alone(hobber: Page) -> None:
    ask(hobber, "hob 24 m2 30° left face 20 with 24")
    # Until the answer is there, the boxes are those of what is on the machine.
    expect(trains(hobber).first).to_be_checked()
    box(hobber, "feed").get_by_role("button", name="Show the feed box larger").click()
    expect(box(hobber, "index")).to_have_count(0)
    box(hobber, "feed").get_by_role("button", name="Show all boxes").click()
    expect(box(hobber, "index")).to_be_visible()


def test_setting_up_and_the_wheel(hobber: Page) -> None:
    ask(hobber, "hob 24 m2 30° left face 20 with 24 hob dia 63 4 blanks")
    sheet(hobber).get_by_role("radio", name="Setting up").click()
    expect(sheet(hobber)).to_contain_text("31.98° anticlockwise, seen with the hob between you and the work")
    expect(sheet(hobber).get_by_role("img", name=re.compile("turned 31.98 degrees anticlockwise"))).to_be_visible()
    expect(sheet(hobber)).to_contain_text("for mild steel")
    sheet(hobber).get_by_label("Blank of").select_option("brass")
    expect(sheet(hobber)).to_contain_text("202 to 303 turns a minute for brass")
    sheet(hobber).get_by_role("radio", name="Wheel").click()
    expect(sheet(hobber)).to_contain_text("55.426 mm")
    expect(sheet(hobber).get_by_role("img", name="24 and 24 teeth in mesh")).to_be_visible()
    sheet(hobber).get_by_label("Span of the wheel").fill("21.62")
    sheet(hobber).get_by_label("of its mate").fill("21.62")
    sheet(hobber).get_by_role("button", name="Work out").click()
    expect(sheet(hobber)).to_contain_text(re.compile("Backlash 0.0[0-9] mm|Backlash 0.1[0-9] mm"))


def test_undercut_is_said_and_drawn(hobber: Page) -> None:
    ask(hobber, "hob 9 m2")
    sheet(hobber).get_by_role("radio", name="Wheel").click()
    expect(sheet(hobber)).to_contain_text("9 teeth are undercut")
    rolling = sheet(hobber).get_by_label("Roll the hob’s rack through the gap")
    rolling.fill("0.1")
    expect(rolling).to_have_value("0.1")


def test_a_reading_leads_to_the_slip(hobber: Page) -> None:
    ask(hobber, "hob 37")
    sheet(hobber).get_by_label("Table turned, °").fill("87.5")
    sheet(hobber).get_by_role("button", name="Check").click()
    expect(sheet(hobber)).to_contain_text("Yes: 87.5° agrees with 87.57°")
    sheet(hobber).get_by_label("Table turned, °").fill("52.03")
    expect(sheet(hobber)).not_to_contain_text("Yes: 87.5°")
    sheet(hobber).get_by_role("button", name="Check").click()
    sheet(hobber).get_by_role("button", name="The 48 and the 37 are exchanged: the driver runs").click()
    expect(hobber.get_by_role("region", name="Drawing")).to_contain_text("As it may stand now:")
    expect(box(hobber, "index").locator("svg[aria-label]").first).to_have_accessible_name(
        re.compile("37 driver on the drive shaft, 48 driven")
    )
    hobber.get_by_role("button", name="Back to the plan").click()
    expect(box(hobber, "index").locator("svg[aria-label]").first).to_have_accessible_name(re.compile("48 driver"))


def test_plain_fields_make_the_ask(hobber: Page) -> None:
    ask(hobber, "hob 37")
    hobber.get_by_role("button", name="Plain fields").click()
    fields = hobber.get_by_role("region", name="Trains")
    fields.get_by_label("Module or DP").fill("12dp")
    fields.get_by_label("Helix, °").fill("90")
    fields.get_by_role("button", name="Plan this").click()
    expect(fields.get_by_role("alert")).to_contain_text("A helix of 90° cannot be cut.")
    expect(fields.get_by_label("Module or DP")).to_have_value("12dp")
    fields.get_by_label("Helix, °").fill("20")
    fields.get_by_role("button", name="Plan this").click()
    expect(fields.get_by_role("alert")).to_contain_text("left-hand or right-hand")
    fields.get_by_label("Hand", exact=True).select_option("left")
    fields.get_by_role("button", name="Plan this").click()
    expect(hobber.get_by_role("combobox", name="What is wanted")).to_have_value("hob 37 12dp 20° left")


def test_what_cannot_be_read_says_what_would(hobber: Page) -> None:
    hobber.goto(hobber.url + "?ask=hob+24+m2+30°")
    expect(hobber.get_by_role("region", name="Trains")).to_contain_text(
        "It is not clear whether 30° is the helix or the pressure angle."
    )
    hobber.get_by_role("button", name="hob 24", exact=True).click()
    expect(sheet(hobber)).to_contain_text("it comes out as 24")


def test_an_older_answer_never_stands_under_a_newer_ask(hobber: Page) -> None:
    ask(hobber, "hob 37")
    expect(sheet(hobber)).to_contain_text("it comes out as 37")
    held: list[Route] = []
    hobber.route(re.compile(r"/plan\?.*hob(\+|%20)60"), lambda route: held.append(route))
    ask(hobber, "hob 60")
    expect(hobber.get_by_text("Working …")).to_be_visible()
    expect(sheet(hobber).locator("[inert]")).to_have_count(1)
    expect(sheet(hobber)).to_contain_text("it comes out as 37")
    for route in held:
        route.continue_()
    expect(sheet(hobber)).to_contain_text("it comes out as 60")
    expect(sheet(hobber).locator("[inert]")).to_have_count(0)


def test_the_chart_leads_to_a_count(hobber: Page) -> None:
    hobber.get_by_role("link", name="Chart").click()
    expect(hobber.get_by_role("heading", name="Avocet’s counts")).to_be_visible()
    counts = hobber.get_by_role("list", name="Counts")
    expect(counts.get_by_role("link", name="200 teeth: exact")).to_be_visible()
    expect(counts.get_by_role("link", name="107 teeth: by the differential")).to_be_visible()
    expect(hobber.get_by_role("region", name="What the chart shows")).to_contain_text(
        "A 43 brings 43, 86, 129 and 172."
    )
    hobber.get_by_role("checkbox", name="exact", exact=True).click()
    expect(hobber.get_by_role("table").get_by_role("row")).to_have_count(38)
    hobber.get_by_label("to teeth").fill("4000")
    hobber.get_by_role("button", name="Show these counts").click()
    expect(hobber.get_by_role("alert")).to_contain_text("Type a whole number from 4 to 1000.")
    counts.get_by_role("link", name="107 teeth: by the differential").click()
    expect(sheet(hobber)).to_contain_text("It comes out as 107 without any run-off")


def test_what_is_printed_is_one_page(hobber: Page) -> None:
    for text in ("hob 37", "hob 24 m2 30° left face 20 with 24 hob dia 63 4 blanks"):
        ask(hobber, text)
        expect(sheet(hobber)).to_contain_text(f"{text.split()[1]} teeth")
        hobber.wait_for_load_state("networkidle")
        pages = PdfReader(BytesIO(hobber.pdf(prefer_css_page_size=True))).pages
        assert len(pages) == 1
        assert "No hands in the boxes under power" in pages[0].extract_text()


def test_a_hobbers_record_is_changed_box_by_box(page: Page, address: str) -> None:
    page.goto(f"{address}/machines/avocet")
    expect(page.get_by_label("Index constants")).to_have_value("24 with 40/40, 48 from 97 with 48/24")
    page.get_by_role("radio", name="Differential").click()
    posts = page.get_by_label("Posts from the first shaft on")
    expect(posts).to_have_value("22 x 70, 22 x 66 worn, 22 x 70")
    posts.fill("22")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("alert")).to_contain_text("“22” is not a post.")
    posts.fill("22 x 70, 22 x 66, 22 x 70")
    page.get_by_label("Try a train on this record").fill("45/65*40/90")
    expect(page.get_by_role("region", name="End view")).to_contain_text("45/65 × 40/90 fits")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Avocet is saved.")
    page.goto(f"{address}/machines/avocet")
    page.get_by_role("radio", name="Differential").click()
    expect(page.get_by_label("Posts from the first shaft on")).to_have_value("22 x 70, 22 x 66, 22 x 70")


def test_the_constant_of_a_machine_without_papers(page: Page, address: str) -> None:
    page.goto(f"{address}/machines/new/hobber")
    page.get_by_role("button", name="No papers? Find the constant").click()
    page.get_by_label("Index train that is on").fill("48/37*40/80")
    page.get_by_label("Turns of the hob").fill("37")
    page.get_by_role("button", name="Find the constant", exact=True).click()
    expect(page.get_by_text("By this the index constant is 24.")).to_be_visible()


def test_an_empty_shop_is_offered_to_add_a_hobber(page: Page, own_shop: str) -> None:
    page.goto(f"{own_shop}/hobber?ask=hob+37")
    expect(page.get_by_role("heading", name="There is no hobber here yet.")).to_be_visible()
    expect(page.get_by_role("link", name="Hobber", exact=True)).to_have_count(0)
    expect(page.get_by_role("link", name="Add a hobber")).to_be_visible()
