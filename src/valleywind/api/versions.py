"""Two people at one record: whoever saves second is told, and chooses."""

from collections.abc import Mapping
from typing import Annotated, Any

from pydantic import BaseModel, Field

from valleywind.api.problems import Side, Stale

Version = Annotated[
    int | None,
    Field(ge=0, le=2**53, description="The version that was typed over; leave it out to change whatever is there"),
]


def check_version(seen: int | None, now: int, yours: BaseModel, theirs: BaseModel, name: str = "record") -> None:
    """Raises Stale where the record is not any more what was typed over and differs from what is to be saved."""
    if seen is not None and seen != now and (sides := differing(yours.model_dump(), theirs.model_dump())):
        raise Stale(sides, {name: now})


def check_text(seen: str | None, field: str, yours: str, theirs: str) -> None:
    """The same for a single text that has no version of its own: what was seen against what is there."""
    if seen is not None and seen != theirs != yours:
        raise Stale([Side(field=field, yours=yours, theirs=theirs)], {})


def differing(yours: Mapping[str, Any], theirs: Mapping[str, Any]) -> list[Side]:
    """The fields in which two records differ, parts of records with their part's name before them."""
    sides = []
    for field in yours.keys() | theirs.keys():
        mine, other = yours.get(field), theirs.get(field)
        if field == "version" or mine == other:
            continue
        if isinstance(mine, dict) or isinstance(other, dict):
            parts = differing(mine or {}, other or {})
            sides += [Side(field=f"{field}.{p.field}", yours=p.yours, theirs=p.theirs) for p in parts]
        else:
            sides.append(Side(field=field, yours=as_text(mine), theirs=as_text(other)))
    return sorted(sides, key=lambda s: s.field)


def as_text(value: Any) -> str:
    """A field of a record as it is shown to be chosen from; empty for None, `0` for 0."""
    if isinstance(value, list):
        return "; ".join(", ".join(map(str, v.values())) if isinstance(v, dict) else str(v) for v in value)
    return "" if value is None else str(value)
