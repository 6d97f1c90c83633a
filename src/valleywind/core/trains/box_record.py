"""One of a machine's boxes for change wheels as its record has it: quadrant, turning way, posts."""

import re
from collections.abc import Callable
from dataclasses import dataclass, field
from enum import StrEnum
from fractions import Fraction
from typing import TypeVar

from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import UNKNOWN_FAMILY, WheelFamily
from valleywind.core.trains.direction import Drive, Sense
from valleywind.core.trains.gearbox import Gearbox
from valleywind.core.trains.quadrant_record import TypedQuadrant, read_quadrant
from valleywind.core.units import parse_number

_MOST_POSTS = 6
W = TypeVar("W", bound=StrEnum)


@dataclass(frozen=True)
class Post:
    """A post that a wheel is clamped on. diameter, length: mm; worn: its thread is worn."""

    diameter: Fraction
    length: Fraction
    worn: bool = False


@dataclass(frozen=True)
class TypedBox:
    """A box as typed. turns: the number of meshes, `even` or `odd`, with which it turns the right way without a lever;
    empty where that is not known. The right way is, of a hobber's index, that of the table for a right-hand hob; of its
    feed, down; of its differential and of a mill's lead drive, that for a right-hand helix. lever: whether it can be
    reversed. posts: `22 x 60, 20 x 55 worn`."""

    quadrant: TypedQuadrant = field(default_factory=TypedQuadrant)
    turns: str = ""
    lever: bool = False
    posts: str = ""


def read_box(box: str, typed: TypedBox, family: WheelFamily | None, most_stages: int) -> Gearbox:
    """One box. Raises Refusal at its fields, under the box's name."""
    try:
        facts = read_quadrant(typed.quadrant)
    except Refusal as refused:
        raise refused.under(f"{box}.{refused.field}") from None
    drive = None
    if typed.turns.strip():
        even = one_of(typed.turns, f"{box}.turns", ("even", "odd")) == "even"
        # Every mesh turns the sense round: only whether their number is even counts, so the senses here stand for that.
        drive = Drive(Sense.CLOCKWISE, Sense.CLOCKWISE if even else Sense.ANTICLOCKWISE, typed.lever)
    carrier = facts.carrier(float(family.module) if family else None)
    return Gearbox(family or UNKNOWN_FAMILY, carrier, drive=drive, most_stages=most_stages)


def read_posts(text: str, field: str) -> tuple[Post, ...]:
    """Posts as typed, from the first shaft on: `22 x 60, 20 x 55 worn`. Raises Refusal `not_a_post`."""
    posts = []
    for part in (p.strip() for p in text.split(",")):
        if part:
            match = re.fullmatch(r"([\d.]+)\s*[x×]\s*([\d.]+)\s*(?:mm)?\s*(worn)?", part, re.ASCII | re.IGNORECASE)
            if not match:
                raise Refusal("not_a_post", field, part)
            size = parse_number(match[1], field), parse_number(match[2], field)
            if not all(0 < s <= 1000 for s in size):
                raise Refusal("not_a_post", field, part)
            posts.append(Post(*size, bool(match[3])))
    if len(posts) > _MOST_POSTS:
        raise Refusal("too_many_posts", field, len(posts), most=_MOST_POSTS)
    return tuple(posts)


def one_of(text: str, field: str, known: tuple[str, ...]) -> str:
    """A word out of these. Raises Refusal `not_one_of`."""
    word = text.strip().lower()
    if word not in known:
        raise Refusal("not_one_of", field, text, known=list(known))
    return word


def word(kind: type[W]) -> Callable[[str, str], W]:
    """The reader of a field that holds one word of an enumeration. Raises Refusal `not_one_of`."""
    return lambda text, field: kind(one_of(text, field, tuple(kind)))
