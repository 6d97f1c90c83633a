"""The hobber's set-up sheet: box by box, post by post from the machine outward, with the check and cautions."""

from dataclasses import replace

from valleywind.core.cutting.wheel import cut_wheel, pair_of
from valleywind.core.hobbing.ask import HobAsk, say
from valleywind.core.hobbing.check import to_check
from valleywind.core.hobbing.machine import Box, Hobber
from valleywind.core.hobbing.set_up import AnyTrain, SetUp, SetUpKind
from valleywind.core.hobbing.setting import BlankMaterial
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.wording.hobbing import answers as words
from valleywind.wording.hobbing import teeth
from valleywind.wording.hobbing.boxes import BOX_SHAFTS, BOXES
from valleywind.wording.hobbing.setting import head_text, setting_facts
from valleywind.wording.machines import post_text
from valleywind.wording.numbers import Units, fixed, length, listed
from valleywind.wording.sheet import Fact, Lines, Shafts, Sheet, SheetStep, isolated, shaft_rows
from valleywind.wording.trains import meshing, not_checked, room, train_text

_POWER = "No hands in the boxes under power. Covers on before power."


def sheet(
    set_up: SetUp, ask: HobAsk, machine: Hobber, name: str, family: WheelFamily, material: BlankMaterial, units: Units
) -> Sheet:
    """The sheet of one set-up; `name` of the machine, `family` of its wheels."""
    expected = to_check(set_up.index.train, set_up.index.setting, ask)
    return Sheet(
        title=say(ask),
        machine=name,
        figure="",
        train="",
        head=words.head(set_up),
        verdict=" ".join(filter(None, [words.verdict(set_up, ask, units), words.faster_text(set_up)])),
        facts=tuple(_facts(set_up, ask, machine, material, units)),
        shafts=tuple(_shafts(box, part, set_up, machine, family, units) for box, part in set_up.boxed),
        steps=tuple(_steps(set_up, ask, machine, units)),
        check=Lines("Check before cutting", tuple(_check(set_up, ask))),
        check_over=str(expected.turns),
        after=(Lines("After cutting", tuple(_after(ask, units))),),
    )


def _facts(set_up: SetUp, ask: HobAsk, machine: Hobber, material: BlankMaterial, units: Units) -> list[Fact]:
    facts = [Fact("Wheel", words.description(ask, units)), Fact("Index", words.constant_text(set_up.index.setting))]
    if set_up.feed is not None:
        facts.append(Fact("Feed", f"{length(set_up.feed.value, units, 3)} for one turn of the table"))
    set_too = setting_facts(ask, machine, set_up.feed_mm, material, units)
    facts += [Fact(f.label, f.text) for f in set_too if f.label != "Hob head"]
    return facts


def _shafts(box: Box, part: AnyTrain, set_up: SetUp, machine: Hobber, family: WheelFamily, units: Units) -> Shafts:
    train, posts = part.train, machine.posts.get(box, ())
    rows = shaft_rows(train, part.placement, BOX_SHAFTS[box], family, units)
    for n, post in enumerate(posts[: len(rows)]):
        if post.worn:
            rows[n] = replace(rows[n], where=f"{rows[n].where}; thread worn, look at it")
    moved = [f"the {m.teeth} comes from the {BOXES[m.origin]} box" for m in set_up.moved if m.to is box]
    note = "; ".join([room(part.placement, machine.boxes[box].quadrant, units), *moved])
    return Shafts(BOXES[box].capitalize(), tuple(rows), train_text(train), note)


def _steps(set_up: SetUp, ask: HobAsk, machine: Hobber, units: Units) -> list[SheetStep]:
    steps: list[SheetStep] = []
    if not set_up.is_on:
        steps.append(isolated("machine", " Open the covers of the boxes."))
    constant = set_up.index.setting
    if constant.pair is not None and len(machine.index) > 1:
        steps.append(SheetStep(f"Reversing pair **{constant.pair[0]}/{constant.pair[1]}**."))
    for box, part in set_up.boxed:
        steps.append(_box_step(box, part, set_up, machine))
    if set_up.differential is None and machine.differential is not None:
        steps.append(SheetStep("The differential is not used: lock it as the machine’s manual says."))
    way = ask.way or machine.feeds[0]
    steps += [SheetStep(words.direction(box, part.hand, ask, machine, way)) for box, part in set_up.boxed]
    steps += _closing(set_up, machine, units)
    steps.append(SheetStep(f"Hob head: {head_text(ask, machine).text}."))
    depth = "Set the depth and the stops. Start with the hob clear of the work."
    steps.append(SheetStep(depth, "Hob and chips cut: brush, not fingers."))
    if set_up.kind is not SetUpKind.SPUR:
        steps.append(SheetStep("Engage the feed before the first touch and leave it engaged.", words.NEVER_DISENGAGE))
    return steps


def _box_step(box: Box, part: AnyTrain, set_up: SetUp, machine: Hobber) -> SheetStep:
    """One box in one step: what goes where stands in its table, post by post."""
    name, train = BOXES[box].capitalize(), part.train
    if part.handling.no_wheel:
        return SheetStep(f"{name} box: the wheels stay as they are, **{train_text(train)}**.")
    moves = [f"The **{m.teeth}** comes from the {BOXES[m.origin]} box." for m in set_up.moved if m.to is box]
    joined = any(len(train.on_shaft(n)) == 2 for n in range(train.shafts))
    parts = [
        f"{name} box, **{train_text(train)}**: end shafts first, then the {'studs' if train.shafts > 3 else 'stud'}, "
        "each as its table says, washer and nut outside.",
        *moves,
        *(["The two wheels of a stud are keyed together and turn freely on it."] if joined else []),
        *not_checked(machine.boxes[box].quadrant),
        meshing(train, part.placement, BOX_SHAFTS[box]),
    ]
    return SheetStep(" ".join(parts))


def _closing(set_up: SetUp, machine: Hobber, units: Units) -> list[SheetStep]:
    worn = [
        f"{BOX_SHAFTS[box].of(part.train, n)} of the {BOXES[box]} box ({post_text(replace(post, worn=False), units)})"
        for box, part in set_up.boxed
        for n, post in enumerate(machine.posts.get(box, ())[: part.train.shafts])
        if post.worn
    ]
    look = f" The thread is worn at the {listed(worn)}: it must hold before a long cut." if worn else ""
    return [
        SheetStep(f"Look at the thread of every post.{look} Nuts that clamp must not turn with the wheels."),
        SheetStep("Oil the posts, and see that the oil reaches them. Turn by hand once. Close the covers.", _POWER),
    ]


def _check(set_up: SetUp, ask: HobAsk) -> list[str]:
    expected = to_check(set_up.index.train, set_up.index.setting, ask)
    sentences = [f"Turn the hob **{expected.turns}** times by hand: the table turns **{fixed(expected.degrees, 2)}°**."]
    if expected.around is not None:
        sentences.append(f"After **{expected.around}** turns of the hob the table stands where it began.")
    if expected.marks is not None:
        sentences.append(f"Just touch the blank for one turn of the table: count **{expected.marks}** marks.")
    if set_up.kind is SetUpKind.MADE_UP:
        sentences.append("Without the feed the table does not quite close: the differential works only with it.")
    return sentences


def _after(ask: HobAsk, units: Units) -> list[str]:
    sentences = [f"Count **{ask.teeth}** teeth."]
    wheel = cut_wheel(ask)
    if wheel is not None:
        sentences += [f"{label}: **{text}**." for label, text in teeth.measured_facts(wheel, units)]
    pair = pair_of(ask)
    if pair is not None:
        centres = length(pair.centres, units, 3)
        sentences.append(f"With its mate of {pair.mate.teeth}: shafts **{centres}** apart, and the backlash.")
    return sentences
