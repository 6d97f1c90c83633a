"""The mill's sheet: everything in the order of the work, from centring the cutter to lowering the knee."""

from fractions import Fraction

from valleywind.core.helix.ask import HelixAsk, say
from valleywind.core.helix.check import given_lead, line_angle, to_check
from valleywind.core.helix.machine import Mill, PairsAt
from valleywind.core.helix.plan import LeadCandidate, LeadDrive, LeadSetUp
from valleywind.core.helix.table import How
from valleywind.core.making.mill_setting import MillSetting
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.direction import Hand
from valleywind.wording.dividing import setting_text
from valleywind.wording.helix import answers as words
from valleywind.wording.helix.setting import TANGENT, plate_text, setting_facts, swing_text, wheel_sizes
from valleywind.wording.numbers import Units, fixed, length, short_length, trimmed
from valleywind.wording.sheet import Fact, Lines, Shafts, Sheet, SheetStep, isolated, shaft_rows, spacer
from valleywind.wording.trains import LEAD_SHAFTS, not_checked, room, steps, train_text

_STOPPED = "Cutter stopped and the drive off before hands or rules go near."
# Where the angle of a line is told that is scribed on round stock, mm.
_TRIAL = Fraction(40)


def sheet(
    candidate: LeadCandidate, ask: HelixAsk, mill: Mill, drive: LeadDrive, setting: MillSetting, name: str,
    family: WheelFamily, units: Units,
) -> Sheet:  # fmt: skip
    """The sheet of one set-up; `name` of the machine, `family` of its wheels."""
    train = candidate.train
    set_up = LeadSetUp(train, candidate.setting)
    expected = to_check(set_up, drive, mill.travel)
    pair = words.pair_label(candidate.setting, drive)
    return Sheet(
        title=say(ask),
        machine=name,
        figure="",
        train=", ".join(filter(None, [train_text(train), pair])),
        head=words.head(candidate.verdict),
        verdict=words.verdict_text(candidate, ask, drive, units),
        facts=tuple(_facts(candidate, ask, mill, drive, setting, units)),
        shafts=(
            Shafts(
                "Shafts, from machine outward",
                tuple(shaft_rows(train, candidate.placement, LEAD_SHAFTS, family, units)),
            ),
        ),
        steps=tuple(_steps(candidate, ask, mill, drive, setting, family, units)),
        check=Lines(
            "Check by hand before the cutter touches", tuple(_check(set_up, ask, drive, expected.travel, units))
        ),
        check_over=short_length(expected.travel, Units.MM),
        after=(),
    )


def _facts(
    candidate: LeadCandidate, ask: HelixAsk, mill: Mill, drive: LeadDrive, setting: MillSetting, units: Units
) -> list[Fact]:
    facts = [Fact("Work", words.description(ask, units))]
    if pair := words.pair_label(candidate.setting, drive):
        facts.append(Fact("Worm pair", f"{pair.removeprefix('pair ')}, {words.pair_text(candidate.setting)}"))
    facts.append(Fact("Room", room(candidate.placement, drive.box.quadrant, units)))
    facts += [Fact(f.label, f.text) for f in setting_facts(setting, ask, mill, units)]
    sizes = wheel_sizes(setting, ask, units)
    return facts + [Fact(f.label, f.text) for f in sizes if f.label != "Lead of the helix"]


def _steps(
    candidate: LeadCandidate, ask: HelixAsk, mill: Mill, drive: LeadDrive, setting: MillSetting, family: WheelFamily,
    units: Units,
) -> list[SheetStep]:  # fmt: skip
    steps = [
        *_arbor_steps(mill, setting, units),
        SheetStep(
            "Table square, work between the head and the tailstock or on a mandrel. Centre the cutter over the work "
            "**before swinging**: afterwards it cannot be centred.",
            _STOPPED,
        ),
        *_wheel_steps(candidate, drive, family, units),
        *_pair_steps(candidate, mill, drive),
        SheetStep(
            "Pull the pin that locks the index plate to the head. The drive turns the plate, and the plate turns the "
            "crank by its pin: **leave the crank’s pin in its hole** during the cut.",
        ),
        SheetStep(words.direction(candidate, ask)),
        *_swing_steps(ask, setting, units),
        SheetStep(
            "Move the table by hand through its whole travel. Clamps, tailstock, drive shaft and its joints stay clear "
            "everywhere.",
            "Hands out of wheels and joints. Guards on before power.",
        ),
        SheetStep("Check it by hand, as below, before the cutter touches. Then cut a trial blank of plastic."),
        *_cut_steps(ask, setting, units),
    ]
    return steps


def _arbor_steps(mill: Mill, setting: MillSetting, units: Units) -> list[SheetStep]:
    """The arbor first: once the table is swung it would have to be changed."""
    need, swung = setting.needs, setting.swing is None or setting.swing.how is not How.HEAD
    if need is None or need.away is None:
        return [SheetStep("Take an arbor long enough for the swung table.", _STOPPED)] if swung else []
    if need.chosen is not None:
        return [SheetStep(f"Fit the arbor that reaches **{short_length(need.chosen, units)}**.", _STOPPED)]
    if need.arbor is None:
        return [
            SheetStep(f"The arbor must carry the cutter **{length(need.away, units, 0)}** from the column.", _STOPPED)
        ]
    longest = short_length(mill.arbors[-1], units)
    reach = f"The arbor must reach **{length(need.arbor, units, 0)}** from the column, collar and all"
    return [SheetStep(f"{reach}; the longest reaches {longest}.", "Do not cut with it so.")]


def _wheel_steps(candidate: LeadCandidate, drive: LeadDrive, family: WheelFamily, units: Units) -> list[SheetStep]:
    train = candidate.train
    if candidate.handling.no_wheel:
        return [SheetStep(f"The change wheels stay as they are, **{train_text(train)}**.")]
    on = steps(train, candidate.placement, LEAD_SHAFTS, spacer(family, units), units)
    return [isolated("machine", ""), *map(SheetStep, [*not_checked(drive.box.quadrant, LEAD_SHAFTS.carrier), *on])]


def _pair_steps(candidate: LeadCandidate, mill: Mill, drive: LeadDrive) -> list[SheetStep]:
    label = words.pair_label(candidate.setting, drive)
    if label is None:
        return []
    at = {PairsAt.BEFORE: " before the wheels", PairsAt.AFTER: " behind the wheels", None: ""}[mill.pairs_at]
    return [
        SheetStep(
            f"Worm {label}{at}: **{words.pair_text(candidate.setting)}**. Turn its input by hand and count. Close its "
            "cover on that side."
        )
    ]


def _swing_steps(ask: HelixAsk, setting: MillSetting, units: Units) -> list[SheetStep]:
    if setting.swing is None:
        end = "right" if ask.wanted_hand is Hand.RIGHT else "left"
        text = f"Swing the table by the helix angle, its {end}-hand end toward the column"
    else:
        text = swing_text(setting.swing, ask.wanted_hand)
    if setting.swing is not None and setting.swing.how is How.NEITHER:
        return [SheetStep(f"{text}.", "This machine cannot set the angle: do not cut.")]
    if setting.swing is not None and setting.swing.how is How.HEAD:
        return [SheetStep(f"**{text}**. Clamp it.", _STOPPED)]
    room = _room_text(setting, units)
    return [
        SheetStep(f"Pull out the taper or dowel pin that keeps the table square, and keep it. {room}", _STOPPED),
        SheetStep(
            f"Loosen the bolts on **both sides** of the table. **{text}**.{_tangent(setting)} Tighten both sides."
        ),
    ]


def _tangent(setting: MillSetting) -> str:
    return "" if setting.swing is not None else f" {TANGENT}."


def _room_text(setting: MillSetting, units: Units) -> str:
    need = setting.needs
    if need is None or need.away is None:
        return "Bring the saddle forward, so that the corner clears the column."
    text = f"Bring the saddle forward until the table’s middle is **{length(need.away, units, 0)}** from the column."
    if need.column_clear is False:
        return f"{text} It does not come out so far: the table would meet the column."
    return text


def _cut_steps(ask: HelixAsk, setting: MillSetting, units: Units) -> list[SheetStep]:
    cuts = []
    if setting.depth is not None:
        cutter, best = "the cutter", setting.held[0] if setting.held else setting.instead
        if best is not None:
            cutter = f"the cutter of {best.lowest} to {best.highest or 'rack'}"
        cuts.append(f"Touch the work with {cutter}, then raise the knee **{length(setting.depth, units, 2)}** in all.")
    cuts.append("Cut one way only, against the backlash. **Lower the knee before returning**, or withdraw the cutter.")
    steps = [SheetStep(" ".join(cuts), "Cutter guarded; chips away with a brush.")]
    if ask.teeth is not None and ask.teeth > 1:
        if setting.simple:
            steps.append(
                SheetStep(
                    "Knee down, table back. Index with the crank against the plate: "
                    f"**{setting_text(setting.simple[0])}**. Do so {ask.teeth - 1} times."
                )
            )
        else:
            steps.append(SheetStep(f"No circle of the head divides into {ask.teeth} simply{plate_text(setting)}."))
    if setting.swing is None or setting.swing.how in (How.TABLE, How.UNKNOWN):
        steps.append(SheetStep("When all is done, swing the table back and put the pin in again: that is its zero."))
    return steps


def _check(set_up: LeadSetUp, ask: HelixAsk, drive: LeadDrive, travel: Fraction, units: Units) -> list[str]:
    lead = given_lead(set_up, drive)
    degrees, crank = 360 * travel / lead, drive.head * travel / lead
    lines = [
        f"Table moved **{short_length(travel, units)}** by its dial or an indicator: the work turns "
        f"**{fixed(degrees, 2)}°**, the crank **{trimmed(crank, 3)} turns**. Take up the backlash first.",
        f"Which way: {words.turning_text(ask.wanted_hand)}",
    ]
    across = ask.diameter or _TRIAL
    angle = fixed(line_angle(across, lead), 1)
    lines.append(
        f"Second check: scribe a line with the cutter on a trial blank. On {short_length(across, units)} it stands at "
        f"**{angle}°** to the axis."
    )
    return lines
