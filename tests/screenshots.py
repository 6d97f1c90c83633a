"""Make docs/screenshots from the demo shop: `make screenshots`."""

import shutil
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from typing import Literal
from urllib.parse import quote

from playwright.sync_api import FilePayload, Page, sync_playwright

from tests.browser.conftest import CHROMIUM_FLAGS, VISITED
from tests.photos import Scene, Wheel, as_jpeg, photograph
from tests.served import serving

TARGET = Path(__file__).parents[1] / "docs" / "screenshots"


@dataclass(frozen=True)
class View:
    name: str
    place: str
    size: tuple[int, int] = (1280, 800)
    night: bool = False
    do: Callable[[Page], object] | None = None


def _measure(page: Page) -> None:
    sheet = page.get_by_role("region", name="Set-up sheet")
    sheet.get_by_label("Length").fill("20.6")
    sheet.get_by_role("button", name="Check").click()
    sheet.get_by_role("button", name="A 64 stands where the 66 belongs.").click()


def _in_its_nut(page: Page) -> None:
    page.get_by_role("radio", name="In its nut").click()
    page.get_by_role("region", name="Drawing").locator("svg[aria-label]").first.wait_for()
    page.get_by_role("region", name="Set-up sheet").get_by_role("button", name="Print").wait_for()


def _a_day(page: Page) -> None:
    page.get_by_label("What is to be done, a line each").fill("\n".join(DAY))
    page.get_by_role("button", name="Add", exact=True).click()
    page.get_by_role("button", name="Record as fitted").first.wait_for()
    page.get_by_role("button", name="Close").click()


def _count(page: Page) -> None:
    wheel = Wheel(57, (500, 375), 640, 150, broken=(9,), turned=0.02)
    picture = as_jpeg(photograph(Scene((wheel,), ground=110, tilt=8)))
    page.get_by_role("button", name="Count from a picture").click()
    dialog = page.get_by_role("dialog")
    dialog.get_by_label("How long").fill("16 mm")
    file: FilePayload = {"name": "wheel.jpg", "mimeType": "image/jpeg", "buffer": picture}
    dialog.get_by_label("Picture of a wheel").set_input_files(file)
    dialog.get_by_role("button", name="Add as 57").wait_for()


DAY = ("M14x2", "1.25 mm", "M10", "20 tpi", "hob 37", "divide 57", "make 62")
VIEWS = [
    View("lathe", f"/lathe/plover?ask={quote('M14x2')}"),
    View("day", "/day", night=True, do=_a_day),
    View("phone", "/today", size=(390, 844)),
    View("lathe-nut", f"/lathe/curlew?ask={quote('26 tpi over 40 mm')}",
         do=_in_its_nut),
    View("lathe-slip", f"/lathe/plover?ask={quote('M14x2')}", do=_measure),
    View("chart", "/lathe/plover/chart?list=metric&list=per_inch&list=ba"),
    View("hobber", f"/hobber/avocet?ask={quote('hob 107 m2 face 20 hob dia 63')}"),
    View("hobber-chart", "/hobber/avocet/chart",
         do=lambda page: page.get_by_role("link", name="200 teeth: exact").wait_for()),
    View("mill", f"/mill/heron?ask={quote('helix 24 m2 30° left face 20 with 24')}",
         do=lambda page: page.get_by_role("radio", name="From above").click()),
    View("rack", "/rack"),
    View("photo-count", "/rack", do=_count),
    View("wheel", f"/wheel?ask={quote('wheel 57 for Plover')}"),
    View("dividing", f"/dividing?ask={quote('divide 57')}&way=1"),
    View("job", "/jobs/1", do=lambda page: page.get_by_role("link", name="Go on cutting").scroll_into_view_if_needed()),
    View("session", "/jobs/1/session"),
    View("book", "/log/plover",
         do=lambda page: page.get_by_role("heading", name="Set-ups in use").evaluate("it => it.scrollIntoView()")),
    View("machine-plate", "/lathe/dunlin/plate"),
]  # fmt: skip


def main() -> None:
    TARGET.mkdir(parents=True, exist_ok=True)
    with serving("--demo") as address, sync_playwright() as playwright:
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM_FLAGS)
        for view in VIEWS:
            width, height = view.size
            page = browser.new_page(
                viewport={"width": width, "height": height},
                reduced_motion="reduce",
                color_scheme="dark" if view.night else "light",
            )
            page.add_init_script(VISITED)
            page.goto(address + view.place)
            page.get_by_role("heading", level=1).first.wait_for()
            page.wait_for_load_state("networkidle")
            if view.do:
                view.do(page)
            page.evaluate("document.fonts.ready")
            page.screenshot(path=TARGET / f"{view.name}.png")
            page.close()
        paper = browser.new_context()
        paper.add_init_script(VISITED)
        _on_paper(paper.new_page(), f"{address}/lathe/plover?ask=M14x2", "radiogroup", "Trains", "sheet")
        plate = f"{address}/lathe/plover/chart?list=metric&list=per_inch&list=ba"
        _on_paper(paper.new_page(), plate, "table", "", "plate")
        browser.close()
    print(f"{len(VIEWS) + 2} pictures in {TARGET}")


def _on_paper(page: Page, place: str, role: Literal["radiogroup", "table"], name: str, picture: str) -> None:
    """A page as it looks on paper."""
    page.set_viewport_size({"width": 794, "height": 1123})
    page.goto(place)
    page.get_by_role(role, name=name).wait_for()
    page.wait_for_load_state("networkidle")
    page.emulate_media(media="print")
    page.add_style_tag(content="body { padding: 40px }")
    page.evaluate("document.fonts.ready")
    page.screenshot(path=TARGET / f"{picture}.png")


if __name__ == "__main__":
    main()
