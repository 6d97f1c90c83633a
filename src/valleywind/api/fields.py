"""Fields of records as they are typed."""

from typing import Annotated

from fastapi import Body, Query
from pydantic import BeforeValidator, Field

from valleywind.formats.photograph import small

Typed = Annotated[str, Field(max_length=40)]
LongTyped = Annotated[str, Field(max_length=600)]
# The same in an address.
TypedQuery = Annotated[str, Query(max_length=40, description="As typed; empty where nothing is said")]
# A whole number as typed; an older shop kept them as numbers.
Whole = Annotated[str, BeforeValidator(lambda v: str(v) if type(v) is int else v), Field(max_length=40)]
# As large as a number of a record can be kept.
Number = Annotated[int, Field(ge=0, le=2**53)]

PutOnFor = Annotated[str, Field(description="What it was put on for, as the log keeps it", max_length=200)]


def small_picture(
    photo: Annotated[bytes, Body(media_type="image/*", description="A picture file: JPEG, PNG, WebP")],
) -> bytes:
    """A photograph that is sent, made small. Raises Refusal as `photograph.small` does."""
    return small(photo)
