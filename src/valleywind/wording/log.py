"""Entries of the log in words."""

from collections.abc import Mapping
from datetime import datetime
from fractions import Fraction
from typing import Any

from valleywind.core.hobbing.machine import Box
from valleywind.core.trains.readings import Together
from valleywind.core.trains.slips import SlipKind
from valleywind.shop.models import LogKind, LogRow, Outcome
from valleywind.wording import changes
from valleywind.wording.changes import set_up_text
from valleywind.wording.hobbing.boxes import BOXES
from valleywind.wording.making import log as job_words
from valleywind.wording.making.session import gap_kept
from valleywind.wording.making.steps import TITLES
from valleywind.wording.numbers import Units, count, fixed, length, listed, trimmed
from valleywind.wording.slips import wheels_slip

_MONTHS = (
    "January", "February", "March", "April", "May", "June", "July", "August", "September", "October", "November",
    "December",
)  # fmt: skip
OUTCOMES = {
    Outcome.RAN_FREE: "ran free",
    Outcome.TIGHT: "tight",
    Outcome.SCRAPPED: "scrapped",
}
TRIED = {"nut": "a nut", "gauge": "a gauge", "mate": "its mate"}
"""What a thread or wheel was tried with."""
_OF_A_JOB = {
    "in_rack": "put into the rack",
    "out_again": "taken out of the rack again by undo",
    "begun": "cutting begun",
    "finished": "every gap cut",
}
# A slip that is not one of wheels; {name}: what its machine calls it.
_FACTORS = {
    "miscounted": "the turns were miscounted, these are {name}",
    "hob_miscounted": "the turns of the hob were miscounted, these are {name}",
    "marks_miscounted": "the marks were miscounted, there are {name}",
    "hob_starts": "the hob has {name} starts",
    "reversing_pair": "the other reversing pair is on",
    "box_step": "the box stands at {name}",
    "first_lever": "the first shaft’s lever stands at {name}",
    "first_ratio": "the first shaft turns {name} to the spindle’s 1",
    "read_in_inch": "the reading is in inches",
    "read_in_mm": "the reading is in mm",
    "set_as_tpi": "set up for {name} threads to the inch",
    "set_as_mm": "set up for {name} mm",
    "pair_turned": "the worm pair is in the other way round",
    "other_pair": "another worm pair is in",
}


def title(machine: str) -> str:
    """`Log of Plover`, `Log`."""
    return f"Log of {machine}" if machine else "Log"


def day(at: str) -> str:
    """The day of a time as it is kept, here: `3 March 2026`."""
    when = datetime.fromisoformat(at).astimezone()
    return f"{when.day} {_MONTHS[when.month - 1]} {when.year}"


def time(at: str) -> str:
    """`14:05`, here."""
    return f"{datetime.fromisoformat(at).astimezone():%H:%M}"


def range_text(since: str, until: str, shown: int, rest: int) -> str:
    """Which entries stand on paper."""
    text = count(shown, "entry", "entries")
    text += f" from {day(since)}" if since else ""
    text += f" to {day(until)}" if until else ""
    return f"{text}; {rest} older ones are left out." if rest else f"{text}."


def outcome(value: str) -> str:
    """`ran free`; empty where nothing was said."""
    return OUTCOMES[Outcome(value)] if value in list(Outcome) else ""


def train_words(train: str) -> str:
    """A set-up as the log keeps it, as people write it: `76/66 × 32/78`, `index 48/37, feed 52/38`."""
    if "+" not in train:
        return set_up_text(train).removesuffix(",")
    boxes = zip((Box.INDEX, Box.FEED, Box.DIFFERENTIAL), train.split("+"), strict=False)
    return ", ".join(
        f"{BOXES[box]} {set_up_text(part.partition('@')[0])}" for box, part in boxes if part.partition("@")[0]
    )


def sentence(row: LogRow, units: Units) -> str:
    """What happened, in one sentence."""
    match LogKind(row.kind):
        case LogKind.CHANGE:
            text = changes.change(row.code, row.about)
            return f"{text.removesuffix('.')}, for {row.ask}." if row.ask else text
        case LogKind.CHECK:
            return f"{_work(row)}: {check_words(row.about, units)}"
        case LogKind.JOB:
            return _of_a_job(row, units)
        case LogKind.DONE:
            return _done(row)
        case LogKind.NOTE if row.about.get("photo"):
            text = f"Photograph: {_work(row)}." if _work(row) else "Photograph."
            return f"{text} {row.note}".strip()
        case _:
            return row.note


def why_struck(row: LogRow) -> str:
    """Why the entry before is struck through by this one."""
    return row.note if row.kind == LogKind.CORRECTION.value else "undone"


def check_words(about: Mapping[str, Any], units: Units) -> str:
    """`20.00 mm over 10 turns, 20.00 mm wanted. It agrees.`"""
    measured, expected, over = Fraction(about["measured"]), Fraction(about["expected"]), Fraction(about["over"])
    match about["what"]:
        case "length":
            read = f"{length(measured, units, 3)} over {count(int(over), 'turn')}, {length(expected, units, 3)} wanted"
        case "angle":
            read = f"{trimmed(measured, 2)}° in {count(int(over), 'turn')} of the hob, {fixed(expected, 2)}° wanted"
        case "marks":
            read = f"{count(int(measured), 'mark')}, {trimmed(expected, 2)} wanted"
        case "crank":
            read = f"{trimmed(measured, 2)} turns of the crank over {length(over, units)}, {fixed(expected, 2)} wanted"
        case "line":
            read = f"a line of {trimmed(measured, 2)}° at {length(over, units)} across, {fixed(expected, 2)}° wanted"
        case _:
            read = f"{trimmed(measured, 2)}° over {length(over, units)}, {fixed(expected, 2)}° wanted"
    if about["agrees"]:
        return f"{read}. It agrees."
    slip = about.get("slip")
    return f"{read}. It does not agree{f': {_slip(slip)}' if slip else ''}."


def _slip(kept: Mapping[str, Any]) -> str:
    kind = SlipKind(kept["kind"])
    if kind is SlipKind.FACTOR:
        text = _FACTORS.get(kept["code"], "something else").format(name=kept["name"])
    else:
        text = wheels_slip(kind, kept["wheels"]).removesuffix(".")
        text = text[0].lower() + text[1:]
    return text if kept["sure"] else f"perhaps {text}"


def _work(row: LogRow) -> str:
    work = f"{row.ask} on {row.machine}" if row.ask else row.machine
    return f"{work}, with {train_words(row.train)}" if row.train else work


def _done(row: LogRow) -> str:
    pieces = row.about.get("pieces", 1)
    many = f"{pieces} × " if pieces > 1 else ""
    came = f": {outcome(row.outcome)}" if row.outcome else ""
    tried = f", tried with {TRIED[row.about['tried']]}" if row.about.get("tried") in TRIED else ""
    took = f", in {row.about['minutes']} min" if row.about.get("minutes") else ""
    note = f" {row.note}" if row.note else ""
    return f"Done: {many}{_work(row)}{came}{tried}{took}.{note}"


def _of_a_job(row: LogRow, units: Units) -> str:
    wheel = f"Wheel of {row.about['teeth']}"
    if row.code == "last_gap":
        return f"{wheel}, last gap: {gap_kept(row.about, units)}."
    if row.code == "found":
        title = TITLES.get(row.about["step"], row.about["step"])
        text = job_words.figure_text(title, row.about["figure"], row.about["done"], row.about.get("accepted", ""))
        return f"{wheel}, {text[0].lower()}{text[1:]}"
    return f"{wheel}: {_OF_A_JOB.get(row.code, row.code)}."


def lacking(teeth: list[int]) -> str:
    """`The 66 and the 78 of it are not held now.`"""
    named = listed([f"{'the' if n else 'The'} {one}" for n, one in enumerate(teeth)])
    return f"{named} of it {'is' if len(teeth) == 1 else 'are'} not held now."


def readings_text(lead: Together | None, n: int, left_out: int) -> str:
    """What readings of a lead say together: `Over 14 checks the lead is 210 ppm short, ±60: …`. n: how many there are;
    left_out: how many of them do not count."""
    if lead is None:
        return f"{count(n, 'check')} so far: too few to say anything together." if n else "No checks so far."
    side = "long" if lead.relative > 0 else "short"
    left = f" Left out, with a cross: {count(left_out, 'reading')}." if left_out else ""
    ppm, off = f"{abs(lead.relative) * 1e6:.0f} ppm", f"±{lead.off * 1e6:.0f}"
    if not lead.says:
        return f"Over {count(lead.used, 'check')} the lead is as it should be, {off} ppm.{left}"
    return (
        f"Over {count(lead.used, 'check')} the lead is {ppm} {side}, {off}: a worn screw, or its constant is not what "
        f"the record says.{left}"
    )
