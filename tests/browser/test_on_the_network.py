"""What is done at the machine, on a tablet and a telephone: over plain HTTP, under a name that is not localhost."""

import json
import os
import random
import re
import socket
from collections.abc import Iterator
from urllib.parse import urlsplit

import pytest
from playwright.sync_api import APIResponse, Browser, BrowserContext, Locator, Page, Playwright, Route, expect

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
        process, result = serve(tmp_path_factory.mktemp("network"), "--demo", *behind, ready_only=True)
    yield f"http://{NAME}:{urlsplit(result).port}"
    process.terminate()
    process.wait(30)


@pytest.fixture(scope="module")
def mapped(playwright: Playwright, browser_type_launch_args: dict[str, str]) -> Iterator[Browser]:
    """A browser that finds the name here."""
    flags = [*CHROMIUM_FLAGS, f"--host-resolver-rules=MAP {NAME} 127.0.0.1"]
    browser = playwright.chromium.launch(**{**browser_type_launch_args, "args": flags})  # type: ignore[arg-type]
    yield browser
    browser.close()


def device(mapped: Browser, network: str, size: dict[str, int], place: str = "/", name: str = "") -> BrowserContext:
    """A device that is signed in, with a page at that place; name: what it calls itself, if anything."""
    context = mapped.new_context(viewport=size, reduced_motion="reduce")  # type: ignore[arg-type]
    context.set_default_timeout(PATIENCE)
    context.add_init_script(VISITED)
    page = context.new_page()
    page.goto(network + place)
    page.get_by_label("Passphrase").fill(WORDS)
    if name:
        page.get_by_label("Name of this device").fill(name)
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


def test_a_step_of_a_job_is_read_and_the_last_gap_explained(tablet: Page, network: str) -> None:
    # A second job of the same wheel would be asked about.
    teeth = 60 if tablet.viewport_size == TABLET else 61
    tablet.goto(f"{network}/jobs?ask=make+{teeth}+for+Plover")
    tablet.get_by_role("button", name="Add the job").click()
    outside = tablet.get_by_role("listitem").filter(has=tablet.get_by_role("heading", name=re.compile("^Outside")))
    outside.get_by_label("Diameter found").fill("131.0")
    outside.get_by_role("button", name="Save").click()
    expect(outside).to_contain_text("the depth is now")
    tablet.goto(f"{network}/jobs/1")
    tablet.get_by_label("Last tooth too thick by").fill("0.33")
    tablet.get_by_role("button", name="Explain").click()
    expect(tablet.get_by_text("One space of the 19 short, once")).to_be_visible()


def now(page: Page) -> str:
    return page.get_by_role("region", name="Now").inner_text()


def tooth(page: Page) -> int:
    expect(page.get_by_role("region", name="Now")).to_contain_text(re.compile(r"Tooth \d+ of 57"))
    match = re.search(r"Tooth (\d+) of 57", now(page))
    assert match is not None
    return int(match[1])


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


def test_a_telephone_that_was_locked_stands_at_the_very_tooth(mapped: Browser, network: str) -> None:
    """Locked, its page stands still and its line is down, while another goes on."""
    one = device(mapped, network, TELEPHONE, "/jobs/1/session")
    other = device(mapped, network, TABLET, "/jobs/1/session")
    page, there = one.pages[0], other.pages[0]
    stood = tooth(page)
    lock = one.new_cdp_session(page)
    lock.send("Page.setWebLifecycleState", {"state": "frozen"})
    one.set_offline(True)
    for n in (1, 2):
        there.get_by_role("button", name="Cut – next").click()
        expect(there.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood + n} of 57")
    one.set_offline(False)
    lock.send("Page.setWebLifecycleState", {"state": "active"})
    expect(page.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood + 2} of 57")
    expect(page.get_by_role("alert")).to_have_count(0)
    page.get_by_role("button", name="Back", exact=True).click()
    expect(there.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood + 1} of 57")
    one.close()
    other.close()


A_VOICE = """
window.said = [];
window.SpeechSynthesisUtterance = class { constructor(text) { this.text = text; } };
const far = { localService: false, lang: "en", name: "far" }, own = { localService: true, lang: "en", name: "own" };
Object.defineProperty(window, "speechSynthesis", { value: {
  getVoices: () => [far, own], speak: (one) => window.said.push(`${one.voice.name}: ${one.text}`),
  cancel() {}, addEventListener() {}, removeEventListener() {},
} });
"""


def test_the_move_is_said_aloud_by_a_voice_of_the_device_once_it_is_switched_on(mapped: Browser, network: str) -> None:
    context = device(mapped, network, TELEPHONE)
    context.add_init_script(A_VOICE)
    page = context.pages[0]
    page.goto(f"{network}/jobs/1/session")
    stood = tooth(page)
    button = "Cut – next" if stood < 50 else "Back"
    page.get_by_role("button", name=button, exact=True).click()
    way = 1 if button == "Cut – next" else -1
    expect(page.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood + way} of 57")
    assert page.evaluate("window.said") == [], "off at first"
    page.get_by_role("button", name="Voice off").click()
    page.get_by_role("button", name=button, exact=True).click()
    expect(page.get_by_role("region", name="Now")).to_contain_text(f"Tooth {stood + 2 * way} of 57")
    page.wait_for_function("() => window.said.length >= 2")
    utterances = page.evaluate("window.said")
    assert [one.split(".")[0] for one in utterances] == [f"own: Tooth {stood + n * way}" for n in (1, 2)]
    context.close()


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


def test_a_page_that_nobody_sees_asks_once_it_is_seen_and_only_for_what_is_new(mapped: Browser, network: str) -> None:
    one, other = (device(mapped, network, size, "/rack") for size in (TELEPHONE, TABLET))
    page, there = one.pages[0], other.pages[0]
    seeing = "(hidden) => { Object.defineProperty(document, 'hidden', {value: hidden, configurable: true});"
    seeing += " document.dispatchEvent(new Event('visibilitychange')); }"
    answers: list[tuple[str, int]] = []
    there.on("response", lambda answer: answers.append((urlsplit(answer.url).path, answer.status)))
    # What it asks for at first has come before it is hidden.
    expect(there.get_by_text("127", exact=True).first).to_be_visible()
    for _ in range(40):
        before = len(answers)
        there.wait_for_timeout(500)
        if len(answers) == before:
            break
    answers.clear()
    there.evaluate(seeing, True)
    with page.expect_response(lambda answer: answer.request.method == "POST" and answer.ok):
        page.get_by_label("Wheels, as you count them").fill("131")
        page.get_by_role("button", name="Add to rack").click()
    expect(page.get_by_text("131", exact=True).first).to_be_visible()
    assert answers == []
    expect(there.get_by_text("131", exact=True)).to_have_count(0)
    there.evaluate(seeing, False)
    expect(there.get_by_text("131", exact=True).first).to_be_visible()
    assert {("/api/rack", 200), ("/api/machines", 304)} <= set(answers)
    page.get_by_role("button", name="Undo").first.click()
    expect(there.get_by_text("131", exact=True)).to_have_count(0)
    one.close()
    other.close()


def test_a_form_cut_off_is_sent_again_by_its_own_button_and_counts_once(mapped: Browser, network: str) -> None:
    """Cut before the server has it, or after, with the answer lost: what was typed stays, and stands once."""
    chance = random.Random(27)
    context = device(mapped, network, TABLET, "/rack")
    page = context.pages[0]
    cut: list[bool] = []

    def pass_on(route: Route) -> None:
        if route.request.method == "GET" or not cut:
            route.fallback()
            return
        if cut.pop():
            reached(route)
        route.abort()

    page.route(re.compile("/api/rack/wheels"), pass_on)
    pile, add = page.get_by_label("Wheels, as you count them"), page.get_by_role("button", name="Add to rack")
    done = page.get_by_role("status", name="What was done")
    for _ in range(max(3, CUTS // 4)):
        held, changes = wheels_there(page), changes_there(page)
        cut[:] = [chance.random() < 0.5 for _ in range(chance.choice([1, 1, 2]))]
        pile.fill("124")
        for _ in range(len(cut)):
            left = len(cut)
            # The notice of the cut before may still be there.
            with page.expect_event("requestfailed", lambda request: request.method != "GET"):
                add.click()
            assert len(cut) == left - 1
            expect(page.get_by_text("The Valleywind server does not answer.").first).to_be_visible()
            expect(pile).to_have_value("124")
        add.click()
        expect(done).to_contain_text("Added")
        expect(pile).to_have_value("")
        assert (wheels_there(page), changes_there(page)) == (held + 1, changes + 1), "neither lost nor doubled"
        page.get_by_role("button", name="Undo").first.click()
        expect(done).to_contain_text("Undone")
    context.close()


def wheels_there(page: Page) -> int:
    """How many wheels the rack has."""
    count = "(r) => r.wheels.reduce((sum, wheel) => sum + wheel.count, 0)"
    return int(page.evaluate(f"fetch('/api/rack').then((r) => r.json()).then({count})"))


def changes_there(page: Page) -> int:
    """The number of the latest change."""
    return int(page.evaluate("fetch('/api/changes').then((r) => r.json()).then((all) => all[0].id)"))


def test_a_figure_that_is_typed_stays_while_another_device_records_one(mapped: Browser, network: str) -> None:
    one = device(mapped, network, TABLET, "/jobs?ask=make+62+for+Plover")
    page = one.pages[0]
    page.get_by_role("button", name="Add the job").click()
    page.wait_for_url(re.compile(r"/jobs/\d+$"))
    other = device(mapped, network, TELEPHONE, urlsplit(page.url).path)
    there = other.pages[0]

    def outside(on: Page) -> Locator:
        return on.get_by_role("listitem").filter(has=on.get_by_role("heading", name=re.compile("^Outside")))

    outside(there).get_by_label("Diameter found").fill("135.2")
    outside(page).get_by_label("Diameter found").fill("135.31")
    outside(page).get_by_role("button", name="Save").click()
    expect(outside(there)).to_contain_text("Recorded meanwhile: 135.31")
    expect(outside(there).get_by_label("Diameter found")).to_have_value("135.2")
    outside(there).get_by_role("button", name="Save").click()
    expect(outside(page).get_by_label("Diameter found")).to_have_value("135.2")
    expect(outside(page)).to_contain_text("before: 135.31")
    other.close()
    one.close()


def test_whoever_comes_second_sees_who_is_at_the_session(mapped: Browser, network: str) -> None:
    one = device(mapped, network, TABLET, "/jobs/1/session", "tablet at the mill")
    page = one.pages[0]
    tooth(page)
    # Whoever was there before is gone once it was not heard for so long, where its good-bye is lost.
    expect(page.get_by_text("Also here")).to_have_count(0, timeout=70_000)
    other = device(mapped, network, TELEPHONE, "/jobs/1/session", "telephone")
    there = other.pages[0]
    expect(there.get_by_text("Also here: tablet at the mill, since")).to_be_visible()
    expect(page.get_by_text("Also here: telephone, since")).to_be_visible()
    there.goto(f"{network}/rack")
    expect(page.get_by_text("Also here")).to_have_count(0, timeout=70_000)
    other.close()
    one.close()


def test_a_device_is_let_in_by_the_key_that_the_page_made(mapped: Browser, network: str) -> None:
    context = device(mapped, network, TELEPHONE, "/jobs/devices")
    page = context.pages[0]
    hint = page.get_by_text(re.compile(r"Devices connect at port \d+"))
    expect(hint).to_be_visible()
    match = re.search(r"port (\d+)", hint.inner_text())
    assert match is not None
    page.get_by_label("Key for").fill("pedal of Heron")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_text("The key of pedal of Heron. It is shown only now.")).to_be_visible()
    key = page.get_by_role("status").locator("code").first.inner_text()
    with socket.create_connection(("127.0.0.1", int(match[1])), PATIENCE / 1000) as wire:
        wire.sendall(json.dumps({"hello": "pedal", "name": "foot", "key": key}).encode() + b"\n")
        assert b"welcome" in wire.recv(200)
        expect(page.get_by_text("Pedal foot")).to_be_visible()
        page.get_by_role("button", name="Take back the key of pedal of Heron").click()
        expect(page.get_by_text("Nothing is connected.")).to_be_visible()
    with socket.create_connection(("127.0.0.1", int(match[1])), PATIENCE / 1000) as wire:
        wire.sendall(json.dumps({"hello": "pedal", "key": key}).encode() + b"\n")
        assert b"no key of the shop" in wire.recv(400)
    # A stand-in needs none: its page is signed in.
    page.get_by_role("button", name="Pedal", exact=True).click()
    expect(page.get_by_role("complementary", name="Stand-ins").get_by_role("button", name="Press")).to_be_visible()
    context.close()
