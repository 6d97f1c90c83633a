"""Trains, their places and their obstacles in words. Any planner uses these; it names its own shafts."""

import math
from dataclasses import dataclass

from valleywind.core.trains.in_line import ENOUGH_TEETH
from valleywind.core.trains.merit import Handling
from valleywind.core.trains.model import Train
from valleywind.core.trains.placement import Clearance, Obstacle, Placement, Reason, RoomCheck
from valleywind.core.trains.quadrant import USUAL_STUDS, Carrier, Part, Quadrant
from valleywind.wording.numbers import Units, count, fixed, in_words, length, listed, short_length


@dataclass(frozen=True)
class ShaftNames:
    """What a machine calls its first and last shaft, and what carries the studs between."""

    first: str
    last: str
    carrier: str = "quadrant"

    def of(self, train: Train, shaft: int) -> str:
        if shaft == 0:
            return self.first
        if shaft == train.shafts - 1:
            return self.last
        return "stud" if train.shafts == 3 else f"stud {shaft}"


LATHE_SHAFTS = ShaftNames("spindle stud", "screw")
HEAD_SHAFTS = ShaftNames("spindle", "plate", "arm")
LEAD_SHAFTS = ShaftNames("table-side shaft", "head-side shaft", "lead quadrant")
PLANE_NAMES = ("inner", "outer")


def slot_name(slot: int) -> str:
    """Slots go by letters: A is the first."""
    return f"slot {chr(ord('A') + slot)}"


def train_text(train: Train) -> str:
    """The train as people write it: `76/66 × 32/78`, `40/80 with 50 between`."""
    return " × ".join(
        f"{s.driver}/{s.driven}" + (f" with {' and '.join(map(str, s.idlers))} between" if s.idlers else "")
        for s in train.stages
    )


def obstacle(obstacle: Obstacle, train: Train, placement: Placement, names: ShaftNames, units: Units) -> str:
    """Why it does not fit: `96T overlaps the screw's collar by 3.2 mm`, `96T is 0.40 mm from the cover; 1 mm is
    wanted`."""
    if obstacle.reason in _IN_TEETH:
        return _in_teeth(obstacle, train, names)
    amount = length(obstacle.amount, units)
    shaft = names.of(train, obstacle.shaft) if obstacle.shaft is not None else ""
    slot = slot_name(placement.slots[obstacle.shaft - 1]) if obstacle.shaft and placement.slots else ""
    match obstacle.reason:
        case Reason.TOO_FEW_STUDS:
            needed = train.shafts - 2
            return f"needs {count(needed, 'stud')}; the {names.carrier} has {needed - round(obstacle.amount)}"
        case Reason.CENTRES_TOO_FAR:
            return f"the wheels are {amount} short of reaching across"
        case Reason.CENTRES_TOO_CLOSE:
            return f"the wheels are {amount} too large to stand between the shafts"
        case Reason.STUD_BEYOND_SLOT:
            return f"{shaft} would sit {amount} past the end of {slot}"
        case Reason.STUD_SHORT_OF_SLOT:
            return f"{shaft} would sit {amount} short of where {slot} begins"
        case Reason.SWING_TOO_LOW | Reason.SWING_TOO_HIGH:
            return f"the {names.carrier} would have to swing {math.degrees(obstacle.amount):.0f}° past its stop"
        case _:
            assert obstacle.clearance is not None
            return foul(obstacle.clearance, train, names, units)


_IN_TEETH = (Reason.REACHES_SHAFT, Reason.WHEELS_MEET, Reason.NO_IDLER, Reason.BEYOND_KNOWN)


def _in_teeth(obstacle: Obstacle, train: Train, names: ShaftNames) -> str:
    """Why it cannot go on whatever the quadrant: `64T would run into the screw: 70 teeth are needed …`."""
    if obstacle.reason is Reason.NO_IDLER:
        return f"needs an idler: it is not known whether the two wheels reach from {names.first} to {names.last}"
    if obstacle.reason is Reason.BEYOND_KNOWN:
        return "does not reach, by the trains on record that fit and that do not"
    teeth = [train.wheels[n].teeth for n in obstacle.wheels]
    if obstacle.reason is Reason.WHEELS_MEET:
        return f"{teeth[0]}T and {teeth[1]}T would run into each other"
    assert obstacle.shaft is not None
    needed = teeth[0] + 2
    return (
        f"{teeth[0]}T would run into the {names.of(train, obstacle.shaft)}: the wheels between the two shafts have "
        f"{round(needed - obstacle.amount)} teeth together, and more than {needed} are needed"
    )


def foul(clearance: Clearance, train: Train, names: ShaftNames, units: Units) -> str:
    """What a wheel runs into and by how much; or how near it comes, and how near it may."""
    teeth = f"{train.wheels[clearance.wheel].teeth}T"
    if clearance.distance >= 0:
        near = clearance_place(clearance, train, names).removeprefix(f"{teeth} to ")
        wanted = short_length(clearance.gap, units)
        return f"{teeth} is {distance_text(clearance.distance, units)} from {near}; {wanted} is wanted"
    amount = length(-clearance.distance, units)
    if clearance.reason is Reason.WHEEL_ON_BOSS:
        assert clearance.other is not None
        return f"{teeth} overlaps the {names.of(train, clearance.other)}’s collar by {amount}"
    if clearance.reason is Reason.WHEEL_ON_MIDDLE:
        assert clearance.other is not None
        return f"{teeth} reaches {amount} past the middle of the {names.of(train, clearance.other)}"
    if clearance.reason is Reason.WHEEL_ON_WHEEL:
        assert clearance.other is not None
        return f"{teeth} overlaps the {train.wheels[clearance.other].teeth} in the same plane by {amount}"
    return f"{teeth} stands {amount} into the cover"


def distance_text(mm: float, units: Units) -> str:
    """A distance between two wheels or what stands there: finer where it is small, so that it shows beside the gap."""
    return length(abs(mm), units, 1 if abs(mm) >= 2 else 2)


def clearance_place(clearance: Clearance, train: Train, names: ShaftNames) -> str:
    """Between what a clearance is measured: `66T to the screw’s collar`."""
    teeth = f"{train.wheels[clearance.wheel].teeth}T"
    if clearance.reason is Reason.WHEEL_ON_BOSS and clearance.other is not None:
        return f"{teeth} to the {names.of(train, clearance.other)}’s collar"
    if clearance.reason is Reason.WHEEL_ON_MIDDLE and clearance.other is not None:
        return f"{teeth} to the middle of the {names.of(train, clearance.other)}"
    if clearance.reason is Reason.WHEEL_ON_WHEEL and clearance.other is not None:
        return f"{teeth} to the {train.wheels[clearance.other].teeth}T"
    return f"{teeth} to the cover"


ROOM_NOT_CHECKED = "room not checked"


def room(placement: Placement, quadrant: Carrier, units: Units) -> str:
    """`16.7 mm clear`, `does not go on`, `room not checked`; and what was not looked at: `cover not checked`."""
    if not placement.fits:
        return "does not fit"
    if not isinstance(quadrant, Quadrant):
        return f"reaches, {ROOM_NOT_CHECKED}" if placement.checked is RoomCheck.REACH else ROOM_NOT_CHECKED
    if Part.COLLARS in quadrant.unknown:
        return f"reaches, {ROOM_NOT_CHECKED}"
    clear = f"{length(placement.least_distance, units)} clear"
    missing = [PARTS[part] for part in (Part.SWING, Part.COVER) if part in quadrant.unknown]
    return f"{clear}, {listed(missing)} not checked" if missing else clear


PARTS = {
    Part.SHAFTS: "distance of the shafts",
    Part.SLOTS: "slots",
    Part.DIRECTION: "direction of the first shaft",
    Part.SWING: "swing",
    Part.COLLARS: "collars",
    Part.COVER: "cover",
    Part.STUDS: "number of studs",
}
"""The parts of a quadrant's record, as they are spoken of."""


# The direction of the first shaft is said by the drawing, the studs by a sentence of their own.
_SAID_APART = (Part.DIRECTION, Part.STUDS)
_STUDS_COUNTED_ON = f"How many studs there are is not known: {in_words(USUAL_STUDS)} are counted on."


def not_checked(quadrant: Carrier, carrier: str = "quadrant") -> list[str]:
    """What a train on this quadrant was not tried against, and what of it is a guess: a sentence each."""
    counted = f" {_STUDS_COUNTED_ON}" if Part.STUDS in quadrant.unknown else ""
    if not isinstance(quadrant, Quadrant):
        measured = not {Part.SHAFTS, Part.SLOTS} & quadrant.unknown
        why = "The pitch of the wheels is not known" if measured else f"The {carrier} is not measured"
        known = " Trains known to fit tell what reaches." if quadrant.goes_on else ""
        return [f"{why}, so room is not checked.{known} Try the wheels on it by hand first.{counted}"]
    parts = [PARTS[part] for part in PARTS if part in quadrant.unknown and part not in _SAID_APART]
    sentences = [f"Not known, and not checked: {listed(parts)}. Try the wheels on by hand first."] if parts else []
    sentences += [_STUDS_COUNTED_ON] if counted else []
    guesses = [PARTS[part] for part in PARTS if part in quadrant.guessed]
    return sentences + ([f"Whether a train fits depends on a guess: {listed(guesses)}."] if guesses else [])


def drawing_notes(train: Train, placement: Placement, quadrant: Carrier, names: ShaftNames) -> list[str]:
    """What a drawing does not show of the real thing, and the rule of thumb where nothing is measured."""
    if isinstance(quadrant, Quadrant):
        return direction_note(quadrant, names)
    drawn = f"The {names.carrier} is not measured. The wheels are drawn in mesh, in a line."
    return [drawn, *filter(None, [thumb_rule(train, placement, names)])]


def direction_note(quadrant: Quadrant, names: ShaftNames) -> list[str]:
    """Said where only the distance of the first shaft is known, not its direction."""
    if Part.DIRECTION not in quadrant.unknown:
        return []
    return [f"Where the {names.first} stands is not known, only how far away."]


def thumb_rule(train: Train, placement: Placement, names: ShaftNames) -> str | None:
    """Where the quadrant is not known: how near the closest wheel comes to a shaft, in teeth."""
    if not placement.margins:
        return None
    tightest = placement.margins[0]
    wheel, shaft = train.wheels[tightest.wheel].teeth, names.of(train, tightest.shaft)
    more = round(tightest.teeth)
    teeth = count(more, "tooth", "teeth")
    if tightest.teeth >= ENOUGH_TEETH:
        return f"By rule of thumb there is room: the {wheel} clears the {shaft} by {teeth}; {ENOUGH_TEETH} are enough."
    return (
        f"Look first at the {wheel}: it clears the {shaft} by {teeth}; by rule of thumb {ENOUGH_TEETH} are wanted. "
        "It may run into what holds the wheel there."
    )


def where(train: Train, placement: Placement, shaft: int, names: ShaftNames, units: Units) -> str:
    """Where a shaft is: `slot A, 122.4 mm from the screw’s centre`, `fixed`."""
    if not 0 < shaft < train.shafts - 1:
        return "fixed"
    if not placement.slots:
        return "no place found" if placement.checked is RoomCheck.ROOM else "where it meshes"
    away = length(placement.stud_radius(shaft), units)
    return f"{slot_name(placement.slots[shaft - 1])}, {away} from the {names.last}’s centre"


def stack(train: Train, shaft: int, spacer: str) -> str:
    """What goes on an end shaft, from the machine outward: wheel and spacer, then washer and nut."""
    (wheel,) = train.on_shaft(shaft)
    place = f"**{wheel.teeth}** in the {PLANE_NAMES[wheel.plane]} place"
    return ", ".join(
        [*([place, f"{spacer} outside"] if wheel.plane == 0 else [f"{spacer} inside", place]), "washer", "nut"]
    )


def on_stud(train: Train, shaft: int) -> str:
    """What goes on a stud."""
    wheels = train.on_shaft(shaft)
    if len(wheels) == 1:
        return f"idler **{wheels[0].teeth}** {PLANE_NAMES[wheels[0].plane]}, free to turn"
    inner, outer = wheels
    return f"**{inner.teeth}** inner with **{outer.teeth}** outer, keyed together, free to turn on the stud"


def meshing(train: Train, placement: Placement, names: ShaftNames) -> str:
    """In which order the wheels are brought into mesh."""
    if train.shafts == 2:
        return "Mesh the two wheels with a strip of paper between the teeth and tighten."
    pairs = [f"{train.wheels[a].teeth} with {train.wheels[b].teeth}" for a, b in reversed(train.meshing)]
    about = f" (about {fixed(math.degrees(placement.swing), 0)}°)" if placement.swing_known else ""
    inner = listed([f"**{p}**" for p in pairs[:-1]])
    return (
        f"Paper between the teeth. From the {names.last} outward: mesh {inner}, tighten; "
        f"then swing the {names.carrier}{about} until **{pairs[-1]}** mesh, and clamp."
    )


def steps(train: Train, placement: Placement, names: ShaftNames, spacer: str, units: Units) -> list[str]:
    """What goes where, in the order in which it is put on: the end shafts, then the studs from the last shaft on, each
    slid into mesh with the wheel before it."""
    last = train.shafts - 1
    ends = [f"{names.of(train, n).capitalize()}: {stack(train, n, spacer)}." for n in (0, last)]
    studs = [
        f"{names.of(train, n).capitalize()}, {where(train, placement, n, names, units)}: {on_stud(train, n)}."
        for n in range(last - 1, 0, -1)
    ]
    return [*ends, *studs, meshing(train, placement, names)]


def trial_text(train: Train, placement: Placement, quadrant: Carrier, names: ShaftNames, units: Units) -> str:
    """What comes of trying a train: `76/66 × 32/78 fits: 16.7 mm clear.`, or why it does not."""
    if not placement.fits:
        return stays_off(train, placement, names, units)
    text = room(placement, quadrant, units)
    return f"{train_text(train)} fits: {text}." if isinstance(quadrant, Quadrant) else f"{train_text(train)}: {text}."


def stays_off(train: Train, placement: Placement, names: ShaftNames, units: Units) -> str:
    """Why a train does not go on, every reason."""
    reasons = [obstacle(o, train, placement, names, units) for o in placement.obstacles]
    return f"{train_text(train)} does not fit: {'; '.join(reasons)}."


def work(handling: Handling) -> str:
    """What there is to do with the wheels: `keep 2, change 2`, `fit 4 wheels`, `already on the machine`."""
    if handling.none:
        return "already on the machine"
    put_on, taken_off = handling.put_on, handling.taken_off
    changed = min(put_on, taken_off)
    parts = [f"keep {handling.kept}"] if handling.kept else []
    parts += [f"change {changed}"] if changed else []
    more, fewer = put_on - changed, taken_off - changed
    parts += [f"fit {more} more" if changed else f"fit {count(more, 'wheel')}"] if more else []
    parts += [f"take off {fewer}{' more' if changed else ''}"] if fewer else []
    return ", ".join(parts)


def order_reason(train: Train, handling: Handling, best: bool) -> str:
    """Why a train stands where it stands in the list, in a few words."""
    parts = ["Least trouble"] if best else []
    if handling.no_wheel:
        parts.append("no wheel to lift")
    elif handling.kept:
        parts.append(f"{count(handling.kept, 'wheel')} may stay on")
    elif train.idlers:
        parts.append(count(len(train.idlers), "idler"))
    else:
        parts.append(f"smallest wheel {min(train.teeth)}")
    return ", ".join(parts)
