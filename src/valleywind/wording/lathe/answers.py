"""The lathe's findings in words: the ask, the verdict, the hand, what stands next to the candidates."""

from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.lathe.fits import CLASSES, fit_system, has_own_classes
from valleywind.core.lathe.line import Meaning
from valleywind.core.lathe.machine import Lathe, LeverSetting
from valleywind.core.lathe.plan import Candidate, Plan
from valleywind.core.lathe.series import TAPER, UNEQUAL_FLANKS, Series
from valleywind.core.lathe.thread import Ask, CarriageMove, FeedAsk, PitchUnit, ThreadAsk, bare_pitch
from valleywind.core.lathe.verdict import USUAL_DIAMETER, USUAL_WORM_WHEEL, Goes, Measure, Purpose, Verdict
from valleywind.core.trains.direction import Hand, HandAdvice
from valleywind.core.trains.planner import Shortfall, ShortfallCause
from valleywind.core.trains.quadrant import Carrier
from valleywind.core.units import MM_PER_INCH, spell, spell_degrees, spell_inch
from valleywind.wording.numbers import (
    Units,
    a,
    error,
    fixed,
    length,
    listed,
    most_length,
    off,
    off_feed,
    percent,
    short_length,
    small,
    trimmed,
)
from valleywind.wording.trains import LATHE_SHAFTS, not_checked, obstacle, room, work

GOES: dict[Purpose, dict[Goes, str]] = {
    Purpose.NUT: {
        Goes.FREELY: "Nut runs free",
        Goes.MID_TOLERANCE: "Nut runs if cut to mid tolerance",
        Goes.PARTLY: "Binds",
        Goes.NOT: "Nut will not start",
    },
    Purpose.SLIDE: {
        Goes.FREELY: "Good for a slide",
        Goes.MID_TOLERANCE: "Good for a slide",
        Goes.PARTLY: "Not for a slide",
        Goes.NOT: "Not for a slide",
    },
    Purpose.WORM: {
        Goes.FREELY: "Worm runs free",
        Goes.MID_TOLERANCE: "Turns, but the last teeth carry",
        Goes.PARTLY: "Binds",
        Goes.NOT: "Does not mesh",
    },
    Purpose.FEED: {
        Goes.FREELY: "As asked",
        Goes.MID_TOLERANCE: "About as asked",
        Goes.PARTLY: "Another feed",
        Goes.NOT: "Another feed",
    },
}
WITHIN = {Goes.FREELY: "Within what is allowed", Goes.NOT: "More than is allowed"}

MEANINGS: dict[Meaning, str] = {
    Meaning.METRIC_SIZE: "metric size and pitch",
    Meaning.COARSE_SIZE: "metric coarse size",
    Meaning.SERIES_SIZE: "size of a series",
    Meaning.PITCH: "pitch",
    Meaning.LEAD: "lead",
    Meaning.TPI: "threads per inch",
    Meaning.INCH_SIZE: "inch size and threads per inch",
    Meaning.WORM: "worm for a wheel of this pitch",
    Meaning.FEED: "feed per turn",
    Meaning.STARTS: "starts",
    Meaning.HAND: "hand",
    Meaning.ENGAGEMENT: "length of the nut",
    Meaning.DIAMETER: "diameter",
    Meaning.ANGLE: "flank or pressure angle",
    Meaning.CLASS: "class of fit",
    Meaning.SLIDE: "a screw that moves a slide",
    Meaning.WITHIN: "error that is allowed",
    Meaning.WAY: "direction of the feed",
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
    """The pitch in the way it was asked for: `26 tpi`, `2 mm`, `0.0787 in`, `module 1.5`."""
    if ask.worm is not None:
        return bare_pitch(ask).removeprefix("worm ")
    if ask.stated is PitchUnit.TPI:
        return f"{spell_inch(MM_PER_INCH / ask.pitch)} tpi"
    if ask.stated is PitchUnit.INCH:
        return f"{spell_inch(ask.pitch / MM_PER_INCH)} in"
    return f"{spell(ask.pitch)} mm" if units is Units.MM else f"{trimmed(ask.pitch / MM_PER_INCH, 5)} in"


def travel_as_asked(ask: FeedAsk, units: Units) -> str:
    """`0.03 mm`, `0.0015 in`."""
    if ask.stated is PitchUnit.INCH:
        return f"{spell(ask.travel / MM_PER_INCH)} in"
    return f"{spell(ask.travel)} mm" if units is Units.MM else f"{trimmed(ask.travel / MM_PER_INCH, 5)} in"


CUT_SHORT = (
    "Not every train was tried: there are too many. With fewer wheels, slots or studs on the record all would be tried."
)


def description(ask: Ask, units: Units) -> str:
    """`2 mm lead, right-hand, 60°`; `0.03 mm per turn, along the bed, toward the headstock`."""
    if isinstance(ask, FeedAsk):
        return f"{travel_as_asked(ask, units)} per turn, {_feed_direction(ask)}"
    if ask.worm is not None:
        words = [f"{pitch_as_asked(ask, units)} worm", f"{short_lead(ask.lead, units)} lead"]
        words += [f"{ask.starts} starts"] if ask.starts > 1 else []
        return ", ".join([*words, f"{ask.hand}-hand", f"{spell_degrees(ask.included_angle / 2)} pressure angle"])
    words = [_pitch_and_lead(ask, "lead", units), f"{ask.hand}-hand", flanks(ask)]
    words += [f"class {ask.fit_class}"] if ask.fit_class else []
    words += ["for a slide"] if ask.slide else []
    return ", ".join(words)


def flanks(ask: ThreadAsk) -> str:
    """The included angle, of unequal flanks both: `60°`, `3° and 30°`."""
    load, other = ask.flank_angles
    return spell_degrees(ask.included_angle) if load == other else f"{spell_degrees(load)} and {spell_degrees(other)}"


def _pitch_and_lead(ask: ThreadAsk, single: str, units: Units) -> str:
    """`2 starts, pitch 1.5 mm, lead 3 mm`; with one start both are the same, and it is called `single`."""
    pitch = pitch_as_asked(ask, units)
    if ask.starts > 1:
        return f"{ask.starts} starts, pitch {pitch}, lead {short_lead(ask.lead, units)}"
    return pitch if ask.stated is PitchUnit.TPI else f"{pitch} {single}"


def _feed_direction(ask: FeedAsk) -> str:
    if ask.way is CarriageMove.ACROSS:
        return "across the bed" if ask.hand is Hand.RIGHT else "across the bed, reversed"
    return f"along the bed, {'toward' if ask.hand is Hand.RIGHT else 'away from'} the headstock"


def completion(ask: Ask, units: Units) -> str:
    """What a completion of the line means, shortly: `1.5 mm pitch, 14 mm across, 60°`."""
    if isinstance(ask, FeedAsk) or ask.worm is not None:
        return description(ask, units)
    pitch = _pitch_and_lead(ask, "pitch" if ask.series else "lead", units)
    across = f", {short_length(ask.diameter, units)} across" if ask.diameter is not None else ""
    return f"{pitch}{across}, {flanks(ask)}"


def assumptions(ask: Ask, units: Units) -> list[str]:
    """What was taken for granted because nobody said, and can be said."""
    if isinstance(ask, FeedAsk):
        return [] if ask.within is not None else ["For a feed, 3 % off counts as asked and 10 % as about."]
    if ask.within is not None or ask.slide:
        return []
    texts = []
    if ask.series in TAPER:
        texts.append(
            f"Tapered 1 in {spell(1 / TAPER[ask.series])} on the diameter: use the taper attachment, or set the "
            "tailstock over. The pitch is along the axis. The error is judged as on a parallel thread."
        )
    if ask.series in UNEQUAL_FLANKS:
        load, other = map(spell, ask.flank_angles)
        texts.append(
            f"A flank of {load}° bears the load, the other has {other}°. Grind the tool for the way the load comes."
        )
    if ask.series is Series.ROUND:
        texts.append("Crest and root are round: use a form tool.")
    if ask.worm is not None:
        if ask.engagement is None:
            contact = short_length(ask.length, units)
            texts.append(f"Length in contact taken as with a wheel of {USUAL_WORM_WHEEL} teeth: {contact}.")
        return texts
    if ask.diameter is None:
        texts.append(f"No diameter given: taken as {USUAL_DIAMETER} pitches, {short_length(ask.nominal, units)}.")
    if ask.engagement is None:
        texts.append(f"Nut taken as 0.8 diameters long: {short_length(ask.length, units)}.")
    judged_as = ask.fit_class or CLASSES[fit_system(ask.series)][0]
    if not has_own_classes(ask.series):
        own = "" if ask.included_angle == 60 else f", with its own {flanks(ask)} flanks"
        texts.append(f"No class of fit is known for this thread: judged like a metric {judged_as} of its size{own}.")
    elif ask.fit_class is None:
        texts.append(f"Fit taken as class {judged_as}.")
    return texts


def lead_figure(candidate: Candidate, ask: Ask, units: Units) -> Figure:
    """What the train gives, said as it was asked for."""
    if isinstance(ask, FeedAsk):
        inch = ask.stated is PitchUnit.INCH or units is Units.INCH
        return (
            Figure(trimmed(candidate.value / MM_PER_INCH, 5), "in per turn")
            if inch
            else Figure(trimmed(candidate.value, 4), "mm per turn")
        )
    if ask.stated is PitchUnit.TPI and ask.starts == 1:
        return Figure(trimmed(MM_PER_INCH / candidate.value, 4), "tpi")
    if units is Units.MM:
        return Figure(fixed(candidate.value, 4), "mm lead")
    return Figure(fixed(candidate.value / MM_PER_INCH, 5), "in lead")


def verdict_head(verdict: Verdict) -> str:
    """A few words: `Nut runs free`, `Binds after 6.3 turns`."""
    if verdict.measure is Measure.SHARE and verdict.job is not Purpose.FEED:
        return WITHIN[verdict.goes]
    words = GOES[verdict.job][verdict.goes]
    if verdict.goes is Goes.PARTLY and verdict.binds_after is not None:
        return f"{words} after {trimmed(verdict.binds_after, 1 if verdict.binds_after < 20 else 0)} turns"
    return words


def verdict_text(candidate: Candidate, units: Units) -> str:
    """The sentence beside it: how far off, and what that adds up to over the nut, the slide or the wheel."""
    verdict = candidate.verdict
    over = short_length(verdict.engagement, units)
    where = {
        Purpose.NUT: f"a nut {over} long",
        Purpose.SLIDE: f"{over} of screw",
        Purpose.WORM: f"the {over} in contact with the wheel",
        Purpose.FEED: f"{over} of cut",
    }[verdict.job]
    if candidate.error == 0:
        if verdict.job is Purpose.FEED:
            return "The feed is exact."
        return f"The pitch is exact: nothing adds up over {where}, or over any length."
    if verdict.job is Purpose.FEED:
        return sentence(off_feed(candidate.error))
    text = sentence(off(candidate.error))
    return f"{text} Over {where} the error adds up to {small(verdict.gathered, units)}."


def amount(verdict: Verdict, value: float, units: Units) -> str:
    """A quantity in the verdict's measure: `37 µm`, `0.46 %`."""
    return percent(value) if verdict.measure is Measure.SHARE else small(value, units)


def bar_text(verdict: Verdict, units: Units) -> str:
    """What the bar under the verdict shows. `**` stands round what was taken up."""
    taken, freely, most = (amount(verdict, v, units) for v in (verdict.taken_up, verdict.freely, verdict.at_most))
    match verdict.measure:
        case Measure.CLEARANCE:
            if verdict.fit is not None and not verdict.fit.own:
                return (
                    f"Takes up **{taken}** of the clearance. A metric thread of this size has at least {freely} "
                    f"(dashed), and {most} when cut to the middle of tolerance."
                )
            return (
                f"Takes up **{taken}** of the clearance: {freely} is guaranteed (dashed), {most} when cut "
                "to the middle of tolerance."
            )
        case Measure.TRAVEL:
            return f"**{taken}** in all over {short_length(verdict.engagement, units)}; a slide allows {most}."
        case Measure.BACKLASH:
            return f"Takes up **{taken}**: the teeth share the load up to {freely} (dashed), the backlash is {most}."
        case Measure.SHARE if verdict.job is Purpose.FEED and verdict.freely != verdict.at_most:
            return f"**{taken}** off: up to {freely} counts as asked (dashed), up to {most} as about."
        case _:
            return f"**{taken}** off; {most} is allowed."


def longest_text(verdict: Verdict, units: Units) -> str | None:
    """The longest engagement that still goes; None where that is no question."""
    if verdict.measure is Measure.SHARE:
        return None
    if verdict.longest is None or verdict.longest_freely is None:
        return "Goes over any length."
    freely, longest = (most_length(v, units) for v in (verdict.longest_freely, verdict.longest))
    match verdict.job:
        case Purpose.WORM:
            return f"Longest contact: {freely} with the load shared, {longest} before it binds."
        case Purpose.SLIDE:
            return f"Good for a slide that moves up to {longest}."
        case _:
            return f"Longest nut: {freely} runs free, {longest} cut to mid tolerance."


def slide_text(verdict: Verdict, units: Units) -> str | None:
    """Whether the thread would do for a screw that measures or moves a slide; None for what is no thread for a nut."""
    if verdict.job is not Purpose.NUT:
        return None
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


def direction_text(advice: HandAdvice, ask: Ask) -> str:
    """What to do for the wanted hand of a thread, or the wanted way of a feed."""
    if not isinstance(ask, FeedAsk):
        return hand_text(advice, ask.hand)
    if not advice.known:
        return "Which way the apron feeds is not on record: try it with the work turning slowly and the tool clear."
    goes = "toward" if ask.hand is Hand.RIGHT else "away from"
    if not advice.right:
        return f"The carriage goes the wrong way, not {goes} the headstock: one idler more or less is needed."
    if advice.lever is None:
        return f"No lever to set: with these meshes the carriage goes {goes} the headstock."
    return f"Tumbler {'forward' if advice.lever else 'reversed'}: the carriage goes {goes} the headstock."


def hand_text(advice: HandAdvice, wanted: Hand) -> str:
    """What to do for the wanted hand."""
    if not advice.known:
        return (
            f"Which hand it cuts is not on record. Turn by hand: for a {wanted}-hand thread the carriage moves "
            f"{'toward' if wanted is Hand.RIGHT else 'away from'} the headstock."
        )
    if not advice.right:
        return f"Turns the screw the wrong way for a {wanted}-hand thread: one idler more or less is needed."
    if advice.lever is None:
        return f"No lever to set: these meshes give the {wanted} hand."
    return f"Tumbler {'forward' if advice.lever else 'reversed'} for a {wanted}-hand thread."


def reasons(candidate: Candidate, units: Units) -> list[str]:
    """Why the train does not go on, if it does not."""
    train, placement = candidate.train, candidate.placement
    texts = [obstacle(o, train, placement, LATHE_SHAFTS, units) for o in placement.obstacles]
    if not candidate.hand.right:
        texts.append("turns the screw the wrong way for this hand" if candidate.verdict.job is not Purpose.FEED
                     else "moves the carriage the wrong way")  # fmt: skip
    texts += [
        f"needs {a(t) if n == 1 else f'{n} × {t}'}, which {'is' if n == 1 else 'are'} not held"
        for t, n in candidate.lacking.items()
    ]
    return texts


EXAMPLE = "The figures are an example’s, not your lathe’s, until you confirm them under Machines."


def not_known(lathe: Lathe) -> list[str]:
    """What the answers on this lathe do not know, and so do not say: a sentence each."""
    sentences = not_checked(lathe.quadrant)
    if not lathe.pitch_known:
        sentences.append("The pitch of the wheels is not known: they are drawn in proportion, without measures.")
    if lathe.drive is None:
        sentences.append("Which way the shafts turn is not on record, so the hand of a thread has to be tried.")
    return sentences


def levers_text(candidate: Candidate, lathe: Lathe) -> str | None:
    """Where the levers must stand, where there is a choice: `Box to 9 ×2`, `First shaft to 1/2`."""
    words = lever_words(candidate.setting, lathe)
    return sentence(listed(words)) if words else None


def lever_words(setting: LeverSetting, lathe: Lathe) -> list[str]:
    """`first shaft to 1/2`, `box to 9 ×2`, as far as there is a choice."""
    words = [f"first shaft to {setting.first.name}"] if len(lathe.first) > 1 else []
    return words + ([f"box to {setting.box.name}"] if setting.box else [])


def levers_label(setting: LeverSetting, lathe: Lathe) -> str | None:
    """The levers shortly, for lists: `box 9 ×2`; None where there is no choice."""
    words = [word.replace(" to ", " ") for word in lever_words(setting, lathe)]
    return ", ".join(words) or None


def work_text(candidate: Candidate, lathe: Lathe) -> str:
    """What there is to do: `keep 2, change 2`, `only a lever moves: box to 9 ×2`."""
    handling = candidate.handling
    if handling.levers and handling.no_wheel:
        return f"only a lever moves: {listed(lever_words(candidate.setting, lathe))}"
    return work(handling)


def one_idler_text(wrong: Candidate, righted: Candidate | None, quadrant: Carrier, units: Units) -> str | None:
    """What puts a wrong hand right: an idler out, or which one in, and with what room."""
    if wrong.hand.right or righted is None:
        return None
    before, after = wrong.train.idlers, righted.train.idlers
    space = room(righted.placement, quadrant, units)
    if len(after) < len(before):
        return f"Without an idler the hand is right: {space}."
    stage = next(s for s, t in zip(righted.train.stages, wrong.train.stages, strict=True) if s != t)
    return f"With {a(stage.idlers[0])} as idler between {stage.driver} and {stage.driven} the hand is right: {space}."


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
    feed = isinstance(plan.ask, FeedAsk)
    best = "Nothing fits. "
    if short.best_error is not None:
        best = f"The best that fits is {off_feed(short.best_error) if feed else off(short.best_error)}. "
    return best + _cause(short, plan.lathe, ("slowest feed", "fastest feed") if feed else _ENDS, units)


_ENDS = ("finest lead", "coarsest lead")


def _cause(short: Shortfall, lathe: Lathe, ends: tuple[str, str], units: Units) -> str:
    match short.cause:
        case ShortfallCause.LESS_THAN_LEAST if short.least is not None:
            finest = short_lead(short.least, units)
            return (
                f"The {ends[0]} {lathe.name}’s wheels give in two stages is {finest}; a smaller driver goes below it."
            )
        case ShortfallCause.MORE_THAN_MOST if short.most is not None:
            return f"The {ends[1]} {lathe.name}’s wheels give in two stages is {short_lead(short.most, units)}."
        case ShortfallCause.NEAR_ONES_DO_NOT_FIT:
            return "Closer trains exist among the wheels, but they do not fit on the quadrant."
        case ShortfallCause.NEVER_CLOSES:
            return (
                f"No train of {lathe.name}’s wheels reaches from shaft to shaft within its slots and swing. "
                "Check the first shaft’s place, the slots and the number of studs under Machines."
            )
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
