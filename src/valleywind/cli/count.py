"""The pocket command that counts wheels in a photograph."""

import json
from pathlib import Path
from typing import Annotated, Any

import typer

from valleywind.app.photo_count import Lengths, WheelInPhoto, count_photo, lengths_mm
from valleywind.cli.alike import in_mm
from valleywind.core.refusal import Refusal
from valleywind.ending import give_up
from valleywind.formats import photograph
from valleywind.wording import refusals
from valleywind.wording.file_comparison import CANNOT_READ
from valleywind.wording.numbers import Units
from valleywind.wording.rack import photo_count as words


def count_command(
    file: Annotated[Path, typer.Argument(help="A photograph: JPEG, PNG or WebP")],
    bore: Annotated[str, typer.Option(help='Its bore by caliper, for the other diameters: "16 mm"')] = "",
    tip: Annotated[str, typer.Option(help="Or its diameter over the tips")] = "",
    as_json: Annotated[bool, typer.Option("--json", help="JSON instead of sentences")] = False,
) -> None:
    """Count the teeth of a wheel in a photograph, or of several that lie apart."""
    known = lengths_mm({"bore": bore, "tip": tip}, Units.MM.bare)
    lengths = Lengths(known.get("bore"), known.get("tip"))
    try:
        with file.open("rb") as opened:
            packed = opened.read(photograph.LARGEST_FILE + 1)
    except OSError as error:
        give_up(CANNOT_READ.format(path=file, why=error.strerror or error))
    try:
        seen = photograph.light(packed)
    except Refusal as refused:
        if not as_json:
            raise
        refusal = refusals.say(refused)
        typer.echo(json.dumps({"wheels": [], "says": f"{refusal.says} {refusal.would_do}"}, ensure_ascii=False))
        return
    result, measured = count_photo(seen.brightness, lengths)
    says = words.says(result, [one.sizes for one in measured], lengths.any_given)
    if as_json:
        wheels = [_wheel(one, seen.scale) for one in measured]
        typer.echo(json.dumps({"wheels": wheels, "says": says}, ensure_ascii=False))
        return
    for one in measured:
        more = f" It measures {words.sizes(one.sizes, Units.MM)}." if one.sizes is not None else ""
        typer.echo(f"{words.wheel(one.wheel, one.openings, one.keyway)}{more}")
    if says:
        typer.echo(says)


def _wheel(measured: WheelInPhoto, scale: float) -> dict[str, Any]:
    one, sizes = measured.wheel, measured.sizes
    plain: dict[str, Any] = {
        "teeth": one.teeth, "sure": one.sure, "certainty": one.certainty,
        "centre": [round(part * scale) for part in one.centre], "doubtful": list(one.doubtful),
        "openings": measured.openings, "keyway": measured.keyway,
    }  # fmt: skip
    if sizes is not None:
        plain |= {
            "tip_diameter": round(sizes.tip, 3), "tip_diameter_off": round(sizes.tip_off, 3),
            "root_diameter": round(sizes.root, 3), "root_diameter_off": round(sizes.root_off, 3),
        }  # fmt: skip
    return in_mm(plain, ("tip_diameter", "tip_diameter_off", "root_diameter", "root_diameter_off"))
