"""Start the server: open the shop's file, say where everything is, listen."""

import ctypes
import gc
import logging
import os
import socket
import ssl
import sys
import webbrowser
from contextlib import suppress
from dataclasses import dataclass
from pathlib import Path
from threading import Thread
from urllib.parse import urlsplit

import typer
import uvicorn
from fastapi import FastAPI

from valleywind.api.connections import MOST_CONNECTIONS, Connection, Seldom
from valleywind.api.guard import Hosts
from valleywind.api.screens import SCREENS
from valleywind.api.starting import Starting
from valleywind.app.copies import FOLDER, latest_good
from valleywind.app.entry import Entry
from valleywind.core.refusal import Refusal
from valleywind.demo import harrowfold
from valleywind.ending import give_up
from valleywind.shop.file_trouble import ShopFileError, Trouble
from valleywind.shop.store import Store, claimed, open_store, place_of
from valleywind.wording import copies as words_of_copies
from valleywind.wording import entry as words
from valleywind.wording import refusals, shop_file

_M_ARENA_MAX = -8
# An ask makes some tens of thousands of small objects, all gone at its end: no need to look for rings among them.
_OBJECTS_AN_ASK = 100_000
# How long answers still on their way are waited for at the end, s.
_LAST_ANSWERS = 2
# Connections that are taken in one go.
_AT_ONCE = 64
# How soon one who works lets another have a turn, s: a step must not wait while a long list is read.
_TURN = 0.001
_LAST_PORT = 65535
USUAL_DEVICE_PORT = 8341
_THIS_MACHINE = ("127.0.0.1", "::1")
PASSPHRASE_VARIABLE = "VALLEYWIND_PASSPHRASE"
_EVERYWHERE = ("0.0.0.0", "::", "")
_DEMO_FOLDER = Path(".demo")
_DEMO_FILE = "harrowfold.sqlite"


@dataclass(frozen=True)
class Network:
    """How the server is reached. open: nobody has to sign in; certificate, key: files for TLS; behind: the address of
    a proxy on this machine that passes requests on; devices, devices_host: port and address at which devices connect,
    None for no port, or in the demo for any."""

    host: str = "127.0.0.1"
    port: int = 8340
    open: bool = False
    certificate: Path | None = None
    key: Path | None = None
    behind: str = ""
    devices: int | None = None
    devices_host: str = "127.0.0.1"

    @property
    def device_keys(self) -> bool:
        """Whether a device has to say its key."""
        return self.closed or (not _is_loopback(self.devices_host) and not self.open)

    @property
    def reached(self) -> bool:
        """Whether others reach it than this machine."""
        return bool(self.behind) or not _is_loopback(self.host)

    @property
    def closed(self) -> bool:
        """Whether one has to sign in."""
        return self.reached and not self.open

    @property
    def address(self) -> str:
        """Where to open it: from another machine if it is reached from there."""
        if self.behind:
            return self.behind.rstrip("/")
        named = _own_address() if self.host in _EVERYWHERE else self.host
        shown = f"[{named}]" if ":" in named else named
        return f"{'https' if self.certificate else 'http'}://{shown}:{self.port}"


def serve_shop(
    data: Path | None, demo: bool, network: Network, copies: Path | None = None, browser: bool = False
) -> None:
    """Serve until interrupted. copies: the folder of its copies, None for the one beside it; browser: open it there.

    Exits with code 2 and a sentence where the file, the port or the certificate cannot be used, and where a passphrase
    is needed and none is set.
    """
    if not SCREENS.is_dir():
        give_up("The screens are not built. Run `make setup` first.")
    path = _path(data, demo)
    new, copies = _not_there_yet(path), copies or path.parent / FOLDER
    try:
        with claimed(path):
            try:
                _check(network)
                _serve(listen(network.host, network.port), path, demo, network, copies, browser)
            except SystemExit:
                _take_away(new)
                raise
    except ShopFileError as error:
        refusal = shop_file.say(error.trouble, error.path, error.detail)
        good = latest_good(path, copies) if error.trouble in (Trouble.DAMAGED, Trouble.INCOMPLETE) else None
        give_up(f"{refusal.says} {words_of_copies.good_copy(good.path, good.made) if good else refusal.would_do}")
    except OSError as error:
        give_up(f"The shop’s file {path} cannot be opened: {error.strerror}. Name another folder with --data.")


def _not_there_yet(path: Path) -> list[Path]:
    """What serving this file makes new, the innermost first."""
    lock = path.with_name(f"{path.name}.lock")
    return [one for one in (lock, path, *path.parents) if not one.exists()]


def _take_away(new: list[Path]) -> None:
    """Leave the disk as it was before, where nothing is served after all."""
    for one in new:
        with suppress(OSError):
            if one.is_dir():
                one.rmdir()
            else:
                one.unlink()


def _check(network: Network) -> None:
    """Ends with a sentence where what was said of the network cannot be."""
    if bool(network.certificate) != bool(network.key):
        give_up("A certificate needs its key, and a key its certificate. Name both: --certificate, --key.")
    if network.certificate and network.key:
        try:
            ssl.SSLContext(ssl.PROTOCOL_TLS_SERVER).load_cert_chain(network.certificate, network.key)
        except (OSError, ssl.SSLError) as error:
            give_up(
                f"The certificate cannot be used: {error}. Look at both files; docs/running.md says how to make them."
            )
    behind = urlsplit(network.behind)
    if network.behind and (behind.scheme not in ("http", "https") or not behind.hostname or behind.path.strip("/")):
        give_up("Say where the proxy is reached, like --behind https://shop.example; a path is not possible.")
    if network.behind and not _is_loopback(network.host):
        give_up("A proxy passes requests on from this machine: leave out --host.")


def _ask_for_passphrase(entry: Entry) -> None:
    """Set a passphrase where none is set: from the environment, or from whoever sits at the terminal."""
    typed = os.environ.get(PASSPHRASE_VARIABLE, "")
    if not typed and not sys.stdin.isatty():
        give_up(words.NEEDS_PASSPHRASE)
    try:
        entry.set_passphrase(typed or typer.prompt(words.NEW_PASSPHRASE, hide_input=True, confirmation_prompt=True))
    except Refusal as refused:
        refusal = refusals.say(refused)
        give_up(f"{refusal.says} {refusal.would_do}")


def _serve(listener: socket.socket, path: Path, demo: bool, network: Network, copies: Path, browser: bool) -> None:
    devices = _device_port(network, demo)
    if demo:
        for old in (path, *(path.with_name(path.name + end) for end in ("-wal", "-shm"))):
            old.unlink(missing_ok=True)
    store = open_store(path)
    sys.setswitchinterval(_TURN)
    _keep_freed_memory()
    Connection.most = _most_connections()
    if network.closed and not (entry := Entry(store)).has_passphrase:
        try:
            _ask_for_passphrase(entry)
        except SystemExit:
            store.engine.dispose()
            raise
    _announce(store, demo, network)
    if browser and _has_screen():
        Thread(target=webbrowser.open, args=(f"http://127.0.0.1:{network.port}/",), daemon=True).start()
    starting = Starting(
        lambda: _application(store, demo, network, devices, copies), _hosts(network), network.closed,
        lambda: setattr(server, "should_exit", True),
    )  # fmt: skip
    server = _Server(
        uvicorn.Config(
            starting, http=Connection, log_level="warning", timeout_graceful_shutdown=_LAST_ANSWERS,
            h11_max_incomplete_event_size=65536, backlog=_AT_ONCE, ssl_certfile=network.certificate,
            ssl_keyfile=network.key, proxy_headers=bool(network.behind), forwarded_allow_ips=list(_THIS_MACHINE),
        )
    )  # fmt: skip
    for name in ("uvicorn.error", "valleywind", "asyncio"):
        logging.getLogger(name).addFilter(Seldom())
    with suppress(KeyboardInterrupt):  # raised again once the server has ended in order
        server.run(sockets=[listener])
    if starting.error is not None:
        raise starting.error
    # Work in a thread cannot be broken off; what is written is written, so nobody is kept waiting for the rest.
    store.engine.dispose()
    sys.stdout.flush()
    os._exit(0)


def _application(store: Store, demo: bool, network: Network, devices: socket.socket | None, copies: Path) -> FastAPI:
    # Read here: neither whoever gets a sentence in place of the shop nor the page itself waits for all of it.
    from valleywind.api.app import make_app

    if demo:
        with store.session() as session:
            harrowfold.load(session, with_year=True)
    address = network.address if network.reached else ""
    app = make_app(
        store, demo, _hosts(network), devices, network.closed, address, network.device_keys, None if demo else copies
    )
    gc.freeze()  # what is loaded by now stays: no collection looks through it
    gc.set_threshold(_OBJECTS_AN_ASK)
    gc.enable()
    return app


def _has_screen() -> bool:
    """Whether a browser can open a window: elsewhere one for the terminal would start in its stead."""
    return sys.platform in ("darwin", "win32") or bool(os.environ.get("DISPLAY") or os.environ.get("WAYLAND_DISPLAY"))


class _Server(uvicorn.Server):
    """Ended, it tells the work in hand and whoever listens, so that no answer is cut off in the middle."""

    async def shutdown(self, sockets: list[socket.socket] | None = None) -> None:
        if (app := self.config.app.app) is not None:  # type: ignore[union-attr]
            app.state.turns.ending.set()
        await super().shutdown(sockets)


def _most_connections() -> int:
    """As many as are wanted, and half of what the system allows of files and connections at most."""
    try:
        from resource import RLIMIT_NOFILE, getrlimit
    except ImportError:  # a system without such limits
        return MOST_CONNECTIONS
    return min(MOST_CONNECTIONS, getrlimit(RLIMIT_NOFILE)[0] // 2)


def _hosts(network: Network) -> Hosts:
    """The names that a page may call this server by."""
    host = network.host
    everywhere = host in _EVERYWHERE
    own = socket.gethostname().lower()
    names = {host.lower(), own, f"{own}.local"} if not _is_loopback(host) else set()
    names |= {name} if (name := urlsplit(network.behind).hostname) else set()
    return Hosts(names, any_address=everywhere)


def _is_loopback(host: str) -> bool:
    return host in ("localhost", "::1") or host.startswith("127.")


def _path(data: Path | None, demo: bool) -> Path:
    """The file to serve. The demo has a file name of its own, so that it never replaces a person's shop."""
    if demo:
        folder = data or _DEMO_FOLDER
        if folder.suffix == ".sqlite":
            give_up(f"--demo makes a file of its own: name a folder, not {folder}.")
        return folder.absolute() / _DEMO_FILE
    return place_of(data)


def _device_port(network: Network, demo: bool) -> socket.socket | None:
    """Where devices connect. The demo has a port for them: the usual one, or where that is taken, any."""
    if network.devices is not None:
        return listen(network.devices_host, network.devices, "--devices")
    if not demo:
        return None
    try:
        return _listener(network.devices_host, USUAL_DEVICE_PORT)
    except OSError:
        return listen(network.devices_host, 0, "--devices")


def listen(host: str, port: int, option: str = "--port") -> socket.socket:
    """Take calls at an address; without it the program ends with a sentence that names the option."""
    if not 0 <= port <= _LAST_PORT:
        give_up(f"There is no port {port}. Name one from 1 to {_LAST_PORT} with {option}.")
    try:
        return _listener(host, port)
    except OSError as error:
        give_up(f"Port {port} on {host} cannot be used: {error.strerror}. Name another with {option}.")


def _listener(host: str, port: int) -> socket.socket:
    """Raises OSError."""
    # Only where the protocol is named does asyncio send at once what it has to send: else the second part of an answer
    # waits 40 ms on every connection that is kept.
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    listener = socket.socket(family, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
        listener.listen(128)  # calls wait from here on, so that "Ready" is true
    except OSError:
        listener.close()
        raise
    return listener


def _announce(store: Store, demo: bool, network: Network) -> None:
    typer.echo(f"{harrowfold.NAME + ', a fresh demo shop' if demo else 'Your shop'}: {store.path}")
    if network.reached and network.open:
        typer.echo(words.OPEN)
    if network.closed and not network.certificate and not network.behind.startswith("https"):
        typer.echo(words.IN_THE_CLEAR)
    typer.echo(f"Ready: {network.address}/   (stop with Ctrl+C)")


def _own_address() -> str:
    """The address by which other machines reach this one, as far as it can be told without asking anybody."""
    with suppress(OSError), socket.socket(socket.AF_INET, socket.SOCK_DGRAM) as probe:
        probe.connect(("192.0.2.1", 9))  # an address kept for examples: nothing is sent
        return str(probe.getsockname()[0])
    return "127.0.0.1"


def _keep_freed_memory() -> None:
    """Let worker threads share the main thread's memory.

    glibc otherwise hands the freed arrays of a worker thread back at once, and every ask fetches them anew: 105 ms
    instead of 64. Where there is no glibc there is nothing to do.
    """
    with suppress(AttributeError, OSError, TypeError):
        ctypes.CDLL(None).mallopt(_M_ARENA_MAX, 1)
