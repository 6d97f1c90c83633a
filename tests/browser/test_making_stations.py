"""A wheel to be made and its division, as a person goes about it in the browser."""

from playwright.sync_api import Page, Route, expect


def ask(page: Page, text: str) -> None:
    line = page.get_by_role("combobox", name="What is wanted")
    line.fill(text)
    line.press("Enter")


def test_wheel_57_from_the_ask_line_to_the_last_cut(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover")
    ask(page, "wheel 57 for Plover")
    expect(page.get_by_role("heading", name="A 57 for Plover")).to_be_visible()
    expect(page.get_by_role("region", name="The wheel")).to_contain_text("124.88 mm")
    figures = page.get_by_role("region", name="Figures")
    expect(figures).to_contain_text("55–134 of 12 DP, 14.5°")
    deep = figures.get_by_role("region", name="How deep now")
    deep.get_by_label("Blank as turned").fill("124.7")
    deep.get_by_label("One dial division").fill("0.02")
    deep.get_by_label("Span measured").fill("29.9")
    expect(deep.get_by_role("status").first).to_contain_text("0.665 mm more, 33.3 divisions of 0.02 mm")
    deep.get_by_label("Span measured").fill("29.567")
    expect(deep.get_by_role("status").first).to_contain_text("That is right. No more to cut.")
    deep.get_by_label("Span measured").fill("2O")
    expect(deep.get_by_role("alert")).to_be_visible()
    deep.get_by_label("Indicator").fill("0.5")
    expect(deep).to_contain_text("Re-seat it")
    for shown, sentence in (("Pins", "pins in opposite gaps"), ("Chord", "a tooth across its chord")):
        page.get_by_role("radio", name=shown).click()
        expect(page.get_by_role("img", name=f"A 57 for Plover, {sentence}")).to_be_visible()
    page.get_by_role("radio", name="Cutter’s form").click()
    expect(page.get_by_role("img", name="the form that the cutter leaves")).to_be_visible()
    with page.expect_download() as download:
        page.get_by_role("link", name="DXF").click()
    assert download.value.suggested_filename == "wheel-57.dxf"
    page.get_by_role("link", name="Divide 57").click()
    expect(page.get_by_role("heading", name="57 divisions")).to_be_visible()


def test_a_shift_that_points_the_tip_is_said_and_kept(page: Page, address: str) -> None:
    page.goto(f"{address}/wheel?ask=wheel%208%20m1")
    expect(page.get_by_role("region", name="Figures")).to_contain_text("A profile shift of 0.53 avoids it.")
    page.get_by_label("Profile shift").fill("1.1")
    expect(page.get_by_role("alert")).to_contain_text("With this shift the teeth come to a point")
    expect(page.get_by_label("Profile shift")).to_have_value("1.1")
    ask(page, "wheel 3")
    expect(page.get_by_role("region", name="The wheel").get_by_role("alert")).to_contain_text(
        "“3” is not a change wheel."
    )


def test_57_divided_move_by_move(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    ask(page, "divide 57 on Grebe")
    ways = page.get_by_role("list", name="Ways, the best first")
    first = ways.get_by_role("button").first
    expect(first).to_contain_text("1 turn and 5 spaces on the 19")
    chosen = page.get_by_role("region", name="The chosen way")
    for tooth, hole in ((2, 5), (3, 10), (4, 15), (5, 1)):
        chosen.get_by_role("button", name="Next tooth").click()
        expect(chosen.get_by_role("status")).to_have_text(f"tooth {tooth} of 57: 1 turn and on to hole {hole}")
    chosen.get_by_role("button", name="One move back").click()
    expect(chosen.get_by_role("status")).to_contain_text("hole 15")
    expect(chosen).to_contain_text("Arms: 5 spaces, that is 6 holes with the first.")
    page.get_by_label("Show error at diameter").fill("500")
    expect(ways).to_contain_text("on 500 mm across")


def test_an_ask_entered_before_anything_is_known_is_kept(page: Page, address: str) -> None:
    held: list[Route] = []
    for slow in ("**/api/machines*", "**/api/reading*"):
        page.route(slow, lambda route: held.append(route))
    page.goto(f"{address}/rack")
    with page.expect_request("**/api/reading*"):
        ask(page, "divide 57 on Grebe")
    while not any("/reading" in route.request.url for route in held):  # told a moment after the request itself
        page.evaluate("1")
    machines, reading = (next(r for r in held if part in r.request.url) for part in ("/machines", "/reading"))
    machines.continue_()
    expect(page.get_by_role("button", name="on Plover, choose another lathe")).to_be_visible()
    reading.continue_()
    expect(page.get_by_role("heading", name="57 divisions")).to_be_visible()


def test_a_prime_is_geared_on_the_arm(page: Page, address: str) -> None:
    page.goto(f"{address}/dividing?ask=divide%2053")
    page.get_by_role("button", name="Differential indexing").click()
    chosen = page.get_by_role("region", name="The chosen way")
    expect(chosen).to_contain_text("Index as for 54")
    expect(chosen).to_contain_text("From the plate outward: mesh")
    chosen.get_by_role("radio", name="Gears").click()
    expect(chosen.get_by_role("img", name="Heron, end view")).to_be_visible()
    expect(chosen.get_by_role("status")).to_contain_text("fits:")
    chosen.get_by_role("radio", name="Plate").click()
    expect(chosen.get_by_role("button", name="Next tooth")).to_be_visible()
    page.reload()
    expect(chosen).to_contain_text("Index as for 54")


def test_a_disc_says_its_error_and_a_plate_its_fit(page: Page, address: str) -> None:
    page.goto(f"{address}/dividing/disc?divisions=57")
    panel = page.get_by_role("region", name="The disc")
    expect(panel.get_by_role("status")).to_contain_text("good to 5′ 44″")
    panel.get_by_label("Diameter").fill("12")
    panel.get_by_label("Divisions").fill("200")
    expect(panel.get_by_role("alert")).to_contain_text("The lines would stand closer than they can be read.")
    page.goto(f"{address}/dividing/plate?on=grebe&divisions=57")
    plate = page.get_by_role("region", name="A new plate")
    expect(plate.get_by_role("status")).to_contain_text("It fits")
    plate.get_by_role("button", name="152").click()
    expect(plate.get_by_role("status")).to_contain_text("It fits")
    plate.get_by_label("Circle across").fill("150 mm")
    expect(plate.get_by_role("status")).to_contain_text("too little")
    page.goto(f"{address}/dividing/chart?on=grebe")
    expect(page.get_by_role("list", name="Counts").get_by_role("listitem")).to_have_count(399)


def test_no_key_is_lost_on_a_slow_machine(page: Page, address: str) -> None:
    page.goto(f"{address}/dividing/disc?divisions=57")
    panel = page.get_by_role("region", name="The disc")
    expect(panel.get_by_role("status")).to_contain_text("good to")
    page.context.new_cdp_session(page).send("Emulation.setCPUThrottlingRate", {"rate": 8})
    typed = {"Diameter": "123.4", "Divisions": "217"}
    for label, keys in typed.items():
        panel.get_by_label(label).fill("")
        panel.get_by_label(label).press_sequentially(keys)
    for label, keys in typed.items():
        expect(panel.get_by_label(label)).to_have_value(keys)
