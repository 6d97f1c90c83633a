import shutil
import socket
from collections.abc import Iterator
from pathlib import Path
from threading import Thread
from typing import Any

import httpx2
import pytest
import uvicorn
from playwright.sync_api import BrowserContext, BrowserType, Page, Request, expect

from tests.served import serve
from valleywind.api.app import make_app
from valleywind.shop.store import open_store

# The popup of the browser's own address line is a page of its own, drawn beside every page and never seen here. The
# last list of features holds, so the others are those that Playwright switches off.
_SWITCHED_OFF = (
    "WebUIOmniboxPopup", "AvoidUnnecessaryBeforeUnloadCheckSync", "DestroyProfileOnBrowserClose", "HttpsUpgrades",
    "HttpsFirstBalancedModeAutoEnable", "LensOverlay", "MediaRouter", "PaintHolding", "ThirdPartyStoragePartitioning",
    "AvoidCorsURLLoaderRestartOnRedirect", "OptimizationHints", "NetworkTimeServiceQuerying", "AimEnabled",
    "PreconnectToSearch", "CDPScreenshotNewSurface", "SkipListAccountsWithoutGaiaCookies",
)  # fmt: skip
CHROMIUM_FLAGS = [
    "--no-sandbox", "--disable-gpu", "--disable-quic", "--no-first-run", "--disable-background-networking",
    "--disable-component-update", "--disable-sync", f"--disable-features={','.join(_SWITCHED_OFF)}",
]  # fmt: skip

# What a page is for is shown on the first visit, and stands before what the tests look at.
VISITED = """
try { localStorage["valleywind.helpSeen"] ??= '["all"]' } catch { /* about:blank keeps nothing */ }
"""

# ms. A machine under load answers late, not wrongly.
PATIENCE = 20_000
expect.set_options(timeout=PATIENCE)


@pytest.fixture(scope="session")
def browser_type_launch_args() -> dict[str, Any]:
    return {"executable_path": shutil.which("chromium"), "args": CHROMIUM_FLAGS}


@pytest.fixture(scope="session")
def browser_context_args() -> dict[str, Any]:
    return {"viewport": {"width": 1280, "height": 800}, "reduced_motion": "reduce", "color_scheme": "light"}


@pytest.fixture(scope="session")
def address(tmp_path_factory: pytest.TempPathFactory) -> Iterator[str]:
    process, result = serve(tmp_path_factory.mktemp("demo"), "--demo")
    yield result
    process.terminate()
    process.wait(10)


@pytest.fixture
def own_shop(tmp_path: Path) -> Iterator[str]:
    """An empty shop of one's own, served from here: a program of its own would be long in coming."""
    store = open_store(tmp_path / "shop.sqlite")
    server = uvicorn.Server(uvicorn.Config(make_app(store), log_level="warning"))
    with socket.socket() as listener:
        listener.bind(("127.0.0.1", 0))
        listener.listen()
        thread = Thread(target=server.run, kwargs={"sockets": [listener]})
        thread.start()
        yield f"http://127.0.0.1:{listener.getsockname()[1]}"
        server.should_exit = True
        thread.join(PATIENCE / 1000)
    store.engine.dispose()


@pytest.fixture(scope="session")
def window(
    browser_type: BrowserType,
    browser_type_launch_args: dict[str, Any],
    browser_context_args: dict[str, Any],
    tmp_path_factory: pytest.TempPathFactory,
) -> Iterator[BrowserContext]:
    """One browser window for all tests, with a profile of its own, so that scripts are read and compiled once."""
    profile = tmp_path_factory.mktemp("profile")
    context = browser_type.launch_persistent_context(profile, **browser_type_launch_args, **browser_context_args)
    context.add_init_script(VISITED)
    yield context
    context.close()


@pytest.fixture
def context(window: BrowserContext, address: str) -> Iterator[BrowserContext]:
    """That window with nothing kept in it by the tests before: no pages, no preferences."""
    before = window.pages
    sent: list[Request] = []

    def answered(request: Request) -> None:
        if request in sent:
            sent.remove(request)

    def begun(request: Request) -> None:
        if request.method != "GET":
            sent.append(request)

    heard = {"request": begun, "requestfinished": answered, "requestfailed": answered}
    for event, listener in heard.items():
        window.on(event, listener)  # type: ignore[call-overload]
    yield window
    pages = [page for page in window.pages if page not in before]
    # What a test sent last is done before the next one begins: it would land in that one's shop.
    tries = PATIENCE // 50
    while sent and pages and tries:
        pages[-1].wait_for_timeout(50)
        tries -= 1
    for event, listener in heard.items():
        window.remove_listener(event, listener)
    origins = {address, *("/".join(page.url.split("/")[:3]) for page in pages if page.url.startswith("http"))}
    if pages:
        session = window.new_cdp_session(pages[-1])
        for origin in origins:
            session.send("Storage.clearDataForOrigin", {"origin": origin, "storageTypes": "cookies,local_storage"})
    for page in pages:
        page.close()


@pytest.fixture(autouse=True)
def patient(page: Page) -> None:
    page.set_default_timeout(PATIENCE)


@pytest.fixture(autouse=True)
def fresh_demo(address: str) -> None:
    """The demo shop as it is at the start; loaded anew only where the test before changed it."""
    if httpx2.get(f"{address}/api/changes", timeout=20).json()[0]["text"] == "Loaded the demo shop.":
        return
    loaded = httpx2.post(f"{address}/api/shop/demo", json={"confirm": "replace by the demo shop"}, timeout=20)
    assert loaded.status_code == 200, loaded.text


@pytest.fixture
def lathe(page: Page, address: str) -> Iterator[Page]:
    """The Lathe station of the demo shop; nothing may go wrong unseen behind it."""
    complaints: list[str] = []
    page.on("pageerror", lambda error: complaints.append(str(error)))
    page.goto(f"{address}/lathe")
    expect(page.get_by_role("heading", name="What thread?")).to_be_visible()
    yield page
    assert complaints == []
