"""Options that several commands read alike."""

import sys
from fractions import Fraction
from pathlib import Path

from valleywind.core.lathe.ask import read
from valleywind.core.refusal import Refusal
from valleywind.core.trains.search import MOST_STAGES
from valleywind.core.units import parse_degrees, parse_length


def read_stages(text: str) -> list[int]:
    """`1,2` as numbers of stages. Raises Refusal `stages_out_of_range`."""
    try:
        return [int(word) for word in text.replace(",", " ").split()]
    except ValueError:
        raise Refusal("stages_out_of_range", "stages", text, most=MOST_STAGES) from None


def read_helix(text: str) -> Fraction:
    """A helix angle in degrees, with its sign or without: `22`, `22.5°`. Raises Refusal `helix_out_of_range`."""
    angle = parse_degrees(text, "helix")
    if not 0 < angle < 90:
        raise Refusal("helix_out_of_range", "helix", text)
    return angle


def read_lead(text: str, field: str) -> Fraction:
    """A lead in mm from whatever the ask line takes, or a bare number of mm. Raises Refusal as that line does."""
    reading = read(text)
    if reading.ask is not None:
        return reading.ask.lead
    if text.strip().replace(".", "", 1).isdigit():
        return parse_length(text, None, field).mm
    assert reading.refusal is not None
    raise reading.refusal.under(field)


def read_file(file: str, most: int) -> str:
    """The text of a file, or for `-` what is piped in; of a longer one than `most` characters, some more than that.

    Raises Refusal `no_such_file`, `not_text`."""
    longest = 4 * most + 1
    if file == "-":
        raw = sys.stdin.buffer.read(longest)
    else:
        try:
            with Path(file).open("rb") as opened:
                raw = opened.read(longest)
        except OSError:
            raise Refusal("no_such_file", "file", file) from None
    try:
        return raw.decode("utf-8-sig")
    except UnicodeDecodeError:
        raise Refusal("not_text", "file", file) from None
