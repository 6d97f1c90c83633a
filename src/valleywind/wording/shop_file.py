"""What is wrong with the shop's file, and what to do, at the start and while it is served."""

from pathlib import Path

from valleywind.shop.file_trouble import Trouble
from valleywind.wording.refusal_form import Said

_SAYS = {
    Trouble.NOT_A_SHOP: Said("{path} is not a shop’s file.", "It was left as it is. Name another with --data."),
    Trouble.FOREIGN: Said(
        "{path} belongs to another program.", "It was left as it is. Name another file or folder with --data."
    ),
    Trouble.NEWER: Said("{path} was made by a newer Valleywind.", "It was left as it is. Start the newer one."),
    Trouble.DAMAGED: Said(
        "{path} is damaged.", "Put back a copy of it. A copy from before an upgrade lies beside it, if there was one."
    ),
    Trouble.INCOMPLETE: Said("{path} lacks a part of a shop.", "Put back a copy of it."),
    Trouble.READ_ONLY: Said(
        "{path} cannot be written.", "Allow writing to it and to its folder, then save once more. Nothing was saved."
    ),
    Trouble.FULL: Said("The disk with {path} is full.", "Make room on it, then save once more. Nothing was saved."),
    Trouble.LOCKED: Said(
        "Another program is using {path}.", "Close the other one, then try once more. Nothing was saved."
    ),
    Trouble.GONE: Said(
        "{path} was deleted, moved or replaced while it was open.",
        "Put it back and start Valleywind again. Nothing was saved.",
    ),
    Trouble.IN_USE: Said("Another Valleywind is serving {path} already.", "Use that one, or stop it first."),
    Trouble.NO_FOLDER: Said("{path} cannot be opened: {detail}.", "Name another folder with --data."),
    Trouble.UNREADABLE: Said(
        "{path} cannot be read or written now.", "Look whether its disk is there, then try once more."
    ),
}


def say(trouble: Trouble, path: Path, detail: str = "") -> Said:
    """The trouble in words."""
    words = _SAYS[trouble]
    return Said(words.says.format(path=path, detail=detail), words.would_do)
