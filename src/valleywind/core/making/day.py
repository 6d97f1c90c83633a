"""Wheels to be made, several jobs together: in which order cutter, plate and holding are changed least, and which piece
of bar or which larger wheel each is cut from, so that least is wasted in all."""

from collections import Counter
from collections.abc import Hashable, Iterator, Mapping, Sequence
from dataclasses import dataclass

from valleywind.core.trains.days_work import Choices, WayOfMaking
from valleywind.core.trains.effort import Place, What

# How many ways of sharing out are looked at before the best of them stands.
_MOST_TRIED = 200_000


@dataclass(frozen=True)
class Setting:
    """What a job needs on its machine. cutter, holding, plates: whatever tells one from another; plates: those that
    would serve, none where no plate is used."""

    cutter: Hashable | None
    holding: Hashable
    plates: Sequence[Hashable] = ()


def choices(setting: Setting) -> Choices[Setting]:
    """Ways of setting up for one job, a plate each."""
    common: dict[Place, Hashable] = {Place(What.HOLDING): setting.holding}
    if setting.cutter is not None:
        common[Place(What.TOOL)] = setting.cutter
    plates = [{Place(What.PLATE): plate} for plate in setting.plates] or [{}]
    return Choices([WayOfMaking(setting, common | plate) for plate in plates], setting)


@dataclass(frozen=True)
class Piece:
    """What the blanks of a job can be cut from. source: the bar or the wheel, by its number; takes: of the source, how
    much of what it holds: mm of a bar, 1 of a wheel; waste: metal that is turned to swarf, cm³."""

    source: tuple[str, int]
    takes: float
    waste: float


@dataclass(frozen=True)
class BarShares:
    """pieces: one for each job, None where nothing is left that serves; waste: of all, cm³; proven: no other way of
    sharing serves more jobs, or as many with less waste."""

    pieces: tuple[Piece | None, ...]
    waste: float
    proven: bool


def share_out(wanted: Sequence[Sequence[Piece]], held: Mapping[tuple[str, int], float]) -> BarShares:
    """What each job is cut from, so that as many as can be are served, and then with least waste in all.

    wanted: the pieces that would serve each job; held: how much there is of each source.
    """
    search = _Sharing(wanted, held)
    search.go(0, Counter(), 0, 0.0, ())
    return BarShares(search.best[2], search.best[1], search.tried < _MOST_TRIED)


class _Sharing:
    """Job by job, the least waste first; a branch that cannot come to anything better is left."""

    def __init__(self, wanted: Sequence[Sequence[Piece]], held: Mapping[tuple[str, int], float]) -> None:
        self.wanted = [sorted(pieces, key=lambda p: p.waste) for pieces in wanted]
        self.held = held
        self.least = [0.0] * (len(wanted) + 1)
        self.able = [0] * (len(wanted) + 1)
        for n in range(len(wanted) - 1, -1, -1):
            self.able[n] = self.able[n + 1] + bool(wanted[n])
            self.least[n] = self.least[n + 1] + (self.wanted[n][0].waste if wanted[n] else 0.0)
        self.tried = 0
        self.best: tuple[int, float, tuple[Piece | None, ...]] = (-1, 0.0, ())

    def go(
        self, n: int, used: Counter[tuple[str, int]] | Mapping[tuple[str, int], float], served: int, waste: float,
        chosen: tuple[Piece | None, ...],
    ) -> None:  # fmt: skip
        self.tried += 1
        if n == len(self.wanted):
            if self.best[0] < served or (self.best[0] == served and waste < self.best[1]):
                self.best = served, waste, chosen
            return
        for piece in self._worth(n, used, served, waste):
            if self.tried >= _MOST_TRIED and self.best[0] >= 0:
                return
            if piece is None:
                self.go(n + 1, used, served, waste, (*chosen, None))
            else:
                taken = dict(used)
                taken[piece.source] = taken.get(piece.source, 0.0) + piece.takes
                self.go(n + 1, taken, served + 1, waste + piece.waste, (*chosen, piece))

    def _worth(
        self, n: int, used: Mapping[tuple[str, int], float], served: int, waste: float
    ) -> Iterator[Piece | None]:
        """The pieces that are left for this job and could come to something better; None for leaving it without."""
        for piece in self.wanted[n]:
            if used.get(piece.source, 0.0) + piece.takes > self.held[piece.source] + 1e-9:
                continue
            could = served + self.able[n]
            if could > self.best[0] or (could == self.best[0] and waste + self._rest(n, piece) < self.best[1]):
                yield piece
        if served + self.able[n + 1] >= self.best[0]:
            yield None

    def _rest(self, n: int, piece: Piece) -> float:
        return piece.waste + self.least[n + 1]
