"""Devices that are played, for trying things out without any; and a bridge for one at a serial port."""

import json
import math
import random
import socket
import time
from contextlib import suppress
from dataclasses import dataclass
from typing import Annotated, Any

import typer

from valleywind.core.making.devices import MOST_LINE, On, Sort

THIS_MACHINE, USUAL_DEVICE_PORT = "127.0.0.1", 8341
device_app = typer.Typer(help="Play a device at the machine, or pass one on from a serial port.", no_args_is_help=True)
Port = Annotated[int, typer.Option(help="Port at which Valleywind listens for devices")]
Host = Annotated[str, typer.Option(help="Where Valleywind is", envvar="VALLEYWIND_DEVICES_HOST")]
Key = Annotated[str, typer.Option(help="The device’s key, where the shop asks for one", envvar="VALLEYWIND_DEVICE_KEY")]
Seed = Annotated[int | None, typer.Option(help="The same noise every time")]
Every = Annotated[float, typer.Option(help="Seconds between two readings")]


@dataclass(frozen=True)
class _Shop:
    """Where Valleywind listens for devices, and the key that it asks for."""

    host: str
    port: int
    key: str

    def connected(self) -> socket.socket:
        try:
            return socket.create_connection((self.host, self.port), 5)
        except OSError:
            typer.echo(
                f"Nothing listens at port {self.port}. Start it first: valleywind serve --devices {self.port}", err=True
            )
            raise typer.Exit(2) from None


def _talk(shop: _Shop, sort: Sort, name: str, **more: str) -> Any:
    wire = shop.connected().makefile("rw", encoding="utf-8", newline="\n")
    _say(wire, {"hello": sort.value, "name": name, **more, **({"key": shop.key} if shop.key else {})})
    answered = wire.readline().strip()
    if "refused" in answered:
        typer.echo(json.loads(answered)["refused"], err=True)
        raise typer.Exit(2)
    typer.echo(answered)
    return wire


def _say(wire: Any, line: dict[str, Any]) -> None:
    wire.write(json.dumps(line) + "\n")
    wire.flush()


@device_app.command()
def encoder(
    move: Annotated[float, typer.Option(help="Turns from one tooth to the next")] = 20 / 19,
    teeth: Annotated[int, typer.Option(help="How many moves")] = 57,
    wait: Annotated[float, typer.Option(help="Seconds at each tooth, for the cut")] = 0.5,
    drop: Annotated[float, typer.Option(help="Chance of a reading that is lost, for each move")] = 0.0,
    over: Annotated[float, typer.Option(help="Chance of turning past the hole, for each move")] = 0.1,
    on: Annotated[On, typer.Option(help="Where it sits: on the crank, or on what the work turns with")] = On.CRANK,
    every: Every = 0.02,
    host: Host = THIS_MACHINE,
    port: Port = USUAL_DEVICE_PORT,
    key: Key = "",
    seed: Seed = None,
) -> None:
    """A crank or table that is turned from place to place, with noise, bounce, and now and then past it and back."""
    draw, wire, at = random.Random(seed), _talk(_Shop(host, port, key), Sort.ENCODER, on.value, on=on.value), 0.0
    # What turns with the work turns slower, and is read finer.
    step_long, noise = (0.08, 0.0005) if on is On.CRANK else (0.08 * move, 0.0005 * move / 20)
    for tooth in range(teeth):
        target = move * (tooth + 1)
        back = min(1.0, move)
        goals = [target + 0.4 * move / 20, target - back, target] if draw.random() < over else [target]
        for goal in goals:
            way = goal - at
            steps = max(1, math.ceil(abs(way) / step_long))
            for step in range(1, steps + 1):
                _say(wire, {"turned": at + way * step / steps + draw.gauss(0, noise)})
                time.sleep(every)
            at = goal
            for bounce in (0.004, -0.003, 0.001, *[0.0] * max(6, int(wait / every))):
                lost = draw.random() < drop / 10
                _say(wire, {"turned": None if lost else at + bounce * noise / 0.0005 + draw.gauss(0, noise)})
                time.sleep(every)


@device_app.command()
def pedal(
    presses: Annotated[int, typer.Option(help="How often it is pressed")] = 57,
    wait: Annotated[float, typer.Option(help="Seconds between two presses")] = 1.0,
    host: Host = THIS_MACHINE,
    port: Port = USUAL_DEVICE_PORT,
    key: Key = "",
    seed: Seed = None,
) -> None:
    """A foot pedal whose contact bounces."""
    draw, wire = random.Random(seed), _talk(_Shop(host, port, key), Sort.PEDAL, "pedal")
    for _ in range(presses):
        for down in (True, *[draw.random() < 0.5 for _ in range(4)], True, False):
            _say(wire, {"pressed": down})
            time.sleep(0.004)
        time.sleep(wait)


@device_app.command()
def caliper(
    figures: Annotated[list[str], typer.Argument(help="What it reads, one after the other: 29.56mm")],
    wait: Annotated[float, typer.Option(help="Seconds before each")] = 3.0,
    host: Host = THIS_MACHINE,
    port: Port = USUAL_DEVICE_PORT,
    key: Key = "",
) -> None:
    """A caliper with a button: each figure goes into the field that is open."""
    wire = _talk(_Shop(host, port, key), Sort.CALIPER, "caliper")
    for figure in figures:
        time.sleep(wait)
        _say(wire, {"figure": figure})
    time.sleep(0.2)


@device_app.command()
def indicator(
    runout: Annotated[float, typer.Option(help="Whole reading, mm")] = 0.06,
    high: Annotated[float, typer.Option(help="Where it stands highest, degrees")] = 130.0,
    noise: Annotated[float, typer.Option(help="Spread of a reading, mm")] = 0.002,
    readings: Annotated[int, typer.Option(help="Readings once round")] = 72,
    every: Every = 0.02,
    host: Host = THIS_MACHINE,
    port: Port = USUAL_DEVICE_PORT,
    key: Key = "",
    seed: Seed = None,
) -> None:
    """An indicator on a blank that is turned once round."""
    draw, wire = random.Random(seed), _talk(_Shop(host, port, key), Sort.INDICATOR, "indicator")
    for n in range(readings):
        angle = 360 * n / readings - high
        _say(wire, {"at": runout / 2 * math.cos(math.radians(angle)) + draw.gauss(0, noise)})
        time.sleep(every)
    typer.echo("Once round. Stop with Ctrl+C.")
    while True:
        time.sleep(1)


@device_app.command()
def camera(
    marks: Annotated[int, typer.Option(help="Marks of the disc")] = 57,
    first: Annotated[int, typer.Option(help="The mark under the pointer at the beginning")] = 1,
    wait: Annotated[float, typer.Option(help="Seconds at each mark, for the cut")] = 1.0,
    drop: Annotated[float, typer.Option(help="Chance that a picture shows no mark")] = 0.05,
    every: Every = 0.05,
    host: Host = THIS_MACHINE,
    port: Port = USUAL_DEVICE_PORT,
    key: Key = "",
    seed: Seed = None,
) -> None:
    """A camera over a printed disc, which reads the mark at the pointer."""
    draw, wire = random.Random(seed), _talk(_Shop(host, port, key), Sort.CAMERA, "camera")

    def see(mark: float) -> None:
        seen = (mark - 1 + draw.gauss(0, 0.02)) % marks + 1
        _say(wire, {"mark": None if draw.random() < drop else seen})
        time.sleep(every)

    for n in range(marks):
        for part in range(5):
            see(first + n - 1 + part / 5)
        for _ in range(max(8, int(wait / every))):
            see(first + n)


@device_app.command()
def serial(
    path: Annotated[str, typer.Argument(help="The serial port: /dev/ttyUSB0, COM3")],
    rate: Annotated[int, typer.Option(help="Bits a second")] = 115200,
    host: Host = THIS_MACHINE,
    port: Port = USUAL_DEVICE_PORT,
    key: Key = "",
) -> None:
    """Pass on the lines of a device at a serial port, until one of the two is gone. It speaks the same lines, its hello
    first."""
    try:
        from serial import Serial

        opened = Serial(path, rate, timeout=1)
    except ModuleNotFoundError:
        typer.echo("One more package is needed for that: pip install 'valleywind[serial]'", err=True)
        raise typer.Exit(2) from None
    except OSError as error:
        typer.echo(f"{path} cannot be opened: {error.strerror or error}", err=True)
        raise typer.Exit(2) from None
    rest = b""
    with opened as line, suppress(OSError), _Shop(host, port, key).connected() as wire:
        while True:
            # A line that comes in pieces is passed on whole.
            *whole, rest = (rest + line.read(max(1, line.in_waiting))).split(b"\n")
            for heard in whole:
                wire.sendall(heard + b"\n")
            if len(rest) > MOST_LINE:
                rest = b""
