"""The pocket commands and `serve`. JSON on stdout; errors on stderr with exit code 2."""

import gc
import json
import sys
from fractions import Fraction
from importlib.metadata import version
from pathlib import Path
from typing import Annotated, Any

import typer

# What typer raises for a command typed wrongly has no public name in it.
from typer._click.exceptions import BadParameter, ClickException, MissingParameter

from valleywind.cli.alike import as_text
from valleywind.cli.count import count_command
from valleywind.cli.day import day_command
from valleywind.cli.device import device_app
from valleywind.cli.helix import helix_command
from valleywind.cli.hob import hob_command
from valleywind.cli.options import read_helix, read_lead, read_stages
from valleywind.cli.plate import plate_command
from valleywind.core.cutting.wheel import WheelToCut, cut_wheel
from valleywind.core.dividing.heads import read_plates, read_ratio
from valleywind.core.dividing.ways import allowed_divisions, best_nearest, compound, differential, simple
from valleywind.core.lathe.thread import pitch_name
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.cutters import numbering, range_of_eight
from valleywind.core.teeth.depth import read_depth
from valleywind.core.teeth.identify import Identity, WheelMeasures, identify, measure_next
from valleywind.core.teeth.pitch import Pitch, PitchSystem, WheelFamily, allowed_angle
from valleywind.core.teeth.sizes import sizes
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.model import parse_stock
from valleywind.core.trains.search import Approximation, search
from valleywind.core.units import MM_PER_INCH, parse_degrees, parse_length, parse_number, spell
from valleywind.ending import give_up
from valleywind.wording import numbers, refusals
from valleywind.wording.rack import rack as rack_words

app = typer.Typer(
    help="Change-gear trains. Without a command: your own shop, served here and opened in the browser.",
    invoke_without_command=True,
    pretty_exceptions_enable=False,
)


def _say_version(wanted: bool) -> None:
    if wanted:
        typer.echo(version("valleywind"))
        raise typer.Exit


@app.callback()
def _options(
    context: typer.Context,
    _version: Annotated[
        bool, typer.Option("--version", callback=_say_version, is_eager=True, help="The version")
    ] = False,
    browser: Annotated[bool, typer.Option(help="Open the browser, where no command is given")] = True,
) -> None:
    """Without a command: your own shop, served here and opened in the browser."""
    if context.invoked_subcommand is None:
        gc.disable()  # until all is loaded, which goes quicker so
        from valleywind.serve import Network, serve_shop

        serve_shop(None, False, Network(port=USUAL_PORT), browser=browser)


USUAL_PORT = 8340
# What `wheel` says in mm.
_LENGTHS = (
    "tip_diameter", "pitch_diameter", "root_diameter", "whole_depth", "lead", "span", "pin", "pin_diameter",
    "over_pins", "over_rollers", "over_balls", "chordal_thickness", "chordal_addendum",
)  # fmt: skip
Stock = Annotated[str, typer.Option(help="Wheels held, doubles as 32x2: 24-28,32x2,36")]
Stages = Annotated[str, typer.Option(help="Stages allowed, out of 1, 2 and 3")]
Best = Annotated[int, typer.Option(help="How many trains")]
First = Annotated[int | None, typer.Option(help="This wheel must be among the drivers")]
Last = Annotated[int | None, typer.Option(help="This wheel must be among the driven")]
Data = Annotated[Path | None, typer.Option(help="Folder or .sqlite file of the shop", envvar="VALLEYWIND_DATA")]
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
    combinations = search(wanted, parse_stock(stock), read_stages(stages), best, _one(first), _one(last))
    _print({"target": str(wanted), "candidates": [_candidate(f) for f in combinations]}, combinations, as_json)


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
        read_lead(lead, "lead"),
        read_lead(screw, "screw"),
        parse_number(first_ratio, "first-ratio"),
    )
    if not ratio:
        raise Refusal("not_positive", "first-ratio", first_ratio)
    target = wanted / (ratio * screw_lead)
    combinations = search(target, parse_stock(stock), read_stages(stages), best, _one(first), _one(last))
    leads = [f.combination.ratio * ratio * screw_lead for f in combinations]
    candidates = [_candidate(f) | {"lead_mm": float(mm)} for f, mm in zip(combinations, leads, strict=True)]
    _print({"target": str(target), "candidates": candidates}, combinations, as_json, leads)


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
        seen.append(WheelMeasures(teeth, tip_diameter=tip, spans=tuple(spans), worn=worn))
    identities = identify(seen)
    says = rack_words.next_text(measure_next(seen[0], identities), identities[0], identities[1], numbers.Units.MM)
    if as_json:
        typer.echo(json.dumps({"candidates": [_identity(one) for one in identities], "says": says}))
        return
    for one in identities:
        angle = f"{one.pressure_angle:g}°" if one.pressure_angle is not None else ""
        stub = "" if one.addendum == 1 else "stub "
        shift = rack_words.shift_text(one.shift).removeprefix(", ")
        likely = rack_words.likelihood(one)
        typer.echo(f"{likely:>14}  {pitch_name(one.pitch):14} {angle:6} {stub}{shift}".rstrip())
    typer.echo(says)


def _tip_of(group: str, worn: bool) -> WheelMeasures:
    teeth, colon, tip = group.partition(":")
    if not colon or not teeth.strip().isdecimal():
        raise Refusal("not_a_wheel_group", "wheel", group)
    return WheelMeasures(int(teeth), tip_diameter=_mm(tip, "wheel"), worn=worn)


def _mm(text: str, field: str) -> float:
    return float(parse_length(text, field=field).mm)


def _identity(one: Identity) -> dict[str, Any]:
    return {
        "system": one.pitch.system.value,
        "value": str(one.pitch.value) if one.pitch.system is PitchSystem.CIRCULAR else spell(one.pitch.value),
        "pressure_angle": one.pressure_angle,
        "addendum": float(one.addendum),
        "shift": one.shift,
        "fits": one.fits,
        "sure": one.sure,
        "probability": round(one.probability, 6),
    }


@app.command("wheel")
def wheel_command(
    teeth: Annotated[int, typer.Option(help="Teeth of the wheel")],
    dp: Annotated[str | None, typer.Option(help="Diametral pitch: 12")] = None,
    module: Annotated[str | None, typer.Option(help="Module in mm: 1.25")] = None,
    cp: Annotated[str | None, typer.Option(help="Circular pitch in inches: 3/16")] = None,
    angle: Annotated[str, typer.Option(help="Pressure angle, degrees")] = "20",
    shift: Annotated[float, typer.Option(help="Profile shift, modules")] = 0.0,
    depth: Annotated[str | None, typer.Option(help='Whole depth: 2.157/P, "2.25 m", "4.5 mm"')] = None,
    helix: Annotated[str | None, typer.Option(help="Helix angle of helical teeth, degrees")] = None,
    hand: Annotated[Hand, typer.Option(help="Hand of the helix")] = Hand.RIGHT,
    face: Annotated[str | None, typer.Option(help="Face of the wheel, for its span")] = None,
    as_json: AsJson = False,
) -> None:
    """The figures of a wheel, mm: sizes, what to measure and what it should come to, and its cutter."""
    pitches = {PitchSystem.DIAMETRAL: dp, PitchSystem.MODULE: module, PitchSystem.CIRCULAR: cp}
    named = [(system, text) for system, text in pitches.items() if text is not None]
    if len(named) != 1:
        raise Refusal("one_pitch", "dp")
    [(system, text)] = named
    pitch = Pitch(system, parse_number(text, system.value))
    family = WheelFamily("", pitch, allowed_angle(parse_degrees(angle, "angle")), Fraction(0), Fraction(0), Fraction(0))
    if helix is not None:
        if shift:
            raise Refusal("shift_of_a_helix", "shift", shift)
        _helical(teeth, family, read_helix(helix), hand, face, depth, as_json)
        return
    worked_out = sizes(teeth, family, shift, read_depth(depth, family) if depth else None)
    usual = range_of_eight(teeth)
    numbers_of = numbering(usual[0]) if usual else None
    figures = {
        "tip_diameter": worked_out.tip_diameter, "pitch_diameter": worked_out.pitch_diameter,
        "root_diameter": worked_out.root_diameter, "whole_depth": worked_out.depth, "span_teeth": worked_out.over,
        "span": worked_out.span.nominal, "pin_diameter": worked_out.pin, "over_pins": worked_out.pins.nominal,
        "chordal_thickness": worked_out.chordal.nominal, "chordal_addendum": worked_out.chordal_addendum,
    }  # fmt: skip
    rounded = {name: round(value, 5) if isinstance(value, float) else value for name, value in figures.items()}
    cutter = None
    if usual and numbers_of:
        cutter = {
            "range": f"{usual[0]}-{usual[1] or 'rack'}", "inch_number": float(numbers_of.inch),
            "metric_number": float(numbers_of.metric),
        }  # fmt: skip
    if as_json:
        typer.echo(as_text({**rounded, "cutter": cutter}, _LENGTHS))
        return
    for name, value in {
        **rounded,
        **{f"cutter {n}": v for n, v in (cutter or {"range": "none in the usual sets"}).items()},
    }.items():
        typer.echo(f"{name.replace('_', ' '):20} {value}")


def _helical(
    teeth: int, family: WheelFamily, helix: Fraction, hand: Hand, face: str | None, depth: str | None, as_json: bool
) -> None:
    """The figures of a wheel with helical teeth."""
    wide = parse_length(face, field="face").mm if face else None
    deep = Fraction(read_depth(depth, family)) if depth else None
    wheel = cut_wheel(WheelToCut(teeth, family.pitch, family.pressure_angle, helix, hand, wide, depth=deep))
    assert wheel is not None
    figures = {
        "tip_diameter": wheel.tip_diameter, "pitch_diameter": wheel.pitch_diameter,
        "root_diameter": wheel.root_diameter, "whole_depth": wheel.depth, "lead": float(wheel.lead or 0),
        "formative_teeth": wheel.formative, "pin": wheel.pin, "over_rollers": wheel.rollers.nominal,
        "over_balls": wheel.balls.nominal, "span_teeth": wheel.over,
        "span": wheel.span.nominal if wheel.span else None,
    }  # fmt: skip
    rounded = {name: round(value, 5) if isinstance(value, float) else value for name, value in figures.items()}
    if as_json:
        typer.echo(as_text(rounded, _LENGTHS))
        return
    for name, value in rounded.items():
        typer.echo(f"{name.replace('_', ' '):20} {'none can be measured' if value is None else value}")


@app.command("divide")
def divide_command(
    divisions: Annotated[int, typer.Option(help="How many")],
    ratio: Annotated[str, typer.Option(help="Crank turns per turn of the work: 40")],
    circles: Annotated[str, typer.Option(help="Hole circles: 15,18,21")] = "",
    plates: Annotated[str, typer.Option(help="The circles by plate side, for compound: 15,18,21/16,19")] = "",
    gears: Annotated[str | None, typer.Option(help="Wheels between spindle and plate: 24x2,28")] = None,
    as_json: AsJson = False,
) -> None:
    """Every way to divide on a worm head: simple, compound, differential, nearest hole."""
    allowed_divisions(divisions)
    worm, sides = read_ratio(ratio), [[c.holes for c in side] for side in read_plates(plates)]
    single = {c.holes for side in read_plates(circles, "circles") for c in side}
    every = sorted(single | {c for side in sides for c in side})
    if not every:
        raise Refusal("empty", "circles", circles)
    ways: list[dict[str, Any]] = [{"way": "simple", **vars(s)} for s in simple(worm, divisions, every)]
    ways += [{"way": "compound", **vars(c)} for c in compound(worm, divisions, sides)]
    for geared in differential(worm, divisions, every, parse_stock(gears, "gears")) if gears else []:
        best = geared.trains[0]
        ways.append(
            {
                "way": "differential", "indexed_as": geared.indexed_as,
                "gear_ratio": "{}/{}".format(*geared.gear_ratio.as_integer_ratio()),
                "simple": [vars(s) for s in geared.simple], "trains": len(geared.trains),
                "best_train": {"drivers": list(best.drivers), "driven": list(best.driven)},
            }
        )  # fmt: skip
    if (close := best_nearest(worm, divisions, every)) and close.error:
        error = {"worst_holes": str(close.worst), "error_arc_seconds": round(float(close.error * 3600), 2)}
        ways.append({"way": "nearest_hole", "circle": close.circle, **error})
    if as_json:
        typer.echo(as_text({"ways": ways}, target=str(Fraction(1, divisions))))
        return
    for way in ways:
        rest = "  ".join(f"{name.replace('_', ' ')} {value}" for name, value in way.items() if name != "way")
        typer.echo(f"{way['way'].replace('_', ' '):14} {rest}")


app.command("hob")(hob_command)
app.command("helix")(helix_command)
app.command("plate")(plate_command)
app.command("day")(day_command)
app.command("count")(count_command)
app.add_typer(device_app, name="device")


@app.command()
def serve(
    data: Data = None,
    demo: Annotated[bool, typer.Option(help="Load the demo shop into a fresh file and serve that")] = False,
    host: Annotated[str, typer.Option(help="Address to listen on; this machine only unless told")] = "127.0.0.1",
    port: Annotated[int, typer.Option(help="Port to listen on")] = USUAL_PORT,
    devices: Annotated[int | None, typer.Option(help="Port at which devices are listened to, such as 8341")] = None,
    devices_host: Annotated[str, typer.Option(help="Address for devices; this machine only unless told")] = "127.0.0.1",
    open_to_all: Annotated[bool, typer.Option("--open", help="On a network: ask nobody for the passphrase")] = False,
    certificate: Annotated[Path | None, typer.Option(help="Certificate for TLS, a file; needs --key")] = None,
    key: Annotated[Path | None, typer.Option(help="Key of the certificate, a file")] = None,
    copies: Annotated[Path | None, typer.Option(help="Folder for the copies; beside the shop unless told")] = None,
    behind: Annotated[str, typer.Option(help="Address of a proxy on this machine: https://shop.example")] = "",
) -> None:
    """Serve the application at one local address."""
    gc.disable()  # until all is loaded, which goes quicker so
    from valleywind.serve import Network, serve_shop

    network = Network(host, port, open_to_all, certificate, key, behind, devices, devices_host)
    serve_shop(data, demo, network, copies)


@app.command("backup")
def backup_command(
    file: Annotated[Path, typer.Argument(help="The file to copy it to")],
    data: Data = None,
) -> None:
    """Copy the shop to a file, while it is served or not. Who may come in is not copied."""
    from valleywind.copying import back_up

    back_up(file, data)


@app.command("restore")
def restore_command(
    file: Annotated[Path, typer.Argument(help="The copy to put back")],
    data: Data = None,
) -> None:
    """Put a copy in the place of the shop, which nobody serves meanwhile. What was there is kept."""
    from valleywind.copying import restore

    restore(file, data)


@app.command("export")
def export_command(
    file: Annotated[Path, typer.Argument(help="The file to write, such as shop.zip")],
    data: Data = None,
    machine: Annotated[str, typer.Option(help="One machine alone, with its wheels: its short name")] = "",
    job: Annotated[int | None, typer.Option(help="One job alone: its number", min=1)] = None,
    family: Annotated[str, typer.Option(help="The wheels of one family alone: its name")] = "",
) -> None:
    """Write the shop as a file that others can read, while it is served or not."""
    from valleywind.carrying import export

    export(file, data, machine, job, family)


@app.command("import")
def import_command(
    file: Annotated[Path, typer.Argument(help="A file that was exported")],
    data: Data = None,
    apply: Annotated[bool, typer.Option("--apply", help="Take it in; else it is only said what would be done")] = False,
    different: Annotated[
        str, typer.Option(help="What is in both and not the same: mine, theirs or both are kept")
    ] = "mine",
    as_json: Annotated[bool, typer.Option("--json", help="As JSON")] = False,
) -> None:
    """Take in what another shop exported, while this one is not served."""
    from valleywind.app.file_comparison import Choice
    from valleywind.carrying import take_in

    if different not in list(Choice):
        raise BadParameter("mine, theirs or both", param_hint="--different")
    take_in(file, data, apply, Choice(different), as_json)


@app.command("passphrase")
def passphrase_command(
    data: Data = None,
    remove: Annotated[bool, typer.Option("--remove", help="Take the passphrase back")] = False,
) -> None:
    """Set the passphrase that the shop asks for on a network, or take it back. Whoever is signed in is so no more."""
    from valleywind.passphrase import change_passphrase

    change_passphrase(data, remove)


def _one(teeth: int | None) -> tuple[int, ...]:
    return () if teeth is None else (teeth,)


def _candidate(near: Approximation) -> dict[str, Any]:
    return {
        "drivers": list(near.combination.drivers),
        "driven": list(near.combination.driven),
        "ratio": str(near.combination.ratio),
        "relative_error": float(near.error),
    }


def _print(
    whole: dict[str, Any], combinations: list[Approximation], as_json: bool, leads: list[Fraction] | None = None
) -> None:
    if as_json:
        typer.echo(json.dumps(whole))
        return
    typer.echo(f"wanted {whole['target']}")
    for n, one in enumerate(combinations):
        train = f"{' × '.join(map(str, one.combination.drivers))} / {' × '.join(map(str, one.combination.driven))}"
        lead = f"  {numbers.fixed(leads[n], 5)} mm  {numbers.fixed(MM_PER_INCH / leads[n], 4)} tpi" if leads else ""
        typer.echo(f"{train:28}  {one.combination.ratio!s:>14}  {numbers.error(one.error):>12}{lead}")


def main() -> None:
    """Run a command. Whatever is used wrongly becomes a sentence on stderr and exit code 2."""
    try:
        # A command that is told to end early ends with a code.
        ended = app(standalone_mode=False)
    except Refusal as refused:
        refusal = refusals.say(refused)
        give_up(f"--{refused.field}: {refusal.says} {refusal.would_do}")
    except ClickException as wrong:
        give_up(_message(wrong))
    except (typer.Abort, KeyboardInterrupt):
        sys.exit(130)
    sys.exit(ended if isinstance(ended, int) else 0)


def _message(wrong: ClickException) -> str:
    """What is wrong with how a command was typed, in a sentence."""
    context = getattr(wrong, "ctx", None)
    command = context.command_path if context is not None else "valleywind"
    help_is = f"See {command} --help."
    if isinstance(wrong, BadParameter) and not isinstance(wrong, MissingParameter) and wrong.param is not None:
        name = "/".join(wrong.param.opts)
        numbers_only = {"integer": "a whole number", "number": "a number"}
        wanted = next((sentence for word, sentence in numbers_only.items() if word in wrong.message), None)
        says = f"This is not {wanted}." if wanted else wrong.message.rstrip(".") + "."
        return f"{name}: {says} {help_is}"
    return f"{wrong.format_message().rstrip('.')}. {help_is}"
