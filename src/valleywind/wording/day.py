"""A day's work in words: what is changed from one set-up to the next, and what the order saves."""

from collections.abc import Mapping
from dataclasses import dataclass, field
from fractions import Fraction
from typing import Any

from valleywind.core.trains.days_work import Change, DaysWork
from valleywind.core.trains.effort import Place, What
from valleywind.core.trains.model import Train
from valleywind.wording.numbers import count, trimmed
from valleywind.wording.trains import PLANE_NAMES, ShaftNames, work

NOT_GOOD_ENOUGH = "Nothing that fits is near enough"
NOTHING_FITS = "Nothing fits."
NOTHING = "Nothing of this can be done as it is."
SAME = "nothing to change"
LEVER = "only a lever moves"
NO_WHEEL = "no wheel to change"


@dataclass(frozen=True)
class PlaceNames:
    """What the places of a set-up are called. trains: of each box, with its shafts; titles: of the boxes, empty where
    there is one; texts: what is set at a place that is no wheel, empty for what there is no choice of."""

    trains: Mapping[str, tuple[Train, ShaftNames]] = field(default_factory=dict)
    titles: Mapping[str, str] = field(default_factory=dict)
    texts: Mapping[Place, str] = field(default_factory=dict)


def sentence(day: DaysWork[Any]) -> str:
    """What the order comes to, beside the one in which it was typed."""
    if not day.turns:
        return NOTHING
    if any(place.what is What.WHEEL for turn in day.turns for place in turn.change.stands):
        says = f"{count(day.put_on, 'wheel')} put on in all"
        if day.typed_put_on != day.put_on:
            says += f", {day.typed_put_on} in the order as typed"
    else:
        now, typed = (sum(len(turn.change.put) for turn in turns) for turns in (day.turns, day.typed_turns))
        says = f"{count(now, 'change')} in all"
        if typed != now:
            says += f", {typed} in the order as typed"
    return f"{says}. {_proof(day)}"


def _proof(day: DaysWork[Any]) -> str:
    if day.proven:
        return "No order of what fits is less work."
    if day.at_least is None:
        return "Another order may be less work."
    if day.weighs <= day.at_least:
        return "No order of the trains looked at is less work."
    return f"Another order may be less work, by {_weight(day.weighs - day.at_least)} wheels at most."


def _weight(weight: Fraction) -> str:
    return trimmed(weight, 1)


def work_text(change: Change, named: PlaceNames) -> str:
    """What there is to do with the wheels: `keep 3, change 1`, `only a lever moves`; empty where there are none."""
    if not change.handling.no_wheel:
        return work(change.handling)
    if not _others(change, named):
        return SAME
    if any(place.what is What.LEVER for place in change.put):
        return LEVER
    return NO_WHEEL if any(place.what is What.WHEEL for place in change.stands) else ""


def changes(change: Change, named: PlaceNames) -> list[str]:
    """What changes, place by place: `stud, inner place: 40 for the 52`, `box to 9 ×2`."""
    stood = change.stood or {}
    words = []
    for place in change.put:
        if place.what is What.WHEEL:
            old = f" for the {stood[place]}" if place in stood else ""
            words.append(f"{_place(place, named)}: {change.stands[place]}{old}")
    for place in change.taken:
        box = named.titles.get(place.box, "")
        words.append(f"{box}, take off the {stood[place]}" if box else f"take off the {stood[place]}")
    return words + _others(change, named)


def _others(change: Change, named: PlaceNames) -> list[str]:
    """What changes beside the wheels; a quadrant where it stood otherwise."""
    words = [
        f"move the {named.trains[place.box][1].carrier}"
        for place in change.put
        if place.what is What.QUADRANT and change.stood is not None and place in change.stood
    ]
    return words + [text for place in change.put if (text := named.texts.get(place, ""))]


def _place(place: Place, named: PlaceNames) -> str:
    train, shafts = named.trains[place.box]
    shaft = shafts.of(train, train.shafts - 1 if place.shaft == -1 else place.shaft)
    where = f"{shaft}, {PLANE_NAMES[place.plane]} place"
    box = named.titles.get(place.box, "")
    return f"{box}, {where}" if box else where


def left_out(head: str | None) -> str:
    """Why nothing is planned. head: the verdict on the best there is, None where nothing fits."""
    return f"{NOT_GOOD_ENOUGH}: {head[0].lower()}{head[1:]}." if head else NOTHING_FITS


def estimate(minutes: int, of: int, same: bool) -> str:
    """`about 25 min, as the last 3 times`, `about 40 min, from 7 others on this machine`."""
    if same:
        return f"about {minutes} min, as last time" if of == 1 else f"about {minutes} min, as the last {of} times"
    return f"about {minutes} min, going by {of} other{'' if of == 1 else 's'} on this machine"
