"""Where everything stands for each tooth, however the work is divided: crank and hole, lock pin, hole on the spindle,
degrees, gap of a wheel, mark of a disc."""

from collections.abc import Mapping
from dataclasses import dataclass
from enum import StrEnum
from fractions import Fraction
from typing import Any

from valleywind.core.dividing.plan import Setting, counted
from valleywind.core.dividing.ways import Degrees, Direct, rounded
from valleywind.core.refusal import Refused


class By(StrEnum):
    """What tells the place of a tooth."""

    CRANK = "crank"
    CRANK_AND_PLATE = "crank_and_plate"
    SPINDLE = "spindle"
    DEGREES = "degrees"
    WHEEL = "wheel"
    DISC = "disc"


@dataclass(frozen=True)
class Place:
    """For one tooth. turns, spaces: of the crank for the move to it, as against the plate; hole: where its pin then is,
    counted from the first, 0; plate: spaces that crank and plate are then turned together, below 0 back. at: what is
    read or counted there otherwise (hole on the spindle, degrees, gap, mark)."""

    turns: int = 0
    spaces: int = 0
    hole: int = 0
    plate: int = 0
    at: Fraction = Fraction(0)


@dataclass(frozen=True)
class Places:
    """Every tooth's place, in the order in which they are cut. circle: of holes that the crank's pin uses, or of the
    spindle's plate, or teeth of the wheel; lock: of the lock pin's circle. again: the first one's, come to from the
    last."""

    by: By
    each: tuple[Place, ...]
    circle: int = 0
    lock: int = 0
    again: Place = Place()

    def move(self, before: int | None, tooth: int) -> Place | None:
        """How the work comes to a tooth from the one before; None where it stays, or was not there."""
        if before is None or tooth == before:
            return None
        if tooth == 0:
            return self.again if before == len(self.each) - 1 else None
        return self.each[tooth] if tooth == before + 1 else None


def places(setting: Setting, ratio: Fraction | None, divisions: int) -> Places:
    """Of a setting of a head. Raises Refused `no_crank` (ratio) where a crank is counted and there is none."""
    match setting:
        case Direct():
            each = [Place(at=Fraction(n * setting.spaces % setting.holes)) for n in range(divisions)]
            return Places(By.SPINDLE, tuple(each), setting.holes, again=each[0])
        case Degrees():
            step = Fraction(360, divisions) / setting.reads
            read = [Place(at=rounded(step, n) * setting.reads) for n in range(divisions)]
            return Places(By.DEGREES, tuple(read), again=read[0])
        case _:
            if ratio is None:
                raise Refused("no_crank", "ratio", "")
            return _cranked(setting, ratio, divisions)


def _cranked(setting: Setting, ratio: Fraction, divisions: int) -> Places:
    found = counted(setting, ratio, divisions, divisions)
    assert found is not None
    crank, lock = found.crank, found.lock
    each = [Place()]
    for n in range(1, divisions + 1):
        turns, spaces = divmod(crank.spaces[n] - crank.spaces[n - 1], crank.circle)
        plate = lock.spaces[n] - lock.spaces[n - 1] if lock else 0
        each.append(Place(turns, spaces, crank.spaces[n] % crank.circle, plate))
    by = By.CRANK_AND_PLATE if lock else By.CRANK
    return Places(by, tuple(each[:-1]), crank.circle, lock.circle if lock else 0, each[-1])


def on_a_wheel(teeth: int, divisions: int) -> Places:
    """A wheel with a multiple of the teeth, a finger in its gaps. Raises Refused `divides_another` (teeth)."""
    if teeth % divisions:
        raise Refused("divides_another", "teeth", teeth, divisions=divisions)
    every = teeth // divisions
    each = [Place(at=Fraction(n * every + 1)) for n in range(divisions)]
    return Places(By.WHEEL, tuple(each), teeth, again=each[0])


def on_a_disc(divisions: int) -> Places:
    """A printed disc: its marks are numbered from 1."""
    each = [Place(at=Fraction(n + 1)) for n in range(divisions)]
    return Places(By.DISC, tuple(each), divisions, again=each[0])


def spelled(found: Places) -> dict[str, object]:
    """As plain figures, for the record of a session; `read_places` takes them back."""
    each = [[p.turns, p.spaces, p.hole, p.plate, str(p.at)] for p in (*found.each, found.again)]
    return {"by": found.by.value, "circle": found.circle, "lock": found.lock, "each": each}


def read_places(kept: Mapping[str, Any]) -> Places:
    """What `spelled` wrote."""
    each = [Place(t, s, h, p, Fraction(at)) for t, s, h, p, at in kept["each"]]
    return Places(By(kept["by"]), tuple(each[:-1]), kept["circle"], kept["lock"], each[-1])
