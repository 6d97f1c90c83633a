"""The pocket command that counts wheels in a photograph."""

import json
from pathlib import Path
from typing import Annotated, Any

import typer

from valleywind.core.refusal import Refused
from valleywind.core.teeth.photo.counting import Count, Counted, count
from valleywind.core.teeth.photo.measuring import Diameters, diameters, in_pixels
from valleywind.core.units import parse_length
from valleywind.ending import give_up
from valleywind.formats import photograph
from valleywind.wording import refusals
from valleywind.wording.carried import CANNOT_READ
from valleywind.wording.numbers import Units
from valleywind.wording.rack import photo_count as words


def count_command(
    file: Annotated[Path, typer.Argument(help="A photograph: JPEG, PNG or WebP")],
    bore: Annotated[str, typer.Option(help='Its bore by caliper, for the other diameters: "16 mm"')] = "",
    tip: Annotated[str, typer.Option(help="Or its diameter over the tips")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="JSON instead of sentences")] = False,
) -> None:
    """Count the teeth of a wheel in a photograph, or of several that lie apart."""
    known = {name: float(parse_length(text, field=name).mm) for name, text in (("bore", bore), ("tip", tip)) if text}
    try:
        with file.open("rb") as opened:
            packed = opened.read(photograph.LARGEST_FILE + 1)
    except OSError as error:
        give_up(CANNOT_READ.format(path=file, why=error.strerror or error))
    try:
        seen = photograph.light(packed)
    except Refused as refused:
        if not as_json:
            raise
        said = refusals.say(refused)
        typer.echo(json.dumps({"wheels": [], "says": f"{said.says} {said.would_do}"}, ensure_ascii=False))
        return
    found = count(seen.brightness)
    measured = [diameters(in_pixels(seen.brightness, one), **known) for one in found.wheels]
    says = words.says(found, measured, bool(known))
    if as_json:
        wheels = [_wheel(one, sizes, seen.scale) for one, sizes in zip(found.wheels, measured, strict=True)]
        typer.echo(json.dumps({"wheels": wheels, "says": says}, ensure_ascii=False))
        return
    _tell(found, measured, says)


def _wheel(one: Counted, sizes: Diameters | None, scale: float) -> dict[str, Any]:
    plain: dict[str, Any] = {
        "teeth": one.teeth, "sure": one.sure, "certainty": one.certainty,
        "centre": [round(part * scale) for part in one.centre], "doubtful": list(one.doubtful),
    }  # fmt: skip
    if sizes is not None:
        plain |= {
            "tip_diameter": round(sizes.tip, 3), "tip_diameter_off": round(sizes.tip_off, 3),
            "root_diameter": round(sizes.root, 3), "root_diameter_off": round(sizes.root_off, 3),
        }  # fmt: skip
    return plain


def _tell(found: Count, measured: list[Diameters | None], says: str) -> None:
    for one, sizes in zip(found.wheels, measured, strict=True):
        more = f" It measures {words.sizes(sizes, Units.MM)}." if sizes is not None else ""
        typer.echo(f"{words.wheel(one)}{more}")
    if says:
        typer.echo(says)
