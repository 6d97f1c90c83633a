"""Copies of a shop at the terminal: made while it is served or not, put back while it is not."""

from datetime import datetime
from pathlib import Path

import typer

from valleywind.app import copies
from valleywind.ending import give_up, saying_why
from valleywind.shop import copies as files
from valleywind.shop.store import claimed, place_of
from valleywind.wording import copies as words


def back_up(target: Path, data: Path | None) -> None:
    """Copy a shop to a file. Exits with code 2 and a sentence where that cannot be done."""
    path = place_of(data)
    if not path.is_file():
        give_up(words.NO_SHOP.format(path=path))
    if target.is_dir():
        give_up(words.NAME_A_FILE.format(path=target))
    if target.exists() and target.samefile(path):
        give_up(words.THE_SHOP_ITSELF)
    with saying_why():
        files.copy_to(path, target)
        typer.echo(words.copied(target, files.holds(target)))


def restore(copy: Path, data: Path | None) -> None:
    """Put a copy in the place of a shop that is not served; what was there is kept. Exits with code 2 and a sentence
    where that cannot be done; then the shop is as it was."""
    path = place_of(data)
    if copy.exists() and path.exists() and copy.samefile(path):
        give_up(words.THE_SHOP_ITSELF)
    with saying_why():
        held = files.holds(copy)
        kept_at = copies.aside(path, path.parent / copies.FOLDER, datetime.now().astimezone())
        with claimed(path):
            kept = files.put_back(copy, path, kept_at)
        typer.echo(words.restored(copy, held, kept_at if kept else None))
