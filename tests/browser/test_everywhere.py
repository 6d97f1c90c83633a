"""What must hold on every station: machines and shop, accessibility, narrow screens."""

from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

AXE = Path(__file__).parents[2] / "frontend/node_modules/axe-core/axe.min.js"
PLACES = [
    "/lathe/plover",
    "/lathe/plover?ask=M14x2",
    "/lathe/plover?ask=0.01%20mm",
    "/lathe/plover?ask=bananas",
    "/lathe/curlew?ask=26%20tpi&order=most_exact",
    "/lathe/curlew?ask=feed%200.04",
    "/lathe/dunlin?ask=2%20mm&train=32/80/64",
    "/hobber/avocet",
    "/hobber/avocet?ask=hob%20107%20m2%20face%2020%20hob%20dia%2063",
    "/hobber/avocet?ask=hob%2024%20m2%2030°",
    "/hobber/avocet/chart?first=90&last=130",
    "/mill/heron",
    "/mill/heron?ask=helix%2024%20m2%2030°%20left%20face%2020%20with%2024",
    "/mill/heron?ask=helix%2024%20m2%2060°%20left",
    "/mill/heron/chart?first=20&last=36",
    "/jobs",
    "/jobs?ask=make%2060%20for%20Plover",
    "/jobs/1",
    "/jobs/1/session",
    "/jobs/devices",
    "/machines",
    "/machines/new/collet-block",
    "/machines/plover",
    "/machines/heron",
    "/machines/avocet",
    "/machines/new/hobber",
    "/machines/new/mill",
    "/lathe/plover/chart",
    "/lathe/curlew/chart?of=feeds",
    "/lathe/plover/unknown",
    "/rack",
    "/rack/sets",
    "/rack/stores",
    "/wheel?ask=wheel%2057",
    "/dividing?ask=divide%2053&way=1",
    "/dividing/disc",
    "/dividing/plate",
    "/dividing/chart",
]

# What a thumb cannot hit: lower than 44 px.
TOO_SMALL = """() => [...document.querySelectorAll('button, a, input, [role=radio]')]
    .filter(e => e.checkVisibility() && e.name !== 'brand')
    .map(e => [e.textContent, e.closest('form[role=search] div') ?? e])
    .filter(([, e]) => e.getBoundingClientRect().height < 43.5 && !e.matches('header > a'))
    .map(([text, e]) => `${text} ${e.getBoundingClientRect().height}`)"""


# What stands out to the right of the screen and cannot be scrolled to.
CUT_OFF = """width => [...document.querySelectorAll('main :is(p, li, dd, dt, label, button, a, input, h1, h2, td, text)')]
    .filter(e => e.checkVisibility() && e.getBoundingClientRect().right > width + 1)
    .filter(e => {
        for (let box = e.parentElement; box; box = box.parentElement) {
            const scrolls = ['auto', 'scroll'].includes(getComputedStyle(box).overflowX)
            if (scrolls && box.scrollWidth > box.clientWidth) return false
        }
        return true
    })
    .map(e => `${e.tagName} ${e.textContent.slice(0, 40)}`)"""  # noqa: E501
# Drawings take the new size of the window in the next frame.
DRAWN_ANEW = "() => new Promise(done => requestAnimationFrame(() => requestAnimationFrame(done)))"


def go(page: Page, place: str) -> None:
    """To a station, and wait until it is whole."""
    page.goto(place)
    expect(page.locator("main h1, main [role=alert]").first).to_be_visible()
    page.wait_for_load_state("networkidle")


SIZES = [(390, 844), (800, 1280), (1280, 800)]


@pytest.mark.parametrize("place", PLACES)
def test_nothing_is_cut_off_or_too_small_and_axe_finds_nothing_serious(page: Page, address: str, place: str) -> None:
    go(page, address + place)
    for width, height in SIZES:
        page.set_viewport_size({"width": width, "height": height})
        page.evaluate(DRAWN_ANEW)
        assert page.evaluate("document.documentElement.scrollWidth") <= width
        assert page.evaluate(CUT_OFF, width) == []
        assert page.evaluate(TOO_SMALL) == []
    page.evaluate(AXE.read_text())
    # By night only the colours are others.
    for night, of in ((False, {}), (True, {"runOnly": ["color-contrast"]})):
        page.evaluate("night => document.documentElement.classList.toggle('night', night)", night)
        result = page.evaluate("of => axe.run(document, {resultTypes: ['violations'], ...of})", of)
        serious = [
            (v["id"], [n["html"][:120] for n in v["nodes"]])
            for v in result["violations"]
            if v["impact"] in ("serious", "critical")
        ]
        assert serious == []


def test_wheels_are_typed_over_and_undone(page: Page, address: str) -> None:
    page.goto(f"{address}/machines")
    card = page.get_by_role("article").filter(has=page.get_by_role("heading", name="Plover"))
    field = card.get_by_label("Wheels held")
    before = field.input_value()
    field.fill(before + " 6O")
    card.get_by_role("button", name="Save").click()
    expect(page.get_by_text("“6O” is not a tooth number.")).to_be_visible()
    expect(field).to_have_value(before + " 6O")
    field.fill(before + " 60")
    card.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Plover’s wheels are changed.")
    expect(card.get_by_role("listitem", name="60, held")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(card.get_by_role("listitem", name="60, missing")).to_be_visible()


def test_where_the_shop_is_kept_is_shown(page: Page, address: str) -> None:
    page.goto(f"{address}/machines")
    kept = page.get_by_role("region", name="Where it is kept")
    expect(kept).to_contain_text("harrowfold.sqlite")
    kept.get_by_role("button", name="Reset the demo shop").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Demo shop loaded.")


def test_an_empty_shop_says_what_to_do_first(page: Page, own_shop: str) -> None:
    page.goto(own_shop)
    expect(page.get_by_text("There is no machine here yet.")).to_be_visible()
    page.get_by_role("button", name="Load the demo shop").click()
    page.get_by_role("link", name="Plan a thread on Curlew").click()
    expect(page.get_by_role("heading", name="What thread?")).to_be_visible()


def test_an_unknown_lathe_leads_on(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/bittern?ask=M14x2")
    expect(page.get_by_text("There is no lathe “bittern” here.")).to_be_visible()
    page.get_by_role("link", name="See the machines").click()
    expect(page.get_by_role("heading", name="Plover")).to_be_visible()
