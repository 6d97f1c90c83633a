"""What is said of wheels that were counted in a picture."""

from collections.abc import Sequence

from valleywind.core.teeth.photo.counting import Count, ToothCount, Why
from valleywind.core.teeth.photo.measuring import Diameters
from valleywind.wording.numbers import Units, count, length, listed

_BETTER = "Take it from straight above, the whole wheel large in the picture, in even light."
_WHY = {
    Why.NO_WHEEL: f"No wheel can be counted in this picture. {_BETTER}",
    Why.DRAWN: "This is a drawing, not a photograph of a wheel.",
    Why.PLAIN: f"Nothing stands out in this picture. {_BETTER}",
    Why.SMALL: "This picture is too small: a tooth needs four pixels or more.",
    Why.OVERLAP: "Wheels overlap in this picture. Lay them apart.",
    Why.INTERNAL: "This looks like an internal gear. Only wheels with teeth outside are counted.",
    Why.CHAIN: (
        "This looks like a chain wheel: its teeth are narrower than a gear’s. "
        "It is counted only where its middle is tapped, and never for sure."
    ),
    Why.BLURRED: "This picture is blurred, and no wheel can be counted in it. Hold the camera still, and let it focus.",
    Why.HIDDEN: "The count is not sure: too few of the teeth are seen whole. Wipe them, and take it without shadows.",
    Why.FINE: "The count is not sure: the teeth are small here. Go nearer, or drag from the middle to the tips.",
    Why.FAINT: "The count is not sure: the teeth hardly stand out. Take it in even light, before a plain ground.",
    Why.UNSURE: "The count is not sure. Check the marks against the teeth, or take a better picture.",
}
_NOT_SEEN = "The length that is known is not seen, so that there is no scale."
_MOST_NAMED = 8


def says(count: Count, measured: Sequence[Diameters | None], sizes_wanted: bool) -> str:
    """Why nothing is said, or not for sure; empty where all is well. asked: a length was given."""
    if count.why is not None:
        return _WHY[count.why]
    return _NOT_SEEN if sizes_wanted and any(one is None for one in measured) else ""


def wheel(one: ToothCount, openings: int = 0, keyway: bool = False) -> str:
    """`57 teeth`, `57 teeth, not sure`; which teeth are doubtful; and what is in its web and bore."""
    holes = f" In its web: {openings} holes, or openings between spokes." if openings else ""
    return _teeth(one) + holes + (" A keyway is in its bore." if keyway else "")


def _teeth(one: ToothCount) -> str:
    text = count(one.teeth, "tooth", "teeth") + ("" if one.sure else ", not sure")
    if not one.doubtful:
        return f"{text}."
    named = [str(n) for n in one.doubtful[:_MOST_NAMED]]
    more = len(one.doubtful) - len(named)
    which = f"{', '.join(named)} and {more} more" if more > 0 else listed(named)
    return f"{text}. Worn, broken or hidden: {which}."


def sizes(of: Diameters, units: Units) -> str:
    """`over the tips 89.4 mm, over the roots 82.2 mm, give or take 0.6 mm; bore 16 mm`"""
    tip, root = length(of.tip, units), length(of.root, units)
    bore = f"; bore {length(of.bore, units)}" if of.bore is not None else ""
    return f"over the tips {tip}, over the roots {root}, give or take {length(of.tip_off, units)}{bore}"
