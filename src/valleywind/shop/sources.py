"""Where a missing wheel is cut from: larger wheels that can be had for it, pieces of bar, and taking them."""

from collections import Counter
from collections.abc import Mapping
from fractions import Fraction

from sqlalchemy.orm import Session

from valleywind.core.lathe.machine import Lathe
from valleywind.core.lathe.uses import uses
from valleywind.core.making.job import Divider, Means
from valleywind.core.teeth.donors import Donor, FromBar, WheelToCutDown, donors, from_bar
from valleywind.core.teeth.pile import Condition
from valleywind.core.teeth.pitch import WheelFamily
from valleywind.core.trains.model import Stock
from valleywind.shop import heads, machines, rack, record_parts, stores
from valleywind.shop.models import MachineRow, WheelFamilyRow


def needed_by_charts(row: WheelFamilyRow) -> Counter[int]:
    """How many trains of the everyday charts of the family's lathes have each wheel."""
    needed: Counter[int] = Counter()
    for machine in row.machines:
        if machine.archived or machine.lathe is None or machine.quadrant is None:
            continue
        if stock := machines.stock(machine):
            needed += _uses(machines.lathe(machine), stock)
    return needed


_MOST_KEPT = 32
_known_uses: dict[str, Counter[int]] = {}


def _uses(lathe: Lathe, stock: Stock) -> Counter[int]:
    """The charts of a lathe take a while, and stay as they are until lathe or wheels change."""
    key = repr((lathe, sorted(stock.items())))
    if key not in _known_uses:
        if len(_known_uses) >= _MOST_KEPT:
            _known_uses.clear()
        _known_uses[key] = uses(lathe, stock)
    return _known_uses[key]


def to_cut_down(row: WheelFamilyRow, teeth: int, needed: Mapping[int, int] | None = None) -> list[Donor]:
    """Wheels of the family from which one of this count can be cut, those that are missed least first; `needed`: by
    how many trains each is missed."""
    on: Counter[int] = Counter()
    for machine in row.machines:
        if machine.lathe is not None and machine.quadrant is not None and machines.stock(machine):
            set_up = machines.mounted(machine)
            on += Counter(set_up.train.teeth if set_up else ())
    whole: Counter[int] = Counter()
    for wheel in row.wheels:
        if Condition(wheel.condition).usable:
            whole[wheel.teeth] += wheel.count
    held = []
    for wheel in row.wheels:
        condition = Condition(wheel.condition)
        # One that is on a machine is not at hand to be cut.
        free = wheel.count if not condition.usable else min(wheel.count, whole[wheel.teeth] - on[wheel.teeth])
        if free > 0 and wheel.teeth > teeth:
            spare = not condition.usable or whole[wheel.teeth] > max(1, on[wheel.teeth])
            held.append(WheelToCutDown(wheel.id, wheel.teeth, condition, spare, (needed or {}).get(wheel.teeth, 0)))
    return donors(teeth, machines.family(row), held)


def bars_for(
    session: Session, teeth: int, family: WheelFamily, hub: Fraction, blanks: int, material: str = "",
    tip: float | None = None, beyond: float = 0.0,
) -> list[FromBar]:  # fmt: skip
    """The pieces of bar that give this many blanks: those of the material first, then those of least waste."""
    pieces = from_bar(teeth, family, hub, stores.known_bars(session), blanks, tip, beyond)
    return sorted(pieces, key=lambda f: material.lower() not in f.bar.material.lower())


def divider_of(machine: MachineRow) -> Divider:
    """What a machine that divides is."""
    return Divider.TABLE if machine.kind == "rotary table" else Divider.HEAD


def means(session: Session, teeth: int, family: WheelFamilyRow | None, chosen: Divider | None = None) -> Means:
    """What the shop has to make a wheel with: what divides, a wheel of the same count, a spare larger one."""
    every = [m for m in machines.machines(session) if record_parts.has(m, heads.HEAD)]
    plain = {divider_of(m) for m in every if heads.head(m).divides_plainly(teeth)}
    return Means(
        head=any(divider_of(m) is Divider.HEAD for m in every),
        table=Divider.TABLE in plain or (not plain and any(divider_of(m) is Divider.TABLE for m in every)),
        chosen=chosen,
        copy=family is not None and any(w.teeth == teeth and w.count for w in family.wheels),
        donor=family is not None and any(d.held.spare for d in to_cut_down(family, teeth)),
    )


def take_bar(session: Session, number: int, used: float) -> None:
    """This much less of a piece of bar, mm; gone where nothing is left."""
    row = stores.bar_row(session, number)
    row.length_mm = max(Fraction(0), row.length_mm - Fraction(used).limit_denominator(1000))
    if not row.length_mm:
        session.delete(row)
    session.flush()


def take_donor(session: Session, number: int) -> None:
    """One wheel less: it was cut down to another."""
    row = rack.wheel(session, number)
    row.count -= 1
    if not row.count:
        session.delete(row)
    session.flush()
