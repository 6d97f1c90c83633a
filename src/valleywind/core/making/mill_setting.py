"""How a mill is set for a helix beside its wheels: what is swung, cutter, depth, travel, dividing."""

from collections.abc import Sequence
from dataclasses import dataclass
from fractions import Fraction

from valleywind.core.cutting.wheel import CutWheel, cut_wheel, family_of
from valleywind.core.dividing.heads import Head
from valleywind.core.dividing.plates import would_serve
from valleywind.core.dividing.ways import Simple, simple
from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.machine import Mill
from valleywind.core.helix.table import USUAL_CUTTER, Needs, Swing, View, approach, needs, swing, view
from valleywind.core.teeth.cutters import Cutter, range_of_eight, serving, substitute
from valleywind.core.teeth.depth import usual_depth
from valleywind.core.teeth.form import FormError, form_error


@dataclass(frozen=True)
class MillSetting:
    """How a mill is set for one ask. swing, needs: None where the angle is not known; wheel: None for grooves; depth:
    mm, None where it is not known; cutter: its diameter, mm, and whether it is only a usual one; move: how far the
    table goes while it cuts; held: the cutters that cut this form, the truest first; instead: the one for fewer teeth
    that comes nearest, where none is held; form: what the best of them leaves, or one of a usual set where there is
    none; simple: how the head divides, the largest circle first; circles: that would serve where none of it does."""

    swing: Swing | None
    needs: Needs | None
    wheel: CutWheel | None
    depth: float | None
    cutter: float
    usual_cutter: bool
    move: float | None
    held: Sequence[Cutter]
    instead: Cutter | None
    form: FormError | None
    simple: Sequence[Simple]
    circles: Sequence[int]

    @property
    def formative(self) -> int | None:
        """The count by which the cutter is chosen: whole teeth, the fraction left off."""
        return int(self.wheel.formative) if self.wheel else None


def setting_of(ask: HelixAsk, mill: Mill, head: Head, cutters: Sequence[Cutter]) -> MillSetting:
    """How the mill is set for an ask, with what cutters there are."""
    hobbed, long = ask.to_cut, float(ask.shown_length)
    wheel, depth, form, instead, held = None, None, None, None, list[Cutter]()
    if hobbed is not None:
        family, wheel = family_of(hobbed), cut_wheel(hobbed)
        assert family is not None
        assert wheel is not None
        count = int(wheel.formative)
        held = serving(cutters, family, count)
        instead = None if held else substitute(cutters, family, count)
        taken = held[0] if held else instead
        depth = usual_depth(family, taken.depth if taken else Fraction(0))
        usual = range_of_eight(count)
        true_for = taken.lowest if taken else usual[0] if usual else None
        form = form_error(count, true_for, family, depth) if true_for else None
    across = float(ask.cutter) if ask.cutter is not None else USUAL_CUTTER
    swung = swing(ask.degrees, ask.wanted_hand, mill) if ask.degrees is not None else None
    move = None
    if depth is not None and swung is not None and depth < across:
        move = long + 2 * approach(across, depth, swung.degrees)
    elif ask.face is not None:
        move = long
    need = needs(swung, mill, move or long) if swung else None
    settings, circles = list[Simple](), list[int]()
    if ask.teeth is not None and head.ratio is not None:
        settings = sorted(simple(head.ratio, ask.teeth, head.circles), key=lambda s: -s.circle)
        circles = [] if settings else would_serve(head.ratio, ask.teeth)
    return MillSetting(
        swung, need, wheel, depth, across, ask.cutter is None, move, held, instead, form, settings, circles
    )


# Work that is drawn where its diameter is not said, mm.
_DRAWN_WORK = 60.0


def view_of(setting: MillSetting, ask: HelixAsk, mill: Mill) -> View | None:
    """The set-up seen from above; None where the angle is not known."""
    if setting.swing is None or setting.needs is None:
        return None
    across = setting.wheel.tip_diameter if setting.wheel else float(ask.diameter or 0) or _DRAWN_WORK
    long = float(ask.shown_length)
    return view(
        setting.swing,
        ask.wanted_hand,
        mill,
        setting.needs,
        setting.move or long,
        (across, long),
        setting.cutter,
        ask.teeth,
    )
