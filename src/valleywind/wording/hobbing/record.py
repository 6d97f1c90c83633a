"""A hobber on record, in words."""

from valleywind.core.hobbing.machine import Box, FeedSource, FeedWay, TypedHobber
from valleywind.core.trains.direction import Sense
from valleywind.wording.effort import HOLDING, QUADRANT, Weight
from valleywind.wording.hobbing.boxes import BOX_SHAFTS, BOXES
from valleywind.wording.record_form import (
    NOT_KNOWN,
    BoxWords,
    Entry,
    Group,
    KindWords,
    PartWords,
    Words,
    in_mm,
    one_fact,
    size_fact,
    turns_either_way,
)  # fmt: skip

_FEEDS = {(FeedWay.DOWN,): "down", (FeedWay.UP,): "up", (FeedWay.DOWN, FeedWay.UP): "down or up"}


def _feeds(entry: Entry) -> str:
    taken = "after the differential" if entry.of.taken is FeedSource.AFTER else "before the differential"
    return _FEEDS[entry.read] + (f", taken {taken}" if entry.of.differential else "")


_RIGHT_WAY = {
    Box.INDEX: "The table turns as a right-hand hob needs it with",
    Box.FEED: "The hob feeds down with",
    Box.DIFFERENTIAL: "A right-hand wheel comes out with",
}
HOBBER = PartWords(
    "hobber",
    "a hobber",
    "The constants of a hobber, what it has room for, and its boxes",
    TypedHobber,
    (
        Group(
            "Constants",
            (
                (
                    Words(
                        "index", "Index constants", "24 with 40/40, 48 from 97 with 48/24", long=True,
                        fact="Index constant",
                    ),
                ),
                (
                    Words("feed", "Feed per table turn at 1 : 1", "0.75 mm", facts=one_fact("Feed constant", in_mm)),
                    Words(
                        "differential", "Differential constant", "25/π mm; empty for none",
                        facts=one_fact("Differential constant", in_mm),
                    ),
                ),
                (
                    Words(
                        "table", "Table turns, seen from above, with a right-hand hob",
                        options=(NOT_KNOWN, *((s.value, s.value) for s in (Sense.ANTICLOCKWISE, Sense.CLOCKWISE))),
                        facts=one_fact(
                            "Table turns",
                            lambda e: f"{e.read.value} from above, with a right-hand hob" if e.read else "not known",
                        ),
                    ),
                ),
                (
                    Words(
                        "feeds", "Hob feeds", options=(("down", "down"), ("up", "up"), ("both", "down or up")),
                        facts=one_fact("Feeds", _feeds),
                    ),
                    Words(
                        "taken", "Feed is taken", facts=lambda _: [],
                        options=(("after", "after the differential"), ("before", "before the differential")),
                    ),
                ),
            ),
            "From the machine’s manual or plate. Index: ratio of the index train times the teeth, for one start. Where "
            "the reversing pair is changed, each constant with its pair and from which count.",
        ),
        Group(
            "Room",
            (
                (
                    Words(
                        "swivel", "Hob head turns, ± °", "45", numeric=True,
                        facts=one_fact("Hob head swivels", turns_either_way),
                    ),
                    Words("largest", "Largest wheel", "250 mm", facts=size_fact("Largest wheel")),
                ),
                (
                    Words("travel", "Travel of the hob", "180 mm", facts=size_fact("Travel")),
                    Words("between", "Between centres", "120 mm", facts=size_fact("Between centres")),
                ),
            ),
        ),
    ),
    tuple(
        BoxWords(
            box.value, name.capitalize(), _RIGHT_WAY[box], "A lever or reversing gear turns it the other way",
            BOX_SHAFTS[box],
        )
        for box, name in BOXES.items()
    ),
    "Boxes",
    "All boxes take wheels from the one set.",
)  # fmt: skip
KIND = KindWords(
    "hobber",
    "hobber",
    "a hobber",
    "Index, feed and differential trains are worked out from its constants.",
    (HOBBER,),
)
WEIGHTS = (
    Weight("index", "In the index box, each change by"), Weight("feed", "In the feed box, each change by"),
    Weight("differential", "In the differential box, each change by"), QUADRANT,
    Weight("pair", "Change the reversing pair"), Weight("tool", "Change the hob"), HOLDING,
)  # fmt: skip
"""What a change at each of its places weighs."""
