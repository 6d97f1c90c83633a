"""Start the server: open the shop's file, say where everything is, listen."""

import ctypes
import gc
import socket
import sys
from contextlib import suppress
from pathlib import Path
from typing import NoReturn

import typer
import uvicorn

from valleywind.api.app import SCREENS, make_app
from valleywind.demo import harrowfold
from valleywind.shop.store import FILE_NAME, Store, open_store, usual_place

_M_ARENA_MAX = -8
# An ask makes some tens of thousands of small objects, all gone at its end: no need to look for rings among them.
_OBJECTS_AN_ASK = 100_000
_DEMO_FOLDER = Path(".demo")
_DEMO_FILE = "harrowfold.sqlite"


def serve_shop(data: Path | None, demo: bool, host: str, port: int) -> None:
    """Serve until interrupted. Exits with code 1 and a sentence where the file or the port cannot be had."""
    path = _path(data, demo)
    if demo:
        for old in (path, *(path.with_name(path.name + end) for end in ("-wal", "-shm"))):
            old.unlink(missing_ok=True)
    try:
        store = open_store(path)
    except OSError as error:
        _give_up(f"The shop’s file {path} cannot be opened: {error.strerror}. Name another folder with --data.")
    if demo:
        with store.session() as session:
            harrowfold.load(session)
    if not SCREENS.is_dir():
        _give_up("The screens are not built. Run `make setup` first.")
    _keep_freed_memory()
    listener = _listen(host, port)
    _announce(store, demo, host, port)
    gc.freeze()  # what is loaded by now stays: no collection looks through it again
    gc.set_threshold(_OBJECTS_AN_ASK)
    server = uvicorn.Server(uvicorn.Config(make_app(store, demo), log_level="warning"))
    server.run(sockets=[listener])


def _path(data: Path | None, demo: bool) -> Path:
    """The file to serve. The demo has a file name of its own, so that it never replaces a person's shop."""
    if demo:
        folder = data or _DEMO_FOLDER
        if folder.suffix == ".sqlite":
            _give_up(f"--demo makes a file of its own: name a folder, not {folder}.")
        return folder.absolute() / _DEMO_FILE
    if data is None:
        return usual_place()
    return data if data.suffix == ".sqlite" else data / FILE_NAME


def _listen(host: str, port: int) -> socket.socket:
    listener = socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
        listener.listen(128)  # calls wait from here on, so that "Ready" is true
    except OSError as error:
        _give_up(f"Port {port} on {host} cannot be had: {error.strerror}. Name another with --port.")
    return listener


def _announce(store: Store, demo: bool, host: str, port: int) -> None:
    shown = f"[{host}]" if ":" in host else host
    typer.echo(f"{harrowfold.NAME + ', a fresh demo shop' if demo else 'Your shop'}: {store.path}")
    typer.echo(f"Ready: http://{shown}:{port}/   (stop with Ctrl+C)")


def _keep_freed_memory() -> None:
    """Let worker threads share the main thread's memory.

    glibc otherwise hands the freed arrays of a worker thread back at once, and every ask fetches them anew: 105 ms
    instead of 64. Where there is no glibc there is nothing to do.
    """
    with suppress(AttributeError, OSError, TypeError):
        ctypes.CDLL(None).mallopt(_M_ARENA_MAX, 1)


def _give_up(sentence: str) -> NoReturn:
    typer.echo(sentence, err=True)
    sys.exit(1)
