"""A shop as one file that others can read: a zip with `shop.json`, its photographs, and tables for a spreadsheet.

`shop.json` is a format of its own with a version, described in docs/shop.schema.json. Units stand in the names, exact
fractions are text, and what belongs together names each other by name, or by its place in a list of the file, from 0;
the numbers that a shop's own file gives to its records are not in it.
"""

import io
import json
import re
import zipfile
from collections.abc import Mapping
from fractions import Fraction
from typing import Annotated, Any, Literal

from pydantic import BaseModel, BeforeValidator, ConfigDict, Field, ValidationError

from valleywind.core.lathe.thread import PitchUnit
from valleywind.core.making.session import EventKind
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pile import MOST_OF_ONE_COUNT, Condition
from valleywind.core.teeth.pitch import FEWEST_TEETH, MOST_TEETH, PitchSystem
from valleywind.core.trains.direction import Hand, Sense
from valleywind.formats import photograph
from valleywind.formats.tables import csv_text
from valleywind.shop import photos as kept_photos
from valleywind.shop.models import JobEventKind, LogKind, Outcome, TaskState

FORMAT: Literal["valleywind-shop"] = "valleywind-shop"
VERSION: Literal[1] = 1
MOST_BYTES = 300_000_000
"""The most that is unpacked of a file."""
_MOST_MEMBERS = 20_000
_JSON, _TABLES = "shop.json", re.compile(r"[a-z]{1,20}\.csv")
_PHOTO = re.compile(r"photos/([0-9a-f]{32})\.jpg")
# One date for every member: two files of one shop are the same.
_DATE = (1980, 1, 1, 0, 0, 0)

Short = Annotated[str, Field(max_length=200)]
Long = Annotated[str, Field(max_length=10_000)]
Exact = Annotated[
    str,
    BeforeValidator(lambda value: str(value) if isinstance(value, Fraction) else value),
    Field(pattern=r"^[0-9]{1,40}(/[1-9][0-9]{0,39})?$", examples=["127/30"]),
]
"""An exact number from 0 on, `127/30`."""
Positive = Annotated[Exact, Field(pattern=r"^[1-9]")]
"""An exact number above 0."""
Place = Annotated[int, Field(ge=0)]
Teeth = Annotated[int, Field(ge=FEWEST_TEETH, le=MOST_TEETH)]
Plain = dict[str, Any]


class _Part(BaseModel):
    model_config = ConfigDict(from_attributes=True, extra="forbid", allow_inf_nan=False)


class FileFamily(_Part):
    """Wheels of one pitch, bore, key and face."""

    name: Short
    pitch_system: PitchSystem
    pitch_value: Positive = Field(description="Module in mm, or teeth per inch of diameter")
    pressure_angle_deg: Positive
    bore_mm: Exact
    key_mm: Exact
    face_mm: Exact
    addendum: Positive = Field(description="In modules")
    hub_mm: Exact


class FileLathe(_Part):
    """What turns what on a lathe. Steps of levers are pairs of name and ratio."""

    screw_lead_mm: Positive
    screw_stated: PitchUnit
    screw_hand: Hand
    first_shaft_turns: Sense | None
    screw_turns_right_hand: Sense | None
    reverse_lever: bool
    first_steps: Annotated[list[tuple[Short, Positive]], Field(min_length=1)]
    box_steps: list[tuple[Short, Positive]]
    first_drivers: list[Teeth]
    last_driven: list[Teeth]
    pairs: list[tuple[Teeth, Teeth]]
    dials: list[tuple[int, int]]
    feed_along_mm: Positive | None
    feed_across_mm: Positive | None


class FileSlot(_Part):
    offset_deg: float
    nearest_mm: float
    farthest_mm: float


class FileQuadrant(_Part):
    """What is known of a quadrant; null where it is not. goes_on, not_on: trains that were tried."""

    first_x_mm: float | None
    first_y_mm: float | None
    apart_mm: float | None
    swing_low_deg: float | None
    swing_high_deg: float | None
    boss_first_mm: float | None
    boss_stud_mm: float | None
    boss_last_mm: float | None
    gap_mm: float
    studs: int | None
    cover_mm: list[tuple[float, float]] | None
    goes_on: list[Short]
    not_on: list[Short]
    sources: dict[Short, Short]
    slots: list[FileSlot]


class FileMounted(_Part):
    """A train that is on, and where levers stand."""

    train: Short
    setting: Short


class FileBox(_Part):
    """One of several boxes for change wheels, its quadrant as typed."""

    box: Short
    quadrant: Plain
    turns: Short
    lever: bool
    posts: Long


class FileBoxMounted(_Part):
    box: Short
    train: Short
    setting: Short


class FilePin(_Part):
    ask: Short
    train: Short


class FileMachine(_Part):
    """A machine with all that is on record of it. short_name: what jobs of the file call it; family: of its wheels;
    parts: what was typed of its head, its table and so on."""

    short_name: Short
    name: Short
    kind: Short = Field(description="What it is: `lathe`, `hobber` and the like")
    note: Long
    family: Short | None
    full_set: Long
    example: bool
    archived: bool
    lathe: FileLathe | None
    quadrant: FileQuadrant | None
    parts: dict[Short, Plain]
    boxes: list[FileBox]
    mounted: FileMounted | None
    boxes_mounted: list[FileBoxMounted]
    pins: list[FilePin]


class FileWheel(_Part):
    """Wheels alike. family, machine: by name and short name, null for none; a count of 0 is a wheel known to be
    missing; measured: readings as typed; shift: profile shift in modules; photo: its name under photos/."""

    family: Short | None
    machine: Short | None
    teeth: Teeth
    count: int = Field(ge=0, le=MOST_OF_ONE_COUNT)
    condition: Condition
    material: Short
    place: Short
    note: Long
    measured: Plain
    shift: float
    photo: str = Field(pattern=r"^([0-9a-f]{32})?$")


class FileCutter(_Part):
    """Form cutters alike. highest: null up to a rack; bore and depth 0 where they are not known."""

    pitch_system: PitchSystem
    pitch_value: Positive
    pressure_angle_deg: Positive
    lowest: int
    highest: int | None
    engraved: Short
    bore_mm: Exact
    depth_mm: Exact
    condition: Condition
    count: int = Field(ge=0, le=MOST_OF_ONE_COUNT)
    place: Short
    note: Long


class FileBar(_Part):
    """A piece of round bar."""

    material: Short
    diameter_mm: Positive
    length_mm: Positive
    place: Short
    note: Long


class FileJobEvent(_Part):
    """What happened with a job. about: of what was chosen or found, as typed."""

    at: Short
    kind: JobEventKind
    about: Plain


class FileCut(_Part):
    """What happened in a session."""

    key: Short
    at: Short
    kind: EventKind
    about: Plain
    by: Short


class FileSession(_Part):
    """A cutting session: its plan as it was begun with, and everything that happened."""

    begun: Short
    head: Short
    plan: Plain
    events: list[FileCut]


class FileJob(_Part):
    """A wheel to be made. In what is chosen, `bar` and `donor` are places in the lists of bars and wheels."""

    teeth: Teeth
    machine: Short = Field(description="Short name of what it is for, empty for none")
    family: Short | None
    begun: Short
    wheel: Plain
    typed: Plain
    done: Short
    events: list[FileJobEvent]
    session: FileSession | None


class FileLogEntry(_Part):
    """An entry of the log. machine: its name then; of: short name of that machine, where it is in the file; job,
    corrects: places in the lists of jobs and of the log."""

    at: Short
    by: Short
    kind: LogKind
    machine: Short
    of: Short | None
    job: Place | None
    ask: Short
    train: Short
    outcome: Outcome | Literal[""]
    note: Long
    code: Short
    about: Plain
    corrects: Place | None


class FileTask(_Part):
    """Something that is to be done. machine: short name, null for none; after: place in the list of tasks; entry: place
    in the log; held: what the work is held in, empty where nobody said."""

    ask: Short
    machine: Short | None
    after: Place | None
    state: TaskState
    begun: Short
    done: Short
    entry: Place | None
    held: Short = ""


class FileShop(_Part):
    """A shop, or a part of one."""

    format: Literal["valleywind-shop"] = FORMAT
    version: Literal[1] = VERSION
    made: Short = Field(description="When the file was made, UTC")
    families: list[FileFamily] = []
    machines: list[FileMachine] = []
    wheels: list[FileWheel] = []
    cutters: list[FileCutter] = []
    bars: list[FileBar] = []
    jobs: list[FileJob] = []
    log: list[FileLogEntry] = []
    tasks: list[FileTask] = []


def schema() -> dict[str, Any]:
    """The format as JSON Schema."""
    return {"$schema": "https://json-schema.org/draft/2020-12/schema", "title": "Valleywind shop", **{
        name: value for name, value in FileShop.model_json_schema().items() if name != "title"
    }}  # fmt: skip


def write(shop: FileShop, photos: Mapping[str, bytes]) -> bytes:
    """The file. photos: pictures as JPEG by their names. Two files of one shop differ in `made` alone."""
    packed = io.BytesIO()
    with zipfile.ZipFile(packed, "w", zipfile.ZIP_DEFLATED) as file:
        _add(file, _JSON, json.dumps(shop.model_dump(mode="json"), ensure_ascii=False, indent=1).encode())
        for name, text in _tables(shop).items():
            _add(file, name, text.encode("utf-8-sig"))
        for name in sorted(photos):
            _add(file, f"photos/{name}.jpg", photos[name])
    return packed.getvalue()


def _add(file: zipfile.ZipFile, name: str, content: bytes) -> None:
    info = zipfile.ZipInfo(name, _DATE)
    info.compress_type = zipfile.ZIP_DEFLATED
    info.external_attr = 0o644 << 16
    file.writestr(info, content)


def _tables(shop: FileShop) -> dict[str, str]:
    """What a spreadsheet reads."""
    lists: dict[str, tuple[type[_Part], list[Any]]] = {
        "families": (FileFamily, shop.families), "wheels": (FileWheel, shop.wheels),
        "cutters": (FileCutter, shop.cutters), "bars": (FileBar, shop.bars),
    }  # fmt: skip
    tables = {}
    for name, (kind, rows) in lists.items():
        heads = [field for field in kind.model_fields if field != "measured"]
        plain = [row.model_dump(mode="json") for row in rows]
        tables[f"{name}.csv"] = csv_text(heads, [["" if r[h] is None else r[h] for h in heads] for r in plain])
    jobs = [(job.teeth, job.machine, job.family or "", job.begun, job.done) for job in shop.jobs]
    tables["jobs.csv"] = csv_text(("teeth", "machine", "family", "begun", "done"), jobs)
    entries = [(e.at, e.by, e.kind.value, e.machine, e.ask, e.train, str(e.outcome or ""), e.note) for e in shop.log]
    tables["log.csv"] = csv_text(("at", "by", "kind", "machine", "ask", "train", "outcome", "note"), entries)
    return tables


def read(packed: bytes, most: int = MOST_BYTES) -> tuple[FileShop, dict[str, bytes]]:
    """A file that came from anywhere: the shop in it, and its pictures by name. most: bytes that
    are unpacked of it.

    Raises Refusal (file): `not_a_shop_file`, `shop_file_newer`, `shop_file_too_large`, `shop_file_damaged`.
    """
    try:
        with zipfile.ZipFile(io.BytesIO(packed)) as file:
            members = _members(file, most)
            if _JSON not in members:
                raise Refusal("not_a_shop_file", "file", None)
            spelled = _content(file, members[_JSON])
            pictures = {match[1]: info for name, info in members.items() if (match := _PHOTO.fullmatch(name))}
            photos = {name: _picture(name, _content(file, info)) for name, info in pictures.items()}
    except Refusal:
        raise
    except (zipfile.BadZipFile, NotImplementedError, RuntimeError, EOFError, OSError, ValueError) as error:
        # zlib.error too comes as one of these, or as itself.
        raise Refusal("not_a_shop_file", "file", None) from error
    return _shop(spelled), photos


def _members(file: zipfile.ZipFile, most: int) -> dict[str, zipfile.ZipInfo]:
    """What is in it, each once, and nothing that has no business there: no other folder, no way up, no bomb."""
    infos = file.infolist()
    if len(infos) > _MOST_MEMBERS or sum(info.file_size for info in infos) > most:
        raise Refusal("shop_file_too_large", "file", None, most=most // 1_000_000)
    members = {info.filename: info for info in infos}
    known = all(name == _JSON or _TABLES.fullmatch(name) or _PHOTO.fullmatch(name) for name in members)
    if not known or len(members) != len(infos):
        raise Refusal("not_a_shop_file", "file", None)
    return members


def _content(file: zipfile.ZipFile, info: zipfile.ZipInfo) -> bytes:
    """What a member holds; never more than its head says."""
    with file.open(info) as member:
        try:
            content = member.read(info.file_size + 1)
        except Exception as error:
            # Whatever stops the unpacker.
            raise Refusal("shop_file_damaged", "file", info.filename) from error
    if len(content) != info.file_size:
        raise Refusal("shop_file_damaged", "file", info.filename)
    return content


def _picture(name: str, content: bytes) -> bytes:
    """A photograph, if it is one as they are kept here, under the name that its content gives."""
    if kept_photos.name_of(content) != name or not photograph.is_kept_so(content):
        raise Refusal("shop_file_damaged", "file", f"photos/{name}.jpg")
    return content


def _shop(spelled: bytes) -> FileShop:
    try:
        read_in = json.loads(spelled)
    except (ValueError, RecursionError) as error:
        raise Refusal("shop_file_damaged", "file", _JSON) from error
    if not isinstance(read_in, dict) or read_in.get("format") != FORMAT:
        raise Refusal("not_a_shop_file", "file", None)
    version = read_in.get("version")
    if isinstance(version, int) and version > VERSION:
        raise Refusal("shop_file_newer", "file", version)
    try:
        return FileShop.model_validate(read_in)
    except (ValidationError, RecursionError) as error:
        place = ".".join(map(str, error.errors()[0]["loc"])) if isinstance(error, ValidationError) else _JSON
        raise Refusal("shop_file_damaged", "file", place[:80]) from error
