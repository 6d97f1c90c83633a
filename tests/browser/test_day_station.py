"""The day's order on a lathe, as a person finds it."""

import re

from playwright.sync_api import Page, expect


def test_asks_are_put_into_an_order_and_lead_to_their_set_ups(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover/day")
    expect(page.get_by_text("Enter what is to be done.")).to_be_visible()
    page.get_by_label("Threads and feeds, a line each").fill("M14x2\n1.25 mm\nnonsense\n20 tpi")
    page.get_by_role("button", name="Find the order").click()
    order = page.get_by_role("region", name="Order")
    steps = order.get_by_role("list", name="In this order").locator("> li")
    expect(steps).to_have_count(3)
    expect(order.get_by_role("status")).to_contain_text(re.compile(r"\d+ wheels? put on in all"))
    expect(order).to_contain_text("nonsense: ")
    expect(page).to_have_url(re.compile(r"do=M14x2&do=1.25\+mm"))
    page.reload()
    expect(steps).to_have_count(3)
    expect(page.get_by_label("Threads and feeds, a line each")).to_have_value("M14x2\n1.25 mm\nnonsense\n20 tpi")
    page.get_by_label("Put back what is on now").check()
    expect(order).to_contain_text("At the end, what is on now")
    train = steps.last.get_by_role("img").last.get_attribute("aria-label")
    steps.last.get_by_role("link", name="Set-up").click()
    expect(page).to_have_url(re.compile(r"/lathe/plover\?ask="))
    chosen = page.get_by_role("radiogroup", name="Trains").get_by_role("radio", checked=True)
    expect(chosen.get_by_role("img", name=str(train), exact=True)).to_be_visible()
