"""Tables handed out as files."""

from typing import Any

from fastapi import Response

CSV: dict[int | str, dict[str, Any]] = {200: {"content": {"text/csv": {}}}}
"""How such an answer is described."""


def csv_response(text: str, name: str) -> Response:
    """A CSV file to be saved under `name`, marked as UTF-8 for spreadsheets."""
    return Response(
        "\ufeff" + text, media_type="text/csv", headers={"Content-Disposition": f'attachment; filename="{name}"'}
    )
