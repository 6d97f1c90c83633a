"""The pocket command for a day's work on a lathe: trains and order together, so that least is changed."""

import json
from typing import Annotated

import typer

from valleywind.cli.options import read_file, read_lead
from valleywind.core.lathe.ask import read
from valleywind.core.lathe.day import DayAsk, DayOrder, plan_day
from valleywind.core.lathe.thread import ThreadAsk
from valleywind.core.refusal import Refusal
from valleywind.core.trains.model import parse_stock, parse_train
from valleywind.core.units import parse_number

MOST_TEXT = 20_000


def day_command(
    file: Annotated[str, typer.Argument(help="A file with one thread to a line; - for what is piped in")],
    screw: Annotated[str, typer.Option(help='The lead screw: "6 tpi", "1.5 mm"')],
    stock: Annotated[str, typer.Option(help="Wheels held, doubles as 32x2: 24,28,32x2,36")],
    first_ratio: Annotated[str, typer.Option(help="Turns of the first shaft per spindle turn")] = "1",
    on: Annotated[str, typer.Option(help="The train that is on: 36/64*32/78")] = "",
    end: Annotated[str, typer.Option(help="The train that has to be on at the end")] = "",
    within: Annotated[
        str, typer.Option(help="Relative error allowed; a line may say another: M6 within 0%")
    ] = "0.0002",
    as_json: Annotated[bool, typer.Option("--json", help="JSON instead of a table")] = False,
) -> None:
    """The order in which a day's threads are cut, and the train of each, so that the fewest wheels are put on."""
    text = read_file(file, MOST_TEXT)
    if len(text) > MOST_TEXT:
        raise Refusal("too_long", "file", file, most=MOST_TEXT)
    lines = [line.strip() for line in text.splitlines() if line.strip() and not line.lstrip().startswith("#")]
    screw_lead, ratio = read_lead(screw, "screw"), parse_number(first_ratio, "first-ratio")
    if ratio <= 0:
        raise Refusal("not_positive", "first-ratio", first_ratio)
    allowed = parse_number(within, "within")
    if not 0 <= allowed < 1:
        raise Refusal("within_out_of_range", "within", within)
    wanted = []
    for line in lines:
        ask = read(line).ask
        limit = ask.within if isinstance(ask, ThreadAsk) and ask.within is not None else allowed
        wanted.append(DayAsk(read_lead(line, "asks") / (screw_lead * ratio), limit))
    stands, ends = (parse_train(typed, field) if typed else None for typed, field in ((on, "on"), (end, "end")))
    try:
        planned = plan_day(wanted, parse_stock(stock), stands, ends)
    except Refusal as refused:
        if refused.code != "no_way":
            raise
        raise Refusal("no_train_near_enough", "asks", lines[int(str(refused.value)) - 1]) from None
    if as_json:
        typer.echo(json.dumps(_whole(planned, lines)))
        return
    for done in planned.order:
        typer.echo(f"{lines[done.ask]:20} {done.train.notation:20} {float(done.error):+.2e}  {done.put_on} put on")
    proven = "no order puts on fewer" if planned.proven else f"no order puts on fewer than {planned.at_least}"
    typer.echo(f"{planned.put_on} wheels put on in all: {proven}. In the order as typed: {planned.as_typed}.")


def _whole(planned: DayOrder, lines: list[str]) -> dict[str, object]:
    order = [
        {
            "ask": lines[done.ask], "drivers": [s.driver for s in done.train.stages],
            "driven": [s.driven for s in done.train.stages], "error": float(done.error),
            "relative_error": float(done.error), "put_on": done.put_on,
        }
        for done in planned.order
    ]  # fmt: skip
    return {
        "order": order, "put_on": planned.put_on, "proven": planned.proven, "at_least": planned.at_least,
        "as_typed": planned.as_typed,
    }  # fmt: skip
