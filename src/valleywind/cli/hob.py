"""The pocket command for hobbing: index trains of a count, differential trains, counts made up."""

from fractions import Fraction
from typing import Annotated, Any

import typer

from valleywind.cli.alike import as_text, ratio_text
from valleywind.cli.options import read_helix, read_stages
from valleywind.core.cutting.run_off import run_off
from valleywind.core.cutting.wheel import FEWEST_CUT, MOST_CUT, cut_wheel, lead_of_wheel
from valleywind.core.hobbing.ask import MOST_STARTS, HobAsk
from valleywind.core.hobbing.machine import FeedSource, read_constant
from valleywind.core.hobbing.making_up import nearest_indexed
from valleywind.core.hobbing.ratios import differential_ratio, index_ratio, making_up, ratio_without, run_off_without
from valleywind.core.hobbing.setting import travel
from valleywind.core.refusal import Refusal
from valleywind.core.teeth.pitch import Pitch, PitchSystem
from valleywind.core.trains.direction import Hand
from valleywind.core.trains.exact import count_exact, exact_trains
from valleywind.core.trains.model import Combination, Stock, parse_stock
from valleywind.core.trains.search import search
from valleywind.core.units import parse_length, parse_number, parse_whole
from valleywind.wording import numbers

# Every exact train is listed.
_ALL = 1_000_000


def hob_command(
    teeth: Annotated[str, typer.Option(help="Teeth of the wheel")],
    constant: Annotated[str, typer.Option(help="Index constant: ratio of the index train times teeth, for one start")],
    stock: Annotated[str, typer.Option(help="Wheels held: 24-65,70,75,80x2")],
    starts: Annotated[str, typer.Option(help="Starts of the hob")] = "1",
    module: Annotated[str | None, typer.Option(help="Normal module in mm")] = None,
    dp: Annotated[str | None, typer.Option(help="Normal diametral pitch")] = None,
    helix: Annotated[str | None, typer.Option(help="Helix angle, degrees")] = None,
    hand: Annotated[Hand, typer.Option(help="Hand of the helix")] = Hand.RIGHT,
    face: Annotated[str, typer.Option(help="Face of the wheel, for the run-off")] = "20",
    hob_diameter: Annotated[str | None, typer.Option(help="Diameter of the hob over its teeth, for its travel")] = None,
    hob_hand: Annotated[Hand, typer.Option(help="Hand of the hob")] = Hand.RIGHT,
    feed: Annotated[str, typer.Option(help="Feed that the feed train really gives, mm per table turn")] = "1",
    differential: Annotated[str | None, typer.Option(help='Differential constant: "25/pi mm"')] = None,
    feed_constant: Annotated[str | None, typer.Option(help="Feed per table turn at 1 : 1, to make up a count")] = None,
    counts: Annotated[str | None, typer.Option("--as", help="Index as these whole counts instead: 103:111")] = None,
    stages: Annotated[str, typer.Option(help="Stages of a differential train, out of 1, 2 and 3")] = "2,3",
    best: Annotated[int, typer.Option(help="How many trains")] = 10,
    as_json: Annotated[bool, typer.Option("--json", help="JSON instead of a table")] = False,
) -> None:
    """Trains of a hobber: index for any count, differential for a helix, counts made up by the differential."""
    held = parse_stock(stock)
    z = parse_whole(teeth, "teeth", FEWEST_CUT, MOST_CUT, "teeth")
    s = parse_whole(starts, "starts", 1, MOST_STARTS, "starts?")
    k = read_constant(constant, "constant")
    if best < 1:
        raise Refusal("none_wanted", "best", best)
    ratio = index_ratio(k, s, z)
    if helix is None and (unused := [name for name, text in (("module", module), ("dp", dp)) if text is not None]):
        typer.echo(f"--{unused[0]} is not used without --helix.", err=True)
    answer: dict[str, Any] = {
        "ratio": ratio_text(ratio),
        "two_wheels": count_exact(ratio, held, 1),
        "four_wheels": count_exact(ratio, held, 2),
        "trains": [_wheels(c) for c in exact_trains(ratio, held, most=_ALL)],
    }
    k_d = read_constant(differential, "differential") if differential else None
    if helix is not None or hob_diameter is not None:
        ask = _ask(z, s, module, dp, helix, hand, face, hob_diameter, hob_hand)
        moved = travel(ask)
        if moved is not None:
            answer["travel"] = {"approach": moved.approach, "overrun": moved.overrun, "face": moved.face,
                                "total": moved.whole}  # fmt: skip
    if helix is not None:
        answer |= _helical(ask, k, k_d, parse_length(feed, field="feed").mm, held, read_stages(stages), best)
    elif k_d is not None and feed_constant is not None:
        answer["primes"] = _primes(z, s, k, read_constant(feed_constant, "feed-constant"), k_d, held, counts, best)
    if not as_json:
        typer.echo(_table(answer, best))
        return
    exact = [{**train, "ratio": answer["ratio"], "relative_error": 0.0} for train in answer["trains"]]
    typer.echo(as_text(answer, ("lead",), target=answer["ratio"], candidates=exact, travel_mm=answer.get("travel")))


def _ask(
    teeth: int, starts: int, module: str | None, dp: str | None, helix: str | None, hand: Hand, face: str,
    hob_diameter: str | None, hob_hand: Hand,
) -> HobAsk:  # fmt: skip
    if (module is None) == (dp is None):
        raise Refusal("one_pitch", "module")
    system, text = (PitchSystem.MODULE, module) if module is not None else (PitchSystem.DIAMETRAL, dp)
    angle = read_helix(helix) if helix is not None else Fraction(0)
    return HobAsk(
        teeth, Pitch(system, parse_number(text or "", system.value)), helix=angle, hand=hand if angle else None,
        face=parse_length(face, field="face").mm, starts=starts, hob_hand=hob_hand,
        hob_diameter=parse_length(hob_diameter, field="hob-diameter").mm if hob_diameter else None,
    )  # fmt: skip


def _helical(
    ask: HobAsk, constant: Fraction, differential: Fraction | None, feed: Fraction, stock: Stock, stages: list[int],
    best: int,
) -> dict[str, Any]:  # fmt: skip
    wheel = cut_wheel(ask)
    assert wheel is not None
    assert wheel.lead is not None
    assert ask.pitch is not None
    face = ask.face or Fraction(0)
    answer: dict[str, Any] = {"lead": float(lead_of_wheel(ask.pitch.module, ask.teeth, ask.helix))}
    if differential is not None:
        ratio = differential_ratio(differential, ask.pitch.module, ask.helix, ask.starts)
        answer["differential"] = {
            "ratio": ratio_text(ratio),
            "candidates": [
                _near(f.combination, f.error, run_off(face, ask.helix, f.error))
                for f in search(ratio, stock, stages, best)
            ],
        }
    without = {}
    for name, faster in (("faster", True), ("slower", False)):
        ratio = ratio_without(constant, ask.starts, ask.teeth, wheel.lead, feed, faster)
        without[name] = {
            "ratio": ratio_text(ratio),
            "candidates": [
                _near(f.combination, f.error, run_off_without(face, wheel.pitch_diameter, feed, f.error))
                for f in search(ratio, stock, (1, 2), best)
            ],
        }
    return answer | {"without_differential": without}


def _primes(
    teeth: int, starts: int, constant: Fraction, feed: Fraction, differential: Fraction, stock: Stock,
    counts: str | None, best: int,
) -> list[dict[str, Any]]:  # fmt: skip
    if counts is None:
        near = [(i, len(trains)) for i, trains in nearest_indexed(teeth, starts, constant, stock, (2,), best)]
    else:
        first, colon, last = counts.partition(":")
        low = parse_whole(first, "as", FEWEST_CUT, MOST_CUT)
        high = parse_whole(last, "as", FEWEST_CUT, MOST_CUT) if colon else low
        if low > high:
            raise Refusal("range_backwards", "as", counts, first=low, last=high)
        whole = [Fraction(n) for n in range(low, high + 1) if n != teeth]
        near = [(n, count_exact(constant * starts / n, stock, 2)) for n in whole]
    primes = []
    for indexed, trains in near:
        must = making_up(teeth, indexed, starts, feed, differential, FeedSource.AFTER)
        product = ratio_text(must.product if must.adds else -must.product)
        primes.append({"indexed_as": ratio_text(indexed), "index_trains": trains, "differential_times_feed": product})
    return primes


def _wheels(combination: Combination) -> dict[str, Any]:
    return {"drivers": list(combination.drivers), "driven": list(combination.driven)}


def _near(combination: Combination, error: Fraction, run_off: float) -> dict[str, Any]:
    return _wheels(combination) | {"relative_error": float(error), "run_off_um": run_off}


def _table(answer: dict[str, Any], best: int) -> str:
    lines = [
        f"index train {answer['ratio']}: {numbers.count(answer['two_wheels'], 'train')} of two wheels, "
        f"{answer['four_wheels']} of four",
        *(_train(one) for one in answer["trains"][:best]),
    ]
    if "lead" in answer:
        lines.append(f"lead {answer['lead']:.4f} mm")
    if "travel" in answer:
        lines.append("  ".join(f"{name} {mm:.2f} mm" for name, mm in answer["travel"].items()))
    ways = [("differential train", answer["differential"])] if "differential" in answer else []
    ways += [(f"index train, work {n}", w) for n, w in answer.get("without_differential", {}).items()]
    for name, way in ways:
        lines.append(f"{name} {way['ratio']}")
        lines += [
            f"{_train(c):28}  {numbers.error(Fraction(c['relative_error'])):>12}  runs off {c['run_off_um']:.2f} µm"
            for c in way["candidates"]
        ]
    for one in answer.get("primes", ()):
        trains = numbers.count(one["index_trains"], "index train")
        lines.append(f"as {one['indexed_as']}: {trains}; differential × feed {one['differential_times_feed']}")
    return "\n".join(lines)


def _train(one: dict[str, Any]) -> str:
    return f"{' × '.join(map(str, one['drivers']))} / {' × '.join(map(str, one['driven']))}"
