"""Bringing an older file up to date."""

import re
from pathlib import Path

from alembic import command
from alembic.config import Config
from alembic.script import ScriptDirectory
from alembic.util import CommandError
from sqlalchemy import Connection

from valleywind.shop.file_trouble import ShopFileError, Trouble


def upgrade(connection: Connection) -> None:
    """Bring the tables up to the newest revision, in the transaction that is open."""
    config = _config()
    config.attributes["connection"] = connection
    command.upgrade(config, "head")


def check_known(revision: str, path: Path) -> None:
    """Raises ShopFileError `FOREIGN` for a revision that is another program's, `NEWER` for a newer one of ours."""
    if not re.fullmatch(r"\d{4}", revision):
        raise ShopFileError(Trouble.FOREIGN, path)
    try:
        ScriptDirectory.from_config(_config()).get_revisions(revision)
    except CommandError as error:
        raise ShopFileError(Trouble.NEWER, path) from error


def _config() -> Config:
    config = Config()
    config.set_main_option("script_location", str(Path(__file__).parent / "migrations"))
    return config
