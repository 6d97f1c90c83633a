"""The passphrase of a shop that is not being served, set at the terminal."""

import sys
from pathlib import Path

import typer

from valleywind.app.entry import Entry
from valleywind.ending import saying_why
from valleywind.shop.store import claimed, open_store, place_of
from valleywind.wording import entry as words


def change_passphrase(data: Path | None, remove: bool) -> None:
    """Set it to what is typed, twice at a terminal, else the first line of the input; or take it back. Exits with code
    2 and a sentence where the file or the passphrase cannot be used."""
    path = place_of(data)
    with saying_why(), claimed(path):
        store = open_store(path)
        entry = Entry(store)
        if remove:
            entry.remove_passphrase()
            typer.echo(words.REMOVED)
        else:
            entry.set_passphrase(_typed())
            typer.echo(words.SET)
        store.engine.dispose()


def _typed() -> str:
    if not sys.stdin.isatty():
        return sys.stdin.readline().rstrip("\r\n")
    typed: str = typer.prompt(words.NEW_PASSPHRASE, hide_input=True, confirmation_prompt=True)
    return typed
