"""The rack: a pile typed in, wheels put right, an unknown one found out."""

from playwright.sync_api import Page, expect


def test_a_pile_is_typed_in_by_keyboard_and_undone(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_label("Family").select_option(label="Plover's wheels (12 DP)")
    page.get_by_label("Belongs to").select_option("plover")
    field = page.get_by_label("Wheels, as you count them")
    field.focus()
    page.keyboard.type("45 45 4O")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("“4O” is not a tooth number.")
    expect(field).to_have_value("45 45 4O")
    field.fill("45 45 50 worn")
    expect(page.get_by_text("3 wheels", exact=True)).to_be_visible()
    expect(page.get_by_role("alert")).to_have_count(0)
    page.keyboard.press("Enter")
    done = page.get_by_role("status", name="What was done")
    expect(done).to_contain_text("Added to the rack: 45 45 50 worn.")
    expect(page.get_by_role("button", name="45 teeth, 2 of them, Plover")).to_be_visible()
    expect(page.get_by_role("button", name="50 teeth, worn, Plover")).to_be_visible()
    expect(field).to_be_focused()
    done.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name="45 teeth, 2 of them, Plover")).to_have_count(0)


def test_wheels_are_sought_chosen_and_changed_together(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_label("Search: teeth").fill("drawer")
    board = page.get_by_role("region", name="Curlew's wheels")
    expect(page.get_by_role("region", name="Plover's wheels")).to_have_count(0)
    board.get_by_role("button", name="35 teeth").click()
    expect(page.get_by_role("form", name="The 35")).to_be_visible()
    board.get_by_role("button", name="33 teeth").click()
    expect(page.get_by_role("form", name="The 33")).to_be_visible()
    page.get_by_role("checkbox", name="Choose several").click()
    board.get_by_role("button", name="35 teeth").click()
    bar = page.get_by_role("group", name="Chosen wheels")
    expect(bar).to_contain_text("2 wheels")
    bar.get_by_role("button", name="Condition").click()
    page.get_by_role("menuitem", name="suspect").click()
    expect(board.get_by_role("button", name="33 teeth, suspect")).to_be_visible()
    page.get_by_role("radio", name="Table").click()
    expect(page.get_by_role("row").filter(has_text="35").filter(has_text="suspect")).to_have_count(1)
    bar.get_by_role("button", name="Delete").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("2 deleted from the rack.")
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("row").filter(has_text="35").filter(has_text="suspect")).to_have_count(1)


def test_a_wheel_is_changed_where_it_is_looked_at_and_nothing_typed_is_lost(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    board = page.get_by_role("region", name="Curlew's wheels")
    board.get_by_role("button", name="33 teeth").click()
    form = page.get_by_role("form", name="The 33")
    form.get_by_label("Place").fill("drawer 3")
    board.get_by_role("button", name="35 teeth").click()
    expect(page.get_by_role("form", name="The 35").get_by_role("button", name="Save")).to_be_disabled()
    page.get_by_role("link", name="Jobs", exact=True).click()
    page.get_by_role("dialog").get_by_role("button", name="Stay").click()
    board.get_by_role("button", name="33 teeth").click()
    expect(form.get_by_label("Place")).to_have_value("drawer 3")
    form.get_by_label("How many").fill("two")
    expect(form.get_by_role("alert")).to_contain_text("Enter a whole number")
    form.get_by_label("How many").fill("2")
    form.get_by_label("Condition").select_option("worn")
    form.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("The 33 is changed.")
    expect(board.get_by_role("button", name="33 teeth, 2 of them, worn, Curlew, drawer 3")).to_be_visible()


def test_the_table_is_sorted_by_a_column_and_chosen_whole(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("radio", name="Table").click()
    rows = page.locator("tbody tr", has=page.get_by_role("checkbox"))
    column = page.get_by_role("button", name="Teeth")
    column.click()
    expect(page.get_by_role("columnheader", name="Teeth")).to_have_attribute("aria-sort", "ascending")
    expect(rows.first).to_contain_text("20")
    column.click()
    expect(page.get_by_role("columnheader", name="Teeth")).to_have_attribute("aria-sort", "descending")
    expect(rows.first).to_contain_text("127")
    every = rows.count()
    page.get_by_role("checkbox", name="choose all that are shown").click()
    expect(page.get_by_role("group", name="Chosen wheels")).to_contain_text(f"{every} wheels")
    page.get_by_role("checkbox", name="choose all that are shown").click()
    expect(page.get_by_role("group", name="Chosen wheels")).to_have_count(0)


def test_a_mounted_wheel_stays_and_says_why(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="78 teeth, on Plover now").click()
    page.get_by_role("button", name="Delete").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text(
        "The train on the machine uses a 78 that would be gone. Keep the wheel, or take the train off first."
    )
    expect(page.get_by_role("button", name="78 teeth, on Plover now")).to_be_visible()


def test_an_unknown_wheel_is_found_out(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    page.get_by_role("button", name="30 not identified").click()
    panel = page.get_by_role("region", name="The chosen wheel")
    expect(panel.get_by_label("Over the tips")).to_have_value("50.87 mm")
    panel.get_by_role("button", name="Find out").click()
    expect(panel.get_by_role("status")).to_contain_text("for 16 DP")
    expect(panel.get_by_role("img", name="jaws over 4 teeth, touching the flanks")).to_be_visible()
    panel.get_by_label("Span over").fill("4")
    panel.get_by_label("Span", exact=True).fill("17.05")
    panel.get_by_label("one more").fill("21.88")
    panel.get_by_role("button", name="Find out").click()
    expect(panel.get_by_role("listitem").first).to_contain_text("16 DP")
    panel.get_by_role("button", name="A family of its own").click()
    dialog = page.get_by_role("dialog", name="A family of wheels")
    expect(dialog.get_by_label("Pitch", exact=True)).to_have_value("16")
    dialog.get_by_role("button", name="Save").click()
    expect(dialog.get_by_role("alert")).to_contain_text("Nothing is entered.")
    dialog.get_by_label("Name").fill("Tide clock's crate")
    dialog.get_by_role("button", name="Save").click()
    expect(page.get_by_role("region", name="Tide clock's crate")).to_be_visible()
    expect(page.get_by_role("region", name="Not identified")).to_have_count(0)


def test_a_csv_is_seen_before_it_goes_in(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    lines = b"teeth,count,place\n41,2,shed\n4O,1,shed\n"
    page.get_by_label("CSV file").set_input_files({"name": "box.csv", "mimeType": "text/csv", "buffer": lines})
    dialog = page.get_by_role("dialog", name="box.csv")
    expect(dialog.get_by_role("status")).to_contain_text("1 of 2 lines cannot be used.")
    expect(dialog).to_contain_text("teeth: “4O” is not a number for this column.")
    expect(dialog.get_by_role("button", name="Add to rack")).to_be_disabled()
    # On a phone no sentence runs out of the panel.
    page.set_viewport_size({"width": 390, "height": 844})
    assert (
        page.evaluate(
            "Math.max(...[...document.querySelectorAll('[role=dialog] td')].map(e => e.getBoundingClientRect().right))"
        )
        < 374
    )
    page.set_viewport_size({"width": 1280, "height": 800})
    dialog.get_by_role("button", name="Cancel").click()
    right = lines.replace(b"4O", b"42")
    page.get_by_label("CSV file").set_input_files({"name": "box.csv", "mimeType": "text/csv", "buffer": right})
    dialog.get_by_role("button", name="Add to rack").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("2 lines added to the rack.")
    expect(page.get_by_role("button", name="41 teeth, 2 of them, shed, not identified")).to_be_visible()


def test_a_file_that_is_too_large_is_refused_before_it_is_sent(page: Page, address: str) -> None:
    page.goto(f"{address}/rack")
    sent: list[str] = []
    page.on("request", lambda request: sent.append(request.url))
    lines = b"teeth,count\n" + b"40,1\n" * 1_000_001
    page.get_by_label("CSV file").set_input_files({"name": "all.csv", "mimeType": "text/csv", "buffer": lines})
    expect(page.get_by_role("alert")).to_contain_text("all.csv has 5.0 MB. Up to 5 MB are read.")
    assert not [url for url in sent if "wheels.csv" in url]
