"""Tables handed out as files."""

from collections.abc import Iterator, Sequence
from contextlib import suppress
from itertools import islice
from typing import Any

from fastapi import Response
from fastapi.responses import StreamingResponse

from valleywind.api.bounds import each_step
from valleywind.core.interrupt import Interruption
from valleywind.formats.tables import csv_rows, csv_text

CSV: dict[int | str, dict[str, Any]] = {200: {"content": {"text/csv": {"schema": {"type": "string"}}}}}
"""How such an answer is described."""


def csv_response(text: str, name: str) -> Response:
    """A CSV file to be saved under `name`, marked as UTF-8 for spreadsheets."""
    return Response(
        "\ufeff" + text, media_type="text/csv", headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )


def csv_in_pieces(head: Sequence[str], rows: Iterator[Sequence[object]], name: str) -> StreamingResponse:
    """The same of rows that take long: each is sent when it is known. Where one cannot be worked out the answer breaks
    off, so that nobody takes a part for the whole."""
    first = list(islice(rows, 1))  # what is refused is refused here, before the answer has begun

    def pieces() -> Iterator[str]:
        yield "\ufeff" + csv_text(head, first)
        with suppress(Interruption):  # nobody waits any more
            for row in each_step(rows):
                yield csv_rows([row])

    return StreamingResponse(
        pieces(), media_type="text/csv", headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )
