"""The lathe's set-up sheet."""

import math

from valleywind.core.lathe.check import ToCheck, feed_to_check, to_check
from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.pickup import next_start, pick_up
from valleywind.core.lathe.plan import Candidate
from valleywind.core.lathe.thread import Ask, FeedAsk, ThreadAsk, say
from valleywind.wording.lathe import answers as words
from valleywind.wording.lathe import pickup
from valleywind.wording.numbers import Units, error, fixed, length
from valleywind.wording.sheet import Fact, Lines, Shafts, Sheet, SheetStep, isolated, shaft_rows, spacer
from valleywind.wording.trains import LATHE_SHAFTS, drawing_notes, not_checked, room, steps, thumb_rule, train_text


def sheet(candidate: Candidate, ask: Ask, lathe: Lathe, units: Units) -> Sheet:
    """The sheet for one train."""
    train = candidate.train
    fed = isinstance(ask, FeedAsk)
    expected = feed_to_check(candidate.value, ask.lead) if fed else to_check(candidate.value, ask.lead)
    return Sheet(
        title=say(ask),
        machine=lathe.name,
        figure=str(words.lead_figure(candidate, ask, units)),
        train=train_text(train),
        head=words.verdict_head(candidate.verdict),
        verdict=words.verdict_text(candidate, units),
        facts=tuple(_facts(candidate, ask, lathe, units)),
        shafts=(
            Shafts(
                "Shafts, from machine outward",
                tuple(shaft_rows(train, candidate.placement, LATHE_SHAFTS, lathe.family, units)),
            ),
        ),
        steps=tuple(_steps(candidate, ask, lathe, units)),
        check=Lines("Check before cutting", tuple(_check(expected, fed, units))),
        check_over=str(expected.turns),
        after=()
        if isinstance(ask, FeedAsk)
        else (Lines("Picking up", tuple(_picking_up(candidate, ask, lathe, units))),),
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
    if notes := drawing_notes(candidate.train, placement, lathe.quadrant, LATHE_SHAFTS):
        facts.append(Fact("Drawing", " ".join(notes)))
    return facts


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
    on = steps(train, placement, LATHE_SHAFTS, spacer(lathe.family, units), units)
    return [
        isolated("lathe", " Open the gear cover.", told_of_supply=False),
        *map(
            SheetStep, [*not_checked(lathe.quadrant), *filter(None, [thumb_rule(train, placement, LATHE_SHAFTS)]), *on]
        ),
    ]


def _closing_step() -> SheetStep:
    return SheetStep(
        "Take the paper out of the mesh. Oil the studs. Turn the spindle once by hand. Close the cover.",
        "Keep fingers, rags and sleeves clear. Cover on before power.",
    )


def _check(expected: ToCheck, fed: bool, units: Units) -> list[str]:
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


def _picking_up(candidate: Candidate, ask: ThreadAsk, lathe: Lathe, units: Units) -> list[str]:
    lines = [pickup.text(pick_up(candidate.value, lathe.screw_lead, lathe.dials), units)]
    driver, cut = candidate.train.stages[0].driver, candidate.value / ask.starts
    onward = next_start(ask.starts, cut, driver, candidate.setting.first.ratio)
    return lines + ([pickup.next_start_text(onward, units)] if onward else [])
