"""The one file a shop lives in: where it is, opening it, bringing it up to date."""

import os
from collections.abc import Iterator
from contextlib import contextmanager
from dataclasses import dataclass
from errno import EINVAL
from pathlib import Path
from sqlite3 import Connection
from typing import Any

from alembic import command
from alembic.config import Config
from alembic.util import CommandError
from platformdirs import user_data_path
from sqlalchemy import Engine, create_engine, event
from sqlalchemy.orm import Session

FILE_NAME = "shop.sqlite"
PLACE_VARIABLE = "VALLEYWIND_DATA"
_MAGIC = b"SQLite format 3\0"


def usual_place() -> Path:
    """A person's own shop: $VALLEYWIND_DATA, a folder or a .sqlite file, else the platform's data folder."""
    told = os.environ.get(PLACE_VARIABLE)
    place = Path(told).expanduser() if told else user_data_path("valleywind", appauthor=False)
    return place if place.suffix == ".sqlite" else place / FILE_NAME


@dataclass(frozen=True)
class Store:
    """An open shop file."""

    path: Path
    engine: Engine

    @contextmanager
    def session(self) -> Iterator[Session]:
        """A session that is committed when the block ends well and rolled back when it does not."""
        with Session(self.engine) as session, session.begin():
            yield session


def open_store(path: Path) -> Store:
    """Open the shop at `path`, making or migrating the file as needed.

    Raises OSError, and leaves the file as it is, where it is no shop's file or one of a newer Valleywind.
    """
    path.parent.mkdir(parents=True, exist_ok=True)
    if path.exists() and path.stat().st_size and not _starts_with(path, _MAGIC):
        raise OSError(EINVAL, "it is not a shop’s file")
    engine = create_engine(f"sqlite:///{path}")
    event.listen(engine, "connect", _set_up)
    try:
        migrate(engine)
    except CommandError as error:
        raise OSError(EINVAL, "it was made by a newer Valleywind") from error
    return Store(path, engine)


def _starts_with(path: Path, start: bytes) -> bool:
    with path.open("rb") as file:
        return file.read(len(start)) == start


def _set_up(connection: Connection, _record: Any) -> None:
    cursor = connection.cursor()
    cursor.execute("PRAGMA journal_mode=WAL")
    cursor.execute("PRAGMA foreign_keys=ON")
    cursor.execute("PRAGMA busy_timeout=5000")
    cursor.close()


def migrate(engine: Engine) -> None:
    """Bring the tables up to the newest revision."""
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    with engine.connect() as connection:
        # A table that others point to can only be rebuilt while nothing watches them; off before a transaction begins.
        connection.exec_driver_sql("PRAGMA foreign_keys=OFF")
        connection.commit()
        with connection.begin():
            config.attributes["connection"] = connection
            command.upgrade(config, "head")
        connection.exec_driver_sql("PRAGMA foreign_keys=ON")
