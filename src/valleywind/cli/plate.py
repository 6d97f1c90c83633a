"""The pocket command for plates: what a machine is, from the lines on its gear cover or in its manual."""

import json
from enum import StrEnum
from typing import Annotated, Any

import typer

from valleywind.cli.options import read_file
from valleywind.core.helix import plate as mill_plate
from valleywind.core.hobbing import plate as hobber_plate
from valleywind.core.lathe import plate as lathe_plate
from valleywind.core.plate.misreadings import Misreading, MisreadPart
from valleywind.core.plate.plate import Agreement, JudgedLine, Plate
from valleywind.core.plate.text import MOST_TEXT
from valleywind.core.trains.model import parse_stock, spell_stock
from valleywind.core.units import spell
from valleywind.wording import plate as words
from valleywind.wording.helix import plate as mill_words
from valleywind.wording.hobbing import plate as hobber_words
from valleywind.wording.lathe import plate as lathe_words
from valleywind.wording.plate import PlateWords


class Kind(StrEnum):
    """Whose plate it is."""

    LATHE = "lathe"
    HOBBER = "hobber"
    MILL = "mill"


_WORDS: dict[Kind, PlateWords] = {
    Kind.LATHE: lathe_words.WORDS, Kind.HOBBER: hobber_words.WORDS, Kind.MILL: mill_words.WORDS
}  # fmt: skip
_READ = {Kind.LATHE: lathe_plate.read_plate, Kind.HOBBER: hobber_plate.read_plate, Kind.MILL: mill_plate.read_plate}


def plate_command(
    file: Annotated[str, typer.Argument(help="A file with one line of the plate to a line; - for what is piped in")],
    kind: Annotated[Kind, typer.Option(help="Whose plate it is")] = Kind.LATHE,
    stock: Annotated[str, typer.Option(help="Wheels in the rack, which make a misreading likelier")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="JSON instead of a table")] = False,
) -> None:
    """What a machine is, from its plate: constant, levers, wheels, and the lines that are wrong."""
    held = parse_stock(stock) if stock.strip() else ()
    plate = _READ[kind](read_file(file, MOST_TEXT), held)
    if as_json:
        typer.echo(json.dumps(_whole(plate, kind)))
        return
    typer.echo(words.plate_says(plate, _WORDS[kind]))
    typer.echo(words.reading_says(plate.reading))
    for line in plate.lines:
        where = f"{line.line.number:>4}  {line.target.text:14} {line.train.notation:24}"
        typer.echo(f"{where} {' '.join(filter(None, line.step)):10} {words.line_says(line, _WORDS[kind])}".rstrip())
    for unread in plate.unread:
        typer.echo(f"{unread.number:>4}  {unread.text[:50]:50} {words.unread_says(unread, _WORDS[kind])}")
    for step, factor in plate.steps.items():
        if name := " ".join(filter(None, step)):
            typer.echo(f"position {name}: × {factor}")
    typer.echo(f"wheels: {spell_stock(plate.wheels)}")
    for says in words.open_says(plate, _WORDS[kind]):
        typer.echo(says)


def _whole(plate: Plate, kind: Kind) -> dict[str, Any]:
    machine = {Kind.LATHE: _lathe, Kind.HOBBER: _hobber, Kind.MILL: _mill}[kind](plate)
    return machine | {
        "steps": {" ".join(filter(None, step)): str(f) for step, f in plate.steps.items() if any(step)},
        "wheels": {str(teeth): n for teeth, n in plate.wheels.items()},
        "wrong": [_wrong(line) for line in plate.standing(Agreement.WRONG)],
        "approximate": [
            {"line": line.line.number, "error": float(line.error or 0)}
            for line in plate.standing(Agreement.APPROXIMATE)
        ],
        "unread": [unread.number for unread in plate.unread],
        "open": [one.value for one in plate.open],
    }


def _lathe(plate: Plate) -> dict[str, Any]:
    lathes = lathe_plate.lathes_of(plate.constant) if plate.constant is not None else ()
    feeds = {kind: float(k) for kind, k in plate.constants.items() if kind != lathe_plate.THREAD}
    return {
        "constant_mm": None if plate.constant is None else float(plate.constant),
        "lathes": [{"screw": one.screw, "first_ratio": str(one.first_ratio)} for one in lathes],
    } | ({"feeds_mm": feeds} if feeds else {})


def _hobber(plate: Plate) -> dict[str, Any]:
    constants = hobber_plate.constants_of(plate)
    return {
        "index": [{"constant": spell(k), "from": teeth} for k, teeth in constants.index],
        "feed_constant_mm": None if constants.feed is None else float(constants.feed),
        "differential_constant_mm": None if constants.differential is None else float(constants.differential),
    }


def _mill(plate: Plate) -> dict[str, Any]:
    lead = None if plate.constant is None else 1 / plate.constant
    mills = mill_plate.mills_of(lead) if lead is not None else ()
    return {
        "constant_mm": None if lead is None else float(lead),
        "mills": [{"screw": one.screw, "head": spell(one.head)} for one in mills],
    }


def _wrong(line: JudgedLine) -> dict[str, Any]:
    changes = [_instead(change) for change in line.changes]
    return {"line": line.line.number, "instead": changes[0] if changes else None, "or": changes[1:4]}


def _instead(change: Misreading) -> dict[str, Any]:
    if change.changed is MisreadPart.WHEEL:
        return {"wheel": int(change.was), "by": int(change.now)}
    if change.changed is MisreadPart.EXCHANGED:
        return {"exchanged": [int(change.was), int(change.now)]}
    name = "pitch" if change.changed is MisreadPart.TARGET else "position"
    return {name: change.was, "by": change.now}
