"""What the Hobber station says of an ask and of the trains for it."""

from fractions import Fraction
from typing import Any

from valleywind.core.cutting.run_off import HAPPY_GRADE, Mark, RunOff, slope_tolerance
from valleywind.core.cutting.wheel import cut_wheel
from valleywind.core.hobbing.ask import HobAsk, HobMeaning
from valleywind.core.hobbing.machine import Box, FeedWay, Hobber, IndexConstant
from valleywind.core.hobbing.ratios import Closes
from valleywind.core.hobbing.set_up import HobPlan, SetUp, SetUpKind
from valleywind.core.hobbing.setting import table_now
from valleywind.core.teeth.ask_line import spell_pitch
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.direction import Hand, HandAdvice, Sense
from valleywind.core.trains.model import Train
from valleywind.core.trains.planner import Candidate
from valleywind.core.trains.quadrant import Quadrant
from valleywind.core.units import spell, spell_degrees
from valleywind.wording.hobbing.boxes import BOX_SHAFTS, BOXES
from valleywind.wording.numbers import Units, a, count, fixed, in_words, length, listed, short_length, small, trimmed
from valleywind.wording.trains import obstacle, train_text

MEANINGS = {
    HobMeaning.TEETH: "teeth of the wheel",
    HobMeaning.PITCH: "pitch of its teeth",
    HobMeaning.PRESSURE_ANGLE: "pressure angle",
    HobMeaning.HELIX: "helix and its hand",
    HobMeaning.FACE: "face of the wheel",
    HobMeaning.STARTS: "starts of the hob",
    HobMeaning.HOB_HAND: "hand of the hob",
    HobMeaning.HOB_DIAMETER: "diameter of the hob",
    HobMeaning.SPEED: "turns of the hob in a minute",
    HobMeaning.MATE: "the wheel it runs with",
    HobMeaning.FEED: "feed for one turn of the table",
    HobMeaning.FEED_WAY: "way of the feed",
    HobMeaning.BLANKS: "blanks on the arbor",
    HobMeaning.DEPTH: "whole depth, as engraved on the hob",
    HobMeaning.MACHINE: "machine",
}
CUT_SHORT = "Not every train was tried: that would take too long with so many wheels."
NEVER_DISENGAGE = (
    "Never disengage and never change the feed until the wheel is done. Come back by reversing everything."
)
EXACT = "exact"


def pitch_text(pitch: Pitch) -> str:
    """`module 2`, `12 DP`, `1/4 in circular pitch`."""
    match pitch.system:
        case PitchSystem.MODULE:
            return f"module {spell(pitch.value)}"
        case PitchSystem.DIAMETRAL:
            return f"{spell(pitch.value)} DP"
        case PitchSystem.CIRCULAR:
            return f"{spell_pitch(pitch).removesuffix('cp')} in circular pitch"


def starts_text(starts: int) -> str:
    return "one-start" if starts == 1 else f"{in_words(starts)}-start"


def description(ask: HobAsk, units: Units) -> str:
    """The ask in words: `24 teeth, module 2, helix 30° left-hand, face 20 mm`."""
    parts = [f"{ask.teeth} teeth"]
    if ask.pitch is not None:
        parts.append(pitch_text(ask.pitch))
    if ask.angle is not None:
        parts.append(f"pressure angle {spell_degrees(ask.angle)}")
    parts.append(f"helix {spell_degrees(ask.helix)} {ask.hand}-hand" if ask.helical else "spur")
    if ask.face is not None:
        parts.append(f"face {short_length(ask.face, units)}")
    if ask.starts > 1 or ask.hob_hand is Hand.LEFT:
        parts.append(f"{starts_text(ask.starts)} {'left-hand ' if ask.hob_hand is Hand.LEFT else ''}hob")
    if ask.mate is not None:
        parts.append(f"runs with {ask.mate} teeth")
    if ask.feed is not None:
        parts.append(f"feed {short_length(ask.feed, units)} per table turn")
    if ask.blanks > 1:
        parts.append(count(ask.blanks, "blank"))
    return ", ".join(parts)


def assumptions(ask: HobAsk, machine: Hobber, units: Units) -> list[str]:
    """What was taken for granted because nobody said."""
    texts = []
    if ask.feed is None:
        texts.append(f"Feed: about {short_length(ask.wished_feed, units)} for one turn of the table.")
    if ask.pitch is not None and ask.angle is None:
        texts.append("Pressure angle 20°.")
    if ask.starts == 1 and ask.hob_hand is Hand.RIGHT:
        texts.append("Hob: one start, right-hand.")
    if ask.face is None:
        texts.append(f"Run-off is told over {short_length(ask.shown_face, units)} of face.")
    if ask.way is None and len(machine.feeds) > 1:
        texts.append(f"The hob feeds {machine.feeds[0]}.")
    return texts


def head(set_up: SetUp) -> str:
    """The verdict in a word or two."""
    if isinstance(set_up.index.verdict, Closes) and set_up.kind is SetUpKind.SPUR:
        return "Exact" if set_up.index.verdict.exact else "Does not close"
    assert set_up.run_off is not None
    return run_off_head(set_up.run_off)


def run_off_head(run_off: RunOff) -> str:
    match run_off.mark:
        case Mark.NONE:
            return "No run-off"
        case Mark.GOOD:
            return f"Good: grade {run_off.grade}"
        case Mark.RUNS:
            return f"Runs: grade {run_off.grade}"
        case Mark.COARSE:
            return f"Coarse: grade {run_off.grade}"
        case Mark.NOT:
            return "Not good enough"


def run_off_text(run_off: RunOff, ask: HobAsk, units: Units) -> str:
    """`Error over 20 mm of face: 0.24 µm. Grade 8 of ISO 1328-1 allows 17 µm.`"""
    face = short_length(ask.shown_face, units)
    if run_off.mark is Mark.NONE:
        return f"No error over {face} of face."
    wheel = cut_wheel(ask)
    diameter = wheel.pitch_diameter if wheel else float(2 * ask.teeth)
    allowed = small(slope_tolerance(HAPPY_GRADE, diameter, float(ask.shown_face)), units)
    text = f"Error over {face} of face: {small(run_off.um, units)}. Grade {HAPPY_GRADE} allows {allowed}."
    if run_off.pair:
        text += " Its mate, cut with the same trains, has the same error: the pair tracks."
    return text


def verdict(set_up: SetUp, ask: HobAsk, units: Units) -> str:
    """What comes of these trains."""
    match set_up.kind:
        case SetUpKind.SPUR:
            if isinstance(set_up.index.verdict, Closes) and set_up.index.verdict.exact:
                turns = trimmed(Fraction(ask.teeth, ask.starts), 3)
                return f"{turns} turns of the hob turn the table once, exactly: it comes out as {ask.teeth}."
            divides = indexed_text(set_up, ask)
            return f"It divides into {divides}, not {ask.teeth}: the last tooth does not meet the first."
        case SetUpKind.MADE_UP:
            does = "adds" if set_up.adds else "takes away"
            rest = "the rest and the helix" if ask.helical else "the rest"
            made = f"The wheels alone divide into {indexed_text(set_up, ask)}; the differential {does} {rest}."
            assert set_up.run_off is not None
            if set_up.run_off.mark is Mark.NONE:
                return f"{made} It comes out as {ask.teeth} without any run-off, whatever the feed comes to."
            return f"{made} {run_off_text(set_up.run_off, ask, units)}"
        case SetUpKind.WITHOUT:
            assert set_up.run_off is not None
            text = run_off_text(set_up.run_off, ask, units)
            return f"{text} The index train counts on this feed: change none of the feed wheels."
        case SetUpKind.HELICAL:
            assert set_up.run_off is not None
            return run_off_text(set_up.run_off, ask, units)


def indexed_text(set_up: SetUp, ask: HobAsk) -> str:
    """The count that the index train alone divides into: `107.0093`."""
    indexed = set_up.indexed or set_up.index.setting.constant * ask.starts / set_up.index.train.ratio
    return str(indexed) if indexed.denominator == 1 else fixed(indexed, 4)


def short_run_off(set_up: SetUp, units: Units) -> str:
    """In the list: `exact`, `0.24 µm`."""
    if set_up.run_off is None or set_up.run_off.um == 0:
        return (
            "exact"
            if set_up.run_off is None and set_up.index.verdict.good
            else "no run-off"
            if set_up.run_off
            else "open"
        )
    return f"{small(set_up.run_off.um, units)} run-off"


def feed_text(set_up: SetUp, units: Units) -> str:
    """`feed 1.02 mm`"""
    if set_up.feed is None:
        return "feed not known"
    return f"feed {length(set_up.feed.value, units, 2)}"


def faster_text(set_up: SetUp) -> str | None:
    """Whether the work turns faster than for a spur wheel."""
    if set_up.faster is None:
        return None
    return f"The work turns {'faster' if set_up.faster else 'slower'} than for a spur wheel."


def work_text(set_up: SetUp) -> str:
    """`already on the machine`, `keep 5, fit 2 wheels`."""
    if set_up.is_on:
        return "already on the machine"
    parts = [f"keep {set_up.kept}"] if set_up.kept else []
    parts += [f"fit {count(set_up.put_on, 'wheel')}"] if set_up.put_on else []
    return ", ".join(parts) or "only levers"


def moved_text(set_up: SetUp) -> list[str]:
    """`The 37 moves from the feed box to the index box.`, `The 40 and the 48 move …`"""
    between: dict[tuple[Box, Box], list[str]] = {}
    for move in set_up.moved:
        between.setdefault((move.origin, move.to), []).append(f"the {move.teeth}")
    return [
        f"{listed(wheels).capitalize()} move{'s' if len(wheels) == 1 else ''} "
        f"from the {BOXES[origin]} box to the {BOXES[to]} box."
        for (origin, to), wheels in between.items()
    ]


def reasons(set_up: SetUp, units: Units) -> list[str]:
    """Why it cannot be set up, box by box."""
    lines = []
    for box, part in parts(set_up):
        names = BOX_SHAFTS[box]
        lines += [
            f"{BOXES[box]} box: {obstacle(o, part.train, part.placement, names, units)}"
            for o in part.placement.obstacles
        ]
        if not part.hand.right:
            lines.append(f"{BOXES[box]} box: turns the wrong way, one idler more or less is needed")
    lines += [
        f"needs {a(t) if n == 1 else f'{n} × {t}'}, which {'is' if n == 1 else 'are'} not held"
        for t, n in set_up.lacking.items()
    ]
    return lines


def parts(set_up: SetUp) -> list[tuple[Box, Candidate[Any, Any]]]:
    """The boxes in the order in which they are set up, with their trains."""
    every = {Box.INDEX: set_up.index, Box.DIFFERENTIAL: set_up.differential, Box.FEED: set_up.feed}
    return [(box, part) for box, part in every.items() if part is not None]


def direction(box: Box, advice: HandAdvice, ask: HobAsk, machine: Hobber, way: FeedWay) -> str:
    """What makes a box turn the right way."""
    table = table_now(machine, ask.hob_hand)
    sense = {Sense.CLOCKWISE: " clockwise from above", Sense.ANTICLOCKWISE: " anticlockwise from above", None: ""}
    wanted = {
        Box.INDEX: f"the table turns{sense[table]}, as a {ask.hob_hand}-hand hob needs it",
        Box.FEED: f"the hob feeds {way}",
        Box.DIFFERENTIAL: (
            f"the differential turns the work as a {ask.hand}-hand wheel needs it"
            if ask.hand
            else "the differential turns the work the way it must"
        ),
    }[box]
    name = BOXES[box].capitalize()
    if not advice.known:
        return f"{name}: which way it turns is not on record. Turn it by hand and see that {wanted}."
    if not advice.right:
        return f"{name}: turns the wrong way. One idler more or less is needed, so that {wanted}."
    if advice.lever is None:
        return f"{name}: with these meshes {wanted}."
    return f"{name}: reversing lever {'as usual' if advice.lever else 'reversed'}: {wanted}."


def constant_text(constant: IndexConstant) -> str:
    """`constant 48, reversing pair 48/24`"""
    pair = f", reversing pair {constant.pair[0]}/{constant.pair[1]}" if constant.pair else ""
    return f"constant {spell(constant.constant)}{pair}"


def ways_out(plan: HobPlan) -> list[tuple[str, SetUp]]:
    """What else would bring a count that has no exact train, each with its set-up."""
    ways = []
    if plan.one_more is not None:
        new = next(iter(plan.one_more.lacking))
        ways.append((f"With {a(new)}, made or borrowed: {_train(plan.one_more.index.train)} is exact.", plan.one_more))
    if plan.other_constant is not None:
        other = plan.other_constant.index.setting
        train = _train(plan.other_constant.index.train)
        ways.append((f"With {constant_text(other)}: {train} is exact.", plan.other_constant))
    if plan.more_starts is not None:
        starts, set_up = plan.more_starts
        same = plan.ask.teeth % starts == 0
        after = (
            "each start cuts the same teeth each turn, so an error of the hob shows on every second tooth"
            if same and starts == 2
            else "each start cuts the same teeth each turn, so an error of the hob shows"
            if same
            else "all starts cut every tooth in turn"
        )
        train = _train(set_up.index.train)
        ways.append((f"With a {starts_text(starts)} hob: {train} is exact; {after}.", set_up))
    return ways


def _train(train: Train) -> str:
    return train_text(train)


def shortfall(plan: HobPlan) -> str | None:
    """Why there is no exact train, or nothing at all."""
    ask = plan.ask
    if plan.exact or (plan.set_ups and plan.set_ups[0].kind is SetUpKind.WITHOUT):
        return None
    usual = plan.hobber.index_for(ask.teeth)
    none = f"No index train of these wheels is exact for {ask.teeth} ({constant_text(usual)})."
    if plan.unfit is not None:
        none = f"An exact index train for {ask.teeth} is held, but none fits."
    if plan.set_ups:
        return f"{none} The differential makes it up."
    if plan.hobber.differential is None:
        return f"{none} Without a differential nothing else can make it up."
    return f"{none} With these wheels the differential cannot make it up either."


def _boxes(boxes: list[Box]) -> str:
    """`index box`, `index and feed boxes`"""
    return f"{listed([BOXES[box] for box in boxes])} box{'es' if len(boxes) > 1 else ''}"


def not_known(machine: Hobber, boxes: list[Box]) -> list[str]:
    """What is not known of the hobber, a sentence each, for the boxes that are used."""
    sentences = []
    unmeasured = [box for box in boxes if not isinstance(machine.boxes[box].quadrant, Quadrant)]
    if unmeasured:
        sentences.append(f"Room is not checked in the {_boxes(unmeasured)}.")
    turning = [box for box in boxes if machine.boxes[box].drive is None]
    if turning:
        turn = "turns" if len(turning) == 1 else "turn"
        sentences.append(f"Which way the {_boxes(turning)} {turn} is not on record.")
    if machine.table is None:
        sentences.append("Which way the table turns is not on record.")
    if machine.feed is None:
        sentences.append("The feed constant is not on record, so no feed train is planned.")
    return sentences
