"""Ways of dividing in words: what to fit, how to move, what speaks against it."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction
from math import radians

from valleywind.core.dividing.discs import READING_MAGNIFIED, Disc
from valleywind.core.dividing.heads import Head
from valleywind.core.dividing.plan import Setting, Way, WayKind
from valleywind.core.dividing.plates import Generation, NewCircle
from valleywind.core.dividing.ways import Compound, Degrees, Differential, Direct, Nearest, Simple
from valleywind.core.trains.model import Combination
from valleywind.wording import trains
from valleywind.wording.numbers import Units, count, fixed, in_words, length, listed, short_length, small, trimmed

KINDS = {
    WayKind.DIRECT: "A plate on the spindle",
    WayKind.SIMPLE: "Simple indexing",
    WayKind.DEGREES: "By degrees",
    WayKind.DIFFERENTIAL: "Differential indexing",
    WayKind.COMPOUND: "Compound indexing",
    WayKind.NEAREST: "Nearest hole",
    WayKind.WHEEL: "A wheel of the rack",
    WayKind.NEW_PLATE: "A new plate",
    WayKind.DISC: "A printed disc",
}
NONE = "not on this head"
# So few holes are worth painting.
MOST_PAINTED = 8


@dataclass(frozen=True)
class WayText:
    """A way in which nothing is set on a head, in words."""

    text: str
    accuracy: str
    fit: list[str]
    moves: list[str]
    against: list[str]


def ask_text(divisions: int, machine: str) -> str:
    """What was understood of an ask: `57 divisions on Grebe`."""
    return f"{divisions} divisions{f' on {machine}' if machine else ''}"


def angle(degrees: Fraction | float) -> str:
    """A small angle: `5″`, `12′ 30″`, `0.5°`."""
    seconds = float(degrees) * 3600
    if seconds < 100 and seconds != 60:
        return f"{trimmed(seconds, 1 if seconds < 10 else 0)}″"
    if seconds < 3600:
        minutes, rest = divmod(round(seconds), 60)
        return f"{minutes}′ {rest}″" if rest else f"{minutes}′"
    return f"{trimmed(degrees, 2)}°"


def off(degrees: Fraction | float) -> str:
    """`exact`, `error up to 5″`."""
    return f"error up to {angle(degrees)}" if degrees else "exact"


def accuracy(degrees: Fraction | float, diameter: float, units: Units) -> str:
    """`exact`, or how far off at worst, at the work and at its pitch circle."""
    if not degrees:
        return off(degrees)
    along = radians(float(degrees)) * diameter / 2 * 1000
    return f"{off(degrees)}, {small(along, units)} on {short_length(diameter, units)} across"


def setting_text(setting: Setting) -> str:
    """A setting in one line."""
    match setting:
        case Direct() if setting.flats:
            return f"the block of {setting.holes} flats, {count(setting.spaces, 'flat')} on"
        case Direct():
            return f"the {setting.holes} on the spindle, {count(setting.spaces, 'hole')} on"
        case Simple():
            where = f" on the {setting.circle}" if setting.holes else ", any circle"
            return f"{crank_text(setting)}{where}"
        case Compound():
            back = "back" if setting.holes_2 < 0 else "on"
            return (
                f"{setting.holes_1} on in the {setting.circle_1}, then {abs(setting.holes_2)} {back} in the "
                f"{setting.circle_2}"
            )
        case Differential():
            return f"as {setting.indexed_as}, with {train_text(setting.trains[0])} from spindle to plate"
        case Degrees() if setting.holes:
            return f"the {setting.holes} on the spindle, the second pin by {angle(setting.reads)}"
        case Degrees():
            return f"by graduations of {angle(setting.reads)}"
        case Nearest():
            return f"the nearest hole of the {setting.circle}"


def way_text(way: Way) -> str:
    """Its first setting in one line, the gears as they stand on the arm where that is known."""
    setting = way.settings[0]
    if way.laid is None or not isinstance(setting, Differential):
        return setting_text(setting)
    return f"as {setting.indexed_as}, with {trains.train_text(way.laid.train)} from spindle to plate"


def way_accuracy(way: Way, diameter: float, units: Units) -> str:
    """How true it is, or that it cannot be had."""
    return accuracy(way.error, diameter, units) if way.goes_on else "exact, but the gears do not fit on the arm"


def crank_text(setting: Simple) -> str:
    """`2 turns and 8 spaces`."""
    parts = [count(setting.turns, "turn")] if setting.turns else []
    parts += [count(setting.holes, "space")] if setting.holes else []
    return " and ".join(parts)


def train_text(train: Combination) -> str:
    """`56/24`, `56/24 × 40/32`: driver on the spindle side first."""
    return " × ".join(f"{a}/{b}" for a, b in zip(train.drivers, train.driven, strict=True))


def fit(way: Way, setting: Setting, head: Head, spacer: str, units: Units) -> list[str]:
    """What has to be put on the head. spacer: what fills an empty place of an end shaft."""

    def side(circle: int, holes: int = 1) -> str:
        if not holes:
            return "Any plate: the pin comes back into its hole."
        side_with = next(s for s in head.sides if circle in [c.holes for c in s])
        return f"Plate side {' '.join(str(c.holes) for c in side_with)}, pin on the **{circle}**."

    match setting:
        case Direct() if setting.flats:
            return [f"Work in the block of {setting.holes} flats; a stop in the vice, the same jaw always fixed."]
        case Direct():
            worm = "Worm out of mesh; pin" if head.ratio is not None else "Pin"
            return [f"{worm} into the {setting.holes} on the spindle."]
        case Simple():
            others = [s.circle for s in way.settings if isinstance(s, Simple) and s is not setting]
            more = f" The {listed([str(c) for c in others[:6]], 'or')} does it too." if others else ""
            return [side(setting.circle, setting.holes) + (more if setting.holes else "")]
        case Compound():
            return [side(setting.circle_1), f"The lock pin behind it in the {setting.circle_2}."]
        case Differential():
            if way.laid and way.goes_on:
                gears = trains.steps(way.laid.train, way.laid.placement, trains.HEAD_SHAFTS, spacer, units)
            else:
                gears = [_gears(setting)]
            return [
                side(setting.simple[-1].circle, setting.simple[-1].holes),
                *gears,
                "Lock pin behind the plate out: the plate must be free to turn.",
            ]
        case Degrees() if setting.holes:
            return [
                f"Both pins: one in the {setting.holes} on the spindle, the other in the row that goes on by "
                f"{angle(setting.reads)}."
            ]
        case Degrees():
            return ["Plate and pin off; read the graduations."]
        case Nearest():
            return [side(setting.circle)]


def _gears(setting: Differential) -> str:
    train = setting.trains[0]
    idlers = setting.idlers(train)
    between = f"{in_words(idlers)} idler{'s' if idlers > 1 else ''} between" if idlers else "no idler"
    stages = [f"{a} drives {b}" for a, b in zip(train.drivers, train.driven, strict=True)]
    return f"From the spindle to the plate: {', then on one stud '.join(stages)}; {between}."


def painted(setting: Simple) -> tuple[int, ...]:
    """The holes worth painting: those ever used, where they are few."""
    used = setting.repeats()
    return used if 1 < len(used) <= MOST_PAINTED else ()


def moves(setting: Setting, divisions: int) -> list[str]:
    """What to do for every division."""
    back = "Always come to the hole from the same side; past it, go back a full turn and come again."
    match setting:
        case Direct() if setting.flats:
            on = count(setting.spaces, "flat")
            return [f"{on[0].upper()}{on[1:]} on for every tooth, always turned over the same way."]
        case Direct():
            return [f"{count(setting.spaces, 'hole')} on for every tooth."]
        case Simple():
            circle = f" of the {setting.circle}" if setting.holes else ""
            steps = [f"**{crank_text(setting)}**{circle} for every tooth."]
            if setting.holes:
                steps.append(
                    f"Arms: {count(setting.holes, 'space')}, that is {setting.holes + 1} holes with the first."
                )
            if paint := painted(setting):
                steps.append(
                    f"Only {len(paint)} holes are ever used: counted from the first, "
                    f"{listed([str(h) for h in paint])}. Paint them."
                )
            return [*steps, back]
        case Compound():
            way = "back" if setting.holes_2 < 0 else "on"
            return [
                f"Crank **{_over(setting.holes_1, setting.circle_1)}** on; then pull the lock pin and turn crank and "
                f"plate together **{_over(abs(setting.holes_2), setting.circle_2)}** {way}.",
                back,
            ]
        case Differential():
            simple = setting.simple[-1]
            where = f" on the {simple.circle}" if simple.holes else ", any circle"
            steps = [f"Index as for {setting.indexed_as}: **{crank_text(simple)}**{where}."]
            with_it = setting.gear_ratio > 0
            steps.append(
                f"The plate must turn {'with' if with_it else 'against'} the crank; turn it once before the first cut "
                f"and look. If it goes the other way, put one idler {'more' if with_it else 'in or out'}."
            )
            return [*steps, back]
        case Degrees():
            step = Fraction(360, divisions)
            steps = [f"Every position counted from the start: 1 at {_degrees(step)}, 2 at {_degrees(2 * step)}, …"]
            return steps if not setting.error else [*steps, "Rounded each by itself, so that nothing adds up."]
        case Nearest():
            return [
                f"Every position counted from the start and taken to the nearest hole of the {setting.circle}.",
                "Never the same rounded step again and again: that adds up.",
            ]


def pin_move(turns: int, hole: int) -> str:
    """What the crank does, as it is said while it is done: `1 turn and on to hole 5`."""
    return f"{count(turns, 'turn')} and on to hole {hole}" if turns else f"on to hole {hole}"


def plate_move(spaces: int, circle: int) -> str:
    """What crank and plate then do together, to be put behind."""
    return f"; then crank and plate {count(abs(spaces), 'space')} of the {circle} {'back' if spaces < 0 else 'on'}"


def _over(holes: int, circle: int) -> str:
    turns, rest = divmod(holes, circle)
    parts = [count(turns, "turn")] if turns else []
    return " and ".join([*parts, f"{count(rest, 'space')} of {circle}"] if rest else parts)


def _degrees(value: Fraction) -> str:
    return f"{fixed(value, 3)}°"


def against(way: Way, units: Units, gear_work: bool = True) -> list[str]:
    """What speaks against it."""
    if way.laid and not way.goes_on:
        nearest = trains.stays_off(way.laid.train, way.laid.placement, trains.HEAD_SHAFTS, units)
        return [f"{nearest} No other that was tried does."]
    match way.kind:
        case WayKind.COMPOUND:
            return ["Two moves for every tooth, easily mistaken; the last space shows it."]
        case WayKind.DIFFERENTIAL:
            return ["The spindle cannot be tilted while it is geared to the plate.", "A train to set up first."]
        case WayKind.NEAREST if gear_work:
            return ["Not for gears that should run quietly; good enough for dials and bolt circles."]
        case WayKind.DEGREES if way.error:
            return ["Every position is read by eye: slow, and no better than the graduations."]
        case _:
            return []


def wheel_as_plate(teeth: int, divisions: int, family: str) -> WayText:
    """A held wheel on the same arbor with a spring finger: heading, what to fit, moves, what speaks against it."""
    every = teeth // divisions
    gaps = (
        "every gap" if every == 1 else f"every {every}th gap" if every > 3 else f"every {('2nd', '3rd')[every - 2]} gap"
    )
    return WayText(
        f"the {teeth} of {family} as its own plate",
        "as true as the wheel",
        ["The wheel on the same arbor as the blank, a finger on a spring that drops into its gaps."],
        [f"The finger into {gaps}."],
        ["As true as that wheel: its own errors are copied."],
    )


def new_plate(holes: int, divisions: int) -> WayText:
    """A plate to be drilled: heading, what to fit, moves, what speaks against it."""
    return WayText(
        f"drill a circle of {holes} holes",
        "as true as it is drilled",
        [f"A plate with a circle of {holes}, made first; where it fits and how it is drilled stands under Plate."],
        [f"Then index {divisions} on it, simply."],
        ["A plate to make before the wheel."],
    )


def disc_way(disc: Disc, diameter: float, units: Units) -> WayText:
    """A printed disc read at a pointer; diameter: of the work."""
    return WayText(
        f"{disc.divisions} lines on a disc {short_length(disc.diameter, units)} across, read at a pointer",
        accuracy(disc.error(), diameter, units),
        ["Print it at 100 %, measure its check line, paste it on a disc behind the headstock."],
        ["Line by line to the pointer, the spindle clamped for every cut."],
        ["As true as the eye at its edge; a bigger disc is truer."],
    )


def drilling_text(machine: str, best: Way | None, holes: int) -> str:
    """How the holes of a new plate are had on a head."""
    if best is None:
        return f"Nothing on {machine} gives {holes}; print a disc."
    return f"On {machine}: {KINDS[best.kind].lower()}, {way_text(best)}."


def disc_texts(disc: Disc, units: Units) -> list[str]:
    """How well a disc is read."""
    eye, glass = disc.error(), disc.error(READING_MAGNIFIED)
    return [
        f"Lines {length(disc.spacing, units, 2)} apart. Read by eye every position is good to {angle(eye)}, "
        f"under a strong glass to {angle(glass)}.",
        "Each is read by itself, so nothing adds up. A bigger disc is better in proportion.",
    ]


def strip_text(disc: Disc, units: Units) -> str:
    """How long the strip for a drum of this diameter is."""
    return f"The strip is {length(disc.strip, units, 2)} long from its first line to where that comes again."


def plate_texts(circle: NewCircle, units: Units) -> list[str]:
    """Whether a circle of holes fits where it should."""
    wall = length(circle.wall, units, 2)
    if not circle.fits:
        return [
            f"Only {wall} between the holes: too little." if circle.wall > 0 else "The holes run into each other.",
            f"For {circle.holes} holes of {short_length(circle.hole, units)} the circle must be "
            f"{length(circle.least_diameter, units, 1)} across or more, or the holes smaller.",
        ]
    return [
        f"It fits: {wall} stay between the holes. The plate is turned to {length(circle.blank, units, 1)} or more.",
    ]


def generation_texts(generations: Sequence[Generation], diameter: float, units: Units) -> list[str]:
    """What is left of the error from plate to plate."""
    texts = []
    for g in generations:
        off = small(radians(g.at_work) * diameter / 2 * 1000, units)
        texts.append(
            f"Plate {g.number}: its holes are up to {angle(g.error)} off; work divided with it {angle(g.at_work)}, "
            f"{off} at the pitch circle."
        )
    return texts
