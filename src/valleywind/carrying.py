"""A shop carried as a file, at the terminal: written out while it is served or not, taken in while it is not."""

import json
import tempfile
from collections.abc import Iterator, Mapping
from contextlib import contextmanager
from pathlib import Path

import typer

from valleywind.app import file_comparison, file_export, file_import
from valleywind.app.file_comparison import Beside, Choice, Item
from valleywind.ending import give_up, saying_why
from valleywind.formats import shop_file
from valleywind.formats.shop_file import FileShop
from valleywind.shop import copies as files
from valleywind.shop import jobs, machines, rack
from valleywind.shop.store import Store, claimed, open_store, place_of
from valleywind.wording import copies as copy_words
from valleywind.wording import file_comparison as words
from valleywind.wording.numbers import Units


def export(target: Path, data: Path | None, machine: str, job: int | None, family: str) -> None:
    """Write a shop, one machine of it, one job or the wheels of a family to a file. Exits with code 2 and a sentence
    where that cannot be done."""
    path = place_of(data)
    if not path.is_file():
        give_up(copy_words.NO_SHOP.format(path=path))
    if target.is_dir():
        give_up(copy_words.NAME_A_FILE.format(path=target))
    if target.exists() and target.samefile(path):
        give_up(copy_words.THE_SHOP_ITSELF)
    with saying_why(), _a_copy(path) as store, store.reading() as session:
        part = file_export.Part(
            machines.machine(session, machine) if machine else None, jobs.job(session, job) if job else None,
            rack.family_named(session, family) if family else None,
        )  # fmt: skip
        shop, photos = file_export.file_of(session, part)
    making = target.with_name(f"{target.name}.new")
    try:
        making.write_bytes(shop_file.write(shop, photos))
        making.replace(target)
    except OSError as error:
        making.unlink(missing_ok=True)
        give_up(words.CANNOT_WRITE.format(path=target, why=error.strerror or error))
    typer.echo(words.written(target.name, _counts(shop)))


@contextmanager
def _a_copy(path: Path) -> Iterator[Store]:
    """A copy of a shop, opened: what is only read is not brought up to date, and may be served meanwhile. An empty shop
    where there is none."""
    with tempfile.TemporaryDirectory() as folder:
        copy = Path(folder) / "shop.sqlite"
        if path.is_file():
            files.copy_to(path, copy)
        with _opened(copy) as store:
            yield store


@contextmanager
def _opened(path: Path) -> Iterator[Store]:
    store = open_store(path)
    try:
        yield store
    finally:
        store.engine.dispose()


def _counts(shop: FileShop) -> dict[str, int]:
    return {
        "family": len(shop.families), "machine": len(shop.machines), "wheel": sum(w.count for w in shop.wheels),
        "cutter": len(shop.cutters), "bar": len(shop.bars), "job": len(shop.jobs), "log": len(shop.log),
        "task": len(shop.tasks),
    }  # fmt: skip


def take_in(source: Path, data: Path | None, apply: bool, different: Choice, as_json: bool) -> None:
    """Say what a file has beside a shop; apply: take it in, into a new shop where there is none. different: what is
    done with what is in both and not the same. Exits with code 2 and a sentence where that cannot be done; then nothing
    is changed."""
    try:
        with source.open("rb") as file:
            packed = file.read(shop_file.MOST_BYTES + 1)
    except OSError as error:
        give_up(words.CANNOT_READ.format(path=source, why=error.strerror or error))
    path, taken = place_of(data), None
    with saying_why():
        theirs, photos = shop_file.read(packed)
        if apply:
            path.parent.mkdir(parents=True, exist_ok=True)
            with claimed(path), _opened(path) as store:
                items = _looked(store, theirs)
                chosen = {one.key: different for one in items if one.standing is Beside.DIFFERENT}
                with store.session() as session:
                    taken = file_import.take_in(session, theirs, photos, chosen)
        else:
            with _a_copy(path) as store:
                items = _looked(store, theirs)
    _say(items, taken, as_json)


def _looked(store: Store, theirs: FileShop) -> list[Item]:
    with store.reading() as session:
        return file_comparison.look(session, theirs)


def _say(items: list[Item], taken: Mapping[str, int] | None, as_json: bool) -> None:
    lines = [(words.item_text(one.kind, one.about, Units.MM), one.standing.value) for one in items]
    if as_json:
        things = [{"what": name, "kind": one.kind, "standing": standing}
                  for one, (name, standing) in zip(items, lines, strict=True)]  # fmt: skip
        typer.echo(json.dumps({"things": things, "taken": taken}, ensure_ascii=False))
        return
    for name, standing in lines:
        if standing != "same":
            typer.echo(f"{words.STANDING[standing]}: {name}")
    typer.echo(f"{words.summary_of_look([standing for _, standing in lines])}.")
    typer.echo(words.import_text(taken) if taken is not None else words.ONLY_LOOKED)
