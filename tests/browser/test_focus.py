"""The focus stays in sense, and what is shown is said to who does not see it."""

from playwright.sync_api import Page, expect

from tests.browser.test_lathe_station import ask


def focused(page: Page) -> str:
    return str(page.evaluate("document.activeElement.name || document.activeElement.ariaLabel || ''"))


def test_after_a_refused_save_the_first_fault_has_the_focus(page: Page, address: str) -> None:
    page.goto(f"{address}/machines/new")
    page.get_by_label("Name", exact=True).fill("Linnet")
    page.get_by_label("Wheels, as counted").fill("2O 30")
    page.get_by_label("Lead screw", exact=True).fill("eight")
    # What was said while it was typed is gone.
    expect(page.get_by_label("Name", exact=True)).not_to_have_attribute("aria-invalid", "true")
    expect(page.get_by_label("Lead screw", exact=True)).to_have_attribute("aria-invalid", "true")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_label("Lead screw", exact=True)).to_be_focused()
    page.get_by_label("Lead screw", exact=True).fill("8 tpi")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_label("Wheels, as counted")).to_be_focused()


def test_what_goes_away_leaves_the_focus_near(page: Page, address: str) -> None:
    page.goto(f"{address}/jobs/1/session")
    page.get_by_role("button", name="Pause").click()
    page.get_by_label("Why").fill("lunch")
    page.keyboard.press("Enter")
    expect(page.get_by_text("Paused: lunch")).to_be_visible()
    assert page.evaluate("document.activeElement !== document.body")
    assert page.evaluate("document.querySelector('main').contains(document.activeElement)")
    page.goto(f"{address}/rack")
    page.get_by_role("region", name="Curlew's wheels").get_by_role("button", name="33 teeth").click()
    panel = page.get_by_role("region", name="The chosen wheel")
    panel.get_by_role("button", name="Delete").click()
    expect(panel).to_have_count(0)
    assert page.evaluate("document.querySelector('main').contains(document.activeElement)")


def test_the_number_of_trains_and_the_best_one_are_said(lathe: Page) -> None:
    ask(lathe, "M14x2")
    status = lathe.get_by_role("status", name="Answer")
    expect(status).to_have_text("12 trains. The first: 76/66 × 32/78, Nut runs free, error −0.00518 %.")


def test_the_tooth_is_said_with_the_move(page: Page, address: str) -> None:
    page.goto(f"{address}/jobs/1/session")
    status = page.locator("[aria-live=polite]").filter(has_text="Tooth")
    expect(status).to_contain_text("of 57")
    expect(status).to_contain_text("turn")
