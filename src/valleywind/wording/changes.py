"""What was changed, in a sentence, and what an undo could not take back."""

from collections.abc import Mapping, Sequence
from typing import Any

from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import parse_train
from valleywind.wording.rack.stores import range_text
from valleywind.wording.trains import train_text

_CHANGES = {
    "wheels_added": "Added to the rack: {wheels}.",
    "wheels_planned": "Noted to be made or bought: {wheels}.",
    "wheels_edited": "Changed in the rack: {wheels}.",
    "wheels_deleted": "Deleted from the rack: {wheels}.",
    "wheels_imported": "Added from a file: {count} lines of wheels.",
    "boxes_merged": "“{place}” merged into “{into}”.",
    "family_added": "Added the wheel family “{name}”.",
    "photo_added": "Added a photograph of the {wheels}.",
    "readings_kept": "Kept the readings of the {wheels}.",
    "machine_added": "Added {name}.",
    "machine_edited": "Changed the record of {name}.",
    "plate_saved": "Changed the plate of {name}.",
    "plate_used": "Put what the plate gives into the record of {name}.",
    "machine_deleted": "Deleted {name}.",
    "machine_archived": "Archived {name}.",
    "machine_in_use": "Took {name} into use again.",
    "machine_wheels": "Changed the wheels of {name}.",
    "full_set": "Changed the list of {name}’s full set.",
    "pinned": "Pinned {train} of {name}.",
    "unpinned": "{train} of {name} is pinned no longer.",
    "dismounted": "Took the train off {name}.",
    "boxes_cleared": "Took the trains off {name}.",
    "cutter_added": "Added a cutter: {name}.",
    "cutter_edited": "Changed a cutter: {name}.",
    "cutter_deleted": "Deleted a cutter: {name}.",
    "bar_added": "Added bar: {name}.",
    "bar_edited": "Changed bar: {name}.",
    "bar_deleted": "Deleted bar: {name}.",
    "job_added": "Added a job: a wheel of {teeth}.",
    "job_edited": "Changed the job of the {teeth}.",
    "job_deleted": "Deleted the job of the {teeth}.",
    "effort_saved": "Changed what a change weighs on {name}.",
    "tasks_added": "Added to what is to be done: {asks}.",
    "task_edited": "Changed what is to be done: {ask}.",
    "task_deleted": "Deleted from what is to be done: {ask}.",
    "task_done": "Done: {ask}.",
    "tasks_cleared": "Deleted what is done from what is to be done.",
    "imported": "Took {things} in from a shop’s file.",
    "demo_loaded": "Loaded the demo shop.",
    "changed": "Changed the shop.",
}
_LEFT = {
    "changed_since": "{what} was changed since; it stays as it is now.",
    "record_changed_since": "The record of {name} was changed since; it stays as it is now.",
    "gone_since": "{what} is not there any more.",
    "taken_since": "The name or place of {what} was taken since.",
    "on_machine": "{what} is on {machine}; it stays.",
    "wheels_gone": "The train cannot stand on {machine} again; some of its wheels are gone.",
    "fewer_since": "There are fewer of {what} now than this change added; none are left of it.",
    "needed_since": "{what} is in use since; it stays.",
    "reference_gone": "{what} belongs to something that is gone; it does not come back.",
}
# Wheels named in one sentence.
_MOST_NAMED = 12
_WHAT = {
    "wheel": "the {teeth}",
    "cutter": "the cutter",
    "bar": "the bar",
    "job": "the job of the {teeth}",
    "photo": "the photograph",
    "mounted": "the train on {machine}",
    "box_mounted": "the trains on {machine}",
    "pin": "the pinned set-up",
    "task": "what is to be done",
}


def change(code: str, about: Mapping[str, Any]) -> str:
    """What was done, in one sentence."""
    if code == "undone":
        what, of = about["what"], about["of"]
        return f"Done again: {change(of['what'], of['of'])}" if what == "undone" else f"Undone: {change(what, of)}"
    if code == "mounted":
        return f"{set_up_text(about['train'])} is on {about['name']}."
    if code == "boxes_mounted":
        boxes = "; ".join(f"{box} {set_up_text(train)}" for box, train in about["trains"].items())
        return f"On {about['name']}: {boxes}."
    words = dict(about)
    if "wheels" in words:
        words["wheels"] = _wheels(words["wheels"])
    if "asks" in words:
        words["asks"] = ", ".join(words["asks"])
    if code in ("pinned", "unpinned"):
        words["train"] = set_up_text(words["train"])
    if code == "imported":
        words["things"] = "1 thing" if words.get("count") == 1 else f"{words.get('count', 0)} things"
    if "range" in words:
        words["name"] = range_text(tuple(words["range"]))
    return _CHANGES.get(code, _CHANGES["changed"]).format_map(_OrNothing(words))


def left(code: str, about: Mapping[str, Any]) -> str:
    """What an undo left as it is, and why."""
    what = _WHAT.get(about["table"], "{name}" if about.get("name") else "something").format_map(_OrNothing(about))
    text = _LEFT[code].format_map(_OrNothing({**about, "what": what}))
    return text[0].upper() + text[1:]


class _OrNothing(dict[str, Any]):
    def __missing__(self, key: str) -> str:
        return ""


def _wheels(pairs: Sequence[Sequence[int]]) -> str:
    """`40, 48 × 2 and 5 more`"""
    named = [f"{teeth} × {count}" if count > 1 else str(teeth) for teeth, count in pairs]
    more = len(named) - _MOST_NAMED
    return ", ".join(named[:_MOST_NAMED]) + (f" and {more} more" if more > 0 else "")


def set_up_text(set_up: str) -> str:
    """A set-up as people write it: `76/66 × 32/78`, its levers behind a comma."""
    train, _, levers = set_up.partition("@")
    try:
        text = train_text(parse_train(train))
    except Refusal:
        return set_up
    return f"{text}, {levers}," if levers else text
