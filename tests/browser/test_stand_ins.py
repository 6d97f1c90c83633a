"""Stand-ins for devices, played in the page over the port for devices."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect


@pytest.fixture
def devices(page: Page, address: str) -> Page:
    page.goto(f"{address}/jobs/devices")
    expect(page.get_by_role("heading", name="Stand-ins")).to_be_visible()
    return page


def started(page: Page, name: str, sort: str | None = None) -> Locator:
    """The card of a stand-in."""
    page.get_by_role("main").get_by_role("button", name=name, exact=True).click()
    card = page.get_by_role("complementary", name="Stand-ins").get_by_role("region", name=sort or name)
    expect(card).to_be_visible()
    return card


def session(page: Page) -> Locator:
    return page.get_by_role("region", name="Now")


def to_the_session(page: Page) -> int:
    """Go there without loading the page anew; the tooth that it stands at."""
    page.get_by_role("link", name="Jobs").click()
    page.get_by_role("main").get_by_role("link", name=re.compile("A 57 for Plover")).click()
    page.get_by_role("link", name="Go on cutting").first.click()
    expect(session(page)).to_contain_text(re.compile(r"Tooth \d+ of 57"))
    match = re.search(r"Tooth (\d+) of 57", session(page).inner_text())
    assert match is not None
    return int(match[1])


def test_a_crank_cuts_tooth_after_tooth_and_says_when_it_is_past_the_hole(devices: Page) -> None:
    crank = started(devices, "Crank", "Encoder")
    crank.get_by_label("Holes of the circle").fill("19")
    # It says where it is before it is set to a session: from there it counts.
    crank.get_by_role("button", name="On 1 hole").click()
    expect(crank).to_contain_text("0.053 turns")
    crank.get_by_label("Advances").select_option(index=1)
    tooth = to_the_session(devices)
    crank.get_by_role("button", name="On 1 turn").click()
    crank.get_by_role("button", name="On 1 hole").click()
    expect(session(devices)).to_contain_text(f"Tooth {tooth + 1} of 57")
    expect(crank).to_contain_text("Recorded.")
    crank.get_by_role("slider", name="Crank").focus()
    devices.keyboard.press("PageUp")
    for _ in range(3):
        devices.keyboard.press("ArrowRight")
    expect(crank).to_contain_text("Past the hole")
    expect(session(devices)).to_contain_text(f"Tooth {tooth + 1} of 57")
    devices.keyboard.press("PageDown")
    for _ in range(2):
        devices.keyboard.press("ArrowLeft")
    devices.keyboard.press("PageUp")
    expect(session(devices)).to_contain_text(f"Tooth {tooth + 2} of 57")
    crank.get_by_role("button", name="Stop").click()
    expect(devices.get_by_role("complementary", name="Stand-ins")).to_have_count(0)


def test_a_crank_is_dragged_and_falls_into_the_next_hole(devices: Page) -> None:
    crank = started(devices, "Crank", "Encoder")
    box = crank.get_by_role("slider", name="Crank").bounding_box()
    assert box is not None
    x, y = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    reach = box["width"] * 0.4
    devices.mouse.move(x, y - reach)
    devices.mouse.down()
    devices.mouse.move(x + reach * 0.7, y - reach * 0.7, steps=4)
    devices.mouse.move(x + reach, y + reach * 0.05, steps=4)
    devices.mouse.up()
    # A little past a quarter; the circle of 20 has a hole there.
    expect(crank.get_by_role("slider", name="Crank")).to_have_attribute("aria-valuetext", "0.250 turns")


def test_a_caliper_sends_its_figure_into_the_field_that_is_open(devices: Page) -> None:
    caliper = started(devices, "Caliper")
    caliper.get_by_role("slider", name="Caliper").focus()
    devices.keyboard.press("PageUp")
    devices.keyboard.press("ArrowLeft")
    devices.get_by_role("link", name="Wheel", exact=True).click()
    devices.get_by_role("link", name="Rack", exact=True).click()
    wheels = devices.get_by_label("Wheels, as you count them")
    wheels.focus()
    caliper.get_by_role("button", name="Send").click()
    expect(wheels).to_have_value("30.55 mm")


def test_a_pedal_that_bounces_counts_once(devices: Page) -> None:
    pedal = started(devices, "Pedal")
    pedal.get_by_role("button", name="Faults of the device").click()
    pedal.get_by_label("Bounce").select_option("large")
    pedal.get_by_label("Advances").select_option(index=1)
    tooth = to_the_session(devices)
    pedal.get_by_role("button", name="Press").click()
    expect(session(devices)).to_contain_text(f"Tooth {tooth + 1} of 57")
    expect(pedal).to_contain_text("up")
    expect(session(devices)).to_contain_text(f"Tooth {tooth + 1} of 57")


def test_an_indicator_tells_the_runout_that_was_chosen(devices: Page) -> None:
    indicator = started(devices, "Indicator")
    indicator.get_by_label("Runout, mm").fill("0.2")
    indicator.get_by_label("High at, °").fill("90")
    indicator.get_by_role("button", name="Turn the blank once").click()
    expect(indicator.get_by_role("slider", name="Blank")).to_have_attribute("aria-valuetext", "360°")
    once = indicator.get_by_role("button", name="Once round")

    def read() -> str:
        once.click()
        expect(indicator).to_contain_text("Whole reading")
        return indicator.inner_text()

    # The last readings may still be on their way.
    expect(indicator).to_contain_text("mm")
    devices.wait_for_function("() => true")
    for _ in range(20):
        if re.search(r"Whole reading 0\.(19|20)\d mm; the middle is off by 0\.(09|10)", read()):
            break
        devices.wait_for_timeout(250)
    assert re.search(r"Tap it at (8[5-9]|9[0-5])°", indicator.inner_text())


def test_a_camera_finds_the_mark_in_its_picture(devices: Page) -> None:
    camera = started(devices, "Camera")
    disc = camera.get_by_role("slider", name="Disc")
    camera.get_by_role("button", name="−1 mark").click()
    expect(disc).to_have_attribute("aria-valuetext", "mark 57.0")
    for _ in range(4):
        camera.get_by_role("button", name="+1 mark").click()
    expect(disc).to_have_attribute("aria-valuetext", "mark 4.0")
    # Where the first mark is out of sight they are counted on.
    for _ in range(6):
        camera.get_by_role("button", name="+1 mark").click()
    expect(disc).to_have_attribute("aria-valuetext", "mark 10.0")
    camera.get_by_label("Light").select_option("oil over the mark")
    for _ in range(2):
        camera.get_by_role("button", name="+1 mark").click()
    expect(disc).to_have_attribute("aria-valuenow", "12")
    expect(disc).to_have_attribute("aria-valuetext", "mark not known")
    # Gone on unseen, it is not known which mark it is until the first one is seen.
    camera.get_by_label("Light").select_option("poor")
    camera.get_by_role("button", name="+1 mark").click()
    expect(disc).to_have_attribute("aria-valuetext", "mark not known")
    for _ in range(12):
        camera.get_by_role("button", name="−1 mark").click()
    expect(disc).to_have_attribute("aria-valuetext", "mark 1.0")


@pytest.mark.parametrize("darker", ["left", "right"])
def test_a_hair_before_the_first_mark_is_the_first_mark(page: Page, address: str, darker: str) -> None:
    # The grain of the picture, darker on one side, moves the middle of a mark by a hair.
    shades = "[0, 0.999]" if darker == "left" else "[0.999, 0]"
    page.add_init_script(f"let drawn = 0; Math.random = () => {shades}[Math.floor(drawn++ / 160) % 2];")
    page.goto(f"{address}/jobs/devices")
    camera = started(page, "Camera")
    camera.get_by_role("button", name="−1 mark").click()
    disc = camera.get_by_role("slider", name="Disc")
    expect(disc).to_have_attribute("aria-valuetext", "mark 57.0")
    camera.get_by_role("button", name="+1 mark").click()
    expect(disc).to_have_attribute("aria-valuetext", "mark 1.0")
    expect(camera.locator("p").filter(has_text=re.compile(r"mark 1\.0"))).to_be_visible()


def test_a_closed_page_takes_its_stand_ins_along(devices: Page, address: str) -> None:
    started(devices, "Pedal")
    devices.goto(f"{address}/rack")
    devices.goto(f"{address}/jobs/devices")
    expect(devices.get_by_text("Nothing is connected.")).to_be_visible()
