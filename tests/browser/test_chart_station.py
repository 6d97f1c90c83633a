"""The chart as picture, table, plate and CSV; and a lathe that nobody knows."""

import re
from io import BytesIO
from pathlib import Path

from playwright.sync_api import Page, expect
from pypdf import PdfReader


def test_a_chart_leads_to_the_train(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover")
    page.get_by_role("link", name="Chart").click()
    chart = page.get_by_role("region", name="Chart")
    row = chart.get_by_role("row").filter(has=page.get_by_role("link", name="26 tpi", exact=True))
    expect(row).to_contain_text("36/64 × 32/78")
    expect(row).to_contain_text("exact")
    expect(chart.get_by_role("rowgroup").nth(1)).to_contain_text("M14, M16")
    page.get_by_label("Metric coarse").click()
    page.get_by_label("BA", exact=True).click()
    expect(chart.get_by_role("rowheader", name="Metric coarse")).to_have_count(0)
    expect(chart.get_by_text("4 BA", exact=True)).to_be_visible()
    page.get_by_role("checkbox", name="exact", exact=True).click()
    expect(row).to_have_count(0)
    page.reload()
    expect(chart.get_by_text("4 BA", exact=True)).to_be_visible()
    expect(row).to_have_count(0)
    chart.get_by_role("link", name="0.66 mm", exact=True).click()
    expect(page.get_by_role("combobox", name="What is wanted")).to_have_value("4 BA")
    expect(page.get_by_role("region", name="Drawing").locator("svg[aria-label]").first).to_have_accessible_name(
        re.compile("^Plover, end view")
    )


def test_the_picture_is_clicked_and_the_wheels_change_it(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover/chart?list=metric")
    needs = page.get_by_text("0.25 mm, M1, M1.1, M1.2: needs a wheel")
    expect(needs).to_have_count(1)
    page.goto(f"{address}/machines")
    card = page.get_by_role("article").filter(has=page.get_by_role("heading", name="Plover"))
    field = card.get_by_label("Wheels held")
    field.fill(field.input_value() + " 60 20 18")
    card.get_by_role("button", name="Save").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("are changed")
    page.get_by_role("link", name="Lathe", exact=True).click()
    page.get_by_role("link", name="Chart").click()
    expect(page.get_by_role("group", name="pitches from fine to coarse")).to_be_visible()
    expect(needs).to_have_count(0)
    mark = page.get_by_role("group", name="pitches from fine to coarse").locator("g[transform]").first
    mark.click()
    expect(page.get_by_role("combobox", name="What is wanted")).not_to_have_value("")


def test_feeds_say_what_is_slowest_and_what_would_be_slower(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/curlew/chart")
    page.get_by_role("radio", name="Feeds").click()
    expect(page.get_by_text("The slowest feed these wheels give is 0.0469 mm.")).to_be_visible()
    row = page.get_by_role("row").filter(has=page.get_by_role("link", name="0.04 mm", exact=True))
    expect(row).to_contain_text("needs an 18: 18/80 × 20/80")


def test_the_plate_for_the_gear_cover_and_the_csv(page: Page, address: str, tmp_path: Path) -> None:
    page.goto(f"{address}/lathe/plover/chart")
    expect(page.get_by_role("button", name="Print for the gear cover")).to_be_enabled()
    reader = PdfReader(BytesIO(page.pdf(prefer_css_page_size=True)))
    assert len(reader.pages) == 1
    text = " ".join(reader.pages[0].extract_text().split())
    for sentence in ("Plover", "Metric coarse", "26 tpi", "36/64 × 32/78", "cover on before power"):
        assert sentence in text
    with page.expect_download() as waiting:
        page.get_by_role("link", name="Table as CSV").click()
    waiting.value.save_as(tmp_path / "chart.csv")
    lines = (tmp_path / "chart.csv").read_text(encoding="utf-8-sig").splitlines()
    assert len(lines) == 1 + 23 + 33
    assert "26 tpi,,exact,36/64 × 32/78,,0.9769231,0.0,Nut runs free" in lines


def test_an_unknown_lathe(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover")
    page.get_by_role("link", name="Constants").click()
    page.get_by_label("Carriage moved").fill("some")
    page.get_by_role("button", name="What lathe is it?").click()
    expect(page.get_by_role("alert")).to_contain_text("“some” is not a number.")
    page.get_by_label("Carriage moved").fill("84.6")
    page.get_by_role("button", name="What lathe is it?").click()
    status = page.get_by_role("status")
    expect(status.filter(has_text="Most likely")).to_contain_text("6 tpi screw, first shaft turns 1 to the spindle’s 1")
    page.get_by_label("Train that is on").fill("40:60")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("“40:60” is not a train.")


def test_the_wheel_worth_making_is_planned_and_undone(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover/chart?list=metric")
    page.get_by_role("button", name="Which wheel is worth making?").click()
    advice = page.get_by_role("region", name="Which wheel is worth making")
    first = advice.get_by_role("listitem").first
    expect(first).to_contain_text("It fits; its cutter is the one for", timeout=30_000)
    teeth = first.locator("b").first.inner_text()
    first.get_by_role("button", name="Plan to make it").click()
    done = page.get_by_role("status", name="What was done")
    expect(done).to_contain_text(f"{teeth} is noted on Plover’s shelf as missing, to be made.")
    page.get_by_role("link", name="Rack").click()
    expect(page.get_by_role("button", name=f"{teeth} teeth, missing, Plover, to be made: brings")).to_be_visible()
    done.get_by_role("button", name="Undo").click()
    expect(page.get_by_role("button", name=f"{teeth} teeth, missing, Plover, to be made")).to_have_count(0)


def test_the_wheel_worth_making_within_limits(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover/chart?list=metric&worth=1")
    advice = page.get_by_role("region", name="Which wheel is worth making")
    expect(advice.get_by_role("listitem").first).to_be_visible(timeout=30_000)
    advice.get_by_label("Only for these pitches").fill("26 tpi, bananas")
    advice.get_by_role("button", name="Look").click()
    expect(advice.get_by_role("alert")).to_contain_text("bananas")
    advice.get_by_label("Only for these pitches").fill("")
    advice.get_by_label("only what my cutters cut").click()
    advice.get_by_label("Divided on").select_option("grebe")
    advice.get_by_role("button", name="Look").click()
    first = advice.get_by_role("listitem").first
    expect(first).to_contain_text("which you hold", timeout=30_000)
    advice.get_by_label("From, teeth").fill("127")
    advice.get_by_label("to", exact=True).fill("127")
    advice.get_by_role("button", name="Look").click()
    expect(advice.get_by_role("alert")).to_contain_text("No wheel from 127 to 127 teeth is left by these limits.")
