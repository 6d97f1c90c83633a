"""Print, PDF and the rest of what makes paper or a file stand only beside an answer that holds."""

import re

import pytest
from playwright.sync_api import Page, expect

PAPER = re.compile("^(Print|PDF|SVG|CSV|Table as CSV|Print for the gear cover)$")


def offered(page: Page) -> list[str]:
    """What there is to press that gives paper or a file."""
    page.wait_for_load_state("networkidle")
    there = [*page.get_by_role("button", name=PAPER, disabled=False).all(), *page.get_by_role("link", name=PAPER).all()]
    return [one.inner_text() for one in there if not one.evaluate("e => e.closest('[inert]') !== null")]


@pytest.mark.parametrize(
    "place",
    [
        "lathe/plover?ask=M14x2 xyz", "lathe/plover/chart?list=",
        "hobber/avocet?ask=hob",
        "mill/heron?ask=helix 24", "mill/heron/chart?first=90&last=20",
        "wheel?ask=wheel 3", "wheel?ask=abc", "dividing?ask=abc", "dividing/disc?divisions=0",
        "jobs/999",
    ],
)  # fmt: skip
def test_no_paper_without_an_answer(page: Page, address: str, place: str) -> None:
    page.goto(f"{address}/{place}")
    expect(page.locator("h1, h2, [role=alert], [role=combobox]").first).to_be_visible()
    assert offered(page) == []


@pytest.mark.parametrize(
    "place",
    ["lathe/plover?ask=M14x2", "hobber/avocet?ask=hob 37", "mill/heron?ask=lead 300 mm", "dividing/disc", "wheel"],
)
def test_paper_beside_an_answer(page: Page, address: str, place: str) -> None:
    page.goto(f"{address}/{place}")
    expect(page.get_by_role("link", name=re.compile("PDF")).first).to_be_visible()
    assert offered(page)
