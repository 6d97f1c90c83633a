"""A lathe of one's own: entered, tried, given its wheels, planned on."""

import re

import pytest
from playwright.sync_api import Locator, Page, expect


class Actions:
    """Counts what a person does: a click, a field filled in, a key."""

    def __init__(self) -> None:
        self.count = 0

    def click(self, what: Locator) -> None:
        self.count += 1
        what.click()

    def fill(self, what: Locator, text: str) -> None:
        self.count += 1
        what.fill(text)

    def press(self, page: Page, key: str) -> None:
        self.count += 1
        page.keyboard.press(key)


MOST_ACTIONS = 7


def to_a_first_train(page: Page, do: Actions, station: str, ask: str) -> None:
    """From a filled form of a new machine, Linnet, to its first train, which is exact."""
    do.click(page.get_by_role("button", name="Save"))
    expect(page).to_have_url(re.compile(f"/{station}/linnet$"))
    do.fill(page.get_by_role("combobox", name="What is wanted"), ask)
    do.press(page, "Enter")
    best = page.get_by_role("radiogroup", name=re.compile("Trains|Set-ups")).get_by_role("radio").first
    expect(best).to_contain_text(re.compile("exact|no run-off", re.IGNORECASE))


def test_from_an_empty_shop_to_the_first_printed_train_in_a_few_actions(page: Page, own_shop: str) -> None:
    page.add_init_script("window.print = () => { window.printed = true }")
    page.goto(own_shop)
    do = Actions()
    do.click(page.get_by_role("link", name="Add a lathe"))
    do.fill(page.get_by_label("Name"), "Linnet")
    do.fill(page.get_by_label("Lead screw"), "8 tpi")
    do.fill(page.get_by_label("Wheels, as counted"), "20 25 30x2 35 40 45 50 55 60 65 70 127")
    do.click(page.get_by_role("button", name="Save"))
    expect(page).to_have_url(re.compile("/lathe/linnet$"))
    do.fill(page.get_by_role("combobox", name="What is wanted"), "1.5 mm")
    best = page.get_by_role("radiogroup", name="Trains").get_by_role("radio").first
    expect(best).to_contain_text("exact")
    expect(best).to_contain_text("room not checked")
    do.click(page.get_by_role("button", name="Print"))
    assert page.evaluate("window.printed") is True
    assert do.count <= MOST_ACTIONS, do.count
    drawing = page.get_by_role("region", name="Drawing")
    expect(drawing.get_by_text("The quadrant is not measured. The wheels are drawn in mesh")).to_be_visible()
    expect(page.get_by_text("Which hand it cuts is not on record.").first).to_be_visible()
    expect(page.get_by_text("-hand thread", exact=False).filter(has_text="cuts a")).to_have_count(0)


@pytest.mark.parametrize(
    ("kind", "facts", "ask", "most"),
    [
        ("hobber", {"Index constants": "24"}, "hob 37", 8),
        ("mill", {"Table screw": "6 mm", "Crank turns per turn": "40"}, "lead 240 mm", 8),
    ],
)
def test_from_an_empty_shop_to_a_first_train_of_a_hobber_and_a_mill(
    page: Page, own_shop: str, kind: str, facts: dict[str, str], ask: str, most: int
) -> None:
    page.goto(own_shop)
    do = Actions()
    do.click(page.get_by_role("link", name=f"Add a {kind}"))
    facts = {"Name": "Linnet", "Wheels, as counted": "24-60 64 70 75 80", **facts}
    for label, typed in facts.items():
        do.fill(page.get_by_label(label, exact=True), typed)
    to_a_first_train(page, do, kind, ask)
    assert do.count <= most, do.count


def test_room_is_measured_with_calipers_step_by_step(page: Page, own_shop: str) -> None:
    page.goto(f"{own_shop}/machines/new")
    page.get_by_role("button", name="A small metric bench lathe").click()
    expect(page.get_by_role("heading", name="Example metric’s record")).to_be_visible()
    expect(page.get_by_text("This is an example.")).to_be_visible()
    page.get_by_role("button", name="Room on the quadrant").click()
    for label in ("To the right", "Up", "Swing from, °", "to, °", "First shaft", "Stud", "Screw"):
        page.get_by_label(label, exact=True).fill("")
    page.get_by_role("button", name="Delete slot A").click()
    page.get_by_label("There is no cover").uncheck()
    expect(page.get_by_role("button", name="Room on the quadrant")).to_contain_text("not known")
    page.get_by_role("button", name="Measure with calipers").click()
    for label, typed in (
        ("1 Both shafts", "121.3"), ("⌀ first shaft", "14"), ("⌀ screw", "14"),
        ("⌀ stud", "12"), ("2 Stud, inner", "47"), ("3 Stud, outer", "141"),
    ):  # fmt: skip
        page.get_by_role("textbox", name=label).fill(typed)
    page.get_by_role("button", name="Use these readings").click()
    expect(page.get_by_label("From first shaft to screw")).to_have_value("107.30")
    expect(page.get_by_label("Slot A: farthest")).to_have_value("128.00")
    expect(page.get_by_role("button", name="Room on the quadrant")).to_contain_text("all but")
    page.get_by_label("This is an example.").check()
    page.get_by_role("button", name="Save").click()
    card = page.get_by_role("article").filter(has=page.get_by_role("heading", name="Example metric"))
    expect(card).to_contain_text("shafts 107.3 mm apart (measured)")
    expect(card.get_by_text("Example, not confirmed")).to_have_count(0)
    page.goto(f"{own_shop}/lathe/example-metric?ask=M10x1.5")
    best = page.get_by_role("radiogroup", name="Trains").get_by_role("radio").first
    expect(best).to_contain_text("reaches, room not checked")
    page.get_by_role("button", name="Not known of this lathe").click()
    expect(page.get_by_text("Not known, and not checked: swing, collars and cover.").first).to_be_visible()


def test_a_record_is_typed_dragged_and_tried(page: Page, address: str) -> None:
    page.goto(f"{address}/machines")
    card = page.get_by_role("article").filter(has=page.get_by_role("heading", name="Plover"))
    card.get_by_role("link", name="Edit").click()
    page.get_by_role("button", name="Room on the quadrant").click()
    page.get_by_label("Try a train on this record").fill("76/66*32/78")
    status = page.get_by_role("region", name="End view").get_by_role("status")
    expect(status).to_have_text("76/66 × 32/78 fits: 17.8 mm clear.")
    handle = page.get_by_role("button", name="first shaft: drag it")
    handle.press("ArrowRight")
    expect(page.get_by_label("To the right")).to_have_value("73")
    box = handle.bounding_box()
    assert box
    middle = box["x"] + box["width"] / 2, box["y"] + box["height"] / 2
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0] + 150, middle[1], steps=5)
    page.mouse.up()
    expect(status).to_contain_text("does not fit")
    page.get_by_label("Swing from, °").fill("200")
    expect(page.get_by_text("The swing ends at 125° before it begins.")).to_be_visible()
    page.get_by_label("Swing from, °").fill("15")
    for grip, key, label, value in (
        ("slot B, farthest end", "ArrowUp", "Slot B: farthest", "193"),
        ("swing to 125°", "ArrowDown", "to, °", "122"),
    ):
        for _ in range(3):
            page.get_by_role("button", name=grip.split(" 1")[0]).press(key)
        expect(page.get_by_label(label, exact=True)).to_have_value(value)
    page.get_by_role("button", name="corner 1 of the cover").press("ArrowLeft")
    expect(page.get_by_label("Corners")).to_have_value(re.compile(r"^-153 "))
    page.get_by_role("button", name="Measure with calipers").click()
    for label, typed in (
        ("1 Both shafts", "214.78"), ("⌀ first shaft", "32"), ("⌀ screw", "32"),
        ("Height of the first shaft", "168"),
    ):  # fmt: skip
        page.get_by_role("textbox", name=label).fill(typed)
    page.get_by_role("button", name="Use these readings").click()
    expect(page.get_by_label("To the right")).to_have_value("72.00")
    expect(status).to_have_text(re.compile("fits: 17.[78] mm clear"))
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Plover is saved.")


# What stands in a field and cannot all be seen.
CUT = """() => [...document.querySelectorAll('main :is(input, textarea)')]
    .filter(e => e.scrollWidth > e.clientWidth + 1 || e.scrollHeight > e.clientHeight + 1).map(e => e.value)"""


@pytest.mark.parametrize("slug", ["plover", "heron", "avocet", "grebe"])
def test_what_is_on_record_can_all_be_read_and_is_no_change(page: Page, address: str, slug: str) -> None:
    page.set_viewport_size({"width": 390, "height": 844})
    page.goto(f"{address}/machines/{slug}")
    expect(page.get_by_role("heading", name=re.compile("record"))).to_be_visible()
    closed = page.locator("main form button[aria-expanded=false]")
    while closed.count():
        closed.first.click()
    assert page.evaluate(CUT) == []
    # Looked at alone, it is left without a question.
    page.get_by_role("link", name="Cancel").click()
    expect(page).to_have_url(f"{address}/machines")


def test_a_long_note_grows_and_is_sent_by_enter(page: Page, address: str) -> None:
    page.goto(f"{address}/machines/heron")
    note = page.get_by_label("Note")
    low = note.evaluate("e => e.clientHeight")
    note.fill("the arm is in the second drawer " * 6)
    assert note.evaluate("e => e.clientHeight") > 1.5 * low
    assert page.evaluate(CUT) == []
    note.press("Enter")
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Heron is saved.")
    page.get_by_role("button", name="Undo").click()


def test_what_a_record_lacks_is_typed_at_once_and_leads_back_to_the_question(page: Page, own_shop: str) -> None:
    page.goto(f"{own_shop}/machines/new/mill")
    page.get_by_label("Name").fill("Knot")
    page.get_by_label(re.compile("^Screw of the table|^Table screw|^Screw")).first.fill("6 mm")
    page.get_by_role("button", name="Save").click()
    expect(page).to_have_url(re.compile("/mill/knot$"))
    page.goto(f"{own_shop}/mill/knot?ask=lead+240+mm")
    page.get_by_role("link", name="Open Knot’s record").click()
    expect(page.locator("input:focus, textarea:focus")).to_have_count(1)
    # The focus is in the very field.
    page.keyboard.type("60")
    page.get_by_role("button", name="Save").click()
    expect(page).to_have_url(re.compile(r"/mill/knot\?ask=lead\+240\+mm"))
    expect(page.get_by_role("link", name="Open Knot’s record")).to_have_count(0)


def test_a_machine_is_archived_and_taken_into_use_again(page: Page, address: str) -> None:
    page.goto(f"{address}/machines/plover")
    page.get_by_role("button", name="Archive").click()
    away = page.get_by_role("region", name="Archived")
    expect(away).to_contain_text("Plover")
    page.goto(f"{address}/lathe")
    page.wait_for_url("**/lathe/curlew**")
    page.get_by_role("button", name="on Curlew, choose another lathe").click()
    expect(page.get_by_role("option", name="Dunlin")).to_be_visible()
    expect(page.get_by_role("option", name="Plover")).to_have_count(0)
    page.goto(f"{address}/machines")
    away.get_by_role("button", name="Use again").click()
    expect(away).to_have_count(0)
    expect(page.get_by_role("heading", name="Plover")).to_be_visible()
