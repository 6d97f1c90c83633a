"""What the Hobber station says of an ask and of the trains for it."""

from fractions import Fraction

from valleywind.core.hobbing.ask import HobAsk, Meant
from valleywind.core.hobbing.machine import Box, FeedWay, Hobber, IndexConstant
from valleywind.core.hobbing.plan import shown_face
from valleywind.core.hobbing.ratios import HAPPY_GRADE, Closes, Mark, RunOff, slope_tolerance
from valleywind.core.hobbing.set_up import HobPlan, SetUp, SetUpKind
from valleywind.core.hobbing.setting import table_now
from valleywind.core.hobbing.wheel import hobbed_wheel
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.teeth.said import spell_pitch
from valleywind.core.trains.direction import Hand, HandAdvice, Sense
from valleywind.core.trains.model import Train
from valleywind.core.trains.quadrant import Quadrant
from valleywind.core.units import spell
from valleywind.wording.numbers import Units, a, count, fixed, in_words, length, listed, short_length, small, trimmed
from valleywind.wording.trains import BOX_SHAFTS, BOXES, obstacle, train_text

MEANINGS = {
    Meant.TEETH: "teeth of the wheel",
    Meant.PITCH: "pitch of its teeth",
    Meant.PRESSURE_ANGLE: "pressure angle",
    Meant.HELIX: "helix and its hand",
    Meant.FACE: "face of the wheel",
    Meant.STARTS: "starts of the hob",
    Meant.HOB_HAND: "hand of the hob",
    Meant.HOB_DIAMETER: "diameter of the hob",
    Meant.SPEED: "turns of the hob in a minute",
    Meant.MATE: "the wheel it runs with",
    Meant.FEED: "feed for one turn of the table",
    Meant.FEED_WAY: "way of the feed",
    Meant.BLANKS: "blanks on the arbor",
    Meant.DEPTH: "whole depth, as engraved on the hob",
    Meant.MACHINE: "machine",
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
        parts.append(f"pressure angle {spell(ask.angle)}°")
    parts.append(f"helix {spell(ask.helix)}° {ask.hand}-hand" if ask.helical else "spur")
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
    found = []
    if ask.feed is None:
        found.append(f"Feed: about {short_length(ask.wished_feed, units)} for one turn of the table.")
    if ask.pitch is not None and ask.angle is None:
        found.append("Pressure angle 20°.")
    if ask.starts == 1 and ask.hob_hand is Hand.RIGHT:
        found.append("Hob: one start, right-hand.")
    if ask.face is None:
        found.append(f"Run-off is told over {short_length(shown_face(ask), units)} of face.")
    if ask.way is None and len(machine.feeds) > 1:
        found.append(f"The hob feeds {machine.feeds[0]}.")
    return found


def head(found: SetUp) -> str:
    """The verdict in a word or two."""
    if isinstance(found.index.verdict, Closes) and found.kind is SetUpKind.SPUR:
        return "Exact" if found.index.verdict.exact else "Does not close"
    assert found.run_off is not None
    return run_off_head(found.run_off)


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
    """`A tooth runs off 0.24 µm over 20 mm of face. Grade 8 of ISO 1328-1 allows 17 µm.`"""
    face = short_length(shown_face(ask), units)
    if run_off.mark is Mark.NONE:
        return f"A tooth runs off nothing over {face} of face."
    wheel = hobbed_wheel(ask)
    diameter = wheel.pitch_diameter if wheel else float(2 * ask.teeth)
    allowed = small(slope_tolerance(HAPPY_GRADE, diameter, float(shown_face(ask))), units)
    text = f"A tooth runs off {small(run_off.um, units)} over {face} of face. Grade {HAPPY_GRADE} allows {allowed}."
    if run_off.pair:
        text += " Its mate, cut with the same trains, runs off alike: the pair tracks."
    return text


def verdict(found: SetUp, ask: HobAsk, units: Units) -> str:
    """What comes of these trains."""
    match found.kind:
        case SetUpKind.SPUR:
            if isinstance(found.index.verdict, Closes) and found.index.verdict.exact:
                turns = trimmed(Fraction(ask.teeth, ask.starts), 3)
                return f"{turns} turns of the hob turn the table once, exactly: it comes out as {ask.teeth}."
            divides = indexed_text(found, ask)
            return f"It divides into {divides}, not {ask.teeth}: the last tooth does not meet the first."
        case SetUpKind.MADE_UP:
            does = "adds" if found.adds else "takes away"
            rest = "the rest and the helix" if ask.helical else "the rest"
            made = f"The wheels alone divide into {indexed_text(found, ask)}; the differential {does} {rest}."
            assert found.run_off is not None
            if found.run_off.mark is Mark.NONE:
                return f"{made} It comes out as {ask.teeth} without any run-off, whatever the feed comes to."
            return f"{made} {run_off_text(found.run_off, ask, units)}"
        case SetUpKind.WITHOUT:
            assert found.run_off is not None
            said = run_off_text(found.run_off, ask, units)
            return f"{said} The index train counts on this feed: change none of the feed wheels."
        case SetUpKind.HELICAL:
            assert found.run_off is not None
            return run_off_text(found.run_off, ask, units)


def indexed_text(found: SetUp, ask: HobAsk) -> str:
    """The count that the index train alone divides into: `107.0093`."""
    indexed = found.indexed or found.index.setting.constant * ask.starts / found.index.train.ratio
    return str(indexed) if indexed.denominator == 1 else fixed(indexed, 4)


def short_run_off(found: SetUp, units: Units) -> str:
    """In the list: `exact`, `0.24 µm`."""
    if found.run_off is None or found.run_off.um == 0:
        return (
            "exact" if found.run_off is None and found.index.verdict.good else "no run-off" if found.run_off else "open"
        )
    return f"{small(found.run_off.um, units)} run-off"


def feed_text(found: SetUp, units: Units) -> str:
    """`feed 1.02 mm`"""
    if found.feed is None:
        return "feed not known"
    return f"feed {length(found.feed.value, units, 2)}"


def faster_text(found: SetUp) -> str | None:
    """Whether the work turns faster than for a spur wheel."""
    if found.faster is None:
        return None
    return f"The work turns {'faster' if found.faster else 'slower'} than for a spur wheel."


def work_text(found: SetUp) -> str:
    """`already on the machine`, `leave five, put on two`."""
    if found.is_on:
        return "already on the machine"
    parts = [f"leave {in_words(found.kept)}"] if found.kept else []
    parts += [f"put on {in_words(found.put_on)}"] if found.put_on else []
    return ", ".join(parts) or "only levers"


def moved_text(found: SetUp) -> list[str]:
    """`The 37 moves from the feed box to the index box.`, `The 40 and the 48 move …`"""
    between: dict[tuple[Box, Box], list[str]] = {}
    for move in found.moved:
        between.setdefault((move.origin, move.to), []).append(f"the {move.teeth}")
    return [
        f"{listed(wheels).capitalize()} move{'s' if len(wheels) == 1 else ''} "
        f"from the {BOXES[origin]} box to the {BOXES[to]} box."
        for (origin, to), wheels in between.items()
    ]


def reasons(found: SetUp, units: Units) -> list[str]:
    """Why it cannot be set up, box by box."""
    said = []
    for box, part in parts(found):
        names = BOX_SHAFTS[box]
        said += [
            f"{BOXES[box]} box: {obstacle(o, part.train, part.placement, names, units)}"
            for o in part.placement.obstacles
        ]
        if not part.hand.right:
            said.append(f"{BOXES[box]} box: turns the wrong way, one idler more or less is needed")
    said += [
        f"needs {a(t) if n == 1 else f'{n} × {t}'}, which {'is' if n == 1 else 'are'} not held"
        for t, n in found.lacking.items()
    ]
    return said


def parts(found: SetUp):  # type: ignore[no-untyped-def]
    """The boxes in the order in which they are set up, with their trains."""
    every = {Box.INDEX: found.index, Box.DIFFERENTIAL: found.differential, Box.FEED: found.feed}
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


def ways_out(found: HobPlan) -> list[tuple[str, SetUp]]:
    """What else would bring a count that has no exact train, each with its set-up."""
    said = []
    if found.one_more is not None:
        new = next(iter(found.one_more.lacking))
        said.append(
            (f"With {a(new)}, made or borrowed: {_train(found.one_more.index.train)} is exact.", found.one_more)
        )
    if found.other_constant is not None:
        other = found.other_constant.index.setting
        train = _train(found.other_constant.index.train)
        said.append((f"With {constant_text(other)}: {train} is exact.", found.other_constant))
    if found.more_starts is not None:
        starts, set_up = found.more_starts
        same = found.ask.teeth % starts == 0
        after = (
            "each start cuts the same teeth each turn, so an error of the hob shows on every second tooth"
            if same and starts == 2
            else "each start cuts the same teeth each turn, so an error of the hob shows"
            if same
            else "all starts cut every tooth in turn"
        )
        train = _train(set_up.index.train)
        said.append((f"With a {starts_text(starts)} hob: {train} is exact; {after}.", set_up))
    return said


def _train(train: Train) -> str:
    return train_text(train)


def shortfall(found: HobPlan) -> str | None:
    """Why there is no exact train, or nothing at all."""
    ask = found.ask
    if found.exact or (found.set_ups and found.set_ups[0].kind is SetUpKind.WITHOUT):
        return None
    usual = found.hobber.index_for(ask.teeth)
    none = f"No index train of these wheels is exact for {ask.teeth} ({constant_text(usual)})."
    if found.unfit is not None:
        none = f"An exact index train for {ask.teeth} is held, but none goes on."
    if found.set_ups:
        return f"{none} The differential makes it up."
    if found.hobber.differential is None:
        return f"{none} Without a differential nothing else can make it up."
    return f"{none} With these wheels the differential cannot make it up either."


def not_known(machine: Hobber, boxes: list[Box]) -> list[str]:
    """What is not known of the hobber, a sentence each, for the boxes that are used."""
    said = []
    unmeasured = [box for box in boxes if not isinstance(machine.boxes[box].quadrant, Quadrant)]
    if unmeasured:
        said.append(f"Room is not checked in the {listed([BOXES[b] for b in unmeasured])} box.")
    turning = [BOXES[b] for b in boxes if machine.boxes[b].drive is None]
    if turning:
        said.append(f"Which way the {listed(turning)} box turns is not on record.")
    if machine.table is None:
        said.append("Which way the table turns is not on record.")
    if machine.feed is None:
        said.append("The feed constant is not on record, so no feed train is planned.")
    return said
