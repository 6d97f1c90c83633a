"""Make docs/screenshots from the demo shop: `make screenshots`."""

import shutil
import tempfile
from collections.abc import Callable
from dataclasses import dataclass
from pathlib import Path
from urllib.parse import quote

from playwright.sync_api import Page, sync_playwright

from tests.browser.conftest import CHROMIUM_FLAGS, serve

TARGET = Path(__file__).parents[1] / "docs" / "screenshots"


@dataclass(frozen=True)
class View:
    name: str
    place: str
    size: tuple[int, int] = (1280, 800)
    night: bool = False
    do: Callable[[Page], object] | None = None


def _choose(page: Page, group: str) -> None:
    page.get_by_role("group", name=group).get_by_role("radio").click()


def _type(page: Page) -> None:
    page.get_by_role("combobox", name="What is wanted").fill("3/8")
    page.get_by_role("listbox", name="How it could go on").wait_for()
    page.keyboard.press("ArrowDown")


def _measure(page: Page) -> None:
    sheet = page.get_by_role("region", name="Set-up sheet")
    sheet.get_by_label("Length").fill("20.6")
    sheet.get_by_role("button", name="Is it right?").click()
    sheet.get_by_role("button", name="A 64 stands where the 66 belongs.").click()


VIEWS = [
    View("lathe", f"/lathe/plover?ask={quote('M14x2')}"),
    View("lathe-night", f"/lathe/plover?ask={quote('M14x2')}", night=True),
    View("lathe-tablet", f"/lathe/curlew?ask={quote('M6')}", size=(800, 1280)),
    View("lathe-does-not-go-on", f"/lathe/curlew?ask={quote('26 tpi')}",
         do=lambda page: _choose(page, "Most exact, but does not go on")),
    View("lathe-nothing-meets", f"/lathe/curlew?ask={quote('0.04 mm')}"),
    View("ask", f"/lathe/plover?ask={quote('M14x2')}", do=_type),
    View("lathe-slip", f"/lathe/plover?ask={quote('M14x2')}", do=_measure),
    View("lathe-start", "/lathe/plover"),
    View("machines", "/machines"),
]  # fmt: skip


def main() -> None:
    TARGET.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory() as folder, sync_playwright() as playwright:
        process, address = serve(Path(folder), "--demo")
        browser = playwright.chromium.launch(executable_path=shutil.which("chromium"), args=CHROMIUM_FLAGS)
        for view in VIEWS:
            width, height = view.size
            page = browser.new_page(
                viewport={"width": width, "height": height},
                reduced_motion="reduce",
                color_scheme="dark" if view.night else "light",
            )
            page.goto(address + view.place)
            page.get_by_role("list", name="wheels in order of size").first.wait_for()
            page.wait_for_load_state("networkidle")
            if view.do:
                view.do(page)
            page.evaluate("document.fonts.ready")
            page.screenshot(path=TARGET / f"{view.name}.png")
            page.close()
        _sheet(browser.new_page(), address)
        browser.close()
        process.terminate()
    print(f"{len(VIEWS) + 1} pictures in {TARGET}")


def _sheet(page: Page, address: str) -> None:
    """The printed sheet, as it looks on paper."""
    page.set_viewport_size({"width": 794, "height": 1123})
    page.goto(f"{address}/lathe/plover?ask=M14x2")
    page.get_by_role("radiogroup", name="Trains").wait_for()
    page.emulate_media(media="print")
    page.add_style_tag(content="body { padding: 40px }")
    page.evaluate("document.fonts.ready")
    page.screenshot(path=TARGET / "sheet.png")


if __name__ == "__main__":
    main()
