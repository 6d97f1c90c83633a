"""A wheel to be made, or several alike: figures, the school of workholding, and the steps in their order.

Lengths in mm. Figures that were found at the machine change those of later steps.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from enum import StrEnum

from valleywind.core.making.helical import Helix, helical_sizes, wheel_of
from valleywind.core.making.materials import MATERIALS, Strength, Stuff, strength, turns
from valleywind.core.making.passes import usual_passes
from valleywind.core.making.session import CutOrder
from valleywind.core.making.side_view import MARGIN, SideView, past
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.correction import Plunge, Runout, plunge, runout, true_enough
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.teeth.sizes import Sizes, sizes
from valleywind.core.trains.direction import Hand

USUAL_CUTTER, USUAL_COLLAR = 60.0, 30.0
"""Diameters that are drawn where nobody says them."""
UNKNOWN_FACE = 8.0
"""The face of a wheel whose family has none on record, in modules."""
# A pass as typed that is off by less is as it should be.
_PASS_OFF = 0.01
BLANK_LOW = 0.05
"""How much a blank may be smaller than its tips."""
# How much a bore may be larger than its shaft; a face off either way.
_BORE_HIGH, _FACE_OFF = 0.02, 0.1
MOST_ALIKE = 50


class School(StrEnum):
    """How the blank is held from the first cut to the last tooth."""

    MANDREL = "mandrel"
    ONE_SETTING = "one_setting"
    CHUCK_MOVED = "chuck_moved"
    DONOR = "donor"
    TEMPLATE = "template"
    LATHE_ONLY = "lathe_only"
    BOLTED = "bolted"
    LEAD = "lead"


@dataclass(frozen=True)
class ScrewTeeth:
    """Teeth that run in a lead screw: the cutter's pitch only shapes their gaps. across: the pitch diameter N p/π;
    tilt: by which the head is tilted, degrees, to the side of the screw's hand."""

    across: float
    tilt: float
    hand: Hand


class Divider(StrEnum):
    """What divides a job: the head of a mill or the like, a rotary table, a wheel as its own plate, a printed disc."""

    HEAD = "head"
    TABLE = "table"
    WHEEL = "wheel"
    DISC = "disc"


_ANY = tuple(Divider)
DIVIDERS: dict[School, tuple[Divider, ...]] = {
    School.MANDREL: _ANY, School.ONE_SETTING: _ANY, School.CHUCK_MOVED: _ANY, School.DONOR: _ANY,
    School.TEMPLATE: (Divider.WHEEL,), School.LATHE_ONLY: (Divider.DISC, Divider.WHEEL),
    School.BOLTED: (Divider.TABLE,), School.LEAD: (Divider.HEAD,),
}  # fmt: skip
"""What can divide a blank that is held so, the usual first."""


class Asks(StrEnum):
    """What is found at a step."""

    DIAMETER = "diameter"
    WIDTH = "width"
    RUNOUT = "runout"
    SPAN = "span"


@dataclass(frozen=True)
class Step:
    """code: what is done; asks: what is found there, None for nothing; low, high: what it should come to."""

    code: str
    asks: Asks | None = None
    low: float | None = None
    high: float | None = None


_TEETH = ("divide", "centre", "tilt", "clear", "touch", "session", "measure", "last_gap")
_END = ("deburr", "key", "stamp", "mesh", "rack")
_ORDERS: dict[School, tuple[str, ...]] = {
    School.MANDREL: (
        "stock", "face", "bore", "part_off", "mandrel", "outside", "mandrel_over", "runout", *_TEETH, "face_again",
        *_END,
    ),
    School.ONE_SETTING: (
        "stock", "face", "bore", "outside", "chuck_over", "runout_chuck", *_TEETH, "part_off", "face_back", *_END,
    ),
    School.CHUCK_MOVED: (
        "stock", "face", "bore", "part_off", "mandrel_chuck", "outside", "chuck_over", "runout", *_TEETH, *_END,
    ),
    School.DONOR: ("donor", "mandrel", "turn_down", "mandrel_over", "runout", *_TEETH, *_END),
    School.TEMPLATE: (
        "stock", "face", "bore", "part_off", "outside", "key_first", "template", "form_tool", "session", "measure",
        "deburr", "stamp", "mesh", "rack",
    ),
    School.LATHE_ONLY: (
        "stock", "face", "bore", "part_off", "mandrel", "outside", "disc", "vertical_slide", "clear", "touch",
        "session", "measure", "last_gap", *_END,
    ),
    School.LEAD: (
        "stock", "face", "bore", "part_off", "mandrel", "outside", "mandrel_over", "runout", "lead_gears", "divide",
        "centre", "swing", "lead_proof", "travel", "touch", "session", "measure", "last_gap", *_END,
    ),
    School.BOLTED: ("stock", "face", "bore", "part_off", "outside", "web_holes", "blocks", "runout", *_TEETH, *_END),
}  # fmt: skip
_ASKS = {
    "bore": Asks.DIAMETER, "part_off": Asks.WIDTH, "outside": Asks.DIAMETER, "turn_down": Asks.DIAMETER,
    "runout": Asks.RUNOUT, "runout_chuck": Asks.RUNOUT, "measure": Asks.SPAN,
}  # fmt: skip
OUTSIDE, RUNOUT = ("outside", "turn_down"), ("runout", "runout_chuck")
"""Steps at which the outside of the blank is turned, and at which it is seen to run true."""


@dataclass(frozen=True)
class Job:
    """A wheel to be made. cutter, collar: diameters, None where nobody says; jaw_gap: from the blank to the jaws, block
    or nose; jaw_radius: how far they reach from the axis; nut, nut_across: how far the nut before the blank stands out
    and how wide it is, None without one; centre: of the work over the table; depths: of the passes, None as usual;
    screw_lead: of the lathe it is for, None where there is none; figures: found, by the step's code; helix: None for
    straight teeth; divider: what divides it; spans_found: measured one after the other, each over teeth cut as deep as
    was told last; screw: None but for a wheel that runs in a lead screw."""

    teeth: int
    family: WheelFamily
    stuff: Stuff
    school: School
    how_many: int = 1
    cutter: float | None = None
    collar: float | None = None
    jaw_gap: float | None = None
    jaw_radius: float | None = None
    depths: tuple[float, ...] | None = None
    marks: bool = True
    order: CutOrder = CutOrder.ROUND_BY_ROUND
    engraved: float | None = None
    screw_lead: float | None = None
    figures: Mapping[str, float] = field(default_factory=dict)
    nut: float | None = None
    nut_across: float | None = None
    centre: float | None = None
    helix: Helix | None = None
    divider: Divider = Divider.HEAD
    spans_found: tuple[float, ...] = ()
    screw: ScrewTeeth | None = None

    @property
    def carried(self) -> bool:
        """Whether the work goes from the lathe to another machine that divides it."""
        return self.divider in (Divider.HEAD, Divider.TABLE)

    @property
    def sizes(self) -> Sizes:
        if self.helix is not None:
            return helical_sizes(self.teeth, self.family, self.helix, self.engraved, self.face)
        plain = sizes(self.teeth, self.family, depth=self.engraved)
        if self.screw is None:
            return plain
        farther = self.screw.across - plain.pitch_diameter
        return replace(
            plain, pitch_diameter=self.screw.across, tip_diameter=plain.tip_diameter + farther,
            root_diameter=plain.root_diameter + farther, base_diameter=plain.base_diameter + farther,
        )  # fmt: skip

    @property
    def spans(self) -> bool:
        """Whether its span can be measured: the jaws find room on the face, and the teeth are those of a pitch."""
        return self.screw is None and self._room_for_span

    @property
    def _room_for_span(self) -> bool:
        return self.helix is None or wheel_of(self.teeth, self.family, self.helix, self.face).span is not None

    @property
    def face(self) -> float:
        return float(self.family.face) or UNKNOWN_FACE * float(self.family.module)

    @property
    def across(self) -> float:
        """Diameter of the cutter, or a usual one."""
        return self.cutter or USUAL_CUTTER

    @property
    def blank(self) -> float | None:
        """The outside as it was found, None before."""
        return next((self.figures[code] for code in OUTSIDE if code in self.figures), None)

    @property
    def plunge(self) -> Plunge:
        """How deep for the blank as it was turned; with a measured span, how much deeper."""
        return plunge(self.sizes, self.blank, self.figures.get("measure"))

    @property
    def depth(self) -> float:
        """Whole depth from touching as it now stands: for the blank as it was turned, and deeper by what every span
        above its tolerance told."""
        high = self.sizes.span.high
        more = (plunge(self.sizes, self.blank, span).more or 0.0 for span in self.spans_found if span > high)
        return self.plunge.depth + sum(more)

    @property
    def passes_off(self) -> float:
        """How much deeper the last pass as typed is than it now ought to be; 0 where none is typed or it is right."""
        off = self.depths[-1] - self.depth if self.depths else 0.0
        return off if abs(off) > _PASS_OFF else 0.0

    @property
    def runs_out(self) -> float:
        """How far the cutter runs on past the far face at full depth, with what is kept clear of it."""
        return past(self.depth, self.across) + MARGIN

    @property
    def runout(self) -> Runout | None:
        """The verdict on the reading, None before there is one."""
        reading = next((self.figures[code] for code in RUNOUT if code in self.figures), None)
        if reading is None:
            return None
        return runout(reading, float(self.family.module), float(self.family.pressure_angle))

    @property
    def passes(self) -> tuple[float, ...]:
        """Depths from touching. As typed they stand; else they follow the blank as it was turned and what was
        measured."""
        return self.depths or usual_passes(self.depth, self.family.module, self.stuff)

    @property
    def turns(self) -> tuple[float, float]:
        """Turns of the cutter a minute to begin with, from and to."""
        low, high = MATERIALS[self.stuff].speeds
        return turns(low, self.across), turns(high, self.across)

    @property
    def strength(self) -> Strength | None:
        if self.screw_lead is None:
            return None
        return strength(
            self.stuff, self.teeth, float(self.family.module), self.face, self.family.pressure_angle, self.screw_lead
        )

    @property
    def _mandrel(self) -> float:
        return 0.0 if self.school in (School.ONE_SETTING, School.BOLTED) else float(self.family.bore) / 2

    @property
    def side(self) -> SideView | None:
        """From the side; None where nobody says what is beside the blank, and for a helix: there the cutter stands
        askew."""
        if self.jaw_gap is None or self.jaw_radius is None or self.helix is not None:
            return None
        radius = (self.blank or self.sizes.tip_diameter) / 2
        # Several blanks side by side are cut as one.
        return SideView(radius, self.face * self.how_many, self.depth, self.across,
                        self.collar or USUAL_COLLAR, -self.jaw_gap, self.jaw_radius,
                        (self.nut_across or 0) / 2, self.nut or 0, self.centre, self._mandrel)  # fmt: skip


def steps(job: Job) -> tuple[Step, ...]:
    """In the order of the work."""
    return tuple(Step(code, _asks(code, job), *_figure(code, job)) for code in _ORDERS[job.school] if _done(code, job))


def _asks(code: str, job: Job) -> Asks | None:
    figure = _ASKS.get(code)
    return None if figure is Asks.SPAN and not job.spans else figure


def _done(code: str, job: Job) -> bool:
    """Whether a wheel like this has the step at all."""
    if code in ("mandrel_over", "chuck_over"):
        return job.carried
    if code == "tilt":
        return job.screw is not None
    return bool(job.family.key) or code not in ("key", "key_first")


def _figure(code: str, job: Job) -> tuple[float | None, float | None]:
    wanted = job.sizes
    match code:
        case "outside" | "turn_down":
            return wanted.tip_diameter - BLANK_LOW, wanted.tip_diameter
        case "bore" if job.family.bore:
            return float(job.family.bore), float(job.family.bore) + _BORE_HIGH
        case "part_off":
            return job.face - _FACE_OFF, job.face + _FACE_OFF
        case "runout" | "runout_chuck":
            return 0.0, true_enough(float(job.family.module), float(job.family.pressure_angle))
        case "measure" if job.spans:
            return wanted.span.low, wanted.span.high
        case _:
            return None, None


# A figure farther off than this was meant in another unit, or of something else; a runout over this many mm likewise.
_FAR = (0.8, 1.25)
_MOST_RUNOUT = 3.0


# A figure is shown to a micrometre: what is off by less is not off.
_SHOWN = 5e-4


def in_tolerance(step: Step, mm: float) -> bool:
    """Whether a figure is what was asked for; where nothing is asked any is."""
    return step.low is None or step.high is None or step.low - _SHOWN <= mm <= step.high + _SHOWN


def check_result(step: Step, mm: float) -> None:
    """Raises Refusal `not_positive`, `figure_far_off` (figure) for a figure that cannot be what was asked for."""
    if mm < 0 or (mm == 0 and step.asks is not Asks.RUNOUT):
        raise Refusal("not_positive", "figure", mm)
    if step.asks is Asks.RUNOUT and mm > _MOST_RUNOUT:
        raise Refusal("figure_far_off", "figure", mm, wanted=0)
    if (
        step.asks is not Asks.RUNOUT
        and step.low is not None
        and step.high is not None
        and not _FAR[0] * step.low <= mm <= _FAR[1] * step.high
    ):
        raise Refusal("figure_far_off", "figure", mm, wanted=round((step.low + step.high) / 2, 3))


@dataclass(frozen=True)
class Means:
    """What the shop has for a count: heads, rotary tables that divide it exactly, a wheel of the same count to copy, a
    larger one to cut down. chosen: what is to divide it, None where that is open."""

    head: bool
    table: bool
    copy: bool
    donor: bool
    chosen: Divider | None = None


# Blanks over this are bolted through their web where a rotary table is there; those under it are cut on the bar.
_LARGE, _SMALL = 160.0, 35.0


def propose(teeth: int, family: WheelFamily, means: Means) -> School:
    """The school that is least trouble with what there is."""
    tip = sizes(teeth, family).tip_diameter
    divides = means.head or means.table or means.chosen in (Divider.HEAD, Divider.TABLE)
    if means.donor and divides:
        return School.DONOR
    if tip > _LARGE and (means.table if means.chosen is None else means.chosen is Divider.TABLE):
        return School.BOLTED
    if divides:
        return School.ONE_SETTING if tip < _SMALL else School.MANDREL
    return School.TEMPLATE if means.copy and means.chosen in (None, Divider.WHEEL) else School.LATHE_ONLY
