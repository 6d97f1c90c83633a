"""A plate in words: what each line is, what the plate gives, and what it leaves open. The same for every machine."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.plate.misreadings import Misreading, MisreadPart
from valleywind.core.plate.plate import Agreement, JudgedLine, OpenQuestion, Plate
from valleywind.core.plate.reading import FourWheels, Reading
from valleywind.core.plate.text import Trouble, UnreadLine
from valleywind.wording.numbers import a, count, error, listed, off


@dataclass(frozen=True)
class PlateWords:
    """How a kind of machine speaks of its plate. line: what a line's pitch, lead or count is called; constant: the
    constant in words; divisible: which two figures of the machine a plate cannot tell apart, and how to tell them;
    fields: what each field of the record that a plate fills is called."""

    line: str
    constant: Callable[[Fraction], str]
    divisible: Callable[[Fraction], str]
    fields: Mapping[str, str]
    off: Callable[[Fraction], str] = off


STANDINGS = {
    Agreement.AGREES: "agrees",
    Agreement.APPROXIMATE: "approximate",
    Agreement.WRONG: "wrong",
    Agreement.ALONE: "not checked",
}


def line_says(judged: JudgedLine, words: PlateWords) -> str:
    """What is said of a line."""
    if judged.standing is Agreement.AGREES:
        return "Agrees."
    if judged.standing is Agreement.APPROXIMATE:
        assert judged.error is not None
        return f"An approximation: {words.off(judged.error)}."
    changes = [change_text(change) for change in judged.changes[:3]]
    if judged.standing is Agreement.WRONG:
        assert judged.error is not None
        if not changes:
            return f"Does not agree ({error(judged.error)}). No single change explains it."
        first = f"Agrees with the others with {changes[0]}."
        return first + (f" Or with {listed(changes[1:], 'or')}." if len(changes) > 1 else "")
    if changes:
        return f"Agrees with the other line with {listed(changes, 'or')}."
    return "No other line confirms it."


def change_text(change: Misreading) -> str:
    """`55 for 56`, `the 30 and the 60 exchanged`, `20 tpi for 22 tpi`, `II A for II B`."""
    if change.changed is MisreadPart.EXCHANGED:
        return f"the {change.was} and the {change.now} exchanged"
    return f"{change.now} for {change.was}"


_TROUBLE = {
    Trouble.NO_TARGET: "No {line} is found in this line.",
    Trouble.NO_WHEELS: "The wheels of this line are not understood.",
    Trouble.TOO_MANY_WHEELS: "There are more than six wheels in this line.",
    Trouble.NOT_A_WHEEL: "“{part}” is not a wheel.",
    Trouble.TOO_MANY_LABELS: "“{part}” is more than positions of levers.",
}


def unread_says(line: UnreadLine, words: PlateWords) -> str:
    """Why a line was not read."""
    return _TROUBLE[line.trouble].format(line=words.line, part=line.part)


def reading_says(reading: Reading) -> str:
    """How the columns are read, in a sentence."""
    way = "The first wheel of a line is driven" if reading.upward else "The first wheel of a line drives"
    more = []
    if reading.four is FourWheels.HALVES:
        more.append("the first half of the wheels drives the second")
    if reading.four is FourWheels.OUTER:
        more.append("first and last wheel drive" if not reading.upward else "the middle wheels drive")
    if reading.driver_first:
        more.append("of a stud’s pair the first one drives")
    if reading.bare:
        more.append(f"numbers without a unit are {_BARE.get(reading.bare, reading.bare)}")
    return f"{'; '.join((way, *more))}."


_BARE = {"tpi": "threads per inch", "mm": "mm", "inch": "inches"}


def plate_says(plate: Plate, words: PlateWords) -> str:
    """What the plate gives, in a sentence or two."""
    agree, rounded, wrong = (len(plate.standing(s)) for s in (Agreement.AGREES, Agreement.APPROXIMATE, Agreement.WRONG))
    if plate.constant is None:
        return "No constant can be told from these lines yet."
    parts = [f"{count(agree, 'line')} {'agrees' if agree == 1 else 'agree'}"]
    if rounded:
        parts.append(f"{rounded} {'is an approximation' if rounded == 1 else 'are approximations'}")
    if wrong:
        parts.append(f"{wrong} {'is wrong' if wrong == 1 else 'are wrong'}")
    return f"{words.constant(plate.constant)} {listed(parts)}."


def open_says(plate: Plate, words: PlateWords) -> list[str]:
    """What the plate leaves open, and what would settle it."""
    return [_open(one, plate, words) for one in plate.open]


def _open(one: OpenQuestion, plate: Plate, words: PlateWords) -> str:
    if one is OpenQuestion.TWO_LINES:
        if len(plate.lines) < 2:
            return f"One line is not enough. Type a second one with another {words.line}."
        return "Only two lines agree. A third one would confirm them."
    if one is OpenQuestion.DISAGREE:
        return "No two lines agree. Type more lines."
    if one is OpenQuestion.ONE_RATIO:
        return "All lines have wheels of the same ratio. A line with other wheels would show which wheel drives."
    if one is OpenQuestion.LONE_STEPS:
        return "Some positions stand in one line only. A second line for each would show a slip there."
    if one is OpenQuestion.OTHER_READING:
        assert plate.other is not None
        reading, constant = plate.other
        return " ".join(
            ("The lines agree as well read another way.", reading_says(reading), words.constant(constant),
             _settles(plate.reading, reading, words))
        )  # fmt: skip
    assert plate.constant is not None
    return words.divisible(plate.constant)


def _settles(reading: Reading, other: Reading, words: PlateWords) -> str:
    if reading.bare != other.bare:
        return f"A {words.line} with its unit would settle it."
    if reading.driver_first != other.driver_first:
        return "Look which wheel of the stud’s pair meshes with the first one."
    return "Look which wheel stands on the first shaft."


def beside(best: Fraction, gives: Fraction | None, same: bool) -> str:
    """The best train of the wheels held beside the plate's own. best, gives: their errors, None where the plate's line
    is wrong."""
    if same:
        return "the same"
    if gives is None:
        return f"{off(best)}; the plate is wrong"
    if abs(best) < abs(gives):
        return f"better: {off(best)}"
    return "as good" if abs(best) == abs(gives) else f"{off(best)}; the plate is nearer"


OTHER_PAIR = "with the other reversing pair"
MADE_UP = "made up by the differential"


def no_train(new: int | None) -> str:
    """Why there is no train: a wheel is lacking, or nothing goes on."""
    return f"needs {a(new)}" if new is not None else "none that fits"
