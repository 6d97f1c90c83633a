"""The Mill station: read an ask, plan pair and wheels, write the sheet, compare what was read, check a pair."""

from typing import Annotated, Literal

from fastapi import APIRouter, Depends, Query, Request, Response
from pydantic import BaseModel, ConfigDict, Field

from valleywind.api.access import QUICK, InSession, ToKeep, ToWrite
from valleywind.api.comparison import Comparison
from valleywind.api.drawing import ToothOutline, outlines
from valleywind.api.drawn_files import described, set_up_sheet
from valleywind.api.fields import PutOnFor, TypedQuery
from valleywind.api.pages import mark_of, station_path
from valleywind.api.parameters import By, ChangeOf, InUnits, OtherPlace, Slug, Teeth, WheelAt
from valleywind.api.pieces import MOST_SLIPS, FigureOut
from valleywind.api.problems import RESPONSES
from valleywind.api.topics.helix.answers import Answer, HelixAskOut, HelixPlanOut, HelixSetUpOut, OneHelixSetUp, ask_out
from valleywind.api.versions import check_text
from valleywind.api.ways_out import out_of
from valleywind.api.whole_ask import whole
from valleywind.app.dividing import beside_the_lead
from valleywind.app.kinds import mounting
from valleywind.app.kinds.mill import MillInUse, mill_in_use
from valleywind.app.wheels import left_out_text
from valleywind.core.cutting.wheel import FEWEST_CUT, MOST_CUT
from valleywind.core.helix import ask as asks
from valleywind.core.helix.ask import HelixAsk, say
from valleywind.core.helix.check import ReadAs, WayTurned, check, given_lead, read_measured, to_check
from valleywind.core.helix.fields import Fields, ask_from
from valleywind.core.helix.pair import pair_check
from valleywind.core.helix.plan import LeadSetUp, candidate_for, mate_plan, plan, read_set_up
from valleywind.core.helix.table import View
from valleywind.core.making.mill_setting import setting_of, view_of
from valleywind.core.refusal import Refusal
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.planner import Order
from valleywind.core.units import degrees_or_none, parse_length, parse_whole
from valleywind.formats.on_paper import OnPaper
from valleywind.shop import machines, mills
from valleywind.shop.log import LoggedCheck, number_of
from valleywind.wording.helix import answers as words
from valleywind.wording.helix import check as check_words
from valleywind.wording.helix import pair as pair_words
from valleywind.wording.helix.sheet import sheet
from valleywind.wording.numbers import Units, short_length, trimmed
from valleywind.wording.trains import LEAD_SHAFTS

router = APIRouter(prefix="/mills", tags=["mill"], responses=RESPONSES)

Ask = Annotated[
    str,
    Query(description="The helix or lead wanted, as people say it",
          examples=["helix 24 m2 30° left face 20", "lead 300 mm"], max_length=200),
]  # fmt: skip
TrainName = Annotated[
    str, Query(description="Wheels and pair", examples=["72/28*52/56@1/2", "40/50/80"], max_length=80)
]


def _mill(machine: Slug, session: InSession) -> MillInUse:
    return mill_in_use(session, machine)


OnMill = Annotated[MillInUse, Depends(_mill)]


def _answer(on: MillInUse, ask: HelixAsk, units: Units) -> Answer:
    setting = setting_of(ask, on.mill, on.head, on.cutters)
    by = beside_the_lead(on.row, ask)
    return Answer(ask, on, setting, out_of(by, units) if by else None, units)


def read_whole(text: str) -> HelixAsk:
    """The ask of a line. Raises NotUnderstood with what was made of it."""
    return whole(asks.read(text), words.MEANINGS)


@router.get("/fields")
def helix_ask_in_fields(
    teeth: Annotated[TypedQuery, Query(description="Teeth of the wheel, or grooves", examples=["24"])] = "",
    pitch: Annotated[TypedQuery, Query(description="Normal module or DP; empty for grooves", examples=["m2"])] = "",
    angle: Annotated[TypedQuery, Query(description="Pressure angle, degrees")] = "",
    helix: Annotated[TypedQuery, Query(description="Helix angle, degrees", examples=["30°"])] = "",
    lead: Annotated[TypedQuery, Query(description="A lead in place of a wheel", examples=["300 mm"])] = "",
    hand: Annotated[Literal["", "right", "left"], Query(description="Hand of the helix")] = "",
    diameter: Annotated[TypedQuery, Query(description="Outside of the work, for grooves")] = "",
    face: Annotated[TypedQuery, Query(description="Length of teeth or grooves")] = "",
    mate: Annotated[TypedQuery, Query(description="Teeth of the wheel it runs with")] = "",
    cutter: Annotated[TypedQuery, Query(description="Diameter of the cutter")] = "",
    within: Annotated[TypedQuery, Query(description="Allowed error of the lead, percent")] = "",
    units: InUnits = Units.MM,
) -> HelixAskOut:
    """The ask that these fields make, in one line."""
    fields = Fields(teeth, pitch, angle, helix, lead, hand, diameter, face, mate, cutter, within)
    return ask_out(ask_from(fields), units)


@router.get("/{machine}/plan", dependencies=[QUICK])
def get_helix_plan(
    on: OnMill,
    ask: Ask,
    units: InUnits = Units.MM,
    order: Annotated[Order, Query(description="What comes first")] = Order.LEAST_TROUBLE,
    best: Annotated[int, Query(ge=1, le=40, description="How many set-ups at most")] = 12,
) -> HelixPlanOut:
    """Worm pair, either way round, and change wheels together, laid out, judged and in order of merit."""
    wanted, at = read_whole(ask), on
    outcome = plan(wanted, at.drive, machines.some(on.row, at.stock), at.on, order, best)
    answer = _answer(on, wanted, units).plan(outcome, on.row.slug, order)
    return answer.model_copy(update={"left_out": left_out_text(on.row)})


@router.get("/{machine}/train", dependencies=[QUICK])
def get_helix_train(on: OnMill, ask: Ask, train: TrainName, units: InUnits = Units.MM) -> OneHelixSetUp:
    """One set-up judged for an ask, whether or not it is a good one."""
    wanted, at = read_whole(ask), on
    candidate = candidate_for(read_set_up(train, at.drive), wanted, at.drive, at.stock, at.on)
    return _answer(on, wanted, units).one(candidate)


@router.get("/{machine}/train/changed", dependencies=[QUICK])
def get_changed_helix_train(
    on: OnMill, ask: Ask, train: TrainName, change: ChangeOf, at: WheelAt, teeth: Teeth = 40, other: OtherPlace = 0,
    units: InUnits = Units.MM,
) -> OneHelixSetUp:  # fmt: skip
    """The set-up with one change of its wheels, laid out and judged."""
    wanted, mill = read_whole(ask), on
    before = read_set_up(train, mill.drive)
    after = LeadSetUp(before.train.changed(change, at, teeth, other), before.pair)
    return _answer(on, wanted, units).one(candidate_for(after, wanted, mill.drive, mill.stock, mill.on))


class HelixNowOut(BaseModel):
    train: str = Field(description="What is on, in requests", examples=["72/28*52/56@1/2"])
    ask: str = Field(description="The lead that it gives, for the ask line", examples=["lead 301.5385 mm"])
    text: str = Field(examples=["72/28 × 52/56, pair with 2 turns in, 1 out. Gives a lead of 301.54 mm."])


@router.get("/{machine}/now")
def get_helix_now(on: OnMill, units: InUnits = Units.MM) -> HelixNowOut | None:
    """What is in the lead drive now; null when it is bare."""
    if on.on is None:
        return None
    lead = given_lead(on.on, on.drive)
    text = f"{words.set_up_text(on.on)}. {words.now_text(lead, units)}"
    return HelixNowOut(train=on.on.name, ask=f"lead {trimmed(lead, 4)} mm", text=text)


class HelixMountedIn(BaseModel):
    model_config = ConfigDict(json_schema_extra={"examples": [{"train": "72/28*52/56@1/2"}]})

    train: str | None = Field(description="What is on now; null when the drive is bare", max_length=80)
    ask: PutOnFor = ""
    seen: str | None = Field(None, description="What was on when this was asked, empty for bare", max_length=80)


class HelixMountedOut(BaseModel):
    train: str | None


@router.put("/{machine}/mounted")
def put_helix_mounted(machine: Slug, mounted: HelixMountedIn, session: ToWrite) -> HelixMountedOut:
    """Record what is in the lead drive now."""
    row = machines.machine(session, machine)
    mills.mill(row)  # refused where it is none
    on = mounting(row, mounted.train)
    check_text(mounted.seen, "train", on.name, on.before)
    on.put(session, mounted.ask)
    return HelixMountedOut(train=on.name or None)


@router.get("/{machine}/sheet.pdf", dependencies=[QUICK], response_class=Response, responses=described("pdf"))
def get_helix_sheet(
    on: OnMill, ask: Ask, train: TrainName, request: Request, session: InSession, units: InUnits = Units.MM
) -> Response:
    """The sheet as a page of A4."""
    wanted, at = read_whole(ask), on
    candidate = candidate_for(read_set_up(train, at.drive), wanted, at.drive, at.stock, at.on)
    setting = setting_of(wanted, at.mill, on.head, on.cutters)
    written = sheet(candidate, wanted, at.mill, at.drive, setting, at.name, at.family, units)
    box, seen = at.drive.box, view_of(setting, wanted, at.mill)
    wheels = OnPaper(candidate.train, candidate.placement, box.family, box.quadrant, LEAD_SHAFTS.carrier.capitalize())
    drawn: list[OnPaper | View] = [wheels, seen] if seen else [wheels]
    line = say(wanted)
    mark = mark_of(request, station_path("mill", on.row.slug, line, train), number_of(session, on.row, line, train))
    return set_up_sheet(written, drawn, f"{on.row.slug}-{line}", mark)


class HelixSlipOut(BaseModel):
    text: str = Field(examples=["The worm pair is in the other way round: 1 turn in, 2 out."])
    stands: HelixSetUpOut = Field(description="The set-up as it would stand with the slip")


class HelixCheckOut(BaseModel):
    agrees: bool
    text: str
    slips: list[HelixSlipOut]
    next_text: str | None = Field(description="What to read or count next to tell the first two apart")
    outlines: list[ToothOutline]


def _compared(
    on: OnMill,
    ask: Ask,
    train: TrainName,
    measured: Annotated[str, Query(max_length=40, description="What was read", examples=["119.4°"])],
    over: Annotated[
        str, Query(max_length=40, description="The table’s travel; of a scribed line the diameter", examples=["100 mm"])
    ],
    kind: Annotated[
        ReadAs, Query(description="Degrees of the work, turns of the crank, a scribed line")
    ] = ReadAs.DEGREES,
    off: Annotated[str, Query(max_length=40, description="By how much it may be off; empty as usual")] = "",
    turned: Annotated[WayTurned, Query(description="Which way the work turned")] = WayTurned.NOT_LOOKED,
    units: InUnits = Units.MM,
) -> Comparison[HelixCheckOut]:
    wanted, at = read_whole(ask), on
    chosen = read_set_up(train, at.drive)
    reading = read_measured(kind, measured, over, off, turned, units.bare)
    result = check(reading, chosen, at.drive, at.stock)
    answer, slips_out = _answer(on, wanted, units), []
    for slip in result.slips[:MOST_SLIPS]:
        pair = check_words.pair_of(slip) or chosen.pair
        stands = candidate_for(LeadSetUp(slip.train, pair), wanted, at.drive, at.stock, at.on)
        slips_out.append(HelixSlipOut(text=check_words.slip(slip, at.drive), stands=answer.set_up(stands)))
    out = HelixCheckOut(
        agrees=result.agrees,
        text=check_words.answer(result, reading, len(slips_out)),
        slips=slips_out,
        next_text=check_words.tell_apart(result, reading, units),
        outlines=outlines({t for s in result.slips[:MOST_SLIPS] for t in s.train.teeth}, at.drive.box.family),
    )
    kept = LoggedCheck(
        reading.read.value, reading.value, result.expected, reading.off, reading.over, result.agrees,
        next(iter(result.slips), None),
    )  # fmt: skip
    return Comparison(out, on.row, say(wanted), chosen.name, kept)


IsCompared = Annotated[Comparison[HelixCheckOut], Depends(_compared)]


@router.get("/{machine}/check", dependencies=[QUICK])
def get_helix_check(compared: IsCompared) -> HelixCheckOut:
    """Compare what was read with the set-up: yes, or the single slips that explain it."""
    return compared.out


@router.post("/{machine}/check", dependencies=[QUICK])
def keep_helix_check(compared: IsCompared, keep: ToKeep, by: By) -> HelixCheckOut:
    """The same, and keep it in the log."""
    return compared.keep(keep, by)


class HelixExpectedOut(BaseModel):
    """What must be read when the table is moved so far."""

    over: str = Field(description="As its field takes it")
    degrees: str = Field(examples=["119.38°"])
    crank: str = Field(examples=["19.9 turns"])


@router.get("/{machine}/expected", dependencies=[QUICK])
def get_helix_expected(
    on: OnMill,
    train: TrainName,
    over: Annotated[str, Query(max_length=40, description="The table’s travel; empty for a handy one")] = "",
    units: InUnits = Units.MM,
) -> HelixExpectedOut:
    """What work and crank turn while the table moves so far."""
    chosen = read_set_up(train, on.drive)
    expected = to_check(chosen, on.drive, on.mill.travel)
    travel = parse_length(over, units.bare, "over").mm if over.strip() else expected.travel
    if travel <= 0:
        raise Refusal("not_positive", "over", over)
    lead = given_lead(chosen, on.drive)
    crank = on.drive.head * travel / lead
    holes = check_words.crank_text(crank, on.head.circles)
    return HelixExpectedOut(
        over=over or short_length(travel, units), degrees=check_words.degrees_text(360 * travel / lead), crank=holes
    )


class PairOut(BaseModel):
    figures: list[FigureOut]
    train: str | None = Field(description="How the mate is cut, compared with the set-up of the wheel")
    ask: str = Field(description="The mate’s own ask", examples=["helix 36 m2 30° right"])


@router.get("/{machine}/pair", dependencies=[QUICK])
def get_pair(
    on: OnMill,
    ask: Ask,
    train: TrainName,
    mate: Annotated[str, Query(max_length=40, description="Teeth of the mate", examples=["36"])],
    helix: Annotated[TypedQuery, Query(description="Its helix angle; empty for that of the wheel")] = "",
    hand: Annotated[Literal["", "right", "left"], Query(description="Its hand; empty for parallel shafts")] = "",
    centres: Annotated[TypedQuery, Query(description="Measured distance of the shafts")] = "",
    units: InUnits = Units.MM,
) -> PairOut:
    """Wheel and mate: angles, hands, how the shafts stand and how far apart, and whether one train cuts both."""
    wanted, at = read_whole(ask), on
    teeth = parse_whole(mate, "mate", FEWEST_CUT, MOST_CUT, "teeth")
    apart = parse_length(centres, units.bare, "centres").mm if centres.strip() else None
    check = pair_check(wanted, teeth, degrees_or_none(helix, "helix"), Hand(hand) if hand else None, apart)
    planned = candidate_for(read_set_up(train, at.drive), wanted, at.drive, at.stock, at.on)
    other = mate_plan(planned, wanted, check.mate, at.drive, at.stock)
    return PairOut(
        figures=[FigureOut.model_validate(f) for f in pair_words.facts(check, units)],
        train=words.mate_text(other, wanted, at.drive, units) if other else words.NO_MATE,
        ask=say(check.mate),
    )
