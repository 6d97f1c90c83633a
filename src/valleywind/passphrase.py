"""The passphrase of a shop that is not being served, set at the terminal."""

import sys
from pathlib import Path
from typing import NoReturn

import typer

from valleywind.app.entry import Entry
from valleywind.core.refusal import Refused
from valleywind.shop.file_trouble import ShopFileError
from valleywind.shop.store import claimed, open_store, place_of
from valleywind.wording import entry as words
from valleywind.wording import refusals, shop_file


def change_passphrase(data: Path | None, remove: bool) -> None:
    """Set it to what is typed, twice at a terminal, else the first line of the input; or take it back. Exits with code
    2 and a sentence where the file or the passphrase cannot be used."""
    path = place_of(data)
    try:
        with claimed(path):
            store = open_store(path)
            entry = Entry(store)
            if remove:
                entry.remove_passphrase()
                typer.echo(words.REMOVED)
            else:
                entry.set_passphrase(_typed())
                typer.echo(words.SET)
            store.engine.dispose()
    except ShopFileError as error:
        said = shop_file.say(error.trouble, error.path, error.detail)
        _give_up(f"{said.says} {said.would_do}")
    except Refused as refused:
        sentence = refusals.say(refused)
        _give_up(f"{sentence.says} {sentence.would_do}")


def _typed() -> str:
    if not sys.stdin.isatty():
        return sys.stdin.readline().rstrip("\r\n")
    typed: str = typer.prompt(words.NEW_PASSPHRASE, hide_input=True, confirmation_prompt=True)
    return typed


def _give_up(sentence: str) -> NoReturn:
    typer.echo(sentence, err=True)
    sys.exit(2)
