"""What is to be done, put into order and worked down, as a person finds it."""

import re

import pytest
from playwright.sync_api import Locator, Page, Request, expect


def add(page: Page, *lines: str) -> None:
    asks = page.get_by_label("What is to be done, a line each")
    asks.fill("\n".join(lines))
    page.get_by_role("button", name="Add", exact=True).click()
    expect(asks).to_have_value("")


def machine(page: Page, name: str) -> Locator:
    return page.get_by_role("region", name=name, exact=True)


@pytest.fixture(autouse=True)
def cleared(page: Page, address: str) -> None:
    for one in page.request.get(f"{address}/api/day").json()["tasks"]:
        page.request.delete(f"{address}/api/day/{one['id']}")


def test_each_line_goes_to_its_machine_and_the_order_is_worked_down(page: Page, address: str) -> None:
    page.goto(f"{address}/day")
    expect(page.get_by_text("Enter what is to be done: threads")).to_be_visible()
    add(page, "M14x2", "1.25 mm", "20 tpi", "hob 37", "make 57")
    plover = machine(page, "Plover")
    expect(plover.get_by_role("status")).to_contain_text(re.compile(r"\d+ wheels? put on in all"))
    after = (
        plover.get_by_role("list", name="After that, in this order")
        .get_by_role("listitem")
        .filter(has=page.get_by_role("link", name="Set-up"))
    )
    expect(after).to_have_count(2)
    expect(machine(page, "Avocet").get_by_text("hob 37").first).to_be_visible()
    expect(machine(page, "Wheels to be made").get_by_role("link", name="Start a job")).to_be_visible()
    plover.get_by_role("button", name="Record as fitted").click()
    expect(plover.get_by_text(re.compile(r"Set up since \d\d:\d\d"))).to_be_visible()
    expect(plover.get_by_text("nothing to change")).to_be_visible()
    first = page.request.get(f"{address}/api/day/machines/plover").json()["turns"][0]["ask"]
    plover.get_by_label("Minutes it took").fill("25")
    plover.get_by_role("button", name="Ran free").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text(f"In the log: {first}, ran free.")
    expect(after).to_have_count(1)
    newest = page.request.get(f"{address}/api/log", params={"kind": "done"}).json()[0]["text"]
    assert first in newest
    assert "in 25 min" in newest
    page.reload()
    expect(after).to_have_count(1)
    plover.get_by_role("link", name="Set-up").first.click()
    expect(page).to_have_url(re.compile(r"/lathe/plover\?ask="))


def test_a_line_that_is_not_read_stays_and_is_told(page: Page, address: str) -> None:
    page.goto(f"{address}/day")
    asks = page.get_by_label("What is to be done, a line each")
    asks.fill("M14x2\nnonsense")
    page.get_by_role("button", name="Add", exact=True).click()
    expect(page.get_by_role("alert")).to_contain_text("“nonsense” is not understood.")
    expect(asks).to_have_value("M14x2\nnonsense")


def test_later_and_only_after_and_not_today_are_kept(page: Page, address: str) -> None:
    page.goto(f"{address}/day")
    add(page, "M14x2", "1.25 mm", "20 tpi")
    there = page.get_by_role("complementary", name="The list")
    there.get_by_role("button", name=re.compile("^M14x2")).click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("Only after").select_option("20 tpi")
    dialog.get_by_label("Held in").fill("4-jaw chuck")
    dialog.get_by_role("button", name="Close").click()
    plover = machine(page, "Plover")
    expect(plover.get_by_text("hold it in: 4-jaw chuck")).to_be_visible()
    expect(plover.get_by_role("link", name="Set-up")).to_have_count(3)

    def asks() -> list[str]:
        turns = page.request.get(f"{address}/api/day/machines/plover").json()["turns"]
        return [str(turn["ask"]) for turn in turns]

    assert asks().index("20 tpi") < asks().index("M14x2")
    first = asks()[0]
    plover.get_by_role("button", name="Later").click()
    expect(there.get_by_role("region", name="Later")).to_contain_text(first)
    expect(plover.get_by_text("Next").locator("..")).not_to_contain_text(first)
    plover.get_by_role("button", name="Not today").click()
    expect(there.get_by_role("region", name="Not today")).to_be_visible()
    expect(plover.get_by_role("link", name="Set-up")).to_have_count(2)


def test_what_holds_the_work_is_tapped_or_typed_and_kept_once(page: Page, address: str) -> None:
    """Half a word is not kept where a suggestion is tapped; what stands in the field is, when Escape is pressed."""
    page.goto(f"{address}/day")
    add(page, "M14x2", "1.25 mm", "20 tpi")
    there = page.get_by_role("complementary", name="The list")
    dialog = page.get_by_role("dialog")
    held = dialog.get_by_label("Held in")
    sent: list[str] = []

    def note(request: Request) -> None:
        if request.method == "PUT" and "/api/day/" in request.url:
            sent.append(request.url)

    def hold(ask: str, typed: str) -> None:
        there.get_by_role("button", name=re.compile(f"^{ask}")).click()
        held.fill(typed)

    page.on("request", note)
    hold("M14x2", "4-jaw chuck")
    page.keyboard.press("Escape")
    expect(dialog).to_have_count(0)
    expect(machine(page, "Plover").get_by_text("hold it in: 4-jaw chuck")).to_be_visible()
    hold("1.25 mm", "4-j")
    with page.expect_response(lambda answer: answer.request.method == "PUT"):
        dialog.get_by_role("button", name="4-jaw chuck").click()
    expect(held).to_have_value("4-jaw chuck")
    dialog.get_by_role("button", name="Close").click()
    expect(dialog).to_have_count(0)
    tasks = page.request.get(f"{address}/api/day").json()["tasks"]
    assert {task["ask"]: task["held"] for task in tasks}["1.25 mm"] == "4-jaw chuck"
    assert len(sent) == 2


def test_what_is_on_is_put_back_and_a_place_is_given_its_effort(page: Page, address: str) -> None:
    page.goto(f"{address}/day")
    add(page, "M14x2", "1.25 mm")
    plover = machine(page, "Plover")
    plover.get_by_label("Put back what is on now").check()
    expect(plover).to_contain_text("At the end, what is on now")
    expect(page).to_have_url(re.compile(r"back=plover"))
    plover.get_by_role("button", name="Effort").click()
    dialog = page.get_by_role("dialog")
    stud = dialog.get_by_label("A wheel on a stud")
    stud.fill("101")
    dialog.get_by_role("button", name="Save").click()
    expect(dialog.get_by_role("alert")).to_contain_text("From 0 to 100")
    stud.fill("3")
    dialog.get_by_role("button", name="Save").click()
    expect(dialog).to_have_count(0)
    page.goto(f"{address}/machines")
    page.get_by_role("article").filter(has_text="Plover").first.get_by_role("button", name="Effort").click()
    expect(page.get_by_role("dialog").get_by_label("A wheel on a stud")).to_have_value("3")
