"""Journeys through the Mill station as a person makes them."""

import re
from collections.abc import Iterator
from io import BytesIO

import pytest
from playwright.sync_api import Locator, Page, Route, expect
from pypdf import PdfReader

CLOCK = "helix 24 m2 30° left face 20 with 24"


@pytest.fixture
def mill(page: Page, address: str) -> Iterator[Page]:
    """The Mill station of the demo shop; nothing may go wrong unseen behind it."""
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.goto(f"{address}/mill/heron")
    expect(page.get_by_role("heading", name="What helix?")).to_be_visible()
    # The menu is whole once the machines are known: nothing in it moves any more.
    expect(page.get_by_role("link", name="Hobber")).to_be_visible()
    yield page
    assert complaints == []


def ask(page: Page, text: str) -> None:
    page.get_by_role("combobox", name="What is wanted").fill(text)


def trains(page: Page) -> Locator:
    return page.get_by_role("region", name="Trains").get_by_role("radiogroup", name="Trains").get_by_role("radio")


def sheet(page: Page) -> Locator:
    return page.get_by_role("region", name="Set-up sheet")


def board(page: Page) -> Locator:
    return page.get_by_role("region", name="Drawing")


def show(page: Page, view: str) -> None:
    board(page).get_by_role("radio", name=view, exact=True).click()


def test_from_the_lathe_to_the_clock_wheel_with_every_view(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe")
    ask(page, CLOCK)
    expect(page).to_have_url(re.compile(r"/mill/heron\?ask=helix\+24"))
    expect(trains(page).first).to_contain_text("already on the machine")
    expect(sheet(page)).to_contain_text("The mate, 24 teeth, right-hand: the same wheels and pair")
    expect(board(page).get_by_role("list", name="What drives what")).to_contain_text("pair 1 : 2, 2 turns in, 1 out")
    expect(board(page).locator("svg[aria-label]").first).to_have_accessible_name(
        re.compile("72 driver on the table-side shaft, 28 driven on the stud, 52 driver on the stud, 56 driven on the")
    )
    show(page, "From above")
    expect(
        board(page).get_by_role("img", name="table swung 30.00 degrees, its left-hand end toward the column")
    ).to_be_visible()
    show(page, "Turning")
    turning = board(page).get_by_role("img", name=re.compile("Seen from the right-hand end of the table"))
    expect(turning).to_have_accessible_name(re.compile("it moves left, away from you, the work turns anticlockwise"))
    board(page).get_by_role("radio", name="Table moves right").click()
    expect(turning).to_have_accessible_name(re.compile("it moves right, toward you, the work turns clockwise"))
    show(page, "Plate")
    board(page).get_by_role("button", name="Next tooth").click()
    expect(board(page)).to_contain_text("tooth 2 of 24")
    page.keyboard.press("Escape")
    expect(sheet(page)).to_contain_text("Centre the cutter over the work before swinging")


def test_a_lead_typed_at_the_mill_is_a_helix_and_at_the_lathe_a_thread(mill: Page, address: str) -> None:
    ask(mill, "lead 300 mm")
    expect(sheet(mill)).to_contain_text("The lead is 300 mm, just as wanted.")
    board_views = board(mill).get_by_role("radiogroup", name="Drawing of")
    expect(board_views.get_by_role("radio", name="From above")).to_have_count(0)
    ask(mill, "M14x2")
    expect(mill).to_have_url(re.compile(r"/lathe/plover\?ask=M14x2"))
    mill.goto(f"{address}/lathe/plover")
    ask(mill, "helix lead 300 mm")
    expect(mill).to_have_url(re.compile(r"/mill/heron\?ask=helix\+lead"))


def test_a_diameter_is_not_taken_for_a_machine(mill: Page) -> None:
    ask(mill, "flute 6 lead 12 in on 1 in length 80")
    expect(trains(mill).first).to_be_visible()
    expect(mill.get_by_text("There is no mill")).to_have_count(0)
    ask(mill, "lead 300 mm on 40 mm on Wigeon")
    expect(mill.get_by_role("alert")).to_contain_text("There is no mill “wigeon” here. This is planned on Heron.")


def test_another_train_is_mounted_and_undone(mill: Page) -> None:
    ask(mill, "lead 300 mm")
    trains(mill).nth(1).click()
    expect(mill).to_have_url(re.compile("train="))
    sheet(mill).get_by_role("button", name="Record as fitted").click()
    done = mill.get_by_role("status", name="What was done")
    expect(done).to_contain_text("is on Heron.")
    expect(sheet(mill).get_by_role("button", name="Fitted", exact=True)).to_be_disabled()
    done.get_by_role("button", name="Undo").click()
    expect(sheet(mill).get_by_role("button", name="Record as fitted")).to_be_enabled()
    mill.goto(mill.url.split("?")[0] + "?ask=lead+300+mm&train=nonsense")
    expect(mill.get_by_text("The train in the address, “nonsense”, is not shown.")).to_be_visible()
    mill.get_by_role("button", name="See the first of the list").click()
    expect(sheet(mill)).to_contain_text("just as wanted")


def test_a_reading_leads_to_the_slip(mill: Page) -> None:
    ask(mill, CLOCK)
    expect(sheet(mill)).to_contain_text("Must be: 119.39°, crank 19.898 turns: 19 turns and 44 holes on the 49")
    sheet(mill).get_by_label("Work turned, °").fill("119.2")
    sheet(mill).get_by_role("button", name="Check", exact=True).click()
    expect(sheet(mill)).to_contain_text("Yes: 119.2° agrees with 119.39°")
    sheet(mill).get_by_label("Work turned, °").fill("477.5")
    expect(sheet(mill)).not_to_contain_text("Yes: 119.2°")
    sheet(mill).get_by_role("button", name="Check", exact=True).click()
    expect(sheet(mill)).to_contain_text("the work turns too fast")
    sheet(mill).get_by_role("button", name="The worm pair is in the other way round").click()
    expect(board(mill)).to_contain_text("As it may stand now:")
    expect(board(mill).get_by_role("list", name="What drives what")).to_contain_text("1 turn in, 2 out")
    board(mill).get_by_role("button", name="Back to the plan").click()
    sheet(mill).get_by_role("radio", name="Crank").click()
    sheet(mill).get_by_label("Crank turned").fill("19 44/49")
    sheet(mill).get_by_label("Which way did it turn?").select_option("other_way")
    sheet(mill).get_by_role("button", name="Check", exact=True).click()
    expect(sheet(mill)).to_contain_text("the work turns the wrong way: the reversing lever, or one idler more or less")
    sheet(mill).get_by_role("radio", name="Line").click()
    sheet(mill).get_by_label("Angle of the line, °").fill("22.5")
    sheet(mill).get_by_label("Work’s diameter").fill("40")
    sheet(mill).get_by_role("button", name="Check", exact=True).click()
    expect(sheet(mill)).to_contain_text("Yes: 22.5° agrees with 22.62°")


def test_the_pair_is_checked_and_the_mate_planned(mill: Page) -> None:
    ask(mill, "helix 24 m2 30° left face 20")
    sheet(mill).get_by_role("radio", name="Wheel", exact=True).click()
    sheet(mill).get_by_label("Mate’s teeth").fill("36")
    sheet(mill).get_by_label("Shafts apart").fill("69")
    sheet(mill).get_by_role("button", name="Check the pair").click()
    expect(sheet(mill)).to_contain_text("69.282 mm")
    expect(sheet(mill)).to_contain_text("0.282 mm too near: the teeth bind")
    sheet(mill).get_by_role("link", name="Plan the mate").click()
    expect(mill.get_by_role("combobox", name="What is wanted")).to_have_value(
        "helix 36 m2 30° right face 20 mm with 24"
    )


def test_plain_fields_make_the_ask(mill: Page) -> None:
    ask(mill, "lead 300 mm")
    mill.get_by_role("button", name="Plain fields").click()
    fields = mill.get_by_role("region", name="Trains")
    fields.get_by_role("radio", name="Wheel", exact=True).click()
    fields.get_by_label("Teeth").fill("24")
    fields.get_by_label("Module or DP").fill("12dp")
    fields.get_by_label("Helix, °").fill("90")
    fields.get_by_role("button", name="Plan this").click()
    expect(fields.get_by_role("alert")).to_contain_text("90")
    expect(fields.get_by_label("Module or DP")).to_have_value("12dp")
    fields.get_by_label("Helix, °").fill("20")
    fields.get_by_label("Hand", exact=True).select_option("left")
    fields.get_by_role("button", name="Plan this").click()
    expect(mill.get_by_role("combobox", name="What is wanted")).to_have_value("helix 24 12dp 20° left")


def test_a_wheel_is_put_into_the_train(mill: Page) -> None:
    ask(mill, CLOCK)
    expect(trains(mill).first).to_be_visible()
    mill.get_by_role("button", name="Pick up the 64").first.press("Enter")
    expect(mill.get_by_text("The 64 is picked up")).to_be_visible()
    board(mill).get_by_role("button", name="Put the 64 in place of the 72").press("Enter")
    expect(mill).to_have_url(re.compile("train=64"))
    expect(mill.get_by_role("group", name="Your own train")).to_be_visible()


def test_an_older_answer_never_stands_under_a_newer_ask(mill: Page) -> None:
    ask(mill, CLOCK)
    expect(sheet(mill)).to_contain_text("301.54")
    held: list[Route] = []
    mill.route(re.compile(r"/plan\?.*lead(\+|%20)300"), lambda route: held.append(route))
    ask(mill, "lead 300 mm")
    expect(sheet(mill).locator("[inert]")).to_have_count(1)
    expect(sheet(mill)).to_contain_text("301.54")
    for route in held:
        route.continue_()
    expect(sheet(mill)).to_contain_text("just as wanted")
    expect(sheet(mill).locator("[inert]")).to_have_count(0)


def test_the_chart_leads_to_a_wheel(mill: Page) -> None:
    mill.get_by_role("link", name="Leads").click()
    expect(mill.get_by_role("heading", name="Heron’s leads")).to_be_visible()
    mill.get_by_label("Normal module or DP").fill("nonsense")
    mill.get_by_role("button", name="Show these leads").click()
    expect(mill.get_by_role("alert")).to_contain_text("nonsense")
    mill.get_by_label("Normal module or DP").fill("12dp")
    mill.get_by_label("Helix angles").fill("20 60")
    mill.get_by_label("to teeth").fill("30")
    mill.get_by_role("button", name="Show these leads").click()
    expect(mill.get_by_text("60° cannot be set: table and head swing at most 45°.")).to_be_visible()
    mill.get_by_role("button", name="Which wheel is worth making").click()
    expect(mill.get_by_text("Every one of them has a good train.")).to_be_visible()
    mill.get_by_role("group", name="Picture of the leads").get_by_role("link", name="24 teeth at 20°").click()
    expect(mill.get_by_role("combobox", name="What is wanted")).to_have_value("helix 24 12dp 20° right")
    expect(sheet(mill)).to_contain_text("Error of a tooth over")


def test_what_is_printed_is_one_page(mill: Page) -> None:
    for text in (CLOCK, "helix 61 m2 20° right face 40 with 60", "lead 300 mm on 40 mm"):
        ask(mill, text)
        expect(mill.get_by_role("article", include_hidden=True)).to_contain_text(text.split(" ", 1)[1][:6])
        mill.wait_for_load_state("networkidle")
        pages = PdfReader(BytesIO(mill.pdf(prefer_css_page_size=True))).pages
        assert len(pages) == 1
        assert "taper or dowel pin" in " ".join(pages[0].extract_text().split())


def test_the_mills_record_is_changed(page: Page, address: str) -> None:
    page.goto(f"{address}/machines/heron")
    expect(page.get_by_label("Worm pairs")).to_have_value("1:2, 1:10, 1:40")
    page.get_by_label("Worm pairs").fill("0:2")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("alert")).to_contain_text("“0:2”")
    page.get_by_label("Worm pairs").fill("1:2, 1:40 one way")
    page.get_by_label("Cutter head swivels").fill("60")
    page.get_by_label("Try a train on this record").fill("72/28*52/56")
    expect(page.get_by_role("region", name="End view")).to_contain_text("72/28 × 52/56 fits")
    page.get_by_role("radio", name="Head’s arm").click()
    expect(page.get_by_role("region", name="End view").locator("svg[aria-label]").first).to_be_visible()
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Heron is saved.")
    page.goto(f"{address}/mill/heron?ask=helix+24+m2+60°+left")
    show(page, "From above")
    expect(board(page).get_by_role("img", name="cutter head swivelled 60.00 degrees")).to_be_visible()


def test_an_unfinished_mill_says_what_it_lacks(page: Page, own_shop: str) -> None:
    page.goto(f"{own_shop}/mill?ask=lead+300+mm")
    expect(page.get_by_role("heading", name="There is no mill here yet.")).to_be_visible()
    page.get_by_role("link", name="Add a mill").click()
    page.get_by_label("Name").fill("Wigeon")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Wigeon is saved.")
    page.goto(f"{own_shop}/mill/wigeon?ask=lead+300+mm")
    expect(page.get_by_text("The table’s screw is not known.")).to_be_visible()
    expect(page.get_by_role("link", name="Open Wigeon’s record")).to_be_visible()
