"""The ask in plain fields, for those who prefer them to the line.

A pitch field takes all that the line takes. What it says and another field says too must agree; a field that only shows
what it was filled with gives way.
"""

from collections.abc import Callable
from dataclasses import dataclass, replace
from fractions import Fraction
from typing import Any, TypeVar

from valleywind.core.lathe.ask import in_range, read, with_diameter, with_flanks
from valleywind.core.lathe.fits import fit
from valleywind.core.lathe.line import MOST_STARTS, Particulars, ThreadLine, particulars
from valleywind.core.lathe.thread import Ask, CarriageMove, FeedAsk, ThreadAsk, bare_pitch
from valleywind.core.refusal import Refusal
from valleywind.core.trains.direction import Hand
from valleywind.core.units import degrees_or_none, parse_length, parse_number, parse_whole, spell

T = TypeVar("T")


@dataclass(frozen=True)
class Fields:
    """What was typed, field by field; empty where it is to be as usual. `pitch` may be a size, or a feed's travel;
    `flanks` is a worm's pressure angle, any other thread's included angle; `within` is in percent."""

    pitch: str
    way: CarriageMove = CarriageMove.THREAD
    hand: Hand = Hand.RIGHT
    starts: str = ""
    diameter: str = ""
    engagement: str = ""
    flanks: str = ""
    fit_class: str = ""
    slide: bool = False
    within: str = ""


def ask_from(fields: Fields, base: Ask | None = None) -> Ask:
    """The ask of these fields. A thread keeps its name, and with it its flanks, as long as the pitch is `base`'s own.

    Raises Refusal at the field, with the codes of `read`, `parse_length` and `parse_number`; `fields_disagree` where
    the pitch field says one thing and another field another.
    """
    if fields.way is not CarriageMove.THREAD:
        return _feed(fields, base)
    if isinstance(base, ThreadAsk) and fields.pitch.strip() == bare_pitch(base):
        ask = replace(base, engagement=None, flanks=None, within=None, fit_class=None, slide=False, starts=1)
        return _with_fields(ask, fields)
    more = _particulars(fields.pitch)
    # A lead is parted by the starts, so that these are read together with it.
    starts = _starts(fields.starts)
    typed = fields.pitch.strip()
    alone = more.starts is not None or not starts or _names_starts(typed)
    read_as = _read(typed if alone else f"{typed} {starts} starts")
    if not isinstance(read_as, ThreadAsk):
        raise Refusal("is_a_feed", "pitch", typed)
    return _with_fields(read_as, _agreeing(fields, more, read_as, base if isinstance(base, ThreadAsk) else None))


def _particulars(pitch: str) -> Particulars:
    try:
        return particulars(ThreadLine(pitch))
    except Refusal as refused:
        raise refused.under("pitch") from None


def _names_starts(pitch: str) -> bool:
    """Whether the designation itself says how many starts: Tr40x14(P7)."""
    ask = read(pitch).ask
    return isinstance(ask, ThreadAsk) and ask.starts > 1


def _agreeing(fields: Fields, more: Particulars, ask: ThreadAsk, base: ThreadAsk | None) -> Fields:
    """The fields without those that the pitch field says already. Raises Refusal `fields_disagree`."""

    def settle(name: str, typed: T | None, pitch_says: T | None, filled: T | None, tell: Callable[[T], str]) -> bool:
        """Whether the field is still wanted."""
        if pitch_says is None or typed is None:
            return True
        if typed not in (pitch_says, filled):
            raise Refusal("fields_disagree", name, tell(typed), pitch=tell(pitch_says))
        return False

    def mm(length: Fraction) -> str:
        return f"{spell(length)} mm"

    starts_said = ask.starts if more.starts is not None or ask.starts > 1 else None
    angle = _shown_angle(ask)
    keep = {
        "starts": settle("starts", _starts(fields.starts), starts_said, base.starts if base else None, str),
        "diameter": settle("diameter", _length(fields.diameter, "diameter"), ask.diameter,
                           base.diameter if base else None, mm),
        "engagement": settle("engagement", _length(fields.engagement, "engagement"), ask.engagement,
                             base.engagement if base else None, mm),
        "flanks": settle("flanks", _angle(fields.flanks), angle, _shown_angle(base) if base else None, spell),
        "fit_class": settle("fit_class", fields.fit_class or None, ask.fit_class,
                            base.fit_class if base else None, str),
        "within": settle("within", _percent(fields.within), ask.within, base.within if base else None,
                         lambda w: f"{spell(w * 100)} %"),
    }  # fmt: skip
    hand = fields.hand
    if more.hand is not None and more.hand is not hand:
        if hand is not (base.hand if base else Hand.RIGHT):
            raise Refusal("fields_disagree", "hand", f"{hand}-hand", pitch=f"{more.hand}-hand")
        hand = more.hand
    said_fields = {
        "starts": str(ask.starts),
        "diameter": "",
        "engagement": mm(ask.engagement) if ask.engagement is not None else "",
        "flanks": spell(angle) if angle is not None else "",
        "fit_class": ask.fit_class or "",
        "within": spell(ask.within * 100) if ask.within is not None else "",
    }
    agreed: dict[str, Any] = {name: (getattr(fields, name) if keep[name] else "") or said_fields[name] for name in keep}
    return replace(fields, hand=hand, slide=fields.slide or ask.slide, **agreed)


def _shown_angle(ask: ThreadAsk) -> Fraction | None:
    """What the field for flanks shows: the included angle, of a worm the pressure angle; None as usual."""
    return ask.flanks / 2 if ask.worm and ask.flanks is not None else ask.flanks


def _with_fields(ask: ThreadAsk, fields: Fields) -> ThreadAsk:
    """The thread with what the fields say."""
    ask = replace(ask, starts=_starts(fields.starts) or 1, hand=fields.hand, slide=fields.slide and ask.worm is None,
                  fit_class=fields.fit_class or None, within=_percent(fields.within),
                  engagement=_length(fields.engagement, "engagement"))  # fmt: skip
    if diameter := _length(fields.diameter, "diameter"):
        ask = with_diameter(ask, diameter)
    if (angle := _angle(fields.flanks)) is not None:
        ask = with_flanks(ask, angle * 2 if ask.worm else angle)
    _in_range(ask)
    if ask.worm is not None:
        return replace(ask, fit_class=None)
    fit(ask.series, ask.fit_class, 1.0, 1.0)
    return ask


def _in_range(ask: ThreadAsk) -> None:
    try:
        in_range(ask)
    except Refusal as refused:
        at = {"diameter_out_of_range": "diameter", "engagement_out_of_range": "engagement"}
        raise refused.under(at.get(refused.code, "pitch")) from None


def _feed(fields: Fields, base: Ask | None) -> FeedAsk:
    more = _particulars(fields.pitch)
    if more.across is not None and more.across is not (fields.way is CarriageMove.ACROSS):
        raise Refusal("fields_disagree", "pitch", "across" if more.across else "along", pitch=fields.way.value)
    fed = _read(fields.pitch if fields.pitch.strip().lower().startswith("feed") else f"feed {fields.pitch.strip()}")
    if not isinstance(fed, FeedAsk):
        raise Refusal("not_understood", "pitch", fields.pitch)
    hand, filled = fields.hand, base.hand if isinstance(base, FeedAsk) else Hand.RIGHT
    if more.hand is not None and more.hand is not hand and hand is not filled:
        raise Refusal("fields_disagree", "hand", f"{hand}-hand", pitch=f"{more.hand}-hand")
    within = _percent(fields.within)
    if more.within is not None and within not in (None, more.within, base.within if base else None):
        raise Refusal("fields_disagree", "within", fields.within, pitch=f"{spell(more.within * 100)} %")
    return replace(
        fed, way=fields.way, hand=more.hand or hand, within=more.within if more.within is not None else within
    )


def _read(typed: str) -> Ask:
    reading = read(typed)
    if reading.ask is None:
        assert reading.refusal is not None
        raise reading.refusal.under("pitch")
    return reading.ask


def _starts(typed: str) -> int | None:
    return parse_whole(typed, "starts", 1, MOST_STARTS, "starts?") if typed.strip() else None


def _length(typed: str, field: str) -> Fraction | None:
    return parse_length(typed, field=field).mm if typed.strip() else None


def _angle(typed: str) -> Fraction | None:
    return degrees_or_none(typed, "flanks")


def _percent(typed: str) -> Fraction | None:
    text = typed.strip().removesuffix("%").strip()
    if not text:
        return None
    allowed = parse_number(text, "within") / 100
    if not 0 <= allowed < 1:
        raise Refusal("within_out_of_range", "within", typed)
    return allowed
