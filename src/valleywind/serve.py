"""Start the server: open the shop's file, say where everything is, listen."""

import socket
import sys
from pathlib import Path

import typer
import uvicorn

from valleywind.api.app import SCREENS, make_app
from valleywind.demo import harrowfold
from valleywind.shop.store import FILE_NAME, Store, open_store, usual_place

_DEMO_PLACE = Path(".demo") / "harrowfold.sqlite"


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
    listener = _listen(host, port)
    _announce(store, demo, host, port)
    server = uvicorn.Server(uvicorn.Config(make_app(store, demo), log_level="warning"))
    server.run(sockets=[listener])


def _path(data: Path | None, demo: bool) -> Path:
    if data is None:
        return _DEMO_PLACE.absolute() if demo else usual_place()
    return data if data.suffix == ".sqlite" else data / FILE_NAME


def _listen(host: str, port: int) -> socket.socket:
    listener = socket.socket(socket.AF_INET6 if ":" in host else socket.AF_INET, socket.SOCK_STREAM)
    listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
    try:
        listener.bind((host, port))
    except OSError as error:
        _give_up(f"Port {port} on {host} cannot be had: {error.strerror}. Name another with --port.")
    return listener


def _announce(store: Store, demo: bool, host: str, port: int) -> None:
    shown = f"[{host}]" if ":" in host else host
    typer.echo(f"{harrowfold.NAME + ', a fresh demo shop' if demo else 'Your shop'}: {store.path}")
    typer.echo(f"Ready: http://{shown}:{port}/   (stop with Ctrl+C)")


def _give_up(sentence: str) -> "typer.Exit":
    typer.echo(sentence, err=True)
    sys.exit(1)
