"""The log, a machine's book and Today, and what was done last time, as a person finds them."""

import io
import json
import re
import urllib.request
import zipfile

from PIL import Image
from playwright.sync_api import FilePayload, Page, expect


def test_how_it_came_out_is_one_tap_and_is_found_again(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover?ask=M18x2.5")
    done, last = (page.get_by_role("region", name=name) for name in ("Log", "Last time"))
    trains = page.get_by_role("radiogroup", name="Trains").get_by_role("radio")
    expect(trains.first).to_be_checked()
    expect(last).to_have_count(0)
    done.get_by_label("Note").fill("Spacer on the stud.")
    done.get_by_label("Initials").fill("T")
    done.get_by_label("Pieces").fill("two")
    expect(done.get_by_role("button", name="Ran free")).to_be_disabled()
    done.get_by_label("Pieces").fill("2")
    done.get_by_label("Tried with").select_option("a nut")
    done.get_by_role("button", name="Ran free").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("In the log: M18x2.5, ran free.")
    expect(last).to_contain_text(
        re.compile(r"Done: 2 × M18x2.5 on Plover, with .*: ran free, tried with a nut. Spacer")
    )
    # With another train chosen, the one of then is taken by a button.
    then = page.url
    trains.nth(2).click()
    expect(trains.nth(2)).to_be_checked()
    last.get_by_role("button", name="Set up as then").click()
    expect(trains.first).to_be_checked()
    expect(page).not_to_have_url(then)
    done.get_by_role("link", name="Whole log").click()
    entry = page.get_by_role("listitem").filter(has_text="Done: 2 × M18x2.5")
    expect(entry).to_contain_text("T")
    entry.get_by_role("button", name=re.compile("^Correct")).click()
    entry.get_by_label("What is wrong, and what holds").fill("it was tight")
    entry.get_by_role("button", name="Strike through").click()
    expect(entry).to_contain_text("it was tight")
    page.get_by_label("A note for the log").fill("Oil of Plover changed")
    page.get_by_role("button", name="Add", exact=True).click()
    note = page.get_by_text("Oil of Plover changed", exact=True)
    expect(note).to_be_visible()
    page.get_by_label("Words").fill("oil chang")
    expect(entry).to_have_count(0)
    expect(note).to_be_visible()
    page.get_by_label("Words").fill("")
    entry.get_by_role("link", name="Open").click()
    expect(page).to_have_url(re.compile(r"/lathe/plover\?ask=M18x2.5"))
    # What is struck through is no last time.
    expect(trains.first).to_be_checked()
    expect(last).to_have_count(0)


def test_a_check_stands_in_the_book_and_a_worn_screw_is_told(page: Page, address: str) -> None:
    page.goto(f"{address}/lathe/plover?ask=M14x2")
    page.get_by_label("Length", exact=True).fill("20.02")
    page.get_by_role("button", name="Check", exact=True).click()
    expect(page.get_by_text("agrees with")).to_be_visible()
    page.get_by_role("link", name="Book of this machine").click()
    readings = page.get_by_role("region", name="Readings of the lead")
    expect(readings).to_contain_text(re.compile(r"Over 15 checks the lead is 2\d\d ppm long, ±\d+: a worn screw"))
    expect(readings.get_by_role("img")).to_be_visible()
    expect(page.get_by_role("region", name="Log").get_by_role("listitem").first).to_contain_text("20.020 mm over 10")
    set_ups = page.get_by_role("region", name="Set-ups in use")
    pins = set_ups.get_by_role("listitem").filter(has_text="M14x2")
    pins.get_by_role("button", name="Pin", exact=True).click()
    expect(pins.get_by_role("button", name="Unpin")).to_be_visible()
    page.get_by_role("link", name="Today").click()
    page.get_by_role("region", name="Pinned").get_by_role("link", name=re.compile("M14x2")).click()
    expect(page).to_have_url(re.compile(r"/lathe/plover\?ask=M14x2&train=76"))


def test_today_is_what_one_comes_to_and_an_ask_goes_on_from_there(page: Page, address: str) -> None:
    page.goto(address)
    expect(page.get_by_role("heading", name="Today")).to_be_visible()
    machines = page.get_by_role("region", name="On the machines")
    expect(machines.get_by_role("link", name=re.compile("^Plover"))).to_contain_text("For 26 tpi, since")
    expect(page.get_by_role("region", name="Being made")).to_contain_text("A 57 for Plover")
    expect(page.get_by_role("region", name="Wheels missing")).to_contain_text("60")
    expect(page.get_by_role("region", name="Done last").get_by_role("listitem")).to_have_count(5)
    page.get_by_role("combobox", name="What is wanted").fill("M14x2")
    expect(page).to_have_url(re.compile(r"/lathe/plover\?ask=M14x2"))
    expect(page.get_by_role("region", name="Last time")).to_contain_text(
        "Spacer on the stud, or the 32 rubs the cover."
    )


def test_a_shop_is_exported_and_anothers_file_is_looked_at_and_taken_in(page: Page, address: str) -> None:
    with urllib.request.urlopen(f"{address}/api/shop/file.zip", timeout=20) as answer:
        mine = answer.read()
    with zipfile.ZipFile(io.BytesIO(mine)) as file:
        shop = json.loads(file.read("shop.json"))
    next(m for m in shop["machines"] if m["name"] == "Grebe")["note"] = "as theirs has it"
    out = io.BytesIO()
    with zipfile.ZipFile(out, "w") as file:
        file.writestr("shop.json", json.dumps(shop))
    page.goto(f"{address}/machines")
    part = page.get_by_role("region", name="Export and import")
    with page.expect_download() as got:
        part.get_by_role("link", name="Export the shop").click()
    assert got.value.suggested_filename == "shop.zip"
    chosen = part.get_by_label("File of a shop")
    chosen.set_input_files({"name": "a.zip", "mimeType": "application/zip", "buffer": b"no zip"})
    expect(part.get_by_role("alert")).to_contain_text("That is not a shop’s file.")
    chosen.set_input_files({"name": "a.zip", "mimeType": "application/zip", "buffer": mine})
    dialog = page.get_by_role("dialog")
    expect(dialog).to_contain_text("Everything in it is here already.")
    dialog.get_by_role("button", name="Cancel").click()
    chosen.set_input_files({"name": "a.zip", "mimeType": "application/zip", "buffer": out.getvalue()})
    expect(dialog).to_contain_text("1 different")
    dialog.get_by_label("What is done with: Grebe").select_option("Take theirs")
    dialog.get_by_role("button", name="Import").click()
    expect(page.get_by_role("status", name="What was done")).to_contain_text("Taken in: 1 machine.")
    expect(page.get_by_text("as theirs has it")).to_be_visible()
    page.get_by_role("button", name="Undo").click()
    expect(page.get_by_text("as theirs has it")).to_have_count(0)


def test_a_photograph_goes_into_the_log_and_stands_with_last_time(page: Page, address: str) -> None:
    made = io.BytesIO()
    Image.new("RGB", (80, 60), (120, 90, 40)).save(made, "JPEG")
    picture: FilePayload = {"name": "flanks.jpg", "mimeType": "image/jpeg", "buffer": made.getvalue()}
    page.goto(f"{address}/lathe/plover?ask=7+tpi")
    page.get_by_label("Photograph for the log").set_input_files(picture)
    expect(page.get_by_role("status", name="What was done")).to_contain_text("In the log: Photograph: 7 tpi on Plover")
    expect(page.get_by_role("region", name="Last time").get_by_role("img")).to_be_visible()
    page.goto(f"{address}/log?text=photograph")
    expect(page.get_by_role("img", name="Photograph: 7 tpi on Plover")).to_be_visible()
    paper = page.get_by_role("link", name="PDF").get_attribute("href")
    assert page.request.get(f"{address}{paper}").headers["content-type"] == "application/pdf"


def test_the_book_holds_drawing_and_plate(page: Page, address: str) -> None:
    page.goto(f"{address}/log/avocet")
    expect(page.get_by_role("figure")).to_have_count(2)
    expect(page.get_by_role("region", name="Table").get_by_role("row")).not_to_have_count(0)
