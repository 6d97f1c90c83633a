"""Labels for wheels, cutters and boxes, at true size."""

from typing import Annotated
from urllib.parse import urlencode

from fastapi import APIRouter, Query, Request, Response
from sqlalchemy.orm import Session

from valleywind.api.access import LONG, InSession
from valleywind.api.drawn_files import attached, described
from valleywind.api.pages import address_for_others
from valleywind.api.problems import RESPONSES
from valleywind.core.refusal import Refusal
from valleywind.core.units import Unit, parse_length
from valleywind.formats import qr
from valleywind.shop import machines, rack, stores
from valleywind.wording.rack import labels as words

router = APIRouter(prefix="/rack", tags=["rack"], responses=RESPONSES)

_MOST = 500
Number = Annotated[int, Query(ge=1, le=2**53)]
Size = Annotated[str, Query(max_length=40, description="Of a label", examples=["62 mm"])]


@router.get("/labels.pdf", dependencies=[LONG], response_class=Response, responses=described("pdf"))
def get_labels(
    request: Request,
    session: InSession,
    wheels: Annotated[list[Number], Query(max_length=_MOST, description="Records of wheels")] = [],  # noqa: B006
    cutters: Annotated[list[Number], Query(max_length=_MOST, description="Records of cutters")] = [],  # noqa: B006
    places: Annotated[
        list[Annotated[str, Query(max_length=200)]], Query(max_length=_MOST, description="Boxes, by their names")
    ] = [],  # noqa: B006
    width: Size = "62 mm",
    height: Size = "29 mm",
    code: Annotated[bool, Query(description="With a QR code that opens it, where others reach this server")] = False,
) -> Response:
    """Labels at true size, as many as go on each page of A4."""
    from valleywind.formats.labels_pdf import Label, labels_pdf  # loaded when one is first asked for

    base = address_for_others(request) if code else ""
    if code and not base:
        raise Refusal("not_on_the_network", "code", None)
    labels = [
        Label(head, tuple(lines), qr.modules(base + path) if code else ())
        for head, lines, path in _label_fields(session, wheels, cutters, places)
    ]
    wide, high = (float(parse_length(text, Unit.MM, name).mm) for text, name in ((width, "width"), (height, "height")))
    return attached(labels_pdf(labels, wide, high), "pdf", "labels")


def _label_fields(
    session: Session, wheels: list[int], cutters: list[int], places: list[str]
) -> list[tuple[str, list[str], str]]:
    """What stands on each label, and the page that it is of."""
    names = {row.id: row.name for row in machines.every(session)}
    fields = []
    for number in wheels:
        row = rack.wheel(session, number)
        family = machines.family(row.family) if row.family else None
        lines = words.of_wheel(family, row.family.name if row.family else "", names.get(row.machine_id or 0, ""))
        fields.append((str(row.teeth), lines, f"/rack?wheel={number}"))
    for number in cutters:
        kept = stores.cutter_row(session, number)
        head, lines = words.of_cutter(stores.cutter(kept), kept.place)
        fields.append((head, lines, f"/rack/stores?cutter={number}"))
    for place in places:
        held = [(row.teeth, row.count) for row in rack.briefly(session) if row.place == place and row.count]
        fields.append((place, words.of_box(held), f"/rack?{urlencode({'text': place})}"))
    return fields
