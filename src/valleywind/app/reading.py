"""What is made of a line while it is typed, whichever machine or station it is for."""

from dataclasses import replace

from valleywind.app.kinds import WORK
from valleywind.app.kinds.lathe import read_thread
from valleywind.app.kinds.line import Completion, LineRead, Reader, plain_line
from valleywind.core.teeth.ask import is_make_ask, is_wheel_ask, read_wheel
from valleywind.core.teeth.ask_line import Station, meant_at
from valleywind.wording.numbers import Units
from valleywind.wording.wheels import ask_text


def read_line(line: str, at: Station | None, units: Units) -> LineRead:
    """What is made of a line that is typed at a station. Never raises."""
    meant = meant_at(line, at)
    reading = next((reader.read(meant, units) for reader in READERS if reader.is_one(meant, at)), None)
    if reading is None:
        reading = read_thread(meant, units)
        reading = replace(reading, completions=(*_others(meant, units), *reading.completions))
    return reading if meant == line else replace(reading, asks=meant)


def _others(text: str, units: Units) -> list[Completion]:
    """Asks of other stations that begin with the letters typed so far."""
    begun = text.strip().lower()
    if not begun.isalpha():
        return []
    lines = [line for line in _EXAMPLES if line.startswith(begun)]
    return [Completion(line, read_line(line, None, units).description or "") for line in lines]


def _wheel(text: str, _: Units) -> LineRead:
    def described() -> str:
        ask = read_wheel(text)
        return ask_text(ask.teeth, ask.pitch, ask.machine)

    if is_make_ask(text):
        return plain_line(Station.JOBS, described, ("make 57",))
    return plain_line(Station.WHEEL, described, ("wheel 57", "wheel 41 m1.25"))


READERS = (
    *(reader for kind in WORK for reader in kind.readers),
    Reader(lambda line, _: is_wheel_ask(line) or is_make_ask(line), _wheel),
)
"""A line that none of them takes is a thread or a feed."""
# What else may be asked, by its first word.
_EXAMPLES = (*(line for kind in WORK for line in kind.examples), "wheel 57", "make 57")
