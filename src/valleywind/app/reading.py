"""What is made of a line while it is typed, whichever machine or station it is for."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, replace
from typing import NamedTuple

from valleywind.core.dividing.ask import is_divide_ask, read_divide
from valleywind.core.helix import ask as helix
from valleywind.core.hobbing import ask as hobbing
from valleywind.core.lathe import ask as lathe
from valleywind.core.lathe import thread
from valleywind.core.lathe.complete import complete
from valleywind.core.refusal import Refused
from valleywind.core.teeth.ask import is_make_ask, is_wheel_ask, read_wheel
from valleywind.core.teeth.said import A, M, Reading, Station, meant_at
from valleywind.wording import refusals
from valleywind.wording.dividing import ask_text as divide_ask_text
from valleywind.wording.helix import answers as helix_words
from valleywind.wording.hobbing import answers as hob_words
from valleywind.wording.lathe import answers as lathe_words
from valleywind.wording.numbers import Units
from valleywind.wording.wheels import ask_text as wheel_ask_text


class Completion(NamedTuple):
    """How a line could go on, and what that would mean."""

    ask: str
    means: str


@dataclass(frozen=True)
class LineRead:
    """station: whose ask it is; canonical: in one line, where it is whole; understood: what each piece was taken for;
    says, would_do: why it is none, and what would do; asks: the line in full, where it means what is usual at its
    station, empty as typed."""

    station: Station
    whole: bool
    canonical: str | None = None
    description: str | None = None
    understood: tuple[str, ...] = ()
    left_over: tuple[str, ...] = ()
    nearest: tuple[str, ...] = ()
    completions: tuple[Completion, ...] = ()
    says: str | None = None
    would_do: str | None = None
    asks: str = ""


def read_line(line: str, at: Station | None, units: Units) -> LineRead:
    """What is made of a line that is typed at a station. Never raises."""
    meant = meant_at(line, at)
    found = next(reader.read(meant, units) for reader in READERS if reader.is_one(meant, at))
    return found if meant == line else replace(found, asks=meant)


def understood(reading: Reading[A, M], meanings: Mapping[M, str]) -> list[str]:
    """What each piece was taken for: `M14x2: thread`."""
    return [f"{text}: {meanings[meant]}" for text, meant in reading.understood]


class Reader(NamedTuple):
    """One kind of ask: whether a line is one, at whatever station, and what is made of it."""

    is_one: Callable[[str, Station | None], bool]
    read: Callable[[str, Units], LineRead]


def _told(
    station: Station, reading: Reading[A, M], meanings: Mapping[M, str], said: Callable[[A], Completion],
    offered: Iterable[Completion],
) -> LineRead:  # fmt: skip
    """What was made of a line; said: an ask in one line, and in words."""
    why = refusals.say(reading.refusal) if reading.refusal else None
    known = said(reading.ask) if reading.ask is not None else None
    return LineRead(
        station, known is not None, known.ask if known else None, known.means if known else None,
        tuple(understood(reading, meanings)), reading.left_over, reading.nearest, tuple(offered),
        why.says if why else None, why.would_do if why else None,
    )  # fmt: skip


# What else may be asked, by its first word.
_OTHERS = (
    "hob 37", "helix 24 m2 30° left", "lead 300 mm on 40 mm", "flute 6 lead 12 in on 1 in", "divide 57", "wheel 57",
    "make 57",
)  # fmt: skip


def _others(text: str, units: Units) -> list[Completion]:
    """Asks of other stations that begin with the letters typed so far."""
    begun = text.strip().lower()
    if not begun.isalpha():
        return []
    lines = [line for line in _OTHERS if line.startswith(begun)]
    return [Completion(line, read_line(line, None, units).description or "") for line in lines]


def _thread(text: str, units: Units) -> LineRead:
    offered = [Completion(thread.say(a), lathe_words.completion(a, units)) for a in complete(text)]
    offered = [*_others(text, units), *offered]
    return _told(
        Station.LATHE, lathe.read(text), lathe_words.MEANINGS,
        lambda ask: Completion(thread.say(ask), lathe_words.description(ask, units)), offered,
    )  # fmt: skip


def _hob(text: str, units: Units) -> LineRead:
    def said(ask: hobbing.HobAsk) -> Completion:
        return Completion(hobbing.say(ask), hob_words.description(ask, units))

    offered = [said(ask) for line in hobbing.complete(text) if (ask := hobbing.read(line).ask)]
    return _told(Station.HOBBER, hobbing.read(text), hob_words.MEANINGS, said, offered)


def _helix(text: str, units: Units) -> LineRead:
    def said(ask: helix.HelixAsk) -> Completion:
        return Completion(helix.say(ask), helix_words.description(ask, units))

    offered = [said(ask) for line in helix.complete(text) if (ask := helix.read(line).ask)]
    return _told(Station.MILL, helix.read(text), helix_words.MEANINGS, said, offered)


def _helical_job(text: str, units: Units) -> LineRead:
    return replace(_helix(text, units), station=Station.JOBS, canonical=text.strip())


def _divide(text: str, _: Units) -> LineRead:
    def described() -> str:
        ask = read_divide(text)
        return divide_ask_text(ask.divisions, ask.machine)

    return _plain(Station.DIVIDING, described, ("divide 57",))


def _wheel(text: str, _: Units) -> LineRead:
    def described() -> str:
        ask = read_wheel(text)
        return wheel_ask_text(ask.teeth, ask.pitch, ask.machine)

    if is_make_ask(text):
        return _plain(Station.JOBS, described, ("make 57",))
    return _plain(Station.WHEEL, described, ("wheel 57", "wheel 41 m1.25"))


def _plain(station: Station, described: Callable[[], str], nearest: tuple[str, ...]) -> LineRead:
    """An ask that is understood as a whole or not at all."""
    try:
        return LineRead(station, True, description=described())
    except Refused as refused:
        why = refusals.say(refused)
        return LineRead(station, False, nearest=nearest, says=why.says, would_do=why.would_do)


READERS = (
    Reader(lambda line, _: hobbing.is_hob_ask(line), _hob),
    Reader(lambda line, at: helix.is_helix_ask(line) or (at is Station.MILL and helix.is_lead_ask(line)), _helix),
    Reader(lambda line, _: helix.is_make_helix(line), _helical_job),
    Reader(lambda line, _: is_divide_ask(line), _divide),
    Reader(lambda line, _: is_wheel_ask(line) or is_make_ask(line), _wheel),
    Reader(lambda _, __: True, _thread),
)
"""In the order in which they are asked; the last one takes whatever is left."""
