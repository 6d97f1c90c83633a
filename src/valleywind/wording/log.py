"""Entries of the log in words."""

from valleywind.shop.models import LogKind, LogRow, Outcome
from valleywind.wording import changes
from valleywind.wording.changes import set_up_text

_OUTCOMES = {
    Outcome.RAN_FREE: "ran free",
    Outcome.TIGHT: "tight",
    Outcome.SCRAPPED: "scrapped",
}


def outcome(value: str) -> str:
    """`ran free`; empty where nothing was said."""
    return _OUTCOMES[Outcome(value)] if value in list(Outcome) else ""


def sentence(row: LogRow) -> str:
    """What happened, in one sentence."""
    if row.kind == LogKind.CHANGE.value:
        said = changes.change(row.code, row.about)
        return f"{said.removesuffix('.')}, for {row.ask}." if row.ask else said
    if row.kind == LogKind.NOTE.value:
        return row.note
    work = f"{row.ask} on {row.machine}" if row.ask else row.machine
    came = f": {outcome(row.outcome)}" if row.outcome else ""
    train = f", with {set_up_text(row.train)}" if row.train else ""
    note = f" {row.note}" if row.note else ""
    return f"Done: {work}{train}{came}.{note}"
