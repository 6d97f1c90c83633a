"""What the Mill station says of an ask and of the trains for it."""

from fractions import Fraction

from valleywind.core.cutting.run_off import HAPPY_GRADE, Mark, slope_tolerance
from valleywind.core.helix.ask import HelixAsk, HelixMeaning
from valleywind.core.helix.check import given_lead
from valleywind.core.helix.lead import PairWay
from valleywind.core.helix.machine import Mill, PairsAt
from valleywind.core.helix.plan import LeadCandidate, LeadDrive, LeadOff, LeadSetUp, Load, MatePlan, Verdict, load
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.planner import Shortfall, ShortfallCause
from valleywind.core.trains.quadrant import Quadrant
from valleywind.core.units import MM_PER_INCH, spell, spell_degrees
from valleywind.wording.hobbing.answers import pitch_text, run_off_head
from valleywind.wording.numbers import Units, a, error, fixed, listed, off, percent, short_length, small, trimmed
from valleywind.wording.trains import LEAD_SHAFTS, obstacle, train_text, work

MEANINGS = {
    HelixMeaning.TEETH: "teeth of the wheel",
    HelixMeaning.FLUTES: "grooves",
    HelixMeaning.PITCH: "pitch of its teeth",
    HelixMeaning.PRESSURE_ANGLE: "pressure angle",
    HelixMeaning.HELIX: "helix angle",
    HelixMeaning.HAND: "hand of the helix",
    HelixMeaning.LEAD: "lead",
    HelixMeaning.DIAMETER: "diameter of the work",
    HelixMeaning.FACE: "length of the teeth or grooves",
    HelixMeaning.MATE: "the wheel it runs with",
    HelixMeaning.CUTTER: "diameter of the cutter",
    HelixMeaning.WITHIN: "allowed error of the lead",
    HelixMeaning.MACHINE: "machine",
}
CUT_SHORT = "Not every train was tried: that would take too long with so many wheels."
NO_MATE = "No train for the mate fits."
SHOP_END = "seen from the right-hand end of the table"


def description(ask: HelixAsk, units: Units) -> str:
    """The ask in words: `24 teeth, module 2, helix 30° left-hand, lead 301.59 mm`."""
    hand = f"{ask.wanted_hand}-hand"
    if ask.pitch is not None:
        parts = [f"{ask.teeth} teeth", pitch_text(ask.pitch)]
        if ask.angle is not None:
            parts.append(f"pressure angle {spell_degrees(ask.angle)}")
        parts.append(f"helix {angle_text(ask)} {hand}")
    else:
        parts = [] if ask.teeth is None else [f"{ask.teeth} {'groove' if ask.teeth == 1 else 'grooves'}"]
        parts.append(hand)
        if ask.diameter is not None:
            parts.append(f"{angle_text(ask)} on {short_length(ask.diameter, units)}")
    parts.append(f"lead {lead_text(ask.wanted_lead, units)}")
    if ask.face is not None:
        parts.append(f"{'face' if ask.wheel else 'length'} {short_length(ask.face, units)}")
    if ask.mate is not None:
        parts.append(f"runs with {ask.mate} teeth")
    if ask.cutter is not None:
        parts.append(f"cutter {short_length(ask.cutter, units)}")
    if ask.within is not None:
        parts.append(f"within {percent(float(ask.within))}")
    return ", ".join(parts)


def angle_text(ask: HelixAsk) -> str:
    """`30°`, `22.73°`; empty where it takes a diameter that is not said."""
    if ask.helix is not None:
        return spell_degrees(ask.helix)
    return "" if ask.degrees is None else f"{fixed(ask.degrees, 2)}°"


def lead_text(mm: Fraction | float, units: Units) -> str:
    """A lead to a hundredth of a mm."""
    return f"{trimmed(mm, 2)} mm" if units is Units.MM else f"{trimmed(float(mm) / float(MM_PER_INCH), 4)} in"


def assumptions(ask: HelixAsk, units: Units) -> list[str]:
    """What was taken for granted because nobody said."""
    texts = []
    if ask.hand is None:
        texts.append("Right-hand.")
    if ask.pitch is not None and ask.angle is None:
        texts.append("Pressure angle 20°.")
    if ask.face is None:
        what = "face" if ask.wheel else "length"
        texts.append(f"Run-off is told over {short_length(ask.shown_length, units)} of {what}.")
    if ask.degrees is None:
        texts.append("The angle to swing depends on the diameter, which is not said.")
    return texts


def pair_text(pair: PairWay) -> str:
    """`2 turns in, 1 out`"""
    out, into = pair.ratio.numerator, pair.ratio.denominator
    return f"{into} {'turn' if into == 1 else 'turns'} in, {out} out"


def pair_label(pair: PairWay, drive: LeadDrive) -> str | None:
    """`pair 1 : 2` as its record has it, `pair 1 : 2 turned` the other way round; None where there are no pairs."""
    if not drive.pairs:
        return None
    as_is = next((p for p in drive.pairs if Fraction(p.one, p.other) == pair.ratio), None)
    if as_is is not None:
        return f"pair {as_is.one} : {as_is.other}"
    turned = next((p for p in drive.pairs if Fraction(p.other, p.one) == pair.ratio), None)
    return f"pair {turned.one} : {turned.other} turned" if turned else f"pair {pair.name}"


def set_up_text(set_up: LeadSetUp) -> str:
    """`72/28 × 52/56, pair with 2 turns in, 1 out`"""
    train = train_text(set_up.train)
    return train if set_up.pair.ratio == 1 else f"{train}, pair with {pair_text(set_up.pair)}"


def head(verdict: Verdict) -> str:
    """The verdict in a word or two."""
    if not isinstance(verdict, LeadOff):
        return run_off_head(verdict)
    if verdict.within is not None:
        return {Mark.NONE: "Exact", Mark.GOOD: "Within the tolerance"}.get(verdict.mark, "Not good enough")
    return {
        Mark.NONE: "Exact", Mark.GOOD: "Good", Mark.RUNS: "Good enough", Mark.COARSE: "Coarse",
        Mark.NOT: "Not good enough",
    }[verdict.mark]  # fmt: skip


def verdict_text(candidate: LeadCandidate, ask: HelixAsk, drive: LeadDrive, units: Units) -> str:
    """What comes of this train."""
    gives = given_lead(LeadSetUp(candidate.train, candidate.setting), drive)
    verdict, face = candidate.verdict, short_length(ask.shown_length, units)
    what = "a tooth" if ask.wheel else "a groove"
    if verdict.mark is Mark.NONE:
        return f"The lead is {lead_text(gives, units)}, just as wanted."
    lead = f"The lead is {lead_text(gives, units)}, {off(gives / ask.wanted_lead - 1)}."
    um = verdict.um
    if um is None:
        return lead
    text = f"{lead} Error of {what} over {face}: {small(um, units)}."
    if not isinstance(verdict, LeadOff):
        across = ask.across
        assert across is not None
        allowed = small(slope_tolerance(HAPPY_GRADE, across, float(ask.shown_length)), units)
        text += f" Grade {HAPPY_GRADE} of ISO 1328-1 allows {allowed}."
    return text


def run_off_short(candidate: LeadCandidate, units: Units) -> str:
    """In the list: `−0.018 %`, with `3.6 µm`."""
    um = candidate.verdict.um
    gone = error(1 / (1 + candidate.error) - 1)
    return gone if um is None or candidate.error == 0 else f"{gone}, {small(um, units)}"


def reasons(candidate: LeadCandidate, units: Units) -> list[str]:
    """Why it does not go on, if it does not."""
    lines = [
        obstacle(o, candidate.train, candidate.placement, LEAD_SHAFTS, units) for o in candidate.placement.obstacles
    ]
    if not candidate.hand.right:
        lines.append("turns the work the wrong way for this hand")
    return lines + [
        f"needs {a(t) if n == 1 else f'{n} × {t}'}, which {'is' if n == 1 else 'are'} not held"
        for t, n in candidate.lacking.items()
    ]


def work_text(candidate: LeadCandidate) -> str:
    """`keep 2, change 2; change the pair`"""
    if candidate.handling.none:
        return work(candidate.handling)
    if candidate.handling.no_wheel:
        return "change the pair only"
    return work(candidate.handling) + ("; change the pair" if candidate.handling.levers else "")


def direction(candidate: LeadCandidate, ask: HelixAsk) -> str:
    """What makes the work turn the right way."""
    hand, turns = ask.wanted_hand, turning_text(ask.wanted_hand)
    if not candidate.hand.known:
        return f"Which way the drive turns the work is not on record. Turn it by hand and see: {turns}"
    if not candidate.hand.right:
        return f"It turns the wrong way. One idler more or less is needed. {turns[:1].upper()}{turns[1:]}"
    if candidate.hand.lever is None:
        return f"With these meshes the helix comes out {hand}-hand: {turns}"
    return f"Reversing lever {'as usual' if candidate.hand.lever else 'reversed'}, for a {hand}-hand helix: {turns}"


def turning_text(hand: Hand) -> str:
    """How the work turns, in both senses of the table."""
    way, other = ("clockwise", "anticlockwise") if hand is Hand.RIGHT else ("anticlockwise", "clockwise")
    return f"with the table moving left the work turns {way}, {SHOP_END}; moving right, {other}."


def load_text(candidate: LeadCandidate, drive: LeadDrive, others: list[LeadCandidate]) -> str | None:
    """Where a short lead loads the gearing heavily, and what drives it with less."""
    match load(candidate):
        case Load.DRIVE:
            times = trimmed(candidate.value, 2)
            return (
                f"Heavy load: the head’s worm turns {times} times for one turn of the table’s screw. Drive it by the "
                "head’s crank instead of the table’s handle, and take light cuts."
            )
        case Load.WHEELS:
            times = trimmed(candidate.train.ratio, 2)
            lighter = next((c for c in others if load(c) is None and c.setting != candidate.setting), None)
            text = f"Heavy load on the change wheels: they gear up {times} times."
            if lighter is None:
                return text
            label = pair_label(lighter.setting, drive)
            return f"{text} With {label}, {train_text(lighter.train)} runs lighter."
        case None:
            return None


def one_idler_text(wrong: LeadCandidate, righted: LeadCandidate | None) -> str | None:
    """What puts a wrong turning way right: an idler out, or which one in."""
    if wrong.hand.right or righted is None:
        return None
    if len(righted.train.idlers) < len(wrong.train.idlers):
        return "Without an idler it turns the right way."
    stage = next(s for s, t in zip(righted.train.stages, wrong.train.stages, strict=True) if s != t)
    return f"With {a(stage.idlers[0])} as idler between {stage.driver} and {stage.driven} it turns the right way."


def one_more_text(candidate: LeadCandidate | None) -> str | None:
    """What the best single new wheel would bring."""
    if candidate is None or not candidate.lacking:
        return None
    new = next(iter(candidate.lacking))
    parts = [error(1 / (1 + candidate.error) - 1), head(candidate.verdict).lower()]
    return f"With {a(new)}: {'; '.join(dict.fromkeys(parts))}."


def shortfall_text(short: Shortfall | None, drive: LeadDrive, name: str, units: Units) -> str | None:
    """Nothing meets the ask: how far off the best is, and why. A small ratio is a long lead."""
    if short is None:
        return None
    best = "Nothing fits. "
    if short.best_error is not None:
        best = f"The best that fits is {off(1 / (1 + short.best_error) - 1)}. "
    whole = drive.head * drive.screw
    match short.cause:
        case ShortfallCause.LESS_THAN_LEAST if short.least is not None:
            return f"{best}The longest lead of {name}’s wheels and pairs is {lead_text(whole / short.least, units)}."
        case ShortfallCause.MORE_THAN_MOST if short.most is not None:
            return f"{best}The shortest lead of {name}’s wheels and pairs is {lead_text(whole / short.most, units)}."
        case ShortfallCause.NEAR_ONES_DO_NOT_FIT:
            return f"{best}Closer trains exist among the wheels, but they do not fit on the quadrant."
        case ShortfallCause.NEVER_CLOSES:
            return f"{best}No train of {name}’s wheels reaches from shaft to shaft. Check the lead quadrant’s record."
        case ShortfallCause.NOTHING_NEAR:
            return f"{best}{name}’s wheels and pairs give nothing closer."
        case _:
            return f"{name} has too few wheels for a train."


def mate_text(plan: MatePlan, wheel: HelixAsk, drive: LeadDrive, units: Units) -> str:
    """How the mate is cut, and on parallel shafts whether the pair tracks."""
    ask, lever = plan.ask, plan.candidate.hand.lever
    mate = f"The mate, {ask.teeth} teeth, {ask.wanted_hand}-hand"
    parallel = ask.helix == wheel.helix and ask.wanted_hand is not wheel.wanted_hand
    if plan.same_error and plan.same_train:
        if ask.wanted_hand is wheel.wanted_hand:
            return f"{mate}: the same wheels and pair, nothing to change."
        turned = "the reversing lever the other way" if lever is not None else "an idler more or less for the other way"
        tracks = " Both leads are off alike, so the pair tracks." if parallel else ""
        return f"{mate}: the same wheels and pair, {turned}.{tracks}"
    train = train_text(plan.candidate.train)
    label = pair_label(plan.candidate.setting, drive)
    train = f"{train}, {label}" if label else train
    if not parallel:
        return f"{mate}: {train}; its lead is {off(1 / (1 + plan.candidate.error) - 1)}."
    if plan.same_error:
        return f"{mate}: {train}. Both leads have the same error, so the pair tracks."
    apart = small(plan.apart_um, units)
    return f"{mate}: {train}. The two run off differently by {apart} over the face."


def now_text(lead: Fraction, units: Units) -> str:
    """What the wheels that are on give."""
    return f"Gives a lead of {lead_text(lead, units)}."


def chain(set_up: LeadSetUp, mill: Mill, drive: LeadDrive, units: Units) -> list[str]:
    """What drives what, from the table's screw to the work, in the order in which it lies."""
    wheels, label = train_text(set_up.train), pair_label(set_up.pair, drive)
    parts = [wheels]
    if label is not None:
        pair = f"{label}, {pair_text(set_up.pair)}"
        match mill.pairs_at:
            case PairsAt.BEFORE:
                parts = [pair, wheels]
            case PairsAt.AFTER:
                parts = [wheels, pair]
            case None:
                parts = [f"{wheels} and {pair}, in an order that is not on record"]
    return [f"table screw {short_length(drive.screw, units)}", *parts, f"head {spell(drive.head)} : 1"]


def not_known(mill: Mill, drive: LeadDrive) -> list[str]:
    """What is not known of the mill and so was not looked at, a sentence each."""
    sentences = []
    if not isinstance(drive.box.quadrant, Quadrant):
        sentences.append("Room is not checked: the lead drive’s quadrant is not measured.")
    if drive.box.drive is None:
        sentences.append("Which way the lead drive turns the work is not on record.")
    if mill.swing is None:
        sentences.append("How far the table swings is not on record.")
    missing = [
        name
        for name, known in (
            ("the table’s size", mill.table), ("its travel", mill.travel), ("the way of the saddle", mill.saddle),
            ("the arbors", mill.arbors),
        )
        if not known
    ]  # fmt: skip
    if missing:
        verb = "is" if len(missing) == 1 else "are"
        sentences.append(f"Not on record, so not checked, {verb} {listed(missing)}.")
    return sentences
