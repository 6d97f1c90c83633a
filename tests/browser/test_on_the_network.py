"""What is done at the machine, on a tablet and a telephone: over plain HTTP, under a name that is not localhost."""

import os
import random
import re
from collections.abc import Iterator
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import APIResponse, Browser, BrowserContext, Page, Playwright, Route, expect

from tests.browser.conftest import CHROMIUM_FLAGS, PATIENCE, VISITED
from tests.served import serve

WORDS = "four plain words here"
NAME = "workshop.test"
TABLET, TELEPHONE = {"width": 800, "height": 1280}, {"width": 390, "height": 844}
SIZES = [TABLET, TELEPHONE]


@pytest.fixture(scope="module")
def network(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    """The demo shop on the network, under the name that its pages are opened by."""
    with pytest.MonkeyPatch.context() as patch:
        patch.setenv("VALLEYWIND_PASSPHRASE", WORDS)
        behind = ("--behind", f"http://{NAME}")
        process, found = serve(tmp_path_factory.mktemp("network"), "--demo", *behind, ready_only=True)
    yield f"http://{NAME}:{urlsplit(found).port}"
    process.terminate()
    process.wait(30)


@pytest.fixture(scope="module")
def mapped(playwright: Playwright, browser_type_launch_args: dict[str, str]) -> Iterator[Browser]:
    """A browser that finds the name here."""
    flags = [*CHROMIUM_FLAGS, f"--host-resolver-rules=MAP {NAME} 127.0.0.1"]
    browser = playwright.chromium.launch(**{**browser_type_launch_args, "args": flags})  # type: ignore[arg-type]
    yield browser
    browser.close()


def device(mapped: Browser, network: str, size: dict[str, int], place: str = "/") -> BrowserContext:
    """A device that is signed in, with a page at that place."""
    context = mapped.new_context(viewport=size, reduced_motion="reduce")  # type: ignore[arg-type]
    context.set_default_timeout(PATIENCE)
    context.add_init_script(VISITED)
    page = context.new_page()
    page.goto(network + place)
    page.get_by_label("Passphrase").fill(WORDS)
    page.get_by_role("button", name="Sign in").click()
    page.get_by_role("heading", level=1).first.wait_for()
    assert page.evaluate("isSecureContext") is False
    return context


@pytest.fixture(params=SIZES, ids=["tablet", "telephone"])
def tablet(mapped: Browser, network: str, request: pytest.FixtureRequest) -> Iterator[Page]:
    context = device(mapped, network, request.param)
    page = context.pages[0]
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    yield page
    assert complaints == []
    context.close()


def test_an_ask_is_put_on_and_its_reading_checked(tablet: Page, network: str) -> None:
    tablet.goto(f"{network}/lathe/plover?ask=M14x2")
    sheet = tablet.get_by_role("region", name="Set-up sheet")
    expect(sheet).to_contain_text("Nut runs free")
    sheet.get_by_label("Length").fill("20.6")
    sheet.get_by_role("button", name="Check").click()
    expect(sheet.get_by_role("button", name="A 64 stands where the 66 belongs.")).to_be_visible()
    tablet.get_by_role("button", name="Record as fitted").click()
    expect(tablet.get_by_role("status", name="What was done")).to_contain_text("Plover")
    tablet.get_by_role("button", name="Undo").first.click()
    expect(tablet.get_by_role("status", name="What was done")).to_contain_text("Undone")


def test_wheels_are_typed_into_the_rack(tablet: Page, network: str) -> None:
    tablet.goto(f"{network}/rack")
    tablet.get_by_label("Wheels, as you count them").fill("33 worn 34x2")
    tablet.get_by_role("button", name="Add to rack").click()
    expect(tablet.get_by_role("status", name="What was done")).to_contain_text("Added")
    tablet.get_by_role("button", name="Undo").first.click()
    expect(tablet.get_by_role("status", name="What was done")).to_contain_text("Undone")


def now(page: Page) -> str:
    return page.get_by_role("region", name="Now").inner_text()


def tooth(page: Page) -> int:
    expect(page.get_by_role("region", name="Now")).to_contain_text(re.compile(r"Tooth \d+ of 57"))
    found = re.search(r"Tooth (\d+) of 57", now(page))
    assert found is not None
    return int(found[1])


def test_a_step_is_recorded_and_stands_after_the_device_was_locked(tablet: Page, network: str) -> None:
    tablet.goto(f"{network}/jobs/1")
    tablet.get_by_role("link", name="Go on cutting").first.click()
    before = tooth(tablet)
    tablet.get_by_role("button", name="Cut – next").click()
    expect(tablet.get_by_role("region", name="Now")).to_contain_text(f"Tooth {before + 1} of 57")
    tablet.reload()
    assert tooth(tablet) == before + 1


def test_three_tabs_and_two_devices_see_each_step(mapped: Browser, network: str) -> None:
    first = device(mapped, network, TABLET, "/jobs/1/session")
    second = device(mapped, network, TELEPHONE, "/jobs/1/session")
    pages = [first.pages[0], second.pages[0]]
    for context in (first, first, second, second):
        pages.append(context.new_page())
        pages[-1].goto(f"{network}/jobs/1/session")
    stood = tooth(pages[0])
    pages[1].get_by_role("button", name="Cut – next").click()
    for one in pages:
        expect(one.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood + 1} of 57")
    first.close()
    second.close()


def test_a_page_goes_to_another_device_by_its_code(mapped: Browser, network: str) -> None:
    at_the_desk = device(mapped, network, {"width": 1280, "height": 800}, "/rack")
    page = at_the_desk.pages[0]
    page.get_by_role("button", name="This page on another device").click()
    dialog = page.get_by_role("dialog", name="This page on another device")
    dialog.get_by_label("That device may only look").check()
    shown = dialog.get_by_role("img", name=re.compile("QR code"))
    expect(shown).to_be_visible()
    with page.expect_response(re.compile("/api/entry/invitations")):
        dialog.get_by_label("That device may only look").uncheck()
        dialog.get_by_label("That device may only look").check()
    expect(shown).to_be_visible()
    way = (shown.get_attribute("aria-label") or "").removeprefix("QR code: ")
    assert way.startswith(f"{network}/sign-in?code=")
    there = mapped.new_context(viewport=TABLET)  # type: ignore[arg-type]
    there.add_init_script(VISITED)
    other = there.new_page()
    other.goto(way)
    other.get_by_label("Name of this device").fill("tablet at the mill")
    other.get_by_role("button", name="Sign in").click()
    expect(other.get_by_role("heading", name="Rack", level=1)).to_be_visible()
    other.get_by_label("Wheels, as you count them").fill("33")
    other.get_by_role("button", name="Add to rack").click()
    expect(other.get_by_text("This device may look, not change.").first).to_be_visible()
    # Signed out from the desk, the tablet says so and keeps what was typed.
    page.goto(f"{network}/machines")
    page.get_by_role("button", name="Sign out: tablet at the mill").click()
    expect(page.get_by_role("button", name="Sign out: tablet at the mill")).to_have_count(0)
    other.get_by_role("button", name="Add to rack").click()
    expect(other.get_by_role("status", name="Server")).to_contain_text("You are not signed in any more.")
    expect(other.get_by_label("Wheels, as you count them")).to_have_value("33")
    # Signed in again in another tab, the page goes on where it was, and hears of changes again.
    tab = there.new_page()
    tab.goto(f"{network}/sign-in?next=/machines")
    tab.get_by_label("Passphrase").fill(WORDS)
    tab.get_by_role("button", name="Sign in").click()
    tab.get_by_role("heading", level=1).first.wait_for()
    tab.close()
    page.goto(f"{network}/rack")
    page.get_by_label("Wheels, as you count them").fill("121")
    page.get_by_role("button", name="Add to rack").click()
    expect(other.get_by_text("121", exact=True).first).to_be_visible()
    expect(other.get_by_label("Wheels, as you count them")).to_have_value("33")
    page.get_by_role("button", name="Undo").first.click()
    expect(other.get_by_text("121", exact=True)).to_have_count(0)
    there.close()
    at_the_desk.close()


def test_no_file_of_the_shop_is_read_without_a_passphrase(mapped: Browser, network: str) -> None:
    context = mapped.new_context()
    page = context.new_page()
    seen: list[str] = []
    page.on("response", lambda response: seen.append(f"{response.status} {urlsplit(response.url).path}"))
    page.goto(f"{network}/jobs/1/session")
    expect(page.get_by_label("Passphrase")).to_be_focused()
    assert {one for one in seen if "favicon" not in one} == {"303 /jobs/1/session", "200 /sign-in"}
    context.close()


@pytest.mark.parametrize(
    "size", [(360, 640), (640, 360), (390, 844), (844, 390), (800, 1280), (1280, 800)], ids=lambda s: f"{s[0]}x{s[1]}"
)
def test_while_cutting_the_move_and_the_big_button_are_in_sight(
    mapped: Browser, network: str, size: tuple[int, int]
) -> None:
    width, height = size
    context = device(mapped, network, {"width": width, "height": height}, "/jobs/1/session")
    page = context.pages[0]
    tooth(page)
    region = page.get_by_role("region", name="Now")
    places = {
        "button": page.get_by_role("button", name="Cut – next"),
        "move": region.get_by_text(re.compile(r"^\d+.turn"), exact=False).last,
        "tooth": region.get_by_text(re.compile(r"^tooth \d+ of 57")).last,
        "depth": region.get_by_text(re.compile("deep$")).last,
    }
    boxes = {name: one.bounding_box() for name, one in places.items()}
    for name, box in boxes.items():
        assert box is not None, name
        assert box["x"] >= 0, name
        assert box["x"] + box["width"] <= width, name
        assert box["y"] + box["height"] <= height, name
    button = boxes["button"]
    assert button is not None
    assert button["height"] >= 96
    for name in ("move", "tooth", "depth"):
        box = boxes[name]
        assert box is not None
        across = min(box["x"] + box["width"], button["x"] + button["width"]) - max(box["x"], button["x"])
        down = min(box["y"] + box["height"], button["y"] + button["height"]) - max(box["y"], button["y"])
        assert across <= 0 or down <= 0, f"{name} is under the button"
    header = page.get_by_role("banner").bounding_box()
    assert header is not None
    assert header["height"] <= 48
    page.get_by_role("button", name="Menu").click()
    expect(page.get_by_role("link", name="Rack")).to_be_visible()
    context.close()


CUTS = int(os.environ.get("CUTS", "12"))
"""How often the line is cut; 200 by hand."""


def test_with_a_line_that_comes_and_goes_each_step_counts_once(mapped: Browser, network: str) -> None:
    """A step is lost on its way, or recorded and its answer lost: either way it stands once, and the screen never says
    recorded where it is not."""
    chance = random.Random(26)
    context = device(mapped, network, TELEPHONE, "/jobs/1/session")
    page = context.pages[0]

    def pass_on(route: Route) -> None:
        if not cut:
            route.fulfill(response=reached(route))
        elif cut.pop():
            reached(route)
            route.abort()
        else:
            route.abort()

    page.route(re.compile(r"/session/events"), pass_on)
    cut: list[bool] = []
    seen = seen_there(page)
    for _ in range(CUTS):
        stood = tooth(page)
        # Cut once or twice before it is mended; True: the server has it, the answer is lost.
        cut[:] = [chance.random() < 0.5 for _ in range(chance.choice([0, 1, 1, 2]))]
        button, way = ("Back", -1) if stood > 40 or (stood > 24 and chance.random() < 0.3) else ("Cut – next", 1)
        page.get_by_role("button", name=button, exact=True).click()
        expect(page.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood + way} of 57")
        expect(page.get_by_role("alert")).to_have_count(0)
        seen += 1
        assert seen_there(page) == seen, "neither lost nor doubled"
    context.close()


def reached(route: Route) -> APIResponse:
    """The answer of the server, whose name only the browser knows."""
    parts = urlsplit(route.request.url)
    headers = {**route.request.all_headers(), "host": parts.netloc}
    return route.fetch(url=route.request.url.replace(NAME, "127.0.0.1", 1), headers=headers)


def seen_there(page: Page) -> int:
    """How many things the server has on record of the session."""
    return int(page.evaluate("fetch('/api/jobs/1/session?units=mm').then((r) => r.json()).then((s) => s.seen)"))


def test_a_step_that_another_device_took_meanwhile_is_told_and_not_recorded(mapped: Browser, network: str) -> None:
    one = device(mapped, network, TELEPHONE, "/jobs/1/session")
    other = device(mapped, network, TABLET, "/jobs/1/session")
    page, there = one.pages[0], other.pages[0]
    stood = tooth(page)
    page.route(re.compile(r"/session/events|/api/events"), lambda route: route.abort())
    page.get_by_role("button", name="Cut – next").click()
    expect(page.get_by_role("alert")).to_contain_text("Not recorded yet")
    expect(page.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood} of 57")
    there.get_by_role("button", name="Cut – next").click()
    expect(there.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood + 1} of 57")
    seen = seen_there(there)
    page.unroute_all()
    expect(page.get_by_role("alert")).to_contain_text("somebody else recorded a step")
    expect(page.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood + 1} of 57")
    assert seen_there(there) == seen
    one.close()
    other.close()


def test_what_one_device_changes_stands_on_the_other_and_what_is_typed_there_stays(
    mapped: Browser, network: str
) -> None:
    one = device(mapped, network, TELEPHONE, "/rack")
    other = device(mapped, network, TABLET, "/rack")
    page, there = one.pages[0], other.pages[0]
    there.get_by_label("Wheels, as you count them").fill("77 half typed")
    page.get_by_label("Wheels, as you count them").fill("123")
    page.get_by_role("button", name="Add to rack").click()
    expect(there.get_by_text("123", exact=True).first).to_be_visible()
    expect(there.get_by_label("Wheels, as you count them")).to_have_value("77 half typed")
    page.get_by_role("button", name="Undo").first.click()
    expect(there.get_by_text("123", exact=True)).to_have_count(0)
    there.goto(f"{network}/lathe/plover")
    page.goto(f"{network}/lathe/plover?ask=M14x2")
    page.get_by_role("button", name="Record as fitted").click()
    expect(there.get_by_text("On Plover now").first).to_be_visible()
    one.close()
    other.close()
