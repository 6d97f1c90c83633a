"""The ask in plain fields, for those who prefer them to the line."""

from dataclasses import dataclass, replace
from fractions import Fraction

from valleywind.core.lathe.ask import read, with_diameter, with_flanks
from valleywind.core.lathe.fits import fit
from valleywind.core.lathe.line import MOST_STARTS
from valleywind.core.lathe.thread import Ask, FeedAsk, ThreadAsk, Way, bare_pitch
from valleywind.core.refusal import Refused
from valleywind.core.trains.direction import Hand
from valleywind.core.units import parse_length, parse_number


@dataclass(frozen=True)
class Fields:
    """What was typed, field by field; empty where it is to be as usual. `pitch` may be a size, or a feed's travel;
    `flanks` is a worm's pressure angle, any other thread's included angle; `within` is in percent."""

    pitch: str
    way: Way = Way.THREAD
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

    Raises Refused at the field, with the codes of `read`, `parse_length` and `parse_number`.
    """
    within = _percent(fields.within)
    if fields.way is not Way.THREAD:
        fed = _read(fields.pitch if fields.pitch.lower().startswith("feed") else f"feed {fields.pitch}")
        assert isinstance(fed, FeedAsk)
        return replace(fed, way=fields.way, hand=fields.hand, within=within)
    ask = _thread(fields, base)
    ask = replace(ask, starts=_starts(fields.starts), hand=fields.hand, slide=fields.slide and ask.worm is None,
                  fit_class=fields.fit_class or None, within=within,
                  engagement=_length(fields.engagement, "engagement"))  # fmt: skip
    if diameter := _length(fields.diameter, "diameter"):
        ask = with_diameter(ask, diameter)
    if fields.flanks.strip():
        angle = parse_number(fields.flanks.strip().removesuffix("°"), "flanks")
        ask = with_flanks(ask, angle * 2 if ask.worm else angle)
    if ask.worm is not None:
        return replace(ask, fit_class=None)
    fit(ask.series, ask.fit_class, 1.0, 1.0)
    return ask


def _thread(fields: Fields, base: Ask | None) -> ThreadAsk:
    typed = fields.pitch.strip()
    if isinstance(base, ThreadAsk) and typed == bare_pitch(base):
        return replace(base, engagement=None, flanks=None)
    found = _read(typed)
    if not isinstance(found, ThreadAsk):
        raise Refused("not_understood", "pitch", typed)
    return found


def _read(typed: str) -> Ask:
    reading = read(typed)
    if reading.ask is None:
        assert reading.refusal is not None
        raise reading.refusal.under("pitch")
    return reading.ask


def _starts(typed: str) -> int:
    number = parse_number(typed, "starts") if typed.strip() else Fraction(1)
    if number.denominator != 1 or not 1 <= number <= MOST_STARTS:
        raise Refused("starts_out_of_range", "starts", typed, most=MOST_STARTS)
    return int(number)


def _length(typed: str, field: str) -> Fraction | None:
    return parse_length(typed, field=field).mm if typed.strip() else None


def _percent(typed: str) -> Fraction | None:
    text = typed.strip().removesuffix("%").strip()
    if not text:
        return None
    allowed = parse_number(text, "within") / 100
    if not 0 <= allowed < 1:
        raise Refused("within_out_of_range", "within", typed)
    return allowed
