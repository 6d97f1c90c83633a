"""The lathe's findings in words: the ask, the verdict, the hand, what stands next to the candidates."""

from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.lathe.ask import Meaning
from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.plan import Candidate, Plan, Shortfall, ShortfallCause
from valleywind.core.lathe.series import Series
from valleywind.core.lathe.thread import Stated, ThreadAsk
from valleywind.core.lathe.verdict import USUAL_DIAMETER, Goes, Verdict
from valleywind.core.trains.direction import Hand, HandAdvice
from valleywind.core.units import MM_PER_INCH, spell, spell_inch
from valleywind.wording.numbers import (
    Units,
    a,
    count,
    error,
    fixed,
    length,
    off,
    rough_length,
    short_length,
    small,
    trimmed,
)
from valleywind.wording.trains import LATHE_SHAFTS, obstacle

GOES: dict[Goes, str] = {
    Goes.FREELY: "Goes as any other",
    Goes.MID_TOLERANCE: "Goes if cut to the middle of tolerance",
    Goes.PARTLY: "Binds",
    Goes.NOT: "Does not start",
}

MEANINGS: dict[Meaning, str] = {
    Meaning.METRIC_SIZE: "metric size and pitch",
    Meaning.COARSE_SIZE: "metric coarse size",
    Meaning.SERIES_SIZE: "size of a series",
    Meaning.PITCH: "pitch",
    Meaning.LEAD: "lead",
    Meaning.TPI: "threads per inch",
    Meaning.INCH_SIZE: "inch size and threads per inch",
    Meaning.STARTS: "starts",
    Meaning.HAND: "hand",
    Meaning.ENGAGEMENT: "length of the nut",
}


@dataclass(frozen=True)
class Figure:
    """A number to be set large, and the unit beside it."""

    value: str
    unit: str

    @property
    def short(self) -> str:
        """Without saying that it is a lead: `1.9999 mm`."""
        return str(self).removesuffix(" lead")

    def __str__(self) -> str:
        return f"{self.value} {self.unit}"


def pitch_as_asked(ask: ThreadAsk, units: Units) -> str:
    """The pitch in the way it was asked for: `26 tpi`, `2 mm`, `0.0787 in`."""
    if ask.stated is Stated.TPI:
        return f"{spell_inch(MM_PER_INCH / ask.pitch)} tpi"
    if ask.stated is Stated.INCH:
        return f"{spell_inch(ask.pitch / MM_PER_INCH)} in"
    return f"{spell(ask.pitch)} mm" if units is Units.MM else f"{trimmed(ask.pitch / MM_PER_INCH, 5)} in"


def description(ask: ThreadAsk, units: Units) -> str:
    """`2 mm lead, right-hand, 60°`."""
    if ask.starts == 1 and ask.stated is Stated.TPI:
        words = [pitch_as_asked(ask, units)]
    else:
        words = [f"{pitch_as_asked(ask, units)} {'pitch' if ask.starts > 1 else 'lead'}"]
    if ask.starts > 1:
        words.append(f"{ask.starts} starts, {short_length(ask.lead, units)} lead")
    words += [f"{ask.hand}-hand", f"{spell(ask.included_angle)}°"]
    return ", ".join(words)


def completion(ask: ThreadAsk, units: Units) -> str:
    """What a completion of the line means, shortly: `1.5 mm pitch, 14 mm across, 60°`."""
    pitch = pitch_as_asked(ask, units)
    if ask.stated is not Stated.TPI:
        pitch += " pitch" if ask.series else " lead"
    across = f", {short_length(ask.diameter, units)} across" if ask.diameter is not None else ""
    return f"{pitch}{across}, {spell(ask.included_angle)}°"


def assumptions(ask: ThreadAsk, units: Units) -> list[str]:
    """What was taken for granted because nobody said, and can be said."""
    found = []
    if ask.diameter is None:
        found.append(f"No diameter given: taken as {USUAL_DIAMETER} pitches, {short_length(ask.nominal, units)}.")
    if ask.engagement is None:
        found.append(f"Nut taken as 0.8 diameters long: {short_length(ask.length, units)}.")
    if ask.series is not Series.METRIC:
        flanks = "" if ask.included_angle == 60 else f", with its own {spell(ask.included_angle)}° flanks"
        found.append(f"No class of fit is known for this thread: judged like a metric 6g of its size{flanks}.")
    return found


def lead_figure(candidate: Candidate, ask: ThreadAsk, units: Units) -> Figure:
    """What the train cuts, said as the thread was asked for."""
    if ask.stated is Stated.TPI and ask.starts == 1:
        return Figure(trimmed(MM_PER_INCH / candidate.lead, 4), "tpi")
    if units is Units.MM:
        return Figure(fixed(candidate.lead, 4), "mm lead")
    return Figure(fixed(candidate.lead / MM_PER_INCH, 5), "in lead")


def verdict_head(verdict: Verdict) -> str:
    """A few words: `Goes as any other`, `Binds after 6.3 turns`."""
    if verdict.goes is Goes.PARTLY and verdict.binds_after is not None:
        return f"Binds after {trimmed(verdict.binds_after, 1 if verdict.binds_after < 20 else 0)} turns"
    return GOES[verdict.goes]


def verdict_text(candidate: Candidate, units: Units) -> str:
    """The sentence beside it: how far off, and what that gathers to over the nut."""
    verdict = candidate.verdict
    nut = f"a nut {short_length(verdict.engagement, units)} long"
    if candidate.error == 0:
        return f"The pitch is exact: nothing gathers over {nut}, or over any length."
    return f"{sentence(off(candidate.error))} Over {nut} the error gathers to {small(verdict.gathered, units)}."


def longest_text(verdict: Verdict, units: Units) -> str:
    """The longest engagement that still goes."""
    if verdict.longest is None or verdict.longest_freely is None:
        return "Goes over any length."
    freely, longest = (rough_length(v, units) for v in (verdict.longest_freely, verdict.longest))
    return f"Longest nut: {freely} as any other, {longest} cut to the middle of tolerance."


def slide_text(verdict: Verdict, units: Units) -> str:
    """Whether the thread would do for a screw that measures or moves a slide."""
    over = length(verdict.per_300_mm / 1000, units, 3)
    if verdict.gathered == 0:
        return "Good for a screw that measures, as far as the lead screw is."
    within = short_length(300, units)
    if verdict.serves_a_slide:
        return f"Good for a screw that moves a slide too: {over} in {within}."
    return f"Not for a screw that measures or moves a slide: {over} in {within}."


def gathered_rows(verdict: Verdict, units: Units) -> list[tuple[str, str]]:
    """The gathered error over usual lengths, in both systems."""
    lengths = (("10 mm", verdict.per_10_mm), ("1 in", verdict.per_inch), ("300 mm", verdict.per_300_mm))
    return [(name, small(value, units)) for name, value in lengths]


def hand_text(advice: HandAdvice, wanted: Hand) -> str:
    """What to do for the wanted hand."""
    if not advice.right:
        return f"Turns the screw the wrong way for a {wanted}-hand thread: one idler more or less is needed."
    if advice.lever is None:
        return f"No lever to set: these meshes give the {wanted} hand."
    return f"Tumbler {'forward' if advice.lever else 'reversed'} for a {wanted}-hand thread."


def reasons(candidate: Candidate, units: Units) -> list[str]:
    """Why the train does not go on, if it does not."""
    train, placement = candidate.train, candidate.placement
    found = [obstacle(o, train, placement, LATHE_SHAFTS, units) for o in placement.obstacles]
    if not candidate.hand.right:
        found.append("turns the screw the wrong way")
    found += [
        f"needs {a(t) if n == 1 else f'{n} × {t}'}, which {'is' if n == 1 else 'are'} not held"
        for t, n in candidate.lacking.items()
    ]
    return found


def order_reason(candidate: Candidate, best: bool) -> str:
    """Why a candidate stands where it stands, in a few words."""
    train = candidate.train
    parts = []
    if candidate.handling.kept:
        parts.append(f"{count(candidate.handling.kept, 'wheel')} may stay on")
    parts.append(f"smallest wheel {min(train.teeth)}")
    if train.idlers:
        parts.append(count(len(train.idlers), "idler"))
    return ("Least trouble: " if best else "") + ", ".join(parts)


def one_more_text(plan: Plan, units: Units) -> str | None:
    """What the best single new wheel would bring."""
    if plan.one_more is None or plan.one_more_teeth is None:
        return None
    figure = lead_figure(plan.one_more, plan.ask, units)
    goes = verdict_head(plan.one_more.verdict).lower()
    return f"With {a(plan.one_more_teeth)}: {figure}, {off(plan.one_more.error)}; {goes}."


def shortfall_text(plan: Plan, units: Units) -> str | None:
    """Nothing meets the ask: how far off the best is, and why."""
    short = plan.shortfall
    if short is None:
        return None
    best = (
        f"The best that goes on is {off(short.best_error)}. " if short.best_error is not None else "Nothing goes on. "
    )
    return best + _cause(short, plan.lathe, units)


def _cause(short: Shortfall, lathe: Lathe, units: Units) -> str:
    match short.cause:
        case ShortfallCause.FINER_THAN_FINEST if short.finest is not None:
            finest = short_lead(short.finest, units)
            return (
                f"The finest lead {lathe.name}’s wheels give in two stages is {finest}; a smaller driver goes below it."
            )
        case ShortfallCause.COARSER_THAN_COARSEST if short.coarsest is not None:
            return f"The coarsest lead {lathe.name}’s wheels give in two stages is {short_lead(short.coarsest, units)}."
        case ShortfallCause.NEAR_ONES_DO_NOT_FIT:
            return "Closer trains exist among the wheels, but they do not go on the quadrant."
        case ShortfallCause.NOTHING_NEAR if short.floor is not None and short.floor_teeth is not None:
            low, high = short.floor_teeth
            floor = f"come within {error(short.floor)[1:]}" if short.floor else "hit it exactly"
            return (
                f"{lathe.name}’s wheels give nothing closer; "
                f"with every wheel from {low} to {high} two stages could {floor}."
            )
        case _:
            return f"{lathe.name} has too few wheels for a train."


def short_lead(mm: Fraction, units: Units) -> str:
    """A lead to a few digits."""
    return f"{trimmed(mm, 4)} mm" if units is Units.MM else f"{trimmed(mm / MM_PER_INCH, 5)} in"


def sentence(words: str) -> str:
    """Words with a capital and a full stop."""
    return f"{words[:1].upper()}{words[1:]}."
