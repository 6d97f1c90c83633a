"""What is said of copies of a shop."""

from datetime import datetime
from pathlib import Path

from valleywind.shop.copies import Holds

NO_SHOP = "There is no shop at {path}. Name one with --data."
NAME_A_FILE = "{path} is a folder. Name a file in it, such as shop-copy.sqlite."
THE_SHOP_ITSELF = "That is the shop’s own file. Name another."


def count_text(number: int, what: str) -> str:
    """`1 job`, `3 jobs`, `no jobs`."""
    return f"{number or 'no'} {what}{'' if number == 1 else 's'}"


def holds_text(holds: Holds) -> str:
    """`3 machines, 120 wheels, no jobs`."""
    parts = ((holds.machines, "machine"), (holds.wheels, "wheel"), (holds.jobs, "job"))
    return ", ".join(count_text(number, what) for number, what in parts)


def copied(target: Path, holds: Holds) -> str:
    return f"Copied to {target}: {holds_text(holds)}."


def restored(copy: Path, holds: Holds, kept: Path | None) -> str:
    before = f" What was there is kept: {kept}" if kept else ""
    return f"Restored from {copy}: {holds_text(holds)}.{before}"


def good_copy(copy: Path, made: datetime) -> str:
    """What may be done where the shop’s file is damaged."""
    return f"A good copy was made on {made:%-d %b %Y at %H:%M}. Put it back: valleywind restore '{copy}'"
