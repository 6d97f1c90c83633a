"""A day's work on a lathe in words: what is changed from one set-up to the next, and what the order saves."""

from collections.abc import Sequence

from valleywind.core.lathe.day import LatheDay, Turn
from valleywind.core.lathe.machine import Lathe, SetUp
from valleywind.core.trains.model import Train
from valleywind.wording.lathe.answers import lever_words
from valleywind.wording.numbers import count, listed
from valleywind.wording.trains import LATHE_SHAFTS, work


def sentence(day: LatheDay) -> str:
    """What the order comes to, beside the one in which the asks were typed."""
    if not day.turns:
        return "Nothing of this can be done as it is."
    says = f"{count(day.put_on, 'wheel')} put on in all"
    if day.as_typed != day.put_on:
        says += f", {day.as_typed} in the order as typed"
    return f"{says}. With the trains that fit " + (
        "no order is less work." if day.proven else "another order may be less work."
    )


def work_of(turn: Turn, before: SetUp | None, lathe: Lathe) -> str:
    """What there is to do, shortly: `keep 3, change 1`, `only a lever moves: box to 9 ×2`."""
    if turn.handling.levers and turn.handling.no_wheel and before is not None:
        return f"only a lever moves: {listed(_moved(turn, before, lathe))}"
    return work(turn.handling)


def changes(turn: Turn, before: SetUp | None, lathe: Lathe) -> list[str]:
    """What changes from what was on before, place by place: `stud, inner place: 40 for the 52`, `box to 9 ×2`."""
    stood = before.train.places if before else {}
    train = turn.candidate.train
    words = [
        f"{_place(train, shaft, plane)}: {teeth}" + (f" for the {old}" if (old := stood.get(place)) else "")
        for place, shaft, plane, teeth in _wheels(train)
        if stood.get(place) != teeth
    ]
    gone = set(stood) - set(train.places)
    words += [f"take off the {stood[place]}" for place in sorted(gone)]
    return words + _moved(turn, before, lathe)


def left_out(verdict: str | None) -> str:
    """Why nothing is planned. verdict: on the best there is, None where nothing fits."""
    return f"Nothing that fits is near enough: {verdict}." if verdict else "Nothing fits."


def _wheels(train: Train) -> Sequence[tuple[tuple[int, int], int, int, int]]:
    last = train.shafts - 1
    return [((-1 if w.shaft == last else w.shaft, w.plane), w.shaft, w.plane, w.teeth) for w in train.wheels]


def _place(train: Train, shaft: int, plane: int) -> str:
    return f"{LATHE_SHAFTS.of(train, shaft)}, {'outer' if plane else 'inner'} place"


def _moved(turn: Turn, before: SetUp | None, lathe: Lathe) -> list[str]:
    """The levers that stand elsewhere than before; all where nothing was on."""
    now = turn.candidate.setting
    words = lever_words(now, lathe)
    if before is None:
        return words
    stood = lever_words(before.setting, lathe)
    return [word for word, old in zip(words, stood, strict=True) if word != old]
