"""The chart of counts against angles, and what is worth making, in words."""

from collections.abc import Sequence

from valleywind.core.helix.ask import HelixAsk
from valleywind.core.helix.chart import Cell
from valleywind.core.helix.plan import LeadDrive
from valleywind.core.trains.standing import Standing
from valleywind.core.units import spell, spell_degrees
from valleywind.wording.helix.answers import head, lead_text, pair_label, run_off_short
from valleywind.wording.lathe.chart import STANDINGS
from valleywind.wording.numbers import Units, a, count, listed
from valleywind.wording.trains import train_text

_MOST_NAMED = 10


def cell_text(cell: Cell, drive: LeadDrive) -> str:
    """The train of a cell with its pair; empty for none."""
    if cell.candidate is None:
        return ""
    label = pair_label(cell.candidate.setting, drive)
    train = train_text(cell.candidate.train)
    return f"{train}, {label}" if label else train


def note(cell: Cell, units: Units) -> str:
    """What else there is to a cell."""
    if cell.standing is Standing.NO_ROOM:
        return "a close train is held, but none fits"
    if cell.candidate is None:
        return "no train comes near"
    off = f"{run_off_short(cell.candidate, units)}; {head(cell.candidate.verdict).lower()}"
    return f"{off}; with {a(cell.new)}, which is not held" if cell.new is not None else off


def csv_head(units: Units) -> list[str]:
    return ["Teeth", "Helix, degrees", f"Lead, {units.value}", "Standing", "Worm pair", "Change wheels", "Error"]


def csv_row(cell: Cell, drive: LeadDrive, units: Units) -> list[str]:
    candidate, ask = cell.candidate, cell.ask
    assert ask.helix is not None
    lead = lead_text(ask.wanted_lead, units).split()[0]
    if candidate is None:
        return [str(ask.teeth), spell(ask.helix), lead, STANDINGS[cell.standing], "", "", ""]
    return [
        str(ask.teeth), spell(ask.helix), lead, STANDINGS[cell.standing], candidate.setting.name if drive.pairs else "",
        train_text(candidate.train), run_off_short(candidate, units),
    ]  # fmt: skip


def brings(teeth: int, asks: Sequence[HelixAsk]) -> str:
    """`A 34 brings 24 at 30°, 36 at 15° and 2 more.`"""
    named = [f"{ask.teeth} at {spell_degrees(ask.helix)}" for ask in asks[:_MOST_NAMED] if ask.helix is not None]
    more = len(asks) - len(named)
    return f"{a(teeth).capitalize()} brings {listed([*named, f'{more} more'] if more else named)}."


def advice_head(lacking: int, wanted: int) -> str:
    if not lacking:
        return "Every one of them has a good train."
    return f"{count(lacking, 'lead')} of {wanted} without a good train."
