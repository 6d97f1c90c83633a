"""The cutting session in words: what to do now, where it stands, what was recorded, what a last gap tells."""

from collections.abc import Mapping, Sequence
from fractions import Fraction
from typing import Any

from valleywind.core.making.last_gap import DivisionDone, GapExplanation, Slip, Spaces, Unit
from valleywind.core.making.lost import WhichTooth
from valleywind.core.making.places import By, Place, Places
from valleywind.core.making.session import Cut, EventKind, State, Work
from valleywind.wording.numbers import Units, count, fixed, length, listed, small, trimmed

SLIPS = {
    Slip.SHORT_ONCE: "{one} short, once",
    Slip.FAR_ONCE: "{one} too far, once",
    Slip.TWO_SHORT_ONCE: "{two} short, once",
    Slip.TWO_FAR_ONCE: "{two} too far, once",
    Slip.SHORT_ALWAYS: "{one} short at every move",
    Slip.FAR_ALWAYS: "{one} too far at every move",
    Slip.LEFT_OUT: "one move left out: the same gap was cut twice",
    Slip.TWICE: "one move made twice: a tooth of double width stands somewhere on the rim",
}


# What tells where the work stands, as it is asked for.
PLACES = {
    By.CRANK: "Hole the pin is in, from 0",
    By.CRANK_AND_PLATE: "Hole the pin is in, from 0",
    By.SPINDLE: "Hole on the spindle, from 0",
    By.PINNED: "Hole on the spindle, from 0",
    By.FLATS: "Flat that is up, from 1",
    By.DEGREES: "Whole degrees on the scale",
    By.WHEEL: "Gap of the wheel, from 1",
    By.DISC: "Mark at the pointer, from 1",
}
LEAD_HINT = (
    "The crank’s pin stays in its hole while it cuts. "
    "Cut one way only: draw the cutter clear before the table goes back."
)


def divided(places: Places, head: str) -> str:
    """How the work is divided: `1 turn and 1 space on the 19, on Heron`."""
    on = f", on {head}" if head else ""
    match places.by:
        case By.CRANK:
            moves = {(move.turns, move.spaces) for move in places.each[1:]}
            if len(moves) > 1:
                return f"to the nearest hole of the {places.circle}{on}"
            turns, spaces = next(iter(moves))
            turned = [count(turns, "turn")] if turns else []
            turned += [f"{count(spaces, 'space')} on the {places.circle}"] if spaces else []
            return f"{' and '.join(turned)}{on}"
        case By.CRANK_AND_PLATE:
            return f"on the {places.circle}, then crank and plate on the {places.lock}{on}"
        case By.SPINDLE | By.PINNED:
            return f"by the {places.circle} holes on the spindle{on}"
        case By.FLATS:
            return f"by the {places.circle} flats of a block{on}"
        case By.DEGREES:
            return f"by degrees{on}"
        case By.WHEEL:
            return f"the {places.circle} as its own plate"
        case By.DISC:
            return f"printed disc of {places.circle} marks"


def move(places: Places, before: int | None, cut: Cut) -> tuple[str, str]:
    """What to do now in the fewest words, and where that leads: (`1 turn 1 space`, `circle 19, hole 1`)."""
    place = places.move(before, cut.tooth)
    here = places.each[cut.tooth] if cut.tooth or place is None else places.again
    if before == cut.tooth:
        return "same gap", _stands(places, here)
    if place is None:
        return ("go to", _stands(places, here)) if before is not None else ("start", _stands(places, here))
    match places.by:
        case By.CRANK | By.CRANK_AND_PLATE:
            turned = [count(place.turns, "turn")] if place.turns else []
            turned += [count(place.spaces, "space")] if place.spaces else []
            text = " ".join(turned) or "no turn"
            if place.plate:
                back = "back" if place.plate < 0 else "on"
                text += f", then plate {count(abs(place.plate), 'space')} {back}"
            return text, _stands(places, here)
        case By.SPINDLE | By.FLATS:
            assert before is not None
            on = int(place.at - places.each[before].at) % places.circle
            return f"{count(on, 'hole' if places.by is By.SPINDLE else 'flat')} on", _stands(places, here)
        case _:
            return "on to", _stands(places, here)


def _stands(places: Places, place: Place) -> str:
    match places.by:
        case By.CRANK:
            return f"circle {places.circle}, hole {place.hole}"
        case By.CRANK_AND_PLATE:
            return f"circle {places.circle}, hole {place.hole}; lock pin in the {places.lock}"
        case By.SPINDLE:
            return f"hole {int(place.at)} of {places.circle} on the spindle"
        case By.FLATS:
            return f"flat {int(place.at)} of {places.circle} up"
        case By.PINNED:
            hole, rest = divmod(place.at, Fraction(360, places.circle))
            return f"hole {int(hole)} of {places.circle}, second pin at {trimmed(rest, 2)}°"
        case By.DEGREES:
            return f"{degrees(place.at)} on the scale"
        case By.WHEEL:
            return f"gap {int(place.at)} of the {places.circle}"
        case By.DISC:
            return f"mark {int(place.at)}"


def degrees(angle: Fraction) -> str:
    """`63° 9′ 28″`, seconds only where they are needed."""
    whole, rest = divmod(angle, 1)
    minutes, rest = divmod(rest * 60, 1)
    seconds = rest * 60
    text = f"{whole}° {minutes:02d}′"
    return text if not seconds else f"{text} {trimmed(seconds, 1)}″"


def pass_text(cut: Cut, depths: Sequence[float], deeper: float, units: Units) -> str:
    """`marks`, `pass 2 of 3, 4.11 mm deep`. deeper: by which the last pass goes deeper than planned, by the span."""
    if cut.mark:
        return "marks only, just touch"
    last = cut.number == len(depths) - 1
    depth = depths[cut.number] + (deeper if last else 0.0)
    text = f"pass {cut.number + 1} of {len(depths)}, {length(depth, units, 2)} deep"
    return f"{text}, {length(deeper, units, 2)} more than planned" if last and deeper else text


def cut_text(cut: Cut, depths: int) -> str:
    """`tooth 23, pass 2 of 3`, `tooth 1, marks`"""
    return f"tooth {cut.tooth + 1}, {'marks' if cut.mark else f'pass {cut.number + 1} of {depths}'}"


def happened(kind: EventKind, about: Mapping[str, Any], cut: Cut | None, depths: int) -> str:
    """One recorded thing in a sentence; `cut`: what it was done with, where it was a cut."""
    where = "" if cut is None else cut_text(cut, depths)
    match kind:
        case EventKind.DONE:
            return f"Cut: {where}."
        case EventKind.BACK:
            return f"Back to {where}."
        case EventKind.PAUSE:
            return f"Paused: {about['reason']}."
        case EventKind.RESUME:
            return "Resumed."
        case EventKind.JUMP:
            return f"Jumped to {where}: {about['reason']}."
        case EventKind.COUNTED:
            return f"Marks counted: {about['count']}."
        case EventKind.MEASURED:
            if about.get("mm") is None:
                return f"Span not measured: {about['reason']}."
            again = ": too thick, the first teeth are cut again" if about.get("again") else ""
            return f"Span measured, {fixed(float(about['mm']), 3)} mm{again}."
        case EventKind.NOTE:
            return f"Note: {about['reason']}."


def status(state: State, work: Work) -> str:
    """Where it stands."""
    if state.finished(work):
        return "Every gap is cut. Compare the last gap with its neighbours."
    if state.paused is not None:
        return f"Paused: {state.paused}."
    if state.must_measure(work):
        return f"Measure the first {work.measured_after} full teeth, while there is metal."
    if state.must_count(work):
        return f"Count the marks: there must be {work.divisions}. Nothing is cut deep yet."
    return ""


def lost(which_tooth: WhichTooth, recorded: int | None) -> str:
    """Which tooth it is, or which it may be and how to tell; `recorded`: the one that the record has next, from 0."""
    teeth = [str(n + 1) for n in which_tooth.teeth]
    if not teeth:
        return "No tooth stands in that hole: look at the circle, and at the hole again."
    if which_tooth.contradicts:
        return (
            f"By the hole it is tooth {listed(teeth[:_MOST_NAMED], 'or')}, but the gaps say another: one of the two is "
            "wrong. Look at the hole and count the gaps again."
        )
    record = "" if recorded is None else str(recorded + 1)
    agrees = record in teeth
    if len(teeth) == 1:
        return f"This is tooth {teeth[0]}.{f' The record says tooth {record}.' if record and not agrees else ''}"
    by_record = f" By the record it is {record}." if agrees else ""
    if len(teeth) > _MOST_NAMED:
        return f"It may be any of {len(teeth)} teeth.{by_record} Count the gaps that are cut."
    text = f"It is tooth {listed(teeth, 'or')}.{by_record}"
    if len(teeth) == 2:
        return f"{text} Is the gap under the cutter cut already? Then it is the lower one, done; else the next."
    return f"{text} Count the gaps that are cut."


_MOST_NAMED = 6
# The smallest difference that is told, µm.
_SEEN = 0.5


def last_gap(measured: float, off: float, of: DivisionDone, slips: list[GapExplanation], units: Units) -> str:
    """What the comparison says. measured, off: µm."""
    planned = of.planned_gap
    plan = ""
    if abs(planned) >= _SEEN:
        thicker = "thicker" if planned > 0 else "thinner"
        plan = f"By this way of dividing the last tooth is planned {small(abs(planned), units)} {thicker}. "
    beside = measured - planned
    if abs(beside) <= off:
        return f"{plan}Right: within the {small(off, units)} that the reading may be off."
    thick = "thick" if beside > 0 else "thin"
    text = f"{plan}The last tooth is {small(abs(beside), units)} too {thick}."
    if not slips:
        return f"{text} No single slip explains it: measure again, or look for two."
    return f"{text} It comes of:"


def gap_kept(about: Mapping[str, Any], units: Units) -> str:
    """What a last gap told, as the log keeps it: `right`, `120 µm too thick: one space of the 39 short, once`."""
    if about["agrees"]:
        return "right"
    beside = float(about["beside_um"])
    text = f"{small(abs(beside), units)} too {'thick' if beside > 0 else 'thin'}"
    if about.get("slip") not in list(Slip):
        return f"{text}, no single slip explains it"
    unit, circle = about.get("unit"), int(about.get("of_circle") or 0)
    of = Spaces(Unit(unit), Fraction(1), circle) if unit in list(Unit) else None
    return f"{text}: {_slip_name(GapExplanation(Slip(about['slip']), 0.0, of, about.get('circle')))}"


def _slip_name(explained: GapExplanation) -> str:
    if explained.slip is Slip.OTHER_CIRCLE and explained.of is not None:
        return f"the pin in the {explained.circle} in place of the {explained.of.circle}"
    return SLIPS[explained.slip].format(one=_counted(explained.of, 1), two=_counted(explained.of, 2))


def slip(explained: GapExplanation, units: Units) -> str:
    """One slip with what it leaves, and what can be saved."""
    name = _slip_name(explained)
    saved = _SAVED[explained.slip]
    off = f"{'thick' if explained.gap > 0 else 'thin'} by {small(abs(explained.gap), units)}"
    return f"{name[0].upper()}{name[1:]} ({off}). {saved}"


_UNITS = {
    Unit.SPACE: ("one space", "two spaces"), Unit.GRADUATION: ("one graduation", "two graduations"),
    Unit.DEGREE: ("one degree", "two degrees"), Unit.PIN: ("one hole of the second pin", "two holes of the second pin"),
}  # fmt: skip


def _counted(of: Spaces | None, many: int) -> str:
    """`one space of the 39`"""
    if of is None:
        return ""
    text = _UNITS[of.unit][many - 1]
    return f"{text} of the {of.circle}" if of.circle else text


_ONCE = "It sits in one place: find the odd tooth by span. For a change wheel it often still runs, with a click."
_SPOILT = "The wheel cannot be saved; the blank serves for a smaller one."
_SAVED = {
    Slip.SHORT_ONCE: _ONCE, Slip.FAR_ONCE: _ONCE, Slip.TWO_SHORT_ONCE: _ONCE, Slip.TWO_FAR_ONCE: _ONCE,
    Slip.SHORT_ALWAYS: _SPOILT, Slip.FAR_ALWAYS: _SPOILT,
    Slip.LEFT_OUT: "If only marks are cut, begin anew from the first. Cut deep, the wheel cannot be saved.",
    Slip.TWICE: "The double tooth wants a gap in its middle, which no move of this round gives. It cannot be saved.",
    Slip.OTHER_CIRCLE: _SPOILT,
}  # fmt: skip


def time_text(seconds: float) -> str:
    """`2 h 10 min`, `14 min`, `40 s`."""
    if seconds < 90:
        return f"{round(seconds)} s"
    minutes = round(seconds / 60)
    return f"{minutes} min" if minutes < 100 else f"{minutes // 60} h {minutes % 60} min"
