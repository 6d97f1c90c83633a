"""What is wrong with the shop's file, and what to do, at the start and while it is served."""

from pathlib import Path

from valleywind.shop.file_trouble import Trouble
from valleywind.wording.refusal_form import Notice

_SAYS = {
    Trouble.NOT_A_SHOP: Notice("{path} is not a shop’s file.", "It was left as it is. Name another with --data."),
    Trouble.FOREIGN: Notice(
        "{path} belongs to another program.", "It was left as it is. Name another file or folder with --data."
    ),
    Trouble.NEWER: Notice("{path} was made by a newer Valleywind.", "It was left as it is. Start the newer one."),
    Trouble.DAMAGED: Notice(
        "{path} is damaged.", "Put back a copy of it. A copy from before an upgrade lies beside it, if there was one."
    ),
    Trouble.INCOMPLETE: Notice("{path} lacks a part of a shop.", "Put back a copy of it."),
    Trouble.READ_ONLY: Notice(
        "{path} cannot be written.", "Allow writing to it and to its folder, then save once more. Nothing was saved."
    ),
    Trouble.FULL: Notice("The disk with {path} is full.", "Make room on it, then save once more. Nothing was saved."),
    Trouble.LOCKED: Notice(
        "Another program is using {path}.", "Close the other one, then try once more. Nothing was saved."
    ),
    Trouble.GONE: Notice(
        "{path} was deleted, moved or replaced while it was open.",
        "Put it back and start Valleywind again. Nothing was saved.",
    ),
    Trouble.IN_USE: Notice("Another Valleywind is serving {path} already.", "Use that one, or stop it first."),
    Trouble.NO_FOLDER: Notice("{path} cannot be opened: {detail}.", "Name another folder with --data."),
    Trouble.UNREADABLE: Notice(
        "{path} cannot be read or written now.", "Look whether its disk is there, then try once more."
    ),
}


def say(trouble: Trouble, path: Path, detail: str = "") -> Notice:
    """The trouble in words."""
    words = _SAYS[trouble]
    return Notice(words.says.format(path=path, detail=detail), words.would_do)
