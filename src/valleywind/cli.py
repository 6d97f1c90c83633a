"""The pocket commands and `serve`. JSON on stdout; errors on stderr with exit code 2."""

import json
import sys
from fractions import Fraction
from pathlib import Path
from typing import Annotated, Any

import typer

from valleywind.core.lathe.ask import read
from valleywind.core.lathe.thread import pitch_name
from valleywind.core.refusal import Refused
from valleywind.core.teeth.identify import Identity, Observed, identify
from valleywind.core.teeth.pitch import PitchSystem
from valleywind.core.trains.model import parse_stock
from valleywind.core.trains.search import MOST_STAGES, Found, search
from valleywind.core.units import MM_PER_INCH, parse_length, parse_number, spell
from valleywind.wording import numbers, refusals

app = typer.Typer(
    help="Change-gear trains: search a stock of wheels, plan a thread, serve the application.",
    no_args_is_help=True,
    add_completion=False,
    pretty_exceptions_enable=False,
)

Stock = Annotated[str, typer.Option(help="Wheels held, doubles as 32x2: 24,28,32x2,36")]
Stages = Annotated[str, typer.Option(help="Stages allowed, out of 1, 2 and 3")]
Best = Annotated[int, typer.Option(help="How many trains")]
First = Annotated[int | None, typer.Option(help="This wheel must be among the drivers")]
Last = Annotated[int | None, typer.Option(help="This wheel must be among the driven")]
AsJson = Annotated[bool, typer.Option("--json", help="JSON instead of a table")]


@app.command("search")
def search_command(
    target: Annotated[str, typer.Option(help="Wanted ratio: 60/127 or 0.4724")],
    stock: Stock,
    stages: Stages = "1,2",
    best: Best = 10,
    first: First = None,
    last: Last = None,
    as_json: AsJson = False,
) -> None:
    """The trains closest to a ratio, provably the closest, from a stock of wheels."""
    wanted = parse_number(target, "target")
    found = search(wanted, parse_stock(stock), _stages(stages), best, _one(first), _one(last))
    _print({"target": str(wanted), "candidates": [_candidate(f) for f in found]}, found, as_json)


@app.command("lathe")
def lathe_command(
    lead: Annotated[str, typer.Option(help='Wanted lead or thread: "2 mm", "26 tpi", M14x2')],
    screw: Annotated[str, typer.Option(help='The lead screw: "6 tpi", "1.5 mm"')],
    stock: Stock,
    first_ratio: Annotated[str, typer.Option(help="Turns of the first shaft per spindle turn")] = "1",
    stages: Stages = "1,2",
    best: Best = 10,
    first: First = None,
    last: Last = None,
    as_json: AsJson = False,
) -> None:
    """The trains closest to a lead on a lathe with this screw."""
    wanted, screw_lead, ratio = (
        _lead(lead, "lead"),
        _lead(screw, "screw"),
        parse_number(first_ratio, "first-ratio"),
    )
    if not ratio:
        raise Refused("not_positive", "first-ratio", first_ratio)
    target = wanted / (ratio * screw_lead)
    found = search(target, parse_stock(stock), _stages(stages), best, _one(first), _one(last))
    leads = [f.combination.ratio * ratio * screw_lead for f in found]
    candidates = [_candidate(f) | {"lead_mm": float(mm)} for f, mm in zip(found, leads, strict=True)]
    _print({"target": str(target), "candidates": candidates}, found, as_json, leads)


@app.command("identify")
def identify_command(
    teeth: Annotated[int | None, typer.Option(help="Teeth counted")] = None,
    tip_diameter: Annotated[str | None, typer.Option(help='Over the tips: "2.4 in", 60.96')] = None,
    span_teeth: Annotated[int | None, typer.Option(help="Teeth between the jaws for --span")] = None,
    span: Annotated[str | None, typer.Option(help="Span over --span-teeth teeth")] = None,
    span_next: Annotated[str | None, typer.Option(help="Span over one tooth more")] = None,
    wheel: Annotated[
        list[str] | None, typer.Option(help="Others of the set, teeth and tip diameter in mm: 46:60.96")
    ] = None,
    worn: Annotated[bool, typer.Option(help="The wheels can be seen to be worn")] = False,
    as_json: AsJson = False,
) -> None:
    """What a wheel is, from counted teeth and what was measured; several wheels of one set count together."""
    seen = [_tip_of(group, worn) for group in wheel or []]
    if teeth is not None:
        over = (span_teeth or 0, span_teeth + 1 if span_teeth else 0)
        spans = [(k, _mm(text, "span")) for k, text in zip(over, (span, span_next), strict=True) if text]
        tip = _mm(tip_diameter, "tip-diameter") if tip_diameter else None
        seen.append(Observed(teeth, tip_diameter=tip, spans=tuple(spans), worn=worn))
    found = identify(seen)
    if as_json:
        typer.echo(json.dumps({"candidates": [_identity(one) for one in found]}))
        return
    for one in found:
        angle = f"{one.pressure_angle:g}°" if one.pressure_angle is not None else ""
        stub = "" if one.addendum == 1 else "stub"
        typer.echo(f"{numbers.percent(one.probability):>8}  {pitch_name(one.pitch):14} {angle:6} {stub}".rstrip())


def _tip_of(group: str, worn: bool) -> Observed:
    teeth, colon, tip = group.partition(":")
    if not colon or not teeth.strip().isdigit():
        raise Refused("not_a_wheel_group", "wheel", group)
    return Observed(int(teeth), tip_diameter=_mm(tip, "wheel"), worn=worn)


def _mm(text: str, field: str) -> float:
    return float(parse_length(text, field=field).mm)


def _identity(one: Identity) -> dict[str, Any]:
    return {
        "system": one.pitch.system.value,
        "value": str(one.pitch.value) if one.pitch.system is PitchSystem.CIRCULAR else spell(one.pitch.value),
        "pressure_angle": one.pressure_angle,
        "addendum": float(one.addendum),
        "probability": round(one.probability, 6),
    }


@app.command()
def serve(
    data: Annotated[
        Path | None, typer.Option(help="Folder or .sqlite file of the shop", envvar="VALLEYWIND_DATA")
    ] = None,
    demo: Annotated[bool, typer.Option(help="Load the demo shop into a fresh file and serve that")] = False,
    host: Annotated[str, typer.Option(help="Address to listen on; this machine only unless told")] = "127.0.0.1",
    port: Annotated[int, typer.Option(help="Port to listen on")] = 8340,
) -> None:
    """Serve the application at one local address."""
    from valleywind.serve import serve_shop

    serve_shop(data, demo, host, port)


def _lead(text: str, field: str) -> Fraction:
    """A lead in mm from whatever the ask line takes; a bare number is refused."""
    reading = read(text)
    if reading.ask is not None:
        return reading.ask.lead
    if text.strip().replace(".", "", 1).isdigit():
        return parse_length(text, None, field).mm
    assert reading.refusal is not None
    raise reading.refusal.under(field)


def _one(teeth: int | None) -> tuple[int, ...]:
    return () if teeth is None else (teeth,)


def _stages(text: str) -> list[int]:
    try:
        return [int(word) for word in text.replace(",", " ").split()]
    except ValueError:
        raise Refused("stages_out_of_range", "stages", text, most=MOST_STAGES) from None


def _candidate(found: Found) -> dict[str, Any]:
    return {
        "drivers": list(found.combination.drivers),
        "driven": list(found.combination.driven),
        "ratio": str(found.combination.ratio),
        "relative_error": float(found.error),
    }


def _print(whole: dict[str, Any], found: list[Found], as_json: bool, leads: list[Fraction] | None = None) -> None:
    if as_json:
        typer.echo(json.dumps(whole))
        return
    typer.echo(f"wanted {whole['target']}")
    for n, one in enumerate(found):
        train = f"{' × '.join(map(str, one.combination.drivers))} / {' × '.join(map(str, one.combination.driven))}"
        lead = f"  {numbers.fixed(leads[n], 5)} mm  {numbers.fixed(MM_PER_INCH / leads[n], 4)} tpi" if leads else ""
        typer.echo(f"{train:28}  {one.combination.ratio!s:>14}  {numbers.error(one.error):>12}{lead}")


def main() -> None:
    """Run a command; a refusal becomes a sentence on stderr and exit code 2."""
    try:
        app()
    except Refused as refused:
        said = refusals.say(refused)
        typer.echo(f"--{refused.field}: {said.says} {said.would_do}", err=True)
        sys.exit(2)
