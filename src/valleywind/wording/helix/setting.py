"""Table, cutter, depth and dividing for a helix, in words."""

from fractions import Fraction

from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.machine import Mill
from valleywind.core.helix.table import How, Swing
from valleywind.core.making.mill_setting import MillSetting
from valleywind.core.teeth.cutters import Cutter, numbering, range_of_eight
from valleywind.core.trains.direction import Hand
from valleywind.core.units import spell
from valleywind.wording.dividing import setting_text
from valleywind.wording.hobbing.setting import SettingFact
from valleywind.wording.hobbing.teeth import wheel_facts
from valleywind.wording.numbers import Units, length, listed, short_length, trimmed
from valleywind.wording.rack.stores import number_text, range_text
from valleywind.wording.wheels import form_text

TANGENT = "The tangent of the angle is 3.1416 times the diameter of the work over the lead"


def swing_text(swing: Swing, hand: Hand) -> str:
    """`Swing the table 30°, its left-hand end away from you, toward the column.`"""
    degrees = f"{trimmed(swing.degrees, 2)}°"
    end = "right" if hand is Hand.RIGHT else "left"
    table = f"{degrees}, its {end}-hand end away from you, toward the column"
    match swing.how:
        case How.TABLE:
            return f"Swing the table {table}"
        case How.UNKNOWN:
            return f"Swing the table {table}. How far it swings is not on record"
        case How.HEAD:
            other = "left" if hand is Hand.RIGHT else "right"
            return (
                f"Leave the table square. Swivel the cutter’s head {degrees}, so that the {other} side of the cutter "
                "goes toward the column"
            )
        case How.NEITHER:
            most = spell(swing.most or Fraction(0))
            can = f"at most {most}°" if swing.most else "not at all"
            return (
                f"{degrees} cannot be set: table and head swing {can}. A swivelling head, or a smaller angle, would do"
            )


def setting_facts(setting: MillSetting, ask: HelixAsk, mill: Mill, units: Units) -> list[SettingFact]:
    """Everything that is set beside the wheels."""
    facts = []
    if setting.swing is None:
        facts.append(SettingFact("Angle", f"say the diameter. {TANGENT}"))
    else:
        label = "Cutter head" if setting.swing.how is How.HEAD else "Table"
        facts.append(SettingFact(label, swing_text(setting.swing, ask.wanted_hand), setting.swing.how is How.NEITHER))
    facts += _room(setting, mill, units)
    if setting.wheel is not None and setting.depth is not None:
        facts.append(SettingFact("Depth", f"{length(setting.depth, units, 2)} from touching"))
        facts += _cutter(setting, units)
    elif not ask.wheel:
        facts.append(SettingFact("Cutter and depth", "as the groove asks for"))
    if setting.move is not None:
        text = f"{length(setting.move, units)} for the cut"
        if setting.usual_cutter and setting.depth is not None:
            text += f", with a cutter of {short_length(setting.cutter, units)}"
        wrong = setting.needs is not None and setting.needs.travels is False
        most = f"; it goes only {short_length(mill.travel or Fraction(0), units)}" if wrong else ""
        facts.append(SettingFact("Table travels", text + most, wrong))
    facts.append(_dividing(setting, ask))
    return facts


def _room(setting: MillSetting, mill: Mill, units: Units) -> list[SettingFact]:
    need = setting.needs
    if need is None or setting.swing is None or setting.swing.how is How.NEITHER:
        return []
    if need.away is None:
        if setting.swing.how in (How.TABLE, How.UNKNOWN):
            text = "bring the saddle forward until the swung corner clears the column, and see that the arbor reaches"
            return [SettingFact("Saddle and arbor", text)]
        return []
    facts = []
    away = f"table’s middle {length(need.away, units, 0)} from the column"
    if need.square is not None and need.away > need.square:
        away += f", {length(need.away - need.square, units, 0)} farther out than square"
    if need.column_clear is False and mill.saddle is not None:
        far = short_length(mill.saddle[1], units)
        facts.append(SettingFact("Saddle", f"{away}; it comes out only to {far}: the table meets the column", True))
    else:
        facts.append(SettingFact("Saddle", f"at least: {away}"))
    if need.arbor is None:
        facts.append(SettingFact("Arbor", f"must carry the cutter {length(need.away, units, 0)} from the column"))
    elif need.chosen is None:
        longest = short_length(mill.arbors[-1], units)
        text = (
            f"must reach {length(need.arbor, units, 0)} from the column, collar and all; the longest reaches {longest}"
        )
        facts.append(SettingFact("Arbor", text, True))
    else:
        facts.append(SettingFact("Arbor", f"the one that reaches {short_length(need.chosen, units)}"))
    return facts


def _cutter(setting: MillSetting, units: Units) -> list[SettingFact]:
    assert setting.wheel is not None
    count = setting.formative
    assert count is not None
    formative = f"teeth like those of a spur wheel of {trimmed(setting.wheel.formative, 1)}"
    usual = range_of_eight(count)
    if usual is None:
        return [SettingFact("Cutter", f"{formative}: fewer than the usual sets begin with", True)]
    numbers = numbering(usual[0])
    name = range_text(usual)
    if numbers is not None:
        name += (
            f" (No. {number_text(numbers.inch)} where a set runs 8 to 1, {number_text(numbers.metric)} in the other)"
        )
    facts = [SettingFact("Cutter", f"{name}: {formative}")]
    if setting.held:
        best = setting.held[0]
        facts.append(SettingFact("Held", f"one for {range_text((best.lowest, best.highest))}"))
    else:
        facts.append(SettingFact("Held", _not_held(setting.instead), True))
    if setting.form is not None:
        facts.append(SettingFact("Form it leaves", form_text(setting.form, units)))
    return facts


def _not_held(instead: Cutter | None) -> str:
    text = "no cutter held cuts this form"
    return (
        text if instead is None else f"{text}; the nearest is one for {range_text((instead.lowest, instead.highest))}"
    )


def _dividing(setting: MillSetting, ask: HelixAsk) -> SettingFact:
    if ask.teeth is None:
        return SettingFact("Dividing", "one groove: nothing to divide")
    if not setting.simple:
        return SettingFact(
            "Dividing",
            f"no circle of the head divides into {ask.teeth}, and a head geared for a lead cannot be geared for "
            f"dividing too{plate_text(setting)}",
            True,
        )
    first = setting.simple[0]
    return SettingFact("Dividing", f"for each {setting_text(first)}; the crank against the plate")


def plate_text(setting: MillSetting) -> str:
    """Which circles would divide simply, where none on the head does."""
    if not setting.circles:
        return ""
    return f". A plate with {listed([str(c) for c in setting.circles[:3]], 'or')} holes would serve"


def wheel_sizes(setting: MillSetting, ask: HelixAsk, units: Units) -> list[SettingFact]:
    """Sizes of the wheel; none for grooves. What a hob would undercut a formed cutter does not; the depth stands with
    the setting."""
    hobbed = ask.to_cut
    if hobbed is None or setting.wheel is None:
        return []
    facts = wheel_facts(setting.wheel, units)
    return [SettingFact(label, text) for label, text in facts if label not in ("Whole depth", "Undercut")]
