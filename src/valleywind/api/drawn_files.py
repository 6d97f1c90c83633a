"""Drawings at true size and sheets handed out as files. What writes PDF is loaded when one is first asked for: it takes
half a second of the start."""

from collections.abc import Iterable, Sequence
from typing import Any, Literal

from fastapi import Response

from valleywind.formats.on_paper import Drawn
from valleywind.formats.qr import Mark
from valleywind.formats.vector import Picture, to_dxf, to_svg
from valleywind.wording.sheet import Sheet

Kind = Literal["pdf", "svg", "dxf"]
BINARY = {"type": "string", "format": "binary"}
"""How a file that is no text is described."""
_MEDIA = {"pdf": "application/pdf", "svg": "image/svg+xml", "dxf": "image/vnd.dxf", "zip": "application/zip"}


def described(kind: Kind) -> dict[int | str, dict[str, Any]]:
    """How the answer with such a file is described."""
    return {200: {"content": {_MEDIA[kind]: {"schema": BINARY if kind == "pdf" else {"type": "string"}}}}}


def drawing_response(picture: Picture, name: str, kind: Kind, table: Iterable[tuple[str, str]] = ()) -> Response:
    """The drawing as a file to be saved; a PDF with a table of figures behind it, where there is one."""
    match kind:
        case "pdf":
            from valleywind.formats.vector_pdf import to_pdf

            content = to_pdf(picture, table=table)
        case "svg":
            content = to_svg(picture).encode()
        case "dxf":
            content = to_dxf(picture)
    return attached(content, kind, name)


def set_up_sheet(written: Sheet, drawn: Sequence[Drawn], name: str, mark: Mark) -> Response:
    """A set-up sheet as pages of A4, with at least one drawing."""
    from valleywind.formats.sheet_pdf import sheet_pdf

    return attached(sheet_pdf(written, drawn, mark), "pdf", name)


def attached(content: bytes, kind: Kind | Literal["zip"], name: str) -> Response:
    """A file to be saved; what a file name cannot bear is replaced or left out of `name`."""
    plain = name.replace(" ", "-").replace("/", "_").encode("ascii", "ignore").decode()
    headers = {"Content-Disposition": f'attachment; filename="{plain}.{kind}"'}
    return Response(content, media_type=_MEDIA[kind], headers=headers)
