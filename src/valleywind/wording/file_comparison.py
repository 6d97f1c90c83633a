"""What a shop's file has, in words."""

from collections.abc import Mapping, Sequence
from fractions import Fraction
from typing import Any

from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.wording.hobbing.answers import pitch_text
from valleywind.wording.numbers import Units, count, short_length
from valleywind.wording.rack.stores import wheel_name

STANDING = {"new": "new", "same": "the same", "different": "different"}
CHOICES = {"mine": "Keep mine", "theirs": "Take theirs", "both": "Keep both"}
_OF_NEW = {"theirs": "Add", "mine": "Leave out"}
CANNOT_WRITE = "{path} cannot be written: {why}."
CANNOT_READ = "{path} cannot be read: {why}."
ONLY_LOOKED = "Nothing was changed. To take it in, say it again with --apply."
_COUNTED = {
    "family": ("wheel family", "wheel families"),
    "machine": ("machine", "machines"),
    "wheel": ("wheel", "wheels"),
    "cutter": ("cutter", "cutters"),
    "bar": ("piece of bar", "pieces of bar"),
    "job": ("job", "jobs"),
    "log": ("entry of the log", "entries of the log"),
    "task": ("thing to do", "things to do"),
}


def item_text(kind: str, about: Mapping[str, Any], units: Units) -> str:
    """A thing of a file: `Plover, lathe, 24 wheels`."""
    match kind:
        case "family":
            return f"Wheel family {about['name']}"
        case "machine":
            return f"{about['name']}, {about['kind']}, {count(about['wheels'], 'wheel')}"
        case "wheel":
            many = f"{about['count']} × " if about["count"] != 1 else ""
            family = about["family"] or "not recognised"
            return f"Wheel {many}{wheel_name(about['teeth'], about['condition'], about['place'])}, {family}"
        case "cutter":
            pitch = pitch_text(Pitch(PitchSystem(about["pitch_system"]), Fraction(about["pitch_value"])))
            return f"Cutter {pitch}, {about['lowest']} to {about['highest'] or 'a rack'}"
        case "bar":
            across, long = (
                short_length(float(Fraction(about[f"{side}_mm"])), units) for side in ("diameter", "length")
            )
            return f"Bar, {about['material']}, {across} across, {long} long"
        case "job":
            return f"Job: a wheel of {about['teeth']}, begun {about['begun'][:10]}"
        case "task":
            return f"To do: {about['new']} of {about['all']} new"
    return f"Log: {about['new']} of {count(about['all'], 'entry', 'entries')} new"


def summary(counts: Mapping[str, int]) -> str:
    """`3 machines, 1 job`; `nothing` for nothing."""
    parts = [count(n, *_COUNTED[kind]) for kind, n in counts.items() if n]
    return ", ".join(parts) if parts else "nothing"


def choice(what: str, standing: str) -> str:
    """What may be done with a thing of a file."""
    return (_OF_NEW if standing == "new" else CHOICES)[what]


def written(name: str, counts: Mapping[str, int]) -> str:
    """What a file that was written holds."""
    return f"{name} holds {summary(counts)}."


def import_text(counts: Mapping[str, int]) -> str:
    """What was taken in."""
    return f"Taken in: {summary(counts)}."


def summary_of_look(standings: Sequence[str]) -> str:
    """`3 new, 12 the same, 1 different`."""
    return ", ".join(
        f"{n} {text}" for standing, text in STANDING.items() if (n := sum(one == standing for one in standings))
    )
