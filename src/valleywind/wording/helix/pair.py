"""Two helical wheels that are to run together, in words."""

from valleywind.core.helix.pair import PairCheck
from valleywind.core.units import spell_degrees
from valleywind.wording.hobbing.setting import SettingFact
from valleywind.wording.numbers import Units, length, trimmed

# Shafts nearer to where they should be than this run well, mm.
_CLOSE = 0.02


def facts(pair_check: PairCheck, units: Units) -> list[SettingFact]:
    """What the two are to each other."""
    wheel, mate = pair_check.wheel, pair_check.mate
    assert wheel.helix is not None
    assert mate.helix is not None
    shafts = "parallel" if pair_check.parallel else f"crossed at {spell_degrees(pair_check.shafts)}"
    rows = [
        SettingFact("Wheel", f"{wheel.teeth} teeth, {spell_degrees(wheel.helix)} {wheel.wanted_hand}-hand"),
        SettingFact("Mate", f"{mate.teeth} teeth, {spell_degrees(mate.helix)} {mate.wanted_hand}-hand"),
        SettingFact("Shafts", shafts),
        SettingFact("Ratio", f"1 : {trimmed(pair_check.ratio, 4)}, mate to wheel"),
        SettingFact("Centre distance without backlash", length(pair_check.centres, units, 3)),
    ]
    if pair_check.room is not None:
        rows.append(_measured(pair_check.room, units))
    if not pair_check.parallel:
        rows.append(SettingFact("Contact", "at a point: for motion and light loads, well oiled"))
    return rows


def _measured(room: float, units: Units) -> SettingFact:
    by = length(abs(room), units, 3)
    if room < 0:
        return SettingFact("Measured distance", f"{by} too near: the teeth bind", True)
    if room <= _CLOSE:
        return SettingFact("Measured distance", "as it must be")
    return SettingFact("Measured distance", f"{by} wider: that much more play between tip and bottom")
