"""The chart, the slower feeds, the wheel worth making and the constants of an unknown lathe, in words."""

from valleywind.core.lathe.chart import List, Row
from valleywind.core.lathe.constants import Constant, Constants
from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.series import Series
from valleywind.core.lathe.slower import Slower, WithNew
from valleywind.core.lathe.thread import Ask, FeedAsk, PitchUnit
from valleywind.core.lathe.worth_making import Advice, Brings
from valleywind.core.teeth.cutters import range_of_eight
from valleywind.core.trains.standing import Standing
from valleywind.core.units import MM_PER_INCH, spell, spell_inch
from valleywind.wording.lathe.answers import pitch_as_asked, short_lead, travel_as_asked, verdict_head
from valleywind.wording.numbers import Units, a, listed
from valleywind.wording.rack.stores import range_text
from valleywind.wording.trains import train_text

LISTS: dict[List, str] = {
    List.METRIC: "Metric coarse",
    List.METRIC_FINE: "Metric fine",
    List.PER_INCH: "Threads per inch",
    List.UNC: "UNC",
    List.UNF: "UNF",
    List.UNEF: "UNEF",
    List.BSW: "BSW",
    List.BSF: "BSF",
    List.BSP: "BSP",
    List.BSPT: "BSPT, taper",
    List.NPT: "NPT, taper",
    List.ME: "Model engineer",
    List.BA: "BA",
    List.TRAPEZOIDAL: "Trapezoidal",
    List.ACME: "Acme",
    List.BUTTRESS: "Buttress, metric",
    List.ROUND: "Round",
    List.MODULE_WORMS: "Worms by module",
    List.DP_WORMS: "Worms by DP",
    List.FEEDS_ALONG: "Feeds along",
    List.FEEDS_ACROSS: "Feeds across",
}

STANDINGS: dict[Standing, str] = {
    Standing.EXACT: "exact",
    Standing.GOOD: "good",
    Standing.POOR: "poor",
    Standing.NO_ROOM: "no room",
    Standing.NEEDS_WHEEL: "needs a wheel",
    Standing.OUT_OF_REACH: "out of reach",
}


def pitch(ask: Ask, units: Units) -> str:
    """`2 mm`, `26 tpi`, `module 1.5`, `0.05 mm`."""
    return travel_as_asked(ask, units) if isinstance(ask, FeedAsk) else pitch_as_asked(ask, units)


def sizes(row: Row) -> str:
    """The sizes that have the pitch: `M14, M16`, `4 BA`."""
    if isinstance(row.pitched.ask, FeedAsk):
        return ""
    match row.pitched.ask.series:
        case Series.METRIC | Series.TRAPEZOIDAL | Series.BUTTRESS | Series.ROUND as series:
            return ", ".join(f"{series}{name}" for name in row.pitched.sizes)
        case Series.BA as series:
            return ", ".join(f"{name} {series}" for name in row.pitched.sizes)
        case _:
            return ", ".join(row.pitched.sizes)


def note(row: Row, lathe: Lathe) -> str:
    """What is to be said of a line: the verdict, the wheel to make, why not."""
    match row.standing:
        case Standing.NEEDS_WHEEL if row.new is not None and row.candidate is not None:
            return f"needs {a(row.new)}: {train_text(row.candidate.train)}"
        case Standing.NO_ROOM:
            return "close trains do not fit on the quadrant"
        case Standing.OUT_OF_REACH if row.candidate is None:
            return f"beyond what {lathe.name}’s wheels give"
        case _ if row.candidate is not None:
            return verdict_head(row.candidate.verdict)
        case _:
            return ""


def slower_text(slower: Slower, ask: Ask, lathe: Lathe, units: Units) -> list[str]:
    """What is slowest now, what one new wheel would bring, and what bounds it."""
    kind = "feed" if isinstance(ask, FeedAsk) else "lead"
    if slower.now is None:
        return [f"Nothing fits {lathe.name} with the wheels it has."]
    sentences = [f"The slowest {kind} these wheels give is **{short_lead(slower.now.value, units)}**."]
    if slower.smaller:
        sentences.append(_with_new(slower.smaller[0], "driver", units))
    elif slower.smallest_on_shaft > slower.smallest_cut:
        sentences.append("No smaller driver both leaves metal over its key and fits.")
    else:
        sentences.append("No smaller driver fits.")
    if slower.bigger:
        sentences.append(_with_new(slower.bigger[0], "driven wheel", units))
    else:
        sentences.append("No bigger driven wheel fits.")
    sentences.append(
        f"The smallest that the usual cutters cut is {a(slower.smallest_cut)}; {lathe.name}’s bore and key leave metal "
        f"from {a(slower.smallest_on_shaft)} up."
    )
    return sentences


def _with_new(new: WithNew, role: str, units: Units) -> str:
    instead = f"in place of the {new.instead}" if new.instead else f"as {role}"
    return f"With {a(new.new)} {instead} it would be **{short_lead(new.candidate.value, units)}**, and fits."


def constants_text(constants: Constants, units: Units) -> str:
    """The measured constant with its bounds."""
    low, high = (short_lead(constants.measured + s * constants.uncertainty, units) for s in (-1, 1))
    text = f"Each turn of spindle and equal wheels moves the carriage {low} to {high}."
    if not constants.lathes:
        return f"{text} No usual screw and first-shaft ratio give that: measure over more turns, or look for a gearbox."
    return text


def constant_text(constant: Constant) -> str:
    """`6 tpi screw, first shaft 1 to the spindle’s 1`."""
    screw = (
        f"{spell_inch(MM_PER_INCH / constant.screw_lead)} tpi"
        if constant.stated is PitchUnit.TPI
        else f"{spell(constant.screw_lead)} mm"
    )
    return f"{screw} screw, first shaft turns {constant.first_ratio} to the spindle’s 1"


def csv_head(units: Units) -> list[str]:
    """The heads of the chart as a table, each with its unit."""
    lead = "lead, mm" if units is Units.MM else "lead, in"
    return ["pitch", "sizes", "result", "train", "levers", lead, "error, ppm", "note"]


def csv_rows(rows: list[Row], lathe: Lathe, units: Units) -> list[list[str | float]]:
    """The lines of that table; figures plain enough for a spreadsheet."""
    table: list[list[str | float]] = []
    for row in rows:
        candidate = row.candidate
        lead = candidate.value / (MM_PER_INCH if units is Units.INCH else 1) if candidate else None
        table.append(
            [
                pitch(row.pitched.ask, units),
                sizes(row),
                STANDINGS[row.standing],
                train_text(candidate.train) if candidate else "",
                lathe.setting_name(candidate.setting) if candidate else "",
                round(float(lead), 7) if lead is not None else "",
                round(float(candidate.error * 10**6), 2) if candidate else "",
                note(row, lathe),
            ]
        )
    return table


def advice_head(advice: Advice, lathe: Lathe) -> str:
    """How many pitches are lacking, and whether any one wheel helps."""
    lacking = len(advice.lacking)
    if not lacking:
        return f"Nothing is lacking: all {advice.wanted} are exact or good with the wheels {lathe.name} has."
    of = f"Of {advice.wanted} pitches {lacking} {'is' if lacking == 1 else 'are'} lacking."
    return of if advice.single else f"{of} No single wheel that can be cut and fits brings any of them."


def brings_text(brings: Brings, lacking: int, held: bool, units: Units, elsewhere: str | None = None) -> str:
    """`brings 7 of 10: 0.45 mm, 0.4 mm …, exactly 26 tpi; its cutter is the one for 17–20, which you hold`."""
    exact = [pitch(p.ask, units) for p in brings.exact]
    good = [pitch(p.ask, units) for p in brings.good]
    parts = [f"exactly {', '.join(exact)}"] if exact else []
    parts += [", ".join(good)] if good else []
    brought = f"brings {len(exact) + len(good)} of {lacking}: {'; good enough: '.join(parts)}. It fits"
    if elsewhere:
        return f"{brought}; you hold one, with {elsewhere}: nothing has to be cut."
    usual = range_of_eight(brings.teeth)
    hold = "which you hold" if held else "which is not held"
    cutter = (
        f"its cutter is the one for {range_text(usual)}, {hold}" if usual else "no cutter of the usual sets cuts it"
    )
    return f"{brought}; {cutter}."


def together_text(advice: Advice) -> str | None:
    """What a second and a third wheel add, one after the other."""
    if len(advice.together) < 2:
        return None
    parts = [f"{a(b.teeth)} brings {len(b.exact) + len(b.good)}" for b in advice.together]
    brought = sum(len(b.exact) + len(b.good) for b in advice.together)
    return (
        f"One after the other {listed(parts)}: {brought} of {len(advice.lacking)}. It is the best set found; "
        "another might do as well."
    )
