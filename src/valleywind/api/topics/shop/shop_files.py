"""The shop as a file that others can read: written out, looked into beside what is here, taken in."""

import secrets
from collections.abc import Mapping
from threading import Lock
from typing import Annotated

from fastapi import APIRouter, Body, Query, Request, Response
from pydantic import BaseModel, Field

from valleywind.api.access import LONG, InSession, ToWrite
from valleywind.api.drawn_files import BINARY, attached
from valleywind.api.parameters import InUnits
from valleywind.api.problems import RESPONSES
from valleywind.app import file_comparison, file_export, file_import
from valleywind.app.file_comparison import Beside, Choice
from valleywind.core.refusal import Refusal
from valleywind.formats import shop_file
from valleywind.formats.shop_file import FileShop
from valleywind.shop import jobs, machines, rack
from valleywind.wording import file_comparison as words
from valleywind.wording.numbers import Units

router = APIRouter(prefix="/shop/file", tags=["shop"], responses=RESPONSES)

_ZIP = "application/zip"
# What is looked at is held until it is taken in: the newest files, this many; each unpacked no larger than this.
_MOST_HELD, _MOST_BYTES = 2, 100_000_000
_MOST_SHOWN = 500
Held = tuple[FileShop, Mapping[str, bytes]]


class Waiting:
    """Files that were looked at and are not taken in yet, by their passes."""

    def __init__(self) -> None:
        self._files: dict[str, Held] = {}
        self._lock = Lock()

    def put(self, held: Held) -> str:
        """Hold a file; the oldest goes where there are too many."""
        token = secrets.token_urlsafe(16)
        with self._lock:
            self._files[token] = held
            while len(self._files) > _MOST_HELD:
                self._files.pop(next(iter(self._files)))
        return token

    def take(self, token: str) -> Held:
        """A file that is held. Raises Refusal `look_first` (file)."""
        with self._lock:
            held = self._files.get(token)
        if held is None:
            raise Refusal("look_first", "file", None)
        return held


class CarriedChoice(BaseModel):
    choice: Choice = Field(description="What is done with it")
    text: str = Field(examples=["Take theirs"])


class CarriedThing(BaseModel):
    key: str = Field(description="By which a choice names it")
    text: str = Field(examples=["Plover, lathe, 24 wheels"])
    standing: Beside = Field(description="New here, the same, or different from what is here")
    choices: list[CarriedChoice] = Field(description="What may be done with it, the usual one first")


class FileLookOut(BaseModel):
    token: str = Field(description="By which it is taken in")
    made: str = Field(description="When the file was made, UTC")
    text: str = Field(examples=["3 new, 12 the same, 1 different"])
    things: list[CarriedThing] = Field(description="What is new or different, up to 500")
    more: int = Field(description="Further things that are new or different; they are done as usual")


class TakeInIn(BaseModel):
    token: str = Field(max_length=80, description="Of a file that was looked at")
    choices: dict[Annotated[str, Field(max_length=400)], Choice] = Field(
        default={}, max_length=_MOST_SHOWN, description="By the keys of its things; the rest is done as usual"
    )


class FileImportOut(BaseModel):
    text: str = Field(examples=["Taken in: 3 machines, 1 job."])


def _waiting(request: Request) -> Waiting:
    waiting: Waiting = request.app.state.waiting
    return waiting


@router.get(".zip", response_class=Response, responses={200: {"content": {_ZIP: {"schema": BINARY}}}})
def get_shop_as_file(
    session: InSession,
    machine: Annotated[str, Query(max_length=80, description="One machine alone, with its wheels")] = "",
    job: Annotated[int | None, Query(ge=1, le=2**53, description="One job alone")] = None,
    family: Annotated[str, Query(max_length=200, description="The wheels of one family alone")] = "",
) -> Response:
    """The shop, one machine of it, one job or the wheels of one family, as a file that others can read."""
    part = file_export.Part(
        machines.machine(session, machine) if machine else None, jobs.job(session, job) if job else None,
        rack.family_named(session, family) if family else None,
    )  # fmt: skip
    name = machine or (f"job-{job}" if job else family or "shop")
    return attached(shop_file.write(*file_export.file_of(session, part)), "zip", name)


@router.post("/look", dependencies=[LONG])
def look_at_file(
    file: Annotated[bytes, Body(media_type="application/octet-stream", description="A file that was exported")],
    request: Request,
    session: InSession,
    units: InUnits = Units.MM,
) -> FileLookOut:
    """What a file has beside what is here. Nothing is changed."""
    theirs, photos = shop_file.read(file, _MOST_BYTES)
    items = file_comparison.look(session, theirs)
    open_ones = [one for one in items if one.standing is not Beside.SAME]
    return FileLookOut(
        token=_waiting(request).put((theirs, photos)),
        made=theirs.made,
        text=words.summary_of_look([one.standing.value for one in items]),
        things=[
            CarriedThing(
                key=one.key, text=words.item_text(one.kind, one.about, units), standing=one.standing,
                choices=[
                    CarriedChoice(choice=choice, text=words.choice(choice.value, one.standing.value))
                    for choice in one.choices
                ],
            )
            for one in open_ones[:_MOST_SHOWN]
        ],
        more=max(0, len(open_ones) - _MOST_SHOWN),
    )  # fmt: skip


@router.post("/import")
def take_file_in(body: TakeInIn, request: Request, session: ToWrite) -> FileImportOut:
    """Take in a file that was looked at, as one change."""
    theirs, photos = _waiting(request).take(body.token)
    return FileImportOut(text=words.import_text(file_import.take_in(session, theirs, photos, body.choices)))
