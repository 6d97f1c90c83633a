"""How a command that cannot do its work ends: a sentence, and exit code 2."""

import sys
from collections.abc import Iterator
from contextlib import contextmanager
from typing import NoReturn

import typer

from valleywind.core.refusal import Refusal
from valleywind.shop.file_trouble import ShopFileError
from valleywind.wording import refusals, shop_file


def give_up(sentence: str) -> NoReturn:
    """End with this sentence."""
    typer.echo(sentence, err=True)
    sys.exit(2)


@contextmanager
def saying_why() -> Iterator[None]:
    """What is refused in this block, or wrong with a shop's file, ends the command with its sentence."""
    try:
        yield
    except ShopFileError as error:
        refusal = shop_file.say(error.trouble, error.path, error.detail)
        give_up(f"{refusal.says} {refusal.would_do}")
    except Refusal as refused:
        refusal = refusals.say(refused)
        give_up(f"{refusal.says} {refusal.would_do}")
