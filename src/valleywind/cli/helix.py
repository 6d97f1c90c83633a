"""The pocket command for helical leads on the mill."""

from fractions import Fraction
from typing import Annotated, Any

import typer

from valleywind.cli.alike import as_text, ratio_text
from valleywind.cli.options import read_stages
from valleywind.core.cutting.run_off import run_off
from valleywind.core.cutting.wheel import FEWEST_CUT, MOST_CUT, lead_of_wheel
from valleywind.core.dividing.heads import read_ratio
from valleywind.core.helix.lead import (
    HEAVY,
    LeadTrain,
    closest_trains,
    crank_turns,
    formative,
    pair_ways,
    total_ratio,
    work_turn,
)
from valleywind.core.helix.machine import read_pairs, read_screw
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.model import parse_stock
from valleywind.core.units import parse_degrees, parse_length, parse_number, parse_whole
from valleywind.wording import numbers

# The travel of the table over which figures are told, mm.
_OVER = Fraction(100)


def helix_command(
    screw: Annotated[str, typer.Option(help='The table screw: "6 mm", "4 tpi"')],
    stock: Annotated[str, typer.Option(help="Wheels held: 24-30,32,36x2")],
    ratio: Annotated[str, typer.Option(help="Crank turns of the head for one of the work")] = "40",
    pairs: Annotated[str, typer.Option(help="Worm pairs of a lead attachment, either way round: 2,10,40")] = "",
    module: Annotated[str | None, typer.Option(help="Normal module in mm")] = None,
    dp: Annotated[str | None, typer.Option(help="Normal diametral pitch")] = None,
    teeth: Annotated[str | None, typer.Option(help="Teeth of the wheel")] = None,
    helix: Annotated[str | None, typer.Option(help="Helix angle, degrees")] = None,
    lead: Annotated[str | None, typer.Option(help='A lead in place of a wheel: "300 mm"')] = None,
    face: Annotated[str, typer.Option(help="Face of the wheel, for the run-off")] = "20",
    stages: Annotated[str, typer.Option(help="Stages allowed, out of 1, 2 and 3")] = "1,2",
    best: Annotated[int, typer.Option(help="How many trains")] = 10,
    as_json: Annotated[bool, typer.Option("--json", help="JSON instead of a table")] = False,
) -> None:
    """Worm pair and change wheels between table screw and head that give a lead."""
    table, head = read_screw(screw, "screw"), read_ratio(ratio)
    if best < 1:
        raise Refusal("none_wanted", "best", best)
    angle = _angle(helix) if helix is not None else None
    if lead is not None:
        if teeth is not None or module is not None or dp is not None:
            raise Refusal("lead_or_wheel", "lead", lead)
        wanted, count = parse_length(lead, field="lead").mm, None
    else:
        if teeth is None or angle is None:
            raise Refusal("lead_or_wheel", "teeth" if teeth is None else "helix", "")
        count = parse_whole(teeth, "teeth", FEWEST_CUT, MOST_CUT, "teeth")
        wanted = lead_of_wheel(_pitch(module, dp).module, count, angle)
    wide = parse_length(face, field="face").mm
    total = total_ratio(table, head, wanted)
    trains = closest_trains(total, pair_ways(read_pairs(pairs, "pairs")), parse_stock(stock), _stages(stages), best)
    answer: dict[str, Any] = {
        "lead": float(wanted),
        "total": float(total),
        "candidates": [_candidate(one, wide, angle) for one in trains],
        "formative_teeth": formative(count, angle) if count is not None and angle is not None else None,
        "work_turn_deg_per_100_mm": float(work_turn(_OVER, wanted)),
        "crank_turns_per_100_mm": float(crank_turns(_OVER, wanted, head)),
    }
    if as_json:
        known = {k: v for k, v in answer.items() if v is not None}
        typer.echo(as_text(known, ("lead",), target=ratio_text(total)))
        return
    typer.echo(f"lead {answer['lead']:.4f} mm, in all {answer['total']:.6f}")
    for one, shown in zip(trains, answer["candidates"], strict=True):
        train = f"{' × '.join(map(str, shown['drivers']))} / {' × '.join(map(str, shown['driven']))}"
        heavy = "  heavy load" if one.total > HEAVY else ""
        off = f"  runs off {shown['run_off_um']:.2f} µm" if "run_off_um" in shown else ""
        typer.echo(f"{one.pair.name:>6}  {train:26}  {numbers.error(one.approximation.error):>12}{off}{heavy}")
    typer.echo(f"100 mm of the table: work {answer['work_turn_deg_per_100_mm']:.3f}°, "
               f"crank {answer['crank_turns_per_100_mm']:.4f} turns")  # fmt: skip


def _candidate(one: LeadTrain, face: Fraction, helix: Fraction | None) -> dict[str, Any]:
    row: dict[str, Any] = {
        "pair": one.pair.name,
        "drivers": list(one.approximation.combination.drivers),
        "driven": list(one.approximation.combination.driven),
        "relative_error": float(one.approximation.error),
    }
    return row | ({"run_off_um": run_off(face, helix, one.approximation.error)} if helix is not None else {})


def _angle(text: str) -> Fraction:
    angle = parse_degrees(text, "helix")
    if not 0 < angle < 90:
        raise Refusal("helix_not_cut", "helix", text)
    return angle


def _pitch(module: str | None, dp: str | None) -> Pitch:
    if (module is None) == (dp is None):
        raise Refusal("one_pitch", "module")
    if module is not None:
        return Pitch(PitchSystem.MODULE, parse_number(module, "module"))
    return Pitch(PitchSystem.DIAMETRAL, parse_number(dp or "", "dp"))


def _stages(text: str) -> tuple[int, ...]:
    return tuple(read_stages(text))
