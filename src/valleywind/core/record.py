"""Records as they are typed: every field is text, has a reader of its own, and is refused by its own name."""

from collections.abc import Callable
from dataclasses import field, fields
from functools import partial
from typing import Any

from valleywind.core.refusal import Refusals

Reader = Callable[[str, str], Any]
"""Reads a field's text, given the field's name for what it refuses. Raises Refusal."""


def typed_field(read: Reader, usual: str = "") -> Any:
    """A field of a dataclass that holds a record as typed. usual: what stands there before anything is typed."""
    return field(default=usual, metadata={"read": read, "usual": usual})


def or_none(read: Reader) -> Reader:
    """The same reader, which takes an empty field for what is not known."""
    return lambda text, name: read(text, name) if text.strip() else None


def read_fields(record: Any) -> dict[str, Any]:
    """Every field of a record that was declared by `typed`, read. One that was emptied is read as usual.

    Raises Refusal at the first field that cannot be used, with those at all others.
    """
    refusals, read = Refusals(), {}
    for one in fields(record):
        if "read" in one.metadata:
            text, reader = getattr(record, one.name).strip() or one.metadata["usual"], one.metadata["read"]
            read[one.name] = refusals.read(partial(reader, text, one.name), None)
    refusals.raise_all()
    return read
