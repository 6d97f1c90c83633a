"""The Hobber station: read an ask, plan trains for every box, write the sheet, compare what was read."""

from fractions import Fraction
from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import QUICK, InSession, ToKeep, ToWrite
from valleywind.api.comparison import Comparison
from valleywind.api.drawn_files import described, set_up_sheet
from valleywind.api.fields import PutOnFor
from valleywind.api.pages import mark_of, station_path
from valleywind.api.parameters import By, InUnits, Slug
from valleywind.api.pieces import MOST_SLIPS
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.hobbing.answers import Answer, HobAskOut, HobPlanOut, OneSetUpOut, SetUpOut, ask_out
from valleywind.api.versions import check_text
from valleywind.api.whole_ask import whole
from valleywind.app.kinds import mounting
from valleywind.app.kinds.hobber import HobberInUse, hobber_in_use
from valleywind.app.wheels import left_out_text
from valleywind.core.hobbing import ask as asks
from valleywind.core.hobbing.ask import HobAsk, say
from valleywind.core.hobbing.check import MeasuredBy, check, constants_of, read_measured
from valleywind.core.hobbing.fields import Fields, ask_from
from valleywind.core.hobbing.machine import Box
from valleywind.core.hobbing.plan import judged, plan
from valleywind.core.hobbing.set_up import read_trains, spell_trains
from valleywind.core.hobbing.setting import BlankMaterial
from valleywind.core.trains.model import parse_train
from valleywind.core.units import parse_number, spell
from valleywind.formats.on_paper import OnPaper
from valleywind.shop import hobbers, machines
from valleywind.shop.log import LoggedCheck, number_of
from valleywind.wording.hobbing import answers as words
from valleywind.wording.hobbing import check as check_words
from valleywind.wording.hobbing.boxes import BOXES
from valleywind.wording.hobbing.setting import MATERIALS
from valleywind.wording.hobbing.sheet import sheet
from valleywind.wording.numbers import Units, trimmed

router = APIRouter(prefix="/hobbers", tags=["hobber"], responses=RESPONSES)

Ask = Annotated[
    str,
    Query(description="The wheel wanted, as people say it", examples=["hob 37", "hob 24 m2 30° left face 20"],
          max_length=200),
]  # fmt: skip
TrainsName = Annotated[
    str, Query(description="The trains of the boxes", examples=["48/37*40/80@24+52/38/39+"], max_length=200)
]
Of = Annotated[BlankMaterial, Query(description="What the blank is of, for the speed")]


def _hobber(machine: Slug, session: InSession) -> HobberInUse:
    return hobber_in_use(session, machine)


OnHobber = Annotated[HobberInUse, Depends(_hobber)]


def _answer(on: HobberInUse, ask: HobAsk, material: BlankMaterial, units: Units) -> Answer:
    return Answer(ask, on, material, units)


def read_whole(text: str) -> HobAsk:
    """The ask of a line. Raises NotUnderstood with what was made of it."""
    return whole(asks.read(text), words.MEANINGS)


@router.get("/fields")
def hob_ask_in_fields(
    teeth: Annotated[str, Query(max_length=40, description="Teeth of the wheel", examples=["37"])],
    pitch: Annotated[str, Query(max_length=40, description="Module or DP", examples=["m2", "12dp"])] = "",
    angle: Annotated[str, Query(max_length=40, description="Pressure angle, degrees")] = "",
    helix: Annotated[str, Query(max_length=40, description="Helix angle, degrees")] = "",
    hand: Annotated[Literal["", "right", "left"], Query(description="Hand of the helix")] = "",
    face: Annotated[str, Query(max_length=40, description="Face of the wheel", examples=["20 mm"])] = "",
    starts: Annotated[str, Query(max_length=40, description="Starts of the hob")] = "",
    hob_hand: Annotated[Literal["right", "left"], Query(description="Hand of the hob")] = "right",
    hob_diameter: Annotated[str, Query(max_length=40, description="Over the hob's teeth", examples=["63 mm"])] = "",
    turns: Annotated[str, Query(max_length=40, description="Turns of the hob in a minute")] = "",
    mate: Annotated[str, Query(max_length=40, description="Teeth of the wheel it runs with")] = "",
    feed: Annotated[str, Query(max_length=40, description="Wished feed for one turn of the table")] = "",
    way: Annotated[Literal["", "up", "down"], Query(description="Way of the feed; empty as usual")] = "",
    blanks: Annotated[str, Query(max_length=40, description="Blanks on the arbor at once")] = "",
    depth: Annotated[str, Query(max_length=40, description="Whole depth as engraved on the hob")] = "",
    units: InUnits = Units.MM,
) -> HobAskOut:
    """The ask that these fields make, in one line. Empty fields are as usual."""
    fields = Fields(
        teeth, pitch, angle, helix, hand, face, starts, hob_hand, hob_diameter, turns, mate, feed, way, blanks, depth
    )
    return ask_out(ask_from(fields), None, units)


class BlankMaterialOut(BaseModel):
    material: BlankMaterial
    text: str


@router.get("/materials")
def get_materials() -> list[BlankMaterialOut]:
    """What a blank may be of."""
    return [BlankMaterialOut(material=material, text=text) for material, text in MATERIALS.items()]


@router.get("/{machine}/plan", dependencies=[QUICK])
def get_hob_plan(
    on: OnHobber,
    ask: Ask,
    units: InUnits = Units.MM,
    material: Of = BlankMaterial.MILD_STEEL,
    best: Annotated[int, Query(ge=1, le=40, description="How many set-ups at most")] = 12,
) -> HobPlanOut:
    """Trains for every box from the hobber's wheels, laid out, judged and in order of least trouble."""
    wanted = read_whole(ask)
    outcome = plan(wanted, on.hobber, machines.some(on.row, on.stock), on.on, best)
    answer = _answer(on, wanted, material, units).plan(outcome, on.row.slug)
    return answer.model_copy(update={"left_out": left_out_text(on.row)})


@router.get("/{machine}/train", dependencies=[QUICK])
def get_hob_set_up(
    on: OnHobber, ask: Ask, train: TrainsName, units: InUnits = Units.MM, material: Of = BlankMaterial.MILD_STEEL
) -> OneSetUpOut:
    """One set-up judged for an ask, whether or not it is a good one."""
    wanted = read_whole(ask)
    named, constant = read_trains(train, on.hobber)
    set_up = judged(wanted, on.hobber, on.stock, on.on, named, constant)
    return _answer(on, wanted, material, units).one(set_up)


class HobNowOut(BaseModel):
    train: str = Field(description="What is on, in requests")
    ask: str | None = Field(description="The wheel that it divides, for the ask line", examples=["hob 37"])
    text: str = Field(examples=["Divides into 37 with a one-start hob."])


@router.get("/{machine}/now")
def get_hob_now(on: OnHobber) -> HobNowOut | None:
    """What is on the hobber now; null when its boxes are bare."""
    index, constant = on.on.trains.get(Box.INDEX), on.on.constant
    if not on.on.trains:
        return None
    if index is None or constant is None:
        name = spell_trains(on.on.trains, on.hobber.index[0])
        return HobNowOut(train=name, ask=None, text="Which reversing pair is on is not on record.")
    divides = constant.constant / index.ratio
    whole = divides.denominator == 1
    count = str(divides) if whole else trimmed(divides, 4)
    return HobNowOut(
        train=spell_trains(on.on.trains, constant), ask=f"hob {count}" if whole else None,
        text=f"Divides into {count} with a one-start hob.",
    )  # fmt: skip


class HobMountedIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"train": "48/37*40/80@24+52/38/39+"}]})

    train: str | None = Field(description="What is in the boxes now; null when they are bare", max_length=200)
    ask: PutOnFor = ""
    seen: str | None = Field(None, description="What was in them when this was asked, empty for bare", max_length=200)


class HobMountedOut(BaseModel):
    train: str | None


@router.put("/{machine}/mounted")
def put_hob_mounted(machine: Slug, mounted: HobMountedIn, session: ToWrite) -> HobMountedOut:
    """Record what is in the boxes now."""
    row = machines.machine(session, machine)
    hobbers.hobber(row)  # refused where it is none
    on = mounting(row, mounted.train)
    check_text(mounted.seen, "train", on.name, on.before)
    on.put(session, mounted.ask)
    return HobMountedOut(train=on.name or None)


@router.get("/{machine}/sheet.pdf", dependencies=[QUICK], response_class=Response, responses=described("pdf"))
def get_hob_sheet(
    on: OnHobber, ask: Ask, train: TrainsName, request: Request, session: InSession, units: InUnits = Units.MM,
    material: Of = BlankMaterial.MILD_STEEL,
) -> Response:  # fmt: skip
    """The set-up sheet as a page of A4."""
    wanted = read_whole(ask)
    named, constant = read_trains(train, on.hobber)
    set_up = judged(wanted, on.hobber, on.stock, on.on, named, constant)
    written = sheet(set_up, wanted, on.hobber, on.row.name, on.family, material, units)
    boxes = [(box, part, on.hobber.boxes[box]) for box, part in set_up.boxed]
    drawn = [
        OnPaper(part.train, part.placement, gearbox.family, gearbox.quadrant, BOXES[box].capitalize())
        for box, part, gearbox in boxes
    ]
    line = say(wanted)
    mark = mark_of(request, station_path("hobber", on.row.slug, line, train), number_of(session, on.row, line, train))
    return set_up_sheet(written, drawn, f"{on.row.slug}-{line}", mark)


class HobSlipOut(BaseModel):
    text: str = Field(examples=["The 48 and the 37 are exchanged: the driver runs as the driven wheel."])
    stands: SetUpOut = Field(description="The set-up as it would stand with the slip")


class HobCheckOut(BaseModel):
    agrees: bool
    text: str
    slips: list[HobSlipOut]
    next_text: str | None = Field(description="What to read or count next to tell the first two apart")


def _compared(
    on: OnHobber,
    ask: Ask,
    train: TrainsName,
    measured: Annotated[str, Query(max_length=40, description="Degrees, or marks counted", examples=["87.5°"])],
    kind: Annotated[MeasuredBy, Query(description="An angle of the table, or witness marks")] = MeasuredBy.ANGLE,
    turns: Annotated[str, Query(max_length=40, description="Turns of the hob")] = "1",
    off: Annotated[str, Query(max_length=40, description="By how much the angle may be off; empty for ½°")] = "",
    units: InUnits = Units.MM,
) -> Comparison[HobCheckOut]:
    wanted = read_whole(ask)
    named, constant = read_trains(train, on.hobber)
    reading = read_measured(kind, measured, turns, off)
    result = check(reading, named[Box.INDEX], constant, wanted, on.hobber, on.stock)
    answer = _answer(on, wanted, BlankMaterial.MILD_STEEL, units)
    slips_out = []
    for slip in result.slips[:MOST_SLIPS]:
        stands = judged(wanted, on.hobber, on.stock, on.on, {**named, Box.INDEX: slip.train}, constant)
        slips_out.append(HobSlipOut(text=check_words.slip(slip), stands=answer.set_up(stands)))
    out = HobCheckOut(
        agrees=result.agrees, text=check_words.answer(result, reading, len(slips_out)), slips=slips_out,
        next_text=check_words.tell_apart(result, reading),
    )  # fmt: skip
    kept = LoggedCheck(
        reading.kind.value, reading.value, result.expected, reading.off, Fraction(reading.turns), result.agrees,
        next(iter(result.slips), None),
    )  # fmt: skip
    return Comparison(out, on.row, say(wanted), spell_trains(named, constant), kept)


IsCompared = Annotated[Comparison[HobCheckOut], Depends(_compared)]


@router.get("/{machine}/check", dependencies=[QUICK])
def get_hob_check(compared: IsCompared) -> HobCheckOut:
    """Compare what was read at the table with the trains: yes, or the single slips that explain it."""
    return compared.out


@router.post("/{machine}/check", dependencies=[QUICK])
def keep_hob_check(compared: IsCompared, keep: ToKeep, by: By) -> HobCheckOut:
    """The same, and keep it in the log."""
    return compared.keep(keep, by)


class HobConstantsOut(BaseModel):
    text: str
    constants: list[str] = Field(description="Simple numbers inside the uncertainty, the most usual first")


@router.get("/constants")
def get_hob_constants(
    train: Annotated[str, Query(max_length=80, description="The index train that is on", examples=["48/37*40/80"])],
    hob_turns: Annotated[str, Query(max_length=40, description="Turns of the hob")],
    table_turns: Annotated[str, Query(max_length=40, description="Turns of the table meanwhile")],
    off: Annotated[str, Query(max_length=40, description="By how many turns the table may be off")] = "1/100",
) -> HobConstantsOut:
    """The index constant of a machine without papers, from a known train and counted turns."""
    figures = [parse_number(text, name) for name, text in
               (("hob_turns", hob_turns), ("table_turns", table_turns), ("off", off or "1/100"))]  # fmt: skip
    measured, simple = constants_of(parse_train(train), *figures)
    shown = trimmed(measured, 3)
    return HobConstantsOut(
        text=check_words.constants_text(shown, simple), constants=[spell(c.constant) for c in simple]
    )
