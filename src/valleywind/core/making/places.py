"""Where everything stands for each tooth, however the work is divided: crank and hole, lock pin, hole on the spindle,
degrees, gap of a wheel, mark of a disc."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass, replace
from enum import StrEnum
from fractions import Fraction
from typing import Any

from valleywind.core.dividing.plan import Setting, pin_places
from valleywind.core.dividing.ways import Degrees, Differential, Direct, rounded
from valleywind.core.refusal import Refusal


class By(StrEnum):
    """What tells the place of a tooth."""

    CRANK = "crank"
    CRANK_AND_PLATE = "crank_and_plate"
    SPINDLE = "spindle"
    FLATS = "flats"
    PINNED = "pinned"
    DEGREES = "degrees"
    WHEEL = "wheel"
    DISC = "disc"


@dataclass(frozen=True)
class Place:
    """For one tooth. turns, spaces: of the crank for the move to it, as against the plate; hole: where its pin then is,
    counted from the first, 0; plate: spaces that crank and plate are then turned together, below 0 back. at: what is
    read or counted there otherwise (hole or flat on the spindle, degrees, gap, mark). work: turns of the work from the
    first tooth, None where that was not kept."""

    turns: int = 0
    spaces: int = 0
    hole: int = 0
    plate: int = 0
    at: Fraction = Fraction(0)
    work: Fraction | None = None


@dataclass(frozen=True)
class Places:
    """Every tooth's place, in the order in which they are cut. circle: of holes that the crank's pin uses, or of the
    spindle's plate, or teeth of the wheel; lock: of the lock pin's circle. again: the first one's, come to from the
    last. ratio: turns of the worm for one of the work, 0 without a worm; fine: the least turn of the work that can be
    set by it, which tells when a move is complete."""

    by: By
    each: tuple[Place, ...]
    circle: int = 0
    lock: int = 0
    again: Place = Place()
    ratio: Fraction = Fraction(0)
    fine: Fraction = Fraction(0)

    def turned(self, before: int, tooth: int) -> Fraction | None:
        """Turns of the work from one tooth to another further on in the round, or from the last to the first; None
        where they were not kept."""
        start = self.each[before].work
        end = self.again.work if tooth == 0 and before else self.each[tooth].work
        return None if start is None or end is None else end - start

    def move(self, before: int | None, tooth: int) -> Place | None:
        """How the work comes to a tooth from the one before; None where it stays, or was not there."""
        if before is None or tooth == before:
            return None
        if tooth == 0:
            return self.again if before == len(self.each) - 1 else None
        return self.each[tooth] if tooth == before + 1 else None


def places(setting: Setting, ratio: Fraction | None, divisions: int) -> Places:
    """Of a setting of a head. Raises Refusal `no_crank` (ratio) where a crank is counted and there is none."""
    match setting:
        case Direct():
            # Holes are counted from 0 as on a plate, flats from 1.
            first, by = (1, By.FLATS) if setting.flats else (0, By.SPINDLE)
            at = [Fraction(n * setting.spaces % setting.holes + first) for n in range(divisions)]
            return _around(by, at, setting.holes, Fraction(1, setting.holes))
        case Degrees():
            step = Fraction(360, divisions) / setting.reads
            read = [rounded(step, n) * setting.reads for n in range(divisions)]
            by = By.PINNED if setting.holes else By.DEGREES
            around = _around(by, read, setting.holes, setting.reads / 360, [degrees / 360 for degrees in read])
            # Where there is a worm its crank turns the work, whatever tells the place.
            return replace(around, ratio=ratio or Fraction(0))
        case _:
            if ratio is None:
                raise Refusal("no_crank", "ratio", "")
            return _cranked(setting, ratio, divisions)


def _around(
    by: By, at: Sequence[Fraction], circle: int, fine: Fraction, work: Sequence[Fraction] | None = None
) -> Places:
    """Places that are read or counted. work: turns of the work, evenly once round where they are not given."""
    turned = work or [Fraction(n, len(at)) for n in range(len(at))]
    each = [Place(at=one, work=turn) for one, turn in zip(at, turned, strict=True)]
    return Places(by, tuple(each), circle, again=replace(each[0], work=Fraction(1)), fine=fine)


def _cranked(setting: Setting, ratio: Fraction, divisions: int) -> Places:
    moves = pin_places(setting, ratio, divisions, divisions)
    assert moves is not None
    crank, lock = moves.crank, moves.lock
    # Gears turn the plate meanwhile, so that the divisions come out even; the pin alone tells them otherwise.
    geared = isinstance(setting, Differential)
    work = [Fraction(n, divisions) if geared else moves.turned(n) / ratio for n in range(divisions + 1)]
    each = [Place(work=work[0])]
    for n in range(1, divisions + 1):
        turns, spaces = divmod(crank.spaces[n] - crank.spaces[n - 1], crank.circle)
        plate = lock.spaces[n] - lock.spaces[n - 1] if lock else 0
        each.append(Place(turns, spaces, crank.spaces[n] % crank.circle, plate, work=work[n]))
    by = By.CRANK_AND_PLATE if lock else By.CRANK
    fine = 1 / (ratio * max(crank.circle, lock.circle if lock else 0))
    return Places(by, tuple(each[:-1]), crank.circle, lock.circle if lock else 0, each[-1], ratio, fine)


def on_a_wheel(teeth: int, divisions: int) -> Places:
    """A wheel with a multiple of the teeth, a finger in its gaps. Raises Refusal `divides_another` (teeth)."""
    if teeth % divisions:
        raise Refusal("divides_another", "teeth", teeth, divisions=divisions)
    every = teeth // divisions
    return _around(By.WHEEL, [Fraction(n * every + 1) for n in range(divisions)], teeth, Fraction(1, teeth))


# How closely a mark is set under a pointer by eye, turns: 0.05°.
_BY_EYE = Fraction(1, 7200)


def on_a_disc(divisions: int) -> Places:
    """A printed disc: its marks are numbered from 1."""
    return _around(By.DISC, [Fraction(n + 1) for n in range(divisions)], divisions, _BY_EYE)


def spelled(places: Places) -> dict[str, object]:
    """As plain figures, for the record of a session; `read_places` takes them back."""
    each = [[p.turns, p.spaces, p.hole, p.plate, str(p.at), str(p.work)] for p in (*places.each, places.again)]
    return {
        "by": places.by.value, "circle": places.circle, "lock": places.lock, "each": each, "ratio": str(places.ratio),
        "fine": str(places.fine),
    }  # fmt: skip


def read_places(kept: Mapping[str, Any]) -> Places:
    """What `spelled` wrote; an older one did not tell how far the work turns."""
    each = [
        Place(turns, spaces, hole, plate, Fraction(at), Fraction(work[0]) if work else None)
        for turns, spaces, hole, plate, at, *work in kept["each"]
    ]
    ratio, fine = Fraction(kept.get("ratio", 0)), Fraction(kept.get("fine", 0))
    return Places(By(kept["by"]), tuple(each[:-1]), kept["circle"], kept["lock"], each[-1], ratio, fine)
