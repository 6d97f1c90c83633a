"""The set-up sheet: shaft by shaft from machine outward, in the order of the work, with the proof and cautions.

In the texts `**` stands round what is to be set strongly: tooth numbers, distances, readings.
"""

import math
from dataclasses import dataclass

from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.pickup import next_start, pick_up
from valleywind.core.lathe.plan import Candidate
from valleywind.core.lathe.proof import Proof, feed_proof, proof
from valleywind.core.lathe.thread import Ask, FeedAsk, say
from valleywind.core.trains.model import Role, Train
from valleywind.wording.lathe import answers as words
from valleywind.wording.lathe import pickup
from valleywind.wording.numbers import Units, error, fixed, length, short_length
from valleywind.wording.trains import LATHE_SHAFTS, not_checked, room, steps, thumb_rule, train_text, where

AID = (
    "An aid to calculation: the machine’s own manual, the local safety rules and, for supply and guarding, "
    "a licensed person come first."
)


@dataclass(frozen=True)
class SheetStep:
    """One thing to do. `caution` is a short line where a hazard is."""

    text: str
    caution: str | None = None


@dataclass(frozen=True)
class Fact:
    label: str
    text: str


@dataclass(frozen=True)
class ShaftRow:
    """A shaft of the train: what sits in the inner and in the outer place, and where the shaft is."""

    shaft: str
    inner: str
    outer: str
    where: str


@dataclass(frozen=True)
class Sheet:
    """Everything on one page."""

    title: str
    machine: str
    train: str
    figure: words.Figure
    verdict_head: str
    verdict: str
    facts: tuple[Fact, ...]
    shafts: tuple[ShaftRow, ...]
    steps: tuple[SheetStep, ...]
    proof: tuple[str, ...]
    picking_up: tuple[str, ...]
    scratch_turns: int
    aid: str


def sheet(candidate: Candidate, ask: Ask, lathe: Lathe, units: Units) -> Sheet:
    """The sheet for one train."""
    train = candidate.train
    fed = isinstance(ask, FeedAsk)
    expected = feed_proof(candidate.value, ask.lead) if fed else proof(candidate.value, ask.lead)
    return Sheet(
        title=say(ask),
        machine=lathe.name,
        train=train_text(train),
        figure=words.lead_figure(candidate, ask, units),
        verdict_head=words.verdict_head(candidate.verdict),
        verdict=words.verdict_text(candidate, units),
        facts=tuple(_facts(candidate, ask, lathe, units)),
        shafts=tuple(_shaft_row(candidate, lathe, shaft, units) for shaft in range(train.shafts)),
        steps=tuple(_steps(candidate, ask, lathe, units)),
        proof=tuple(_proof(expected, fed, units)),
        picking_up=tuple(_picking_up(candidate, ask, lathe, units)),
        scratch_turns=expected.turns,
        aid=AID,
    )


def _facts(candidate: Candidate, ask: Ask, lathe: Lathe, units: Units) -> list[Fact]:
    placement = candidate.placement
    ratio = candidate.train.ratio
    facts = [
        Fact("Feed" if isinstance(ask, FeedAsk) else "Thread", words.description(ask, units)),
        Fact("Ratio", f"{ratio.numerator}/{ratio.denominator} = {fixed(ratio, 6)}"),
        Fact("Error", error(candidate.error)),
        Fact("Direction" if isinstance(ask, FeedAsk) else "Hand", words.direction_text(candidate.hand, ask)),
    ]
    if levers := words.levers_text(candidate, lathe):
        facts.append(Fact("Levers", levers))
    if placement.fits and candidate.train.shafts > 2 and placement.swing_known:
        facts.append(Fact("Swing", f"{fixed(math.degrees(placement.swing), 0)}° to slot A"))
    if placement.fits:
        facts.append(Fact("Room", room(placement, lathe.quadrant, units)))
    return facts


def _places(train: Train, lathe: Lathe, shaft: int, units: Units) -> list[str]:
    """Inner and outer place of a shaft; a place without wheel holds a spacer as wide as a wheel's face."""
    spacer = _spacer(lathe, units)
    names = [spacer, spacer]
    for wheel in train.on_shaft(shaft):
        role = "idler" if wheel.role is Role.IDLER else wheel.role.value
        names[wheel.plane] = f"**{wheel.teeth}** {role}"
    return names


def _shaft_row(candidate: Candidate, lathe: Lathe, shaft: int, units: Units) -> ShaftRow:
    train = candidate.train
    inner, outer = _places(train, lathe, shaft, units)
    return ShaftRow(
        LATHE_SHAFTS.of(train, shaft).capitalize(),
        inner,
        outer,
        where(train, candidate.placement, shaft, LATHE_SHAFTS, units),
    )


def _steps(candidate: Candidate, ask: Ask, lathe: Lathe, units: Units) -> list[SheetStep]:
    if candidate.handling.none:
        return [SheetStep("The train is on already."), SheetStep(words.direction_text(candidate.hand, ask))]
    levers = words.levers_text(candidate, lathe)
    set_levers = [SheetStep(f"{levers} {words.direction_text(candidate.hand, ask)}" if levers
                       else words.direction_text(candidate.hand, ask))]  # fmt: skip
    if candidate.handling.no_wheel:
        return [
            SheetStep(
                "The wheels stay as they are.", "Move levers with the spindle stopped, or as the lathe’s manual says."
            ),
            *set_levers,
        ]
    return [*_wheel_steps(candidate, lathe, units), *set_levers, _closing_step()]


def _wheel_steps(candidate: Candidate, lathe: Lathe, units: Units) -> list[SheetStep]:
    train, placement = candidate.train, candidate.placement
    on = steps(train, placement, LATHE_SHAFTS, _spacer(lathe, units), units)
    return [
        SheetStep(
            "Isolate the lathe, plug out or switch locked off. Open the gear cover.", "Not before it is isolated."
        ),
        *map(
            SheetStep, [*not_checked(lathe.quadrant), *filter(None, [thumb_rule(train, placement, LATHE_SHAFTS)]), *on]
        ),
    ]


def _spacer(lathe: Lathe, units: Units) -> str:
    """What fills a place without wheel: as wide as a wheel's face, where that is known."""
    return f"spacer {short_length(lathe.family.face, units)}" if lathe.family.face else "spacer"


def _closing_step() -> SheetStep:
    return SheetStep(
        "Take the paper out of the mesh. Oil the studs. Turn the spindle once by hand. Close the cover.",
        "Fingers, rag and sleeves clear. Cover on before power.",
    )


def _proof(expected: Proof, fed: bool, units: Units) -> list[str]:
    digits = 2 if units is Units.MM else 1
    wanted = length(expected.wanted_length, units, digits)
    reads = length(expected.length, units, digits)
    note = "" if reads == wanted else f" (exact would be {wanted})"
    if fed:
        turns = "1 spindle turn moves" if expected.turns == 1 else f"{expected.turns} spindle turns move"
        return [f"By hand or at low speed: {turns} the tool **{reads}**{note}."]
    leads = "1 lead measures" if expected.turns == 1 else f"{expected.turns} leads measure"
    return [
        f"Scratch pass: {leads} **{reads}**{note}.",
        f"By hand: {expected.travel_turns} spindle turns move the carriage "
        f"**{length(expected.travel, units, digits)}**.",
    ]


def _picking_up(candidate: Candidate, ask: Ask, lathe: Lathe, units: Units) -> list[str]:
    if isinstance(ask, FeedAsk):
        return []
    lines = [pickup.text(pick_up(candidate.value, lathe.screw_lead, lathe.dials), units)]
    driver, cut = candidate.train.stages[0].driver, candidate.value / ask.starts
    onward = next_start(ask.starts, cut, driver, candidate.setting.first.ratio)
    return lines + ([pickup.next_start_text(onward, units)] if onward else [])
