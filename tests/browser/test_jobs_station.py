"""Jobs and the cutting session as a person goes through them."""

import json
import re
import socket
import urllib.request
from collections.abc import Iterator
from contextlib import contextmanager
from pathlib import Path
from typing import Any

import pytest
from playwright.sync_api import Browser, Locator, Page, expect

from tests.served import serve


@pytest.fixture(autouse=True)
def fresh_session(address: str) -> None:
    """What was cut is never taken back: the demo shop is loaded anew for every test."""
    body = b'{"confirm": "replace by the demo shop"}'
    request = urllib.request.Request(f"{address}/api/shop/demo", body, {"Content-Type": "application/json"})
    with urllib.request.urlopen(request, timeout=20) as answer:
        assert answer.status == 200


@pytest.fixture
def half_way(address: str, fresh_session: None) -> str:  # noqa: ARG001
    """Where the demo's 57 is cut."""
    with urllib.request.urlopen(f"{address}/api/jobs", timeout=20) as answer:
        number = json.load(answer)[0]["id"]
    return f"{address}/jobs/{number}"


@pytest.fixture
def cutting(page: Page, half_way: str) -> Iterator[Page]:
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.goto(f"{half_way}/session")
    expect(tooth(page, 23)).to_be_visible()
    yield page
    assert complaints == []


def now(page: Page) -> Locator:
    return page.get_by_role("region", name="Now")


def tooth(page: Page, number: int) -> Locator:
    return now(page).get_by_text(re.compile(rf"tooth {number} of 57"))


def cut(page: Page, then: int) -> None:
    """Press the space bar; the screen goes on when it is recorded."""
    page.keyboard.press("Space")
    expect(tooth(page, then)).to_be_visible()
    expect(now(page).get_by_role("button", name="Cut – next")).to_be_enabled()


def test_from_the_ask_to_the_first_cut(page: Page, address: str) -> None:
    page.goto(address)
    page.get_by_role("combobox", name="What is wanted").fill("make 60 for Plover")
    expect(page).to_have_url(re.compile(r"/jobs\?ask=make\+60"))
    page.get_by_role("button", name="Add the job").click()
    expect(page.get_by_role("heading", name="A 60 for Plover")).to_be_visible()
    choices, steps = (page.get_by_role("region", name=name) for name in ("Choices", "Steps"))
    choices.get_by_label("Material").select_option("acetal")
    choices.get_by_label("Gap blank to jaws").fill("30")
    choices.get_by_label("Jaw length").fill("55")
    choices.get_by_label("Passes, from touching").fill("9")
    choices.get_by_role("button", name="Save").click()
    expect(choices.get_by_role("alert")).to_contain_text("A pass of 9 mm is deeper than the tooth.")
    choices.get_by_label("Passes, from touching").fill("")
    choices.get_by_role("button", name="Save").click()
    expect(page.get_by_role("img", name=re.compile("from the side: jaws"))).to_be_visible()
    outside = steps.get_by_role("listitem").filter(has=page.get_by_role("heading", name=re.compile("^Outside")))
    outside.get_by_label("Diameter found").fill("13")
    outside.get_by_role("button", name="Save").click()
    expect(outside.get_by_role("alert")).to_contain_text("Is the unit right?")
    outside.get_by_label("Diameter found").fill("131.0")
    outside.get_by_role("button", name="Save").click()
    expect(outside).to_contain_text("the depth is now")
    # Outside its limits the step stays open until somebody says why it does all the same.
    expect(outside.get_by_role("button", name="Outside: not done")).to_be_visible()
    outside.get_by_label("Outside: taken all the same, because").fill("runs with a worn mate")
    outside.get_by_role("button", name="Accept").click()
    expect(outside.get_by_role("button", name="Outside: done")).to_be_visible()
    # The 57 is on Heron: another head, or that one paused.
    steps.get_by_role("button", name="Start cutting").click()
    expect(steps.get_by_role("alert").last).to_contain_text("is being used for another session")
    choices.get_by_label("Divided").select_option(label="a printed disc")
    choices.get_by_role("button", name="Save").click()
    expect(page.get_by_role("region", name="Figures")).to_contain_text("printed disc of 60 marks")
    steps.get_by_role("button", name="Start cutting").click()
    expect(now(page)).to_contain_text("mark 1")
    now(page).get_by_role("button", name="Cut – next").click()
    expect(now(page)).to_contain_text("mark 2")


def test_the_half_way_57_goes_on_by_the_space_bar_and_a_reload_keeps_the_tooth(cutting: Page) -> None:
    expect(now(cutting)).to_contain_text("1 turn 1 space")
    for number in (24, 25, 26):
        cut(cutting, number)
    cutting.reload()
    expect(tooth(cutting, 26)).to_be_visible()
    now(cutting).get_by_role("button", name="Back").click()
    expect(tooth(cutting, 25)).to_be_visible()


def test_it_is_finished_by_the_space_bar_and_the_last_gap_is_explained(cutting: Page, half_way: str) -> None:
    for number in (*range(24, 58), *range(1, 58)):
        cut(cutting, number)
    cutting.keyboard.press("Space")
    expect(now(cutting)).to_contain_text("Every gap is cut.")
    now(cutting).get_by_role("link", name="Compare the last gap").click()
    expect(cutting).to_have_url(f"{half_way}#step-last_gap")
    expect(cutting.get_by_label("Last tooth too thick by")).to_be_focused()
    expect(cutting.get_by_role("listitem").filter(has_text="Every gap is cut.").first).to_be_visible()
    cutting.get_by_label("Last tooth too thick by").fill("0.33")
    cutting.get_by_role("button", name="Explain").click()
    expect(cutting.get_by_text("One space of the 19 short, once")).to_be_visible()
    cutting.get_by_role("button", name="Put it into the rack").click()
    cutting.get_by_role("button", name="Put it in, leave them open").click()
    expect(cutting.get_by_role("status", name="What was done")).to_contain_text("A 57 for Plover is in the rack.")


def test_a_second_tablet_sees_each_step_and_cannot_cut_the_same_tooth(
    cutting: Page, half_way: str, browser: Browser
) -> None:
    other = browser.new_page(viewport={"width": 390, "height": 844}, reduced_motion="reduce")
    other.goto(f"{half_way}/session")
    expect(tooth(other, 23)).to_be_visible()
    cutting.keyboard.press("Space")
    expect(tooth(other, 24)).to_be_visible()
    # Its news held back, the second one tells a step of a state that is gone.
    other.route(re.compile(r"/session\?"), lambda route: route.abort())
    other.route(re.compile(r"/api/events"), lambda route: route.abort())
    cutting.keyboard.press("Space")
    expect(tooth(cutting, 25)).to_be_visible()
    other.evaluate("() => 0")
    other.unroute_all()
    other.reload()
    expect(tooth(other, 25)).to_be_visible()
    other.get_by_role("button", name="Cut – next").click()
    expect(tooth(cutting, 26)).to_be_visible()
    other.close()


# How many streams of events a page has open.
COUNTED = """() => {
  const Real = window.EventSource;
  window.streams = 0;
  window.EventSource = class extends Real {
    constructor(url) { super(url); window.streams++; }
    close() { if (this.readyState !== 2) window.streams--; super.close(); }
  };
}"""


def test_tabs_of_one_browser_share_a_stream_and_each_sees_every_step(cutting: Page, half_way: str) -> None:
    others = [cutting.context.new_page(), cutting.context.new_page()]
    pages = [cutting, *others]
    for page in pages:
        page.add_init_script(f"({COUNTED})()")
        page.goto(f"{half_way}/session")
        expect(tooth(page, 23)).to_be_visible()
    # Each began to listen as it was opened, and all but one gave way.
    cutting.bring_to_front()
    cut(cutting, 24)
    for other in others:
        expect(tooth(other, 24)).to_be_visible()
    for _ in range(100):
        listening = [page.evaluate("window.streams") for page in pages]
        if sum(listening) == 1:
            break
        cutting.wait_for_timeout(100)
    assert sum(listening) == 1, listening
    # Whoever listened is closed: another one listens.
    others[0].bring_to_front()
    others[1].close()
    cut(others[0], 25)
    expect(tooth(cutting, 25)).to_be_visible()
    others[0].close()
    cut(cutting, 26)


# Steps are sent, and neither reach the server nor fail before `fail` is called.
HELD = """() => {
  const send = window.fetch, held = [];
  const isStep = (request) => (request.url ?? String(request)).includes("/session/events");
  window.fetch = (request, init) =>
    isStep(request) ? new Promise((_, fail) => held.push(fail)) : send(request, init);
  window.steps = () => held.length;
  window.fail = () => { window.fetch = send; held.forEach((fail) => fail(new TypeError("away"))); };
}"""


def test_nothing_goes_on_while_the_server_is_away(cutting: Page) -> None:
    cutting.evaluate(HELD)
    cutting.keyboard.press("Space")
    cutting.wait_for_function("() => window.steps() === 1")
    expect(tooth(cutting, 23)).to_be_visible()
    cutting.evaluate("() => window.fail()")
    expect(now(cutting).get_by_role("alert")).to_contain_text("Not recorded")
    expect(tooth(cutting, 23)).to_be_visible()
    expect(cutting.get_by_role("region", name="Beside it")).to_contain_text("hole 4: tooth 24")
    now(cutting).get_by_role("button", name="Record it again").click()
    expect(tooth(cutting, 24)).to_be_visible()


def test_pause_jump_and_lost_have_their_reasons(cutting: Page) -> None:
    now(cutting).get_by_role("button", name="Pause").click()
    now(cutting).get_by_label("Why").fill("tea")
    now(cutting).get_by_role("button", name="Pause").last.click()
    expect(now(cutting)).to_contain_text("Paused: tea")
    cutting.keyboard.press("Space")
    expect(tooth(cutting, 23)).to_be_visible()
    now(cutting).get_by_role("button", name="Go on").click()
    now(cutting).get_by_role("button", name="Which tooth is this?").click()
    now(cutting).get_by_label("Hole the pin is in").fill("3")
    now(cutting).get_by_role("button", name="Find out").click()
    expect(now(cutting)).to_contain_text(
        "It is tooth 4, 23 or 42. By the record it is 23. Count the gaps that are cut."
    )
    now(cutting).get_by_label("Gaps cut in this round").fill("22")
    now(cutting).get_by_role("button", name="Find out").click()
    expect(now(cutting)).to_contain_text("This is tooth 23.")
    now(cutting).get_by_role("button", name="Jump").click()
    now(cutting).get_by_label("To tooth").fill("30")
    now(cutting).get_by_label("Why").fill("these are cut")
    now(cutting).get_by_role("button", name="Jump").last.click()
    expect(tooth(cutting, 30)).to_be_visible()
    cutting.get_by_role("button", name="Recorded").click()
    expect(cutting.get_by_text("Jumped to tooth 30, pass 2 of 3: these are cut.")).to_be_visible()


def test_the_wheel_and_the_rack_start_a_job(page: Page, address: str) -> None:
    page.goto(f"{address}/wheel?ask=wheel+41+m2&angle=14.5&shift=0.2")
    expect(page.get_by_text("The job is of a wheel without shift")).to_be_visible()
    page.get_by_role("link", name="Make it: a job").click()
    expect(page.get_by_role("heading", name="A 41 of module 2, 14.5°")).to_be_visible()
    page.reload()
    page.goto(f"{address}/rack")
    page.get_by_role("button", name=re.compile("^60.*missing")).first.click()
    page.get_by_role("link", name="Make it: a job").click()
    expect(page.get_by_role("heading", name="A 60 for Plover")).to_be_visible()
    page.get_by_role("link", name="Jobs", exact=True).click()
    expect(page.get_by_role("link", name="A 60 for Plover")).to_have_count(1)


def test_a_second_job_for_the_same_wheel_asks_first(page: Page, address: str) -> None:
    page.goto(f"{address}/wheel?ask=wheel+57+for+Plover")
    page.get_by_role("link", name="Make it: a job").click()
    alert = page.get_by_role("alert")
    expect(alert).to_contain_text("A job for this wheel is open already.")
    expect(page.get_by_label("What is to be made")).to_have_value("make 57 for Plover")
    alert.get_by_role("link", name="Open that job").click()
    page.wait_for_url("**/jobs/1")
    page.go_back()
    page.get_by_role("button", name="Add the job").click()
    alert.get_by_role("button", name="Make another").click()
    page.wait_for_url("**/jobs/2")


def test_a_head_that_is_in_use_leads_to_its_session(page: Page, address: str) -> None:
    page.goto(f"{address}/jobs")
    page.get_by_label("What is to be made").fill("make 60 for Plover")
    page.get_by_role("button", name="Add the job").click()
    page.get_by_label("Divided").select_option("heron 0")
    with page.expect_response(lambda answer: answer.request.method == "PUT"):
        page.get_by_role("region", name="Choices").get_by_role("button", name="Save").click()
    expect(page.get_by_role("region", name="Choices").get_by_role("button", name="Save")).to_be_disabled()
    page.get_by_role("button", name="Start cutting").click()
    alert = page.get_by_role("alert").filter(has_text="Heron")
    expect(alert).to_contain_text("is being used for another session")
    expect(alert.get_by_role("link", name="Open that job")).to_have_attribute("href", "/jobs/1")
    page.get_by_label("Divided").select_option("grebe 0")
    page.get_by_role("region", name="Choices").get_by_role("button", name="Save").click()
    expect(alert).to_have_count(0)


def test_a_chart_and_the_mill_start_a_job(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover/chart")
    page.get_by_role("link", name="Make the 17").first.click()
    expect(page.get_by_role("heading", name="A 17 for Plover")).to_be_visible()
    page.goto(f"{address}/mill/heron?ask=helix%2024%20m2%2030°%20left&train=72/28*52/56@1/2")
    page.get_by_role("link", name="Make it: a job").click()
    expect(page.get_by_role("heading", name="A 24 of module 2, 20°, helix 30° left")).to_be_visible()
    wheels = page.get_by_role("listitem").filter(has=page.get_by_role("heading", name="Change wheels"))
    expect(wheels).to_contain_text("72/28 × 52/56, pair with 2 turns in, 1 out")
    page.get_by_role("link", name="Set-up on the mill").click()
    expect(page.get_by_role("region", name="Set-up sheet")).to_contain_text("301.54")


def test_a_piece_is_chosen_and_the_log_keeps_what_was_typed_over(page: Page, address: str) -> None:
    page.goto(f"{address}/jobs")
    page.get_by_label("What is to be made").fill("make 24 for Plover")
    page.get_by_role("button", name="Add the job").click()
    choices, steps = (page.get_by_role("region", name=name) for name in ("Choices", "Steps"))
    choices.get_by_label("Held").select_option(label="On a mandrel")
    piece = choices.get_by_label("From bar").locator("option").nth(1).inner_text()
    choices.get_by_label("From bar").select_option(label=piece)
    choices.get_by_role("button", name="Save").click()
    expect(steps.get_by_role("listitem").first).to_contain_text(piece)
    outside = steps.get_by_role("listitem").filter(has=page.get_by_role("heading", name=re.compile("^Outside")))
    for figure in ("55.0", "55.01"):
        outside.get_by_label("Diameter found").fill(figure)
        outside.get_by_role("button", name="Save").click()
        expect(outside.get_by_role("button", name="Outside: done")).to_be_visible()
    expect(outside).to_contain_text("before: 55.0 (")
    page.get_by_role("button", name="Log", exact=True).click()
    log = page.get_by_role("region", name="Figures")
    for line in (
        "Outside: found 55.01, done.",
        "Outside: found 55.0, done.",
        f"Bar: {piece}, before not chosen",
        "Job added.",
    ):
        expect(log).to_contain_text(line)


def test_a_calipers_figure_lands_in_the_open_field_and_an_encoder_advances(page: Page, tmp_path: Path) -> None:
    with socket.socket() as free:
        free.bind(("127.0.0.1", 0))
        port = free.getsockname()[1]
    process, result = serve(tmp_path, "--demo", "--devices", str(port))
    try:
        page.goto(f"{result}/jobs/1")
        expect(page.get_by_role("heading", name="A 57 for Plover")).to_be_visible()
        with _device(port, "caliper") as caliper:
            expect(page.get_by_role("region", name="Devices")).to_contain_text("Caliper")
            page.get_by_label("Span found").focus()
            _say(caliper, {"figure": "29.561 mm"})
            expect(page.get_by_label("Span found")).to_have_value("29.561 mm")
        page.goto(f"{result}/jobs/1/session")
        expect(tooth(page, 23)).to_be_visible()
        with _device(port, "encoder") as encoder:
            _say(encoder, {"turned": 0.0})
            page.get_by_role("button", name="Let it advance this").click()
            expect(page.get_by_role("button", name="It advances this")).to_be_visible()
            steps = [{"turned": 20 / 19 * n / 15} for n in range(1, 16)]
            _say(encoder, *steps, *[{"turned": 20 / 19}] * 10)
            expect(tooth(page, 24)).to_be_visible()
            # Devices have a page too: it says what is connected, and which session it advances.
            page.get_by_role("link", name="Devices").first.click()
            device = page.get_by_role("main").get_by_role("listitem")
            expect(device).to_contain_text("Encoder")
            expect(device).to_contain_text("1.053 turns")
            expect(device).to_contain_text("Recorded.")
            advances = page.get_by_label("Advances")
            expect(advances.locator("option:checked")).to_have_text("A 57 for Plover, at tooth 24 of 57")
            advances.select_option(label="no session")
            expect(advances.locator("option:checked")).to_have_text("no session")
            _say(encoder, *[{"turned": 20 / 19 + 20 / 19 * n / 15} for n in range(16)], *[{"turned": 40 / 19}] * 10)
            expect(device).to_contain_text("2.105 turns")
            advances.select_option(index=1)
            page.goto(f"{result}/jobs/1/session")
            expect(tooth(page, 24)).to_be_visible()
        page.goto(f"{result}/jobs/devices")
        expect(page.get_by_text("Nothing is connected.")).to_be_visible()
    finally:
        process.terminate()
        process.wait(10)


@contextmanager
def _device(port: int, sort: str) -> Iterator[Any]:
    with socket.create_connection(("127.0.0.1", port), 5) as wire, wire.makefile("rw", encoding="utf-8") as lines:
        _say(lines, {"hello": sort})
        assert "welcome" in lines.readline()
        yield lines


def _say(lines: Any, *text: dict[str, Any]) -> None:
    for line in text:
        lines.write(json.dumps(line) + "\n")
    lines.flush()


def test_on_a_phone_a_step_that_is_done_is_its_heading_until_it_is_looked_at(browser: Browser, half_way: str) -> None:
    phone = browser.new_page(viewport={"width": 390, "height": 844}, reduced_motion="reduce")
    phone.goto(half_way)
    bore = phone.locator("#step-bore")
    expect(bore.get_by_label("Diameter found")).to_be_hidden()
    expect(bore).to_contain_text("22.23 mm, done")
    bore.get_by_role("button", name="what was done").click()
    expect(bore.get_by_label("Diameter found")).to_have_value("22.23 mm")
    expect(phone.get_by_label("Span found")).to_be_visible()
    phone.set_viewport_size({"width": 1280, "height": 800})
    expect(phone.locator("#step-part_off").get_by_label("Width found")).to_be_visible()
    phone.close()


def test_the_key_of_a_pedal_is_learned_and_kept(cutting: Page) -> None:
    beside = cutting.get_by_role("region", name="Beside it")
    beside.get_by_role("button", name="A key of a pedal or a remote").click()
    beside.get_by_role("button", name="Learn: Cut – next").click()
    cutting.keyboard.press("PageDown")
    beside.get_by_role("button", name="Learn: Back").click()
    cutting.keyboard.press("b")
    expect(beside).to_contain_text("PageDown")
    expect(tooth(cutting, 23)).to_be_visible()
    cutting.keyboard.press("PageDown")
    expect(tooth(cutting, 24)).to_be_visible()
    cutting.keyboard.press("b")
    expect(tooth(cutting, 23)).to_be_visible()
    cutting.reload()
    expect(tooth(cutting, 23)).to_be_visible()
    cutting.keyboard.press("PageDown")
    expect(tooth(cutting, 24)).to_be_visible()
    # A letter that is typed into a field is a letter.
    now(cutting).get_by_role("button", name="Note").click()
    now(cutting).get_by_label("Note", exact=True).fill("")
    cutting.keyboard.type("b")
    expect(tooth(cutting, 24)).to_be_visible()
    # The same key for something else: it does that alone.
    beside.get_by_role("button", name="A key of a pedal or a remote").click()
    beside.get_by_role("button", name="Learn: Back").click()
    cutting.keyboard.press("PageDown")
    expect(beside.get_by_text("PageDown")).to_have_count(1)
