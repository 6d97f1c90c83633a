"""The log, and what was done last time, as a person finds it."""

import re

from playwright.sync_api import Page, expect


def test_what_came_out_is_one_tap_and_is_found_again(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover?ask=M14x2&train=76/66*32/78")
    log = page.get_by_role("region", name="Log")
    expect(log.get_by_text("Last time")).to_have_count(0)
    log.get_by_label("Note").fill("Spacer on the stud.")
    log.get_by_label("Initials").fill("hw")
    log.get_by_role("button", name="Ran free").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("In the log: M14x2, ran free.")
    expect(log).to_contain_text("Done: M14x2 on Plover, with 76/66 × 32/78: ran free. Spacer on the stud.")
    # With another train chosen, the one of then is taken by a button.
    page.get_by_role("radiogroup", name="Trains").get_by_role("radio").nth(2).click()
    log.get_by_role("button", name="Set up as then").click()
    expect(page).to_have_url(re.compile(r"train=76%2F66\*32%2F78"))
    log.get_by_role("link", name="Whole log").click()
    entry = page.get_by_role("listitem").filter(has_text="Done: M14x2 on Plover")
    expect(entry).to_contain_text("hw")
    entry.get_by_role("button", name=re.compile("^Correct")).click()
    entry.get_by_label("What is wrong, and what holds").fill("it was tight")
    entry.get_by_role("button", name="Strike through").click()
    expect(entry).to_contain_text("it was tight")
    page.get_by_label("A note for the log").fill("Belt of Heron slips")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_text("Belt of Heron slips")).to_be_visible()
    page.get_by_label("Words").fill("belt")
    expect(page.get_by_role("listitem").filter(has_text="Done: M14x2")).to_have_count(0)
    expect(page.get_by_text("Belt of Heron slips")).to_be_visible()
    page.get_by_label("Words").fill("")
    entry.get_by_role("link", name="Open").click()
    expect(page).to_have_url(re.compile(r"/lathe/plover\?ask=M14x2"))
